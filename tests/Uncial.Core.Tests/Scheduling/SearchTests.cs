using Uncial.Core.Scheduling;

namespace Uncial.Core.Tests.Scheduling;

/// <summary>The parts of the search, each alone: together one makes good what another has wrong.</summary>
public class SearchTests
{
    private static (List<(int Work, int Way)> Order, Timetable Placed) Plain(DayProblem day, Random random)
    {
        List<(int Work, int Way)> order =
        [
            .. Enumerable.Range(0, day.Works.Count).OrderBy(_ => random.Next()).Select(w => (w, random.Next(day.Works[w].Ways.Length))),
        ];
        // Each is confirmed somewhere behind its surface.
        for (var w = 0; w < day.Works.Count; w++)
            order.Insert(random.Next(order.FindIndex(o => o.Work == w) + 1, order.Count + 1), (w, Timetable.Confirms));
        var table = new Timetable(day);
        foreach (var (work, way) in order)
            table.Place(work, way);
        return (order, table);
    }

    [Fact]
    public void Trying_every_order_finds_the_best_from_any_order_to_begin_with()
    {
        for (var seed = 1; seed <= 40; seed++)
        {
            var made = RandomDays.Of(seed, seed % 10 == 0 ? 4 : 2 + seed % 2);
            var day = new DayProblem(made);
            var (start, placed) = Plain(day, new Random(seed));
            var table = new Timetable(day);
            foreach (var (work, way) in ExactSearch.Best(day, new Timetable(day), start, placed.Cost()))
                table.Place(work, way);
            table.Cost().ShouldBe(NaiveDay.Best(made)!.Value, $"day {seed}");
        }
    }

    [Fact]
    public void No_day_costs_less_than_the_least_that_was_said_on_the_way_to_it()
    {
        for (var seed = 1; seed <= 400; seed++)
        {
            var day = new DayProblem(RandomDays.Of(2000 + seed, 2 + seed % 7));
            var (leasts, whole) = OnTheWay(day, seed);
            foreach (var least in leasts)
                (
                    least.NotKept <= whole.NotKept
                    && least.Lateness <= whole.Lateness
                    && least.Idle <= whole.Idle
                    && least.Finish <= whole.Finish
                ).ShouldBeTrue($"day {seed}: {least} of {whole}");
        }
    }

    /// <summary>What a day in some order is said to cost at least, after each entry of it, and what it costs.</summary>
    private static (IReadOnlyList<BoardCost> Leasts, BoardCost Whole) OnTheWay(DayProblem day, int seed)
    {
        var (order, placed) = Plain(day, new Random(seed));
        var bound = new LeastCost(day, [.. order.Select(o => (o.Work, o.Way == Timetable.Confirms))]);
        var (table, done, leasts) = (new Timetable(day), 0, new List<BoardCost>());
        for (var i = 0; i < order.Count; i++)
        {
            table.Place(order[i].Work, order[i].Way);
            done |= 1 << i;
            leasts.Add(bound.AtLeast(table, done));
        }
        return (leasts, placed.Cost());
    }

    /// <summary>Where hours are short, a step that finds no time weighs more than all the rest.</summary>
    [Fact]
    public void Nor_where_some_of_it_finds_no_time()
    {
        var without = 0;
        for (var seed = 1; seed <= 200; seed++)
        {
            var made = RandomDays.Of(2000 + seed, 2 + seed % 7);
            TimeWindow[] hours = [new(RandomDays.Nine, RandomDays.Nine.AddMinutes(30 + seed))];
            var day = new DayProblem(made with { Operators = [.. made.Operators.Select(o => o with { AtWork = hours })] });
            var (leasts, whole) = OnTheWay(day, seed);
            leasts.ShouldAllBe(least => least <= whole, $"day {seed}");
            without += whole.NotKept;
        }
        without.ShouldBeGreaterThan(100);
    }

    [Fact]
    public void Improving_an_order_never_makes_it_worse()
    {
        for (var seed = 1; seed <= 20; seed++)
        {
            var day = new DayProblem(RandomDays.Of(3000 + seed, 15));
            var (start, placed) = Plain(day, new Random(seed));
            var table = new Timetable(day);
            var improved = NeighbourhoodSearch.Improve(
                day,
                new Timetable(day),
                start,
                effort: 200,
                cancel: TestContext.Current.CancellationToken
            );
            foreach (var (work, way) in improved)
                table.Place(work, way);
            (table.Cost() < placed.Cost()).ShouldBeTrue($"day {seed}");
        }
    }

    /// <summary>What was found in rounds stays when the day is planned again quickly: people have seen it.</summary>
    [Fact]
    public void Rounds_make_boards_better_and_a_quick_plan_keeps_what_they_found()
    {
        var better = 0;
        for (var seed = 1; seed <= 6; seed++)
        {
            var day = RandomDays.Of(4000 + seed, 18);
            var quick = DayPlanner.Plan(day);
            var board = DayPlanner.Improve(day, quick, 2, TestContext.Current.CancellationToken);
            (board.Cost <= quick.Cost).ShouldBeTrue($"day {seed}");
            better += board.Cost < quick.Cost ? 1 : 0;
            var again = DayPlanner.Plan(day with { Seen = board.Seen });
            (again.Cost <= board.Cost).ShouldBeTrue($"day {seed} again: {again.Cost} after {board.Cost}");
        }
        better.ShouldBeGreaterThan(2);
    }

    [Fact]
    public void A_round_is_given_up_when_it_is_of_no_use_any_more()
    {
        var day = RandomDays.Of(4001, 18);
        Should.Throw<OperationCanceledException>(() => DayPlanner.Improve(day, DayPlanner.Plan(day), 1, new(canceled: true)));
    }
}
