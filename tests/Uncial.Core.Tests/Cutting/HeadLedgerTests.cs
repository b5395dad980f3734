using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Parts;
using Uncial.Core.Planning;

namespace Uncial.Core.Tests;

public class HeadLedgerTests
{
    private static HeadLedger Of(
        int count,
        Func<int, double> residual,
        Func<int, decimal>? metres = null,
        Func<int, double?>? slope = null,
        int bits = 2,
        decimal metresNow = 0
    ) =>
        HeadLedger.Of(
            [
                .. Enumerable
                    .Range(0, count)
                    .Select(i => new HeadCut(
                        Mm.Of(0.3m),
                        Mm.Of(0.3m + 2 * Math.Round((decimal)residual(i), 6)),
                        metres?.Invoke(i) ?? 0,
                        slope?.Invoke(i)
                    )),
            ],
            bits,
            metresNow
        );

    private static double Wave(int i) => i % 2 == 0 ? 0.004 : -0.004;

    [Fact]
    public void Twelve_measured_cuts_say_what_a_setting_may_be_wrong_by()
    {
        (Of(11, Wave).Allowance(Mm.Of(0.01m)), Of(11, Wave).State).ShouldBe((null, HeadState.TooFew));
        var twelve = Of(12, Wave);
        twelve.State.ShouldBe(HeadState.Steady);
        // s of ±0.004 over twelve is 0.004178; two bits err each by itself, so √2 of it is one bit's.
        (double z, double mean) = ((double)twelve.Allowance(Mm.Of(0.01m))!.Value.Millimetres, twelve.Mean);
        // The mean is on the side of less metal than the dial says: it takes nothing from a part.
        mean.ShouldBeLessThan(0);
        z.ShouldBe(2.5 * 0.004178 * Math.Sqrt(2), 1e-5);
        var other = Of(12, i => -Wave(i));
        ((double)other.Allowance(Mm.Of(0.01m))!.Value.Millimetres).ShouldBe(2.5 * 0.004178 * Math.Sqrt(2) + other.Mean, 1e-5);
        // One bar on a diameter errs twice over; a head that hits every time keeps half a division.
        ((double)Of(12, Wave, bits: 1).Allowance(Mm.Of(0.01m))!.Value.Millimetres).ShouldBe(2.5 * 0.004178, 1e-5);
        Of(20, _ => 0).Allowance(Mm.Of(0.02m)).ShouldBe(Mm.Of(0.01m));
    }

    [Fact]
    public void A_shift_is_noticed_and_goes_into_the_allowance()
    {
        var shifted = Of(30, i => Wave(i) + (i >= 22 ? 0.012 : 0));
        shifted.State.ShouldBe(HeadState.Drifts);
        shifted.Mean.ShouldBeGreaterThan(0.008);
        shifted.Allowance(Mm.Of(0.01m))!.Value.ShouldBeGreaterThan(Of(30, Wave).Allowance(Mm.Of(0.01m))!.Value + Mm.Of(0.008m));
        Of(60, Wave).State.ShouldBe(HeadState.Steady);
        Of(200, i => i < 100 ? 0.05 : Wave(i)).State.ShouldBe(HeadState.Steady); // long ago is long ago
    }

    [Fact]
    public void Slopes_of_turned_surfaces_say_how_parallel_the_head_cuts()
    {
        Of(4, Wave, slope: _ => 0.0004).ParallelOver(Mm.Of(50)).ShouldBeNull();
        Of(9, Wave, slope: i => i % 3 == 0 ? null : 0.0004).ParallelOver(Mm.Of(50)).ShouldBe(Mm.Of(0.02m));
        Of(9, Wave, slope: i => i % 2 == 0 ? 0.0004 : -0.0004).ParallelOver(Mm.Of(50))!.Value.ShouldBeGreaterThan(Mm.Of(0.04m));
    }

    [Fact]
    public void An_edge_that_wears_takes_ever_less_and_is_due_before_it_shows()
    {
        // 0.002 in a thousand metres, on scatter of half a micrometre.
        var worn = Of(24, i => -0.000002 * 150 * i + (i % 2 == 0 ? 0.0005 : -0.0005), metres: i => 150 * i);
        worn.LossPerThousandMetres!.Value.ShouldBe(-0.002, 0.0002);
        ((double)worn.EdgeDueAfter(Mm.Of(0.025m))!.Value).ShouldBe(0.025 / 4 / 0.002 * 1000, 400);
        (Of(24, Wave, metres: i => 150 * i).LossPerThousandMetres, Of(24, Wave).EdgeDueAfter(Mm.Of(0.025m))).ShouldBe((null, null));
    }

    [Theory]
    [InlineData(8000, 0.005, 2)] // 0.016 short, ± 0.0013
    [InlineData(8000, 0.02, 0)] // under a division
    [InlineData(8000, 0.016, 0)] // a division in the mean, and not surely
    [InlineData(1000, 0.005, 0)] // turned lately: 0.002 short
    public void A_worn_edge_is_set_deeper_by_whole_divisions_that_it_surely_falls_short(
        decimal metresNow,
        decimal division,
        int divisions
    ) =>
        Of(24, i => -0.000002 * 150 * i + (i % 2 == 0 ? 0.0005 : -0.0005), metres: i => 150 * i, metresNow: metresNow)
            .Correction(Mm.Of(division))
            .ShouldBe(divisions);

