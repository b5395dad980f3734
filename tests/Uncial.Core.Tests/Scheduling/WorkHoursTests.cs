using Uncial.Core.Parts;
using Uncial.Core.Scheduling;
using Uncial.Core.Times;

namespace Uncial.Core.Tests.Scheduling;

/// <summary>Hours by the shop's clock as moments, and how long work takes by the shop's own records.</summary>
public class WorkHoursTests
{
    private static readonly ShopTime Lisbon = new(TimeZoneInfo.FindSystemTimeZoneById("Europe/Lisbon"), DateStyle.DayMonth);
    private static readonly DaySettings Settings = new() { Breaks = [new(new(12, 15), new(13, 0))] };

    private static string[] Of(DateOnly day, DaySettings? settings = null, DayHours[]? single = null, int days = 1) =>
        [.. WorkHours.Of(1, settings ?? Settings, single ?? [], day, days, Lisbon).Select(w => $"{w.From:dd HH:mm}-{w.To:HH:mm}")];

    [Fact]
    public void A_day_has_its_hours_without_the_break_and_Sunday_has_none() =>
        Of(new(2026, 12, 4), days: 3)
            .ShouldBe(["03 08:00-12:15", "03 13:00-17:00", "04 08:00-12:15", "04 13:00-17:00", "05 08:00-12:15", "05 13:00-17:00"]);

    [Fact]
    public void The_own_day_counts_before_the_shops_day_and_that_before_the_own_week()
    {
        DateOnly day = new(2026, 12, 5);
        HoursOfDay short_ = new(new(8, 0), new(11, 0));
        var withShift = Settings with
        {
            Shifts = new Dictionary<int, WorkWeek>
            {
                [1] = new([.. Enumerable.Repeat<HoursOfDay?>(new HoursOfDay(new(10, 0), new(12, 0)), 7)]),
            },
        };
        string[] Today(DaySettings settings, params DayHours[] single) =>
            [.. Of(day, settings, single).Where(w => w.StartsWith("05", StringComparison.Ordinal))];
        Today(withShift).ShouldBe(["05 10:00-12:00"]);
        Today(withShift, new DayHours(day, null, short_)).ShouldBe(["05 08:00-11:00"]);
        Today(withShift, new DayHours(day, null, short_), new DayHours(day, 1, null)).ShouldBe([]);
        Today(withShift, new DayHours(day, 2, null)).ShouldBe(["05 10:00-12:00"]);
        // Somebody leaves at three.
        Today(Settings, new DayHours(day, 1, new(new(8, 0), new(15, 0)))).ShouldBe(["05 08:00-12:15", "05 13:00-15:00"]);
    }

    [Fact]
    public void A_night_shift_goes_on_past_midnight_and_its_break_counts_on_either_side()
    {
        var night = Settings with
        {
            Week = new([.. Enumerable.Repeat<HoursOfDay?>(new HoursOfDay(new(22, 0), new(3, 0)), 7)]),
            Breaks = [new(new(0, 30), new(1, 0))],
        };
        Of(new(2026, 12, 5), night).ShouldBe(["04 22:00-00:30", "05 01:00-03:00", "05 22:00-00:30", "06 01:00-03:00"]);
    }

    [Fact]
    public void The_night_of_the_change_to_summer_time_is_an_hour_shorter_and_the_one_back_an_hour_longer()
    {
        var night = Settings with { Week = new([.. Enumerable.Repeat<HoursOfDay?>(new HoursOfDay(new(0, 0), new(6, 0)), 7)]), Breaks = [] };
        double Hours(DateOnly day) =>
            WorkHours.Of(1, night, [], day, 1, Lisbon).Where(w => Lisbon.DayOf(w.From) == day).Sum(w => (w.To - w.From).TotalHours);
        Hours(new(2026, 3, 28)).ShouldBe(6);
        Hours(new(2026, 3, 29)).ShouldBe(5);
        Hours(new(2026, 10, 25)).ShouldBe(7);
        // A time that the clock skips is the next one that it shows.
        Lisbon.Here(Lisbon.At(new(2026, 3, 29), new(1, 30))).ToString("HH:mm", null).ShouldBe("02:00");
    }

    [Fact]
    public void Work_takes_as_long_as_on_record_and_as_settled_where_the_record_says_too_little()
    {
        PastStep Past(int who, int minutes, int lathe = 1) => new(WorkStep.Machine, PartKind.Rotor, lathe, who, minutes);
        PastStep[] past = [Past(1, 10), Past(1, 12), Past(1, 14), Past(1, 16), Past(2, 30), Past(2, 31), Past(2, 32), Past(3, 5, lathe: 2)];
        WorkTimes times = new(past, [], new(), ShopRules.Default);

        var attended = times.Attended(PartKind.Rotor, 1);
        (attended.Likely, attended.Sure).ShouldBe((16, 31));
        (attended.Of(1).Likely, attended.Of(1).Sure).ShouldBe((12, 16));
        attended.Of(2).ShouldBe(attended); // three cases say nothing
        times.Attended(PartKind.Rotor, 2).ShouldBe(new StepTime(20, 27)); // the shop's minutes, and a third more
        times.Attended(PartKind.Drum, 1).ShouldBe(new StepTime(20, 27));
        times.Measure(PartKind.Drum).ShouldBe(new StepTime(9, 13));
    }
}
