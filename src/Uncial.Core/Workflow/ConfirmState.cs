using Uncial.Core.Cutting;
using Uncial.Core.Gauges;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Release;

namespace Uncial.Core.Workflow;

/// <summary>A finished surface: what dial and metal say, its shape, what may lie lower, and the judgement.</summary>
public sealed class ConfirmState
{
    private readonly SurfaceState surface;
    private readonly SurfaceFacts facts;
    private ShapeCheck? shape;
    private DepthsLeft? depthsLeft;

    internal ConfirmState(SurfaceState surface) => (this.surface, facts) = (surface, surface.Facts);

    private PartKind Kind => surface.Kind;
    private ShopRules Rules => surface.Shop.Rules;
    private MeasureState Measuring => surface.Measuring;
    private PlanState Planning => surface.Planning;

    private ConfirmationFact? Newest =>
        facts
            .Confirmations.Where(c => c.Cuts == surface.CutsDone && (surface.Part.Recalled is not { } recalled || c.IsAfter(recalled)))
            .Newest();

    /// <summary>
    /// The judgement that holds: of the newest cut, after any recall, and by the limits and rules of now. A limit stated since, or rules
    /// that were changed, end it; what has left keeps the judgement that it left by.
    /// </summary>
    public ConfirmationFact? Holding => Newest is { } newest && (surface.Part.HasLeft || IsByTheLimitsOfNow(newest)) ? newest : null;

    /// <summary>
    /// A judgement of this cut that holds no more, since limits or rules were changed after it; null where there is none.
    /// </summary>
    public ConfirmationFact? Outdated => Holding is null && !surface.Part.HasLeft ? Newest : null;

    /// <summary>The judgement on the standing readings.</summary>
    /// <param name="readingsAreFit">Off the lathe, clean, at room temperature.</param>
    public Judgement Judge(bool readingsAreFit) => Judgement.Of(Finished(readingsAreFit), Rules);

    /// <summary>What speaks against it although its size is within the limit: each takes a reason to go on.</summary>
    /// <param name="pair">How it stands to the other side of the axle; null where there is none.</param>
    public IReadOnlyList<Objection> Objections(PairCheck? pair) => Release.Objections.Of(Shape, pair, Dial, Measuring.IsReadCoarser);

    /// <summary>What dial and metal say of one another; null where nothing was cut or read.</summary>
    public DialAgreement? Dial => DialAndMetal is { } d ? DialCheck.Compare(d.ByDial, d.BySize, d.Slack) : null;

    /// <summary>The sizes rule out that the dial counts twice or half the depth.</summary>
    public bool DialVerified => DialAndMetal is { } d && DialCheck.Verifies(d.ByDial, d.BySize, d.Slack);

    /// <summary>Says where the dial seems to count twice or half the depth, or drifts; null where it agrees.</summary>
    public Note? DialNote =>
        (Dial, DialAndMetal) switch
        {
            (DialAgreement.TwiceTheMetal or DialAgreement.HalfTheMetal, { } d) => new Note.DialFactorOfTwo(d.ByDial, d.BySize),
            (DialAgreement.Drifts, { } d) => new Note.DialDrifts(d.ByDial, d.BySize),
            _ => null,
        };

    /// <summary>
    /// The newest cut as the account of its head takes it: turned bright from a first touch that was read and not assumed, by the mean of
    /// the sizes after it. Null where that is not so.
    /// </summary>
    public (Length ByDial, Length BySize)? MeasuredCut
    {
        get
        {
            if (
                !surface.Cutting.TurnedBright
                || DialAndMetal is not { } cut
                || Planning.Document!.Request is not { } request
                || request.Sides.Any(s => s.RunoutAssumed && s.Done == Length.Zero)
            )
                return null;
            var touched = Measuring
                .Sizes.GroupBy(r => r.Station)
                .Select(g => g.Aggregate(Length.Zero, (sum, r) => sum + r.Value) / g.Count())
                .ToList();
            return (cut.ByDial, Limits.Margin(Kind, request.Touch, Kind == PartKind.Rotor ? touched.Max() : touched.Min()));
        }
    }

    /// <summary>Millimetres of size on a millimetre of band, from the outermost station to the innermost; null with one station.</summary>
    public double? SlopeNow
    {
        get
        {
            var stations = Measuring.Sizes.Where(r => r.Station is not null).GroupBy(r => r.Station!.Value).OrderBy(g => g.Key).ToList();
            if (!surface.Cutting.TurnedBright || stations.Count < 2 || stations[^1].Key <= stations[0].Key)
                return null;
            return (Mean(stations[^1]) - Mean(stations[0])) / (double)(stations[^1].Key - stations[0].Key).Millimetres;

            static double Mean(IEnumerable<ReadingFact> readings) => (double)readings.Average(r => r.Value.Millimetres);
        }
    }

