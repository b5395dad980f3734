using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Core.Workflow;

/// <summary>Where a limit was read.</summary>
public enum LimitSource
{
    /// <summary>Cast into the part.</summary>
    CastMarking,

    /// <summary>The shop's limit book.</summary>
    LimitBook,

    /// <summary>The maker's data sheet.</summary>
    MakersSheet,

    /// <summary>Another shop said so.</summary>
    OtherShop,
}

/// <summary>A limit as it was read somewhere. The newest of each source counts; of several sources the stricter holds.</summary>
public class LimitFact : PartFact
{
    /// <summary>Which limit.</summary>
    public LimitKind Kind { get; init; }

    /// <summary>The limit.</summary>
    public Length Value { get; init; }

    /// <summary>As it was typed, with what was typed around the figure.</summary>
    public required string Typed { get; init; }

    /// <summary>Unit in which it was typed.</summary>
    public LengthUnit Unit { get; init; }

    /// <summary>Where it was read.</summary>
    public LimitSource Source { get; init; }

    /// <summary>The entry of the limit book that it was read from; null for other sources.</summary>
    public int? BookEntryId { get; init; }

    /// <summary>The statement of the part's visit before that it repeats; null for one that was made in this visit.</summary>
    public long? CopiedFromId { get; init; }

    /// <summary>Newest change of the shop's rules when it was stated; null or 0 for none.</summary>
    public long? RulesId { get; init; }

    /// <summary>The lead's signature where it made the limit that holds laxer; otherwise null. Known after the rest.</summary>
    public long? SignatureId { get; set; }

    /// <summary>The reason that the lead gave.</summary>
    public virtual string? SignedReason => null;

    /// <summary>Name of the lead who signed.</summary>
    public virtual string? SignedByName => null;
}

/// <summary>A lead says which source of a limit holds.</summary>
public class LimitSettlementFact : PartFact
{
    /// <summary>Which limit.</summary>
    public LimitKind Kind { get; init; }

    /// <summary>The statement that holds.</summary>
    public long EntryId { get; init; }

    /// <summary>The reason that the lead gave.</summary>
    public required string Reason { get; init; }

    /// <summary>Name of the lead who signed.</summary>
    public virtual string? SignedByName => null;
}

/// <summary>A change of the shop's rules that derives a laxer machine-to limit.</summary>
/// <param name="Id">Its place among all changes.</param>
/// <param name="Before">The rules before.</param>
/// <param name="After">The rules since.</param>
/// <param name="Reason">Why they were changed.</param>
/// <param name="ByName">Who changed them.</param>
/// <param name="SignedByName">The lead who signed.</param>
/// <param name="At">When.</param>
public sealed record LaxerRules(
    long Id,
    ShopRules Before,
    ShopRules After,
    string? Reason,
    string? ByName,
    string? SignedByName,
    DateTimeOffset At
);
