using Microsoft.AspNetCore.Html;
using Uncial.Practice.Jobs;
using Uncial.Web.Text;

namespace Uncial.Web.Charts;

/// <summary>The scratches that the bit left, on the part as seen from the cutting side with its marked stud up.</summary>
internal static class BitDrawing
{
    private const double Cx = 300,
        Cy = 215,
        R = 168;

    public static IHtmlContent Draw(bool rotor, IReadOnlyList<Seen.Arc> scratches)
    {
        ArgumentNullException.ThrowIfNull(scratches);
        var svg = new Svg();
        svg.Add($"<svg class='drawing scratch-pair' viewBox='0 0 600 430' role='img' aria-label='{Words.Say("draw.scratchesSeen")}'>");
        svg.Add(
            $"<circle class='casting' cx='{Cx}' cy='{Cy}' r='{R}'/>",
            $"<circle class='casting-2' cx='{Cx}' cy='{Cy}' r='{(rotor ? 84 : R - 14)}'/>",
            $"<circle class='void' cx='{Cx}' cy='{Cy}' r='30'/>"
        );
        for (var i = 0; i < 5; i++)
        {
            var hole = Polar.At(Cx, Cy, 56, i * 2.4);
            svg.Add($"<circle class='{(i == 0 ? "stud-1" : "void")}' cx='{hole.X}' cy='{hole.Y}' r='7'/>");
        }
        for (var hour = 0; hour < 12; hour++)
        {
            var (a, b, t) = (
                Polar.At(Cx, Cy, R + 4, hour),
                Polar.At(Cx, Cy, R + (hour % 3 == 0 ? 14 : 9), hour),
                Polar.At(Cx, Cy, R + 30, hour)
            );
            svg.Add($"<path class='scribe' d='M{Polar.P(a)}L{Polar.P(b)}'/>");
            svg.Add(
                $"<text x='{t.X}' y='{t.Y + 6}' text-anchor='middle' font-size='17' font-weight='600'>{(hour == 0 ? 12 : hour)}</text>"
            );
        }
        for (var i = 0; i < scratches.Count; i++)
        {
            var arc = scratches[i];
            var (middle, half) = (arc.MiddleDegrees / 30, Math.Min(arc.ArcDegrees, 359) / 60);
            var r =
                i == 0 ? 146.0
                : rotor ? 112
                : 136;
            svg.Add($"<path class='arc arc-{i + 1}' d='{new Raw(Polar.Arc(Cx, Cy, r, middle - half + 12, middle + half + 12))}'/>");
            var at = Polar.At(Cx, Cy, r, middle);
            svg.Add(
                $"<circle class='arc-label' cx='{at.X}' cy='{at.Y}' r='14'/><text x='{at.X}' y='{at.Y + 6}' text-anchor='middle' ",
                $"font-size='17' font-weight='700'>{i + 1}</text>"
            );
        }
        if (scratches.Count == 0)
            GaugeDrawing.Say(svg, 12, 424, "draw.noScratch", "start");
        return svg.Add($"</svg>").Html();
    }
}
