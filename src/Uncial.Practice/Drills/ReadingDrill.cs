using Uncial.Core;
using Uncial.Core.Gauges;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Practice.Causes;
using Uncial.Simulation;
using Uncial.Simulation.Scales;

namespace Uncial.Practice.Drills;

/// <summary>Gauges to be read: sizes of brakes, on every part of the scale, half of them where readers slip.</summary>
internal static class ReadingDrill
{
    public static DrillItem Item(DrillKind kind, Chance chance, int number) =>
        kind switch
        {
            DrillKind.Micrometer => Read(
                chance.OneOf<GaugeDesign>([GaugeDesign.Micrometer(0, number % 3 == 0), GaugeDesign.Micrometer(25, number % 3 == 0)]),
                chance,
                number
            ),
            DrillKind.InchMicrometer => Read(
                chance.OneOf<GaugeDesign>([GaugeDesign.InchMicrometer(0, number % 3 == 0), GaugeDesign.InchMicrometer(1, number % 3 == 0)]),
                chance,
                number
            ),
            DrillKind.Caliper => Read(
                (number % 5) switch
                {
                    0 => GaugeDesign.VernierCaliper,
                    1 => GaugeDesign.DialCaliper,
                    2 => GaugeDesign.CoarseVernierCaliper,
                    3 => GaugeDesign.InchDialCaliper,
                    _ => GaugeDesign.InchVernierCaliper,
                },
                chance,
                number
            ),
            DrillKind.Indicator => Total(number % 3 == 0 ? GaugeDesign.InchIndicator : GaugeDesign.Indicator, chance, number),
            DrillKind.DepthGauge => Read(GaugeDesign.DepthMicrometer, chance, number),
            DrillKind.Eighths => AddUp(GaugeDesign.BarEighths, chance),
            DrillKind.Starts when number % 2 == 1 => StartFor(number % 4 == 1 ? GaugeDesign.BarStarts : GaugeDesign.InchBarStarts, chance),
            DrillKind.Starts => AddUp(number % 4 == 0 ? GaugeDesign.InchBarStarts : GaugeDesign.BarStarts, chance),
            _ => throw new ArgumentOutOfRangeException(nameof(kind), kind, "No gauge is read in it."),
        };

    private static ReadingItem Read(GaugeDesign gauge, Chance chance, int number)
    {
        // Thicknesses of rotors, outside diameters that a caliper takes, depths of grooves.
        var (least, greatest) =
            gauge.Form == GaugeForm.DepthMicrometer ? (0.3, 6.0)
            : gauge.Form is GaugeForm.VernierCaliper or GaugeForm.DialCaliper ? (gauge.InUnit(8), gauge.InUnit(120))
            : (Math.Max(gauge.From + 2 * gauge.Turn, gauge.InUnit(7)), gauge.To - 2 * gauge.Turn);
        var size = chance.Between(least, greatest);
        // Every other one just past a mark of the sleeve or the beam, or just before it.
        if (number % 2 == 0)
            size = Math.Round(size / gauge.Turn) * gauge.Turn + gauge.Division * Math.Round(chance.Between(-6, 6));
        return Shown(gauge, size, 0, chance);
    }

    /// <summary>On a division but for a hair, as an eye finds it.</summary>
    private static ReadingItem Shown(GaugeDesign gauge, double size, double start, Chance chance)
    {
        var decimals = Decimals(gauge);
        var shown = Math.Round(size / gauge.Division) * gauge.Division + chance.Between(-0.12, 0.12) * gauge.Division;
        shown = Math.Clamp(shown, Math.Max(start, gauge.From), gauge.To);
        return new(gauge, shown, start, decimals) { Picture = new DrillPicture.Gauge(gauge.At(shown, start)) };
    }

    private static TotalItem Total(GaugeDesign gauge, Chance chance, int number)
    {
        var divisions = Math.Round(chance.Between(2, number % 4 == 0 ? 45 : 18));
        // Half of them swing over the zero.
        var low = number % 2 == 0 ? 100 - Math.Round(chance.Between(1, divisions)) : Math.Round(chance.Between(0, 99 - divisions));
        var lowest = (200 + low) * gauge.Division;
        var highest = lowest + divisions * gauge.Division;
        return new(gauge, lowest, highest, Decimals(gauge)) { Picture = new DrillPicture.Gauge(gauge.Swept(lowest, highest)) };
    }

    private static ReadingItem AddUp(GaugeDesign gauge, Chance chance)
    {
        var starts = (int)Math.Round((gauge.To - gauge.From) / gauge.Step);
        var start = gauge.From + gauge.Step * Math.Floor(chance.Between(0.1, 0.7) * starts);
        var size = start + chance.Between(gauge.Division, Math.Min(gauge.Step, 5 * gauge.Turn) - 2 * gauge.Division);
        return Shown(gauge, size, start, chance);
    }

    /// <summary>The highest start below the limit from which the dial reaches it.</summary>
    private static ChoiceItem StartFor(GaugeDesign gauge, Chance chance)
    {
        var unit = gauge.IsInch ? LengthUnit.Inch : LengthUnit.Millimetre;
        Length In(double value) => Length.From((decimal)Math.Round(value, 4), unit);
        var (steps, reach) = ((int)Math.Round((gauge.To - gauge.From) / gauge.Step), In(gauge.Step * 1.2));
        var bar = Bar.WithStations(Enumerable.Range(0, steps + 1).Select(k => In(gauge.From + k * gauge.Step)), reach, unit);
        // A limit of a drum, in either unit, up to a fifth of a step beside a start.
        var near = gauge.From + gauge.Step * Math.Floor(chance.Between(0.15, 0.6) * steps);
        var limit = near + gauge.Step * chance.Between(0.05, 0.95);
        var limitUnit =
            chance.Happens(0.5) ? unit
            : unit == LengthUnit.Inch ? LengthUnit.Millimetre
            : LengthUnit.Inch;
        var mm = gauge.InMillimetres(limit);
        var discard = Length.From((decimal)(limitUnit == LengthUnit.Inch ? Math.Round(mm / 25.4, 3) : Math.Round(mm, 1)), limitUnit);
        var right = bar.StartFor(Limits.Create(PartKind.Drum, null, discard, discard, ShopRules.Default).Limits!)!.Value;
        var place = (int)(chance.Share() * 4);
        Choice Start(int i)
        {
            var start = right + In(gauge.Step * (i - place));
            var cause =
                i == place ? MistakeCause.None
                : start >= discard ? MistakeCause.PastTheLimit
                : start + reach >= discard ? MistakeCause.HigherStart
                : MistakeCause.OutOfReach;
            return new Choice.Size(start, unit, gauge.IsInch ? 2 : 0, cause);
        }
        return new(new Ask.StartForLimit(discard, limitUnit, reach, unit), [.. Enumerable.Range(0, 4).Select(Start)]);
    }

    /// <summary>Decimals of the finest division.</summary>
    private static int Decimals(GaugeDesign gauge) =>
        gauge.Division switch
        {
            < 0.0005 => 4,
            < 0.005 => 3,
            _ => 2,
        };
}
