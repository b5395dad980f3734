using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using Uncial.Core.Scheduling;

namespace Uncial.Data.Model;

/// <summary>What was planned for a day when it was opened. Written once.</summary>
public class DayPlanned
{
    public int Id { get; set; }
    public DateOnly Day { get; set; }
    public DateTimeOffset At { get; set; }
    public required DayForecast Forecast { get; set; }
}

/// <summary>What happened on a day that is over. Written once.</summary>
public class DayHappened
{
    public int Id { get; set; }
    public DateOnly Day { get; set; }
    public DateTimeOffset At { get; set; }
    public required DayResult Result { get; set; }
}

internal sealed class DayPlannedTable : IEntityTypeConfiguration<DayPlanned>
{
    public void Configure(EntityTypeBuilder<DayPlanned> builder)
    {
        builder.ToTable("days_planned").HasIndex(d => d.Day).IsUnique();
        builder.Property(d => d.Forecast).StoredAsJson();
    }
}

internal sealed class DayHappenedTable : IEntityTypeConfiguration<DayHappened>
{
    public void Configure(EntityTypeBuilder<DayHappened> builder)
    {
        builder.ToTable("days_happened").HasIndex(d => d.Day).IsUnique();
        builder.Property(d => d.Result).StoredAsJson();
    }
}
