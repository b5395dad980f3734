using Microsoft.AspNetCore.Html;
using Uncial.Core.Parts;
using Uncial.Web.Text;

namespace Uncial.Web.Charts;

/// <summary>A scratch on the drawing: which one, where, how far round, and whether anybody has said so yet.</summary>
internal sealed record DrawnScratch(int Number, decimal Degrees, decimal? Arc, bool Said);

/// <summary>Face or bore as seen from the cutting side, with the scratches on it; and the split of the run-out as arrows.</summary>
internal static class ScratchDrawing
{
    private const double Cx = 300,
        Cy = 208,
        R = 164,
        Hat = 84;

    /// <summary>Radius on which a scratch is drawn: the second a little beside the first.</summary>
    private static double RadiusOf(int number) => number == 1 ? 142 : 106;

    public static IHtmlContent Face(PartKind kind, IReadOnlyList<DrawnScratch> scratches, string under)
    {
        var svg = new Svg();
        var face = Words.Say(kind == PartKind.Rotor ? "draw.faceOfTheRotor" : "draw.boreOfTheDrum");
        svg.Add(
            $"<svg class='drawing scratches' viewBox='0 0 600 416' role='group' ",
            $"aria-label='{Words.Say("draw.fromTheCuttingSideStud", face)}' ",
            $"data-scratches='{Svg.N(Cx)} {Svg.N(Cy)}'>"
        );
        if (kind == PartKind.Rotor)
        {
            svg.Add($"<circle class='casting' cx='{Cx}' cy='{Cy}' r='{R}'/>");
            for (var r = Hat + 8; r < R - 4; r += 9)
                svg.Add($"<circle class='hair' cx='{Cx}' cy='{Cy}' r='{r}' opacity='.8'/>");
            svg.Add($"<circle class='casting-2' cx='{Cx}' cy='{Cy}' r='{Hat}'/>");
        }
        else
            svg.Add(
                $"<circle class='casting' cx='{Cx}' cy='{Cy}' r='{R + 8}'/><circle class='void' cx='{Cx}' cy='{Cy}' r='{R - 6}'/>",
                $"<circle class='hair' cx='{Cx}' cy='{Cy}' r='124' stroke-dasharray='3 5'/><circle class='casting-2' cx='{Cx}' ",
                $"cy='{Cy}' r='{Hat}'/>"
            );
        svg.Add($"<circle class='void' cx='{Cx}' cy='{Cy}' r='30'/>");
        for (var i = 0; i < 5; i++)
        {
            var hole = Polar.At(Cx, Cy, 56, i * 2.4);
            svg.Add($"<circle class='{(i == 0 ? "stud-1" : "void")}' cx='{hole.X}' cy='{hole.Y}' r='7'/>");
        }
        for (var hour = 0; hour < 12; hour++)
        {
            var (a, b, t) = (
                Polar.At(Cx, Cy, R + 12, hour),
                Polar.At(Cx, Cy, R + (hour % 3 == 0 ? 21 : 17), hour),
                Polar.At(Cx, Cy, R + 33, hour)
            );
            svg.Add($"<path class='scribe' d='M{Polar.P(a)}L{Polar.P(b)}'/>");
            if (hour % 3 == 0)
                svg.Add(
                    $"<text x='{t.X}' y='{t.Y + 6}' text-anchor='middle' font-size='17' font-weight='600'>",
                    $"{(hour == 0 ? "12" : hour.ToString(System.Globalization.CultureInfo.InvariantCulture))}</text>"
                );
        }
        foreach (var scratch in scratches.OrderByDescending(s => s.Number))
            Scratch(svg, scratch);
        svg.Add(
            $"<text x='20' y='384' font-size='15' class='q'>{Words.Say("draw.slideOrToTheMiddle")}</text><text x='20' y='403' ",
            $"font-size='15' ",
            $"class='q'>{Words.Say("draw.aRingToAnEnd")}</text><text x='580' y='403' font-size='15' class='q' ",
            $"text-anchor='end'>{under}</text>"
        );
        return svg.Add($"</svg>").Html();
    }

