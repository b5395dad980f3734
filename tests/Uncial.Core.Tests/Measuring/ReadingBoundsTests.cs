using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Parts;

namespace Uncial.Core.Tests;

/// <summary>What is said and asked about readings, at the very bounds, worked out by hand.</summary>
public class ReadingBoundsTests
{
    private static readonly Face Whole = new(Mm.Of(0.05m), Length.Zero, Length.Zero);

    private static RotorFigures Of(Reading[] readings, Face? outer = null, Face? inner = null, decimal? machineTo = 23.40m) =>
        RotorAssessment.Assess(
            new()
            {
                Limits = Mm.Rotor(23.00m, machineTo),
                Uncertainty = Mm.Of(0.006m),
                Readings = readings,
                Faces = new(outer ?? Whole, inner ?? Whole),
            },
            ShopRules.Default
        );

    private static readonly Reading[] Eight = Mm.Around(24.31m, 24.33m, 24.36m, 24.38m, 24.37m, 24.35m, 24.32m, 24.30m);

    [Fact]
    public void A_rotor_that_is_read_all_round_with_all_its_figures_leaves_nothing_to_say() => Of(Eight).Notes.ShouldBeEmpty();

    [Fact]
    public void What_was_not_read_or_looked_at_is_said_of_each_face()
    {
        // Two places, no run-out, nothing looked at, machine-to by the shop's rule.
        Of([Mm.At(0, 24.31m), Mm.At(120, 24.30m)], default(Face), default(Face), machineTo: null)
            .Notes.ShouldBe([
                new Note.TooFewPlaces(),
                new Note.RunoutAssumed(Mm.Of(0.05m), "outer"),
                new Note.RunoutAssumed(Mm.Of(0.05m), "inner"),
                new Note.NotLookedAt("grooveOuter"),
                new Note.NotLookedAt("reliefOuter"),
                new Note.NotLookedAt("grooveInner"),
                new Note.NotLookedAt("reliefInner"),
                new Note.MachineToDerived(Mm.Of(23.40m)),
            ]);
        Of(Eight, inner: Whole with { Relief = null }).Notes.ShouldBe([new Note.NotLookedAt("reliefInner")]);
        Of(Eight, outer: Whole with { Groove = null }).Notes.ShouldBe([new Note.NotLookedAt("grooveOuter")]);
    }

    [Fact]
    public void Three_to_seven_places_prove_no_less_than_they_show()
    {
        Of(Mm.Around(24.31m, 24.33m, 24.30m)).Notes.ShouldBe([new Note.VariationLowerBound(Mm.Of(0.03m))]);
        Of(Mm.Around(24.31m, 24.33m, 24.36m, 24.35m, 24.33m, 24.32m, 24.30m))
            .Notes.ShouldContain(new Note.VariationLowerBound(Mm.Of(0.06m)));
    }

    [Fact]
    public void Faces_that_run_out_less_than_the_thickness_varies_do_not_agree_with_it()
    {
        // 0.08 of thickness on 0.02 + 0.01 of run-out and twice 0.006.
        Of(Eight, Whole with { Runout = Mm.Of(0.02m) }, Whole with { Runout = Mm.Of(0.01m) })
            .Notes.ShouldBe([new Note.FiguresDisagree(Mm.Of(0.08m), Mm.Of(0.03m))]);
        // 0.068 and 0.012 are 0.08: it may be.
        Of(Eight, Whole with { Runout = Mm.Of(0.034m) }, Whole with { Runout = Mm.Of(0.034m) }).FiguresAgree.ShouldBe(true);
        Of(Eight, Whole with { Runout = Mm.Of(0.034m) }, Whole with { Runout = Mm.Of(0.0339m) }).FiguresAgree.ShouldBe(false);
    }

    [Theory]
    [InlineData(24.300, 24.200, 0.100)]
    [InlineData(24.200, 24.300, -0.100)]
    [InlineData(24.306, 24.300, 0.006)] // as much as one reading may be off: nothing to say
    [InlineData(24.300, 24.306, -0.006)]
    public void Thinner_inside_or_outside_is_said_where_it_is_more_than_a_reading_may_be_off(double outside, double inside, double taper)
    {
        static Reading[] Ring(double radius, double size) =>
            [.. Enumerable.Range(0, 8).Select(i => Mm.At(i * 45, (decimal)size, (decimal)radius))];
        var figures = Of([.. Ring(140, outside), .. Ring(110, inside)]);
        figures.Taper.ShouldBe(Mm.Of((decimal)taper));
        Note[] said =
            Math.Abs(taper) <= 0.006 ? []
            : taper > 0 ? [new Note.ThinInside(Mm.Of((decimal)taper))]
            : [new Note.ThinOutside(Mm.Of((decimal)-taper))];
        figures.Notes.ShouldBe(said);
    }

