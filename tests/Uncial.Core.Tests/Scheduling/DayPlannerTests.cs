using Uncial.Core.Scheduling;
using static Uncial.Core.Tests.Scheduling.SmallDays;

namespace Uncial.Core.Tests.Scheduling;

public class DayPlannerTests
{
    private static DateTimeOffset Nine => RandomDays.Nine;

    /// <summary>Every order and every lathe was tried by a day told minute by minute: nothing costs less.</summary>
    [Fact]
    public void Of_a_few_surfaces_no_order_is_better()
    {
        for (var seed = 1; seed <= 60; seed++)
        {
            var day = RandomDays.Of(seed, seed % 12 == 0 ? 4 : 1 + seed % 3);
            DayPlanner.Plan(day).Cost.ShouldBe(NaiveDay.Best(day)!.Value, $"day {seed}");
        }
    }

    [Fact]
    public void Nobody_and_nothing_is_in_two_places_and_steps_keep_their_order_and_hours()
    {
        for (var seed = 1; seed <= 40; seed++)
        {
            var day = RandomDays.Of(1000 + seed, 1 + seed % 25);
            var board = DayPlanner.Plan(day);
            board.NotPlaced.ShouldBeEmpty();
            foreach (var of in board.Steps.Where(s => s.LatheId is not null).GroupBy(s => s.LatheId))
                Apart(of.Select(s => (s.From.AddMinutes(-s.ChangeOver), s.To)));
            foreach (var of in board.Steps.GroupBy(s => s.WorkId))
            {
                Apart(of.Select(s => (s.From, s.To)));
                of.OrderBy(s => s.From).Select(s => s.Step).ShouldBeInOrder();
            }
            foreach (var of in board.Steps.GroupBy(s => s.OperatorId))
            {
                // Hands on one thing at a time, in the bay of one lathe at a time.
                Apart(of.Where(s => s.LatheId is not null).Select(s => (s.From.AddMinutes(-s.ChangeOver), s.To)));
                Apart(
                    of.Select(s =>
                        s.LatheId is null ? (s.From, s.To)
                        : day.MeasuresWhileFeeding ? (s.From.AddMinutes(-s.ChangeOver), s.FeedsFrom)
                        : (s.From.AddMinutes(-s.ChangeOver), s.To)
                    )
                );
                var atWork = day.Operators.Single(o => o.Id == of.Key).AtWork;
                foreach (var step in of)
                    atWork.ShouldContain(w => w.From <= step.From.AddMinutes(-step.ChangeOver) && step.To <= w.To);
            }
            foreach (var job in day.Jobs)
                board
                    .ReadyAt[job.Id]
                    .ShouldBe(board.Steps.Where(s => day.Works.Single(w => w.Id == s.WorkId).JobId == job.Id).Max(s => s.To));
        }
    }

    private static void Apart(IEnumerable<(DateTimeOffset From, DateTimeOffset To)> times)
    {
        var last = DateTimeOffset.MinValue;
        foreach (var (from, to) in times.Where(t => t.From < t.To).OrderBy(t => t.From))
        {
            from.ShouldBeGreaterThanOrEqualTo(last);
            last = to;
        }
    }

    [Fact]
    public void The_same_day_gives_the_same_board()
    {
        var day = RandomDays.Of(7, 20);
        DayPlanner.Plan(day).Steps.ShouldBe(DayPlanner.Plan(RandomDays.Of(7, 20)).Steps);
    }

    private static DayToPlan Day(IReadOnlyList<DayJob> jobs, params SurfaceWork[] works) => SmallDays.Day(jobs, works);

    private static int[] Order(DayBoard board) => [.. board.Steps.Where(s => s.Step == WorkStep.Machine).Select(s => s.WorkId)];

    [Fact]
    public void Both_rotors_of_an_axle_follow_one_another_unless_that_breaks_a_promise()
    {
        var works = new[] { Block(1, 1, Rotors), Block(2, 2, Drums), Block(3, 1, Rotors) };
        // Together: 20 + 20, then 12 of change-over and 20: the drum is ready at 10:12.
        var board = DayPlanner.Plan(Day([new(1, null), new(2, Nine.AddMinutes(72))], works));
        Order(board).ShouldBe([1, 3, 2]);
        board.Cost.ShouldBe(new(0, 0, 12, 72, 0));
        // A minute sooner, the drum has to go first: 12 + 20 + 12 + 20 + 20.
        board = DayPlanner.Plan(Day([new(1, null), new(2, Nine.AddMinutes(71))], works));
        Order(board).ShouldBe([2, 1, 3]);
        board.Cost.ShouldBe(new(0, 0, 24, 84, 0));
        // An urgent minute counts three times: 13 minutes late of job 1 are less than 40 of job 2.
        board = DayPlanner.Plan(Day([new(1, Nine.AddMinutes(71)), new(2, Nine.AddMinutes(32), IsUrgent: true)], works));
        Order(board)[0].ShouldBe(2);
        board.Cost.Lateness.ShouldBe(13);
    }

    [Fact]
    public void A_block_waits_until_after_the_break_rather_than_to_be_broken()
    {
        var day = Day([new(1, null)], Block(1, 1, Rotors, new(35, 35))) with
        {
            Operators = [new(1, [new(Nine, Nine.AddMinutes(30)), new(Nine.AddMinutes(60), Nine.AddHours(8))])],
        };
        DayPlanner.Plan(day).Steps.Single().From.ShouldBe(Nine.AddMinutes(60));
        // Nobody has forty minutes left: it stays without a time, and that is said.
        var short_ = day with { Operators = [new(1, [new(Nine, Nine.AddMinutes(30))])] };
        var board = DayPlanner.Plan(short_);
        (board.Steps.Count, board.NotPlaced.Single(), board.ReadyAt.Count, board.Cost.NotKept).ShouldBe((0, 1, 0, 1));
    }

