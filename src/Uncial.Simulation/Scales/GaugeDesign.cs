namespace Uncial.Simulation.Scales;

/// <summary>How a gauge is built, as far as reading it goes.</summary>
public enum GaugeForm
{
    /// <summary>Sleeve and thimble; with a vernier where it divides further.</summary>
    Micrometer,

    /// <summary>The same to measure depths: the thimble covers what has been measured, so one reads what is hidden.</summary>
    DepthMicrometer,

    /// <summary>Beam and vernier.</summary>
    VernierCaliper,

    /// <summary>Beam and dial.</summary>
    DialCaliper,

    /// <summary>Dial with a counter of turns; its two hands stay at the lowest and the highest place.</summary>
    Indicator,

    /// <summary>Inch bar with eighths, set at a mark; a dial of 125 thousandths a turn for the rest.</summary>
    BarEighths,

    /// <summary>Bar with engraved holes, set by a pin; a dial with a counter of turns for the rest.</summary>
    BarStarts,
}

/// <summary>
/// A gauge as it is made: its form, unit and divisions. It knows what of its scales stands opposite what at a size, and no more.
/// </summary>
/// <param name="Form">How it is built.</param>
/// <param name="IsInch">Engraved in inches; else in millimetres.</param>
/// <param name="Division">What one division of the finest scale is worth, in the unit of the gauge.</param>
/// <param name="Turn">What a turn of thimble or hand is worth, or one division of a beam with a vernier; in the unit of the gauge.</param>
/// <param name="From">Least size that it shows, in the unit of the gauge: 25 for a micrometer from 25 to 50.</param>
/// <param name="To">Greatest size that it shows, in the unit of the gauge.</param>
/// <param name="Step">From one start of a bar to the next; 0 for what has no bar.</param>
public sealed record GaugeDesign(GaugeForm Form, bool IsInch, double Division, double Turn, double From, double To, double Step = 0)
{
    /// <summary>Micrometer in millimetres.</summary>
    /// <param name="from">Least size: 0, 25, 50 …</param>
    /// <param name="vernier">With a vernier to 0.001; else to 0.01.</param>
    public static GaugeDesign Micrometer(double from, bool vernier) =>
        new(GaugeForm.Micrometer, false, vernier ? 0.001 : 0.01, 0.5, from, from + 25);

    /// <summary>Micrometer in inches.</summary>
    /// <param name="from">Least size: 0, 1, 2 …</param>
    /// <param name="vernier">With a vernier to 0.0001; else to 0.001.</param>
    public static GaugeDesign InchMicrometer(double from, bool vernier) =>
        new(GaugeForm.Micrometer, true, vernier ? 0.0001 : 0.001, 0.025, from, from + 1);

    /// <summary>Depth micrometer, 0 to 25 mm by 0.01.</summary>
    public static GaugeDesign DepthMicrometer { get; } = new(GaugeForm.DepthMicrometer, false, 0.01, 0.5, 0, 25);

    /// <summary>Caliper with a vernier to 0.02 mm.</summary>
    public static GaugeDesign VernierCaliper { get; } = new(GaugeForm.VernierCaliper, false, 0.02, 1, 0, 150);

    /// <summary>Caliper with a vernier to 0.05 mm.</summary>
    public static GaugeDesign CoarseVernierCaliper { get; } = new(GaugeForm.VernierCaliper, false, 0.05, 1, 0, 150);

    /// <summary>Caliper with a vernier to 0.001 in.</summary>
    public static GaugeDesign InchVernierCaliper { get; } = new(GaugeForm.VernierCaliper, true, 0.001, 0.025, 0, 6);

    /// <summary>Caliper with a dial to 0.02 mm, 2 mm a turn.</summary>
    public static GaugeDesign DialCaliper { get; } = new(GaugeForm.DialCaliper, false, 0.02, 2, 0, 150);

    /// <summary>Caliper with a dial to 0.001 in, 0.1 in a turn.</summary>
    public static GaugeDesign InchDialCaliper { get; } = new(GaugeForm.DialCaliper, true, 0.001, 0.1, 0, 6);

    /// <summary>Indicator to 0.01 mm, 1 mm a turn.</summary>
    public static GaugeDesign Indicator { get; } = new(GaugeForm.Indicator, false, 0.01, 1, 0, 10);

    /// <summary>Indicator to 0.001 in, 0.1 in a turn.</summary>
    public static GaugeDesign InchIndicator { get; } = new(GaugeForm.Indicator, true, 0.001, 0.1, 0, 1);

    /// <summary>Drum gauge: inch bar in eighths from 6 to 16, dial to 0.001 in.</summary>
    public static GaugeDesign BarEighths { get; } = new(GaugeForm.BarEighths, true, 0.001, 0.125, 6, 16, 0.125);

    /// <summary>Drum gauge: inch bar with a hole every quarter from 6 to 16, dial to 0.001 in, 0.1 in a turn.</summary>
    public static GaugeDesign InchBarStarts { get; } = new(GaugeForm.BarStarts, true, 0.001, 0.1, 6, 16, 0.25);

    /// <summary>Drum gauge: bar with a hole every 5 mm from 150 to 400, dial to 0.01 mm, 1 mm a turn.</summary>
    public static GaugeDesign BarStarts { get; } = new(GaugeForm.BarStarts, false, 0.01, 1, 150, 400, 5);

    /// <summary>Has a third scale that divides the divisions of thimble or beam.</summary>
    public bool HasVernier => Form == GaugeForm.VernierCaliper || Form == GaugeForm.Micrometer && DivisionsOfTurn * Division < Turn - 1e-9;

    /// <summary>Divisions of one turn of the thimble or of the dial.</summary>
    public int DivisionsOfTurn =>
        Form switch
        {
            GaugeForm.Micrometer or GaugeForm.DepthMicrometer => IsInch ? 25 : 50,
            GaugeForm.VernierCaliper => (int)Math.Round(Turn / Division),
            _ => (int)Math.Round(Turn / Division),
        };

    /// <summary>A size in millimetres in the unit of the gauge.</summary>
    public double InUnit(double mm) => IsInch ? mm / 25.4 : mm;

    /// <summary>A size in the unit of the gauge in millimetres.</summary>
    public double InMillimetres(double size) => IsInch ? size * 25.4 : size;

    /// <summary>How the gauge looks at a size.</summary>
    /// <param name="size">Size that it shows, in its unit, <see cref="From"/> … <see cref="To"/>.</param>
    /// <param name="start">Where the bar is set, in its unit; only for a gauge with a bar.</param>
    /// <exception cref="ArgumentOutOfRangeException">It does not reach there.</exception>
    public GaugePicture At(double size, double start = 0)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(size, From - 1e-9);
        ArgumentOutOfRangeException.ThrowIfGreaterThan(size, To + 1e-9);
        return ScaleDrawing.Of(this, size, start);
    }

    /// <summary>How an indicator looks after a turn of the part: its hands stay where they came to.</summary>
    /// <param name="lowest">Lowest place, in its unit.</param>
    /// <param name="highest">Highest place, in its unit.</param>
    public GaugePicture Swept(double lowest, double highest) => ScaleDrawing.Swept(this, lowest, highest);
}