    /// <summary>Its shape now, against the limit book and the shop's rules.</summary>
    public ShapeCheck Shape =>
        shape ??= ShapeCheck.Of(
            Kind,
            new(
                Measuring.Spread,
                Measuring.SpreadIsLowerBound,
                Measuring.Taper,
                Measuring.FigureNow(ReadingKind.RunoutOuter)?.Value,
                Measuring.FigureNow(ReadingKind.RunoutInner)?.Value
            ),
            facts.MaxVariation,
            facts.MaxRunout,
            Rules
        );

    /// <summary>Grooves and low lands that are still there: as seen after the last pass, or as measured since.</summary>
    public DepthsLeft DepthsLeft => depthsLeft ??= DepthsLeft.Of(FacesLeft, Rules);

    /// <summary>Measurements of a groove or low land with a depth gauge since the last cut, the oldest first.</summary>
    public IReadOnlyList<ReadingFact> DepthsMeasured(ReadingKind kind) =>
        [
            .. Measuring
                .Standing(kind)
                .Where(r =>
                    r.Cuts == surface.CutsDone
                    && surface.IsSinceItCameBack(r)
                    && Measuring.GaugeOf(r) is { Facts.Kind: GaugeKind.DepthGauge }
                ),
        ];

    /// <summary>
    /// The depths to be measured three times, where that may settle a judgement that asks to measure again: each may then turn out less
    /// by the uncertainty of the mean. Empty where it cannot.
    /// </summary>
    public IReadOnlyList<ReadingKind> DepthsToRepeat(Judgement judgement)
    {
        ArgumentNullException.ThrowIfNull(judgement);
        if (judgement.Decision != Decision.MeasureAgain || surface.Cutting.TurnedBright || NotLookedAt.Count > 0)
            return [];
        var repeated = DepthsLeft.Of([.. FacesLeft.Select(f => f with { GrooveIsRepeated = true, ReliefIsRepeated = true })], Rules);
        var atBest = Finished(readingsAreFit: true) with
        {
            DepthUncertainty = repeated.Uncertainty,
            GrooveLeft = Least(repeated.Groove),
            ReliefLeft = Least(repeated.Relief),
            SaidByEye = [],
        };
        if (Judgement.Of(atBest, Rules).Decision == Decision.MeasureAgain)
            return [];
        List<ReadingKind> asked = [];
        foreach (var (face, (groove, relief)) in FacesLeft.Zip(DepthsOfFaces))
        {
            if (face.IsBright && face.Groove == Length.Zero)
                continue;
            if (!face.GrooveIsRepeated)
                asked.Add(groove);
            if (!face.ReliefIsRepeated)
                asked.Add(relief);
        }
        return asked;

        Length? Least(Length? depth) => depth is { } d ? Length.Max(Length.Zero, d - Rules.Shape.RepeatedDepthUncertainty) : null;
    }

    /// <summary>The figures that nobody has given yet and that the judgement asks for.</summary>
    public IReadOnlyList<ReadingKind> NotLookedAt => [.. DepthsLeft.NotLookedAt.Select(KindOf)];

    /// <summary>The figures that were said to be none by eye and that a judgement asks to be looked at with a gauge.</summary>
    public static IReadOnlyList<ReadingKind> LookAgain(Judgement judgement)
    {
        ArgumentNullException.ThrowIfNull(judgement);
        return [.. judgement.Notes.Where(n => n is Note.LookAgain).Select(n => KindOf(n.Subject!))];
    }

    private (ReadingKind Groove, ReadingKind Relief)[] DepthsOfFaces =>
        Kind == PartKind.Drum
            ? [(ReadingKind.Groove, ReadingKind.Relief)]
            : [(ReadingKind.GrooveOuter, ReadingKind.ReliefOuter), (ReadingKind.GrooveInner, ReadingKind.ReliefInner)];

    private static ReadingKind KindOf(string what) =>
        what switch
        {
            "grooveBore" => ReadingKind.Groove,
            "reliefBore" => ReadingKind.Relief,
            _ => Enum.Parse<ReadingKind>(what, ignoreCase: true),
        };

    private bool IsByTheLimitsOfNow(ConfirmationFact judged) =>
        surface.Receiving.Limits is { } now
        && judged.Discard == now.Discard
        && judged.MachineTo == now.MachineTo
        && (judged.RulesId ?? 0) == surface.Shop.RulesId
        && facts.Limits.All(l => !l.IsAfter(judged))
        && facts.Settlements.All(s => !s.IsAfter(judged));

