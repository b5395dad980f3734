using Uncial.Core.Cutting;
using Uncial.Core.Inspection;
using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Parts;
using Uncial.Core.Planning;

namespace Uncial.Core.Workflow;

/// <summary>What a plan rests on and is not so any more.</summary>
public enum PlanChange
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

/// <summary>Plans of a surface and what they rest on: which one holds, and what a new one starts from.</summary>
public sealed class PlanState
{
    /// <summary>Technique key of a plan that cuts nothing: the surface is left as it is.</summary>
    public const string NoCut = "none";

    /// <summary>Technique key of a plan that only takes the glaze off: nothing that counts is cut.</summary>
    public const string Scuff = "scuff";

    /// <summary>Technique key of a plan that ended early: clean before its last pass, or stopped.</summary>
    public const string Finished = "finished";

    private readonly SurfaceState surface;
    private readonly SurfaceFacts facts;

    internal PlanState(SurfaceState surface)
    {
        (this.surface, facts) = (surface, surface.Facts);
        Latest = NewestThatHolds();
        Passes = Latest is null ? [] : [.. facts.Passes.Where(p => p.IsOf(Latest)).OrderBy(p => p.Index)];
    }

    private PartKind Kind => surface.Kind;
    private ShopRules Rules => surface.Shop.Rules;
    private MeasureState Measuring => surface.Measuring;
    private MountState Mounting => surface.Mounting;

    /// <summary>The plan that runs; null where none was taken, or none holds.</summary>
    public PlanFact? Latest { get; }

    /// <summary>What it rests on and its passes.</summary>
    public PlanDocument? Document => Latest?.Contents;

    /// <summary>Its passes that are done, in order.</summary>
    public IReadOnlyList<PassFact> Passes { get; }

    /// <summary>There is a plan, and all its passes are done.</summary>
    public bool IsCutToItsEnd => Document is { } plan && Passes.Count >= plan.Option.Passes.Count;

    /// <summary>A plan is being followed: after a cut a new one is made only from new readings.</summary>
    public bool IsRunning => Document is not null && (!IsCutToItsEnd || (surface.CutsDone > 0 && Measuring.Sizes.Count == 0));

    /// <summary>Version that the next plan of a surface gets.</summary>
    public int NextVersion => facts.Plans.Select(p => p.Version).DefaultIfEmpty().Max() + 1;

    /// <summary>A pass as it was planned.</summary>
    public PlannedPass PassOf(PassFact made)
    {
        ArgumentNullException.ThrowIfNull(made);
        return facts.Plans.First(made.IsOf).Contents.Option.Passes[made.Index];
    }

    /// <summary>Why the plan that runs does not hold for its next pass; null where it does, or nothing of it is left to cut.</summary>
    public PlanChange? Change => Latest is null || IsCutToItsEnd ? null : ChangeOf(Latest);

    /// <summary>There are readings to make a new plan from.</summary>
    public bool CanPlanAnew => Measuring.SizesBefore.Count > 0 || Measuring.Sizes.Count > 0;

    /// <summary>A plan's settings are for a dial that moves the bit otherwise than this head's does now.</summary>
    public bool IsOtherDial(Dial planned)
    {
        ArgumentNullException.ThrowIfNull(planned);
        return !Mounting.Lathe.Profile.DialOf(Kind).MovesAs(planned.Division, planned.CountsDiameter);
    }

    /// <summary>What a new plan starts from: the readings, or what the passes left of what was read before them.</summary>
    /// <param name="dialConfirmed">A measured pass on record has verified the dial.</param>
    public PlanRequest Request(bool dialConfirmed)
    {
        var profile = Mounting.Lathe.Profile;
        var dial = profile.Dial(
            Kind,
            dialConfirmed,
            dialConfirmed ? surface.Head?.Allowance(profile.Dial(Kind, true).DepthPerDivision) : null
        );
        var limits = surface.Receiving.Limits ?? throw new InvalidOperationException("Limits first.");
        return Now(dial) with
        {
            MachineTo = limits.MachineTo,
            Discard = limits.Discard,
            TwinCutter = profile.TwinCutter,
            SetUpRunout = Mounting.SetUp?.SetUpRunout,
            DefaultTechnique = surface.Shop.DefaultTechnique,
            Techniques = profile.Techniques(surface.Shop.Techniques),
            SecondChuckingRunout = profile is { TwinCutter: false, BothFacesInOneChucking: false }
                ? surface.Cutting.TurnedRoundRunout?.Value ?? Rules.SetUp.SecondChuckingRunout
                : null,
        };
    }

