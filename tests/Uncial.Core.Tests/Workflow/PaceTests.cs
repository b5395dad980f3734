using Uncial.Core.Cutting;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Core.Planning;

namespace Uncial.Core.Tests.Workflow;

/// <summary>Who works step by step, and what is looked at before each start whoever works.</summary>
public class PaceTests
{
    private static readonly Familiarity Known = new(Pace.Experienced, Familiarity.KnowsLatheFrom, 1, EyesToday: true);

    private static StoredSurface Planned()
    {
        var surface = new StoredSurface(PartKind.Rotor);
        surface.Limit(LimitKind.Discard, 23m);
        surface.Limit(LimitKind.MachineTo, 23.4m);
        surface.ReadAll(24.3m);
        surface.Mount();
        surface.GoOn();
        surface.Plan();
        return surface;
    }

    [Fact]
    public void Guided_is_a_person_and_whoever_does_not_know_lathe_or_adapter_yet()
    {
        var state = Planned().State;
        foreach (var step in Enum.GetValues<PacedStep>())
            Familiarity.None.WhyGuided(step, state).ShouldBe(GuidedBecause.Person);
        (Known with { Pace = Pace.Guided }).WhyGuided(PacedStep.Start, state).ShouldBe(GuidedBecause.Person);
        (Known with { MountsOnLathe = 2 }).WhyGuided(PacedStep.Start, state).ShouldBe(GuidedBecause.NewLathe);
        Known.WhyGuided(PacedStep.Start, state).ShouldBeNull();
        var strange = Known with { MountsWithAdapter = 0 };
        var fresh = new StoredSurface(PartKind.Rotor).State;
        strange.WhyGuided(PacedStep.PutOn, fresh).ShouldBe(GuidedBecause.NewAdapter);
        strange.WhyGuided(PacedStep.Start, state).ShouldBeNull(); // it is on by now
        Known.WhyGuided(PacedStep.PutOn, fresh).ShouldBeNull();
    }

    [Fact]
    public void After_an_incident_the_step_at_which_it_happened_is_guided_anew()
    {
        var surface = Planned();
        Known.WhyGuided(PacedStep.PutOn, surface.State).ShouldBe(GuidedBecause.Remounted);
        Known.WhyGuided(PacedStep.SetUp, surface.State).ShouldBeNull();
        surface.Mount(RemountCause.Dirt);
        Known.WhyGuided(PacedStep.SetUp, surface.State).ShouldBe(GuidedBecause.Remounted);
        Known.WhyGuided(PacedStep.FirstTouch, surface.State).ShouldBe(GuidedBecause.Remounted);
        surface.GoOn();
        surface.Plan();
        Known.WhyGuided(PacedStep.Start, surface.State).ShouldBeNull();

        surface.Start(CutStopKind.BrokenOff);
        Known.WhyGuided(PacedStep.Start, surface.State).ShouldBe(GuidedBecause.BrokenOff);
        Known.WhyGuided(PacedStep.Finish, surface.State).ShouldBeNull();
        surface.Start(CutStopKind.Done);
        Known.WhyGuided(PacedStep.Start, surface.State).ShouldBeNull();
        surface.Chatter();
        Known.WhyGuided(PacedStep.Start, surface.State).ShouldBe(GuidedBecause.Chatter);
        surface.Cut(); // a quiet pass
        Known.WhyGuided(PacedStep.Start, surface.State).ShouldBeNull();
        surface.Cut(noise: ChatterSign.Ringing);
        Known.WhyGuided(PacedStep.Start, surface.State).ShouldBe(GuidedBecause.Chatter);
    }

    [Theory]
    [InlineData(LatheKind.Bench, false, new[] { StartCheck.Locks, StartCheck.Lever, StartCheck.Damping })]
    [InlineData(LatheKind.Engine, true, new[] { StartCheck.Locks, StartCheck.Lever, StartCheck.Damping, StartCheck.Turned })]
    [InlineData(LatheKind.Grinder, false, new[] { StartCheck.Locks, StartCheck.Lever })]
    public void A_start_takes_what_injures_or_ruins_when_missed(LatheKind lathe, bool turnFirst, StartCheck[] needed)
    {
        StartChecks.Needed(lathe, turnFirst).ShouldBe(needed);
        foreach (var one in needed)
        {
            StartCheck[] others = [.. Enum.GetValues<StartCheck>().Where(c => c != one)];
            StartChecks.Missing(needed, others, eyesToday: true).ShouldBe(one);
        }
        StartChecks.Missing(needed, needed, eyesToday: true).ShouldBeNull();
        StartChecks.Missing(needed, needed, eyesToday: false).ShouldBe(StartCheck.Eyes);
        StartChecks.Missing(needed, [.. needed, StartCheck.Eyes], eyesToday: false).ShouldBeNull();
    }

    [Fact]
    public void Arcs_side_by_side_are_the_parts_own_and_measure_nothing()
    {
        var check = SetUpCheck.OfSideBySide(Mm.Of(0.02m));
        check.Verdict.ShouldBe(SetUpVerdict.True);
        check.Notes.ShouldHaveSingleItem().ShouldBe(new Note.SideBySide(Mm.Of(0.02m)));
        (check.RunoutNow, check.SetUpRunout, check.CostNow, check.LeftOnVehicle).ShouldBe((null, null, null, null));
    }
}
