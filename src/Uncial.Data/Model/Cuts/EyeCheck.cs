using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Uncial.Data.Model;

/// <summary>Somebody said that eyes, guard and sleeves are seen to: once for each person, lathe and day of the shop.</summary>
public class EyeCheck : Fact
{
    public int LatheId { get; set; }

    /// <summary>The day, in the time zone of the shop.</summary>
    public DateOnly Day { get; set; }
}

internal sealed class EyeCheckTable : IEntityTypeConfiguration<EyeCheck>
{
    public void Configure(EntityTypeBuilder<EyeCheck> builder)
    {
        builder.ToTable("eye_checks");
        builder.HasOne<ShopLathe>().WithMany().HasForeignKey(c => c.LatheId).OnDelete(DeleteBehavior.Restrict);
        builder.HasIndex(c => new
        {
            c.ById,
            c.LatheId,
            c.At,
        });
    }
}
