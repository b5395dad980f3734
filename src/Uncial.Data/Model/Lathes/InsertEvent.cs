using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Uncial.Data.Model;

/// <summary>Where an insert is held.</summary>
public enum ToolHolder
{
    Outer,
    Inner,
    Bar,
}

/// <summary>What was done to an insert, or seen on it.</summary>
public enum InsertEventKind
{
    Replaced,
    Turned,
    Chipped,
}

/// <summary>Something done to an insert, or seen on it.</summary>
public class InsertEvent : Fact
{
    public int LatheId { get; set; }
    public ToolHolder Holder { get; set; }
    public InsertEventKind Kind { get; set; }

    /// <summary>Edge that is in after it, from 1.</summary>
    public int Edge { get; set; }
}

/// <summary>An insert as it stands now.</summary>
/// <param name="Holder">Where it is held.</param>
/// <param name="Edge">Edge that is in, from 1; null where nobody has said.</param>
/// <param name="Metres">Metres cut with it since it was turned or replaced.</param>
/// <param name="Chipped">Somebody saw a chip in it.</param>
/// <param name="Worn">It has cut more than the lathe's mark.</param>
public sealed record InsertNow(ToolHolder Holder, int? Edge, decimal Metres, bool Chipped, bool Worn);

internal sealed class InsertEventTable : IEntityTypeConfiguration<InsertEvent>
{
    public void Configure(EntityTypeBuilder<InsertEvent> builder)
    {
        builder
            .ToTable("insert_events")
            .HasIndex(e => new
            {
                e.LatheId,
                e.Holder,
                e.At,
            });
        builder.HasOne<ShopLathe>().WithMany().HasForeignKey(e => e.LatheId).OnDelete(DeleteBehavior.Restrict);
    }
}
