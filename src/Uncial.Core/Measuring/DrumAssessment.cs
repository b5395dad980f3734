using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Release;

namespace Uncial.Core.Measuring;

/// <summary>Turns the readings of a drum into the figures that decide and plan.</summary>
public static class DrumAssessment
{
    /// <summary>Assesses a drum. Fewer than two axes give figures but no verdict, unless one reading is beyond.</summary>
    /// <exception cref="ArgumentException">The touched depth is not among the depths read.</exception>
    public static DrumFigures Assess(DrumMeasurement drum, ShopRules rules)
    {
        ArgumentNullException.ThrowIfNull(drum);
        ArgumentNullException.ThrowIfNull(rules);
        if (drum.Readings.Count == 0) return new();

        var depths = StationReadings.Of(drum.Readings, PartKind.Drum);
        var ovals = depths.Select(d => OvalOf(d)).ToArray();
        var touchedIndex = Touched(depths, drum.TouchStation);
        var (touched, touchedOval) = (depths[touchedIndex], ovals[touchedIndex]);
        var greatest = drum.Readings.MaxBy(r => r.Size);
        var largest = ovals.Aggregate(greatest.Size, (max, oval) => oval is null ? max : Length.Max(max, oval.Largest));
        var (u, limits) = (drum.Uncertainty, drum.Limits);
        var eccentricity = drum.Eccentricity ?? Length.Zero;
        var smallest = touchedOval is null ? touched.Least : Length.Min(touched.Least, touchedOval.Smallest);
        var touch = smallest - 2 * eccentricity;
        var clean = largest + 2 * eccentricity + 2 * drum.Groove;
        var touchedOutOfRound = touchedOval?.OutOfRound ?? touched.Spread;
        var axes = depths.Max(d => d.Spots.Count);
        var roundness = RoundnessOf(depths, ovals);

        return new()
        {
            Least = drum.Readings.Min(r => r.Size),
            Greatest = greatest.Size,
            GreatestAt = greatest.At,
            Largest = largest,
            Axes = axes,
            StockToDiscard = limits.Discard - largest,
            StockToMachineTo = limits.MachineTo - largest,
            DiscardVerdict = VerdictOf(limits.Discard, greatest.Size, ovals, u, axes),
            MachineToVerdict = VerdictOf(limits.MachineTo, greatest.Size, ovals, u, axes),
            BelowFloor = limits.Discard - largest < rules.DrumFloor,
            Roundness = roundness,
            Taper = depths.Length > 1 ? depths[0].SpotMean - depths[^1].SpotMean : null,
            Touch = touch,
            TouchCareful = touchedOutOfRound > u ? smallest : touch,
            TouchBound = touched.Least + u,
            Clean = clean,
            Need = (clean - touch) / 2,
            Notes = [.. Notes(drum, depths, ovals, roundness, axes, rules, largest)],
        };
    }

    /// <summary>An oval fitted through the diameters of one depth, where its axes prove it.</summary>
    /// <param name="Mean">Mean diameter.</param>
    /// <param name="OutOfRound">Largest less smallest.</param>
    /// <param name="Largest">Largest diameter of the oval.</param>
    /// <param name="Smallest">Smallest diameter of the oval.</param>
    /// <param name="LargestAxis">Axis of the largest, degrees.</param>
    /// <param name="Axes">Distinct axes behind it: three carry twice the uncertainty.</param>
    /// <param name="GreatestResidual">Reading furthest from the oval.</param>
    internal sealed record Oval(Length Mean, Length OutOfRound, Length Largest, Length Smallest, decimal LargestAxis, int Axes, Length GreatestResidual)
    {
        public Length Uncertainty(Length u) => Axes == 3 ? 2 * u : u;
    }

