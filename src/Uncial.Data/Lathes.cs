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

/// <summary>A part put on a lathe.</summary>
public class MountEntry : PartFact
{
    public int SurfaceId { get; set; }
    public int LatheId { get; set; }

    /// <summary>Cuts that the surface had behind it.</summary>
    public int Cuts { get; set; }

    public MountWay Way { get; set; }

    /// <summary>Adapter that centres it.</summary>
    [MaxLength(60)]
    public required string Centring { get; set; }

    /// <summary>The stack, as <see cref="Mounting"/>.</summary>
    public required string Document { get; set; }

    /// <summary>Band, silencers or belt are on.</summary>
    public bool Damped { get; set; }

    /// <summary>It was taken off and put on again: what was found then; null for a first mounting.</summary>
    public RemountCause? Found { get; set; }
}

/// <summary>How a set-up was checked.</summary>
public enum SetUpManner
{
    TwoScratches,
    Angles,
    OneScratch,
    Indicator,
    TwoArcs,
}

/// <summary>A check of a set-up: what was seen, and what it came to.</summary>
public class SetUpEntry : PartFact
{
    public int SurfaceId { get; set; }
    public long MountId { get; set; }
    public MountEntry? Mount { get; set; }
    public SetUpManner Manner { get; set; }

    /// <summary>Turn of the part on the arbor between the marks, clockwise, degrees; 0 where it was not turned.</summary>
    public decimal Turned { get; set; }

    public decimal FirstDegrees { get; set; }
    public decimal? FirstArc { get; set; }

    /// <summary>Depth of the scratch, or total reading of the indicator.</summary>
    public Length? FirstLength { get; set; }

    public decimal? SecondDegrees { get; set; }
    public decimal? SecondArc { get; set; }
    public Length? SecondLength { get; set; }
    public Length Tolerance { get; set; }
    public SetUpVerdict Verdict { get; set; }

    /// <summary>The set-up's own run-out, total reading; null where only shares are known.</summary>
    public Length? SetUpRunout { get; set; }

    public Length? PartRunout { get; set; }

    /// <summary>Run-out as it turns now: part and set-up together.</summary>
    public Length? RunoutNow { get; set; }

    /// <summary>Metal that the set-up costs as it stands; negative: saved.</summary>
    public Length? CostNow { get; set; }

    public Length? LeftOnVehicle { get; set; }
    public double? SetUpShare { get; set; }
}

/// <summary>Somebody said that the part may be cut as it is mounted; against the check, or without one, with a reason.</summary>
public class SetUpDecision : PartFact
{
    public int SurfaceId { get; set; }
    public long MountId { get; set; }

    /// <summary>The check it rests on; null where it was not checked.</summary>
    public long? CheckId { get; set; }
    public SetUpEntry? Check { get; set; }

    [MaxLength(300)]
    public string? Reason { get; set; }
}
