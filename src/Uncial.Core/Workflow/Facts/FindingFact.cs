using Uncial.Core.Inspection;
using Uncial.Core.Lengths;

namespace Uncial.Core.Workflow;

/// <summary>Which side of a work surface a finding is on.</summary>
public enum Side
{
    /// <summary>All of it, or a bore.</summary>
    Whole,

    /// <summary>The outer face.</summary>
    Outer,

    /// <summary>The inner face.</summary>
    Inner,
}

/// <summary>What somebody found on a surface by eye and hand.</summary>
public class FindingFact : PartFact
{
    /// <summary>What was found.</summary>
    public FindingKind Kind { get; init; }

    /// <summary>Where it is.</summary>
    public Side Side { get; init; }

    /// <summary>Twelfths where it is, bit 0 at 12 o'clock; 0 where it is all round or nobody said.</summary>
    public int Sectors { get; init; }

    /// <summary>Depth of a groove, height of a ridge.</summary>
    public Length? Depth { get; init; }

    /// <summary>What the operator remarked.</summary>
    public string? Note { get; init; }

    /// <summary>Key of a photo of it.</summary>
    public int? PhotoId { get; init; }

    /// <summary>It turned out to be none; null where it stands.</summary>
    public virtual WithdrawalFact? Withdrawn { get; init; }
}
