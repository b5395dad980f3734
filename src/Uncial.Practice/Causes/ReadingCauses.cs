using System.Globalization;
using Uncial.Simulation.Scales;

namespace Uncial.Practice.Causes;

/// <summary>
/// Why a reading is off, from the reading and what the scale showed: never from a fault that was put in. All sizes are in the unit of the
/// gauge.
/// </summary>
public static class ReadingCauses
{
    /// <summary>The likeliest cause, <see cref="MistakeCause.None"/> where the reading is the gauge's to half a division.</summary>
    /// <param name="gauge">The gauge that was read.</param>
    /// <param name="typed">What was read off it.</param>
    /// <param name="shown">What its scales showed.</param>
    /// <param name="start">Where its bar was set; 0 for a gauge without one.</param>
    public static MistakeCause Of(GaugeDesign gauge, double typed, double shown, double start = 0)
    {
        ArgumentNullException.ThrowIfNull(gauge);
        // To half a division; a little more, since a half is written with one digit more.
        if (Math.Abs(typed - shown) <= gauge.Division * 0.55)
            return MistakeCause.None;
        var whole = Math.Round(shown / gauge.Division) * gauge.Division;
        foreach (var (cause, value) in Expected(gauge, whole, start))
            if (Math.Abs(typed - value) <= Math.Max(gauge.Division * 0.55, Math.Abs(value) * 1e-4 * (IsOfUnit(cause) ? 1 : 0)))
                return cause;
        if (gauge.HasVernier && Math.Abs(typed - whole) < Coarse(gauge) * 1.05)
            return MistakeCause.VernierLine;
        return IsSwapped(gauge, typed, whole) ? MistakeCause.DigitsSwapped : MistakeCause.Unknown;
    }

    /// <summary>Why a total reading is off: the swing of an indicator from its lowest to its highest place.</summary>
    /// <param name="gauge">The indicator.</param>
    /// <param name="typed">The total reading as somebody gave it.</param>
    /// <param name="lowest">Lowest place of the hand.</param>
    /// <param name="highest">Highest place of the hand.</param>
    public static MistakeCause OfTotal(GaugeDesign gauge, double typed, double lowest, double highest)
    {
        ArgumentNullException.ThrowIfNull(gauge);
        var total = highest - lowest;
        if (Math.Abs(typed - total) <= gauge.Division * 0.55)
            return MistakeCause.None;
        double Place(double at) => at - Math.Floor(at / gauge.Turn) * gauge.Turn;
        var (low, high) = (Place(lowest), Place(highest));
        (MistakeCause, double)[] expected =
        [
            (MistakeCause.HalfOfTotal, total / 2),
            (MistakeCause.LongWayRound, gauge.Turn - total),
            (MistakeCause.LongWayRound, high + low),
            (MistakeCause.OneEndOnly, high),
            (MistakeCause.OneEndOnly, low),
            (MistakeCause.OneEndOnly, gauge.Turn - low),
            (MistakeCause.OneDivision, total + gauge.Division),
            (MistakeCause.OneDivision, total - gauge.Division),
            (MistakeCause.OtherUnit, total * 25.4),
            (MistakeCause.OtherUnit, total / 25.4),
            (MistakeCause.PointMoved, total * 10),
            (MistakeCause.PointMoved, total / 10),
        ];
        var (nearest, off) = expected
            .Select(e => (e.Item1, Off: Math.Abs(typed - e.Item2) / (e.Item1 == MistakeCause.PointMoved && e.Item2 < total ? 0.1 : 1)))
            .MinBy(e => e.Off);
        return off <= gauge.Division * 0.55 ? nearest : MistakeCause.Unknown;
    }

    /// <summary>What each mistake makes of a size, the likelier ones first.</summary>
    private static IEnumerable<(MistakeCause Cause, double Value)> Expected(GaugeDesign gauge, double shown, double start)
    {
        foreach (var sign in new[] { 1, -1 })
            yield return (MistakeCause.OneDivision, shown + sign * gauge.Division);
        foreach (var each in OfForm(gauge, shown, start))
            yield return each;
        foreach (var factor in new[] { 25.4, 1 / 25.4 })
            yield return (MistakeCause.OtherUnit, shown * factor);
        foreach (var factor in new[] { 10, 0.1, 100, 0.01, 1000, 0.001 })
            yield return (MistakeCause.PointMoved, shown * factor);
        if (gauge.From > 0 && gauge.Step == 0)
            yield return (MistakeCause.StartForgotten, shown - gauge.From);
    }

