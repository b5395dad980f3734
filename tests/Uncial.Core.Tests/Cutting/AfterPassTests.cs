using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;

namespace Uncial.Core.Tests;

/// <summary>What the metal shows after a pass, in figures worked out by hand (computation, section 6).</summary>
public class AfterPassTests
{
    private static PlanRequest Plan(params SideNeed[] sides) =>
        new()
        {
            Kind = sides.Length == 2 ? PartKind.Rotor : PartKind.Drum,
            Touch = Mm.Of(24.41m),
            TouchBound = Mm.Of(24.374m),
            Worst = Mm.Of(24.30m),
            MachineTo = Mm.Of(23.4m),
            Discard = Mm.Of(23m),
            Uncertainty = Mm.Of(0.006m),
            Sides = sides,
            Dial = new(Mm.Of(0.01m), false, Mm.Of(0.01m), true),
            Techniques = [Technique.BuiltIn[1]],
        };

    private static PlannedPass Cut(PassKind kind, params decimal[] depths) =>
        new(
            kind,
            [.. depths.Select(d => (long)(d * 100))],
            [.. depths.Select(Mm.Of)],
            [.. depths.Select(Mm.Of)],
            Mm.Of(24m),
            Mm.Of(24m),
            false,
            [.. depths.Select(_ => 0.5)]
        );

    private static AfterPass After(PlanRequest plan, decimal[] depths, params SideSeen[] seen) =>
        AfterPass.Read(plan, [Cut(PassKind.Rough, depths)], [Cut(PassKind.Finish, depths)], seen, null, ShopRules.Default);

    private static SideNeed Needs(decimal need, decimal? runout = null, bool assumed = false, decimal groove = 0, decimal relief = 0) =>
        new(Mm.Of(need), Mm.Of(groove), runout is { } r ? Mm.Of(r) : null, Mm.Of(relief), assumed);

    private static readonly SideSeen Bright = new(12, null);

    [Theory]
    [InlineData(null, 0.04, null, 0)] // nobody looked: what was planned stands
    [InlineData(0.0, 0.0, "needsLess", 0.04)]
    [InlineData(0.03, 0.03, "needsLess", 0.01)]
    [InlineData(0.05, 0.05, "needsMore", 0.01)]
    public void A_side_that_is_clean_all_round_needs_what_its_groove_leaves(double? groove, double left, string? note, double by)
    {
        var after = After(
            Plan(Needs(0.14m, 0.09m, groove: 0.05m), Needs(0.07m, 0.05m)),
            [0.10m, 0.10m],
            new(12, groove is { } g ? Mm.Of((decimal)g) : null),
            Bright
        );
        after.Request.Sides[0].Need.ShouldBe(Mm.Of((decimal)left));
        after.Request.Sides[0].Done.ShouldBe(Mm.Of(0.10m));
        after.Next.ShouldBe(
            groove is 0.0 ? NextStep.Finished
            : groove is null ? NextStep.GoOn
            : NextStep.PlanAnew
        );
        after.Notes.Select(n => (n.Code, n.Length, n.Subject)).ShouldBe(note is null ? [] : [(note, (Length?)Mm.Of((decimal)by), "outer")]);
    }

    [Theory]
    [InlineData(0.08, 0.09)] // 0.13 from first touch: the 0.14 that were planned are enough
    [InlineData(0.12, 0.12)] // 0.17
    public void A_groove_seen_on_cut_metal_goes_so_far_below_the_cut_though_the_side_is_dark(double groove, double left) =>
        After(Plan(Needs(0.14m, 0.09m), Needs(0.07m, 0.05m)), [0.05m, 0.05m], new(6, Mm.Of((decimal)groove)), new(6, null))
            .Request.Sides[0]
            .Need.ShouldBe(Mm.Of((decimal)left));

