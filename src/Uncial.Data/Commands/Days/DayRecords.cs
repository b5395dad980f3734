using Microsoft.EntityFrameworkCore;
using Uncial.Core.Scheduling;
using Uncial.Core.Times;

namespace Uncial.Data.Commands;

/// <summary>What was planned when a day was opened is kept, and beside it what happened once it is over. Each is written once.</summary>
public static class DayRecords
{
    /// <summary>Days that were missed, such as while the machine was off, are made up for so far back.</summary>
    private const int MakesUpFor = 14;

    /// <summary>Keeps what is planned for a day, where nothing is kept of it yet.</summary>
    /// <returns>Whether it was kept now.</returns>
    public static async Task<bool> KeepForecastAsync(
        UncialDb db,
        DateOnly day,
        DayForecast forecast,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(db);
        if (await db.DaysPlanned.AnyAsync(d => d.Day == day, cancel))
            return false;
        db.DaysPlanned.Add(
            new()
            {
                Day = day,
                At = now,
                Forecast = forecast,
            }
        );
        return await db.TrySaveAsync(cancel) is null;
    }

    /// <summary>Keeps what happened on the days before today that were planned and of which nothing is kept yet.</summary>
    /// <param name="db">The database.</param>
    /// <param name="shop">Its lathes.</param>
    /// <param name="settings">Minutes of a change of adapters.</param>
    /// <param name="time">The shop's time.</param>
    /// <param name="now">The moment.</param>
    /// <param name="cancel">Cancels.</param>
    /// <returns>How many days.</returns>
    public static async Task<int> KeepResultsAsync(
        UncialDb db,
        Shop shop,
        DaySettings settings,
        ShopTime time,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(time);
        var today = time.DayOf(now);
        var open = await db
            .DaysPlanned.Where(d => d.Day < today && d.Day >= today.AddDays(-MakesUpFor) && !db.DaysHappened.Any(h => h.Day == d.Day))
            .Select(d => d.Day)
            .ToListAsync(cancel);
        foreach (var day in open.Order())
            db.DaysHappened.Add(
                new()
                {
                    Day = day,
                    At = now,
                    Result = await ResultAsync(db, shop, settings, time.BeginOf(day), time.BeginOf(day.AddDays(1)), cancel),
                }
            );
        return open.Count == 0 || await db.TrySaveAsync(cancel) is not null ? 0 : open.Count;
    }

    /// <summary>What happened between two moments, by the records.</summary>
    public static async Task<DayResult> ResultAsync(
        UncialDb db,
        Shop shop,
        DaySettings settings,
        DateTimeOffset from,
        DateTimeOffset to,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(shop);
        ArgumentNullException.ThrowIfNull(settings);
        var promised = await db
            .Jobs.Where(j => j.PromisedAt >= from && j.PromisedAt < to)
            .Select(j => new
            {
                j.PromisedAt,
                // A part that left without being judged was done with when it left.
                Parts = j
                    .Parts.Select(p => new
                    {
                        Judged = p.Surfaces.All(s => s.Confirmations.Count > 0)
                            ? p.Surfaces.Max(s => s.Confirmations.Max(c => (DateTimeOffset?)c.At))
                            : null,
                        Left = p.Outcomes.Where(o => o.Withdrawal == null).Max(o => (DateTimeOffset?)o.At),
                    })
                    .ToList(),
            })
            .ToListAsync(cancel);
        var mounts = await db
            .Mounts.Where(m => m.At >= from && m.At < to)
            .Join(
                db.Surfaces,
                m => m.SurfaceId,
                s => s.Id,
                (m, s) =>
                    new
                    {
                        m.SurfaceId,
                        m.LatheId,
                        s.Part!.JobId,
                        s.Kind,
                        m.Centring,
                        m.At,
                        Last = db.Passes.Where(p => p.SurfaceId == s.Id && p.At >= m.At && p.At < to).Max(p => (DateTimeOffset?)p.At),
                    }
            )
            .ToListAsync(cancel);
        return DayResult.Of(
            [
                .. promised.Select(j => new PromiseMade(
                    j.PromisedAt!.Value,
                    j.Parts.Count > 0 && j.Parts.TrueForAll(p => (p.Judged ?? p.Left) is not null)
                        ? j.Parts.Max(p => p.Judged ?? p.Left)
                        : null
                )),
            ],
            [
                // A part that was taken off and put on again is one block.
                .. mounts
                    .Where(m => m.Last is not null)
                    .GroupBy(m => (m.SurfaceId, m.LatheId))
                    .Select(g => (From: g.Min(m => m.At), Last: g.MaxBy(m => m.At)!))
                    .Select(b => new BlockDone(
                        b.Last.LatheId,
                        b.Last.JobId,
                        new(b.Last.Kind, b.Last.Centring),
                        b.From,
                        b.Last.Last!.Value,
                        (
                            (int)Math.Ceiling(shop.Lathes.Find(l => l.Id == b.Last.LatheId)?.Profile.ChangeOverMinutes ?? 0),
                            settings.AdapterMinutes
                        )
                    )),
            ]
        );
    }

    /// <summary>The days that are over, the newest first, with what was planned.</summary>
    public static Task<List<DayKept>> SinceAsync(UncialDb db, DateOnly since, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        return db
            .DaysHappened.AsNoTracking()
            .Where(h => h.Day >= since)
            .OrderByDescending(h => h.Day)
            .Join(db.DaysPlanned.AsNoTracking(), h => h.Day, p => p.Day, (h, p) => new DayKept(h.Day, p.Forecast, h.Result))
            .ToListAsync(cancel);
    }
}

/// <summary>A day that is over.</summary>
/// <param name="Day">The day.</param>
/// <param name="Planned">What was planned when it was opened.</param>
/// <param name="Happened">What happened.</param>
public sealed record DayKept(DateOnly Day, DayForecast Planned, DayResult Happened);
