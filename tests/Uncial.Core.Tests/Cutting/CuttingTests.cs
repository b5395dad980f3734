using CsCheck;
using NetArchTest.Rules;
using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;

namespace Uncial.Core.Tests;

public class CuttingTests
{
    private static readonly PlanRequest Request = new()
    {
        Kind = PartKind.Rotor,
        Touch = Mm.Of(24.41m),
        TouchBound = Mm.Of(24.374m),
        Worst = Mm.Of(24.30m),
        MachineTo = Mm.Of(23.4m),
        Discard = Mm.Of(23m),
        Uncertainty = Mm.Of(0.006m),
        Sides = [new(Mm.Of(0.14m), Mm.Of(0.05m), Mm.Of(0.09m)), new(Mm.Of(0.07m), Mm.Of(0.02m), Mm.Of(0.05m))],
        Dial = new(Mm.Of(0.01m), false, Mm.Of(0.01m), true),
        Techniques = [Technique.BuiltIn[1]],
    };

    private static AfterPass After(
        PlanRequest request,
        int done,
        int cleanOuter,
        int cleanInner,
        SizeSeen? size = null,
        decimal? groove = null
    )
    {
        var passes = PassPlanner.Plan(request).Options[0].Passes;
        var left = groove is { } g ? Mm.Of(g) : (Length?)null;
        return AfterPass.Read(
            request,
            [.. passes.Take(done)],
            [.. passes.Skip(done)],
            [new(cleanOuter, left), new(cleanInner, left)],
            size,
            ShopRules.Default
        );
    }

    /// <summary>A pass whose bound lies past machine-to is never given on what is only assumed.</summary>
    [Fact]
    public void The_size_is_measured_where_the_next_pass_or_a_new_plan_could_reach_past_machine_to()
    {
        var pass = new PlannedPass(PassKind.Finish, [5, 5], [], [], Mm.Of(23.6m), Mm.Of(23.3m), false, []);
        PlanOption Plan(PlanStart start, params PlannedPass[] passes) => new("working", null, start, Mm.Of(0.1m), Length.Zero, passes, []);
        AfterPass Next(NextStep next) => new(next, Request, []);
        Next(NextStep.GoOn).MustMeasure(pass with { MeasureFirst = true }, null).ShouldBeTrue();
        Next(NextStep.GoOn).MustMeasure(pass, null).ShouldBeFalse();
        Next(NextStep.GoOn).MustMeasure(null, null).ShouldBeFalse();
        Next(NextStep.PlanAnew).MustMeasure(null, Plan(PlanStart.Free, pass)).ShouldBeFalse();
        Next(NextStep.PlanAnew).MustMeasure(null, Plan(PlanStart.Shortened, pass)).ShouldBeTrue();
        Next(NextStep.PlanAnew).MustMeasure(null, Plan(PlanStart.Blocked, pass)).ShouldBeTrue();
        Next(NextStep.PlanAnew).MustMeasure(null, Plan(PlanStart.Free)).ShouldBeTrue();
    }

    [Fact]
    public void Cutting_data_of_the_worked_example()
    {
        CuttingData.SurfaceSpeed(Mm.Of(280), 100).ShouldBe(87.96, 0.01);
        CuttingData.Minutes(Mm.Of(48), Mm.Of(0.15m), 100, 0).ShouldBe(3.2m);
        CuttingData.RoughnessMean(Mm.Of(0.15m), Mm.Of(0.8m)).ShouldBe(0.88, 0.005);
        CuttingData.RoughnessTotal(Mm.Of(0.15m), Mm.Of(0.8m)).ShouldBe(3.5, 0.05);
        CuttingData.Speed([60, 100, 150], Mm.Of(280), 90).ShouldBe(100);
        CuttingData.Speed([200], Mm.Of(280), 25).ShouldBeNull();
        CuttingData.LengthOfCut(Mm.Of(230), Mm.Of(48), Mm.Of(0.15m)).ShouldBe(231.2, 0.1);
        CuttingData.IronGrams(Mm.Of(230), Mm.Of(48), Mm.Of(0.24m)).ShouldBe(59.9, 0.1);
    }

