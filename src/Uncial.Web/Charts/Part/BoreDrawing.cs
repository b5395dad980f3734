using Microsoft.AspNetCore.Html;
using Uncial.Web.Text;

namespace Uncial.Web.Charts;

/// <summary>The bore of a drum with its diameters laid on it by axis: open edge at one end of an axis, deeper at the other.</summary>
internal static class BoreDrawing
{
    private const double Cx = 300,
        Cy = 254,
        Shape = 140;

    public static IHtmlContent Draw(
        IReadOnlyList<DrawnPlace> places,
        IReadOnlyList<DrawnPlace>? before,
        int depths,
        string centre,
        string centreWord,
        string note
    )
    {
        var svg = new Svg();
        svg.Add($"<svg class='drawing' viewBox='0 0 600 516' role='group' aria-label='{Words.Say("draw.boreOfTheDrumWith")}'>");
        svg.Add(
            $"<circle cx='{Cx}' cy='{Cy}' r='192' class='casting'/><circle cx='{Cx}' cy='{Cy}' r='177' class='casting-2'/><circle ",
            $"cx='{Cx}' cy='{Cy}' r='166' class='void'/>"
        );
        foreach (var axis in places.Select(p => (double)p.Degrees / 30).Distinct())
            svg.Add(
                $"<path d='M{Polar.P(Polar.At(Cx, Cy, 180, axis))}L{Polar.P(Polar.At(Cx, Cy, 180, axis + 6))}' stroke='var(--line)' ",
                $"stroke-width='1.2' stroke-dasharray='10 4 2 4'/>"
            );
        Shapes(svg, places, before);
        svg.Add(
            $"<circle cx='{Cx}' cy='{Cy}' r='62' fill='var(--paper)'/><text x='{Cx}' y='{Cy - 16}' text-anchor='middle' ",
            $"font-size='17' class='q'>{Words.Say("draw.outOfRound")}</text><text x='{Cx}' y='{Cy + 22}' text-anchor='middle' class='fig' ",
            $"font-weight='650' font-size='{(centre.Length > 5 ? 32 : 40)}' letter-spacing='-2.5'>{centre}</text><text x='{Cx}' ",
            $"y='{Cy + 45}' text-anchor='middle' font-size='17' font-weight='650'>{centreWord}</text>"
        );
        foreach (var place in places)
            Place(svg, place, depths);
        svg.Add($"<text x='588' y='508' font-size='17' text-anchor='end' class='q'>{note}</text>");
        return svg.Add($"</svg>").Html();
    }

    private static void Shapes(Svg svg, IReadOnlyList<DrawnPlace> places, IReadOnlyList<DrawnPlace>? before)
    {
        var now = Mirrored(places);
        var earlier = before is null ? [] : Mirrored(before);
        var all = now.Concat(earlier).ToList();
        if (all.Count == 0)
            return;
        var middle = (now.Count > 0 ? now : earlier).Average(p => p.Mm);
        var reach = all.Max(p => Math.Abs(p.Mm - middle));
        var k = new[] { 1000.0, 600, 330, 200, 100, 60, 30, 10 }.FirstOrDefault(s => s * reach <= 46, 10);
        void Path(List<(double Hour, double Mm)> shape, string style, bool complete)
        {
            if (shape.Count < 4)
                return;
            svg.Add(
                $"<path ",
                $"d='{Polar.Smooth([.. shape.Select(p => Polar.At(Cx, Cy, Shape - 24 + (p.Mm - middle) * k, p.Hour))], closed: true)}' ",
                $"{new Raw(style)} {new Raw(complete ? "" : "stroke-dasharray='3 7'")}/>"
            );
        }
        svg.Add($"<circle cx='{Cx}' cy='{Cy}' r='{Shape - 24}' class='scribe' stroke-dasharray='2 5'/>");
        Path(earlier, "fill='none' stroke='var(--iron-3)' stroke-width='3' stroke-dasharray='9 5'", true);
        Path(now, "class='blue-line is-thick'", now.Count >= 6);
        svg.Add(
            $"<path d='M22 484h34' class='blue-line is-thick'/><text x='64' y='489' font-size='17' fill='var(--ink)'>",
            $"{Words.Say(earlier.Count > 0 ? "draw.after" : "draw.shape")}</text>"
        );
        if (earlier.Count > 0)
            svg.Add(
                $"<path d='M22 462h34' stroke='var(--iron-3)' stroke-width='3' stroke-dasharray='9 5'/><text x='64' y='467' ",
                $"font-size='17'>{Words.Say("draw.before")}</text>"
            );
        svg.Add($"<text x='22' y='508' font-size='17' class='q'>{Words.Say("draw.drawn", (int)Math.Round(k * 2 / 3.78))}</text>");
    }

