using Uncial.Core.Lengths;
using Uncial.Core.Mounting;

namespace Uncial.Core.Workflow;

/// <summary>A part put on a lathe.</summary>
public class MountFact : PartFact
{
    /// <summary>The lathe.</summary>
    public int LatheId { get; init; }

    /// <summary>Cuts that the surface had behind it.</summary>
    public int Cuts { get; init; }

    /// <summary>How it is held.</summary>
    public MountWay Way { get; init; }

    /// <summary>Adapter that centres it.</summary>
    public required string Centring { get; init; }

    /// <summary>Band, silencers or belt are on.</summary>
    public bool Damped { get; init; }

    /// <summary>What it is held by, piece by piece; null where that was not loaded.</summary>
    public virtual Mounting.MountOption? Stack { get; init; }

    /// <summary>It was taken off and put on again: what was found then; null for a first mounting.</summary>
    public RemountCause? Found { get; init; }
}

/// <summary>How a set-up was checked.</summary>
public enum SetUpManner
{
    /// <summary>Two scratches, the part turned on the arbor between them.</summary>
    TwoScratches,

    /// <summary>Arcs of two scratches without their depths.</summary>
    Angles,

    /// <summary>One scratch.</summary>
    OneScratch,

    /// <summary>An indicator, before and after a turn on the arbor.</summary>
    Indicator,

    /// <summary>Two arcs of one scratch in a drum.</summary>
    TwoArcs,

    /// <summary>Two scratches whose arcs lay side by side, by eye.</summary>
    SideBySide,
}

/// <summary>A check of a set-up: what was seen, and what it came to.</summary>
public class SetUpFact : PartFact
{
    /// <summary>The mounting that was checked.</summary>
    public long MountId { get; init; }

    /// <summary>How it was checked.</summary>
    public SetUpManner Manner { get; init; }

    /// <summary>Turn of the part on the arbor between the marks, clockwise, degrees; 0 where it was not turned.</summary>
    public decimal Turned { get; init; }

    /// <summary>Middle of the first arc, or high spot, degrees.</summary>
    public decimal FirstDegrees { get; init; }

    /// <summary>Extent of the first arc, degrees; null for an indicator.</summary>
    public decimal? FirstArc { get; init; }

    /// <summary>Depth of the scratch, or total reading of the indicator.</summary>
    public Length? FirstLength { get; init; }

    /// <summary>Middle of the second arc, or high spot, degrees.</summary>
    public decimal? SecondDegrees { get; init; }

    /// <summary>Extent of the second arc, degrees.</summary>
    public decimal? SecondArc { get; init; }

    /// <summary>Depth of the second scratch, or second total reading.</summary>
    public Length? SecondLength { get; init; }

    /// <summary>Set-up run-out that the shop accepted.</summary>
    public Length Tolerance { get; init; }

    /// <summary>What the check came to.</summary>
    public SetUpVerdict Verdict { get; init; }

    /// <summary>The set-up's own run-out, total reading; null where only shares are known.</summary>
    public Length? SetUpRunout { get; init; }

    /// <summary>The part's own run-out, total reading.</summary>
    public Length? PartRunout { get; init; }

    /// <summary>Run-out as it turns now: part and set-up together.</summary>
    public Length? RunoutNow { get; init; }

    /// <summary>Metal that the set-up costs as it stands; negative: saved.</summary>
    public Length? CostNow { get; init; }

    /// <summary>What cutting now would leave: run-out of a rotor, eccentricity of a drum.</summary>
    public Length? LeftOnVehicle { get; init; }

    /// <summary>Share of the set-up in what was seen, 0 … 1.</summary>
    public double? SetUpShare { get; init; }

    /// <summary>What the part runs out at most as it is mounted: a scratch that goes all round is so deep; null where none does.</summary>
    public Length? RunsOutAtMost =>
        this switch
        {
            { Manner: SetUpManner.TwoScratches, SecondArc: >= 360, SecondLength: { } depth } => depth,
            { Manner: SetUpManner.OneScratch, FirstArc: >= 360, FirstLength: { } depth } => depth,
            _ => null,
        };
}

/// <summary>Somebody said that the part may be cut as it is mounted; against the check, or without one, with a reason.</summary>
public class SetUpDecisionFact : PartFact
{
    /// <summary>The mounting.</summary>
    public long MountId { get; init; }

    /// <summary>The check it rests on; null where it was not checked.</summary>
    public long? CheckId { get; init; }

    /// <summary>That check, where it is at hand.</summary>
    public virtual SetUpFact? OfCheck { get; init; }

    /// <summary>Why it goes on against its check or without one; null where the check is good.</summary>
    public string? Reason { get; init; }
}
