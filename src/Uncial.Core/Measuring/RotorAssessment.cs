using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Reasoning;

namespace Uncial.Core.Measuring;

/// <summary>Turns the readings of a rotor into the figures that decide and plan.</summary>
public static class RotorAssessment
{
    /// <summary>Places around the part from which the variation is taken as found and not as a lower bound.</summary>
    public const int FullRound = 8;

    private const double MostLeverage = 1.5;

    /// <summary>Most places from which the share of a wave that is seen is worked out.</summary>
    private const int MostSpots = 36;

    /// <summary>Assesses a rotor. Fewer than three places give figures but no verdict, unless one reading is beyond.</summary>
    /// <exception cref="ArgumentException">The touched station is not among the stations read.</exception>
    public static RotorFigures Assess(RotorMeasurement rotor, ShopRules rules)
    {
        ArgumentNullException.ThrowIfNull(rotor);
        ArgumentNullException.ThrowIfNull(rules);
        return rotor.Readings.Count == 0
            ? new() { RunoutAssumed = new(rotor.Faces.Outer.Runout is null, rotor.Faces.Inner.Runout is null) }
            : new Bench(rotor, rules).Assess();
    }

    /// <summary>The fits of all stations that allow one, for judging what was not read.</summary>
    internal static IEnumerable<ThicknessFit> FitsOf(IEnumerable<StationReadings> stations) =>
        stations.Select(FitOf).OfType<ThicknessFit>();

    /// <summary>
    /// The wave through a station's places with the highest order whose leverage is at most 1.5: places bunched on one side would let it
    /// swing
    /// between them. None with fewer than five places, or a gap over 120°.
    /// </summary>
    internal static ThicknessFit? FitOf(StationReadings station)
    {
        var count = station.Spots.Length;
        if (count < 5 || station.WidestGap(360) > 120)
            return null;
        return (count >= 7 ? Sure(station.Fit(1, 2)) : null) ?? Sure(station.Fit(1));

        static ThicknessFit? Sure(HarmonicFit? fit) =>
            fit?.LargestLeverage() is { } leverage && leverage <= MostLeverage ? new(fit, leverage, fit.LeastAngle()) : null;
    }

    private sealed class Bench
    {
        private readonly RotorMeasurement rotor;
        private readonly ShopRules rules;
        private readonly Length u;
        private readonly StationReadings[] stations;
        private readonly StationReadings touched;
        private readonly int places;
        private readonly Length variation;
        private readonly PerFace<Length?> measured;
        private readonly Steps steps = new();

        public Bench(RotorMeasurement rotor, ShopRules rules)
        {
            (this.rotor, this.rules, u) = (rotor, rules, rotor.Uncertainty);
            stations = StationReadings.Of(rotor.Readings, PartKind.Rotor);
            touched = Touched(stations, rotor.TouchStation);
            foreach (var station in stations)
            {
                places = Math.Max(places, station.Spots.Length);
                if (station.Spread >= variation)
                    variation = station.Spread;
            }
            measured = new(AtTheEdge(rotor.Faces.Outer, "outer"), AtTheEdge(rotor.Faces.Inner, "inner"));
        }

        public RotorFigures Assess()
        {
            var least = Least();
            steps.AddOver("least", "min", least.Size, null, StationReadings.TermsOf(rotor.Readings));
            var widest = stations.Length == 1 ? touched : stations.MaxBy(s => s.Spread)!;
            steps.Add("thicknessVariation", "{0} − {1}", variation, null, widest.Greatest, widest.Least);
            var toDiscard = Margins.Step(steps, PartKind.Rotor, "Discard", least.Size, rotor.Limits, places, 3, u);
            var toMachineTo = Margins.Step(steps, PartKind.Rotor, "MachineTo", least.Size, rotor.Limits, places, 3, u);

            var fit = FitOf(touched);
            var mean = fit?.Mean ?? touched.SpotMean;
            if (fit is not null)
                steps.Add("fitMean", "", mean, null);
            else
                steps.AddOver("mean", "mean", mean, null, touched.SpotTerms);
            var runout = new PerFace<Length>(
                measured.Outer ?? Assumed(measured.Inner, "outer"),
                measured.Inner ?? Assumed(measured.Outer, "inner")
            );
            var need = new PerFace<Length>(
                NeedOf(runout.Outer, rotor.Faces.Outer, "outer"),
                NeedOf(runout.Inner, rotor.Faces.Inner, "inner")
            );
            var touch = mean + (runout.Outer + runout.Inner) / 2;
            steps.Add("touch", "{0} + ({1} + {2})/2", touch, null, mean, runout.Outer, runout.Inner);
            var careful = Careful(mean);
            var bound = touched.Greatest - u;
            steps.Add("touchBound", "{0} − {1}", bound, null, touched.Greatest, u);
            var finished = touch - need.Outer - need.Inner;
            steps.Add("leastFinished", "{0} − {1} − {2}", finished, null, touch, need.Outer, need.Inner);
            var agree = FiguresAgree();
            var taper = Taper();

            return new()
            {
                Least = least.Size,
                LeastAt = least.At,
                Greatest = Greatest(),
                ThicknessVariation = variation,
                VariationIsLowerBound = places < FullRound,
                Places = places,
                StockToDiscard = toDiscard.Margin,
                StockToMachineTo = toMachineTo.Margin,
                DiscardVerdict = toDiscard.Verdict,
                MachineToVerdict = toMachineTo.Verdict,
                Touch = touch,
                TouchCareful = careful,
                TouchBound = bound,
                Need = need,
                Runout = runout,
                LeastFinished = finished,
                RunoutAssumed = new(measured.Outer is null, measured.Inner is null),
                FiguresAgree = agree,
                RunoutsDifferAtMost = RunoutsDifferAtMost(),
                Taper = taper,
                Fit = fit,
                Notes = Notes(runout, agree, taper, stations.Length == 1 ? fit : FitsOf(stations).MinBy(f => f.Least), least.Size),
                Steps = steps.All,
            };
        }

