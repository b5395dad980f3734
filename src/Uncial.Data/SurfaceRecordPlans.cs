using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Parts;
using Uncial.Core.Planning;

namespace Uncial.Data;

/// <summary>What a plan rests on and is not so any more.</summary>
public enum PlanDoubt
{
    /// <summary>A reading was taken, withdrawn or flagged since.</summary>
    Reading,

    /// <summary>A limit was stated or settled since, or a rule that limits follow from was changed.</summary>
    Limit,

    /// <summary>Something was found by eye since.</summary>
    Finding,

    /// <summary>The set-up was checked since.</summary>
    SetUp,

    /// <summary>The part was put on anew since: its dials have no zero.</summary>
    Mount,

    /// <summary>The dial of its head is another one.</summary>
    Dial,
}

/// <summary>Plans and what they rest on: which one holds, and what a new one starts from.</summary>
public sealed partial class SurfaceRecord
{
    private PlanEntry PlanOf(PassEntry made) => Surface.Plans.First(p => IsOf(made, p));

    /// <summary>A pass as it was planned.</summary>
    public PlannedPass PassOf(PassEntry made) => PlanOf(made).Read().Option.Passes[made.Index];

    /// <summary>Why the plan that runs does not hold for its next pass; null where it does, or nothing of it is left to cut.</summary>
    public PlanDoubt? PlanDoubt => LatestPlan is null || PassesOfPlan.Count >= Plan!.Option.Passes.Count ? null : DoubtOf(LatestPlan);

    /// <summary>There are readings to make a new plan from.</summary>
    public bool CanPlanAnew => SizesBefore.Count > 0 || Sizes.Count > 0;

    private PlanEntry? NewestPlan()
    {
        foreach (var plan in Surface.Plans.OrderByDescending(p => p.Version))
        {
            if (!IsVoid(plan))
                return plan;
            // What was to be cut and was not holds no more; the plan before it was replaced by it and holds neither.
            if (CutsDone == 0)
                return null;
        }
        return null;
    }

    /// <summary>
    /// Nothing was cut by the plan, and what it rests on is not so any more. One that goes on from a cut is made anew at the lathe
    /// instead.
    /// </summary>
    private bool IsVoid(PlanEntry plan)
    {
        if (Surface.Passes.Any(p => IsOf(p, plan)) || Surface.CutStarts.Any(s => s.PlanId == plan.Id && s.PlanId != 0))
            return false;
        var document = plan.Read();
        if (document.Option.Passes.Count == 0 || Part.Outcome is not null)
            return Doubted.Any(r => plan.IsAfter(r) && r.Flag!.IsAfter(plan));
        return (CutsDone == 0 || !document.GoesOn) && DoubtOf(plan) is not null;
    }

    private static bool IsOf(PassEntry pass, PlanEntry plan) =>
        ReferenceEquals(pass.Plan, plan) || (plan.Id != 0 && pass.PlanId == plan.Id);

    private PlanDoubt? DoubtOf(PlanEntry plan)
    {
        var request = plan.Read().Request;
        if (Mount is not null && Mount.IsAfter(plan))
            return Data.PlanDoubt.Mount;
        if (IsOtherDial(request.Dial))
            return Data.PlanDoubt.Dial;
        if (
            Surface.Readings.Any(r =>
                r.IsAfter(plan)
                    ? r.Withdrawal is null && r.Flag is null
                    : r.Withdrawal?.IsAfter(plan) == true || r.Flag?.IsAfter(plan) == true
            )
        )
            return Data.PlanDoubt.Reading;
        if (
            Limits is { } limits
            && (limits.MachineTo != request.MachineTo || (request.Discard is { } discard && limits.Discard != discard))
        )
            return Data.PlanDoubt.Limit;
        if (
            Surface.Findings.Any(f =>
                f.IsAfter(plan) ? f.Withdrawal is null && f.Kind != Core.Looking.FindingKind.Nothing : f.Withdrawal?.IsAfter(plan) == true
            )
        )
            return Data.PlanDoubt.Finding;
        return SetUp is { } check && check.IsAfter(plan) ? Data.PlanDoubt.SetUp : null;
    }

