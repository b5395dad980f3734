using System.ComponentModel.DataAnnotations;
using System.ComponentModel.DataAnnotations.Schema;
using Uncial.Core.Lengths;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Core.Planning;

namespace Uncial.Data;

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

/// <summary>Where an insert is held.</summary>
public enum ToolHolder
{
    Outer,
    Inner,
    Bar,
}

/// <summary>What was done to an insert, or seen on it.</summary>
public enum InsertEventKind
{
    Replaced,
    Turned,
    Chipped,
}

/// <summary>Something done to an insert, or seen on it.</summary>
public class InsertEvent : Fact
{
    public int LatheId { get; set; }
    public ToolHolder Holder { get; set; }
    public InsertEventKind Kind { get; set; }

    /// <summary>Edge that is in after it, from 1.</summary>
    public int Edge { get; set; }
}

/// <summary>An insert as it stands now.</summary>
/// <param name="Holder">Where it is held.</param>
/// <param name="Edge">Edge that is in, from 1; null where nobody has said.</param>
/// <param name="Metres">Metres cut with it since it was turned or replaced.</param>
/// <param name="Chipped">Somebody saw a chip in it.</param>
/// <param name="Worn">It has cut more than the lathe's mark.</param>
public sealed record InsertNow(ToolHolder Holder, int? Edge, decimal Metres, bool Chipped, bool Worn);

/// <summary>A mounting, as it is stored.</summary>
public class MountEntry : MountFact
{
    public int SurfaceId { get; set; }
    public Operator? By { get; set; }

    /// <summary>The stack, as <see cref="Mounting"/>.</summary>
    public required string Document { get; set; }

    [NotMapped]
    public override Mounting? Stack => StoredJson.Read<Mounting>(Document);

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}

/// <summary>A check of a set-up, as it is stored.</summary>
public class SetUpEntry : SetUpFact
{
    public int SurfaceId { get; set; }
    public Operator? By { get; set; }
    public MountEntry? Mount { get; set; }

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}

/// <summary>That a part may be cut as it is mounted, as it is stored.</summary>
public class SetUpDecision : SetUpDecisionFact
{
    public int SurfaceId { get; set; }
    public Operator? By { get; set; }
    public SetUpEntry? Check { get; set; }

    [NotMapped]
    public override SetUpFact? OfCheck => Check;

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}
