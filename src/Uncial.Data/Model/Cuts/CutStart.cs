using System.ComponentModel.DataAnnotations.Schema;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using Uncial.Core.Cutting;

namespace Uncial.Data.Model;

/// <summary>The start of a pass, as it is stored.</summary>
public class CutStart : CutStartFact
{
    public int SurfaceId { get; set; }
    public Operator? By { get; set; }
    public PlanEntry? Plan { get; set; }
    public CutStop? Stop { get; set; }

    /// <summary>Names of what was looked at; null for a start from before that was kept.</summary>
    public string[]? LookedAt { get; set; }

    [NotMapped]
    public override IReadOnlyList<StartCheck>? Checks => LookedAt is null ? null : [.. LookedAt.Select(Enum.Parse<StartCheck>)];

    [NotMapped]
    public override CutStopFact? Stopped => Stop;

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}

/// <summary>The end of a started pass, as it is stored.</summary>
public class CutStop : CutStopFact
{
    public long StartId { get; set; }
    public Operator? By { get; set; }

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}

internal sealed class CutStartTable : IEntityTypeConfiguration<CutStart>
{
    public void Configure(EntityTypeBuilder<CutStart> builder)
    {
        builder.ToTable("cut_starts");
        // Two people cannot start the same pass.
        builder
            .HasIndex(s => new
            {
                s.PlanId,
                s.Index,
                s.Attempt,
            })
            .IsUnique();
        builder.HasIndex(s => new { s.LatheId, s.Id });
        builder.HasOne(s => s.Plan).WithMany().HasForeignKey(s => s.PlanId).OnDelete(DeleteBehavior.Restrict);
        builder.HasOne<ShopLathe>().WithMany().HasForeignKey(s => s.LatheId).OnDelete(DeleteBehavior.Restrict);
        builder.HasOne(s => s.Stop).WithOne().HasForeignKey<CutStop>(s => s.StartId).OnDelete(DeleteBehavior.Restrict);
    }
}

internal sealed class CutStopTable : IEntityTypeConfiguration<CutStop>
{
    public void Configure(EntityTypeBuilder<CutStop> builder)
    {
        builder.ToTable("cut_stops").Property(s => s.Reason).HasMaxLength(300);
    }
}
