using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Parts;

namespace Uncial.Core.Release;

/// <summary>What may happen to a part after the last measurement.</summary>
public enum Decision
{
    /// <summary>Inside both limits for sure.</summary>
    Release,

    /// <summary>Inside discard for sure, not inside machine-to: a lead hand may release it with a reason.</summary>
    LeadOnly,

    /// <summary>Not sure: measure more or better. Nobody overrides this.</summary>
    MeasureAgain,

    /// <summary>Beyond discard. Nobody overrides this.</summary>
    Never,
}

/// <summary>A finished part as it lies on the bench, ready to be judged.</summary>
public sealed record FinishedPart
{
    /// <summary>Its limits.</summary>
    public required Limits Limits { get; init; }

    /// <summary>The readings taken since the last cut.</summary>
    public required IReadOnlyList<Reading> Readings { get; init; }

    /// <summary>Expanded uncertainty (k = 2) of one reading.</summary>
    public required Length Uncertainty { get; init; }

    /// <summary>Deepest groove that stays: the sum of both faces of a rotor, the radial depth in a drum.</summary>
    public Length GrooveLeft { get; init; }

    /// <summary>Drum only: the bore was turned clean in one chucking in this job.</summary>
    public bool BoredHere { get; init; }

    /// <summary>Part off the lathe, clean, at room temperature, and no reading from a gauge that failed its check.</summary>
    public bool ReadingsAreFit { get; init; } = true;
}

