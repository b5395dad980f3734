namespace Uncial.Core.Practice;

/// <summary>A gauge as it is: it shows in steps, is off by a little always the same way, by a little more each time, and now and then its datum has been shifted.</summary>
/// <param name="resolution">Least step that it shows, mm.</param>
/// <param name="bias">Always the same error, mm.</param>
/// <param name="noise">Standard deviation of a reading, mm.</param>
public sealed class VirtualGauge(double resolution, double bias, double noise)
{
    /// <summary>By how much somebody has shifted its datum.</summary>
    public double Shift { get; set; }

    /// <summary>The same gauge once more.</summary>
    public VirtualGauge Copy() => (VirtualGauge)MemberwiseClone();

    /// <summary>Reads a size.</summary>
    public double Read(double size, Chance chance)
    {
        ArgumentNullException.ThrowIfNull(chance);
        return Math.Round(Math.Round((size + bias + Shift + chance.Normal(noise)) / resolution) * resolution, 6);
    }
}
