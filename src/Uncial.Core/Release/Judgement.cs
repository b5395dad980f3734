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

    /// <summary>
    /// From the lands that were read down to the lowest dark land that was not: the sum of both faces of a rotor, radial in a drum. Nothing
    /// where the whole band was turned bright.
    /// </summary>
    public Length ReliefLeft { get; init; }

    /// <summary>
    /// What those depths may be more than they were read, together; nothing where the whole band was turned bright. See
    /// <see cref="DepthsLeft"/>.
    /// </summary>
    public Length DepthUncertainty { get; init; }

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
    /// <summary>How it was worked out, in order.</summary>
    public IReadOnlyList<Step> Steps { get; init; } = [];

    /// <summary>
    /// What grooves, low lands and the doubt in their depths ask beyond uncertainty and allowance; nothing where those cover it, or where the
    /// whole band was turned bright.
    /// </summary>
    public Length ForWhatLiesLower { get; init; }

    /// <summary>What the part may be at worst: the worst size less (rotor) or plus (drum) all that it may be off by; null without readings.</summary>
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
            return new(null, null, Verdict.NotEnough, Verdict.NotEnough, Decision.MeasureAgain, null, null, null, [new("noReadings")]);
        return new Bench(part, rules).Judge();
    }

    private sealed class Bench(FinishedPart part, ShopRules rules)
    {
        private readonly PartKind kind = part.Limits.Kind;
        private readonly List<Note> notes = [];
        private readonly Steps steps = new();
        private Length lower;

        public Judgement Judge()
        {
            var stations = StationReadings.Of(part.Readings, kind);
            var evidence = kind == PartKind.Rotor ? Rotor(stations) : Drum(stations);
            if (evidence.Allowance is null) steps.Add("allowance", "", Term.State("noAllowance"), null);
            var (toDiscard, discard) = Against("Discard", part.Limits.Discard, evidence.Worst);
            var probability = Conformity.ProbabilityWithin(toDiscard, part.Uncertainty);
            steps.Add("probability", part.Uncertainty == Length.Zero ? "" : "Φ(2 · {0} / {1})", Term.Number(probability), null, toDiscard, part.Uncertainty);
            var surelyInsideDiscard = Sure(evidence, part.Limits.Discard, toDiscard, "Discard");
            var (toMachineTo, machineTo) = Against("MachineTo", part.Limits.MachineTo, evidence.Worst);
            var decision = discard == Verdict.Beyond ? Decision.Never
                : !surelyInsideDiscard ? Decision.MeasureAgain
                : Sure(evidence, part.Limits.MachineTo, toMachineTo, "MachineTo") ? Decision.Release
                : Decision.LeadOnly;
            steps.Add("decision", "", Term.Named(decision), null);
            return new(evidence.Worst, evidence.Allowance, discard, machineTo, decision, probability, toDiscard, toMachineTo, notes)
            {
                ForWhatLiesLower = Length.Max(Length.Zero, lower - part.Uncertainty - (evidence.Allowance ?? Length.Zero)),
                Steps = steps.All,
            };
        }

        /// <summary>What the readings and their fits show, and how much is allowed for the places between them.</summary>
        private sealed record Evidence(Length Worst, Length? Allowance, IReadOnlyList<(Length Worst, Length Uncertainty, decimal Degrees)> Fits);

        private (Length Margin, Verdict Verdict) Against(string limit, Length at, Length worst)
        {
            var margin = Limits.Margin(kind, worst, at);
            steps.Add("stockTo" + limit, "{0} − {1}", margin, null, kind == PartKind.Rotor ? [worst, at] : [at, worst]);
            var verdict = Conformity.Decide(margin, part.Uncertainty);
            Margins.AddVerdict(steps, limit == "Discard" ? "discardVerdict" : "machineToVerdict", margin, part.Uncertainty, verdict);
            return (margin, verdict);
        }

        private Evidence Rotor(StationReadings[] stations)
        {
            var worst = part.Readings.Min(r => r.Size);
            steps.AddOver("least", "min", worst, null, StationReadings.TermsOf(part.Readings));
            var widest = stations.MaxBy(s => s.Spread)!;
            steps.Add("thicknessVariation", "{0} − {1}", widest.Spread, null, widest.Greatest, widest.Least);
            var full = Array.Exists(stations, IsFullRound);
            Length? allowance = full ? widest.Spread / rules.UnreadShareOfVariation
                : Array.Exists(stations, s => s.Spots.Length >= 3 && s.WidestGap(360) <= 150 && !AllNearSquare(s)) ? widest.Spread : null;
            if (full) steps.Add("allowance", "{0} / {1}", allowance!.Value, null, widest.Spread, rules.UnreadShareOfVariation);
            else if (allowance is { } h) steps.Add("allowance", "{0}", h, null, widest.Spread);
            else notes.Add(stations.Max(s => s.Spots.Length) < 3 ? new("tooFewPlaces") : new("placesTooFarApart"));
            return new(worst, allowance, [.. RotorAssessment.FitsOf(stations).Select(f => (f.Least, part.Uncertainty, f.LeastAt.Degrees))]);
        }

        /// <summary>A full round of eight leaves little unseen; three to seven leave as much as they found, unless they lie where two lobes hide.</summary>
        private static bool IsFullRound(StationReadings station) =>
            station.Spots.Length >= RotorAssessment.FullRound && station.WidestGap(360) <= 60;

        /// <summary>A place read twice a hair apart is one place; four places a few degrees off the square still see nothing of two lobes.</summary>
        private static bool AllNearSquare(StationReadings station)
        {
            var spots = station.Spots;
            for (var i = 0; i < spots.Length; i++)
            {
                var step = i == 0 ? spots[0].Degrees + 360 - spots[^1].Degrees : spots[i].Degrees - spots[i - 1].Degrees;
                if (step is not (<= 10 or (>= 80 and <= 100))) return false;
            }
            return true;
        }

        private Evidence Drum(StationReadings[] stations)
        {
            var ovals = Array.ConvertAll(stations, Oval.Of);
            var (least, greatest) = (stations.Min(s => s.Least), stations.Max(s => s.Greatest));
            steps.AddOver("greatest", "max", greatest, null, StationReadings.TermsOf(part.Readings));
            var worst = greatest;
            foreach (var oval in ovals.OfType<Oval>())
            {
                steps.Add("largest", "max({0}, {1})", Length.Max(worst, oval.Largest), null, worst, oval.Largest);
                worst = Length.Max(worst, oval.Largest);
            }
            Length? allowance = null;
            if (Array.TrueForAll(ovals, o => o is not null)) steps.Add("allowance", "", (Length)(allowance = Length.Zero), null);
            else if (part.BoredHere && stations.Max(s => s.Spots.Length) >= 2)
                steps.Add("allowance", "{0} − {1}", (Length)(allowance = greatest - least), null, greatest, least);
            if (allowance is null) notes.Add(new("roundnessNotProven"));
            return new(worst, allowance, [.. ovals.OfType<Oval>().Select(o => (o.Largest, o.Uncertainty(part.Uncertainty), o.LargestAxis))]);
        }

        /// <summary>
        /// Grooves and low lands that stay must fit between the readings and the limit. What the readings and the depths may be wrong by adds
        /// in squares: they are read with different gauges.
        /// </summary>
        private bool HasRoomBelow(Length margin, string name, out Length below, out Length doubt)
        {
            var times = kind == PartKind.Drum ? 2 : 1;
            var (groove, relief, depth, u) = (times * part.GrooveLeft, times * part.ReliefLeft, times * part.DepthUncertainty, part.Uncertainty);
            (below, doubt) = (groove + relief, u);
            if (below == Length.Zero && depth == Length.Zero) return true;
            if (depth > Length.Zero)
                doubt = Length.FromTrigonometry(Math.Sqrt(Math.Pow((double)u.Millimetres, 2) + Math.Pow((double)depth.Millimetres, 2)), Toward.Greater);
            lower = below + doubt;
            var fits = lower <= margin;
            steps.Add("roomBelow" + name, (depth > Length.Zero ? "{0} + {1} + √({2}² + {3}²)" : "{0} + {1} + {2}") + (fits ? " ≤ {4}" : " > {4}"),
                Term.State(fits ? "sure" : "unsure"), null, groove, relief, u, depth, margin);
            return fits;
        }

        /// <summary>The test of section "release": everything unread, unfit or grooved must fit inside the margin too.</summary>
        private bool Sure(Evidence evidence, Length limit, Length margin, string name)
        {
            var (u, sure, note) = (part.Uncertainty, true, name == "Discard");
            void Unmet(Note why) { sure = false; if (note) notes.Add(why); }
            if (u == Length.Zero) Unmet(new("noUncertainty"));
            if (!part.ReadingsAreFit) Unmet(new("readingsNotFit"));
            if (evidence.Allowance is not { } h) sure = false;
            else
            {
                var keeps = margin >= u + h;
                steps.Add("sureOf" + name, keeps ? "{0} ≥ {1} + {2}" : "{0} < {1} + {2}", Term.State(keeps ? "sure" : "unsure"), null, margin, u, h);
                if (!keeps) Unmet(h == Length.Zero || margin < u ? new("tooClose", margin, u) : new("spread", h, margin - u));
            }
            if (!HasRoomBelow(margin, name, out var below, out var doubt)) Unmet(below > Length.Zero ? new("groove", below, margin - doubt) : new("unturned", margin, doubt));
            foreach (var fit in evidence.Fits)
                if (Limits.Margin(kind, fit.Worst, limit) < fit.Uncertainty) Unmet(new("readHere", fit.Worst, Degrees: Math.Round(fit.Degrees, 0)));
            return sure;
        }
    }
}
