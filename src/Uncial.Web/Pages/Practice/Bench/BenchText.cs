using System.Globalization;
using Uncial.Practice.Lessons;
using Uncial.Simulation.Scales;
using Uncial.Web.Charts;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>What is engraved or set at the virtual bench, as it is said.</summary>
internal static class BenchText
{
    /// <summary>Where a bar is set: inches and eighths, or the number beside the hole.</summary>
    public static string Start(double start, GaugeDesign design)
    {
        if (design.Form != GaugeForm.BarEighths)
            return start.ToString("0.##", CultureInfo.InvariantCulture) + (design.IsInch ? " in" : " mm");
        var eighths = (int)Math.Round(start * 8);
        return eighths % 8 == 0
            ? string.Create(CultureInfo.InvariantCulture, $"{eighths / 8} in")
            : string.Create(CultureInfo.InvariantCulture, $"{eighths / 8} {eighths % 8}/8 in");
    }

    /// <summary>What is engraved on a gauge: what a division is worth, and a turn where that is no round figure.</summary>
    public static string Engraved(GaugeDesign design)
    {
        var division = Words.Say("draw.oneDivision", GaugeDrawing.Division(design));
        return design.Form == GaugeForm.BarEighths ? Words.Say("bench.engraved", division, Words.Say("draw.oneTurnEighth")) : division;
    }

    /// <summary>What a division of a lathe's dial is marked as.</summary>
    public static string Division(LessonLathe lathe) =>
        Words.Say(
            lathe.CountsDiameter ? "bench.ofDiameter" : "bench.ofDepth",
            lathe.DivisionMm.ToString("0.###", CultureInfo.InvariantCulture)
        );
}
