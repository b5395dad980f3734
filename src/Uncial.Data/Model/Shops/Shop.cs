using System.ComponentModel.DataAnnotations;
using System.ComponentModel.DataAnnotations.Schema;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using Uncial.Core;
using Uncial.Core.Gauges;
using Uncial.Core.Lengths;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Times;

namespace Uncial.Data.Model;

/// <summary>The shop's own settings: one row.</summary>
public class Shop
{
    public int Id { get; set; } = 1;

    [MaxLength(120)]
    public required string Name { get; set; }
    public required ShopRules Rules { get; set; }
    public List<Gauge> Gauges { get; } = [];
    public List<ShopLathe> Lathes { get; } = [];
    public List<BoardAdapter> Board { get; } = [];
    public List<ShopTechnique> OwnTechniques { get; } = [];

    [MaxLength(60)]
    public string DefaultTechnique { get; set; } = "working";
    public bool HasDemoData { get; set; }

    /// <summary>Name of its time zone in the IANA list, as in <c>Europe/Lisbon</c>; null for that of the server.</summary>
    [MaxLength(60)]
    public string? TimeZone { get; set; }

    /// <summary>How dates and times are written; null for the day before the month.</summary>
    [MaxLength(20)]
    public DateStyle? DateStyle { get; set; }

    /// <summary>A screen that nobody has touched for so many minutes is locked, 1 to 240; null for never.</summary>
    public int? LockAfterMinutes { get; set; }

    /// <summary>Where it is found on the network, as in <c>https://brakes.local:5443</c>; null for how the server was started.</summary>
    [MaxLength(200)]
    public string? Address { get; set; }

    /// <summary>Its time.</summary>
    /// <param name="server">Time zone of the server, for a shop that has set none.</param>
    public ShopTime Time(TimeZoneInfo server) => ShopTime.Of(TimeZone, DateStyle ?? default, server);

    /// <summary>The newest change of its rules; 0 for none. Set by the database.</summary>
    public long RulesId { get; set; }

    [ConcurrencyCheck]
    public int Turn { get; set; }

    /// <summary>Changes of the rules that derive a laxer machine-to, as far as they are loaded.</summary>
    [NotMapped]
    public IReadOnlyList<RuleChange> LaxerRules { get; internal set; } = [];

    /// <summary>What the state of a part needs of it.</summary>
    [NotMapped]
    public Workshop Workshop =>
        new()
        {
            Rules = Rules,
            RulesId = RulesId,
            LaxerRules =
            [
                .. LaxerRules.Select(c => new LaxerRules(
                    c.Id,
                    c.Before!,
                    c.After,
                    c.Reason,
                    c.By?.DisplayName,
                    c.Signature?.SignedBy?.DisplayName,
                    c.At
                )),
            ],
            Gauges = [.. Gauges.Select(g => new WorkshopGauge(g.Id, g.Name, g.Facts, g.Pooled) { IsRetired = g.RetiredAt is not null })],
            Lathes = [.. Lathes.Select(l => new WorkshopLathe(l.Id, l.Profile) { IsRetired = l.RetiredAt is not null })],
            Techniques = Techniques,
            DefaultTechnique = DefaultTechnique,
        };

    /// <summary>The techniques that the planner tries: the built-in ones, then the shop's own in use.</summary>
    [NotMapped]
    public IReadOnlyList<Technique> Techniques =>
        [.. Technique.BuiltIn, .. OwnTechniques.Where(t => t.RetiredAt is null).OrderBy(t => t.Id).Select(t => t.Spec)];

    /// <summary>The gauges in use that read the size of a kind of part, the best kind first.</summary>
    public IReadOnlyList<Gauge> GaugesFor(PartKind kind) =>
        [
            .. Gauges
                .Where(g => g.RetiredAt is null && g.Kind.Reads(kind))
                .OrderBy(g => g.Kind is GaugeKind.Caliper or GaugeKind.Tape)
                .ThenBy(g => g.Id),
        ];

    /// <summary>The gauge that reads a kind of part unless another is picked; null where the shop has none.</summary>
    public Gauge? GaugeFor(PartKind kind) => GaugesFor(kind) is [var first, ..] ? first : null;