    internal static Oval? OvalOf(StationReadings depth)
    {
        if (!AxesProve([.. depth.Spots.Select(s => s.Degrees)])) return null;
        var fit = depth.Fit(2);
        if (fit is null) return null;
        var (amplitude, angle) = fit.Harmonic(2);
        var residual = depth.Spots.Max(s => Math.Abs((double)s.Size.Millimetres - fit.At((double)s.Degrees * Math.PI / 180)));
        return new(
            Length.FromTrigonometry(fit.Constant, Toward.Nearest),
            Length.FromTrigonometry(2 * amplitude, Toward.Greater),
            Length.FromTrigonometry(fit.Constant + amplitude, Toward.Greater),
            Length.FromTrigonometry(fit.Constant - amplitude, Toward.Less),
            ClockAngle.FromRadians(angle).Axis,
            depth.Spots.Count,
            Length.FromTrigonometry(residual, Toward.Greater));
    }

    /// <summary>Three axes at least 30° from one another and no gap over 90°: only then can no oval hide between them.</summary>
    private static bool AxesProve(IReadOnlyList<decimal> axes)
    {
        if (axes.Count < 3 || ClockAngle.WidestGap(axes, 180) > 90) return false;
        for (var i = 0; i < axes.Count; i++)
            for (var j = i + 1; j < axes.Count; j++)
                for (var k = j + 1; k < axes.Count; k++)
                    if (axes[j] - axes[i] >= 30 && axes[k] - axes[j] >= 30 && axes[i] + 180 - axes[k] >= 30) return true;
        return false;
    }

    private static int Touched(StationReadings[] depths, Length? said)
    {
        var index = said is null || depths is [{ Station: null }]
            ? Array.IndexOf(depths, depths.MaxBy(d => d.Least))
            : Array.FindIndex(depths, d => d.Station == said);
        return index >= 0 ? index : throw new ArgumentException("The bit touches at a depth where readings were taken.", nameof(said));
    }

    private static Verdict VerdictOf(Length limit, Length greatest, Oval?[] ovals, Length u, int axes)
    {
        var verdict = Conformity.Decide(limit - greatest, u);
        foreach (var oval in ovals)
            if (oval is not null) verdict = Conformity.Worse(verdict, Conformity.Decide(limit - oval.Largest, oval.Uncertainty(u)));
        return axes < 2 && verdict != Verdict.Beyond ? Verdict.NotEnough : verdict;
    }

    /// <summary>Roundness of the whole bore: proven where every depth read is, out-of-round of its worst depth.</summary>
    private static Roundness RoundnessOf(StationReadings[] depths, Oval?[] ovals)
    {
        var worst = ovals.OfType<Oval>().MaxBy(o => o.OutOfRound);
        var spread = depths.Max(d => d.Spread);
        return worst is not null && Array.TrueForAll(ovals, o => o is not null)
            ? new(true, worst.OutOfRound, worst.LargestAxis, worst.Mean)
            : new(false, worst is null ? spread : Length.Max(spread, worst.OutOfRound), null, null);
    }

    private static IEnumerable<Note> Notes(
        DrumMeasurement drum, StationReadings[] depths, Oval?[] ovals, Roundness roundness, int axes, ShopRules rules, Length largest)
    {
        if (axes < 2) yield return new("tooFewAxes");
        else if (!roundness.Proven) yield return new("roundnessNotProven", roundness.OutOfRound);
        if (depths.Any(d => d.Readings.Count > d.Spots.Count)) yield return new("repeatsAveraged");
        foreach (var oval in ovals.OfType<Oval>().Where(o => o.GreatestResidual > 2 * drum.Uncertainty))
            yield return new("notAnOval", oval.GreatestResidual);
        if (drum.Eccentricity is null) yield return new("eccentricityAssumed");
        if (drum.Limits.Discard - largest < rules.DrumFloor) yield return new("belowFloor", drum.Limits.Discard - largest, rules.DrumFloor);
        if (drum.Limits.MachineToDerived) yield return new("machineToDerived", drum.Limits.MachineTo);
    }
}
