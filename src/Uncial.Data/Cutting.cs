using System.ComponentModel.DataAnnotations;
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

/// <summary>A pass was started: from here on nobody else starts it.</summary>
public class CutStart : PartFact
{
    public int SurfaceId { get; set; }
    public long PlanId { get; set; }
    public PlanEntry? Plan { get; set; }

    /// <summary>Place of the pass in its plan, from 0.</summary>
    public int Index { get; set; }

    /// <summary>Which start of this pass it is, from 1: one that was broken off is made again.</summary>
    public int Attempt { get; set; }

    public int LatheId { get; set; }

    /// <summary>Minutes by band, feed and speed; 0 where they are not known.</summary>
    public decimal PlannedMinutes { get; set; }

    /// <summary>Seconds that it should take, by what passes took on this lathe; 0 where not known.</summary>
    public int Seconds { get; set; }

    public CutStop? Stop { get; set; }
}

/// <summary>How a started pass ended.</summary>
public enum CutStopKind
{
    /// <summary>It ran to its end.</summary>
    Done,

    /// <summary>It was stopped inside the cut, which leaves a step: it is made again at the same setting.</summary>
    BrokenOff,

    /// <summary>The tool never touched: it was started by mistake.</summary>
    NotCut,
}

/// <summary>The end of a started pass.</summary>
public class CutStop : PartFact
{
    public long StartId { get; set; }
    public CutStopKind Kind { get; set; }

    [MaxLength(300)]
    public string? Reason { get; set; }
}

/// <summary>The part was finished after its cuts: hatched, edges, washed.</summary>
public class FinishEntry : PartFact
{
    public int SurfaceId { get; set; }
    public int Cuts { get; set; }

    /// <summary>Names of the steps that were done, in their order.</summary>
    public string[] Steps { get; set; } = [];

    /// <summary>Why a step was left out.</summary>
    [MaxLength(300)]
    public string? Reason { get; set; }
}

/// <summary>Chatter that was heard or seen, what was tried, and whether it helped. Kept for the lathe.</summary>
public class ChatterEntry : PartFact
{
    public int SurfaceId { get; set; }
    public int LatheId { get; set; }

    /// <summary>Passes that the surface had behind it.</summary>
    public int Cuts { get; set; }

    public ChatterSign Sign { get; set; }
    public ChatterRemedy Remedy { get; set; }
    public bool Helped { get; set; }
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
