using System.Globalization;

namespace Uncial.Core.Parts;

/// <summary>Places and arcs as an operator says them: by the hours of a clock, or in degrees.</summary>
public static class ClockText
{
    /// <summary>Letters that such a text may hold.</summary>
    public const string Letters = "degallringhalfquarter";

    /// <summary>Letters that it may begin with.</summary>
    public const string FirstLetters = "arhq";

    /// <summary>
    /// Reads a place: <c>2½</c>, <c>2.5</c>, <c>2,5</c>, <c>2:30</c> on the clock, or <c>75°</c>, <c>75deg</c>. Null where it is none.
    /// </summary>
    /// <param name="text">0 to below 13 hours, or 0 to 360 degrees; 12 is 0 and 12½ half past it.</param>
    public static ClockAngle? Place(string? text) => Degrees(text, 13) is { } degrees and < 390 ? ClockAngle.FromDegrees(degrees) : null;

    /// <summary>Reads the extent of an arc, above 0 up to 12 hours or 360 degrees. Null where it is none.</summary>
    /// <param name="text">As for a place; <c>all</c> or <c>ring</c> is all the way round.</param>
    public static decimal? Arc(string? text) =>
        text?.Trim().ToLowerInvariant() is "all" or "ring" ? 360
        : Degrees(text) is > 0 and var arc ? arc
        : null;

    /// <summary>Reads a turn of the part on the arbor, in degrees or hours. Null where it is none.</summary>
    /// <param name="text">As for a place; <c>half</c> is 180, and a bare number over 12 is in degrees.</param>
    public static decimal? Turn(string? text) =>
        text?.Trim().ToLowerInvariant() switch
        {
            "half" or "½" => 180,
            "quarter" or "¼" => 90,
            _ => Degrees(text) ?? (Number(text ?? "") is > 12 and <= 360 and var degrees ? degrees : null),
        };

    /// <summary>Hours with one decimal, for an extent.</summary>
    public static string Hours(decimal degrees) => (degrees / 30).ToString("0.#", CultureInfo.InvariantCulture);

    private static decimal? Degrees(string? text, decimal hoursBelow = 12.0001m)
    {
        var t = (text ?? "").Trim().ToLowerInvariant();
        if (t.EndsWith('°') || t.EndsWith("deg", StringComparison.Ordinal))
            return Number(t.TrimEnd('°', 'd', 'e', 'g')) is { } degrees and <= 360 ? degrees : null;
        decimal? hours;
        if (t.Split(':') is [var whole, { Length: 2 } minutes])
            hours =
                Number(whole) is { } h
                && h % 1 == 0
                && int.TryParse(minutes, NumberStyles.None, CultureInfo.InvariantCulture, out var m)
                && m < 60
                    ? h + m / 60m
                    : null;
        else if (t.Length > 0 && "¼½¾".IndexOf(t[^1], StringComparison.Ordinal) is >= 0 and var quarter)
            hours = (t.Length == 1 ? 0 : Number(t[..^1])) is { } h && h % 1 == 0 ? h + (quarter + 1) / 4m : null;
        else
            hours = Number(t);
        return hours >= 0 && hours < hoursBelow ? hours * 30 : null;
    }

    private static decimal? Number(string text) =>
        decimal.TryParse(text.Trim().Replace(',', '.'), NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var n) ? n : null;
}
