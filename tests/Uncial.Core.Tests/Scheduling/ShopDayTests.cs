using Uncial.Core.Cutting;
using Uncial.Core.Inspection;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Scheduling;
using Uncial.Core.Tests.Workflow;
using Uncial.Core.Times;

namespace Uncial.Core.Tests.Scheduling;

/// <summary>What is in the day's plan, what is not and why, and what is done, by the facts on record.</summary>
public class ShopDayTests
{
    private static readonly DateTimeOffset Nine = RandomDays.Nine;

    private static readonly Lathe Twin = new()
    {
        Name = "Twin",
        Division = Mm.Of(0.01m),
        DialAllowance = Mm.Of(0.01m),
        Feeds = [new("1", Mm.Of(0.1m))],
        RoughFeed = "1",
        FinishFeed = "1",
        Speeds = [60m],
        NoseRadius = Mm.Of(0.8m),
        Rotors = new(Mm.Of(180), Mm.Of(380)),
    };

    private static StoredSurface Rotor(decimal diameter = 280)
    {
        StoredSurface rotor = new(PartKind.Rotor) { Diameter = diameter, At = Nine.AddMinutes(-60) };
        rotor.Limit(LimitKind.Discard, 23m);
        rotor.Limit(LimitKind.MachineTo, 23.4m);
        return rotor;
    }

    private static StoredSurface Read(decimal size = 24.3m)
    {
        var rotor = Rotor();
        rotor.ReadAll(size);
        return rotor;
    }

    private static ShopFloor Floor(params StoredSurface[] surfaces) =>
        new()
        {
            Now = Nine,
            Time = new(TimeZoneInfo.Utc, DateStyle.DayMonth),
            Jobs =
            [
                new(1, Nine.AddHours(3), false, [.. surfaces.Select((s, i) => new PartInShop(i + 1, (Corner)i, [new(i + 1, s.State)]))]),
            ],
            Lathes = [new(1, Twin, null, null)],
            Operators = [1],
            Times = new([], [], new(), ShopRules.Default),
        };

    private static ShopFloor With(ShopFloor floor, Func<LatheInShop, LatheInShop> lathe) =>
        floor with
        {
            Lathes = [.. floor.Lathes.Select(lathe)],
        };

    [Fact]
    public void What_is_to_do_follows_from_the_station()
    {
        var cut = Read();
        cut.Mount();
        cut.GoOn();
        cut.Plan();
        while (!cut.State.Planning.IsCutToItsEnd)
            cut.Cut();
        cut.Finish();
        var day = ShopDay.Of(Floor(Rotor(), Read(), cut));
        day.Blocked.ShouldBeEmpty();
        var works = day.Plan.Works;
        works
            .Select(w => (w.Measure is not null, w.Machinings.Count, w.Confirm is not null))
            .ShouldBe([(true, 1, true), (false, 1, true), (false, 0, true)]);
        works.ShouldAllBe(w => w.Started == null);
        // The axle is held alike, though nobody has entered its sizes.
        works[0].Machinings[0].SetUp.ShouldBe(works[1].Machinings[0].SetUp);
        // Of the passes that would be planned: a rough and a finishing one of 8.8 minutes each.
        var minutes = Twin.Run(PassKind.Finish, PartKind.Rotor, Mm.Of(280), Mm.Of(50)).Minutes;
        works[1].Machinings[0].Feeding.Likely.ShouldBeOneOf((int)Math.Ceiling(minutes), (int)Math.Ceiling(2 * minutes));
    }

