using Gauge = Uncial.Data.Model.Gauge;

namespace Uncial.Study;

/// <summary>The operator's shop: one gauge for sizes, one for depths, one lathe.</summary>
internal sealed partial class Operator
{
    private static Gauge GaugeOf(PartKind kind, Repeatability pooled)
    {
        var rotor = kind == PartKind.Rotor;
        return new()
        {
            Id = 1,
            Name = "Gauge",
            Kind = rotor ? GaugeKind.Micrometer : GaugeKind.DrumGauge,
            Resolution = Len(rotor ? 0.001 : 0.01),
            CertificateUncertainty = Len(rotor ? 0.003 : 0.01),
            StandardSize = Len(rotor ? VirtualJob.Standards.Rotor : VirtualJob.Standards.Drum),
            StandardUncertainty = Len(0.001),
            ZeroTolerance = Len(rotor ? 0.01 : 0.05),
            Pooled = pooled,
        };
    }

    private static Shop ShopOf(VirtualJob job, Technique technique, Variant variant, Gauge gauge)
    {
        var allowance = variant.DialAllowance is { } z ? Length.FromMillimetres(z) : Len(Math.Max(0.01, job.Division));
        return new()
        {
            Name = "Study",
            Rules = variant.Rules ?? ShopRules.Default,
            DefaultTechnique = technique.Key,
            Gauges =
            {
                gauge,
                new()
                {
                    Id = 2,
                    Name = "Depth gauge",
                    Kind = GaugeKind.DepthGauge,
                    Resolution = Len(0.005),
                    PermissibleError = Len(0.01),
                },
            },
            Lathes =
            {
                new()
                {
                    Id = 1,
                    Profile = new()
                    {
                        Name = "Study",
                        Kind = technique.SparksOut ? LatheKind.Grinder : LatheKind.Bench,
                        Division = Len(job.Division),
                        DialAllowance = allowance,
                        TwinCutter = job.Chucking == Chucking.Twin,
                        BothFacesInOneChucking = job.Chucking == Chucking.OneAfterTheOther,
                        Feeds = [new("1", Len(0.10)), new("2", Len(0.25))],
                        RoughFeed = "2",
                        FinishFeed = "1",
                        Speeds = [60m, 85m, 110m, 150m, 200m],
                        NoseRadius = Len(0.8),
                    },
                },
            },
        };
    }
}
