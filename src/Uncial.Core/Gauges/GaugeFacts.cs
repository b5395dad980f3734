using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Core.Gauges;

/// <summary>What a gauge is, as far as the uncertainty of its readings goes.</summary>
public enum GaugeKind
{
    /// <summary>Micrometer: the thickness of a rotor on a land.</summary>
    Micrometer,

    /// <summary>Caliper: spans ridges and lies on a worn rotor.</summary>
    Caliper,

    /// <summary>Drum gauge that shows the inside diameter itself.</summary>
    DrumGauge,

    /// <summary>Drum gauge whose bar is set at one of a row of stations; the dial shows what comes on top.</summary>
    DrumGaugeStations,

    /// <summary>Drum gauge whose bar is set at a whole inch and so many eighth marks; the dial shows the thousandths on top.</summary>
    DrumGaugeEighths,

    /// <summary>Dial indicator: run-out, total reading.</summary>
    Indicator,

    /// <summary>Depth gauge: how deep a groove or a low land lies.</summary>
    DepthGauge,

    /// <summary>Tape: a first rough figure, too coarse to decide anything.</summary>
    Tape,
}

/// <summary>What a kind of gauge can read.</summary>
public static class GaugeKinds
{
    /// <summary>It reads the size of such a part: the thickness of a rotor, or the inside diameter of a drum.</summary>
    public static bool Reads(this GaugeKind gauge, PartKind part) =>
        gauge switch
        {
            GaugeKind.Micrometer or GaugeKind.Caliper => part == PartKind.Rotor,
            GaugeKind.Tape => true,
            GaugeKind.DrumGauge or GaugeKind.DrumGaugeStations or GaugeKind.DrumGaugeEighths => part == PartKind.Drum,
            _ => false,
        };

    /// <summary>It is read as a start on a bar and a dial.</summary>
    public static bool HasBar(this GaugeKind gauge) => gauge is GaugeKind.DrumGaugeStations or GaugeKind.DrumGaugeEighths;
}

/// <summary>What is known of a gauge, and of the setting standard that it was set with.</summary>
/// <param name="Kind">Kind of gauge.</param>
/// <param name="Resolution">Least step that it shows, above 0.</param>
/// <param name="CertificateUncertainty">Expanded uncertainty (k = 2) of its certificate, or null.</param>
/// <param name="PermissibleError">Greatest error that its maker permits, or null; used where there is no certificate.</param>
/// <param name="StandardUncertainty">Expanded uncertainty (k = 2) of the setting standard; null where none was used.</param>
public sealed record GaugeFacts(
    GaugeKind Kind,
    Length Resolution,
    Length? CertificateUncertainty = null,
    Length? PermissibleError = null,
    Length? StandardUncertainty = null
);
