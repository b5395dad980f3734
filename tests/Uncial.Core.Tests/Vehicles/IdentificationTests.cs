using Uncial.Core.Vehicles;

namespace Uncial.Core.Tests.Vehicles;

public class IdentificationTests
{
    [Theory]
    [InlineData("tq 12 abc", "TQ12ABC", "TQ 12 ABC")]
    [InlineData("  Bus\t7 ", "BUS7", "BUS 7")]
    [InlineData(null, "", "")]
    public void A_plate_is_the_same_one_however_it_is_typed(string? typed, string key, string shown) =>
        (Plate.Key(typed), Plate.Shown(typed)).ShouldBe((key, shown));

    [Theory]
    // Seventeen ones: the sum of the weights is 89, which leaves 1.
    [InlineData("1111 1111 1111 1111 1", VinWord.Fits, 0)]
    [InlineData("11111111211111111", VinWord.CheckDigitDiffers, 9)]
    // A in the first place counts 1, J in the last one 1 as well; P in the second place counts 7 · 7 = 49 instead of 7: 131 leaves 10.
    [InlineData("ap111111X1111111j", VinWord.Fits, 0)]
    [InlineData("1111111111111111", VinWord.Length, 16)]
    [InlineData("111111111111111111", VinWord.Length, 18)]
    [InlineData("111O1111111111111", VinWord.Character, 4)]
    [InlineData("1111111111111111-", VinWord.Character, 17)]
    [InlineData("", VinWord.Length, 0)]
    public void A_vehicle_identification_number_says_where_it_does_not_fit(string text, VinWord word, int at) =>
        Vin.Look(text).ShouldBe((word, at));

    [Fact]
    public void An_odometer_is_read_in_its_own_unit_without_loss()
    {
        Odometer.Parse("62 137", DistanceUnit.Mile)!.Value.Kilometres.ShouldBe(99_999.808128m);
        Odometer.In(99_999.808128m, DistanceUnit.Mile).ShouldBe(62_137);
        Odometer.Parse("9999999", DistanceUnit.Kilometre).ShouldNotBeNull();
        foreach (var wrong in new[] { "", "-1", "10000000", "12,5", "about 90", "1e3" })
            Odometer.Parse(wrong, DistanceUnit.Kilometre).ShouldBeNull(wrong);
    }

    [Fact]
    public void An_odometer_that_goes_back_or_too_far_is_asked_about()
    {
        OdometerReading[] known = [At(2024, 50_000), At(2026, 80_000), At(2025, 60_000)];
        OdometerHistory.Ask(known, At(2027, 90_000)).ShouldBeNull();
        OdometerHistory.Ask(known, At(2026, 80_000)).ShouldBeNull();
        OdometerHistory.Ask([], At(2026, 5)).ShouldBeNull();
        OdometerHistory.Ask(known, At(2027, 79_999)).ShouldBe((OdometerQuestion.GoesBack, known[1]));
        OdometerHistory.Ask(known, At(2025, 59_999)).ShouldBe((OdometerQuestion.GoesBack, known[2]));
        OdometerHistory.Ask([known[0], known[1]], At(2025, 80_001)).ShouldBe((OdometerQuestion.BeyondLater, known[1]));
        OdometerHistory.Ask(known, At(2027, 80_000 + 365 * 1500 + 1)).ShouldBe((OdometerQuestion.TooFar, known[1]));
        // 50 000 miles are more than 80 000 km.
        OdometerHistory.Ask(known, new(new(2026, 2, 1), new(50_000, DistanceUnit.Mile))).ShouldBeNull();
    }

    private static OdometerReading At(int year, decimal figure) => new(new(year, 1, 1), new(figure, DistanceUnit.Kilometre));
}
