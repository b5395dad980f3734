using Microsoft.AspNetCore.Html;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Web.Text;

namespace Uncial.Web.Charts;

/// <summary>One pass in section: where its line lies from first touch, and where the dial stands.</summary>
internal sealed record SectionPass(int Place, string Name, double Depth, string Dial, int Divisions);

/// <summary>One side in section: its surface once round as depth below first touch, what it needs, and how far each pass goes.</summary>
internal sealed record SectionSide(
    int Number,
    string Title,
    double Need,
    double Groove,
    IReadOnlyList<double> Lands,
    IReadOnlyList<double>? Lowest,
    bool ShapeIsRead,
    IReadOnlyList<SectionPass> Passes
);

/// <summary>One side unrolled: rows of places once round, each with the pass that cleans it.</summary>
internal sealed record UnrolledSide(
    string Title,
    IReadOnlyList<string> Passes,
    IReadOnlyList<(string Word, IReadOnlyList<int> CleanedBy)> Rows,
    bool ShapeIsRead
);

/// <summary>
/// The ring or bore in section with depth magnified: the surface from its readings and figures, each pass a slice from first touch whose
/// line can be moved by divisions of the dial.
/// </summary>
internal static class PassSection
{
    private const double Left = 64,
        Right = 520;

    public static IHtmlContent Draw(
        PartKind kind,
        IReadOnlyList<SectionSide> sides,
        string touchWord,
        string needWord,
        Length depthPerDivision,
        bool canMove
    )
    {
        var svg = new Svg();
        var deepest = sides.Max(s => Math.Max(Math.Max(s.Need, s.Lands.Max()), s.Passes.Count > 0 ? s.Passes.Max(p => p.Depth) : 0));
        var rotor = kind == PartKind.Rotor;
        var room = rotor ? 104.0 : 210.0;
        var k = new[] { 1500.0, 1000, 700, 500, 340, 250, 170, 120, 80, 40, 15, 5 }.FirstOrDefault(s => s * deepest <= room, 3);
        var step = k * (double)depthPerDivision.Millimetres;
        svg.Add(
            $"<svg class='drawing passes' viewBox='0 0 600 412' role='group' aria-label='",
            $"{Words.Say("draw.sectionWithThePassesDepth", (int)Math.Round(k / 3.78))}' data-step='{step}'><defs><pattern id='sec-p' ",
            $"width='8' height='8' ",
            $"patternUnits='userSpaceOnUse' patternTransform='rotate(45)'><path d='M0 0V8' stroke='var(--blue)' stroke-width='1.8'/>",
            $"</pattern></defs>"
        );
        if (rotor)
        {
            Side(svg, sides[0], "o", 62, 1, 192, k, touchWord, canMove);
            Side(svg, sides[1], "i", 346, -1, 216, k, touchWord, canMove);
            svg.Add(
                $"<path d='M{Left - 8} 192h{Right - Left + 16}M{Left - 8} 216h{Right - Left + 16}' class='scribe' ",
                $"stroke-dasharray='12 4 3 4'/><text x='{(Left + Right) / 2}' y='209' text-anchor='middle' font-size='16' class='q'>",
                $"{Words.Say("draw.restOfTheRing")}</text>"
            );
            svg.Add(
                $"<text x='292' y='24' text-anchor='middle' font-size='16' font-weight='650'>{sides[0].Title}</text><text x='292' ",
                $"y='402' text-anchor='middle' font-size='16' font-weight='650'>{sides[1].Title}</text>"
            );
        }
        else
        {
            Side(svg, sides[0], "b", 84, 1, 360, k, touchWord, canMove);
            svg.Add(
                $"<path d='M{Left - 8} 360h{Right - Left + 16}' class='scribe' stroke-dasharray='12 4 3 4'/><text x='292' y='384' ",
                $"text-anchor='middle' font-size='16' class='q'>{Words.Say("draw.wallOfTheDrum")}</text><text x='292' y='34' ",
                $"text-anchor='middle' ",
                $"font-size='16' font-weight='650'>{sides[0].Title}</text>"
            );
        }
        svg.Add(
            $"<text x='{Left}' y='{(rotor ? 24 : 34)}' font-size='16' class='q' text-anchor='start'>{needWord}</text><text x='592' ",
            $"y='{(rotor ? 24 : 34)}' font-size='16' class='q' text-anchor='end'>{Words.Say("draw.depth", (int)Math.Round(k / 3.78))}",
            $"</text>"
        );
        foreach (var (at, y) in rotor ? new[] { (0, 384.0), (1, 384) } : [(0, 374.0), (1, 374)])
            svg.Add($"<text x='{(at == 0 ? Left : Right)}' y='{y}' font-size='16' class='q' text-anchor='middle'>12</text>");
        if (sides.Any(s => !s.ShapeIsRead))
            svg.Add($"<text x='592' y='402' font-size='16' class='q' text-anchor='end'>{Words.Say("draw.shapeNotReadAssumed")}</text>");
        return svg.Add($"</svg>").Html();
    }

