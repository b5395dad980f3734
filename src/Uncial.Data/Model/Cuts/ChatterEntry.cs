using System.ComponentModel.DataAnnotations.Schema;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using Uncial.Core.Cutting;

namespace Uncial.Data.Model;

/// <summary>Chatter that was heard or seen, what was tried, and whether it helped. Kept for the lathe.</summary>
public class ChatterEntry : PartFact
{
    public int SurfaceId { get; set; }
    public Operator? By { get; set; }
    public int LatheId { get; set; }

    /// <summary>Passes that the surface had behind it.</summary>
    public int Cuts { get; set; }

    public ChatterSign Sign { get; set; }
    public ChatterRemedy Remedy { get; set; }
    public bool Helped { get; set; }

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
