using CsCheck;
using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Parts;
using Uncial.Core.Release;

namespace Uncial.Core.Tests;

public class AssessmentTests
{
    private static readonly RotorMeasurement Example = new()
    {
        Limits = Mm.Rotor(23.00m, 23.40m),
        Uncertainty = Mm.Of(0.006m),
        Readings = Mm.Around(24.31m, 24.33m, 24.36m, 24.38m, 24.37m, 24.35m, 24.32m, 24.30m),
        Faces = new(new(Mm.Of(0.09m), Mm.Of(0.05m), default), new(Mm.Of(0.05m), Mm.Of(0.02m), default)),
    };

    [Fact]
    public void Rotor_of_the_worked_example()
    {
        var figures = RotorAssessment.Assess(Example, ShopRules.Default);
        figures.Least.ShouldBe(Mm.Of(24.30m));
        figures.ThicknessVariation.ShouldBe(Mm.Of(0.08m));
        figures.VariationIsLowerBound.ShouldBeFalse();
        figures.Fit!.Mean.ShouldBe(Mm.Of(24.34m));
        figures.Touch.ShouldBe(Mm.Of(24.41m));
        figures.TouchCareful.ShouldBe(Mm.Of(24.41m));
        figures.TouchBound.ShouldBe(Mm.Of(24.374m));
        figures.Need.ShouldBe(new PerFace<Length>(Mm.Of(0.14m), Mm.Of(0.07m)));
        figures.LeastFinished.ShouldBe(Mm.Of(24.20m));
        figures.StockToDiscard.ShouldBe(Mm.Of(1.30m));
        figures.StockToMachineTo.ShouldBe(Mm.Of(0.90m));
        figures.FiguresAgree.ShouldBe(true);
        (figures.DiscardVerdict, figures.MachineToVerdict).ShouldBe((Verdict.Within, Verdict.Within));
    }

    [Fact]
    public void A_face_nobody_measured_is_assumed_to_the_careful_side_in_need_and_in_touch()
    {
        var oneKnown = RotorAssessment.Assess(
            Example with
            {
                Faces = new(new(Mm.Of(0.09m), default, default), default),
            },
            ShopRules.Default
        );
        oneKnown.RunoutAssumed.ShouldBe(new PerFace<bool>(false, true));
        oneKnown.Need!.Value.Inner.ShouldBe(Mm.Of(0.17m)); // the other face and the variation
        oneKnown.TouchCareful.ShouldBe(Mm.Of(24.39m)); // mean + (0.09 + |0.09 − 0.08|)/2
        var noneKnown = RotorAssessment.Assess(Example with { Faces = default }, ShopRules.Default);
        noneKnown.Need!.Value.ShouldBe(new PerFace<Length>(Mm.Of(0.08m), Mm.Of(0.08m)));
        noneKnown.TouchCareful.ShouldBe(Mm.Of(24.38m)); // not less than the greatest reading
        noneKnown.FiguresAgree.ShouldBeNull();
    }

    [Fact]
    public void Two_places_give_no_verdict_unless_one_is_beyond()
    {
        var two = RotorAssessment.Assess(
            Example with
            {
                Readings = [Mm.At(0, 24.31m), Mm.At(0, 24.32m), Mm.At(120, 24.30m)],
            },
            ShopRules.Default
        );
        two.DiscardVerdict.ShouldBe(Verdict.NotEnough);
        var beyond = RotorAssessment.Assess(Example with { Readings = [Mm.At(0, 22.99m)] }, ShopRules.Default);
        beyond.DiscardVerdict.ShouldBe(Verdict.Beyond);
        RotorAssessment
            .Assess(Example with { Readings = Mm.Around(24.31m, 24.32m, 24.30m) }, ShopRules.Default)
            .VariationIsLowerBound.ShouldBeTrue();
    }

