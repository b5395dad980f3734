using CsCheck;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Release;

namespace Uncial.Core.Tests;

public class JudgementTests
{
    private static readonly FinishedPart Rotor = new()
    {
        Limits = Mm.Rotor(23.0m, 23.4m), Uncertainty = Mm.Of(0.006m),
        Readings = Mm.Around(24.13m, 24.13m, 24.14m, 24.13m, 24.13m, 24.12m, 24.13m, 24.13m),
    };

    private static Judgement Judge(FinishedPart part) => Judgement.Of(part, ShopRules.Default);

    [Fact]
    public void Inside_both_limits_is_released()
    {
        var judgement = Judge(Rotor);
        judgement.Decision.ShouldBe(Decision.Release);
        judgement.Worst.ShouldBe(Mm.Of(24.12m));
        judgement.LeftToDiscard.ShouldBe(Mm.Of(1.12m));
        judgement.Allowance!.Value.Millimetres.ShouldBe(0.02m / 6, 0.0000001m);
    }

    [Theory]
    [InlineData(22.999, Decision.Never)] // a hair under
    [InlineData(23.0, Decision.MeasureAgain)] // at the limit with an uncertain gauge
    [InlineData(23.0059, Decision.MeasureAgain)]
    [InlineData(23.006, Decision.LeadOnly)]
    [InlineData(23.4059, Decision.LeadOnly)]
    [InlineData(23.406, Decision.Release)]
    public void A_rotor_of_one_thickness_is_decided_to_the_last_digit(decimal thickness, Decision decision) =>
        Judge(Rotor with { Readings = Mm.Around([.. Enumerable.Repeat(thickness, 8)]) }).Decision.ShouldBe(decision);

    [Fact]
    public void What_was_not_read_is_allowed_for()
    {
        // Three places that vary by 0.02 leave 0.02 unseen.
        var three = Rotor with { Readings = Mm.Around(23.42m, 23.44m, 23.43m) };
        Judge(three).ShouldSatisfyAllConditions(j => j.Allowance.ShouldBe(Mm.Of(0.02m)), j => j.Decision.ShouldBe(Decision.LeadOnly));
        // Four places on a square are blind to two lobes.
        var square = Judge(Rotor with { Readings = Mm.Around(24.1m, 24.1m, 24.1m, 24.1m) });
        (square.Allowance, square.Decision).ShouldBe((null, Decision.MeasureAgain));
        Judge(Rotor with { Readings = [Mm.At(0, 24.1m), Mm.At(90, 24.1m), Mm.At(180, 24.1m), Mm.At(270, 24.1m), Mm.At(1, 24.1m)] }).Allowance.ShouldBeNull();
        // All on one side.
        Judge(Rotor with { Readings = [Mm.At(0, 24.1m), Mm.At(60, 24.1m), Mm.At(120, 24.1m)] }).Decision.ShouldBe(Decision.MeasureAgain);
    }

    [Fact]
    public void Grooves_missing_uncertainty_and_a_warm_part_hold_it_back()
    {
        Judge(Rotor with { Uncertainty = Length.Zero }).Notes.ShouldContain(n => n.Code == "noUncertainty");
        Judge(Rotor with { ReadingsAreFit = false }).Decision.ShouldBe(Decision.MeasureAgain);
        Judge(Rotor with { GrooveLeft = Mm.Of(0.8m) }).Decision.ShouldBe(Decision.LeadOnly); // reaches past machine-to, not discard
        Judge(Rotor with { GrooveLeft = Mm.Of(1.2m) }).ShouldSatisfyAllConditions(j => j.Decision.ShouldBe(Decision.MeasureAgain), j => j.Notes.ShouldContain(n => n.Code == "groove"));
        Judge(Rotor with { Readings = [] }).Decision.ShouldBe(Decision.MeasureAgain);
    }

    [Fact]
    public void A_drum_needs_proven_roundness_or_one_chucking()
    {
        var drum = new FinishedPart { Limits = Mm.Drum(230.1m, 229.6m), Uncertainty = Mm.Of(0.02m), Readings = [Mm.At(0, 229.0m), Mm.At(90, 229.01m)] };
        Judge(drum).ShouldSatisfyAllConditions(j => j.Decision.ShouldBe(Decision.MeasureAgain), j => j.Notes.ShouldContain(n => n.Code == "roundnessNotProven"));
        Judge(drum with { BoredHere = true }).ShouldSatisfyAllConditions(j => j.Decision.ShouldBe(Decision.Release), j => j.Allowance.ShouldBe(Mm.Of(0.01m)));
        Judge(drum with { Readings = Mm.Axes(229.0m, 229.01m, 229.0m, 229.0m) }).Decision.ShouldBe(Decision.Release);
        Judge(drum with { Readings = Mm.Axes(230.0m, 230.0m, 230.12m, 230.0m) }).Decision.ShouldBe(Decision.Never);
        Judge(drum with { Readings = Mm.Axes(229.0m, 229.0m, 229.0m, 229.0m), GrooveLeft = Mm.Of(0.3m) }).Decision.ShouldBe(Decision.LeadOnly); // twice the groove
    }

    [Fact]
    public void A_part_that_is_let_go_is_never_beyond_and_a_worse_part_never_judged_better()
    {
        Gen.Int[22_980, 23_450].Array[3, 12].Select(Gen.Int[1, 30], Gen.Int[0, 60]).Sample((thousandths, u, groove) =>
        {
            var part = Rotor with
            {
                Readings = Mm.Around([.. thousandths.Select(t => t / 1000m)]),
                Uncertainty = Mm.Of(u / 1000m),
                GrooveLeft = Mm.Of(groove / 1000m),
            };
            var judged = Judge(part);
            var worst = thousandths.Min() / 1000m;
            if (judged.Decision is Decision.Release or Decision.LeadOnly)
                (worst - part.Uncertainty.Millimetres - judged.Allowance!.Value.Millimetres).ShouldBeGreaterThanOrEqualTo(23.0m);
            if (worst < 23.0m) judged.Decision.ShouldBe(Decision.Never);
            var thinner = Judge(part with { Readings = [.. part.Readings.Select(r => r with { Size = r.Size - Mm.Of(0.01m) })] });
            ((int)thinner.Decision).ShouldBeGreaterThanOrEqualTo((int)judged.Decision);
        });
    }

    [Theory]
    [InlineData(0.01, 0.01, 0.97725)]
    [InlineData(0, 0.01, 0.5)]
    [InlineData(0.02, 0.01, 0.99997)]
    [InlineData(-0.03, 0.01, 0.000000001)]
    [InlineData(0, 0, 0.5)]
    [InlineData(0.001, 0, 1)]
    public void Probability_is_the_normal_one(decimal margin, decimal u, double probability) =>
        Conformity.ProbabilityWithin(Mm.Of(margin), Mm.Of(u)).ShouldBe(probability, 0.00003);
}
