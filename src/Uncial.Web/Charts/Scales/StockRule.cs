using Microsoft.AspNetCore.Html;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Web.Text;

namespace Uncial.Web.Charts;

/// <summary>A slice of metal on the rule: planned, being cut, or cut.</summary>
internal sealed record RuleSlice(string Name, Length To, string State);

/// <summary>What the stock rule shows.</summary>
internal sealed record StockRuleView
{
    public required Limits Limits { get; init; }
    public Length? Now { get; init; }
    public string NowWord { get; init; } = Words.Say("draw.today");
    public Length Uncertainty { get; init; }
    public Length? Whisker { get; init; }
    public IReadOnlyList<RuleSlice> Slices { get; init; } = [];
    public string? ForecastWord { get; init; }
    public required string Head { get; init; }
    public required string HeadWord { get; init; }
    public bool HeadIsOver { get; init; }
    public LengthUnit Unit { get; init; }

    /// <summary>The rule of the other part of the axle that stands beside it: both are drawn to one scale.</summary>
    public StockRuleView? Beside { get; init; }

    /// <summary>Tells the patterns of two rules on one page apart.</summary>
    public string Key { get; init; } = "";
}

/// <summary>
/// The stock rule: a true rule, drawn to scale and magnified, from new to just past discard. A rotor's falls, a drum's grows.
/// </summary>
internal sealed class StockRule
{
    private const double Width = 272,
        Height = 728,
        Left = 14,
        Body = 154,
        Top = 128,
        Bottom = Height - 22,
        Right = Left + Body;

    private readonly StockRuleView view;
    private readonly Svg svg = new();
    private readonly List<(double Value, string Word, string Css, Length Figure, bool IsLimit)> flags = [];
    private readonly bool rotor;
    private readonly double low,
        high,
        scale,
        now,
        machineTo,
        discard;
    private readonly double? nominal;
    private readonly bool broken;

    private StockRule(StockRuleView view)
    {
        this.view = view;
        rotor = view.Limits.Kind == PartKind.Rotor;
        (machineTo, discard) = (D(view.Limits.MachineTo), D(view.Limits.Discard));
        nominal = view.Limits.Nominal is { } n ? D(n) : null;
        now = view.Now is { } today ? D(today) : nominal ?? machineTo;
        var (least, most, isBroken) = Stretch(view);
        if (view.Beside is { } other)
        {
            var (itsLeast, itsMost, itIsBroken) = Stretch(other);
            (least, most, isBroken) = (Math.Min(least, itsLeast), Math.Max(most, itsMost), isBroken || itIsBroken);
        }
        broken = isBroken;
        (low, high) = rotor ? (least, most) : (-most, -least);
        scale = (Bottom - Top) / (high - low);
    }

    /// <summary>
    /// What of the metal is shown, in "stock": how far above (rotor) or below (drum) a size lies; the far end is just past discard or the
    /// worst size. Where a new part lies far off, the rule is broken.
    /// </summary>
    private static (double Least, double Most, bool IsBroken) Stretch(StockRuleView view)
    {
        var s = view.Limits.Kind == PartKind.Rotor ? 1 : -1;
        var (machineTo, discard) = (D(view.Limits.MachineTo), D(view.Limits.Discard));
        double? nominal = view.Limits.Nominal is { } n ? D(n) : null;
        var now = view.Now is { } today ? D(today) : nominal ?? machineTo;
        var least = Math.Min(s * discard, s * now) - 0.15;
        foreach (var slice in view.Slices)
            least = Math.Min(least, s * D(slice.To) - 0.1);
        var most = Math.Max(Math.Max(s * (nominal ?? now), s * now), s * machineTo) + 0.08;
        var isBroken = most - least > 2.6 && s * (nominal ?? now) - Math.Max(s * now, s * machineTo) > 0.6;
        return (least, isBroken ? Math.Max(s * now + 0.35, s * machineTo + 0.12) : most, isBroken);
    }

    public static IHtmlContent Draw(StockRuleView view) => new StockRule(view).Draw();

    private static double D(Length length) => (double)length.Millimetres;

