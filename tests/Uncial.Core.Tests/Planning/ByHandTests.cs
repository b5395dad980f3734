using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Reasoning;
using Uncial.Core.Settings;

namespace Uncial.Core.Tests;

/// <summary>A plan as an operator has laid it out himself: nothing that goes too far may start, worked out by hand.</summary>
public class ByHandTests
{
    private static readonly ShopRules Rules = new();

    /// <summary>Budget 24.41 − 23.40 − 0.006 = 1.004; needs 14 and 7 divisions of 0.01.</summary>
    private static readonly PlanRequest Rotor = new()
    {
        Kind = PartKind.Rotor,
        Touch = Mm.Of(24.41m),
        TouchBound = Mm.Of(24.374m),
        Worst = Mm.Of(24.30m),
        MachineTo = Mm.Of(23.4m),
        Discard = Mm.Of(23.0m),
        Uncertainty = Mm.Of(0.006m),
        Sides = [new(Mm.Of(0.14m)), new(Mm.Of(0.07m))],
        Dial = new(Mm.Of(0.01m), false, Length.Zero, true),
    };

    private static readonly Technique Working = Rotor.Techniques.Single(t => t.Key == "working");

    private static PlanOption Lay(PlanRequest request, params (PassKind Kind, long[] Divisions)[] passes) =>
        PassPlanner.ByHand(request, Working, [.. passes.Select(p => new HandPass(p.Kind, p.Divisions))], Rules);

    private static PlanOption Lay(params (PassKind Kind, long[] Divisions)[] passes) => Lay(Rotor, passes);

    private static string Worked(PlanOption option, string quantity) => option.Steps.Single(s => s.Quantity == quantity).Formula;

    [Fact]
    public void Metal_and_waste_are_what_was_laid()
    {
        var option = Lay((PassKind.Rough, [10, 10]), (PassKind.Finish, [8, 6]));
        option.Refusal.ShouldBeNull();
        option.ByHand.ShouldBeTrue();
        option.Start.ShouldBe(PlanStart.Free);
        option.Metal.ShouldBe(Mm.Of(0.34m));
        // 0.34 − (0.14 + 0.07)
        option.Waste.ShouldBe(Mm.Of(0.13m));
        option.Passes.Select(p => p.Divisions[0]).ShouldBe([10, 8]);
        option.Passes[^1].SizeAfter.ShouldBe(Mm.Of(24.07m));
        option.Notes.ShouldNotContain(n => n is Note.StaysDark);
    }

    [Fact]
    public void A_side_that_stays_dark_is_named_with_what_is_missing()
    {
        // Outer 12 of 14 divisions; inner 7 of 7.
        var option = Lay((PassKind.Finish, [12, 7]));
        option.Notes.OfType<Note.StaysDark>().ShouldBe([new(Mm.Of(0.02m), "outer")]);
        Lay((PassKind.Rough, [9, 3]), (PassKind.Finish, [5, 3])).Notes.OfType<Note.StaysDark>().ShouldBe([new(Mm.Of(0.01m), "inner")]);
        Lay((PassKind.Finish, [14, 7])).Notes.OfType<Note.StaysDark>().ShouldBeEmpty();
    }

    [Fact]
    public void The_heaviest_pass_may_start_and_a_division_more_may_not()
    {
        Rules.Cutting.HeaviestPass.ShouldBe(Mm.Of(0.25m));
        Lay((PassKind.Rough, [25, 10])).Refusal.ShouldBeNull();
        Lay((PassKind.Rough, [26, 10])).Refusal.ShouldBe(PlanRefusal.TooHeavy);
        Lay((PassKind.Rough, [10, 10]), (PassKind.Finish, [5, 26])).Refusal.ShouldBe(PlanRefusal.TooHeavy);
    }

