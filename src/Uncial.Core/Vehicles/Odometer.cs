using System.Globalization;

namespace Uncial.Core.Vehicles;

/// <summary>Unit of an odometer.</summary>
public enum DistanceUnit
{
    /// <summary>Kilometres.</summary>
    Kilometre,

    /// <summary>Statute miles of exactly 1.609344 km.</summary>
    Mile,
}

/// <summary>What an odometer shows, as it was read.</summary>
/// <param name="Figure">0 … 9 999 999 of its unit.</param>
/// <param name="Unit">The odometer's unit.</param>
public readonly record struct Odometer(decimal Figure, DistanceUnit Unit)
{
    /// <summary>Kilometres in a mile, by definition.</summary>
    public const decimal KilometresPerMile = 1.609344m;

    /// <summary>More than any vehicle goes.</summary>
    public const decimal Most = 9_999_999m;

    /// <summary>The same distance in kilometres, exact.</summary>
    public decimal Kilometres => Unit == DistanceUnit.Mile ? Figure * KilometresPerMile : Figure;

    /// <summary>Kilometres in the given unit, to the nearest whole one, half to even.</summary>
    public static decimal In(decimal kilometres, DistanceUnit unit) =>
        Math.Round(unit == DistanceUnit.Mile ? kilometres / KilometresPerMile : kilometres, 0, MidpointRounding.ToEven);

    /// <summary>Reads a figure as it is typed: digits, with spaces or thin spaces between them as people write thousands.</summary>
    /// <returns>Null where it is none, or beyond the range.</returns>
    public static Odometer? Parse(string text, DistanceUnit unit)
    {
        ArgumentNullException.ThrowIfNull(text);
        var digits = string.Concat(text.Where(c => !char.IsWhiteSpace(c)));
        return decimal.TryParse(digits, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var figure) && figure <= Most
            ? new(figure, unit)
            : null;
    }
}

/// <summary>One reading of a vehicle's odometer.</summary>
/// <param name="Day">When.</param>
/// <param name="At">What it showed.</param>
public readonly record struct OdometerReading(DateOnly Day, Odometer At);

/// <summary>What is odd about an odometer's reading: it is asked about, not refused, since an odometer may have been changed.</summary>
public enum OdometerQuestion
{
    /// <summary>It shows less than it did earlier.</summary>
    GoesBack,

    /// <summary>It shows more than at a later day.</summary>
    BeyondLater,

    /// <summary>It would have gone more than 1500 km a day since.</summary>
    TooFar,
}

/// <summary>Looks at a reading beside those that are known.</summary>
public static class OdometerHistory
{
    /// <summary>Nobody drives farther in a day.</summary>
    public const decimal MostKilometresADay = 1500;

    /// <summary>What to ask about a new reading; null where it goes on from the others.</summary>
    /// <param name="known">What is known, in any order.</param>
    /// <param name="fresh">The new reading.</param>
    /// <returns>The question, and the reading that it is against.</returns>
    public static (OdometerQuestion Question, OdometerReading Against)? Ask(IEnumerable<OdometerReading> known, OdometerReading fresh)
    {
        ArgumentNullException.ThrowIfNull(known);
        var here = fresh.At.Kilometres;
        (OdometerQuestion, OdometerReading)? far = null;
        foreach (var one in known.OrderByDescending(r => r.Day).ThenByDescending(r => r.At.Kilometres))
        {
            var there = one.At.Kilometres;
            if (one.Day <= fresh.Day && there > here)
                return (OdometerQuestion.GoesBack, one);
            if (one.Day > fresh.Day && there < here)
                return (OdometerQuestion.BeyondLater, one);
            var days = Math.Max(1, Math.Abs(fresh.Day.DayNumber - one.Day.DayNumber));
            if (far is null && Math.Abs(here - there) > days * MostKilometresADay)
                far = (OdometerQuestion.TooFar, one);
        }
        return far;
    }
}
