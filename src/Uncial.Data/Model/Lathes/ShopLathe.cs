using System.ComponentModel.DataAnnotations;
using System.ComponentModel.DataAnnotations.Schema;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using Uncial.Core.Planning;

namespace Uncial.Data.Model;

/// <summary>A lathe of the shop with its profile.</summary>
public class ShopLathe
{
    public int Id { get; set; }
    public int ShopId { get; set; } = 1;
    public required Lathe Profile { get; set; }

    /// <summary>Taken out of use; what was cut on it stays.</summary>
    public DateTimeOffset? RetiredAt { get; set; }

    /// <summary>Where its read-out is listened to, host:port; null where it has none.</summary>
    [MaxLength(60)]
    public string? Address { get; set; }

    [ConcurrencyCheck]
    public int Turn { get; set; }

    /// <summary>The tool holders that hold an insert.</summary>
    [NotMapped]
    public IReadOnlyList<ToolHolder> Holders =>
        Profile.Kind == LatheKind.Grinder
            ? []
            :
            [
                .. !Profile.CutsRotors ? []
                : Profile.TwinCutter ? new[] { ToolHolder.Outer, ToolHolder.Inner }
                : [ToolHolder.Outer],
                .. !Profile.CutsDrums ? Array.Empty<ToolHolder>() : [ToolHolder.Bar],
            ];
}

internal sealed class ShopLatheTable : IEntityTypeConfiguration<ShopLathe>
{
    public void Configure(EntityTypeBuilder<ShopLathe> builder)
    {
        builder.ToTable("lathes").Property(l => l.Profile).StoredAsJson();
    }
}
