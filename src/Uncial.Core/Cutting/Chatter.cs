using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;

namespace Uncial.Core.Cutting;

/// <summary>What is heard or seen of a pass that chatters.</summary>
public enum ChatterSign
{
    /// <summary>A high, steady ringing: the part sings.</summary>
    Ringing,

    /// <summary>A low rumble: head, bar or spindle gives.</summary>
    Rumble,

    /// <summary>A dry squeal and shiny streaks: the bit rubs.</summary>
    Rubbing,

    /// <summary>A regular pattern on the surface, such as diamonds or waves.</summary>
    Pattern,

    /// <summary>A torn, grey surface: the edge no longer cuts.</summary>
    Torn,
}

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

    /// <summary>What is heard or seen; null before the cut.</summary>
    public ChatterSign? Sign { get; init; }
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
    /// <param name="facts">What is known of the pass.</param>
    /// <param name="rules">The shop's rules.</param>
    /// <param name="helped">How often each remedy helped on this lathe before; null where nothing is kept.</param>
    public static Chatter Of(ChatterFacts facts, ShopRules rules, IReadOnlyDictionary<ChatterRemedy, int>? helped = null)
    {
        ArgumentNullException.ThrowIfNull(facts);
        ArgumentNullException.ThrowIfNull(rules);
        var shallow = facts.Depth > Length.Zero && facts.Depth < rules.Cutting.RubbingDepth;
        List<ChatterReason> reasons = [];
        if (!facts.HasBand)
            reasons.Add(ChatterReason.NoBand);
        if (facts.Kind == PartKind.Rotor && facts.Thickness < rules.Cutting.ThinRotor)
            reasons.Add(ChatterReason.ThinRotor);
        if (facts.Overhangs)
            reasons.Add(ChatterReason.Overhang);
        if (facts.EdgeIsWorn)
            reasons.Add(ChatterReason.WornEdge);
        if (shallow)
            reasons.Add(ChatterReason.Shallow);
        if (facts.Pass != PassKind.Rough && facts.Diameter >= rules.Cutting.LargeDiameter)
            reasons.Add(ChatterReason.FineAtLargeDiameter);

        // Damping first where there is none; then what the sign points at, what holds the tool, and both schools.
        List<ChatterRemedy> remedies = [];
        if (!facts.HasBand)
            remedies.Add(ChatterRemedy.Band);
        var sign = facts.Sign switch
        {
            ChatterSign.Rumble => ChatterRemedy.ShortenOverhang,
            ChatterSign.Torn => ChatterRemedy.FreshEdge,
            ChatterSign.Rubbing => ChatterRemedy.DeeperOrFaster,
            ChatterSign.Ringing or ChatterSign.Pattern => ChatterRemedy.MoreDamping,
            _ => (ChatterRemedy?)null,
        };
        List<ChatterRemedy> others = [ChatterRemedy.MoreDamping];
        if (facts.Overhangs)
            others.Add(ChatterRemedy.ShortenOverhang);
        if (facts.EdgeIsWorn)
            others.Add(ChatterRemedy.FreshEdge);
        others.AddRange(
            shallow || facts.Pass != PassKind.Rough || facts.Sign == ChatterSign.Rubbing
                ? [ChatterRemedy.DeeperOrFaster, ChatterRemedy.SlowerOrLighter]
                : [ChatterRemedy.SlowerOrLighter, ChatterRemedy.DeeperOrFaster]
        );
        if (sign is { } first)
        {
            others.Remove(first);
            others.Insert(0, first);
        }
        // What has helped on this lathe before goes ahead of what has not.
        remedies.AddRange(others.OrderByDescending(r => helped?.GetValueOrDefault(r) ?? 0));
        return new(reasons, remedies);
    }
}
