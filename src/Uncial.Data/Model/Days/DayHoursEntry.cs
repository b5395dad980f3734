using System.ComponentModel.DataAnnotations.Schema;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using Uncial.Core.Scheduling;

namespace Uncial.Data.Model;

/// <summary>Hours of one day, of a person or of the whole shop, that differ from those of the week. The newest counts.</summary>
public class DayHoursEntry : Fact
{
    public DateOnly Day { get; set; }

    /// <summary>Whose; null for the whole shop.</summary>
    public int? OperatorId { get; set; }

    /// <summary>When they begin; null for no work on that day.</summary>
    public TimeOnly? From { get; set; }

    /// <summary>When they end.</summary>
    public TimeOnly? To { get; set; }

    /// <summary>The hours of the week hold again.</summary>
    public bool IsUsual { get; set; }

    /// <summary>Which entry of this day and person it is, from 1.</summary>
    public int Turn { get; set; }

    /// <summary>As Core takes it.</summary>
    [NotMapped]
    public DayHours Hours => new(Day, OperatorId, From is { } from && To is { } to ? new HoursOfDay(from, to) : null);
}

internal sealed class DayHoursTable : IEntityTypeConfiguration<DayHoursEntry>
{
    public void Configure(EntityTypeBuilder<DayHoursEntry> builder)
    {
        builder.ToTable("day_hours", t => t.HasCheckConstraint("ck_day_hours_both", "(\"from\" is null) = (\"to\" is null)"));
        builder.HasOne<Operator>().WithMany().HasForeignKey(h => h.OperatorId).OnDelete(DeleteBehavior.Restrict);
        builder
            .HasIndex(h => new
            {
                h.Day,
                h.OperatorId,
                h.Turn,
            })
            .IsUnique()
            .AreNullsDistinct(false);
    }
}
