using Uncial.Core;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Simulation;
using Uncial.Study;

namespace Uncial.Simulation.Tests;

/// <summary>
/// The product's pages against parts that they know only by gauge and eye. The study in bench/ does the same with a million.
/// </summary>
public class PracticeTests
{
    private const long Seed = 4711;

    private static readonly Technique Light = Technique.BuiltIn[1];

    private static Tally Work(
        int parts,
        PartKind kind,
        Stratum stratum,
        Slips slips = Slips.None,
        Technique? technique = null,
        Variant? variant = null
    ) => Study.Studies.Work(new(stratum.Name, technique ?? Light, Variant: variant), kind, parts, Seed, stratum, slips);

    private static List<WorkResult> Results(int parts, PartKind kind, Func<VirtualJob, WorkResult> way, bool onGrinder = false) =>
        [.. Enumerable.Range(0, parts).Select(n => way(VirtualJob.Draw(Seed + n, kind, onGrinder: onGrinder)))];

    public static TheoryData<string, PartKind> Ways
    {
        get
        {
            var data = new TheoryData<string, PartKind>();
            foreach (var technique in Technique.BuiltIn)
            {
                data.Add(technique.Key, PartKind.Rotor);
                if (!technique.SparksOut)
                    data.Add(technique.Key, PartKind.Drum);
            }
            return data;
        }
    }

    [Theory]
    [MemberData(nameof(Ways))]
    public void Worked_with_care_no_part_leaves_beyond_discard_and_hardly_a_bound_fails(string key, PartKind kind)
    {
        var technique = Technique.BuiltIn.Single(t => t.Key == key);
        var results = Results(500, kind, job => Operator.Work(job, technique), technique.SparksOut);
        results.ShouldAllBe(r => !r.Released || r.InsideAfter >= 0);
        results.ShouldAllBe(r => !r.ReleasedPlainly || r.InsideMachineTo >= 0);
        results.ShouldAllBe(r => r.InsideBefore < 0 || r.InsideAfter >= 0, "a good part was cut past discard");
        var started = results.Where(r => r.Started).ToList();
        started.Count.ShouldBeGreaterThan(50);
        ((double)started.Sum(r => r.BoundFailed.Times) / started.Sum(r => r.Bounds)).ShouldBeLessThan(0.01);
        ((double)started.Count(r => r.Clean) / started.Count).ShouldBeGreaterThan(0.95);
    }

    public static TheoryData<string> Groups => [.. Stratum.All.Select(s => s.Name)];

    [Theory]
    [MemberData(nameof(Groups))]
    public void Odd_parts_and_lathes_do_not_leave_beyond_discard_either(string name)
    {
        var stratum = Stratum.All.Single(s => s.Name == name);
        foreach (var kind in new[] { PartKind.Rotor, PartKind.Drum })
        {
            var tally = Work(400, kind, stratum);
            tally.Beyond.ShouldBe(0, $"{kind}, by {tally.WorstBeyond:0.000}");
            tally.BoundFailed.ShouldBeLessThan(0.01);
        }
    }

    [Theory]
    [InlineData(PartKind.Rotor)]
    [InlineData(PartKind.Drum)]
    public void What_nobody_looked_at_is_not_nothing(PartKind kind)
    {
        // "None" said of everything lets worn parts out; measured, none leaves.
        var near = Stratum.All[2];
        Work(1500, kind, near, variant: new(SaysNone: true)).Beyond.ShouldBeGreaterThan(0);
        Work(1500, kind, near).Beyond.ShouldBe(0);
    }

    [Theory]
    [InlineData(PartKind.Rotor)]
    [InlineData(PartKind.Drum)]
    public void Good_parts_are_seldom_held_back_and_what_is_begun_comes_clean(PartKind kind)
    {
        var fleet = Work(1500, kind, Stratum.Fleet);
        fleet.HeldBack.ShouldBeLessThan(kind == PartKind.Rotor ? 0.06 : 0.09);
        fleet.CleanShare.ShouldBeGreaterThan(0.97);
        fleet.BoundFailed.ShouldBeLessThan(0.01);
        fleet.Spoilt.ShouldBe(0);
    }

    [Theory]
    [InlineData(PartKind.Rotor)]
    [InlineData(PartKind.Drum)]
    public void What_operators_get_wrong_hardly_lets_a_part_out(PartKind kind)
    {
        var tally = Work(2500, kind, Stratum.Fleet, Slips.All);
        tally.Released.ShouldBeGreaterThan(1000);
        tally.Beyond.ShouldBeLessThanOrEqualTo(1);
    }

    [Theory]
    [InlineData(PartKind.Rotor)]
    [InlineData(PartKind.Drum)]
    public void Habits_let_parts_go_beyond_discard_so_the_yardstick_can_tell(PartKind kind)
    {
        foreach (var habit in Enum.GetValues<HabitKind>())
            Results(1200, kind, job => Habit.Work(job, habit))
                .Count(r => r.Released && r.InsideAfter < 0)
                .ShouldBeGreaterThan(0, habit.ToString());
    }

    [Theory]
    [InlineData(PartKind.Rotor)]
    [InlineData(PartKind.Drum)]
    public void The_light_technique_comes_close_to_the_physical_least_and_habits_do_not(PartKind kind)
    {
        var light = Work(500, kind, Stratum.Fleet).MedianExcess;
        light.ShouldBeLessThan(0.07);
        Study
            .Studies.Work(new("habit", Habit: HabitKind.CutUntilClean), kind, 500, Seed, Stratum.Fleet, Slips.None)
            .MedianExcess.ShouldBeGreaterThan(1.5 * light);
    }

    [Fact]
    public void The_same_seed_is_the_same_part_and_the_same_luck()
    {
        WorkResult Of(int seed) => Operator.Work(VirtualJob.Draw(seed, PartKind.Rotor), Light);
        var job = VirtualJob.Draw(12, PartKind.Rotor);
        Operator.Work(job.Copy(), Light).ShouldBe(Operator.Work(job, Light));
        Of(12).ShouldNotBe(Of(13));
    }
}
