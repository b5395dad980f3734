using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Vehicles;

namespace Uncial.Core.Tests.Vehicles;

public class WearForecastTests
{
    private static readonly Length Limit = Mm.Of(DrivenVehicles.Discard);

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    [InlineData(4)]
    public void A_range_holds_the_truth_of_four_vehicles_in_five(int seed)
    {
        var (road, time, all, open) = (0, 0, 0, 0);
        foreach (var rotor in DrivenVehicles.Drive(seed, 10_000, Mm.Of(0.03m)))
        {
            var forecast = WearForecast.Of(PartKind.Rotor, Limit, rotor.Seen).ShouldNotBeNull();
            all++;
            road += Holds(forecast.Road, rotor.Kilometres);
            time += Holds(forecast.Time, rotor.Days);
            open += forecast.Road!.Value.Most is null ? 1 : 0;
        }
        ((double)road / all).ShouldBe(0.80, 0.05, $"by road; {open} open");
        ((double)time / all).ShouldBe(0.80, 0.05, "by time");
        open.ShouldBeLessThan(all / 20);
    }

    private static int Holds(Stretch? range, double truth) =>
        range is { } r && (double)r.Least <= truth && (r.Most is not { } most || truth <= (double)most) ? 1 : 0;

    [Fact]
    public void Two_visits_give_a_range_about_what_the_arithmetic_says_rounded_outward()
    {
        // 0.40 mm in 20 000 km and a year: 1.00 mm more goes 50 000 km and 915 days.
        var forecast = WearForecast.Of(PartKind.Rotor, Mm.Of(24), [At(2024, 1, 10_000, 25.4m), At(2025, 1, 30_000, 25)]).ShouldNotBeNull();
        forecast.Source.ShouldBe(RateSource.OwnVisits);
        var road = forecast.Road.ShouldNotBeNull();
        road.Least.ShouldBeInRange(25_000, 40_000);
        road.Most.ShouldNotBeNull().ShouldBeInRange(62_000, 100_000);
        (road.Least % 1000, road.Most % 1000).ShouldBe((0m, 0m));
        var dates = forecast.Dates.ShouldNotBeNull();
        (dates.Grain, dates.First.Day).ShouldBe((DateGrain.Year, 1));
        dates.First.ShouldBeLessThan(new(2027, 7, 1));
        dates.Last.ShouldNotBeNull().ShouldBeGreaterThan(new(2027, 7, 1));
    }

    [Fact]
    public void A_drum_wears_to_larger_sizes_and_what_a_cut_takes_is_no_wear()
    {
        // 0.2 mm of wear in each of two stretches of 20 000 km, and 0.5 mm cut between: 0.6 mm more goes 60 000 km.
        SizeSeen[] visits =
        [
            At(2023, 1, 10_000, 228.6m),
            At(2024, 1, 30_000, 228.8m) with
            {
                Left = Mm.Of(229.3m),
            },
            At(2025, 1, 50_000, 229.5m),
        ];
        var road = WearForecast.Of(PartKind.Drum, Mm.Of(230.1m), visits).ShouldNotBeNull().Road.ShouldNotBeNull();
        (road.Least < 60_000 && road.Most > 60_000 && road.Most < 120_000).ShouldBeTrue($"{road}");
        WearForecast.RateOf(PartKind.Drum, visits, byDay: false).ShouldNotBeNull().ShouldBe(1e-5, 1e-9);
    }

    [Fact]
    public void One_visit_goes_by_new_or_by_the_same_model_and_says_so_or_by_nothing()
    {
        var now = At(2025, 1, 30_000, 25);
        WearForecast.Of(PartKind.Rotor, Limit, [now]).ShouldBeNull();
        WearForecast
            .Of(PartKind.Rotor, Limit, [now], fitted: At(2022, 1, 0, 26))
            .ShouldNotBeNull()
            .ShouldSatisfyAllConditions(f => f.Source.ShouldBe(RateSource.FromNew), f => f.Time.ShouldNotBeNull());
        var one = WearForecast.Of(PartKind.Rotor, Limit, [now], null, ModelRates.Of([2e-5])).ShouldNotBeNull();
        var many = WearForecast.Of(PartKind.Rotor, Limit, [now], null, ModelRates.Of([.. Enumerable.Repeat(2e-5, 30)])).ShouldNotBeNull();
        (one.Source, one.Vehicles, one.Time, many.Vehicles).ShouldBe((RateSource.SameModel, 1, null, 30));
        // 2 mm at 0.02 mm in a thousand is 100 000 km; thirty vehicles tell more than one.
        (one.Road!.Value.Least < many.Road!.Value.Least && many.Road.Value.Least < 100_000).ShouldBeTrue();
        (one.Road.Value.Most > many.Road.Value.Most && many.Road.Value.Most > 100_000).ShouldBeTrue();
        ModelRates.Of([0, -1e-5]).ShouldBeNull();
    }

    [Fact]
    public void Wear_that_the_gauge_cannot_tell_gives_no_end_and_a_limit_that_is_reached_gives_none_to_go()
    {
        WearForecast
            .Of(PartKind.Rotor, Limit, [At(2024, 1, 10_000, 25.01m), At(2025, 1, 30_000, 25)])
            .ShouldNotBeNull()
            .Road.ShouldNotBeNull()
            .ShouldSatisfyAllConditions(r => r.Most.ShouldBeNull(), r => r.Least.ShouldBeGreaterThan(100_000));
        WearForecast
            .Of(PartKind.Rotor, Limit, [At(2024, 1, 10_000, 24), At(2025, 1, 30_000, 22.9m)])
            .ShouldNotBeNull()
            .Road.ShouldBe(new Stretch(0, 0));
        // One visit is enough to know that.
        var (there, inside) = (At(2025, 1, null, 22.99m), At(2025, 1, null, 23.01m));
        WearForecast.Of(PartKind.Rotor, Limit, [there]).ShouldNotBeNull().Time.ShouldBe(new Stretch(0, 0));
        WearForecast.Of(PartKind.Rotor, Limit, [inside]).ShouldBeNull();
    }

    [Fact]
    public void A_visit_without_a_distance_and_an_odometer_that_was_changed_leave_the_rest_to_tell()
    {
        SizeSeen[] visits =
        [
            At(2022, 1, 10_000, 26),
            At(2023, 1, null, 25.8m),
            At(2024, 1, 30_000, 25.6m),
            At(2024, 6, 100, 25.5m),
            At(2025, 1, 10_100, 25.3m),
        ];
        WearForecast.RateOf(PartKind.Rotor, visits, byDay: false).ShouldNotBeNull().ShouldBe(0.6 / 30_000, 1e-9);
        Should.Throw<ArgumentException>(() => WearForecast.Of(PartKind.Rotor, Limit, []));
    }

    private static SizeSeen At(int year, int month, decimal? kilometres, decimal size) =>
        new(new(year, month, 1), kilometres, Mm.Of(size), null, Mm.Of(0.03m));
}
