using Uncial.Core.Cutting;
using Uncial.Core.Inspection;
using Uncial.Core.Measuring;
using Uncial.Core.Parts;
using Uncial.Core.Release;

namespace Uncial.Core.Tests.Workflow;

/// <summary>What follows from the facts on record, station by station.</summary>
public class WorkflowTests
{
    private static StoredSurface Measured(decimal size = 24.3m)
    {
        var surface = new StoredSurface(PartKind.Rotor);
        surface.Limit(LimitKind.Discard, 23m);
        surface.Limit(LimitKind.MachineTo, 23.4m);
        surface.ReadAll(size);
        return surface;
    }

    private static StoredSurface Planned()
    {
        var surface = Measured();
        surface.Mount();
        surface.GoOn();
        surface.Plan();
        return surface;
    }

    [Fact]
    public void A_surface_goes_from_station_to_station_as_facts_are_added()
    {
        var surface = new StoredSurface(PartKind.Rotor);
        surface.State.Station.ShouldBe(Station.Receive);
        surface.Limit(LimitKind.Discard, 23m);
        surface.State.Station.ShouldBe(Station.Measure);
        surface.ReadAll(24.3m);
        surface.State.Station.ShouldBe(Station.Mount);
        surface.Mount();
        surface.GoOn();
        surface.State.Station.ShouldBe(Station.Plan);
        surface.Plan();
        surface.State.Station.ShouldBe(Station.Cut);
        while (!surface.State.Planning.IsCutToItsEnd)
            surface.Cut();
        surface.State.Station.ShouldBe(Station.Cut); // hatched, edges, washed
        surface.Finish();
        surface.State.Station.ShouldBe(Station.Confirm);
        surface.ReadAll(24.0m);
        surface.Read(0, 24.0m);
        surface.Confirm();
        surface.State.Station.ShouldBe(Station.Release);
        surface.HasLeft = true;
        surface.State.Station.ShouldBe(Station.Done);
    }

    [Fact]
    public void Of_several_sources_the_strictest_holds_until_a_lead_settles_it_and_a_new_reading_opens_it_again()
    {
        var surface = new StoredSurface(PartKind.Rotor);
        var cast = surface.Limit(LimitKind.Discard, 22.4m);
        surface.Limit(LimitKind.Discard, 23m, LimitSource.LimitBook);
        surface.State.Receiving.Limits!.Discard.ShouldBe(Mm.Of(23m));
        surface.State.Receiving.IsDisputed(LimitKind.Discard).ShouldBeTrue();

        surface.Settle(cast);
        surface.State.Receiving.Limits!.Discard.ShouldBe(Mm.Of(22.4m));
        surface.State.Receiving.IsDisputed(LimitKind.Discard).ShouldBeFalse();
        // Machine-to follows from discard, so that it became laxer as well.
        surface
            .State.Receiving.LaxerSteps.Select(l => (l.Kind, l.Was, l.Is))
            .ShouldBe([(LimitKind.Discard, Mm.Of(23m), Mm.Of(22.4m)), (LimitKind.MachineTo, Mm.Of(23.4m), Mm.Of(22.8m))]);

        surface.Limit(LimitKind.Discard, 23.1m, LimitSource.MakersSheet);
        surface.State.Receiving.Limits!.Discard.ShouldBe(Mm.Of(23.1m));
        // A laxer word beside the strictest changes nothing; in place of it, it does.
        surface.State.Receiving.WouldLoosen(LimitKind.Discard, Mm.Of(22m), LimitSource.OtherShop, []).ShouldBeEmpty();
        surface.State.Receiving.WouldLoosen(LimitKind.Discard, Mm.Of(22m), LimitSource.MakersSheet, []).ShouldNotBeEmpty();
    }

