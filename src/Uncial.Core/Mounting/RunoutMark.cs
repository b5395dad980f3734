using System.Numerics;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Core.Mounting;

/// <summary>
/// What one position of the part on the arbor shows: the arc of a scratch with its depth from its own touch, the arc alone, or an
/// indicator's total reading with the place of its high spot.
/// </summary>
public sealed record RunoutMark
{
    private RunoutMark(ClockAngle at, decimal? arc, Length? depth, Length? runout) => (At, Arc, Depth, Runout) = (at, arc, depth, runout);

    /// <summary>Middle of the arc, or the high spot.</summary>
    public ClockAngle At { get; }

    /// <summary>Extent of the arc in degrees, above 0 … 360; 360 is a full ring.</summary>
    public decimal? Arc { get; }

    /// <summary>Depth of the scratch from its own first touch.</summary>
    public Length? Depth { get; }

    /// <summary>Indicator's total reading.</summary>
    public Length? Runout { get; }

    /// <summary>A scratch that goes all the way round.</summary>
    public bool IsRing => Arc >= 360;

    /// <summary>An arc with its depth, which together give a run-out.</summary>
    public static RunoutMark Scratch(ClockAngle at, decimal arc, Length depth) => new(at, arc, depth, null);

    /// <summary>An arc alone, which gives a direction only.</summary>
    public static RunoutMark Direction(ClockAngle at, decimal arc) => new(at, arc, null, null);

    /// <summary>A scratch whose arc was looked at and not read off.</summary>
    /// <param name="depth">How deep it was made; null where that is not known.</param>
    public static RunoutMark Unread(Length? depth) => new(default, null, depth, null);

    /// <summary>An indicator's total reading.</summary>
    public static RunoutMark Indicated(ClockAngle at, Length runout) => new(at, null, null, runout);

    /// <summary>The mark as a vector: R = 2d/(1 − cos(π·extent/360)), or the total reading; length 1 for a direction.</summary>
    internal Complex Vector(double arcError = 0, double lengthError = 0)
    {
        var length =
            Runout is { } total ? Math.Max(0, (double)total.Millimetres + lengthError)
            : Depth is { } depth
                ? 2
                    * Math.Max(1e-6, (double)depth.Millimetres + lengthError)
                    / (1 - Math.Cos(Math.PI * Math.Clamp((double)Arc!.Value + arcError, 7.5, 360) / 360))
            : 1;
        return Complex.FromPolarCoordinates(length, At.Radians);
    }
}
