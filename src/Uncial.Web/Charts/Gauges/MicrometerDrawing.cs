using Uncial.Simulation.Scales;

namespace Uncial.Web.Charts;

/// <summary>Sleeve and thimble of a micrometer, the thimble unrolled beside the line of the sleeve.</summary>
internal static class MicrometerDrawing
{
    private const double Line = 235,
        Division = 15.5;

    public static void Draw(Svg svg, GaugePicture picture, bool isDepth)
    {
        var gauge = picture.Design;
        var edge = isDepth ? 190.0 : 400.0;
        var scale = 325 / (gauge.To - gauge.From);
        var (side, far) = isDepth ? (-1, 0.0) : (1, 600.0);
        var half = 12.6 * Division;
        var vernier = gauge.HasVernier ? picture.Scale(ScaleName.Vernier) : null;
        // The barrel, and over it the thimble: what it covers is not seen.
        svg.Add(
            $"<path class='metal' d='M{(isDepth ? edge - 60 : 10)} {Line - (vernier is null ? 76 : 164)}H{(isDepth ? 590 : edge + 60)}",
            $"V{Line + 76}H{(isDepth ? edge - 60 : 10)}Z'/><path class='line' d='M{(isDepth ? edge : 30)} {Line}",
            $"H{(isDepth ? 570 : edge)}'/>"
        );
        Sleeve(svg, picture, edge, scale, vernier is not null);
        if (vernier is not null)
            Vernier(svg, vernier, edge);
        svg.Add(
            $"<path class='metal-2' d='M{edge} {Line - half}H{edge + side * 130}V{Line + half}H{edge}Z'/>",
            $"<path class='metal' d='M{edge + side * 130} {Line - half}H{far}V{Line + half}H{edge + side * 130}Z'/>",
            $"<path class='edge' d='M{edge} {Line - half}V{Line + half}'/>"
        );
        Thimble(svg, picture.Scale(ScaleName.Thimble), edge, side);
        if (gauge.From > 0)
            GaugeDrawing.Say(
                svg,
                14,
                34,
                "draw.micrometerFromTo",
                "start",
                gauge.From.ToString("0", System.Globalization.CultureInfo.InvariantCulture),
                gauge.To.ToString("0", System.Globalization.CultureInfo.InvariantCulture),
                gauge.IsInch ? "in" : "mm"
            );
        GaugeDrawing.Say(svg, isDepth ? 586 : 14, 456, "draw.oneDivision", isDepth ? "end" : "start", GaugeDrawing.Division(gauge));
    }

    /// <summary>
    /// Whole marks above the line and halves below it; with a vernier above the line all of them hang below.
    /// </summary>
    private static void Sleeve(Svg svg, GaugePicture picture, double edge, double scale, bool isBelow)
    {
        svg.Add($"<g class='scale sleeve' data-line='{edge}'>");
        foreach (var m in picture.Scale(ScaleName.Sleeve).Marks)
        {
            var x = edge + m.At * scale;
            var up = !isBelow && (picture.Design.IsInch || m.Size != MarkSize.Small);
            var length = GaugeDrawing.Long(m.Size, 20, picture.Design.IsInch ? 18 : 26, 34);
            svg.Add($"<path d='M{GaugeDrawing.Fine(x)} {Line}V{Line + (up ? -length : length)}'/>");
            if (m.Numeral is not null)
                GaugeDrawing.Numeral(svg, x, up ? Line - 42 : Line + 58, m.Numeral, 24);
        }
        svg.Add($"</g>");
    }

    private static void Thimble(Svg svg, StraightScale thimble, double edge, int side)
    {
        svg.Add($"<g class='scale thimble' data-line='{Line}'>");
        foreach (var m in thimble.Marks)
        {
            var y = Line - m.At * Division;
            svg.Add($"<path d='M{edge} {GaugeDrawing.Fine(y)}H{edge + side * (m.Numeral is null ? 30 : 48)}'/>");
            if (m.Numeral is not null)
                svg.Add(
                    $"<text class='fig' x='{edge + side * 58}' y='{GaugeDrawing.Fine(y + 8)}' font-size='24' ",
                    $"text-anchor='{(side > 0 ? "start" : "end")}'>{m.Numeral}</text>"
                );
        }
        svg.Add($"</g>");
    }

    private static void Vernier(Svg svg, StraightScale vernier, double edge)
    {
        svg.Add($"<g class='scale vernier'>");
        foreach (var m in vernier.Marks)
        {
            var y = Line - m.At * Division;
            svg.Add($"<path d='M{edge - 40} {GaugeDrawing.Fine(y)}H{edge}'/>");
            if (m.Numeral is not null)
                svg.Add(
                    $"<text class='fig' x='{edge - 46}' y='{GaugeDrawing.Fine(y + 5)}' text-anchor='end' font-size='15'>{m.Numeral}</text>"
                );
        }
        svg.Add($"</g>");
    }
}
