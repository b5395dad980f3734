using CsCheck;
using Uncial.Core.Gauges;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Core.Tests;

public class GaugeTests
{
    private static readonly GaugeFacts Micrometer = new(
        GaugeKind.Micrometer,
        Mm.Of(0.001m),
        CertificateUncertainty: Mm.Of(0.002m),
        StandardUncertainty: Mm.Of(0.001m)
    );

    private static double U(GaugeFacts gauge, decimal size, int repeats = 1, Repeatability pooled = default) =>
        (double)ReadingUncertainty.Of(gauge, Mm.Of(size), repeats, ShopRules.Default, pooled: pooled).Expanded.Millimetres;

    [Fact]
    public void Uncertainty_adds_up_in_squares()
    {
        var temperature = 11e-6 * 24 * 3 / Math.Sqrt(3);
        var step = 0.001 / (2 * Math.Sqrt(3));
        U(Micrometer, 24)
            .ShouldBe(2 * Math.Sqrt(0.001 * 0.001 + 0.0005 * 0.0005 + 2 * step * step + 0.003 * 0.003 + temperature * temperature), 5e-6);
        // Without a certificate the maker's error stands in, without that one step.
        U(Micrometer with { CertificateUncertainty = null, PermissibleError = Mm.Of(0.004m) }, 24).ShouldBeGreaterThan(U(Micrometer, 24));
        U(Micrometer with { CertificateUncertainty = null }, 24).ShouldBe(U(Micrometer, 24), 5e-6);
        // The mean of four repeats half as well as one.
        U(Micrometer, 24, repeats: 4)
            .ShouldBe(
                2 * Math.Sqrt(0.001 * 0.001 + 0.0005 * 0.0005 + 2 * step * step + Math.Pow(0.003 / 2, 2) + temperature * temperature),
                5e-6
            );
        // Three repeats of 5 µm do not take the place of the shop's 3 µm: √((10 · 3² + 2 · 5²) / 12) = 3.42.
        var three = Repeatability.Of([
            [Mm.Of(24.001m), Mm.Of(24.011m), Mm.Of(24.006m)],
            [Mm.Of(24m)],
        ]);
        (three.Own, three.Degrees).ShouldBe((Mm.Of(0.005m), 2));
        three.Deviation(Mm.Of(0.003m)).Millimetres.ShouldBe(0.003416m, 0.000001m);
        U(Micrometer, 24, pooled: three)
            .ShouldBe(
                2 * Math.Sqrt(0.001 * 0.001 + 0.0005 * 0.0005 + 2 * step * step + Math.Pow(0.003416, 2) + temperature * temperature),
                5e-6
            );
        // However well it repeats, never below a third of the shop's figure.
        new Repeatability(0, 100_000).Deviation(Mm.Of(0.003m)).ShouldBe(Mm.Of(0.001m));
        // Never below one step of the gauge; a drum gauge repeats worse than a micrometer.
        U(new(GaugeKind.Caliper, Mm.Of(0.05m), Mm.Of(0.001m)), 24, repeats: 9).ShouldBe(0.05, 1e-9);
        U(new(GaugeKind.DrumGauge, Mm.Of(0.01m), Mm.Of(0.01m)), 228).ShouldBeInRange(0.041, 0.045);
    }

