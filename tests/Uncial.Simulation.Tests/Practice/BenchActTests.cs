using Uncial.Practice.Jobs;
using Uncial.Practice.Lessons;
using Uncial.Simulation.Held;

namespace Uncial.Simulation.Tests;

/// <summary>Touches of the virtual bench.</summary>
public class BenchActTests
{
    private static Lesson Ridge => ShippedLessons.All.First(l => l.Id == "clear-of-the-ridge");

    private static readonly string[] Words =
    [
        "tool:Part",
        "tool:Lathe",
        "gauge:0",
        "gauge:1",
        "gauge:2",
        "rock:1",
        "rock:-1",
        "rockTo:5",
        "lean:1",
        "in:2",
        "in:-2",
        "round:45",
        "close:Ratchet",
        "close:Forced",
        "start:1",
        "start:-1",
        "standard",
        "datum",
        "face:0",
        "face:1",
        "light:15",
        "clean:part",
        "clean:adapters",
        "cone:1",
        "cups:2",
        "notches",
        "mount",
        "dismount",
        "turn:180",
        "turn:-90",
        "scratch",
        "zero:0",
        "zero:1",
        "dial:0:6",
        "behind:0:6",
        "dial:1:300",
        "behind:1:4",
        "lock:0",
        "lock:3",
        "lever",
        "feed:0.06",
        "speed:110",
        "band:on",
        "band:off",
        "reach:70",
        "edges",
        "run",
        "stop:50",
        "wait:15",
    ];

    [Theory]
    [InlineData("")]
    [InlineData("rock")]
    [InlineData("rock:x")]
    [InlineData("rock:99999")]
    [InlineData("tool:Hammer")]
    [InlineData("tool:7")]
    [InlineData("gauge:-1")]
    [InlineData("gauge:9")]
    [InlineData("close:9")]
    [InlineData("dial:0")]
    [InlineData("dial:2:5")]
    [InlineData("dial:0:1:2")]
    [InlineData("feed:0")]
    [InlineData("feed:NaN")]
    [InlineData("feed:∞")]
    [InlineData("speed:9000")]
    [InlineData("reach:0")]
    [InlineData("wait:-5")]
    [InlineData("wait:1e9")]
    [InlineData("stop:200")]
    [InlineData("turn:720")]
    [InlineData("cone:3")]
    [InlineData("lock:4")]
    [InlineData("zero:2")]
    [InlineData("seed:1")]
    public void What_is_no_touch_changes_nothing(string act) => BenchAct.Of(Ridge, BenchHand.Of(Ridge), act).ShouldBeNull();

    [Fact]
    public void Whatever_is_touched_in_whatever_order_no_lesson_breaks()
    {
        Random chance = new(18);
        foreach (var lesson in ShippedLessons.All)
            for (var seed = 1; seed <= 20; seed++)
            {
                VirtualBench bench = new(lesson, seed);
                var hand = BenchHand.Of(lesson);
                List<JobStep> steps = [];
                for (var i = 0; i < 60; i++)
                {
                    var act = Words[chance.Next(Words.Length)];
                    if (BenchAct.Of(lesson, hand, act) is not var (after, deed))
                        continue;
                    // Kept and read again, it is the same.
                    JobJson.Write(JobJson.ReadHand(JobJson.Write(after))).ShouldBe(JobJson.Write(after));
                    hand = after;
                    if (hand.Holds(lesson) is { } held)
                    {
                        bench.Peek(held);
                        if (chance.Next(4) == 0)
                            steps.AddRange([new JobStep.Did(held), new JobStep.Reading(lesson.Part.NominalMm - 1)]);
                    }
                    if (deed is null)
                        continue;
                    bench.Do(deed);
                    steps.Add(new JobStep.Did(deed));
                }
                steps.Add(new JobStep.Verdict((Decision)(seed % 4)));
                Should.NotThrow(() => Uncial.Practice.Debriefs.Debrief.Of(lesson, seed, steps));
            }
    }

    [Fact]
    public void A_look_shows_what_holding_it_so_next_would_show_and_does_nothing()
    {
        foreach (var lesson in ShippedLessons.All)
        {
            VirtualBench bench = new(lesson, 7);
            bench.Do(new Deed.CleanPart());
            var hand = BenchHand.Of(lesson) with
            {
                Rocked = 0,
                Leaned = 0,
                Closing = Closing.Ratchet,
                Start = lesson.Gauges[0].Design.From,
            };
            var held = hand.Holds(lesson).ShouldNotBeNull();
            var first = bench.Peek(held);
            bench.Peek(hand.At(90).Holds(lesson)!);
            (bench.Minutes, bench.Passes.Count).ShouldBe((0.5, 0));
            Same(bench.Peek(held), first);
            Same(bench.Do(held), first);
            Should.Throw<ArgumentException>(() => bench.Peek(new Deed.CleanPart()));
        }

        static void Same(Seen one, Seen other)
        {
            if (one is Seen.Gauge a && other is Seen.Gauge b)
                Uncial.Simulation.Scales.Eye.Read(a.Picture).ShouldBe(Uncial.Simulation.Scales.Eye.Read(b.Picture));
            else
                one.ShouldBe(other);
        }
    }

    [Fact]
    public void Nothing_is_in_its_place_from_the_start()
    {
        foreach (var lesson in ShippedLessons.All)
        {
            var hand = BenchHand.Of(lesson);
            var pass = hand.Runs(lesson, null);
            (pass.LeverIsRight || pass.Loose == 0 && !pass.IsFeedLocked).ShouldBeFalse(lesson.Id);
            for (var degrees = 0; degrees < 360; degrees += 15)
            {
                var at = hand.At(degrees);
                (at.Rocked == 0 || at.Leaned == 0).ShouldBeFalse(lesson.Id);
                at.Closing.ShouldBe(Closing.NotClosed);
            }
        }
    }
}
