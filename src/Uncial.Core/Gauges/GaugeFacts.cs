using Uncial.Core.Lengths;

namespace Uncial.Core.Gauges;

/// <summary>What a gauge is, as far as the doubt in its readings goes.</summary>
public enum GaugeKind
{
    /// <summary>Micrometer: the thickness of a rotor on a land.</summary>
    Micrometer,

    /// <summary>Caliper: spans ridges and lies on a worn rotor.</summary>
    Caliper,

    /// <summary>Drum gauge of any scale: an inside diameter.</summary>
    DrumGauge,

    /// <summary>Dial indicator: run-out, total reading.</summary>
    Indicator,
}

/// <summary>What is known of a gauge, and of the setting standard that it was set with.</summary>
/// <param name="Kind">Kind of gauge.</param>
/// <param name="Resolution">Least step that it shows, above 0.</param>
/// <param name="CertificateUncertainty">Expanded uncertainty (k = 2) of its certificate, or null.</param>
/// <param name="PermissibleError">Greatest error that its maker permits, or null; used where there is no certificate.</param>
/// <param name="StandardUncertainty">Expanded uncertainty (k = 2) of the setting standard; null where none was used.</param>
public sealed record GaugeFacts(
    GaugeKind Kind, Length Resolution, Length? CertificateUncertainty = null, Length? PermissibleError = null, Length? StandardUncertainty = null);