/// <summary>The judgement on a finished part, with everything that it rests on.</summary>
/// <param name="Worst">Least thickness, or largest diameter of readings and proven fit; null without readings.</param>
/// <param name="Allowance">Allowance for what was not read (h); null where no release is possible.</param>
/// <param name="Discard">Worst against discard.</param>
/// <param name="MachineTo">Worst against machine-to.</param>
/// <param name="Decision">What may happen now.</param>
/// <param name="ProbabilityWithinDiscard">0 … 1, Φ(2m/U).</param>
/// <param name="LeftToDiscard">Margin to discard, negative beyond.</param>
/// <param name="LeftToMachineTo">Margin to machine-to, negative beyond.</param>
/// <param name="Notes">Conditions that are not met, and where to read.</param>
public sealed record Judgement(
    Length? Worst, Length? Allowance, Verdict Discard, Verdict MachineTo, Decision Decision,
    double? ProbabilityWithinDiscard, Length? LeftToDiscard, Length? LeftToMachineTo, IReadOnlyList<Note> Notes)
{
    /// <summary>What the part may be at worst: the worst size less (rotor) or plus (drum) uncertainty and allowance; null without readings.</summary>
    /// <param name="kind">Rotor or drum.</param>
    /// <param name="uncertainty">Expanded uncertainty of one reading.</param>
    public Length? AtWorst(PartKind kind, Length uncertainty) =>
        Worst - Limits.Sign(kind) * (uncertainty + (Allowance ?? Length.Zero));

    /// <summary>Judges a finished part by the shop's rules.</summary>
    public static Judgement Of(FinishedPart part, ShopRules rules)
    {
        ArgumentNullException.ThrowIfNull(part);
        ArgumentNullException.ThrowIfNull(rules);
        if (part.Readings.Count == 0)
            return new(null, null, Verdict.NotEnough, Verdict.NotEnough, Decision.MeasureAgain, null, null, null, [new("noReadings")]);
        return new Bench(part, rules).Judge();
    }

    private sealed class Bench(FinishedPart part, ShopRules rules)
    {
        private readonly PartKind kind = part.Limits.Kind;
        private readonly List<Note> notes = [];

        public Judgement Judge()
        {
            var stations = StationReadings.Of(part.Readings, kind);
            var evidence = kind == PartKind.Rotor ? Rotor(stations) : Drum(stations);
            var toDiscard = Limits.Margin(kind, evidence.Worst, part.Limits.Discard);
            var toMachineTo = Limits.Margin(kind, evidence.Worst, part.Limits.MachineTo);
            var discard = Conformity.Decide(toDiscard, part.Uncertainty);
            var machineTo = Conformity.Decide(toMachineTo, part.Uncertainty);
            var surelyInsideDiscard = Sure(evidence, part.Limits.Discard, toDiscard, note: true);
            var decision = discard == Verdict.Beyond ? Decision.Never
                : !surelyInsideDiscard ? Decision.MeasureAgain
                : Sure(evidence, part.Limits.MachineTo, toMachineTo, note: false) ? Decision.Release
                : Decision.LeadOnly;
            return new(evidence.Worst, evidence.Allowance, discard, machineTo, decision,
                Conformity.ProbabilityWithin(toDiscard, part.Uncertainty), toDiscard, toMachineTo, notes);
        }

        /// <summary>What the readings and their fits show, and how much is allowed for the places between them.</summary>
        private sealed record Evidence(Length Worst, Length? Allowance, IReadOnlyList<(Length Worst, Length Uncertainty, decimal Degrees)> Fits);

        private Evidence Rotor(StationReadings[] stations)
        {
            var worst = part.Readings.Min(r => r.Size);
            var variation = stations.Max(s => s.Spread);
            var allowance = stations.Select(s => AllowanceOf(s, variation)).OfType<Length>().Select(h => (Length?)h).Min();
            if (allowance is null) notes.Add(stations.Max(s => s.Spots.Count) < 3 ? new("tooFewPlaces") : new("placesTooFarApart"));
            return new(worst, allowance, [.. RotorAssessment.FitsOf(stations).Select(f => (f.Least, part.Uncertainty, f.LeastAt.Degrees))]);
        }

        /// <summary>A full round of eight leaves little unseen; three to seven leave as much as they found, unless they lie where two lobes hide.</summary>
        private Length? AllowanceOf(StationReadings station, Length variation)
        {
            var gap = station.WidestGap(360);
            if (station.Spots.Count >= RotorAssessment.FullRound && gap <= 60) return variation / rules.UnreadShareOfVariation;
            return station.Spots.Count >= 3 && gap <= 150 && !AllNearSquare(station) ? variation : null;
        }

        private static bool AllNearSquare(StationReadings station)
        {
            var degrees = station.Spots.Select(s => s.Degrees).ToList();
            return Enumerable.Range(0, degrees.Count).All(i =>
            {
                var step = i == 0 ? degrees[0] + 360 - degrees[^1] : degrees[i] - degrees[i - 1];
                // A place read twice a hair apart is one place; four places a few degrees off the square still see nothing of two lobes.
                return step is <= 10 or (>= 80 and <= 100);
            });
        }

        private Evidence Drum(StationReadings[] stations)
        {
            var ovals = stations.Select(DrumAssessment.OvalOf).ToList();
            var worst = part.Readings.Max(r => r.Size);
            foreach (var oval in ovals.OfType<DrumAssessment.Oval>()) worst = Length.Max(worst, oval.Largest);
            Length? allowance = null;
            if (ovals.TrueForAll(o => o is not null)) allowance = Length.Zero;
            else if (part.BoredHere && stations.Max(s => s.Spots.Count) >= 2)
                allowance = part.Readings.Max(r => r.Size) - part.Readings.Min(r => r.Size);
            if (allowance is null) notes.Add(new("roundnessNotProven"));
            return new(worst, allowance, [.. ovals.OfType<DrumAssessment.Oval>().Select(o => (o.Largest, o.Uncertainty(part.Uncertainty), o.LargestAxis))]);
        }

        /// <summary>The test of section "release": everything unread, unfit or grooved must fit inside the margin too.</summary>
        private bool Sure(Evidence evidence, Length limit, Length margin, bool note)
        {
            var (u, sure) = (part.Uncertainty, true);
            void Unmet(Note why) { sure = false; if (note) notes.Add(why); }
            if (u == Length.Zero) Unmet(new("noUncertainty"));
            if (!part.ReadingsAreFit) Unmet(new("readingsNotFit"));
            if (evidence.Allowance is not { } h) sure = false;
            else if (margin < u + h) Unmet(h == Length.Zero || margin < u ? new("tooClose", margin, u) : new("spread", h, margin - u));
            var groove = kind == PartKind.Drum ? 2 * part.GrooveLeft : part.GrooveLeft;
            if (groove > Length.Zero && groove > margin - u) Unmet(new("groove", groove, margin - u));
            foreach (var fit in evidence.Fits)
                if (Limits.Margin(kind, fit.Worst, limit) < fit.Uncertainty) Unmet(new("readHere", fit.Worst, Degrees: Math.Round(fit.Degrees, 0)));
            return sure;
        }
    }
}
