using CsCheck;
using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Release;
using static Uncial.Core.Tests.Mm;

namespace Uncial.Core.Tests;

/// <summary>What is said of a finished part beside its size: its shape, what speaks against it, and its life so far.</summary>
public class CertificateTests
{
    private static readonly ShopRules Rules = ShopRules.Default;

    private static ShapeState State(ShapeCheck check, ShapeQuantity quantity) => check.Figures.Single(f => f.Quantity == quantity).State;

    [Fact]
    public void A_shape_is_held_to_the_book_first_and_to_the_shop_where_the_book_is_silent()
    {
        var measured = new ShapeMeasured(Of(0.020m), false, Of(-0.09m), Of(0.03m));
        var byShop = ShapeCheck.Of(PartKind.Rotor, measured, null, null, Rules);
        State(byShop, ShapeQuantity.Variation).ShouldBe(ShapeState.Within); // up to and with the limit of 0.025
        State(byShop, ShapeQuantity.Taper).ShouldBe(ShapeState.Over); // either way
        State(byShop, ShapeQuantity.RunoutInner).ShouldBe(ShapeState.NotRead);
        byShop.IsOver.ShouldBeTrue();
        byShop.Figures.ShouldAllBe(f => f.IsShopRule);
        var byBook = ShapeCheck.Of(PartKind.Rotor, measured with { Taper = null }, Of(0.015m), Of(0.05m), Rules);
        State(byBook, ShapeQuantity.Variation).ShouldBe(ShapeState.Over);
        State(byBook, ShapeQuantity.RunoutOuter).ShouldBe(ShapeState.Within);
        // equal is not over
        State(ShapeCheck.Of(PartKind.Rotor, measured, Of(0.020m), null, Rules), ShapeQuantity.Variation).ShouldBe(ShapeState.Within);
        // Two axes prove no roundness, but what they show over the limit is over.
        State(ShapeCheck.Of(PartKind.Drum, new(Of(0.02m), true, null), null, null, Rules), ShapeQuantity.OutOfRound)
            .ShouldBe(ShapeState.AtLeast);
        State(ShapeCheck.Of(PartKind.Drum, new(Of(0.20m), true, null), null, null, Rules), ShapeQuantity.OutOfRound)
            .ShouldBe(ShapeState.Over);
        ShapeCheck
            .Of(PartKind.Drum, default, null, null, Rules)
            .Figures.Select(f => f.Quantity)
            .ShouldBe([ShapeQuantity.OutOfRound, ShapeQuantity.Taper]);
    }

    [Fact]
    public void Each_thing_that_speaks_against_a_part_is_named_and_nothing_else_is()
    {
        var fine = ShapeCheck.Of(PartKind.Rotor, new(Of(0.01m), false, null), null, null, Rules);
        var wavy = ShapeCheck.Of(PartKind.Rotor, new(Of(0.10m), false, null), null, null, Rules);
        PairCheck Pair(decimal other) => PairCheck.Of(new(Of(24), true), new(Of(other), true), Rules);
        Objections.Of(fine, null, null, false).ShouldBeEmpty();
        Objections.Of(fine, Pair(24.4m), DialAgreement.Agrees, false).ShouldBeEmpty();
        Objections
            .Of(wavy, Pair(24.6m), DialAgreement.Drifts, true)
            .ShouldBe([Objection.Shape, Objection.Axle, Objection.Dial, Objection.CoarserGauge]);
        Objections.Of(fine, null, DialAgreement.HalfTheMetal, false).ShouldBe([Objection.Dial]);
        // the other side is shown, not judged
        Objections.Of(fine, PairCheck.Of(new(Of(24), true), new(null, false), Rules), null, false).ShouldBeEmpty();
    }

    [Theory]
    [InlineData(1, "over 99.9")]
    [InlineData(0.99995, "over 99.9")]
    [InlineData(0.99899, "99.89")]
    [InlineData(0.5, "50.00")]
    [InlineData(0.00001, "under 0.01")]
    public void A_probability_is_never_shown_as_more_than_it_is(double probability, string text) =>
        Conformity.Percent(probability).ShouldBe(text);

