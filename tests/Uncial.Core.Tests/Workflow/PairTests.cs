using Uncial.Core.Inspection;
using Uncial.Core.Parts;
using Uncial.Core.Release;

namespace Uncial.Core.Tests.Workflow;

/// <summary>Both parts of an axle: which comes next, and when they can be confirmed together.</summary>
public class PairTests
{
    private static StoredSurface Received()
    {
        var surface = new StoredSurface(PartKind.Rotor);
        surface.Limit(LimitKind.Discard, 23m);
        surface.Limit(LimitKind.MachineTo, 23.4m);
        return surface;
    }

    private static StoredSurface Measured(decimal size = 24.3m)
    {
        var surface = Received();
        surface.ReadAll(size);
        return surface;
    }

    private static StoredSurface Mounted()
    {
        var surface = Measured();
        surface.Mount();
        surface.GoOn();
        return surface;
    }

    private static StoredSurface Finished()
    {
        var surface = Mounted();
        surface.Plan();
        while (!surface.State.Planning.IsCutToItsEnd)
            surface.Cut();
        surface.Finish();
        return surface;
    }

    private static StoredSurface ReadAgain(decimal size = 24.0m)
    {
        var surface = Finished();
        surface.ReadAll(size);
        return surface;
    }

    [Fact]
    public void Neither_goes_on_to_the_next_stretch_before_the_other_is_there()
    {
        SurfaceState[] inOrder = [Received().State, Measured().State, Finished().State];
        for (var mine = 0; mine < inOrder.Length; mine++)
        for (var other = 0; other < inOrder.Length; other++)
            PairOrder.OtherIsNext(inOrder[mine], inOrder[other]).ShouldBe(other < mine);
        // Inside a stretch nobody is sent away: one is mounted, the other waits to be.
        PairOrder.OtherIsNext(Mounted().State, Measured().State).ShouldBeFalse();
    }

    [Fact]
    public void What_waits_for_a_decision_holds_nobody_up()
    {
        var cracked = Measured();
        cracked.Find(FindingKind.Crack);
        PairOrder.OtherIsNext(Finished().State, cracked.State).ShouldBeFalse();
        PairOrder.OtherIsNext(Finished().State, Measured(22.5m).State).ShouldBeFalse(); // beyond discard
        PairOrder.OtherIsNext(Finished().State, Measured().State).ShouldBeTrue();
    }

    [Fact]
    public void Both_are_confirmed_together_only_where_nothing_speaks_against_either()
    {
        bool IsReady(StoredSurface mine, StoredSurface other) =>
            PairOrder.IsReady(mine.State, PairOrder.Compare(mine.State, other.State, ShopRules.Default));

        var good = ReadAgain();
        IsReady(good, ReadAgain()).ShouldBeTrue();
        IsReady(Finished(), good).ShouldBeFalse(); // not read again
        IsReady(good, Measured()).ShouldBeTrue(); // the other is not there yet: that alone speaks against nothing
        IsReady(good, ReadAgain(22.9m)).ShouldBeFalse(); // too far apart
        IsReady(ReadAgain(22.9m), good).ShouldBeFalse(); // beyond discard
        IsReady(ReadAgain(23.2m), ReadAgain(23.2m)).ShouldBeFalse(); // between the limits: a lead decides
        var unlooked = Finished();
        foreach (var place in unlooked.State.Measuring.Places)
            unlooked.Read(place.Degrees, 24.0m);
        unlooked.Read(0, 24.02m);
        unlooked.Read(180, 23.9m); // varies by more than the shop takes
        IsReady(unlooked, good).ShouldBeFalse();
    }

    [Fact]
    public void One_that_waits_to_be_cut_is_compared_by_nothing()
    {
        var rules = ShopRules.Default;
        PairOrder.Compare(ReadAgain().State, Measured().State, rules).State.ShouldBe(PairState.OtherNotRead);
        PairOrder.Compare(ReadAgain(24.0m).State, ReadAgain(23.98m).State, rules).Difference.ShouldBe(Mm.Of(0.02m));
    }
}