    /// <summary>
    /// The gauge in use for what is no size: an indicator for run-out, a depth gauge for grooves; null where the shop has none.
    /// </summary>
    public Gauge? GaugeFor(ReadingKind kind) =>
        Gauges
            .Where(g =>
                g.RetiredAt is null
                && g.Kind
                    == (
                        kind is ReadingKind.RunoutOuter or ReadingKind.RunoutInner or ReadingKind.Eccentricity
                            ? GaugeKind.Indicator
                            : GaugeKind.DepthGauge
                    )
            )
            .MinBy(g => g.Id);

    /// <summary>The lathe that a part goes on unless another is picked: the first in use that takes it, otherwise the first.</summary>
    public ShopLathe LatheFor(PartKind kind, Length diameter) =>
        Lathes.Where(l => l.RetiredAt is null).OrderBy(l => l.Id).FirstOrDefault(l => l.Profile.Takes(kind, diameter))
        ?? Lathes.OrderBy(l => l.RetiredAt is not null).ThenBy(l => l.Id).First();

    /// <summary>The adapters in use.</summary>
    [NotMapped]
    public IReadOnlyList<Adapter> AdaptersInUse => [.. Board.Where(a => a.RetiredAt is null).OrderBy(a => a.Id).Select(a => a.Spec)];

    /// <summary>A shop as it starts: nothing in it but sensible settings.</summary>
    public static Shop New(string name)
    {
        static Length Mm(decimal mm) => Length.FromMillimetres(mm);
        return new()
        {
            Name = name,
            Rules = ShopRules.Default,
            Gauges =
            {
                new()
                {
                    Name = "Micrometer",
                    Kind = GaugeKind.Micrometer,
                    Resolution = Mm(0.001m),
                    CertificateUncertainty = Mm(0.003m),
                },
                new()
                {
                    Name = "Drum gauge",
                    Kind = GaugeKind.DrumGauge,
                    Resolution = Mm(0.01m),
                    CertificateUncertainty = Mm(0.012m),
                },
                new()
                {
                    Name = "Indicator",
                    Kind = GaugeKind.Indicator,
                    Resolution = Mm(0.01m),
                    PermissibleError = Mm(0.01m),
                },
                new()
                {
                    Name = "Depth gauge",
                    Kind = GaugeKind.DepthGauge,
                    Resolution = Mm(0.01m),
                    PermissibleError = Mm(0.02m),
                },
            },
            Lathes =
            {
                new()
                {
                    Profile = new()
                    {
                        Name = "Brake lathe",
                        Division = Mm(0.01m),
                        DialAllowance = Mm(0.01m),
                        NoseRadius = Mm(0.8m),
                        Speeds = [60m, 85m, 110m, 150m, 200m],
                        Feeds = [new("1", Mm(0.06m)), new("2", Mm(0.12m)), new("3", Mm(0.25m)), new("4", Mm(0.40m))],
                        RoughFeed = "3",
                        FinishFeed = "1",
                        Arbor = new(Mm(25m), Mm(230m), Mm(80m), Mm(22m)),
                    },
                },
            },
        };
    }
}

internal sealed class ShopTable : IEntityTypeConfiguration<Shop>
{
    public void Configure(EntityTypeBuilder<Shop> builder)
    {
        builder.Property(s => s.Rules).StoredAsJson();
        builder.ToTable(t => t.HasCheckConstraint("lock_after_minutes", "lock_after_minutes between 1 and 240"));
        builder.HasMany(s => s.Lathes).WithOne().HasForeignKey(l => l.ShopId).OnDelete(DeleteBehavior.Restrict);
        builder.HasMany(s => s.Board).WithOne().HasForeignKey(l => l.ShopId).OnDelete(DeleteBehavior.Restrict);
        builder.HasMany(s => s.OwnTechniques).WithOne().HasForeignKey(t => t.ShopId).OnDelete(DeleteBehavior.Restrict);
        builder.HasMany(s => s.Gauges).WithOne().HasForeignKey(g => g.ShopId).OnDelete(DeleteBehavior.Restrict);
    }
}
