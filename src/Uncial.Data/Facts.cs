using System.ComponentModel.DataAnnotations;
using System.ComponentModel.DataAnnotations.Schema;
using Uncial.Core.Lengths;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Core.Release;

namespace Uncial.Data;

/// <summary>A job ticket: one vehicle, the parts that came off it.</summary>
public class Job
{
    /// <summary>Job numbers have up to seven digits.</summary>
    public const int LargestNumber = 9_999_999;

    public int Id { get; set; }
    public int Number { get; set; }

    [MaxLength(120)]
    public required string Vehicle { get; set; }

    [MaxLength(120)]
    public string? Customer { get; set; }
    public int? OdometerKm { get; set; }
    public DateTimeOffset? PromisedAt { get; set; }
    public DateTimeOffset ReceivedAt { get; set; }
    public int ReceivedById { get; set; }
    public Operator? ReceivedBy { get; set; }
    public List<Part> Parts { get; } = [];
}

/// <summary>Where a part belongs on the vehicle.</summary>
public enum Corner
{
    FrontLeft,
    FrontRight,
    RearLeft,
    RearRight,
    Other,
}

/// <summary>A removed rotor or drum with its tag.</summary>
public class Part
{
    public int Id { get; set; }
    public int JobId { get; set; }
    public Job? Job { get; set; }

    [MaxLength(12)]
    public required string Tag { get; set; }
    public Corner Corner { get; set; }

    [MaxLength(60)]
    public string? Mark { get; set; }

    /// <summary>
    /// When it was said to be marked to its wheel stud, so that it goes back in the same place; null where nobody has said so.
    /// </summary>
    public DateTimeOffset? MarkedAt { get; set; }
    public int? MarkedById { get; set; }

    /// <summary>Price of a new one in the shop's money, if somebody has asked.</summary>
    public decimal? NewPrice { get; set; }

    /// <summary>The sizes that decide how it is mounted; null where nobody has entered any.</summary>
    public MountShape? Shape { get; set; }

    /// <summary>How far it has gone, where that is not what the vehicle has gone.</summary>
    public int? KmSinceNew { get; set; }

    /// <summary>How often a part with this tag was here, this time counted: 1 for the first.</summary>
    public int Visit { get; set; } = 1;

    /// <summary>Place among its own facts: 1. Given by the database.</summary>
    public int FactNumber { get; set; }

    public List<WorkSurface> Surfaces { get; } = [];
    public List<Outcome> Outcomes { get; } = [];

    /// <summary>How it left; null while it is here, also where it was called back.</summary>
    [NotMapped]
    public Outcome? Outcome => Outcomes.Where(o => o.Withdrawal is null).Newest();

    /// <summary>The newest recall, or null.</summary>
    [NotMapped]
    public OutcomeWithdrawal? CalledBack => Outcomes.Select(o => o.Withdrawal).OfType<OutcomeWithdrawal>().Newest();

    /// <summary>What Core is to know of it.</summary>
    [NotMapped]
    public PartFacts Facts =>
        new()
        {
            HasLeft = Outcome is not null,
            Recalled = CalledBack,
            Shape = Shape,
            Findings = [.. Surfaces.SelectMany(s => s.Findings)],
        };
}

/// <summary>A pair of faces or a bore: what has limits, is measured, cut and judged.</summary>
public class WorkSurface
{
    public int Id { get; set; }
    public int PartId { get; set; }
    public Part? Part { get; set; }
    public PartKind Kind { get; set; }

    /// <summary>A parking-brake drum in a rotor's hat.</summary>
    public bool InHat { get; set; }

    /// <summary>Largest diameter cut: outside of a rotor's ring, inside of a drum.</summary>
    public Length Diameter { get; set; }

    /// <summary>Width of the swept band.</summary>
    public Length Band { get; set; }

    /// <summary>Clock positions of a rotor, or axes of a drum, that are to be read.</summary>
    public int Places { get; set; }

    /// <summary>
    /// Where it is read, in millimetres: depths of a drum from its open edge, or how far in from the outer edge of a rotor; empty for the
    /// usual one.
    /// </summary>
    public decimal[] DepthsMm { get; set; } = [];

    /// <summary>Greatest run-out that the limit book allows, or null.</summary>
    public Length? MaxRunout { get; set; }

    /// <summary>Greatest thickness variation or out-of-round that the limit book allows, or null.</summary>
    public Length? MaxVariation { get; set; }

    /// <summary>Goes up with every fact that is added; a page that was made before another's fact is noticed by it.</summary>
    [ConcurrencyCheck]
    public int Turn { get; set; }

    /// <summary>Place among the facts of its part. Given by the database.</summary>
    public int FactNumber { get; set; }

