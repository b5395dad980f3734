using Uncial.Core.Lengths;

namespace Uncial.Core.Cutting;

/// <summary>One feed of a lathe: its number on the lever and what it moves in a turn.</summary>
/// <param name="Number">As engraved on the machine.</param>
/// <param name="PerTurn">Length in a turn of the spindle, above 0.</param>
public sealed record Feed(string Number, Length PerTurn);

/// <summary>Speeds, times and surfaces of a cut. Source: geometry of turning.</summary>
public static class CuttingData
{
    /// <summary>Coarsest feed at which a drum is finished without cutting a thread that pulls the shoes aside.</summary>
    public static readonly Length CoarsestDrumFinish = Length.FromMillimetres(0.15m);

    private const double IronGramsPerCubicMillimetre = 7.2e-3;

    /// <summary>Surface speed in m/min: π·D·n/1000.</summary>
    /// <param name="diameter">Largest diameter cut.</param>
    /// <param name="turnsPerMinute">Spindle speed.</param>
    public static double SurfaceSpeed(Length diameter, decimal turnsPerMinute) =>
        Math.PI * (double)diameter.Millimetres * (double)turnsPerMinute / 1000;

    /// <summary>The fastest of the lathe's speeds that keeps the surface speed, or null where even its slowest is too fast.</summary>
    /// <param name="speeds">Turns a minute.</param>
    /// <param name="diameter">Largest diameter cut.</param>
    /// <param name="fastestSurface">m/min that tool and material bear; grey iron: high-speed steel 25, carbide 90.</param>
    public static decimal? Speed(IEnumerable<decimal> speeds, Length diameter, double fastestSurface)
    {
        ArgumentNullException.ThrowIfNull(speeds);
        var bearable = speeds.Where(n => SurfaceSpeed(diameter, n) <= fastestSurface).ToList();
        return bearable.Count > 0 ? bearable.Max() : null;
    }

    /// <summary>Minutes of one pass: band/(f·n) and the approach.</summary>
    public static decimal Minutes(Length band, Length feedPerTurn, decimal turnsPerMinute, decimal approachMinutes) =>
        band / feedPerTurn / turnsPerMinute + approachMinutes;

    /// <summary>Mean roughness in µm, about: Ra ≈ 1000·f²/(32·r).</summary>
    public static double RoughnessMean(Length feedPerTurn, Length noseRadius) => RoughnessTotal(feedPerTurn, noseRadius) / 4;

    /// <summary>Height of the thread that a feed leaves in µm, about: Rt ≈ 1000·f²/(8·r).</summary>
    public static double RoughnessTotal(Length feedPerTurn, Length noseRadius) =>
        1000 * Math.Pow((double)feedPerTurn.Millimetres, 2) / (8 * (double)noseRadius.Millimetres);

    /// <summary>Way of the tip through the metal in one pass, in metres: π·D_mean·band/f.</summary>
    public static double LengthOfCut(Length meanDiameter, Length band, Length feedPerTurn) =>
        Math.PI * (double)meanDiameter.Millimetres * (double)(band / feedPerTurn) / 1000;

    /// <summary>Grey iron taken off a band, in grams: π·D_mean·band·depth at 7.2 g/cm³.</summary>
    public static double IronGrams(Length meanDiameter, Length band, Length depth) =>
        Math.PI * (double)meanDiameter.Millimetres * (double)band.Millimetres * (double)depth.Millimetres * IronGramsPerCubicMillimetre;
}
