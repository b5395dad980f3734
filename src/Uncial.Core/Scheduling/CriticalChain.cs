namespace Uncial.Core.Scheduling;

/// <summary>What a step waits for.</summary>
public enum WaitsFor
{
    /// <summary>Nothing: it begins now, or as soon as it may.</summary>
    Nothing,

    /// <summary>The step before it, of the same part.</summary>
    Part,

    /// <summary>What is on its lathe before it.</summary>
    Lathe,

    /// <summary>What its operator does before it.</summary>
    Operator,

    /// <summary>A time that somebody has set for it.</summary>
    Pin,

    /// <summary>The hours of work, or a lathe that is in order again.</summary>
    Hours,
}

/// <summary>A step of a chain.</summary>
/// <param name="Step">The step.</param>
/// <param name="For">What it waits for.</param>
public sealed record CriticalStep(PlacedStep Step, WaitsFor For);

/// <summary>
/// What a job's readiness hangs on: its last step, what that waits for, and so on back. A minute less at any of them is a minute won, until
/// another chain is the longer one.
/// </summary>
public static class CriticalChain
{
    /// <summary>The chain of a job, its first step first; empty where nothing of it is placed.</summary>
    /// <param name="day">The day.</param>
    /// <param name="board">Its board.</param>
    /// <param name="jobId">The job.</param>
    public static IReadOnlyList<CriticalStep> Of(DayToPlan day, DayBoard board, int jobId)
    {
        ArgumentNullException.ThrowIfNull(day);
        ArgumentNullException.ThrowIfNull(board);
        var ofJob = day.Works.Where(w => w.JobId == jobId).Select(w => w.Id).ToHashSet();
        List<CriticalStep> chain = [];
        for (var step = board.Steps.Where(s => ofJob.Contains(s.WorkId)).MaxBy(s => s.To); step is not null; )
        {
            var (before, why) = Before(day, board, step);
            chain.Insert(0, new(step, why));
            step = before;
        }
        return chain;
    }

    private static (PlacedStep? Step, WaitsFor Why) Before(DayToPlan day, DayBoard board, PlacedStep step)
    {
        var begin = step.From.AddMinutes(-step.ChangeOver);
        if (begin <= day.Now)
            return (null, WaitsFor.Nothing);
        var parts = day.Works.ToDictionary(w => w.Id, w => w.PartId);
        var others = board.Steps.Where(s => !ReferenceEquals(s, step) && s.From < step.From).ToList();
        // A change-over is done before the part is there: the part is waited for until it is mounted.
        if (others.Find(s => parts[s.WorkId] == parts[step.WorkId] && s.To == step.From) is { } part)
            return (part, WaitsFor.Part);
        if (step.LatheId is { } lathe && others.Find(s => s.LatheId == lathe && s.To == begin) is { } on)
            return (on, WaitsFor.Lathe);
        if (
            others.Find(s => s.OperatorId == step.OperatorId && (s.To == begin || s.FeedsFrom == begin || s.To == step.FeedsFrom)) is
            { } same
        )
            return (same, WaitsFor.Operator);
        return (null, day.Works.First(w => w.Id == step.WorkId).Pin?.NotBefore >= step.From ? WaitsFor.Pin : WaitsFor.Hours);
    }
}
