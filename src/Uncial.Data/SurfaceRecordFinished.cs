using Uncial.Core;
using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Parts;
using Uncial.Core.Release;

namespace Uncial.Data;

/// <summary>The facts about a finished surface: what dial and metal say, its shape, what may lie lower, and the judgement.</summary>
public sealed partial class SurfaceRecord
{
    private ShapeCheck? shape;

    /// <summary>
    /// The worst size that was read where every side is bright: a dark place says nothing of the dial. Null where none was.
    /// </summary>
    private Length? WorstOnBright
    {
        get
        {
            if (Worst is not { } worst || Surface.Passes.MaxBy(p => p.Cut) is not { } last)
                return null;
            if (last is { DarkOuter: 0, DarkInner: 0 })
                return worst;
            var bright = Sizes
                .Where(r => r.Degrees is { } at && Journey.IsBright(Kind, last.DarkOuter, last.DarkInner, at))
                .Select(r => r.Value)
                .ToList();
            return bright.Count == 0 ? null
                : Kind == PartKind.Rotor ? bright.Min()
                : bright.Max();
        }
    }

    /// <summary>
    /// Metal of the newest plan by the dial, and by the worst size now against first touch; null where nothing was cut or read.
    /// </summary>
    private (Length ByDial, Length BySize, Length Slack)? DialAndMetal
    {
        get
        {
            if (PassesOfPlan.Count == 0 || Plan is not { } plan || WorstOnBright is not { } worst)
                return null;
            var byDial =
                (Kind == PartKind.Rotor ? 1 : 2)
                * PassesOfPlan.SelectMany(p => plan.Option.Passes[p.Index].Depth).Aggregate(Length.Zero, (sum, d) => sum + d);
            return (byDial, Limits.Margin(Kind, plan.Request.Touch, worst), plan.Request.DialSlack);
        }
    }

    /// <summary>
    /// The newest cut as the account of its head takes it: turned bright from a first touch that was read and not assumed, by the mean of
    /// the
    /// sizes after it. Null where that is not so.
    /// </summary>
    internal (Length ByDial, Length BySize)? MeasuredCut
    {
        get
        {
            if (!TurnedBright || DialAndMetal is not { } cut || Plan!.Request.Sides.Any(s => s.RunoutAssumed && s.Done == Length.Zero))
                return null;
            var touched = Sizes.GroupBy(r => r.Station).Select(g => g.Aggregate(Length.Zero, (sum, r) => sum + r.Value) / g.Count());
            var mean = Kind == PartKind.Rotor ? touched.Max() : touched.Min();
            return (cut.ByDial, Limits.Margin(Kind, Plan.Request.Touch, mean));
        }
    }

    /// <summary>Millimetres of size on a millimetre of band, from the outermost station to the innermost; null with one station.</summary>
    internal double? SlopeNow
    {
        get
        {
            var stations = Sizes.Where(r => r.Station is not null).GroupBy(r => r.Station!.Value).OrderBy(g => g.Key).ToList();
            if (!TurnedBright || stations.Count < 2 || stations[^1].Key <= stations[0].Key)
                return null;
            double Mean(IEnumerable<ReadingEntry> readings) => (double)readings.Average(r => r.Value.Millimetres);
            return (Mean(stations[^1]) - Mean(stations[0])) / (double)(stations[^1].Key - stations[0].Key).Millimetres;
        }
    }

    /// <summary>What dial and metal say of one another; null where nothing was cut or read.</summary>
    public DialAgreement? Dial => DialAndMetal is { } d ? DialCheck.Compare(d.ByDial, d.BySize, d.Slack) : null;

    /// <summary>The sizes rule out that the dial counts twice or half the depth.</summary>
    public bool DialBorneOut => DialAndMetal is { } d && DialCheck.BearsOut(d.ByDial, d.BySize, d.Slack);

    /// <summary>Says where the dial seems to count twice or half the depth, or drifts; null where it agrees.</summary>
    public Note? DialNote =>
        Dial switch
        {
            DialAgreement.TwiceTheMetal or DialAgreement.HalfTheMetal => new(
                "dialFactorOfTwo",
                DialAndMetal!.Value.ByDial,
                DialAndMetal.Value.BySize
            ),
            DialAgreement.Drifts => new("dialDrifts", DialAndMetal!.Value.ByDial, DialAndMetal.Value.BySize),
            _ => null,
        };

