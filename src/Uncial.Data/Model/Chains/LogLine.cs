using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Uncial.Data.Model;

/// <summary>A part in the logbook: what is searched for, kept by the database itself.</summary>
public class LogLine
{
    public int PartId { get; set; }
    public int JobNumber { get; set; }
    public DateTimeOffset ReceivedAt { get; set; }

    /// <summary>Tag, vehicle, customer, job and mark in small letters, each word with a space before it.</summary>
    public required string Search { get; set; }

    /// <summary>Everybody who stated a fact about it.</summary>
    public int[] People { get; set; } = [];

    /// <summary>How it left; null while it is here.</summary>
    public OutcomeKind? Outcome { get; set; }

    public DateTimeOffset? OutAt { get; set; }
    public Part? Part { get; set; }
}

internal sealed class LogLineTable : IEntityTypeConfiguration<LogLine>
{
    public void Configure(EntityTypeBuilder<LogLine> builder)
    {
        builder.ToTable("log_lines").HasKey(l => l.PartId);
        builder.Property(l => l.PartId).ValueGeneratedNever();
        builder.HasOne(l => l.Part).WithOne().HasForeignKey<LogLine>(l => l.PartId).OnDelete(DeleteBehavior.Restrict);
        // The order in which the logbook is read, and one index for each thing that it is asked for.
        builder.HasIndex(l => new { l.JobNumber, l.PartId });
        builder.HasIndex(l => new
        {
            l.Outcome,
            l.JobNumber,
            l.PartId,
        });
        builder.HasIndex(l => l.ReceivedAt);
        builder.HasIndex(l => l.OutAt);
        builder.HasIndex(l => l.People).HasMethod("gin");
        builder.HasIndex(l => l.Search).HasMethod("gin").HasOperators("gin_trgm_ops");
    }
}
