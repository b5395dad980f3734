using System.ComponentModel.DataAnnotations;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Uncial.Data.Model;

/// <summary>A lathe was marked out of order, or in order again. The newest counts.</summary>
public class LatheOutage : Fact
{
    public int LatheId { get; set; }
    public bool IsOut { get; set; }

    /// <summary>What is wrong with it; null where it is in order.</summary>
    [MaxLength(300)]
    public string? Reason { get; set; }

    /// <summary>When it is expected back; null where nobody knows.</summary>
    public DateTimeOffset? BackAt { get; set; }

    /// <summary>Which mark of this lathe it is, from 1.</summary>
    public int Turn { get; set; }
}

internal sealed class LatheOutageTable : IEntityTypeConfiguration<LatheOutage>
{
    public void Configure(EntityTypeBuilder<LatheOutage> builder)
    {
        builder.ToTable("lathe_outages", t =>
            t.HasCheckConstraint("ck_lathe_outages_reason", "not is_out or coalesce(length(trim(reason)), 0) > 0")
        );
        builder.HasOne<ShopLathe>().WithMany().HasForeignKey(o => o.LatheId).OnDelete(DeleteBehavior.Restrict);
        builder.HasIndex(o => new { o.LatheId, o.Turn }).IsUnique();
    }
}
