namespace Uncial.Core.Scheduling;

/// <summary>
/// What the shop settles about its days: hours, breaks, and how long work takes while its own records do not say. None of it is a rule that
/// a judgement rests on.
/// </summary>
public sealed record DaySettings
{
    /// <summary>Most minutes that a step may be said to take.</summary>
    public const int MostMinutes = 240;

    /// <summary>Hours of the shop.</summary>
    public WorkWeek Week { get; init; } = WorkWeek.Usual;

    /// <summary>Hours of those who have their own, by their numbers.</summary>
    public IReadOnlyDictionary<int, WorkWeek> Shifts { get; init; } = new Dictionary<int, WorkWeek>();

    /// <summary>Breaks of everybody, each day.</summary>
    public IReadOnlyList<HoursOfDay> Breaks { get; init; } = [new(new(12, 15), new(13, 0))];

    /// <summary>Minutes to change adapters under the same head, 0 … <see cref="MostMinutes"/>.</summary>
    public int AdapterMinutes { get; init; } = 3;

    /// <summary>Measuring and confirming in the bay of a lathe that feeds does not count as leaving it.</summary>
    public bool MeasuresWhileFeeding { get; init; } = true;

    /// <summary>Minutes to inspect and measure a surface, 1 … <see cref="MostMinutes"/>.</summary>
    public int MeasureMinutes { get; init; } = 9;

    /// <summary>Minutes to measure a surface again and judge it, 1 … <see cref="MostMinutes"/>.</summary>
    public int ConfirmMinutes { get; init; } = 6;

    /// <summary>Minutes until an unfinished reading counts as put aside, 1 … <see cref="MostMinutes"/>.</summary>
    public int ReadingRestsAfter { get; init; } = 20;

    /// <summary>A time that nothing is known of stays within so much of its figure in four of five cases, per cent over it.</summary>
    internal const int SureOverLikely = 35;

    /// <summary>A time that the shop has named, with the range that is assumed of it.</summary>
    /// <param name="minutes">Minutes, 0 or more.</param>
    public static StepTime Assumed(decimal minutes)
    {
        var likely = (int)Math.Ceiling(minutes);
        return new(likely, (int)Math.Ceiling(minutes * (100 + SureOverLikely) / 100));
    }
}