    [Fact]
    public void Without_a_loss_that_shows_no_setting_is_deepened()
    {
        Of(24, i => Wave(i) - 0.02, metres: i => 150 * i, metresNow: 8000).Correction(Mm.Of(0.005m)).ShouldBe(0); // steady, off its zero
        Of(24, i => 0.000002 * 150 * i, metres: i => 150 * i, metresNow: 8000).Correction(Mm.Of(0.005m)).ShouldBe(0); // ever more metal
        Of(11, i => -0.000002 * 150 * i, metres: i => 150 * i, metresNow: 8000).Correction(Mm.Of(0.005m)).ShouldBe(0); // too few cuts
    }

    /// <summary>
    /// Heads that err by 0.002 to 0.008 and are off by up to 0.005: the next cut is worse than the allowance says in at most one of a
    /// hundred,
    /// with less allowance on average than the fixed 0.01 of a coarse dial needs to be as safe.
    /// </summary>
    [Fact]
    public void The_allowance_of_a_head_holds_for_its_next_cut()
    {
        var random = new Random(12);
        double Normal() => Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble());
        var (worse, cuts) = (0, 0);
        for (var head = 0; head < 800; head++)
        {
            var (scatter, off) = (0.002 + 0.006 * random.NextDouble(), 0.005 * (2 * random.NextDouble() - 1));
            double Bit() => off + scatter * Normal();
            // Residual of a thickness is both bits together, halved.
            var ledger = Of(30, _ => (Bit() + Bit()) / 2);
            var z = (double)ledger.Allowance(Mm.Of(0.002m))!.Value.Millimetres;
            for (var n = 0; n < 10; n++, cuts++)
                if (Bit() + Bit() > 2 * z)
                    worse++;
        }
        ((double)worse / cuts).ShouldBeLessThan(0.01);
    }

    [Fact]
    public void Each_head_has_its_own_dial()
    {
        var lathe = new Lathe
        {
            Name = "L",
            Division = Mm.Of(0.01m),
            DialAllowance = Mm.Of(0.01m),
            Feeds = [new("1", Mm.Of(0.1m))],
            RoughFeed = "1",
            FinishFeed = "1",
            Speeds = [60m],
            NoseRadius = Mm.Of(0.8m),
        };
        lathe.Dial(PartKind.Drum, true).ShouldBe(lathe.Dial(PartKind.Rotor, true)); // marked alike where nobody said otherwise
        var own = lathe with { BarDial = new(Mm.Of(0.02m), LengthUnit.Millimetre, true, Mm.Of(0.02m)) };
        own.Dial(PartKind.Rotor, true).DepthPerDivision.ShouldBe(Mm.Of(0.01m));
        own.Dial(PartKind.Drum, false).ShouldBe(new Dial(Mm.Of(0.02m), true, Mm.Of(0.02m), false));
        own.Dial(PartKind.Drum, true, Mm.Of(0.006m)).Allowance.ShouldBe(Mm.Of(0.006m));
    }

    [Fact]
    public void Few_places_are_spread_unevenly_so_that_no_wave_hides_between_them()
    {
        ReadingPlaces.Around(PartKind.Rotor, 3).ShouldBe([0, 105, 240]); // 12, 3½, 8
        ReadingPlaces.Around(PartKind.Rotor, 4).ShouldBe([0, 75, 180, 255]);
        ReadingPlaces.Around(PartKind.Rotor, 8).ShouldBe([0, 45, 90, 135, 180, 225, 270, 315]);
        ReadingPlaces.Around(PartKind.Drum, 4).ShouldBe([0, 45, 90, 135]);
        for (var n = 3; n < 8; n++)
        {
            var places = ReadingPlaces.Around(PartKind.Rotor, n);
            places.Distinct().Count().ShouldBe(n);
            places.Zip([.. places.Skip(1), 360m], (a, b) => b - a).ShouldAllBe(gap => gap <= 150);
            // As many waves as places make the readings differ, by a fifth of the wave on average; even places see nothing of them.
            Seen(places, n).ShouldBeGreaterThan(0.2, $"{n} places");
            Seen(ReadingPlaces.Even(PartKind.Rotor, n), n).ShouldBe(0, 1e-9);
        }
    }

    /// <summary>Mean share of waves of height 1 that the readings at these places show, over all positions of the waves.</summary>
    private static double Seen(IReadOnlyList<decimal> places, int waves) =>
        Enumerable
            .Range(0, 60)
            .Average(step =>
            {
                var sizes = places.Select(d => Math.Cos(waves * (double)d * Math.PI / 180 - step * Math.PI / 30)).ToList();
                return (sizes.Max() - sizes.Min()) / 2;
            });
}
