using Uncial.Practice.Debriefs;
using Uncial.Practice.Drills;
using Uncial.Practice.Jobs;
using Uncial.Practice.Lessons;

namespace Uncial.Simulation.Tests;

/// <summary>By the book every lesson is passed; each habit costs its own skill.</summary>
public class DebriefTests
{
    private const int Seeds = 12;

    private static Debrief Work(Lesson lesson, long seed, RobotHabit habit) => Debrief.Of(lesson, seed, Robot.WorkAll(lesson, seed, habit));

    private static string Told(Debrief debrief) =>
        debrief.Outcome
        + " "
        + string.Join(
            "; ",
            debrief.Lines.Where(l => l.Share < 1).Select(l => $"{l.Of} {l.Cause} {l.Misread} {l.Yours:0.000} {l.True:0.000} {l.Share:0.00}")
        );

    [Fact]
    public void By_the_book_every_skill_of_every_lesson_is_at_ninety_or_more()
    {
        foreach (var lesson in ShippedLessons.All)
            for (var seed = 1; seed <= Seeds; seed++)
            {
                var debrief = Work(lesson, seed * 101, RobotHabit.None);
                foreach (var skill in lesson.Marked)
                    (debrief.Score(skill) ?? 100).ShouldBeGreaterThanOrEqualTo(90, $"{lesson.Id} {seed} {skill}: {Told(debrief)}");
                debrief.Outcome.ShouldBe(Outcome.Right, $"{lesson.Id} {seed}: {Told(debrief)}");
            }
    }

    [Fact]
    public void By_the_keys_of_the_bench_alone_every_lesson_is_passed()
    {
        foreach (var lesson in ShippedLessons.All)
            for (var seed = 1; seed <= 4; seed++)
            {
                var debrief = Debrief.Of(lesson, seed * 101, Robot.WorkAll(lesson, seed * 101, RobotHabit.None, byTouch: true));
                foreach (var skill in lesson.Marked)
                    (debrief.Score(skill) ?? 100).ShouldBeGreaterThanOrEqualTo(90, $"{lesson.Id} {seed} {skill}: {Told(debrief)}");
                debrief.Outcome.ShouldBe(Outcome.Right, $"{lesson.Id} {seed}: {Told(debrief)}");
            }
    }

    [Fact]
    public void What_is_released_while_it_is_dark_goes_out_as_it_should_not()
    {
        var lesson = ShippedLessons.All.First(l => l.Id == "clear-of-the-ridge");
        Deed[] deeds =
        [
            new Deed.CleanPart(),
            new Deed.CleanAdapters(),
            new Deed.Mount(1, 2, NotchesMeet: true),
            new Deed.ZeroAtTouch(0),
            new Deed.ZeroAtTouch(1),
            new Deed.SetDial(0, 1, FromBehind: true),
            new Deed.SetDial(1, 1, FromBehind: true),
            new Deed.Pass(0.12, 85, 0, IsFeedLocked: false, LeverIsRight: true),
        ];
        var debrief = Debrief.Of(lesson, 7, [.. deeds.Select(d => new JobStep.Did(d)), new JobStep.Verdict(Decision.Release)]);
        debrief.Lines.ShouldContain(l => l.Cause == JobCause.LeftDark);
        debrief.Outcome.ShouldBe(Outcome.NotAsItShould);
    }

    [Theory]
    [InlineData(RobotHabit.MisreadsTheScale, Skill.Reading)]
    [InlineData(RobotHabit.DoesNotRock, Skill.Reading)]
    [InlineData(RobotHabit.ReadsOnTheRidge, Skill.Reading)]
    [InlineData(RobotHabit.MixesLimits, Skill.Units)]
    [InlineData(RobotHabit.MountsCarelessly, Skill.SetUp)]
    [InlineData(RobotHabit.TakesTooMuch, Skill.Metal)]
    [InlineData(RobotHabit.NeverLooks, Skill.Judgement)]
    public void A_habit_costs_its_own_skill_and_no_other(RobotHabit habit, Skill skill)
    {
        var lost = 0;
        foreach (var lesson in ShippedLessons.All)
            for (var seed = 1; seed <= 4; seed++)
            {
                var debrief = Work(lesson, seed * 101, habit);
                var own = debrief.Score(skill) ?? 100;
                if (own < 80)
                    lost++;
                // Elsewhere only what follows from it: a wobble that was cut in costs metal too.
                foreach (var other in lesson.Marked.Where(s => s != skill && !(skill == Skill.SetUp && s == Skill.Metal)))
                    (debrief.Score(other) ?? 100).ShouldBeGreaterThanOrEqualTo(85, $"{habit} {lesson.Id} {seed} {other}: {Told(debrief)}");
            }
        lost.ShouldBeGreaterThan(habit == RobotHabit.NeverLooks ? 3 : 12, habit.ToString());
    }

