using System.Globalization;

namespace Uncial.Web.Text;

/// <summary>Dates and times as they stand on screens and paper, in the time zone of the server.</summary>
public static class Dates
{
    /// <summary>As in “3 Jun 2026”.</summary>
    public static string Day(DateTimeOffset at) => Of(at, "d MMM yyyy");

    /// <inheritdoc cref="Day(DateTimeOffset)"/>
    public static string Day(DateOnly day) => day.ToString("d MMM yyyy", CultureInfo.InvariantCulture);

    /// <summary>As in “3 June 2026”.</summary>
    public static string LongDay(DateTimeOffset at) => Of(at, "d MMMM yyyy");

    /// <summary>As in “3 Jun”.</summary>
    public static string ShortDay(DateOnly day) => day.ToString("d MMM", CultureInfo.InvariantCulture);

    /// <summary>As in “Jun 2026”.</summary>
    public static string Month(DateTimeOffset at) => Of(at, "MMM yyyy");

    /// <summary>As in “3 Jun 2026, 14:05”.</summary>
    public static string Time(DateTimeOffset at) => Of(at, "d MMM yyyy, HH:mm");

    /// <summary>As in “3 June 2026, 14:05”.</summary>
    public static string LongTime(DateTimeOffset at) => Of(at, "d MMMM yyyy, HH:mm");

    /// <summary>As in “3 Jun, 14:05”.</summary>
    public static string ShortTime(DateTimeOffset at) => Of(at, "d MMM, HH:mm");

    /// <summary>As in “Tuesday 3 June, 14:05”. The time is given in the zone that it is to be shown in.</summary>
    public static string DayAndTime(DateTimeOffset at) => at.ToString("dddd d MMMM, HH:mm", CultureInfo.InvariantCulture);

    private static string Of(DateTimeOffset at, string format) => at.ToLocalTime().ToString(format, CultureInfo.InvariantCulture);
}
