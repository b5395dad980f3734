using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Parts;
using Uncial.Core.Release;

namespace Uncial.Core.Workflow;

/// <summary>What was read on a surface, what that comes to, and where it is to be read.</summary>
public sealed class MeasureState
{
    private readonly SurfaceState surface;
    private readonly SurfaceFacts facts;
    private readonly Workshop shop;
    private readonly ILookup<ReadingKind, ReadingFact> standing;
    private Length? uncertainty;
    private RotorFigures? rotorFigures;
    private DrumFigures? drumFigures;
    private IReadOnlyList<ReadingPlace>? places;

    internal MeasureState(SurfaceState surface)
    {
        (this.surface, facts, shop) = (surface, surface.Facts, surface.Shop);
        standing = facts.Readings.Where(r => r.Stands).Ordered().ToLookup(r => r.Kind);
        Suspect = [.. facts.Readings.Where(r => r.Withdrawn is null && r.Flagged is not null).Ordered()];
        Sizes = [.. standing[ReadingKind.Size].Where(r => r.Cuts == surface.CutsDone && surface.IsSinceItCameBack(r))];
        SizesBefore = [.. standing[ReadingKind.Size].Where(r => r.Cuts == 0)];
    }

    private PartKind Kind => facts.Kind;

    private Limits? Limits => surface.Receiving.Limits;

    private Limits KnownLimits => Limits ?? throw new InvalidOperationException("Limits first.");

    private bool IsRotor => Kind == PartKind.Rotor;

    /// <summary>Points of a rotor that must be read before it is planned.</summary>
    private const int FewestPoints = 3;

    /// <summary>Axes of a drum that must be read before it is planned.</summary>
    private const int FewestAxes = 2;

    /// <summary>Sizes that stand, read since the last cut, the oldest first.</summary>
    public IReadOnlyList<ReadingFact> Sizes { get; }

    /// <summary>Enough is read for a plan.</summary>
    public bool IsEnoughForPlan => IsRotor ? RotorFigures.Places >= FewestPoints : DrumFigures.Axes >= FewestAxes;

    /// <summary>A drum with too little left is not started; one that was cut already goes by its limits.</summary>
    public bool IsBelowFloor => !IsRotor && surface.CutsDone == 0 && Limits is not null && Sizes.Count > 0 && DrumFigures.BelowFloor;

    /// <summary>The part may be planned: enough is read, it is not beyond, a drum is not below the floor, and it is still here.</summary>
    public bool MayBePlanned => IsEnoughForPlan && DiscardVerdict != Verdict.Beyond && !IsBelowFloor && !surface.Part.HasLeft;

    /// <summary>Sizes that stand, read before the first cut.</summary>
    public IReadOnlyList<ReadingFact> SizesBefore { get; }

    /// <summary>Readings whose gauge failed on its standard afterwards. They count for nothing.</summary>
    public IReadOnlyList<ReadingFact> Suspect { get; }

    /// <summary>Readings of a size that were withdrawn, the oldest first.</summary>
    public IReadOnlyList<ReadingFact> WithdrawnSizes =>
        [.. facts.Readings.Where(r => r.Kind == ReadingKind.Size && r.Withdrawn is not null).Ordered()];

    /// <summary>The gauge that read it last, otherwise the shop's usual one; null where the shop has none for it.</summary>
    public WorkshopGauge? Gauge => Sizes.Count > 0 && GaugeOf(Sizes[^1]) is { } used ? used : shop.GaugeFor(Kind);

    /// <summary>Names of the gauges that the standing sizes were read with.</summary>
    public string GaugeNames =>
        Sizes.Any(s => s.GaugeId is not null)
            ? string.Join(", ", Sizes.Select(s => GaugeOf(s)?.Name).OfType<string>().Distinct())
            : Gauge?.Name ?? "";

    /// <summary>The gauge that a reading was taken with; null for one by eye, or from before gauges were on record.</summary>
    public WorkshopGauge? GaugeOf(ReadingFact reading)
    {
        ArgumentNullException.ThrowIfNull(reading);
        return reading.GaugeId is { } id ? shop.Gauges.FirstOrDefault(g => g.Id == id) : null;
    }

