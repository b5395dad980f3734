using Uncial.Core.Lengths;
using Uncial.Core.Vehicles;

namespace Uncial.Core.Tests.Vehicles;

/// <summary>One rotor's life as it truly was: what was read of it, and how far it went from the last visit to discard.</summary>
/// <param name="Seen">What the shop read.</param>
/// <param name="Kilometres">True way from the last visit to discard.</param>
/// <param name="Days">True time from the last visit to discard.</param>
internal sealed record DrivenRotor(IReadOnlyList<SizeSeen> Seen, double Kilometres, double Days);

/// <summary>
/// Vehicles whose drivers change, whose wear and distance go with the seasons, and whose gauges err, by rules that the forecast does not
/// know.
/// </summary>
internal static class DrivenVehicles
{
    public const decimal Discard = 23;
    private const double New = 26;
    private const int StepDays = 4;
    private static readonly DateOnly Begin = new(2020, 1, 6);

    /// <summary>As many as are asked for, each with at least two visits and life left at the last one.</summary>
    /// <param name="seed">Begins the row of chances.</param>
    /// <param name="count">How many.</param>
    /// <param name="told">U of which the shop believes its readings to be.</param>
    public static IEnumerable<DrivenRotor> Drive(int seed, int count, Length told)
    {
        var random = new Random(seed);
        for (var made = 0; made < count; )
            if (One(random, told) is { } rotor)
            {
                made++;
                yield return rotor;
            }
    }

    private static DrivenRotor? One(Random random, Length told)
    {
        var (rate, pace) = (2.5e-5 * Math.Exp(0.5 * Normal(random)), 40 * Math.Exp(0.4 * Normal(random)));
        var (phase, gauge) = (random.NextDouble() * 365, 0.006 + 0.016 * random.NextDouble());
        var (wearSeason, roadSeason) = (0.3 * random.NextDouble(), 0.3 * random.NextDouble());
        var (driverRate, driverPace, driverUntil) = (1.0, 1.0, 0.0);
        var visits = 2 + random.Next(5);
        var seen = new List<SizeSeen>();
        var (size, kilometres, day, next) = (New, 0.0, 0, 90 + random.Next(500));
        double? atLast = null;
        var dayOfLast = 0;
        while (size > (double)Discard && day < 40_000)
        {
            if (day >= driverUntil)
            {
                (driverRate, driverPace) = (Math.Exp(0.28 * Normal(random)), Math.Exp(0.3 * Normal(random)));
                driverUntil = day - 450 * Math.Log(1 - random.NextDouble());
            }
            var season = Math.Sin(2 * Math.PI * (day + phase) / 365);
            var road = pace * driverPace * (1 + roadSeason * season) * StepDays;
            kilometres += road;
            size -= rate * driverRate * (1 + wearSeason * season) * road;
            day += StepDays;
            if (seen.Count >= visits || day < next)
                continue;
            var came = Read(size);
            Length? left = null;
            if (random.NextDouble() < 0.3 && size > (double)Discard + 1)
            {
                size -= 0.15 + 0.3 * random.NextDouble();
                left = Read(size);
            }
            seen.Add(new(Begin.AddDays(day), Math.Round((decimal)kilometres), came, left, told));
            next = day + 90 + random.Next(500);
            (atLast, dayOfLast) = (kilometres, day);
        }
        // A rotor that was at discard before its last visit has no forecast to try.
        return seen.Count == visits && size <= (double)Discard && day > dayOfLast
            ? new(seen, kilometres - atLast!.Value, day - dayOfLast)
            : null;

        Length Read(double true_) => Length.FromMillimetres(Math.Round((decimal)(true_ + gauge * Normal(random)), 2));
    }

    private static double Normal(Random random) =>
        Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble());
}
