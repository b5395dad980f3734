using Uncial.Core.Parts;

namespace Uncial.Simulation.Held;

/// <summary>How a micrometer was closed.</summary>
public enum Closing
{
    /// <summary>By its ratchet, until it slips.</summary>
    Ratchet,

    /// <summary>Screwed on beyond the touch: the frame gives and it shows too little.</summary>
    Forced,

    /// <summary>Not down to the touch: it shows too much.</summary>
    NotClosed,
}

/// <summary>How a gauge errs by itself, mm.</summary>
/// <param name="Bias">Always the same: its datum, its wear.</param>
/// <param name="Noise">Standard deviation from one reading to the next.</param>
/// <param name="Scale">Share by which it shows lengths too long: warm hands, a worn screw.</param>
public sealed record GaugeErrors(double Bias, double Noise, double Scale = 0);

/// <summary>A micrometer on a rotor.</summary>
/// <param name="Degrees">Where round the rotor.</param>
/// <param name="RadiusMm">Radius of the middle of its anvils.</param>
/// <param name="TiltDegrees">How far it is off square; rocked, it shows the least where it is square.</param>
/// <param name="Closing">How it was closed.</param>
public readonly record struct HeldMicrometer(double Degrees, double RadiusMm, double TiltDegrees, Closing Closing)
{
    /// <summary>Half of the width of an anvil, mm.</summary>
    public const double Anvil = 3.25;

    /// <summary>What its scales show, mm, before it is rounded to a division by an eye.</summary>
    /// <param name="part">The rotor.</param>
    /// <param name="errors">How this micrometer errs.</param>
    /// <param name="warmer">So much warmer than the gauge the rotor is, kelvin.</param>
    /// <param name="chance">Chance of this reading.</param>
    public double Shows(VirtualPart part, GaugeErrors errors, double warmer, Chance chance)
    {
        ArgumentNullException.ThrowIfNull(part);
        ArgumentNullException.ThrowIfNull(errors);
        ArgumentNullException.ThrowIfNull(chance);
        if (part.Kind != PartKind.Rotor)
            throw new ArgumentException("A micrometer spans a rotor.", nameof(part));
        var size = Wall.Highest(part, 0, Degrees, RadiusMm, Anvil) + Wall.Highest(part, 1, Degrees, RadiusMm, Anvil);
        // Off square it rests on the edges of its anvils.
        var (sin, cos) = Math.SinCos(Math.Abs(TiltDegrees) * Math.PI / 180);
        var spans = size * Warmth.Grown(warmer) * cos + 2 * Anvil * sin;
        var closed = Closing switch
        {
            Closing.Forced => -chance.Between(0.012, 0.03),
            Closing.NotClosed => chance.Between(0.03, 0.15),
            _ => 0.0,
        };
        return spans * (1 + errors.Scale) + errors.Bias + chance.Normal(errors.Noise) + closed;
    }
}

/// <summary>A drum gauge in a drum: pulled against one wall, its free end rocked across the other.</summary>
/// <param name="Degrees">Where its fixed end lies.</param>
/// <param name="DepthMm">How deep, from the open edge.</param>
/// <param name="AcrossDegrees">How far its free end is off the diameter, in the plane of the opening: it shows the most at 0.</param>
/// <param name="AlongDegrees">How far it leans along the drum: it shows the least at 0.</param>
public readonly record struct HeldBar(double Degrees, double DepthMm, double AcrossDegrees, double AlongDegrees)
{
    /// <summary>Half of the width of its feet, mm.</summary>
    public const double Foot = 2;

    /// <summary>What it shows, mm.</summary>
    /// <param name="part">The drum.</param>
    /// <param name="errors">How this gauge errs.</param>
    /// <param name="warmer">So much warmer than the gauge the drum is, kelvin.</param>
    /// <param name="chance">Chance of this reading.</param>
    public double Shows(VirtualPart part, GaugeErrors errors, double warmer, Chance chance)
    {
        ArgumentNullException.ThrowIfNull(part);
        ArgumentNullException.ThrowIfNull(errors);
        ArgumentNullException.ThrowIfNull(chance);
        if (part.Kind != PartKind.Drum)
            throw new ArgumentException("A bar spans a drum.", nameof(part));
        var opposite = Degrees + 180 + 2 * AcrossDegrees;
        var fixedWall = -Wall.Highest(part, 0, Degrees, DepthMm, Foot);
        // Leaning, the free end lies deeper or nearer to the edge.
        var along = Math.Tan(AlongDegrees * Math.PI / 180) * 2 * fixedWall;
        var freeWall = -Wall.Highest(part, 0, opposite, DepthMm + along, Foot);
        var (sin, cos) = Math.SinCos((opposite - Degrees) * Math.PI / 180);
        var (x, y) = (freeWall * cos - fixedWall, freeWall * sin);
        var spans = Math.Sqrt(x * x + y * y + along * along) * Warmth.Grown(warmer);
        return spans * (1 + errors.Scale) + errors.Bias + chance.Normal(errors.Noise);
    }
}

/// <summary>An indicator that rests on a turning face or bore.</summary>
/// <param name="Face">Outer or inner face, or the bore.</param>
/// <param name="Mm">Radius or depth of its tip.</param>
public readonly record struct HeldIndicator(int Face, double Mm)
{
    /// <summary>Lowest and highest place of its hand over a turn, mm, from where it stood at 12.</summary>
    /// <param name="part">The part as it is mounted.</param>
    /// <param name="errors">How this indicator errs.</param>
    /// <param name="chance">Chance of this reading.</param>
    public (double Lowest, double Highest) Swings(VirtualPart part, GaugeErrors errors, Chance chance)
    {
        ArgumentNullException.ThrowIfNull(part);
        ArgumentNullException.ThrowIfNull(errors);
        ArgumentNullException.ThrowIfNull(chance);
        Span<double> spots = stackalloc double[WorkFace.Angles];
        part.Faces[Face].Turning(Wall.StationAt(part, Mm), spots);
        var (low, high) = (double.MaxValue, double.MinValue);
        foreach (var h in spots)
            (low, high) = (Math.Min(low, h - spots[0]), Math.Max(high, h - spots[0]));
        return (low + chance.Normal(errors.Noise), high + chance.Normal(errors.Noise));
    }
}

/// <summary>A depth gauge whose foot lies on the lands to both sides.</summary>
/// <param name="Face">Outer or inner face, or the bore.</param>
/// <param name="Degrees">Where.</param>
/// <param name="Mm">Radius or depth from the open edge of its rod.</param>
public readonly record struct HeldDepthGauge(int Face, double Degrees, double Mm)
{
    private const double Foot = 12;

    /// <summary>What it shows, mm, never below nothing.</summary>
    /// <param name="part">The part.</param>
    /// <param name="errors">How this gauge errs.</param>
    /// <param name="chance">Chance of this reading.</param>
    public double Shows(VirtualPart part, GaugeErrors errors, Chance chance)
    {
        ArgumentNullException.ThrowIfNull(errors);
        ArgumentNullException.ThrowIfNull(chance);
        var level = Wall.Highest(part, Face, Degrees, Mm, Foot);
        var depth = level - Wall.Height(part.Faces[Face], Degrees, Wall.StationAt(part, Mm));
        return Math.Max(0, depth + errors.Bias + chance.Normal(errors.Noise));
    }
}
