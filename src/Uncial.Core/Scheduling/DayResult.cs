namespace Uncial.Core.Scheduling;

/// <summary>What was planned when a day was opened.</summary>
/// <param name="Promised">Jobs promised for that day.</param>
/// <param name="InDanger">Of these, those whose promise was tight or late by the plan, or waited for a decision.</param>
/// <param name="Surfaces">Surfaces that were to be machined on that day.</param>
/// <param name="ChangeOverMinutes">Minutes of change-over.</param>
/// <param name="WaitingMinutes">Minutes of waiting between the parts of a job.</param>
public sealed record DayForecast(int Promised, int InDanger, int Surfaces, int ChangeOverMinutes, int WaitingMinutes)
{
    /// <summary>Of a planned day; what comes on later days is not in it.</summary>
    /// <param name="plan">The plan.</param>
    /// <param name="end">The end of the day.</param>
    public static DayForecast Of(PlannedDay plan, DateTimeOffset end)
    {
        ArgumentNullException.ThrowIfNull(plan);
        var day = plan.Day.Plan;
        var jobs = day.Works.ToDictionary(w => w.Id, w => w.JobId);
        var open = jobs.Values.Union(plan.Day.HeldJobs).ToHashSet();
        var promised = day.Jobs.Where(j => open.Contains(j.Id) && j.Promised < end).ToList();
        var blocks = plan.Board.Steps.Where(s => s.LatheId is not null && s.From < end).ToList();
        return new(
            promised.Count,
            promised.Count(j => plan.PromiseOf(j.Id) is not PromiseState.Safe),
            blocks.Count,
            blocks.Sum(s => s.ChangeOver),
            JobWaiting.Minutes(blocks.Select(s => (jobs[s.WorkId], s.From, s.To)))
        );
    }
}

/// <summary>A job that was promised for a day, as it came.</summary>
/// <param name="Promised">When it was to be ready.</param>
/// <param name="Ready">When its last part was confirmed; null where one was not.</param>
public readonly record struct PromiseMade(DateTimeOffset Promised, DateTimeOffset? Ready)
{
    /// <summary>It was ready by then.</summary>
    public bool IsKept => Ready <= Promised;
}

/// <summary>A part on a lathe on a day that is over.</summary>
/// <param name="LatheId">The lathe.</param>
/// <param name="JobId">Its job.</param>
/// <param name="SetUp">Head and adapters.</param>
/// <param name="From">When it was mounted.</param>
/// <param name="To">When it was done.</param>
/// <param name="ChangeOverMinutes">What a change to it costs on that lathe: of the head, and of adapters alone.</param>
public sealed record BlockDone(
    int LatheId,
    int JobId,
    LatheSetUp SetUp,
    DateTimeOffset From,
    DateTimeOffset To,
    (int Head, int Adapters) ChangeOverMinutes
);

/// <summary>What happened on a day.</summary>
/// <param name="Promised">Jobs that were promised for it.</param>
/// <param name="Kept">Of these, those that were ready in time.</param>
/// <param name="Surfaces">Surfaces that were machined.</param>
/// <param name="ChangeOvers">Changes of head or adapters between two parts of a lathe.</param>
/// <param name="ChangeOverMinutes">Minutes that these take, by the lathe's profile and the shop's settings.</param>
/// <param name="WaitingMinutes">Minutes between the parts of a job in which none of them was on a lathe.</param>
public sealed record DayResult(int Promised, int Kept, int Surfaces, int ChangeOvers, int ChangeOverMinutes, int WaitingMinutes)
{
    /// <summary>From what is on record.</summary>
    /// <param name="promises">The jobs that were promised for the day.</param>
    /// <param name="blocks">What was on the lathes, in any order.</param>
    public static DayResult Of(IReadOnlyCollection<PromiseMade> promises, IReadOnlyCollection<BlockDone> blocks)
    {
        ArgumentNullException.ThrowIfNull(promises);
        ArgumentNullException.ThrowIfNull(blocks);
        var (changes, minutes) = (0, 0);
        foreach (var lathe in blocks.GroupBy(b => b.LatheId))
        {
            var inOrder = lathe.OrderBy(b => b.From).ToList();
            foreach (var (before, after) in inOrder.Zip(inOrder.Skip(1)).Where(x => x.First.SetUp != x.Second.SetUp))
            {
                changes++;
                minutes += before.SetUp.Head == after.SetUp.Head ? after.ChangeOverMinutes.Adapters : after.ChangeOverMinutes.Head;
            }
        }
        return new(
            promises.Count,
            promises.Count(p => p.IsKept),
            blocks.Count,
            changes,
            minutes,
            JobWaiting.Minutes(blocks.Select(b => (b.JobId, b.From, b.To)))
        );
    }
}

/// <summary>Minutes in which a job waits between its parts.</summary>
internal static class JobWaiting
{
    /// <summary>Minutes between the first and the last block of each job in which none of its parts is on a lathe.</summary>
    public static int Minutes(IEnumerable<(int JobId, DateTimeOffset From, DateTimeOffset To)> blocks)
    {
        var total = TimeSpan.Zero;
        foreach (var job in blocks.GroupBy(b => b.JobId))
        {
            DateTimeOffset? until = null;
            foreach (var (_, from, to) in job.OrderBy(b => b.From))
            {
                if (from > until)
                    total += from - until.Value;
                until = until > to ? until : to;
            }
        }
        return (int)total.TotalMinutes;
    }
}
