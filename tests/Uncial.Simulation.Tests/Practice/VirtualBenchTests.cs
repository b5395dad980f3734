using Uncial.Core.Parts;
using Uncial.Practice.Jobs;
using Uncial.Practice.Lessons;
using Uncial.Simulation.Held;
using Uncial.Simulation.Scales;

namespace Uncial.Simulation.Tests;

/// <summary>What is done at the virtual bench has the effect that it has at a lathe, and is seen as an eye would see it.</summary>
public class VirtualBenchTests
{
    private const int Seed = 4711;

    private static Lesson Lesson(string id) => ShippedLessons.All.Single(l => l.Id == id);

    private static readonly Deed[] MountedByTheBook =
    [
        new Deed.CleanPart(),
        new Deed.CleanAdapters(),
        new Deed.Mount(1, 2, NotchesMeet: true),
    ];

    /// <summary>Mounted, zeroed on all faces, set so many divisions deep and cut once.</summary>
    private static Deed[] CutByTheBook(Lesson lesson, int divisions)
    {
        var faces = lesson.Part.Kind == PartKind.Rotor ? 2 : 1;
        return
        [
            .. MountedByTheBook,
            new Deed.Band(true),
            new Deed.SetReach(70),
            new Deed.FreshEdges(),
            .. Enumerable.Range(0, faces).Select(f => new Deed.ZeroAtTouch(f)),
            .. Enumerable.Range(0, faces).Select(f => new Deed.SetDial(f, divisions, FromBehind: true)),
            new Deed.Pass(0.12, 85, 0, false, LeverIsRight: true),
        ];
    }

    private static double Read(VirtualBench bench, Lesson lesson, int gauge, double degrees)
    {
        var mm = bench.Part.StationsMm[bench.Part.ReadingStation];
        var design = lesson.Gauges[gauge].Design;
        Deed hold =
            bench.Part.Kind == PartKind.Rotor
                ? new Deed.HoldMicrometer(gauge, new(degrees, mm, 0, Closing.Ratchet))
                : new Deed.HoldBar(gauge, StartFor(bench.Part, design), new(degrees, mm, 0, 0));
        return design.InMillimetres(Eye.Read(((Seen.Gauge)bench.Do(hold)).Picture));
    }

    private static double StartFor(VirtualPart part, GaugeDesign design) =>
        design.From + Math.Floor((design.InUnit(part.Limits.Nominal) - design.From) / design.Step) * design.Step;

    [Fact]
    public void The_same_deeds_come_to_the_same_metal_and_one_more_changes_nothing_before_it()
    {
        var lesson = Lesson("clear-of-the-ridge");
        Deed[] deeds = [.. CutByTheBook(lesson, 12), new Deed.HoldMicrometer(0, new(0, 115, 0, Closing.Ratchet))];
        var (a, b) = (VirtualBench.After(lesson, Seed, deeds), VirtualBench.After(lesson, Seed, deeds));
        a.Part.WorstSize(grooves: true).ShouldBe(b.Part.WorstSize(grooves: true));
        a.Minutes.ShouldBe(b.Minutes);
        a.Passes.ShouldHaveSingleItem().Taken.ShouldBe(b.Passes.Single().Taken);
        VirtualBench.After(lesson, Seed + 1, deeds).Part.WorstSize(grooves: true).ShouldNotBe(a.Part.WorstSize(grooves: true));
        var longer = VirtualBench.After(lesson, Seed, [.. deeds, new Deed.Wait(5)]);
        longer.Part.WorstSize(grooves: true).ShouldBe(a.Part.WorstSize(grooves: true));
    }

    [Fact]
    public void Read_by_the_book_every_gauge_of_the_lessons_tells_the_size()
    {
        foreach (var lesson in ShippedLessons.All.Where(l => l.Mistake != LessonMistake.ShiftedDatum))
        {
            var bench = new VirtualBench(lesson, Seed);
            var size = bench.Part.SizeAt(0, bench.Part.ReadingStation);
            bool Reads(GaugeDesign d) =>
                d.Form is GaugeForm.Micrometer or GaugeForm.BarEighths or GaugeForm.BarStarts
                && d.InMillimetres(d.From) < size
                && d.InMillimetres(d.To) > size + 0.5;
            var gauge = Enumerable.Range(0, lesson.Gauges.Count).First(i => Reads(lesson.Gauges[i].Design));
            foreach (var spot in new[] { 0, 9, 18, 27 })
                // A division of the gauge, its own error, and what the anvil rests on.
                Read(bench, lesson, gauge, spot * 5).ShouldBe(bench.Part.SizeAt(spot, bench.Part.ReadingStation), 0.06, lesson.Id);
        }
    }