    private double Y(double mm) => rotor ? Top + (high - mm) * scale : Bottom - (mm - low) * scale;

    private bool GoesOn(double from, double to) => rotor ? from > to : to > from;

    private IHtmlContent Draw()
    {
        svg.Add(
            $"<svg width='{Width}' height='{Height}' viewBox='0 0 {Width} {Height}' role='img' aria-label='",
            $"{Words.Say("draw.stockRule", view.Head, LengthText.Name(view.Unit), view.HeadWord)}'>"
        );
        svg.Add(
            $"<defs><pattern id='sr-p{view.Key}' width='9' height='9' patternUnits='userSpaceOnUse' patternTransform='rotate(45)'><path ",
            $"class='sr-hatch' d='M0 0V9'/></pattern><pattern id='sr-o{view.Key}' width='11' height='11' patternUnits='userSpaceOnUse' ",
            $"patternTransform='rotate(-45)'><path class='sr-overhatch' d='M2 0V11'/></pattern><pattern id='sr-w{view.Key}' width='6' ",
            $"height='6' patternUnits='userSpaceOnUse' patternTransform='rotate(45)'><path class='sr-waste' d='M0 0V6M0 0H6'/>",
            $"</pattern></defs>"
        );
        svg.Add($"<rect class='sr-body' x='{Left}' y='{Top}' width='{Body}' height='{Bottom - Top}'/>");
        Bands();
        Lines();
        if (broken)
            Break();
        Flags();
        Head();
        return svg.Add($"</svg>").Html();
    }

    private void Bands()
    {
        var at = now;
        List<(string Css, string Pattern, double From, double To, string Name)> bands = [];
        foreach (var slice in view.Slices)
        {
            var to = D(slice.To);
            if (!GoesOn(at, to))
                continue;
            bands.Add(
                slice.State == "cut" ? ("sr-cut", "", at, to, slice.Name)
                : slice.State == "cutting" ? ("sr-plan", "sr-cutting", at, to, slice.Name)
                : slice.State == "waste" ? ("sr-gone", "sr-w", at, to, slice.Name)
                : ("sr-plan", "sr-p", at, to, slice.Name)
            );
            at = to;
        }
        if (view.Now is not null && GoesOn(at, machineTo))
            bands.Add(("sr-brass", "", at, machineTo, Words.Say("draw.spare")));
        var wearFrom = view.Now is not null && GoesOn(machineTo, at) ? at : machineTo;
        if (GoesOn(wearFrom, discard))
            bands.Add(("sr-iron", "", wearFrom, discard, Words.Say("draw.toWear")));
        bands.Add(("sr-over", "sr-o", discard, rotor ? low : high, ""));
        if (view.Now is not null && GoesOn(discard, now) && view.Slices.Count == 0)
            bands.RemoveAll(b => b.Css is "sr-brass");

        foreach (var (css, pattern, from, to, _) in bands)
        {
            var (top, height) = Span(from, to);
            svg.Add($"<rect class='{css}' x='{Left}' y='{top}' width='{Body}' height='{height}'/>");
            if (pattern == "sr-w")
                svg.Add(
                    $"<rect fill='url(#sr-w{view.Key})' stroke='var(--ink)' x='{Left + 46}' y='{top}' width='{Body - 92}' ",
                    $"height='{height}'/>"
                );
            // The band fills from left to right while the pass runs.
            if (pattern == "sr-cutting")
                svg.Add($"<rect class='sr-cutting' x='{Left}' y='{top}' width='{Body}' height='{height}'/>");
            if (pattern == "sr-o")
                svg.Add($"<rect fill='url(#sr-o{view.Key})' x='{Left}' y='{top}' width='{Body}' height='{height}'/>");
            if (pattern == "sr-p")
                svg.Add(
                    $"<rect fill='url(#sr-p{view.Key})' opacity='.55' x='{Left + 56}' y='{top}' width='{Body - 108}' height='{height}'/>"
                );
        }
        var bright = bands.Where(b => b.Css is "sr-cut" or "sr-brass").Select(b => Span(b.From, b.To)).ToList();
        Ticks("", y => !bright.Exists(b => y >= b.Top && y <= b.Top + b.Height));
        foreach (var (css, _, from, to, _) in bands.Where(b => b.Css is "sr-cut" or "sr-brass"))
        {
            var (top, height) = Span(from, to);
            svg.Add(
                $"<clipPath id='sr-c{top}{view.Key}'><rect x='{Left}' y='{top}' width='{Body}' height='{height}'/></clipPath><g ",
                $"clip-path='url(#sr-c{top}{view.Key})'>"
            );
            Ticks(css == "sr-cut" ? "light" : "onbrass", _ => true);
            svg.Add($"</g>");
        }
        foreach (var band in bands)
            Name(band.Css, band.From, band.To, band.Name);
    }

