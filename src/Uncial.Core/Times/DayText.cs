namespace Uncial.Core.Times;

/// <summary>Which day is meant by one without a year.</summary>
public enum DayLean
{
    /// <summary>The last one, today included.</summary>
    Past,

    /// <summary>The next one, today included.</summary>
    Ahead,
}

/// <summary>Reads a day as it is said.</summary>
/// <remarks>
/// Case and spaces are free:
/// <code>
/// today   yesterday   tomorrow   Tue   9.12.   9/12   9.12.26   9 Dec   Dec 9 2026   2026-12-09
/// </code>
/// With a slash the day stands before the month, unless the shop writes the month first; with a dot it always does.
/// </remarks>
public static class DayText
{
    /// <summary>Reads it.</summary>
    /// <param name="text">As typed; null reads as empty.</param>
    /// <param name="today">The day of the shop.</param>
    /// <param name="style">How the shop writes dates.</param>
    /// <param name="lean">Which day is meant by one without a year, or by a weekday.</param>
    /// <returns>The day, or why it is none; never both.</returns>
    public static (DateOnly? Day, TimeFault? Fault) Read(string? text, DateOnly today, DateStyle style, DayLean lean)
    {
        var words = (text ?? "").Trim().ToLowerInvariant();
        if (words.Length is 0 or > TimeText.LongestText)
            return (null, TimeFault.NotATime);
        if (words.Length >= 3 && "yesterday".StartsWith(words, StringComparison.Ordinal))
            return (today.AddDays(-1), null);
        var (named, rest, fault) = TimeText.Day(words, today, style);
        if (fault is not null)
            return (null, fault);
        if (named is not { } day || rest.Length > 0)
            return (null, TimeFault.NotATime);
        return (
            lean == DayLean.Past && day.Date > today && day.Next > 0 ? day.Date.AddDays(-day.Next)
            : lean == DayLean.Past && day.Date > today && day.NextYear ? day.Date.AddYears(-1)
            : lean == DayLean.Ahead && day.Date < today && day.NextYear ? day.Date.AddYears(1)
            : day.Date,
            null
        );
    }
}
