using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Core.Vehicles;

/// <summary>A size that was read at a visit.</summary>
/// <param name="Day">When.</param>
/// <param name="Kilometres">How far the vehicle had gone; null where nobody knew.</param>
/// <param name="Came">Worst size as it came.</param>
/// <param name="Left">Worst size as it left, where it was read after a cut; otherwise null.</param>
/// <param name="Uncertainty">U of a size, at 95 %; 0 or more.</param>
public readonly record struct SizeSeen(DateOnly Day, decimal? Kilometres, Length Came, Length? Left, Length Uncertainty)
{
    /// <summary>Size from which it went on.</summary>
    public Length Size => Left ?? Came;
}

/// <summary>Where a rate of wear comes from.</summary>
public enum RateSource
{
    /// <summary>The part's own visits.</summary>
    OwnVisits,

    /// <summary>One visit, and the size when new at the day on which it was fitted.</summary>
    FromNew,

    /// <summary>Vehicles of the same model in this shop.</summary>
    SameModel,
}

/// <summary>Rates of wear of one model in this shop, one for each vehicle, along one axis.</summary>
/// <param name="LogMean">Mean of the natural logarithms of the rates in mm per kilometre or day.</param>
/// <param name="LogSpread">Their standard deviation, held up by <see cref="WearForecast.AmongVehicles"/> where they are few.</param>
/// <param name="Vehicles">How many, at least one.</param>
public readonly record struct ModelRates(double LogMean, double LogSpread, int Vehicles)
{
    /// <summary>From rates in mm per kilometre or per day; those of 0 or less tell nothing.</summary>
    /// <returns>Null where none is left.</returns>
    public static ModelRates? Of(IEnumerable<double> rates)
    {
        var logs = rates.Where(r => r > 0).Select(r => Math.Log(r)).ToList();
        if (logs.Count == 0)
            return null;
        var mean = logs.Average();
        var squares = logs.Sum(l => (l - mean) * (l - mean));
        const double prior = WearForecast.AmongVehicles * WearForecast.AmongVehicles * WearForecast.PriorWeight;
        return new(mean, Math.Sqrt((squares + prior) / (logs.Count - 1 + WearForecast.PriorWeight)), logs.Count);
    }
}

/// <summary>A stretch of road or time until a limit, as a range that the truth falls into four times in five.</summary>
/// <param name="Least">Kilometres or days from the last visit; 0 where the limit may be reached already.</param>
/// <param name="Most">Kilometres or days; null where so little wear shows that nothing can be said.</param>
public readonly record struct Stretch(decimal Least, decimal? Most);

/// <summary>How exactly a date is known.</summary>
public enum DateGrain
{
    /// <summary>To the week: it is given as its Monday.</summary>
    Week,

    /// <summary>To the month: it is given as its first day.</summary>
    Month,

    /// <summary>To the year: it is given as its first day.</summary>
    Year,
}

/// <summary>When a limit is reached, as a range.</summary>
/// <param name="First">The earliest day, as its week, month or year begins.</param>
/// <param name="Last">The last day, as its week, month or year begins; null where it is open.</param>
/// <param name="Grain">What the two stand for.</param>
public readonly record struct DateRange(DateOnly First, DateOnly? Last, DateGrain Grain);

/// <summary>How far and how long a part goes until a limit.</summary>
/// <param name="Source">Where the rate comes from.</param>
/// <param name="Vehicles">Vehicles of the same model that it comes from; 0 where the part's own visits tell.</param>
/// <param name="Road">Kilometres from the last visit, rounded outward to two digits; null where distances are not known.</param>
/// <param name="Time">Days from the last visit; null where no days lie between the visits.</param>
/// <param name="Dates">The same as dates.</param>
public sealed record WearForecast(RateSource Source, int Vehicles, Stretch? Road, Stretch? Time, DateRange? Dates)
{
    /// <summary>
    /// How much the logarithm of a part's rate by distance changes from one stretch to the next, before its own visits tell: other drivers,
    /// loads and seasons. Held against vehicles that change by rules which the forecast does not know (docs/forecast.md).
    /// </summary>
    internal const double ByRoad = 0.19;

    /// <summary>The same by days: there the distance of a day changes too.</summary>
    internal const double ByDay = 0.28;

    /// <summary>How much the logarithms of the rates of one model's vehicles differ, before they tell by themselves.</summary>
    internal const double AmongVehicles = 0.4;