    private static List<(double Hour, double Mm)> Mirrored(IReadOnlyList<DrawnPlace> places)
    {
        // A diameter has two ends; half of what it differs by lies at each. The depth with most axes gives the shape.
        var depth = places
            .Where(p => p.Millimetres is not null)
            .GroupBy(p => p.Depth)
            .OrderByDescending(g => g.Select(p => p.Degrees).Distinct().Count())
            .FirstOrDefault();
        if (depth is null)
            return [];
        var axes = depth
            .GroupBy(p => p.Degrees)
            .OrderBy(g => g.Key)
            .Select(g => ((double)g.Key / 30, g.Average(p => p.Millimetres!.Value) / 2))
            .ToList();
        return [.. axes, .. axes.Select(a => (a.Item1 + 6, a.Item2))];
    }

    private static void Place(Svg svg, DrawnPlace place, int depths)
    {
        var hour = (double)place.Degrees / 30 + (place.Depth > 0 ? 6 : 0);
        var inward = place.Depth == 2 ? 40 : 0;
        var (p, q, e) = (Polar.At(Cx, Cy, 184 - inward, hour), Polar.At(Cx, Cy, 196, hour), Polar.At(Cx, Cy, 208, hour));
        var sin = Math.Sin(hour / 6 * Math.PI);
        var side =
            sin > 0.2 ? "start"
            : sin < -0.2 ? "end"
            : "middle";
        var (x, y) = (
            side == "start" ? Math.Max(e.X + 6, 488)
            : side == "end" ? Math.Min(e.X - 6, 112)
            : e.X,
            e.Y + (side == "middle" ? 0 : Math.Sign(e.Y - Cy) * 10) + (place.Depth == 2 ? 60 : 0)
        );
        if (side == "start")
        {
            side = "end";
            x = 592;
        }
        else if (side == "end")
        {
            side = "start";
            x = 10;
        }
        var now = place.State == "now";
        var ink = now ? "in-blue" : "in-ink";
        var clock = Words.Clock(place.Degrees + (place.Depth > 0 ? 180 : 0));
        var label =
            depths == 1
                ? Words.Say("draw.axis", Words.Clock(place.Degrees))
                : clock
                    + (
                        place.Depth == 0 ? ", open"
                        : place.Depth == depths - 1 ? ", deep"
                        : ", middle"
                    );
        var word = place.State switch
        {
            "worst" => Words.Say("draw.largest"),
            "now" => Words.Say("draw.now"),
            "toread" => Words.Say("draw.toRead"),
            "look" => Words.Say("draw.lookHere"),
            _ => "",
        };
        if (place.Href is { } href)
            svg.Add(
                $"<a href='{href}' {(now ? "aria-current=true" : "")} {place.Data}><circle cx='{p.X}' cy='{p.Y}' r='26' ",
                $"fill='transparent'/>"
            );
        svg.Add($"<path class='scribe' d='M{Polar.P(q)}L{Polar.P(e)}'/><circle cx='{p.X}' cy='{p.Y}' r='13' fill='var(--iron-2)'/>");
        svg.Add(Marks.In(place.State, p.X, p.Y, now ? 28 : 21, now ? "is-blue" : ""));
        var up = hour % 12 is < 3 or > 9;
        var level = Math.Abs(Math.Cos(hour / 6 * Math.PI)) < 0.2;
        var line =
            side == "middle"
                ? up
                    ? y - 28
                    : y + 16
                : level
                    ? y - 44
                    : y - 8;
        var ordinary = side;
        // The third depth has its mark inside the ring: at the end of an axis that points down its words stand beside it, where there is
        // room.
        if (side == "middle" && place.Depth == 2)
            (x, line, ordinary) = (p.X + 20, p.Y - 6, "start");
        svg.Add(
            $"<text x='{x}' y='{line}' text-anchor='{ordinary}' font-size='17' class='q'>{label}<tspan class='word'>",
            $"{(side == "middle" && word.Length > 0 ? ": " + word : "")}</tspan></text>"
        );
        if (place.Figure is { } figure)
            svg.Add(
                $"<text x='{x}' y='{line + 25}' text-anchor='{ordinary}' class='fig {ink}' font-weight='650' ",
                $"font-size='{(figure.Length > 7 ? 23 : 26)}' letter-spacing='-1.5'>{figure}</text>"
            );
        if (word.Length > 0 && side != "middle")
            svg.Add(
                $"<text x='{x}' y='{line + (place.Figure is null ? 21 : 46)}' text-anchor='{ordinary}' class='word ",
                $"{(place.State is "toread" or "look" ? "in-ink-2" : ink)}' font-size='17' font-weight='700'>{word}</text>"
            );
        if (place.Href is not null)
            svg.Add($"</a>");
    }
}
