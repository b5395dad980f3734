using System.ComponentModel.DataAnnotations;
using System.ComponentModel.DataAnnotations.Schema;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Uncial.Data.Model;

/// <summary>How a part left the workflow. A refused one goes back as it came, unturned and unjudged.</summary>
public enum OutcomeKind
{
    Released,
    Shelved,
    Scrapped,
    Refused,
}

/// <summary>Why a part is scrap.</summary>
public enum ScrapCause
{
    BeyondDiscard,
    Crack,
    HardSpots,
    Damage,
    NotWorthIt,
    Other,
}

/// <summary>The end of a part's workflow in this job. Who recalled it is on record beside it.</summary>
public class Outcome : PartFact
{
    public int PartId { get; set; }
    public Operator? By { get; set; }
    public OutcomeKind Kind { get; set; }

    [MaxLength(300)]
    public string? Reason { get; set; }
    public bool DoNotMachineAgain { get; set; }

    /// <summary>Why it is scrap; null where it is none.</summary>
    public ScrapCause? Cause { get; set; }

    /// <summary>Where a shelved part lies.</summary>
    [MaxLength(120)]
    public string? Place { get; set; }

    /// <summary>What keeps rust off a shelved part.</summary>
    [MaxLength(120)]
    public string? Preservative { get; set; }

    /// <summary>The lead who signed with a PIN at another's screen; null where nobody had to.</summary>
    public int? SignedById { get; set; }
    public Operator? SignedBy { get; set; }

    /// <summary>The lead's signature where it left between the limits; otherwise null.</summary>
    public long? SignatureId { get; set; }
    public Signature? Signature { get; set; }

    public OutcomeWithdrawal? Withdrawal { get; set; }
    public Certificate? Certificate { get; set; }

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}

/// <summary>A recall, as it is stored.</summary>
public class OutcomeWithdrawal : RecallFact
{
    public long OutcomeId { get; set; }
    public Operator? By { get; set; }

    public int? SignedById { get; set; }
    public Operator? SignedBy { get; set; }

    /// <summary>The lead's signature; null for one from before signatures were kept.</summary>
    public long? SignatureId { get; set; }
    public Signature? Signature { get; set; }

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}

internal sealed class OutcomeTable : IEntityTypeConfiguration<Outcome>
{
    public void Configure(EntityTypeBuilder<Outcome> builder)
    {
        builder.HasIndex(o => o.At);
        builder.HasOne(o => o.Withdrawal).WithOne().HasForeignKey<OutcomeWithdrawal>(w => w.OutcomeId).OnDelete(DeleteBehavior.Restrict);
        builder.HasOne(o => o.Certificate).WithOne().HasForeignKey<Certificate>(c => c.OutcomeId).OnDelete(DeleteBehavior.Restrict);
        builder.HasOne(o => o.SignedBy).WithMany().OnDelete(DeleteBehavior.Restrict);
    }
}

internal sealed class OutcomeWithdrawalTable : IEntityTypeConfiguration<OutcomeWithdrawal>
{
    public void Configure(EntityTypeBuilder<OutcomeWithdrawal> builder)
    {
        builder.ToTable("outcome_withdrawals").HasOne(w => w.SignedBy).WithMany().OnDelete(DeleteBehavior.Restrict);
        builder.Property(w => w.Reason).HasMaxLength(300);
    }
}
