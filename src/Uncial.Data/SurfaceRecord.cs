using Microsoft.EntityFrameworkCore;
using Uncial.Core;
using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Looking;
using Uncial.Core.Measuring;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Reasoning;
using Uncial.Core.Release;

namespace Uncial.Data;

/// <summary>A plan as it was taken: what it rests on and the option that was chosen.</summary>
/// <param name="Request">State of the part and the lathe when it was planned.</param>
/// <param name="Option">The chosen technique with its passes; no passes where the part is left as it is or is finished.</param>
/// <param name="Why">Notes on why it replaced the one before, if it did.</param>
public sealed record PlanDocument(PlanRequest Request, PlanOption Option, IReadOnlyList<Note> Why)
{
    /// <summary>How the metal was read that made this plan replace the one before; none where it is the first.</summary>
    public IReadOnlyList<Step> Seen { get; init; } = [];

    /// <summary>It goes on from the zero of the plan before it: dials are not set to zero again.</summary>
    public bool Continues { get; init; }

    /// <summary>The same, also of plans from before that was kept: what was made from the metal goes on.</summary>
    internal bool GoesOn => Continues || Seen.Count > 0;
}

/// <summary>A place that is to be read: clock position or axis, and depth in a drum.</summary>
public readonly record struct ReadingPlace(decimal Degrees, Length? Station);

/// <summary>The facts about one work surface, read as the job reads them.</summary>
public sealed partial class SurfaceRecord
{
    private readonly ILookup<ReadingKind, ReadingEntry> standing;
    private readonly OutcomeWithdrawal? calledBack;
    private Length? uncertainty;
    private RotorFigures? rotorFigures;
    private DrumFigures? drumFigures;

    /// <summary>Reads a surface whose facts are loaded (see <see cref="WithFacts"/>). What is added later needs a new record.</summary>
    public SurfaceRecord(WorkSurface surface, Part part, Shop shop)
    {
        (Surface, Part, Shop) = (surface, part, shop);
        CutsDone = surface.Passes.Count;
        standing = surface.Readings.Where(r => r.Withdrawal is null && r.Flag is null).Ordered().ToLookup(r => r.Kind);
        Doubted = [.. surface.Readings.Where(r => r.Withdrawal is null && r.Flag is not null).Ordered()];
        Mount = surface.Mounts.Newest() is { } mount && surface.Confirmations.All(c => !c.IsAfter(mount)) ? mount : null;
        SetUps = Mount is null ? [] : [.. surface.SetUps.Where(c => c.MountId == Mount.Id).Ordered()];
        Lathe =
            (Mount?.LatheId ?? surface.Passes.MaxBy(p => p.Cut)?.LatheId) is { } latheId
            && shop.Lathes.Find(l => l.Id == latheId) is { } lathe
                ? lathe
                : shop.LatheFor(surface.Kind, surface.Diameter);
        calledBack = part.CalledBack;
        Sizes =
        [
            .. standing[ReadingKind.Size].Where(r => r.Cuts == CutsDone && (calledBack is not { HadLeft: true } || r.IsAfter(calledBack))),
        ];
        SizesBefore = [.. standing[ReadingKind.Size].Where(r => r.Cuts == 0)];
        Limits = LimitsAfter(int.MaxValue, shop.Rules);
        LatestPlan = NewestPlan();
        PassesOfPlan = LatestPlan is null ? [] : [.. surface.Passes.Where(p => IsOf(p, LatestPlan)).OrderBy(p => p.Index)];
    }

    public WorkSurface Surface { get; }
    public Part Part { get; }
    public Shop Shop { get; }
    public PartKind Kind => Surface.Kind;

    /// <summary>The gauge that read it last, otherwise the shop's usual one; null where the shop has none for it.</summary>
    public Gauge? Gauge => Sizes.Count > 0 && GaugeOf(Sizes[^1]) is { } used ? used : Shop.GaugeFor(Kind);

    /// <summary>The gauge that a reading was taken with; null for one from before gauges had a book.</summary>
    public Gauge? GaugeOf(ReadingEntry reading)
    {
        ArgumentNullException.ThrowIfNull(reading);
        return reading.GaugeId is { } id ? Shop.Gauges.Find(g => g.Id == id) : null;
    }