    [Fact]
    public void Coverage_forwards_and_backwards()
    {
        Coverage.CleanShare(Mm.Of(0.03m), Mm.Of(0.06m)).ShouldBe(0.5, 1e-12);
        Coverage.CleanShare(Mm.Of(0.06m), Mm.Of(0.06m)).ShouldBe(1);
        Coverage.RunoutRange(Mm.Of(0.02m), 1).ShouldBeNull();
        Coverage.RunoutRange(Mm.Of(0.02m), 12).ShouldBeNull();
        Coverage.GrooveLeft(Mm.Of(0.05m), Mm.Of(0.14m), Mm.Of(0.11m)).ShouldBe(Mm.Of(0.03m));
        Gen.Int[20, 200]
            .Select(Gen.Int[1, 99])
            .Sample(
                (runout, percent) =>
                {
                    var (r, d) = (Mm.Of(runout / 1000m), Mm.Of(runout * percent / 100_000m));
                    var share = Coverage.CleanShare(d, r);
                    // Sectors that are bright all over are never more than the share; the estimate is to the careful side.
                    if (Coverage.RunoutRange(d, (int)Math.Floor(share * 12)) is { } estimate)
                        estimate.Greatest.ShouldBeGreaterThanOrEqualTo(r);
                    // Tapped to the nearest sector, the run-out lies in the range.
                    if (Coverage.RunoutRange(d, (int)Math.Round(share * 12)) is { } range)
                        r.ShouldBeInRange(range.Least, range.Greatest);
                }
            );
    }

    [Fact]
    public void As_planned_the_plan_goes_on_and_ends_finished()
    {
        After(Request, 1, 8, 9).Next.ShouldBe(NextStep.GoOn);
        var end = After(Request, 2, 12, 12);
        end.Next.ShouldBe(NextStep.Finished);
        end.Request.Touch.ShouldBe(Mm.Of(24.20m));
        end.Request.TouchBound.ShouldBe(Mm.Of(24.164m));
    }

    [Fact]
    public void Dark_where_it_should_be_clean_or_a_groove_left_plans_more()
    {
        var dark = After(Request, 2, 9, 12);
        dark.Next.ShouldBe(NextStep.PlanAnew);
        dark.Notes.ShouldContain(n => n is Note.DarkBeyondNeed && n.Subject == "outer");
        dark.Notes.ShouldContain(n => n is Note.GrooveAgain && n.Subject == "outer");
        After(Request, 2, 9, 12, groove: 0.05m).Notes.ShouldNotContain(n => n is Note.GrooveAgain); // seen, so it is known
        dark.Request.Sides[0].Need.ShouldBeGreaterThan(Length.Zero);
        dark.Request.Sides[1].Need.ShouldBe(Length.Zero);
        After(Request, 2, 12, 12, groove: 0.03m).Request.Sides[0].Need.ShouldBe(Mm.Of(0.03m));
        After(Request, 1, 12, 12, groove: 0m).Next.ShouldBe(NextStep.Finished); // clean early: what was planned is not imposed
    }

    [Fact]
    public void An_assumed_runout_is_corrected_by_what_is_seen_a_measured_one_only_doubted()
    {
        var assumed = Request with { Sides = [Request.Sides[0] with { RunoutAssumed = true }, Request.Sides[1]] };
        After(assumed, 1, 4, 8).Next.ShouldBe(NextStep.PlanAnew);
        var doubted = After(Request, 1, 4, 8);
        doubted.Next.ShouldBe(NextStep.GoOn);
        doubted.Notes.ShouldContain(n => n is Note.CoverageDisagrees);
    }