    [Fact]
    public void Too_close_to_call_asks_for_the_place_that_tells_most_then_for_the_worst_once_more_and_then_for_nothing()
    {
        var usual = ShapePrior.Usual(PartKind.Rotor);
        // Far from any limit: nothing to decide. On discard: read where it may be past it.
        Measured().State.Measuring.ReadToDecide(usual).ShouldBeNull();
        var close = Measured(23.002m);
        close.State.Measuring.IsTooClose.ShouldBeTrue();
        var open = close.State.Measuring.ReadToDecide(usual)!.Value;
        (open.Degrees % 45).ShouldNotBe(0);
        // Machine-to is told from discard: 23.402 is too close to 23.4 alone, 23.2 to neither.
        Measured(23.402m).State.Measuring.ReadToDecide(usual).ShouldNotBeNull();
        Measured(23.2m).State.Measuring.IsTooClose.ShouldBeFalse();
        // No place may be far past any more: the worst place a second time, and then no reading helps.
        var read = new StoredSurface(PartKind.Rotor);
        read.Limit(LimitKind.Discard, 23m);
        read.Limit(LimitKind.MachineTo, 23.4m);
        for (var degrees = 0; degrees < 360; degrees += 15)
            read.Read(degrees, degrees == 45 ? 23.004m : 23.03m);
        read.State.Measuring.ReadToDecide(usual)!.Value.Degrees.ShouldBe(45);
        read.Read(45, 23.004m);
        read.State.Measuring.ReadToDecide(usual).ShouldBeNull();
    }

    [Fact]
    public void Numbers_order_facts_whatever_the_clock_said()
    {
        var surface = new StoredSurface(PartKind.Rotor);
        surface.Limit(LimitKind.Discard, 23m);
        surface.Read(0, 24.3m, at: new(2026, 11, 29, 12, 0, 0, TimeSpan.Zero));
        surface.Read(0, 24.1m, at: new(2026, 11, 29, 9, 0, 0, TimeSpan.Zero));
        surface.State.Measuring.ReadingAt(new(0, null))!.Value.ShouldBe(Mm.Of(24.1m));
    }

    [Fact]
    public void A_withdrawn_reading_counts_for_nothing_and_is_still_told()
    {
        var surface = new StoredSurface(PartKind.Rotor);
        surface.Limit(LimitKind.Discard, 23m);
        surface.Read(0, 22.4m, withdrawn: true);
        surface.Read(0, 24.2m);
        (surface.State.Measuring.Worst, surface.State.Measuring.WithdrawnSizes.Count).ShouldBe((Mm.Of(24.2m), 1));
        surface.State.Measuring.DiscardVerdict.ShouldNotBe(Verdict.Beyond);
    }

    [Fact]
    public void What_varies_by_more_than_its_papers_allow_says_so_from_the_second_point_on()
    {
        var rotor = new StoredSurface(PartKind.Rotor) { MaxVariation = 0.02m };
        rotor.State.Measuring.VariesTooMuch.ShouldBeFalse(); // its limits are not known yet
        rotor.Limit(LimitKind.Discard, 23m);
        rotor.State.Measuring.VariesTooMuch.ShouldBeFalse();
        rotor.Read(0, 24.30m);
        rotor.Read(45, 24.32m);
        rotor.State.Measuring.VariesTooMuch.ShouldBeFalse(); // as much as it may
        rotor.Read(90, 24.321m);
        rotor.State.Measuring.VariesTooMuch.ShouldBeTrue();

        var drum = new StoredSurface(PartKind.Drum) { MaxVariation = 0.02m };
        drum.Limit(LimitKind.Discard, 230m);
        drum.Read(0, 228.60m);
        drum.State.Measuring.VariesTooMuch.ShouldBeFalse();
        drum.Read(90, 228.70m);
        drum.State.Measuring.VariesTooMuch.ShouldBeTrue();
    }

    [Theory]
    [InlineData(PartKind.Rotor)]
    [InlineData(PartKind.Drum)]
    public void Grooves_that_nobody_looked_for_are_not_taken_for_none(PartKind kind)
    {
        var surface = new StoredSurface(kind);
        surface.Limit(LimitKind.Discard, kind == PartKind.Rotor ? 23m : 230m);
        surface.Read(0, kind == PartKind.Rotor ? 24.3m : 228.6m);
        surface.State.Measuring.GroovesLookedAt.ShouldBeFalse();
        surface.LookFor(kind == PartKind.Rotor ? ReadingKind.GrooveOuter : ReadingKind.Relief);
        surface.State.Measuring.GroovesLookedAt.ShouldBeFalse(); // one face of two, or the low lands
        surface.ReadAll(kind == PartKind.Rotor ? 24.3m : 228.6m);
        surface.State.Measuring.GroovesLookedAt.ShouldBeTrue();
    }

    [Fact]
    public void A_plan_that_nothing_was_cut_by_ends_with_what_it_rests_on_and_one_that_was_begun_says_why()
    {
        var surface = Planned();
        surface.State.Planning.Change.ShouldBeNull();
        surface.Read(0, 24.1m);
        (surface.State.Planning.Latest, surface.State.Station).ShouldBe((null, Station.Plan));

        var begun = Planned();
        begun.Cut();
        begun.State.Planning.IsCutToItsEnd.ShouldBeFalse();
        begun.Limit(LimitKind.MachineTo, 23.6m, LimitSource.LimitBook);
        begun.State.Planning.Change.ShouldBe(PlanChange.Limit);
        begun.Mount();
        begun.State.Planning.Change.ShouldBe(PlanChange.Mount);
    }

