using CsCheck;
using Uncial.Core.Lengths;

namespace Uncial.Core.Tests;

public class LengthTests
{
    [Theory]
    [InlineData("8 7/8 + 132t", 228.7778, "8 7/8 + 132t = 8.875 + 0.132 = 9.007 in = 228.7778 mm")]
    [InlineData("8 - 7/8", 225.425, "8 7/8 = 8.875 in = 225.425 mm")]
    [InlineData("8-7/8", 225.425, null)]
    [InlineData("8in - 7/8in", 180.975, "8in - 7/8 = 8 - 0.875 = 7.125 in = 180.975 mm")]
    [InlineData("11 + 6/8 + 50t", 299.72, "11 + 6/8 + 50t = 11 + 0.75 + 0.05 = 11.8 in = 299.72 mm")]
    [InlineData("9.750 + .220", 253.238, "9.750 + .220 = 9.75 + 0.22 = 9.97 in = 253.238 mm")]
    [InlineData("9.75in - 0.2mm", 247.45, "9.75in - 0.2mm = 247.65 - 0.2 = 247.45 mm ≈ 9.7421 in")]
    [InlineData("7/8\"", 22.225, null)]
    [InlineData(".957", 24.3078, "0.957 in = 24.3078 mm")]
    [InlineData("957 THOU", 24.3078, "957t = 0.957 in = 24.3078 mm")]
    [InlineData("24,31 MM", 24.31, "24.31mm = 24.31 mm ≈ 0.9571 in")]
    public void Reads_what_a_gauge_shows_in_an_inch_field(string text, decimal millimetres, string? echo)
    {
        var typed = LengthParser.Parse(text, LengthUnit.Inch).Typed.ShouldNotBeNull();
        typed.Value.Millimetres.ShouldBe(millimetres);
        if (echo is not null)
            typed.Echo.ShouldBe(echo);
    }

    [Theory]
    [InlineData("24.31", 24.31, "24.31 mm ≈ 0.9571 in")]
    [InlineData("24+.31", 24.31, "24 + .31 = 24 + 0.31 = 24.31 mm ≈ 0.9571 in")]
    [InlineData("8 7/8in + 132t", 228.7778, "8 7/8in + 132t = 8.875 + 0.132 = 9.007 in = 228.7778 mm")]
    [InlineData("0.957\"", 24.3078, null)]
    [InlineData("2000", 2000, null)]
    public void Reads_what_a_gauge_shows_in_a_millimetre_field(string text, decimal millimetres, string? echo)
    {
        var typed = LengthParser.Parse(text, LengthUnit.Millimetre).Typed.ShouldNotBeNull();
        typed.Value.Millimetres.ShouldBe(millimetres);
        if (echo is not null)
            typed.Echo.ShouldBe(echo);
    }

    [Theory]
    [InlineData("", LengthFault.Empty, 0)]
    [InlineData("  ", LengthFault.Empty, 0)]
    [InlineData("8 7/8", LengthFault.FractionInMillimetres, 2)]
    [InlineData("7/8mm", LengthFault.FractionInMillimetres, 3)]
    [InlineData("8 9/8in", LengthFault.FractionNotProper, 2)]
    [InlineData("8 7/10in", LengthFault.DenominatorNotOfATape, 4)]
    [InlineData("8 7/in", LengthFault.DenominatorExpected, 4)]
    [InlineData("24.3.1", LengthFault.SecondPoint, 4)]
    [InlineData("1,234.5", LengthFault.SecondPoint, 5)]
    [InlineData("24.", LengthFault.DigitsExpected, 3)]
    [InlineData("24 31", LengthFault.SignExpected, 3)]
    [InlineData("24 + ", LengthFault.NumberExpected, 5)]
    [InlineData("-24", LengthFault.NumberExpected, 0)]
    [InlineData("٢٤", LengthFault.NumberExpected, 0)]
    [InlineData("24 furlongs", LengthFault.SignExpected, 3)]
    [InlineData("24 - 24", LengthFault.NotPositive, 0)]
    [InlineData("2000.01", LengthFault.TooLarge, 0)]
    [InlineData("1234567890123", LengthFault.TooManyDigits, 0)]
    public void Says_what_is_wrong_and_where(string text, LengthFault fault, int position)
    {
        var result = LengthParser.Parse(text, LengthUnit.Millimetre);
        result.Typed.ShouldBeNull();
        (result.Fault, result.Position).ShouldBe((fault, position));
    }

    [Fact]
    public void What_is_printed_is_read_back_to_the_last_digit()
    {
        Gen.Int[1, 20_000_000]
            .Select(Gen.Bool)
            .Sample(
                (tenThousandths, inch) =>
                {
                    var unit = inch ? LengthUnit.Inch : LengthUnit.Millimetre;
                    var length = Length.From(tenThousandths / 10_000m / (inch ? 26 : 1), unit);
                    var text = LengthText.Figure(length, unit, 10, Toward.Nearest);
                    var back = LengthParser.Parse(text[..Math.Min(text.Length, 13)], unit).Typed.ShouldNotBeNull();
                    (back.Value - length).Abs().Millimetres.ShouldBeLessThan(0.0000001m);
                }
            );
    }

    [Fact]
    public void No_text_whatever_throws()
    {
        Gen.String[Gen.Char["0123456789 ./,-+tinmTHOU\"x°½"], 0, 14]
            .Sample(text =>
            {
                foreach (var unit in Enum.GetValues<LengthUnit>())
                {
                    var result = LengthParser.Parse(text, unit);
                    (result.Typed is null).ShouldBe(result.Fault is not null);
                    result.Position.ShouldBeInRange(0, text.Length);
                    if (result.Typed is { } typed)
                        typed.Value.Millimetres.ShouldBeInRange(0.0000000001m, 2000m);
                }
            });
    }

    [Fact]
    public void A_shown_limit_is_never_looser_than_the_limit()
    {
        LengthText.Limit(Mm.Of(230.5m), LengthUnit.Inch, isLeast: false).ShouldBe("9.074");
        LengthText.Limit(Mm.Of(22.4m), LengthUnit.Inch, isLeast: true).ShouldBe("0.882");
        LengthText.Figure(Mm.Of(24.31m), LengthUnit.Inch, 8).ShouldBe("0.95708661");
        Gen.Int[100, 50_000]
            .Select(Gen.Bool)
            .Sample(
                (hundredths, isLeast) =>
                {
                    var limit = Mm.Of(hundredths / 100m);
                    foreach (var unit in Enum.GetValues<LengthUnit>())
                    {
                        var shown = LengthParser.Parse(LengthText.Limit(limit, unit, isLeast), unit).Typed!.Value;
                        (isLeast ? shown >= limit : shown <= limit).ShouldBeTrue();
                    }
                }
            );
    }

    [Fact]
    public void A_reading_is_shown_with_the_digits_it_has()
    {
        LengthText.Reading(Mm.Of(24.313m), LengthUnit.Millimetre).ShouldBe("24.313");
        LengthText.Reading(Mm.Of(24.3m), LengthUnit.Millimetre).ShouldBe("24.30");
        LengthText.Reading(Length.FromInches(9.007m), LengthUnit.Inch).ShouldBe("9.0070");
    }
}