    /// <summary>
    /// Size that it ends at: by the plan that was taken, as it is where it is finished or left uncut, else by the plan that would be
    /// recommended. Null where nobody can say yet.
    /// </summary>
    public Length? ExpectedFinish
    {
        get
        {
            if (Document is { Option.Passes: [.., var last] })
                return surface.CutsDone > 0 && Measuring.Sizes.Count > 0 && Change is null && IsCutToItsEnd
                    ? Measuring.Worst
                    : last.SizeAfter;
            if (Document is { } plan)
                return Measuring.Worst ?? plan.Request.Touch;
            return surface.Receiving.Limits is null || Measuring.Sizes.Count == 0 || Measuring.NextPlace is not null
                ? null
                : PairPlan.FinishOf(Request(dialConfirmed: true));
        }
    }

    private PlanFact? NewestThatHolds()
    {
        foreach (var plan in facts.Plans.OrderByDescending(p => p.Version))
        {
            if (!IsVoid(plan))
                return plan;
            // What was to be cut and was not holds no more; the plan before it was replaced by it and holds neither.
            if (surface.CutsDone == 0)
                return null;
        }
        return null;
    }

    /// <summary>
    /// Nothing was cut by the plan, and what it rests on is not so any more. One that goes on from a cut is made anew at the lathe
    /// instead.
    /// </summary>
    private bool IsVoid(PlanFact plan)
    {
        if (facts.Passes.Any(p => p.IsOf(plan)) || facts.CutStarts.Any(s => s.PlanId == plan.Id && s.PlanId != 0))
            return false;
        var document = plan.Contents;
        if (document.Option.Passes.Count == 0 || surface.Part.HasLeft)
            return Measuring.Suspect.Any(r => plan.IsAfter(r) && r.Flagged!.IsAfter(plan));
        return (surface.CutsDone == 0 || !document.GoesOn) && ChangeOf(plan) is not null;
    }

    private PlanChange? ChangeOf(PlanFact plan)
    {
        var request = plan.Contents.Request;
        if (Mounting.Mount is { } mount && mount.IsAfter(plan))
            return PlanChange.Mount;
        if (IsOtherDial(request.Dial))
            return PlanChange.Dial;
        if (facts.Readings.Any(r => r.IsAfter(plan) ? r.Stands : r.Withdrawn?.IsAfter(plan) == true || r.Flagged?.IsAfter(plan) == true))
            return PlanChange.Reading;
        if (
            surface.Receiving.Limits is { } limits
            && (limits.MachineTo != request.MachineTo || (request.Discard is { } discard && limits.Discard != discard))
        )
            return PlanChange.Limit;
        if (facts.Findings.Any(f => f.IsAfter(plan) ? IsFound(f) : f.Withdrawn?.IsAfter(plan) == true))
            return PlanChange.Finding;
        return Mounting.SetUp is { } check && check.IsAfter(plan) ? PlanChange.SetUp : null;

        static bool IsFound(FindingFact finding) => finding.Withdrawn is null && finding.Kind != FindingKind.Nothing;
    }

    /// <summary>
    /// The part as it is now, from the facts alone: the newest sizes that were read all round on clean metal, or those before the first
    /// cut, and every pass and mounting since.
    /// </summary>
    private PlanRequest Now(Dial dial)
    {
        var made = facts.Passes.OrderBy(p => p.Cut).ToList();
        var from = surface.CutsDone;
        while (from > 0 && !IsReadClean(made[from - 1]))
            from--;
        var sizes = Measuring.SizesAfter(from);
        if (sizes.Count == 0)
            return WithoutReadingsBefore(dial);
        var state = from == 0 ? Uncut(sizes, dial) : Zeroed(sizes, made[from - 1], dial);
        for (var cut = from; ; cut++)
        {
            if (cut > 0 && Mounting.MountedBetween(made[cut - 1], made.ElementAtOrDefault(cut)) is { } mount)
                state = state.MountedAnew(RunoutsIn(mount), Rules);
            if (cut == surface.CutsDone)
                break;
            state = AfterPass.Read(state, [PassOf(made[cut])], [], Seen(made[cut]), SizeSeenAfter(made[cut]), Rules).Request;
        }
        return from < surface.CutsDone ? state.Proven(Measuring.Sizes.Select(r => r.Value), Measuring.Uncertainty) : state;
    }

    /// <summary>The pass left nothing dark, and the part was read at enough places after it to set out from them.</summary>
    private bool IsReadClean(PassFact pass) =>
        pass.IsClean && Measuring.SizesAfter(pass.Cut).Select(Measuring.SpotOf).Distinct().Count() >= (Kind == PartKind.Rotor ? 3 : 2);

    /// <summary>
    /// Nothing stands of what was read before the cuts: what is read now is the size, and what the plan's passes left to do is left.
    /// </summary>
    private PlanRequest WithoutReadingsBefore(Dial dial)
    {
        if (Measuring.Sizes.Count == 0 || Latest is null)
            throw new InvalidOperationException("A plan needs readings.");
        var state = Latest.Contents.Request with { Dial = dial };
        foreach (var pass in Passes)
            state = AfterPass.Read(state, [PassOf(pass)], [], Seen(pass), null, Rules).Request;
        var (worst, uncertainty) = (Measuring.WorstOf(Measuring.Sizes), Measuring.Uncertainty);
        return state with { Touch = worst, TouchBound = worst - Limits.Sign(Kind) * uncertainty, Worst = worst, Uncertainty = uncertainty };
    }

