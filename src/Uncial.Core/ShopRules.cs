using Uncial.Core.Lengths;

namespace Uncial.Core;

/// <summary>
/// The figures that a shop may settle for itself, with the values it starts from. Kept in one place, changed by the owner only.
/// </summary>
public sealed record ShopRules
{
    /// <summary>The rules that a new shop starts with.</summary>
    public static ShopRules Default { get; } = new();

    /// <summary>Where only a rotor's discard limit is known, machine-to is this much thicker.</summary>
    public Length RotorMachineToAboveDiscard { get; init; } = Length.FromMillimetres(0.40m);

    /// <summary>Where only a drum's discard limit is known, machine-to is this much smaller in diameter.</summary>
    public Length DrumMachineToBelowDiscard { get; init; } = Length.FromMillimetres(0.75m);

    /// <summary>A drum with less than this to its discard diameter is not started.</summary>
    public Length DrumFloor { get; init; } = Length.FromMillimetres(0.75m);

    /// <summary>Least run-out that is assumed of a face that nobody has measured, total reading.</summary>
    public Length AssumedRunout { get; init; } = Length.FromMillimetres(0.05m);

    /// <summary>The thickness variation divided by this is allowed for the places between eight or more readings.</summary>
    public decimal UnreadShareOfVariation { get; init; } = 6m;

    /// <summary>Whether a part that is inside discard but past machine-to may leave with a lead hand's reason.</summary>
    public bool LeadMayReleaseBetweenLimits { get; init; } = true;
}
