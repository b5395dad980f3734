namespace Uncial.Core.Scheduling;

/// <summary>
/// Plans a day: which surface is measured, machined and confirmed when, by whom and on which lathe. The same day always gives the same
/// board.
/// </summary>
public static class DayPlanner
{
    /// <summary>
    /// The best board: least lateness, then least change-over and waiting, then the soonest finish, then fewest moves against the board
    /// that people saw last. The best of all up to eight surfaces; beyond that as good as a fixed effort finds.
    /// </summary>
    /// <param name="day">What is to do, and with what.</param>
    public static DayBoard Plan(DayToPlan day) => Plan(day, barred: null);

    /// <summary>
    /// The best board of a day that begins with the works of another one, gone on from that one's board: what comes in now is at least as
    /// good as put behind it.
    /// </summary>
    /// <param name="day">The day.</param>
    /// <param name="from">The board of a day with the first works of this one.</param>
    internal static DayBoard Plan(DayToPlan day, DayBoard from) => Plan(day, barred: null, from.Order);

    /// <summary>
    /// Goes on from a board of the same day, round by round; each takes five times as long as the quick one. Never worse; up to five
    /// surfaces there is nothing better.
    /// </summary>
    /// <param name="day">The day.</param>
    /// <param name="board">The board to begin with.</param>
    /// <param name="rounds">How many rounds; after twelve little is gained.</param>
    /// <param name="cancel">Gives it up.</param>
    /// <exception cref="OperationCanceledException">It was given up.</exception>
    public static DayBoard Improve(DayToPlan day, DayBoard board, int rounds, CancellationToken cancel = default)
    {
        ArgumentNullException.ThrowIfNull(day);
        ArgumentNullException.ThrowIfNull(board);
        return InRounds(day, barred: null, board, rounds, cancel);
    }

    /// <summary>Whether the quick board of a day is the best: it has so few surfaces that every order was tried.</summary>
    public static bool IsBest(DayToPlan day)
    {
        ArgumentNullException.ThrowIfNull(day);
        return day.Works.Count <= ExactSearch.All;
    }

    /// <summary>The best board in which a surface does not come next on a lathe, with as much effort as another one of that day.</summary>
    internal static DayBoard Without(DayToPlan day, DayBoard best, (int WorkId, int LatheId) next, int rounds, CancellationToken cancel)
    {
        var quick = Plan(day, next, rounds > 0 ? best.Order : null, cancel: cancel);
        return InRounds(day, next, quick, rounds, cancel);
    }

    private static DayBoard InRounds(DayToPlan day, (int WorkId, int LatheId)? barred, DayBoard board, int rounds, CancellationToken cancel)
    {
        for (var round = 1; round <= rounds; round++)
            board = Plan(day, barred, board.Order, round, cancel);
        return board;
    }

    private static DayBoard Plan(
        DayToPlan day,
        (int WorkId, int LatheId)? barred,
        IReadOnlyList<(int Work, int Way)>? from = null,
        int round = 0,
        CancellationToken cancel = default
    )
    {
        ArgumentNullException.ThrowIfNull(day);
        var problem = new DayProblem(day, barred: barred);
        var held = HeldOf(problem);
        var (free, freeCost) = Search(problem, [], from, round, cancel);
        if (held.Count == 0)
            return BoardOf(problem, free);
        // What is about to start stays, unless a promise would break.
        var (kept, keptCost) = Search(problem, held, from, round, cancel);
        return BoardOf(problem, keptCost.NotKept > freeCost.NotKept || keptCost.Lateness > freeCost.Lateness ? free : kept);
    }

    /// <summary>
    /// The board when surfaces are taken one after the other as somebody would by habit, each in the way that costs least then.
    /// </summary>
    /// <param name="day">The day.</param>
    /// <param name="works">The surfaces, all of them.</param>
    internal static DayBoard InOrder(DayToPlan day, IReadOnlyList<int> works)
    {
        var problem = new DayProblem(day);
        var head = new Timetable(problem);
        var places = day.Works.Select((w, i) => (w.Id, i)).ToDictionary();
        List<int> confirms = [.. works.Select(w => places[w]).Where(w => problem.Works[w].IsToConfirm)];
        var orders = WithConfirms(Ways(problem, head, [.. works.Select(w => places[w])]), confirms);
        return BoardOf(problem, orders.MinBy(o => CostOf(head, o))!);
    }

    /// <summary>What was to be mounted within the next quarter of an hour, in that order, on the lathe where people saw it.</summary>
    private static List<(int Work, int Way)> HeldOf(DayProblem problem) =>
        [
            .. problem
                .Works.Select((w, i) => (Work: i, w.Seen, Way: w.Seen is { } s ? Array.FindIndex(w.Ways, x => x.Lathe == s.Lathe) : -1, w))
                .Where(x => x.w.IsToMount && x.Way >= 0 && x.Seen is { } s && s.At <= DayToPlan.Held.TotalMinutes)
                .OrderBy(x => x.Seen!.Value.At)
                .Select(x => (x.Work, x.Way)),
        ];

