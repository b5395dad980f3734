using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Parts;
using Uncial.Core.Reasoning;

namespace Uncial.Core.Release;

/// <summary>What may happen to a part after the last measurement.</summary>
public enum Decision
{
    /// <summary>Inside both limits for sure.</summary>
    Release,

    /// <summary>Inside discard for sure, not inside machine-to: a lead may release it with a reason.</summary>
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

    /// <summary>Deepest groove that stays: the sum of both faces of a rotor, the radial depth in a drum; null: nobody looked.</summary>
    public Length? GrooveLeft { get; init; }

    /// <summary>
    /// From the lands that were read down to the lowest dark land that was not: the sum of both faces of a rotor, radial in a drum; null:
    /// nobody
    /// looked. Not asked where the part was turned bright.
    /// </summary>
    public Length? ReliefLeft { get; init; }

    /// <summary>
    /// What those depths may be more than they were read, together (<see cref="DepthsLeft.UncertaintyOf"/>); null: that of all faces by the
    /// shop's rule. Does not count where the part was turned bright.
    /// </summary>
    public Length? DepthUncertainty { get; init; }

    /// <summary>What nobody looked at, by name; where it is empty, groove and relief are named as a whole.</summary>
    public IReadOnlyList<string> NotLookedAt { get; init; } = [];

    /// <summary>Grooves and low lands that were said to be none by eye, by name. Near the limit they are looked at with a gauge.</summary>
    public IReadOnlyList<string> SaidByEye { get; init; } = [];

    /// <summary>
    /// Turned bright all round in this job, in one chucking or between twin tools: no land lies lower than where the tools went.
    /// </summary>
    public bool TurnedBright { get; init; }

    /// <summary>
    /// What such a surface may run out of parallel over its band, both faces of a rotor together, in diameter of a drum; null: unknown, the
    /// shop's rule.
    /// </summary>
    public Length? Parallelism { get; init; }

    /// <summary>Width of the swept band; null where it is not known.</summary>
    public Length? Band { get; init; }

    /// <summary>Near a limit the worst place must have been read twice.</summary>
    public bool AsksForSecondReading { get; init; }

    /// <summary>Part off the lathe, clean, at room temperature, and no reading from a gauge that failed its check.</summary>
    public bool ReadingsAreFit { get; init; } = true;
}