        private static StationReadings Touched(StationReadings[] stations, Length? said)
        {
            if (said is null || stations is [{ Station: null }])
                return stations.Length == 1 ? stations[0] : stations.MinBy(s => s.Greatest)!;
            return Array.Find(stations, s => s.Station == said)
                ?? throw new ArgumentException("The bits touch at a radius where readings were taken.", nameof(said));
        }

        private Reading Least()
        {
            var least = rotor.Readings[0];
            for (var i = 1; i < rotor.Readings.Count; i++)
                if (rotor.Readings[i].Size < least.Size)
                    least = rotor.Readings[i];
            return least;
        }

        private Length Greatest()
        {
            var greatest = stations[0].Greatest;
            for (var i = 1; i < stations.Length; i++)
                greatest = Length.Max(greatest, stations[i].Greatest);
            return greatest;
        }

        /// <summary>A run-out read further in swings more at the edge of the band, in the proportion of the radii.</summary>
        private Length? AtTheEdge(Face face, string side)
        {
            if (face is not { Runout: { } runout, RunoutRadius: { } radius } || rotor.EdgeRadius is not { } edge || edge <= radius)
                return face.Runout;
            var scaled = runout * (edge / radius);
            steps.Add("runoutAtEdge", "{0} · {1} / {2}", scaled, side, runout, edge, radius);
            return scaled;
        }

        /// <summary>Of a face that nobody measured, need takes the larger figure that fits what is known.</summary>
        private Length Assumed(Length? other, string side)
        {
            var larger = Length.Max(variation, rules.SetUp.AssumedRunout);
            if (other is not { } known)
            {
                steps.Add("runoutAssumed", "max({0}, {1})", larger, side, variation, rules.SetUp.AssumedRunout);
                return larger;
            }
            larger = Length.Max(larger, known + variation);
            steps.Add("runoutAssumed", "max({0}, {1}, {2} + {0})", larger, side, variation, rules.SetUp.AssumedRunout, known);
            return larger;
        }

        private Length NeedOf(Length runout, Face face, string side)
        {
            var (groove, relief) = (face.Groove ?? Length.Zero, face.Relief ?? Length.Zero);
            var need = runout + groove + relief;
            steps.Add("need", "{0} + {1} + {2}", need, side, runout, groove, relief);
            return need;
        }

        /// <summary>The careful touch takes the smaller run-out: nothing, or what the variation leaves over from the other face.</summary>
        private Length Careful(Length mean)
        {
            Length AtLeast(Length? other) => other is { } known ? (known - variation).Abs() : Length.Zero;
            var (outer, inner) = (measured.Outer ?? AtLeast(measured.Inner), measured.Inner ?? AtLeast(measured.Outer));
            var careful = Length.Max(mean + (outer + inner) / 2, touched.Greatest);
            steps.Add("touchCareful", "max({0} + ({1} + {2})/2, {3})", careful, null, mean, outer, inner, touched.Greatest);
            return careful;
        }

        /// <summary>
        /// What one face runs out more than the other shows in the thickness: so far at most, where a run-out is assumed. Null where both
        /// are
        /// measured, or fewer than three places were read.
        /// </summary>
        private Length? RunoutsDifferAtMost()
        {
            if (measured is { Outer: not null, Inner: not null } || touched.Spots.Length < 3)
                return null;
            var most = (touched.Spread + 2 * u) / LeastSpreadOfAWave(touched.Spots);
            steps.Add("runoutsDiffer", "({0} + 2 · {1}) / {2}", most, null, touched.Spread, u, LeastSpreadOfAWave(touched.Spots));
            return most;
        }

