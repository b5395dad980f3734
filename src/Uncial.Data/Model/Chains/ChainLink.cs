using System.ComponentModel.DataAnnotations;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Uncial.Data.Model;

/// <summary>A link of a part's chain: a fact and the hash over it and over the link before. The database adds it with every fact.</summary>
public class ChainLink
{
    public int PartId { get; set; }

    /// <summary>Place in the chain, from 1.</summary>
    public int Number { get; set; }

    [MaxLength(40)]
    public required string FactTable { get; set; }
    public long FactId { get; set; }

    /// <summary>SHA-256 over the hash of the link before and the fact's canonical text.</summary>
    public required byte[] Hash { get; set; }
}

/// <summary>A link of the shop's chain: a part's new link, or a change of a row that belongs to no part.</summary>
public class ShopLink
{
    public long Number { get; set; }

    [MaxLength(40)]
    public required string RefTable { get; set; }

    /// <summary>Key of the row; <c>part:number</c> for a link of a part.</summary>
    [MaxLength(80)]
    public required string RefId { get; set; }

    /// <summary>I, U or D.</summary>
    [MaxLength(1)]
    public required string Op { get; set; }

    /// <summary>SHA-256 of the row's canonical text, or the hash of a part's link.</summary>
    public required byte[] RowHash { get; set; }

    /// <summary>SHA-256 over the hash of the link before, what this one is about, and its row hash.</summary>
    public required byte[] Hash { get; set; }

    public DateTimeOffset At { get; set; }
}

/// <summary>How many facts a part has: the database gives the next number out under the part's lock.</summary>
public class FactCounter
{
    public int PartId { get; set; }
    public int Last { get; set; }
}

internal sealed class ChainLinkTable : IEntityTypeConfiguration<ChainLink>
{
    public void Configure(EntityTypeBuilder<ChainLink> builder)
    {
        builder.ToTable("chain").HasKey(l => new { l.PartId, l.Number });
        builder.HasOne<Part>().WithMany().HasForeignKey(l => l.PartId).OnDelete(DeleteBehavior.Restrict);
    }
}

internal sealed class ShopLinkTable : IEntityTypeConfiguration<ShopLink>
{
    public void Configure(EntityTypeBuilder<ShopLink> builder)
    {
        builder.ToTable("shop_chain").HasKey(l => l.Number);
        builder.Property(l => l.Number).ValueGeneratedNever();
        builder.HasIndex(l => new
        {
            l.RefTable,
            l.RefId,
            l.Number,
        });
        builder.HasIndex(l => l.At);
    }
}

internal sealed class FactCounterTable : IEntityTypeConfiguration<FactCounter>
{
    public void Configure(EntityTypeBuilder<FactCounter> builder)
    {
        builder.ToTable("fact_counters").HasKey(c => c.PartId);
        builder.Property(c => c.PartId).ValueGeneratedNever();
    }
}
