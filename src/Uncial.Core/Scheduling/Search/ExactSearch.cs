namespace Uncial.Core.Scheduling;

/// <summary>
/// Tries every order and every way of machining of a few surfaces, and leaves out what cannot be better: what costs as much already as the
/// best that is known, and what comes to a state that was reached before at no higher cost.
/// </summary>
internal sealed class ExactSearch
{
    /// <summary>So many surfaces are tried in every order.</summary>
    public const int Most = 8;

    private readonly DayProblem day;
    private readonly Dictionary<(ulong, ulong), BoardCost> reached = [];
    private readonly (int Work, int Way)[] taken;
    private readonly int[] works;
    private readonly LeastCost bound;
    private (int Work, int Way)[] best;
    private BoardCost least;

    private ExactSearch(DayProblem day, IReadOnlyList<(int Work, int Way)> start, BoardCost cost)
    {
        this.day = day;
        works = [.. start.Select(s => s.Work)];
        taken = new (int, int)[works.Length];
        bound = new(day, works);
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
        var search = new ExactSearch(day, start, cost);
        search.GoOn(head, 0, 0);
        return search.best;
    }

    private void GoOn(Timetable placed, int count, int done)
    {
        if (count == works.Length)
        {
            var cost = placed.Cost();
            if (cost < least)
                (best, least) = ([.. taken], cost);
            return;
        }
        List<(BoardCost Least, Timetable Table, int At, int Way)> next = [];
        for (var i = 0; i < works.Length; i++)
        {
            if ((done & 1 << i) != 0)
                continue;
            var ways = day.Works[works[i]].IsToMount ? Math.Max(1, day.Works[works[i]].Ways.Length) : 1;
            for (var way = 0; way < ways; way++)
            {
                var table = new Timetable(placed, keepsSteps: false);
                table.Place(works[i], way);
                var bounded = bound.AtLeast(table, done | 1 << i);
                if (bounded < least && IsNew(table, done | 1 << i))
                    next.Add((bounded, table, i, way));
            }
        }
        // The most promising first: what is found soon leaves less to try.
        next.Sort((a, b) => a.Least.CompareTo(b.Least) is not 0 and var by ? by : (a.At, a.Way).CompareTo((b.At, b.Way)));
        foreach (var (bounded, table, at, way) in next)
        {
            if (bounded >= least)
                return;
            taken[count] = (works[at], way);
            GoOn(table, count + 1, done | 1 << at);
        }
    }

    /// <summary>Whether this state was not reached before at no higher cost.</summary>
    private bool IsNew(Timetable placed, int done)
    {
        var state = placed.State(done);
        var cost = placed.AtLeast;
        if (reached.TryGetValue(state, out var before) && before <= cost)
            return false;
        reached[state] = cost;
        return true;
    }
}
