using Microsoft.AspNetCore.Html;
using Uncial.Web.Text;

namespace Uncial.Web.Charts;

/// <summary>A place on the drawing: where, what was read, its state (a mark's name), and where a tap leads.</summary>
internal sealed record DrawnPlace(decimal Degrees, int Depth, string? Figure, string State, string? Href, double? Millimetres)
{
    /// <summary>The place in words, for the page to name it while the server is away.</summary>
    public string Name { get; init; } = "";

    /// <summary>Depth in words; empty where only one is read.</summary>
    public string Station { get; init; } = "";

    /// <summary>Where it is, as the form says it.</summary>
    public string Value { get; init; } = "";

    public Raw Data =>
        new(
            $"data-place='{Value}' data-name='{System.Net.WebUtility.HtmlEncode(Name)}' "
                + $"data-station='{System.Net.WebUtility.HtmlEncode(Station)}' data-state='{State}'"
        );
}

/// <summary>The face of a rotor with its readings laid on it by the clock, and the thickness drawn magnified on the ring.</summary>
internal static class RotorFace
{
    private const double Cx = 300,
        Cy = 250,
        Outer = 172,
        Inner = 94,
        Ring = 125;

    private static readonly double[] Scales = [1500, 1000, 500, 350, 200, 100, 50, 20, 8];

    public static IHtmlContent Draw(IReadOnlyList<DrawnPlace> places, IReadOnlyList<DrawnPlace>? before, string note)
    {
        var svg = new Svg();
        svg.Add($"<svg class='drawing' viewBox='0 0 600 500' role='group' aria-label='{Words.Say("draw.faceOfTheRotorWith")}'>");
        svg.Add($"<circle class='casting' cx='{Cx}' cy='{Cy}' r='{Outer}'/>");
        for (var r = Inner + 14; r < Outer - 6; r += 10)
            svg.Add($"<circle class='hair' cx='{Cx}' cy='{Cy}' r='{r}' opacity='.8'/>");
        svg.Add(
            $"<circle cx='{Cx}' cy='{Cy}' r='{Outer - 3}' fill='none' stroke='var(--iron-3)' stroke-width='5' opacity='.75' ",
            $"stroke-dasharray='23 2 9 1 31 3 14 1'/><circle cx='{Cx}' cy='{Cy}' r='{Inner + 4}' fill='none' stroke='var(--iron-3)' ",
            $"stroke-width='4' opacity='.75' stroke-dasharray='17 2 26 1 9 2'/>"
        );
        svg.Add($"<circle class='casting-2' cx='{Cx}' cy='{Cy}' r='{Inner}'/><circle class='void' cx='{Cx}' cy='{Cy}' r='34'/>");
        for (var i = 0; i < 5; i++)
        {
            var hole = Polar.At(Cx, Cy, 62, i * 2.4);
            svg.Add($"<circle class='{(i == 0 ? "stud-1" : "void")}' cx='{hole.X}' cy='{hole.Y}' r='7.5'/>");
        }
        Trace(svg, places, before);
        foreach (var place in places)
            Place(svg, place);
        svg.Add($"<text x='580' y='488' font-size='17' text-anchor='end' class='q'>{note}</text>");
        return svg.Add($"</svg>").Html();
    }

    private static void Trace(Svg svg, IReadOnlyList<DrawnPlace> places, IReadOnlyList<DrawnPlace>? before)
    {
        var read = Averaged(places);
        var earlier = before is null ? [] : Averaged(before);
        if (read.Count < 2 && earlier.Count < 2)
            return;
        var both = read.Count >= 2 ? read : earlier;
        var middle = (both.Max(p => p.Mm) + both.Min(p => p.Mm)) / 2;
        var spread = both.Max(p => p.Mm) - both.Min(p => p.Mm);
        var k = Scales.FirstOrDefault(s => s * spread / 2 <= 25, Scales[^1]);
        svg.Add($"<circle cx='{Cx}' cy='{Cy}' r='{Ring}' class='scribe' stroke-dasharray='2 5'/>");
        if (read.Count >= 2)
        {
            var closed = read.Count == places.Select(p => p.Degrees).Distinct().Count() && read.Count > 2;
            var points = read.Select(p => Polar.At(Cx, Cy, Ring + (p.Mm - middle) * k, p.Hour)).ToList();
            svg.Add($"<path d='{Polar.Smooth(points, closed)}' class='blue-line'/>");
        }
        svg.Add(
            $"<path class='blue-line' d='M22 466c14 -8 28 4 44 -3'/><text x='76' y='470' font-size='17' ",
            $"class='q'>{Words.Say("draw.thickness")}</text>",
            $"<text x='22' y='488' font-size='17' class='q'>{Words.Say("draw.drawnOnTheRing", (int)Math.Round(k / 3.78))}</text>"
        );
        if (earlier.Count >= 2 && read.Count >= 2)
        {
            var shift = (earlier.Max(p => p.Mm) + earlier.Min(p => p.Mm)) / 2;
            var points = earlier.Select(p => Polar.At(Cx, Cy, Ring + Math.Clamp((p.Mm - shift) * k, -34, 44), p.Hour)).ToList();
            svg.Add(
                $"<path d='{Polar.Smooth(points, earlier.Count > 2)}' fill='none' stroke='var(--iron-3)' stroke-width='3' ",
                $"stroke-dasharray='9 5'/><path d='M22 444h34' stroke='var(--iron-3)' stroke-width='3' stroke-dasharray='9 5'/><text ",
                $"x='76' y='449' font-size='17' class='q'>{Words.Say("draw.beforeItsOwnLevel")}</text>"
            );
        }
    }