    /// <summary>What is assumed counts as much as so many differences that were seen.</summary>
    internal const int PriorWeight = 6;

    // Nine in ten of a normal spread lie below: with as many above the other end, eight in ten lie between.
    private const double OneSide = 1.2816;

    // Wear below that is not told apart from what the gauge does.
    private const double LeastWearInSigmas = 2;
    private const decimal MostDistance = 9_900_000;
    private const decimal MostDays = 36_500;

    /// <summary>Works out a range to a limit.</summary>
    /// <param name="kind">Rotor or drum.</param>
    /// <param name="limit">Machine-to or discard.</param>
    /// <param name="visits">Sizes of this part, the earliest first, at least one.</param>
    /// <param name="fitted">Size when new, with the day and distance at which it was fitted; null where that is not known.</param>
    /// <param name="modelPerKilometre">Rates of the same model by distance, for a part with one visit.</param>
    /// <param name="modelPerDay">The same by days.</param>
    /// <returns>Null where nothing can be said.</returns>
    /// <exception cref="ArgumentException">There is no visit.</exception>
    public static WearForecast? Of(
        PartKind kind,
        Length limit,
        IReadOnlyList<SizeSeen> visits,
        SizeSeen? fitted = null,
        ModelRates? modelPerKilometre = null,
        ModelRates? modelPerDay = null
    )
    {
        ArgumentNullException.ThrowIfNull(visits);
        if (visits.Count == 0)
            throw new ArgumentException("At least one visit.", nameof(visits));
        var now = visits[^1];
        var stock = (double)Limits.Margin(kind, now.Size, limit).Millimetres;
        var sigma = Sigma(now);
        IReadOnlyList<SizeSeen> seen = visits.Count == 1 && fitted is { } at ? [at, now] : visits;
        var source =
            visits.Count > 1 || stock <= 0 ? RateSource.OwnVisits
            : fitted is not null ? RateSource.FromNew
            : RateSource.SameModel;
        Stretch? road = Along(kind, seen, byDay: false, modelPerKilometre) is { } perKilometre
            ? Range(stock, sigma, perKilometre, MostDistance)
            : null;
        Stretch? time = Along(kind, seen, byDay: true, modelPerDay) is { } perDay ? Range(stock, sigma, perDay, MostDays) : null;
        // Whoever has reached the limit is there, whatever its rate is.
        if (stock <= 0)
            (road, time) = (new Stretch(0, 0), new Stretch(0, 0));
        if (road is null && time is null)
            return null;
        return new(
            source,
            source == RateSource.SameModel ? Math.Max(modelPerKilometre?.Vehicles ?? 0, modelPerDay?.Vehicles ?? 0) : 0,
            road is { } r ? new(Outward(r.Least, up: false), r.Most is { } most ? Outward(most, up: true) : null) : null,
            time,
            time is { } days ? DatesOf(now.Day, days) : null
        );
    }

    /// <summary>The part's own rate in mm per kilometre or day, as one of its model's; null where it has too few visits.</summary>
    /// <param name="kind">Rotor or drum.</param>
    /// <param name="visits">Sizes of the part, the earliest first.</param>
    /// <param name="byDay">By days; otherwise by kilometres.</param>
    public static double? RateOf(PartKind kind, IReadOnlyList<SizeSeen> visits, bool byDay)
    {
        ArgumentNullException.ThrowIfNull(visits);
        return Along(kind, visits, byDay, null) is { Rate: > 0 } pace ? pace.Rate : null;
    }

    // What is known of a pace: mm per kilometre or day, how well it was measured, and how much it changes.
    private readonly record struct Pace(double Rate, double Sigma, double Spread);

