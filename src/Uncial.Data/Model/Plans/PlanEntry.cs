using System.ComponentModel.DataAnnotations.Schema;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Uncial.Data.Model;

/// <summary>A plan, as it is stored.</summary>
public class PlanEntry : PlanFact
{
    public int SurfaceId { get; set; }
    public Operator? By { get; set; }

    /// <summary>What it rests on and its passes, as <see cref="PlanDocument"/>.</summary>
    public required string Document { get; set; }

    public Signature? Signature { get; set; }

    private PlanDocument? read;

    /// <summary>The document as objects; the same text is parsed once while it is in use.</summary>
    [NotMapped]
    public override PlanDocument Contents => read ??= PlanDocuments.Read(Document);

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}

internal sealed class PlanEntryTable : IEntityTypeConfiguration<PlanEntry>
{
    public void Configure(EntityTypeBuilder<PlanEntry> builder)
    {
        builder.Property(p => p.Technique).HasMaxLength(60);
        builder.Property(p => p.Document).HasColumnType("jsonb");
        builder.HasIndex(p => new { p.SurfaceId, p.Version }).IsUnique();
        builder.HasOne<ShopLathe>().WithMany().HasForeignKey(p => p.LatheId).OnDelete(DeleteBehavior.Restrict);
    }
}