    [Fact]
    public void A_shape_is_drawn_through_five_places_and_more_that_go_all_round()
    {
        Of(Mm.Around(24.31m, 24.33m, 24.36m, 24.32m)).Fit.ShouldBeNull();
        Of(Mm.Around(24.31m, 24.33m, 24.36m, 24.34m, 24.32m)).Fit.ShouldNotBeNull();
        Of([.. new[] { 0m, 30, 60, 90, 120 }.Select((d, i) => Mm.At(d, 24.30m + i * 0.01m))]).Fit.ShouldBeNull();
    }

    [Theory]
    [InlineData(PartKind.Rotor, 19.50, null)] // three quarters of 26
    [InlineData(PartKind.Rotor, 19.49, Implausible.TooSmall)]
    [InlineData(PartKind.Rotor, 27.30, null)]
    [InlineData(PartKind.Rotor, 27.31, Implausible.TooLarge)]
    [InlineData(PartKind.Rotor, 0.71, Implausible.TooSmall)] // 18.0 mm were it inches: no rotor of 26
    [InlineData(PartKind.Rotor, 0.72, Implausible.WrongUnit)]
    [InlineData(PartKind.Drum, 226.32, null)] // a hundredth under 228.6
    [InlineData(PartKind.Drum, 226.31, Implausible.TooSmall)]
    [InlineData(PartKind.Drum, 235.45, null)]
    [InlineData(PartKind.Drum, 235.46, Implausible.TooLarge)]
    [InlineData(PartKind.Drum, 9.00, Implausible.WrongUnit)]
    public void A_size_is_questioned_from_its_bound_on(PartKind kind, double size, Implausible? why) =>
        Plausibility
            .Question(Mm.Of((decimal)size), kind == PartKind.Rotor ? Mm.Rotor(23m, 23.4m, 26m) : Mm.Drum(230.1m, 229.4m, 228.6m))
            .ShouldBe(why);

    [Fact]
    public void Without_a_size_when_new_machine_to_stands_in_for_it()
    {
        Plausibility.Question(Mm.Of(18.00m), Mm.Rotor(23m, 24m)).ShouldBeNull();
        Plausibility.Question(Mm.Of(17.99m), Mm.Rotor(23m, 24m)).ShouldBe(Implausible.TooSmall);
    }

    [Theory]
    [InlineData(PartKind.Rotor, 3.0, null)]
    [InlineData(PartKind.Rotor, 80.0, null)]
    [InlineData(PartKind.Rotor, 0.9, Implausible.WrongUnit)] // 22.86 mm
    [InlineData(PartKind.Rotor, 0.1, Implausible.TooSmall)] // 2.54 mm
    [InlineData(PartKind.Rotor, 584.2, Implausible.WrongUnit)] // 23 read in mm and taken for inches
    [InlineData(PartKind.Rotor, 2100, Implausible.TooLarge)] // 82.7
    [InlineData(PartKind.Drum, 100, null)]
    [InlineData(PartKind.Drum, 700, null)]
    [InlineData(PartKind.Drum, 9.06, Implausible.WrongUnit)] // 230.1 mm
    [InlineData(PartKind.Drum, 3.9, Implausible.TooSmall)] // 99.1 mm
    [InlineData(PartKind.Drum, 701, Implausible.TooLarge)] // 27.6
    [InlineData(PartKind.Drum, 5842, Implausible.WrongUnit)] // 230
    public void A_limit_is_questioned_from_its_bound_on(PartKind kind, double limit, Implausible? why) =>
        Plausibility.QuestionLimit(Mm.Of((decimal)limit), kind).ShouldBe(why);

    [Fact]
    public void A_reading_is_held_against_the_neighbour_that_it_is_unlike()
    {
        static (Implausible, Length)? Ask(PartKind kind, decimal size, decimal? last, params decimal[] others) =>
            Plausibility.Question(
                kind,
                Mm.Of(size),
                [.. others.Select(Mm.Of)],
                last is { } l ? Mm.Of(l) : null,
                Mm.Of(0.01m),
                ShopRules.Default
            );
        // A tenth, and the two hundredths that the neighbours differ by.
        Ask(PartKind.Rotor, 24.45m, null, 24.31m, 24.33m).ShouldBeNull();
        Ask(PartKind.Rotor, 24.46m, null, 24.31m, 24.33m).ShouldBe((Implausible.OnTheRidge, Mm.Of(24.33m)));
        Ask(PartKind.Rotor, 24.19m, null, 24.31m, 24.33m).ShouldBeNull();
        Ask(PartKind.Rotor, 24.18m, null, 24.31m, 24.33m).ShouldBe((Implausible.UnlikeItsNeighbours, Mm.Of(24.31m)));
        // A drum grows: its ridge is the small one.
        Ask(PartKind.Drum, 228.49m, null, 228.62m, 228.64m).ShouldBe((Implausible.OnTheRidge, Mm.Of(228.62m)));
        Ask(PartKind.Drum, 228.77m, null, 228.62m, 228.64m).ShouldBe((Implausible.UnlikeItsNeighbours, Mm.Of(228.64m)));
        Ask(PartKind.Rotor, 24.25m, 24.15m).ShouldBeNull();
        Ask(PartKind.Rotor, 24.26m, 24.15m).ShouldBe((Implausible.OnTheRidge, Mm.Of(24.15m)));
    }
}