    private (double Top, double Height) Span(double from, double to)
    {
        var (a, b) = (Math.Clamp(Y(from), Top, Bottom), Math.Clamp(Y(to), Top, Bottom));
        return (Math.Min(a, b), Math.Abs(a - b));
    }

    /// <summary>Millimetres on the left edge, thousandths of an inch on the right; steps widen where the rule is long.</summary>
    private void Ticks(string css, Func<double, bool> shown)
    {
        var fifties =
            scale * 0.02 >= 4.4 ? 1
            : scale * 0.1 >= 5 ? 5
            : 25;
        var numeral =
            scale * 0.1 >= 17 ? 5
            : scale * 0.5 >= 17 ? 25
            : 50;
        for (var n = (int)Math.Ceiling(low * 50); n <= Math.Floor(high * 50); n++)
        {
            if (n % fifties != 0)
                continue;
            var y = Y(n / 50.0);
            if (y < Top + 1 || y > Bottom - 1 || !shown(y))
                continue;
            var (whole, half, major) = (n % 50 == 0, n % 25 == 0, n % 5 == 0);
            svg.Add($"<path class='sr-tick {css}' d='M{Left} {y}h{(half ? 24 : major ? 17 : 8)}'/>");
            if (n % numeral != 0 || y < Top + 9 || y > Bottom - 6 || GoesOn(discard, n / 50.0) || NearLine(y, whole ? 5 : 8))
                continue;
            var text = whole ? (n / 50).ToString(System.Globalization.CultureInfo.InvariantCulture) : "." + Math.Abs(n % 50 / 5);
            svg.Add(
                $"<text class='sr-n {css} {(whole ? "big" : "")}' x='{Left + (half ? 27 : 20)}' y='{y + (whole ? 7 : 5)}'>{text}</text>"
            );
        }
        var thousandths =
            scale * 0.0254 >= 4.4 ? 1
            : scale * 0.127 >= 5 ? 5
            : 10;
        for (var n = (int)Math.Ceiling(low / 0.0254); n <= Math.Floor(high / 0.0254); n++)
        {
            if (n % thousandths != 0)
                continue;
            var y = Y(n * 0.0254);
            if (y < Top + 2 || y > Bottom - 2 || !shown(y))
                continue;
            var ten = n % 10 == 0;
            svg.Add($"<path class='sr-tick {css}' d='M{Right} {y}h{-(ten ? 20 : n % 5 == 0 ? 14 : 7)}'/>");
            if (
                !ten
                || y < Top + 9
                || y > Bottom - 6
                || GoesOn(discard, n * 0.0254)
                || NearLine(y, 8)
                || (scale * 0.254 < 17 && n % 50 != 0)
            )
                continue;
            var hundredths = n / 10;
            var text = hundredths % 100 == 0 ? $"{hundredths / 100}.0" : $".{hundredths % 100:00}";
            svg.Add($"<text class='sr-n {css}' text-anchor='end' x='{Right - 23}' y='{y + 5}'>{text}</text>");
        }
    }

    /// <summary>Where the rule is broken, a figure would be half hidden.</summary>
    private bool NearBreak(double y) => broken && Math.Abs(y - (rotor ? Top + 18 : Bottom - 18)) < 24;

    private bool NearLine(double y, double within) =>
        NearBreak(y) || new[] { now, machineTo, discard }.Concat(view.Slices.Select(s => D(s.To))).Any(v => Math.Abs(Y(v) - y) < within);

