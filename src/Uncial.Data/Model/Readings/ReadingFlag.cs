using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Uncial.Data.Model;

/// <summary>A reading that is suspect, since its gauge failed on the standard afterwards.</summary>
public class ReadingFlag : PartFact
{
    public Operator? By { get; set; }
    public long ReadingId { get; set; }
    public long ZeroCheckId { get; set; }
    public ZeroCheckEntry? ZeroCheck { get; set; }
}

internal sealed class ReadingFlagTable : IEntityTypeConfiguration<ReadingFlag>
{
    public void Configure(EntityTypeBuilder<ReadingFlag> builder)
    {
        builder.ToTable("reading_flags").HasIndex(f => f.ReadingId).IsUnique();
        builder.HasOne(f => f.ZeroCheck).WithMany().HasForeignKey(f => f.ZeroCheckId).OnDelete(DeleteBehavior.Restrict);
    }
}
