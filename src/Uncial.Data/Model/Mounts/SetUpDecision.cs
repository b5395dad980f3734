using System.ComponentModel.DataAnnotations.Schema;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Uncial.Data.Model;

/// <summary>That a part may be cut as it is mounted, as it is stored.</summary>
public class SetUpDecision : SetUpDecisionFact
{
    public int SurfaceId { get; set; }
    public Operator? By { get; set; }
    public SetUpEntry? Check { get; set; }

    [NotMapped]
    public override SetUpFact? OfCheck => Check;

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}

internal sealed class SetUpDecisionTable : IEntityTypeConfiguration<SetUpDecision>
{
    public void Configure(EntityTypeBuilder<SetUpDecision> builder)
    {
        builder.ToTable("set_up_decisions").HasOne(d => d.Check).WithMany().HasForeignKey(d => d.CheckId).OnDelete(DeleteBehavior.Restrict);
        builder.Property(d => d.Reason).HasMaxLength(300);
        builder.HasOne<MountEntry>().WithMany().HasForeignKey(d => d.MountId).OnDelete(DeleteBehavior.Restrict);
    }
}