    /// <summary>Thickness variation or out-of-round now, or null.</summary>
    public Length? Spread =>
        Limits is null ? null
        : Kind == PartKind.Rotor ? RotorFigures.ThicknessVariation
        : DrumFigures.Axes >= 2 ? DrumFigures.Roundness?.OutOfRound
        : null;

    /// <summary>The spread is a lower bound only.</summary>
    public bool SpreadIsLowerBound =>
        Limits is null || (Kind == PartKind.Rotor ? RotorFigures.VariationIsLowerBound : DrumFigures.Roundness is not { Proven: true });

    /// <summary>Taper over the band now; null where only one station was read.</summary>
    public Length? Taper =>
        Limits is null || Sizes.Count == 0 ? null
        : Kind == PartKind.Rotor ? RotorFigures.Taper
        : DrumFigures.Taper;

    /// <summary>Taper before the first cut, or null.</summary>
    public Length? TaperBefore =>
        SizesBefore.Count < 2 || Limits is null ? null
        : Kind == PartKind.Rotor ? RotorAssessment.Assess(RotorMeasurement with { Readings = CoreReadings(SizesBefore) }, Shop.Rules).Taper
        : DrumAssessment.Assess(DrumMeasurement with { Readings = CoreReadings(SizesBefore) }, Shop.Rules).Taper;

    /// <summary>The newest standing figure of a whole face that was read since the last cut, or null.</summary>
    public ReadingEntry? FigureNow(ReadingKind kind) => standing[kind].LastOrDefault(r => r.Cuts == CutsDone);

    /// <summary>Its shape now, against the limit book and the shop's rules.</summary>
    public ShapeCheck Shape =>
        shape ??= ShapeCheck.Of(
            Kind,
            new(Spread, SpreadIsLowerBound, Taper, FigureNow(ReadingKind.RunoutOuter)?.Value, FigureNow(ReadingKind.RunoutInner)?.Value),
            Surface.MaxVariation,
            Surface.MaxRunout,
            Shop.Rules
        );

    /// <summary>A size since the last cut was read with a coarser gauge than those before the first.</summary>
    public bool IsReadCoarser =>
        CutsDone > 0 && SizesBefore.Count > 0 && Sizes.Count > 0 && Sizes.Max(r => r.Resolution) > SizesBefore.Max(r => r.Resolution);

    /// <summary>Verdict of the standing readings against discard.</summary>
    public Verdict DiscardVerdict =>
        Limits is null ? Verdict.NotEnough
        : Kind == PartKind.Rotor ? RotorFigures.DiscardVerdict
        : DrumFigures.DiscardVerdict;

    /// <summary>
    /// Variation and run-out are measured and within what the limit book allows, and no groove or low land asks for a cut.
    /// </summary>
    public bool IsWithinItsPapers
    {
        get
        {
            if (Limits is null || Surface.MaxVariation is not { } mayVary || Sizes.Count == 0)
                return false;
            if (Kind == PartKind.Drum)
                return DrumFigures.Roundness is { Proven: true } round
                    && round.OutOfRound <= mayVary
                    && Figure(ReadingKind.Groove) is { Value.Millimetres: 0 };
            bool Runs(ReadingKind kind) => Figure(kind) is { } runout && Surface.MaxRunout is { } most && runout.Value <= most;
            bool Smooth(ReadingKind kind) => Figure(kind) is { Value.Millimetres: 0 };
            return RotorFigures is { VariationIsLowerBound: false, ThicknessVariation: { } varies }
                && varies <= mayVary
                && Runs(ReadingKind.RunoutOuter)
                && Runs(ReadingKind.RunoutInner)
                && Smooth(ReadingKind.GrooveOuter)
                && Smooth(ReadingKind.GrooveInner);
        }
    }

    /// <summary>The judgement on the standing readings.</summary>
    public Judgement Judge(bool readingsAreFit) => Judgement.Of(Finished(readingsAreFit), Shop.Rules);

