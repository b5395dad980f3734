using System.ComponentModel.DataAnnotations;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Uncial.Data.Model;

/// <summary>What a lead signs for.</summary>
public enum SignedFor
{
    /// <summary>A statement that makes the limit that holds laxer than it was.</summary>
    LaxerLimit,

    /// <summary>Which of several sources of a limit holds.</summary>
    Settlement,

    /// <summary>A reading beyond discard is withdrawn.</summary>
    ReadingBeyond,

    /// <summary>A crack, or that a part must not be turned, is taken back.</summary>
    FindingTakenBack,

    /// <summary>A first pass that could end past machine-to.</summary>
    PastMachineTo,

    /// <summary>Release between machine-to and discard.</summary>
    BetweenLimits,

    /// <summary>A part is recalled.</summary>
    Recall,

    /// <summary>Shop rules that derive a laxer machine-to.</summary>
    LaxerRules,
}

/// <summary>
/// A lead's signature: the database checked the PIN and the session, and bound it to one decision in the same transaction. The application
/// can only ask for one, not write it.
/// </summary>
public class Signature : PartFact
{
    public Operator? By { get; set; }

    /// <summary>The part that it is about; null where it is about the shop's rules.</summary>
    public int? PartId { get; set; }

    public SignedFor SignedFor { get; set; }

    /// <summary>What exactly was signed, such as <c>confirmations 45</c>; see docs/security.md.</summary>
    [MaxLength(200)]
    public required string Subject { get; set; }

    [MaxLength(300)]
    public required string Reason { get; set; }

    /// <summary>Who signed.</summary>
    public int SignedById { get; set; }
    public Operator? SignedBy { get; set; }

    /// <summary>Role of the signer at that time.</summary>
    [MaxLength(20)]
    public required string Role { get; set; }

    public bool PinChecked { get; set; }
    public int? ScreenId { get; set; }

    /// <summary>The transaction that wrote it: a decision that rests on it stands in the same one.</summary>
    [MaxLength(20)]
    public string Transaction { get; set; } = "";

    /// <summary>What is signed for a limit.</summary>
    public static string OfLimit(int surface, Core.Parts.LimitKind kind, Core.Lengths.Length value) =>
        FormattableString.Invariant($"surface {surface} {kind} {value.Millimetres / 1.0000000000000000000000000000m}");

    public static string OfSettlement(long entry) => FormattableString.Invariant($"entry {entry}");

    public static string OfReading(long reading) => FormattableString.Invariant($"reading {reading}");

    public static string OfFinding(long finding) => FormattableString.Invariant($"finding {finding}");

    public static string OfPlan(int surface, int version) => FormattableString.Invariant($"surface {surface} plan {version}");

    public static string OfConfirmations(IEnumerable<long> confirmations) => "confirmations " + string.Join(',', confirmations.Order());

    public static string OfOutcome(long outcome) => FormattableString.Invariant($"outcome {outcome}");

    /// <summary>What is signed for a change of rules: the number of changes before it.</summary>
    public static string OfRules(long last) => FormattableString.Invariant($"rules after {last}");
}

internal sealed class SignatureTable : IEntityTypeConfiguration<Signature>
{
    public void Configure(EntityTypeBuilder<Signature> builder)
    {
        builder.ToTable("signatures").HasIndex(s => s.PartId);
        builder.HasOne<Part>().WithMany().HasForeignKey(s => s.PartId).OnDelete(DeleteBehavior.Restrict);
        builder.HasOne(s => s.SignedBy).WithMany().HasForeignKey(s => s.SignedById).OnDelete(DeleteBehavior.Restrict);
        builder.Property(s => s.Transaction).HasDefaultValue("");
    }
}
