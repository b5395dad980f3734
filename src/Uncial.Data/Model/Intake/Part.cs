using System.ComponentModel.DataAnnotations;
using System.ComponentModel.DataAnnotations.Schema;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;

namespace Uncial.Data.Model;

/// <summary>A removed rotor or drum with its tag.</summary>
public class Part
{
    public int Id { get; set; }
    public int JobId { get; set; }
    public Job? Job { get; set; }

    [MaxLength(12)]
    public required string Tag { get; set; }
    public Corner Corner { get; set; }

    [MaxLength(60)]
    public string? Mark { get; set; }

    /// <summary>
    /// When it was said to be marked to its wheel stud, so that it goes back in the same place; null where nobody has said so.
    /// </summary>
    public DateTimeOffset? MarkedAt { get; set; }
    public int? MarkedById { get; set; }

    /// <summary>Price of a new one in the shop's money, if somebody has asked.</summary>
    public decimal? NewPrice { get; set; }

    /// <summary>The sizes that decide how it is mounted; null where nobody has entered any.</summary>
    public MountShape? Shape { get; set; }

    /// <summary>How far it has gone, where that is not what the vehicle has gone.</summary>
    public int? KmSinceNew { get; set; }

    /// <summary>How often a part with this tag was here, this time counted: 1 for the first.</summary>
    public int Visit { get; set; } = 1;

    /// <summary>Place among its own facts: 1. Given by the database.</summary>
    public int FactNumber { get; set; }

    public List<WorkSurface> Surfaces { get; } = [];
    public List<Outcome> Outcomes { get; } = [];

    /// <summary>How it left; null while it is here, also where it was recalled.</summary>
    [NotMapped]
    public Outcome? Outcome => Outcomes.Where(o => o.Withdrawal is null).Newest();

    /// <summary>The newest recall, or null.</summary>
    [NotMapped]
    public OutcomeWithdrawal? Recalled => Outcomes.Select(o => o.Withdrawal).OfType<OutcomeWithdrawal>().Newest();

    /// <summary>What Core is to know of it.</summary>
    [NotMapped]
    public PartFacts Facts =>
        new()
        {
            HasLeft = Outcome is not null,
            Recalled = Recalled,
            Shape = Shape,
            Findings = [.. Surfaces.SelectMany(s => s.Findings)],
        };
}

internal sealed class PartTable : IEntityTypeConfiguration<Part>
{
    public void Configure(EntityTypeBuilder<Part> builder)
    {
        builder.HasIndex(p => new { p.Tag, p.Visit }).IsUnique();
        builder.Property(p => p.FactNumber).HasColumnName("number").HasDefaultValue(0);
        builder.Property(p => p.Visit).HasDefaultValue(1);
        builder.Property(p => p.Shape).StoredAsJson();
        builder.HasMany(p => p.Outcomes).WithOne().HasForeignKey(o => o.PartId).OnDelete(DeleteBehavior.Restrict);
    }
}