    /// <summary>Names of the gauges behind the standing sizes.</summary>
    public string GaugeNames =>
        Sizes.Any(s => s.GaugeId is not null)
            ? string.Join(", ", Sizes.Select(s => GaugeOf(s)?.Name).OfType<string>().Distinct())
            : Gauge?.Name ?? "";

    /// <summary>Readings that are in doubt, since their gauge failed on its standard afterwards. They count for nothing.</summary>
    public IReadOnlyList<ReadingEntry> Doubted { get; }

    public Limits? Limits { get; }

    /// <summary>The lathe that it is on, was cut on, or will go on unless another is picked.</summary>
    public ShopLathe Lathe { get; }

    /// <summary>How it is mounted; null where it is not on a lathe, or was confirmed since.</summary>
    public MountEntry? Mount { get; }

    /// <summary>Checks of this mounting, the oldest first. The last one counts.</summary>
    public IReadOnlyList<SetUpEntry> SetUps { get; }

    /// <summary>The check that counts, or null.</summary>
    public SetUpEntry? SetUp => SetUps.Count == 0 ? null : SetUps[^1];

    /// <summary>That it may be cut as it is mounted; a check made afterwards asks anew.</summary>
    public SetUpDecision? SetUpDecision =>
        Mount is null ? null
        : Surface.SetUpDecisions.Where(d => d.MountId == Mount.Id).Newest() is { } decision
        && (SetUp is null || decision.CheckId == SetUp.Id)
            ? decision
        : null;

    /// <summary>It went on against its check, or without one, in this job: the reasons, the oldest first.</summary>
    public IReadOnlyList<SetUpDecision> WentOnAnyway => [.. Surface.SetUpDecisions.Where(d => d.Reason is not null).Ordered()];

    public int CutsDone { get; }

    public PlanEntry? LatestPlan { get; }
    public PlanDocument? Plan => LatestPlan?.Read();
    public IReadOnlyList<PassEntry> PassesOfPlan { get; }
    public IReadOnlyList<ReadingEntry> Sizes { get; }
    public IReadOnlyList<ReadingEntry> SizesBefore { get; }

    /// <summary>
    /// The judgement that holds: of the newest cut, after any recall, and by the limits and rules of now. A limit stated since, or rules
    /// that
    /// were changed, end it; what has left keeps the judgement that it left by.
    /// </summary>
    public Confirmation? Confirmation =>
        Surface.Confirmations.Where(c => c.Cuts == CutsDone && (calledBack is null || c.IsAfter(calledBack))).Newest() is { } newest
        && (Part.Outcome is not null || IsByTheLimitsOfNow(newest))
            ? newest
            : null;

    /// <summary>
    /// A judgement of this cut that holds no more, since limits or rules were changed after it; null where there is none.
    /// </summary>
    public Confirmation? Outdated =>
        Confirmation is null && Part.Outcome is null
            ? Surface.Confirmations.Where(c => c.Cuts == CutsDone && (calledBack is null || c.IsAfter(calledBack))).Newest()
            : null;

    private bool IsByTheLimitsOfNow(Confirmation judged) =>
        Limits is { } now
        && judged.Discard == now.Discard
        && judged.MachineTo == now.MachineTo
        && (judged.RulesId ?? 0) == Shop.RulesId
        && Surface.LimitEntries.All(l => !l.IsAfter(judged))
        && Surface.Settlements.All(s => !s.IsAfter(judged));

    /// <summary>
    /// Expanded uncertainty of the readings: of the place that is known worst. Repeats at a place are averaged, so that it is known better.
    /// </summary>
    public Length Uncertainty => uncertainty ??= UncertaintyOf(Sizes);

    private Length UncertaintyOf(IReadOnlyList<ReadingEntry> sizes) =>
        sizes.Count == 0 ? UsualUncertainty : sizes.GroupBy(r => (r.GaugeId, SpotOf(r))).Max(spot => UncertaintyOf(spot.Last()));

