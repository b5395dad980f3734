using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;

namespace Uncial.Core.Tests;

/// <summary>What a face that is clean no longer takes from the bound, and how far a few bright sectors are believed.</summary>
public class BesideDarkTests
{
    private static readonly Technique Light = Technique.BuiltIn[1];

    private static PlanRequest Request(SideNeed outer, SideNeed inner, decimal machineTo = 22m) =>
        new()
        {
            Kind = PartKind.Rotor,
            Touch = Mm.Of(24.10m),
            TouchBound = Mm.Of(24.08m),
            Worst = Mm.Of(24.05m),
            UnreadRelief = Mm.Of(0.07m),
            MachineTo = Mm.Of(machineTo),
            Discard = Mm.Of(21.5m),
            Uncertainty = Mm.Of(0.01m),
            Sides = [outer, inner],
            Dial = new(Mm.Of(0.01m), false, Mm.Of(0.01m), true),
            TwinCutter = false,
            Techniques = [Light],
            DefaultTechnique = Light.Key,
        };

    private static SideNeed Side(decimal need, decimal done = 0, decimal unread = 0, decimal? runout = null, bool assumed = false) =>
        new(Mm.Of(need), default, runout is { } r ? Mm.Of(r) : null, default, assumed, Mm.Of(done), Mm.Of(unread));

    private static Length BoundOf(PlanRequest request) => PassPlanner.Plan(request).Options[0].Passes[^1].BoundAfter;

    [Fact]
    public void Low_lands_and_cuts_of_a_clean_face_are_out_of_the_bound()
    {
        // Dark on both: 24.05 − 0.07 − 0.01 − 0.06 − 0.01.
        BoundOf(Request(Side(0, 0, 0.05m), Side(0.06m, 0, 0.02m))).ShouldBe(Mm.Of(23.90m));
        // The outer face is clean: only the inner one's low lands count, and its own cut takes nothing from where it is dark.
        BoundOf(Request(Side(0, 0.10m, 0.05m), Side(0.06m, 0, 0.02m)))
            .ShouldBe(Length.Min(Mm.Of(24.08m - 0.06m - 0.02m), Mm.Of(24.05m - 0.02m - 0.01m - 0.01m)));
        // A side of which only the sum is known keeps it.
        BoundOf(Request(Side(0, 0.10m) with { UnreadRelief = null }, Side(0.06m, 0, 0.02m)))
            .ShouldBe(Mm.Of(24.05m - 0.07m - 0.01m - 0.01m));
    }

    [Fact]
    public void Two_bright_sectors_are_believed_as_far_as_the_thickness_allows()
    {
        PlanRequest Assumed(Length? differ) =>
            Request(Side(0.05m, runout: 0.04m), Side(0.10m, runout: 0.10m, assumed: true)) with
            {
                TwinCutter = true,
                RunoutsDifferAtMost = differ,
            };
        Length Need(PlanRequest request)
        {
            var passes = PassPlanner.Plan(request).Options[0].Passes;
            return AfterPass
                .Read(request, [passes[0]], [.. passes.Skip(1)], [new(12, Length.Zero), new(2, null)], null, ShopRules.Default)
                .Request.Sides[1]
                .Need;
        }
        Need(Assumed(null)).ShouldBeGreaterThan(Mm.Of(1));
        var done = PassPlanner.Plan(Assumed(null)).Options[0].Passes[0].Depth[1];
        // The other face runs out 0.04, and they differ by 0.09 at most.
        Need(Assumed(Mm.Of(0.09m))).ShouldBe(Mm.Of(0.13m) - done);
    }

    [Fact]
    public void Dark_at_a_need_that_was_measured_asks_for_one_setting_more_and_no_new_run_out()
    {
        var request = Request(Side(0.05m, runout: 0.05m), Side(0));
        var pass = PassPlanner.Plan(request).Options[0].Passes;
        var after = AfterPass.Read(request, [pass[0]], [], [new(5, null), new(0, null)], null, ShopRules.Default);
        after.Notes.ShouldContain(n => n is Note.DarkBeyondNeed);
        (after.Request.Sides[0].Need, after.Request.Sides[0].Runout).ShouldBe((Mm.Of(0.01m), Mm.Of(0.05m)));
    }

    [Fact]
    public void A_plan_that_its_measurement_would_block_says_so_and_by_how_much()
    {
        PlanOption Of(decimal machineTo) =>
            PassPlanner.Plan(Request(Side(0.12m), Side(0), machineTo) with { UnreadRelief = default, Worst = null }).Options[0];
        bool Says(PlanOption option) => option.Notes.Any(n => n is Note.ShortAtCheckpoint);
        // Expected to end at 23.98: measured at 24.04, the last pass of 0.06 may reach 24.04 − 0.01 − 0.06 − 0.02 = 23.95.
        Says(Of(23.95m)).ShouldBeFalse();
        var tight = Of(23.97m);
        (tight.CanStart, Says(tight)).ShouldBe((true, true));
        tight.Notes.Single(n => n is Note.ShortAtCheckpoint).Length.ShouldBe(Mm.Of(0.02m));
    }
}