    [Theory]
    // Measured: a division more, or what the dial may be off by.
    [InlineData(0.04, false, 9, 0.01, 0.01, 0.04)]
    [InlineData(0.04, false, 9, 0.03, 0.03, 0.04)]
    // Assumed: 2 · 0.10 / (1 − cos(π · (9/12 − 1/24))) = 0.12432 and a relief of 0.02.
    [InlineData(0.05, true, 9, 0.01, 0.04432, 0.12432)]
    // 11 of 12: 0.10396 and 0.02.
    [InlineData(0.05, true, 11, 0.01, 0.02396, 0.10396)]
    // Too little is clean to tell: what the shop assumes is needed below the cut.
    [InlineData(0.05, true, 1, 0.01, 0.10, 0.05)]
    public void Dark_where_it_should_be_clean_needs_more(double runout, bool assumed, int clean, double allowance, double left, double then)
    {
        var plan = Plan(Needs(0.05m, (decimal)runout, assumed, relief: 0.02m), Needs(0.05m, 0.05m));
        plan = plan with { Dial = plan.Dial with { Allowance = Mm.Of((decimal)allowance) } };
        var after = After(plan, [0.10m, 0.10m], new(clean, null), Bright);
        ((double)after.Request.Sides[0].Need.Millimetres).ShouldBe(
            clean == 1 ? (double)ShopRules.Default.SetUp.AssumedRunout.Millimetres : left,
            0.00002
        );
        ((double)after.Request.Sides[0].Runout!.Value.Millimetres).ShouldBe(then, 0.00002);
        after.Notes.Count(n => n is Note.DarkBeyondNeed { Subject: "outer" }).ShouldBe(1);
        after.Notes.Count(n => n is Note.TooLittleTouched { Subject: "outer" }).ShouldBe(clean == 1 ? 1 : 0);
        after.Next.ShouldBe(NextStep.PlanAnew);
    }

    [Theory]
    // 2 · 0.10 / (1 − cos(π · (6/12 − 1/24))) = 0.23003, a groove of 0.02 and a relief of 0.01.
    [InlineData(6, 0.02, 0.01, 0.16003, 0.23003)]
    // 11 of 12 say 0.10396: never less than a division more.
    [InlineData(11, 0.0, 0.0, 0.01, 0.10396)]
    public void An_assumed_run_out_becomes_what_the_clean_share_says(int clean, double groove, double relief, double left, double runout)
    {
        var plan = Plan(Needs(0.30m, 0.30m, true, (decimal)groove, (decimal)relief), Needs(0.05m, 0.05m));
        var after = After(plan, [0.10m, 0.10m], new(clean, null), Bright);
        ((double)after.Request.Sides[0].Need.Millimetres).ShouldBe(left, 0.00002);
        ((double)after.Request.Sides[0].Runout!.Value.Millimetres).ShouldBe(runout, 0.00002);
        after.Steps.Select(s => s.Quantity).ShouldBe(["runoutSeen", "needSeen", "needLeft", "needLeft", "sizeNow", "boundNow"]);
    }

    [Theory]
    // 0.05 deep and half clean: 0.08845 to 0.11502. It warns from half as much again, with the end that lies nearer.
    [InlineData(0.058, 0.08845)]
    [InlineData(0.059, null)]
    [InlineData(0.172, null)]
    [InlineData(0.173, 0.11502)]
    public void A_measured_run_out_is_questioned_where_the_whole_estimate_is_off_by_half_as_much_again(double known, double? seen)
    {
        var after = After(Plan(Needs(0.20m, (decimal)known), Needs(0.20m, 0.10m)), [0.05m, 0.05m], new(6, null), new(6, null));
        var note = after.Notes.OfType<Note.CoverageDisagrees>().SingleOrDefault(n => n.Subject == "outer");
        (note is null).ShouldBe(seen is null);
        if (note is not null)
        {
            ((double)note.Length!.Value.Millimetres).ShouldBe(known, 1e-9);
            ((double)note.Second!.Value.Millimetres).ShouldBe(seen!.Value, 0.00002);
        }
        after.Request.Sides[0].Runout.ShouldBe(Mm.Of((decimal)known));
        after.Next.ShouldBe(NextStep.GoOn);
    }