    [Fact]
    public void A_plan_that_goes_on_counts_what_is_clean_from_the_true_first_touch()
    {
        // Run-out 0.10 by assumption; 0.05 leaves half of the turn dark, so it is right, and the plan goes on from there.
        var assumed = Request with
        {
            Sides = [new(Mm.Of(0.10m), default, Mm.Of(0.10m), default, RunoutAssumed: true), new(Length.Zero)],
            TwinCutter = false,
        };
        PlannedPass Cut(decimal depth) =>
            new(
                PassKind.Rough,
                [(long)(depth * 100), 0],
                [Mm.Of(depth), default],
                [Mm.Of(depth), default],
                Mm.Of(24m),
                Mm.Of(24m),
                false,
                [0.5, 1]
            );
        var after = AfterPass.Read(assumed, [Cut(0.05m)], [], [new(6, null), new(12, null)], null, ShopRules.Default);
        var side = after.Request.Sides[0];
        side.Done.ShouldBe(Mm.Of(0.05m));
        side.Runout!.Value.Millimetres.ShouldBe(0.115m, 0.001m); // 2 · 0.05 / (1 − cos(π · 11/24))
        side.Need.ShouldBe(side.Runout.Value - side.Done);
        // Two hundredths more: 0.07 from first touch clean 0.57 of the turn, not the third that 0.02 of 0.065 would.
        var next = PassPlanner
            .Plan(after.Request with { Techniques = [new("slow", Mm.Of(0.02m), Mm.Of(0.02m), Mm.Of(0.02m), Mm.Of(0.03m), 2, 6)] })
            .Options[0]
            .Passes[0];
        next.CleanShare[0].ShouldBe(Coverage.CleanShare(Mm.Of(0.07m), side.Runout.Value), 1e-9);
        // And read backwards: 8 of 12 clean at 0.07 from first touch.
        var again = AfterPass.Read(after.Request, [Cut(0.02m)], [], [new(8, null), new(12, null)], null, ShopRules.Default);
        (again.Request.Sides[0].Done + again.Request.Sides[0].Need).ShouldBe(Coverage.RunoutRange(Mm.Of(0.07m), 8)!.Value.Greatest);
    }

    [Fact]
    public void What_was_clean_runs_out_anew_in_another_mounting()
    {
        var clean = Request.ZeroedAnew(Mm.Of(24.16m), Mm.Of(0.006m), Length.Zero);
        clean.Sides.ShouldAllBe(s => s.Need == Length.Zero);
        // The new set-up swings 0.20: both faces need it, and first touch is on the high side.
        var swings = clean.MountedAnew([Mm.Of(0.20m), Mm.Of(0.20m)], ShopRules.Default);
        (swings.Sides[0].Need, swings.Sides[1].Need, swings.Touch, swings.TouchBound).ShouldBe(
            (Mm.Of(0.20m), Mm.Of(0.20m), Mm.Of(24.36m), Mm.Of(24.154m))
        );
        // Nobody read it: what the shop assumes is needed, and first touch counts no better than the size.
        var unread = clean.MountedAnew([null, null], ShopRules.Default);
        (unread.Sides[0].Need, unread.Sides[0].RunoutAssumed, unread.Touch).ShouldBe(
            (ShopRules.Default.SetUp.AssumedRunout, true, Mm.Of(24.16m))
        );
        // In a drum e = 0.03: 0.06 across, to be cut radially, from a first touch 0.06 smaller.
        var drum = (clean with { Kind = PartKind.Drum, Sides = [new(Mm.Of(0.01m), Mm.Of(0.01m))] }).MountedAnew(
            [Mm.Of(0.06m)],
            ShopRules.Default
        );
        (drum.Sides[0].Need, drum.Touch).ShouldBe((Mm.Of(0.07m), Mm.Of(24.10m)));
    }

    [Fact]
    public void A_measured_size_sets_touch_and_a_wrong_dial_stops()
    {
        var passes = PassPlanner.Plan(Request).Options[0].Passes;
        var metal = passes[0].Depth[0] + passes[0].Depth[1];
        var good = After(Request, 1, 8, 9, new SizeSeen(Request.Touch - metal - Mm.Of(0.01m), true));
        good.Next.ShouldBe(NextStep.PlanAnew);
        good.Request.Touch.ShouldBe(Request.Touch - metal - Mm.Of(0.01m));
        var doubled = After(Request, 1, 8, 9, new SizeSeen(Request.Touch - 2 * metal, true));
        doubled.Next.ShouldBe(NextStep.Stop);
        doubled.Notes.ShouldContain(n => n is Note.DialFactorOfTwo);
        // On a dark spot a size only proves, it does not set.
        After(Request, 1, 8, 9, new SizeSeen(Mm.Of(24.29m), false)).Request.Touch.ShouldBe(Request.Touch - metal);
    }

