using System.ComponentModel.DataAnnotations.Schema;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Uncial.Data.Model;

/// <summary>A judgement, as it is stored.</summary>
public class Confirmation : ConfirmationFact
{
    public int SurfaceId { get; set; }
    public Operator? By { get; set; }

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}

internal sealed class ConfirmationTable : IEntityTypeConfiguration<Confirmation>
{
    public void Configure(EntityTypeBuilder<Confirmation> builder)
    {
        builder.Property(c => c.RulesId).HasDefaultValueSql("null");
        builder.Property(c => c.Reason).HasMaxLength(300);
        builder.Property(c => c.DialVerified).HasColumnName("dial_borne_out");
        builder.ToTable(t =>
            t.HasCheckConstraint(
                "ck_confirmations_release_is_inside_discard",
                "decision not in ('Release', 'LeadOnly') or (uncertainty_mm > 0 and allowance_mm is not null and "
                    + "case kind when 'Rotor' then worst_mm - discard_mm else discard_mm - worst_mm end >= uncertainty_mm + allowance_mm)"
            )
        );
    }
}
