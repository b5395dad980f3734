using Uncial.Core.Gauges;
using Uncial.Core.Lengths;

namespace Uncial.Web.Charts;

/// <summary>A size that is usual for a kind of gauge, for which its doubt is told where no part is at hand.</summary>
internal static class GaugeSizes
{
    public static Length Usual(GaugeKind kind) =>
        Length.FromMillimetres(
            kind switch
            {
                GaugeKind.Micrometer or GaugeKind.Caliper => 25m,
                GaugeKind.Indicator or GaugeKind.DepthGauge => 1m,
                _ => 250m,
            }
        );
}
