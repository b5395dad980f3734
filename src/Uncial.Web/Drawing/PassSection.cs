using Microsoft.AspNetCore.Html;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;

namespace Uncial.Web.Drawing;

/// <summary>One side in section: what it needs, and how far each pass goes, from first touch.</summary>
internal sealed record SectionSide(string Title, double Need, double Groove, double Relief, double Runout, IReadOnlyList<(string Name, double Depth, string Dial)> Passes);

/// <summary>
/// The ring or bore in section with depth magnified: the surface from its own figures (run-out as a slope round the turn, relief, groove),
/// each pass a slice from first touch.
/// </summary>
internal static class PassSection
{
    private const double Left = 64, Right = 520;

    public static IHtmlContent Draw(PartKind kind, IReadOnlyList<SectionSide> sides, string touchWord, string needWord)
    {
        var svg = new Svg();
        var deepest = sides.Max(s => Math.Max(s.Need, s.Passes.Count > 0 ? s.Passes.Max(p => p.Depth) : 0));
        var rotor = kind == PartKind.Rotor;
        var room = rotor ? 96.0 : 200.0;
        var k = new[] { 1500.0, 1000, 700, 500, 340, 250, 170, 120, 80, 40, 15, 5 }.FirstOrDefault(s => s * deepest <= room, 3);
        svg.Add($"<svg class='drawing' viewBox='0 0 600 412' role='img' aria-label='Section with the passes, depth drawn {(int)Math.Round(k / 3.78)} to 1'><defs><pattern id='sec-p' width='8' height='8' patternUnits='userSpaceOnUse' patternTransform='rotate(45)'><path d='M0 0V8' stroke='var(--blue)' stroke-width='1.8'/></pattern></defs>");
        if (rotor)
        {
            Side(svg, sides[0], "o", 74, 1, 196, k, touchWord);
            Side(svg, sides[1], "i", 338, -1, 216, k, touchWord);
            svg.Add($"<path d='M{Left - 8} 196h{Right - Left + 16}M{Left - 8} 216h{Right - Left + 16}' class='scribe' stroke-dasharray='12 4 3 4'/><text x='{(Left + Right) / 2}' y='211' text-anchor='middle' font-size='15' class='q'>rest of the ring</text>");
            svg.Add($"<text x='292' y='26' text-anchor='middle' font-size='16' font-weight='650'>{sides[0].Title}</text><text x='292' y='400' text-anchor='middle' font-size='16' font-weight='650'>{sides[1].Title}</text>");
        }
        else
        {
            Side(svg, sides[0], "b", 92, 1, 360, k, touchWord);
            svg.Add($"<path d='M{Left - 8} 360h{Right - Left + 16}' class='scribe' stroke-dasharray='12 4 3 4'/><text x='292' y='384' text-anchor='middle' font-size='15' class='q'>wall of the drum</text><text x='292' y='34' text-anchor='middle' font-size='16' font-weight='650'>{sides[0].Title}</text>");
        }
        svg.Add($"<text x='{Left}' y='{(rotor ? 26 : 34)}' font-size='15' class='q' text-anchor='start'>{needWord}</text><text x='590' y='404' font-size='15' class='q' text-anchor='end'>depth {(int)Math.Round(k / 3.78)} : 1</text>");
        return svg.Add($"</svg>").Html();
    }

