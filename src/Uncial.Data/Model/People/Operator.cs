using System.ComponentModel.DataAnnotations;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Uncial.Data.Model;

/// <summary>Somebody who works here and signs in with a PIN. Never deleted: facts keep their names.</summary>
public class Operator
{
    public int Id { get; set; }

    /// <summary>Short name that the program uses; never shown.</summary>
    [MaxLength(40)]
    public required string UserName { get; set; }

    /// <summary>Name as it is shown and printed.</summary>
    [MaxLength(80)]
    public required string DisplayName { get; set; }

    /// <summary>One of <see cref="Roles"/>.</summary>
    [MaxLength(20)]
    public string Role { get; set; } = Roles.Operator;

    /// <summary>Since when this person works at the experienced pace; null while guided. A lead sets it.</summary>
    public DateTimeOffset? ExperiencedSince { get; set; }

    /// <summary>The pace that a lead has set.</summary>
    public Pace Pace => ExperiencedSince is null ? Pace.Guided : Pace.Experienced;

    /// <summary>Since when this person instructs classes of practice; null for who does not. A lead or the owner sets it.</summary>
    public DateTimeOffset? InstructsSince { get; set; }

    /// <summary>When this person was disabled; null while they may sign in.</summary>
    public DateTimeOffset? DisabledAt { get; set; }

    /// <summary>Lead or owner: may sign for what an operator may not decide.</summary>
    public bool IsLead => Role is Roles.Lead or Roles.Owner;
}

/// <summary>The roles, from the least to the most that they may do.</summary>
public static class Roles
{
    public const string Operator = "operator";
    public const string Lead = "lead";
    public const string Owner = "owner";
    public const string LeadOrOwner = Lead + "," + Owner;
}

internal sealed class OperatorTable : IEntityTypeConfiguration<Operator>
{
    public void Configure(EntityTypeBuilder<Operator> builder)
    {
        builder.ToTable("operators", t => t.HasCheckConstraint("ck_operators_role", "role in ('operator', 'lead', 'owner')"));
        builder.HasIndex(o => o.UserName).IsUnique();
        builder.Ignore(o => o.IsLead);
        builder.Ignore(o => o.Pace);
    }
}
