using Microsoft.AspNetCore.Html;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Web.Text;

namespace Uncial.Web.Charts;

/// <summary>A corner on the plan of a vehicle.</summary>
internal sealed record AxleCorner(
    Corner Corner,
    string Href,
    string Kind,
    Limits? Limits,
    Length? Now,
    string? Figure,
    string Mark,
    string Word,
    string MarkCss
);

/// <summary>A vehicle from above, nose up, with what came off its corners.</summary>
internal static class AxlePlan
{
    public static IHtmlContent Draw(IReadOnlyList<AxleCorner> parts, double height = 320)
    {
        var svg = new Svg();
        const double cx = 145;
        var others = parts.Where(p => p.Corner == Corner.Other).ToList();
        svg.Add($"<svg viewBox='-6 0 302 {height}' role='group' aria-label='{Words.Say("draw.partsOnTheVehicle")}'>");
        svg.Add(
            $"<path d='M{cx} 0V{height}' class='scribe axle-spine' stroke-dasharray='14 4 3 4' stroke='var(--line)' opacity='.5'/>",
            $"<path d='M{cx - 30} {height - 20}V28q0 -17 15 -20q15 -3 30 0q15 3 15 20V{height - 20}q0 12 -12 12h-36q-12 0 -12 -12Z' ",
            $"fill='var(--iron-2)' stroke='var(--line)' stroke-width='1.5'/><path d='M{cx - 24} {height / 2 - 46}q24 -12 48 0l-5 ",
            $"20h-38Z' fill='var(--sheet)' stroke='var(--line)'/>"
        );
        foreach (var y in new[] { Front(height), Rear(height) })
            svg.Add(
                $"<path d='M{cx - 36} {y}H{cx + 36}' stroke='var(--iron-3)' stroke-width='6'/><circle cx='{cx}' cy='{y}' r='9' ",
                $"fill='var(--iron)' stroke='var(--iron-3)' stroke-width='2'/>"
            );
        foreach (var corner in new[] { Corner.FrontLeft, Corner.FrontRight, Corner.RearLeft, Corner.RearRight })
        {
            var left = corner is Corner.FrontLeft or Corner.RearLeft;
            var y = corner is Corner.FrontLeft or Corner.FrontRight ? Front(height) : Rear(height);
            if (parts.FirstOrDefault(p => p.Corner == corner) is { } part)
                Draw(svg, part, cx, y, left);
            else
                NotIn(svg, corner, cx, y, left);
        }
        for (var i = 0; i < others.Count; i++)
            svg.Add(
                $"<a href='{others[i].Href}'><text x='{cx}' y='{height / 2 + 6 + 18 * i}' text-anchor='middle' font-size='14' ",
                $"font-weight='650' fill='var(--ink)'>{others[i].Kind} {others[i].Figure ?? ""} {others[i].Word}</text></a>"
            );
        return svg.Add($"</svg>").Html();
    }

    private static double Front(double height) => height * 0.23;

    private static double Rear(double height) => height * 0.76;

    private static string Short(Corner corner) => Text.Words.Say("short." + corner);

    private static void Draw(Svg svg, AxleCorner part, double cx, double y, bool left)
    {
        const double height = 112;
        var (top, x, anchor) = (y - height / 2, left ? cx - 60 : cx + 36, left ? "end" : "start");
        var text = left ? x - 8 : x + 40;
        svg.Add(
            $"<a href='{part.Href}'><title>{Short(part.Corner)} {part.Kind}: {part.Word}</title>",
            $"<rect x='{(left ? x - 85 : x - 6)}' y='{top - 4}' width='120' height='{height + 8}' ",
            $"fill='transparent'/>"
        );
        svg.Add(MiniRule.At(x, top, height, part.Limits, part.Now));
        svg.Add(
            $"<text x='{text}' y='{top + 14}' font-size='17' font-weight='750' fill='var(--ink)' text-anchor='{anchor}'>",
            $"{Short(part.Corner)}</text><text x='{text}' y='{top + 33}' font-size='14' fill='var(--ink-2)' text-anchor='{anchor}'>",
            $"{part.Kind}</text>"
        );
        if (part.Figure is { } figure)
            svg.Add(
                $"<text x='{text}' y='{top + 67}' font-size='{(figure.Length > 5 ? 20 : 25)}' class='fig' font-weight='650' ",
                $"letter-spacing='-2' fill='{(part.MarkCss == "is-over" ? "var(--vermilion-ink)" : "var(--ink)")}' ",
                $"text-anchor='{anchor}'>{figure}</text>"
            );
        var words = part.Word.Split(' ', 2);
        for (var i = 0; i < words.Length; i++)
        {
            var line = top + (part.Figure is null ? 62 : 89) + 16 * i;
            svg.Add(
                $"<text x='{(left ? text - 21 : text + 21)}' y='{line}' font-size='14' font-weight='600' fill='var(--ink)' ",
                $"text-anchor='{anchor}'{Svg.Fit(words[i], left ? text - 18 : 272 - text, 14)}>{words[i]}</text>"
            );
            if (i == 0)
                svg.Add(Marks.In(part.Mark, left ? text - 8 : text + 8, line - 5, 16, part.MarkCss));
        }
        svg.Add($"</a>");
    }

    private static void NotIn(Svg svg, Corner corner, double cx, double y, bool left)
    {
        var x = left ? cx - 42 : cx + 42;
        var text = left ? x - 12 : x + 12;
        var anchor = left ? "end" : "start";
        svg.Add(
            $"<path d='M{x} {y - 28}v56' stroke='var(--line)' stroke-width='8'/><text x='{text}' y='{y - 4}' font-size='17' ",
            $"font-weight='650' text-anchor='{anchor}' fill='var(--ink-2)'>{Short(corner)}</text><text x='{text}' y='{y + 16}' ",
            $"font-size='14' text-anchor='{anchor}' fill='var(--ink-2)'>{Words.Say("draw.notIn")}</text>"
        );
    }
}
