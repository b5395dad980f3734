using CsCheck;
using Uncial.Core.Gauges;
using Uncial.Core.Lengths;

namespace Uncial.Core.Tests;

public class GaugeTests
{
    private static readonly GaugeFacts Micrometer = new(GaugeKind.Micrometer, Mm.Of(0.001m), CertificateUncertainty: Mm.Of(0.002m), StandardUncertainty: Mm.Of(0.001m));

    private static double U(GaugeFacts gauge, decimal size, params decimal[] repeats) =>
        (double)ReadingUncertainty.Of(gauge, Mm.Of(size), [.. repeats.Select(Mm.Of)], ShopRules.Default).Expanded.Millimetres;

    [Fact]
    public void Uncertainty_adds_up_in_squares()
    {
        var temperature = 11e-6 * 24 * 3 / Math.Sqrt(3);
        var step = 0.001 / (2 * Math.Sqrt(3));
        U(Micrometer, 24).ShouldBe(2 * Math.Sqrt(0.001 * 0.001 + 0.0005 * 0.0005 + 2 * step * step + 0.003 * 0.003 + temperature * temperature), 5e-6);
        // Without a certificate the maker's error stands in, without that one step; three repeats say more than the shop's usual figure.
        U(Micrometer with { CertificateUncertainty = null, PermissibleError = Mm.Of(0.004m) }, 24).ShouldBeGreaterThan(U(Micrometer, 24));
        U(Micrometer with { CertificateUncertainty = null }, 24).ShouldBe(U(Micrometer, 24), 5e-6);
        U(Micrometer, 24, 24.001m, 24.001m, 24.001m).ShouldBeLessThan(U(Micrometer, 24));
        U(Micrometer, 24, 24.001m, 24.011m, 24.006m).ShouldBe(2 * Math.Sqrt(0.001 * 0.001 + 0.0005 * 0.0005 + 2 * step * step + Math.Pow(2.3 * 0.005, 2) + temperature * temperature), 5e-6);
        // Never below one step of the gauge; a drum gauge repeats worse than a micrometer.
        U(new(GaugeKind.Caliper, Mm.Of(0.05m), Mm.Of(0.001m)), 24, 24m, 24m, 24m).ShouldBe(0.05, 1e-9);
        U(new(GaugeKind.DrumGauge, Mm.Of(0.01m), Mm.Of(0.01m)), 228).ShouldBeInRange(0.041, 0.045);
    }

    [Fact]
    public void A_zero_correction_brings_in_its_own_scatter()
    {
        Length With(int zeroReadings) => ReadingUncertainty.Of(Micrometer, Mm.Of(24), [], ShopRules.Default, zeroReadings).Expanded;
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
        static DateTimeOffset At(int minute) => DateTimeOffset.UnixEpoch.AddMinutes(minute);
        var flagged = ZeroCheck.Flagged([(At(60), false), (At(0), true), (At(30), true), (At(90), true)], [At(10), At(40), At(55), At(70), At(95)]);
        flagged.ShouldBe([false, true, true, true, false]);
        ZeroCheck.Flagged([(At(60), false)], [At(10)]).ShouldBe([true]); // never checked before
        ZeroCheck.Flagged([], [At(10)]).ShouldBe([false]);
        Gen.Select(Gen.Select(Gen.Int[0, 99], Gen.Bool).Array[0, 6], Gen.Int[0, 99]).Sample((checks, reading) =>
        {
            var only = ZeroCheck.Flagged([.. checks.Select(c => (At(c.Item1), c.Item2))], [At(reading)])[0];
            if (checks.All(c => c.Item2)) only.ShouldBeFalse();
            if (checks.Length > 0 && checks.All(c => !c.Item2)) only.ShouldBeTrue();
        });
    }
}