    [Fact]
    public void Only_a_cut_deep_enough_to_tell_bears_an_unconfirmed_dial_out()
    {
        var unproven = Request with { Dial = Request.Dial with { Confirmed = false } };
        AfterPass Measured(PlanRequest request, decimal off)
        {
            var pass = PassPlanner.Plan(request).Options[0].Passes[0];
            var metal = pass.Depth[0] + pass.Depth[1];
            return AfterPass.Read(
                request,
                [pass],
                [],
                [new(9, null), new(9, null)],
                new SizeSeen(request.Touch - metal - Mm.Of(off), true),
                ShopRules.Default
            );
        }
        Measured(unproven, 0).ShouldSatisfyAllConditions(a => a.VerifiesDial.ShouldBeTrue(), a => a.Request.Dial.Confirmed.ShouldBeTrue());
        var shallow = Measured(
            unproven with
            {
                Dial = unproven.Dial with { Allowance = Mm.Of(0.02m) },
                Sides = [new(Mm.Of(0.02m)), new(Mm.Of(0.02m))],
                Techniques = [Technique.BuiltIn[1]],
            },
            0
        );
        shallow.VerifiesDial.ShouldBeFalse(); // 0.06 of metal: half or twice of it is within what may be misread
        shallow.Request.Dial.Confirmed.ShouldBeFalse();
        // Half the metal: the dial counts diameter. It is said, and it is not verified.
        var passes = PassPlanner.Plan(unproven).Options[0].Passes[0];
        var half = Measured(unproven, -(passes.Depth[0] + passes.Depth[1]).Millimetres / 2);
        half.Notes.ShouldContain(n => n is Note.DialFactorOfTwo);
        half.VerifiesDial.ShouldBeFalse();
        DialCheck.Verifies(Mm.Of(0.20m), Mm.Of(0.16m), Mm.Of(0.026m)).ShouldBeTrue(); // a drift is no factor of two
        DialCheck.Verifies(Mm.Of(0.20m), Mm.Of(0.11m), Mm.Of(0.026m)).ShouldBeFalse();
        // A touch that rests on assumed run-outs may be off by them: no alarm for that.
        (Request with { Sides = [Request.Sides[0] with { RunoutAssumed = true }, Request.Sides[1]] }).DialSlack.ShouldBe(Mm.Of(0.071m));
    }

    [Fact]
    public void A_surface_waits_where_its_facts_put_it()
    {
        static Station At(
            bool limits = true,
            int read = 8,
            bool mounted = false,
            int? planned = null,
            int done = 0,
            bool confirmed = false,
            bool closed = false,
            bool finished = true
        ) => new Progress(limits, 8, read, mounted, planned, done, finished, confirmed, closed).Station;
        At(limits: false).ShouldBe(Station.Receive);
        At(read: 5).ShouldBe(Station.Measure);
        At().ShouldBe(Station.Mount);
        At(mounted: true).ShouldBe(Station.Plan);
        At(planned: 2, done: 1, read: 0).ShouldBe(Station.Cut);
        At(planned: 2, done: 2, read: 0).ShouldBe(Station.Confirm);
        At(planned: 2, done: 2, read: 0, finished: false).ShouldBe(Station.Cut);
        At(planned: 0).ShouldBe(Station.Confirm);
        At(planned: 2, done: 2, confirmed: true).ShouldBe(Station.Release);
        At(closed: true).ShouldBe(Station.Done);
    }

    [Fact]
    public void The_rules_of_the_job_know_nothing_of_web_storage_clock_or_files()
    {
        var result = Types
            .InAssembly(typeof(Length).Assembly)
            .ShouldNot()
            .HaveDependencyOnAny(
                "Microsoft.AspNetCore",
                "Microsoft.EntityFrameworkCore",
                "Microsoft.Extensions",
                "Npgsql",
                "System.IO",
                "System.Net",
                "Uncial.Data",
                "Uncial.Web"
            )
            .GetResult();
        (result.FailingTypeNames ?? []).ShouldBeEmpty();
    }
}
