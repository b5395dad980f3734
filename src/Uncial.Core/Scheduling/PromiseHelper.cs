namespace Uncial.Core.Scheduling;

/// <summary>Whether a time can be promised.</summary>
public enum PromiseAnswer
{
    /// <summary>It is kept in four of five days.</summary>
    Yes,

    /// <summary>It is likely kept, but not in four of five days.</summary>
    Tight,

    /// <summary>It is likely not kept, or a step finds no time.</summary>
    No,
}

/// <summary>What would make a promise good.</summary>
public abstract record PromiseRemedy
{
    private PromiseRemedy() { }

    /// <summary>The job is marked urgent.</summary>
    public sealed record Urgent : PromiseRemedy;

    /// <summary>Everybody and every lathe stays longer on that day.</summary>
    /// <param name="Minutes">So many minutes.</param>
    public sealed record Overtime(int Minutes) : PromiseRemedy;

    /// <summary>A part of the work is left out, such as one axle.</summary>
    /// <param name="Group">Which, as it was named.</param>
    public sealed record LeftOut(string Group) : PromiseRemedy;
}

/// <summary>What taking in a job does to another one.</summary>
/// <param name="JobId">The other job.</param>
/// <param name="Before">How its promise stands without.</param>
/// <param name="After">How it would stand.</param>
public sealed record PromiseHarmed(int JobId, PromiseState Before, PromiseState After);

/// <summary>What can be promised for a job that is not in the day yet.</summary>
/// <param name="Ready">When it would be ready; null where a step finds no time in the hours that were given.</param>
/// <param name="Harmed">Promises to others that would stand worse.</param>
public sealed record PromiseOffer(JobReadiness? Ready, IReadOnlyList<PromiseHarmed> Harmed)
{
    /// <summary>The soonest time that is kept in four of five days, on a whole five minutes; null where there is none.</summary>
    public DateTimeOffset? Earliest =>
        Ready is { Sure: var sure } ? new DateTimeOffset((sure.Ticks + Step - 1) / Step * Step, sure.Offset) : null;

    private const long Step = 5 * TimeSpan.TicksPerMinute;
}

/// <summary>Whether a job can be ready by a time.</summary>
/// <param name="Answer">Yes, tight or no.</param>
/// <param name="Offer">When it is ready if it is promised for then, and what that does to others.</param>
/// <param name="Remedies">What would make it a yes that harms nobody more; empty where it is one.</param>
public sealed record PromiseCheck(PromiseAnswer Answer, PromiseOffer Offer, IReadOnlyList<PromiseRemedy> Remedies);

/// <summary>Answers a customer at the counter: when can it be ready, and can it be by then?</summary>
public static class PromiseHelper
{
    /// <summary>Minutes of overtime that are tried, the fewest first.</summary>
    private static readonly int[] Overtimes = [15, 30, 60, 120];

    /// <summary>When a job can be ready, without a promise: nothing that is promised already waits for it.</summary>
    /// <param name="day">The day without the job.</param>
    /// <param name="job">The job; its own promise does not count.</param>
    /// <param name="works">What is to do for it.</param>
    /// <param name="stands">The board of the day that stands; null to plan one.</param>
    public static PromiseOffer Earliest(DayToPlan day, DayJob job, IReadOnlyList<SurfaceWork> works, DayBoard? stands = null)
    {
        ArgumentNullException.ThrowIfNull(day);
        ArgumentNullException.ThrowIfNull(job);
        ArgumentNullException.ThrowIfNull(works);
        Asked asked = new(day, job with { Promised = null }, works);
        return OfferOf(asked, stands ?? DayPlanner.Plan(day));
    }

