using System.ComponentModel.DataAnnotations;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Uncial.Data.Model;

/// <summary>The hash of a PIN. Only the database's own functions read it; the application's login may not.</summary>
public class Pin
{
    public int OperatorId { get; set; }

    /// <summary>bcrypt, as the database's <c>crypt</c> writes it; null while only <see cref="Earlier"/> is known.</summary>
    [MaxLength(100)]
    public string? Hash { get; set; }

    /// <summary>A hash of the first version (PBKDF2), replaced at the first sign-in; null afterwards.</summary>
    public byte[]? Earlier { get; set; }

    public DateTimeOffset SetAt { get; set; }
}

/// <summary>A PIN that somebody typed. It is counted before it is judged, so that no way of asking escapes the count.</summary>
public class PinTry
{
    public long Id { get; set; }
    public int OperatorId { get; set; }

    /// <summary>The enrolled screen; null for a screen that is not enrolled.</summary>
    public int? ScreenId { get; set; }

    [MaxLength(64)]
    public string? Address { get; set; }

    /// <summary>SHA-256 over a nonce and the PIN: a try is good for this one PIN only.</summary>
    public required byte[] Commitment { get; set; }

    public DateTimeOffset At { get; set; }

    /// <summary>The transaction that counted it; it is judged in a later one.</summary>
    [MaxLength(20)]
    public required string Transaction { get; set; }

    /// <summary>Whether it was the PIN; null while it is not judged.</summary>
    public bool? Right { get; set; }

    [MaxLength(40)]
    public string? Purpose { get; set; }
}

/// <summary>How many misses stand against a person at a screen, or against an address of screens that are not enrolled.</summary>
public class PinDelay
{
    /// <summary>The person, or 0 for all tries from an address.</summary>
    public int OperatorId { get; set; }

    /// <summary><c>screen 3</c> or <c>address 10.0.0.5</c>.</summary>
    [MaxLength(80)]
    public required string Place { get; set; }

    public int Misses { get; set; }
    public DateTimeOffset LastAt { get; set; }
}

internal sealed class PinTable : IEntityTypeConfiguration<Pin>
{
    public void Configure(EntityTypeBuilder<Pin> builder)
    {
        builder.ToTable("pins").HasKey(p => p.OperatorId);
        builder.Property(p => p.OperatorId).ValueGeneratedNever();
        builder.HasOne<Operator>().WithOne().HasForeignKey<Pin>(p => p.OperatorId).OnDelete(DeleteBehavior.Restrict);
    }
}

internal sealed class PinTryTable : IEntityTypeConfiguration<PinTry>
{
    public void Configure(EntityTypeBuilder<PinTry> builder)
    {
        builder.ToTable("pin_tries").HasIndex(t => new { t.OperatorId, t.At });
    }
}

internal sealed class PinDelayTable : IEntityTypeConfiguration<PinDelay>
{
    public void Configure(EntityTypeBuilder<PinDelay> builder)
    {
        builder.ToTable("pin_delays").HasKey(d => new { d.OperatorId, d.Place });
    }
}
