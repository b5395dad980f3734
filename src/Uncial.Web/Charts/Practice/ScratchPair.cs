using Microsoft.AspNetCore.Html;
using Uncial.Core.Parts;
using Uncial.Practice.Drills;
using Uncial.Web.Text;

namespace Uncial.Web.Charts;

/// <summary>Two scratches side by side on a face or in a bore, as they are seen when the part has stopped.</summary>
internal static class ScratchPair
{
    private const double Cx = 300,
        Cy = 200,
        R = 172,
        Hat = 80;

    public static IHtmlContent Draw(DrillPicture.Scratches scratches)
    {
        ArgumentNullException.ThrowIfNull(scratches);
        var svg = new Svg();
        svg.Add($"<svg class='drawing scratch-pair' viewBox='0 0 600 400' role='img' aria-label='{Words.Say("draw.twoScratches")}'>");
        if (scratches.Part == PartKind.Rotor)
        {
            svg.Add($"<circle class='casting' cx='{Cx}' cy='{Cy}' r='{R}'/>");
            for (var r = Hat + 8; r < R - 4; r += 9)
                svg.Add($"<circle class='hair' cx='{Cx}' cy='{Cy}' r='{r}' opacity='.8'/>");
        }
        else
            svg.Add($"<circle class='casting' cx='{Cx}' cy='{Cy}' r='{R + 10}'/><circle class='void' cx='{Cx}' cy='{Cy}' r='{R - 4}'/>");
        svg.Add($"<circle class='casting-2' cx='{Cx}' cy='{Cy}' r='{Hat}'/><circle class='void' cx='{Cx}' cy='{Cy}' r='28'/>");
        for (var i = 0; i < 5; i++)
        {
            var hole = Polar.At(Cx, Cy, 54, i * 2.4);
            svg.Add($"<circle class='{(i == 0 ? "stud-1" : "void")}' cx='{hole.X}' cy='{hole.Y}' r='7'/>");
        }
        Arc(svg, 1, scratches.First, scratches.FirstArc, 150);
        Arc(svg, 2, scratches.Second, scratches.SecondArc, 118);
        return svg.Add($"</svg>").Html();
    }

    private static void Arc(Svg svg, int number, decimal middle, decimal arc, double r)
    {
        var (hour, half) = ((double)middle / 30, (double)arc / 60);
        var t = Polar.At(Cx, Cy, r, hour);
        svg.Add(
            $"<path class='arc arc-{number}' d='{Polar.Arc(Cx, Cy, r, hour - half, hour + half)}'/>",
            $"<circle class='arc-label' cx='{t.X}' cy='{t.Y}' r='15'/><text class='fig' x='{t.X}' y='{t.Y + 7}' text-anchor='middle' ",
            $"font-size='20'>{number}</text>"
        );
    }
}
