namespace Uncial.Simulation;

/// <summary>How warm a part is from cutting, in kelvin above the shop's air.</summary>
/// <param name="Kelvin">Now.</param>
public readonly record struct Warmth(double Kelvin)
{
    /// <summary>What grey iron grows by per kelvin.</summary>
    public const double Expansion = 11e-6;

    /// <summary>Minutes in which it cools to a third on the arbor.</summary>
    public const double CoolsIn = 9;

    /// <summary>A length at so many kelvin more than where it is stated, as a factor.</summary>
    public static double Grown(double kelvin) => 1 + Expansion * kelvin;

    /// <summary>After so many minutes in the shop's air.</summary>
    public Warmth After(double minutes) => new(Kelvin * Math.Exp(-Math.Max(0, minutes) / CoolsIn));

    /// <summary>After a pass: a tenth of a millimetre a side brings some six kelvin, a blunt edge half as much again.</summary>
    /// <param name="depth">Depth a side, mm.</param>
    /// <param name="worn">How far the edge is worn, 0 … 1.</param>
    public Warmth Cut(double depth, double worn) => new(Kelvin + 60 * Math.Max(0, depth) * (1 + 0.5 * Math.Clamp(worn, 0, 1)));
}
