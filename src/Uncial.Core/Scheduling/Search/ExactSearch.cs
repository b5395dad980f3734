namespace Uncial.Core.Scheduling;

/// <summary>
/// Tries every order and every way of machining of a few surfaces, and leaves out what cannot be better: what costs as much already as the
/// best that is known, and what comes to a state that was reached before at no higher cost.
/// </summary>
internal sealed class ExactSearch
{
    /// <summary>Up to so many surfaces are tried in every order.</summary>
    public const int Most = 8;

    /// <summary>Up to so many the effort is enough for every order.</summary>
    public const int All = 5;

    /// <summary>
    /// So many states are looked at: enough for every order of five surfaces, and of some more where promises leave little choice. What was
    /// the best until then is the answer.
    /// </summary>
    private const int Effort = 20_000;

    private readonly DayProblem day;
    private readonly Dictionary<(ulong, ulong), BoardCost> reached = [];
    private readonly (int Work, int Way)[] taken;

    /// <summary>What is to be placed: surfaces, then confirmings, each with the bit of what has to be placed before it.</summary>
    private readonly (int Work, bool Confirms, int After)[] entries;
    private readonly LeastCost bound;
    private readonly Timetable trial;
    private (int Work, int Way)[] best;
    private BoardCost least;
    private int left = Effort;

    private ExactSearch(DayProblem day, Timetable head, IReadOnlyList<(int Work, int Way)> start, BoardCost cost)
    {
        this.day = day;
        trial = new(head, keepsSteps: false);
        List<int> works = [.. start.Where(s => s.Way != Timetable.Confirms).Select(s => s.Work)];
        entries =
        [
            .. works.Select(w => (w, false, 0)),
            .. start
                .Where(s => s.Way == Timetable.Confirms)
                .Select(s => (s.Work, true, works.IndexOf(s.Work) is >= 0 and var at ? 1 << at : 0)),
        ];
        taken = new (int, int)[entries.Length];
        bound = new(day, [.. entries.Select(e => (e.Work, e.Confirms))]);
        (best, least) = ([.. start], cost);
    }

    /// <summary>The best order.</summary>
    /// <param name="day">The day.</param>
    /// <param name="head">What is placed before all others, in its order.</param>
    /// <param name="start">A good order of the others, to begin with.</param>
    /// <param name="cost">What that costs.</param>
    public static IReadOnlyList<(int Work, int Way)> Best(
        DayProblem day,
        Timetable head,
        IReadOnlyList<(int Work, int Way)> start,
        BoardCost cost
    )
    {
        var search = new ExactSearch(day, head, start, cost);
        search.GoOn(head, 0, 0);
        return search.best;
    }

    private void GoOn(Timetable placed, int count, int done)
    {
        if (count == entries.Length)
        {
            var cost = placed.Cost();
            if (cost < least)
                (best, least) = ([.. taken], cost);
            return;
        }
        List<(BoardCost Least, Timetable Table, int At, int Way)> next = [];
        for (var i = 0; i < entries.Length; i++)
        {
            var (work, confirms, after) = entries[i];
            if ((done & 1 << i) != 0 || (done & after) != after)
                continue;
            for (var way = 0; way < (confirms ? 1 : day.Works[work].Choices); way++)
            {
                if (left-- <= 0)
                    return;
                trial.CopyFrom(placed);
                trial.Place(work, confirms ? Timetable.Confirms : way);
                var bounded = bound.AtLeast(trial, done | 1 << i);
                if (bounded < least && IsNew(trial, done | 1 << i))
                    next.Add((bounded, new(trial, keepsSteps: false), i, confirms ? Timetable.Confirms : way));
            }
        }
        // The most promising first: what is found soon leaves less to try.
        next.Sort((a, b) => a.Least.CompareTo(b.Least) is not 0 and var by ? by : (a.At, a.Way).CompareTo((b.At, b.Way)));
        foreach (var (bounded, table, at, way) in next)
        {
            if (bounded >= least)
                return;
            taken[count] = (entries[at].Work, way);
            GoOn(table, count + 1, done | 1 << at);
        }
    }

    /// <summary>Whether this state was not reached before at no higher cost.</summary>
    private bool IsNew(Timetable placed, int done)
    {
        Span<int> toConfirm = stackalloc int[entries.Length];
        var count = 0;
        for (var i = 0; i < entries.Length; i++)
            if (entries[i] is { Confirms: true, After: > 0 and var after } && (done & 1 << i) == 0 && (done & after) == after)
                toConfirm[count++] = entries[i].Work;
        var (state, cost) = (placed.State(done, toConfirm[..count]), placed.AtLeast);
        if (reached.TryGetValue(state, out var before) && before <= cost)
            return false;
        reached[state] = cost;
        return true;
    }
}
