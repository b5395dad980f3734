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

    /// <summary>The newest calling back, or null.</summary>
    [NotMapped]
    public OutcomeWithdrawal? CalledBack => Outcomes.Select(o => o.Withdrawal).OfType<OutcomeWithdrawal>().Newest();
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
}

/// <summary>Something that was stated: by whom and when. Facts are added, never changed.</summary>
public abstract class Fact
{
    public long Id { get; set; }
    public DateTimeOffset At { get; set; }
    public int ById { get; set; }
    public Operator? By { get; set; }
}

/// <summary>A fact about a part. Its number orders it among all facts of the part, whatever the clocks said.</summary>
public abstract class PartFact : Fact
{
    /// <summary>Place among the facts of its part, from 1 without gaps; given by the database under the part's lock.</summary>
    public int Number { get; set; }
}

/// <summary>Where a limit was read.</summary>
public enum LimitSource
{
    CastMarking,
    LimitBook,
    MakersSheet,
    OtherShop,
}

/// <summary>A limit as it was read somewhere. The newest of each source counts; of several sources the stricter holds.</summary>
public class LimitEntry : PartFact
{
    public int SurfaceId { get; set; }
    public LimitKind Kind { get; set; }
    public Length Value { get; set; }

    [MaxLength(120)]
    public required string Typed { get; set; }
    public LengthUnit Unit { get; set; }
    public LimitSource Source { get; set; }

    /// <summary>The entry of the limit book that it was read from; null for other sources.</summary>
    public int? BookEntryId { get; set; }

    /// <summary>The statement of the part's visit before that it repeats; null for one that was made in this visit.</summary>
    public long? CopiedFromId { get; set; }

    /// <summary>Newest change of the shop's rules when it was stated; null or 0 for none. Set by the database.</summary>
    public long? RulesId { get; set; }

    /// <summary>The lead's signature where it made the limit that holds laxer; otherwise null.</summary>
    public long? SignatureId { get; set; }
    public Signature? Signature { get; set; }
}

/// <summary>What a reading is of.</summary>
public enum ReadingKind
{
    Size,
    RunoutOuter,
    RunoutInner,
    GrooveOuter,
    GrooveInner,
    ReliefOuter,
    ReliefInner,
    Eccentricity,
    Groove,
    Relief,
}

/// <summary>One reading of one gauge, as typed.</summary>
public class ReadingEntry : PartFact
{
    public int SurfaceId { get; set; }
    public ReadingKind Kind { get; set; }

    /// <summary>Place around the part; null where the reading is of a whole face.</summary>
    public decimal? Degrees { get; set; }

    /// <summary>Depth in a drum, or how far in from the outer edge of a rotor.</summary>
    public Length? Station { get; set; }

    public Length Value { get; set; }

    [MaxLength(120)]
    public required string Typed { get; set; }
    public LengthUnit Unit { get; set; }
    public Length Resolution { get; set; }
    public Length Uncertainty { get; set; }

    /// <summary>It was questioned, and the operator stood by it.</summary>
    public bool Insisted { get; set; }

    /// <summary>Passes that the surface had behind it.</summary>
    public int Cuts { get; set; }

    /// <summary>The gauge; null for a reading from before gauges had a book.</summary>
    public int? GaugeId { get; set; }

    /// <summary>
    /// The newest zero check of the gauge when the reading was stored; 0 for none, null for a reading of the first version. Set by the
    /// database.
    /// </summary>
    public long? AfterCheckId { get; set; }

    /// <summary>The zero check that corrected it, if one did. The correction is in <see cref="Value"/> already.</summary>
    public long? ZeroCheckId { get; set; }

    /// <summary>What the zero check added to what the gauge showed.</summary>
    public Length Correction { get; set; }

    /// <summary>What the operator remarked.</summary>
    [MaxLength(200)]
    public string? Note { get; set; }

    /// <summary>
    /// It came with a job file and was not read here: it is shown and planned by, but nothing leaves on it. Null where it was read here.
    /// </summary>
    public bool? FromFile { get; set; }

    /// <summary>When it was typed, where it had to wait for the server; otherwise null.</summary>
    public DateTimeOffset? TypedAt { get; set; }

    /// <summary>Name that the page gave it, so that it goes in once however often it is sent.</summary>
    public Guid? Key { get; set; }

    /// <summary>
    /// Session and running number of the line that a gauge sent it with, so that it goes in once; null for one that was typed.
    /// </summary>
    [MaxLength(60)]
    public string? Line { get; set; }

    public Withdrawal? Withdrawal { get; set; }
    public ReadingFlag? Flag { get; set; }

    /// <summary>When the gauge was read.</summary>
    [NotMapped]
    public DateTimeOffset TakenAt => TypedAt ?? At;
}

/// <summary>A reading taken back, with the reason.</summary>
public class Withdrawal : PartFact
{
    public long ReadingId { get; set; }

    [MaxLength(200)]
    public required string Reason { get; set; }

