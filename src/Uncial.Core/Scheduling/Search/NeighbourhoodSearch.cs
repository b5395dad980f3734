namespace Uncial.Core.Scheduling;

/// <summary>
/// Improves an order of many surfaces: takes a few that belong together out of it and puts each back where it costs least, over and over,
/// always the same way for the same day. What comes out never costs more than what it began with.
/// </summary>
internal sealed class NeighbourhoodSearch
{
    /// <summary>So many days are made from an order and looked at; more takes longer and gains little.</summary>
    public const int Effort = 1200;

    /// <summary>
    /// Up to so many surfaces the effort is whole. Each day that is looked at takes longer the more there are, so that fewer of many are.
    /// </summary>
    private const int WholeEffortUpTo = 40;

    private const int LeastEffort = 40;

    /// <summary>More than any day costs.</summary>
    private static readonly BoardCost Dearest = new(int.MaxValue, 0, 0, 0, 0);

    private readonly DayProblem day;
    private readonly Timetable head;
    private readonly Timetable before;
    private readonly Timetable trial;
    private readonly Random random = new(17);
    private int left;

    private NeighbourhoodSearch(DayProblem day, Timetable head, int effort)
    {
        (this.day, this.head, left) = (day, head, effort);
        (before, trial) = (new(head, keepsSteps: false), new(head, keepsSteps: false));
    }

    /// <summary>A better order, or the same.</summary>
    /// <param name="day">The day.</param>
    /// <param name="head">What is placed before all others.</param>
    /// <param name="start">The order to begin with.</param>
    /// <param name="effort">How many days are looked at; null for as many as suit the number of surfaces.</param>
    public static IReadOnlyList<(int Work, int Way)> Improve(
        DayProblem day,
        Timetable head,
        IReadOnlyList<(int Work, int Way)> start,
        int? effort = null
    ) =>
        start.Count < 2 && start.All(s => day.Works[s.Work].Ways.Length < 2)
            ? start
            : new NeighbourhoodSearch(day, head, effort ?? EffortFor(start.Count)).Run(start);

    private static int EffortFor(int surfaces) =>
        surfaces <= WholeEffortUpTo ? Effort : Math.Max(LeastEffort, Effort * WholeEffortUpTo / surfaces * WholeEffortUpTo / surfaces);

    private List<(int Work, int Way)> Run(IReadOnlyList<(int Work, int Way)> start)
    {
        List<(int Work, int Way)> best = [.. start];
        var (least, here) = (CostOf(best), best);
        while (left > 0)
        {
            List<(int Work, int Way)> order = [.. here];
            var removed = TakeOut(order);
            var cost = least;
            foreach (var work in removed)
                cost = PutBack(order, work);
            // What is as good is gone on from, and what was there first stays the answer.
            if (cost < least)
                (best, least) = (order, cost);
            if (cost <= least)
                here = order;
        }
        return best;
    }

    /// <summary>Takes a few surfaces out that have a job, a set-up or their place in common.</summary>
    private List<int> TakeOut(List<(int Work, int Way)> order)
    {
        var seed = order[random.Next(order.Count)];
        var count = Math.Min(order.Count, 1 + random.Next(4));
        var near = order.FindIndex(s => s.Work == seed.Work);
        var kin = random.Next(3);
        List<int> removed =
        [
            .. order
                .Select(
                    (s, i) =>
                        (
                            s.Work,
                            Far: kin switch
                            {
                                0 => day.Works[s.Work].Job == day.Works[seed.Work].Job ? 0 : 1,
                                1 => SetUpOf(s) == SetUpOf(seed) ? 0 : 1,
                                _ => Math.Abs(i - near),
                            },
                            Die: random.Next()
                        )
                )
                .OrderBy(s => s.Work == seed.Work ? -1 : s.Far)
                .ThenBy(s => s.Die)
                .Take(count)
                .Select(s => s.Work),
        ];
        order.RemoveAll(s => removed.Contains(s.Work));
        return removed;
    }

    private int SetUpOf((int Work, int Way) placed) =>
        day.Works[placed.Work].Ways is { Length: > 0 } ways ? ways[Math.Min(placed.Way, ways.Length - 1)].SetUp : -1;

    /// <summary>Puts a surface where it costs least, of all places or of a dozen where there are many.</summary>
    private BoardCost PutBack(List<(int Work, int Way)> order, int work)
    {
        var ways = day.Works[work].IsToMount ? Math.Max(1, day.Works[work].Ways.Length) : 1;
        IEnumerable<int> places = Enumerable.Range(0, order.Count + 1);
        if (order.Count > 12)
            places = places.OrderBy(_ => random.Next()).Take(12).Order();
        int[] all = [.. places];
        left -= all.Length * ways;
        var (least, place, which) = (Dearest, -1, 0);
        // What stands before the place is the same for every place after it.
        before.CopyFrom(head);
        var placed = 0;
        foreach (var at in all)
        {
            for (; placed < at; placed++)
                before.Place(order[placed].Work, order[placed].Way);
            if (before.AtLeast >= least)
                break;
            for (var way = 0; way < ways; way++)
            {
                trial.CopyFrom(before);
                trial.Place(work, way);
                for (var next = at; next < order.Count && trial.AtLeast < least; next++)
                    trial.Place(order[next].Work, order[next].Way);
                if (trial.AtLeast < least && trial.Cost() is var cost && cost < least)
                    (least, place, which) = (cost, at, way);
            }
        }
        order.Insert(place, (work, which));
        return least;
    }

    private BoardCost CostOf(List<(int Work, int Way)> order)
    {
        left--;
        trial.CopyFrom(head);
        foreach (var (work, way) in order)
            trial.Place(work, way);
        return trial.Cost();
    }
}
