namespace Uncial.Core.Vehicles;

/// <summary>How sure it is that a limit is reached by a day.</summary>
public enum DueWord
{
    /// <summary>Reached already, or by the last day of its range.</summary>
    Surely,

    /// <summary>The day lies in the second half of the range.</summary>
    Likely,

    /// <summary>The day lies in the first half of the range, or the range has no end.</summary>
    Perhaps,

    /// <summary>Not by that day: it lies before the range.</summary>
    No,

    /// <summary>Nothing is known that would tell.</summary>
    Unknown,
}

/// <summary>A part on a vehicle, as far as it matters when it comes due.</summary>
/// <param name="Vehicle">Key of the vehicle.</param>
/// <param name="Position">Where it is on the vehicle.</param>
/// <param name="Pair">What the two sides of its axle have in common.</param>
/// <param name="Order">What a new one is ordered by, such as its entry of the limit book; null where that is not known.</param>
/// <param name="LastVisit">When it was read last; null where it never was.</param>
/// <param name="Days">Days from then until its limit; null where no rate is known.</param>
public sealed record DuePart(int Vehicle, string Position, string Pair, string? Order, DateOnly? LastVisit, Stretch? Days)
{
    /// <summary>The earliest day on which it may be due; null where nothing is known.</summary>
    public DateOnly? Earliest => LastVisit is { } last && Days is { } days ? Day(last, days.Least) : null;

    /// <summary>The last day by which it is due; null where that is open.</summary>
    public DateOnly? Latest => LastVisit is { } last && Days?.Most is { } most ? Day(last, most) : null;

    /// <summary>Whether it is due by a day, that day included.</summary>
    public DueWord By(DateOnly day)
    {
        if (Earliest is not { } earliest)
            return DueWord.Unknown;
        if (day < earliest)
            return DueWord.No;
        if (Latest is not { } latest)
            return DueWord.Perhaps;
        return day >= latest ? DueWord.Surely
            : 2 * (day.DayNumber - earliest.DayNumber) >= latest.DayNumber - earliest.DayNumber ? DueWord.Likely
            : DueWord.Perhaps;
    }

    private static DateOnly Day(DateOnly from, decimal days) =>
        from.AddDays((int)Math.Min(days, DateOnly.MaxValue.DayNumber - from.DayNumber));
}

/// <summary>Parts of one kind to order.</summary>
/// <param name="Order">What they are ordered by; null: what is not known yet.</param>
/// <param name="Surely">Parts of axles of which one is due surely or likely.</param>
/// <param name="Perhaps">More that may be needed.</param>
/// <param name="Unread">Parts of axles of which nobody knows: they are to be read first.</param>
public readonly record struct OrderLine(string? Order, int Surely, int Perhaps, int Unread);

/// <summary>What a fleet needs, and when.</summary>
public static class DueList
{
    /// <summary>What comes due first stands first; what nothing is known of stands last.</summary>
    public static IReadOnlyList<DuePart> Sort(IEnumerable<DuePart> parts)
    {
        ArgumentNullException.ThrowIfNull(parts);
        return
        [
            .. parts
                .OrderBy(p => p.Earliest ?? DateOnly.MaxValue)
                .ThenBy(p => p.Latest ?? DateOnly.MaxValue)
                .ThenBy(p => p.Vehicle)
                .ThenBy(p => p.Position, StringComparer.Ordinal),
        ];
    }

    /// <summary>
    /// What to order so that every part of a fleet is inside its limit on a day. Both sides of an axle are replaced together, so one that
    /// is due brings the other one along.
    /// </summary>
    /// <param name="parts">Every part of the fleet.</param>
    /// <param name="day">The day, such as that of an inspection.</param>
    public static IReadOnlyList<OrderLine> ToOrder(IEnumerable<DuePart> parts, DateOnly day)
    {
        ArgumentNullException.ThrowIfNull(parts);
        var lines = new Dictionary<string, (int Surely, int Perhaps, int Unread)>(StringComparer.Ordinal);
        foreach (var axle in parts.GroupBy(p => (p.Vehicle, p.Pair)))
        {
            var words = axle.Select(p => p.By(day)).ToList();
            // One side that is surely good says nothing of the other one that nobody has read.
            var word = words.Exists(w => w < DueWord.No) || !words.Contains(DueWord.Unknown) ? words.Min() : DueWord.Unknown;
            if (word == DueWord.No)
                continue;
            var order = axle.Select(p => p.Order).FirstOrDefault(o => o is not null) ?? "";
            var (surely, perhaps, unread) = lines.GetValueOrDefault(order);
            var count = axle.Count();
            lines[order] = word switch
            {
                DueWord.Unknown => (surely, perhaps, unread + count),
                DueWord.Perhaps => (surely, perhaps + count, unread),
                _ => (surely + count, perhaps, unread),
            };
        }
        return
        [
            .. lines
                .OrderBy(l => l.Key.Length == 0)
                .ThenBy(l => l.Key, StringComparer.Ordinal)
                .Select(l => new OrderLine(l.Key.Length == 0 ? null : l.Key, l.Value.Surely, l.Value.Perhaps, l.Value.Unread)),
        ];
    }

    /// <summary>Parts that may be due within so many weeks from a day, what comes first standing first.</summary>
    /// <param name="parts">Parts of any vehicles.</param>
    /// <param name="from">The day from which weeks are counted.</param>
    /// <param name="weeks">1 … 520.</param>
    /// <exception cref="ArgumentOutOfRangeException">Another number of weeks.</exception>
    public static IReadOnlyList<DuePart> Within(IEnumerable<DuePart> parts, DateOnly from, int weeks)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(weeks, 1);
        ArgumentOutOfRangeException.ThrowIfGreaterThan(weeks, 520);
        return Sort(parts.Where(p => p.By(from.AddDays(7 * weeks)) is not (DueWord.No or DueWord.Unknown)));
    }
}
