using CsCheck;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Vehicles;

namespace Uncial.Core.Tests.Vehicles;

public class StudPositionsTests
{
    [Fact]
    public void Two_equal_wobbles_cancel_where_they_stand_opposite()
    {
        // Hub 0.06 at 0°, rotor 0.06 at 90°: of four studs, the one that brings it to 180°.
        var found = StudPositions.Of(At(0.06m, 0), At(0.06m, 90), 4);
        (found.Best.Turn, found.Best.Left).ShouldBe((1, Length.Zero));
        (found.Worst.Turn, found.Worst.Left).ShouldBe((3, Mm.Of(0.12m)));
        found.Now.Left.Millimetres.ShouldBe(0.084853m, 0.000001m);
        found.Steps[^1].Arithmetic(LengthUnit.Millimetre).ShouldBe("|0.06∠0 + 0.06∠(90 + 1 · 360 / 4)|");
        StudPositions.IsInside(found.Now, Mm.Of(0.085m)).ShouldBeTrue();
        StudPositions.IsInside(found.Now, Mm.Of(0.084m)).ShouldBeFalse();
    }

    [Fact]
    public void What_is_read_at_the_vehicle_is_both_and_a_hub_is_read_nearer_the_middle()
    {
        // A hub that shows 0.03 at 70 mm shows 0.06 at 140: of 0.10 on the rotor at the same clock, 0.04 is the rotor's own.
        var found = StudPositions.Read(At(0.10m, 30), At(0.03m, 30), Mm.Of(140), Mm.Of(70), 5);
        (found.Hub.Total, found.Rotor.Total).ShouldBe((Mm.Of(0.06m), Mm.Of(0.04m)));
        found.Now.Left.Millimetres.ShouldBe(0.10m, 0.000001m);
        // Five studs: 144° is as near to opposite as it gets, to either side; it is turned the shorter way.
        (found.Best.Turn, found.Best.Left < Mm.Of(0.04m)).ShouldBe((2, true));
        found.Steps.Select(s => s.Quantity).ShouldBe(["hubAtRotor", "rotorAlone", "bestStud"]);
        // A screw holds it: there is one position.
        StudPositions.Read(At(0.10m, 30), At(0.03m, 30), null, null, 1).Refits.Count.ShouldBe(1);
    }

    [Fact]
    public void The_best_is_that_of_brute_force_and_never_leaves_more_than_the_worst_or_as_it_is() =>
        Gen.Select(Gen.Int[0, 400], Gen.Int[0, 719], Gen.Int[0, 400], Gen.Int[0, 719], Gen.Int[1, 20])
            .Sample(
                (hub, at, rotor, from, positions) =>
                {
                    var found = StudPositions.Of(At(hub / 1000m, at / 2m), At(rotor / 1000m, from / 2m), positions);
                    // By the law of cosines instead of complex numbers.
                    var left = Enumerable
                        .Range(0, positions)
                        .Select(k => Math.PI / 180 * (from / 2.0 - at / 2.0 + k * 360.0 / positions))
                        .Select(angle =>
                            Math.Sqrt(Math.Max(0, (double)hub * hub + (double)rotor * rotor + 2.0 * hub * rotor * Math.Cos(angle))) / 1000
                        )
                        .ToList();
                    for (var k = 0; k < positions; k++)
                        ((double)found.Refits[k].Left.Millimetres).ShouldBe(left[k], 2e-5);
                    ((double)found.Best.Left.Millimetres).ShouldBe(left.Min(), 2e-5);
                    (found.Best.Left <= found.Worst.Left && found.Best.Left <= found.Now.Left).ShouldBeTrue();
                },
                iter: 4000
            );

    [Fact]
    public void Nothing_negative_and_no_other_number_of_studs()
    {
        Should.Throw<ArgumentOutOfRangeException>(() => StudPositions.Of(At(-0.01m, 0), At(0, 0), 4));
        Should.Throw<ArgumentOutOfRangeException>(() => StudPositions.Of(At(0, 0), At(-0.01m, 0), 4));
        Should.Throw<ArgumentOutOfRangeException>(() => StudPositions.Of(At(0, 0), At(0, 0), 0));
        Should.Throw<ArgumentOutOfRangeException>(() => StudPositions.Of(At(0, 0), At(0, 0), 21));
        Should.Throw<ArgumentOutOfRangeException>(() => StudPositions.Read(At(0, 0), At(0, 0), Mm.Of(10), Mm.Of(0), 4));
    }

    private static Runout At(decimal total, decimal degrees) => new(Mm.Of(total), ClockAngle.FromDegrees(degrees));
}
