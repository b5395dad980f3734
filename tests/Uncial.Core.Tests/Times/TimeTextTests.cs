using CsCheck;
using Uncial.Core.Times;

namespace Uncial.Core.Tests;

/// <summary>Times to come as they are said at the counter. Now is Monday, 30 November 2026, 14:10.</summary>
public class TimeTextTests
{
    /// <summary>An hour ahead of UTC; an hour more from the last Sunday in March, 02:00, to the last in October, 03:00.</summary>
    private static readonly TimeZoneInfo Zone = TimeZoneInfo.CreateCustomTimeZone(
        "Island",
        TimeSpan.FromHours(1),
        "Island",
        "Island",
        "Island summer",
        [
            TimeZoneInfo.AdjustmentRule.CreateAdjustmentRule(
                DateTime.MinValue.Date,
                DateTime.MaxValue.Date,
                TimeSpan.FromHours(1),
                TimeZoneInfo.TransitionTime.CreateFloatingDateRule(new(1, 1, 1, 2, 0, 0), 3, 5, DayOfWeek.Sunday),
                TimeZoneInfo.TransitionTime.CreateFloatingDateRule(new(1, 1, 1, 3, 0, 0), 10, 5, DayOfWeek.Sunday)
            ),
        ]
    );

    private static readonly DateTimeOffset Now = new(2026, 11, 30, 14, 10, 0, TimeSpan.FromHours(1));

    private static string? Read(string text, DateTimeOffset? now = null)
    {
        var (at, fault) = TimeText.Read(text, now ?? Now, Zone);
        return at?.ToString("yyyy-MM-dd HH:mm zzz", System.Globalization.CultureInfo.InvariantCulture) ?? fault?.ToString();
    }

    [Theory]
    [InlineData("today 16:30", "2026-11-30 16:30 +01:00")]
    [InlineData("TODAY16h30", "2026-11-30 16:30 +01:00")]
    [InlineData("tomorrow 9", "2026-12-01 09:00 +01:00")]
    [InlineData("tom", "2026-12-01 17:00 +01:00")]
    [InlineData("16:30", "2026-11-30 16:30 +01:00")]
    [InlineData("9", "2026-12-01 09:00 +01:00")] // past today
    [InlineData("9h", "2026-12-01 09:00 +01:00")]
    [InlineData("14:10", "2026-12-01 14:10 +01:00")] // just now is past
    [InlineData("Tue 9", "2026-12-01 09:00 +01:00")]
    [InlineData("tuesday, 16:30", "2026-12-01 16:30 +01:00")]
    [InlineData("Mon 16", "2026-11-30 16:00 +01:00")] // still ahead today
    [InlineData("Mon 9", "2026-12-07 09:00 +01:00")]
    [InlineData("Sun", "2026-12-06 17:00 +01:00")]
    [InlineData("+2h", "2026-11-30 16:10 +01:00")]
    [InlineData("+1h30", "2026-11-30 15:40 +01:00")]
    [InlineData("+1.5h", "2026-11-30 15:40 +01:00")]
    [InlineData("+ 90 min", "2026-11-30 15:40 +01:00")]
    [InlineData("+1d2h", "2026-12-01 16:10 +01:00")]
    [InlineData("9.12. 14:00", "2026-12-09 14:00 +01:00")] // the day before the month
    [InlineData("9/12 14", "2026-12-09 14:00 +01:00")]
    [InlineData("9.12", "2026-12-09 17:00 +01:00")]
    [InlineData("9.12.26 8:05", "2026-12-09 08:05 +01:00")]
    [InlineData("3.2. 8", "2027-02-03 08:00 +01:00")] // this year's is past
    [InlineData("9 Dec 14:00", "2026-12-09 14:00 +01:00")]
    [InlineData("9 december 2026 14", "2026-12-09 14:00 +01:00")]
    [InlineData("2026-12-09 14:00", "2026-12-09 14:00 +01:00")]
    [InlineData("2026-12-09T14:00", "2026-12-09 14:00 +01:00")]
    [InlineData("2 Jul 9", "2027-07-02 09:00 +02:00")] // summer time
    public void A_time_is_read_as_it_is_said(string text, string at) => Read(text).ShouldBe(at);

