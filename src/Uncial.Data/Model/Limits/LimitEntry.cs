using System.ComponentModel.DataAnnotations.Schema;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Uncial.Data.Model;

/// <summary>A limit as it was read somewhere, as it is stored.</summary>
public class LimitEntry : LimitFact
{
    public int SurfaceId { get; set; }
    public Operator? By { get; set; }
    public Signature? Signature { get; set; }

    [NotMapped]
    public override string? ByName => By?.DisplayName;

    [NotMapped]
    public override string? SignedReason => Signature?.Reason;

    [NotMapped]
    public override string? SignedByName => Signature?.SignedBy?.DisplayName;
}

internal sealed class LimitEntryTable : IEntityTypeConfiguration<LimitEntry>
{
    public void Configure(EntityTypeBuilder<LimitEntry> builder)
    {
        builder.Property(l => l.Typed).HasMaxLength(120);
        builder.Property(l => l.RulesId).HasDefaultValueSql("null");
        builder.HasOne<BookEntry>().WithMany().HasForeignKey(l => l.BookEntryId).OnDelete(DeleteBehavior.Restrict);
        builder.HasOne<LimitEntry>().WithMany().HasForeignKey(l => l.CopiedFromId).OnDelete(DeleteBehavior.Restrict);
    }
}