    private PlanRequest Uncut(IReadOnlyList<ReadingFact> sizes, Dial dial)
    {
        var (readings, uncertainty, isCut) = (Measuring.ForCore(sizes), Measuring.UncertaintyOf(sizes), surface.CutsDone > 0);
        if (Kind == PartKind.Rotor)
        {
            var rotor = Measuring.RotorMeasurement with { Readings = readings, Uncertainty = uncertainty };
            if (isCut)
                rotor = rotor with
                {
                    Faces = new(
                        new(
                            RunoutBefore(ReadingKind.RunoutOuter),
                            Before(ReadingKind.GrooveOuter)?.Value,
                            Before(ReadingKind.ReliefOuter)?.Value
                        ),
                        new(
                            RunoutBefore(ReadingKind.RunoutInner),
                            Before(ReadingKind.GrooveInner)?.Value,
                            Before(ReadingKind.ReliefInner)?.Value
                        )
                    ),
                };
            return PlanRequest.For(rotor, RotorAssessment.Assess(rotor, Rules), dial, Rules);
        }
        var drum = Measuring.DrumMeasurement with { Readings = readings, Uncertainty = uncertainty };
        if (isCut)
            drum = drum with
            {
                Eccentricity = RunoutBefore(ReadingKind.Eccentricity),
                Groove = Before(ReadingKind.Groove)?.Value,
                Relief = Before(ReadingKind.Relief)?.Value,
            };
        var assumed = Mounting.RunsOutAtMost is { } most ? Length.Min(most, Rules.SetUp.AssumedRunout) : Rules.SetUp.AssumedRunout;
        return PlanRequest.For(
            drum,
            DrumAssessment.Assess(drum, Rules),
            dial,
            Rules with
            {
                SetUp = Rules.SetUp with { AssumedRunout = assumed },
            }
        );

        ReadingFact? Before(ReadingKind kind) => Measuring.Standing(kind).LastOrDefault(r => r.Cuts == 0);
        Length? RunoutBefore(ReadingKind kind) => Mounting.RunoutIn(Mounting.FirstCutIn, Before(kind));
    }

    /// <summary>
    /// Set to zero anew on what was read after a pass that left everything clean, with nothing needed but the grooves that are left.
    /// </summary>
    private PlanRequest Zeroed(IReadOnlyList<ReadingFact> sizes, PassFact last, Dial dial)
    {
        ReadingKind[] grooves = Kind == PartKind.Rotor ? [ReadingKind.GrooveOuter, ReadingKind.GrooveInner] : [ReadingKind.Groove];
        var left = Length.Zero;
        foreach (var kind in grooves)
            left += Measuring.Standing(kind).LastOrDefault(r => r.Cuts == last.Cut)?.Value
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
            RoughsDone = facts.Passes.Count(p => p.Cut <= last.Cut && PassOf(p).Kind == PassKind.Rough),
        };
        return bare.ZeroedAnew(Measuring.WorstOf(sizes), Measuring.UncertaintyOf(sizes), left);
    }

    private IReadOnlyList<SideSeen> Seen(PassFact pass) =>
        CutState.Sides(Kind, pass.DarkOuter, pass.DarkInner, pass.GrooveOuter, pass.GrooveInner);

    /// <summary>
    /// The size measured after a pass; after the last one also the worst that was read since where that left every side bright. That a
    /// spot was bright is told by what followed from it.
    /// </summary>
    private SizeSeen? SizeSeenAfter(PassFact pass)
    {
        if (pass.Size is { } size)
            return new(size, pass.TouchedFromSize);
        if (pass.Cut != surface.CutsDone)
            return null;
        var bright = Measuring
            .Sizes.Where(r => r.Degrees is { } at && CutState.IsBright(Kind, pass.DarkOuter, pass.DarkInner, at))
            .ToList();
        return bright.Count == 0 ? null : new(Measuring.WorstOf(bright), SpotIsBright: true);
    }

    /// <summary>
    /// Run-outs as read on the lathe in a mounting: twice the eccentricity of a drum. What was cut runs out on both faces alike, so one
    /// that was not read counts as the other.
    /// </summary>
    private Length?[] RunoutsIn(MountFact mount)
    {
        var next = Mounting.After(mount);
        if (Kind == PartKind.Drum)
            return [2 * Read(ReadingKind.Eccentricity)];
        var (outer, inner) = (Read(ReadingKind.RunoutOuter), Read(ReadingKind.RunoutInner));
        return [outer ?? inner, inner ?? outer];

        Length? Read(ReadingKind kind) =>
            Measuring.Standing(kind).LastOrDefault(r => r.IsAfter(mount) && (next is null || next.IsAfter(r)))?.Value;
    }
}
