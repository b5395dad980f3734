using Uncial.Core.Parts;
using Uncial.Core.Settings;
using Uncial.Core.Tests.Workflow;

namespace Uncial.Core.Tests.Settings;

/// <summary>What a change of the rules would have changed in parts that are finished.</summary>
public class RulePreviewTests
{
    private static StoredSurface Finished(decimal size, decimal spread = 0m, PartKind kind = PartKind.Rotor, decimal before = 24.3m)
    {
        var surface = new StoredSurface(kind);
        surface.Limit(LimitKind.Discard, kind == PartKind.Rotor ? 23m : 230.1m);
        surface.ReadAll(before);
        surface.Mount();
        surface.Check(0.02m);
        surface.GoOn();
        surface.Plan();
        while (!surface.State.Planning.IsCutToItsEnd)
            surface.Cut();
        surface.Finish();
        surface.ReadAll(size);
        surface.Read(0, size + spread);
        return surface;
    }

    private static IReadOnlyDictionary<RuleEffect, int> Effects(Func<ShopRules, ShopRules> change, params StoredSurface[] parts)
    {
        var preview = RulePreview.Of(
            parts.Select(p =>
                (IReadOnlyList<(SurfaceState, SurfaceState)>)[(p.Under(ShopRules.Default), p.Under(change(ShopRules.Default)))]
            )
        );
        preview.Parts.ShouldBe(parts.Length);
        return preview.Effects;
    }

    [Fact]
    public void The_same_rules_change_nothing()
    {
        Effects(r => r, Finished(24.0m), Finished(23.2m)).ShouldBeEmpty();
        RulePreview.Of([]).Effects.ShouldBeEmpty();
    }

    [Fact]
    public void A_machine_to_further_from_discard_makes_a_lead_decide_and_without_leads_holds_back()
    {
        // Machine-to is derived 0.40 above discard: 23.50 is inside, with 1.00 it lies between the limits.
        ShopRules Wider(ShopRules r) => r with { Limits = r.Limits with { RotorMachineToAboveDiscard = Mm.Of(1m) } };
        Effects(Wider, Finished(23.6m), Finished(24.1m)).ShouldBe([new(RuleEffect.NeedsLead, 1)]);
        ShopRules NoLeads(ShopRules r) => Wider(r) with { Limits = Wider(r).Limits with { LeadMayReleaseBetweenLimits = false } };
        Effects(NoLeads, Finished(23.6m), Finished(24.1m)).ShouldBe([new(RuleEffect.HeldBack, 1)]);
    }

    [Fact]
    public void A_shape_that_the_shop_takes_no_more_takes_a_reason()
    {
        var wavy = Finished(24.0m, spread: 0.02m);
        Effects(r => r with { Limits = r.Limits with { GreatestVariation = Mm.Of(0.01m) } }, wavy)
            .ShouldBe([new(RuleEffect.TakesReason, 1)]);
    }

    [Fact]
    public void A_set_up_is_held_against_another_tolerance()
    {
        Effects(r => r with { SetUp = r.SetUp with { SetUpTolerance = Mm.Of(0.01m) } }, Finished(24.0m), Finished(24.1m))
            .ShouldBe([new(RuleEffect.Remounted, 2)]);
    }
}
