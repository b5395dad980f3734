using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Release;

namespace Uncial.Core.Tests;

/// <summary>What to do where no plan fits, and whether it is worth it.</summary>
public class RemedyTests
{
    private static readonly PlanRequest Short = new()
    {
        Kind = PartKind.Rotor,
        Touch = Mm.Of(24.41m),
        TouchBound = Mm.Of(24.374m),
        Worst = Mm.Of(24.30m),
        MachineTo = Mm.Of(24.25m),
        Discard = Mm.Of(23.85m),
        Uncertainty = Mm.Of(0.006m),
        Sides =
        [
            new(Mm.Of(0.14m), Mm.Of(0.05m), Mm.Of(0.09m)),
            new(Mm.Of(0.07m), Mm.Of(0.02m), Mm.Of(0.05m), default, RunoutAssumed: true),
        ],
        Dial = new(Mm.Of(0.01m), false, Length.Zero, true),
    };

    [Fact]
    public void Where_nothing_fits_what_would_help_is_named_with_what_it_may_win()
    {
        var plan = PassPlanner.Plan(Short with { SetUpRunout = Mm.Of(0.06m) });
        plan.Shortfall.ShouldBe(new Shortfall(Mm.Of(0.21m), Mm.Of(0.154m))); // 0.056 are missing
        plan.Remedies.Select(r => (r.Code, r.Wins?.Millimetres, r.IsEnough))
            .ShouldBe([
                ("remount", 0.06m, true),
                ("measureRunout", 0.05m, false),
                ("finerGauge", 0.006m, false),
                ("scuff", null, true),
                ("replace", null, true),
            ]);
        PassPlanner.Plan(Short with { SetUpRunout = Mm.Of(0.05m) }).Remedies[0].IsEnough.ShouldBeFalse();
        PassPlanner
            .Plan(Short with { Techniques = [Technique.BuiltIn[0]] })
            .Remedies.ShouldContain(r => r.Code == "light" && r.Wins == Mm.Of(0.03m));
        PassPlanner.Plan(Short with { Dial = Short.Dial with { Division = Mm.Of(0.3m) } }).Remedies[0].Code.ShouldBe("finerDial");
        var blocked = PassPlanner.Plan(
            Short with
            {
                MachineTo = Mm.Of(24.10m),
                TouchBound = Mm.Of(24.12m),
                Techniques = [Technique.BuiltIn[1]],
            }
        );
        blocked.Remedies.ShouldContain(r => r.Code == "leadSigns");
        PassPlanner.Plan(Short with { MachineTo = Mm.Of(23.4m), Discard = Mm.Of(23m) }).Remedies.ShouldBeEmpty();
    }

    [Fact]
    public void Scuffing_leaves_grooves_and_run_out_and_needs_room_for_them()
    {
        var scuff = PassPlanner.Plan(Short).Scuff!;
        (scuff.Allowed, scuff.GrooveStays, scuff.RunoutStays, scuff.LeftToDiscard).ShouldBe(
            (true, Mm.Of(0.07m), Mm.Of(0.09m), Mm.Of(0.45m))
        );
        PassPlanner.Plan(Short with { Discard = Mm.Of(24.23m) }).Scuff!.Allowed.ShouldBeFalse(); // 0.07 of grooves, 0.07 of margin less U
        PassPlanner.Plan(Short with { Worst = null }).Scuff.ShouldBeNull();
        var drum = Short with
        {
            Kind = PartKind.Drum,
            Worst = Mm.Of(229.5m),
            Touch = Mm.Of(229.3m),
            TouchBound = Mm.Of(229.31m),
            MachineTo = Mm.Of(229.4m),
            Discard = Mm.Of(229.6m),
            Sides = [new(Mm.Of(0.1m), Mm.Of(0.05m))],
        };
        // twice the radial depth
        (PassPlanner.Plan(drum).Scuff!.Allowed, PassPlanner.Plan(drum).Scuff!.GrooveStays).ShouldBe((false, Mm.Of(0.10m)));
    }

