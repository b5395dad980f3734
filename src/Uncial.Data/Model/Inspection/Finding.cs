using System.ComponentModel.DataAnnotations.Schema;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Uncial.Data.Model;

/// <summary>What somebody found on a surface by eye and hand.</summary>
public class Finding : FindingFact
{
    public int SurfaceId { get; set; }
    public Operator? By { get; set; }
    public FindingWithdrawal? Withdrawal { get; set; }

    [NotMapped]
    public override WithdrawalFact? Withdrawn => Withdrawal;

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}

/// <summary>A finding that turned out to be none, with the reason.</summary>
public class FindingWithdrawal : WithdrawalFact
{
    public long FindingId { get; set; }
    public Operator? By { get; set; }
    public Signature? Signature { get; set; }

    [NotMapped]
    public override string? ByName => By?.DisplayName;

    [NotMapped]
    public override string? SignedByName => Signature?.SignedBy?.DisplayName;
}

internal sealed class FindingTable : IEntityTypeConfiguration<Finding>
{
    public void Configure(EntityTypeBuilder<Finding> builder)
    {
        builder.Property(f => f.Note).HasMaxLength(200);
        builder.HasOne(f => f.Withdrawal).WithOne().HasForeignKey<FindingWithdrawal>(w => w.FindingId).OnDelete(DeleteBehavior.Restrict);
        builder.HasOne<Photo>().WithMany().HasForeignKey(f => f.PhotoId).OnDelete(DeleteBehavior.Restrict);
    }
}

internal sealed class FindingWithdrawalTable : IEntityTypeConfiguration<FindingWithdrawal>
{
    public void Configure(EntityTypeBuilder<FindingWithdrawal> builder)
    {
        builder.ToTable("finding_withdrawals");
        builder.Property(w => w.Reason).HasMaxLength(200);
    }
}
