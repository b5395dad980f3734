using System.Globalization;
using System.Text.RegularExpressions;

namespace Uncial.Core.Times;

/// <summary>Why a typed time is none.</summary>
public enum TimeFault
{
    /// <summary>It is not written as a day or a time.</summary>
    NotATime,

    /// <summary>There is no such day.</summary>
    NoSuchDay,

    /// <summary>There is no such time of day.</summary>
    NoSuchTime,

    /// <summary>The clocks go forward over it: the day has no such time.</summary>
    SkippedByTheClock,

    /// <summary>It is past already.</summary>
    Past,

    /// <summary>It lies more than a year ahead.</summary>
    TooFar,
}

/// <summary>Reads a time to come as it is said at the counter.</summary>
/// <remarks>
/// Case and spaces are free. A day, a time, or a day and a time:
/// <code>
/// today 16:30   tomorrow 9   Tue 9   Tuesday   16:30   4:30 pm   9h   +2h   +90m   +1h30   +2d   9.12. 14:00   9/12   9 Dec 14:00   Dec 9
/// 2026-12-09 14:00
/// </code>
/// With a slash the day stands before the month, unless the shop writes the month first; with a dot it always does.
/// A time alone is today's, or tomorrow's where it is past. A weekday is the next one that lies ahead. A day alone ends with the working
/// day.
/// A day and month without a year is the next one. Where the clocks go back, the earlier of both times counts.
/// </remarks>
public static partial class TimeText
{
    /// <summary>Longest text that is read, in characters.</summary>
    public const int LongestText = 40;

    /// <summary>The hour at which a day ends that was named without a time.</summary>
    public static readonly TimeOnly EndOfDay = new(17, 0);

    /// <summary>Milliseconds after which a match is given up: far more than so short a text takes.</summary>
    private const int LongestMatch = 1000;

    private static readonly TimeSpan Farthest = TimeSpan.FromDays(366);
    private static readonly string[] Days = ["sunday", "monday", "tuesday", "wednesday", "thursday", "friday", "saturday"];

    private static readonly string[] Months =
    [
        "january",
        "february",
        "march",
        "april",
        "may",
        "june",
        "july",
        "august",
        "september",
        "october",
        "november",
        "december",
    ];

    /// <summary>Reads it.</summary>
    /// <param name="text">As typed; null reads as empty.</param>
    /// <param name="now">Now.</param>
    /// <param name="zone">The shop's time zone.</param>
    /// <param name="style">How the shop writes dates.</param>
    /// <returns>The time, or why it is none; never both.</returns>
    public static (DateTimeOffset? At, TimeFault? Fault) Read(
        string? text,
        DateTimeOffset now,
        TimeZoneInfo zone,
        DateStyle style = DateStyle.DayMonth
    )
    {
        ArgumentNullException.ThrowIfNull(zone);
        var words = (text ?? "").Trim().ToLowerInvariant();
        if (words.Length is 0 or > LongestText)
            return (null, TimeFault.NotATime);
        var here = TimeZoneInfo.ConvertTime(now, zone);
        if (words[0] == '+')
            return After(words[1..].Replace(" ", "", StringComparison.Ordinal)) is { } span
                ? span > Farthest
                    ? (null, TimeFault.TooFar)
                    : (TimeZoneInfo.ConvertTime(now + span, zone), null)
                : (null, TimeFault.NotATime);
        var (day, rest, fault) = Day(words, DateOnly.FromDateTime(here.DateTime), style);
        if (fault is not null)
            return (null, fault);
        TimeOnly? time = null;
        if (rest.Length > 0)
        {
            (time, fault) = Time(rest);
            if (fault is not null)
                return (null, fault);
        }
        if (day is null && time is null)
            return (null, TimeFault.NotATime);
        var named = day ?? new NamedDay(DateOnly.FromDateTime(here.DateTime), Next: 1);
        var (at, why) = On(named.Date, time ?? EndOfDay, zone);
        // What may come again is the next one that lies ahead.
        if (at <= now && named.Next > 0)
            (at, why) = On(named.Date.AddDays(named.Next), time ?? EndOfDay, zone);
        else if (at <= now && named.NextYear)
            (at, why) = On(named.Date.AddYears(1), time ?? EndOfDay, zone);
        return why is not null ? (null, why)
            : at <= now ? (null, TimeFault.Past)
            : at - now > Farthest ? (null, TimeFault.TooFar)
            : (at, null);
    }

    /// <summary>A day that was named.</summary>
    /// <param name="Date">The day.</param>
    /// <param name="Next">Days until it comes again, where it does; otherwise 0.</param>
    /// <param name="NextYear">It comes again every year.</param>
    internal readonly record struct NamedDay(DateOnly Date, int Next = 0, bool NextYear = false);

