using NetArchTest.Rules;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Practice;

namespace Uncial.Core.Tests;

/// <summary>The product against parts that it knows only by gauge and eye. The study in bench/ does the same with a hundred thousand.</summary>
public class PracticeTests
{
    private const long Seed = 4711;

    private static List<Outcome> Work(int parts, PartKind kind, Func<Job, Outcome> way, bool onGrinder = false, bool borderline = false) =>
        [.. Enumerable.Range(0, parts).Select(n => way(Job.Draw(Seed + n, kind, onGrinder, borderline)))];

    public static TheoryData<string, PartKind> Ways
    {
        get
        {
            var data = new TheoryData<string, PartKind>();
            foreach (var technique in Technique.BuiltIn)
            {
                data.Add(technique.Key, PartKind.Rotor);
                if (!technique.SparksOut) data.Add(technique.Key, PartKind.Drum);
            }
            return data;
        }
    }

    [Theory]
    [MemberData(nameof(Ways))]
    public void By_the_book_no_part_leaves_beyond_discard_and_hardly_a_bound_fails(string key, PartKind kind)
    {
        var technique = Technique.BuiltIn.Single(t => t.Key == key);
        var outcomes = Work(1200, kind, job => ByTheBook.Work(job, technique), onGrinder: technique.SparksOut);
        outcomes.ShouldAllBe(o => !o.Released || o.InsideAfter >= 0);
        outcomes.ShouldAllBe(o => !o.ReleasedPlainly || o.InsideMachineTo >= 0);
        outcomes.ShouldAllBe(o => o.InsideBefore < 0 || o.InsideAfter >= 0, "a good part was cut past discard");
        var started = outcomes.Where(o => o.Started).ToList();
        started.Count.ShouldBeGreaterThan(100);
        ((double)started.Sum(o => o.BoundFailed.Times) / started.Sum(o => o.Bounds)).ShouldBeLessThan(0.02);
        ((double)started.Count(o => o.Clean) / started.Count).ShouldBeGreaterThan(0.85);
    }

    [Theory]
    [InlineData(PartKind.Rotor)]
    [InlineData(PartKind.Drum)]
    public void The_light_hand_comes_close_to_the_physical_least_and_habits_do_not(PartKind kind)
    {
        double MedianExcess(Func<Job, Outcome> way) => Work(600, kind, way).Where(o => o.Started).Select(o => o.Excess).Order().ToList() is var all ? all[all.Count / 2] : 0;
        var light = MedianExcess(job => ByTheBook.Work(job, Technique.BuiltIn[1]));
        light.ShouldBeLessThan(0.06);
        MedianExcess(job => ByTheBook.Work(job, Technique.BuiltIn[0])).ShouldBeInRange(light, 0.15);
        MedianExcess(job => Habit.Work(job, HabitKind.CutUntilClean)).ShouldBeGreaterThan(2 * light);
    }

    [Theory]
    [InlineData(PartKind.Rotor)]
    [InlineData(PartKind.Drum)]
    public void Habits_let_parts_go_beyond_discard_so_the_yardstick_can_tell(PartKind kind)
    {
        foreach (var habit in Enum.GetValues<HabitKind>())
            Work(1200, kind, job => Habit.Work(job, habit)).Count(o => o.Released && o.InsideAfter < 0).ShouldBeGreaterThan(0, habit.ToString());
    }

    [Theory]
    [InlineData(PartKind.Rotor)]
    [InlineData(PartKind.Drum)]
    public void Worn_to_the_limit_nothing_leaves_that_should_not_and_what_lies_lower_is_why(PartKind kind)
    {
        int Beyond(BookRule without) => Work(4000, kind, job => ByTheBook.Work(job, Technique.BuiltIn[0], without), borderline: true).Count(o => o.Released && o.InsideAfter < 0);
        Beyond(BookRule.None).ShouldBe(0);
        if (kind != PartKind.Rotor) return;
        Beyond(BookRule.DepthUncertainty).ShouldBeGreaterThan(0);
        Beyond(BookRule.WhatLiesLower).ShouldBeGreaterThan(Beyond(BookRule.DepthUncertainty));
    }

    [Fact]
    public void The_same_seed_is_the_same_part_and_the_same_luck()
    {
        var first = Job.Draw(12, PartKind.Rotor);
        var copy = first.Copy();
        ByTheBook.Work(first, Technique.BuiltIn[0]).ShouldBe(ByTheBook.Work(copy, Technique.BuiltIn[0]));
        ByTheBook.Work(Job.Draw(12, PartKind.Rotor), Technique.BuiltIn[0]).ShouldNotBe(ByTheBook.Work(Job.Draw(13, PartKind.Rotor), Technique.BuiltIn[0]));
    }

