using System.ComponentModel.DataAnnotations;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Uncial.Data.Model;

/// <summary>What sends lines to the workshop.</summary>
public enum DeviceKind
{
    Gauge,

    /// <summary>The read-out of a lathe.</summary>
    Lathe,
}

/// <summary>
/// A device that sends, as the instances that serve one shop share it: which of them is connected to it, what it said last, and which
/// screen has taken it up. No record: it is of this moment.
/// </summary>
public class LiveDevice
{
    public DeviceKind Kind { get; set; }

    /// <summary>Id of the gauge or the lathe.</summary>
    public int DeviceId { get; set; }

    /// <summary>Goes up whenever another instance connects to it. A reading that it sent is stored with the newest alone.</summary>
    public long Fence { get; set; }

    /// <summary>The instance that is connected, or was last.</summary>
    public Guid Instance { get; set; }

    /// <summary>When that instance last said that it is there.</summary>
    public DateTimeOffset SeenAt { get; set; }

    /// <summary>What it said last: of a gauge as JSON, of a read-out its line; null where it is lost.</summary>
    [MaxLength(600)]
    public string? Says { get; set; }

    /// <summary>The screen that has taken it up.</summary>
    public int? HolderScreenId { get; set; }

    [MaxLength(60)]
    public string? HolderName { get; set; }

    /// <summary>When that screen last showed a page with it.</summary>
    public DateTimeOffset? HolderSeenAt { get; set; }
}

/// <summary>A reading that a gauge sent to one instance while its page listens at another. No record: it goes after a while.</summary>
public class GaugeSend
{
    public long Id { get; set; }
    public int GaugeId { get; set; }

    /// <summary>Session and number of the line.</summary>
    [MaxLength(60)]
    public required string Line { get; set; }

    /// <summary>The figure with its unit.</summary>
    [MaxLength(120)]
    public required string Typed { get; set; }

    public long Fence { get; set; }
    public DateTimeOffset At { get; set; }

    /// <summary>A page said that it cannot take it.</summary>
    public bool IsRefused { get; set; }
}

internal sealed class LiveDeviceTable : IEntityTypeConfiguration<LiveDevice>
{
    public void Configure(EntityTypeBuilder<LiveDevice> builder)
    {
        builder.ToTable("live_devices").HasKey(d => new { d.Kind, d.DeviceId });
        builder.Property(d => d.Kind).HasMaxLength(10);
        builder.Property(d => d.DeviceId).ValueGeneratedNever();
    }
}

internal sealed class GaugeSendTable : IEntityTypeConfiguration<GaugeSend>
{
    public void Configure(EntityTypeBuilder<GaugeSend> builder) =>
        builder.ToTable("gauge_sends").HasIndex(s => new { s.GaugeId, s.Line }).IsUnique();
}
