using Uncial.Core.Scheduling;
using static Uncial.Core.Tests.Scheduling.SmallDays;

namespace Uncial.Core.Tests.Scheduling;

public class ReadinessTests
{
    private static DateTimeOffset Nine => RandomDays.Nine;

    private static DayToPlan Day(IReadOnlyList<DayJob> jobs, params SurfaceWork[] works) => SmallDays.Day(jobs, works);

    [Fact]
    public void A_step_takes_the_median_of_its_newest_twelve_and_four_of_five_stay_within_the_sure_time()
    {
        int[] minutes = [90, 90, 90, 16, 5, 15, 6, 14, 7, 13, 8, 12, 9, 11, 10];
        var time = StepTime.FromHistory(minutes);
        (time.Likely, time.Sure).ShouldBe((10, 14));
        (StepTime.FromHistory([7]).Likely, StepTime.FromHistory([7]).Sure).ShouldBe((7, 7));
        var random = new Random(1);
        Enumerable.Range(0, 200).Select(_ => time.Draw(random)).Distinct().Order().ShouldBe(Enumerable.Range(5, 12));
        // Without a history half of the days stay within the likely time, and four of five within the sure one.
        var draws = Enumerable.Range(0, 4000).Select(_ => new StepTime(20, 30).Draw(random)).ToList();
        (draws.Count(d => d <= 20) / 4000.0).ShouldBe(0.5, 0.04);
        (draws.Count(d => d <= 30) / 4000.0).ShouldBe(0.8, 0.03);
        Should.Throw<ArgumentException>(() => StepTime.FromHistory([]));
        Should.Throw<ArgumentOutOfRangeException>(() => StepTime.FromHistory([5, -1]));
        Should.Throw<ArgumentOutOfRangeException>(() => new StepTime(6, 5));
    }

    [Theory]
    [InlineData(24, PromiseState.Late)]
    [InlineData(25, PromiseState.Tight)]
    [InlineData(44, PromiseState.Tight)]
    [InlineData(45, PromiseState.Safe)]
    [InlineData(null, null)]
    public void A_promise_is_safe_tight_or_late_by_the_range_of_its_job(int? promised, PromiseState? state)
    {
        // 5 at the lathe, then 10, 20 or 40: likely 25, and 45 to be sure.
        var feeding = StepTime.FromHistory([10, 20, 40, 20, 10, 20, 20, 40, 20, 20, 10, 40]);
        var day = Day([new(1, promised is { } at ? Nine.AddMinutes(at) : null)], Block(1, 1, Rotors, feeding));
        var ready = JobReadiness.Of(day, DayPlanner.Plan(day)).Single();
        (ready.Likely, ready.Sure, ready.Promise).ShouldBe((Nine.AddMinutes(25), Nine.AddMinutes(45), state));
    }

    [Fact]
    public void The_range_holds_on_days_that_were_not_drawn_for_it()
    {
        var kept = 0;
        for (var seed = 1; seed <= 40; seed++)
        {
            var day = RandomDays.Of(300 + seed, 6);
            var board = DayPlanner.Plan(day);
            var ranges = JobReadiness.Of(day, board);
            ranges.ShouldBe(JobReadiness.Of(day, board));
            ranges.ShouldAllBe(r => r.Likely <= r.Sure);
            // One further day of the last job, as long as its steps happen to take.
            var random = new Random(seed);
            SurfaceWork Happened(SurfaceWork w)
            {
                StepTime? Of(StepTime? time) => time is null ? null : Whole(time.Draw(random));
                return w with
                {
                    Measure = Of(w.Measure),
                    Confirm = Of(w.Confirm),
                    Machinings = [.. w.Machinings.Select(m => m with { Attended = Of(m.Attended)!, Feeding = Of(m.Feeding)! })],
                };
            }
            var last = ranges.MaxBy(r => r.Sure)!;
            var truth = DayPlanner.Plan(day with { Works = [.. day.Works.Select(Happened)] }).ReadyAt[last.JobId];
            kept += truth <= last.Sure.AddMinutes(10) ? 1 : 0;
        }
        kept.ShouldBeInRange(30, 40);

        static StepTime Whole(int minutes) => new(minutes, minutes);
    }

    [Fact]
    public void What_comes_next_says_which_promise_or_change_over_it_is_for()
    {
        static NextReason Why(DayToPlan day) => NextReason.Of(day, DayPlanner.Plan(day)).Single();
        var rotor = Block(1, 1, Rotors);
        var drum = Block(2, 2, Drums);
        // The drum is promised for when it can just be ready: after the rotor it would be 20 minutes late.
        Why(Day([new(1, null), new(2, Nine.AddMinutes(32))], rotor, drum)).ShouldBe(new(2, 1, NextWhy.Promise, 20, 2));
        // Nothing is promised: the rotor first saves the way back to its head.
        Why(Day([new(1, null), new(2, null)], rotor, drum)).ShouldBe(new(1, 1, NextWhy.Idle, 12, null));
        Why(Day([new(1, null), new(2, null)], rotor, Block(2, 2, Rotors))).ShouldBe(new(1, 1, NextWhy.AsGood, 0, null));
        Why(Day([new(1, null)], rotor)).ShouldBe(new(1, 1, NextWhy.NothingElse, 0, null));
    }

    /// <summary>Each reason is checked by taking it away: in the best of all other boards what it names is worse by as much.</summary>
    [Fact]
    public void What_a_reason_names_gets_worse_without_it()
    {
        var named = 0;
        for (var seed = 1; seed <= 40; seed++)
        {
            var day = RandomDays.Of(700 + seed, 2 + seed % 3);
            var board = DayPlanner.Plan(day);
            foreach (var reason in NextReason.Of(day, board, cancel: TestContext.Current.CancellationToken))
            {
                var other = NaiveDay.Best(day, (reason.WorkId, reason.LatheId));
                if (reason.Why == NextWhy.NothingElse)
                {
                    other.ShouldBeNull();
                    continue;
                }
                var (now, without) = (board.Cost, other!.Value);
                var first =
                    without.Lateness != now.Lateness ? NextWhy.Promise
                    : without.Idle != now.Idle ? NextWhy.Idle
                    : without.Finish != now.Finish ? NextWhy.Finish
                    : NextWhy.AsGood;
                reason.Why.ShouldBe(first, $"day {seed}, surface {reason.WorkId}");
                if (first == NextWhy.Idle)
                    reason.Minutes.ShouldBe(without.Idle - now.Idle);
                if (first == NextWhy.Promise)
                    (reason.Minutes, reason.JobId is not null).ShouldSatisfyAllConditions(
                        x => x.Item1.ShouldBePositive(),
                        x => x.Item2.ShouldBeTrue()
                    );
                named += first == NextWhy.AsGood ? 0 : 1;
            }
        }
        named.ShouldBeGreaterThan(20);
    }
}
