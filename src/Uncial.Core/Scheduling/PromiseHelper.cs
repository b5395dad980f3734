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
    public static PromiseOffer Earliest(DayToPlan day, DayJob job, IReadOnlyList<SurfaceWork> works)
    {
        ArgumentNullException.ThrowIfNull(day);
        ArgumentNullException.ThrowIfNull(job);
        ArgumentNullException.ThrowIfNull(works);
        return new Asked().OfferOf(day, With(day, job with { Promised = null }, works), job.Id);
    }

    /// <summary>Whether a job can be ready by the time that it is to be promised for.</summary>
    /// <param name="day">The day without the job.</param>
    /// <param name="job">The job, with its promise.</param>
    /// <param name="works">What is to do for it.</param>
    /// <param name="groups">Surfaces that could be left out together, such as an axle, by a name; null for none.</param>
    /// <exception cref="ArgumentException">The job has no promise.</exception>
    public static PromiseCheck By(
        DayToPlan day,
        DayJob job,
        IReadOnlyList<SurfaceWork> works,
        IReadOnlyDictionary<string, IReadOnlyList<int>>? groups = null
    )
    {
        ArgumentNullException.ThrowIfNull(day);
        ArgumentNullException.ThrowIfNull(job);
        ArgumentNullException.ThrowIfNull(works);
        if (job.Promised is not { } promised)
            throw new ArgumentException("A job that is asked about has a promise.", nameof(job));
        Asked asked = new();
        var offer = asked.OfferOf(day, With(day, job, works), job.Id);
        var answer = AnswerOf(offer);
        if (answer == PromiseAnswer.Yes)
            return new(answer, offer, []);

        bool Helps(DayToPlan without, DayJob so, IReadOnlyList<SurfaceWork> left) =>
            left.Count > 0
            && asked.OfferOf(without, With(without, so, left), job.Id) is var tried
            && AnswerOf(tried) == PromiseAnswer.Yes
            && tried.Harmed.Count <= offer.Harmed.Count;

        List<PromiseRemedy> remedies = [];
        if (!job.IsUrgent && Helps(day, job with { IsUrgent = true }, works))
            remedies.Add(new PromiseRemedy.Urgent());
        if (Overtimes.FirstOrDefault(m => Helps(Longer(day, promised, m), job, works)) is > 0 and var minutes)
            remedies.Add(new PromiseRemedy.Overtime(minutes));
        foreach (var (name, ids) in (groups ?? new Dictionary<string, IReadOnlyList<int>>()).OrderBy(g => g.Key, StringComparer.Ordinal))
            if (Helps(day, job, [.. works.Where(w => !ids.Contains(w.Id))]))
                remedies.Add(new PromiseRemedy.LeftOut(name));
        return new(answer, offer, remedies);
    }

    private static DayToPlan With(DayToPlan day, DayJob job, IReadOnlyList<SurfaceWork> works) =>
        day with
        {
            Jobs = [.. day.Jobs, job],
            Works = [.. day.Works, .. works],
        };

    /// <summary>Boards of days without the job, each made once.</summary>
    private sealed class Asked
    {
        private readonly Dictionary<DayToPlan, (DayBoard Board, Dictionary<int, PromiseState> Promises)> without = new(
            ReferenceEqualityComparer.Instance
        );

        public PromiseOffer OfferOf(DayToPlan day, DayToPlan with, int job)
        {
            if (!without.TryGetValue(day, out var before))
            {
                var board = DayPlanner.Plan(day);
                without[day] = before = (board, Promises(day, board, out _, job));
            }
            var after = Promises(with, DayPlanner.Plan(with, before.Board), out var ready, job);
            return new(
                ready,
                [
                    .. before
                        .Promises.Where(b => after.TryGetValue(b.Key, out var then) && then > b.Value)
                        .OrderBy(b => b.Key)
                        .Select(b => new PromiseHarmed(b.Key, b.Value, after[b.Key])),
                ]
            );
        }
    }

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