    /// <summary>
    /// Hands of a true scatter from half the shop's figure to twice it, with 0 to 60 repeats on record: their readings must not err past U
    /// to
    /// either side more than 2.5 % of the time over all of them, and U must not be much larger than for one who knew the scatter. Three
    /// repeats
    /// alone, with the tables that were used before, erred past it far more often for a third of the hands.
    /// </summary>
    [Fact]
    public void Pooled_repeats_cover_what_a_reading_may_be_off_and_not_much_more()
    {
        var random = new Random(20261129);
        double Normal() => Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble());
        var usual = Mm.Of(0.003m);
        var (readings, past, sum, ideal) = (0, 0, 0.0, 0.0);
        for (var hand = 0; hand < 4000; hand++)
        {
            // Most hands are about as good as the shop thinks.
            var scatter = 0.003 * Math.Exp(Math.Clamp(0.25 * Normal(), -0.7, 0.7));
            var spots = Enumerable
                .Range(0, hand % 31)
                .Select(_ =>
                    (IReadOnlyList<Length>)
                        [.. Enumerable.Range(0, 3).Select(_ => Length.FromMillimetres(24 + Math.Round((decimal)(scatter * Normal()), 6)))]
                );
            var pooled = Repeatability.Of(spots);
            var bias = 0.001 * Normal(); // half of the certificate's uncertainty
            var u = U(Micrometer, 24, pooled: pooled);
            (sum, ideal) = (sum + u, ideal + 2 * Math.Sqrt(0.001 * 0.001 + scatter * scatter));
            for (var n = 0; n < 20; n++, readings++)
                if (bias + scatter * Normal() > u)
                    past++;
        }
        ((double)past / readings).ShouldBeLessThan(0.025);
        (sum / ideal).ShouldBeLessThan(1.3);
    }

    [Fact]
    public void Few_repeats_take_a_larger_factor()
    {
        // All of the uncertainty is of repeats: 10 degrees of freedom make Student's 2.23, 30 make 2.05 at least.
        default(Repeatability).CoverageFactor(Mm.Of(0.003m), Mm.Of(0.003m)).ShouldBe(2.23m, 0.01m);
        new Repeatability(0.001m, 20).CoverageFactor(Mm.Of(0.003m), Mm.Of(0.003m)).ShouldBe(2.05m, 0.01m);
        default(Repeatability).CoverageFactor(Mm.Of(0.010m), Mm.Of(0.003m)).ShouldBe(2m); // little of it is
    }

    [Fact]
    public void A_zero_correction_brings_in_its_own_scatter()
    {
        Length With(int zeroReadings) => ReadingUncertainty.Of(Micrometer, Mm.Of(24), 1, ShopRules.Default, zeroReadings).Expanded;
        With(1).ShouldBeGreaterThan(With(3));
        With(3).ShouldBeGreaterThan(With(0));
    }

    [Fact]
    public void A_warm_part_reads_thick() => ReadingUncertainty.WarmPartReads(Mm.Of(24), 40).ShouldBe(Mm.Of(0.01056m));

    [Fact]
    public void A_check_on_the_standard_corrects_or_fails_the_gauge()
    {
        var small = new ZeroCheck(Mm.Of(25m), Mm.Of(25.003m), Mm.Of(0.005m));
        small.Passes.ShouldBeTrue();
        small.Correct(Mm.Of(24.313m)).ShouldBe(Mm.Of(24.310m));
        (small with { Shown = Mm.Of(24.994m) }).Passes.ShouldBeFalse();
        (small with { Shown = Mm.Of(25.005m) }).Passes.ShouldBeTrue(); // at the tolerance
    }

    [Fact]
    public void A_failed_check_flags_what_was_read_since_the_last_good_one()
    {
        var flagged = ZeroCheck.Flagged([(6, false), (1, true), (3, true), (9, true)], [1, 3, 3, 6, 9]);
        flagged.ShouldBe([false, true, true, true, false]);
        ZeroCheck.Flagged([(6, false)], [0]).ShouldBe([true]); // never checked before
        ZeroCheck.Flagged([], [0]).ShouldBe([false]);
        Gen.Select(Gen.Select(Gen.Int[0, 99], Gen.Bool).Array[0, 6], Gen.Int[0, 99])
            .Sample(
                (checks, reading) =>
                {
                    var only = ZeroCheck.Flagged([.. checks.Select(c => ((long)c.Item1, c.Item2))], [reading])[0];
                    if (checks.All(c => c.Item2))
                        only.ShouldBeFalse();
                    if (checks.Length > 0 && checks.All(c => !c.Item2))
                        only.ShouldBeTrue();
                }
            );
    }

    [Fact]
    public void A_bar_proposes_the_highest_start_from_which_the_dial_reaches_the_limit()
    {
        var stations = Bar.WithStations(
            [.. new[] { 8.00m, 8.25m, 8.50m, 8.75m, 9.00m, 9.25m }.Select(Length.FromInches)],
            Length.FromInches(0.3m),
            LengthUnit.Inch
        );
        var drum = Limits.Create(PartKind.Drum, Length.FromInches(9m), null, Length.FromInches(9.06m), ShopRules.Default).Limits!;
        stations.StartFor(drum).ShouldBe(Length.FromInches(9m));
        // The new size lies below the highest start: a drum with little wear would stand below zero on the dial there.
        var between = Limits.Create(PartKind.Drum, Length.FromInches(8.98m), null, Length.FromInches(9.04m), ShopRules.Default).Limits!;
        stations.StartFor(between).ShouldBe(Length.FromInches(8.75m));
        stations
            .StartFor(Limits.Create(PartKind.Drum, null, null, Length.FromInches(9.04m), ShopRules.Default).Limits!)
            .ShouldBe(Length.FromInches(9m));
        stations.StartFor(Mm.Drum(300m)).ShouldBeNull();
        stations.StartFor(Mm.Drum(203.2m)).ShouldBeNull(); // a start at the limit is not below it
        stations.Near(Length.FromInches(9m), 1).Select(s => stations.Name(s)).ShouldBe(["8.75", "9.00", "9.25"]);
        var eighths = Bar.WithEighths(6, 14, Length.FromInches(0.25m));
        eighths.StartFor(drum).ShouldBe(Length.FromInches(9m));
        eighths.Near(Length.FromInches(14m), 2).Select(s => eighths.Name(s)).ShouldBe(["13 1/2", "13 5/8", "13 3/4", "13 7/8", "14"]);
        eighths.IsOnDial(Length.FromInches(8.875m), Length.FromInches(9.007m)).ShouldBeTrue();
        eighths.IsOnDial(Length.FromInches(8.875m), Length.FromInches(9.126m)).ShouldBeFalse();
        eighths.IsOnDial(Length.FromInches(9m), Length.FromInches(8.99m)).ShouldBeFalse();
    }

    [Theory]
    [InlineData("8 7/8", "132", "8 7/8 + 132t", 9.007)]
    [InlineData("8 7/8", ".132", "8 7/8 + .132", 9.007)]
    [InlineData("8 7/8", "132t", "8 7/8 + 132t", 9.007)]
    [InlineData("9", "7", "9 + 7t", 9.007)]
    [InlineData("9", "-3", "9in - 3t", 8.997)]
    [InlineData("9", "-1/8", "9in - 1/8", 8.875)]
    [InlineData("9 1/2", "0", "9 1/2 + 0t", 9.5)]
    public void Start_and_dial_of_a_bar_with_eighths_are_one_sum(string start, string dial, string written, double inches)
    {
        var bar = Bar.WithEighths(6, 14, Length.FromInches(0.25m));
        var at = bar.Starts.Single(s => bar.Name(s) == start);
        bar.Write(at, dial).ShouldBe(written);
        LengthParser.Parse(bar.Write(at, dial), LengthUnit.Inch).Typed!.Value.ShouldBe(Length.FromInches((decimal)inches));
    }

    [Fact]
    public void Every_start_with_every_dial_comes_back_exact()
    {
        var eighths = Bar.WithEighths(6, 14, Length.FromInches(0.25m));
        var metric = Bar.WithStations([.. Enumerable.Range(16, 20).Select(n => Mm.Of(n * 10))], Mm.Of(12m), LengthUnit.Millimetre);
        Gen.Select(Gen.Int[0, 64], Gen.Int[0, 250])
            .Sample(
                (s, thou) =>
                    LengthParser
                        .Parse(
                            eighths.Write(eighths.Starts[s], thou.ToString(System.Globalization.CultureInfo.InvariantCulture)),
                            LengthUnit.Inch
                        )
                        .Typed!.Value
                    == eighths.Starts[s] + Length.FromInches(thou / 1000m)
            );
        Gen.Select(Gen.Int[0, 19], Gen.Int[0, 1200])
            .Sample(
                (s, hundredths) =>
                    LengthParser
                        .Parse(
                            metric.Write(metric.Starts[s], (hundredths / 100m).ToString(System.Globalization.CultureInfo.InvariantCulture)),
                            LengthUnit.Millimetre
                        )
                        .Typed!.Value
                    == metric.Starts[s] + Mm.Of(hundredths / 100m)
            );
    }

    [Fact]
    public void A_line_of_a_gauge_comes_back_as_it_was_sent_and_any_other_is_none()
    {
        Gen.Select(
                Gen.Enum<GaugeWord>(),
                Gen.Int[-99_999, 2_000_000],
                Gen.Enum<LengthUnit>(),
                Gen.Bool,
                Gen.Int[0, 100].Nullable(),
                Gen.Long[1, 1_000_000]
            )
            .Sample(
                (word, thousandths, unit, stable, battery, n) =>
                {
                    var text = (thousandths / 1000m).ToString("F3", System.Globalization.CultureInfo.InvariantCulture);
                    var line =
                        word == GaugeWord.Hello
                            ? new GaugeLine(word, null, default, false, battery, 0) { Session = "a1" }
                            : new(word, text, unit, stable, battery, word == GaugeWord.Send ? n : 0);
                    GaugeLine.Read(line.Write()).ShouldBe(line);
                    if (word == GaugeWord.Send && thousandths is > 0 and < 78_000)
                        LengthParser.Parse(line.Typed, LengthUnit.Inch).Typed!.Value.ShouldBe(Length.From(thousandths / 1000m, unit));
                }
            );
        foreach (
            var bad in new[]
            {
                "",
                "  ",
                "READ value=1",
                "NOW",
                "NOW value=24.3 unit=mm",
                "NOW value=24,3 unit=mm stable=yes",
                "NOW value=24.3 unit=cm stable=yes",
                "NOW value=1e3 unit=mm stable=yes",
                "NOW value= unit=mm stable=yes",
                "SEND value=24.3 unit=mm stable=yes",
                "SEND n=0 value=24.3 unit=mm stable=yes",
                "SEND n=-1 value=24.3 unit=mm stable=yes",
                "NOW value=24.3 unit=mm stable=yes battery=101",
                "NOW value=24.3 value=24.4 unit=mm stable=yes",
                "NOW value=24. unit=mm stable=yes",
                "now value=24.3 unit=mm stable=yes",
                "NOW =24.3 unit=mm stable=yes",
                "NOW " + new string('x', 300),
            }
        )
            GaugeLine.Read(bad).ShouldBeNull(bad);
        Gen.String.Sample(text =>
        {
            _ = GaugeLine.Read(text);
        }); // nothing that comes in breaks the reader
    }

    [Fact]
    public void The_starts_of_a_bar_are_read_as_they_are_written()
    {
        BarText.Read("8.00 8,25 8.50", LengthUnit.Inch)!.Select(s => s.Inches).ShouldBe([8m, 8.25m, 8.5m]);
        BarText.Read("6 to 16 by 0.25", LengthUnit.Inch)!.Count.ShouldBe(41);
        BarText.Write(BarText.Read("200 to 300 by 10", LengthUnit.Millimetre)!, LengthUnit.Millimetre).ShouldBe("200 to 300 by 10");
        foreach (var bad in new[] { "", "six", "6 to", "16 to 6", "6 to 16 by 0", "6 to 16 by", "1 to 2000 by 0.001", "-6", "0" })
            BarText.Read(bad, LengthUnit.Inch).ShouldBeNull(bad);
        Gen.Int[1, 2000]
            .Array[1, 20]
            .Sample(n =>
            {
                var starts = n.Distinct().Order().Select(Mm => Length.FromMillimetres(Mm)).ToList();
                BarText.Read(BarText.Write(starts, LengthUnit.Millimetre), LengthUnit.Millimetre).ShouldBe(starts);
            });
    }

    [Theory]
    [InlineData(25, 26.0, false)]
    [InlineData(25, 26.001, true)]
    [InlineData(25.4, 1.0, true)] // read in inches
    public void A_check_that_is_more_than_a_millimetre_off_was_read_on_another_standard_or_in_another_unit(
        double nominal,
        double shown,
        bool other
    ) => new ZeroCheck(Mm.Of((decimal)nominal), Mm.Of((decimal)shown), Mm.Of(0.01m)).IsOfAnotherStandard.ShouldBe(other);
}
