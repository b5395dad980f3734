namespace Uncial.Core.Scheduling;

/// <summary>A way to machine a work surface: on which lathe, how held, and how long it takes there.</summary>
/// <param name="LatheId">The lathe.</param>
/// <param name="SetUp">Its head and adapters.</param>
/// <param name="Attended">Mounting, check, first touch: the operator stands at the lathe.</param>
/// <param name="Feeding">The passes: the lathe feeds, and the operator stays in its bay.</param>
public sealed record Machining(int LatheId, LatheSetUp SetUp, StepTime Attended, StepTime Feeding);

/// <summary>A step that somebody does at this moment; it stays where it is.</summary>
/// <param name="OperatorId">Who.</param>
/// <param name="LatheId">The lathe, or null for measuring or confirming.</param>
/// <param name="AttendedLeft">What is left for the operator: all of it where there is no lathe.</param>
/// <param name="FeedingLeft">What the lathe feeds on alone after that; nothing where there is none.</param>
public sealed record StartedStep(int OperatorId, int? LatheId, StepTime AttendedLeft, StepTime FeedingLeft);

/// <summary>What somebody has decided about a part in the day's plan.</summary>
/// <param name="LatheId">On this lathe; null for any.</param>
/// <param name="Place">At this place of what is still to come on its lathe, 0 for the first; null for any.</param>
/// <param name="NotBefore">Mounted no sooner; null for any time.</param>
public sealed record Pin(int? LatheId, int? Place, DateTimeOffset? NotBefore);

/// <summary>What is still to be done at one work surface.</summary>
public sealed record SurfaceWork
{
    /// <summary>Number of the work surface.</summary>
    public required int Id { get; init; }

    /// <summary>The part that it is of: two surfaces of a part are not worked on at the same time.</summary>
    public required int PartId { get; init; }

    /// <summary>Its job.</summary>
    public required int JobId { get; init; }

    /// <summary>Measuring with inspection; null where it is done.</summary>
    public StepTime? Measure { get; init; }

    /// <summary>The ways to machine it; none where it is not machined any more.</summary>
    public IReadOnlyList<Machining> Machinings { get; init; } = [];

    /// <summary>Whether it can be machined on a lathe.</summary>
    /// <param name="latheId">Number of the lathe.</param>
    public bool IsFor(int latheId) => Machinings.Any(m => m.LatheId == latheId);

    /// <summary>Confirming; null where it is done.</summary>
    public StepTime? Confirm { get; init; }

    /// <summary>The first of the steps that are still to do is under way; null where it is not.</summary>
    public StartedStep? Started { get; init; }

    /// <summary>What somebody has decided about it; null for nothing.</summary>
    public Pin? Pin { get; init; }
}
