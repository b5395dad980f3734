using Microsoft.AspNetCore.Html;
using Uncial.Core.Lengths;
using Uncial.Web.Text;

namespace Uncial.Web.Charts;

/// <summary>Run-out of the set-ups of late, one after the other, against what the shop accepts.</summary>
internal static class HealthChart
{
    private const int Most = 14;
    private const double Top = 14,
        Bottom = 88;

    public static IHtmlContent Draw(IReadOnlyList<SetUpPast> past, Length tolerance, Reader reader)
    {
        var last = past.TakeLast(Most).ToList();
        var limit = (double)tolerance.Millimetres;
        var most = Math.Max(2.4 * limit, last.Select(p => (double)p.SetUpRunout.Millimetres).DefaultIfEmpty(0).Max() * 1.05);
        double Y(double mm) => Bottom - (Bottom - Top) * mm / most;
        var svg = new Svg();
        var figures = string.Join(", ", last.Select(p => reader.Figure(p.SetUpRunout, Toward.Greater)));
        svg.Add(
            $"<svg class='health-chart' viewBox='0 0 364 112' role='img' aria-label='",
            $"{Words.Say("draw.setUpsTheNewestLast", figures, reader.With(tolerance))}'>"
        );
        svg.Add(
            $"<path d='M0 {Bottom}H322' class='hc-base'/><path d='M0 {Y(limit)}H322' class='hc-limit'/><text x='325' ",
            $"y='{Y(limit) + 5}' font-size='14'>{reader.Reading(tolerance)}</text>"
        );
        for (var i = 0; i < last.Count; i++)
        {
            var (x, y, over) = (
                310 - (last.Count - 1 - i) * 23.0,
                Y((double)last[i].SetUpRunout.Millimetres),
                last[i].SetUpRunout > tolerance
            );
            svg.Add($"<path d='M{x} {Bottom}V{y}' class='hc-stem'/>");
            if (over)
                svg.Add($"<path d='M{x} {y - 8}l8 8 -8 8 -8 -8Z' class='hc-over'/>");
            else
                svg.Add($"<circle cx='{x}' cy='{y}' r='6' class='hc-true'/>");
            if (i == last.Count - 1)
                svg.Add(
                    $"<text x='{x}' y='{Bottom + 19}' text-anchor='middle' class='fig' font-size='15' font-weight='650'>",
                    $"{reader.Fine(last[i].SetUpRunout, Toward.Greater)}</text>"
                );
        }
        svg.Add($"<text x='0' y='{Bottom + 19}' font-size='14'>{Words.Say("draw.older")}</text>");
        return svg.Add($"</svg>").Html();
    }
}