    [Fact]
    public void A_life_is_worn_between_visits_and_cut_at_them()
    {
        var limits = Limits.Create(PartKind.Rotor, Of(26), Of(23.4m), Of(23), Rules).Limits!;
        var curve = WearCurve.Of(
            limits,
            [new(71_300, Of(25.35m), null), new(112_400, Of(24.97m), Of(24.842m)), new(148_200, Of(24.42m), Of(24.261m))]
        );
        curve
            .Points.Select(p => (p.Kilometres, p.Size.Millimetres, p.AfterCut))
            .ShouldBe([
                (0, 26, false),
                (71_300, 25.35m, false),
                (112_400, 24.97m, false),
                (112_400, 24.842m, true),
                (148_200, 24.42m, false),
                (148_200, 24.261m, true),
            ]);
        (curve.Cuts, curve.Cut.Millimetres, curve.Worn.Millimetres).ShouldBe((2, 0.287m, 0.65m + 0.38m + 0.422m));
        // The last stretch: 0.422 in 35 800 km, and 1.261 still to go; cut metal is no wear.
        curve.Forecast!.DistanceLeft.ShouldBe(Math.Floor(1.261m * 35_800 / 0.422m));
        curve.DiscardAt.ShouldBe(148_200 + curve.Forecast.DistanceLeft);
        WearCurve.Of(limits, [new(null, Of(24.4m), null)]).Forecast.ShouldBeNull();
        // A visit whose distance nobody knew may hide a cut: nothing is forecast across it.
        WearCurve
            .Of(limits, [new(50_000, Of(25), null), new(null, Of(24.8m), Of(24.6m)), new(90_000, Of(24.4m), null)])
            .Forecast.ShouldBeNull();
        // An odometer that went back, as after a change of vehicle, tells nothing.
        WearCurve.Of(limits, [new(90_000, Of(25), null), new(50_000, Of(24.8m), null)]).Forecast.ShouldBeNull();
        Should.Throw<ArgumentException>(() => WearCurve.Of(limits, []));
    }

    [Fact]
    public void Whatever_the_visits_metal_is_counted_once_and_a_forecast_never_starts_past_discard() =>
        Gen.Select(Gen.Bool, Gen.Int[0, 500].Array[1, 5], Gen.Int[1, 90_000].Array[5])
            .Sample(
                (rotor, steps, distances) =>
                {
                    var (kind, sign) = rotor ? (PartKind.Rotor, 1m) : (PartKind.Drum, -1m);
                    var (nominal, discard) = rotor ? (26m, 23m) : (254m, 255.5m);
                    var limits = Limits.Create(kind, Of(nominal), null, Of(discard), Rules).Limits!;
                    var (size, km, visits) = (nominal, 0m, new List<WearVisit>());
                    foreach (var (step, i) in steps.Select((s, i) => (s / 1000m, i)))
                    {
                        km += distances[i];
                        var came = size - sign * step;
                        size = i % 2 == 1 ? came - sign * 0.1m : came;
                        visits.Add(new(km, Of(came), i % 2 == 1 ? Of(size) : null));
                    }
                    var curve = WearCurve.Of(limits, visits);
                    (curve.Worn + curve.Cut).Millimetres.ShouldBe(sign * (nominal - size));
                    if (curve.Forecast?.DistanceLeft is { } left)
                        (left == 0 || Limits.Margin(kind, Of(size), Of(discard)) > Length.Zero).ShouldBeTrue();
                },
                iter: 400
            );

    [Fact]
    public void The_worst_of_sizes_is_the_least_of_a_rotor_and_the_largest_of_a_drum()
    {
        Conformity.Worst(PartKind.Rotor, [Of(24.3m), Of(24.1m), Of(24.2m)]).ShouldBe(Of(24.1m));
        Conformity.Worst(PartKind.Drum, [Of(254.3m), Of(254.1m)]).ShouldBe(Of(254.3m));
        Conformity.Worst(PartKind.Drum, []).ShouldBeNull();
        (new Share(1, 3).Percent, new Share(0, 0).Percent, Share.Each(1, 8, 2), Share.Each(5, 0, 1)).ShouldBe((33m, null, 0.12m, null));
    }
}