    /// <summary>A table of confusions: what each habit did, and what the debrief says that it was.</summary>
    [Fact]
    public void Nine_in_ten_causes_are_called_by_their_name()
    {
        Dictionary<RobotHabit, JobCause> named = new()
        {
            [RobotHabit.MisreadsTheScale] = JobCause.ScaleMisread,
            [RobotHabit.DoesNotRock] = JobCause.NotRocked,
            [RobotHabit.ReadsOnTheRidge] = JobCause.OnTheRidge,
            [RobotHabit.MixesLimits] = JobCause.OtherLimit,
            [RobotHabit.TakesTooMuch] = JobCause.TooMuchMetal,
        };
        var (right, all) = (0, 0);
        Dictionary<(RobotHabit, JobCause), int> table = [];
        foreach (var (habit, cause) in named)
        foreach (var lesson in ShippedLessons.All)
            for (var seed = 1; seed <= 17; seed++)
                foreach (
                    var line in Work(lesson, seed * 53, habit)
                        .Lines.Where(l =>
                            l.Cause is not (JobCause.None or JobCause.FollowsFromBefore) && l.Share < 1 && l.Of != DebriefOf.Verdict
                        )
                )
                {
                    all++;
                    right += line.Cause == cause ? 1 : 0;
                    table[(habit, line.Cause)] = table.GetValueOrDefault((habit, line.Cause)) + 1;
                }
        all.ShouldBeGreaterThan(1000);
        ((double)right / all).ShouldBeGreaterThan(0.9, string.Join(", ", table.Select(t => $"{t.Key}: {t.Value}")));
    }

    [Fact]
    public void A_part_beyond_discard_that_was_let_go_is_told_as_what_it_would_have_done()
    {
        var lesson = ShippedLessons.All.Single(l => l.Id == "inches-on-the-casting");
        var robot = new Robot(lesson, 7, RobotHabit.None).Work();
        JobStep[] released = [.. robot.Where(s => s is not JobStep.Verdict), new JobStep.Verdict(Decision.Release)];
        var debrief = Debrief.Of(lesson, 7, released);
        debrief.Outcome.ShouldBe(Outcome.WouldHaveFailed);
        debrief.Lines.Single(l => l.Of == DebriefOf.Verdict).Cause.ShouldBe(JobCause.VerdictAgainstOwnData);
        debrief.Score(Skill.Reading).ShouldBe(100);
        Debrief.Of(lesson, 7, []).Outcome.ShouldBe(Outcome.NotEnded);
        // The right verdict by guess is none: nothing was read.
        var guessed = Debrief.Of(lesson, 7, [new JobStep.Verdict(Decision.Scrap)]);
        guessed.Lines.Single(l => l.Of == DebriefOf.Verdict).Cause.ShouldBe(JobCause.NothingToGoBy);
        guessed.Score(Skill.Judgement).ShouldBe(0);
        // Released as it came in, though it needed a cut; scrapped or left alone by luck.
        Debrief
            .Of(lesson, 7, [new JobStep.Verdict(lesson.Decision)])
            .Outcome.ShouldBe(lesson.Decision == Decision.Release ? Outcome.NotAsItShould : Outcome.Guessed);
        foreach (var lucky in ShippedLessons.All.Where(l => l.Decision == Decision.LeaveUncut || l.Wear.HasCrack))
            Debrief.Of(lucky, 7, [new JobStep.Verdict(lucky.Decision)]).Outcome.ShouldBe(Outcome.Guessed, lucky.Id);
        foreach (var uncut in ShippedLessons.All.Where(l => l.Decision == Decision.Release))
            Debrief.Of(uncut, 7, [new JobStep.Verdict(Decision.Release)]).Outcome.ShouldBe(Outcome.NotAsItShould, uncut.Id);
    }