    [Fact]
    public void A_shifted_datum_shows_on_the_standard_and_is_set_right_there()
    {
        var lesson = Lesson("somebody-shifted-the-datum");
        var bench = new VirtualBench(lesson, Seed);
        var true0 = bench.Part.SizeAt(0, bench.Part.ReadingStation);
        (Read(bench, lesson, 0, 0) - true0).ShouldBeGreaterThan(0.1);
        Eye.Read(((Seen.Gauge)bench.Do(new Deed.ReadStandard(0))).Picture).ShouldBeGreaterThan(0.1);
        bench.Do(new Deed.SetDatum(0));
        Read(bench, lesson, 0, 0).ShouldBe(true0, 0.03);
    }

    [Fact]
    public void Cut_by_the_book_a_part_is_clean_and_loses_what_the_dials_say()
    {
        foreach (var id in new[] { "clear-of-the-ridge", "eighths-and-thousandths", "dirt-on-the-arbor" })
        {
            var lesson = Lesson(id);
            var bench = VirtualBench.After(lesson, Seed, CutByTheBook(lesson, 24));
            bench.IsRuined.ShouldBeFalse();
            bench.Part.Faces.ShouldAllBe(f => f.CleanSectors() == 12, id);
            bench.Passes.Single().Chatter.Heard.ShouldBe(HeardAs.Clean, id);
            bench.Passes.Single().Taken.ShouldAllBe(t => Math.Abs(t - 0.24) < 0.012, id);
            bench.Part.Inside(lesson.Part.DiscardMm, grooves: true).ShouldBeGreaterThan(0, id);
        }
    }

    [Fact]
    public void A_dial_that_counts_diameter_takes_half_of_what_it_says_in_depth()
    {
        var lesson = Lesson("the-dial-counts-diameter");
        var bench = VirtualBench.After(lesson, Seed, CutByTheBook(lesson, 10)); // ten divisions of 0.02
        bench.Passes.Single().Taken.Single().ShouldBe(0.10, 0.01);
    }

    [Fact]
    public void Dirt_on_the_arbor_swings_and_is_cut_into_the_part()
    {
        var lesson = Lesson("dirt-on-the-arbor");
        VirtualBench.After(lesson, Seed, MountedByTheBook).Wobble.ShouldBeLessThan(0.02);
        Deed[] dirty = [new Deed.Mount(1, 2, NotchesMeet: true)];
        VirtualBench.After(lesson, Seed, dirty).Wobble.ShouldBeGreaterThan(0.04);
        // The wrong cone or cups do the same to a clean part.
        VirtualBench.After(lesson, Seed, [.. MountedByTheBook[..2], new Deed.Mount(0, 2, true)]).Wobble.ShouldBeGreaterThan(0.05);
        VirtualBench.After(lesson, Seed, [.. MountedByTheBook[..2], new Deed.Mount(1, 3, true)]).Wobble.ShouldBeGreaterThan(0.03);
    }

    [Fact]
    public void Turned_half_round_a_scratch_of_the_set_up_goes_to_the_other_side_and_one_of_the_part_stays()
    {
        var lesson = Lesson("dirt-on-the-arbor");
        var bench = VirtualBench.After(lesson, Seed, [new Deed.Mount(1, 2, NotchesMeet: true)]);
        var first = (Seen.Arc)bench.Do(new Deed.Scratch(0, 0.02));
        bench.Do(new Deed.TurnOnArbor(180));
        var second = (Seen.Arc)bench.Do(new Deed.Scratch(0, 0.02));
        Apart(first, second).ShouldBeGreaterThan(110);
        // Clean, but warped by itself: the arcs lie side by side.
        var warped = lesson with { Wear = lesson.Wear with { Runout = new(0.15, 0.15), Variation = new(0, 0) } };
        bench = VirtualBench.After(warped, Seed, MountedByTheBook);
        first = (Seen.Arc)bench.Do(new Deed.Scratch(0, 0.02));
        bench.Do(new Deed.TurnOnArbor(180));
        second = (Seen.Arc)bench.Do(new Deed.Scratch(0, 0.02));
        Apart(first, second).ShouldBeLessThan(30);

        static double Apart(Seen.Arc a, Seen.Arc b) => Math.Abs((a.MiddleDegrees - b.MiddleDegrees + 540) % 360 - 180);
    }

    [Fact]
    public void What_ruins_a_part_ruins_it_and_what_is_loose_takes_less()
    {
        var lesson = Lesson("clear-of-the-ridge");
        var deeds = CutByTheBook(lesson, 24);
        VirtualBench With(Deed.Pass pass) => VirtualBench.After(lesson, Seed, [.. deeds[..^1], pass]);
        var right = (Deed.Pass)deeds[^1];
        With(right with { LeverIsRight = false }).IsRuined.ShouldBeTrue();
        With(right with { LeverIsRight = false }).Part.Inside(lesson.Part.DiscardMm).ShouldBeLessThan(0);
        With(right with { IsFeedLocked = true }).IsRuined.ShouldBeTrue();
        With(right with { Loose = 1 }).Passes.Single().Taken[0].ShouldBeLessThan(0.2);
        // Stopped in the middle it leaves a step: dark land beside bright.
        With(right with { StoppedAt = 0.5 }).Part.Faces.ShouldAllBe(f => !f.IsClean());
        // Set from the wrong side, it stands deeper than the dial says.
        Deed[] tooFar =
        [
            .. deeds[..^3],
            new Deed.SetDial(0, 28, true),
            new Deed.SetDial(0, 24, false),
            new Deed.SetDial(1, 24, true),
            right,
        ];
        VirtualBench.After(lesson, Seed, tooFar).Passes.Single().Taken[0].ShouldBeGreaterThan(0.255);
    }