    /// <summary>
    /// Uncertainty of one reading: as it was stored, unless a reading at its place that counted as its repeat was withdrawn since. Then
    /// it is
    /// worked out anew from those that stand.
    /// </summary>
    private Length UncertaintyOf(ReadingEntry reading)
    {
        if (
            GaugeOf(reading) is not { } gauge
            || !Surface.Readings.Any(w =>
                w.Withdrawal is not null
                && w.Kind == reading.Kind
                && w.Cuts == reading.Cuts
                && w.GaugeId == reading.GaugeId
                && SpotOf(w) == SpotOf(reading)
                && reading.IsAfter(w)
            )
        )
            return reading.Uncertainty;
        return gauge.UncertaintyAt(
            reading.Value,
            standing[ReadingKind.Size]
                .Count(r => r.Cuts == reading.Cuts && r.GaugeId == reading.GaugeId && SpotOf(r) == SpotOf(reading) && !r.IsAfter(reading)),
            reading.ZeroCheckId is not null,
            Shop.Rules
        );
    }

    /// <summary>Uncertainty of a reading with the usual gauge, before anything is read; 0 where there is neither gauge nor limit.</summary>
    public Length UsualUncertainty =>
        Gauge is { } gauge && Limits is { } limits
            ? gauge.UncertaintyAt(limits.Nominal ?? limits.MachineTo, 1, false, Shop.Rules)
            : Length.Zero;

    /// <summary>Standing sizes at a place since the last cut; opposite ends of one diameter are one place.</summary>
    public IReadOnlyList<ReadingEntry> SizesAt(ReadingPlace place) => [.. Sizes.Where(r => IsAt(r, place))];

    /// <summary>
    /// Why a size is asked about before it is kept, and the size that it is held against where there is one; null where it can well be.
    /// </summary>
    /// <param name="size">As typed.</param>
    /// <param name="place">Where it was read.</param>
    /// <param name="lastVisit">Worst size when the part left last; null where it was not here before.</param>
    public (Doubt Doubt, Length? Against)? QuestionOf(Length size, ReadingPlace place, Length? lastVisit)
    {
        if (Limits is not { } limits)
            return null;
        if (Plausibility.Question(size, limits) is { } doubt)
            return (doubt, null);
        var neighbours = Sizes.Where(r => r.Station == place.Station).Except(SizesAt(place)).Select(r => r.Value).ToList();
        return Plausibility.Question(Kind, size, neighbours, lastVisit, UsualUncertainty, Shop.Rules) is { } unlike
            ? (unlike.Doubt, unlike.Against)
            : null;
    }

    /// <summary>What it takes to withdraw a reading of a size.</summary>
    public ReadingWithdrawal WithdrawalOf(ReadingEntry reading)
    {
        ArgumentNullException.ThrowIfNull(reading);
        if (reading.Kind != ReadingKind.Size)
            return default;
        var round = standing[ReadingKind.Size].Where(r => r.Cuts == reading.Cuts && r.Id != reading.Id).ToList();
        var isWorst = round.TrueForAll(r => Limits.Margin(Kind, r.Value, reading.Value) >= Length.Zero);
        var again = round.Exists(r =>
            r.IsAfter(reading)
            && SpotOf(r) == SpotOf(reading)
            && r.Resolution <= reading.Resolution
            && (r.GaugeId == reading.GaugeId || r.Uncertainty <= reading.Uncertainty)
        );
        return ReadingWithdrawal.Of(
            reading.Value,
            reading.Uncertainty,
            Limits,
            isWorst,
            reading.Cuts == CutsDone,
            again || reading.Flag is not null
        );
    }

    /// <summary>Readings of a size that were withdrawn, the oldest first: certificate and history show them.</summary>
    public IReadOnlyList<ReadingEntry> WithdrawnSizes =>
        [.. Surface.Readings.Where(r => r.Kind == ReadingKind.Size && r.Withdrawal is not null).Ordered()];

    /// <summary>What was found on it by eye and stands, oldest first.</summary>
    public IReadOnlyList<Finding> Findings =>
        [.. Surface.Findings.Where(f => f.Withdrawal is null && f.Kind != FindingKind.Nothing).Ordered()];

    /// <summary>Somebody has looked at it.</summary>
    public bool IsLookedAt => Surface.Findings.Any(f => f.Withdrawal is null);

    /// <summary>
    /// A finding on any surface of the part that ends its journey: a crack, or that it must not be turned; null where there is none.
    /// </summary>
    public Finding? End =>
        Part
            .Surfaces.SelectMany(s => s.Findings)
            .Where(f => f.Withdrawal is null && Core.Looking.Findings.EndsTheJourney(f.Kind))
            .OrderBy(f => f.Kind)
            .FirstOrDefault();

