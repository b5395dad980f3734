using System.ComponentModel.DataAnnotations;
using System.ComponentModel.DataAnnotations.Schema;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Uncial.Data.Model;

/// <summary>A reading, as it is stored.</summary>
public class ReadingEntry : ReadingFact
{
    public int SurfaceId { get; set; }
    public Operator? By { get; set; }

    /// <summary>
    /// The newest zero check of the gauge when the reading was stored; 0 for none, null for a reading of the first version. Set by the
    /// database.
    /// </summary>
    public long? AfterCheckId { get; set; }

    /// <summary>Name that the page gave it, so that it goes in once however often it is sent.</summary>
    public Guid? Key { get; set; }

    /// <summary>
    /// Session and running number of the line that a gauge sent it with, so that it goes in once; null for one that was typed.
    /// </summary>
    [MaxLength(60)]
    public string? Line { get; set; }

    /// <summary>The owner of the gauge that showed it, by <see cref="LiveDevice.Fence"/>; null for one that was typed.</summary>
    public long? Fence { get; set; }

    public Withdrawal? Withdrawal { get; set; }
    public ReadingFlag? Flag { get; set; }

    [NotMapped]
    public override WithdrawalFact? Withdrawn => Withdrawal;

    [NotMapped]
    public override PartFact? Flagged => Flag;

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}

internal sealed class ReadingEntryTable : IEntityTypeConfiguration<ReadingEntry>
{
    public void Configure(EntityTypeBuilder<ReadingEntry> builder)
    {
        builder.Property(r => r.Typed).HasMaxLength(120);
        builder.Property(r => r.Note).HasMaxLength(200);
        builder.HasOne(r => r.Withdrawal).WithOne().HasForeignKey<Withdrawal>(w => w.ReadingId).OnDelete(DeleteBehavior.Restrict);
        builder.HasOne(r => r.Flag).WithOne().HasForeignKey<ReadingFlag>(f => f.ReadingId).OnDelete(DeleteBehavior.Restrict);
        builder.HasOne<Gauge>().WithMany().HasForeignKey(r => r.GaugeId).OnDelete(DeleteBehavior.Restrict);
        builder.HasOne<ZeroCheckEntry>().WithMany().HasForeignKey(r => r.ZeroCheckId).OnDelete(DeleteBehavior.Restrict);
        builder.Property(r => r.Correction).HasDefaultValueSql("0");
        builder.Property(r => r.AfterCheckId).HasDefaultValueSql("null");
        builder.HasIndex(r => r.Key).IsUnique();
        builder.HasIndex(r => new { r.GaugeId, r.Line }).IsUnique();
        // What of a gauge repeats is looked back on newest first.
        builder.HasIndex(r => new { r.GaugeId, r.Id }).HasFilter("kind = 'Size'");
    }
}
