using Uncial.Core.Gauges;
using Uncial.Core.Lengths;

namespace Uncial.Data.Demo;

/// <summary>The gauges of the demo: one of each kind, three of which send their readings. All made up.</summary>
internal static class DemoGauges
{
    public static IEnumerable<Gauge> All(DateTimeOffset now)
    {
        var due = DateOnly.FromDateTime(now.UtcDateTime);
        return
        [
            new()
            {
                Name = "Micrometer 1",
                Kind = GaugeKind.Micrometer,
                Resolution = Mm(0.001m),
                CertificateUncertainty = Mm(0.003m),
                NextCheck = due.AddDays(210),
                StandardSize = Mm(25m),
                StandardUncertainty = Mm(0.001m),
                ZeroTolerance = Mm(0.004m),
                Address = "127.0.0.1:5091",
            },
            new()
            {
                Name = "Drum gauge 1",
                Kind = GaugeKind.DrumGauge,
                Resolution = Mm(0.01m),
                CertificateUncertainty = Mm(0.012m),
                NextCheck = due.AddDays(96),
                StandardSize = Mm(230m),
                StandardUncertainty = Mm(0.004m),
                ZeroTolerance = Mm(0.02m),
                Address = "127.0.0.1:5092",
            },
            new()
            {
                Name = "Indicator 1",
                Kind = GaugeKind.Indicator,
                Resolution = Mm(0.01m),
                PermissibleError = Mm(0.01m),
                NextCheck = due.AddDays(41),
                Address = "127.0.0.1:5093",
            },
            new()
            {
                Name = "Depth gauge",
                Kind = GaugeKind.DepthGauge,
                Unit = LengthUnit.Millimetre,
                Resolution = Mm(0.01m),
                PermissibleError = Mm(0.02m),
                NextCheck = due.AddDays(41),
            },
            new()
            {
                Name = "Bar with stations",
                Kind = GaugeKind.DrumGaugeStations,
                Unit = LengthUnit.Inch,
                Resolution = Inch(0.001m),
                PermissibleError = Inch(0.002m),
                NextCheck = due.AddDays(12),
                StartsMm = [.. Enumerable.Range(0, 41).Select(n => Inch(6 + n * 0.25m).Millimetres)],
                Reach = Inch(0.300m),
            },
            new()
            {
                Name = "Old bar, eighths",
                Kind = GaugeKind.DrumGaugeEighths,
                Unit = LengthUnit.Inch,
                Resolution = Inch(0.001m),
                PermissibleError = Inch(0.002m),
                NextCheck = due.AddDays(-9),
                StartsMm = [Inch(6).Millimetres, Inch(16).Millimetres],
                Reach = Inch(0.250m),
            },
            new()
            {
                Name = "Caliper",
                Kind = GaugeKind.Caliper,
                Resolution = Mm(0.01m),
                PermissibleError = Mm(0.03m),
                NextCheck = due.AddDays(150),
            },
            new()
            {
                Name = "Tape",
                Kind = GaugeKind.Tape,
                Unit = LengthUnit.Inch,
                Resolution = Inch(0.0625m),
                PermissibleError = Mm(1m),
            },
        ];
    }

    private static Length Mm(decimal millimetres) => Length.FromMillimetres(millimetres);

    private static Length Inch(decimal inches) => Length.FromInches(inches);
}
