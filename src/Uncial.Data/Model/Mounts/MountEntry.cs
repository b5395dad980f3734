using System.ComponentModel.DataAnnotations.Schema;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using Uncial.Core.Mounting;

namespace Uncial.Data.Model;

/// <summary>A mounting, as it is stored.</summary>
public class MountEntry : MountFact
{
    public int SurfaceId { get; set; }
    public Operator? By { get; set; }

    /// <summary>The stack, as <see cref="Mounting"/>.</summary>
    public required string Document { get; set; }

    [NotMapped]
    public override MountOption? Stack => StoredJson.Read<MountOption>(Document);

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}

internal sealed class MountEntryTable : IEntityTypeConfiguration<MountEntry>
{
    public void Configure(EntityTypeBuilder<MountEntry> builder)
    {
        builder.ToTable("mounts").HasIndex(m => new { m.LatheId, m.At });
        builder.HasIndex(m => new { m.ById, m.LatheId });
        builder.Property(m => m.Centring).HasMaxLength(60);
        builder.Property(m => m.Document).HasColumnType("jsonb");
        builder.HasOne<ShopLathe>().WithMany().HasForeignKey(m => m.LatheId).OnDelete(DeleteBehavior.Restrict);
    }
}
