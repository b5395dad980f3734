using Microsoft.AspNetCore.Html;
using Uncial.Core.Inspection;
using Uncial.Core.Parts;
using Uncial.Web.Text;

namespace Uncial.Web.Charts;

/// <summary>
/// What is found on a part, drawn as it looks: a small picture for each kind, and the worn surface in section with all of them on it.
/// </summary>
internal static class FindingDrawing
{
    private const double Top = 46,
        Foot = 96,
        Left = 22,
        Right = 578;

    /// <summary>A small picture of a kind of finding: a piece of the surface in section or from above.</summary>
    public static IHtmlContent Icon(FindingKind kind)
    {
        var inside = kind switch
        {
            FindingKind.Crack => "<path class='f-iron' d='M2 6h44v22H2Z'/><path class='f-dark' d='M25 6l-3 7 4 3-5 6 2 6'/>",
            FindingKind.NoTurn =>
                "<path class='f-iron' d='M2 12h44v16H2Z'/><path class='f-coat' d='M2 9h44'/><path class='f-dark' d='M8 30L40 4'/>",
            FindingKind.HardSpot => "<path class='f-iron' d='M2 8h44v20H2Z'/><ellipse class='f-spot' cx='16' cy='13' rx='8' ry='4'/>"
                + "<ellipse class='f-spot' cx='34' cy='12' rx='6' ry='3'/>",
            FindingKind.Groove => "<path class='f-iron' d='M2 8h12l3 9 4-9h5l3 13 4-13h13v20H2Z'/>",
            FindingKind.Ridge => "<path class='f-iron' d='M2 3q6-2 9 0l1 8h34v17H2Z'/>",
            FindingKind.Pitting => "<path class='f-iron' d='M2 8h7l2 3 3-3h6l1 2 2-2h7l3 4 2-4h4l1 2 1-2h5v20H2Z'/>"
                + "<path class='f-dark' d='M12 16h1M22 19h1M33 15h1M40 21h1' stroke-linecap='round'/>",
            FindingKind.Glaze => "<path class='f-iron' d='M2 8h44v20H2Z'/><path class='f-shine' d='M6 8h36'/>"
                + "<path class='f-line' d='M10 14l5-4M22 14l5-4M34 14l5-4'/>",
            FindingKind.Waves => "<path class='f-iron' d='M2 9q7 9 13 2t13 1 9-2 9-3v21H2Z'/>",
            FindingKind.Fins => "<path class='f-iron' d='M2 3h44v6H2ZM2 23h44v6H2ZM6 9h4v14H6ZM22 9h4v5h-4ZM22 19h4v4h-4ZM38 9h4v14h-4Z'/>",
            FindingKind.Races => "<circle class='f-iron' cx='24' cy='16' r='13'/><circle class='f-void' cx='24' cy='16' r='7'/>"
                + "<path class='f-dark' d='M15 9l2 1M33 12l2-1M14 21l2-1' stroke-linecap='round'/>",
            _ => "<path class='f-iron' d='M2 10h44v18H2Z'/>",
        };
        return new HtmlString($"<svg class='finding' viewBox='0 0 48 32' aria-hidden='true'>{inside}</svg>");
    }

    /// <summary>The swept surface in section, not to scale, with what was found on it.</summary>
    public static IHtmlContent Section(PartKind part, IReadOnlySet<FindingKind> found)
    {
        var svg = new Svg();
        svg.Add(
            $"<svg class='drawing section' viewBox='0 0 600 112' role='img' aria-label='{Words.Say("draw.theSweptSurfaceInSection")}'>"
        );
        var (ridge, groove, pitting, waves) = (
            found.Contains(FindingKind.Ridge),
            found.Contains(FindingKind.Groove),
            found.Contains(FindingKind.Pitting),
            found.Contains(FindingKind.Waves)
        );
        var line =
            $"M{Left} {Foot}V{(ridge ? 22 : Top)}"
            + (ridge ? "q14 -6 34 -1l4 8v17" : "h38")
            + (waves ? "q26 14 52 4t56 -2" : "h108")
            + (groove ? "q8 0 12 12t10 0 10 4 10 4 10 -10 10 -6 12 -4" : "h74")
            + (pitting ? "h26l4 5 5 -5h14l3 3 4 -3h16l5 6 4 -6h14l3 4 3 -4h12" : "h113")
            + $"H{(ridge ? 540 : Right)}"
            + (ridge ? "V31l3 -6q18 -6 35 -1" : "")
            + $"V{Foot}Z";
        svg.Add($"<path class='casting-2 is-drawn' d='{line}'/>");
        if (found.Contains(FindingKind.HardSpot))
            svg.Add(
                $"<ellipse cx='356' cy='{Top + 8}' rx='24' ry='7' class='f-spot'/><ellipse cx='410' cy='{Top + 7}' rx='15' ry='5' ",
                $"class='f-spot'/>"
            );
        if (found.Contains(FindingKind.Glaze))
            svg.Add($"<path d='M70 {Top - 5}h440' stroke='var(--brass)' stroke-width='4' stroke-dasharray='26 7'/>");
        if (found.Contains(FindingKind.NoTurn))
            svg.Add($"<path d='M64 {Top - 4}H536' stroke='var(--blue)' stroke-width='6'/>");
        if (found.Contains(FindingKind.Crack))
            svg.Add($"<path d='M466 {Top}l-6 14 9 7 -10 15 5 14' fill='none' stroke='var(--vermilion)' stroke-width='4'/>");
        if (found.Contains(FindingKind.Fins))
            svg.Add($"<path d='M90 {Foot}v-18h12v18M210 {Foot}v-9h12v9M330 {Foot}v-18h12v18M450 {Foot}v-18h12v18' class='scribe'/>");
        svg.Add(
            $"<text x='{Left}' y='14' font-size='15' class='q'>",
            $"{(part == PartKind.Rotor ? Words.Say("draw.outerEdge") : Words.Say("draw.openEdge"))}</text><text x='{Right}' y='14' ",
            $"font-size='15' text-anchor='end' class='q'>{Words.Say(part == PartKind.Rotor ? "draw.innerEdge" : "draw.back")}</text>"
        );
        return svg.Add($"</svg>").Html();
    }
}