    private static void Side(
        Svg svg,
        SectionSide side,
        string id,
        double touchY,
        int into,
        double backY,
        double k,
        string touchWord,
        bool canMove
    )
    {
        double Y(double depth) => touchY + into * depth * k;
        double X(int i) => Left + (Right - Left) * i / side.Lands.Count;
        // Once round from 12 to 12, then the groove as a notch where the surface lies lowest: there it decides the need.
        List<(double X, double Y)> line = [.. side.Lands.Select((d, i) => (X(i), Y(d))), (Right, Y(side.Lands[0]))];
        var surface = Polar.Smooth(line, closed: false);
        var body = $"{surface}L{Svg.N(Right)} {Svg.N(backY)}L{Svg.N(Left)} {Svg.N(backY)}Z";
        svg.Add(
            $"<clipPath id='sec-{id}'><path d='{body}'/></clipPath><path d='{body}' fill='var(--iron)'/><g clip-path='url(#sec-{id})'>"
        );
        var from = -0.02;
        foreach (var (pass, i) in side.Passes.Select((p, i) => (p, i)))
        {
            var (a, b) = (Y(from), Y(pass.Depth));
            svg.Add($"<rect x='{Left}' y='{Math.Min(a, b)}' width='{Right - Left}' height='{Math.Abs(a - b)}' fill='var(--blue-wash)'/>");
            if (i % 2 == 0)
                svg.Add(
                    $"<rect x='{Left}' y='{Math.Min(a, b)}' width='{Right - Left}' height='{Math.Abs(a - b)}' fill='url(#sec-p)' ",
                    $"opacity='.6'/>"
                );
            from = pass.Depth;
        }
        svg.Add($"</g>");
        var nameAt = Left + 12;
        if (side.Groove > 0)
        {
            var deep = side.Lands.Select((d, i) => (d, i)).MaxBy(p => p.d).i;
            var (x, bottom) = (Math.Clamp(X(deep), Left + 16, Right - 90), Y(side.Need));
            svg.Add(
                $"<path d='M{x - 11} {Y(side.Lands[deep])}L{x} {bottom}L{x + 11} {Y(side.Lands[deep])}Z' fill='var(--paper)'/><path ",
                $"d='M{x - 11} {Y(side.Lands[deep])}L{x} {bottom}L{x + 11} {Y(side.Lands[deep])}' class='edge'/>"
            );
            if (x < Left + 130)
                nameAt = x + 20;
        }
        svg.Add($"<path d='{surface}' class='edge'/>");
        if (side.Lowest is { } lowest)
            svg.Add(
                $"<path d='{Polar.Smooth([.. lowest.Select((d, i) => (X(i), Y(d))), (Right, Y(lowest[0]))], closed: false)}' ",
                $"class='scribe' stroke-dasharray='6 4'/>"
            );
        svg.Add(
            $"<path d='M{Left - 14} {touchY}H{Right}' class='scribe' stroke-dasharray='2 5'/><text x='{Left - 18}' y='{touchY + 5}' ",
            $"font-size='16' text-anchor='end' class='q'>{touchWord}</text>"
        );
        if (side.Need > 0)
            svg.Add(
                $"<path d='M{Right - 18} {touchY}V{Y(side.Need)}M{Right - 23} {touchY}h10M{Right - 23} {Y(side.Need)}h10' class='edge'/>"
            );
        var labels = side.Passes.Select(p => Y(p.Depth)).ToArray();
        for (var i = 0; i < labels.Length; i++)
        {
            var pass = side.Passes[i];
            var y = Y(pass.Depth);
            if (i > 0)
                labels[i] = into > 0 ? Math.Max(y, labels[i - 1] + 20) : Math.Min(y, labels[i - 1] - 20);
            svg.Add($"<path d='M{Left} {y}H{Right}' class='blue-line' stroke-width='2'/>");
            if (labels.Length <= 6 || i == labels.Length - 1)
                svg.Add(
                    $"<path d='M{Right} {y}L{Right + 8} {(labels.Length <= 6 ? labels[i] : y)}' stroke='var(--blue)' ",
                    $"stroke-width='1.5'/><text x='{Right + 12}' y='{(labels.Length <= 6 ? labels[i] : y) + 6}' class='fig in-blue' ",
                    $"font-weight='650' font-size='19' letter-spacing='-1'>{pass.Dial}</text>"
                );
            var previous = i == 0 ? touchY : Y(side.Passes[i - 1].Depth);
            if (Math.Abs(y - previous) >= 17)
                svg.Add(
                    $"<text x='{nameAt}' y='{(y + previous) / 2 + 5}' font-size='16' font-weight='700' paint-order='stroke' ",
                    $"stroke='var(--blue-wash)' stroke-width='5'>{pass.Name.ToLowerInvariant()}</text>"
                );
        }
        if (!canMove)
            return;
        const int abreast = 7;
        for (var i = 0; i < side.Passes.Count; i++)
        {
            var pass = side.Passes[i];
            var (x, y) = (Right - 64 - 48 * (i % abreast), Y(pass.Depth));
            svg.Add(
                $"<g class='line-grip' role='slider' tabindex='0' data-line='{pass.Place},{side.Number}' data-into='{into}' ",
                $"aria-orientation='vertical' aria-valuemin='1' aria-valuenow='{pass.Divisions}' aria-valuetext='dial {pass.Dial}' ",
                $"aria-label='{pass.Name}, {side.Title}'><circle cx='{x}' cy='{y}' r='24' class='reach'/><circle cx='{x}' cy='{y}' ",
                $"r='12' class='knob'/><path d='M{x - 5} {y - 2}l5 -5l5 5M{x - 5} {y + 2}l5 5l5 -5' class='chevrons'/></g>"
            );
        }
    }

