using System.ComponentModel.DataAnnotations;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Data.Model;

/// <summary>
/// The limits of one work surface of a vehicle as some paper gives them. A correction adds an entry and ends the one before; what was used
/// stays on record.
/// </summary>
public class BookEntry
{
    public int Id { get; set; }

    [MaxLength(120)]
    public required string Vehicle { get; set; }
    public Axle Axle { get; set; }
    public PartKind Kind { get; set; }

    /// <summary>The parking-brake drum in a rotor's hat.</summary>
    public bool InHat { get; set; }

    public Length? Nominal { get; set; }
    public Length? MachineTo { get; set; }
    public Length? Discard { get; set; }

    /// <summary>Greatest run-out, total reading.</summary>
    public Length? MaxRunout { get; set; }

    /// <summary>Greatest thickness variation of a rotor.</summary>
    public Length? MaxVariation { get; set; }

    /// <summary>Greatest out-of-round of a drum.</summary>
    public Length? MaxOutOfRound { get; set; }

    /// <summary>Largest diameter cut, where it is known.</summary>
    public Length? Across { get; set; }

    /// <summary>Width of the swept band, where it is known.</summary>
    public Length? Band { get; set; }

    /// <summary>Unit of the paper.</summary>
    public LengthUnit Unit { get; set; }

    /// <summary>Which paper it is from.</summary>
    [MaxLength(120)]
    public required string Source { get; set; }

    /// <summary>Date of that paper.</summary>
    public DateOnly? SourceDate { get; set; }

    public DateTimeOffset At { get; set; }
    public int ById { get; set; }
    public Operator? By { get; set; }

    /// <summary>When another entry took its place, or it was struck out; null while it holds.</summary>
    public DateTimeOffset? EndedAt { get; set; }

    /// <summary>Which surface of which vehicle it is of: two entries that hold never share it.</summary>
    public (string Vehicle, Axle Axle, PartKind Kind, bool InHat) Place => (Vehicle.ToUpperInvariant(), Axle, Kind, InHat);

    /// <summary>Whether another entry says the same.</summary>
    public bool SaysTheSameAs(BookEntry other)
    {
        ArgumentNullException.ThrowIfNull(other);
        return (Nominal, MachineTo, Discard, MaxRunout, MaxVariation, MaxOutOfRound, Across, Band)
                == (
                    other.Nominal,
                    other.MachineTo,
                    other.Discard,
                    other.MaxRunout,
                    other.MaxVariation,
                    other.MaxOutOfRound,
                    other.Across,
                    other.Band
                )
            && (Vehicle, Unit, Source, SourceDate) == (other.Vehicle, other.Unit, other.Source, other.SourceDate);
    }
}

internal sealed class BookEntryTable : IEntityTypeConfiguration<BookEntry>
{
    public void Configure(EntityTypeBuilder<BookEntry> builder)
    {
        builder.HasOne(b => b.By).WithMany().OnDelete(DeleteBehavior.Restrict);
        builder.Ignore(b => b.Place);
        builder
            .HasIndex(b => new
            {
                b.Vehicle,
                b.Axle,
                b.Kind,
                b.InHat,
            })
            .IsUnique()
            .HasFilter("ended_at is null");
    }
}
