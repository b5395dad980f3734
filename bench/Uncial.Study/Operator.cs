using System.Globalization;
using Gauge = Uncial.Data.Model.Gauge;
using Part = Uncial.Data.Model.Part;

namespace Uncial.Study;

/// <summary>What the study changes about the product or its use, to learn what a rule is worth.</summary>
/// <param name="Rules">The shop's rules.</param>
/// <param name="NoSecondTerm">The bound does not look at places where one side is still dark.</param>
/// <param name="DialAllowance">Error of a setting, mm; null: one division, at least 0.01.</param>
/// <param name="FixedPlaces">Where a judgement is not sure, places half-way between are read, not those that tell most.</param>
/// <param name="Radii">A rotor is read at three radii, so that the slope of the head is seen.</param>
/// <param name="NeverIndicates">Run-outs are never measured on the lathe, so they are assumed.</param>
/// <param name="ProbesFirst">The plan whose first pass tells the run-out is taken where there is one.</param>
/// <param name="SaysNone">Grooves and low lands are never measured: "none" is said of each.</param>
internal sealed record Variant(
    ShopRules? Rules = null,
    bool NoSecondTerm = false,
    decimal? DialAllowance = null,
    bool SaysNone = false,
    bool NeverIndicates = false,
    bool ProbesFirst = false,
    bool Radii = false,
    bool FixedPlaces = false
)
{
    public static Variant AsBuilt { get; } = new();
}

/// <summary>
/// An operator at the product's pages: states limits, reads where the page asks, answers its questions, mounts and checks the set-up,
/// takes the
/// plan, cuts what it says, and confirms. Every step goes through the same code as the pages; all that the operator knows was read with a
/// gauge
/// or seen on the metal.
/// </summary>
internal sealed partial class Operator
{
    private const LengthUnit Mm = LengthUnit.Millimetre;
    private static readonly Actor Actor = new(1, Role.Operator, DateTimeOffset.UnixEpoch);

    /// <summary>Readings that are added where they tell most, at most.</summary>
    private const int MostMore = 8;

    private readonly VirtualJob job;
    private readonly VirtualPart metal;
    private readonly VirtualLathe lathe;
    private readonly Technique technique;
    private readonly Variant variant;
    private readonly Shop shop;
    private readonly Part part;
    private readonly WorkSurface surface;
    private readonly Gauge gauge;
    private readonly HeadLedger? head;
    private readonly bool rotor;
    private readonly bool scratches;
    private int numbered;
    private double needed;
    private double warmth;
    private int passes;
    private double minutes;
    private int readings;
    private int bounds;
    private int failed;
    private double worstFailure;

    private Operator(VirtualJob job, Technique technique, Variant variant, HeadLedger? head, Repeatability pooled)
    {
        (this.job, this.technique, this.variant, this.head, metal) = (job, technique, variant, head, job.Part);
        lathe = new(metal, job.Work, job.Chance);
        (rotor, scratches) = (metal.Kind == PartKind.Rotor, job.Chance.Happens(0.5));
        gauge = GaugeOf(metal.Kind, pooled);
        shop = ShopOf(job, technique, variant, gauge);
        surface = new()
        {
            Kind = metal.Kind,
            Diameter = Len(metal.DiameterMm),
            Band = Len(metal.BandMm),
            Places = rotor ? RotorAssessment.FullRound : 4,
            DepthsMm = rotor
                ? variant.Radii
                    ? [4, 25, 45]
                    : []
                : [.. DrumDepths.Usual(Len(metal.BandMm)).Select(d => d.Millimetres)],
        };
        part = new() { Tag = "STUDY", Surfaces = { surface } };
    }

    /// <summary>Works a part from the first reading to the decision.</summary>
    /// <param name="job">The part and its circumstances; it is used up.</param>
    /// <param name="technique">How it is cut.</param>
    /// <param name="variant">What is changed about the product; null: nothing.</param>
    /// <param name="head">What the records of the head say; null: none yet.</param>
    /// <param name="pooled">What the records of the gauge say of its repeats.</param>
    public static WorkResult Work(
        VirtualJob job,
        Technique technique,
        Variant? variant = null,
        HeadLedger? head = null,
        Repeatability pooled = default
    ) => new Operator(job, technique, variant ?? Variant.AsBuilt, head, pooled).Work();

