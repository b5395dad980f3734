namespace Uncial.Simulation;

/// <summary>Seeded chance, the same on every machine. Source: SplitMix64; normal deviates by the polar method.</summary>
public sealed class Chance(long seed)
{
    private ulong state = (ulong)seed * 0x9E3779B97F4A7C15UL + 0x1234567UL;
    private double spare = double.NaN;

    /// <summary>The same chance from here on.</summary>
    public Chance Copy() => (Chance)MemberwiseClone();

    /// <summary>A share, 0 … below 1.</summary>
    public double Share()
    {
        state += 0x9E3779B97F4A7C15UL;
        var z = state;
        z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9UL;
        z = (z ^ (z >> 27)) * 0x94D049BB133111EBUL;
        return ((z ^ (z >> 31)) >> 11) * (1.0 / (1UL << 53));
    }

    /// <summary>True with a probability of 0 … 1.</summary>
    public bool Happens(double probability) => Share() < probability;

    /// <summary>Evenly between two figures.</summary>
    public double Between(double low, double high) => low + (high - low) * Share();

    /// <summary>One of a few, each as likely.</summary>
    public T OneOf<T>(ReadOnlySpan<T> choices) => choices[(int)(Share() * choices.Length)];

    /// <summary>Normal about nothing.</summary>
    public double Normal(double deviation)
    {
        if (!double.IsNaN(spare))
        {
            var kept = spare;
            spare = double.NaN;
            return kept * deviation;
        }
        double x,
            y,
            square;
        do
        {
            (x, y) = (2 * Share() - 1, 2 * Share() - 1);
            square = x * x + y * y;
        } while (square is >= 1 or 0);
        var scale = Math.Sqrt(-2 * Math.Log(square) / square);
        spare = y * scale;
        return x * scale * deviation;
    }

    /// <summary>Size of a vector with two normal components: how run-outs and eccentricities spread.</summary>
    public double Rayleigh(double mode) => mode * Math.Sqrt(-2 * Math.Log(1 - Share()));

    /// <summary>Mostly small, seldom large: how grooves spread.</summary>
    public double Exponential(double mean) => -mean * Math.Log(1 - Share());

    /// <summary>A direction in radians.</summary>
    public double Direction() => Share() * 2 * Math.PI;
}
