namespace Uncial.Core.Scheduling;

/// <summary>How a promise stands.</summary>
public enum PromiseState
{
    /// <summary>Kept in four of five days.</summary>
    Safe,

    /// <summary>Likely kept, but not in four of five days.</summary>
    Tight,

    /// <summary>Likely not kept.</summary>
    Late,
}

/// <summary>When a job is ready, as a range.</summary>
/// <param name="JobId">The job.</param>
/// <param name="Likely">As soon in half of all days like this.</param>
/// <param name="Sure">As soon in four of five.</param>
/// <param name="Promise">How its promise stands; null where nothing was promised.</param>
public sealed record JobReadiness(int JobId, DateTimeOffset Likely, DateTimeOffset Sure, PromiseState? Promise)
{
    /// <summary>So many days are drawn.</summary>
    public const int Days = 200;

    /// <summary>
    /// The range of each job that finds its time: the planned order is gone through on two hundred days, on each of which steps take as
    /// long as they did on one of the days before. The same board always gives the same range.
    /// </summary>
    /// <param name="day">The day.</param>
    /// <param name="board">Its board.</param>
    public static IReadOnlyList<JobReadiness> Of(DayToPlan day, DayBoard board)
    {
        ArgumentNullException.ThrowIfNull(day);
        ArgumentNullException.ThrowIfNull(board);
        var random = new Random(Days);
        var ready = day.Jobs.Select(_ => new List<int>(Days)).ToList();
        DayProblem hours = new(day);
        for (var n = 0; n < Days; n++)
        {
            var table = new Timetable(new DayProblem(day, random, hours: hours));
            foreach (var (work, way) in board.Order)
                table.Place(work, way);
            for (var j = 0; j < ready.Count; j++)
                ready[j].Add(table.Ready[j]);
        }
        return
        [
            .. day
                .Jobs.Select((job, i) => (job, Minutes: ready[i].Order().ToList()))
                .Where(x => board.ReadyAt.ContainsKey(x.job.Id))
                .Select(x =>
                {
                    var (likely, sure) = (At(x.Minutes, 0.5), At(x.Minutes, 0.8));
                    return new JobReadiness(
                        x.job.Id,
                        likely,
                        sure,
                        x.job.Promised is not { } at ? null
                            : likely > at ? PromiseState.Late
                            : sure > at ? PromiseState.Tight
                            : PromiseState.Safe
                    );
                }),
        ];

        DateTimeOffset At(List<int> minutes, double share) => day.Now.AddMinutes(StepTime.Quantile(minutes, share));
    }
}