    private void Name(string css, double from, double to, string name)
    {
        var (top, height) = Span(from, to);
        if (name.Length == 0 || height < (css is "sr-brass" or "sr-iron" ? 26 : 17))
            return;
        var light = css == "sr-cut";
        var (x, y) = (Left + Body / 2 + (rotor ? -1 : 4), top + height / 2 + 5);
        // Clear of the large numerals of either scale, as far as the band leaves room.
        var wholes = Enumerable
            .Range((int)Math.Ceiling(low), Math.Max(0, (int)Math.Floor(high) - (int)Math.Ceiling(low) + 1))
            .Select(v => Y(v))
            .Concat(
                Enumerable
                    .Range((int)Math.Ceiling(low / 0.254), Math.Max(0, (int)Math.Floor(high / 0.254) - (int)Math.Ceiling(low / 0.254) + 1))
                    .Select(n => Y(n * 0.254))
            )
            .ToList();
        double[] steps = [0, 8, -8, 14, -14, 20, -20, 26, -26];
        var step = steps.FirstOrDefault(d => Math.Abs(d) < height / 2 - 10 && wholes.TrueForAll(w => Math.Abs(y - 5 + d - w) > 14), 0);
        y += step;
        if (css == "sr-gone")
            svg.Add(
                $"<rect x='{x - name.Length * 3.9 - 4}' y='{y - 14}' width='{name.Length * 7.8 + 8}' height='18' fill='var(--sheet)'/>"
            );
        if (css == "sr-plan")
            svg.Add(
                $"<rect x='{x - name.Length * 3.9 - 4}' y='{y - 14}' width='{name.Length * 7.8 + 8}' height='18' fill='var(--blue-wash)'/>"
            );
        svg.Add(
            $"<text class='sr-name{(light ? " light" : css == "sr-brass" ? " on-brass" : "")}' text-anchor='middle' x='{x}' y='{y}'>",
            $"{name}</text>"
        );
    }

    private void Lines()
    {
        if (nominal is { } fresh && !broken)
        {
            svg.Add($"<path class='sr-lead' stroke-dasharray='5 4' d='M{Left + 58} {Y(fresh)}H{Right - (rotor ? 0 : 54)}'/>");
            flags.Add((fresh, Words.Say("draw.new"), "", view.Limits.Nominal!.Value, false));
        }
        if (view.Now is { } today)
        {
            svg.Add($"<path class='sr-edge' d='M{Left - 6} {Y(now)}H{Right + 5}'/>");
            flags.Add((now, view.NowWord, "", today, false));
        }
        foreach (var slice in view.Slices)
            svg.Add($"<path class='sr-edge sr-blue-edge' d='M{Left} {Y(D(slice.To))}H{Right}'/>");
        if (view.Slices.Count > 0 && view.ForecastWord is { } word)
            flags.Add((D(view.Slices[^1].To), word, "sr-blue-t", view.Slices[^1].To, false));
        svg.Add(
            $"<path class='sr-edge' d='M{Left} {Y(machineTo)}h{Body}'/><path class='sr-limit' d='M{Left - 6} {Y(discard)}H{Right + 5}'/>"
        );
        flags.Add(
            (
                machineTo,
                view.Limits.MachineToDerived ? Words.Say("draw.machineTo") : Words.Say("draw.machineTo2"),
                "sr-brass-t",
                view.Limits.MachineTo,
                true
            )
        );
        flags.Add(
            (discard, Words.Say(view.Limits.DiscardDerived ? "draw.discard2" : "draw.discard3"), "sr-over-t", view.Limits.Discard, true)
        );
        if ((view.Whisker ?? view.Now) is not { } reading || view.Uncertainty == Length.Zero)
            return;
        var (x, u) = (Right + 9, D(view.Uncertainty));
        svg.Add(
            $"<path class='sr-edge' d='M{x - 5} {Y(D(reading) - u)}h10M{x - 5} {Y(D(reading) + u)}h10M{x} ",
            $"{Y(D(reading) - u)}V{Y(D(reading) + u)}'/>"
        );
    }