    [Fact]
    public void Chatter_has_reasons_and_remedies_in_order_damping_first()
    {
        var facts = new ChatterFacts
        {
            Kind = PartKind.Rotor,
            Pass = PassKind.Finish,
            Depth = Mm.Of(0.05m),
            Diameter = Mm.Of(320),
            Thickness = Mm.Of(9),
            Overhangs = true,
            HasBand = false,
            EdgeIsWorn = true,
        };
        var chatter = Chatter.Of(facts, ShopRules.Default);
        chatter.Reasons.ShouldBe(Enum.GetValues<ChatterReason>());
        chatter.Remedies.ShouldBe(Enum.GetValues<ChatterRemedy>());
        var deep = Chatter.Of(
            facts with
            {
                Pass = PassKind.Rough,
                Depth = Mm.Of(0.25m),
                Thickness = Mm.Of(24),
                Overhangs = false,
                HasBand = true,
                EdgeIsWorn = false,
            },
            ShopRules.Default
        );
        deep.Reasons.ShouldBeEmpty();
        deep.Remedies.ShouldBe([ChatterRemedy.MoreDamping, ChatterRemedy.SlowerOrLighter, ChatterRemedy.DeeperOrFaster]);
    }

    [Fact]
    public void Life_is_stock_over_wear_and_a_cut_shortens_it()
    {
        var limits = Mm.Rotor(22m, nominal: 26m);
        var life = LifeLeft.Of(limits, null, new(40_000, Mm.Of(24m)), Mm.Of(24m))!;
        (life.RatePer1000Km, life.DistanceLeft).ShouldBe((Mm.Of(0.05m), 40_000m));
        LifeLeft.Of(limits, null, new(40_000, Mm.Of(24m)), Mm.Of(23.5m))!.DistanceLeft.ShouldBe(30_000m);
        LifeLeft.Of(limits, new(30_000, Mm.Of(24.4m)), new(40_000, Mm.Of(24m)), Mm.Of(24m))!.DistanceLeft.ShouldBe(50_000m);
        LifeLeft.Of(limits, null, new(40_000, Mm.Of(26.01m)), Mm.Of(26m))!.DistanceLeft.ShouldBeNull(); // no wear shows
        LifeLeft.Of(limits, null, new(40_000, Mm.Of(24m)), Mm.Of(21.9m))!.DistanceLeft.ShouldBe(0);
        LifeLeft.Of(Mm.Rotor(22m), null, new(40_000, Mm.Of(24m)), Mm.Of(24m)).ShouldBeNull();
        LifeLeft.Of(Mm.Drum(230.1m, nominal: 228.6m), null, new(60_000, Mm.Of(229.2m)), Mm.Of(229.5m))!.DistanceLeft.ShouldBe(60_000m);
    }

    [Fact]
    public void Whether_it_is_worth_it_goes_by_life_then_by_money()
    {
        Worth Of(bool can, decimal minutes, decimal? price, decimal? km) => WorthIt.Of(can, minutes, price, km, ShopRules.Default).Verdict;
        Of(true, 25, 60, 45_000).ShouldBe(Worth.Cut);
        Of(true, 25, 28, 45_000).ShouldBe(Worth.NewPartIsCheaper);
        Of(true, 25, 28.01m, 45_000).ShouldBe(Worth.Cut);
        Of(true, 25, 60, 19_999).ShouldBe(Worth.TooShortALife);
        Of(false, 25, 60, 45_000).ShouldBe(Worth.CannotBeCut);
        Of(true, 25, null, null).ShouldBe(Worth.Cut); // nothing known speaks against it
    }

    [Fact]
    public void Left_and_right_are_looked_at_together()
    {
        PairState Of(decimal? a, bool aCut, decimal? b, bool bCut) =>
            PairCheck.Of(new(a is { } x ? Mm.Of(x) : null, aCut), new(b is { } y ? Mm.Of(y) : null, bCut), ShopRules.Default).State;
        Of(24m, true, 24.5m, true).ShouldBe(PairState.Even);
        Of(24m, true, 24.51m, true).ShouldBe(PairState.Differ);
        Of(24m, true, 24.1m, false).ShouldBe(PairState.OneCut);
        Of(24m, true, null, false).ShouldBe(PairState.OtherNotRead);
    }

