using Microsoft.EntityFrameworkCore;
using Uncial.Core.Gauges;
using Uncial.Core.Lengths;

namespace Uncial.Data.Commands;

/// <summary>Gauges are checked on their standards.</summary>
public static class GaugeCommands
{
    /// <summary>Enters a gauge or changes it.</summary>
    /// <param name="action">The action.</param>
    /// <param name="shop">The shop, with its gauges.</param>
    /// <param name="gauge">The gauge; null for a new one.</param>
    /// <param name="name">Its name, which no other gauge has.</param>
    /// <param name="set">Sets what is known of it.</param>
    /// <param name="retired">It is not used any more.</param>
    /// <param name="cancel">Cancels.</param>
    public static Task<Result<Gauge>> KeepAsync(
        ShopAction action,
        Shop shop,
        Gauge? gauge,
        string name,
        Action<Gauge> set,
        bool retired,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(action);
        ArgumentNullException.ThrowIfNull(shop);
        ArgumentNullException.ThrowIfNull(set);
        return action.RunAsync<Gauge>(
            Role.Owner,
            gauge?.Turn ?? 0,
            () =>
            {
                if (shop.Gauges.Exists(g => g.Id != gauge?.Id && g.Name == name))
                    return new Refusal.Taken();
                if (gauge is null)
                    shop.Gauges.Add(gauge = new() { Name = name, ShopId = shop.Id });
                gauge.Name = name;
                set(gauge);
                gauge.RetiredAt = retired ? gauge.RetiredAt ?? action.Actor.At : null;
                gauge.Turn++;
                return gauge;
            },
            cancel
        );
    }

    /// <summary>
    /// Reads a gauge on its standard. Where it fails, its readings since the last good check are flagged, wherever they were used.
    /// </summary>
    /// <param name="gauge">The gauge, with its checks.</param>
    /// <param name="typed">What it showed on its standard.</param>
    /// <param name="since">Its readings since the last good check.</param>
    /// <param name="actor">Who checks.</param>
    public static ZeroCheckEntry CheckZero(Gauge gauge, TypedLength typed, IEnumerable<ReadingEntry> since, Actor actor)
    {
        ArgumentNullException.ThrowIfNull(gauge);
        ArgumentNullException.ThrowIfNull(typed);
        ArgumentNullException.ThrowIfNull(since);
        var check = new ZeroCheck(gauge.StandardSize!.Value, typed.Value, gauge.ZeroTolerance!.Value);
        var entry = new ZeroCheckEntry
        {
            GaugeId = gauge.Id,
            Nominal = check.Nominal,
            Shown = check.Shown,
            Typed = typed.Text,
            Tolerance = check.Tolerance,
            Passed = check.Passes,
            At = actor.At,
            ById = actor.Id,
        };
        gauge.ZeroChecks.Add(entry);
        if (check.Passes)
            return entry;
        foreach (var reading in since.Where(r => r.Flag is null))
            reading.Flag = new()
            {
                ZeroCheck = entry,
                At = actor.At,
                ById = actor.Id,
            };
        return entry;
    }

    /// <summary>
    /// Keeps a check of a gauge on its standard. Where it fails, its readings since the last good check are flagged wherever they were
    /// used,
    /// and pages that show them notice.
    /// </summary>
    /// <param name="db">The database; the gauge has its latest checks.</param>
    /// <param name="gauge">The gauge, which has a standard.</param>
    /// <param name="typed">What it showed.</param>
    /// <param name="actor">Who checked.</param>
    /// <param name="cancel">Cancels the work.</param>
    /// <returns>The check.</returns>
    public static async Task<ZeroCheckEntry> CheckAsync(UncialDb db, Gauge gauge, TypedLength typed, Actor actor, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(gauge);
        for (var tries = 1; ; tries++)
        {
            try
            {
                return await CheckOnceAsync(db, gauge, typed, actor, cancel);
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

    private const int MostTries = 4;

    private static async Task<ZeroCheckEntry> CheckOnceAsync(
        UncialDb db,
        Gauge gauge,
        TypedLength typed,
        Actor actor,
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
        var check = GaugeCommands.CheckZero(gauge, typed, since, actor);
        db.ZeroChecks.Add(check);
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