    /// <summary>Reads the day that a text begins with, where it begins with one.</summary>
    internal static (NamedDay? Day, string Left, TimeFault? Fault) Day(string text, DateOnly today, DateStyle style)
    {
        if (Rest(text, "today", 5) is { } rest)
            return (new(today), rest, null);
        if (Rest(text, "tomorrow", 3) is { } morrow)
            return (new(today.AddDays(1)), morrow, null);
        for (var i = 0; i < Days.Length; i++)
            if (Rest(text, Days[i], 2) is { } after)
                return (new(today.AddDays((i - (int)today.DayOfWeek + 7) % 7), Next: 7), after, null);
        if (Iso().Match(text) is { Success: true } iso)
            return Date(Int(iso, "y"), Int(iso, "m"), Int(iso, "d"), text[iso.Length..]);
        if ((Named().Match(text) is { Success: true } dayFirst ? dayFirst : MonthNamed().Match(text)) is { Success: true } named)
        {
            var month = Array.FindIndex(Months, m => m.StartsWith(named.Groups["m"].Value, StringComparison.Ordinal));
            return month < 0
                ? (null, "", TimeFault.NotATime)
                : Date(named.Groups["y"].Success ? Int(named, "y") : null, month + 1, Int(named, "d"), text[named.Length..]);
        }
        if (Numbers().Match(text) is not { Success: true } numbers)
            return (null, text, null);
        var (first, second) = (Int(numbers, "d"), Int(numbers, "m"));
        var (theDay, theMonth) =
            style != DateStyle.DayMonth && text.Contains('/', StringComparison.Ordinal) ? (second, first) : (first, second);
        return Date(numbers.Groups["y"].Success ? Int(numbers, "y") : null, theMonth, theDay, text[numbers.Length..]);

        (NamedDay?, string, TimeFault?) Date(int? year, int month, int day, string left)
        {
            var of =
                year is null ? today.Year
                : year < 100 ? 2000 + year.Value
                : year.Value;
            if (month is < 1 or > 12 || of is < 2000 or > 9000)
                return (null, "", TimeFault.NoSuchDay);
            // The 29th of February without a year is that of the next year that has one within the time that is read.
            if (year is null && day == 29 && month == 2 && !DateTime.IsLeapYear(of) && DateTime.IsLeapYear(of + 1))
                of++;
            return day < 1 || day > DateTime.DaysInMonth(of, month)
                ? (null, "", TimeFault.NoSuchDay)
                : (new(new(of, month, day), NextYear: year is null), left.Trim(' ', ',', '.'), null);
        }
    }

    /// <summary>What follows a word, which may be shortened; null where the text does not begin with it.</summary>
    private static string? Rest(string text, string word, int shortest)
    {
        var letters = text.TakeWhile(char.IsAsciiLetter).Count();
        return letters >= shortest && letters <= word.Length && word.StartsWith(text[..letters], StringComparison.Ordinal)
            ? text[letters..].Trim(' ', ',', '.')
            : null;
    }

    private static (TimeOnly? Time, TimeFault? Fault) Time(string text)
    {
        if (TimeOfDay().Match(text.Trim()) is not { Success: true } match)
            return (null, TimeFault.NotATime);
        var (hour, minute) = (Int(match, "h"), match.Groups["m"].Success ? Int(match, "m") : 0);
        if (match.Groups["p"] is { Success: true } half)
        {
            if (hour is < 1 or > 12)
                return (null, TimeFault.NoSuchTime);
            hour = hour % 12 + (half.Value == "p" ? 12 : 0);
        }
        return hour > 23 || minute > 59 ? (null, TimeFault.NoSuchTime) : (new TimeOnly(hour, minute), null);
    }

    private static TimeSpan? After(string text)
    {
        if (Span().Match(text) is not { Success: true } match || match.Length == 0)
            return null;
        var (days, hours, minutes) = (Part("d"), Part("h"), Part("m"));
        return days + hours + minutes == 0 ? null : TimeSpan.FromDays(days) + TimeSpan.FromHours(hours) + TimeSpan.FromMinutes(minutes);

        double Part(string name) =>
            match.Groups[name] is { Success: true } part ? double.Parse(part.Value.Replace(',', '.'), CultureInfo.InvariantCulture) : 0;
    }

    private static (DateTimeOffset? At, TimeFault? Fault) On(DateOnly day, TimeOnly time, TimeZoneInfo zone)
    {
        var local = day.ToDateTime(time);
        if (zone.IsInvalidTime(local))
            return (null, TimeFault.SkippedByTheClock);
        var offset = zone.IsAmbiguousTime(local) ? zone.GetAmbiguousTimeOffsets(local).Max() : zone.GetUtcOffset(local);
        return (new DateTimeOffset(local, offset), null);
    }

    private static int Int(Match match, string group) =>
        int.Parse(match.Groups[group].ValueSpan, NumberStyles.None, CultureInfo.InvariantCulture);

    [GeneratedRegex("^(?<y>[0-9]{4})-(?<m>[0-9]{1,2})-(?<d>[0-9]{1,2})t?", RegexOptions.ExplicitCapture, LongestMatch)]
    private static partial Regex Iso();

    [GeneratedRegex(
        "^(?<d>[0-9]{1,2})\\.? *(?<m>[a-z]{3,9})\\.?( +(?<y>[0-9]{4})(?![:h0-9]))?",
        RegexOptions.ExplicitCapture,
        LongestMatch
    )]
    private static partial Regex Named();

    [GeneratedRegex(
        "^(?<m>[a-z]{3,9})\\.? *(?<d>[0-9]{1,2})(,? +(?<y>[0-9]{4})(?![:h0-9]))?(?![:h0-9])",
        RegexOptions.ExplicitCapture,
        LongestMatch
    )]
    private static partial Regex MonthNamed();

    [GeneratedRegex(
        "^(?<d>[0-9]{1,2})[./](?<m>[0-9]{1,2})([./](?<y>[0-9]{4}|[0-9]{2}(?![:h])))?(?![0-9:])",
        RegexOptions.ExplicitCapture,
        LongestMatch
    )]
    private static partial Regex Numbers();

    [GeneratedRegex("^(?<h>[0-9]{1,2})([:h](?<m>[0-9]{2})|h)?( ?(?<p>[ap])m?)?$", RegexOptions.ExplicitCapture, LongestMatch)]
    private static partial Regex TimeOfDay();

    [GeneratedRegex(
        "^((?<d>[0-9]{1,3})d)?((?<h>[0-9]{1,3}([.,][0-9])?)h)?((?<m>[0-9]{1,4})m(in)?|(?<=h)(?<m>[0-9]{2}))?$",
        RegexOptions.ExplicitCapture,
        LongestMatch
    )]
    private static partial Regex Span();
}
