using System.ComponentModel.DataAnnotations;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using Uncial.Core.Planning;

namespace Uncial.Data.Model;

/// <summary>A technique of the shop's own, beside the built-in ones.</summary>
public class ShopTechnique
{
    public int Id { get; set; }
    public int ShopId { get; set; } = 1;

    /// <summary>Its key is the name that the shop gives it.</summary>
    public required Technique Spec { get; set; }

    public DateTimeOffset? RetiredAt { get; set; }

    [ConcurrencyCheck]
    public int Turn { get; set; }
}

internal sealed class ShopTechniqueTable : IEntityTypeConfiguration<ShopTechnique>
{
    public void Configure(EntityTypeBuilder<ShopTechnique> builder)
    {
        builder.ToTable("techniques").Property(t => t.Spec).StoredAsJson();
    }
}