    [Theory]
    [InlineData("", TimeFault.NotATime)]
    [InlineData("soon", TimeFault.NotATime)]
    [InlineData("+", TimeFault.NotATime)]
    [InlineData("+0h", TimeFault.NotATime)]
    [InlineData("+2x", TimeFault.NotATime)]
    [InlineData("9 Nonsense", TimeFault.NotATime)]
    [InlineData("today at tea", TimeFault.NotATime)]
    [InlineData("25:00", TimeFault.NoSuchTime)]
    [InlineData("today 12:60", TimeFault.NoSuchTime)]
    [InlineData("31.11. 9", TimeFault.NoSuchDay)]
    [InlineData("9.13. 9", TimeFault.NoSuchDay)]
    [InlineData("29.2.2027", TimeFault.NoSuchDay)]
    [InlineData("16.30", TimeFault.NoSuchDay)] // a time has a colon
    [InlineData("today 9", TimeFault.Past)]
    [InlineData("29.11.2026", TimeFault.Past)]
    [InlineData("9.12.2028", TimeFault.TooFar)]
    [InlineData("+400d", TimeFault.TooFar)]
    [InlineData("28.3.2027 2:30", TimeFault.SkippedByTheClock)]
    public void What_is_no_time_to_come_says_why(string text, TimeFault fault) => Read(text).ShouldBe(fault.ToString());

    [Fact]
    public void Hours_pass_as_they_pass_when_the_clocks_change()
    {
        // The night before they go forward: five hours on the clock are four.
        var before = new DateTimeOffset(2027, 3, 27, 23, 0, 0, TimeSpan.FromHours(1));
        Read("+4h", before).ShouldBe("2027-03-28 04:00 +02:00");
        Read("tomorrow 9", before).ShouldBe("2027-03-28 09:00 +02:00");
        // They go back: 02:30 comes twice, and the first counts.
        var autumn = new DateTimeOffset(2027, 10, 30, 23, 0, 0, TimeSpan.FromHours(2));
        Read("Sun 2:30", autumn).ShouldBe("2027-10-31 02:30 +02:00");
        Read("+6h", autumn).ShouldBe("2027-10-31 04:00 +01:00");
        Read("29 Feb", new DateTimeOffset(2027, 5, 1, 9, 0, 0, TimeSpan.FromHours(2))).ShouldBe("2028-02-29 17:00 +01:00");
    }

    [Theory]
    [InlineData("9/12", DateStyle.DayMonth, "2026-12-09")]
    [InlineData("9/12", DateStyle.MonthDay, "2027-09-12")] // this year's is past
    [InlineData("12/9/26", DateStyle.MonthDay, "2026-12-09")]
    [InlineData("12/9", DateStyle.Iso, "2026-12-09")]
    [InlineData("9.12.", DateStyle.MonthDay, "2026-12-09")] // a dot is the day before the month everywhere
    [InlineData("Dec 9", DateStyle.DayMonth, "2026-12-09")]
    [InlineData("December 9, 2026", DateStyle.MonthDay, "2026-12-09")]
    public void The_month_stands_first_where_the_shop_writes_it_so(string text, DateStyle style, string day) =>
        DateOnly.FromDateTime(TimeText.Read(text, Now, Zone, style).At!.Value.DateTime).ShouldBe(Day(day));

    [Theory]
    [InlineData("4:30 pm", "2026-11-30 16:30 +01:00")]
    [InlineData("9am", "2026-12-01 09:00 +01:00")]
    [InlineData("tomorrow 12 am", "2026-12-01 00:00 +01:00")]
    [InlineData("12:05p", "2026-12-01 12:05 +01:00")]
    public void A_time_may_count_to_twelve(string text, string at) => Read(text).ShouldBe(at);

    [Theory]
    [InlineData("13 pm")]
    [InlineData("0 am")]
    public void No_half_day_has_that_hour(string text) => Read(text).ShouldBe(nameof(TimeFault.NoSuchTime));

