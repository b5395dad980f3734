using Uncial.Core.Lengths;

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
    PassKind Kind, IReadOnlyList<long> Divisions, IReadOnlyList<Length> Depth, IReadOnlyList<Length> DialFromTouch,
    Length SizeAfter, Length BoundAfter, bool MeasureFirst, IReadOnlyList<double> CleanShare);

/// <summary>One technique, tried on this part.</summary>
/// <param name="Key">The technique's key.</param>
/// <param name="Refusal">Why it cannot be done; null where it can.</param>
/// <param name="Start">Whether the first pass may be taken as planned.</param>
/// <param name="Metal">Metal it takes: both faces of a rotor together, radial in a drum; null where it has none.</param>
/// <param name="Waste">Metal over the needs; null where it has none.</param>
/// <param name="Passes">Its passes; none where it cannot be done.</param>
/// <param name="Notes">What it costs beyond need.</param>
public sealed record PlanOption(
    string Key, PlanRefusal? Refusal, PlanStart Start, Length? Metal, Length? Waste, IReadOnlyList<PlannedPass> Passes, IReadOnlyList<Note> Notes)
{
    /// <summary>The technique can do it within the metal there is.</summary>
    public bool Feasible => Refusal is null;

    /// <summary>It can be done and started.</summary>
    public bool CanStart => Feasible && Start != PlanStart.Blocked;
}

/// <summary>Which figures stand against each other where no technique can start.</summary>
/// <param name="Needed">Least metal that any technique would take.</param>
/// <param name="Available">Metal there is to machine-to, less the uncertainty; negative where the part is past it.</param>
public sealed record Shortfall(Length Needed, Length Available);

/// <summary>All techniques side by side.</summary>
/// <param name="Recommended">Key of the one to take, or null.</param>
/// <param name="Shortfall">Null where one can be taken.</param>
/// <param name="Budget">Metal there is to machine-to, less the uncertainty.</param>
/// <param name="PhysicalLeast">Needs rounded up to whole divisions: no plan can take less.</param>
/// <param name="Options">One for each technique, in the order given.</param>
public sealed record PassPlan(string? Recommended, Shortfall? Shortfall, Length Budget, Length PhysicalLeast, IReadOnlyList<PlanOption> Options);
