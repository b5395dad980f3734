namespace Uncial.Core.Scheduling;

/// <summary>A job with what was promised.</summary>
/// <param name="Id">Number of the job.</param>
/// <param name="Promised">When it shall be ready; null where nothing was promised.</param>
/// <param name="IsUrgent">A minute of lateness counts three times.</param>
public sealed record DayJob(int Id, DateTimeOffset? Promised, bool IsUrgent = false);

/// <summary>Where a surface, or its confirming, stood in the board that people saw last.</summary>
/// <param name="WorkId">The work surface.</param>
/// <param name="LatheId">Its lathe; null for its confirming.</param>
/// <param name="At">When it was to be mounted, or confirmed.</param>
public sealed record SeenPlace(int WorkId, int? LatheId, DateTimeOffset At);

/// <summary>Everything that a day's plan is made from.</summary>
public sealed record DayToPlan
{
    /// <summary>Nothing that starts so soon is moved, unless a promise would break.</summary>
    public static TimeSpan Held { get; } = TimeSpan.FromMinutes(15);

    /// <summary>The moment at which it is planned.</summary>
    public required DateTimeOffset Now { get; init; }

    /// <summary>The jobs that are in the shop.</summary>
    public required IReadOnlyList<DayJob> Jobs { get; init; }

    /// <summary>What is still to be done, of parts that can be worked on.</summary>
    public required IReadOnlyList<SurfaceWork> Works { get; init; }

    /// <summary>The lathes.</summary>
    public required IReadOnlyList<DayLathe> Lathes { get; init; }

    /// <summary>The operators.</summary>
    public required IReadOnlyList<DayOperator> Operators { get; init; }

    /// <summary>Whether somebody measures and confirms in the bay while the own lathe feeds.</summary>
    public bool MeasuresWhileFeeding { get; init; } = true;

    /// <summary>The board that people saw last, in the order in which it was placed; empty at opening.</summary>
    public IReadOnlyList<SeenPlace> Seen { get; init; } = [];
}
