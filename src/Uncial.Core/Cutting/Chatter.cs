using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;

namespace Uncial.Core.Cutting;

/// <summary>What is known of a pass that chatters, or might.</summary>
public sealed record ChatterFacts
{
    /// <summary>Rotor or drum.</summary>
    public required PartKind Kind { get; init; }

    /// <summary>Rough or finish.</summary>
    public required PassKind Pass { get; init; }

    /// <summary>Depth of the pass, per side.</summary>
    public required Length Depth { get; init; }

    /// <summary>Largest diameter cut.</summary>
    public required Length Diameter { get; init; }

    /// <summary>Thickness of a rotor; null for a drum or where it is not known.</summary>
    public Length? Thickness { get; init; }

    /// <summary>Tool or spindle stands out past the lathe's mark.</summary>
    public bool Overhangs { get; init; }

    /// <summary>A silencer band is on.</summary>
    public bool HasBand { get; init; } = true;

    /// <summary>The insert's edge is worn or chipped.</summary>
    public bool EdgeIsWorn { get; init; }
}

/// <summary>Why a pass chatters.</summary>
public enum ChatterReason
{
    /// <summary>No silencer band.</summary>
    NoBand,

    /// <summary>The rotor is thin and rings.</summary>
    ThinRotor,

    /// <summary>Tool or spindle stands out too far.</summary>
    Overhang,

    /// <summary>The edge is worn or chipped.</summary>
    WornEdge,

    /// <summary>The pass is so shallow that the bit rubs.</summary>
    Shallow,

    /// <summary>A fine feed at a large diameter.</summary>
    FineAtLargeDiameter,
}

/// <summary>What helps against chatter.</summary>
public enum ChatterRemedy
{
    /// <summary>Put the band on, or one that sits tighter.</summary>
    Band,

    /// <summary>Side silencers, a weighted belt, a cord.</summary>
    MoreDamping,

    /// <summary>Bring head and spindle in.</summary>
    ShortenOverhang,

    /// <summary>Turn or change the insert.</summary>
    FreshEdge,

    /// <summary>One school: a deeper cut or a faster feed.</summary>
    DeeperOrFaster,

    /// <summary>The other school: slower and lighter.</summary>
    SlowerOrLighter,
}

/// <summary>Reasons for chatter and what to try, in order: reasons, not a score.</summary>
/// <param name="Reasons">What speaks for chatter here.</param>
/// <param name="Remedies">Damping first, then what holds the tool, then both schools, the one that fits the reasons first.</param>
public sealed record Chatter(IReadOnlyList<ChatterReason> Reasons, IReadOnlyList<ChatterRemedy> Remedies)
{
    /// <summary>Looks for reasons.</summary>
    public static Chatter Of(ChatterFacts facts, ShopRules rules)
    {
        ArgumentNullException.ThrowIfNull(facts);
        ArgumentNullException.ThrowIfNull(rules);
        var shallow = facts.Depth > Length.Zero && facts.Depth < rules.RubbingDepth;
        List<ChatterReason> reasons = [];
        if (!facts.HasBand) reasons.Add(ChatterReason.NoBand);
        if (facts.Kind == PartKind.Rotor && facts.Thickness < rules.ThinRotor) reasons.Add(ChatterReason.ThinRotor);
        if (facts.Overhangs) reasons.Add(ChatterReason.Overhang);
        if (facts.EdgeIsWorn) reasons.Add(ChatterReason.WornEdge);
        if (shallow) reasons.Add(ChatterReason.Shallow);
        if (facts.Pass != PassKind.Rough && facts.Diameter >= rules.LargeDiameter) reasons.Add(ChatterReason.FineAtLargeDiameter);

        List<ChatterRemedy> remedies = [];
        if (!facts.HasBand) remedies.Add(ChatterRemedy.Band);
        remedies.Add(ChatterRemedy.MoreDamping);
        if (facts.Overhangs) remedies.Add(ChatterRemedy.ShortenOverhang);
        if (facts.EdgeIsWorn) remedies.Add(ChatterRemedy.FreshEdge);
        remedies.AddRange(shallow || facts.Pass != PassKind.Rough
            ? [ChatterRemedy.DeeperOrFaster, ChatterRemedy.SlowerOrLighter] : [ChatterRemedy.SlowerOrLighter, ChatterRemedy.DeeperOrFaster]);
        return new(reasons, remedies);
    }
}