    private static (IReadOnlyList<(int Work, int Way)> Order, BoardCost Cost) Search(
        DayProblem problem,
        IReadOnlyList<(int Work, int Way)> held,
        IReadOnlyList<(int Work, int Way)>? from,
        int round,
        CancellationToken cancel
    )
    {
        var head = new Timetable(problem);
        foreach (var (work, way) in held)
            head.Place(work, way);
        List<int> open = [.. Enumerable.Range(0, problem.Works.Count).Where(w => held.All(h => h.Work != w))];
        List<int> confirms = [.. Enumerable.Range(0, problem.Works.Count).Where(w => problem.Works[w].IsToConfirm)];
        var (order, cost) = Begin(problem, head, open, confirms, from);
        // Every other round begins anew, so that it comes elsewhere.
        var begun = round % 2 == 1 ? Begin(problem, head, open, confirms, from: null).Order : order;
        var improved = NeighbourhoodSearch.Improve(problem, head, begun, round: round, cancel: cancel);
        if (CostOf(head, improved) is var found && found < cost)
            (order, cost) = (improved, found);
        if (order.Count <= 2 * ExactSearch.Most)
        {
            order = ExactSearch.Best(problem, head, order, cost);
            cost = CostOf(head, order);
        }
        return ([.. held, .. order], cost);
    }

    /// <summary>The best of some plain orders: by promise, by what the lathes are set up for, as they came, as people saw them.</summary>
    private static (IReadOnlyList<(int Work, int Way)> Order, BoardCost Cost) Begin(
        DayProblem problem,
        Timetable head,
        List<int> open,
        List<int> confirms,
        IReadOnlyList<(int Work, int Way)>? from
    )
    {
        int Promised(int w) => problem.Jobs[problem.Works[w].Job].Promised;
        int SetUp(int w) => problem.Works[w].Ways is [var first, ..] ? first.SetUp : -1;
        int Head(int w) => problem.Day.Works[w].Machinings is [var first, ..] ? (int)first.SetUp.Head : -1;
        List<int>[] orders =
        [
            [.. open.OrderBy(Promised).ThenBy(w => problem.Works[w].Job).ThenBy(SetUp)],
            [.. open.OrderBy(SetUp).ThenBy(Promised).ThenBy(w => problem.Works[w].Job)],
            open,
            // As people would by habit: no board is later than theirs.
            [.. open.OrderBy(Promised)],
            [.. open.OrderBy(Head)],
        ];
        List<int> soonest = [.. confirms.OrderBy(Promised)];
        var plain = orders.SelectMany(o => WithConfirms(Ways(problem, head, o), soonest)).ToList();
        // What people saw was the best that was known: it is gone on from there.
        if (AsSeen(problem, open, confirms, plain[0]) is { } seen)
            plain.InsertRange(0, [seen, .. WithConfirms([.. seen.Where(e => e.Way != Timetable.Confirms)], soonest)]);
        if (from is not null)
            plain.Insert(0, Behind(problem, head, from, open, confirms));
        return plain.Select(o => (o, CostOf(head, o))).MinBy(o => o.Item2);
    }

    /// <summary>An order with what is not in it yet behind it.</summary>
    private static List<(int Work, int Way)> Behind(
        DayProblem problem,
        Timetable head,
        IReadOnlyList<(int Work, int Way)> from,
        List<int> open,
        List<int> confirms
    )
    {
        List<(int Work, int Way)> order = [.. from.Where(e => (e.Way == Timetable.Confirms ? confirms : open).Contains(e.Work))];
        order.AddRange(
            Ways(problem, Placed(head, order), [.. open.Where(w => !order.Exists(e => e.Work == w && e.Way != Timetable.Confirms))])
        );
        order.AddRange(confirms.Select(c => (c, Timetable.Confirms)).Where(c => !order.Contains(c)).ToList());
        return order;
    }

    /// <summary>
    /// An order with its confirmings: each behind its surface, each behind the surface after that, and all last, so that they go where
    /// somebody has time.
    /// </summary>
    private static IEnumerable<List<(int Work, int Way)>> WithConfirms(List<(int Work, int Way)> order, List<int> confirms)
    {
        var (atOnce, afterNext) = (new List<(int, int)>(), new List<(int, int)>());
        int[] none = [.. confirms.Where(c => !order.Exists(o => o.Work == c))];
        foreach (var work in none)
        {
            atOnce.Add((work, Timetable.Confirms));
            afterNext.Add((work, Timetable.Confirms));
        }
        var waits = -1;
        foreach (var (work, way) in order)
        {
            atOnce.Add((work, way));
            afterNext.Add((work, way));
            if (waits >= 0)
                afterNext.Add((waits, Timetable.Confirms));
            waits = confirms.Contains(work) ? work : -1;
            if (waits >= 0)
                atOnce.Add((work, Timetable.Confirms));
        }
        if (waits >= 0)
            afterNext.Add((waits, Timetable.Confirms));
        return [atOnce, afterNext, [.. order, .. confirms.Select(c => (c, Timetable.Confirms))]];
    }

