using System.ComponentModel.DataAnnotations;
using Uncial.Core;
using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;

namespace Uncial.Data;

/// <summary>A gauge of the shop, until gauges have a book of their own.</summary>
/// <param name="Name">What it is called at the bench.</param>
/// <param name="Resolution">Least step that it shows.</param>
/// <param name="Uncertainty">Expanded uncertainty (k = 2) of one reading.</param>
public sealed record Gauge(string Name, Length Resolution, Length Uncertainty);

/// <summary>The shop's own settings: one row.</summary>
public class Shop
{
    public int Id { get; set; } = 1;
    [MaxLength(120)] public required string Name { get; set; }
    public required ShopRules Rules { get; set; }
    public required Gauge Micrometer { get; set; }
    public required Gauge DrumGauge { get; set; }
    public required Lathe Lathe { get; set; }
    [MaxLength(60)] public string DefaultTechnique { get; set; } = "working";
    public bool HasDemoData { get; set; }
    [ConcurrencyCheck] public int Turn { get; set; }

    /// <summary>The gauge that reads a kind of part.</summary>
    public Gauge GaugeFor(PartKind kind) => kind == PartKind.Rotor ? Micrometer : DrumGauge;

    /// <summary>A shop as it starts: nothing in it but sensible settings.</summary>
    public static Shop New(string name)
    {
        static Length Mm(decimal mm) => Length.FromMillimetres(mm);
        return new()
        {
            Name = name,
            Rules = ShopRules.Default,
            Micrometer = new("Micrometer", Mm(0.001m), Mm(0.006m)),
            DrumGauge = new("Drum gauge", Mm(0.01m), Mm(0.02m)),
            Lathe = new()
            {
                Name = "Quay lathe",
                Division = Mm(0.01m),
                DialAllowance = Mm(0.01m),
                Feeds = [new("1", Mm(0.06m)), new("2", Mm(0.12m)), new("3", Mm(0.25m)), new("4", Mm(0.40m))],
                RoughFeed = "3",
                FinishFeed = "1",
                Speeds = [60m, 85m, 110m, 150m, 200m],
                NoseRadius = Mm(0.8m),
            },
        };
    }
}
