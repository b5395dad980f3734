using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Release;

namespace Uncial.Core.Measuring;

/// <summary>Turns the readings of a rotor into the figures that decide and plan.</summary>
public static class RotorAssessment
{
    /// <summary>Places around the part from which the variation is taken as found and not as a lower bound.</summary>
    public const int FullRound = 8;

    /// <summary>Assesses a rotor. Fewer than three places give figures but no verdict, unless one reading is beyond.</summary>
    /// <exception cref="ArgumentException">The touched station is not among the stations read.</exception>
    public static RotorFigures Assess(RotorMeasurement rotor, ShopRules rules)
    {
        ArgumentNullException.ThrowIfNull(rotor);
        ArgumentNullException.ThrowIfNull(rules);
        if (rotor.Readings.Count == 0)
            return new() { RunoutAssumed = new(rotor.Faces.Outer.Runout is null, rotor.Faces.Inner.Runout is null) };

        var stations = StationReadings.Of(rotor.Readings, PartKind.Rotor);
        var touched = Touched(stations, rotor.TouchStation);
        var least = rotor.Readings.MinBy(r => r.Size);
        var variation = stations.Max(s => s.Spread);
        var places = stations.Max(s => s.Spots.Count);
        var fit = FitOf(touched);
        var u = rotor.Uncertainty;
        var (outer, inner) = (rotor.Faces.Outer, rotor.Faces.Inner);
        var runout = new PerFace<Length>(
            outer.Runout ?? Assumed(inner.Runout, variation, rules),
            inner.Runout ?? Assumed(outer.Runout, variation, rules));
        var need = new PerFace<Length>(runout.Outer + outer.Groove + outer.Relief, runout.Inner + inner.Groove + inner.Relief);
        var mean = fit?.Mean ?? touched.SpotMean;
        var touch = mean + (runout.Outer + runout.Inner) / 2;
        var low = new PerFace<Length>(outer.Runout ?? AtLeast(inner.Runout, variation), inner.Runout ?? AtLeast(outer.Runout, variation));
        var careful = Length.Max(mean + (low.Outer + low.Inner) / 2, touched.Greatest);
        var stockToDiscard = least.Size - rotor.Limits.Discard;
        var stockToMachineTo = least.Size - rotor.Limits.MachineTo;
        var agree = FiguresAgree(rotor, touched, u);

        return new()
        {
            Least = least.Size,
            LeastAt = least.At,
            Greatest = rotor.Readings.Max(r => r.Size),
            ThicknessVariation = variation,
            VariationIsLowerBound = places < FullRound,
            Places = places,
            StockToDiscard = stockToDiscard,
            StockToMachineTo = stockToMachineTo,
            DiscardVerdict = VerdictOf(stockToDiscard, u, places),
            MachineToVerdict = VerdictOf(stockToMachineTo, u, places),
            Touch = touch,
            TouchCareful = careful,
            TouchBound = touched.Greatest - u,
            Need = need,
            Runout = runout,
            LeastFinished = touch - need.Outer - need.Inner,
            RunoutAssumed = new(outer.Runout is null, inner.Runout is null),
            FiguresAgree = agree,
            Fit = fit,
            Notes = [.. Notes(rotor, places, variation, runout, agree, FitsOf(stations), u)],
        };
    }

    /// <summary>The fits of all stations that allow one, for judging what was not read.</summary>
    internal static IEnumerable<ThicknessFit> FitsOf(IEnumerable<StationReadings> stations) =>
        stations.Select(FitOf).OfType<ThicknessFit>();

    private static StationReadings Touched(StationReadings[] stations, Length? said)
    {
        if (said is null || stations is [{ Station: null }]) return stations.MinBy(s => s.Greatest)!;
        return Array.Find(stations, s => s.Station == said)
            ?? throw new ArgumentException("The bits touch at a radius where readings were taken.", nameof(said));
    }

    private static ThicknessFit? FitOf(StationReadings station)
    {
        var count = station.Spots.Count;
        if (count < 5 || station.WidestGap(360) > 120) return null;
        var fit = (count >= 7 ? station.Fit(1, 2) : null) ?? station.Fit(1);
        if (fit is null) return null;
        var leastAngle = fit.LeastAngle();
        return new(
            Length.FromTrigonometry(fit.Constant, Toward.Nearest),
            Length.FromTrigonometry(fit.At(leastAngle), Toward.Less),
            ClockAngle.FromRadians(leastAngle));
    }

    /// <summary>Of a face that nobody measured, need takes the larger figure that fits what is known.</summary>
    private static Length Assumed(Length? other, Length variation, ShopRules rules)
    {
        var larger = Length.Max(variation, rules.AssumedRunout);
        return other is { } known ? Length.Max(larger, known + variation) : larger;
    }

    /// <summary>… and the careful touch the smaller: nothing, or what the variation leaves over from the other face.</summary>
    private static Length AtLeast(Length? other, Length variation) => other is { } known ? (known - variation).Abs() : Length.Zero;

    private static Verdict VerdictOf(Length margin, Length u, int places) =>
        places < 3 && margin >= Length.Zero ? Verdict.NotEnough : Conformity.Decide(margin, u);

    private static bool? FiguresAgree(RotorMeasurement rotor, StationReadings touched, Length u)
    {
        if (rotor.Faces.Outer.Runout is not { } o || rotor.Faces.Inner.Runout is not { } i) return null;
        var c = touched.Spots.Count switch { < 3 => 0m, 3 => 0.75m, 4 => 0.70m, <= 7 => 0.85m, _ => 0.92m };
        if (c == 0) return null;
        return c * (o - i).Abs() - 2 * u <= touched.Spread && touched.Spread <= o + i + 2 * u;
    }

    private static IEnumerable<Note> Notes(
        RotorMeasurement rotor, int places, Length variation, PerFace<Length> runout, bool? agree, IEnumerable<ThicknessFit> fits, Length u)
    {
        if (places < 3) yield return new("tooFewPlaces");
        else if (places < FullRound) yield return new("variationLowerBound", variation);
        if (rotor.Faces.Outer.Runout is null) yield return new("runoutAssumed", runout.Outer, Subject: "outer");
        if (rotor.Faces.Inner.Runout is null) yield return new("runoutAssumed", runout.Inner, Subject: "inner");
        if (agree == false) yield return new("figuresDisagree", variation, runout.Outer + runout.Inner);
        var worst = fits.MinBy(f => f.Least);
        if (worst is not null && worst.Least < rotor.Readings.Min(r => r.Size) - u)
            yield return new("lookHere", worst.Least, Degrees: Math.Round(worst.LeastAt.Degrees, 0));
        if (rotor.Limits.MachineToDerived) yield return new("machineToDerived", rotor.Limits.MachineTo);
    }
}