    /// <summary>
    /// The surfaces and confirmings as people saw them last, those that nobody saw at their place in another order; null where nobody saw
    /// any.
    /// </summary>
    private static List<(int Work, int Way)>? AsSeen(
        DayProblem problem,
        List<int> open,
        List<int> confirms,
        IReadOnlyList<(int Work, int Way)> others
    )
    {
        int WayOf(int w) => problem.Works[w].Seen is { } s ? Array.FindIndex(problem.Works[w].Ways, x => x.Lathe == s.Lathe) : -1;
        var places = problem.Day.Works.Select((w, i) => (w.Id, i)).ToDictionary();
        List<(int Work, int Way)> seen =
        [
            .. problem
                .Day.Seen.Where(s => places.ContainsKey(s.WorkId))
                .Select(s => (Work: places[s.WorkId], Way: s.LatheId is null ? Timetable.Confirms : WayOf(places[s.WorkId])))
                .Where(e => e.Way == Timetable.Confirms ? confirms.Contains(e.Work) : e.Way >= 0 && open.Contains(e.Work)),
        ];
        if (seen.Count == 0)
            return null;
        foreach (var (other, at) in others.Where(o => o.Way != Timetable.Confirms).Select((o, i) => (o, i)))
        {
            if (seen.Exists(e => e.Work == other.Work && e.Way != Timetable.Confirms))
                continue;
            var confirming = seen.IndexOf((other.Work, Timetable.Confirms));
            seen.Insert(Math.Min(at, confirming < 0 ? seen.Count : confirming), other);
        }
        seen.AddRange([.. confirms.Select(c => (c, Timetable.Confirms)).Where(c => !seen.Contains(c))]);
        return seen;
    }

    /// <summary>For an order the way of each surface that costs least when it is placed.</summary>
    private static List<(int Work, int Way)> Ways(DayProblem problem, Timetable head, List<int> works)
    {
        List<(int Work, int Way)> order = [];
        var table = head;
        foreach (var work in works)
        {
            var (next, way) = Enumerable
                .Range(0, problem.Works[work].Choices)
                .Select(w =>
                {
                    var next = new Timetable(table, keepsSteps: false);
                    next.Place(work, w);
                    return (Table: next, Way: w);
                })
                .MinBy(x => x.Table.Cost());
            table = next;
            order.Add((work, way));
        }
        return order;
    }

    private static BoardCost CostOf(Timetable head, IReadOnlyList<(int Work, int Way)> order) => Placed(head, order).Cost();

    private static Timetable Placed(Timetable head, IReadOnlyList<(int Work, int Way)> order)
    {
        var table = new Timetable(head);
        foreach (var (work, way) in order)
            table.Place(work, way);
        return table;
    }

    private static DayBoard BoardOf(DayProblem problem, IReadOnlyList<(int Work, int Way)> order)
    {
        var table = Placed(new(problem), order);
        var day = problem.Day;
        var placed = table
            .Steps.OrderBy(s => s.From)
            .ThenBy(s => s.Work)
            .Select(s => new PlacedStep(
                day.Works[s.Work].Id,
                s.What,
                day.Operators[s.Operator].Id,
                s.Lathe < 0 ? null : day.Lathes[s.Lathe].Id,
                problem.At(s.From),
                problem.At(s.Feeds),
                problem.At(s.To),
                s.ChangeOver
            ))
            .ToList();
        List<int> notPlaced = [.. day.Works.Where((_, i) => !table.IsWhole(i)).Select(w => w.Id)];
        var missing = day.Works.Where(w => notPlaced.Contains(w.Id)).Select(w => w.JobId).ToHashSet();
        return new(
            placed,
            day.Jobs.Select((j, i) => (j.Id, At: table.Ready[i]))
                .Where(j => j.At > 0 && !missing.Contains(j.Id))
                .ToDictionary(j => j.Id, j => problem.At(j.At)),
            notPlaced,
            table.Cost()
        )
        {
            Order = order,
            Seen = SeenIn(problem, table, order),
        };
    }

    private static List<SeenPlace> SeenIn(DayProblem problem, Timetable table, IReadOnlyList<(int Work, int Way)> order)
    {
        List<SeenPlace> seen = [];
        foreach (var (work, way) in order)
        {
            var step = way == Timetable.Confirms ? WorkStep.Confirm : WorkStep.Machine;
            var at = table.Steps.FirstOrDefault(s => s.Work == work && s.What == step, new(-1, step, 0, -1, 0, 0, 0, 0));
            if (at.Work >= 0 && (way == Timetable.Confirms || problem.Works[work].IsToMount))
                seen.Add(new(problem.Day.Works[work].Id, at.Lathe < 0 ? null : problem.Day.Lathes[at.Lathe].Id, problem.At(at.From)));
        }
        return seen;
    }
}
