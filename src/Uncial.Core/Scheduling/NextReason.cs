namespace Uncial.Core.Scheduling;

/// <summary>What would be worse if something else came next.</summary>
public enum NextWhy
{
    /// <summary>A promise would be kept later, or broken by more.</summary>
    Promise,

    /// <summary>More minutes of change-over and waiting.</summary>
    Idle,

    /// <summary>The day would end later.</summary>
    Finish,

    /// <summary>Nothing would be worse: it stands where people saw it, or is as good as another.</summary>
    AsGood,

    /// <summary>Nothing else can come next.</summary>
    NothingElse,
}

/// <summary>Why a surface comes next on its lathe.</summary>
/// <param name="WorkId">The surface.</param>
/// <param name="LatheId">The lathe.</param>
/// <param name="Why">What would be worse.</param>
/// <param name="Minutes">By how many minutes; 0 where nothing would be.</param>
/// <param name="JobId">The job whose promise suffers most; null where no promise does.</param>
public sealed record NextReason(int WorkId, int LatheId, NextWhy Why, int Minutes, int? JobId)
{
    /// <summary>
    /// The reason for each lathe's next surface: what the best board costs more in which that surface does not come next. What is named
    /// does get worse without it, since that board was made.
    /// </summary>
    /// <param name="day">The day.</param>
    /// <param name="board">Its best board.</param>
    /// <param name="rounds">How many rounds it was improved by; the other boards are, too.</param>
    /// <param name="cancel">Gives it up.</param>
    /// <exception cref="OperationCanceledException">It was given up.</exception>
    public static IReadOnlyList<NextReason> Of(DayToPlan day, DayBoard board, int rounds = 0, CancellationToken cancel = default)
    {
        ArgumentNullException.ThrowIfNull(day);
        ArgumentNullException.ThrowIfNull(board);
        return
        [
            .. board
                .Steps.Where(s =>
                    s.Step == WorkStep.Machine && day.Works.Single(w => w.Id == s.WorkId).Started is not { LatheId: not null }
                )
                .GroupBy(s => s.LatheId!.Value)
                .Select(g => g.MinBy(s => s.From)!)
                .Select(s => Of(day, board, s, rounds, cancel)),
        ];
    }

    private static NextReason Of(DayToPlan day, DayBoard board, PlacedStep next, int rounds, CancellationToken cancel)
    {
        var lathe = next.LatheId!.Value;
        var other = DayPlanner.Without(day with { Seen = [] }, board, (next.WorkId, lathe), rounds, cancel);
        if (other.Cost.NotKept > board.Cost.NotKept)
            return new(next.WorkId, lathe, NextWhy.NothingElse, 0, null);
        if (other.Cost.Lateness > board.Cost.Lateness)
        {
            var suffers = day.Jobs.MaxBy(j => LateBy(j, other) - LateBy(j, board))!;
            return new(next.WorkId, lathe, NextWhy.Promise, LateBy(suffers, other) - LateBy(suffers, board), suffers.Id);
        }
        if (other.Cost.Idle > board.Cost.Idle)
            return new(next.WorkId, lathe, NextWhy.Idle, other.Cost.Idle - board.Cost.Idle, null);
        return other.Cost.Finish > board.Cost.Finish
            ? new(next.WorkId, lathe, NextWhy.Finish, other.Cost.Finish - board.Cost.Finish, null)
            : new(next.WorkId, lathe, NextWhy.AsGood, 0, null);
    }

    private static int LateBy(DayJob job, DayBoard board) =>
        job.Promised is { } at && board.ReadyAt.TryGetValue(job.Id, out var ready)
            ? Math.Max(0, (int)Math.Ceiling((ready - at).TotalMinutes))
            : 0;
}
