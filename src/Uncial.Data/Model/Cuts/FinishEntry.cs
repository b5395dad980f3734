using System.ComponentModel.DataAnnotations.Schema;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Uncial.Data.Model;

/// <summary>The part was finished, as it is stored.</summary>
public class FinishEntry : FinishFact
{
    public int SurfaceId { get; set; }
    public Operator? By { get; set; }

    /// <summary>Names of the steps that were done, in their order.</summary>
    public string[] Steps { get; set; } = [];

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}

internal sealed class FinishEntryTable : IEntityTypeConfiguration<FinishEntry>
{
    public void Configure(EntityTypeBuilder<FinishEntry> builder)
    {
        builder.ToTable("finishes").Property(f => f.Reason).HasMaxLength(300);
    }
}
