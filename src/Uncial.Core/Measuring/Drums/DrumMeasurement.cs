using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Reasoning;
using Uncial.Core.Release;

namespace Uncial.Core.Measuring;

/// <summary>Everything that was read off a drum.</summary>
public sealed record DrumMeasurement
{
    /// <summary>The limits of its inside diameter.</summary>
    public required Limits Limits { get; init; }

    /// <summary>Diameter readings, on lands, in any order. May be empty while measuring.</summary>
    public required IReadOnlyList<Reading> Readings { get; init; }

    /// <summary>Expanded uncertainty (k = 2) of one reading, 0 or more.</summary>
    public required Length Uncertainty { get; init; }

    /// <summary>Eccentricity on the spindle (half the indicator's swing), or null if nobody has measured it.</summary>
    public Length? Eccentricity { get; init; }

    /// <summary>Depth of the deepest groove, radial; null: nobody looked.</summary>
    public Length? Groove { get; init; }

    /// <summary>From the lands that were read down to the lowest that was not, radial; null: nobody looked.</summary>
    public Length? Relief { get; init; }

    /// <summary>
    /// Depth from the open edge at which the bit will touch; must be one that was read. Null: the least favourable is taken.
    /// </summary>
    public Length? TouchStation { get; init; }
}

/// <summary>What diameters can say about the roundness of a bore.</summary>
/// <param name="Proven">Enough axes, well enough apart, to rule an oval in or out.</param>
/// <param name="OutOfRound">Largest less smallest diameter of the oval; a lower bound only where not proven.</param>
/// <param name="LargestAxis">Axis of the largest diameter in degrees, 0 … below 180; null where not proven.</param>
/// <param name="Mean">Mean diameter of the oval; null where not proven.</param>
public sealed record Roundness(bool Proven, Length OutOfRound, decimal? LargestAxis, Length? Mean);

/// <summary>What the readings of a drum come to; null where too little was read.</summary>
public sealed record DrumFigures
{
    /// <summary>Least reading.</summary>
    public Length? Least { get; init; }

    /// <summary>Greatest reading.</summary>
    public Length? Greatest { get; init; }

    /// <summary>Where the greatest reading was taken.</summary>
    public ClockAngle? GreatestAt { get; init; }

    /// <summary>Largest of the readings and, where roundness is proven, of the fit: counts for the limits.</summary>
    public Length? Largest { get; init; }

    /// <summary>Distinct axes read, at the depth with most of them.</summary>
    public int Axes { get; init; }

    /// <summary>Discard less largest.</summary>
    public Length? StockToDiscard { get; init; }

    /// <summary>Machine-to less largest.</summary>
    public Length? StockToMachineTo { get; init; }

    /// <summary>Largest against discard.</summary>
    public Verdict DiscardVerdict { get; init; } = Verdict.NotEnough;

    /// <summary>Largest against machine-to.</summary>
    public Verdict MachineToVerdict { get; init; } = Verdict.NotEnough;

    /// <summary>Less is left than the shop starts a drum with.</summary>
    public bool BelowFloor { get; init; }

    /// <summary>What is known about roundness.</summary>
    public Roundness? Roundness { get; init; }

    /// <summary>Depths that do not have the proven shape: every axis is to be read there.</summary>
    public IReadOnlyList<Length> DepthsToReadAround { get; init; } = [];

    /// <summary>Mean at the open edge less mean at the back: bell-mouth if positive; null with one depth.</summary>
    public Length? Taper { get; init; }

    /// <summary>
    /// Mean of the middle depths less the mean of open and back: barrel if positive, waist if negative; null below three depths.
    /// </summary>
    public Length? Belly { get; init; }

    /// <summary>Diameter at first touch, as expected.</summary>
    public Length? Touch { get; init; }

    /// <summary>The same, to the careful side: for budget and forecast.</summary>
    public Length? TouchCareful { get; init; }

    /// <summary>Diameter at first touch is not more than this (about 98 %).</summary>
    public Length? TouchBound { get; init; }

    /// <summary>Diameter at which the whole bore is clean.</summary>
    public Length? Clean { get; init; }

    /// <summary>Radial depth from first touch until the bore is clean.</summary>
    public Length? Need { get; init; }

    /// <summary>What else the operator should know.</summary>
    public IReadOnlyList<Note> Notes { get; init; } = [];

    /// <summary>How it was worked out, in order.</summary>
    public IReadOnlyList<Step> Steps { get; init; } = [];
}
