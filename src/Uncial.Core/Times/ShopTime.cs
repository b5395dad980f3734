using System.Globalization;

namespace Uncial.Core.Times;

/// <summary>Where the clock of a shop stands, and how it writes dates and times.</summary>
/// <param name="Zone">Its time zone, with the change to summer time and back.</param>
/// <param name="Style">How it writes dates and times.</param>
public sealed record ShopTime(TimeZoneInfo Zone, DateStyle Style)
{
    private static readonly CultureInfo Words = CultureInfo.InvariantCulture;

    /// <summary>The zones that a shop can pick, by their names in the IANA list.</summary>
    public static IReadOnlyList<string> ZoneNames { get; } =
    [.. TimeZoneInfo.GetSystemTimeZones().Select(z => z.Id).Where(id => IsZone(id)).Distinct().Order(StringComparer.Ordinal)];

    /// <summary>Whether a name is that of a zone which this machine knows, in the IANA list.</summary>
    public static bool IsZone(string? name) =>
        name is { Length: > 0 and <= 60 } && TimeZoneInfo.TryFindSystemTimeZoneById(name, out var zone) && zone.HasIanaId;

    /// <summary>A shop's time; where its zone is not known here any more, that of the server stands in.</summary>
    /// <param name="zone">Name of its zone; null for that of the server.</param>
    /// <param name="style">How it writes dates and times.</param>
    /// <param name="server">Zone of the server.</param>
    public static ShopTime Of(string? zone, DateStyle style, TimeZoneInfo server) =>
        new(zone is not null && TimeZoneInfo.TryFindSystemTimeZoneById(zone, out var known) ? known : server, style);

    /// <summary>Name of the zone in the IANA list, as databases know it; UTC where the zone of the server has none.</summary>
    public string ZoneName => Zone.HasIanaId ? Zone.Id : "UTC";

    /// <summary>A moment by the shop's clock.</summary>
    public DateTimeOffset Here(DateTimeOffset at) => TimeZoneInfo.ConvertTime(at, Zone);

    /// <summary>The day of a moment in the shop.</summary>
    public DateOnly DayOf(DateTimeOffset at) => DateOnly.FromDateTime(Here(at).DateTime);

    /// <summary>
    /// The moment at which a day of the shop begins: midnight, or the first moment after it where the clocks skip midnight.
    /// </summary>
    public DateTimeOffset BeginOf(DateOnly day) => At(day, TimeOnly.MinValue);

    /// <summary>
    /// The moment at which the shop's clock shows a time of a day: the first one where it shows it twice, the next quarter of an hour where
    /// it skips it.
    /// </summary>
    /// <param name="day">The day.</param>
    /// <param name="time">The time of the day.</param>
    public DateTimeOffset At(DateOnly day, TimeOnly time)
    {
        var local = day.ToDateTime(time);
        while (Zone.IsInvalidTime(local))
            local = local.AddMinutes(15);
        var offset = Zone.IsAmbiguousTime(local) ? Zone.GetAmbiguousTimeOffsets(local).Max() : Zone.GetUtcOffset(local);
        return new DateTimeOffset(local, offset).ToUniversalTime();
    }

    /// <summary>A day, as in “3 Jun 2026”.</summary>
    public string Day(DateOnly day) => day.ToString(By("d MMM yyyy", "MMM d, yyyy", "yyyy-MM-dd"), Words);

    /// <inheritdoc cref="Day(DateOnly)"/>
    public string Day(DateTimeOffset at) => Day(DayOf(at));

    /// <summary>A day on paper, as in “3 June 2026”.</summary>
    public string LongDay(DateTimeOffset at) => DayOf(at).ToString(By("d MMMM yyyy", "MMMM d, yyyy", "yyyy-MM-dd"), Words);

    /// <summary>A day of this year, as in “3 Jun”.</summary>
    public string ShortDay(DateOnly day) => day.ToString(By("d MMM", "MMM d", "MM-dd"), Words);

    /// <summary>A month, as in “Jun 2026”.</summary>
    public string Month(DateTimeOffset at) => DayOf(at).ToString(By("MMM yyyy", "MMM yyyy", "yyyy-MM"), Words);

    /// <summary>A time of day, as in “14:05”.</summary>
    public string Clock(DateTimeOffset at) =>
        Here(at).ToString(By("HH:mm", "h:mm tt", "HH:mm"), Words) is var text && Style == DateStyle.MonthDay
            ? text.Replace("AM", "am", StringComparison.Ordinal).Replace("PM", "pm", StringComparison.Ordinal)
            : text;

    /// <summary>The hour alone, as on a scale of hours.</summary>
    public string Hour(DateTimeOffset at) => Here(at).ToString(By("%H", "%h", "%H"), Words);

    /// <summary>As in “Tue” or “Tuesday”.</summary>
    public string Weekday(DateTimeOffset at, bool isLong = false) => Here(at).ToString(isLong ? "dddd" : "ddd", Words);

    private string By(string dayMonth, string monthDay, string iso) =>
        Style switch
        {
            DateStyle.MonthDay => monthDay,
            DateStyle.Iso => iso,
            _ => dayMonth,
        };
}
