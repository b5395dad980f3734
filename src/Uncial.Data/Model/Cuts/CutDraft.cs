using System.ComponentModel.DataAnnotations;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Uncial.Data.Model;

/// <summary>
/// What is being ticked, tapped and typed at a cut and not kept yet, so that it is there on any screen. No fact: it goes when it is kept.
/// </summary>
public class CutDraft
{
    /// <summary>The surface that it belongs to.</summary>
    [Key]
    public int SurfaceId { get; set; }

    /// <summary>Which view of which pass it belongs to; another view starts empty.</summary>
    [MaxLength(60)]
    public required string Of { get; set; }

    /// <summary>Names and values of the fields, JSON.</summary>
    public required string Document { get; set; }

    public DateTimeOffset At { get; set; }
}

internal sealed class CutDraftTable : IEntityTypeConfiguration<CutDraft>
{
    public void Configure(EntityTypeBuilder<CutDraft> builder)
    {
        builder.ToTable("cut_drafts").Property(d => d.SurfaceId).ValueGeneratedNever();
        builder.Property(d => d.Document).HasColumnType("jsonb");
        builder.HasOne<WorkSurface>().WithMany().HasForeignKey(d => d.SurfaceId).OnDelete(DeleteBehavior.Restrict);
    }
}
