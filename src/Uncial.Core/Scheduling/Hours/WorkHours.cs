using Uncial.Core.Times;

namespace Uncial.Core.Scheduling;

/// <summary>Hours of a day by the shop's clock. They end on the next day where the end is not after the beginning.</summary>
/// <param name="From">When they begin.</param>
/// <param name="To">When they end.</param>
public readonly record struct HoursOfDay(TimeOnly From, TimeOnly To)
{
    /// <summary>The hours of a day as moments.</summary>
    /// <param name="day">The day on which they begin.</param>
    /// <param name="time">The shop's time.</param>
    public TimeWindow On(DateOnly day, ShopTime time)
    {
        ArgumentNullException.ThrowIfNull(time);
        return new(time.Here(time.At(day, From)), time.Here(time.At(To > From ? day : day.AddDays(1), To)));
    }
}

/// <summary>Hours of each day of the week, from Sunday on; null for a day without work.</summary>
/// <param name="Days">Seven of them.</param>
public sealed record WorkWeek(IReadOnlyList<HoursOfDay?> Days)
{
    /// <summary>From 8:00 to 17:00, Monday to Saturday.</summary>
    public static WorkWeek Usual { get; } = new([null, .. Enumerable.Repeat<HoursOfDay?>(new HoursOfDay(new(8, 0), new(17, 0)), 6)]);

    /// <summary>The hours of a day.</summary>
    public HoursOfDay? On(DateOnly day) => Days[(int)day.DayOfWeek];

    /// <summary>The same hours on the same days.</summary>
    public bool Equals(WorkWeek? other) => other is not null && Days.SequenceEqual(other.Days);

    /// <summary>Follows the equality.</summary>
    public override int GetHashCode() => Days.Aggregate(0, HashCode.Combine);
}

/// <summary>Hours of one single day that differ from those of the week.</summary>
/// <param name="Day">The day.</param>
/// <param name="OperatorId">Whose; null for the whole shop.</param>
/// <param name="Hours">The hours; null where there is no work.</param>
public sealed record DayHours(DateOnly Day, int? OperatorId, HoursOfDay? Hours);

/// <summary>Windows of time, put together from hours.</summary>
public static class WorkHours
{
    /// <summary>
    /// When somebody works: by single days of the own, else of the shop, else by the own week, else by the shop's; without the breaks.
    /// </summary>
    /// <param name="operatorId">The operator.</param>
    /// <param name="settings">Weeks and breaks.</param>
    /// <param name="exceptions">Single days.</param>
    /// <param name="first">The first day.</param>
    /// <param name="days">So many days, 1 or more.</param>
    /// <param name="time">The shop's time.</param>
    public static IReadOnlyList<TimeWindow> Of(
        int operatorId,
        DaySettings settings,
        IReadOnlyCollection<DayHours> exceptions,
        DateOnly first,
        int days,
        ShopTime time
    )
    {
        ArgumentNullException.ThrowIfNull(settings);
        ArgumentNullException.ThrowIfNull(exceptions);
        ArgumentOutOfRangeException.ThrowIfLessThan(days, 1);
        List<TimeWindow> windows = [];
        // The day before may reach past midnight.
        for (var day = first.AddDays(-1); day < first.AddDays(days); day = day.AddDays(1))
            if (OnDay(operatorId, settings, exceptions, day) is { } hours)
                windows.AddRange(Without([hours.On(day, time)], [.. BreaksOf(settings, day, time)]));
        return windows;
    }

    /// <summary>The breaks of a day, and those after midnight that belong to it.</summary>
    /// <param name="settings">The breaks.</param>
    /// <param name="day">The day.</param>
    /// <param name="time">The shop's time.</param>
    public static IEnumerable<TimeWindow> BreaksOf(DaySettings settings, DateOnly day, ShopTime time)
    {
        ArgumentNullException.ThrowIfNull(settings);
        return settings.Breaks.SelectMany(b => new[] { b.On(day, time), b.On(day.AddDays(1), time) });
    }

    /// <summary>The hours of a person or, for null, of the shop on a day; null for none.</summary>
    /// <param name="operatorId">The person; null for the shop.</param>
    /// <param name="settings">Weeks.</param>
    /// <param name="exceptions">Single days.</param>
    /// <param name="day">The day.</param>
    public static HoursOfDay? OnDay(int? operatorId, DaySettings settings, IReadOnlyCollection<DayHours> exceptions, DateOnly day)
    {
        ArgumentNullException.ThrowIfNull(settings);
        ArgumentNullException.ThrowIfNull(exceptions);
        if (exceptions.FirstOrDefault(h => h.Day == day && h.OperatorId == operatorId && operatorId is not null) is { } own)
            return own.Hours;
        if (exceptions.FirstOrDefault(h => h.Day == day && h.OperatorId is null) is { } shop)
            return shop.Hours;
        return (operatorId is { } id && settings.Shifts.TryGetValue(id, out var shift) ? shift : settings.Week).On(day);
    }

    /// <summary>What is left of windows when others are taken out.</summary>
    /// <param name="windows">The windows.</param>
    /// <param name="out">What is taken out, in any order.</param>
    public static IReadOnlyList<TimeWindow> Without(IReadOnlyList<TimeWindow> windows, IReadOnlyList<TimeWindow> @out)
    {
        ArgumentNullException.ThrowIfNull(windows);
        ArgumentNullException.ThrowIfNull(@out);
        return @out.Aggregate(windows, (left, gap) =>
            [
                .. left.SelectMany(w =>
                        gap.To <= w.From || gap.From >= w.To ? (IEnumerable<TimeWindow>)[w] : [new(w.From, gap.From), new(gap.To, w.To)]
                    )
                    .Where(w => w.To > w.From),
            ]
        );
    }
}
