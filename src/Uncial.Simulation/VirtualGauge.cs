namespace Uncial.Simulation;

/// <summary>
/// A gauge as it is: it shows in steps, is off by a little always the same way, by a little more each time, and now and then its datum has
/// been shifted. One that spans a bore reads small where it misses the turning point.
/// </summary>
/// <param name="resolution">Least step that it shows, mm.</param>
/// <param name="bias">Always the same error, mm.</param>
/// <param name="noise">Standard deviation of a reading, mm.</param>
/// <param name="swing">How far it is off the turning point in one rocking, standard deviation, mm; 0 for one that has none.</param>
public sealed class VirtualGauge(double resolution, double bias, double noise, double swing = 0)
{
    private const int Rockings = 3;

    /// <summary>Least step that it shows, mm.</summary>
    public double Resolution => resolution;

    /// <summary>By how much somebody has shifted its datum.</summary>
    public double Shift { get; set; }

    /// <summary>The same gauge once more.</summary>
    public VirtualGauge Copy() => (VirtualGauge)MemberwiseClone();

    /// <summary>Reads a size: of a bore the largest of three rockings.</summary>
    public double Read(double size, Chance chance)
    {
        ArgumentNullException.ThrowIfNull(chance);
        var missed = 0.0;
        if (swing > 0)
        {
            missed = double.MaxValue;
            for (var i = 0; i < Rockings; i++)
                missed = Math.Min(missed, Math.Abs(chance.Normal(swing)));
        }
        return Shown(size - 2 * missed * missed / size + bias + Shift + chance.Normal(noise));
    }

    /// <summary>Reads a setting standard, which has no turning point to miss.</summary>
    public double ReadStandard(double size, Chance chance)
    {
        ArgumentNullException.ThrowIfNull(chance);
        return Shown(size + bias + Shift + chance.Normal(noise));
    }

    private double Shown(double size) => Math.Round(Math.Round(size / resolution) * resolution, 6);
}
