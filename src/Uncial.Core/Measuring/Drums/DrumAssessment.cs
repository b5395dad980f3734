using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Reasoning;
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
        return drum.Readings.Count == 0 ? new() : new Bench(drum, rules).Assess();
    }

    private sealed class Bench
    {
        private readonly DrumMeasurement drum;
        private readonly ShopRules rules;
        private readonly Length u;
        private readonly Bore bore;
        private readonly StationReadings[] depths;
        private readonly Oval?[] ovals;
        private readonly StationReadings touched;
        private readonly Oval? touchedOval;
        private readonly int axes;
        private readonly Steps steps = new();

        public Bench(DrumMeasurement drum, ShopRules rules)
        {
            (this.drum, this.rules, u) = (drum, rules, drum.Uncertainty);
            bore = Bore.Of(drum.Readings, u);
            (depths, ovals) = (bore.Depths, bore.Ovals);
            var index = Touched(bore, drum.TouchStation);
            (touched, touchedOval) = (depths[index], bore.Shapes[index]);
            foreach (var depth in depths)
                axes = Math.Max(axes, depth.Spots.Length);
        }

        public DrumFigures Assess()
        {
            var greatest = Greatest();
            var largest = Largest(greatest.Size);
            var roundness = RoundnessOf();
            var toDiscard = Margins.Step(steps, PartKind.Drum, "Discard", largest, drum.Limits, axes, 2, u);
            var toMachineTo = Margins.Step(steps, PartKind.Drum, "MachineTo", largest, drum.Limits, axes, 2, u);
            var belowFloor = toDiscard.Margin < rules.Limits.DrumFloor;
            if (belowFloor)
                steps.Add("belowFloor", "{0} < {1}", Term.State("belowFloor"), null, toDiscard.Margin, rules.Limits.DrumFloor);

            var e = drum.Eccentricity ?? Length.Zero;
            var smallest = touchedOval is null ? touched.Least : Length.Min(touched.Least, touchedOval.Smallest);
            if (touchedOval is null)
                steps.AddOver("smallest", "min", smallest, null, touched.SpotTerms);
            else
                steps.Add("smallest", "min({0}, {1})", smallest, null, touched.Least, touchedOval.Smallest);
            var touch = smallest - 2 * e;
            steps.Add("touch", "{0} − 2 · {1}", touch, null, smallest, e);
            var (groove, relief) = (drum.Groove ?? Length.Zero, drum.Relief ?? Length.Zero);
            var clean = largest + 2 * e + 2 * groove + 2 * relief;
            steps.Add(
                "clean",
                relief > Length.Zero ? "{0} + 2 · {1} + 2 · {2} + 2 · {3}" : "{0} + 2 · {1} + 2 · {2}",
                clean,
                null,
                largest,
                e,
                groove,
                relief
            );
            var need = (clean - touch) / 2;
            steps.Add("need", "({0} − {1})/2", need, "bore", clean, touch);
            var careful = Careful(smallest, e);
            var bound = touched.Least + u;
            steps.Add("touchBound", "{0} + {1}", bound, null, touched.Least, u);
            var (taper, belly) = Profile();

            return new()
            {
                Least = depths.Min(d => d.Least),
                Greatest = greatest.Size,
                GreatestAt = greatest.At,
                Largest = largest,
                Axes = axes,
                StockToDiscard = toDiscard.Margin,
                StockToMachineTo = toMachineTo.Margin,
                DiscardVerdict = WithOvals(drum.Limits.Discard, toDiscard.Verdict),
                MachineToVerdict = WithOvals(drum.Limits.MachineTo, toMachineTo.Verdict),
                BelowFloor = belowFloor,
                Roundness = roundness,
                DepthsToReadAround = [.. bore.Unlike.Select(d => d.Station).OfType<Length>()],
                Taper = taper,
                Belly = belly,
                Touch = touch,
                TouchCareful = careful,
                TouchBound = bound,
                Clean = clean,
                Need = need,
                Notes = Notes(roundness, toDiscard.Margin, belowFloor, taper, belly),
                Steps = steps.All,
            };
        }

        /// <summary>
        /// Largest diameter at which the bit may touch first: off centre by e the bore turns past the bit nearest where the oval is narrow,
        /// so
        /// that it touches less early than the narrow axis and e alone would say. Source: computation, section 4.
        /// </summary>
        private Length Careful(Length smallest, Length e)
        {
            // Readings off the oval widen it: so the figure stays careful, and falls steadily as e grows.
            var largest = touchedOval is null ? smallest : Length.Max(touched.Greatest, touchedOval.Largest);
            var outOfRound = largest - smallest;
            if (e < outOfRound)
            {
                var careful = smallest - e * (e / outOfRound);
                steps.Add("touchCareful", "{0} − {1} · {1} / {2}", careful, null, smallest, e, outOfRound);
                return careful;
            }
            steps.Add("touchCareful", "{0} − 2 · {1}", largest - 2 * e, null, largest, e);
            return largest - 2 * e;
        }

        private static int Touched(Bore bore, Length? said)
        {
            var depths = bore.Depths;
            if (depths.Length == 1 && (said is null || depths[0].Station is null))
                return 0;
            var index = said is null
                ? Enumerable.Range(0, depths.Length).MaxBy(bore.SmallestAt)
                : Array.FindIndex(depths, d => d.Station == said);
            return index >= 0 ? index : throw new ArgumentException("The bit touches at a depth where readings were taken.", nameof(said));
        }

        private Reading Greatest()
        {
            var greatest = drum.Readings[0];
            for (var i = 1; i < drum.Readings.Count; i++)
                if (drum.Readings[i].Size > greatest.Size)
                    greatest = drum.Readings[i];
            steps.AddOver("greatest", "max", greatest.Size, null, StationReadings.TermsOf(drum.Readings));
            return greatest;
        }

        private Length Largest(Length greatest)
        {
            var largest = greatest;
            foreach (var oval in ovals)
            {
                if (oval is null)
                    continue;
                steps.Add("ovalMean", "", oval.Mean, null);
                steps.Add("outOfRound", "{0} − {1}", oval.OutOfRound, null, oval.Largest, oval.Smallest);
                steps.Add("largest", "max({0}, {1})", Length.Max(largest, oval.Largest), null, largest, oval.Largest);
                largest = Length.Max(largest, oval.Largest);
            }
            foreach (var moved in bore.Moved)
            {
                steps.Add("movedShape", "{0} + {1} − {2}", moved.Largest, null, moved.Read, bore.Shape!.Largest, moved.Fitted);
                steps.Add("largest", "max({0}, {1})", Length.Max(largest, moved.Largest), null, largest, moved.Largest);
                largest = Length.Max(largest, moved.Largest);
            }
            return largest;
        }

        /// <summary>A fit may be past a limit by less than its own uncertainty: its verdict counts beside the readings' own.</summary>
        private Verdict WithOvals(Length limit, Verdict ofLargest)
        {
            if (ofLargest == Verdict.NotEnough)
                return ofLargest;
            var verdict = ofLargest;
            foreach (var (worst, uncertainty, _) in bore.Largest())
            {
                var here = Conformity.Decide(limit - worst, uncertainty);
                if (Conformity.Worse(verdict, here) == verdict)
                    continue;
                verdict = here;
                Margins.AddVerdict(
                    steps,
                    limit == drum.Limits.Discard ? "discardVerdict" : "machineToVerdict",
                    limit - worst,
                    uncertainty,
                    verdict
                );
            }
            return verdict;
        }

        /// <summary>
        /// Roundness of the bore: proven where one depth is and the others are, or may be taken from it; out-of-round of its worst depth.
        /// </summary>
        private Roundness RoundnessOf()
        {
            var (worst, spread) = ((Oval?)null, Length.Zero);
            for (var i = 0; i < depths.Length; i++)
            {
                spread = Length.Max(spread, depths[i].Spread);
                if (ovals[i] is { } oval && (worst is null || oval.OutOfRound > worst.OutOfRound))
                    worst = oval;
            }
            return bore.IsProven
                ? new(true, worst!.OutOfRound, worst.LargestAxis, worst.Mean)
                : new(false, worst is null ? spread : Length.Max(spread, worst.OutOfRound), null, null);
        }

        private (Length? Taper, Length? Belly) Profile()
        {
            if (depths.Length < 2)
                return (null, null);
            var (open, back) = (depths[0].SpotMean, depths[^1].SpotMean);
            steps.Add("taper", "{0} − {1}", open - back, null, open, back);
            if (depths.Length < 3)
                return (open - back, null);
            var middle = depths[1..^1].Aggregate(Length.Zero, (sum, d) => sum + d.SpotMean) / (depths.Length - 2);
            var belly = middle - (open + back) / 2;
            steps.Add("belly", "{0} − ({1} + {2})/2", belly, null, middle, open, back);
            return (open - back, belly);
        }

        private Note[] Notes(Roundness roundness, Length left, bool belowFloor, Length? taper, Length? belly)
        {
            List<Note> notes = [];
            if (axes < 2)
                notes.Add(new Note.TooFewAxes());
            else if (!roundness.Proven)
                notes.Add(new Note.RoundnessNotProven(roundness.OutOfRound));
            if (Array.Exists(depths, d => d.Readings.Count > d.Spots.Length))
                notes.Add(new Note.RepeatsAveraged());
            foreach (var oval in ovals)
                if (oval is not null && oval.GreatestResidual > 2 * u)
                    notes.Add(new Note.NotAnOval(oval.GreatestResidual));
            if (taper is { } wider && wider > u)
                notes.Add(new Note.BellMouth(wider));
            if (taper is { } narrower && narrower < -u)
                notes.Add(new Note.NarrowMouth(-narrower));
            if (belly is { } bulge && bulge > u)
                notes.Add(new Note.Barrel(bulge));
            if (belly is { } hollow && hollow < -u)
                notes.Add(new Note.Waist(-hollow));
            if (drum.Groove is null)
                notes.Add(new Note.NotLookedAt("grooveBore"));
            if (drum.Eccentricity is null)
                notes.Add(new Note.EccentricityAssumed(rules.SetUp.AssumedRunout / 2));
            if (belowFloor)
                notes.Add(new Note.BelowFloor(left, rules.Limits.DrumFloor));
            if (drum.Limits.MachineToDerived)
                notes.Add(new Note.MachineToDerived(drum.Limits.MachineTo));
            return [.. notes];
        }
    }
}
