using Uncial.Core.Cutting;
using Uncial.Core.Lengths;

namespace Uncial.Core.Workflow;

/// <summary>A pass that was made, and what the metal showed after it.</summary>
public class PassFact : PartFact
{
    /// <summary>Key of its plan.</summary>
    public long PlanId { get; init; }

    /// <summary>The plan that it belongs to, where it is at hand; otherwise <see cref="PlanId"/> names it.</summary>
    public virtual PlanFact? OfPlan { get; init; }

    /// <summary>Place in its plan, from 0.</summary>
    public int Index { get; init; }

    /// <summary>Place among all passes of the surface, from 1.</summary>
    public int Cut { get; init; }

    /// <summary>The size measured after it ruled out that the dial counts twice or half the depth.</summary>
    public bool DialVerified { get; init; }

    /// <summary>Dark twelfths of the outer face or bore; bit 0 is 12 o'clock.</summary>
    public int DarkOuter { get; init; }

    /// <summary>Dark twelfths of the inner face.</summary>
    public int DarkInner { get; init; }

    /// <summary>Groove left on the outer face or bore; null where nobody looked.</summary>
    public Length? GrooveOuter { get; init; }

    /// <summary>Groove left on the inner face, likewise.</summary>
    public Length? GrooveInner { get; init; }

    /// <summary>A size measured right after the pass.</summary>
    public Length? Size { get; init; }

    /// <summary>The lathe; null for one from before lathes were on record.</summary>
    public int? LatheId { get; init; }

    /// <summary>Way of each tip through the metal, metres; 0 where size or band are not known.</summary>
    public decimal Metres { get; init; }

    /// <summary>Iron that it took by its dials, grams; 0 where size or band are not known.</summary>
    public decimal Grams { get; init; }

    /// <summary>What was heard or seen of chatter; null where it ran quiet.</summary>
    public ChatterSign? Noise { get; init; }

    /// <summary>What followed from it.</summary>
    public NextStep Next { get; init; }

    /// <summary>The size after it was taken on a bright spot, by what was said when it was read.</summary>
    public virtual bool TouchedFromSize => DialVerified;

    /// <summary>It left nothing dark.</summary>
    public bool IsClean => this is { DarkOuter: 0, DarkInner: 0 };

    /// <summary>It belongs to a plan.</summary>
    public bool IsOf(PlanFact plan)
    {
        ArgumentNullException.ThrowIfNull(plan);
        return ReferenceEquals(OfPlan, plan) || (plan.Id != 0 && PlanId == plan.Id);
    }
}

/// <summary>How a started pass ended.</summary>
public enum CutStopKind
{
    /// <summary>It ran to its end.</summary>
    Done,

    /// <summary>It was stopped inside the cut, which leaves a step: it is made again at the same setting.</summary>
    BrokenOff,

    /// <summary>The tool never touched: it was started by mistake.</summary>
    NotCut,
}

/// <summary>A pass was started: from here on nobody else starts it.</summary>
public class CutStartFact : PartFact
{
    /// <summary>Key of its plan.</summary>
    public long PlanId { get; init; }

    /// <summary>Place of the pass in its plan, from 0.</summary>
    public int Index { get; init; }

    /// <summary>Which start of this pass it is, from 1: one that was broken off is made again.</summary>
    public int Attempt { get; init; }

    /// <summary>The lathe.</summary>
    public int LatheId { get; init; }

    /// <summary>Minutes by band, feed and speed; 0 where they are not known.</summary>
    public decimal PlannedMinutes { get; init; }

    /// <summary>Seconds that it should take, by what passes took on this lathe; 0 where not known.</summary>
    public int Seconds { get; init; }

    /// <summary>What was looked at before it; null for a start from before that was kept.</summary>
    public virtual IReadOnlyList<StartCheck>? Checks { get; init; }

    /// <summary>How it ended; null while it runs.</summary>
    public virtual CutStopFact? Stopped { get; init; }
}

/// <summary>The end of a started pass.</summary>
public class CutStopFact : PartFact
{
    /// <summary>How it ended.</summary>
    public CutStopKind Kind { get; init; }

    /// <summary>Why it was broken off.</summary>
    public string? Reason { get; init; }
}

/// <summary>Chatter that was heard or seen, what was tried, and whether it helped.</summary>
public class ChatterFact : PartFact
{
    /// <summary>Passes that the surface had behind it.</summary>
    public int Cuts { get; init; }

    /// <summary>What was heard or seen.</summary>
    public ChatterSign Sign { get; init; }

    /// <summary>What was tried.</summary>
    public ChatterRemedy Remedy { get; init; }

    /// <summary>It helped.</summary>
    public bool Helped { get; init; }
}

/// <summary>The part was finished after its cuts: hatched, edges, washed.</summary>
public class FinishFact : PartFact
{
    /// <summary>Passes that it had behind it.</summary>
    public int Cuts { get; init; }

    /// <summary>Why a step was left out.</summary>
    public string? Reason { get; init; }
}
