using System.ComponentModel.DataAnnotations;
using System.ComponentModel.DataAnnotations.Schema;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using Uncial.Core;
using Uncial.Core.Gauges;
using Uncial.Core.Lengths;

namespace Uncial.Data.Model;

/// <summary>A gauge of the shop: what it is, how it is read, what its papers say, and how its zero is checked.</summary>
public class Gauge
{
    public int Id { get; set; }
    public int ShopId { get; set; } = 1;

    /// <summary>What it is called at the bench.</summary>
    [MaxLength(60)]
    public required string Name { get; set; }

    public GaugeKind Kind { get; set; }

    /// <summary>Unit of its scale; null where it shows either, as a digital one does: then it is read in the reader's.</summary>
    public LengthUnit? Unit { get; set; }

    /// <summary>Least step that it shows.</summary>
    public Length Resolution { get; set; }

    /// <summary>Expanded uncertainty (k = 2) of its certificate, or null.</summary>
    public Length? CertificateUncertainty { get; set; }

    /// <summary>Greatest error that its maker permits; used where there is no certificate.</summary>
    public Length? PermissibleError { get; set; }

    /// <summary>When its certificate is due again, or null.</summary>
    public DateOnly? NextCheck { get; set; }

    /// <summary>Size of the setting standard that its zero is checked on; null where there is none.</summary>
    public Length? StandardSize { get; set; }

    /// <summary>Expanded uncertainty (k = 2) of the setting standard.</summary>
    public Length? StandardUncertainty { get; set; }

    /// <summary>Off by more than this on the standard, it fails.</summary>
    public Length? ZeroTolerance { get; set; }

    /// <summary>Stations of a bar; for a bar with eighths its least and greatest whole inch, in millimetres like all lengths.</summary>
    public decimal[] StartsMm { get; set; } = [];

    /// <summary>How far the dial of a bar reaches.</summary>
    public Length? Reach { get; set; }

    /// <summary>Where a gauge that sends its readings is listened to, as <c>host:port</c>; null for one that is read by eye.</summary>
    [MaxLength(80)]
    public string? Address { get; set; }

    /// <summary>Taken out of use; its readings stay.</summary>
    public DateTimeOffset? RetiredAt { get; set; }

    [ConcurrencyCheck]
    public int Turn { get; set; }

    public List<ZeroCheckEntry> ZeroChecks { get; } = [];

    /// <summary>What the uncertainty of its readings rests on.</summary>
    [NotMapped]
    public GaugeFacts Facts =>
        new(Kind, Resolution, CertificateUncertainty, PermissibleError, StandardSize is null ? null : StandardUncertainty);

    /// <summary>Its bar; null for a gauge that is read directly, or whose stations nobody has entered.</summary>
    [NotMapped]
    public Bar? Bar =>
        (Kind, Reach, StartsMm) switch
        {
            (GaugeKind.DrumGaugeStations, { } reach, [_, ..]) => Bar.WithStations(
                StartsMm.Select(Length.FromMillimetres),
                reach,
                Unit ?? LengthUnit.Inch
            ),
            (GaugeKind.DrumGaugeEighths, { } reach, [var least, var most]) => Bar.WithEighths(
                (int)Length.FromMillimetres(least).Inches,
                (int)Length.FromMillimetres(most).Inches,
                reach
            ),
            _ => null,
        };

    /// <summary>It can be checked on a standard.</summary>
    [NotMapped]
    public bool HasStandard => StandardSize is not null && ZeroTolerance is not null;

    /// <summary>Its newest check on the standard, as far as checks are loaded.</summary>
    [NotMapped]
    public ZeroCheckEntry? LastCheck => ZeroChecks.NewestById();

    /// <summary>Its newest check failed: nothing is read with it until it was set right and checked again.</summary>
    [NotMapped]
    public bool Failed => LastCheck is { Passed: false };

    /// <summary>
    /// The check that corrects a reading: the newest, if the gauge passed it and it still holds, or has corrected this surface already.
    /// </summary>
    public ZeroCheckEntry? Correction(SurfaceRecord record, DateTimeOffset at)
    {
        ArgumentNullException.ThrowIfNull(record);
        if (LastCheck is not { Passed: true } check)
            return null;
        var holds = (at - check.At).Duration() <= TimeSpan.FromMinutes(record.Shop.Rules.Gauges.ZeroCheckHoldsMinutes);
        return holds || record.Measuring.Sizes.Any(s => s.ZeroCheckId == check.Id) ? check : null;
    }

    /// <summary>A part is begun with it, and nobody has looked at its zero lately.</summary>
    public bool ZeroIsDue(SurfaceRecord record, DateTimeOffset now)
    {
        ArgumentNullException.ThrowIfNull(record);
        return HasStandard && Correction(record, now) is null && record.Measuring.Sizes.All(s => s.GaugeId != Id);
    }

    /// <summary>Its certificate has run out.</summary>
    public bool IsOverdue(DateOnly today) => NextCheck < today;

    /// <summary>Expanded uncertainty of a reading of a size, with so many repeats at its spot.</summary>
    public Length UncertaintyAt(Length size, int repeats, bool corrected, ShopRules rules) =>
        ReadingUncertainty.Of(Facts, size, repeats, rules, corrected ? 1 : 0, Pooled).Expanded;

    /// <summary>What its repeats on record say, as far as they were looked up (see <see cref="GaugeQueries.LoadRepeatsAsync"/>).</summary>
    [NotMapped]
    public Repeatability Pooled { get; set; }
}

internal sealed class GaugeTable : IEntityTypeConfiguration<Gauge>
{
    public void Configure(EntityTypeBuilder<Gauge> builder)
    {
        builder.HasMany(g => g.ZeroChecks).WithOne().HasForeignKey(c => c.GaugeId).OnDelete(DeleteBehavior.Restrict);
    }
}
