using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using Uncial.Core.Scheduling;

namespace Uncial.Data.Model;

/// <summary>What the owner settled about hours, breaks and times of the shop. The newest counts.</summary>
public class DaySettingsEntry : Fact
{
    public required DaySettings Settings { get; set; }

    /// <summary>Which settlement it is, from 1.</summary>
    public int Turn { get; set; }
}

internal sealed class DaySettingsTable : IEntityTypeConfiguration<DaySettingsEntry>
{
    public void Configure(EntityTypeBuilder<DaySettingsEntry> builder)
    {
        builder.ToTable("day_settings").Property(s => s.Settings).StoredAsJson();
        builder.HasIndex(s => s.Turn).IsUnique();
    }
}
