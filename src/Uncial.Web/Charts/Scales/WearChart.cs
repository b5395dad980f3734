using System.Globalization;
using Microsoft.AspNetCore.Html;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Release;
using Uncial.Web.Text;

namespace Uncial.Web.Charts;

/// <summary>A part's life over distance: worn along the slopes, cut at the steps, with its limits and where the last slope leads.</summary>
internal static class WearChart
{
    private const double Left = 74,
        Right = 520,
        Top = 20,
        Bottom = 148;

    public static IHtmlContent Draw(WearCurve curve, Limits limits, Reader reader)
    {
        var rotor = limits.Kind == PartKind.Rotor;
        var sizes = curve.Points.Select(p => p.Size).Append(limits.Discard).Append(limits.MachineTo).ToList();
        var (least, most) = (sizes.Min(), sizes.Max());
        // A forecast that leads far past everything else is cut off at the edge: its figure is said in words.
        var last = (double)curve.Points[^1].Kilometres;
        var end = Math.Max(1, Math.Min((double)(curve.DiscardAt ?? curve.Points[^1].Kilometres), last * 2.2 + 1));
        double X(double km) => Left + (Right - Left) * km / (end * 1.04);
        double Y(Length size) =>
            Top
            + (Bottom - Top)
                * (double)((rotor ? most - size : size - least) / (most - least == Length.Zero ? Length.FromMillimetres(1) : most - least));
        string K(decimal km) => (Math.Floor(km / 1000) * 1000).ToString("#,0", CultureInfo.InvariantCulture).Replace(',', ' ');
        var svg = new Svg();
        var visits = curve.Points.Select(p =>
            Words.Say("draw.km", K(p.Kilometres), reader.With(p.Size), (p.AfterCut ? Words.Say("draw.afterTheCut") : ""))
        );
        svg.Add(
            $"<svg class='wear' viewBox='0 0 600 184' role='img' aria-label='",
            $"{Words.Say("draw.sizesOverDistanceDiscard", string.Join("; ", visits), reader.With(limits.Discard))}'>"
        );
        foreach (
            var (size, css, word) in new[]
            {
                (limits.MachineTo, "wc-machine", Words.Say("draw.machineTo3")),
                (limits.Discard, "wc-discard", Words.Say("draw.discard")),
            }
        )
            svg.Add(
                $"<path d='M{Left} {Y(size)}H{Right}' class='{css}'/><text x='{Right + 6}' y='{Y(size) + 5}' ",
                $"font-size='14'{Svg.Fit(word, 594 - Right, 14)}>{word}</text>",
                $"<text x='{Left - 6}' y='{Y(size) + 5}' text-anchor='end' class='fig' font-size='15'>",
                $"{reader.Limit(size, rotor)}</text>"
            );
        svg.Add($"<path d='M{Left} {Bottom + 6}H{Right}' class='scribe'/>");
        for (var i = 1; i < curve.Points.Count; i++)
        {
            var (a, b) = (curve.Points[i - 1], curve.Points[i]);
            svg.Add(
                $"<path d='M{X((double)a.Kilometres)} {Y(a.Size)}L{X((double)b.Kilometres)} {Y(b.Size)}' ",
                $"class='{(b.AfterCut ? "wc-cut" : "wc-wear")}'/>"
            );
        }
        var now = curve.Points[^1];
        if (curve.Forecast is { RatePer1000Km: var rate } && rate > Length.Zero && curve.DiscardAt is { } at)
        {
            var (x2, share) = (Math.Min((double)at, end * 1.04), 1.0);
            if (at > now.Kilometres)
                share = (x2 - last) / ((double)at - last);
            var y2 = Y(now.Size) + (Y(limits.Discard) - Y(now.Size)) * share;
            svg.Add($"<path d='M{X(last)} {Y(now.Size)}L{X(x2)} {y2}' class='wc-forecast'/>");
        }
        foreach (var p in curve.Points)
            svg.Add(
                p.AfterCut
                    ? Marks.In("cut", X((double)p.Kilometres), Y(p.Size), 13, "is-blue")
                    : Marks.In("read", X((double)p.Kilometres), Y(p.Size), 13)
            );
        var taken = new List<double>();
        foreach (var km in curve.Points.Select(p => p.Kilometres).Distinct().OrderDescending())
        {
            var x = X((double)km);
            if (taken.Exists(t => Math.Abs(t - x) < 72))
                continue;
            taken.Add(x);
            svg.Add($"<text x='{x}' y='{Bottom + 26}' text-anchor='middle' class='fig' font-size='15'>{K(km)}</text>");
        }
        svg.Add($"<text x='{Right + 6}' y='{Bottom + 26}' font-size='14'>km</text>");
        return svg.Add($"</svg>").Html();
    }
}