    private static void Scratch(Svg svg, DrawnScratch s)
    {
        var (r, hour) = (RadiusOf(s.Number), (double)s.Degrees / 30);
        var half = (double)(s.Arc ?? 0) / 60;
        var name = s.Number == 1 ? Words.Say("draw.firstMark") : Words.Say("draw.secondMark");
        svg.Add(
            $"<g class='scratch {(s.Said ? "" : "is-ghost")}' ",
            $"data-scratch='{s.Number.ToString(System.Globalization.CultureInfo.InvariantCulture)}' data-r='{r}' ",
            $"data-degrees='{(double)s.Degrees}' data-arc='{(s.Arc is { } arc ? Svg.N((double)arc) : "")}'>"
        );
        if (s.Arc is not null)
        {
            var path =
                half >= 6
                    ? $"M{Svg.N(Cx)} {Svg.N(Cy - r)}A{Svg.N(r)} {Svg.N(r)} 0 1 1 {Svg.N(Cx - 0.01)} {Svg.N(Cy - r)}"
                    : Polar.Arc(Cx, Cy, r, hour - half, hour + half);
            svg.Add($"<path class='scratch-band' d='{path}'/><path class='scratch-line' d='{path}'/>");
            foreach (var (end, at) in new[] { ("from", hour - half), ("to", hour + half) })
            {
                var e = Polar.At(Cx, Cy, r, at);
                svg.Add(
                    $"<g class='grip' data-grip='{end}' role='slider' tabindex='0' aria-label='{name}, ",
                    $"{Words.Say(end == "from" ? "draw.beginning" : "draw.end")}' aria-valuemin='0' aria-valuemax='360' ",
                    $"aria-valuenow='{Math.Round((at * 30 % 360 + 360) % 360)}' transform='translate({e.X} {e.Y})'><circle r='24' ",
                    $"fill='transparent'/><circle class='handle' r='12'/></g>"
                );
            }
        }
        var middle = Polar.At(Cx, Cy, r, hour);
        svg.Add(
            $"<g class='grip' data-grip='middle' role='slider' tabindex='0' aria-label='{name}, ",
            $"{Words.Say(s.Arc is null ? "draw.highSpot" : "draw.middle")}' aria-valuemin='0' aria-valuemax='360' ",
            $"aria-valuenow='{Math.Round((double)s.Degrees)}' transform='translate({middle.X} {middle.Y})'><circle r='26' ",
            $"fill='transparent'/><circle class='handle' r='18'/><text y='8' text-anchor='middle' font-size='21' font-weight='750' ",
            $"class='fig in-blue'>{s.Number.ToString(System.Globalization.CultureInfo.InvariantCulture)}</text></g></g>"
        );
    }

