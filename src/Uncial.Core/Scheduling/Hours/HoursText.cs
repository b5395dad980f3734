using System.Globalization;
using System.Text.RegularExpressions;

namespace Uncial.Core.Scheduling;

/// <summary>Hours as people type them: <c>8-17</c>, <c>08:00 to 17:30</c>, <c>22–3</c> past midnight; empty for none.</summary>
public static partial class HoursText
{
    /// <summary>Reads hours.</summary>
    /// <param name="text">As typed.</param>
    /// <param name="hours">The hours; null for none.</param>
    /// <returns>Whether it could be read.</returns>
    public static bool TryRead(string? text, out HoursOfDay? hours)
    {
        hours = null;
        if (string.IsNullOrWhiteSpace(text))
            return true;
        var match = Span().Match(text);
        if (!match.Success || TimeOf(match, "f") is not { } from || TimeOf(match, "t") is not { } to || from == to)
            return false;
        hours = new(from, to);
        return true;
    }

    /// <summary>Reads several spans with commas between them.</summary>
    /// <param name="text">As typed.</param>
    /// <param name="spans">The spans, in their order.</param>
    /// <returns>Whether all of them could be read.</returns>
    public static bool TryReadAll(string? text, out IReadOnlyList<HoursOfDay> spans)
    {
        List<HoursOfDay> read = [];
        spans = read;
        foreach (var one in (text ?? "").Split([',', ';'], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries))
        {
            if (!TryRead(one, out var hours) || hours is not { } span)
                return false;
            read.Add(span);
        }
        return true;
    }

    /// <summary>Hours as they are typed.</summary>
    public static string Of(HoursOfDay? hours) => hours is { } h ? $"{Of(h.From)}–{Of(h.To)}" : "";

    private static string Of(TimeOnly time) => time.ToString(time.Minute == 0 ? "%H" : "H:mm", CultureInfo.InvariantCulture);

    private static TimeOnly? TimeOf(Match match, string end)
    {
        var hour = int.Parse(match.Groups[end + "h"].Value, CultureInfo.InvariantCulture);
        var minute = match.Groups[end + "m"].Success ? int.Parse(match.Groups[end + "m"].Value, CultureInfo.InvariantCulture) : 0;
        // Midnight at the end of a day is written as 24.
        return hour == 24 && minute == 0 && string.Equals(end, "t", StringComparison.Ordinal) ? TimeOnly.MinValue
            : hour < 24 && minute < 60 ? new TimeOnly(hour, minute)
            : null;
    }

    [GeneratedRegex(
        "^ *(?<fh>[0-9]{1,2})([:.](?<fm>[0-9]{2}))? *(-|–|—|to) *(?<th>[0-9]{1,2})([:.](?<tm>[0-9]{2}))? *$",
        RegexOptions.ExplicitCapture | RegexOptions.NonBacktracking | RegexOptions.CultureInvariant
    )]
    private static partial Regex Span();
}
