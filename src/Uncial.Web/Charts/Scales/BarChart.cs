using Microsoft.AspNetCore.Html;

namespace Uncial.Web.Charts;

/// <summary>One line of a plot.</summary>
/// <param name="Label">What it is.</param>
/// <param name="Value">How long its bar is.</param>
/// <param name="Says">The figure beside it.</param>
/// <param name="Beneath">A second bar under it, for comparison; null for none.</param>
internal sealed record ChartBar(string Label, decimal Value, string Says, decimal? Beneath = null);

/// <summary>Plots of the figures of the shop: bars with their figures in place, no axis to be read off.</summary>
internal static class BarChart
{
    private const double Label = 204,
        Longest = 146,
        Width = 560;

    /// <summary>Lying bars, one a line.</summary>
    /// <param name="name">What the plot answers, for those who do not see it.</param>
    /// <param name="bars">The lines.</param>
    /// <param name="css">Class of the bars.</param>
    /// <param name="whole">Value of a full bar, whose track is drawn; null: the longest is full.</param>
    public static IHtmlContent Lying(string name, IReadOnlyList<ChartBar> bars, string css = "bc-blue", decimal? whole = null)
    {
        var step = bars.Any(b => b.Beneath is not null) ? 46.0 : 36.0;
        var most = whole ?? Math.Max(0.000_001m, bars.Select(b => Math.Max(b.Value, b.Beneath ?? 0)).DefaultIfEmpty(1).Max());
        var svg = new Svg();
        svg.Add(
            $"<svg class='bars' viewBox='0 0 {Width} {bars.Count * step + 4}' role='img' aria-label='{name}: ",
            $"{string.Join("; ", bars.Select(b => $"{b.Label} {b.Says}"))}'>"
        );
        for (var i = 0; i < bars.Count; i++)
        {
            var (b, y) = (bars[i], i * step);
            double Long(decimal value) => Math.Max(value > 0 ? 3 : 0, Longest * (double)(value / most));
            svg.Add(
                $"<text x='{Label - 12}' y='{y + 22}' text-anchor='end' font-size='16'>",
                $"{(b.Label.Length > 25 ? b.Label[..24] + "…" : b.Label)}</text>"
            );
            if (whole is not null)
                svg.Add($"<path d='M{Label} {y + 6}h{Longest}v20h-{Longest}Z' class='bc-track'/>");
            svg.Add($"<path d='M{Label} {y + 6}h{Long(b.Value)}v20h-{Long(b.Value)}Z' class='{css}'/>");
            if (b.Beneath is { } under)
                svg.Add($"<path d='M{Label} {y + 27}h{Long(under)}v11h-{Long(under)}Z' class='bc-iron'/>");
            var end = Label + (whole is null ? Long(b.Value) : Longest) + 8;
            svg.Add(
                $"<text x='{end}' y='{y + 22}' class='fig' font-size='16' font-weight='650'{Svg.Fit(b.Says, Width - end - 2, 17.5)}>",
                $"{b.Says}</text>"
            );
        }
        svg.Add($"<path d='M{Label} 0V{bars.Count * step + 4}' class='scribe'/>");
        return svg.Add($"</svg>").Html();
    }

    /// <summary>Standing columns in layers, one a week.</summary>
    /// <param name="name">What the plot answers.</param>
    /// <param name="columns">Label and layers of each, the undermost first.</param>
    /// <param name="layers">Name and class of each layer.</param>
    public static IHtmlContent Standing(
        string name,
        IReadOnlyList<(string Label, IReadOnlyList<int> Layers)> columns,
        IReadOnlyList<(string Name, string Css)> layers
    )
    {
        const double bottom = 150,
            top = 26,
            left = 8;
        var most = Math.Max(1, columns.Select(c => c.Layers.Sum()).DefaultIfEmpty(1).Max());
        var step = (Width - left * 2) / Math.Max(6, columns.Count);
        var svg = new Svg();
        var heights = columns.Select(c =>
            c.Label + " " + string.Join(", ", layers.Zip(c.Layers).Where(l => l.Second > 0).Select(l => $"{l.First.Name} {l.Second}"))
        );
        svg.Add($"<svg class='bars' viewBox='0 0 {Width} 206' role='img' aria-label='{name}: ", $"{string.Join("; ", heights)}'>");
        for (var i = 0; i < columns.Count; i++)
        {
            var (x, y) = (left + i * step, bottom);
            for (var l = 0; l < layers.Count; l++)
            {
                var high = (bottom - top) * columns[i].Layers[l] / most;
                if (high > 0)
                    svg.Add($"<path d='M{x + 3} {y}h{step - 6}v-{high}h-{step - 6}Z' class='{layers[l].Css}'/>");
                y -= high;
            }
            svg.Add(
                $"<text x='{x + step / 2}' y='{y - 6}' text-anchor='middle' class='fig' font-size='15' font-weight='650'>",
                $"{columns[i].Layers.Sum()}</text>"
            );
            if (i % (columns.Count / 9 + 1) == 0)
                svg.Add($"<text x='{x + step / 2}' y='{bottom + 20}' text-anchor='middle' font-size='13'>{columns[i].Label}</text>");
        }
        svg.Add($"<path d='M{left} {bottom}H{Width - left}' class='scribe'/>");
        var at = left;
        foreach (var (word, css) in layers)
        {
            svg.Add(
                $"<path d='M{at} {bottom + 34}h16v16h-16Z' class='{css}'/><text x='{at + 22}' y='{bottom + 47}' font-size='14'>",
                $"{word}</text>"
            );
            at += 44 + word.Length * 8.2;
        }
        return svg.Add($"</svg>").Html();
    }
}
