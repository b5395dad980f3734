using NetArchTest.Rules;
using Uncial.Core.Lengths;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Simulation;

namespace Uncial.Simulation.Tests;

/// <summary>The virtual metal is as metal is, and what the product says of set-ups is true of it.</summary>
public class MetalTests
{
    /// <summary>Rotors without a warp of both faces together, which shifts the high spot as a wobble does.</summary>
    private static readonly Stratum Flat = new("flat") { Warp = 0 };

    private static Length Mm(decimal mm) => Length.FromMillimetres(mm);

    [Fact]
    public void Reversal_finds_the_wobble_of_the_lathe_over_thousands_of_mounts()
    {
        var chance = new Chance(5);
        List<double> errors = [];
        for (var n = 0; n < 3000; n++)
        {
            var part = VirtualPart.Rotor(chance, Flat);
            var lathe = new VirtualLathe(part, new() { DepthPerDivision = 0.01 }, chance);
            var (amplitude, at) = (chance.Rayleigh(0.015), chance.Direction());
            RunoutMark Mark(double turned)
            {
                lathe.Mount(amplitude, at - turned);
                var station = part.StationsMm.Count - 1;
                var spots = Enumerable.Range(0, WorkFace.Angles).Select(i => part.Faces[0].Turning(i, station)).ToList();
                return RunoutMark.Indicated(
                    ClockAngle.FromDegrees(5 * spots.IndexOf(spots.Max())),
                    Mm((decimal)Math.Round(spots.Max() - spots.Min(), 6))
                );
            }
            var check = SetUpCheck.Of(PartKind.Rotor, 180, Mm(0.025m), Mm(0.01m), Mark(0), Mark(Math.PI));
            errors.Add(Math.Abs((double)check.SetUpRunout!.Value.Millimetres - 2 * amplitude));
        }
        // What second and higher lobes of the face do to a total reading, and a high spot that is found to 5°.
        errors.Sort();
        errors[errors.Count / 2].ShouldBeLessThan(0.003);
        errors[errors.Count * 95 / 100].ShouldBeLessThan(0.015);
    }

    [Fact]
    public void A_scratch_runs_as_far_round_as_its_depth_says_and_finds_the_wobble()
    {
        var chance = new Chance(6);
        List<double> errors = [];
        for (var n = 0; n < 2000; n++)
        {
            var part = VirtualPart.Rotor(chance, Flat);
            var lathe = new VirtualLathe(part, new() { DepthPerDivision = 0.01, TouchOvershoot = 0 }, chance);
            var (amplitude, at) = (0.02 + chance.Rayleigh(0.015), chance.Direction());
            RunoutMark Mark(double turned)
            {
                lathe.Mount(amplitude, at - turned);
                var (middle, extent) = lathe.Scratch(0, part.ReadingStation, 0.02);
                return RunoutMark.Scratch(ClockAngle.FromDegrees((decimal)Math.Round(middle, 4)), (decimal)extent, Mm(0.02m));
            }
            var check = SetUpCheck.Of(PartKind.Rotor, 180, Mm(0.025m), Mm(0.01m), Mark(0), Mark(Math.PI));
            if (check.SetUpRunout is not { } found)
                continue; // a ring or too short an arc: it says so
            errors.Add(
                Math.Abs((double)found.Millimetres - 2 * amplitude * part.StationsMm[part.ReadingStation] / part.StationsMm[^1])
                    / (2 * amplitude)
            );
        }
        errors.Count.ShouldBeGreaterThan(1500);
        errors.Sort();
        errors[errors.Count / 2].ShouldBeLessThan(0.15); // an arc is a coarse gauge, and not a bad one
    }

