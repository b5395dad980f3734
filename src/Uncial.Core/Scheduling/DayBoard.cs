using Uncial.Core.Parts;

namespace Uncial.Core.Scheduling;

/// <summary>A step of the work on one surface.</summary>
public enum WorkStep
{
    /// <summary>Measured and inspected, off the lathe.</summary>
    Measure,

    /// <summary>Mounted, checked, cut and finished, without a break between.</summary>
    Machine,

    /// <summary>Measured again and judged, off the lathe.</summary>
    Confirm,
}

/// <summary>What a step can be taken up at.</summary>
public static class WorkSteps
{
    /// <summary>Whether a step is what a part at a station is waiting for.</summary>
    /// <param name="step">The step.</param>
    /// <param name="station">Where the part waits.</param>
    public static bool IsDueAt(this WorkStep step, Station station) =>
        step switch
        {
            WorkStep.Measure => station <= Station.Measure,
            WorkStep.Machine => station is Station.Mount or Station.Plan or Station.Cut,
            _ => station == Station.Confirm,
        };
}

/// <summary>A step with its time, its operator and its lathe.</summary>
/// <param name="WorkId">The work surface.</param>
/// <param name="Step">Which step.</param>
/// <param name="OperatorId">Who does it.</param>
/// <param name="LatheId">On which lathe; null off the lathe.</param>
/// <param name="From">When it begins; on a lathe after the change-over.</param>
/// <param name="FeedsFrom">On a lathe, when the operator's hands are free: the lathe feeds. The end where it does not.</param>
/// <param name="To">When it ends.</param>
/// <param name="ChangeOver">Minutes of change-over before it, done by the same operator.</param>
public sealed record PlacedStep(
    int WorkId,
    WorkStep Step,
    int OperatorId,
    int? LatheId,
    DateTimeOffset From,
    DateTimeOffset FeedsFrom,
    DateTimeOffset To,
    int ChangeOver
);

/// <summary>A day's plan.</summary>
/// <param name="Steps">The steps in the order of their times.</param>
/// <param name="ReadyAt">For each job with work, when its last step ends, by the sure times; no entry where a step finds no time.</param>
/// <param name="NotPlaced">Surfaces of which a step finds no time in the hours that were given.</param>
/// <param name="Cost">What it costs.</param>
public sealed record DayBoard(
    IReadOnlyList<PlacedStep> Steps,
    IReadOnlyDictionary<int, DateTimeOffset> ReadyAt,
    IReadOnlyList<int> NotPlaced,
    BoardCost Cost
)
{
    /// <summary>The surfaces in the order in which they were placed, each with its way of machining, by their places in the day.</summary>
    internal IReadOnlyList<(int Work, int Way)> Order { get; init; } = [];

    /// <summary>What is still to be mounted or confirmed, in the order in which it was placed: the board as people now see it.</summary>
    public IReadOnlyList<SeenPlace> Seen { get; init; } = [];
}
