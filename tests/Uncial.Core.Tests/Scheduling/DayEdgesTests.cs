using Uncial.Core.Scheduling;
using Uncial.Core.Times;

namespace Uncial.Core.Tests.Scheduling;

/// <summary>Days at their edges: nothing or very much to do, somebody who leaves, a lathe that breaks, a promise that is over.</summary>
public class DayEdgesTests
{
    private static readonly DateTimeOffset Nine = RandomDays.Nine;

    [Fact]
    public void A_day_without_work_or_without_anybody_has_an_empty_board()
    {
        var none = SmallDays.Day([], []);
        DayPlanner.Plan(none).Steps.ShouldBeEmpty();
        JobReadiness.Of(none, DayPlanner.Plan(none)).ShouldBeEmpty();
        NextReason.Of(none, DayPlanner.Plan(none), cancel: TestContext.Current.CancellationToken).ShouldBeEmpty();
        var nobody = SmallDays.Day([new(1, Nine.AddHours(2))], [SmallDays.Block(1, 1, SmallDays.Rotors)]) with { Operators = [] };
        DayPlanner.Plan(nobody).NotPlaced.ShouldBe([1]);
        JobReadiness.Of(nobody, DayPlanner.Plan(nobody)).ShouldBeEmpty();
    }

    [Fact]
    public void Forty_jobs_all_find_their_time_on_the_days_that_follow()
    {
        List<DayJob> jobs = [.. Enumerable.Range(1, 40).Select(j => new DayJob(j, Nine.AddHours(3 * j)))];
        List<SurfaceWork> works = [.. jobs.Select(j => SmallDays.Block(j.Id, j.Id, j.Id % 3 == 0 ? SmallDays.Drums : SmallDays.Rotors))];
        var hours = WorkHours.Of(1, new(), [], new(2026, 12, 5), ShopDay.Days, new ShopTime(TimeZoneInfo.Utc, DateStyle.DayMonth));
        var day = SmallDays.Day(jobs, works) with { Operators = [new(1, hours)], Lathes = [new(1, hours, SmallDays.Rotors, 12, 3)] };
        var board = DayPlanner.Plan(day);
        board.NotPlaced.ShouldBeEmpty();
        // No block is cut in two by a break or the end of a day.
        board.Steps.ShouldAllBe(s => hours.Any(w => w.From <= s.From.AddMinutes(-s.ChangeOver) && s.To <= w.To));
        // Rotors and drums take turns as seldom as the promises let them.
        board.Steps.Count(s => s.ChangeOver > 0).ShouldBeLessThan(14);
    }

    [Fact]
    public void Who_leaves_at_three_has_nothing_after_it_and_a_lathe_that_is_broken_at_noon_takes_nothing_until_it_is_back()
    {
        for (var seed = 0; seed < 20; seed++)
        {
            var day = RandomDays.Of(seed, 10);
            var (three, noon) = (Nine.AddHours(6), Nine.AddHours(3));
            day = day with
            {
                Operators = [new(1, [new(Nine.AddHours(-1), three)]), .. day.Operators.Skip(1)],
                Lathes =
                [
                    day.Lathes[0] with
                    {
                        Open = WorkHours.Without([new(Nine.AddHours(-1), Nine.AddHours(20))], [new(noon, noon.AddHours(2))]),
                    },
                    .. day.Lathes.Skip(1),
                ],
            };
            var board = DayPlanner.Plan(day);
            board.Steps.Where(s => s.OperatorId == 1).ShouldAllBe(s => s.To <= three, $"seed {seed}");
            board
                .Steps.Where(s => s.LatheId == 1)
                .ShouldAllBe(s => s.To <= noon || s.From.AddMinutes(-s.ChangeOver) >= noon.AddHours(2), $"seed {seed}");
        }
    }

    [Fact]
    public void A_promise_that_is_over_is_late_and_is_not_refused()
    {
        var day = SmallDays.Day([new(1, Nine.AddMinutes(-30))], [SmallDays.Block(1, 1, SmallDays.Rotors)]);
        var board = DayPlanner.Plan(day);
        JobReadiness.Of(day, board).Single().Promise.ShouldBe(PromiseState.Late);
        board.Cost.Lateness.ShouldBe(50);
    }

    [Fact]
    public void A_price_names_what_becomes_worse_and_for_whom()
    {
        // The drum has time until the evening; put first it costs two changes of the head and the rotors' promise.
        var day = SmallDays.Day(
            [new(1, Nine.AddMinutes(45)), new(2, Nine.AddHours(8))],
            [SmallDays.Block(1, 1, SmallDays.Rotors), SmallDays.Block(2, 1, SmallDays.Rotors), SmallDays.Block(3, 2, SmallDays.Drums)]
        );
        PlannedDay Of(DayToPlan d)
        {
            var board = DayPlanner.Plan(d);
            return new(
                new(d, [], []),
                board,
                JobReadiness.Of(d, board).ToDictionary(r => r.JobId),
                new Dictionary<int, IReadOnlyList<CriticalStep>>(),
                new Dictionary<int, NextReason>()
            );
        }
        var pinned = day with { Works = [day.Works[0], day.Works[1], day.Works[2] with { Pin = new(1, 0, null) }] };
        var price = BoardPrice.Of(Of(day), Of(pinned));
        price.IsKept.ShouldBeTrue();
        // Two changes of twelve minutes instead of one; the rotors wait for 12 + 20 + 12 minutes.
        (price.IdleMinutes, price.LateMinutes).ShouldBe((12, 39));
        price.Jobs[0].ShouldBe(new JobMoved(1, 44, PromiseState.Safe, PromiseState.Late));
        var same = BoardPrice.Of(Of(day), Of(day));
        (same.LateMinutes, same.IdleMinutes, same.FinishMinutes, same.Jobs.Count).ShouldBe((0, 0, 0, 0));
    }
}