    /// <summary>Else the first part of a job would be put off to the evening, with changes of the head to fill the day.</summary>
    [Fact]
    public void A_job_does_not_wait_at_night_nor_for_what_somebody_put_off()
    {
        DayOperator worker = new(1, [new(Nine, Nine.AddHours(8)), new(Nine.AddDays(1), Nine.AddDays(1).AddHours(8))]);
        DayToPlan Week(DayToPlan day) => day with { Operators = [worker], Lathes = [day.Lathes[0] with { Open = worker.AtWork }] };
        // Each takes 305 minutes, so that 175 are left of the first day.
        var night = Week(Day([new(1, null)], Block(1, 1, Rotors, new(300, 300)), Block(2, 1, Rotors, new(300, 300))));
        DayPlanner.Plan(night).Cost.Idle.ShouldBe(175);
        var later = Block(2, 1, Rotors) with { Pin = new(null, null, Nine.AddDays(1)) };
        List<DayJob> jobs = [new(1, null), new(2, Nine.AddHours(2))];
        var putOff = DayPlanner.Plan(Week(Day(jobs, Block(1, 1, Rotors), later, Block(3, 2, Drums))));
        putOff.Cost.Idle.ShouldBe(24); // to the drum and back
    }

    [Fact]
    public void What_finds_no_time_is_what_was_promised_to_nobody()
    {
        var day = Day([new(1, null), new(2, Nine.AddMinutes(25))], Block(1, 1, Rotors), Block(2, 2, Rotors)) with
        {
            Operators = [new(1, [new(Nine, Nine.AddMinutes(30))])],
        };
        var board = DayPlanner.Plan(day);
        (board.NotPlaced.Single(), board.ReadyAt.Keys.Single(), board.Cost.Lateness).ShouldBe((1, 2, 0));
    }

    [Fact]
    public void What_is_under_way_stays_and_one_measures_while_the_lathe_feeds()
    {
        var day = Day(
            [new(1, null), new(2, null)],
            Block(1, 1, Rotors) with
            {
                Started = new(1, 1, new(2, 2), new(18, 18)),
            },
            Block(2, 2, Rotors) with
            {
                Measure = new(5, 5),
            }
        );
        var board = DayPlanner.Plan(day);
        var measure = board.Steps.Single(s => s.Step == WorkStep.Measure);
        (measure.From, measure.To).ShouldBe((Nine.AddMinutes(2), Nine.AddMinutes(7)));
        board.Steps[^1].From.ShouldBe(Nine.AddMinutes(20));
        // A shop in which measuring counts as leaving the lathe: first the pass, then the gauge.
        board = DayPlanner.Plan(day with { MeasuresWhileFeeding = false });
        board.Steps.Single(s => s.Step == WorkStep.Measure).From.ShouldBe(Nine.AddMinutes(20));
    }

    [Fact]
    public void A_pin_holds_and_what_starts_soon_moves_only_for_a_promise()
    {
        var works = new[] { Block(1, 1, Rotors), Block(2, 2, Rotors) };
        List<DayJob> jobs = [new(1, null), new(2, Nine.AddMinutes(60))];
        Order(DayPlanner.Plan(Day(jobs, works[0] with { Pin = new(null, 1, null) }, works[1]))).ShouldBe([2, 1]);
        var late = DayPlanner.Plan(Day(jobs, works[0] with { Pin = new(null, null, Nine.AddMinutes(90)) }, works[1]));
        late.Steps.Single(s => s.WorkId == 1).From.ShouldBe(Nine.AddMinutes(90));
        // People saw 2 first, in ten minutes: it stays first, although 1 costs no less.
        var seen = Day(jobs, works) with { Seen = [new(2, 1, Nine.AddMinutes(10)), new(1, 1, Nine.AddMinutes(30))] };
        Order(DayPlanner.Plan(seen)).ShouldBe([2, 1]);
        // Were a promise to break by that, it moves.
        Order(DayPlanner.Plan(seen with { Jobs = [new(1, Nine.AddMinutes(20)), new(2, null)] })).ShouldBe([1, 2]);
    }

    [Fact]
    public void A_rotor_with_a_drum_in_its_hat_is_on_one_lathe_at_a_time()
    {
        var day = Day(
            [new(1, null)],
            Block(1, 1, Rotors) with
            {
                PartId = 9,
            },
            Block(2, 1, Drums) with
            {
                PartId = 9,
                Machinings = [new(2, Drums, new(5, 5), new(15, 15))],
            }
        );
        var two = day with
        {
            Lathes = [.. day.Lathes, new(2, [new(Nine, Nine.AddHours(10))], Drums, 12, 3)],
            Operators = [new(1, [new(Nine, Nine.AddHours(10))]), new(2, [new(Nine, Nine.AddHours(10))])],
        };
        DayPlanner.Plan(two).Cost.Finish.ShouldBe(40);
    }

    [Fact]
    public void Who_worked_at_a_lathe_last_takes_its_next_part_where_that_is_no_later()
    {
        var day = Day([new(1, null)], Block(1, 1, Rotors));
        var two = day with
        {
            Lathes = [day.Lathes[0] with { OperatorId = 2 }],
            Operators = [day.Operators[0], day.Operators[0] with { Id = 2 }],
        };
        DayPlanner.Plan(two).Steps.Single().OperatorId.ShouldBe(2);
        var later = two with { Operators = [day.Operators[0], new(2, [new(Nine.AddMinutes(1), Nine.AddHours(8))])] };
        DayPlanner.Plan(later).Steps.Single().OperatorId.ShouldBe(1);
    }
}