    private FinishedPart Finished(bool readingsAreFit) =>
        new()
        {
            Limits = Limits ?? throw new InvalidOperationException("Limits first."),
            Readings = CoreReadings(Sizes),
            Uncertainty = Uncertainty,
            GrooveLeft = DepthsLeft.Groove,
            ReliefLeft = DepthsLeft.Relief,
            DepthUncertainty = DepthsLeft.Uncertainty,
            NotLookedAt = DepthsLeft.NotLookedAt,
            SaidByEye = DepthsLeft.SaidByEye,
            TurnedBright = TurnedBright,
            Band = Surface.Band > Length.Zero ? Surface.Band : null,
            Parallelism = Surface.Band > Length.Zero ? Head?.ParallelOver(Surface.Band) : null,
            AsksForSecondReading = true,
            ReadingsAreFit = readingsAreFit && Sizes.All(s => s.FromFile is null),
        };

    /// <summary>Groove that is still there: the sum of both faces, radial in a drum; null: not looked at on some face.</summary>
    public Length? GrooveLeft => DepthsLeft.Groove;

    /// <summary>Grooves and low lands that are still there: as seen after the last pass, or as measured since.</summary>
    public DepthsLeft DepthsLeft => depthsLeft ??= DepthsLeft.Of(FacesLeft, Shop.Rules);

    private DepthsLeft? depthsLeft;

    /// <summary>
    /// What may lie lower on each face. Grooves are looked at anew after every cut; a figure from before it counts no more.
    /// </summary>
    private FaceLeft[] FacesLeft
    {
        get
        {
            // What was on the vehicle since is looked at anew.
            var last = Surface.Passes.Where(IsSinceItCameBack).MaxBy(p => p.Cut);
            FaceLeft Face(string side, int index, ReadingKind groove, ReadingKind relief, Length? seen, int? dark)
            {
                var (grooves, reliefs) = (RepeatedNow(groove), RepeatedNow(relief));
                var once = FigureNow(groove) is { } now && IsSinceItCameBack(now) ? now.Value : seen;
                return new(side, grooves ?? once, reliefs ?? ReliefLeft(index, relief), dark == 0)
                {
                    GrooveIsRepeated = grooves is not null,
                    ReliefIsRepeated = reliefs is not null,
                    GrooveIsByEye = (grooves ?? once) == Length.Zero && IsByEye(groove),
                    ReliefIsByEye = (reliefs ?? ReliefLeft(index, relief)) == Length.Zero && IsByEye(relief),
                };
            }
            return Kind == PartKind.Drum
                ? [Face("bore", 0, ReadingKind.Groove, ReadingKind.Relief, last?.GrooveOuter, last?.DarkOuter)]
                :
                [
                    Face("outer", 0, ReadingKind.GrooveOuter, ReadingKind.ReliefOuter, last?.GrooveOuter, last?.DarkOuter),
                    Face("inner", 1, ReadingKind.GrooveInner, ReadingKind.ReliefInner, last?.GrooveInner, last?.DarkInner),
                ];
        }
    }

    /// <summary>Measurements of a groove or low land with a depth gauge since the last cut, the oldest first.</summary>
    public IReadOnlyList<ReadingEntry> DepthsMeasured(ReadingKind kind) =>
        [
            .. standing[kind]
                .Where(r => r.Cuts == CutsDone && IsSinceItCameBack(r) && GaugeOf(r) is { Kind: Core.Gauges.GaugeKind.DepthGauge }),
        ];

    /// <summary>What stands of a depth since the last cut was said without a gauge, or seen after the pass.</summary>
    private bool IsByEye(ReadingKind kind) => FigureNow(kind) is not { GaugeId: not null };

    /// <summary>A depth that was measured three times alike, nothing else after it; otherwise null.</summary>
    private Length? RepeatedNow(ReadingKind kind) =>
        DepthsMeasured(kind) is { Count: >= RepeatedDepth.Times } depths && ReferenceEquals(depths[^1], FigureNow(kind))
            ? RepeatedDepth.Of([.. depths.Select(d => d.Value)], Shop.Rules)
            : null;