    /// <summary>The sources of a limit do not say the same, and nobody has settled it.</summary>
    public bool IsDisputed(LimitKind kind) => HeldLimit.Differ(Stated(kind).Select(l => l.Value)) && Settlement(kind) is null;

    /// <summary>The newest standing figure of a whole face or bore, or null.</summary>
    public ReadingEntry? Figure(ReadingKind kind) => standing[kind].LastOrDefault();

    /// <summary>Where it waits.</summary>
    public Station Station =>
        new SurfaceFacts(
            Limits is not null,
            Places.Count,
            Places.Count(p => ReadingAt(p) is not null),
            SetUpDecision is not null,
            Plan?.Option.Passes.Count,
            PassesOfPlan.Count,
            !FinishIsDue,
            Confirmation is { Decision: Decision.Release or Decision.LeadOnly },
            Part.Outcome is not null
        ).Station;

    /// <summary>All places that are to be read, in the order of reading.</summary>
    public IReadOnlyList<ReadingPlace> Places => places ??= PlacesOf(Surface, CutsDone == 0 ? [] : SizesBefore);

    private IReadOnlyList<ReadingPlace>? places;

    /// <summary>
    /// The depths or radii of those places, from the outside inwards; one that nobody named counts as the middle of the band.
    /// </summary>
    public IReadOnlyList<Length?> Stations => [.. Places.Select(p => p.Station).Distinct().OrderBy(s => s ?? Surface.Band / 2)];

    /// <summary>The newest standing reading at a place since the last cut.</summary>
    public ReadingEntry? ReadingAt(ReadingPlace place) => Sizes.LastOrDefault(r => IsAt(r, place));

    /// <summary>The next place without a reading, or null where all are read.</summary>
    public ReadingPlace? NextPlace => Places.Cast<ReadingPlace?>().FirstOrDefault(p => ReadingAt(p!.Value) is null);

    /// <summary>Readings as Core takes them; how far in from the edge of a rotor becomes its radius.</summary>
    private IReadOnlyList<Reading> CoreReadings(IEnumerable<ReadingEntry> entries) =>
        [
            .. entries.Select(r => new Reading(
                ClockAngle.FromDegrees(r.Degrees ?? 0),
                Kind == PartKind.Rotor ? Surface.Diameter / 2 - r.Station : r.Station,
                r.Value
            )),
        ];

    public RotorMeasurement RotorMeasurement =>
        new()
        {
            Limits = Limits ?? throw new InvalidOperationException("Limits first."),
            Readings = CoreReadings(Sizes),
            Uncertainty = Uncertainty,
            Faces = new(
                new(RunoutOf(ReadingKind.RunoutOuter), ValueOf(ReadingKind.GrooveOuter), ValueOf(ReadingKind.ReliefOuter)),
                new(RunoutOf(ReadingKind.RunoutInner), ValueOf(ReadingKind.GrooveInner), ValueOf(ReadingKind.ReliefInner))
            ),
        };

    public DrumMeasurement DrumMeasurement =>
        new()
        {
            Limits = Limits ?? throw new InvalidOperationException("Limits first."),
            Readings = CoreReadings(Sizes),
            Uncertainty = Uncertainty,
            Eccentricity = RunoutOf(ReadingKind.Eccentricity),
            Groove = ValueOf(ReadingKind.Groove),
            Relief = ValueOf(ReadingKind.Relief),
        };

    public RotorFigures RotorFigures => rotorFigures ??= RotorAssessment.Assess(RotorMeasurement, Shop.Rules);

    public DrumFigures DrumFigures => drumFigures ??= DrumAssessment.Assess(DrumMeasurement, Shop.Rules);

    /// <summary>Worst reading now: least thickness or largest diameter; null without readings or limits.</summary>
    public Length? Worst =>
        Limits is null ? null
        : Kind == PartKind.Rotor ? RotorFigures.Least
        : DrumFigures.Largest;

    /// <summary>The worst reading, or where the part is on the lathe the size that its last pass should have left.</summary>
    public Length? Expected =>
        Worst
        ?? (
            CutsDone == 0 ? null
            : PassesOfPlan.Count > 0 ? Plan!.Option.Passes[PassesOfPlan.Count - 1].SizeAfter
            : Plan?.Request.Touch
        );

    /// <summary>Worst size before the first cut, or null.</summary>
    public Length? WorstBefore =>
        SizesBefore.Count == 0 || Limits is null ? null
        : Kind == PartKind.Rotor ? SizesBefore.Min(r => r.Value)
        : SizesBefore.Max(r => r.Value);

