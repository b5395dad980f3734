using CsCheck;
using Uncial.Core.Lengths;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;

namespace Uncial.Core.Tests;

public class SetUpCheckTests
{
    private static ClockAngle At(double degrees) => ClockAngle.FromDegrees((decimal)Math.Round(degrees, 6));

    private static SetUpCheck Check(RunoutMark first, RunoutMark second, decimal turned = 180, PartKind kind = PartKind.Rotor) =>
        SetUpCheck.Of(kind, turned, Mm.Of(0.025m), Mm.Of(0.01m), first, second);

    [Fact]
    public void The_worked_example()
    {
        var check = Check(RunoutMark.Indicated(At(40), Mm.Of(0.07m)), RunoutMark.Indicated(At(70), Mm.Of(0.05m)));
        check.PartRunout!.Value.Millimetres.ShouldBe(0.0580m, 0.00005m);
        check.PartAt!.Value.Degrees.ShouldBe(52.4m, 0.05m);
        check.SetUpRunout!.Value.Millimetres.ShouldBe(0.0183m, 0.00005m);
        check.SetUpAt!.Value.Degrees.ShouldBe(356.9m, 0.05m);
        (check.CostFirst!.Value.Millimetres, check.CostNow!.Value.Millimetres).ShouldSatisfyAllConditions(
            c => c.Item1.ShouldBe(0.0120m, 0.00005m),
            c => c.Item2.ShouldBe(-0.0080m, 0.00005m)
        );
        check.Verdict.ShouldBe(SetUpVerdict.True);
        check.Notes.ShouldContain(n => n is Note.SavesNow);
    }

    [Theory]
    [InlineData(40, 40, SetUpVerdict.True)] // side by side on the part: the run-out is the part's own
    [InlineData(40, 220, SetUpVerdict.SetUpAtFault)] // opposite: it belongs to the set-up
    [InlineData(40, 130, SetUpVerdict.Mixed)]
    public void Arcs_side_by_side_belong_to_the_part_and_opposite_ones_to_the_set_up(double first, double second, SetUpVerdict verdict)
    {
        var check = Check(RunoutMark.Direction(At(first), 120), RunoutMark.Direction(At(second), 120));
        check.Verdict.ShouldBe(verdict);
        (check.SetUpRunout, check.CostNow).ShouldBe((null, null));
        check.Notes.ShouldContain(n => n is Note.Rough);
    }

    [Fact]
    public void Any_turn_recovers_part_and_set_up_from_what_an_indicator_would_show()
    {
        Gen.Select(Gen.Double[0, 0.2], Gen.Double[0, 360], Gen.Double[0, 0.2], Gen.Double[0, 360], Gen.Double[31, 329])
            .Sample(
                (part, partAt, setUp, setUpAt, turn) =>
                {
                    // The part carries its run-out with it; the set-up's stays on the arbor, so on the part it moves back by the turn.
                    RunoutMark Seen(double turned)
                    {
                        var (x, y) = (
                            part * Math.Sin(R(partAt)) + setUp * Math.Sin(R(setUpAt - turned)),
                            part * Math.Cos(R(partAt)) + setUp * Math.Cos(R(setUpAt - turned))
                        );
                        return RunoutMark.Indicated(
                            At(Math.Atan2(x, y) * 180 / Math.PI),
                            Mm.Of((decimal)Math.Round(Math.Sqrt(x * x + y * y), 9))
                        );
                    }
                    static double R(double degrees) => degrees * Math.PI / 180;
                    var check = Check(Seen(0), Seen(Math.Round(turn, 6)), (decimal)Math.Round(turn, 6));
                    ((double)check.PartRunout!.Value.Millimetres).ShouldBe(part, 0.00001);
                    ((double)check.SetUpRunout!.Value.Millimetres).ShouldBe(setUp, 0.00001);
                    check.LeftOnVehicle.ShouldBe(check.SetUpRunout);
                }
            );
    }

    [Fact]
    public void A_scratch_counts_by_its_arc_and_depth_and_a_doubtful_one_is_said_to_be()
    {
        // Half-way round at 0.03 is a run-out of 0.06.
        var check = Check(RunoutMark.Scratch(At(0), 180, Mm.Of(0.03m)), RunoutMark.Scratch(At(0), 180, Mm.Of(0.03m)));
        check.PartRunout!.Value.Millimetres.ShouldBe(0.06m, 0.000001m);
        check.Verdict.ShouldBe(SetUpVerdict.True);
        Check(RunoutMark.Scratch(At(0), 180, Mm.Of(0.03m)), RunoutMark.Scratch(At(40), 170, Mm.Of(0.03m)))
            .Notes.ShouldContain(n => n is Note.Uncertain);
        Check(RunoutMark.Scratch(At(0), 180, Mm.Of(0.03m)), RunoutMark.Scratch(At(180), 180, Mm.Of(0.03m)), kind: PartKind.Drum)
            .ShouldSatisfyAllConditions(c => c.Verdict.ShouldBe(SetUpVerdict.Remount), c => c.LeftOnVehicle.ShouldBe(c.SetUpRunout! / 2));
    }

    [Fact]
    public void A_ring_bounds_a_short_arc_says_nothing_and_a_turn_of_nothing_is_refused()
    {
        Check(RunoutMark.Scratch(At(0), 360, Mm.Of(0.02m)), RunoutMark.Scratch(At(0), 360, Mm.Of(0.02m)))
            .Verdict.ShouldBe(SetUpVerdict.True);
        Check(RunoutMark.Scratch(At(0), 360, Mm.Of(0.02m)), RunoutMark.Scratch(At(0), 90, Mm.Of(0.03m)))
            .Verdict.ShouldBe(SetUpVerdict.Remount);
        Check(RunoutMark.Scratch(At(0), 360, Mm.Of(0.04m)), RunoutMark.Scratch(At(0), 360, Mm.Of(0.04m)))
            .Verdict.ShouldBe(SetUpVerdict.CannotTell);
        Check(RunoutMark.Direction(At(0), 360), RunoutMark.Direction(At(0), 90)).Verdict.ShouldBe(SetUpVerdict.CannotTell);
        Check(RunoutMark.Direction(At(0), 29), RunoutMark.Direction(At(0), 90)).Verdict.ShouldBe(SetUpVerdict.CannotTell);
        foreach (var turned in new[] { 0m, 30, 331, 360, 745 })
            Should.Throw<ArgumentException>(() => Check(RunoutMark.Direction(At(0), 90), RunoutMark.Direction(At(0), 90), turned));
        Should.Throw<ArgumentException>(() => Check(RunoutMark.Direction(At(0), 90), RunoutMark.Indicated(At(0), Mm.Of(0.1m))));
    }
}