    [Fact]
    public void What_somebody_must_decide_first_is_not_in_the_plan_and_says_why()
    {
        StoredSurface without = new(PartKind.Rotor);
        var thin = Read(22.9m);
        var cracked = Read();
        cracked.Find(FindingKind.Crack);
        var day = ShopDay.Of(Floor(without, thin, cracked, Rotor(diameter: 410)));
        day.Plan.Works.ShouldBeEmpty();
        day.Blocked.ShouldBe([
            new BlockedWork.LimitsMissing(1),
            new BlockedWork.BeyondLimit(2),
            new BlockedWork.Stopped(3, FindingKind.Crack),
            new BlockedWork.NoLathe(4, Mm.Of(410), Twin.Rotors),
        ]);
        day.HeldJobs.ShouldBe([1]);
        LatheOut forGood = new(Nine.AddMinutes(-5), null);
        ShopDay.Of(With(Floor(Read()), l => l with { Out = forGood })).Blocked.ShouldBe([new BlockedWork.LathesOut(1)]);
        // One that should be back and is not is out until somebody says otherwise.
        LatheOut overdue = new(Nine.AddHours(-2), Nine.AddMinutes(-1));
        ShopDay.Of(With(Floor(Read()), l => l with { Out = overdue })).Blocked.ShouldBe([new BlockedWork.LathesOut(1)]);
        // Nothing is bound to it meanwhile: what was pinned there goes elsewhere, or says why it cannot.
        var pinned = Floor(Read()) with { Pins = new Dictionary<int, Pin> { [1] = new(1, 0, Nine.AddHours(1)) } };
        ShopDay.Of(pinned).Plan.Works.Single().Pin.ShouldBe(new(1, 0, Nine.AddHours(1)));
        ShopDay.Of(With(pinned, l => l with { Out = forGood })).Blocked.ShouldBe([new BlockedWork.LathesOut(1)]);
        var second = pinned with { Lathes = [pinned.Lathes[0] with { Out = forGood }, pinned.Lathes[0] with { Id = 2 }] };
        ShopDay.Of(second).Plan.Works.Single().Pin.ShouldBe(new(null, null, Nine.AddHours(1)));
        DayPlanner.Plan(ShopDay.Of(second).Plan).Steps.Single(s => s.LatheId == 2).From.ShouldBe(Nine.AddHours(1));
        // Nor does a lathe that does not take the part: it is never left without a time.
        var elsewhere = pinned with { Pins = new Dictionary<int, Pin> { [1] = new(77, 0, null) } };
        ShopDay.Of(elsewhere).Plan.Works.Single().Pin.ShouldBeNull();
        DayPlanner.Plan(ShopDay.Of(elsewhere).Plan).NotPlaced.ShouldBeEmpty();
        // One that comes back is waited for.
        var back = ShopDay.Of(With(Floor(Read()), l => l with { Out = new(Nine.AddMinutes(-5), Nine.AddHours(2)) }));
        DayPlanner.Plan(back.Plan).Steps.First(s => s.LatheId == 1).From.ShouldBe(Nine.AddHours(2).AddMinutes(10));
    }

    [Fact]
    public void A_part_on_the_lathe_stays_there_with_what_is_left_of_it()
    {
        var mounted = Read();
        mounted.At = Nine.AddMinutes(-8);
        mounted.Mount();
        var floor = Floor(mounted);
        long mount = mounted.State.Mounting.Mount!.Id;

        var work = ShopDay.Of(With(floor, l => l with { NewestMount = mount })).Plan.Works.Single();
        work.Started.ShouldNotBeNull().LatheId.ShouldBe(1);
        (work.Started.AttendedLeft.Likely, work.Started.AttendedLeft.Sure).ShouldBe((12, 19)); // of 20 and 27
        // Another part was put on since: this one is off, and is mounted again.
        ShopDay.Of(With(floor, l => l with { NewestMount = mount + 1 })).Plan.Works.Single().Started.ShouldBeNull();
        // A lathe that breaks under it holds it: it does not go on by itself.
        ShopDay
            .Of(With(floor, l => l with { NewestMount = mount, Out = new(Nine.AddMinutes(-5), null) }))
            .Blocked.ShouldBe([new BlockedWork.LathesOut(1)]);
        var waits = ShopDay.Of(With(floor, l => l with { NewestMount = mount, Out = new(Nine.AddMinutes(-5), Nine.AddHours(2)) }));
        DayPlanner.Plan(waits.Plan).Steps.Single(s => s.LatheId == 1).From.ShouldBeGreaterThanOrEqualTo(Nine.AddHours(2));

        mounted.GoOn();
        mounted.Plan();
        mounted.Start(CutStopKind.Done);
        var cutting = ShopDay.Of(With(Floor(mounted), l => l with { NewestMount = mount })).Plan.Works.Single();
        cutting.Started!.AttendedLeft.Likely.ShouldBe(5); // finishing
        cutting.Started.FeedingLeft.Likely.ShouldBeGreaterThan(0);
    }

    [Fact]
    public void A_reading_that_is_begun_goes_on_until_it_was_put_aside()
    {
        var begun = Rotor();
        begun.At = Nine.AddMinutes(-3);
        begun.Read(0, 24.3m);
        begun.Read(45, 24.3m);
        var work = ShopDay.Of(Floor(begun)).Plan.Works.Single();
        work.Started!.LatheId.ShouldBeNull();
        work.Started.AttendedLeft.Likely.ShouldBe(7); // six of eight places, of nine minutes
        ShopDay.Of(Floor(begun) with { Now = Nine.AddHours(1) }).Plan.Works.Single().Started.ShouldBeNull();
    }

    [Fact]
    public void What_is_done_shows_when_and_where()
    {
        var done = Rotor();
        done.At = Nine.AddMinutes(-50);
        done.ReadAll(24.3m);
        done.At = Nine.AddMinutes(-40);
        done.Mount();
        done.GoOn();
        done.Plan();
        done.At = Nine.AddMinutes(-20);
        while (!done.State.Planning.IsCutToItsEnd)
            done.Cut();
        done.Finish();
        done.At = Nine.AddMinutes(-10);
        done.ReadAll(24.1m);
        done.Confirm();
        var day = ShopDay.Of(Floor(done));
        day.Plan.Works.ShouldBeEmpty();
        day.Past.Select(p => (p.Step, p.LatheId, (Nine - p.To).TotalMinutes))
            .ShouldBe([(WorkStep.Measure, null, 50), (WorkStep.Machine, 1, 20), (WorkStep.Confirm, null, 10)]);
    }

