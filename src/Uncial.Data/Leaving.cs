using System.ComponentModel.DataAnnotations;
using System.ComponentModel.DataAnnotations.Schema;

namespace Uncial.Data;

/// <summary>How a part left the journey. A refused one goes back as it came, unturned and unjudged.</summary>
public enum OutcomeKind
{
    Released,
    Shelved,
    Scrapped,
    Refused,
}

/// <summary>Why a part is scrap.</summary>
public enum ScrapCause
{
    BeyondDiscard,
    Crack,
    HardSpots,
    Damage,
    NotWorthIt,
    Other,
}

/// <summary>The end of a part's journey in this job. Who called it back is on record beside it.</summary>
public class Outcome : PartFact
{
    public int PartId { get; set; }
    public Operator? By { get; set; }
    public OutcomeKind Kind { get; set; }

    [MaxLength(300)]
    public string? Reason { get; set; }
    public bool DoNotMachineAgain { get; set; }

    /// <summary>Why it is scrap; null where it is none.</summary>
    public ScrapCause? Cause { get; set; }

    /// <summary>Where a shelved part lies.</summary>
    [MaxLength(120)]
    public string? Place { get; set; }

    /// <summary>What keeps rust off a shelved part.</summary>
    [MaxLength(120)]
    public string? Preservative { get; set; }

    /// <summary>The lead hand who signed with a PIN at another's screen; null where nobody had to.</summary>
    public int? SignedById { get; set; }
    public Operator? SignedBy { get; set; }

    /// <summary>The lead's signature where it left between the limits; otherwise null.</summary>
    public long? SignatureId { get; set; }
    public Signature? Signature { get; set; }

    public OutcomeWithdrawal? Withdrawal { get; set; }
    public Certificate? Certificate { get; set; }

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}

/// <summary>A recall, as it is stored.</summary>
public class OutcomeWithdrawal : RecallFact
{
    public long OutcomeId { get; set; }
    public Operator? By { get; set; }

    public int? SignedById { get; set; }
    public Operator? SignedBy { get; set; }

    /// <summary>The lead's signature; null for one from before signatures were kept.</summary>
    public long? SignatureId { get; set; }
    public Signature? Signature { get; set; }

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}

/// <summary>The proof of a part that left: a document that is kept to the letter, and its hash.</summary>
public class Certificate : PartFact
{
    public long OutcomeId { get; set; }
    public Operator? By { get; set; }

    /// <summary>The proof as <see cref="ProofDocument"/>, kept to the letter.</summary>
    public required string Document { get; set; }

    /// <summary>SHA-256 of the document in UTF-8, hexadecimal. Its first letters are the code on paper.</summary>
    [MaxLength(64)]
    public required string Hash { get; set; }

    public List<PrintEntry> Prints { get; } = [];

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}

/// <summary>What is printed of a proof.</summary>
public enum PrintKind
{
    Tag,
    Certificate,
}

/// <summary>A proof was printed; every print after the first of its kind is a copy.</summary>
public class PrintEntry : PartFact
{
    public long CertificateId { get; set; }
    public Operator? By { get; set; }
    public PrintKind Kind { get; set; }

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}

/// <summary>A link of a part's chain: a fact and the hash over it and over the link before. The database adds it with every fact.</summary>
public class ChainLink
{
    public int PartId { get; set; }

    /// <summary>Place in the chain, from 1.</summary>
    public int Number { get; set; }

    [MaxLength(40)]
    public required string FactTable { get; set; }
    public long FactId { get; set; }

    /// <summary>SHA-256 over the hash of the link before and the fact's canonical text.</summary>
    public required byte[] Hash { get; set; }
}

/// <summary>A part in the logbook: what is searched for, kept by the database itself.</summary>
public class LogLine
{
    public int PartId { get; set; }
    public int JobNumber { get; set; }
    public DateTimeOffset ReceivedAt { get; set; }

    /// <summary>Tag, vehicle, customer, job and mark in small letters, each word with a space before it.</summary>
    public required string Search { get; set; }

    /// <summary>Everybody who stated a fact about it.</summary>
    public int[] People { get; set; } = [];

    /// <summary>How it left; null while it is here.</summary>
    public OutcomeKind? Outcome { get; set; }

    public DateTimeOffset? OutAt { get; set; }
    public Part? Part { get; set; }
}