    /// <summary>Each side unrolled, once round from left to right, shaded by the pass that cleans the place.</summary>
    public static IHtmlContent Unrolled(IReadOnlyList<UnrolledSide> sides)
    {
        var svg = new Svg();
        svg.Add(
            $"<svg class='drawing unrolled' viewBox='0 0 600 412' role='img' aria-label='{string.Join(". ", sides.Select(InWords))}'>",
            $"<defs><pattern id='un-0' width='8' height='8' patternUnits='userSpaceOnUse' patternTransform='rotate(45)'><rect ",
            $"width='8' height='8' fill='var(--blue-wash)'/><path d='M0 0V8' stroke='var(--blue)' stroke-width='3'/></pattern>",
            $"<pattern id='un-1' width='8' height='8' patternUnits='userSpaceOnUse'><rect width='8' height='8' ",
            $"fill='var(--blue-wash)'/><circle cx='4' cy='4' r='1.7' fill='var(--blue)'/></pattern><pattern id='un-2' width='7' ",
            $"height='7' patternUnits='userSpaceOnUse'><rect width='7' height='7' fill='var(--blue-wash)'/><path d='M0 3.5H7' ",
            $"stroke='var(--blue)' stroke-width='1.5'/></pattern><pattern id='un-dark' width='10' height='10' ",
            $"patternUnits='userSpaceOnUse' patternTransform='rotate(45)'><rect width='10' height='10' fill='var(--iron-2)'/><path ",
            $"d='M0 0V10M0 0H10' stroke='var(--brass-ink)' stroke-width='2'/></pattern></defs>"
        );
        var (each, top) = (sides.Count == 1 ? 260.0 : 126.0, 34.0);
        foreach (var side in sides)
        {
            svg.Add(
                $"<text x='{Left}' y='{top - 8}' font-size='16' font-weight='650'>",
                $"{side.Title}{(side.ShapeIsRead ? "" : Words.Say("draw.shapeAssumed"))}</text>"
            );
            var high = each / side.Rows.Count;
            for (var r = 0; r < side.Rows.Count; r++)
            {
                var (word, cleaned) = side.Rows[r];
                var y = top + r * high;
                for (var i = 0; i < cleaned.Count; )
                {
                    var n = i;
                    while (n < cleaned.Count && cleaned[n] == cleaned[i])
                        n++;
                    var (x, to) = (Left + (Right - Left) * i / cleaned.Count, Left + (Right - Left) * n / cleaned.Count);
                    svg.Add(
                        $"<rect x='{x}' y='{y}' width='{to - x}' height='{high - 2}' fill='{Fill(cleaned[i], side.Passes.Count)}' ",
                        $"stroke='var(--ink)' stroke-width='1'/>"
                    );
                    i = n;
                }
                svg.Add($"<text x='{Right + 8}' y='{y + high / 2 + 5}' font-size='16' class='q'>{word}</text>");
            }
            for (var hour = 0; hour <= 12; hour += 3)
                svg.Add(
                    $"<text x='{Left + (Right - Left) * hour / 12.0}' y='{top + each + 15}' font-size='16' text-anchor='middle' ",
                    $"class='q'>{(hour == 0 ? 12 : hour)}</text>"
                );
            top += each + 50;
        }
        // Which pass is which shade.
        var names = sides.MaxBy(s => s.Passes.Count)!.Passes;
        var dark = sides.Any(s => s.Rows.Any(r => r.CleanedBy.Contains(-1)));
        var shades =
            names.Count <= 4
                ? names.Select((n, i) => (n.Split(',')[0], Fill(i, names.Count))).ToList()
                :
                [
                    (Words.Say("draw.earlyPasses"), Fill(0, names.Count)),
                    (Words.Say("draw.then"), Fill(1, names.Count)),
                    (Words.Say("draw.then"), Fill(2, names.Count)),
                    (Words.Say("draw.theLast"), Fill(names.Count - 1, names.Count)),
                ];
        if (dark)
            shades.Add((Words.Say("draw.staysDark"), Fill(-1, names.Count)));
        var at = Left;
        foreach (var (name, fill) in shades)
        {
            svg.Add(
                $"<rect x='{at}' y='382' width='22' height='20' fill='{fill}' stroke='var(--ink)'/><text x='{at + 28}' y='397' ",
                $"font-size='16' font-weight='600'>{name}</text>"
            );
            at += 44 + name.Length * 8.2;
        }
        return svg.Add($"</svg>").Html();

        static string InWords(UnrolledSide side) =>
            side.Title
            + ": "
            + string.Join(
                ", ",
                side.Rows.Select(r =>
                    r.Word
                    + " "
                    + (
                        r.CleanedBy.Contains(-1)
                            ? Words.Say("draw.staysDarkInPart")
                            : Words.Say("draw.cleanAfter") + side.Passes[r.CleanedBy.Max()].ToLowerInvariant()
                    )
                )
            );
    }

