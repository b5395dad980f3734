using System.ComponentModel.DataAnnotations;
using System.ComponentModel.DataAnnotations.Schema;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Data.Model;

/// <summary>A pair of faces or a bore: what has limits, is measured, cut and judged.</summary>
public class WorkSurface
{
    public int Id { get; set; }
    public int PartId { get; set; }
    public Part? Part { get; set; }
    public PartKind Kind { get; set; }

    /// <summary>A parking-brake drum in a rotor's hat.</summary>
    public bool InHat { get; set; }

    /// <summary>Largest diameter cut: outside of a rotor's ring, inside of a drum.</summary>
    public Length Diameter { get; set; }

    /// <summary>Width of the swept band.</summary>
    public Length Band { get; set; }

    /// <summary>Clock positions of a rotor, or axes of a drum, that are to be read.</summary>
    public int Places { get; set; }

    /// <summary>
    /// Where it is read, in millimetres: depths of a drum from its open edge, or how far in from the outer edge of a rotor; empty for the
    /// usual one.
    /// </summary>
    public decimal[] DepthsMm { get; set; } = [];

    /// <summary>Greatest run-out that the limit book allows, or null.</summary>
    public Length? MaxRunout { get; set; }

    /// <summary>Greatest thickness variation or out-of-round that the limit book allows, or null.</summary>
    public Length? MaxVariation { get; set; }

    /// <summary>Goes up with every fact that is added; a page that was made before another's fact is noticed by it.</summary>
    [ConcurrencyCheck]
    public int Turn { get; set; }

    /// <summary>Place among the facts of its part. Given by the database.</summary>
    public int FactNumber { get; set; }

    public List<LimitEntry> LimitEntries { get; } = [];
    public List<LimitSettlement> Settlements { get; } = [];
    public List<Finding> Findings { get; } = [];
    public List<ReadingEntry> Readings { get; } = [];
    public List<PlanEntry> Plans { get; } = [];
    public List<PassEntry> Passes { get; } = [];
    public List<Confirmation> Confirmations { get; } = [];
    public List<MountEntry> Mounts { get; } = [];
    public List<SetUpEntry> SetUps { get; } = [];
    public List<SetUpDecision> SetUpDecisions { get; } = [];
    public List<CutStart> CutStarts { get; } = [];
    public List<FinishEntry> Finishes { get; } = [];
    public List<ChatterEntry> Chatters { get; } = [];

    /// <summary>What is on record about it, as Core takes it.</summary>
    [NotMapped]
    public SurfaceFacts Facts =>
        new()
        {
            Kind = Kind,
            Diameter = Diameter,
            Band = Band,
            Places = Places,
            Depths = [.. DepthsMm.Select(Length.FromMillimetres)],
            MaxRunout = MaxRunout,
            MaxVariation = MaxVariation,
            Limits = LimitEntries,
            Settlements = Settlements,
            Findings = Findings,
            Readings = Readings,
            Plans = Plans,
            Passes = Passes,
            Confirmations = Confirmations,
            Mounts = Mounts,
            SetUps = SetUps,
            SetUpDecisions = SetUpDecisions,
            CutStarts = CutStarts,
            Chatters = Chatters,
            Finishes = Finishes,
        };
}

internal sealed class WorkSurfaceTable : IEntityTypeConfiguration<WorkSurface>
{
    public void Configure(EntityTypeBuilder<WorkSurface> builder)
    {
        builder.Property(s => s.FactNumber).HasColumnName("number").HasDefaultValue(0);
        builder.HasMany(s => s.LimitEntries).WithOne().HasForeignKey(f => f.SurfaceId).OnDelete(DeleteBehavior.Restrict);
        builder.HasMany(s => s.Findings).WithOne().HasForeignKey(f => f.SurfaceId).OnDelete(DeleteBehavior.Restrict);
        builder.HasMany(s => s.Settlements).WithOne().HasForeignKey(f => f.SurfaceId).OnDelete(DeleteBehavior.Restrict);
        builder.HasMany(s => s.Readings).WithOne().HasForeignKey(f => f.SurfaceId).OnDelete(DeleteBehavior.Restrict);
        builder.HasMany(s => s.Plans).WithOne().HasForeignKey(f => f.SurfaceId).OnDelete(DeleteBehavior.Restrict);
        builder.HasMany(s => s.Passes).WithOne().HasForeignKey(f => f.SurfaceId).OnDelete(DeleteBehavior.Restrict);
        builder.HasMany(s => s.Mounts).WithOne().HasForeignKey(f => f.SurfaceId).OnDelete(DeleteBehavior.Restrict);
        builder.HasMany(s => s.SetUps).WithOne().HasForeignKey(f => f.SurfaceId).OnDelete(DeleteBehavior.Restrict);
        builder.HasMany(s => s.SetUpDecisions).WithOne().HasForeignKey(f => f.SurfaceId).OnDelete(DeleteBehavior.Restrict);
        builder.HasMany(s => s.CutStarts).WithOne().HasForeignKey(f => f.SurfaceId).OnDelete(DeleteBehavior.Restrict);
        builder.HasMany(s => s.Finishes).WithOne().HasForeignKey(f => f.SurfaceId).OnDelete(DeleteBehavior.Restrict);
        builder.HasMany(s => s.Chatters).WithOne().HasForeignKey(f => f.SurfaceId).OnDelete(DeleteBehavior.Restrict);
        builder.HasMany(s => s.Confirmations).WithOne().HasForeignKey(f => f.SurfaceId).OnDelete(DeleteBehavior.Restrict);
    }
}