    /// <summary>
    /// The depths to be measured three times, where that may settle a judgement that asks to measure again: each may then turn out less
    /// by the
    /// uncertainty of the mean. Empty where it cannot.
    /// </summary>
    public IReadOnlyList<ReadingKind> DepthsToRepeat(Judgement judgement)
    {
        ArgumentNullException.ThrowIfNull(judgement);
        if (judgement.Decision != Decision.MeasureAgain || TurnedBright || NotLookedAt.Count > 0)
            return [];
        var repeated = DepthsLeft.Of([.. FacesLeft.Select(f => f with { GrooveIsRepeated = true, ReliefIsRepeated = true })], Shop.Rules);
        var less = Shop.Rules.RepeatedDepthUncertainty;
        Length? Least(Length? depth) => depth is { } d ? Length.Max(Length.Zero, d - less) : null;
        var atBest = Finished(readingsAreFit: true) with
        {
            DepthUncertainty = repeated.Uncertainty,
            GrooveLeft = Least(repeated.Groove),
            ReliefLeft = Least(repeated.Relief),
            SaidByEye = [],
        };
        if (Judgement.Of(atBest, Shop.Rules).Decision == Decision.MeasureAgain)
            return [];
        var faces =
            Kind == PartKind.Drum
                ? new[] { (ReadingKind.Groove, ReadingKind.Relief) }
                : [(ReadingKind.GrooveOuter, ReadingKind.ReliefOuter), (ReadingKind.GrooveInner, ReadingKind.ReliefInner)];
        List<ReadingKind> asked = [];
        foreach (var (face, (groove, relief)) in FacesLeft.Zip(faces))
        {
            if (face.IsBright && face.Groove == Length.Zero)
                continue;
            if (!face.GrooveIsRepeated)
                asked.Add(groove);
            if (!face.ReliefIsRepeated)
                asked.Add(relief);
        }
        return asked;
    }

    /// <summary>
    /// Where a reading more tells most for a judgement that is not sure: at the radius or depth with the most places, against discard
    /// until that is
    /// sure, then against machine-to. Null where fewer than two places were read.
    /// </summary>
    public (ReadingPlace Place, NextReading Next)? ReadNext(Judgement judgement, ShapePrior prior)
    {
        ArgumentNullException.ThrowIfNull(judgement);
        if (Sizes.Count == 0 || Limits is not { } limits)
            return null;
        var fullest = Sizes.GroupBy(r => r.Station).MaxBy(g => g.Select(SpotOf).Distinct().Count())!;
        var limit = judgement.Decision is Decision.LeadOnly or Decision.Release ? limits.MachineTo : limits.Discard;
        (decimal, Length)[] spots = [.. fullest.Select(r => (SpotOf(r).Item1, r.Value))];
        return NextReading.Of(Kind, spots, Uncertainty / 2, limit, prior) is { } next ? (new(next.At.Degrees, fullest.Key), next) : null;
    }

    /// <summary>The figures that nobody has given yet and that the judgement asks for.</summary>
    public IReadOnlyList<ReadingKind> NotLookedAt => [.. DepthsLeft.NotLookedAt.Select(KindOf)];

    /// <summary>The figures that were said to be none by eye and that a judgement asks to be looked at with a gauge.</summary>
    public static IReadOnlyList<ReadingKind> LookAgain(Judgement judgement)
    {
        ArgumentNullException.ThrowIfNull(judgement);
        return [.. judgement.Notes.Where(n => n.Code == "lookAgain").Select(n => KindOf(n.Subject!))];
    }

    private static ReadingKind KindOf(string what) =>
        what switch
        {
            "grooveBore" => ReadingKind.Groove,
            "reliefBore" => ReadingKind.Relief,
            _ => Enum.Parse<ReadingKind>(what, ignoreCase: true),
        };

    /// <summary>Turned bright all round in this job, in one chucking or between twin tools.</summary>
    public bool TurnedBright =>
        CutsDone > 0 && LastPassIsClean && (Kind == PartKind.Drum || Lathe.Profile.TwinCutter || Lathe.Profile.BothFacesInOneChucking);

    /// <summary>The last pass left nothing dark.</summary>
    public bool LastPassIsClean => Surface.Passes.MaxBy(p => p.Cut) is { DarkOuter: 0, DarkInner: 0 };
}