    [Fact]
    public void One_scratch_and_two_arcs_of_one_scratch()
    {
        static RunoutMark Scratch(int arc) => RunoutMark.Scratch(ClockAngle.FromDegrees(0), arc, Mm.Of(0.02m));
        SetUpCheck.OfFirstScratch(Scratch(200), ShopRules.Default).Verdict.ShouldBe(SetUpVerdict.CannotTell); // off by default
        var accepts = ShopRules.Default with { SetUp = ShopRules.Default.SetUp with { AcceptHalfRoundScratch = true } };
        var half = SetUpCheck.OfFirstScratch(Scratch(200), accepts);
        (half.Verdict, half.Notes[0].Length).ShouldBe((SetUpVerdict.True, Mm.Of(0.04m)));
        SetUpCheck.OfFirstScratch(Scratch(170), accepts).Verdict.ShouldBe(SetUpVerdict.CannotTell);
        SetUpCheck.OfFirstScratch(Scratch(360), accepts).Notes[0].Length.ShouldBe(Mm.Of(0.02m));
        SetUpCheck.OfOval(90, 80).Notes[0].Code.ShouldBe("ovalIsThePartsOwn");
        SetUpCheck.OfOval(120, 50).Notes[0].Code.ShouldBe("ovalAndOffCentre");
        SetUpCheck.OfOval(120, 20).Verdict.ShouldBe(SetUpVerdict.CannotTell);
    }

    [Fact]
    public void Stepless_speeds_gears_and_feed_by_time()
    {
        CuttingData.SpeedInRange(60, 200, Mm.Of(280), 90).ShouldBe(102);
        CuttingData.SpeedInRange(60, 90, Mm.Of(280), 90).ShouldBe(90);
        CuttingData.SpeedInRange(120, 200, Mm.Of(280), 90).ShouldBeNull();
        CuttingData.SpeedByDrive([70, 140], 0.5m, 1.2m, Mm.Of(280), 90).ShouldBe((140m, 102m / 140m, 102m)); // 70 × 1.2 is too slow
        CuttingData.SpeedByDrive([400], 0.5m, 1.2m, Mm.Of(280), 90).ShouldBeNull();
        CuttingData.FeedPerTurn(Mm.Of(15), 100).ShouldBe(Mm.Of(0.15m));
        CuttingData
            .IronGramsOfRing(Mm.Of(280), Mm.Of(180), Mm.Of(0.2m))
            .ShouldBe(Math.PI / 4 * (280 * 280 - 180 * 180) * 0.2 * 7.2e-3, 1e-6);
        DialCheck.Compare(Mm.Of(0.20m), Mm.Of(0.40m), Mm.Of(0.02m)).ShouldBe(DialAgreement.TwiceTheMetal);
        DialCheck.Compare(Mm.Of(0.20m), Mm.Of(0.10m), Mm.Of(0.02m)).ShouldBe(DialAgreement.HalfTheMetal);
        DialCheck.Compare(Mm.Of(0.20m), Mm.Of(0.26m), Mm.Of(0.02m)).ShouldBe(DialAgreement.Drifts);
        // within what reading and setting may be wrong by
        DialCheck.Compare(Mm.Of(0.02m), Mm.Of(0.04m), Mm.Of(0.02m)).ShouldBe(DialAgreement.Agrees);
    }

    [Fact]
    public void A_bore_is_bell_mouthed_barrelled_or_waisted()
    {
        DrumFigures Of(params decimal[] depths) =>
            DrumAssessment.Assess(
                new()
                {
                    Limits = Mm.Drum(230.1m),
                    Uncertainty = Mm.Of(0.02m),
                    Readings = [.. depths.SelectMany((d, i) => new[] { 0, 45, 90, 135 }.Select(a => Mm.At(a, d, 10 + 15 * i)))],
                },
                ShopRules.Default
            );
        Of(228.70m, 228.60m)
            .ShouldSatisfyAllConditions(
                f => f.Taper.ShouldBe(Mm.Of(0.10m)),
                f => f.Belly.ShouldBeNull(),
                f => f.Notes.ShouldContain(n => n is Note.BellMouth)
            );
        Of(228.60m, 228.70m).Notes.ShouldContain(n => n is Note.NarrowMouth && n.Length == Mm.Of(0.10m));
        Of(228.60m, 228.70m, 228.62m)
            .ShouldSatisfyAllConditions(f => f.Belly.ShouldBe(Mm.Of(0.09m)), f => f.Notes.ShouldContain(n => n is Note.Barrel));
        Of(228.60m, 228.55m, 228.62m).Notes.ShouldContain(n => n is Note.Waist);
        Of(228.60m, 228.61m, 228.60m).Notes.ShouldNotContain(n => n is Note.Barrel || n is Note.BellMouth);
    }

