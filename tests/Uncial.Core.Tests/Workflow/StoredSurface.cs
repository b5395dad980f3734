using Uncial.Core.Cutting;
using Uncial.Core.Gauges;
using Uncial.Core.Inspection;
using Uncial.Core.Lengths;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Release;

namespace Uncial.Core.Tests.Workflow;

/// <summary>A work surface whose record is written by literals: every fact gets the next number.</summary>
internal sealed class StoredSurface(PartKind kind)
{
    private static readonly Lathe TwinLathe = new()
    {
        Name = "Twin",
        Division = Mm.Of(0.01m),
        DialAllowance = Mm.Of(0.01m),
        Feeds = [new("1", Mm.Of(0.1m))],
        RoughFeed = "1",
        FinishFeed = "1",
        Speeds = [60m],
        NoseRadius = Mm.Of(0.8m),
    };

    private readonly List<LimitFact> limits = [];
    private readonly List<LimitSettlementFact> settlements = [];
    private readonly List<FindingFact> findings = [];
    private readonly List<ReadingFact> readings = [];
    private readonly List<MountFact> mounts = [];
    private readonly List<SetUpFact> setUps = [];
    private readonly List<SetUpDecisionFact> decisions = [];
    private readonly List<PlanFact> plans = [];
    private readonly List<PassFact> passes = [];
    private readonly List<CutStartFact> starts = [];
    private readonly List<ChatterFact> chatters = [];
    private readonly List<FinishFact> finishes = [];
    private readonly List<ConfirmationFact> confirmations = [];
    private RecallFact? recalled;
    private int number;

    public bool HasLeft { get; set; }

    /// <summary>When the next facts are stated.</summary>
    public DateTimeOffset At { get; set; }

    /// <summary>Largest diameter cut, mm.</summary>
    public decimal Diameter { get; init; } = 280;

    public long RulesId { get; set; }

    /// <summary>What the limit book allows a finished part to vary, mm.</summary>
    public decimal? MaxVariation { get; init; }

    public SurfaceState State => Under(ShopRules.Default);

    /// <summary>Its state under other rules of the shop.</summary>
    public SurfaceState Under(ShopRules rules) =>
        new(
            new()
            {
                Kind = kind,
                Diameter = Mm.Of(Diameter),
                Band = Mm.Of(50),
                Places = kind == PartKind.Rotor ? 8 : 4,
                MaxVariation = MaxVariation is { } most ? Mm.Of(most) : null,
                Limits = limits,
                Settlements = settlements,
                Findings = findings,
                Readings = readings,
                Mounts = mounts,
                SetUps = setUps,
                SetUpDecisions = decisions,
                Plans = plans,
                Passes = passes,
                CutStarts = starts,
                Chatters = chatters,
                Finishes = finishes,
                Confirmations = confirmations,
            },
            new()
            {
                HasLeft = HasLeft,
                Recalled = recalled,
                Findings = findings,
            },
            new()
            {
                Rules = rules,
                RulesId = RulesId,
                Gauges = [new(1, "Micrometer", new(GaugeKind.Micrometer, Mm.Of(0.001m), Mm.Of(0.003m)))],
                Lathes = [new(1, TwinLathe)],
            }
        );

    public LimitFact Limit(LimitKind limit, decimal value, LimitSource source = LimitSource.CastMarking)
    {
        LimitFact fact = new()
        {
            Id = ++number,
            Number = number,
            Kind = limit,
            Value = Mm.Of(value),
            Source = source,
            Typed = "",
        };
        limits.Add(fact);
        return fact;
    }

    public void Settle(LimitFact entry) =>
        settlements.Add(
            new()
            {
                Id = ++number,
                Number = number,
                Kind = entry.Kind,
                EntryId = entry.Id,
                Reason = "the casting is worn",
            }
        );

    public void Read(decimal degrees, decimal value, bool withdrawn = false, DateTimeOffset at = default) =>
        readings.Add(
            new()
            {
                Id = ++number,
                Number = number,
                At = at == default ? At : at,
                Kind = ReadingKind.Size,
                Degrees = degrees,
                Value = Mm.Of(value),
                Typed = "",
                Uncertainty = Mm.Of(0.006m),
                Resolution = Mm.Of(0.001m),
                GaugeId = 1,
                Cuts = passes.Count,
                Withdrawn = withdrawn ? new WithdrawalFact { Number = number + 1, Reason = "mistyped" } : null,
            }
        );

    /// <summary>The gauge failed on its standard after it took a reading.</summary>
    public void Flag(int index)
    {
        var sound = readings[index];
        readings[index] = new()
        {
            Id = sound.Id,
            Number = sound.Number,
            Kind = sound.Kind,
            Degrees = sound.Degrees,
            Value = sound.Value,
            Typed = "",
            Uncertainty = sound.Uncertainty,
            Resolution = sound.Resolution,
            GaugeId = sound.GaugeId,
            Cuts = sound.Cuts,
            Flagged = new FindingFact { Number = ++number },
        };
    }

    public void Find(FindingKind found) =>
        findings.Add(
            new()
            {
                Id = ++number,
                Number = number,
                Kind = found,
            }
        );

