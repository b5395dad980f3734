using Microsoft.EntityFrameworkCore;
using Uncial.Core.Gauges;
using Uncial.Core.Lengths;

namespace Uncial.Data;

/// <summary>What a check of a gauge does to the shop's records.</summary>
public static class GaugeBook
{
    /// <summary>
    /// Keeps a check of a gauge on its standard. Where it fails, its readings since the last good check are flagged wherever they were used,
    /// and pages that show them notice.
    /// </summary>
    /// <param name="db">The database; the gauge is tracked by it, with its latest checks.</param>
    /// <param name="gauge">The gauge, which has a standard.</param>
    /// <param name="typed">What it showed.</param>
    /// <param name="hand">Who checked.</param>
    /// <param name="cancel">Cancels the work.</param>
    /// <returns>The check.</returns>
    public static async Task<ZeroCheckEntry> CheckAsync(UncialDb db, Gauge gauge, TypedLength typed, Hand hand, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(gauge);
        for (var tries = 1; ; tries++)
        {
            try
            {
                return await CheckOnceAsync(db, gauge, typed, hand, cancel);
            }
            catch (Exception e)
                when (tries < MostTries
                    && (e.InnerException ?? e) is Npgsql.PostgresException { SqlState: Npgsql.PostgresErrorCodes.DeadlockDetected }
                )
            {
                // A reading of this gauge was being stored: what was begun here is forgotten, and done again.
                gauge.ZeroChecks.RemoveAll(c => c.Id == 0 || db.Entry(c).State == EntityState.Added);
                foreach (
                    var entry in db.ChangeTracker.Entries().Where(e => e.State == EntityState.Added || e.Entity is ReadingEntry).ToList()
                )
                    entry.State = EntityState.Detached;
            }
        }
    }

    /// <summary>Readings of a gauge that are looked back on for its repeats.</summary>
    public const int RepeatsLookedBack = 2000;

    /// <summary>
    /// What repeats on record say of a gauge, for each person and for all: sizes of one place after one cut, read with it and standing, less
    /// their mean.
    /// </summary>
    public static async Task<IReadOnlyDictionary<int, Repeatability>> RepeatsAsync(UncialDb db, int gauge, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        var rows = await db
            .Database.SqlQuery<PersonRepeats>(
                $"""
                select by_id, sum(squares) as squares, sum(degrees)::int as degrees from (
                    select by_id, count(*) * var_pop(value_mm) as squares, count(*) - 1 as degrees from (
                        select r.*, s.kind as surface_kind from readings r join surfaces s on s.id = r.surface_id
                            left join withdrawals w on w.reading_id = r.id left join reading_flags f on f.reading_id = r.id
                            where r.gauge_id = {gauge} and r.kind = 'Size' and w.id is null and f.id is null and r.from_file is not true order by r.id desc limit {RepeatsLookedBack}) r
                    group by surface_id, cuts, mod(coalesce(degrees, 0), case when surface_kind = 'Rotor' then 360 else 180 end), station_mm, by_id having count(*) > 1) spot
                group by by_id
                """
            )
            .ToListAsync(cancel);
        return rows.ToDictionary(r => r.ById, r => new Repeatability(r.Squares, r.Degrees));
    }

    /// <summary>Looks up what repeats on record say of a gauge in a hand: the person's own from twenty degrees of freedom on, otherwise everybody's.</summary>
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

    private const int MostTries = 4;

    private static async Task<ZeroCheckEntry> CheckOnceAsync(
        UncialDb db,
        Gauge gauge,
        TypedLength typed,
        Hand hand,
        CancellationToken cancel
    )
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        // From here on nobody stores a reading of this gauge until the check is kept: none slips in between.
        await db.Database.ExecuteSqlAsync($"select 1 from gauges where id = {gauge.Id} for update", cancel);
        var good = await db
            .ZeroChecks.Where(c => c.GaugeId == gauge.Id && c.Passed)
            .OrderByDescending(c => c.Id)
            .Select(c => new { c.Id, c.At })
            .FirstOrDefaultAsync(cancel);
        var (goodId, goodAt) = (good?.Id ?? 0, good?.At);
        // Readings of the first version do not know the check before them: of those the clock tells.
        var since = await db
            .Readings.AsTracking()
            .Include(r => r.Flag)
            .Where(r =>
                r.GaugeId == gauge.Id
                && r.Flag == null
                && (r.AfterCheckId >= goodId || (r.AfterCheckId == null && (goodAt == null || (r.TypedAt ?? r.At) > goodAt)))
            )
            .ToListAsync(cancel);
        var check = Journey.CheckZero(gauge, typed, since, hand);
        await db.SaveChangesAsync(cancel);
        var surfaces = since.Where(r => r.Flag is not null).Select(r => r.SurfaceId).Distinct().ToList();
        if (surfaces.Count > 0)
            await db
                .Surfaces.Where(s => surfaces.Contains(s.Id))
                .ExecuteUpdateAsync(set => set.SetProperty(s => s.Turn, s => s.Turn + 1), cancel);
        await transaction.CommitAsync(cancel);
        return check;
    }
}
