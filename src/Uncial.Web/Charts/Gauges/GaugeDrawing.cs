using Microsoft.AspNetCore.Html;
using Uncial.Simulation.Scales;
using Uncial.Web.Text;

namespace Uncial.Web.Charts;

/// <summary>
/// Gauges with their scales, drawn from what stands opposite what: no figure of a reading is in the drawing. Thimbles are unrolled, so
/// nothing is foreshortened.
/// </summary>
internal static class GaugeDrawing
{
    private const double Width = 600,
        Height = 470;

    public static IHtmlContent Draw(GaugePicture picture)
    {
        var svg = new Svg();
        var name = Words.Say("gaugeForm." + picture.Design.Form);
        // Where an eye looks closer: the line or edge that is read.
        var near = picture.Design.Form switch
        {
            GaugeForm.Micrometer => "390 235",
            GaugeForm.DepthMicrometer => "250 235",
            GaugeForm.VernierCaliper => picture.Design.IsInch ? "290 220" : "170 220",
            GaugeForm.DialCaliper => "290 190",
            GaugeForm.Indicator => "270 250",
            _ => "250 190",
        };
        svg.Add(
            $"<svg class='drawing gauge' viewBox='0 0 {Width} {Height}' data-closer='{near}' tabindex='0' role='img' aria-label='",
            $"{Words.Say("draw.gaugeToRead", name)}'>"
        );
        switch (picture.Design.Form)
        {
            case GaugeForm.Micrometer:
                MicrometerDrawing.Draw(svg, picture, isDepth: false);
                break;
            case GaugeForm.DepthMicrometer:
                MicrometerDrawing.Draw(svg, picture, isDepth: true);
                break;
            case GaugeForm.VernierCaliper:
                Vernier(svg, picture);
                break;
            case GaugeForm.DialCaliper:
                DialCaliper(svg, picture);
                break;
            case GaugeForm.Indicator:
                DialDrawing.Draw(svg, picture.DialOf(ScaleName.Dial), 270, 236, 190, isSwept: true);
                DialDrawing.Draw(svg, picture.DialOf(ScaleName.Counter), 520, 100, 56);
                Say(svg, 520, 182, "draw.turns", "middle");
                Say(svg, 520, 380, "draw.lowest", "middle");
                svg.Add($"<path class='hand-low' d='M500 352h40'/><path class='hand-high' d='M500 416h40'/>");
                Say(svg, 520, 446, "draw.highest", "middle");
                break;
            default:
                Bar(svg, picture);
                break;
        }
        return svg.Add($"</svg>").Html();
    }

    /// <summary>Beam above, vernier below: the line of the vernier that meets one of the beam is read.</summary>
    private static void Vernier(Svg svg, GaugePicture picture)
    {
        const double Line = 220;
        var (beam, vernier) = (picture.Scale(ScaleName.Beam), picture.Scale(ScaleName.Vernier));
        var reach = vernier.Marks[^1].At;
        // So much of the beam that a whole inch, or a numeral of ten millimetres, is always seen.
        var (before, after) = picture.Design.IsInch ? (0.42, 0.06) : (12.0, 3.0);
        var scale = (Width - 8) / (before + reach + after);
        var zero = 4 + before * scale;
        svg.Add(
            $"<path class='metal' d='M0 {Line - 110}H{Width}V{Line}H0Z'/>",
            $"<path class='metal-2' d='M{zero - 50} {Line}H{zero + reach * scale + 24}V{Line + 120}H{zero - 50}Z'/>",
            $"<path class='edge' d='M0 {Line}H{Width}'/>"
        );
        svg.Add($"<g class='scale beam' data-line='{zero}'>");
        foreach (var m in beam.Marks)
        {
            var x = zero + m.At * scale;
            if (x < 4 || x > Width - 4)
                continue;
            svg.Add($"<path d='M{Fine(x)} {Line}V{Line - Long(m.Size, 24, 36, 50)}'/>");
            if (m.Numeral is not null)
                Numeral(svg, x, Line - 58, m.Numeral, picture.Design.IsInch && m.Size != MarkSize.Large ? 20 : 28);
        }
        svg.Add($"</g><g class='scale vernier'>");
        foreach (var m in vernier.Marks)
        {
            var x = zero + m.At * scale;
            svg.Add($"<path d='M{Fine(x)} {Line}V{Line + Long(m.Size, 28, 40, 52)}'/>");
            if (m.Numeral is not null)
                Numeral(svg, x, Line + 76, m.Numeral, 22);
        }
        svg.Add($"</g>");
        Say(svg, 8, Line - 122, picture.Design.IsInch ? "draw.beamInches" : "draw.beamMillimetres");
        Say(svg, zero - 46, Line + 144, "draw.vernier", "start", Division(picture.Design));
    }

