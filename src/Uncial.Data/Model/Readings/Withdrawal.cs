using System.ComponentModel.DataAnnotations.Schema;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Uncial.Data.Model;

/// <summary>A reading taken back, with the reason.</summary>
public class Withdrawal : WithdrawalFact
{
    public long ReadingId { get; set; }
    public Operator? By { get; set; }
    public Signature? Signature { get; set; }

    [NotMapped]
    public override string? SignedByName => Signature?.SignedBy?.DisplayName;

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}

internal sealed class WithdrawalTable : IEntityTypeConfiguration<Withdrawal>
{
    public void Configure(EntityTypeBuilder<Withdrawal> builder)
    {
        builder.Property(w => w.Reason).HasMaxLength(200);
    }
}
