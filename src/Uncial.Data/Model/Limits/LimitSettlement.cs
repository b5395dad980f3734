using System.ComponentModel.DataAnnotations.Schema;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Uncial.Data.Model;

/// <summary>What a lead settled about a limit, as it is stored.</summary>
public class LimitSettlement : LimitSettlementFact
{
    public int SurfaceId { get; set; }
    public Operator? By { get; set; }

    /// <summary>The lead's signature; null for one from before signatures were kept.</summary>
    public long? SignatureId { get; set; }
    public Signature? Signature { get; set; }

    [NotMapped]
    public override string? ByName => By?.DisplayName;

    [NotMapped]
    public override string? SignedByName => Signature?.SignedBy?.DisplayName;
}

internal sealed class LimitSettlementTable : IEntityTypeConfiguration<LimitSettlement>
{
    public void Configure(EntityTypeBuilder<LimitSettlement> builder)
    {
        builder.Property(s => s.Reason).HasMaxLength(200);
        builder.HasOne<LimitEntry>().WithMany().HasForeignKey(s => s.EntryId).OnDelete(DeleteBehavior.Restrict);
    }
}
