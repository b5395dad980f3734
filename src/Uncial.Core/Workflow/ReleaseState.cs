using Uncial.Core.Parts;
using Uncial.Core.Release;

namespace Uncial.Core.Workflow;

/// <summary>Whether a whole part may leave, from the states of its surfaces.</summary>
public sealed class ReleaseState
{
    private readonly IReadOnlyList<SurfaceState> surfaces;

    private ReleaseState(IReadOnlyList<SurfaceState> surfaces, bool shopAllows) => (this.surfaces, ShopAllows) = (surfaces, shopAllows);

    /// <summary>The state of a part.</summary>
    /// <param name="surfaces">All its surfaces.</param>
    /// <param name="rules">Rules of the shop.</param>
    public static ReleaseState Of(IReadOnlyList<SurfaceState> surfaces, ShopRules rules)
    {
        ArgumentNullException.ThrowIfNull(surfaces);
        ArgumentNullException.ThrowIfNull(rules);
        return new(surfaces, rules.Limits.LeadMayReleaseBetweenLimits);
    }

    /// <summary>A surface is surely beyond discard.</summary>
    public bool IsBeyond => surfaces.Any(s => s.Measuring.DiscardVerdict == Verdict.Beyond);

    /// <summary>Every surface has a judgement that lets it go, a lead's signature provided.</summary>
    public bool AllConfirmed => surfaces.All(s => s.Confirming.Holding is { Decision: Decision.Release or Decision.LeadOnly });

    /// <summary>A surface lies between the limits: only a lead releases it.</summary>
    public bool NeedsLead => surfaces.Any(s => s.Confirming.Holding is { Decision: Decision.LeadOnly });

    /// <summary>The shop lets a lead release between the limits.</summary>
    public bool ShopAllows { get; }

    /// <summary>Readings came with a file: nothing leaves on them.</summary>
    public bool IsFromFile => surfaces.Any(s => s.Measuring.Sizes.Any(r => r.FromFile == true));

    /// <summary>Why it is not released, a lead's signature provided; null where it may be.</summary>
    public Refusal? Refuses =>
        IsBeyond ? new Refusal.AgainstRule(StoredRule.BeyondDiscardIsScrap)
        : !AllConfirmed ? new Refusal.AgainstRule(StoredRule.AllConfirmed)
        : NeedsLead && !ShopAllows ? new Refusal.NotInThisShop()
        : null;

    /// <summary>Keys of the judgements that a lead signs for.</summary>
    public IReadOnlyList<long> SignedConfirmations =>
        [.. surfaces.Where(s => s.Confirming.Holding is { Decision: Decision.LeadOnly }).Select(s => s.Confirming.Holding!.Id)];
}