    /// <summary>The last pass is solid; those before it are hatched, dotted, lined.</summary>
    private static string Fill(int pass, int passes) =>
        pass < 0 ? "url(#un-dark)"
        : pass == passes - 1 ? "var(--blue-fill)"
        : $"url(#un-{Math.Min(2, passes <= 4 ? pass : pass * 3 / Math.Max(1, passes - 1))})";

    /// <summary>A small picture of a technique: what comes off each side.</summary>
    public static IHtmlContent Way(PlanOption option, PartKind kind)
    {
        var svg = new Svg();
        var deepest =
            option.Passes.Count == 0
                ? 1
                : Math.Max(
                    0.01,
                    (double)
                        Enumerable
                            .Range(0, option.Passes[0].Depth.Count)
                            .Max(s => option.Passes.Aggregate(Length.Zero, (d, p) => d + p.Depth[s]))
                            .Millimetres
                );
        var k = Math.Min(60, 17 / deepest);
        svg.Add(
            $"<svg class='pic' viewBox='0 0 100 44' preserveAspectRatio='none' aria-hidden='true'><rect x='1' y='1' width='98' ",
            $"height='42' fill='#4B585E'/>"
        );
        void Slices(int side, bool fromTop)
        {
            var at = 0.0;
            foreach (var (pass, i) in option.Passes.Select((p, i) => (p, i)))
            {
                var h = (double)pass.Depth[side].Millimetres * k;
                if (h <= 0)
                    continue;
                svg.Add(
                    $"<rect x='1' y='{(fromTop ? 1 + at : 43 - at - h)}' width='98' height='{Math.Max(h - 0.8, 0.8)}' ",
                    $"fill='{(i % 2 == 0 ? "var(--slate-blue)" : "#7C8FEA")}'/>"
                );
                at += h;
            }
        }
        if (option.Passes.Count > 0)
        {
            Slices(0, true);
            if (kind == PartKind.Rotor)
                Slices(1, false);
        }
        return svg.Add($"</svg>").Html();
    }
}