    public void Recall(bool hadLeft) =>
        recalled = new()
        {
            Id = ++number,
            Number = number,
            Reason = "wrong vehicle",
            HadLeft = hadLeft,
        };

    /// <summary>Reads every place that is asked for, and looks at every face.</summary>
    public void ReadAll(decimal value)
    {
        foreach (var place in State.Measuring.Places)
            Read(place.Degrees, value);
        ReadingKind[] depths =
            kind == PartKind.Rotor
                ? [ReadingKind.GrooveOuter, ReadingKind.GrooveInner, ReadingKind.ReliefOuter, ReadingKind.ReliefInner]
                : [ReadingKind.Groove, ReadingKind.Relief];
        foreach (var depth in depths)
            LookFor(depth);
    }

    /// <summary>A depth was looked for, and there was none.</summary>
    public void LookFor(ReadingKind depth) =>
        readings.Add(
            new()
            {
                Id = ++number,
                Number = number,
                Kind = depth,
                Typed = "none",
                Cuts = passes.Count,
            }
        );

    public void Mount(RemountCause? found = null) =>
        mounts.Add(
            new()
            {
                Id = ++number,
                Number = number,
                At = At,
                LatheId = 1,
                Cuts = passes.Count,
                Centring = "Cone 2",
                Found = found,
            }
        );

    /// <summary>Checks the set-up by a scratch that goes all round.</summary>
    public void Scratch(decimal depth) =>
        setUps.Add(
            new()
            {
                Id = ++number,
                Number = number,
                MountId = mounts[^1].Id,
                Manner = SetUpManner.OneScratch,
                FirstArc = 360,
                FirstLength = Mm.Of(depth),
            }
        );

    /// <summary>Checks the set-up: what it runs out by itself.</summary>
    public void Check(decimal runout) =>
        setUps.Add(
            new()
            {
                Id = ++number,
                Number = number,
                MountId = mounts[^1].Id,
                Manner = SetUpManner.Indicator,
                SetUpRunout = Mm.Of(runout),
            }
        );

    public void GoOn() =>
        decisions.Add(
            new()
            {
                Id = ++number,
                Number = number,
                MountId = mounts[^1].Id,
                CheckId = setUps.LastOrDefault()?.Id,
            }
        );

    /// <summary>Takes the plan with the most passes, or one that cuts nothing.</summary>
    public PlanFact Plan(string? leave = null, bool continues = false)
    {
        var request = State.Planning.Request(dialConfirmed: true);
        var option = leave is null
            ? PassPlanner.Plan(request).Options.Where(o => o.CanStart).MaxBy(o => o.Passes.Count)!
            : new PlanOption(leave, null, PlanStart.Free, Length.Zero, Length.Zero, [], []);
        PlanFact plan = new()
        {
            Id = ++number,
            Number = number,
            Version = plans.Count + 1,
            Technique = option.Key,
            LatheId = 1,
            Contents = new(request, option, []) { Continues = continues },
        };
        plans.Add(plan);
        return plan;
    }

    /// <summary>Makes the next pass of the newest plan.</summary>
    /// <param name="next">What followed from it.</param>
    /// <param name="dark">Dark twelfths after it; none: everything is bright.</param>
    /// <param name="noise">What was heard of chatter; null where it ran quiet.</param>
    public void Cut(NextStep next = NextStep.GoOn, int dark = 0, ChatterSign? noise = null) =>
        passes.Add(
            new()
            {
                Id = ++number,
                Number = number,
                PlanId = plans[^1].Id,
                Index = State.Planning.Passes.Count,
                Cut = passes.Count + 1,
                At = At,
                LatheId = 1,
                DarkOuter = dark,
                GrooveOuter = Length.Zero,
                GrooveInner = Length.Zero,
                Next = next,
                Noise = noise,
            }
        );

    /// <summary>Starts the next pass of the newest plan, and ends it.</summary>
    public void Start(CutStopKind end) =>
        starts.Add(
            new StoppedStart(new() { Id = ++number, Kind = end })
            {
                Id = ++number,
                Number = number,
                PlanId = plans[^1].Id,
                Index = State.Planning.Passes.Count,
                Attempt = starts.Count + 1,
            }
        );

    private sealed class StoppedStart(CutStopFact stop) : CutStartFact
    {
        public override CutStopFact Stopped => stop;
    }

    /// <summary>It chatters, and something was tried.</summary>
    public void Chatter() =>
        chatters.Add(
            new()
            {
                Id = ++number,
                Number = number,
                Cuts = passes.Count,
            }
        );

    public void Finish() =>
        finishes.Add(
            new()
            {
                Id = ++number,
                Number = number,
                Cuts = passes.Count,
            }
        );

    public void Confirm()
    {
        var (judged, state) = (State.Confirming.Judge(readingsAreFit: true), State);
        confirmations.Add(
            new()
            {
                Id = ++number,
                Number = number,
                At = At,
                Cuts = passes.Count,
                Kind = kind,
                Worst = judged.Worst!.Value,
                Discard = state.Receiving.Limits!.Discard,
                MachineTo = state.Receiving.Limits.MachineTo,
                Decision = judged.Decision,
                RulesId = RulesId,
            }
        );
    }
}
