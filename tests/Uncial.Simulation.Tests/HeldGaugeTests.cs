using Uncial.Core.Parts;
using Uncial.Simulation.Held;

namespace Uncial.Simulation.Tests;

/// <summary>A gauge shows what a gauge would that is held so: right at its turning point, and wrong in the usual ways beside it.</summary>
public class HeldGaugeTests
{
    private static readonly GaugeErrors Perfect = new(0, 0);

    private static VirtualPart Rotor(int seed) => VirtualPart.Rotor(new(seed));

    private static double Read(VirtualPart part, HeldMicrometer held, double warmer = 0) => held.Shows(part, Perfect, warmer, new(1));

    private static double Span(VirtualPart part, HeldBar held, double warmer = 0) => held.Shows(part, Perfect, warmer, new(1));

    private static double AtLand(VirtualPart part) => part.StationsMm[part.ReadingStation];

    [Fact]
    public void A_micrometer_held_square_on_a_land_shows_the_thickness_there()
    {
        for (var seed = 1; seed <= 200; seed++)
        {
            var part = Rotor(seed);
            for (var spot = 0; spot < WorkFace.Angles; spot += 9)
            {
                // Beside it the anvil rests on what stands a little higher: by hundredths at most, and never lower.
                var shown = Read(part, new(spot * 5, AtLand(part), 0, Closing.Ratchet));
                shown.ShouldBeInRange(part.SizeAt(spot, part.ReadingStation) - 1e-9, part.SizeAt(spot, part.ReadingStation) + 0.09);
            }
        }
    }

    [Fact]
    public void On_the_ridge_it_reads_too_much_and_on_a_groove_it_spans_it()
    {
        for (var seed = 1; seed <= 100; seed++)
        {
            var part = Rotor(seed);
            var ridge = part.StationsMm[^1];
            var land = Read(part, new(0, AtLand(part), 0, Closing.Ratchet));
            (Read(part, new(0, ridge - 3, 0, Closing.Ratchet)) - land).ShouldBeGreaterThan(0.1);
            // Over a groove the anvil rests on its edges.
            for (var s = 1; s < part.StationsMm.Count - 1; s++)
                if (part.Faces[0].At(s) == Ground.Groove)
                    Read(part, new(0, part.StationsMm[s], 0, Closing.Ratchet)).ShouldBeGreaterThan(part.SizeAt(0, s) - 1e-9);
        }
    }

    [Fact]
    public void Rocked_it_shows_the_least_where_it_is_square()
    {
        var part = Rotor(3);
        double At(double tilt) => Read(part, new(40, AtLand(part), tilt, Closing.Ratchet));
        Enumerable.Range(-30, 61).MinBy(t => At(t / 10.0)).ShouldBe(0);
        (At(1) - At(0)).ShouldBe(0.11, 0.01); // 6.5 mm of anvil at a degree
        At(-1).ShouldBe(At(1), 1e-9);
    }

    [Fact]
    public void Forced_it_shows_too_little_and_not_closed_too_much()
    {
        var part = Rotor(4);
        var closed = Read(part, new(0, AtLand(part), 0, Closing.Ratchet));
        Read(part, new(0, AtLand(part), 0, Closing.Forced)).ShouldBeInRange(closed - 0.03, closed - 0.012);
        Read(part, new(0, AtLand(part), 0, Closing.NotClosed)).ShouldBeGreaterThan(closed + 0.02);
    }

    [Fact]
    public void A_bar_shows_the_most_across_and_the_least_along_at_its_turning_point()
    {
        for (var seed = 1; seed <= 50; seed++)
        {
            var part = VirtualPart.Drum(new(seed));
            double At(double across, double along) => Span(part, new(0, AtLand(part), across, along));
            var turning = At(0, 0);
            turning.ShouldBe(part.SizeAt(0, part.ReadingStation), 0.2);
            // Far off the turning point the shape of the drum no longer counts.
            At(8, 0).ShouldBeLessThan(turning - 0.5);
            At(-8, 0).ShouldBeLessThan(turning - 0.5);
            At(0, 3).ShouldBeGreaterThan(turning);
            var diameter = part.Limits.Nominal;
            (turning - At(6, 0)).ShouldBe(diameter * (1 - Math.Cos(6 * Math.PI / 180)), 0.5);
        }
    }

    [Fact]
    public void Turned_end_for_end_it_reads_the_same_and_two_axes_miss_an_oval_between_them()
    {
        var part = VirtualPart.Drum(new(9));
        for (var s = 0; s < part.StationsMm.Count; s++)
            part.Faces[0].Shape(s, 0.1, 2, Math.PI / 2);
        double At(double degrees) => Span(part, new(degrees, AtLand(part), 0, 0));
        At(180).ShouldBe(At(0), 1e-9);
        // The oval that was put in lies at 45° to both.
        var bare = VirtualPart.Drum(new(9));
        double Before(double degrees) => Span(bare, new(degrees, AtLand(bare), 0, 0));
        Math.Abs(At(0) - Before(0)).ShouldBeLessThan(0.002);
        Math.Abs(At(90) - Before(90)).ShouldBeLessThan(0.002);
        Math.Abs(At(45) - Before(45)).ShouldBe(0.2, 0.002);
    }

    [Fact]
    public void A_warm_drum_is_larger_by_what_iron_grows()
    {
        var part = VirtualPart.Drum(new(5));
        var cold = Span(part, new(0, AtLand(part), 0, 0));
        var warm = Span(part, new(0, AtLand(part), 0, 0), new Warmth(0).Cut(0.3, 0).Kelvin);
        (warm - cold).ShouldBe(cold * 11e-6 * 18, 1e-6);
        new Warmth(18).After(9).Kelvin.ShouldBe(18 / Math.E, 1e-9);
        new Warmth(18).After(60).Kelvin.ShouldBeLessThan(0.05);
    }

    [Fact]
    public void An_indicator_swings_by_the_wobble_and_a_depth_gauge_finds_the_groove()
    {
        var part = VirtualPart.Rotor(new(6), new("flat") { Warp = 0 });
        var station = part.ReadingStation;
        var before = new HeldIndicator(0, AtLand(part)).Swings(part, Perfect, new(1));
        part.Faces[0].Swing(0.05, 1);
        var after = new HeldIndicator(0, AtLand(part)).Swings(part, Perfect, new(1));
        var swing = 2 * 0.05 * part.StationsMm[station] / part.StationsMm[^1];
        Math.Abs(after.Highest - after.Lowest - swing).ShouldBeLessThanOrEqualTo(before.Highest - before.Lowest + 1e-9);
        var groove = Enumerable.Range(1, part.StationsMm.Count - 2).First(s => part.Faces[0].At(s) == Ground.Groove);
        part.Faces[0].Shape(groove, -0.3);
        var depth = new HeldDepthGauge(0, 0, part.StationsMm[groove]);
        depth.Shows(part, Perfect, new(1)).ShouldBeGreaterThan(0.28);
        new HeldDepthGauge(0, 0, part.StationsMm[station]).Shows(part, Perfect, new(1)).ShouldBeLessThan(0.12);
    }

    [Fact]
    public void Each_gauge_is_for_its_part()
    {
        Should.Throw<ArgumentException>(() => Read(VirtualPart.Drum(new(1)), new HeldMicrometer(0, 20, 0, Closing.Ratchet)));
        Should.Throw<ArgumentException>(() => Span(Rotor(1), new HeldBar(0, 20, 0, 0)));
    }
}
