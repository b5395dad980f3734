using System.ComponentModel.DataAnnotations.Schema;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Uncial.Data.Model;

/// <summary>A pass, as it is stored.</summary>
public class PassEntry : PassFact
{
    public int SurfaceId { get; set; }
    public Operator? By { get; set; }
    public PlanEntry? Plan { get; set; }

    /// <summary>Notes of the reading of the pass, JSON.</summary>
    public required string Notes { get; set; }

    [NotMapped]
    public override PlanFact? OfPlan => Plan;

    [NotMapped]
    public override bool TouchedFromSize =>
        DialVerified || StoredJson.Read<List<Core.Note>>(Notes).Exists(n => n is Core.Note.TouchFromSize);

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}

internal sealed class PassEntryTable : IEntityTypeConfiguration<PassEntry>
{
    public void Configure(EntityTypeBuilder<PassEntry> builder)
    {
        builder.Property(p => p.Notes).HasColumnType("jsonb");
        builder.Property(p => p.DialVerified).HasColumnName("dial_borne_out");
        builder.HasIndex(p => new { p.PlanId, p.Index }).IsUnique();
        builder.HasIndex(p => new { p.SurfaceId, p.Cut }).IsUnique();
        builder.HasIndex(p => p.At);
        builder.HasOne<ShopLathe>().WithMany().HasForeignKey(p => p.LatheId).OnDelete(DeleteBehavior.Restrict);
        builder.HasOne(p => p.Plan).WithMany().HasForeignKey(p => p.PlanId).OnDelete(DeleteBehavior.Restrict);
    }
}
