using Uncial.Simulation.Scales;

namespace Uncial.Web.Charts;

/// <summary>A dial with its hands.</summary>
internal static class DialDrawing
{
    /// <param name="svg">The drawing.</param>
    /// <param name="dial">The dial.</param>
    /// <param name="cx">Middle.</param>
    /// <param name="cy">Middle.</param>
    /// <param name="r">Radius.</param>
    /// <param name="isSwept">Its hands are the lowest and the highest place; else there is one hand.</param>
    public static void Draw(Svg svg, RoundScale dial, double cx, double cy, double r, bool isSwept = false)
    {
        var isSmall = r < 80;
        const double numeral = 19;
        svg.Add($"<g class='scale dial' data-line='{cx} {cy}'><circle class='face' cx='{cx}' cy='{cy}' r='{r}'/>");
        foreach (var m in dial.Marks)
        {
            var length = isSmall ? 9 : GaugeDrawing.Long(m.Size, 11, 17, 24);
            var (a, b) = (Polar.At(cx, cy, r - 4, m.At * 12), Polar.At(cx, cy, r - 4 - length, m.At * 12));
            svg.Add($"<path class='{(m.Size == MarkSize.Large ? "is-long" : "")}' d='M{Polar.P(a)}L{Polar.P(b)}'/>");
            if (m.Numeral is null || isSmall && m.Numeral is not ("0" or "2" or "4" or "6" or "8"))
                continue;
            var t = Polar.At(
                cx,
                cy,
                r
                    - (
                        isSmall ? 26
                        : m.Numeral.Length > 2 ? 50
                        : 45
                    ),
                m.At * 12
            );
            svg.Add(
                $"<text class='fig' x='{t.X}' y='{t.Y + numeral * 0.36}' text-anchor='middle' font-size='{numeral}'>{m.Numeral}</text>"
            );
        }
        svg.Add($"</g>");
        for (var i = 0; i < dial.Hands.Count; i++)
        {
            var hour = dial.Hands[i] * 12;
            var (tip, tail) = (Polar.At(cx, cy, r - (isSmall ? 8 : 9), hour), Polar.At(cx, cy, r * 0.2, hour + 6));
            svg.Add(
                $"<path class='{(!isSwept ? isSmall ? "hand is-small" : "hand" : i == 0 ? "hand-low" : "hand-high")}' ",
                $"d='M{Fine(tail)}L{Fine(tip)}'/>"
            );
        }
        svg.Add($"<circle class='hub' cx='{cx}' cy='{cy}' r='{(isSmall ? 4 : 8)}'/>");
    }

    private static Raw Fine((double X, double Y) p) => new(GaugeDrawing.Fine(p.X).Markup + " " + GaugeDrawing.Fine(p.Y).Markup);
}
