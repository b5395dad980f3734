using Uncial.Core.Lengths;

namespace Uncial.Core.Cutting;

/// <summary>One feed of a lathe: its number on the lever and what it moves.</summary>
/// <param name="Number">As engraved on the machine.</param>
/// <param name="PerTurn">Length in a turn of the spindle, above 0; 0 where it goes by time.</param>
/// <param name="PerMinute">Length in a minute, whatever the spindle does; null where it goes by the turn.</param>
public sealed record Feed(string Number, Length PerTurn, Length? PerMinute = null)
{
    /// <summary>What it moves in a turn at a speed.</summary>
    /// <param name="turnsPerMinute">Spindle speed, above 0.</param>
    public Length InATurn(decimal turnsPerMinute) => PerMinute is { } way ? CuttingData.FeedPerTurn(way, turnsPerMinute) : PerTurn;
}

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

    /// <summary>
    /// The fastest whole turn a minute of a stepless range that keeps the surface speed, or null where even its slowest is too fast.
    /// </summary>
    /// <param name="slowest">Slowest of the range, turns a minute.</param>
    /// <param name="fastest">Fastest of the range.</param>
    /// <param name="diameter">Largest diameter cut, above 0.</param>
    /// <param name="fastestSurface">m/min that tool and material bear.</param>
    public static decimal? SpeedInRange(decimal slowest, decimal fastest, Length diameter, double fastestSurface)
    {
        var most = Math.Floor(fastestSurface * 1000 / (Math.PI * (double)diameter.Millimetres) + 1e-9);
        var speed = most >= (double)fastest ? fastest : (decimal)most;
        return speed >= slowest ? speed : null;
    }

    /// <summary>
    /// Gear and fraction of the frequency drive that come to the fastest speed the tool bears. Among gears that reach it the one whose
    /// drive runs nearest to full is taken, for its torque; null where even the slowest is too fast.
    /// </summary>
    /// <param name="gears">Turns a minute of each gear with the drive at 1.</param>
    /// <param name="leastFraction">Slowest that the drive runs, above 0 … 1.</param>
    /// <param name="greatestFraction">Fastest that it runs, 1 or more.</param>
    /// <param name="diameter">Largest diameter cut, above 0.</param>
    /// <param name="fastestSurface">m/min that tool and material bear.</param>
    public static (decimal Gear, decimal Fraction, decimal TurnsPerMinute)? SpeedByDrive(
        IEnumerable<decimal> gears,
        decimal leastFraction,
        decimal greatestFraction,
        Length diameter,
        double fastestSurface
    )
    {
        ArgumentNullException.ThrowIfNull(gears);
        return gears
            .Select(gear => (Gear: gear, Turns: SpeedInRange(gear * leastFraction, gear * greatestFraction, diameter, fastestSurface)))
            .Where(g => g.Turns is not null)
            .Select(g => ((decimal Gear, decimal Fraction, decimal TurnsPerMinute)?)(g.Gear, g.Turns!.Value / g.Gear, g.Turns.Value))
            .OrderByDescending(g => g!.Value.TurnsPerMinute)
            .ThenBy(g => Math.Abs(g!.Value.Fraction - 1))
            .FirstOrDefault();
    }

    /// <summary>Feed in a turn of a lathe that feeds by time: f = F/n.</summary>
    /// <param name="feedPerMinute">Way of the tool in a minute.</param>
    /// <param name="turnsPerMinute">Spindle speed, above 0.</param>
    public static Length FeedPerTurn(Length feedPerMinute, decimal turnsPerMinute) => feedPerMinute / turnsPerMinute;

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

    /// <summary>Grey iron taken off one face, in grams: area of the ring by the depth at 7.2 g/cm³.</summary>
    public static double IronGramsOfRing(Length outerDiameter, Length innerDiameter, Length depth) =>
        IronGrams((outerDiameter + innerDiameter) / 2, (outerDiameter - innerDiameter) / 2, depth);

    /// <summary>Grey iron taken off a band, in grams: π·D_mean·band·depth at 7.2 g/cm³.</summary>
    public static double IronGrams(Length meanDiameter, Length band, Length depth) =>
        Math.PI * (double)meanDiameter.Millimetres * (double)band.Millimetres * (double)depth.Millimetres * IronGramsPerCubicMillimetre;
}
