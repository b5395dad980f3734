using System.Globalization;

namespace Uncial.Core.Lengths;

/// <summary>
/// Figures as a reader sees them. A shown figure never decides anything: it is made from the exact one at the very end,
/// rounded to the side that the caller names.
/// </summary>
public static class LengthText
{
    /// <summary>Decimals at which the trade reads a size: 0.01 mm or 0.0001 in.</summary>
    public static int Decimals(LengthUnit unit) => unit == LengthUnit.Inch ? 4 : 2;

    /// <summary>Prints the figure alone, without its unit, at a fixed number of decimals.</summary>
    /// <param name="length">Any length.</param>
    /// <param name="unit">Unit of the reader.</param>
    /// <param name="decimals">0 to 10 decimals.</param>
    /// <param name="toward">Safe side of the rounding.</param>
    public static string Figure(Length length, LengthUnit unit, int decimals, Toward toward = Toward.Nearest)
    {
        var value = Round(length.In(unit), decimals, toward);
        if (value == 0)
            value = 0m; // no negative zero
        return value.ToString("F" + decimals.ToString(CultureInfo.InvariantCulture), CultureInfo.InvariantCulture);
    }

    /// <summary>
    /// Prints a reading with the digits that it has: at least <see cref="Decimals"/>, at most one more,
    /// so that a micrometer's 24.313 is not shown as another reading.
    /// </summary>
    public static string Reading(Length length, LengthUnit unit)
    {
        var usual = Decimals(unit);
        var coarse = Math.Round(length.In(unit), usual, MidpointRounding.ToEven);
        return unit == LengthUnit.Millimetre && coarse != length.Millimetres
            ? Figure(length, unit, usual + 1)
            : Figure(length, unit, usual);
    }

    /// <summary>
    /// Prints a limit, rounded to the safe side: a least thickness up, a greatest diameter down.
    /// In inches at three decimals, as limits are cast and printed; a limit that has a fourth keeps it.
    /// </summary>
    public static string Limit(Length limit, LengthUnit unit, bool isLeast)
    {
        var toward = isLeast ? Toward.Greater : Toward.Less;
        if (unit == LengthUnit.Millimetre)
            return Figure(limit, unit, decimal.Round(limit.Millimetres, 2) == limit.Millimetres ? 2 : 3, toward);
        var fourDecimals = decimal.Round(limit.Inches, 4);
        return fourDecimals * Length.MillimetresPerInch == limit.Millimetres && decimal.Round(fourDecimals, 3) != fourDecimals
            ? Figure(limit, unit, 4, toward)
            : Figure(limit, unit, 3, toward);
    }

    /// <summary>The unit's short name: <c>mm</c> or <c>in</c>.</summary>
    public static string Name(LengthUnit unit) => unit == LengthUnit.Inch ? "in" : "mm";

    internal static decimal Round(decimal value, int decimals, Toward toward)
    {
        var step = 1m;
        for (var i = 0; i < decimals; i++)
            step *= 10m;
        return toward switch
        {
            Toward.Greater => Math.Ceiling(value * step) / step,
            Toward.Less => Math.Floor(value * step) / step,
            _ => Math.Round(value, decimals, MidpointRounding.ToEven),
        };
    }

    /// <summary>A plain number with the digits it has, up to the given decimals, without trailing zeros.</summary>
    internal static string Plain(decimal value, int decimals) =>
        Math.Round(value, decimals, MidpointRounding.ToEven).ToString("0.############", CultureInfo.InvariantCulture);
}
