using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Release;

namespace Uncial.Core.Workflow;

/// <summary>A judgement made at the bench, with the figures it rests on.</summary>
public class ConfirmationFact : PartFact
{
    /// <summary>Passes that it had behind it.</summary>
    public int Cuts { get; init; }

    /// <summary>Rotor or drum.</summary>
    public PartKind Kind { get; init; }

    /// <summary>Least thickness or greatest diameter.</summary>
    public Length Worst { get; init; }

    /// <summary>Discard by which it was judged.</summary>
    public Length Discard { get; init; }

    /// <summary>Machine-to by which it was judged.</summary>
    public Length MachineTo { get; init; }

    /// <summary>Expanded uncertainty of its readings.</summary>
    public Length Uncertainty { get; init; }

    /// <summary>What may lie worse between the places read.</summary>
    public Length? Allowance { get; init; }

    /// <summary>Grooves that stay, both faces together, radial in a drum; null: not looked at on some face.</summary>
    public Length? GrooveLeft { get; init; }

    /// <summary>Low lands that stay, likewise; null: not looked at, or a judgement of an earlier version.</summary>
    public Length? ReliefLeft { get; init; }

    /// <summary>What those depths may be more than they were read, together; nothing where it was turned bright.</summary>
    public Length? DepthUncertainty { get; init; }

    /// <summary>What may be done with it.</summary>
    public Decision Decision { get; init; }

    /// <summary>The lathe that it was cut on, or would have been.</summary>
    public int? LatheId { get; init; }

    /// <summary>The sizes before and after ruled out that the dial counts twice or half the depth.</summary>
    public bool DialVerified { get; init; }

    /// <summary>
    /// What the dial took since its zero, off the thickness or on the diameter; null where that was not cut clean and measured before and
    /// after.
    /// </summary>
    public Length? DialTook { get; init; }

    /// <summary>What went by the sizes before and after, likewise.</summary>
    public Length? MetalGone { get; init; }

    /// <summary>
    /// How far it is out of parallel, millimetres of size on a millimetre of band, signed; null where one station was read, or it was not
    /// cut bright.
    /// </summary>
    public double? Slope { get; init; }

    /// <summary>Thickness variation or out-of-round; null where it was not known.</summary>
    public Length? Variation { get; init; }

    /// <summary>Taper over the band, signed; null where only one station was read.</summary>
    public Length? Taper { get; init; }

    /// <summary>Why it goes on although its shape, its fellow on the axle or the dial spoke against it; null where nothing did.</summary>
    public string? Reason { get; init; }

    /// <summary>Newest change of the shop's rules when it was judged; null or 0 for none.</summary>
    public long? RulesId { get; init; }
}

/// <summary>A part is recalled: its outcome holds no more, and it is confirmed anew.</summary>
public class RecallFact : PartFact
{
    /// <summary>Why it was recalled.</summary>
    public required string Reason { get; init; }

    /// <summary>It had left the shop: what was read before counts no more.</summary>
    public bool HadLeft { get; init; }
}
