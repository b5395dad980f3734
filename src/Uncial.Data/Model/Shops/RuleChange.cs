using System.ComponentModel.DataAnnotations;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using Uncial.Core;

namespace Uncial.Data.Model;

/// <summary>A change of the shop's rules. Adding one is the only way to change them.</summary>
public class RuleChange : Fact
{
    public ShopRules? Before { get; set; }
    public required ShopRules After { get; set; }

    /// <summary>It derives a laxer machine-to limit; set by the database.</summary>
    public bool Laxer { get; set; }

    [MaxLength(300)]
    public string? Reason { get; set; }
    public long? SignatureId { get; set; }
    public Signature? Signature { get; set; }
}

internal sealed class RuleChangeTable : IEntityTypeConfiguration<RuleChange>
{
    public void Configure(EntityTypeBuilder<RuleChange> builder)
    {
        builder.ToTable("rule_changes").Property(c => c.After).StoredAsJson();
        builder.Property(c => c.Before).StoredAsJson();
        builder.Property(c => c.Laxer).HasDefaultValue(false);
    }
}