    [Fact]
    public void The_least_favourable_radius_is_touched_unless_one_is_named()
    {
        var tapered = Example with
        {
            Readings =
            [
                .. Example.Readings.Select(r => r with { Station = Mm.Of(120) }),
                Mm.At(0, 24.20m, 95),
                Mm.At(120, 24.21m, 95),
                Mm.At(240, 24.22m, 95),
            ],
        };
        RotorAssessment.Assess(tapered, ShopRules.Default).TouchBound.ShouldBe(Mm.Of(24.214m));
        RotorAssessment.Assess(tapered with { TouchStation = Mm.Of(120) }, ShopRules.Default).TouchBound.ShouldBe(Mm.Of(24.374m));
        Should.Throw<ArgumentException>(() => RotorAssessment.Assess(tapered with { TouchStation = Mm.Of(100) }, ShopRules.Default));
    }

    private static DrumMeasurement Drum(params Reading[] readings) =>
        new()
        {
            Limits = Mm.Drum(230.1m, 229.6m, 228.6m),
            Uncertainty = Mm.Of(0.01m),
            Eccentricity = Length.Zero,
            Readings = readings,
        };

    [Fact]
    public void Drum_of_the_worked_example()
    {
        var figures = DrumAssessment.Assess(Drum(Mm.Axes(228.62m, 228.74m, 228.62m, 228.50m)), ShopRules.Default);
        figures.Roundness.ShouldBe(new Roundness(true, Mm.Of(0.24m), 45, Mm.Of(228.62m)));
        figures.Largest.ShouldBe(Mm.Of(228.74m));
        figures.Need.ShouldBe(Mm.Of(0.12m));
        figures.TouchBound.ShouldBe(Mm.Of(228.51m));
        figures.DiscardVerdict.ShouldBe(Verdict.Within);
    }

    [Theory]
    [InlineData(new[] { 0, 90 }, false)]
    [InlineData(new[] { 0, 90, 180, 270 }, false)] // opposite ends are the same axis
    [InlineData(new[] { 0, 30, 60 }, false)] // a gap over 90
    [InlineData(new[] { 0, 45, 90 }, true)]
    [InlineData(new[] { 0, 10, 20, 100 }, false)] // no three well apart
    [InlineData(new[] { 0, 60, 120 }, true)]
    public void Roundness_is_proven_only_by_axes_between_which_no_oval_hides(int[] axes, bool proven)
    {
        var figures = DrumAssessment.Assess(Drum([.. axes.Select(a => Mm.At(a, 228.62m))]), ShopRules.Default);
        figures.Roundness!.Proven.ShouldBe(proven);
    }

    [Fact]
    public void An_oval_between_the_axes_is_found_and_is_as_sure_as_they_lie_apart()
    {
        // True oval 228.80 … 229.00 with its largest at 30°, read on 0, 60 and 120.
        static decimal D(double axis) => Math.Round(228.90m + 0.1m * (decimal)Math.Cos(2 * (axis - 30) * Math.PI / 180), 6);
        var figures = DrumAssessment.Assess(Drum(Mm.At(0, D(0)), Mm.At(60, D(60)), Mm.At(120, D(120))), ShopRules.Default);
        figures.Roundness!.LargestAxis!.Value.ShouldBe(30m, 0.001m);
        figures.Largest!.Value.Millimetres.ShouldBe(229.00m, 0.00001m);
        // 0.015 left with a gauge of ± 0.01: three axes evenly apart are as sure as a reading, four within a quarter turn by 1.73 less.
        var near = Drum(Mm.At(0, D(0)), Mm.At(60, D(60)), Mm.At(120, D(120))) with { Limits = Mm.Drum(229.015m, 229.015m) };
        DrumAssessment.Assess(near, ShopRules.Default).DiscardVerdict.ShouldBe(Verdict.Within);
        var bunched = near with { Readings = [.. new[] { 0, 30, 60, 90 }.Select(a => Mm.At(a, D(a)))] };
        DrumAssessment.Assess(bunched, ShopRules.Default).DiscardVerdict.ShouldBe(Verdict.TooClose);
    }

    [Fact]
    public void A_depth_read_on_one_axis_takes_the_proven_shape()
    {
        var figures = DrumAssessment.Assess(
            Drum([.. Mm.Axes(228.62m, 228.74m, 228.62m, 228.50m).Select(r => r with { Station = Mm.Of(25) }), Mm.At(0, 228.63m, 10)]),
            ShopRules.Default
        );
        figures.Roundness.ShouldBe(new Roundness(true, Mm.Of(0.24m), 45, Mm.Of(228.62m)));
        figures.Touch!.Value.Millimetres.ShouldBe(228.51m, 0.00001m); // and its narrow axis, that nobody read there, 0.01 wider too
        // 0.01 wider at the open edge, so 0.01 wider across its largest axis
        figures.Largest!.Value.Millimetres.ShouldBe(228.75m, 0.00001m);
    }

