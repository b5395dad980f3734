using CsCheck;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Vehicles;

namespace Uncial.Core.Tests.Vehicles;

public class ShelfMatchTests
{
    private static readonly Length Least = Mm.Of(0.3m);
    private static readonly Length Apart = Mm.Of(0.5m);

    [Fact]
    public void A_pair_goes_before_a_single_one_the_same_entry_before_dimensions_and_more_life_before_less()
    {
        var wanted = Wanted(new(PartKind.Rotor, 7, false, 5, Known(280, 48, 65, 108)));
        ShelfPart[] shelf =
        [
            Part(1, 24.62m, 7),
            Part(2, 24.90m, null, Known(280.5m, 48, 65.1m)),
            Part(3, 24.40m, 7) with
            {
                ShelvedWith = 4,
            },
            Part(4, 24.50m, 7) with
            {
                ShelvedWith = 3,
            },
            Part(5, 24.95m, 7),
        ];
        var offers = ShelfMatch.Find(wanted, shelf, Least, Apart);
        offers.Select(o => string.Join('+', o.Parts.Select(p => p.Id))).ShouldBe(["3+4", "5", "1", "4", "3", "2"]);
        offers[0].Left.ShouldBe(Mm.Of(0.4m));
        offers[^1].Unknown.ShouldBe([FitDimension.BoltCircle, FitDimension.Width]);
        (offers[^1].SameEntry, offers[^1].StudsUnknown).ShouldBe((false, true));
    }

    [Fact]
    public void What_is_worn_of_another_kind_or_of_other_studs_is_not_offered_nor_a_pair_of_which_one_is_gone()
    {
        var wanted = Wanted(new(PartKind.Rotor, 7, false, 5, Known(280, 48)));
        ShelfMatch.Find(wanted, [Part(1, 24.29m, 7)], Least, Apart).ShouldBeEmpty();
        ShelfMatch.Find(wanted, [Part(1, 24.30m, 7)], Least, Apart).Count.ShouldBe(1);
        ShelfMatch
            .Find(wanted, [Part(1, 24.9m, 7) with { Fit = new(PartKind.Drum, 7, false, 5, Known(280, 48)) }], Least, Apart)
            .ShouldBeEmpty();
        ShelfMatch
            .Find(wanted, [Part(1, 24.9m, 7) with { Fit = new(PartKind.Rotor, 7, false, 4, Known(280, 48)) }], Least, Apart)
            .ShouldBeEmpty();
        // Of another entry with one known dimension nobody can tell.
        ShelfMatch.Find(wanted, [Part(1, 24.9m, 8, Known(280))], Least, Apart).ShouldBeEmpty();
        ShelfMatch.Find(wanted, [Part(1, 24.9m, 7) with { ShelvedWith = 2 }], Least, Apart).Single().Parts.Count.ShouldBe(1);
        // Two that differ by more than an axle may are no pair.
        ShelfPart[] axle = [Part(1, 24.4m, 7) with { ShelvedWith = 2 }, Part(2, 24.9m, 7) with { ShelvedWith = 1 }];
        ShelfMatch.Find(wanted, axle, Least, Apart)[0].Parts.Count.ShouldBe(2);
        ShelfMatch.Find(wanted, axle, Least, Mm.Of(0.49m)).ShouldAllBe(o => o.Parts.Count == 1);
        Should.Throw<ArgumentOutOfRangeException>(() => ShelfMatch.Find(wanted, [], Length.Zero, Apart));
    }

