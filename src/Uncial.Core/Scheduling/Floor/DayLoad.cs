using Uncial.Core.Times;

namespace Uncial.Core.Scheduling;

/// <summary>How full a day is.</summary>
/// <param name="Day">The day.</param>
/// <param name="OpenMinutes">Minutes that people work on it, all together.</param>
/// <param name="PlannedMinutes">Minutes of these that the plan takes, a feeding lathe counted with its operator.</param>
/// <param name="LatheMinutes">Minutes that each lathe is taken, change-overs counted, by lathe.</param>
/// <param name="Promised">Jobs that are promised for it.</param>
/// <param name="InDanger">Of these, those that are tight or late, or wait for a decision.</param>
public sealed record DayLoad(
    DateOnly Day,
    int OpenMinutes,
    int PlannedMinutes,
    IReadOnlyDictionary<int, int> LatheMinutes,
    int Promised,
    int InDanger
)
{
    /// <summary>The days from today on, as far as is planned.</summary>
    /// <param name="plan">The plan.</param>
    /// <param name="time">The shop's time.</param>
    public static IReadOnlyList<DayLoad> Of(PlannedDay plan, ShopTime time)
    {
        ArgumentNullException.ThrowIfNull(plan);
        ArgumentNullException.ThrowIfNull(time);
        var (now, works) = (plan.Day.Plan.Now, plan.Day.Plan.Works.Select(w => w.JobId).Union(plan.Day.HeldJobs).ToHashSet());
        return
        [
            .. Enumerable
                .Range(0, ShopDay.Days)
                .Select(n => time.DayOf(now).AddDays(n))
                .Select(day =>
                {
                    TimeWindow whole = new(time.BeginOf(day) > now ? time.BeginOf(day) : now, time.BeginOf(day.AddDays(1)));
                    var due = plan.Day.Plan.Jobs.Where(j => works.Contains(j.Id) && j.Promised is { } at && time.DayOf(at) == day);
                    return new DayLoad(
                        day,
                        plan.Day.Plan.Operators.SelectMany(o => o.AtWork).Sum(w => Minutes(w, whole)),
                        plan.Board.Steps.Sum(s => Minutes(Taken(s), whole)),
                        plan.Day.Plan.Lathes.ToDictionary(
                            l => l.Id,
                            l => plan.Board.Steps.Where(s => s.LatheId == l.Id).Sum(s => Minutes(Taken(s), whole))
                        ),
                        due.Count(),
                        due.Count(j => plan.PromiseOf(j.Id) is not PromiseState.Safe)
                    );
                }),
        ];
    }

    private static TimeWindow Taken(PlacedStep step) => new(step.From.AddMinutes(-step.ChangeOver), step.To);

    private static int Minutes(TimeWindow window, TimeWindow within)
    {
        var from = window.From > within.From ? window.From : within.From;
        var to = window.To < within.To ? window.To : within.To;
        return to > from ? (int)(to - from).TotalMinutes : 0;
    }
}