    [Fact]
    public void A_job_of_which_a_part_waits_for_a_decision_promises_nothing()
    {
        // The other part would be ready long before: that says nothing of the job.
        var plan = PlannedDay.Of(Floor(Read(), Read(22.9m)));
        plan.Ready[1].Promise.ShouldBe(PromiseState.Safe);
        plan.PromiseOf(1).ShouldBeNull();
        var forecast = DayForecast.Of(plan, Nine.AddHours(8));
        (forecast.Promised, forecast.InDanger).ShouldBe((1, 1));
        PlannedDay.Of(Floor(Read(), Read())).PromiseOf(1).ShouldBe(PromiseState.Safe);
    }

    [Fact]
    public void What_comes_first_is_what_somebody_is_at_then_what_is_planned_for_them()
    {
        var begun = Rotor();
        begun.At = Nine.AddMinutes(-3);
        begun.Read(0, 24.3m);
        var plan = PlannedDay.Of(Floor(begun, Read()) with { Operators = [0, 1] });
        // Readings of this record are by nobody's number: 0.
        plan.IsUnderWay(plan.StepsFor(0).First()).ShouldBeTrue();
        plan.StepsFor(1).First().OperatorId.ShouldBe(1);
        plan.StepsFor(7).ShouldAllBe(s => !plan.IsUnderWay(s));
        plan.StepsFor(7).Count().ShouldBe(plan.Board.Steps.Count(s => !plan.IsUnderWay(s)));
        // Of what is planned for others, what is at the lathe where somebody worked last.
        plan = PlannedDay.Of(Floor(Read(), Read(), Read()) with { Operators = [0] });
        var day = plan.Day.Plan;
        var worked = plan with { Day = plan.Day with { Plan = day with { Lathes = [day.Lathes[0] with { OperatorId = 7 }] } } };
        bool IsThere(PlacedStep step) => step.LatheId == day.Lathes[0].Id;
        plan.StepsFor(7).SkipWhile(IsThere).Any(IsThere).ShouldBeTrue();
        worked.StepsFor(7).SkipWhile(IsThere).Any(IsThere).ShouldBeFalse();
    }

    [Fact]
    public void A_day_that_is_over_counts_promises_changes_and_the_minutes_between_the_parts_of_a_job()
    {
        LatheSetUp rotors = new(PartKind.Rotor, "cone 2"),
            others = new(PartKind.Rotor, "cone 3"),
            drums = new(PartKind.Drum, "cups 95");
        BlockDone Block(int lathe, int job, LatheSetUp setUp, int from, int to) =>
            new(lathe, job, setUp, Nine.AddMinutes(from), Nine.AddMinutes(to), (12, 3));
        var result = DayResult.Of(
            [new(Nine.AddHours(1), Nine.AddHours(1)), new(Nine.AddHours(2), Nine.AddHours(2).AddSeconds(1)), new(Nine, null)],
            [
                Block(1, 1, rotors, 0, 20),
                Block(1, 1, rotors, 30, 50), // waits for ten minutes
                Block(1, 2, drums, 60, 80), // the head
                Block(1, 3, rotors, 95, 110), // the head again
                Block(1, 3, others, 110, 130), // the cone
                Block(2, 2, drums, 70, 100), // beside the other one: nothing waits
            ]
        );
        result.ShouldBe(new DayResult(3, 1, 6, 3, 27, 10));
    }

    [Fact]
    public void A_late_job_hangs_on_the_steps_before_it_and_ends_sooner_when_one_of_them_does()
    {
        for (var seed = 0; seed < 40; seed++)
        {
            var day = RandomDays.Of(seed, 6);
            var board = DayPlanner.Plan(day);
            foreach (var job in day.Jobs.Where(j => board.ReadyAt.ContainsKey(j.Id)))
            {
                var chain = CriticalChain.Of(day, board, job.Id);
                chain[^1].Step.To.ShouldBe(board.ReadyAt[job.Id]);
                chain[0].For.ShouldBeOneOf(WaitsFor.Nothing, WaitsFor.Hours);
                // Without a gap: each begins when what it waits for is over, or when the operator's hands are free.
                foreach (var (before, after) in chain.Zip(chain.Skip(1)))
                {
                    var begin = after.Step.From.AddMinutes(-after.Step.ChangeOver);
                    DateTimeOffset[] ends = [before.Step.To, before.Step.FeedsFrom];
                    ends.ShouldContain(e => e == begin || e == after.Step.From || e == after.Step.FeedsFrom, $"{seed} {job.Id} {after}");
                }
            }
        }
    }
}
