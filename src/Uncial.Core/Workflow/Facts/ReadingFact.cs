using Uncial.Core.Lengths;

namespace Uncial.Core.Workflow;

/// <summary>What a reading is of.</summary>
public enum ReadingKind
{
    /// <summary>Thickness of a rotor, diameter of a drum.</summary>
    Size,

    /// <summary>Run-out of the outer face, total reading.</summary>
    RunoutOuter,

    /// <summary>Run-out of the inner face.</summary>
    RunoutInner,

    /// <summary>Deepest groove of the outer face.</summary>
    GrooveOuter,

    /// <summary>Deepest groove of the inner face.</summary>
    GrooveInner,

    /// <summary>How much lower than where it was read the face's lowest land lies.</summary>
    ReliefOuter,

    /// <summary>The same of the inner face.</summary>
    ReliefInner,

    /// <summary>Of a drum on the spindle: half the indicator's swing.</summary>
    Eccentricity,

    /// <summary>Deepest groove of a bore, radial.</summary>
    Groove,

    /// <summary>How much wider than where it was read the bore's widest land is, radial.</summary>
    Relief,
}

/// <summary>One reading of one gauge, as typed.</summary>
public class ReadingFact : PartFact
{
    /// <summary>What it is of.</summary>
    public ReadingKind Kind { get; init; }

    /// <summary>Place around the part, degrees; null where the reading is of a whole face.</summary>
    public decimal? Degrees { get; init; }

    /// <summary>Depth in a drum, or how far in from the outer edge of a rotor.</summary>
    public Length? Station { get; init; }

    /// <summary>The reading, corrected by the zero check.</summary>
    public Length Value { get; init; }

    /// <summary>As it was typed.</summary>
    public required string Typed { get; init; }

    /// <summary>Unit in which it was typed.</summary>
    public LengthUnit Unit { get; init; }

    /// <summary>Step of the gauge.</summary>
    public Length Resolution { get; init; }

    /// <summary>Expanded uncertainty (k = 2) of the mean of its place up to this reading.</summary>
    public Length Uncertainty { get; init; }

    /// <summary>It was questioned, and the operator confirmed it.</summary>
    public bool Insisted { get; init; }

    /// <summary>Passes that the surface had behind it.</summary>
    public int Cuts { get; init; }

    /// <summary>The gauge; null for a reading by eye, or from before gauges were on record.</summary>
    public int? GaugeId { get; init; }

    /// <summary>The zero check that corrected it, if one did.</summary>
    public long? ZeroCheckId { get; init; }

    /// <summary>What the zero check added to what the gauge showed.</summary>
    public Length Correction { get; init; }

    /// <summary>What the operator remarked.</summary>
    public string? Note { get; init; }

    /// <summary>It came with a job file and was not read here: nothing is released on it. Null where it was read here.</summary>
    public bool? FromFile { get; init; }

    /// <summary>When it was typed, where it had to wait for the server; otherwise null.</summary>
    public DateTimeOffset? TypedAt { get; init; }

    /// <summary>It was withdrawn; null where it stands.</summary>
    public virtual WithdrawalFact? Withdrawn { get; init; }

    /// <summary>Its gauge failed on its standard afterwards; null where it did not.</summary>
    public virtual PartFact? Flagged { get; init; }

    /// <summary>When the gauge was read.</summary>
    public DateTimeOffset TakenAt => TypedAt ?? At;

    /// <summary>It counts: neither withdrawn nor suspect.</summary>
    public bool Stands => Withdrawn is null && Flagged is null;
}

/// <summary>A reading or a finding was taken back.</summary>
public class WithdrawalFact : PartFact
{
    /// <summary>Why.</summary>
    public required string Reason { get; init; }

    /// <summary>The lead's signature where it takes one; otherwise null.</summary>
    public long? SignatureId { get; init; }

    /// <summary>Name of the lead who signed.</summary>
    public virtual string? SignedByName => null;
}