    [Fact]
    public void The_stricter_limits_of_both_hold_and_nothing_stopped_past_machine_to_or_of_another_hat_is_offered()
    {
        var fit = new FitFacts(PartKind.Rotor, 7, false, null, Known(280, 48));
        // It has 0.9 by its own limits and 0.5 in the place that it is wanted for.
        ShelfMatch.Find(new(fit, Mm.Of(24.6m), Mm.Of(24.4m)), [Part(1, 24.9m, 7)], Least, Apart).Single().Left.ShouldBe(Mm.Of(0.5m));
        ShelfMatch.Find(new(fit, Mm.Of(24.91m), Mm.Of(24.4m)), [Part(1, 24.9m, 7)], Least, Apart).ShouldBeEmpty();
        ShelfMatch.Find(new(fit, Mm.Of(23), Mm.Of(22)), [Part(1, 24.9m, 7)], Least, Apart).Single().Left.ShouldBe(Mm.Of(0.9m));
        // Past its own machine-to, with life left to discard.
        ShelfMatch.Find(Wanted(fit), [Part(1, 24.9m, 7) with { MachineTo = Mm.Of(24.95m) }], Least, Apart).ShouldBeEmpty();
        ShelfMatch.Find(Wanted(fit), [Part(1, 24.9m, 7) with { IsStopped = true }], Least, Apart).ShouldBeEmpty();
        ShelfMatch.Find(Wanted(fit with { HasDrumInHat = true }), [Part(1, 24.9m, 7)], Least, Apart).ShouldBeEmpty();
        // A drum is the other way round.
        var bore = new FitFacts(PartKind.Drum, 9, false, null, Known(200, 60));
        var drum = new ShelfPart(2, bore, Mm.Of(200.5m), Mm.Of(201.2m), Mm.Of(202), true);
        ShelfMatch.Find(new(bore, Mm.Of(201), Mm.Of(201.5m)), [drum], Least, Apart).Single().Left.ShouldBe(Mm.Of(1));
        ShelfMatch.Find(new(bore, Mm.Of(200.4m), Mm.Of(201.5m)), [drum], Least, Apart).ShouldBeEmpty();
    }

    [Fact]
    public void Nothing_is_offered_that_does_not_fit_in_every_dimension_known_on_both_sides_and_the_others_are_named()
    {
        // Each dimension is unknown, or lies some tenths about a figure.
        var dimensions = Gen.Int[-1, 14].Array[5];
        Gen.Select(dimensions, dimensions, Gen.Bool)
            .Sample(
                (ours, theirs, sameEntry) =>
                {
                    var offers = ShelfMatch.Find(
                        Wanted(new(PartKind.Rotor, 7, false, null, About(ours))),
                        [Part(1, 24.9m, sameEntry ? 7 : 8, About(theirs))],
                        Least,
                        Apart
                    );
                    var both = Enum.GetValues<FitDimension>().Where(d => ours[(int)d] >= 0 && theirs[(int)d] >= 0).ToList();
                    var fits = both.TrueForAll(d => Math.Abs(ours[(int)d] - theirs[(int)d]) / 10m <= ShelfMatch.Tolerance(d).Millimetres);
                    offers.Count.ShouldBe(fits && (sameEntry || both.Count >= ShelfMatch.FewestKnown) ? 1 : 0);
                    if (offers.Count == 1)
                        offers[0].Unknown.ShouldBe(Enum.GetValues<FitDimension>().Except(both));
                },
                iter: 5000
            );
    }

    private static Dictionary<FitDimension, Length> About(int[] tenths) =>
        Enum.GetValues<FitDimension>().Where(d => tenths[(int)d] >= 0).ToDictionary(d => d, d => Mm.Of(100 + tenths[(int)d] / 10m));

    // Diameter, height, hole and bolt circle, as far as they are given.
    private static Dictionary<FitDimension, Length> Known(params decimal[] sizes) =>
        sizes.Select((s, i) => ((FitDimension)i, s)).ToDictionary(x => x.Item1, x => Mm.Of(x.s));

    private static ShelfPart Part(long id, decimal size, long? entry, Dictionary<FitDimension, Length>? known = null) =>
        new(id, new(PartKind.Rotor, entry, false, null, known ?? []), Mm.Of(size), Mm.Of(24.2m), Mm.Of(24), true);

    private static WantedPart Wanted(FitFacts fit) => new(fit, null, null);
}