    private static IEnumerable<(MistakeCause Cause, double Value)> OfForm(GaugeDesign gauge, double shown, double start)
    {
        switch (gauge.Form)
        {
            case GaugeForm.Micrometer or GaugeForm.DepthMicrometer:
                foreach (var sign in new[] { 1, -1 })
                {
                    yield return (MistakeCause.TurnOfThimble, shown + sign * gauge.Turn);
                    yield return (MistakeCause.Numeral, shown + sign * (gauge.IsInch ? 0.1 : 5));
                    yield return (MistakeCause.WholeMark, shown + sign * 2 * gauge.Turn);
                }
                var division = gauge.Turn / gauge.DivisionsOfTurn;
                foreach (var value in Backwards(shown - gauge.From, gauge.Turn, division, 5))
                    yield return (MistakeCause.CountedBackwards, gauge.From + value);
                if (gauge.Form == GaugeForm.DepthMicrometer)
                    yield return (MistakeCause.ReadWhatIsSeen, shown + gauge.Turn);
                break;
            case GaugeForm.VernierCaliper:
                foreach (var sign in new[] { 1, -1 })
                {
                    yield return (MistakeCause.WholeMark, shown + sign * gauge.Turn);
                    yield return (MistakeCause.Numeral, shown + sign * (gauge.IsInch ? 0.1 : 10));
                }
                break;
            case GaugeForm.DialCaliper:
                foreach (var sign in new[] { 1, -1 })
                {
                    yield return (MistakeCause.WholeMark, shown + sign * gauge.Turn);
                    yield return (MistakeCause.Numeral, shown + sign * (gauge.IsInch ? 1 : 10));
                }
                // The numerals are hundredths; marks counted as hundredths are half of them.
                if (!gauge.IsInch)
                    yield return (MistakeCause.VernierLine, shown - shown % gauge.Turn / 2);
                foreach (var value in Backwards(shown, gauge.Turn, gauge.Division, 10))
                    yield return (MistakeCause.CountedBackwards, value);
                break;
            default:
                foreach (var by in new[] { 1, -1, 2, -2 })
                    yield return (
                        gauge.Form == GaugeForm.BarEighths ? MistakeCause.Eighths : MistakeCause.TurnOfHand,
                        shown + by * gauge.Turn
                    );
                yield return (MistakeCause.StartForgotten, shown - start);
                foreach (var sign in new[] { 1, -1 })
                    yield return (
                        gauge.Form == GaugeForm.BarEighths ? MistakeCause.Numeral : MistakeCause.AnotherStart,
                        shown + sign * (gauge.Form == GaugeForm.BarEighths ? 1 : gauge.Step)
                    );
                yield return (MistakeCause.WrongDirection, start - (shown - start));
                foreach (var value in Backwards(shown - start, gauge.Turn, gauge.Division, 10))
                    yield return (MistakeCause.CountedBackwards, start + value);
                break;
        }
    }

    /// <summary>The size as it comes out when divisions are counted from the numeral above or below in the wrong direction.</summary>
    private static IEnumerable<double> Backwards(double size, double turn, double division, int perNumeral)
    {
        var at = Math.Round(size % turn / division, 2);
        var (below, above) = (Math.Floor(at / perNumeral) * perNumeral, Math.Ceiling(at / perNumeral) * perNumeral);
        foreach (var read in new[] { 2 * below - at, 2 * above - at, above + (at - below), below + (above - at) })
            if (Math.Abs(read - at) > 1.5)
                yield return size + (read - at) * division;
    }

    /// <summary>One division of the scale that the vernier divides.</summary>
    private static double Coarse(GaugeDesign gauge) =>
        gauge.Form == GaugeForm.VernierCaliper ? gauge.Turn : gauge.Turn / gauge.DivisionsOfTurn;

    private static bool IsOfUnit(MistakeCause cause) => cause is MistakeCause.OtherUnit or MistakeCause.PointMoved;

    private static bool IsSwapped(GaugeDesign gauge, double typed, double shown)
    {
        var decimals = Math.Max(0, (int)Math.Ceiling(-Math.Log10(gauge.Division) - 1e-9));
        var digits = shown.ToString("F" + decimals, CultureInfo.InvariantCulture).ToCharArray();
        for (var i = 0; i < digits.Length - 1; i++)
        {
            var j = digits[i + 1] == '.' ? i + 2 : i + 1;
            if (digits[i] == '.' || j >= digits.Length)
                continue;
            (digits[i], digits[j]) = (digits[j], digits[i]);
            if (Math.Abs(double.Parse(digits, CultureInfo.InvariantCulture) - typed) < gauge.Division * 0.1)
                return true;
            (digits[i], digits[j]) = (digits[j], digits[i]);
        }
        return false;
    }
}
