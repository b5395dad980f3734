using System.Globalization;
using Microsoft.AspNetCore.Html;
using Uncial.Web.Text;

namespace Uncial.Web.Charts;

/// <summary>
/// Scores of one skill, one dot for each lesson that was ended, the newest at the right; gaps where a lesson did not come to it.
/// </summary>
internal static class SkillChart
{
    private const double Width = 260,
        Height = 120,
        Left = 46,
        Top = 14,
        Bottom = 108;

    /// <summary>Good enough to go on to a customer's part, as far as practice can tell.</summary>
    private const double Good = 90;

    public static IHtmlContent Draw(string name, IReadOnlyList<int?> scores)
    {
        ArgumentNullException.ThrowIfNull(scores);
        var svg = new Svg();
        var told = string.Join(", ", scores.Select(s => s?.ToString(CultureInfo.InvariantCulture) ?? "–"));
        svg.Add(
            $"<svg class='drawing skill-chart' viewBox='0 0 {Width} {Height}' role='img' ",
            $"aria-label='{Words.Say("draw.scoresOf", name, told)}'>"
        );
        foreach (var at in new[] { 0, 50, 100 })
            svg.Add(
                $"<path class='scribe' d='M{Left} {Y(at)}H{Width - 6}'/><text class='q' x='{Left - 6}' y='{Y(at) + 7}' text-anchor='end' ",
                $"font-size='20'>{at}</text>"
            );
        svg.Add($"<path class='good' d='M{Left} {Y(Good)}H{Width - 6}'/>");
        var step = (Width - Left - 22) / Math.Max(1, scores.Count - 1);
        (double X, double Y)? last = null;
        for (var i = 0; i < scores.Count; i++)
        {
            if (scores[i] is not { } score)
                continue;
            var (x, y) = (scores.Count == 1 ? Left + 12 : Left + 8 + i * step, Y(score));
            if (last is { } before)
                svg.Add($"<path class='way' d='M{before.X} {before.Y}L{x} {y}'/>");
            svg.Add($"<circle class='dot' cx='{x}' cy='{y}' r='4.5'/>");
            last = (x, y);
        }
        return svg.Add($"</svg>").Html();
    }

    private static double Y(double score) => Bottom - (Bottom - Top) * score / 100;
}
