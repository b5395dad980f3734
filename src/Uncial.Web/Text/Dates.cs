using Uncial.Core.Times;

namespace Uncial.Web.Text;

/// <summary>Dates and times as they stand on screens and paper: in the time zone of the shop, written as the shop writes them.</summary>
public static class Dates
{
    private static readonly AsyncLocal<ShopTime?> Current = new();

    /// <summary>Time of the shop that the request is about; that of the server where none is known.</summary>
    public static ShopTime Shop
    {
        get => Current.Value ?? new(TimeZoneInfo.Local, DateStyle.DayMonth);
        set => Current.Value = value;
    }

    /// <inheritdoc cref="ShopTime.Day(DateTimeOffset)"/>
    public static string Day(DateTimeOffset at) => Shop.Day(at);

    /// <inheritdoc cref="ShopTime.Day(DateOnly)"/>
    public static string Day(DateOnly day) => Shop.Day(day);

    /// <inheritdoc cref="ShopTime.LongDay"/>
    public static string LongDay(DateTimeOffset at) => Shop.LongDay(at);

    /// <inheritdoc cref="ShopTime.ShortDay"/>
    public static string ShortDay(DateOnly day) => Shop.ShortDay(day);

    /// <inheritdoc cref="ShopTime.Month"/>
    public static string Month(DateTimeOffset at) => Shop.Month(at);

    /// <inheritdoc cref="ShopTime.Clock"/>
    public static string Clock(DateTimeOffset at) => Shop.Clock(at);

    /// <inheritdoc cref="ShopTime.Hour"/>
    public static string Hour(DateTimeOffset at) => Shop.Hour(at);

    /// <summary>As in “Tuesday”.</summary>
    public static string Weekday(DateOnly day) => day.ToString("dddd", System.Globalization.CultureInfo.InvariantCulture);

    /// <summary>As in “3 Jun 2026, 14:05”.</summary>
    public static string Time(DateTimeOffset at) => $"{Shop.Day(at)}, {Shop.Clock(at)}";

    /// <summary>As in “3 June 2026, 14:05”.</summary>
    public static string LongTime(DateTimeOffset at) => $"{Shop.LongDay(at)}, {Shop.Clock(at)}";

    /// <summary>As in “3 Jun, 14:05”.</summary>
    public static string ShortTime(DateTimeOffset at) => $"{Shop.ShortDay(Shop.DayOf(at))}, {Shop.Clock(at)}";

    /// <summary>As in “Tuesday 3 June, 14:05”.</summary>
    public static string DayAndTime(DateTimeOffset at) =>
        $"{Shop.Weekday(at, isLong: true)} {Shop.ShortDay(Shop.DayOf(at))}, {Shop.Clock(at)}";

    /// <summary>When something was, as short as it can be said: <c>14:05</c> today, <c>yesterday 14:05</c>, or the day.</summary>
    public static string When(DateTimeOffset at, DateTimeOffset now)
    {
        var (then, today) = (Shop.DayOf(at), Shop.DayOf(now));
        return then == today ? Shop.Clock(at)
            : then == today.AddDays(-1) ? Words.Say("dates.yesterday", Shop.Clock(at))
            : Shop.Day(at);
    }
}
