using System.ComponentModel.DataAnnotations;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Uncial.Data.Model;

/// <summary>A screen that a lead has enrolled: only such a screen signs people in or takes a signature.</summary>
public class EnrolledScreen
{
    public int Id { get; set; }

    [MaxLength(60)]
    public required string Name { get; set; }

    /// <summary>SHA-256 of the token in its cookie.</summary>
    public required byte[] TokenHash { get; set; }

    public DateTimeOffset EnrolledAt { get; set; }

    /// <summary>The lead who enrolled it; null for the first screen of a shop and for the demo.</summary>
    public int? EnrolledById { get; set; }

    [MaxLength(64)]
    public string? Address { get; set; }
    public DateTimeOffset? RetiredAt { get; set; }

    /// <summary>The lathe that it stands at and opens on; null for a screen that is not pinned to one.</summary>
    public int? LatheId { get; set; }
}

/// <summary>
/// Somebody is signed in at a screen. Ends at sign-out, when the person is disabled, and when the PIN or the role changes.
/// </summary>
public class Session
{
    public long Id { get; set; }
    public int OperatorId { get; set; }
    public int ScreenId { get; set; }

    /// <summary>SHA-256 of the token in the cookie.</summary>
    public required byte[] TokenHash { get; set; }

    public DateTimeOffset StartedAt { get; set; }
    public DateTimeOffset SeenAt { get; set; }
    public DateTimeOffset? EndedAt { get; set; }

    [MaxLength(40)]
    public string? EndedBy { get; set; }
}

internal sealed class EnrolledScreenTable : IEntityTypeConfiguration<EnrolledScreen>
{
    public void Configure(EntityTypeBuilder<EnrolledScreen> builder)
    {
        builder.ToTable("screens").HasIndex(s => s.TokenHash).IsUnique();
        builder.HasOne<Operator>().WithMany().HasForeignKey(s => s.EnrolledById).OnDelete(DeleteBehavior.Restrict);
        builder.HasOne<ShopLathe>().WithMany().HasForeignKey(s => s.LatheId).OnDelete(DeleteBehavior.Restrict);
    }
}

internal sealed class SessionTable : IEntityTypeConfiguration<Session>
{
    public void Configure(EntityTypeBuilder<Session> builder)
    {
        builder.ToTable("sessions").HasIndex(s => s.TokenHash).IsUnique();
        builder.HasOne<Operator>().WithMany().HasForeignKey(s => s.OperatorId).OnDelete(DeleteBehavior.Restrict);
        builder.HasOne<EnrolledScreen>().WithMany().HasForeignKey(s => s.ScreenId).OnDelete(DeleteBehavior.Restrict);
    }
}