    [Fact]
    public void Reversal_finds_the_wobble_of_the_lathe_over_thousands_of_mounts()
    {
        var chance = new Chance(5);
        List<double> errors = [];
        for (var n = 0; n < 3000; n++)
        {
            var part = VirtualPart.Rotor(chance);
            var lathe = new VirtualLathe(part, new() { DepthPerDivision = 0.01 }, chance);
            var (amplitude, at) = (chance.Rayleigh(0.015), chance.Direction());
            RunoutMark Mark(double turned)
            {
                lathe.Mount(amplitude, at - turned);
                var station = part.StationsMm.Count - 1;
                var spots = Enumerable.Range(0, WorkFace.Angles).Select(i => part.Faces[0].Turning(i, station)).ToList();
                return RunoutMark.Indicated(ClockAngle.FromDegrees(5 * spots.IndexOf(spots.Max())), Mm.Of((decimal)Math.Round(spots.Max() - spots.Min(), 6)));
            }
            var check = SetUpCheck.Of(PartKind.Rotor, 180, Mm.Of(0.025m), Mm.Of(0.01m), Mark(0), Mark(Math.PI));
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
            var part = VirtualPart.Rotor(chance);
            var lathe = new VirtualLathe(part, new() { DepthPerDivision = 0.01, TouchOvershoot = 0 }, chance);
            var (amplitude, at) = (0.02 + chance.Rayleigh(0.015), chance.Direction());
            RunoutMark Mark(double turned)
            {
                lathe.Mount(amplitude, at - turned);
                var (middle, extent) = lathe.Scratch(0, part.ReadingStation, 0.02);
                return RunoutMark.Scratch(ClockAngle.FromDegrees((decimal)Math.Round(middle, 4)), (decimal)extent, Mm.Of(0.02m));
            }
            var check = SetUpCheck.Of(PartKind.Rotor, 180, Mm.Of(0.025m), Mm.Of(0.01m), Mark(0), Mark(Math.PI));
            if (check.SetUpRunout is not { } found) continue; // a ring or too short an arc: it says so
            errors.Add(Math.Abs((double)found.Millimetres - 2 * amplitude * part.StationsMm[part.ReadingStation] / part.StationsMm[^1]) / (2 * amplitude));
        }
        errors.Count.ShouldBeGreaterThan(1500);
        errors.Sort();
        errors[errors.Count / 2].ShouldBeLessThan(0.15); // an arc is a coarse gauge, and not a bad one
    }

    [Fact]
    public void A_cut_in_a_wobble_leaves_the_wobble_on_the_part_and_no_thickness_variation()
    {
        var chance = new Chance(8);
        var part = VirtualPart.Rotor(chance);
        var lathe = new VirtualLathe(part, new() { DepthPerDivision = 0.01, SettingError = 0, PushOff = 0, BacklashShare = 0, TouchOvershoot = 0 }, chance);
        lathe.Mount(0.03, 0);
        for (var face = 0; face < 2; face++)
        {
            lathe.Touch(face, part.ReadingStation);
            lathe.Cut(face, 60);
            part.Faces[face].CleanSectors().ShouldBe(12);
            lathe.Depth(face).ShouldBe(0.60, 1e-9);
        }
        var edge = part.StationsMm.Count - 1;
        Enumerable.Range(0, WorkFace.Angles).Select(i => part.SizeAt(i, part.ReadingStation)).ShouldAllBe(t => Math.Abs(t - part.SizeAt(0, part.ReadingStation)) < 1e-9);
        lathe.Mount(0, 0);
        var (high, low) = part.Faces[0].Extremes(edge);
        (high - low).ShouldBe(0.06, 1e-9);
    }

    [Fact]
    public void The_yardstick_shares_nothing_with_what_it_measures()
    {
        var result = Types.InAssembly(typeof(VirtualPart).Assembly).That().HaveNameMatching("^(Virtual.*|WorkFace|Chance|Workmanship)$").ShouldNot()
            .HaveDependencyOnAny("Uncial.Core.Planning", "Uncial.Core.Measuring", "Uncial.Core.Cutting", "Uncial.Core.Release", "Uncial.Core.Gauges", "Uncial.Core.Mounting").GetResult();
        (result.FailingTypeNames ?? []).ShouldBeEmpty();
    }
}