    [Fact]
    public void A_run_out_read_further_in_counts_for_more_at_the_edge()
    {
        var rotor = new RotorMeasurement
        {
            Limits = Mm.Rotor(23m),
            Uncertainty = Mm.Of(0.006m),
            Readings = Mm.Around(24.3m, 24.3m, 24.3m),
            EdgeRadius = Mm.Of(150),
            Faces = new(new(Mm.Of(0.08m), default, default, Mm.Of(120)), new(Mm.Of(0.08m), default, default)),
        };
        RotorAssessment.Assess(rotor, ShopRules.Default).Need.ShouldBe(new PerFace<Length>(Mm.Of(0.10m), Mm.Of(0.08m)));
    }

    [Fact]
    public void Low_lands_and_doubtful_depths_need_room_too()
    {
        var part = new FinishedPart
        {
            Limits = Mm.Rotor(23m, 23m),
            Uncertainty = Mm.Of(0.006m),
            Readings = Mm.Around(23.05m, 23.05m, 23.05m, 23.05m, 23.05m, 23.05m, 23.05m, 23.05m),
        };
        Decision Of(decimal groove, decimal relief, decimal doubt) =>
            Judgement
                .Of(
                    part with
                    {
                        GrooveLeft = Mm.Of(groove),
                        ReliefLeft = Mm.Of(relief),
                        DepthUncertainty = Mm.Of(doubt),
                    },
                    ShopRules.Default
                )
                .Decision;
        // Room of 0.05, of which the gauge takes 0.006 and what eight places cannot see 0.01.
        Of(0.034m, 0, 0).ShouldBe(Decision.Release);
        Of(0.0341m, 0, 0).ShouldBe(Decision.MeasureAgain);
        Of(0.02m, 0.014m, 0).ShouldBe(Decision.Release);
        Of(0.02m, 0.015m, 0).ShouldBe(Decision.MeasureAgain);
        Of(0, 0, 0.0395m).ShouldBe(Decision.Release); // √(0.006² + 0.0395²) = 0.03995
        Of(0, 0, 0.0396m).ShouldBe(Decision.MeasureAgain);
        var left = DepthsLeft.Of(
            [new("outer", Mm.Of(0.05m), Mm.Of(0.01m), false), new("inner", Mm.Of(0.02m), Length.Zero, false)],
            ShopRules.Default
        );
        (left.Groove, left.Relief, left.Uncertainty).ShouldBe((Mm.Of(0.07m), Mm.Of(0.01m), Mm.Of(0.06m)));
        // Bright all round: no land is lower, and nothing is unsure. Not looked at is not nothing, on bright metal either.
        DepthsLeft
            .Of([new("outer", Length.Zero, null, true), new("inner", Length.Zero, null, true)], ShopRules.Default)
            .ShouldSatisfyAllConditions(
                l => (l.Groove, l.Relief, l.Uncertainty).ShouldBe((Length.Zero, Length.Zero, Length.Zero)),
                l => l.NotLookedAt.ShouldBeEmpty()
            );
        DepthsLeft
            .Of([new("outer", null, null, true), new("inner", Length.Zero, null, false)], ShopRules.Default)
            .ShouldSatisfyAllConditions(
                l => (l.Groove, l.Relief).ShouldBe((null, null)),
                l => l.NotLookedAt.ShouldBe(["grooveOuter", "reliefInner"])
            );
    }
}
