using System.Globalization;

namespace Uncial.Core.Times;

/// <summary>Which backups are kept: one of each of the last 14 days, 8 weeks and 24 months, the newest of each.</summary>
public static class BackupRetention
{
    /// <summary>Days of which a backup is kept.</summary>
    public const int Days = 14;

    /// <summary>Weeks, from Monday on, of which a backup is kept.</summary>
    public const int Weeks = 8;

    /// <summary>Months of which a backup is kept.</summary>
    public const int Months = 24;

    /// <summary>A shop whose newest backup is older than this has lost its night: somebody has to look.</summary>
    public static readonly TimeSpan LateAfter = TimeSpan.FromHours(36);

    /// <summary>Whether there should be a newer backup; one of the future was made by a clock that was wrong, and says nothing.</summary>
    /// <param name="made">When the newest was made.</param>
    /// <param name="now">Now.</param>
    public static bool IsLate(DateTimeOffset made, DateTimeOffset now) => now - made > LateAfter || made - now > ClockSlack;

    private static readonly TimeSpan ClockSlack = TimeSpan.FromHours(1);

    /// <summary>Those that are not kept any more.</summary>
    /// <remarks>
    /// Days, weeks and months are counted that have a backup. So a machine that was off for a year, or whose clock was wrong for a night,
    /// loses none by that; what was made after today is kept and not counted.
    /// </remarks>
    /// <param name="made">When each backup was made.</param>
    /// <param name="today">The day it is.</param>
    /// <returns>Times out of <paramref name="made"/>, the oldest first. The newest is never among them.</returns>
    public static IReadOnlyList<DateTime> NotKept(IEnumerable<DateTime> made, DateOnly today)
    {
        var all = made.Distinct().Order().ToList();
        var past = all.Where(t => Day(t) <= today).ToList();
        HashSet<DateTime> kept = [];
        void Keep(Func<DateOnly, int> period, int most) =>
            kept.UnionWith(past.GroupBy(t => period(Day(t))).OrderByDescending(g => g.Key).Take(most).Select(g => g.Max()));
        Keep(d => d.DayNumber, Days);
        Keep(WeekOf, Weeks);
        Keep(d => (d.Year * 12) + d.Month, Months);
        return [.. past.Where(t => !kept.Contains(t))];
    }

    /// <summary>Number of a week that begins on Monday: day 0 of the calendar was one.</summary>
    private static int WeekOf(DateOnly day) => day.DayNumber / 7;

    private static DateOnly Day(DateTime time) => DateOnly.FromDateTime(time);

    /// <summary>Name of the file of a backup, without its folder.</summary>
    /// <param name="made">When it was made, by the clock of the machine.</param>
    public static string NameOf(DateTime made) => "uncial-" + made.ToString(Format, CultureInfo.InvariantCulture) + Ending;

    /// <summary>When a backup was made; null where a file has another name than one.</summary>
    public static DateTime? MadeAt(string name)
    {
        ArgumentNullException.ThrowIfNull(name);
        return
            name.StartsWith("uncial-", StringComparison.Ordinal)
            && name.EndsWith(Ending, StringComparison.Ordinal)
            && DateTime.TryParseExact(name[7..^Ending.Length], Format, CultureInfo.InvariantCulture, DateTimeStyles.None, out var made)
            ? made
            : null;
    }

    private const string Format = "yyyy-MM-dd'T'HHmm";
    private const string Ending = ".backup.gpg";
}