    [Theory]
    [InlineData(0, 203.38)] // as narrow as the oval
    [InlineData(0.12, 203.35)] // D_min − e²/O
    [InlineData(0.48, 202.90)]
    [InlineData(0.60, 202.66)] // past its out-of-round: D_max − 2e
    public void The_careful_touch_of_an_oval_falls_steadily_with_eccentricity(decimal e, decimal touch) =>
        DrumAssessment
            .Assess(
                Drum(Mm.Axes(203.62m, 203.86m, 203.62m, 203.38m)) with
                {
                    Limits = Mm.Drum(205.2m, nominal: 203.2m),
                    Eccentricity = Mm.Of(e),
                },
                ShopRules.Default
            )
            .TouchCareful!.Value.Millimetres.ShouldBe(touch, 0.00001m);

    [Fact]
    public void Taper_floor_and_eccentricity_of_a_drum()
    {
        var figures = DrumAssessment.Assess(
            Drum([
                .. Mm.Axes(229.42m, 229.42m, 229.42m, 229.42m).Select(r => r with { Station = Mm.Of(10) }),
                Mm.At(0, 229.36m, 40),
                Mm.At(90, 229.38m, 40),
            ]) with
            {
                Eccentricity = Mm.Of(0.05m),
                Groove = Mm.Of(0.03m),
            },
            ShopRules.Default
        );
        figures.Taper.ShouldBe(Mm.Of(0.05m));
        figures.BelowFloor.ShouldBeTrue();
        figures.Roundness!.Proven.ShouldBeFalse(); // the back was read on two axes only
        figures.Touch.ShouldBe(Mm.Of(229.32m)); // touched where its least reading is greatest: the open edge
        figures.Clean.ShouldBe(Mm.Of(229.58m));
        figures.Need.ShouldBe(Mm.Of(0.13m));
    }

    [Fact]
    public void The_fit_finds_what_eight_readings_step_over()
    {
        Gen.Double[0, 360]
            .Select(Gen.Double[0, 0.04], Gen.Double[0, 360], Gen.Double[0, 0.03])
            .Sample(
                (at1, a1, at2, a2) =>
                {
                    decimal T(double deg) =>
                        Math.Round(
                            (decimal)(24.3 + a1 * Math.Cos((deg - at1) * Math.PI / 180) + a2 * Math.Cos(2 * (deg - at2) * Math.PI / 180)),
                            9
                        );
                    var figures = RotorAssessment.Assess(
                        Example with
                        {
                            Readings = [.. Enumerable.Range(0, 8).Select(i => Mm.At(45 * i, T(45 * i)))],
                        },
                        ShopRules.Default
                    );
                    var trueLeast = Enumerable.Range(0, 3600).Min(i => T(i / 10.0));
                    Math.Abs(figures.Fit!.Least.Millimetres - trueLeast).ShouldBeLessThan(0.0001m);
                    figures.Fit.Mean.Millimetres.ShouldBe(24.3m, 0.00001m);
                },
                iter: 300
            );
    }

    [Theory]
    [InlineData(24.3, null)]
    [InlineData(0.957, Implausible.WrongUnit)]
    [InlineData(617.2, Implausible.WrongUnit)]
    [InlineData(14.3, Implausible.TooSmall)]
    [InlineData(34.3, Implausible.TooLarge)]
    public void A_size_that_cannot_well_be_is_questioned(decimal size, Implausible? doubt) =>
        Plausibility.Question(Mm.Of(size), Mm.Rotor(23m, 23.4m, 26m)).ShouldBe(doubt);