    /// <summary>A plan's settings are for a dial that moves the bit otherwise than this head's does now.</summary>
    internal bool IsOtherDial(Dial planned) => !Lathe.Profile.DialOf(Kind).MovesAs(planned.Division, planned.CountsDiameter);

    /// <summary>What the measured cuts of its head say; null where they were not looked up, or there are none.</summary>
    public HeadLedger? Head { get; private set; }

    /// <summary>Takes what the records of its head say into plans and judgement.</summary>
    public void Use(HeadLedger? head) => Head = head;

    /// <summary>Looks up what the shop's records say of the head that cuts it.</summary>
    /// <returns>Whether a measured cut on record has borne its dial out.</returns>
    public async Task<bool> LoadHeadAsync(UncialDb db, CancellationToken cancel)
    {
        Use(await LatheBook.LedgerAsync(db, Lathe, Kind, cancel));
        return await LatheBook.DialIsConfirmedAsync(db, Lathe, Kind, cancel);
    }

    /// <summary>What a new plan starts from: the readings, or what the passes left of what was read before them.</summary>
    /// <param name="dialConfirmed">A measured pass on record has borne the dial out.</param>
    public PlanRequest RequestForPlan(bool dialConfirmed)
    {
        var profile = Lathe.Profile;
        var dial = profile.Dial(Kind, dialConfirmed, dialConfirmed ? Head?.Allowance(profile.Dial(Kind, true).DepthPerDivision) : null);
        var limits = Limits ?? throw new InvalidOperationException("Limits first.");
        return State(dial) with
        {
            MachineTo = limits.MachineTo,
            Discard = limits.Discard,
            TwinCutter = profile.TwinCutter,
            SetUpRunout = SetUp?.SetUpRunout,
            DefaultTechnique = Shop.DefaultTechnique,
            Techniques = profile.Techniques(Shop.Techniques),
            SecondChuckingRunout =
                profile.TwinCutter || profile.BothFacesInOneChucking ? null : TurnedRoundRunout?.Value ?? Shop.Rules.SecondChuckingRunout,
        };
    }

    /// <summary>
    /// Run-out of the face that was cut, read after the part was turned round for the other one; null where nobody has checked it.
    /// </summary>
    public ReadingEntry? TurnedRoundRunout => standing[ReadingKind.RunoutOuter].LastOrDefault(r => r.Cuts > 0);

    /// <summary>
    /// Size that it ends at: by the plan that was taken, as it is where it is finished or left uncut, else by the plan that would be
    /// recommended.
    /// Null where nobody can say yet.
    /// </summary>
    public Length? ExpectedFinish
    {
        get
        {
            if (Plan is { Option.Passes: [.., var last] })
                return CutsDone > 0 && Sizes.Count > 0 && PlanDoubt is null && PassesOfPlan.Count == Plan.Option.Passes.Count
                    ? Worst
                    : last.SizeAfter;
            if (Plan is not null)
                return Worst ?? Plan.Request.Touch;
            return Limits is null || Sizes.Count == 0 || NextPlace is not null
                ? null
                : PairPlan.FinishOf(RequestForPlan(dialConfirmed: true));
        }
    }

    /// <summary>
    /// The part as it is now, from the facts alone: the newest sizes that were read all round on clean metal, or those before the first
    /// cut, and
    /// every pass and mounting since.
    /// </summary>
    private PlanRequest State(Dial dial)
    {
        var made = Surface.Passes.OrderBy(p => p.Cut).ToList();
        var from = CutsDone;
        while (from > 0 && !IsReadClean(made[from - 1]))
            from--;
        var sizes = SizesAfter(from);
        if (sizes.Count == 0)
            return WithoutReadingsBefore(dial);
        var state = from == 0 ? Uncut(sizes, dial) : Zeroed(sizes, made[from - 1], dial);
        for (var cut = from; ; cut++)
        {
            if (cut > 0 && MountedBetween(made[cut - 1], made.ElementAtOrDefault(cut)) is { } mount)
                state = state.MountedAnew(RunoutsIn(mount), Shop.Rules);
            if (cut == CutsDone)
                break;
            state = AfterPass.Read(state, [PassOf(made[cut])], [], Seen(made[cut]), SizeSeenAfter(made[cut]), Shop.Rules).Request;
        }
        return from < CutsDone ? state.Proven(Sizes.Select(r => r.Value), Uncertainty) : state;
    }