    /// <summary>The same, with what the confirmation puts on record of the head; null where it was no measured cut.</summary>
    public static (WorkResult Result, HeadCut? Cut, Length? Allowance) WorkOnRecord(VirtualJob job, Technique technique, HeadLedger? head)
    {
        var person = new Operator(job, technique, Variant.AsBuilt with { Radii = true }, head, default);
        var result = person.Work();
        HeadCut? cut = person.surface.Confirmations is [.., { DialTook: { } dial, MetalGone: { } gone } last]
            ? new(dial, gone, 0, last.Slope)
            : null;
        return (result, cut, person.surface.Plans is [var first, ..] ? first.Contents.Request.Dial.Allowance : null);
    }

    /// <summary>
    /// What a page of a part computes with, measured: its record made anew as after loading, with its plan, what a new plan would start
    /// from, and the
    /// judgement.
    /// </summary>
    /// <returns>Passes on record and the median, milliseconds; null where the job came to fewer passes.</returns>
    public static (int Passes, double Milliseconds)? PageOf(VirtualJob job, Technique technique, int fewest)
    {
        var person = new Operator(job, technique, Variant.AsBuilt, null, default);
        if (person.Work().Passes < fewest)
            return null;
        var surface = person.surface;
        List<double> times = [];
        for (var i = 0; i < 50; i++)
        {
            // As loaded: nothing of a plan's document has been read.
            PlanEntry[] loaded =
            [
                .. surface.Plans.Select(p => new PlanEntry
                {
                    Id = p.Id,
                    Number = p.Number,
                    Version = p.Version,
                    Technique = p.Technique,
                    LatheId = p.LatheId,
                    Document = p.Document,
                }),
            ];
            surface.Plans.Clear();
            surface.Plans.AddRange(loaded);
            foreach (var pass in surface.Passes)
                pass.Plan = null;
            var from = System.Diagnostics.Stopwatch.GetTimestamp();
            var record = new SurfaceRecord(surface, person.part, person.shop);
            _ = (
                record.Station,
                record.Planning.Change,
                record.Planning.Request(true),
                record.Confirming.Judge(true),
                record.Confirming.DialNote
            );
            times.Add(System.Diagnostics.Stopwatch.GetElapsedTime(from).TotalMilliseconds);
        }
        return (surface.Passes.Count, times.Order().ElementAt(times.Count / 2));
    }

    private WorkResult Work()
    {
        var so = new WorkResult { InsideBefore = metal.Inside(metal.Limits.Discard, grooves: true) };
        StateLimits();
        if (!job.Slip(Slips.ZeroCheckSkipped))
            CheckZero();
        ReadAll(0);
        LookAtDepths();
        if (Now().Measuring.DiscardVerdict != Verdict.Beyond && !IsBelowFloor())
        {
            Mount();
            for (var i = 0; i < (job.Chucking == Chucking.TurnedRound ? 1 : metal.Faces.Count); i++)
                Touch(i);
            job.LeaveGaugeLying();
            so = Cut(so);
        }
        return Confirm(so) with { Readings = readings };
    }

    private bool IsBelowFloor() => !rotor && Now().Measuring.DrumFigures.BelowFloor;

    /// <summary>The surface as a page loads it after everything so far was saved.</summary>
    private SurfaceRecord Now()
    {
        Number(surface.LimitEntries);
        Number(surface.Readings);
        Number(surface.Readings.Where(r => r.Flag is not null).Select(r => r.Flag!));
        Number(surface.Mounts);
        Number(surface.SetUps);
        Number(surface.SetUpDecisions);
        Number(surface.Plans);
        Number(surface.CutStarts);
        Number(surface.Passes);
        Number(surface.Finishes);
        Number(surface.Confirmations);
        var record = new SurfaceRecord(surface, part, shop);
        record.Use(head);
        return record;
    }