    [Fact]
    public void A_plan_that_goes_on_counts_its_dials_from_the_zero_before_it()
    {
        var surface = Planned();
        var first = surface.State.Planning.Document!.Option.Passes[0];
        surface.State.Cutting.DialAt(first).ShouldBe(first.DialFromTouch);
        surface.Cut(NextStep.PlanAnew);
        var next = surface.Plan(continues: true).Contents.Option.Passes[0];
        surface.State.Cutting.DialAt(next)[0].ShouldBe(next.DialFromTouch[0] + first.Depth[0]);
    }

    [Fact]
    public void A_judgement_ends_with_the_limits_and_rules_that_it_was_made_by_and_stays_with_a_part_that_left()
    {
        StoredSurface Judged()
        {
            var surface = Measured();
            surface.Mount();
            surface.GoOn();
            surface.Plan(leave: PlanState.NoCut);
            surface.Read(0, 24.3m);
            surface.Confirm();
            return surface;
        }
        Judged().State.Confirming.Holding.ShouldNotBeNull();

        var stricter = Judged();
        stricter.Limit(LimitKind.Discard, 23.2m, LimitSource.LimitBook);
        stricter.State.Confirming.Holding.ShouldBeNull();
        stricter.State.Confirming.Outdated.ShouldNotBeNull();

        var ruled = Judged();
        ruled.RulesId = 7;
        ruled.State.Confirming.Holding.ShouldBeNull();
        ruled.HasLeft = true;
        ruled.State.Confirming.Holding.ShouldNotBeNull();
    }

    [Fact]
    public void A_scratch_that_goes_all_round_bounds_the_run_out_that_a_plan_assumes_of_a_drum()
    {
        var surface = new StoredSurface(PartKind.Drum);
        surface.Limit(LimitKind.Discard, 230.1m);
        surface.ReadAll(228.6m);
        surface.Mount();
        surface.State.Planning.Request(true).Sides[0].Need.ShouldBe(ShopRules.Default.SetUp.AssumedRunout);
        surface.Scratch(0.02m);
        surface.State.Planning.Request(true).Sides[0].Need.ShouldBe(Mm.Of(0.02m));
        surface.Mount(); // put on anew, and not checked
        surface.State.Planning.Request(true).Sides[0].Need.ShouldBe(ShopRules.Default.SetUp.AssumedRunout);
    }

    [Fact]
    public void A_reading_whose_gauge_failed_afterwards_counts_for_nothing_and_ends_what_rests_on_it()
    {
        var surface = Measured();
        surface.Read(0, 24.2m);
        surface.Flag(surface.State.Facts.Readings.Count - 1);
        (surface.State.Measuring.Worst, surface.State.Measuring.Suspect.Count).ShouldBe((Mm.Of(24.3m), 1));

        // Left uncut: what was suspect before that was known then, what became so since ends it.
        surface.Mount();
        surface.GoOn();
        surface.Plan(leave: PlanState.NoCut);
        surface.State.Planning.Latest.ShouldNotBeNull();
        surface.Flag(0);
        surface.State.Planning.Latest.ShouldBeNull();
    }

    [Fact]
    public void What_is_found_by_eye_ends_a_plan_and_a_check_after_the_decision_asks_for_it_again()
    {
        var surface = Planned();
        surface.Find(FindingKind.Nothing);
        surface.State.Planning.Latest.ShouldNotBeNull();
        surface.Find(FindingKind.Groove);
        surface.State.Planning.Latest.ShouldBeNull();

        var mounted = Measured();
        mounted.Mount();
        mounted.GoOn();
        mounted.Scratch(0.02m);
        (mounted.State.Mounting.Decision, mounted.State.Station).ShouldBe((null, Station.Mount));
        mounted.GoOn();
        mounted.State.Station.ShouldBe(Station.Plan);
    }