    private static void DialCaliper(Svg svg, GaugePicture picture)
    {
        const double Line = 96,
            Edge = 330;
        var beam = picture.Scale(ScaleName.Beam);
        var scale = 300 / -beam.Marks[0].At;
        svg.Add(
            $"<path class='metal' d='M0 {Line - 74}H{Width}V{Line}H0Z'/>",
            $"<path class='metal-2' d='M{Edge} {Line - 86}H{Width}V{Line + 14}H{Edge}Z'/>",
            $"<path class='edge' d='M{Edge} {Line - 86}V{Line + 14}'/><g class='scale beam' data-line='{Edge}'>"
        );
        foreach (var m in beam.Marks)
        {
            var x = Edge + m.At * scale;
            svg.Add($"<path d='M{Fine(x)} {Line}V{Line - Long(m.Size, 22, 28, 36)}'/>");
            if (m.Numeral is not null && x < Edge - 3)
                Numeral(svg, x, Line - 44, m.Numeral, picture.Design.IsInch && m.Size != MarkSize.Large ? 19 : 26);
        }
        svg.Add($"</g>");
        Say(svg, 8, Line + 24, picture.Design.IsInch ? "draw.beamInches" : "draw.beamMillimetres");
        DialDrawing.Draw(svg, picture.DialOf(ScaleName.Dial), 250, 294, 168);
        Say(svg, 436, 190, picture.Design.IsInch ? "draw.oneTurnTenth" : "draw.oneTurnTwo");
        Say(svg, 436, 212, "draw.oneDivision", "start", Division(picture.Design));
    }

    /// <summary>Dial above, the bar with its pointer or its pin below.</summary>
    private static void Bar(Svg svg, GaugePicture picture)
    {
        var eighths = picture.Design.Form == GaugeForm.BarEighths;
        var bar = picture.Scale(ScaleName.Bar);
        DialDrawing.Draw(svg, picture.DialOf(ScaleName.Dial), 250, 182, 164);
        if (eighths)
            Say(svg, 436, 90, "draw.oneTurnEighth");
        else
        {
            DialDrawing.Draw(svg, picture.DialOf(ScaleName.Counter), 510, 108, 60);
            Say(svg, 510, 194, "draw.turns", "middle");
        }
        Say(svg, 436, eighths ? 112 : 250, "draw.oneDivision", "start", Division(picture.Design));
        const double Top = 398,
            At = 300;
        var scale = 268 / bar.Marks.Max(m => Math.Abs(m.At));
        svg.Add($"<path class='metal' d='M14 {Top}H586V{Top + 64}H14Z'/><g class='scale bar' data-line='{At}'>");
        foreach (var m in bar.Marks)
        {
            var x = At + m.At * scale;
            if (eighths)
                svg.Add($"<path d='M{Fine(x)} {Top}V{Top + Long(m.Size, 16, 24, 34)}'/>");
            else
                svg.Add($"<circle class='hole' cx='{Fine(x)}' cy='{Top + 20}' r='9'/>");
            if (m.Numeral is not null)
                Numeral(svg, x, Top + 57, m.Numeral, 23);
        }
        svg.Add($"</g>");
        svg.Add(
            eighths
                ? (FormattableString)$"<path class='pointer' d='M{At} {Top - 2}l-10 -18h20Z'/>"
                : $"<path class='pointer' d='M{At - 7} {Top - 24}h14v46h-14Z'/>"
        );
        Say(svg, At - 18, Top - 10, eighths ? "draw.lockedHere" : "draw.pinHere", "end");
    }

    internal static double Long(MarkSize size, double shortest, double middle, double longest) =>
        size switch
        {
            MarkSize.Large => longest,
            MarkSize.Middle => middle,
            _ => shortest,
        };

    internal static void Numeral(Svg svg, double x, double y, string text, double size, string anchor = "middle") =>
        svg.Add($"<text class='fig' x='{Fine(x)}' y='{y}' text-anchor='{anchor}' font-size='{size}'>{text}</text>");

    internal static void Say(Svg svg, double x, double y, string key, string anchor = "start", params object?[] with) =>
        svg.Add($"<text class='q' x='{x}' y='{y}' text-anchor='{anchor}' font-size='16'>{Words.Say(key, with)}</text>");

    /// <summary>What one division is worth, with the unit: engraved on the gauge.</summary>
    internal static string Division(GaugeDesign gauge) =>
        gauge.Division.ToString("0.####", System.Globalization.CultureInfo.InvariantCulture) + (gauge.IsInch ? " in" : " mm");

    /// <summary>A place to a thousandth: a line of a vernier is told from its neighbour by a few hundredths.</summary>
    internal static Raw Fine(double at) => new(Math.Round(at, 3).ToString("0.###", System.Globalization.CultureInfo.InvariantCulture));
}