    /// <summary>
    /// The worst size that was read where every side is bright: a dark place says nothing of the dial. Null where none was.
    /// </summary>
    private Length? WorstOnBright
    {
        get
        {
            if (Measuring.Worst is not { } worst || surface.Cutting.LastPass is not { } last)
                return null;
            if (last.IsClean)
                return worst;
            var bright = Measuring
                .Sizes.Where(r => r.Degrees is { } at && CutState.IsBright(Kind, last.DarkOuter, last.DarkInner, at))
                .ToList();
            return bright.Count == 0 ? null : Measuring.WorstOf(bright);
        }
    }

    /// <summary>
    /// Metal of the newest plan by the dial, and by the worst size now against first touch; null where nothing was cut or read.
    /// </summary>
    private (Length ByDial, Length BySize, Length Slack)? DialAndMetal
    {
        get
        {
            if (Planning is not { Passes: { Count: > 0 } passes, Document: { } plan } || WorstOnBright is not { } worst)
                return null;
            var byDial =
                (Kind == PartKind.Rotor ? 1 : 2)
                * passes.SelectMany(p => plan.Option.Passes[p.Index].Depth).Aggregate(Length.Zero, (sum, d) => sum + d);
            return (byDial, Limits.Margin(Kind, plan.Request.Touch, worst), plan.Request.DialSlack);
        }
    }

    private FinishedPart Finished(bool readingsAreFit) =>
        new()
        {
            Limits = surface.Receiving.Limits ?? throw new InvalidOperationException("Limits first."),
            Readings = Measuring.ForCore(Measuring.Sizes),
            Uncertainty = Measuring.Uncertainty,
            GrooveLeft = DepthsLeft.Groove,
            ReliefLeft = DepthsLeft.Relief,
            DepthUncertainty = DepthsLeft.Uncertainty,
            NotLookedAt = DepthsLeft.NotLookedAt,
            SaidByEye = DepthsLeft.SaidByEye,
            TurnedBright = surface.Cutting.TurnedBright,
            Band = facts.Band > Length.Zero ? facts.Band : null,
            Parallelism = facts.Band > Length.Zero ? surface.Head?.ParallelOver(facts.Band) : null,
            AsksForSecondReading = true,
            ReadingsAreFit = readingsAreFit && Measuring.Sizes.All(s => s.FromFile is null),
        };

    /// <summary>
    /// What may lie lower on each face. Grooves are looked at anew after every cut; a figure from before it counts no more.
    /// </summary>
    private FaceLeft[] FacesLeft
    {
        get
        {
            // What was on the vehicle since is looked at anew.
            var last = facts.Passes.Where(surface.IsSinceItCameBack).MaxBy(p => p.Cut);
            return Kind == PartKind.Drum
                ? [Face("bore", 0, last?.GrooveOuter, last?.DarkOuter)]
                : [Face("outer", 0, last?.GrooveOuter, last?.DarkOuter), Face("inner", 1, last?.GrooveInner, last?.DarkInner)];

            FaceLeft Face(string side, int index, Length? seen, int? dark)
            {
                var (groove, relief) = DepthsOfFaces[index];
                var (grooves, reliefs) = (RepeatedNow(groove), RepeatedNow(relief));
                var left = grooves ?? (Measuring.FigureNow(groove) is { } now && surface.IsSinceItCameBack(now) ? now.Value : seen);
                var low = reliefs ?? ReliefLeft(index, relief);
                return new(side, left, low, dark == 0)
                {
                    GrooveIsRepeated = grooves is not null,
                    ReliefIsRepeated = reliefs is not null,
                    GrooveIsByEye = left == Length.Zero && IsByEye(groove),
                    ReliefIsByEye = low == Length.Zero && IsByEye(relief),
                };
            }
        }
    }

    /// <summary>
    /// Low lands that stay: as measured since the last cut, or before it and less what was cut; null where nobody looked.
    /// </summary>
    private Length? ReliefLeft(int side, ReadingKind kind) =>
        Measuring.Figure(kind) is not { } figure || !surface.IsSinceItCameBack(figure) ? null
        : figure.Cuts == surface.CutsDone ? figure.Value
        : Length.Max(Length.Zero, figure.Value - TakenFrom(side));

    private Length TakenFrom(int side) =>
        Planning.Passes.Aggregate(Length.Zero, (sum, p) => sum + Planning.Document!.Option.Passes[p.Index].Depth[side]);

    /// <summary>What stands of a depth since the last cut was said without a gauge, or seen after the pass.</summary>
    private bool IsByEye(ReadingKind kind) => Measuring.FigureNow(kind) is not { GaugeId: not null };

    /// <summary>A depth that was measured three times alike, nothing else after it; otherwise null.</summary>
    private Length? RepeatedNow(ReadingKind kind) =>
        DepthsMeasured(kind) is { Count: >= RepeatedDepth.Times } depths && ReferenceEquals(depths[^1], Measuring.FigureNow(kind))
            ? RepeatedDepth.Of([.. depths.Select(d => d.Value)], Rules)
            : null;
}