    private static List<(double Hour, double Mm)> Averaged(IReadOnlyList<DrawnPlace> places) =>
        [
            .. places
                .Where(p => p.Millimetres is not null && p.Depth == 0)
                .GroupBy(p => p.Degrees)
                .OrderBy(g => g.Key)
                .Select(g => ((double)g.Key / 30, g.Average(p => p.Millimetres!.Value))),
        ];

    /// <summary>A second radius: its mark lies further in, its figure on the hat.</summary>
    private static void Further(Svg svg, DrawnPlace place, bool now, double hour)
    {
        var (p, t) = (Polar.At(Cx, Cy, Outer - 20 - 34 * place.Depth, hour), Polar.At(Cx, Cy, 74, hour));
        svg.Add($"<circle cx='{p.X}' cy='{p.Y}' r='11' fill='var(--iron-2)'/>");
        svg.Add(Marks.In(place.State, p.X, p.Y, now ? 26 : 18, now ? "is-blue" : ""));
        if (place.Figure is { } figure)
            svg.Add(
                $"<text x='{t.X}' y='{t.Y + 5}' text-anchor='middle' class='fig {(now ? "in-blue" : "in-ink")}' font-weight='650' ",
                $"font-size='17' letter-spacing='-.8' paint-order='stroke' stroke='var(--iron)' stroke-width='4'>{figure}</text>"
            );
        if (place.Href is not null)
            svg.Add($"</a>");
    }

    private static void Place(Svg svg, DrawnPlace place)
    {
        var hour = (double)place.Degrees / 30;
        var (p, q, e) = (Polar.At(Cx, Cy, Outer - 20, hour), Polar.At(Cx, Cy, Outer + 6, hour), Polar.At(Cx, Cy, Outer + 20, hour));
        var sin = Math.Sin(hour / 6 * Math.PI);
        var side =
            sin > 0.2 ? "start"
            : sin < -0.2 ? "end"
            : "middle";
        var (x, y) = (
            e.X
                + (
                    side == "start" ? 6
                    : side == "end" ? -6
                    : 0
                ),
            e.Y
        );
        var now = place.State == "now";
        var ink = now ? "in-blue" : "in-ink";
        if (place.Href is { } href)
            svg.Add(
                $"<a href='{href}' {(now ? "aria-current=true" : "")} {place.Data}><circle ",
                $"cx='{Polar.At(Cx, Cy, Outer - 20 - 34 * place.Depth, hour).X}' ",
                $"cy='{Polar.At(Cx, Cy, Outer - 20 - 34 * place.Depth, hour).Y}' r='{(place.Depth > 0 ? 18 : 26)}' ",
                $"fill='transparent'/>"
            );
        if (place.Depth > 0)
        {
            Further(svg, place, now, hour);
            return;
        }
        svg.Add($"<path class='scribe' d='M{Polar.P(q)}L{Polar.P(e)}'/><circle cx='{p.X}' cy='{p.Y}' r='14' fill='var(--iron-2)'/>");
        svg.Add(Marks.In(place.State, p.X, p.Y, now ? 30 : 24, now ? "is-blue" : ""));
        var word = place.State switch
        {
            "worst" => Words.Say("draw.worst"),
            "now" => Words.Say("draw.now"),
            "toread" => Words.Say("draw.toRead"),
            "look" => Words.Say("draw.lookHereToo"),
            _ => "",
        };

        var figure = place.Figure ?? "";
        var clock = Words.Clock(place.Degrees);
        if (side == "middle")
        {
            var top = hour is < 3 or > 9;
            var line = top ? y - 8 : y + 24;
            svg.Add(
                $"<text x='{x}' y='{line}' text-anchor='middle'><tspan class='q' font-size='17'>{clock}</tspan><tspan dx='9' ",
                $"class='fig {ink}' font-weight='650' font-size='27' letter-spacing='-1.2'>{figure}</tspan><tspan dx='8' class='word ",
                $"{(place.State is "toread" or "look" ? "in-ink-2" : ink)}' font-weight='700' font-size='17'>{word}</tspan></text>"
            );
        }
        else
        {
            svg.Add($"<text x='{x}' y='{y - 18}' text-anchor='{side}' font-size='17' class='q'>{clock}</text>");
            if (figure.Length > 0)
                svg.Add(
                    $"<text x='{x}' y='{y + 9}' text-anchor='{side}' class='fig {ink}' font-weight='650' letter-spacing='-1.2' ",
                    $"font-size='{(figure.Length > 6 ? 24 : 27)}'>{figure}</text>"
                );
            if (word.Length > 0)
                svg.Add(
                    $"<text x='{x}' y='{(figure.Length > 0 ? y + 30 : y + 5)}' text-anchor='{side}' class='word ",
                    $"{(place.State is "toread" or "look" ? "in-ink-2" : ink)}' font-weight='700' font-size='17'>{word}</text>"
                );
        }
        if (place.Href is not null)
            svg.Add($"</a>");
    }
}
