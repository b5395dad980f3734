using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Release;

namespace Uncial.Core.Tests;

/// <summary>What it takes to withdraw a reading, and other rules of a release in figures worked out by hand.</summary>
public class WithdrawalTests
{
    /// <summary>A rotor to 23.4, scrap at 23.0, read to ±0.02.</summary>
    [Theory]
    // Clear of machine-to, or near it and not the worst of its round: a reason is enough.
    [InlineData(24.00, true, true, false, "")]
    [InlineData(23.42, true, true, false, "")]
    [InlineData(23.41, false, true, false, "")]
    // The worst of its round, within its uncertainty of machine-to, or past it: it decided, and is read again first.
    [InlineData(23.41, true, true, false, "decided again")]
    [InlineData(23.40, true, true, false, "decided again")]
    [InlineData(23.39, false, true, false, "decided again")]
    [InlineData(23.39, false, true, true, "decided")]
    // Before a cut its place cannot be read again: a lead signs.
    [InlineData(23.41, true, false, false, "decided signature")]
    [InlineData(24.00, true, false, false, "")]
    // At discard it is not beyond it; beyond it a lead signs, read again or not.
    [InlineData(23.00, false, true, true, "decided")]
    [InlineData(22.99, false, true, true, "decided signature")]
    [InlineData(22.99, false, true, false, "decided again signature")]
    [InlineData(22.99, false, false, false, "decided signature")]
    public void A_reading_that_decided_is_not_withdrawn_for_a_nicer_one(double size, bool worst, bool now, bool again, string takes)
    {
        var rotor = ReadingWithdrawal.Of(Mm.Of((decimal)size), Mm.Of(0.02m), Mm.Rotor(23.0m, 23.4m, 26m), worst, now, again);
        rotor.ShouldBe(new(takes.Contains("decided"), takes.Contains("again"), takes.Contains("signature")));
        // A drum the other way round: to 229.6, scrap at 230.0.
        ReadingWithdrawal.Of(Mm.Of(253m - (decimal)size), Mm.Of(0.02m), Mm.Drum(230.0m, 229.6m, 227m), worst, now, again).ShouldBe(rotor);
        ReadingWithdrawal.Of(Mm.Of((decimal)size), Mm.Of(0.02m), null, worst, now, again).ShouldBe(default);
    }

    [Fact]
    public void At_worst_a_rotor_is_thinner_and_a_drum_wider_by_all_that_it_may_be_off()
    {
        static Length? AtWorst(PartKind kind, decimal? worst, decimal? allowance, decimal lower) =>
            new Judgement(
                worst is { } w ? Mm.Of(w) : null,
                allowance is { } h ? Mm.Of(h) : null,
                Verdict.Within,
                Verdict.Within,
                Decision.Release,
                null,
                null,
                null,
                []
            )
            {
                ForWhatLiesLower = Mm.Of(lower),
            }.AtWorst(kind, Mm.Of(0.02m));
        AtWorst(PartKind.Rotor, 24.30m, 0.003m, 0.06m).ShouldBe(Mm.Of(24.217m));
        AtWorst(PartKind.Drum, 229.30m, 0.003m, 0.06m).ShouldBe(Mm.Of(229.383m));
        AtWorst(PartKind.Rotor, 24.30m, null, 0m).ShouldBe(Mm.Of(24.28m));
        AtWorst(PartKind.Rotor, null, 0.003m, 0m).ShouldBeNull();
    }

    [Theory]
    [InlineData(0.30, "{0} > {1}", PairState.Differ)]
    [InlineData(0.20, "{0} ≤ {1}", PairState.Even)]
    [InlineData(0.10, "{0} ≤ {1}", PairState.Even)]
    public void How_a_pair_and_a_shape_were_held_to_their_limits_can_be_read(double apart, string formula, PairState state)
    {
        var rules = ShopRules.Default with
        {
            Limits = ShopRules.Default.Limits with { GreatestAxleDifference = Mm.Of(0.20m), GreatestRunout = Mm.Of(0.20m) },
        };
        var pair = PairCheck.Of(new(Mm.Of(24m), true), new(Mm.Of(24m + (decimal)apart), true), rules);
        (pair.State, pair.Difference).ShouldBe((state, Mm.Of((decimal)apart)));
        pair.Steps.Select(s => (s.Quantity, s.Formula)).ShouldBe([("axleDifference", "|{0} − {1}|"), ("pair", formula)]);
        // A shop that asks for nothing is told how far they are apart, and no more.
        PairCheck
            .Of(
                new(Mm.Of(24m), true),
                new(Mm.Of(24m + (decimal)apart), true),
                ShopRules.Default with
                {
                    Limits = rules.Limits with { GreatestAxleDifference = Length.Zero },
                }
            )
            .Steps.Select(s => s.Quantity)
            .ShouldBe(["axleDifference"]);
        var shape = ShapeCheck.Of(PartKind.Rotor, new(null, false, null, null, Mm.Of((decimal)apart)), null, null, rules);
        shape.Steps.Select(s => (s.Quantity, s.Formula)).ShouldBe([("shapeRunoutInner", formula)]);
        shape.IsOver.ShouldBe(state == PairState.Differ);
        // Run-out and taper are no lower bounds, however many places the variation was read at.
        var all = ShapeCheck.Of(PartKind.Rotor, new(Mm.Of(0.001m), true, Mm.Of(-0.001m), Mm.Of(0.001m), Mm.Of(0.001m)), null, null, rules);
        all.Figures.Select(f => f.State).ShouldBe([ShapeState.AtLeast, ShapeState.Within, ShapeState.Within, ShapeState.Within]);
    }
}