/// <summary>The judgement on a finished part, with everything that it rests on.</summary>
/// <param name="Worst">Least thickness, or largest diameter of readings and proven fit; null without readings.</param>
/// <param name="Allowance">Allowance for what was not read (h); null where no release is possible.</param>
/// <param name="Discard">Worst against discard.</param>
/// <param name="MachineTo">Worst against machine-to.</param>
/// <param name="Decision">What may happen now.</param>
/// <param name="ProbabilityWithinDiscard">0 … 0.999, Φ(2m/U) of the worst place that was read; null where it is to be measured
/// again.</param>
/// <param name="LeftToDiscard">Margin to discard, negative beyond.</param>
/// <param name="LeftToMachineTo">Margin to machine-to, negative beyond.</param>
/// <param name="Notes">Conditions that are not met, and where to read.</param>
public sealed record Judgement(
    Length? Worst,
    Length? Allowance,
    Verdict Discard,
    Verdict MachineTo,
    Decision Decision,
    double? ProbabilityWithinDiscard,
    Length? LeftToDiscard,
    Length? LeftToMachineTo,
    IReadOnlyList<Note> Notes
)
{
    /// <summary>How it was worked out, in order.</summary>
    public IReadOnlyList<Step> Steps { get; init; } = [];

    /// <summary>
    /// What grooves, low lands and the uncertainty of their depths ask beyond uncertainty and allowance; nothing where the whole band was
    /// turned
    /// bright and no groove stays.
    /// </summary>
    public Length ForWhatLiesLower { get; init; }

    /// <summary>
    /// What the part may be at worst: the worst size less (rotor) or plus (drum) all that it may be off by; null without readings.
    /// </summary>
    /// <param name="kind">Rotor or drum.</param>
    /// <param name="uncertainty">Expanded uncertainty of one reading.</param>
    public Length? AtWorst(PartKind kind, Length uncertainty) =>
        Worst - Limits.Sign(kind) * (uncertainty + (Allowance ?? Length.Zero) + ForWhatLiesLower);

    /// <summary>Judges a finished part by the shop's rules.</summary>
    public static Judgement Of(FinishedPart part, ShopRules rules)
    {
        ArgumentNullException.ThrowIfNull(part);
        ArgumentNullException.ThrowIfNull(rules);
        if (part.Readings.Count == 0)
            return new(null, null, Verdict.NotEnough, Verdict.NotEnough, Decision.MeasureAgain, null, null, null, [new Note.NoReadings()]);
        return new Bench(part, rules).Judge();
    }

    private sealed class Bench(FinishedPart part, ShopRules rules)
    {
        private readonly PartKind kind = part.Limits.Kind;
        private readonly List<Note> notes = [];
        private readonly Steps steps = new();

        /// <summary>What the readings and their fits show, and how much is allowed for the places between them.</summary>
        /// <param name="Worst">The worst size: of the readings, in a drum of the fits as well.</param>
        /// <param name="Places">Distinct places or axes at the fullest station.</param>
        /// <param name="Allowance">Allowance for places that were not read; null where too little was read.</param>
        /// <param name="Fits">What fits say is worst, each with its own uncertainty.</param>
        private sealed record Evidence(
            Length Worst,
            int Places,
            Length? Allowance,
            IReadOnlyList<(Length Worst, Length Uncertainty, decimal Degrees)> Fits
        );

        public Judgement Judge()
        {
            var evidence =
                kind == PartKind.Rotor ? Rotor(StationReadings.Of(part.Readings, kind)) : Drum(Bore.Of(part.Readings, part.Uncertainty));
            if (evidence.Allowance is null)
                steps.Add("allowance", "", Term.State("noAllowance"), null);
            var (toDiscard, discard) = Against("Discard", part.Limits.Discard, evidence);
            var (toMachineTo, machineTo) = Against("MachineTo", part.Limits.MachineTo, evidence);
            var lower = Below();
            var sureOfDiscard =
                IsLookedAt()
                    & IsLookedAtAgain(toDiscard, evidence, lower)
                    & IsReadTwice(toDiscard, toMachineTo)
                    & Sure(evidence, part.Limits.Discard, toDiscard, "Discard", lower)
                && discard == Verdict.Within;
            var decision =
                discard == Verdict.Beyond ? Decision.Never
                : !sureOfDiscard ? Decision.MeasureAgain
                : Sure(evidence, part.Limits.MachineTo, toMachineTo, "MachineTo", lower) ? Decision.Release
                : Decision.LeadOnly;
            steps.Add("decision", "", Term.Named(decision), null);
            return new(
                evidence.Worst,
                evidence.Allowance,
                discard,
                machineTo,
                decision,
                ProbabilityOf(toDiscard, decision),
                toDiscard,
                toMachineTo,
                notes
            )
            {
                ForWhatLiesLower = lower.Total - part.Uncertainty,
                Steps = steps.All,
            };
        }

        private double? ProbabilityOf(Length margin, Decision decision)
        {
            if (decision == Decision.MeasureAgain)
                return null;
            var probability = Conformity.ProbabilityWithin(margin, part.Uncertainty);
            steps.Add(
                "probability",
                part.Uncertainty == Length.Zero ? "" : "Φ(2 · {0} / {1})",
                Term.Number(probability),
                null,
                margin,
                part.Uncertainty
            );
            return Math.Min(probability, Conformity.MostCertain);
        }

        private (Length Margin, Verdict Verdict) Against(string limit, Length at, Evidence evidence)
        {
            var needed = kind == PartKind.Rotor ? 3 : 2;
            var (margin, verdict) = Margins.Step(
                steps,
                kind,
                limit,
                evidence.Worst,
                part.Limits,
                evidence.Places,
                needed,
                part.Uncertainty
            );
            // In a drum a fit may be past the limit by less than its own uncertainty: its verdict counts beside that of the readings.
            if (verdict != Verdict.NotEnough && kind == PartKind.Drum)
                foreach (var fit in evidence.Fits)
                    verdict = Conformity.Worse(verdict, Conformity.Decide(Limits.Margin(kind, fit.Worst, at), fit.Uncertainty));
            return (margin, verdict);
        }

        private Evidence Rotor(StationReadings[] stations)
        {
            var worst = WorstOf(stations);
            var widest = stations.MaxBy(s => s.Spread)!;
            steps.Add("thicknessVariation", "{0} − {1}", widest.Spread, null, widest.Greatest, widest.Least);
            var allowance = new Unread(part, rules, steps, notes).OfRotor(stations);
            return new(
                worst,
                stations.Max(s => s.Spots.Length),
                allowance,
                [.. RotorAssessment.FitsOf(stations).Select(f => (f.Least, f.Uncertainty(part.Uncertainty), f.LeastAt.Degrees))]
            );
        }

        private Evidence Drum(Bore bore)
        {
            var worst = WorstOf(bore.Depths);
            (Length Worst, Length Uncertainty, decimal Degrees)[] fits = [.. bore.Largest()];
            foreach (var (largest, _, _) in fits)
            {
                steps.Add("largest", "max({0}, {1})", Length.Max(worst, largest), null, worst, largest);
                worst = Length.Max(worst, largest);
            }
            return new(worst, bore.Depths.Max(d => d.Spots.Length), new Unread(part, rules, steps, notes).OfDrum(bore), fits);
        }

        /// <summary>
        /// The worst reading. Where the worst place must have been read twice, the worst of the places, each by the mean of its readings.
        /// </summary>
        private Length WorstOf(StationReadings[] stations)
        {
            var worst = kind == PartKind.Rotor ? stations.Min(s => s.Least) : stations.Max(s => s.Greatest);
            steps.AddOver(
                kind == PartKind.Rotor ? "least" : "greatest",
                kind == PartKind.Rotor ? "min" : "max",
                worst,
                null,
                StationReadings.TermsOf(part.Readings)
            );
            if (!part.AsksForSecondReading)
                return worst;
            deciding = part
                .Readings.GroupBy(r => (PlaceOf(r), r.Station))
                .Select(Place.Of(kind, part.Uncertainty))
                .MinBy(p => Limits.Margin(kind, p.Size, worst))!;
            if (deciding.Disagrees)
                notes.Add(new Note.RepeatsDisagree(deciding.Sizes.Min(), deciding.Sizes.Max()));
            else if (deciding.Sizes.Length > 1)
                steps.AddOver("worstMean", "mean", deciding.Size, null, [.. deciding.Sizes.Select(r => (Term)r)]);
            return deciding.Size;
        }

        private Place? deciding;

        /// <summary>
        /// A place with everything that was read there. Readings too far apart to be of one size are not averaged: the worse one stands.
        /// </summary>
        private sealed record Place(decimal Degrees, Length? Station, Length[] Sizes, Length Size, bool Disagrees)
        {
            public static Func<IGrouping<(decimal Degrees, Length? Station), Reading>, Place> Of(PartKind kind, Length u) =>
                place =>
                {
                    Length[] sizes = [.. place.Select(r => r.Size)];
                    var (least, greatest) = (sizes.Min(), sizes.Max());
                    var disagrees = greatest - least > 2 * u;
                    var size = disagrees
                        ? kind == PartKind.Rotor
                            ? least
                            : greatest
                        : sizes.Aggregate(Length.Zero, (sum, s) => sum + s) / sizes.Length;
                    return new(place.Key.Degrees, place.Key.Station, sizes, size, disagrees);
                };
        }

        private decimal PlaceOf(Reading reading) => kind == PartKind.Rotor ? reading.At.Degrees : reading.At.Axis;

        /// <summary>Near a limit one reading may be a slip: the worst place has been read twice, and both agree.</summary>
        private bool IsReadTwice(Length toDiscard, Length toMachineTo)
        {
            var near = part.Uncertainty + rules.Gauges.SecondReadingWithin;
            if (deciding is not { } place || (toDiscard >= near && toMachineTo.Abs() >= near))
                return true;
            if (place.Sizes.Length == 1)
                notes.Add(new Note.ReadTwice(place.Size, place.Station, place.Degrees));
            return place is { Sizes.Length: > 1, Disagrees: false };
        }

        /// <summary>Grooves and low lands: what nobody looked at is not nothing.</summary>
        private bool IsLookedAt()
        {
            var missing =
                part.NotLookedAt.Count > 0
                    ? part.NotLookedAt
                    :
                    [
                        .. part.GrooveLeft is null ? ["groove"] : Array.Empty<string>(),
                        .. part.ReliefLeft is null && !part.TurnedBright ? ["relief"] : Array.Empty<string>(),
                    ];
            foreach (var what in missing)
                notes.Add(new Note.NotLookedAt(what));
            return missing.Count == 0;
        }

        /// <summary>
        /// What somebody overlooks is seldom deep: "none", said by eye, is enough while so much would be left. Nearer to discard a gauge
        /// is laid on.
        /// </summary>
        private bool IsLookedAtAgain(Length toDiscard, Evidence evidence, Lower lower)
        {
            if (part.SaidByEye.Count == 0 || toDiscard - (evidence.Allowance ?? Length.Zero) - lower.Total >= rules.Shape.LookAgainWithin)
                return true;
            // Too close to call without it: looking again would settle nothing.
            if (toDiscard < (evidence.Allowance ?? Length.Zero) + lower.Total)
                return true;
            foreach (var what in part.SaidByEye)
                notes.Add(new Note.LookAgain(rules.Shape.LookAgainWithin, what));
            return false;
        }

        /// <summary>
        /// What must fit between the worst size and the limit beside the allowance: grooves and low lands that stay, and what readings and
        /// depths may be wrong by; these add in squares, since they are read with different gauges.
        /// </summary>
        private Lower Below()
        {
            var (times, faces) = kind == PartKind.Drum ? (2, 1) : (1, 2);
            var bright = part.TurnedBright;
            var (groove, relief) = (
                times * (part.GrooveLeft ?? Length.Zero),
                bright ? Length.Zero : times * (part.ReliefLeft ?? Length.Zero)
            );
            var depth = bright
                ? Length.Zero
                : times * (part.DepthUncertainty ?? DepthsLeft.UncertaintyOf(faces, rules.Shape.DepthUncertainty));
            var both =
                depth == Length.Zero
                    ? part.Uncertainty
                    : Length.FromTrigonometry(
                        Math.Sqrt(Math.Pow((double)part.Uncertainty.Millimetres, 2) + Math.Pow((double)depth.Millimetres, 2)),
                        Toward.Greater
                    );
            return new(groove, relief, depth, both);
        }

        private sealed record Lower(Length Groove, Length Relief, Length Depth, Length Both)
        {
            public Length Total => Groove + Relief + Both;
        }

        /// <summary>The test of section "release": everything unread, unfit or grooved must fit inside the margin too.</summary>
        private bool Sure(Evidence evidence, Length limit, Length margin, string name, Lower lower)
        {
            var (u, sure, note) = (part.Uncertainty, true, name == "Discard");
            void Unmet(Note why)
            {
                sure = false;
                if (note)
                    notes.Add(why);
            }
            if (u == Length.Zero)
                Unmet(new Note.NoUncertainty());
            if (!part.ReadingsAreFit)
                Unmet(new Note.ReadingsNotFit());
            if (evidence.Allowance is not { } h)
                sure = false;
            else
            {
                var keeps = margin >= h + lower.Total;
                steps.Add(
                    "sureOf" + name,
                    (keeps ? "{0} ≥ " : "{0} < ")
                        + (lower.Depth == Length.Zero ? "{1} + {2} + {3} + {4}" : "{1} + {2} + {3} + √({4}² + {5}²)"),
                    Term.State(keeps ? "sure" : "unsure"),
                    null,
                    margin,
                    h,
                    lower.Groove,
                    lower.Relief,
                    u,
                    lower.Depth
                );
                if (!keeps)
                    Unmet(
                        margin < u ? new Note.TooClose(margin, u)
                        : margin < u + h ? new Note.Spread(h, margin - u)
                        : lower.Groove + lower.Relief > Length.Zero ? new Note.Groove(lower.Groove + lower.Relief, margin - h - lower.Both)
                        : new Note.Unturned(margin - h, lower.Both)
                    );
            }
            foreach (var fit in evidence.Fits)
                if (Limits.Margin(kind, fit.Worst, limit) < fit.Uncertainty)
                    Unmet(new Note.ReadHere(fit.Worst, Math.Round(fit.Degrees, 0)));
            return sure;
        }
    }
}