    /// <summary>
    /// Expanded uncertainty of the readings: of the place that is known worst. Repeats at a place are averaged, so that it is known better.
    /// </summary>
    public Length Uncertainty => uncertainty ??= UncertaintyOf(Sizes);

    /// <summary>Uncertainty of a reading with the usual gauge, before anything is read; 0 where there is neither gauge nor limit.</summary>
    public Length UsualUncertainty =>
        Gauge is { } gauge && Limits is { } limits
            ? gauge.UncertaintyAt(limits.Nominal ?? limits.MachineTo, 1, false, shop.Rules)
            : Length.Zero;

    /// <summary>The newest standing figure of a whole face or bore, or null.</summary>
    public ReadingFact? Figure(ReadingKind kind) => standing[kind].LastOrDefault();

    /// <summary>The newest standing figure of a whole face that was read since the last cut, or null.</summary>
    public ReadingFact? FigureNow(ReadingKind kind) => standing[kind].LastOrDefault(r => r.Cuts == surface.CutsDone);

    /// <summary>Standing readings of a kind, the oldest first.</summary>
    internal IEnumerable<ReadingFact> Standing(ReadingKind kind) => standing[kind];

    /// <summary>Standing sizes at a place since the last cut; opposite ends of one diameter are one place.</summary>
    public IReadOnlyList<ReadingFact> SizesAt(ReadingPlace place) => [.. Sizes.Where(r => IsAt(r, place))];

    /// <summary>The newest standing reading at a place since the last cut.</summary>
    public ReadingFact? ReadingAt(ReadingPlace place) => Sizes.LastOrDefault(r => IsAt(r, place));

    /// <summary>All places that are to be read, in the order of reading.</summary>
    public IReadOnlyList<ReadingPlace> Places => places ??= PlacesToRead();

    /// <summary>The next place without a reading, or null where all are read.</summary>
    public ReadingPlace? NextPlace => Places.Cast<ReadingPlace?>().FirstOrDefault(p => ReadingAt(p!.Value) is null);

    /// <summary>
    /// The depths or radii of those places, from the outside inwards; one that nobody named counts as the middle of the band.
    /// </summary>
    public IReadOnlyList<Length?> Stations => [.. Places.Select(p => p.Station).Distinct().OrderBy(s => s ?? facts.Band / 2)];

    /// <summary>The rotor as Core measures it.</summary>
    public RotorMeasurement RotorMeasurement =>
        new()
        {
            Limits = KnownLimits,
            Readings = ForCore(Sizes),
            Uncertainty = Uncertainty,
            Faces = new(
                new(RunoutOf(ReadingKind.RunoutOuter), ValueOf(ReadingKind.GrooveOuter), ValueOf(ReadingKind.ReliefOuter)),
                new(RunoutOf(ReadingKind.RunoutInner), ValueOf(ReadingKind.GrooveInner), ValueOf(ReadingKind.ReliefInner))
            ),
        };

    /// <summary>The drum as Core measures it.</summary>
    public DrumMeasurement DrumMeasurement =>
        new()
        {
            Limits = KnownLimits,
            Readings = ForCore(Sizes),
            Uncertainty = Uncertainty,
            Eccentricity = RunoutOf(ReadingKind.Eccentricity),
            Groove = ValueOf(ReadingKind.Groove),
            Relief = ValueOf(ReadingKind.Relief),
        };

    /// <summary>What the readings of a rotor come to.</summary>
    public RotorFigures RotorFigures => rotorFigures ??= RotorAssessment.Assess(RotorMeasurement, shop.Rules);

    /// <summary>What the readings of a drum come to.</summary>
    public DrumFigures DrumFigures => drumFigures ??= DrumAssessment.Assess(DrumMeasurement, shop.Rules);

    /// <summary>Worst reading now: least thickness or largest diameter; null without readings or limits.</summary>
    public Length? Worst =>
        Limits is null ? null
        : IsRotor ? RotorFigures.Least
        : DrumFigures.Largest;

    /// <summary>Worst size before the first cut, or null.</summary>
    public Length? WorstBefore => SizesBefore.Count == 0 || Limits is null ? null : WorstOf(SizesBefore);

    /// <summary>Thickness variation or out-of-round now, or null.</summary>
    public Length? Spread =>
        Limits is null ? null
        : IsRotor ? RotorFigures.ThicknessVariation
        : DrumFigures.Axes >= 2 ? DrumFigures.Roundness?.OutOfRound
        : null;

