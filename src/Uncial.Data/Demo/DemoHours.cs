using Uncial.Core.Scheduling;

namespace Uncial.Data.Demo;

/// <summary>When the demo shop is open.</summary>
internal static class DemoHours
{
    /// <summary>Open every day of the week, and today around the hour at which the demo was begun, whichever that is.</summary>
    public static void Set(UncialDb db, Shop shop, DateTimeOffset now, int owner)
    {
        db.DaySettings.Add(
            new()
            {
                Settings = new() { Week = new([.. Enumerable.Repeat<HoursOfDay?>(new HoursOfDay(new(8, 0), new(17, 0)), 7)]) },
                Turn = 1,
                At = now,
                ById = owner,
            }
        );
        var time = shop.Time(TimeZoneInfo.Local);
        var here = time.Here(now);
        db.DayHours.Add(
            new()
            {
                Day = time.DayOf(now),
                From = new(Math.Max(0, here.Hour - 4), 0),
                To = new((here.Hour + 7) % 24, 0),
                Turn = 1,
                At = now,
                ById = owner,
            }
        );
    }
}