    public List<LimitEntry> LimitEntries { get; } = [];
    public List<LimitSettlement> Settlements { get; } = [];
    public List<Finding> Findings { get; } = [];
    public List<ReadingEntry> Readings { get; } = [];
    public List<PlanEntry> Plans { get; } = [];
    public List<PassEntry> Passes { get; } = [];
    public List<Confirmation> Confirmations { get; } = [];
    public List<MountEntry> Mounts { get; } = [];
    public List<SetUpEntry> SetUps { get; } = [];
    public List<SetUpDecision> SetUpDecisions { get; } = [];
    public List<CutStart> CutStarts { get; } = [];
    public List<FinishEntry> Finishes { get; } = [];
    public List<ChatterEntry> Chatters { get; } = [];

    /// <summary>What is on record about it, as Core takes it.</summary>
    [NotMapped]
    public SurfaceFacts Facts =>
        new()
        {
            Kind = Kind,
            Diameter = Diameter,
            Band = Band,
            Places = Places,
            Depths = [.. DepthsMm.Select(Length.FromMillimetres)],
            MaxRunout = MaxRunout,
            MaxVariation = MaxVariation,
            Limits = LimitEntries,
            Settlements = Settlements,
            Findings = Findings,
            Readings = Readings,
            Plans = Plans,
            Passes = Passes,
            Confirmations = Confirmations,
            Mounts = Mounts,
            SetUps = SetUps,
            SetUpDecisions = SetUpDecisions,
            CutStarts = CutStarts,
            Finishes = Finishes,
        };
}

/// <summary>Something that was stated and belongs to no part: by whom and when. Facts are added, never changed.</summary>
public abstract class Fact
{
    public long Id { get; set; }
    public DateTimeOffset At { get; set; }
    public int ById { get; set; }
    public Operator? By { get; set; }
}

/// <summary>A limit as it was read somewhere, as it is stored.</summary>
public class LimitEntry : LimitFact
{
    public int SurfaceId { get; set; }
    public Operator? By { get; set; }
    public Signature? Signature { get; set; }

    [NotMapped]
    public override string? ByName => By?.DisplayName;

    [NotMapped]
    public override string? SignedReason => Signature?.Reason;

    [NotMapped]
    public override string? SignedByName => Signature?.SignedBy?.DisplayName;
}

/// <summary>A reading, as it is stored.</summary>
public class ReadingEntry : ReadingFact
{
    public int SurfaceId { get; set; }
    public Operator? By { get; set; }

    /// <summary>
    /// The newest zero check of the gauge when the reading was stored; 0 for none, null for a reading of the first version. Set by the
    /// database.
    /// </summary>
    public long? AfterCheckId { get; set; }

    /// <summary>Name that the page gave it, so that it goes in once however often it is sent.</summary>
    public Guid? Key { get; set; }

    /// <summary>
    /// Session and running number of the line that a gauge sent it with, so that it goes in once; null for one that was typed.
    /// </summary>
    [MaxLength(60)]
    public string? Line { get; set; }

    public Withdrawal? Withdrawal { get; set; }
    public ReadingFlag? Flag { get; set; }

    [NotMapped]
    public override WithdrawalFact? Withdrawn => Withdrawal;

    [NotMapped]
    public override PartFact? Flagged => Flag;

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}

/// <summary>A reading taken back, with the reason.</summary>
public class Withdrawal : WithdrawalFact
{
    public long ReadingId { get; set; }
    public Operator? By { get; set; }
    public Signature? Signature { get; set; }

    [NotMapped]
    public override string? SignedByName => Signature?.SignedBy?.DisplayName;

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}

/// <summary>A plan, as it is stored.</summary>
public class PlanEntry : PlanFact
{
    public int SurfaceId { get; set; }
    public Operator? By { get; set; }

    /// <summary>What it rests on and its passes, as <see cref="PlanDocument"/>.</summary>
    public required string Document { get; set; }

    public Signature? Signature { get; set; }

    private PlanDocument? read;

    /// <summary>The document as objects; the same text is parsed once while it is in use.</summary>
    [NotMapped]
    public override PlanDocument Contents => read ??= PlanDocuments.Read(Document);

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}

/// <summary>A pass, as it is stored.</summary>
public class PassEntry : PassFact
{
    public int SurfaceId { get; set; }
    public Operator? By { get; set; }
    public PlanEntry? Plan { get; set; }

    /// <summary>Notes of the reading of the pass, JSON.</summary>
    public required string Notes { get; set; }

    [NotMapped]
    public override PlanFact? OfPlan => Plan;

    [NotMapped]
    public override bool TouchedFromSize => DialBorneOut || StoredJson.Read<List<Core.Note>>(Notes).Exists(n => n.Code == "touchFromSize");

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}

/// <summary>A judgement, as it is stored.</summary>
public class Confirmation : ConfirmationFact
{
    public int SurfaceId { get; set; }
    public Operator? By { get; set; }

    [NotMapped]
    public override string? ByName => By?.DisplayName;
}
