using Uncial.Core.Scheduling;

namespace Uncial.Core.Tests.Scheduling;

public class PromiseTests
{
    private static DateTimeOffset Nine => RandomDays.Nine;

    /// <summary>Until ten past ten: seventy minutes, with a rotor of twenty for each job.</summary>
    private static DayToPlan Day(params DayJob[] jobs) => SmallDays.Day(jobs, [.. jobs.Select(j => Rotor(j.Id, j.Id))], minutes: 70);

    private static SurfaceWork Rotor(int id, int job) => SmallDays.Block(id, job, SmallDays.Rotors);

    private static DateTimeOffset In(int minutes) => Nine.AddMinutes(minutes);

    [Fact]
    public void The_earliest_time_leaves_what_is_promised_as_it_is()
    {
        var day = Day(new DayJob(1, In(20)), new DayJob(2, In(40)));
        var offer = PromiseHelper.Earliest(day, new(9, null), [Rotor(9, 9)]);
        (offer.Earliest, offer.Ready!.Sure, offer.Harmed.Count).ShouldBe((In(60), In(60), 0));
        // Where nothing is promised for the last of them, it still takes its turn after both: no minute of theirs is given away for it.
        PromiseHelper.Earliest(day, new(9, null), [Rotor(8, 9), Rotor(9, 9)]).Earliest.ShouldBeNull();
    }

    /// <summary>By the sure times: who asks without a promise comes behind those who have one, however the search goes.</summary>
    [Fact]
    public void What_is_taken_in_without_a_promise_adds_nothing_to_the_lateness_of_others()
    {
        for (var seed = 1; seed <= 12; seed++)
        {
            var day = RandomDays.Of(6000 + seed, 10 + seed);
            var board = DayPlanner.Plan(day);
            var asked = day.Works[^1] with { Id = 900, PartId = 900, JobId = 900, Measure = new(6, 8) };
            var with = day with { Jobs = [.. day.Jobs, new(900, null)], Works = [.. day.Works, asked] };
            var then = DayPlanner.Plan(with, board).Cost;
            (then.NotKept, then.Lateness <= board.Cost.Lateness).ShouldBe((board.Cost.NotKept, true), $"day {seed}");
        }
    }

    [Fact]
    public void By_a_time_it_says_yes_tight_or_no_and_what_would_make_it_a_yes()
    {
        var day = Day(new DayJob(1, In(20)), new DayJob(2, null));
        PromiseCheck By(int minutes, params SurfaceWork[] works) =>
            PromiseHelper.By(
                day,
                new(9, In(minutes)),
                works,
                new Dictionary<string, IReadOnlyList<int>> { ["front"] = [9], ["rear"] = [10] }
            );
        // Job 2 has no promise and waits.
        var check = By(40, Rotor(9, 9));
        (check.Answer, check.Offer.Ready!.Sure, check.Remedies.Count).ShouldBe((PromiseAnswer.Yes, In(40), 0));
        // Two rotors are ready at ten o'clock at the soonest; one of them by twenty to.
        check = By(40, Rotor(9, 9), Rotor(10, 9));
        (check.Answer, check.Offer.Ready!.Sure).ShouldBe((PromiseAnswer.No, In(60)));
        check.Remedies.ShouldBe([new PromiseRemedy.LeftOut("front"), new PromiseRemedy.LeftOut("rear")]);
        // Three more than the day holds: ten minutes of overtime, so a quarter of an hour.
        var full = Day(new DayJob(1, In(20)), new DayJob(2, In(40)), new DayJob(3, In(60)));
        check = PromiseHelper.By(full, new(9, In(85)), [Rotor(9, 9)]);
        check.Answer.ShouldBe(PromiseAnswer.No);
        check.Remedies.ShouldBe([new PromiseRemedy.Overtime(15)]);
    }

    [Fact]
    public void A_promise_that_pushes_another_one_out_names_it()
    {
        var day = Day(new DayJob(1, In(25)));
        // Both want the first twenty minutes: an urgent one is worth more, and the other is late for it.
        var check = PromiseHelper.By(day, new(9, In(20), IsUrgent: true), [Rotor(9, 9)]);
        check.Answer.ShouldBe(PromiseAnswer.Yes);
        check.Offer.Harmed.ShouldBe([new PromiseHarmed(1, PromiseState.Safe, PromiseState.Late)]);
        // Not urgent it waits, and being urgent is no remedy that harms nobody.
        check = PromiseHelper.By(day, new(9, In(30)), [Rotor(9, 9)]);
        (check.Answer, check.Offer.Harmed.Count, check.Remedies.Count).ShouldBe((PromiseAnswer.No, 0, 0));
    }

    [Fact]
    public void A_range_makes_a_promise_tight()
    {
        var day = Day();
        var feeding = StepTime.FromHistory([15, 15, 15, 15, 15, 15, 15, 30, 30, 30, 30, 30]);
        var work = Rotor(9, 9) with { Machinings = [new(1, SmallDays.Rotors, new(5, 5), feeding)] };
        PromiseHelper.By(day, new(9, In(20)), [work]).Answer.ShouldBe(PromiseAnswer.Tight);
        PromiseHelper.By(day, new(9, In(35)), [work]).Answer.ShouldBe(PromiseAnswer.Yes);
        PromiseHelper.By(day, new(9, In(19)), [work]).Answer.ShouldBe(PromiseAnswer.No);
        PromiseHelper.Earliest(day, new(9, null), [work]).Earliest.ShouldBe(In(35));
        Should.Throw<ArgumentException>(() => PromiseHelper.By(day, new(9, null), [work]));
    }
}