    /// <summary>The spread is a lower bound only.</summary>
    public bool SpreadIsLowerBound =>
        Limits is null || (IsRotor ? RotorFigures.VariationIsLowerBound : DrumFigures.Roundness is not { Proven: true });

    /// <summary>Thickness variation or out-of-round before the first cut, or null.</summary>
    public Length? SpreadBefore =>
        SizesBefore.Count < 2 || Limits is null ? null
        : IsRotor ? RotorBefore.ThicknessVariation
        : DrumBefore.Roundness?.OutOfRound;

    /// <summary>Taper over the band now; null where only one station was read.</summary>
    public Length? Taper =>
        Limits is null || Sizes.Count == 0 ? null
        : IsRotor ? RotorFigures.Taper
        : DrumFigures.Taper;

    /// <summary>Taper before the first cut, or null.</summary>
    public Length? TaperBefore =>
        SizesBefore.Count < 2 || Limits is null ? null
        : IsRotor ? RotorBefore.Taper
        : DrumBefore.Taper;

    /// <summary>A size since the last cut was read with a coarser gauge than those before the first.</summary>
    public bool IsReadCoarser =>
        surface.CutsDone > 0
        && SizesBefore.Count > 0
        && Sizes.Count > 0
        && Sizes.Max(r => r.Resolution) > SizesBefore.Max(r => r.Resolution);

    /// <summary>Verdict of the standing readings against discard.</summary>
    public Verdict DiscardVerdict =>
        Limits is null ? Verdict.NotEnough
        : IsRotor ? RotorFigures.DiscardVerdict
        : DrumFigures.DiscardVerdict;

    /// <summary>Somebody has looked for grooves on every face: a depth is kept for each, also that there is none.</summary>
    public bool GroovesLookedAt =>
        IsRotor
            ? Figure(ReadingKind.GrooveOuter) is not null && Figure(ReadingKind.GrooveInner) is not null
            : Figure(ReadingKind.Groove) is not null;

    /// <summary>It varies by more than its papers allow: thickness of a rotor, diameters of a drum with two axes or more.</summary>
    public bool VariesTooMuch
    {
        get
        {
            if (Limits is null || facts.MaxVariation is not { } mayVary || Sizes.Count == 0)
                return false;
            return IsRotor
                ? RotorFigures.ThicknessVariation > mayVary
                : DrumFigures is { Axes: >= FewestAxes, Roundness: { } round } && round.OutOfRound > mayVary;
        }
    }

    /// <summary>
    /// Variation and run-out are measured and within what the limit book allows, and no groove asks for a cut.
    /// </summary>
    public bool IsWithinItsPapers
    {
        get
        {
            if (Limits is null || facts.MaxVariation is not { } mayVary || Sizes.Count == 0)
                return false;
            if (!IsRotor)
                return DrumFigures.Roundness is { Proven: true } round && round.OutOfRound <= mayVary && Smooth(ReadingKind.Groove);
            return RotorFigures is { VariationIsLowerBound: false, ThicknessVariation: { } varies }
                && varies <= mayVary
                && Runs(ReadingKind.RunoutOuter)
                && Runs(ReadingKind.RunoutInner)
                && Smooth(ReadingKind.GrooveOuter)
                && Smooth(ReadingKind.GrooveInner);

            bool Runs(ReadingKind kind) => Figure(kind) is { } runout && facts.MaxRunout is { } most && runout.Value <= most;
            bool Smooth(ReadingKind kind) => Figure(kind) is { Value.Millimetres: 0 };
        }
    }

    /// <summary>
    /// Why a size is asked about before it is kept, and the size that it is held against where there is one; null where it can well be.
    /// </summary>
    /// <param name="size">As typed.</param>
    /// <param name="place">Where it was read.</param>
    /// <param name="lastVisit">Worst size when the part left last; null where it was not here before.</param>
    public (Implausible Why, Length? Against)? QuestionOf(Length size, ReadingPlace place, Length? lastVisit)
    {
        if (Limits is not { } limits)
            return null;
        if (Plausibility.Question(size, limits) is { } doubt)
            return (doubt, null);
        var neighbours = Sizes.Where(r => r.Station == place.Station && !IsAt(r, place)).Select(r => r.Value).ToList();
        return Plausibility.Question(Kind, size, neighbours, lastVisit, UsualUncertainty, shop.Rules) is { } unlike
            ? (unlike.Why, unlike.Against)
            : null;
    }

