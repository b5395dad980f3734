using Microsoft.EntityFrameworkCore;
using Uncial.Core.Gauges;

namespace Uncial.Data.Queries;

/// <summary>What the records say of gauges.</summary>
public static class GaugeQueries
{
    /// <summary>Newest sizes of a gauge that are looked back on for its repeats, those that do not count among them.</summary>
    public const int RepeatsLookedBack = 2000;

    /// <summary>The owner that a gauge has now, by its number; null for a gauge that no instance was ever connected to.</summary>
    public static Task<long?> FenceAsync(this UncialDb db, Gauge? gauge, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        var id = gauge?.Id;
        return db
            .LiveDevices.Where(d => d.Kind == DeviceKind.Gauge && d.DeviceId == id)
            .Select(d => (long?)d.Fence)
            .SingleOrDefaultAsync(cancel);
    }

    /// <summary>
    /// What repeats on record say of a gauge, for each person and for all: sizes of one place after one cut, read with it and standing,
    /// less
    /// their mean.
    /// </summary>
    public static async Task<IReadOnlyDictionary<int, Repeatability>> RepeatsAsync(UncialDb db, int gauge, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        var rows = await db
            .Database.SqlQuery<PersonRepeats>(
                $"""
                with newest as materialized (
                    select * from readings where gauge_id = {gauge} and kind = 'Size' order by id desc limit {RepeatsLookedBack})
                select by_id, sum(squares) as squares, sum(degrees)::int as degrees from (
                    select by_id, count(*) * var_pop(value_mm) as squares, count(*) - 1 as degrees from (
                        select r.*, s.kind as surface_kind from newest r join surfaces s on s.id = r.surface_id
                            where r.from_file is not true
                                and not exists (select from withdrawals w where w.reading_id = r.id)
                                and not exists (select from reading_flags f where f.reading_id = r.id)) r
                    group by surface_id, cuts, mod(coalesce(degrees, 0), case when surface_kind = 'Rotor' then 360 else 180 end),
                        station_mm, by_id having count(*) > 1) spot
                group by by_id
                """
            )
            .ToListAsync(cancel);
        return rows.ToDictionary(r => r.ById, r => new Repeatability(r.Squares, r.Degrees));
    }

    /// <summary>
    /// Looks up what repeats on record say of a gauge of a person: the person's own from twenty degrees of freedom on, otherwise
    /// everybody's.
    /// </summary>
    public static async Task LoadRepeatsAsync(UncialDb db, Gauge gauge, int person, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(gauge);
        var all = await RepeatsAsync(db, gauge.Id, cancel);
        gauge.Pooled = PooledOf(all, person);
    }

    /// <summary>What counts for a person of what is on record.</summary>
    public static Repeatability PooledOf(IReadOnlyDictionary<int, Repeatability> all, int person)
    {
        ArgumentNullException.ThrowIfNull(all);
        return all.TryGetValue(person, out var own) && own.Degrees >= Repeatability.OwnDegrees
            ? own
            : all.Values.Aggregate(default(Repeatability), (sum, r) => new(sum.Squares + r.Squares, sum.Degrees + r.Degrees));
    }

    private sealed record PersonRepeats(int ById, decimal Squares, int Degrees);
}
