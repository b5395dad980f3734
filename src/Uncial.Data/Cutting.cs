using System.ComponentModel.DataAnnotations;
using System.ComponentModel.DataAnnotations.Schema;
using Uncial.Core.Cutting;
using Uncial.Core.Planning;

namespace Uncial.Data;

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

/// <summary>The start of a pass, as it is stored.</summary>
public class CutStart : CutStartFact
{
    public int SurfaceId { get; set; }
    public Operator? By { get; set; }
    public PlanEntry? Plan { get; set; }
    public CutStop? Stop { get; set; }

    [NotMapped]
    public override CutStopFact? Stopped => Stop;

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}

/// <summary>The end of a started pass, as it is stored.</summary>
public class CutStop : CutStopFact
{
    public long StartId { get; set; }
    public Operator? By { get; set; }

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}

/// <summary>The part was finished, as it is stored.</summary>
public class FinishEntry : FinishFact
{
    public int SurfaceId { get; set; }
    public Operator? By { get; set; }

    /// <summary>Names of the steps that were done, in their order.</summary>
    public string[] Steps { get; set; } = [];

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}

/// <summary>Chatter that was heard or seen, what was tried, and whether it helped. Kept for the lathe.</summary>
public class ChatterEntry : PartFact
{
    public int SurfaceId { get; set; }
    public Operator? By { get; set; }
    public int LatheId { get; set; }

    /// <summary>Passes that the surface had behind it.</summary>
    public int Cuts { get; set; }

    public ChatterSign Sign { get; set; }
    public ChatterRemedy Remedy { get; set; }
    public bool Helped { get; set; }

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}

/// <summary>The swarf bin was emptied.</summary>
public class BinEmptied : Fact
{
    /// <summary>Iron in it by the dials, grams.</summary>
    public decimal Grams { get; set; }
}

/// <summary>What is being ticked, tapped and typed at a cut and not kept yet, so that it is there on any screen. No fact: it goes when it is kept.</summary>
public class CutDraft
{
    /// <summary>The surface that it belongs to.</summary>
    [Key]
    public int SurfaceId { get; set; }

    /// <summary>Which view of which pass it belongs to; another view starts empty.</summary>
    [MaxLength(60)]
    public required string Of { get; set; }

    /// <summary>Names and values of the fields, JSON.</summary>
    public required string Document { get; set; }

    public DateTimeOffset At { get; set; }
}
