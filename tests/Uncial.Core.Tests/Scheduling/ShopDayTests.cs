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
            Lathes = [new(1, Twin, null, null, [])],
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
        TimeWindow forGood = new(Nine.AddMinutes(-5), DateTimeOffset.MaxValue);
        ShopDay.Of(With(Floor(Read()), l => l with { Outages = [forGood] })).Blocked.ShouldBe([new BlockedWork.LathesOut(1)]);
        // One that comes back is waited for.
        var back = ShopDay.Of(With(Floor(Read()), l => l with { Outages = [new(Nine.AddMinutes(-5), Nine.AddHours(2))] }));
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
        // The sizes of one that is on do not matter any more, nor that the lathe broke under it.
        TimeWindow forGood = new(Nine.AddMinutes(-5), DateTimeOffset.MaxValue);
        ShopDay.Of(With(floor, l => l with { NewestMount = mount, Outages = [forGood] })).Blocked.ShouldBeEmpty();

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