    /// <summary>The lead's signature where the reading was beyond discard; otherwise null.</summary>
    public long? SignatureId { get; set; }
    public Signature? Signature { get; set; }
}

/// <summary>A plan that was taken; a new one gets the next version.</summary>
public class PlanEntry : PartFact
{
    public int SurfaceId { get; set; }
    public int Version { get; set; }

    [MaxLength(60)]
    public required string Technique { get; set; }

    /// <summary>The lathe that its dial settings are for; null for one from before lathes had a book.</summary>
    public int? LatheId { get; set; }

    /// <summary>What it rests on and its passes, as <see cref="PlanDocument"/>.</summary>
    public required string Document { get; set; }

    private PlanDocument? read;

    /// <summary>The document as objects; the same text is parsed once while it is in use.</summary>
    public PlanDocument Read() => read ??= PlanDocuments.Read(Document);

    /// <summary>The lead's signature for a first pass that could end past machine-to; otherwise null.</summary>
    public long? SignatureId { get; set; }
    public Signature? Signature { get; set; }
}

/// <summary>A pass that was made, and what the metal showed after it.</summary>
public class PassEntry : PartFact
{
    public int SurfaceId { get; set; }
    public long PlanId { get; set; }
    public PlanEntry? Plan { get; set; }

    /// <summary>Place in its plan, from 0.</summary>
    public int Index { get; set; }

    /// <summary>Place among all passes of the surface, from 1.</summary>
    public int Cut { get; set; }

    /// <summary>The size measured after it ruled out that the dial counts twice or half the depth.</summary>
    public bool DialBorneOut { get; set; }

    /// <summary>Dark twelfths of the outer face or bore; bit 0 is 12 o'clock.</summary>
    public int DarkOuter { get; set; }

    /// <summary>Dark twelfths of the inner face.</summary>
    public int DarkInner { get; set; }

    public Length? GrooveOuter { get; set; }
    public Length? GrooveInner { get; set; }

    /// <summary>A size measured right after the pass.</summary>
    public Length? Size { get; set; }

    public int? LatheId { get; set; }

    /// <summary>Way of each tip through the metal, metres; 0 where size or band are not known.</summary>
    public decimal Metres { get; set; }

    /// <summary>Iron that it took by its dials, grams; 0 where size or band are not known.</summary>
    public decimal Grams { get; set; }

    /// <summary>What was heard or seen of chatter; null where it ran quiet.</summary>
    public Uncial.Core.Cutting.ChatterSign? Noise { get; set; }

    /// <summary>What followed from it.</summary>
    public Uncial.Core.Cutting.NextStep Next { get; set; }

    /// <summary>Notes of the reading of the pass, JSON.</summary>
    public required string Notes { get; set; }
}

/// <summary>A judgement made at the bench, with the figures it rests on.</summary>
public class Confirmation : PartFact
{
    public int SurfaceId { get; set; }
    public int Cuts { get; set; }
    public PartKind Kind { get; set; }
    public Length Worst { get; set; }
    public Length Discard { get; set; }
    public Length MachineTo { get; set; }
    public Length Uncertainty { get; set; }
    public Length? Allowance { get; set; }

    /// <summary>Grooves that stay, both faces together, radial in a drum; null: not looked at on some face.</summary>
    public Length? GrooveLeft { get; set; }

    /// <summary>Low lands that stay, likewise; null: not looked at, or a judgement of an earlier version.</summary>
    public Length? ReliefLeft { get; set; }

    /// <summary>What those depths may be more than they were read, together; nothing where it was turned bright.</summary>
    public Length? DepthUncertainty { get; set; }

    public Decision Decision { get; set; }
    public int? LatheId { get; set; }

    /// <summary>The sizes before and after ruled out that the dial counts twice or half the depth.</summary>
    public bool DialBorneOut { get; set; }

    /// <summary>
    /// What the dial took since its zero, off the thickness or on the diameter; null where that was not cut clean and measured before and
    /// after.
    /// </summary>
    public Length? DialTook { get; set; }

    /// <summary>What went by the sizes before and after, likewise.</summary>
    public Length? MetalGone { get; set; }

    /// <summary>
    /// How far it is out of parallel, millimetres of size on a millimetre of band, signed; null where one station was read, or it was not
    /// cut bright.
    /// </summary>
    public double? Slope { get; set; }

    /// <summary>Thickness variation or out-of-round; null where it was not known.</summary>
    public Length? Variation { get; set; }

    /// <summary>Taper over the band, signed; null where only one station was read.</summary>
    public Length? Taper { get; set; }

    /// <summary>Why it goes on although its shape, its fellow on the axle or the dial spoke against it; null where nothing did.</summary>
    [MaxLength(300)]
    public string? Reason { get; set; }

    /// <summary>Newest change of the shop's rules when it was judged; null or 0 for none. Set by the database.</summary>
    public long? RulesId { get; set; }
}
