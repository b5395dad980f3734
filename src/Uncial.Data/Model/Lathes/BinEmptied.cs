using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Uncial.Data.Model;

/// <summary>The swarf bin was emptied.</summary>
public class BinEmptied : Fact
{
    /// <summary>Iron in it by the dials, grams.</summary>
    public decimal Grams { get; set; }
}

internal sealed class BinEmptiedTable : IEntityTypeConfiguration<BinEmptied>
{
    public void Configure(EntityTypeBuilder<BinEmptied> builder)
    {
        builder.ToTable("bins_emptied");
    }
}