    private IReadOnlyList<ReadingEntry> SizesAfter(int cuts) =>
        cuts == CutsDone ? Sizes : [.. standing[ReadingKind.Size].Where(r => r.Cuts == cuts)];

    /// <summary>The pass left nothing dark, and the part was read at enough places after it to set out from them.</summary>
    private bool IsReadClean(PassEntry pass) =>
        pass is { DarkOuter: 0, DarkInner: 0 }
        && SizesAfter(pass.Cut).Select(SpotOf).Distinct().Count() >= (Kind == PartKind.Rotor ? 3 : 2);

    /// <summary>
    /// Nothing stands of what was read before the cuts: what is read now is the size, and what the plan's passes left to do is left.
    /// </summary>
    private PlanRequest WithoutReadingsBefore(Dial dial)
    {
        if (Sizes.Count == 0 || LatestPlan is null)
            throw new InvalidOperationException("A plan needs readings.");
        var state = LatestPlan.Read().Request with { Dial = dial };
        foreach (var pass in PassesOfPlan)
            state = AfterPass.Read(state, [PassOf(pass)], [], Seen(pass), null, Shop.Rules).Request;
        var worst = WorstOf(Sizes);
        return state with { Touch = worst, TouchBound = worst - Limits.Sign(Kind) * Uncertainty, Worst = worst, Uncertainty = Uncertainty };
    }

    private Length WorstOf(IEnumerable<ReadingEntry> sizes) => Kind == PartKind.Rotor ? sizes.Min(r => r.Value) : sizes.Max(r => r.Value);

    private PlanRequest Uncut(IReadOnlyList<ReadingEntry> sizes, Dial dial)
    {
        if (Kind == PartKind.Rotor)
        {
            var rotor = RotorMeasurement with { Readings = CoreReadings(sizes), Uncertainty = UncertaintyOf(sizes) };
            if (CutsDone > 0)
                rotor = rotor with
                {
                    Faces = new(
                        Before(ReadingKind.RunoutOuter, ReadingKind.GrooveOuter, ReadingKind.ReliefOuter),
                        Before(ReadingKind.RunoutInner, ReadingKind.GrooveInner, ReadingKind.ReliefInner)
                    ),
                };
            return PlanRequest.For(rotor, RotorAssessment.Assess(rotor, Shop.Rules), dial, Shop.Rules);
        }
        var drum = DrumMeasurement with { Readings = CoreReadings(sizes), Uncertainty = UncertaintyOf(sizes) };
        if (CutsDone > 0)
            drum = drum with
            {
                Eccentricity = RunoutIn(FirstCutIn, FigureBefore(ReadingKind.Eccentricity)),
                Groove = FigureBefore(ReadingKind.Groove)?.Value,
                Relief = FigureBefore(ReadingKind.Relief)?.Value,
            };
        var assumed = RunsOutAtMost is { } most ? Length.Min(most, Shop.Rules.AssumedRunout) : Shop.Rules.AssumedRunout;
        return PlanRequest.For(drum, DrumAssessment.Assess(drum, Shop.Rules), dial, Shop.Rules with { AssumedRunout = assumed });

        Face Before(ReadingKind runout, ReadingKind groove, ReadingKind relief) =>
            new(RunoutIn(FirstCutIn, FigureBefore(runout)), FigureBefore(groove)?.Value, FigureBefore(relief)?.Value);
    }

    /// <summary>
    /// Set to zero anew on what was read after a pass that left everything clean, with nothing needed but the grooves that are left.
    /// </summary>
    private PlanRequest Zeroed(IReadOnlyList<ReadingEntry> sizes, PassEntry last, Dial dial)
    {
        ReadingKind[] grooves = Kind == PartKind.Rotor ? [ReadingKind.GrooveOuter, ReadingKind.GrooveInner] : [ReadingKind.Groove];
        var left = Length.Zero;
        foreach (var kind in grooves)
            left += standing[kind].LastOrDefault(r => r.Cuts == last.Cut)?.Value
                ?? (kind == ReadingKind.GrooveInner ? last.GrooveInner : last.GrooveOuter)
                ?? Length.Zero;
        var bare = new PlanRequest
        {
            Kind = Kind,
            Touch = default,
            TouchBound = default,
            MachineTo = default,
            Uncertainty = default,
            Dial = dial,
            Sides = new SideNeed[grooves.Length],
            RoughsDone = Surface.Passes.Count(p => p.Cut <= last.Cut && PassOf(p).Kind == PassKind.Rough),
        };
        return bare.ZeroedAnew(WorstOf(sizes), UncertaintyOf(sizes), left);
    }