    [Fact]
    public void A_datum_that_nobody_checked_is_found_in_the_readings()
    {
        var lesson = ShippedLessons.All.Single(l => l.Mistake == LessonMistake.ShiftedDatum);
        JobStep[] unchecked_ = [.. new Robot(lesson, 5, RobotHabit.None).Work().Where(s => s is not JobStep.Did { Deed: Deed.SetDatum })];
        // The readings as the gauge then showed them.
        var bench = new VirtualBench(lesson, 5);
        List<JobStep> steps = [];
        Seen? seen = null;
        foreach (var step in unchecked_)
        {
            if (step is JobStep.Did did)
                seen = bench.Do(did.Deed);
            steps.Add(
                step is JobStep.Reading && seen is Seen.Gauge gauge
                    ? new JobStep.Reading(gauge.Picture.Design.InMillimetres(Simulation.Scales.Eye.Read(gauge.Picture)))
                    : step
            );
        }
        var debrief = Debrief.Of(lesson, 5, steps);
        debrief.Lines.Where(l => l.Of == DebriefOf.Reading).ShouldAllBe(l => l.Cause == JobCause.DatumNotChecked, Told(debrief));
    }

    [Fact]
    public void Of_a_rotor_with_a_drum_in_its_hat_each_surface_is_marked_by_its_own_truth()
    {
        var lesson = ShippedLessons.All.Single(l => l.Hat is not null);
        var byTheBook = Robot.WorkAll(lesson, 7, RobotHabit.None);
        var debrief = Debrief.Of(lesson, 7, byTheBook);
        debrief.Lines.Select(l => l.Surface).Distinct().Count().ShouldBe(2);
        foreach (var reading in debrief.Lines.Where(l => l.Of == DebriefOf.Reading))
            (reading.True > 100).ShouldBe(reading.Surface == 2);

        // Whoever reads the faces alone has nothing to say of the part, though the verdict is the right one.
        var facesAlone = Debrief.Of(lesson, 7, [.. byTheBook.Where(s => s.Surface == 1)]);
        facesAlone.Lines.Single(l => l.Of == DebriefOf.Verdict).Cause.ShouldBe(JobCause.NothingToGoBy);
        facesAlone.Lines.ShouldContain(l => l.Of == DebriefOf.Limit && l.Surface == 2 && l.Cause == JobCause.LimitMissing);
        facesAlone.Score(Skill.Judgement)!.Value.ShouldBeLessThan(90);

        // One surface is enough to scrap a part: a drum beyond its discard goes on no vehicle with the best of faces.
        var hat = lesson.Hat!;
        var worn = lesson with { Hat = hat with { Wear = hat.Wear with { Left = new(-0.2, -0.2) }, Decision = Decision.Scrap } };
        worn.WholeDecision.ShouldBe(Decision.Scrap);
        var scrapped = Robot.WorkAll(worn, 7, RobotHabit.None);
        ((JobStep.Verdict)scrapped[^1]).Decision.ShouldBe(Decision.Scrap);
        Debrief.Of(worn, 7, [.. scrapped.SkipLast(1), new JobStep.Verdict(Decision.Release)]).Outcome.ShouldBe(Outcome.WouldHaveFailed);
        Debrief
            .Of(worn, 7, [.. scrapped.SkipLast(1), new JobStep.Verdict(Decision.Release)])
            .Lines.Single(l => l.Of == DebriefOf.Verdict)
            .ShouldSatisfyAllConditions(
                l => l.Cause.ShouldBe(JobCause.VerdictAgainstOwnData),
                l => l.Surface.ShouldBe(2),
                l => l.True!.Value.ShouldBe(191.2, 0.01)
            );
    }
}