    [Theory]
    // Half clean at 0.10 says 0.23003; the faces differ by 0.03 at most.
    [InlineData(0.08, false, 6, 0.10, 0.03, 0.11)] // the other measured
    [InlineData(0.08, true, 12, 0.10, 0.03, 0.13)] // the other assumed, and cut away at 0.10
    [InlineData(0.08, true, 6, 0.10, 0.03, 0.23003)] // the other tells nothing
    [InlineData(0.08, true, 12, 0.0, 0.03, 0.23003)] // bright as it came is not cut away
    [InlineData(0.08, false, 6, 0.10, 0.20, 0.23003)] // they may differ by more
    public void What_the_other_face_runs_out_bounds_an_estimate(
        double other,
        bool assumed,
        int clean,
        double cut,
        double differ,
        double runout
    )
    {
        var plan = Plan(Needs(0.30m, 0.30m, true), Needs(0.20m, (decimal)other, assumed)) with
        {
            RunoutsDifferAtMost = Mm.Of((decimal)differ),
            TwinCutter = false,
        };
        var after = After(plan, [0.10m, (decimal)cut], new(6, null), new(clean, null));
        ((double)after.Request.Sides[0].Runout!.Value.Millimetres).ShouldBe(runout, 0.00002);
        after.Steps.Any(s => s.Quantity == "runoutByThickness").ShouldBe(runout < 0.2);
        // Nothing is bounded where nobody knows what they differ by, or the run-out was measured.
        var (free, _) = (plan with { RunoutsDifferAtMost = null }, 0);
        ((double)After(free, [0.10m, (decimal)cut], new(6, null), new(clean, null)).Request.Sides[0].Runout!.Value.Millimetres).ShouldBe(
            0.23003,
            0.00002
        );
    }

    [Fact]
    public void Roughing_passes_are_counted_in_all_and_for_each_side()
    {
        var plan = Plan(Needs(0.9m, 0.05m), Needs(0.9m, 0.05m)) with { RoughsDone = 1, RoughsDoneBySide = [1, 0] };
        var after = AfterPass.Read(
            plan,
            [Cut(PassKind.Rough, 0.10m, 0.10m), Cut(PassKind.Rough, 0.10m, 0m), Cut(PassKind.Finish, 0.05m, 0.05m)],
            [],
            [Bright, Bright],
            null,
            ShopRules.Default
        );
        after.Request.RoughsDone.ShouldBe(3);
        after.Request.RoughsDoneBySide.ShouldBe([3, 1]);
        after.Request.Sides.Select(s => s.Done).ShouldBe([Mm.Of(0.25m), Mm.Of(0.15m)]);
    }

    [Fact]
    public void A_size_on_a_bright_spot_sets_first_touch_and_one_that_was_impossible_stops()
    {
        var plan = Plan(Needs(0.14m, 0.09m), Needs(0.07m, 0.05m));
        AfterPass Measured(decimal off, bool bright) =>
            AfterPass.Read(
                plan,
                [Cut(PassKind.Rough, 0.10m, 0.10m)],
                [],
                [Bright, Bright],
                new(plan.Touch - Mm.Of(0.20m) - Mm.Of(off), bright),
                ShopRules.Default
            );
        var good = Measured(0.01m, bright: true);
        good.Notes.OfType<Note.TouchFromSize>().Single().Length.ShouldBe(Mm.Of(24.20m));
        good.Next.ShouldNotBe(NextStep.Stop);
        Measured(0.01m, bright: false).Notes.ShouldNotContain(n => n is Note.TouchFromSize);
        // Off by half of what was cut: no factor of two, and worse than it can be.
        var wrong = Measured(0.10m, bright: true);
        wrong.Next.ShouldBe(NextStep.Stop);
        wrong.Notes.Select(n => n.Code).ShouldContain("dialOrZeroWrong");
        wrong.Notes.ShouldNotContain(n => n is Note.TouchFromSize);
        // In a drum the side is its bore.
        After(Plan(Needs(0.14m, 0.09m)), [0.10m], new SideSeen(12, Mm.Of(0.05m)))
            .Notes.OfType<Note.NeedsMore>()
            .Single()
            .Subject.ShouldBe("bore");
    }
}