    [Fact]
    public void A_cut_in_a_wobble_leaves_the_wobble_on_the_part_and_no_thickness_variation()
    {
        var chance = new Chance(8);
        var part = VirtualPart.Rotor(chance, Flat);
        var lathe = new VirtualLathe(
            part,
            new()
            {
                DepthPerDivision = 0.01,
                SettingError = 0,
                PushOff = 0,
                BacklashShare = 0,
                TouchOvershoot = 0,
            },
            chance
        );
        lathe.Mount(0.03, 0);
        for (var face = 0; face < 2; face++)
        {
            lathe.Touch(face, part.ReadingStation);
            lathe.Cut(face, 60);
            part.Faces[face].CleanSectors().ShouldBe(12);
            lathe.Depth(face).ShouldBe(0.60, 1e-9);
        }
        var edge = part.StationsMm.Count - 1;
        Enumerable
            .Range(0, WorkFace.Angles)
            .Select(i => part.SizeAt(i, part.ReadingStation))
            .ShouldAllBe(t => Math.Abs(t - part.SizeAt(0, part.ReadingStation)) < 1e-9);
        lathe.Mount(0, 0);
        var (high, low) = part.Faces[0].Extremes(edge);
        (high - low).ShouldBe(0.06, 1e-9);
    }

    [Fact]
    public void The_yardstick_shares_nothing_with_what_it_measures()
    {
        var result = Types
            .InAssembly(typeof(VirtualPart).Assembly)
            .That()
            .HaveNameMatching("^(Virtual.*|WorkFace|Chance|Workmanship|Habit)$")
            .ShouldNot()
            .HaveDependencyOnAny(
                "Uncial.Core.Planning",
                "Uncial.Core.Measuring",
                "Uncial.Core.Cutting",
                "Uncial.Core.Release",
                "Uncial.Core.Gauges",
                "Uncial.Core.Mounting"
            )
            .GetResult();
        (result.FailingTypeNames ?? []).ShouldBeEmpty();
    }

    [Theory]
    [InlineData(PartKind.Rotor)]
    [InlineData(PartKind.Drum)]
    public void Any_turn_finds_the_wobble_of_the_lathe_within_the_reading_error_over_thousands_of_mounts(PartKind kind)
    {
        var chance = new Chance(11);
        var (trueIsTrue, badIsBad, bad) = (0, 0, 0);
        List<double> errors = [];
        for (var n = 0; n < 3000; n++)
        {
            var part = kind == PartKind.Rotor ? VirtualPart.Rotor(chance) : VirtualPart.Drum(chance);
            var lathe = new VirtualLathe(part, new() { DepthPerDivision = 0.01 }, chance);
            var (amplitude, at, turn) = (chance.Rayleigh(0.015), chance.Direction(), chance.Between(60, 300));
            // First harmonic of what an indicator shows, read to a division.
            RunoutMark Mark(double turned)
            {
                lathe.Mount(amplitude, at - turned);
                var (x, y) = (0.0, 0.0);
                for (var i = 0; i < WorkFace.Angles; i++)
                {
                    var (sin, cos) = Math.SinCos(i * 2 * Math.PI / WorkFace.Angles);
                    var h = part.Faces[0].Turning(i, part.ReadingStation);
                    (x, y) = (x + h * cos, y + h * sin);
                }
                var runout = 4 * Math.Sqrt(x * x + y * y) / WorkFace.Angles;
                return RunoutMark.Indicated(
                    ClockAngle.FromDegrees((decimal)Math.Round(Math.Atan2(y, x) * 180 / Math.PI, 3)),
                    Mm((decimal)Math.Round(runout, 2))
                );
            }
            var reach = kind == PartKind.Rotor ? part.StationsMm[part.ReadingStation] / part.StationsMm[^1] : 1;
            var (beta, setUp) = ((decimal)Math.Round(turn, 3), 2 * amplitude * reach);
            var check = SetUpCheck.Of(kind, beta, Mm(0.025m), Mm(0.01m), Mark(0), Mark((double)beta * Math.PI / 180));
            var found = (double)check.SetUpRunout!.Value.Millimetres;
            // Each mark is off by half a division at most: divided by twice the sine of half the turn.
            (Math.Abs(found - setUp) * 2 * Math.Sin(turn * Math.PI / 360)).ShouldBeLessThan(0.0102);
            errors.Add(Math.Abs(found - setUp));
            if (setUp <= 0.012 && check.Verdict == SetUpVerdict.True)
                trueIsTrue++;
            if (setUp > 0.065)
            {
                bad++;
                if (check.Verdict != SetUpVerdict.True)
                    badIsBad++;
            }
        }
        errors.Sort();
        errors[errors.Count / 2].ShouldBeLessThan(0.004);
        trueIsTrue.ShouldBeGreaterThan(100);
        (bad > 50 && badIsBad == bad).ShouldBeTrue($"{badIsBad} of {bad}");
    }
}