    /// <summary>
    /// The marks as arrows: what the part has (solid), what the set-up adds in the first position and after the turn (dashed). Lengths in
    /// millimetres, or shares where only those are known.
    /// </summary>
    public static IHtmlContent Vectors(
        (double Length, decimal Degrees) part,
        (double Length, decimal Degrees) setUp,
        decimal turned,
        string partFigure,
        string setUpFigure,
        string scale,
        string unit
    )
    {
        const double ox = 112,
            oy = 108,
            reach = 92;
        var svg = new Svg();
        (double X, double Y) V((double Length, decimal Degrees) v)
        {
            var (sin, cos) = Math.SinCos((double)v.Degrees * Math.PI / 180);
            return (v.Length * sin, -v.Length * cos);
        }
        var p = V(part);
        var (s1, s2) = (V(setUp), V((setUp.Length, setUp.Degrees - turned)));
        var (first, second) = ((X: p.X + s1.X, Y: p.Y + s1.Y), (X: p.X + s2.X, Y: p.Y + s2.Y));
        var longest = new[] { p, first, second }.Max(v => Math.Sqrt(v.X * v.X + v.Y * v.Y));
        var k = longest > 0 ? reach / longest : 1;
        string At((double X, double Y) v) => Svg.N(ox + v.X * k) + " " + Svg.N(oy + v.Y * k);
        svg.Add(
            $"<svg class='vectors' viewBox='0 0 364 214' role='img' aria-label='",
            $"{Words.Say("draw.inThePartInThe", partFigure, setUpFigure)}'><defs>"
        );
        foreach (var (name, colour, size) in new[] { ("p", "var(--chalk)", 5), ("s", "var(--slate-brass)", 5), ("v", "var(--chalk-2)", 7) })
            svg.Add(
                $"<marker id='arrow-{name}' viewBox='0 0 10 10' refX='8.5' refY='5' markerWidth='{size}' markerHeight='{size}' ",
                $"orient='auto'><path d='M0 0L10 5L0 10Z' fill='{colour}'/></marker>"
            );
        svg.Add($"</defs>");
        for (var ring = 1; ring <= 3; ring++)
            svg.Add($"<circle cx='{ox}' cy='{oy}' r='{reach * ring / 3}' fill='none' stroke='var(--slate-line)'/>");
        svg.Add(
            $"<path d='M{ox - 100} {oy}h200M{ox} {oy - 100}v200' stroke='var(--slate-line)'/><text x='{ox - 22}' y='14' ",
            $"font-size='14' fill='var(--chalk-2)'>12</text><text x='10' y='208' font-size='14' fill='var(--chalk-2)'>{scale}</text>"
        );
        svg.Add(
            $"<path d='M{ox} {oy}L{At(first)}' stroke='var(--chalk-2)' stroke-width='1.8' marker-end='url(#arrow-v)'/><path d='M{ox} ",
            $"{oy}L{At(second)}' stroke='var(--chalk-2)' stroke-width='1.8' stroke-dasharray='6 4' marker-end='url(#arrow-v)'/>"
        );
        if (part.Length * k > 4)
            svg.Add($"<path d='M{ox} {oy}L{At(p)}' stroke='var(--chalk)' stroke-width='5' marker-end='url(#arrow-p)'/>");
        if (setUp.Length * k > 4)
            svg.Add(
                $"<path d='M{At(p)}L{At(first)}' stroke='var(--slate-brass)' stroke-width='5' stroke-dasharray='10 4' ",
                $"marker-end='url(#arrow-s)'/><path d='M{At(p)}L{At(second)}' stroke='var(--slate-brass)' stroke-width='2.5' ",
                $"stroke-dasharray='4 4'/>"
            );
        foreach (var (v, name) in new[] { (first, "1"), (second, "2") })
        {
            var length = Math.Max(Math.Sqrt(v.X * v.X + v.Y * v.Y), 1e-9);
            svg.Add(
                $"<text x='{ox + v.X * k + 13 * v.X / length}' y='{oy + v.Y * k + 13 * v.Y / length + 6}' text-anchor='middle' ",
                $"font-size='19' font-weight='700' class='fig' fill='var(--chalk)'>{name}</text>"
            );
        }
        svg.Add(
            $"<path d='M226 18h34' stroke='var(--chalk)' stroke-width='5'/><text x='226' y='44' font-size='17' font-weight='600' ",
            $"fill='var(--chalk)'>{Words.Say("draw.inThePart", unit)}</text><text x='226' y='86' font-size='42' font-weight='650' ",
            $"letter-spacing='-2.5' class='fig' fill='var(--chalk)'>{partFigure}</text>"
        );
        svg.Add(
            $"<path d='M226 118h34' stroke='var(--slate-brass)' stroke-width='5' stroke-dasharray='10 4'/><text x='226' y='144' ",
            $"font-size='17' font-weight='600' fill='var(--slate-brass)'>{Words.Say("draw.inTheSetUp", unit)}</text><text x='226' y='186' ",
            $"font-size='42' font-weight='650' letter-spacing='-2.5' class='fig' fill='var(--slate-brass)'>{setUpFigure}</text>"
        );
        return svg.Add($"</svg>").Html();
    }
}
