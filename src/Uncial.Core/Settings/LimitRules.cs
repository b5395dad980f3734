using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Core.Settings;

/// <summary>Limits that the shop derives, and what a finished part may have left of its faults.</summary>
public sealed record LimitRules
{
    /// <summary>Where only a rotor's discard limit is known, machine-to is this much thicker.</summary>
    public Length RotorMachineToAboveDiscard { get; init; } = Length.FromMillimetres(0.40m);

    /// <summary>Where only a drum's discard limit is known, machine-to is this much smaller in diameter.</summary>
    public Length DrumMachineToBelowDiscard { get; init; } = Length.FromMillimetres(0.75m);

    /// <summary>A drum with less than this to its discard diameter is not started.</summary>
    public Length DrumFloor { get; init; } = Length.FromMillimetres(0.75m);

    /// <summary>Thickness variation up to which a finished rotor goes without a reason, where the limit book has none.</summary>
    public Length GreatestVariation { get; init; } = Length.FromMillimetres(0.025m);

    /// <summary>
    /// Run-out of a face, total reading, up to which a finished rotor goes without a reason, where the limit book has none.
    /// </summary>
    public Length GreatestRunout { get; init; } = Length.FromMillimetres(0.08m);

    /// <summary>Out-of-round up to which a finished drum goes without a reason, where the limit book has none.</summary>
    public Length GreatestOutOfRound { get; init; } = Length.FromMillimetres(0.10m);

    /// <summary>Taper over the band up to which a finished part goes without a reason.</summary>
    public Length GreatestTaper { get; init; } = Length.FromMillimetres(0.08m);

    /// <summary>Left and right of an axle may differ by so much in size when both leave.</summary>
    public Length GreatestAxleDifference { get; init; } = Length.FromMillimetres(0.50m);

    /// <summary>Whether a part that is inside discard but past machine-to may leave with a lead's reason.</summary>
    public bool LeadMayReleaseBetweenLimits { get; init; } = true;

    /// <summary>
    /// Whether these rules derive a machine-to limit that lets more be machined off than other rules do, for rotors or drums.
    /// </summary>
    /// <param name="other">The rules before.</param>
    public bool DeriveLaxerThan(LimitRules other)
    {
        ArgumentNullException.ThrowIfNull(other);
        return RotorMachineToAboveDiscard < other.RotorMachineToAboveDiscard || DrumMachineToBelowDiscard < other.DrumMachineToBelowDiscard;
    }

    /// <summary>Life to discard that a spare on the shelf has left at least to be offered: as much as a cut has to leave.</summary>
    public Length LeastLifeOf(PartKind kind) => Length.Max(Length.FromMillimetres(0.01m), MachineToFromDiscard(kind));

    /// <summary>What lies between discard and the machine-to limit that is derived from it.</summary>
    internal Length MachineToFromDiscard(PartKind kind) => kind == PartKind.Rotor ? RotorMachineToAboveDiscard : DrumMachineToBelowDiscard;
}
