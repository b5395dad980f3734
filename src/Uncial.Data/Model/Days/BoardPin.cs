using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Uncial.Data.Model;

/// <summary>
/// Somebody decided where a surface stands on the day's board; with nothing named, that it is not pinned any more. The newest counts.
/// </summary>
public class BoardPin : Fact
{
    public int SurfaceId { get; set; }

    /// <summary>On this lathe; null for any.</summary>
    public int? LatheId { get; set; }

    /// <summary>At this place of what is still to come on its lathe, 0 for the first; null for any.</summary>
    public int? Place { get; set; }

    /// <summary>Mounted no sooner; null for any time.</summary>
    public DateTimeOffset? NotBefore { get; set; }

    /// <summary>Which decision about this surface it is, from 1: two people do not make the same one.</summary>
    public int Turn { get; set; }
}

internal sealed class BoardPinTable : IEntityTypeConfiguration<BoardPin>
{
    public void Configure(EntityTypeBuilder<BoardPin> builder)
    {
        builder
            .ToTable("board_pins", t => t.HasCheckConstraint("ck_board_pins_place", "place >= 0"))
            .HasOne<WorkSurface>()
            .WithMany()
            .HasForeignKey(p => p.SurfaceId)
            .OnDelete(DeleteBehavior.Restrict);
        builder.HasOne<ShopLathe>().WithMany().HasForeignKey(p => p.LatheId).OnDelete(DeleteBehavior.Restrict);
        builder.HasIndex(p => new { p.SurfaceId, p.Turn }).IsUnique();
    }
}
