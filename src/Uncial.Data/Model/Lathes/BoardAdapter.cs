using System.ComponentModel.DataAnnotations;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using Uncial.Core.Mounting;

namespace Uncial.Data.Model;

/// <summary>An adapter on the board.</summary>
public class BoardAdapter
{
    public int Id { get; set; }
    public int ShopId { get; set; } = 1;
    public required Adapter Spec { get; set; }
    public DateTimeOffset? RetiredAt { get; set; }

    [ConcurrencyCheck]
    public int Turn { get; set; }
}

internal sealed class BoardAdapterTable : IEntityTypeConfiguration<BoardAdapter>
{
    public void Configure(EntityTypeBuilder<BoardAdapter> builder)
    {
        builder.ToTable("adapters").Property(a => a.Spec).StoredAsJson();
    }
}