    private static Pace? Along(PartKind kind, IReadOnlyList<SizeSeen> seen, bool byDay, ModelRates? model)
    {
        var change = byDay ? ByDay : ByRoad;
        if (seen.Count < 2)
            return model is not { } of
                ? null
                : new(Math.Exp(of.LogMean), 0, Math.Sqrt(of.LogSpread * of.LogSpread * (1 + 1.0 / of.Vehicles) + change * change));
        var stretches = new List<(double Length, double Worn, double Variance)>();
        var (worn, variance, total) = (0.0, 0.0, 0.0);
        decimal? from = null;
        for (var i = 0; i < seen.Count; i++)
        {
            var one = seen[i];
            if (i > 0)
            {
                worn += (double)Limits.Margin(kind, seen[i - 1].Size, one.Came).Millimetres;
                // Where nothing was cut, one reading ends a stretch and begins the next: its error leaves the sum again.
                total += seen[i - 1].Left is null && i > 1 ? 0 : Square(Sigma(seen[i - 1]));
                total += one.Left is null && i < seen.Count - 1 ? 0 : Square(Sigma(one));
                variance += Square(Sigma(seen[i - 1])) + Square(Sigma(one));
            }
            if ((byDay ? one.Day.DayNumber : one.Kilometres) is not { } here)
                continue;
            // An odometer that was changed begins anew; two visits at one distance are one.
            if (from is { } before && here > before)
                stretches.Add(((double)(here - before), worn, variance));
            if (from is null || here != from)
                (from, worn, variance) = (here, 0, 0);
        }
        if (stretches.Count == 0)
            return null;
        var length = stretches.Sum(s => s.Length);
        var rate = stretches.Sum(s => s.Worn) / length;
        return new(rate, Math.Sqrt(total) / length, SpreadOf(stretches, rate, length, change));
    }

    private static double SpreadOf(List<(double Length, double Worn, double Variance)> stretches, double rate, double length, double change)
    {
        var (squares, told) = (0.0, 0);
        foreach (var (of, worn, variance) in stretches)
        {
            if (rate <= 0 || worn < LeastWearInSigmas * Math.Sqrt(variance))
                continue;
            told++;
            squares += Math.Max(0, Square(Math.Log(worn / of / rate)) - variance / Square(worn));
        }
        var prior = change * change * PriorWeight;
        var between = (prior + squares) / (PriorWeight + Math.Max(0, told - 1));
        // The mean of the past changes less than one stretch does.
        return Math.Sqrt(between * (1 + stretches.Sum(s => Square(s.Length / length))));
    }

    private static Stretch Range(double stock, double sigma, Pace pace, decimal most)
    {
        // One reading tells no more than whether the limit is reached.
        var (thin, thick) = (Math.Max(0, stock - OneSide * sigma), Math.Max(0, stock + OneSide * sigma));
        if (pace.Rate <= LeastWearInSigmas * pace.Sigma || pace.Rate <= 0)
        {
            var fastest = (Math.Max(0, pace.Rate) + OneSide * pace.Sigma) * Math.Exp(OneSide * pace.Spread);
            return new(fastest <= 0 ? most : Whole(thin / fastest, most), null);
        }
        var relative = Math.Sqrt(Square(pace.Spread) + Square(pace.Sigma / pace.Rate));
        if (thin <= 0)
            return new(0, Whole(thick / pace.Rate * Math.Exp(OneSide * relative), most));
        relative = Math.Sqrt(Square(relative) + Square(sigma / stock));
        var middle = stock / pace.Rate;
        return new(Whole(middle * Math.Exp(-OneSide * relative), most), Whole(middle * Math.Exp(OneSide * relative), most));
    }

    private static decimal Whole(double value, decimal most) => value >= (double)most ? most : Math.Floor((decimal)value);

    // Two digits: 23 400 becomes 23 000 as the least and 24 000 as the most.
    private static decimal Outward(decimal value, bool up)
    {
        var unit = 1m;
        while (value / unit >= 100)
            unit *= 10;
        return (up ? Math.Ceiling(value / unit) : Math.Floor(value / unit)) * unit;
    }

    private static DateRange DatesOf(DateOnly from, Stretch days)
    {
        var first = from.AddDays((int)days.Least);
        DateOnly? last = days.Most is { } most ? from.AddDays((int)most) : null;
        var width = (last ?? first).DayNumber - (last is null ? from : first).DayNumber;
        var grain =
            width <= 60 ? DateGrain.Week
            : width <= 730 ? DateGrain.Month
            : DateGrain.Year;
        return new(Begin(first, grain), last is { } end ? Begin(end, grain) : null, grain);
    }

    private static DateOnly Begin(DateOnly day, DateGrain grain) =>
        grain switch
        {
            DateGrain.Year => new(day.Year, 1, 1),
            DateGrain.Month => new(day.Year, day.Month, 1),
            _ => day.AddDays(-(((int)day.DayOfWeek + 6) % 7)),
        };

    private static double Square(double value) => value * value;

    private static double Sigma(SizeSeen seen) => (double)seen.Uncertainty.Millimetres / 2;
}
