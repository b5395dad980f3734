using System.ComponentModel.DataAnnotations.Schema;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Uncial.Data.Model;

/// <summary>A check of a set-up, as it is stored.</summary>
public class SetUpEntry : SetUpFact
{
    public int SurfaceId { get; set; }
    public Operator? By { get; set; }
    public MountEntry? Mount { get; set; }

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}

internal sealed class SetUpEntryTable : IEntityTypeConfiguration<SetUpEntry>
{
    public void Configure(EntityTypeBuilder<SetUpEntry> builder)
    {
        builder.ToTable("set_up_checks").HasOne(s => s.Mount).WithMany().HasForeignKey(s => s.MountId).OnDelete(DeleteBehavior.Restrict);
    }
}