    /// <summary>Thickness variation or out-of-round before the first cut, or null.</summary>
    public Length? SpreadBefore =>
        SizesBefore.Count < 2 || Limits is null ? null
        : Kind == PartKind.Rotor
            ? RotorAssessment.Assess(RotorMeasurement with { Readings = CoreReadings(SizesBefore) }, Shop.Rules).ThicknessVariation
        : DrumAssessment.Assess(DrumMeasurement with { Readings = CoreReadings(SizesBefore) }, Shop.Rules).Roundness?.OutOfRound;

    /// <summary>Metal that the dial says was taken in all passes: off the thickness, or on the diameter.</summary>
    public Length TakenByDial =>
        (Kind == PartKind.Rotor ? 1 : 2)
        * Surface.Passes.SelectMany(p => PassOf(p).Depth).Aggregate(Length.Zero, (sum, depth) => sum + depth);

    /// <summary>Metal that the worst sizes before and after say was taken, or null.</summary>
    public Length? TakenBySize => WorstBefore is { } before && Worst is { } after ? (before - after).Abs() : null;

    /// <summary>
    /// The places that are asked for, and after a cut also any other that was read before it: both are compared place by place.
    /// </summary>
    private List<ReadingPlace> PlacesOf(WorkSurface surface, IReadOnlyList<ReadingEntry> before)
    {
        var circle = surface.Kind == PartKind.Rotor ? 360m : 180m;
        Length?[] stations =
            surface.DepthsMm.Length > 0 ? [.. surface.DepthsMm.Select(d => (Length?)Length.FromMillimetres(d))]
            : EndsCount ? [Ends[0], null, Ends[^1]]
            : [null];
        // A part whose reading was begun at even places is read to its end at those.
        var (proposed, even) = (ReadingPlaces.Around(surface.Kind, surface.Places), ReadingPlaces.Even(surface.Kind, surface.Places));
        var around = surface.Readings.Any(r =>
            r.Kind == ReadingKind.Size && r.Degrees is { } at && even.Contains(at) && !proposed.Contains(at)
        )
            ? even
            : proposed;
        IEnumerable<ReadingPlace> Ring(Length? station) => around.Select(degrees => new ReadingPlace(degrees, station));
        List<ReadingPlace> asked = Kind == PartKind.Drum ? Along(stations) : [.. stations.SelectMany(Ring)];
        return
        [
            .. asked,
            .. before
                .Select(r => new ReadingPlace((r.Degrees ?? 0) % circle, r.Station))
                .Distinct()
                .Except(asked)
                .OrderBy(p => p.Station)
                .ThenBy(p => p.Degrees),
        ];

        // A bore at several depths: every axis in the middle, one of them at each other depth, and every axis where that one shows
        // another shape.
        List<ReadingPlace> Along(Length?[] depths)
        {
            var middle = depths[depths.Length / 2];
            List<ReadingPlace> all = [.. Ring(middle), .. depths.Where(d => d != middle).Select(d => new ReadingPlace(0, d))];
            foreach (var depth in depths.Where(d => d != middle).OfType<Length>().Where(IsReadAround))
                all.AddRange(Ring(depth).Skip(1));
            return all;
        }

        // Once it has begun to be, a depth stays read around.
        bool IsReadAround(Length depth) =>
            Sizes.Where(r => r.Station == depth).Select(r => Spot(r.Degrees ?? 0)).Distinct().Count() > 1
            || (Limits is not null && Sizes.Count > 0 && DrumFigures.DepthsToReadAround.Contains(depth));
    }

    private IReadOnlyList<Length> Ends => DrumDepths.Usual(Surface.Band);

    /// <summary>
    /// A bore without named depths that was planned and is not bright is read near both ends as well, before it is judged.
    /// </summary>
    private bool EndsCount =>
        Kind == PartKind.Drum
        && Surface.Band > Length.Zero
        && Plan is { } plan
        && PassesOfPlan.Count == plan.Option.Passes.Count
        && !TurnedBright;

    /// <summary>The place that a note of the judgement speaks of; null where it names none.</summary>
    public ReadingPlace? PlaceOf(Note note)
    {
        ArgumentNullException.ThrowIfNull(note);
        // Core speaks of a rotor's radius, a place of how far in from the edge it lies.
        return note is not { Code: "readTwice", Degrees: { } degrees }
            ? null
            : new(degrees, Kind == PartKind.Rotor ? Surface.Diameter / 2 - note.Second : note.Second);
    }

