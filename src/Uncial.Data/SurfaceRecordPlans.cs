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
    private readonly Dictionary<PlanEntry, PlanDocument> documents = [];

    /// <summary>A plan as it was taken; read once.</summary>
    public PlanDocument DocumentOf(PlanEntry plan)
    {
        ArgumentNullException.ThrowIfNull(plan);
        if (!documents.TryGetValue(plan, out var document)) documents.Add(plan, document = StoredJson.Read<PlanDocument>(plan.Document));
        return document;
    }

    private PlanEntry PlanOf(PassEntry made) => Surface.Plans.First(p => IsOf(made, p));

    /// <summary>A pass as it was planned.</summary>
    public PlannedPass PassOf(PassEntry made) => DocumentOf(PlanOf(made)).Option.Passes[made.Index];

    /// <summary>Why the plan that runs does not hold for its next pass; null where it does, or nothing of it is left to cut.</summary>
    public PlanDoubt? PlanDoubt => LatestPlan is null || PassesOfPlan.Count >= Plan!.Option.Passes.Count ? null : DoubtOf(LatestPlan);

    /// <summary>There are readings to make a new plan from.</summary>
    public bool CanPlanAnew => StandingBefore.Count > 0 || Sizes.Count > 0;

    private PlanEntry? NewestPlan()
    {
        foreach (var plan in Surface.Plans.OrderByDescending(p => p.Version))
        {
            if (!IsVoid(plan)) return plan;
            // What was to be cut and was not holds no more; the plan before it was replaced by it and holds neither.
            if (CutsDone == 0) return null;
        }
        return null;
    }

    /// <summary>Nothing was cut by the plan, and what it rests on is not so any more. One that goes on from a cut is made anew at the lathe instead.</summary>
    private bool IsVoid(PlanEntry plan)
    {
        if (Surface.Passes.Any(p => IsOf(p, plan)) || Surface.CutStarts.Any(s => s.PlanId == plan.Id && s.PlanId != 0)) return false;
        var document = DocumentOf(plan);
        if (document.Option.Passes.Count == 0 || Part.Outcome is not null) return Doubted.Any(r => plan.IsAfter(r) && r.Flag!.IsAfter(plan));
        return (CutsDone == 0 || !document.GoesOn) && DoubtOf(plan) is not null;
    }

    private static bool IsOf(PassEntry pass, PlanEntry plan) => ReferenceEquals(pass.Plan, plan) || (plan.Id != 0 && pass.PlanId == plan.Id);

    private PlanDoubt? DoubtOf(PlanEntry plan)
    {
        var request = DocumentOf(plan).Request;
        if (Mount is not null && Mount.IsAfter(plan)) return Data.PlanDoubt.Mount;
        if (IsOtherDial(request.Dial)) return Data.PlanDoubt.Dial;
        if (Surface.Readings.Any(r => r.IsAfter(plan) ? r.Withdrawal is null && r.Flag is null : r.Withdrawal?.IsAfter(plan) == true || r.Flag?.IsAfter(plan) == true)) return Data.PlanDoubt.Reading;
        if (Limits is { } limits && (limits.MachineTo != request.MachineTo || (request.Discard is { } discard && limits.Discard != discard))) return Data.PlanDoubt.Limit;
        if (Surface.Findings.Any(f => f.IsAfter(plan) ? f.Withdrawal is null && f.Kind != Core.Looking.FindingKind.Nothing : f.Withdrawal?.IsAfter(plan) == true)) return Data.PlanDoubt.Finding;
        return SetUp is { } check && check.IsAfter(plan) ? Data.PlanDoubt.SetUp : null;
    }

    /// <summary>A plan's settings are for a dial that moves the bit otherwise than this head's does now.</summary>
    internal bool IsOtherDial(Dial planned) => Lathe.Profile.DialOf(Kind) is var now && (planned.Division, planned.CountsDiameter) != (now.Division, now.CountsDiameter);

    /// <summary>What the measured cuts of its head say; null where they were not looked up, or there are none.</summary>
    public HeadLedger? Head { get; private set; }

    /// <summary>Looks up what the shop's records say of the head that cuts it.</summary>
    /// <returns>Whether a measured cut on record has borne its dial out.</returns>
    public async Task<bool> LoadHeadAsync(UncialDb db, CancellationToken cancel)
    {
        Head = await LatheBook.LedgerAsync(db, Lathe, Kind, cancel);
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
            SecondChuckingRunout = profile.TwinCutter || profile.BothFacesInOneChucking ? null : TurnedRoundRunout?.Value ?? Shop.Rules.SecondChuckingRunout,
        };
    }

    /// <summary>Run-out of the face that was cut, read after the part was turned round for the other one; null where nobody has checked it.</summary>
    public ReadingEntry? TurnedRoundRunout => standing[ReadingKind.RunoutOuter].LastOrDefault(r => r.Cuts > 0);

    /// <summary>
    /// Size that it ends at: by the plan that was taken, as it is where it is finished or left uncut, else by the plan that would be recommended.
    /// Null where nobody can say yet.
    /// </summary>
    public Length? ExpectedFinish
    {
        get
        {
            if (Plan is { Option.Passes: [.., var last] }) return CutsDone > 0 && Sizes.Count > 0 && PlanDoubt is null && PassesOfPlan.Count == Plan.Option.Passes.Count ? Worst : last.SizeAfter;
            if (Plan is not null) return Worst ?? Plan.Request.Touch;
            return Limits is null || Sizes.Count == 0 || NextPlace is not null ? null : PairPlan.FinishOf(RequestForPlan(dialConfirmed: true));
        }
    }

    private PlanRequest State(Dial dial)
    {
        if (CutsDone == 0) return Uncut(Sizes, dial);
        var state = Sizes.Count > 0 && LastPassIsClean ? Zeroed(Sizes, GrooveLeft ?? Length.Zero, dial) : AfterPasses(dial);
        return IsMountedSinceLastCut ? state.MountedAnew(RunoutsOfThisMounting, Shop.Rules) : state;
    }

    private PlanRequest Uncut(IReadOnlyList<ReadingEntry> sizes, Dial dial)
    {
        if (Kind == PartKind.Rotor)
        {
            var rotor = RotorMeasurement with { Readings = CoreReadings(sizes), Uncertainty = UncertaintyOf(sizes) };
            if (CutsDone > 0) rotor = rotor with { Faces = new(Before(ReadingKind.RunoutOuter, ReadingKind.GrooveOuter, ReadingKind.ReliefOuter), Before(ReadingKind.RunoutInner, ReadingKind.GrooveInner, ReadingKind.ReliefInner)) };
            return PlanRequest.For(rotor, RotorAssessment.Assess(rotor, Shop.Rules), dial, Shop.Rules);
        }
        var drum = DrumMeasurement with { Readings = CoreReadings(sizes), Uncertainty = UncertaintyOf(sizes) };
        if (CutsDone > 0) drum = drum with { Eccentricity = RunoutIn(FirstCutIn, FigureBefore(ReadingKind.Eccentricity)), Groove = FigureBefore(ReadingKind.Groove)?.Value, Relief = FigureBefore(ReadingKind.Relief)?.Value };
        return PlanRequest.For(drum, DrumAssessment.Assess(drum, Shop.Rules), dial);

        Face Before(ReadingKind runout, ReadingKind groove, ReadingKind relief) => new(RunoutIn(FirstCutIn, FigureBefore(runout)), FigureBefore(groove)?.Value, FigureBefore(relief)?.Value);
    }

    private PlanRequest Zeroed(IReadOnlyList<ReadingEntry> sizes, Length grooveLeft, Dial dial) =>
        new PlanRequest
        {
            Kind = Kind, Touch = default, TouchBound = default, MachineTo = default, Uncertainty = default, Dial = dial,
            Sides = new SideNeed[Kind == PartKind.Rotor ? 2 : 1], RoughsDone = Surface.Passes.Count(p => PassOf(p).Kind == PassKind.Rough),
        }.ZeroedAnew(Kind == PartKind.Rotor ? sizes.Min(r => r.Value) : sizes.Max(r => r.Value), UncertaintyOf(sizes), grooveLeft);

    /// <summary>The passes since the dials were set to zero, gone through again from what is known now of the part before them.</summary>
    private PlanRequest AfterPasses(Dial dial)
    {
        var first = FirstOnThisZero;
        var made = Surface.Passes.Where(p => first is null || PlanOf(p).Version >= first.Version).OrderBy(p => p.Cut).ToList();
        var before = CutsDone - made.Count;
        var sizes = before == 0 ? StandingBefore : [.. standing[ReadingKind.Size].Where(r => r.Cuts == before)];
        // Nothing stands of what was read then: what is read now is the size, and what the passes left to do is left.
        if (sizes.Count == 0 && Sizes.Count == 0) throw new InvalidOperationException("A plan needs readings.");
        var start = sizes.Count == 0 ? DocumentOf(first!).Request : before == 0 ? Uncut(sizes, dial) : DocumentOf(first!).Request.Proven([], Length.Zero);
        if (before > 0 && sizes.Count > 0) start = start with { Worst = Kind == PartKind.Rotor ? sizes.Min(r => r.Value) : sizes.Max(r => r.Value) };
        // A dial that the metal bore out meanwhile is confirmed from the first pass on.
        start = start with { Dial = dial };
        var lastSize = made.Count > 0 && made[^1].Size is null ? BrightNow : null;
        var after = AfterPass.Again(start, [.. made.Select((p, i) => Made(p, i == made.Count - 1 ? lastSize : null))], Shop.Rules);
        var state = (after?.Request ?? start) with { Dial = dial };
        if (sizes.Count == 0)
        {
            var worst = Kind == PartKind.Rotor ? Sizes.Min(r => r.Value) : Sizes.Max(r => r.Value);
            state = state with { Touch = worst, TouchBound = worst - Limits.Sign(Kind) * Uncertainty, Worst = worst, Uncertainty = Uncertainty };
        }
        return state.Proven(Sizes.Select(r => r.Value), Uncertainty);
    }

    private PassMade Made(PassEntry pass, SizeSeen? readSince)
    {
        var sides = Kind == PartKind.Rotor
            ? new SideSeen[] { new(CleanOf(pass.DarkOuter), pass.GrooveOuter), new(CleanOf(pass.DarkInner), pass.GrooveInner) }
            : [new(CleanOf(pass.DarkOuter), pass.GrooveOuter)];
        // That the spot was bright is told by what followed from it.
        var measured = pass.Size is { } size ? new SizeSeen(size, pass.DialBorneOut || StoredJson.Read<List<Core.Note>>(pass.Notes).Exists(n => n.Code == "touchFromSize")) : readSince;
        return new(PassOf(pass), sides, measured);
    }

    /// <summary>The worst size read since the last pass where that left every side bright; null where there is none.</summary>
    private SizeSeen? BrightNow
    {
        get
        {
            var last = Surface.Passes.MaxBy(p => p.Cut)!;
            var bright = Sizes.Where(r => r.Degrees is { } at && Journey.IsBright(Kind, last.DarkOuter, last.DarkInner, at)).Select(r => r.Value).ToList();
            return bright.Count == 0 ? null : new(Kind == PartKind.Rotor ? bright.Min() : bright.Max(), SpotIsBright: true);
        }
    }

    private static int CleanOf(int dark) => Coverage.Sectors - System.Numerics.BitOperations.PopCount((uint)dark);

    /// <summary>The first plan since the dials were set to zero; null where none was taken.</summary>
    private PlanEntry? FirstOnThisZero
    {
        get
        {
            var plans = Surface.Plans.OrderBy(p => p.Version).ToList();
            var at = LatestPlan is null ? plans.Count - 1 : plans.IndexOf(LatestPlan);
            while (at > 0 && DocumentOf(plans[at]).GoesOn) at--;
            return at < 0 ? null : plans[at];
        }
    }

    private IReadOnlyList<ReadingEntry> StandingBefore => SizesBefore;

    private ReadingEntry? FigureBefore(ReadingKind kind) => standing[kind].LastOrDefault(r => r.Cuts == 0);

    /// <summary>The mounting in which the first cut was made.</summary>
    private MountEntry? FirstCutIn => Surface.Passes.MinBy(p => p.Cut) is { } first ? Surface.Mounts.Where(m => first.IsAfter(m)).Newest() : null;

    private bool IsMountedSinceLastCut => Mount is not null && Surface.Passes.MaxBy(p => p.Cut) is { } last && Mount.IsAfter(last);

    /// <summary>
    /// Run-outs as read on the lathe since it was put on: twice the eccentricity of a drum. What was cut runs out on both faces alike, so one
    /// that was not read counts as the other.
    /// </summary>
    private Length?[] RunoutsOfThisMounting
    {
        get
        {
            Length? Since(ReadingKind kind) => Figure(kind) is { } figure && figure.IsAfter(Mount!) ? figure.Value : null;
            if (Kind == PartKind.Drum) return [2 * Since(ReadingKind.Eccentricity)];
            var (outer, inner) = (Since(ReadingKind.RunoutOuter), Since(ReadingKind.RunoutInner));
            return [outer ?? inner, inner ?? outer];
        }
    }

    /// <summary>
    /// A run-out as it holds for a mounting. One that was read in an earlier mounting had that set-up in it: what the check found to be the
    /// part's own is left of it, or nothing is known.
    /// </summary>
    private Length? RunoutIn(MountEntry? mount, ReadingEntry? figure)
    {
        if (figure is null) return null;
        if (mount is null || figure.IsAfter(mount) || Surface.Mounts.Where(m => figure.IsAfter(m)).Newest() is not { } earlier) return figure.Value;
        var part = Surface.SetUps.Where(c => c.MountId == earlier.Id).Newest()?.PartRunout;
        return figure.Kind switch { ReadingKind.RunoutOuter => part, ReadingKind.Eccentricity => part / 2, _ => null };
    }

    private Length? RunoutOf(ReadingKind kind) => RunoutIn(Mount, Figure(kind));
}
