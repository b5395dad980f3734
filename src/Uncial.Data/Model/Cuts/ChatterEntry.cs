using System.ComponentModel.DataAnnotations.Schema;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Uncial.Data.Model;

/// <summary>Chatter, as it is stored. Kept for the lathe.</summary>
public class ChatterEntry : ChatterFact
{
    public int SurfaceId { get; set; }
    public Operator? By { get; set; }
    public int LatheId { get; set; }

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}

internal sealed class ChatterEntryTable : IEntityTypeConfiguration<ChatterEntry>
{
    public void Configure(EntityTypeBuilder<ChatterEntry> builder)
    {
        builder.ToTable("chatters").HasIndex(c => c.LatheId);
        builder.HasOne<ShopLathe>().WithMany().HasForeignKey(c => c.LatheId).OnDelete(DeleteBehavior.Restrict);
    }
}
