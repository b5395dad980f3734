using Uncial.Core.Lengths;
using Uncial.Core.Reasoning;

namespace Uncial.Core.Planning;

/// <summary>What a pass is for.</summary>
public enum PassKind
{
    /// <summary>Takes metal fast.</summary>
    Rough,

    /// <summary>Leaves the surface that goes on the road.</summary>
    Finish,

    /// <summary>Grinding on at the same setting until no sparks fly.</summary>
    SparkOut,
}

/// <summary>Whether the first pass may be taken as planned.</summary>
public enum PlanStart
{
    /// <summary>Yes.</summary>
    Free,

    /// <summary>Its bound was past machine-to, so it was made shallower and the part is measured after it.</summary>
    Shortened,

    /// <summary>Not even the technique's shallowest pass surely stays inside machine-to: do not start.</summary>
    Blocked,
}

/// <summary>Why a technique cannot do it.</summary>
public enum PlanRefusal
{
    /// <summary>It takes more metal than there is.</summary>
    Budget,

    /// <summary>No number of its passes reaches the depth that is needed.</summary>
    TechniqueRange,

    /// <summary>No whole division of the dial lies between its shallowest and deepest pass.</summary>
    DialTooCoarse,

    /// <summary>A pass could end past discard.</summary>
    DiscardBound,

    /// <summary>A pass set by hand is heavier than the shop's heaviest.</summary>
    TooHeavy,
}

/// <summary>One pass over the part.</summary>
/// <param name="Kind">What it is for.</param>
/// <param name="Divisions">Whole dial divisions of this pass, for each side; 0 where a side is not cut.</param>
/// <param name="Depth">Depth of this pass, for each side.</param>
/// <param name="DialFromTouch">Where the dial stands for it, counted from first touch in the dial's own measure, for each side.</param>
/// <param name="SizeAfter">Thickness or diameter expected after it where the part is clean.</param>
/// <param name="BoundAfter">Size that it surely is not worse than after it.</param>
/// <param name="MeasureFirst">Measure before it: it could reach past machine-to.</param>
/// <param name="CleanShare">Share of the turn expected clean after it, 0 … 1, for each side.</param>
public sealed record PlannedPass(
    PassKind Kind,
    IReadOnlyList<long> Divisions,
    IReadOnlyList<Length> Depth,
    IReadOnlyList<Length> DialFromTouch,
    Length SizeAfter,
    Length BoundAfter,
    bool MeasureFirst,
    IReadOnlyList<double> CleanShare
)
{
    /// <summary>The part is turned round (or flipped on the grinder) before this pass and touched anew.</summary>
    public bool TurnFirst { get; init; }
}

/// <summary>One technique, tried on this part.</summary>
/// <param name="Key">The technique's key.</param>
/// <param name="Refusal">Why it cannot be done; null where it can.</param>
/// <param name="Start">Whether the first pass may be taken as planned.</param>
/// <param name="Metal">Metal it takes: both faces of a rotor together, radial in a drum; null where it has none.</param>
/// <param name="Waste">Metal over the needs; null where it has none.</param>
/// <param name="Passes">Its passes; none where it cannot be done.</param>
/// <param name="Notes">What it costs beyond need.</param>
public sealed record PlanOption(
    string Key,
    PlanRefusal? Refusal,
    PlanStart Start,
    Length? Metal,
    Length? Waste,
    IReadOnlyList<PlannedPass> Passes,
    IReadOnlyList<Note> Notes
)
{
    /// <summary>The technique can do it within the metal there is.</summary>
    public bool Feasible => Refusal is null;

    /// <summary>Its passes were set by hand. Unlike others it keeps them where it is refused.</summary>
    public bool ByHand { get; init; }

    /// <summary>It can be done and started.</summary>
    public bool CanStart => Feasible && Start != PlanStart.Blocked;

    /// <summary>How it was worked out, in order.</summary>
    public IReadOnlyList<Step> Steps { get; init; } = [];
}

/// <summary>Which figures stand against each other where no technique can start.</summary>
/// <param name="Needed">Least metal that any technique would take.</param>
/// <param name="Available">Metal there is to machine-to, less the uncertainty; negative where the part is past it.</param>
/// <param name="Cause">What stands against every technique.</param>
public sealed record Shortfall(Length Needed, Length Available, ShortfallCause Cause = ShortfallCause.Metal);

/// <summary>What stands against every technique, where none can start.</summary>
public enum ShortfallCause
{
    /// <summary>There is less metal than any would take.</summary>
    Metal,

    /// <summary>The metal is enough for one, but its first pass could end past machine-to.</summary>
    FirstPass,

    /// <summary>The metal is enough for one, but a pass could end past discard.</summary>
    Discard,

    /// <summary>The metal is enough, but no technique reaches the depth with its passes and this dial.</summary>
    Technique,
}

/// <summary>Something that would help where no technique can start.</summary>
/// <param name="Code">
/// Stable name: <c>remount</c>, <c>measureRunout</c>, <c>finerGauge</c>, <c>confirmDial</c>, <c>finerDial</c>, <c>light</c>,
/// <c>leadSigns</c>, <c>scuff</c>, <c>replace</c>.
/// </param>
/// <param name="Wins">Metal that it may win, at most; null where it wins none.</param>
/// <param name="IsEnough">What it may win covers what is short.</param>
public sealed record Remedy(string Code, Length? Wins, bool IsEnough);

/// <summary>Taking the glaze off and leaving the grooves: no metal that counts goes, and none of the run-out.</summary>
/// <param name="Allowed">The part may leave like that as far as size and grooves go; readings still decide.</param>
/// <param name="GrooveStays">Deepest groove that stays: both faces together, or twice the radial depth of a drum.</param>
/// <param name="RunoutStays">The greatest run-out or out-of-round that stays on the part.</param>
/// <param name="LeftToDiscard">What is left to discard.</param>
/// <param name="LeftToMachineTo">What is left to machine-to; negative where the part is past it.</param>
/// <param name="Steps">How it was worked out.</param>
public sealed record ScuffOnly(
    bool Allowed,
    Length GrooveStays,
    Length RunoutStays,
    Length LeftToDiscard,
    Length LeftToMachineTo,
    IReadOnlyList<Step> Steps
);

/// <summary>All techniques side by side.</summary>
/// <param name="Recommended">Key of the one to take, or null.</param>
/// <param name="Shortfall">Null where one can be taken.</param>
/// <param name="Budget">Metal there is to machine-to, less the uncertainty.</param>
/// <param name="PhysicalLeast">Needs rounded up to whole divisions: no plan can take less.</param>
/// <param name="Options">One for each technique, in the order given.</param>
public sealed record PassPlan(
    string? Recommended,
    Shortfall? Shortfall,
    Length Budget,
    Length PhysicalLeast,
    IReadOnlyList<PlanOption> Options
)
{
    /// <summary>What would help where none can be taken, the likeliest first; empty otherwise.</summary>
    public IReadOnlyList<Remedy> Remedies { get; init; } = [];

    /// <summary>Scuffing instead of cutting; null where the worst reading or discard is not known.</summary>
    public ScuffOnly? Scuff { get; init; }

    /// <summary>How budget and needs were worked out, in order; each option has its own steps.</summary>
    public IReadOnlyList<Step> Steps { get; init; } = [];
}