    private static void Side(Svg svg, SectionSide side, string id, double touchY, int into, double backY, double k, string touchWord)
    {
        double Y(double depth) => touchY + into * depth * k;
        // Unrolled once around: the surface falls away from the touched high spot by the run-out and rises again; groove and relief below it.
        List<(double X, double Y)> line = [];
        const int steps = 48;
        for (var i = 0; i <= steps; i++)
        {
            var turn = (double)i / steps;
            var depth = side.Runout * (1 - Math.Cos(turn * 2 * Math.PI)) / 2 + side.Relief * Math.Max(0, Math.Sin(turn * Math.PI * 5)) * 0.999;
            if (side.Groove > 0 && i is >= 21 and <= 23) depth = side.Runout * (1 - Math.Cos(turn * 2 * Math.PI)) / 2 + side.Relief + side.Groove * (i == 22 ? 1 : 0.55);
            line.Add((Left + (Right - Left) * turn, Y(depth)));
        }
        var surface = Polar.Smooth(line, closed: false);
        var body = $"{surface}L{Svg.N(Right)} {Svg.N(backY)}L{Svg.N(Left)} {Svg.N(backY)}Z";
        svg.Add($"<clipPath id='sec-{id}'><path d='{body}'/></clipPath><path d='{body}' fill='var(--iron)'/><g clip-path='url(#sec-{id})'>");
        var from = -0.02;
        foreach (var ((name, depth, _), i) in side.Passes.Select((p, i) => (p, i)))
        {
            var (a, b) = (Y(from), Y(depth));
            svg.Add($"<rect x='{Left}' y='{Math.Min(a, b)}' width='{Right - Left}' height='{Math.Abs(a - b)}' fill='var(--blue-wash)'/>");
            if (i % 2 == 0) svg.Add($"<rect x='{Left}' y='{Math.Min(a, b)}' width='{Right - Left}' height='{Math.Abs(a - b)}' fill='url(#sec-p)' opacity='.6'/>");
            from = depth;
        }
        svg.Add($"</g><path d='{surface}' class='edge'/>");
        svg.Add($"<path d='M{Left - 14} {touchY}H{Right}' class='scribe' stroke-dasharray='2 5'/><text x='{Left - 18}' y='{touchY + 5}' font-size='15' text-anchor='end' class='q'>{touchWord}</text>");
        var labels = side.Passes.Select(p => Y(p.Depth)).ToArray();
        for (var i = 0; i < labels.Length; i++)
        {
            var (name, depth, dial) = side.Passes[i];
            var y = Y(depth);
            if (i > 0) labels[i] = into > 0 ? Math.Max(y, labels[i - 1] + 20) : Math.Min(y, labels[i - 1] - 20);
            svg.Add($"<path d='M{Left} {y}H{Right}' class='blue-line' stroke-width='2'/><path d='M{Right} {y}L{Right + 8} {labels[i]}' stroke='var(--blue)' stroke-width='1.5'/>");
            if (labels.Length <= 6) svg.Add($"<text x='{Right + 12}' y='{labels[i] + 6}' class='fig' font-weight='650' font-size='19' letter-spacing='-1' style='fill:var(--blue)'>{dial}</text>");
            else if (i == labels.Length - 1) svg.Add($"<text x='{Right + 12}' y='{y + 6}' class='fig' font-weight='650' font-size='19' letter-spacing='-1' style='fill:var(--blue)'>{dial}</text>");
            var previous = i == 0 ? touchY : Y(side.Passes[i - 1].Depth);
            if (Math.Abs(y - previous) >= 17)
                svg.Add($"<text x='{Left + 20}' y='{(y + previous) / 2 + 5}' font-size='14' font-weight='700' paint-order='stroke' stroke='var(--blue-wash)' stroke-width='5'>{name}</text>");
        }
        if (side.Need > 0)
            svg.Add($"<path d='M{Right - 26} {touchY}V{Y(side.Need)}M{Right - 31} {touchY}h10M{Right - 31} {Y(side.Need)}h10' class='edge'/>");
    }

    /// <summary>A small picture of a technique: what comes off each side.</summary>
    public static IHtmlContent Way(PlanOption option, PartKind kind)
    {
        var svg = new Svg();
        var deepest = option.Passes.Count == 0 ? 1 : Math.Max(0.01, (double)Enumerable.Range(0, option.Passes[0].Depth.Count).Max(s => option.Passes.Aggregate(Length.Zero, (d, p) => d + p.Depth[s])).Millimetres);
        var k = Math.Min(60, 17 / deepest);
        svg.Add($"<svg class='pic' viewBox='0 0 100 44' preserveAspectRatio='none' aria-hidden='true'><rect x='1' y='1' width='98' height='42' fill='#4B585E'/>");
        void Slices(int side, bool fromTop)
        {
            var at = 0.0;
            foreach (var (pass, i) in option.Passes.Select((p, i) => (p, i)))
            {
                var h = (double)pass.Depth[side].Millimetres * k;
                if (h <= 0) continue;
                svg.Add($"<rect x='1' y='{(fromTop ? 1 + at : 43 - at - h)}' width='98' height='{Math.Max(h - 0.8, 0.8)}' fill='{(i % 2 == 0 ? "var(--slate-blue)" : "#7C8FEA")}'/>");
                at += h;
            }
        }
        if (option.Passes.Count > 0) { Slices(0, true); if (kind == PartKind.Rotor) Slices(1, false); }
        return svg.Add($"</svg>").Html();
    }
}