    /// <summary>Whether a job can be ready by the time that it is to be promised for.</summary>
    /// <param name="day">The day without the job.</param>
    /// <param name="job">The job, with its promise.</param>
    /// <param name="works">What is to do for it.</param>
    /// <param name="groups">Surfaces that could be left out together, such as an axle, by a name; null for none.</param>
    /// <param name="stands">The board of the day that stands; null to plan one.</param>
    /// <exception cref="ArgumentException">The job has no promise.</exception>
    public static PromiseCheck By(
        DayToPlan day,
        DayJob job,
        IReadOnlyList<SurfaceWork> works,
        IReadOnlyDictionary<string, IReadOnlyList<int>>? groups = null,
        DayBoard? stands = null
    )
    {
        ArgumentNullException.ThrowIfNull(day);
        ArgumentNullException.ThrowIfNull(job);
        ArgumentNullException.ThrowIfNull(works);
        if (job.Promised is not { } promised)
            throw new ArgumentException("A job that is asked about has a promise.", nameof(job));
        stands ??= DayPlanner.Plan(day);
        var offer = OfferOf(new(day, job, works), stands);
        var answer = AnswerOf(offer);
        if (answer == PromiseAnswer.Yes)
            return new(answer, offer, []);

        List<(PromiseRemedy Remedy, Asked Asked)> tries = [];
        if (!job.IsUrgent)
            tries.Add((new PromiseRemedy.Urgent(), new(day, job with { IsUrgent = true }, works)));
        foreach (var minutes in Overtimes)
            tries.Add((new PromiseRemedy.Overtime(minutes), new(Longer(day, promised, minutes), job, works)));
        foreach (var (name, ids) in (groups ?? new Dictionary<string, IReadOnlyList<int>>()).OrderBy(g => g.Key, StringComparer.Ordinal))
            if (works.Where(w => !ids.Contains(w.Id)).ToList() is { Count: > 0 } left)
                tries.Add((new PromiseRemedy.LeftOut(name), new(day, job, left)));
        // None waits for another: somebody stands at the counter.
        var good = tries.AsParallel().AsOrdered().Where(t => Helps(t.Asked, day, stands, offer)).Select(t => t.Remedy).ToList();
        var shortest = good.OfType<PromiseRemedy.Overtime>().FirstOrDefault();
        return new(answer, offer, [.. good.Where(r => r is not PromiseRemedy.Overtime || r == shortest)]);
    }

    /// <summary>A day, and the job that is asked about.</summary>
    private sealed record Asked(DayToPlan Day, DayJob Job, IReadOnlyList<SurfaceWork> Works);

    /// <summary>Whether it becomes a yes, and no more promises to others are harmed than without.</summary>
    private static bool Helps(Asked asked, DayToPlan day, DayBoard stands, PromiseOffer offer)
    {
        var board = BoardWith(asked, stands);
        var after = Promises(With(asked), board, out var ready, asked.Job.Id);
        if (ready?.Promise != PromiseState.Safe)
            return false;
        var without = ReferenceEquals(asked.Day, day) ? stands : DayPlanner.Plan(asked.Day, stands);
        return Harmed(Promises(asked.Day, without, out _, asked.Job.Id), after).Count <= offer.Harmed.Count;
    }

    private static PromiseOffer OfferOf(Asked asked, DayBoard stands)
    {
        var after = Promises(With(asked), BoardWith(asked, stands), out var ready, asked.Job.Id);
        return new(ready, Harmed(Promises(asked.Day, stands, out _, asked.Job.Id), after));
    }

    private static DayBoard BoardWith(Asked asked, DayBoard stands) => DayPlanner.Plan(With(asked), stands);

    private static List<PromiseHarmed> Harmed(Dictionary<int, PromiseState> before, Dictionary<int, PromiseState> after) =>
        [
            .. before
                .Where(b => after.TryGetValue(b.Key, out var then) && then > b.Value)
                .OrderBy(b => b.Key)
                .Select(b => new PromiseHarmed(b.Key, b.Value, after[b.Key])),
        ];

    private static DayToPlan With(Asked asked) =>
        asked.Day with
        {
            Jobs = [.. asked.Day.Jobs, asked.Job],
            Works = [.. asked.Day.Works, .. asked.Works],
        };

    /// <summary>How each promise stands in a board of a day; a job that finds no time is late.</summary>
    private static Dictionary<int, PromiseState> Promises(DayToPlan day, DayBoard board, out JobReadiness? asked, int job)
    {
        var ranges = JobReadiness.Of(day, board).ToDictionary(r => r.JobId);
        asked = ranges.GetValueOrDefault(job);
        var open = day.Works.Select(w => w.JobId).ToHashSet();
        return day
            .Jobs.Where(j => j.Id != job && j.Promised is not null && open.Contains(j.Id))
            .ToDictionary(j => j.Id, j => ranges.TryGetValue(j.Id, out var range) ? range.Promise!.Value : PromiseState.Late);
    }

    private static PromiseAnswer AnswerOf(PromiseOffer offer) =>
        offer.Ready?.Promise switch
        {
            PromiseState.Safe => PromiseAnswer.Yes,
            PromiseState.Tight => PromiseAnswer.Tight,
            _ => PromiseAnswer.No,
        };

    /// <summary>The last hours before the end of the promised day, longer by some minutes.</summary>
    private static DayToPlan Longer(DayToPlan day, DateTimeOffset promised, int minutes)
    {
        IReadOnlyList<TimeWindow> Of(IReadOnlyList<TimeWindow> windows)
        {
            var last = windows.Where(w => w.From.Date == promised.Date).OrderBy(w => w.To).LastOrDefault();
            return [.. windows.Select(w => w == last ? w with { To = w.To.AddMinutes(minutes) } : w)];
        }
        return day with
        {
            Lathes = [.. day.Lathes.Select(l => l with { Open = Of(l.Open) })],
            Operators = [.. day.Operators.Select(o => o with { AtWork = Of(o.AtWork) })],
        };
    }
}