    private void Number(IEnumerable<PartFact> facts)
    {
        foreach (var fact in facts)
            if (fact.Number == 0)
                (fact.Number, fact.Id) = (++numbered, numbered);
    }

    private static Length Len(double mm) => Length.FromMillimetres(Math.Round((decimal)mm, 6));

    private static TypedLength Typed(double mm)
    {
        var length = Len(mm);
        return new(length.Millimetres.ToString(CultureInfo.InvariantCulture), Mm, length, "");
    }

    private void StateLimits()
    {
        void State(LimitKind kind, double? mm)
        {
            if (mm is { } size)
                ReceiveCommands.StateLimit(surface, kind, Typed(size), Mm, LimitSource.CastMarking, Actor);
        }
        State(LimitKind.Nominal, metal.Limits.Nominal);
        State(LimitKind.MachineTo, metal.Limits.MachineTo);
        State(LimitKind.Discard, metal.Limits.Discard);
    }

    /// <summary>
    /// Off the lathe, cool and clean: gauge checked, read where the page asks, judged; where that is not enough, read between them too.
    /// </summary>
    private WorkResult Confirm(WorkResult so)
    {
        if (!job.Slip(Slips.ZeroCheckSkipped))
            CheckZero();
        if (Now().Cutting.FinishIsDue)
            CutCommands.Finish(Now(), [.. Now().Cutting.FinishSteps.Select(s => s.Kind)], null, Actor);
        ReadAll(0);
        foreach (var kind in Now().Confirming.NotLookedAt)
        {
            var looks = !variant.SaysNone && !job.Slip(Slips.NoneWithoutLooking);
            SayDepth(kind, looks);
        }
        var (between, thrice, more) = (false, false, 0);
        var judgement = Judge();
        for (var guard = 0; guard < 20 && judgement.Decision == Decision.MeasureAgain; guard++)
        {
            var record = Now();
            if (record.Measuring.NextPlace is { } missing)
                ReadAt(missing, 0);
            else if (judgement.Notes.Select(record.Measuring.PlaceOf).FirstOrDefault(p => p is not null) is { } twice)
                ReadAt(twice, 0);
            else if (ConfirmState.LookAgain(judgement) is { Count: > 0 } again)
                foreach (var kind in again)
                    Say(kind, variant.SaysNone || job.Slip(Slips.NoneWithoutLooking) ? 0 : Depth(kind));
            else if (!thrice && !variant.SaysNone && record.Confirming.DepthsToRepeat(judgement) is { Count: > 0 } depths)
            {
                thrice = true;
                foreach (var kind in depths)
                    for (var i = 0; i < RepeatedDepth.Times; i++)
                        Say(kind, Depth(kind));
            }
            else if (!variant.FixedPlaces)
            {
                if (
                    more++ >= MostMore
                    || record.Measuring.ReadNext(judgement, ShapePrior.Usual(metal.Kind)) is not { Next.IsEnough: false } next
                )
                    break;
                ReadAt(next.Place, 0);
            }
            else if (!between)
            {
                between = true;
                foreach (var place in Between(record))
                    ReadAt(place, 0);
            }
            else
                break;
            judgement = Judge();
        }
        ConfirmCommands.Confirm(Now(), readingsAreFit: true, Actor);
        var released = judgement.Decision is Decision.Release or Decision.LeadOnly;
        return job.Close(so, released, judgement.Decision == Decision.Release, (double)Now().Receiving.Limits!.MachineTo.Millimetres) with
        {
            HeldBackBy = released ? "" : string.Join(" ", judgement.Notes.Select(n => n.Code).Distinct().Order()),
        };
    }

    private Judgement Judge() => Now().Confirming.Judge(readingsAreFit: true);

    /// <summary>Places half-way between those that were read.</summary>
    private List<ReadingPlace> Between(SurfaceRecord record) =>
        [
            .. record
                .Measuring.Places.Where(p => rotor || p.Station == record.Measuring.Stations[record.Measuring.Stations.Count / 2])
                .Select(p => new ReadingPlace((p.Degrees + (rotor ? 20 : 25)) % (rotor ? 360 : 180), p.Station)),
        ];
}