    private bool IsAt(ReadingEntry reading, ReadingPlace place) => SpotOf(reading) == (Spot(place.Degrees), place.Station);

    private (decimal, Length?) SpotOf(ReadingEntry reading) => (Spot(reading.Degrees ?? 0), reading.Station);

    private decimal Spot(decimal degrees) => Kind == PartKind.Drum ? degrees % 180 : degrees;

    /// <summary>A figure of a whole face, or null where nobody looked.</summary>
    private Length? ValueOf(ReadingKind kind) => Figure(kind)?.Value;

    /// <summary>
    /// Low lands that stay: as measured since the last cut, or before it and less what was cut; null where nobody looked.
    /// </summary>
    private Length? ReliefLeft(int side, ReadingKind kind) =>
        Figure(kind) is not { } figure || !IsSinceItCameBack(figure) ? null
        : figure.Cuts == CutsDone ? figure.Value
        : Length.Max(Length.Zero, figure.Value - TakenFrom(side));

    /// <summary>Not from before the part went out and came back.</summary>
    private bool IsSinceItCameBack(PartFact fact) => calledBack is not { HadLeft: true } || fact.IsAfter(calledBack);

    private Length TakenFrom(int side) => PassesOfPlan.Aggregate(Length.Zero, (sum, p) => sum + Plan!.Option.Passes[p.Index].Depth[side]);

    /// <summary>A query for parts with every fact of their surfaces, in a handful of round trips whatever their number.</summary>
    public static IQueryable<Part> WithFacts(IQueryable<Part> parts) =>
        parts
            .Include(p => p.Job)
            .Include(p => p.Outcomes)
                .ThenInclude(o => o.Withdrawal)
            .Include(p => p.Surfaces.OrderBy(s => s.Id))
                .ThenInclude(s => s.LimitEntries)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Settlements)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Findings)
                    .ThenInclude(f => f.Withdrawal)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Readings)
                    .ThenInclude(r => r.Withdrawal)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Readings)
                    .ThenInclude(r => r.Flag)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Plans)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Passes)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Confirmations)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Mounts)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.SetUps)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.SetUpDecisions)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.CutStarts)
                    .ThenInclude(c => c.Stop)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Finishes)
            .AsSplitQuery();

    /// <summary>The same with the names of those who stated the facts, for the pages that tell them.</summary>
    public static IQueryable<Part> WithFactsAndNames(IQueryable<Part> parts) =>
        WithFacts(parts)
            .Include(p => p.Outcomes)
                .ThenInclude(o => o.By)
            .Include(p => p.Outcomes)
                .ThenInclude(o => o.SignedBy)
            .Include(p => p.Outcomes)
                .ThenInclude(o => o.Certificate!.Prints)
            .Include(p => p.Outcomes)
                .ThenInclude(o => o.Withdrawal!.By)
            .Include(p => p.Outcomes)
                .ThenInclude(o => o.Withdrawal!.SignedBy)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.LimitEntries)
                    .ThenInclude(l => l.By)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.LimitEntries)
                    .ThenInclude(l => l.Signature!.SignedBy)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Settlements)
                    .ThenInclude(l => l.Signature!.SignedBy)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Readings)
                    .ThenInclude(r => r.Withdrawal!.By)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Readings)
                    .ThenInclude(r => r.Withdrawal!.Signature!.SignedBy)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Settlements)
                    .ThenInclude(l => l.By)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Findings)
                    .ThenInclude(f => f.By)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Readings)
                    .ThenInclude(r => r.By)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Plans)
                    .ThenInclude(p => p.By)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Passes)
                    .ThenInclude(p => p.By)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Confirmations)
                    .ThenInclude(c => c.By)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.SetUpDecisions)
                    .ThenInclude(c => c.By)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Mounts)
                    .ThenInclude(c => c.By)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.SetUps)
                    .ThenInclude(c => c.By)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.CutStarts)
                    .ThenInclude(c => c.By)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.CutStarts)
                    .ThenInclude(c => c.Stop!.By)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Finishes)
                    .ThenInclude(c => c.By)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Chatters)
                    .ThenInclude(c => c.By);
}