    private SideSeen[] Seen(PassEntry pass) => Journey.Sides(Kind, pass.DarkOuter, pass.DarkInner, pass.GrooveOuter, pass.GrooveInner);

    /// <summary>
    /// The size measured after a pass; after the last one also the worst that was read since where that left every side bright. That a
    /// spot was bright
    /// is told by what followed from it.
    /// </summary>
    private SizeSeen? SizeSeenAfter(PassEntry pass)
    {
        if (pass.Size is { } size)
            return new(size, pass.DialBorneOut || StoredJson.Read<List<Core.Note>>(pass.Notes).Exists(n => n.Code == "touchFromSize"));
        if (pass.Cut != CutsDone)
            return null;
        var bright = Sizes.Where(r => r.Degrees is { } at && Journey.IsBright(Kind, pass.DarkOuter, pass.DarkInner, at)).ToList();
        return bright.Count == 0 ? null : new(WorstOf(bright), SpotIsBright: true);
    }

    private ReadingEntry? FigureBefore(ReadingKind kind) => standing[kind].LastOrDefault(r => r.Cuts == 0);

    /// <summary>What the part runs out at most as it is mounted: a scratch that goes all round is so deep; null where none does.</summary>
    private Length? RunsOutAtMost =>
        FirstCutIn is { } first && first.Id != Mount?.Id
            ? null
            : SetUp switch
            {
                { Manner: SetUpManner.TwoScratches, SecondArc: >= 360, SecondLength: { } depth } => depth,
                { Manner: SetUpManner.OneScratch, FirstArc: >= 360, FirstLength: { } depth } => depth,
                _ => null,
            };

    /// <summary>The mounting in which the first cut was made.</summary>
    private MountEntry? FirstCutIn =>
        Surface.Passes.MinBy(p => p.Cut) is { } first ? Surface.Mounts.Where(m => first.IsAfter(m)).Newest() : null;

    /// <summary>The newest mounting after a pass and before the next one; null where the part stayed on.</summary>
    private MountEntry? MountedBetween(PassEntry pass, PassEntry? next) =>
        Surface.Mounts.Where(m => m.IsAfter(pass) && (next is null || next.IsAfter(m))).Newest();

    /// <summary>
    /// Run-outs as read on the lathe in a mounting: twice the eccentricity of a drum. What was cut runs out on both faces alike, so one
    /// that was not
    /// read counts as the other.
    /// </summary>
    private Length?[] RunoutsIn(MountEntry mount)
    {
        var next = Surface.Mounts.Where(m => m.IsAfter(mount)).Ordered().FirstOrDefault();
        Length? Read(ReadingKind kind) => standing[kind].LastOrDefault(r => r.IsAfter(mount) && (next is null || next.IsAfter(r)))?.Value;
        if (Kind == PartKind.Drum)
            return [2 * Read(ReadingKind.Eccentricity)];
        var (outer, inner) = (Read(ReadingKind.RunoutOuter), Read(ReadingKind.RunoutInner));
        return [outer ?? inner, inner ?? outer];
    }

    /// <summary>
    /// A run-out as it holds for a mounting. One that was read in an earlier mounting had that set-up in it: what the check found to be the
    /// part's own is left of it, or nothing is known.
    /// </summary>
    private Length? RunoutIn(MountEntry? mount, ReadingEntry? figure)
    {
        if (figure is null)
            return null;
        if (mount is null || figure.IsAfter(mount) || Surface.Mounts.Where(m => figure.IsAfter(m)).Newest() is not { } earlier)
            return figure.Value;
        var part = Surface.SetUps.Where(c => c.MountId == earlier.Id).Newest()?.PartRunout;
        return figure.Kind switch
        {
            ReadingKind.RunoutOuter => part,
            ReadingKind.Eccentricity => part / 2,
            _ => null,
        };
    }

    private Length? RunoutOf(ReadingKind kind) => RunoutIn(Mount, Figure(kind));
}
