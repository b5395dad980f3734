using CsCheck;
using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;

namespace Uncial.Core.Tests;

/// <summary>One tool for two faces: in one chucking, turned round on an engine lathe, flipped on a grinder.</summary>
public class ChuckingTests
{
    private static readonly PlanRequest Single = new()
    {
        Kind = PartKind.Rotor,
        Touch = Mm.Of(24.41m),
        TouchBound = Mm.Of(24.374m),
        Worst = Mm.Of(24.30m),
        MachineTo = Mm.Of(23.4m),
        Discard = Mm.Of(23.0m),
        Uncertainty = Mm.Of(0.006m),
        Sides = [new(Mm.Of(0.30m)), new(Mm.Of(0.16m))],
        Dial = new(Mm.Of(0.01m), false, Mm.Of(0.01m), true),
        TwinCutter = false,
    };

    private static readonly PlanRequest Turned = Single with { SecondChuckingRunout = Mm.Of(0.05m) };

    private static IReadOnlyList<PlannedPass> Passes(PlanRequest request, string key = "working") =>
        PassPlanner.Plan(request).Options.Single(o => o.Key == key).Passes;

    [Fact]
    public void Each_face_gets_its_own_passes_the_outer_first()
    {
        Passes(Single)
            .Select(p => (p.Kind, p.Divisions[0], p.Divisions[1]))
            .ShouldBe([(PassKind.Rough, 20L, 0L), (PassKind.Finish, 10L, 0L), (PassKind.Rough, 0L, 15L), (PassKind.Finish, 0L, 10L)]);
        Passes(Single).ShouldAllBe(p => !p.TurnFirst);
    }

    [Fact]
    public void Turned_round_the_second_face_is_measured_first_and_its_bound_is_worse_by_the_chucking()
    {
        var (one, two) = (Passes(Single), Passes(Turned));
        two.Select(p => p.TurnFirst).ShouldBe([false, false, true, false]);
        two[2].MeasureFirst.ShouldBeTrue();
        two[1].BoundAfter.ShouldBe(one[1].BoundAfter);
        two[3].BoundAfter.ShouldBe(one[3].BoundAfter - Mm.Of(0.05m));
    }

    [Fact]
    public void Once_turned_round_the_part_is_not_turned_again()
    {
        var passes = Passes(Turned);
        var after = AfterPass.Read(
            Turned,
            [.. passes.Take(3)],
            [.. passes.Skip(3)],
            [new(12, Length.Zero), new(6, null)],
            new SizeSeen(Mm.Of(23.95m), true),
            ShopRules.Default
        );
        after.Next.ShouldBe(NextStep.PlanAnew);
        after.Request.IsTurnedRound.ShouldBeTrue();
        after.Request.Sides[0].Need.ShouldBe(Length.Zero);
        Passes(after.Request).ShouldAllBe(p => !p.TurnFirst && p.Divisions[0] == 0 && p.Divisions[1] > 0);
    }

    [Fact]
    public void Roughing_that_one_face_has_had_does_not_count_for_the_other()
    {
        var request = Turned with { Techniques = [Technique.BuiltIn[3]] }; // exactly two roughing passes, for each face
        var passes = Passes(request, "two-fast-one-slow");
        var after = AfterPass.Read(
            request,
            [.. passes.Take(3)],
            [.. passes.Skip(3)],
            [new(12, Length.Zero), new(12, null)],
            new SizeSeen(Mm.Of(24.10m), false),
            ShopRules.Default
        );
        Passes(after.Request, "two-fast-one-slow").Count(p => p.Kind == PassKind.Rough).ShouldBe(2);
    }

    [Fact]
    public void A_face_whose_turn_has_not_come_is_not_judged_by_its_rust()
    {
        var passes = Passes(Single);
        var after = AfterPass.Read(Single, [passes[0]], [.. passes.Skip(1)], [new(9, null), new(0, null)], null, ShopRules.Default);
        after.Next.ShouldBe(NextStep.GoOn);
        after.Notes.ShouldBeEmpty();
    }

    [Fact]
    public void A_grinder_flips_and_sparks_out_on_each_side()
    {
        var passes = Passes(Turned with { Dial = Turned.Dial with { Division = Mm.Of(0.005m) } }, "grind");
        passes.Count(p => p.Kind == PassKind.SparkOut).ShouldBe(2);
        passes.Single(p => p.TurnFirst).Divisions[0].ShouldBe(0);
        passes.Sum(p => p.Divisions[0]).ShouldBe(60);
        passes.Where(p => p.Kind == PassKind.Rough).ShouldAllBe(p => p.Depth.Max(d => d.Millimetres) <= 0.025m);
    }

    [Fact]
    public void Any_single_tool_plan_keeps_budget_bounds_and_needs() =>
        Gen.Select(Gen.Int[0, 60], Gen.Int[0, 60], Gen.Int[0, 130], Gen.Int[1, 10], Gen.Bool, Gen.Bool)
            .Sample(
                (outer, inner, stock, division, turns, confirmed) =>
                {
                    var request = Single with
                    {
                        MachineTo = Mm.Of(24.41m - stock / 100m),
                        Discard = Mm.Of(24.2m - stock / 100m),
                        SecondChuckingRunout = turns ? Mm.Of(0.05m) : null,
                        Sides = [new(Mm.Of(outer / 100m), Mm.Of(outer / 300m)), new(Mm.Of(inner / 100m))],
                        Dial = new(Mm.Of(division / 200m), false, Mm.Of(0.01m), confirmed),
                    };
                    foreach (var option in PassPlanner.Plan(request).Options.Where(o => o.CanStart && o.Passes.Count > 0))
                    {
                        for (var side = 0; side < 2; side++)
                        {
                            option
                                .Passes.Aggregate(Length.Zero, (sum, p) => sum + p.Depth[side])
                                .ShouldBeGreaterThanOrEqualTo(request.Sides[side].Need);
                            if (request.Sides[side].Need == Length.Zero)
                                option.Passes.ShouldAllBe(p => p.Divisions[side] == 0);
                        }
                        option.Passes[0].BoundAfter.ShouldBeGreaterThanOrEqualTo(request.MachineTo);
                        option.Given(request).ShouldAllBe(p => p.BoundAfter >= request.Discard!.Value);
                        option
                            .Passes.Skip(1)
                            .Where(p => p.Kind != PassKind.SparkOut && p.BoundAfter < request.MachineTo)
                            .ShouldAllBe(p => p.MeasureFirst);
                        option.Passes.Count(p => p.TurnFirst).ShouldBe(turns && outer + inner > 0 && inner > 0 ? 1 : 0);
                    }
                }
            );
}