    [Fact]
    public void Limits_are_derived_by_rule_clamped_at_new_and_refused_in_the_wrong_order()
    {
        Mm.Rotor(23.0m).MachineTo.ShouldBe(Mm.Of(23.4m));
        Mm.Rotor(23.0m, nominal: 23.2m).MachineTo.ShouldBe(Mm.Of(23.2m));
        Mm.Drum(230.1m).ShouldSatisfyAllConditions(l => l.MachineTo.ShouldBe(Mm.Of(229.35m)), l => l.MachineToDerived.ShouldBeTrue());
        var onlyMachineTo = Limits.Create(PartKind.Rotor, null, Mm.Of(23.4m), null, ShopRules.Default).Limits!;
        (onlyMachineTo.Discard, onlyMachineTo.DiscardDerived).ShouldBe((Mm.Of(23.4m), true));
        Limits.Create(PartKind.Rotor, null, Mm.Of(22.9m), Mm.Of(23m), ShopRules.Default).Fault.ShouldBe(LimitFault.MachineToPastDiscard);
        Limits.Create(PartKind.Drum, Mm.Of(231m), null, Mm.Of(230m), ShopRules.Default).Fault.ShouldBe(LimitFault.NominalPastDiscard);
        Limits
            .Create(PartKind.Drum, Mm.Of(229.8m), Mm.Of(229.6m), Mm.Of(230m), ShopRules.Default)
            .Fault.ShouldBe(LimitFault.NominalPastMachineTo);
        Limits.Create(PartKind.Drum, Mm.Of(229.8m), null, null, ShopRules.Default).Fault.ShouldBe(LimitFault.DiscardMissing);
    }

    [Fact]
    public void A_reading_on_the_ridge_or_far_from_its_neighbours_is_asked_about()
    {
        Implausible? Of(PartKind kind, decimal size, decimal? last = null, params decimal[] others) =>
            Plausibility
                .Question(kind, Mm.Of(size), [.. others.Select(Mm.Of)], last is { } l ? Mm.Of(l) : null, Mm.Of(0.01m), ShopRules.Default)
                ?.Why;
        Of(PartKind.Rotor, 24.75m, null, 24.31m, 24.33m).ShouldBe(Implausible.OnTheRidge);
        Of(PartKind.Rotor, 24.13m, null, 24.31m, 24.33m).ShouldBe(Implausible.UnlikeItsNeighbours); // 31 turned about
        Of(PartKind.Rotor, 24.42m, null, 24.31m, 24.33m).ShouldBeNull(); // 0.09 over, of 0.12 that it may be
        Of(PartKind.Rotor, 24.60m, null, 24.31m, 24.50m).ShouldBeNull(); // neighbours that differ as much themselves
        Of(PartKind.Rotor, 24.75m, null, 24.31m).ShouldBeNull();
        Of(PartKind.Drum, 228.20m, null, 228.62m, 228.64m).ShouldBe(Implausible.OnTheRidge);
        Of(PartKind.Drum, 229.10m, null, 228.62m, 228.64m).ShouldBe(Implausible.UnlikeItsNeighbours);
        // No part grows between its visits.
        Of(PartKind.Rotor, 24.31m, last: 24.15m).ShouldBe(Implausible.OnTheRidge);
        Of(PartKind.Rotor, 24.20m, last: 24.15m).ShouldBeNull();
    }

    [Fact]
    public void Two_radii_tell_a_tapered_rotor_and_the_thinner_one_counts()
    {
        var rotor = new RotorMeasurement
        {
            Limits = Mm.Rotor(23.0m, 23.4m),
            Uncertainty = Mm.Of(0.007m),
            Readings =
            [
                .. Enumerable
                    .Range(0, 8)
                    .SelectMany(i => new[] { Mm.At(i * 45, 24.30m + i % 2 * 0.01m, 125), Mm.At(i * 45, 24.22m + i % 2 * 0.01m, 105) }),
            ],
        };
        var figures = RotorAssessment.Assess(rotor, ShopRules.Default);
        (figures.Least, figures.Taper, figures.ThicknessVariation).ShouldBe((Mm.Of(24.22m), Mm.Of(0.08m), Mm.Of(0.01m)));
        figures.Notes.ShouldContain(n => n is Note.ThinInside);
        RotorAssessment
            .Assess(rotor with { Readings = [.. rotor.Readings.Where(r => r.Station == Mm.Of(125))] }, ShopRules.Default)
            .Taper.ShouldBeNull();
    }
}
