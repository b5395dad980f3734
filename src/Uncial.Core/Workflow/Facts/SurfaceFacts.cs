using Uncial.Core.Lengths;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;

namespace Uncial.Core.Workflow;

/// <summary>Everything on record about one work surface: a pair of faces or a bore. Lists are in any order.</summary>
public sealed record SurfaceFacts
{
    /// <summary>Rotor or drum.</summary>
    public required PartKind Kind { get; init; }

    /// <summary>Largest diameter cut: outside of a rotor's ring, inside of a drum.</summary>
    public Length Diameter { get; init; }

    /// <summary>Width of the swept band.</summary>
    public Length Band { get; init; }

    /// <summary>Clock positions of a rotor, or axes of a drum, that are to be read.</summary>
    public int Places { get; init; }

    /// <summary>Depths of a drum from its open edge, or how far in from the outer edge of a rotor; empty for the usual one.</summary>
    public IReadOnlyList<Length> Depths { get; init; } = [];

    /// <summary>Greatest run-out that the limit book allows, or null.</summary>
    public Length? MaxRunout { get; init; }

    /// <summary>Greatest thickness variation or out-of-round that the limit book allows, or null.</summary>
    public Length? MaxVariation { get; init; }

    /// <summary>Limits as they were read.</summary>
    public IReadOnlyList<LimitFact> Limits { get; init; } = [];

    /// <summary>What leads settled about them.</summary>
    public IReadOnlyList<LimitSettlementFact> Settlements { get; init; } = [];

    /// <summary>What was found by eye.</summary>
    public IReadOnlyList<FindingFact> Findings { get; init; } = [];

    /// <summary>Readings, withdrawn ones too.</summary>
    public IReadOnlyList<ReadingFact> Readings { get; init; } = [];

    /// <summary>Plans that were taken.</summary>
    public IReadOnlyList<PlanFact> Plans { get; init; } = [];

    /// <summary>Passes that were made.</summary>
    public IReadOnlyList<PassFact> Passes { get; init; } = [];

    /// <summary>Judgements.</summary>
    public IReadOnlyList<ConfirmationFact> Confirmations { get; init; } = [];

    /// <summary>Mountings.</summary>
    public IReadOnlyList<MountFact> Mounts { get; init; } = [];

    /// <summary>Checks of set-ups.</summary>
    public IReadOnlyList<SetUpFact> SetUps { get; init; } = [];

    /// <summary>Who said that it may be cut as it is mounted.</summary>
    public IReadOnlyList<SetUpDecisionFact> SetUpDecisions { get; init; } = [];

    /// <summary>Passes that were started.</summary>
    public IReadOnlyList<CutStartFact> CutStarts { get; init; } = [];

    /// <summary>Chatter that was heard or seen, and what was tried.</summary>
    public IReadOnlyList<ChatterFact> Chatters { get; init; } = [];

    /// <summary>When it was finished.</summary>
    public IReadOnlyList<FinishFact> Finishes { get; init; } = [];
}

/// <summary>What is known of the whole part.</summary>
public sealed record PartFacts
{
    /// <summary>It was released, shelved, scrapped or refused, and not recalled since.</summary>
    public bool HasLeft { get; init; }

    /// <summary>The newest recall, or null.</summary>
    public RecallFact? Recalled { get; init; }

    /// <summary>The sizes that decide how it is mounted; null where nobody has entered any.</summary>
    public MountShape? Shape { get; init; }

    /// <summary>Findings on all its surfaces.</summary>
    public IReadOnlyList<FindingFact> Findings { get; init; } = [];
}