    [Theory]
    [InlineData("today", "2026-11-30", "2026-11-30")]
    [InlineData("yest", "2026-11-29", "2026-11-29")]
    [InlineData("tue", "2026-11-24", "2026-12-01")]
    [InlineData("Monday", "2026-11-30", "2026-11-30")]
    [InlineData("9.12.", "2025-12-09", "2026-12-09")]
    [InlineData("3 feb", "2026-02-03", "2027-02-03")]
    [InlineData("3.2.24", "2024-02-03", "2024-02-03")]
    [InlineData("2026-12-09", "2026-12-09", "2026-12-09")] // a day with its year is that day
    public void A_day_without_a_year_is_the_last_or_the_next(string text, string past, string ahead)
    {
        var today = Day("2026-11-30");
        DayText.Read(text, today, DateStyle.DayMonth, DayLean.Past).ShouldBe((Day(past), null));
        DayText.Read(text, today, DateStyle.DayMonth, DayLean.Ahead).ShouldBe((Day(ahead), null));
    }

    [Theory]
    [InlineData("", TimeFault.NotATime)]
    [InlineData("9", TimeFault.NotATime)]
    [InlineData("tue 9", TimeFault.NotATime)] // a day has no time
    [InlineData("31.2.", TimeFault.NoSuchDay)]
    public void What_is_no_day_says_why(string text, TimeFault fault) =>
        DayText.Read(text, Day("2026-11-30"), DateStyle.DayMonth, DayLean.Past).ShouldBe((null, fault));

    [Fact]
    public void A_shop_writes_its_own_time_and_its_days_begin_at_its_midnight()
    {
        var winter = new DateTimeOffset(2026, 11, 30, 23, 5, 0, TimeSpan.Zero); // past midnight on the island
        ShopTime Of(DateStyle style) => new(Zone, style);
        var (day, month, iso) = (Of(DateStyle.DayMonth), Of(DateStyle.MonthDay), Of(DateStyle.Iso));
        day.DayOf(winter).ShouldBe(Day("2026-12-01"));
        (day.Day(winter), month.Day(winter), iso.Day(winter)).ShouldBe(("1 Dec 2026", "Dec 1, 2026", "2026-12-01"));
        (day.Clock(winter), month.Clock(winter), iso.Clock(winter)).ShouldBe(("00:05", "12:05 am", "00:05"));
        (day.LongDay(winter), month.LongDay(winter)).ShouldBe(("1 December 2026", "December 1, 2026"));
        (day.Weekday(winter), day.Weekday(winter, isLong: true), day.Month(winter)).ShouldBe(("Tue", "Tuesday", "Dec 2026"));
        // The day on which the clocks go forward has 23 hours, the other one 25.
        (day.BeginOf(Day("2027-03-29")) - day.BeginOf(Day("2027-03-28"))).ShouldBe(TimeSpan.FromHours(23));
        (day.BeginOf(Day("2027-11-01")) - day.BeginOf(Day("2027-10-31"))).ShouldBe(TimeSpan.FromHours(25));
        ShopTime.Of("Nowhere/Land", DateStyle.Iso, Zone).Zone.ShouldBe(Zone);
        day.ZoneName.ShouldBe("UTC"); // no database knows this island
        ShopTime.Of("Atlantic/Azores", DateStyle.Iso, Zone).ZoneName.ShouldBe("Atlantic/Azores");
        ShopTime.IsZone("Europe/Lisbon").ShouldBeTrue();
        ShopTime.ZoneNames.ShouldContain("Atlantic/Azores");
        foreach (var none in new[] { null, "", "Nowhere/Land", "../../etc/passwd", "GMT Standard Time" })
            ShopTime.IsZone(none).ShouldBeFalse();
    }

    private static DateOnly Day(string day) => DateOnly.Parse(day, System.Globalization.CultureInfo.InvariantCulture);

    [Fact]
    public void No_text_breaks_it_and_none_leads_back() =>
        Gen.OneOf(Gen.String, Gen.String[Gen.Char[" 0123456789.:/+-hdmtodayjunefrisat"], 0, 24])
            .Sample(text =>
            {
                var (at, fault) = TimeText.Read(text, Now, Zone);
                (at is null).ShouldBe(fault is not null);
                if (at is { } time)
                    time.ShouldBeInRange(Now.AddTicks(1), Now.AddDays(366));
            });
}