        private bool? FiguresAgree()
        {
            if (measured.Outer is not { } o || measured.Inner is not { } i || touched.Spots.Length < 3)
                return null;
            var c = LeastSpreadOfAWave(touched.Spots);
            var (low, high) = (c * (o - i).Abs() - 2 * u, o + i + 2 * u);
            var agree = low <= touched.Spread && touched.Spread <= high;
            steps.Add(
                "figuresAgree",
                agree ? "{0} · |{1} − {2}| − 2 · {3} ≤ {4} ≤ {1} + {2} + 2 · {3}"
                    : touched.Spread < low ? "{4} < {0} · |{1} − {2}| − 2 · {3}"
                    : "{4} > {1} + {2} + 2 · {3}",
                Term.State(agree ? "agree" : "disagree"),
                null,
                c,
                o,
                i,
                u,
                touched.Spread
            );
            return agree;
        }

        /// <summary>
        /// The least share of a wave of one high and one low side that these places see, whichever way it lies: 0.75 for three even ones,
        /// 0.71
        /// for four. The least of (max − min of cos(θ − φ))/2 lies where the greatest or the least changes hands, midway between two
        /// places.
        /// </summary>
        private static decimal LeastSpreadOfAWave((decimal Degrees, Length Size)[] spots)
        {
            var least = 1.0;
            // Beyond three dozen places every second or third sees as much.
            var stride = (spots.Length + MostSpots - 1) / MostSpots;
            var count = (spots.Length + stride - 1) / stride;
            Span<double> sines = stackalloc double[count],
                cosines = stackalloc double[count];
            for (var i = 0; i < count; i++)
                (sines[i], cosines[i]) = Math.SinCos((double)spots[i * stride].Degrees * Math.PI / 180);
            for (var i = 0; i < count; i++)
            for (var j = i + 1; j < count; j++)
            for (var half = 0; half < 2; half++)
            {
                var (sine, cosine) = Math.SinCos(
                    ((double)(spots[i * stride].Degrees + spots[j * stride].Degrees) / 2 + half * 180) * Math.PI / 180
                );
                var (high, low) = (-1.0, 1.0);
                for (var k = 0; k < count; k++)
                {
                    var here = cosines[k] * cosine + sines[k] * sine;
                    (high, low) = (Math.Max(high, here), Math.Min(low, here));
                }
                least = Math.Min(least, (high - low) / 2);
            }
            return Math.Floor((decimal)least * 10_000) / 10_000;
        }

        /// <summary>Mean at the greatest radius less mean at the least; null where one radius was read.</summary>
        private Length? Taper()
        {
            if (stations.Length < 2)
                return null;
            var (outside, inside) = (stations[^1].SpotMean, stations[0].SpotMean);
            steps.Add("rotorTaper", "{0} − {1}", outside - inside, null, outside, inside);
            return outside - inside;
        }

        private Note[] Notes(PerFace<Length> runout, bool? agree, Length? taper, ThicknessFit? worst, Length least)
        {
            List<Note> notes = [];
            if (places < 3)
                notes.Add(new Note.TooFewPlaces());
            else if (places < FullRound)
                notes.Add(new Note.VariationLowerBound(variation));
            if (measured.Outer is null)
                notes.Add(new Note.RunoutAssumed(runout.Outer, "outer"));
            if (measured.Inner is null)
                notes.Add(new Note.RunoutAssumed(runout.Inner, "inner"));
            foreach (var (side, face) in new[] { ("Outer", rotor.Faces.Outer), ("Inner", rotor.Faces.Inner) })
            {
                if (face.Groove is null)
                    notes.Add(new Note.NotLookedAt("groove" + side));
                if (face.Relief is null)
                    notes.Add(new Note.NotLookedAt("relief" + side));
            }
            if (agree == false)
                notes.Add(new Note.FiguresDisagree(variation, runout.Outer + runout.Inner));
            if (worst is not null && worst.Least < least - u)
                notes.Add(new Note.LookHere(worst.Least, Math.Round(worst.LeastAt.Degrees, 0)));
            if (taper is { } inside && inside > u)
                notes.Add(new Note.ThinInside(inside));
            if (taper is { } outside && outside < -u)
                notes.Add(new Note.ThinOutside(-outside));
            if (rotor.Limits.MachineToDerived)
                notes.Add(new Note.MachineToDerived(rotor.Limits.MachineTo));
            return [.. notes];
        }
    }
}
