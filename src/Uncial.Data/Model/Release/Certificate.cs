using System.ComponentModel.DataAnnotations;
using System.ComponentModel.DataAnnotations.Schema;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Uncial.Data.Model;

/// <summary>The proof of a part that left: a document that is kept to the letter, and its hash.</summary>
public class Certificate : PartFact
{
    public long OutcomeId { get; set; }
    public Operator? By { get; set; }

    /// <summary>The proof as <see cref="CertificateDocument"/>, kept to the letter.</summary>
    public required string Document { get; set; }

    /// <summary>SHA-256 of the document in UTF-8, hexadecimal. Its first letters are the code on paper.</summary>
    [MaxLength(64)]
    public required string Hash { get; set; }

    public List<PrintEntry> Prints { get; } = [];

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}

/// <summary>What is printed of a certificate.</summary>
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

internal sealed class CertificateTable : IEntityTypeConfiguration<Certificate>
{
    public void Configure(EntityTypeBuilder<Certificate> builder)
    {
        builder.HasIndex(c => c.Hash);
        builder.HasMany(c => c.Prints).WithOne().HasForeignKey(p => p.CertificateId).OnDelete(DeleteBehavior.Restrict);
    }
}