    /// <summary>What it takes to withdraw a reading of a size.</summary>
    public ReadingWithdrawal WithdrawalOf(ReadingFact reading)
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
            reading.Cuts == surface.CutsDone,
            again || reading.Flagged is not null
        );
    }

    /// <summary>
    /// Where a reading more tells most for a judgement that is not sure: at the radius or depth with the most places, against discard
    /// until that is sure, then against machine-to. Null where fewer than two places were read.
    /// </summary>
    public (ReadingPlace Place, NextReading Next)? ReadNext(Judgement judgement, ShapePrior prior)
    {
        ArgumentNullException.ThrowIfNull(judgement);
        return judgement.Decision is Decision.LeadOnly or Decision.Release
            ? ReadNext(l => l.MachineTo, prior)
            : ReadNext(l => l.Discard, prior);
    }

    /// <summary>A limit lies within the uncertainty of the worst reading: discard, or machine-to where discard is sure.</summary>
    public bool IsTooClose =>
        DiscardVerdict == Verdict.TooClose || (DiscardVerdict == Verdict.Within && MachineToVerdict == Verdict.TooClose);

    /// <summary>
    /// Where a reading more tells most before the cut, while a limit is too close to call: a place that may be past it, then the worst
    /// place a
    /// second time. Null where none helps.
    /// </summary>
    /// <param name="prior">How such parts are shaped.</param>
    public ReadingPlace? ReadToDecide(ShapePrior prior)
    {
        if (!IsTooClose || NextPlace is not null)
            return null;
        var next = DiscardVerdict == Verdict.TooClose ? ReadNext(l => l.Discard, prior) : ReadNext(l => l.MachineTo, prior);
        return next is { Next.IsEnough: false } open ? open.Place
            : WorstPlace is { } worst && SizesAt(worst).Count == 1 ? worst
            : null;
    }

    /// <summary>Where the worst size was read; null without readings or limits.</summary>
    public ReadingPlace? WorstPlace =>
        Limits is { } limits && Sizes.MinBy(r => Limits.Margin(Kind, r.Value, limits.Discard)) is { Degrees: { } at } worst
            ? new(at, worst.Station)
            : null;

    private Verdict MachineToVerdict => IsRotor ? RotorFigures.MachineToVerdict : DrumFigures.MachineToVerdict;

    private (ReadingPlace Place, NextReading Next)? ReadNext(Func<Limits, Length> against, ShapePrior prior)
    {
        if (Sizes.Count == 0 || Limits is not { } limits)
            return null;
        var fullest = Sizes.GroupBy(r => r.Station).MaxBy(g => g.Select(SpotOf).Distinct().Count())!;
        (decimal, Length)[] spots = [.. fullest.Select(r => (SpotOf(r).Item1, r.Value))];
        return NextReading.Of(Kind, spots, Uncertainty / 2, against(limits), prior) is { } next
            ? (new(next.At.Degrees, fullest.Key), next)
            : null;
    }

    /// <summary>The place that a note of the judgement speaks of; null where it names none.</summary>
    public ReadingPlace? PlaceOf(Note note)
    {
        ArgumentNullException.ThrowIfNull(note);
        // Core speaks of a rotor's radius, a place of how far in from the edge it lies.
        return note is not Note.ReadTwice { At: var degrees, Station: var station }
            ? null
            : new(degrees, IsRotor ? facts.Diameter / 2 - station : station);
    }

    /// <summary>Sizes that were read after so many cuts.</summary>
    internal IReadOnlyList<ReadingFact> SizesAfter(int cuts) =>
        cuts == surface.CutsDone ? Sizes : [.. standing[ReadingKind.Size].Where(r => r.Cuts == cuts)];

    internal Length WorstOf(IEnumerable<ReadingFact> sizes) => IsRotor ? sizes.Min(r => r.Value) : sizes.Max(r => r.Value);

    internal Length UncertaintyOf(IReadOnlyList<ReadingFact> sizes) =>
        sizes.Count == 0 ? UsualUncertainty : sizes.GroupBy(r => (r.GaugeId, SpotOf(r))).Max(spot => UncertaintyOf(spot.Last()));

    internal (decimal Degrees, Length? Station) SpotOf(ReadingFact reading) => (Spot(reading.Degrees ?? 0), reading.Station);

    /// <summary>Readings as Core takes them; how far in from the edge of a rotor becomes its radius.</summary>
    internal IReadOnlyList<Reading> ForCore(IEnumerable<ReadingFact> readings) =>
        [
            .. readings.Select(r => new Reading(
                ClockAngle.FromDegrees(r.Degrees ?? 0),
                IsRotor ? facts.Diameter / 2 - r.Station : r.Station,
                r.Value
            )),
        ];

    private RotorFigures RotorBefore => RotorAssessment.Assess(RotorMeasurement with { Readings = ForCore(SizesBefore) }, shop.Rules);

    private DrumFigures DrumBefore => DrumAssessment.Assess(DrumMeasurement with { Readings = ForCore(SizesBefore) }, shop.Rules);

    private Length? RunoutOf(ReadingKind kind) => surface.Mounting.RunoutIn(surface.Mounting.Mount, Figure(kind));

    /// <summary>A figure of a whole face, or null where nobody looked.</summary>
    private Length? ValueOf(ReadingKind kind) => Figure(kind)?.Value;

    private bool IsAt(ReadingFact reading, ReadingPlace place) => SpotOf(reading) == (Spot(place.Degrees), place.Station);

    private decimal Spot(decimal degrees) => IsRotor ? degrees : degrees % 180;

    /// <summary>
    /// Uncertainty of one reading: as it was stored, unless a reading at its place that counted as its repeat was withdrawn since. Then it
    /// is worked out anew from those that stand.
    /// </summary>
    private Length UncertaintyOf(ReadingFact reading)
    {
        if (GaugeOf(reading) is not { } gauge || !facts.Readings.Any(RepeatedIt))
            return reading.Uncertainty;
        var repeats = standing[ReadingKind.Size]
            .Count(r => r.Cuts == reading.Cuts && r.GaugeId == reading.GaugeId && SpotOf(r) == SpotOf(reading) && !r.IsAfter(reading));
        return gauge.UncertaintyAt(reading.Value, repeats, reading.ZeroCheckId is not null, shop.Rules);

        bool RepeatedIt(ReadingFact withdrawn) =>
            withdrawn.Withdrawn is not null
            && withdrawn.Kind == reading.Kind
            && withdrawn.Cuts == reading.Cuts
            && withdrawn.GaugeId == reading.GaugeId
            && SpotOf(withdrawn) == SpotOf(reading)
            && reading.IsAfter(withdrawn);
    }

    /// <summary>
    /// The places that are asked for, and after a cut also any other that was read before it: both are compared place by place.
    /// </summary>
    private List<ReadingPlace> PlacesToRead()
    {
        var circle = IsRotor ? 360m : 180m;
        var ends = DrumDepths.Usual(facts.Band);
        Length?[] stations =
            facts.Depths.Count > 0 ? [.. facts.Depths.Select(d => (Length?)d)]
            : EndsCount ? [ends[0], null, ends[^1]]
            : [null];
        // A part whose reading was begun at even places is read to its end at those.
        var (proposed, even) = (ReadingPlaces.Around(Kind, facts.Places), ReadingPlaces.Even(Kind, facts.Places));
        var around = facts.Readings.Any(r =>
            r is { Kind: ReadingKind.Size, Degrees: { } at } && even.Contains(at) && !proposed.Contains(at)
        )
            ? even
            : proposed;
        List<ReadingPlace> asked = IsRotor ? [.. stations.SelectMany(Ring)] : Along(stations);
        var before = surface.CutsDone == 0 ? [] : SizesBefore;
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

        IEnumerable<ReadingPlace> Ring(Length? station) => around.Select(degrees => new ReadingPlace(degrees, station));

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

    /// <summary>
    /// A bore without named depths that was planned and is not bright is read near both ends as well, before it is judged.
    /// </summary>
    private bool EndsCount =>
        !IsRotor
        && facts.Band > Length.Zero
        && surface.Planning is { Document: not null, IsCutToItsEnd: true }
        && !surface.Cutting.TurnedBright;
}
