namespace Uncial.Core.Times;

/// <summary>How a shop writes dates and times.</summary>
public enum DateStyle
{
    /// <summary>3 Jun 2026, 14:05. A typed 9/12 is 9 December.</summary>
    DayMonth,

    /// <summary>Jun 3 2026, 2:05 pm. A typed 9/12 is 12 September.</summary>
    MonthDay,

    /// <summary>2026-06-03, 14:05. A typed 9/12 is 12 September.</summary>
    Iso,
}
