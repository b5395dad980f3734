using System.ComponentModel.DataAnnotations;
using System.ComponentModel.DataAnnotations.Schema;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using Uncial.Core.Lengths;

namespace Uncial.Data.Model;

/// <summary>A gauge read on its setting standard.</summary>
public class ZeroCheckEntry : Fact
{
    public int GaugeId { get; set; }

    /// <summary>Size of the standard.</summary>
    public Length Nominal { get; set; }

    /// <summary>What the gauge showed.</summary>
    public Length Shown { get; set; }

    [MaxLength(120)]
    public required string Typed { get; set; }

    /// <summary>Greatest error that it may have had.</summary>
    public Length Tolerance { get; set; }

    public bool Passed { get; set; }

    /// <summary>To be added to every reading.</summary>
    [NotMapped]
    public Length Correction => Nominal - Shown;
}

internal sealed class ZeroCheckEntryTable : IEntityTypeConfiguration<ZeroCheckEntry>
{
    public void Configure(EntityTypeBuilder<ZeroCheckEntry> builder)
    {
        builder.ToTable("zero_checks").HasIndex(c => new { c.GaugeId, c.Id });
    }
}