    /// <summary>New is too far off to fit: the rule is broken, and says what new was beyond the break.</summary>
    private void Break()
    {
        var y = rotor ? Top + 18 : Bottom - 18;
        var zigzag = "M" + Svg.N(Left - 3) + " " + Svg.N(y);
        for (var i = 0; i < 8; i++)
            zigzag += i % 2 == 0 ? "l20 -7" : "l20 7";
        svg.Add(
            $"<path d='{zigzag}' stroke='var(--sheet)' stroke-width='9' fill='none'/><path d='{zigzag}' transform='translate(0 -4)' ",
            $"class='scribe'/><path d='{zigzag}' transform='translate(0 4)' class='scribe'/>"
        );
        flags.Add((rotor ? high : low, Words.Say("draw.new"), "", view.Limits.Nominal!.Value, false));
    }

    private void Flags()
    {
        const double pitch = 43;
        var placed = flags.OrderBy(f => Y(f.Value)).ToList();
        var y = placed.Select(f => Math.Clamp(Y(f.Value), Top + 14, Bottom - 14)).ToArray();
        for (var round = 0; round < 80; round++)
        for (var i = 1; i < y.Length; i++)
            if (pitch - (y[i] - y[i - 1]) is > 0 and var lack)
                (y[i - 1], y[i]) = (y[i - 1] - lack / 2, y[i] + lack / 2);
        var over = y.Length > 0 ? Math.Max(0, y[^1] - (Bottom - 14)) : 0;
        for (var i = y.Length - 1; i >= 0 && over > 0; i--)
            y[i] = Math.Min(y[i], i == y.Length - 1 ? Bottom - 14 : y[i + 1] - pitch);
        for (var i = 0; i < placed.Count; i++)
        {
            var (f, x) = (placed[i], Right + 18);
            svg.Add($"<path class='sr-lead{(f.Css == "sr-over-t" ? " sr-over-lead" : "")}' d='M{Right + 4} {Y(f.Value)}L{x + 3} {y[i]}'/>");
            var figure = f.IsLimit ? LengthText.Limit(f.Figure, view.Unit, rotor) : LengthText.Reading(f.Figure, view.Unit);
            svg.Add(
                $"<text class='sr-word {f.Css}' x='{x + 7}' y='{y[i] - 6}'{Svg.Fit(f.Word, Width - x - 9, 14)}>{f.Word}</text><text ",
                $"class='sr-val {f.Css}{(figure.Length > 6 ? " longest" : figure.Length > 5 ? " long" : "")}' x='{x + 7}' y='{y[i] + 14}'>",
                $"{figure}</text>"
            );
        }
    }

    private void Head()
    {
        svg.Add(
            $"<text class='sr-head{(view.HeadIsOver ? " sr-over-t" : "")}' x='{Left}' y='58'>{view.Head}<tspan class='sr-head-unit' ",
            $"dx='6'>{LengthText.Name(view.Unit)}</tspan></text>"
        );
        svg.Add(
            $"<text class='sr-word sr-head-word{(view.HeadIsOver ? " sr-over-t" : "")}' x='{Left}' y='81'",
            $"{Svg.Fit(view.HeadWord, Width - Left - 4, 17)}>{view.HeadWord}</text>"
        );
        svg.Add(
            $"<text class='sr-scale' x='{Left}' y='{Top - 9}'>mm</text><text class='sr-scale' x='{Right}' y='{Top - 9}' ",
            $"text-anchor='end'>inch</text><text class='sr-scale' x='{Left + Body / 2}' y='{Top - 9}' text-anchor='middle'>",
            $"{Words.Say(rotor ? "draw.thickness2" : "draw.inside")}</text>"
        );
        // A pixel of the drawing is 1/3.78 mm on the screen that the look was drawn for.
        svg.Add(
            $"<text class='sr-scale' x='{Width - 6}' y='{Top - 9}' text-anchor='end'>",
            $"{(int)Math.Max(5, Math.Round(scale / 3.78 / 5) * 5)} : 1</text>"
        );
    }
}