    [Fact]
    public void A_judgement_ends_with_every_word_about_a_limit_since_though_the_limit_stays()
    {
        StoredSurface Judged(out LimitFact discard)
        {
            var surface = new StoredSurface(PartKind.Rotor);
            discard = surface.Limit(LimitKind.Discard, 23m);
            surface.ReadAll(24.3m);
            surface.Mount();
            surface.GoOn();
            surface.Plan(leave: PlanState.NoCut);
            surface.Confirm();
            surface.State.Confirming.Holding.ShouldNotBeNull();
            return surface;
        }
        var stated = Judged(out _);
        stated.Limit(LimitKind.Discard, 23m, LimitSource.LimitBook);
        stated.State.Confirming.Holding.ShouldBeNull();
        var settled = Judged(out var discard);
        settled.Settle(discard);
        settled.State.Confirming.Holding.ShouldBeNull();
    }

    [Theory]
    [InlineData(false, 8)] // called to the bench again: what was read stands, and is judged again
    [InlineData(true, 0)] // it was on a vehicle: it is read again
    public void A_recalled_part_is_judged_again_and_read_again_where_it_had_left(bool hadLeft, int sizes)
    {
        var surface = Measured();
        surface.Mount();
        surface.GoOn();
        surface.Plan(leave: PlanState.NoCut);
        surface.Confirm();
        surface.Recall(hadLeft);
        (surface.State.Confirming.Holding, surface.State.Measuring.Sizes.Count).ShouldBe((null, sizes));
    }

    [Fact]
    public void A_plan_from_a_new_zero_counts_its_dials_from_there()
    {
        var surface = Planned();
        surface.Cut(NextStep.PlanAnew);
        var next = surface.Plan(continues: false).Contents.Option.Passes[0];
        surface.State.Cutting.DialAt(next).ShouldBe(next.DialFromTouch);
    }

    [Theory]
    [InlineData(0xFFF)]
    [InlineData(0x03F)]
    [InlineData(0x001)]
    public void A_scratch_in_another_mounting_says_nothing_of_the_one_that_was_cut_in(int dark)
    {
        StoredSurface CutAndMountedAnew()
        {
            var surface = new StoredSurface(PartKind.Drum);
            surface.Limit(LimitKind.Discard, 230.1m);
            surface.ReadAll(228.6m);
            surface.Mount();
            surface.GoOn();
            surface.Plan();
            surface.Cut(dark: dark);
            surface.Mount();
            return surface;
        }
        var (plain, scratched) = (CutAndMountedAnew(), CutAndMountedAnew());
        scratched.Scratch(0.01m);
        scratched.State.Planning.Request(true).Sides[0].ShouldBe(plain.State.Planning.Request(true).Sides[0]);
    }

    [Theory]
    [InlineData(2, 24.3, false)] // two points say nothing of a face
    [InlineData(3, 24.3, true)]
    [InlineData(3, 22.9, false)] // beyond discard
    public void A_rotor_is_planned_once_three_points_are_read_and_none_is_beyond(int points, double size, bool may)
    {
        var surface = new StoredSurface(PartKind.Rotor);
        surface.Limit(LimitKind.Discard, 23m);
        surface.Limit(LimitKind.MachineTo, 23.4m);
        for (var i = 0; i < points; i++)
            surface.Read(120 * i, (decimal)size);
        surface.State.Measuring.MayBePlanned.ShouldBe(may);
        surface.HasLeft = true;
        surface.State.Measuring.MayBePlanned.ShouldBeFalse();
    }

    [Theory]
    [InlineData(229.24, false)] // 0.76 left, the floor is 0.75
    [InlineData(229.26, true)]
    public void A_drum_with_less_than_the_floor_to_its_discard_diameter_is_not_started(double size, bool below)
    {
        var surface = new StoredSurface(PartKind.Drum);
        surface.Limit(LimitKind.Discard, 230m);
        surface.State.Measuring.IsBelowFloor.ShouldBeFalse();
        surface.ReadAll((decimal)size);
        (surface.State.Measuring.IsBelowFloor, surface.State.Measuring.MayBePlanned).ShouldBe((below, !below));
    }

    [Fact]
    public void A_drum_that_was_begun_goes_by_its_limits_not_by_the_floor_for_starting_one()
    {
        var surface = new StoredSurface(PartKind.Drum);
        surface.Limit(LimitKind.Discard, 230m);
        surface.Limit(LimitKind.MachineTo, 229.8m);
        surface.ReadAll(229.0m);
        surface.Mount();
        surface.GoOn();
        surface.Plan();
        surface.Cut();
        surface.ReadAll(229.3m);
        (surface.State.Measuring.IsBelowFloor, surface.State.Measuring.DiscardVerdict).ShouldBe((false, Verdict.Within));
    }
}