    [Fact]
    public void The_whole_budget_may_go_and_a_division_more_may_not()
    {
        // 100 divisions are 1.00 of 1.004; one more is 1.01.
        var all = Lay((PassKind.Rough, [25, 25]), (PassKind.Finish, [25, 25]));
        all.Metal.ShouldBe(Mm.Of(1.00m));
        all.Refusal.ShouldBeNull();
        Worked(all, "againstBudget").ShouldBe("{0} ≤ {1}");
        var over = Lay((PassKind.Rough, [25, 25]), (PassKind.Finish, [25, 25]), (PassKind.Finish, [1, 0]));
        over.Metal.ShouldBe(Mm.Of(1.01m));
        over.Refusal.ShouldBe(PlanRefusal.Budget);
        over.CanStart.ShouldBeFalse();
        Worked(over, "againstBudget").ShouldBe("{0} > {1}");
        // What does not go stays shown, so that it can be moved on.
        over.Passes.Count.ShouldBe(3);
        // A budget that is met exactly is not passed: 24.41 − 23.404 − 0.006 = 1.00.
        Lay(Rotor with { MachineTo = Mm.Of(23.404m) }, (PassKind.Rough, [25, 25]), (PassKind.Finish, [25, 25])).Refusal.ShouldBeNull();
    }

    [Fact]
    public void What_may_end_past_discard_may_not_start()
    {
        // After a pass of 15/15 it is surely no thinner than 24.374 − 0.30 = 24.074: discard there is met, above it not.
        var pass = (PassKind.Finish, new long[] { 15, 15 });
        var bound = Lay(pass).Passes[0].BoundAfter;
        bound.ShouldBe(Mm.Of(24.074m));
        Lay(Rotor with { Discard = bound }, pass).Refusal.ShouldBeNull();
        Lay(Rotor with { Discard = bound + Mm.Of(0.001m) }, pass).Refusal.ShouldBe(PlanRefusal.DiscardBound);
    }

    [Fact]
    public void Passes_outside_the_technique_are_told_by_their_number()
    {
        // Working: a rough pass of 0.15 to 0.25, a finish of 0.10 to 0.15.
        var (least, most) = (Working.FinishMin, Working.FinishMax);
        var (low, high) = ((long)(least / Mm.Of(0.01m)), (long)(most / Mm.Of(0.01m)));
        var notes = Lay((PassKind.Finish, [low, high])).Notes;
        notes.ShouldNotContain(n => n is Note.PassShallow || n is Note.PassDeep);
        notes = Lay((PassKind.Finish, [low, high]), (PassKind.Finish, [low - 1, high + 1])).Notes;
        notes.OfType<Note.PassShallow>().ShouldBe([new(least - Mm.Of(0.01m), least, "2")]);
        notes.OfType<Note.PassDeep>().ShouldBe([new(most + Mm.Of(0.01m), most, "2")]);
        // A side that a pass leaves alone is no shallow pass, and sparking out is none at all.
        Lay(Rotor with { TwinCutter = false }, (PassKind.Finish, [high, 0])).Notes.ShouldNotContain(n => n is Note.PassShallow);
        Lay((PassKind.Finish, [high, high]), (PassKind.SparkOut, [0, 0]))
            .Notes.ShouldNotContain(n => n is Note.PassShallow || n is Note.PassDeep);
        // A rough pass is held against the rough depths.
        var rough = (long)(Working.RoughMax / Mm.Of(0.01m));
        Lay((PassKind.Rough, [rough, rough])).Notes.ShouldNotContain(n => n is Note.PassDeep);
        Lay((PassKind.Rough, [rough + 1, rough])).Notes.OfType<Note.PassDeep>().ShouldHaveSingleItem().Subject.ShouldBe("1");
    }

    [Fact]
    public void A_drum_is_laid_by_its_bore_and_in_half_its_diameter()
    {
        var drum = Rotor with
        {
            Kind = PartKind.Drum,
            Touch = Mm.Of(228.50m),
            TouchBound = Mm.Of(228.51m),
            Worst = Mm.Of(228.74m),
            MachineTo = Mm.Of(229.6m),
            Discard = Mm.Of(230.1m),
            Sides = [new(Mm.Of(0.123m))],
        };
        var option = Lay(drum, (PassKind.Finish, [12]));
        option.Notes.OfType<Note.StaysDark>().ShouldBe([new(Mm.Of(0.003m), "bore")]);
        option.Passes[0].SizeAfter.ShouldBe(Mm.Of(228.74m));
        // Budget (229.6 − 0.006 − 228.50)/2 = 0.547: 54 divisions go, 55 do not.
        Lay(drum, (PassKind.Rough, [25]), (PassKind.Rough, [25]), (PassKind.Finish, [4])).Refusal.ShouldBeNull();
        Lay(drum, (PassKind.Rough, [25]), (PassKind.Rough, [25]), (PassKind.Finish, [5])).Refusal.ShouldBe(PlanRefusal.Budget);
    }
}