    [Fact]
    public void A_pass_without_a_band_with_the_tool_far_out_sings_and_the_remedies_end_it()
    {
        var lesson = Lesson("it-sings");
        Deed[] careless =
        [
            .. MountedByTheBook,
            new Deed.ZeroAtTouch(0),
            new Deed.ZeroAtTouch(1),
            new Deed.SetDial(0, 15, true),
            new Deed.SetDial(1, 15, true),
            new Deed.Pass(0.12, 85, 0, false, LeverIsRight: true),
        ];
        var sings = VirtualBench.After(lesson, Seed, careless);
        sings.Passes.Single().Chatter.Heard.ShouldNotBe(HeardAs.Clean);
        VirtualBench.After(lesson, Seed, CutByTheBook(lesson, 15)).Passes.Single().Chatter.Heard.ShouldBe(HeardAs.Clean);
    }

    [Fact]
    public void A_part_from_the_cut_is_warm_and_a_drum_reads_large_until_it_has_cooled()
    {
        var lesson = Lesson("the-dial-counts-diameter");
        var bench = VirtualBench.After(lesson, Seed, CutByTheBook(lesson, 40));
        bench.Warmth.Kelvin.ShouldBeGreaterThan(10);
        var warm = Read(bench, lesson, 0, 0);
        bench.Do(new Deed.Wait(60));
        (warm - Read(bench, lesson, 0, 0)).ShouldBeGreaterThan(0.015);
    }

    [Fact]
    public void A_crack_is_seen_when_the_light_comes_across_it_and_else_not()
    {
        var lesson = Lesson("turn-it-to-the-light");
        var bench = new VirtualBench(lesson, Seed);
        var seen = Enumerable.Range(0, 12).Select(i => ((Seen.Face)bench.Do(new Deed.LookAt(0, i * 15))).Picture.Crack.Count > 0).ToList();
        seen.Count(s => s).ShouldBeInRange(2, 6);
        new VirtualBench(Lesson("leave-it-alone"), Seed)
            .Do(new Deed.LookAt(0, 0))
            .ShouldBeOfType<Seen.Face>()
            .Picture.Crack.ShouldBeEmpty();
    }

    [Fact]
    public void A_face_is_shown_in_ten_shades_and_cut_it_is_brighter()
    {
        var lesson = Lesson("clear-of-the-ridge");
        var before = ((Seen.Face)new VirtualBench(lesson, Seed).Do(new Deed.LookAt(0, 40))).Picture;
        before.Shades.Count.ShouldBe(before.Stations * before.Spots);
        before.Shades.ShouldAllBe(s => s >= 0 && s <= 9);
        before.IsBright.ShouldAllBe(b => !b);
        before.FeedMarks.ShouldBe(0);
        var after = ((Seen.Face)VirtualBench.After(lesson, Seed, CutByTheBook(lesson, 24)).Do(new Deed.LookAt(0, 40))).Picture;
        after.IsBright.Count(b => b).ShouldBeGreaterThan(after.IsBright.Count * 8 / 10);
        after.Shades.Average().ShouldBeGreaterThan(before.Shades.Average() + 1);
        after.FeedMarks.ShouldBe(0.12);
    }

    [Fact]
    public void What_cannot_be_done_now_changes_nothing()
    {
        var lesson = Lesson("clear-of-the-ridge");
        var bench = new VirtualBench(lesson, Seed);
        var size = bench.Part.WorstSize(grooves: true);
        foreach (
            var deed in new Deed[]
            {
                new Deed.Pass(0.12, 85, 0, false, true),
                new Deed.ZeroAtTouch(0),
                new Deed.Scratch(0, 0.02),
                new Deed.HoldIndicator(1, new(0, 115)),
                new Deed.SetDial(0, 10, true),
            }
        )
            bench.Do(deed).ShouldBeOfType<Seen.NotNow>();
        bench.Do(MountedByTheBook[2]);
        bench.Do(new Deed.Pass(0.12, 85, 0, false, true)).ShouldBeOfType<Seen.NotNow>();
        bench.Part.WorstSize(grooves: true).ShouldBe(size);
        bench.Passes.ShouldBeEmpty();
    }
}
