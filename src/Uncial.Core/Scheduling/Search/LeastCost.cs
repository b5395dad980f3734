namespace Uncial.Core.Scheduling;

/// <summary>
/// What a day costs at least when some of its surfaces are placed and others are not: never more than any board that comes of it.
/// </summary>
internal sealed class LeastCost
{
    private readonly DayProblem day;
    private readonly (int Work, bool Confirms)[] entries;
    private readonly int together;
    private readonly (int Length, int SetUp, int Confirm, int Measure)[] least;

    /// <summary>For a day.</summary>
    /// <param name="day">The day.</param>
    /// <param name="entries">What is placed one after the other: surfaces, and their confirmings.</param>
    public LeastCost(DayProblem day, (int Work, bool Confirms)[] entries)
    {
        (this.day, this.entries) = (day, entries);
        // A block takes a lathe and an operator.
        together = Math.Max(1, Math.Min(day.Lathes.Count, day.Operators.Count));
        least =
        [
            .. entries.Select(e =>
            {
                var work = day.Works[e.Work];
                var mounts = !e.Confirms && work.IsToMount && work.Ways.Length > 0;
                return (
                    mounts ? work.Ways.Min(x => x.Least) : 0,
                    mounts && work.Ways.All(x => x.SetUp == work.Ways[0].SetUp) ? work.Ways[0].SetUp : -1,
                    work.IsToConfirm ? Least(work.Confirm) : 0,
                    work.Running is null ? Least(work.Measure) : 0
                );
            }),
        ];
    }

    private static int Least(int[]? minutes) => minutes is { Length: > 0 } ? minutes.Min() : 0;

    /// <summary>The least that any board costs that goes on from here.</summary>
    /// <param name="placed">What is placed.</param>
    /// <param name="done">Which of the entries that is, a bit for each.</param>
    public BoardCost AtLeast(Timetable placed, int done)
    {
        var soonest = placed.LatheFree.Count > 0 ? placed.LatheFree.Min() : 0;
        Span<int> ready = stackalloc int[day.Jobs.Count];
        Span<int> length = stackalloc int[day.Jobs.Count];
        length.Clear();
        for (var j = 0; j < ready.Length; j++)
            ready[j] = placed.Ready[j];
        var (work, finish, confirm) = (0, 0, int.MaxValue);
        for (var i = 0; i < entries.Length; i++)
        {
            if ((done & 1 << i) != 0)
                continue;
            var (minutes, _, after, before) = least[i];
            var w = day.Works[entries[i].Work];
            if (entries[i].Confirms)
            {
                if (placed.Until(entries[i].Work) is >= 0 and var until)
                    ready[w.Job] = Math.Max(ready[w.Job], until + after);
                continue;
            }
            var begin = w.IsToMount ? Math.Max(Math.Max(soonest, before), w.NotBefore) : before;
            ready[w.Job] = Math.Max(ready[w.Job], begin + minutes + after);
            length[w.Job] += minutes;
            (work, confirm) = (work + minutes, Math.Min(confirm, after));
        }
        var alone = 0;
        for (var j = 0; j < ready.Length; j++)
        {
            if (ready[j] > 0)
                alone += day.Jobs[j].Weight * Math.Max(0, ready[j] - day.Jobs[j].Promised);
            finish = Math.Max(finish, ready[j]);
        }
        if (work > 0)
            finish = Math.Max(finish, (placed.LatheFree.Sum() + work + day.Lathes.Count - 1) / day.Lathes.Count + confirm);
        return new(
            placed.AtLeast.NotKept,
            Math.Max(alone, OneAfterAnother(placed, ready, length, soonest, confirm)),
            placed.ChangeOvers + Changes(placed, done),
            finish,
            0
        );
    }

    /// <summary>
    /// Lateness at least, since only so many blocks go on at a time: the k-th job to be done is done no sooner than the k shortest would
    /// be, and lateness is least where the sooner promise is kept first.
    /// </summary>
    private int OneAfterAnother(Timetable placed, ReadOnlySpan<int> ready, ReadOnlySpan<int> length, int soonest, int confirm)
    {
        Span<int> lengths = stackalloc int[length.Length];
        Span<int> promises = stackalloc int[length.Length];
        var (open, late, sum) = (0, 0, 0);
        for (var j = 0; j < length.Length; j++)
            if (length[j] > 0)
                (lengths[open], promises[open++]) = (length[j], day.Jobs[j].Promised);
            else if (placed.Ready[j] > 0)
                late += day.Jobs[j].Weight * Math.Max(0, ready[j] - day.Jobs[j].Promised);
        if (open == 0)
            return late;
        lengths[..open].Sort();
        promises[..open].Sort();
        for (var k = 0; k < open; k++)
        {
            sum += lengths[k];
            late += Math.Max(0, soonest + sum / together + confirm - promises[k]);
        }
        return late;
    }

    /// <summary>Minutes of change-over at least: each set-up that is on no lathe has to be put on once.</summary>
    private int Changes(Timetable placed, int done)
    {
        var (minutes, on) = (0, placed.SetUps);
        for (var i = 0; i < entries.Length; i++)
        {
            if ((done & 1 << i) != 0 || least[i].SetUp is not (>= 0 and var needed) || on.Contains(needed))
                continue;
            var isFirst = true;
            for (var k = 0; k < i && isFirst; k++)
                isFirst = (done & 1 << k) != 0 || least[k].SetUp != needed;
            if (isFirst)
                minutes += day.Lathes.Min(l => Math.Min(l.AdapterMinutes, l.HeadMinutes));
        }
        return minutes;
    }
}
