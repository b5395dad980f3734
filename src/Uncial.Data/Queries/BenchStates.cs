using System.Collections.Concurrent;
using Microsoft.EntityFrameworkCore;
using Uncial.Core.Parts;

namespace Uncial.Data.Queries;

/// <summary>A part on the bench, at the surface that is furthest behind. It is shared between requests: nothing is added to it.</summary>
/// <param name="Part">The part, with its job.</param>
/// <param name="Record">The surface that is furthest behind.</param>
/// <param name="Number">Which surface of the part that is, from 1.</param>
/// <param name="Station">Where it waits.</param>
/// <param name="Stamp">Another number whenever anything of the part has changed.</param>
/// <param name="Surfaces">All its surfaces, in their order.</param>
public sealed record BenchPart(
    Part Part,
    SurfaceRecord Record,
    int Number,
    Station Station,
    long Stamp,
    IReadOnlyList<SurfaceRecord> Surfaces
);

/// <summary>The parts on the bench.</summary>
/// <param name="Parts">By promise, job and corner.</param>
/// <param name="Stamp">Another number whenever a part came, left or changed.</param>
public sealed record BenchNow(IReadOnlyList<BenchPart> Parts, long Stamp);

/// <summary>
/// The parts on the bench with their states, kept between requests. Each request asks the database whether one has changed since, whoever
/// changed
/// it, and only these are read anew. One for each database.
/// </summary>
public sealed class BenchStates(ShopCache shops) : IDisposable
{
    /// <summary>Where the rows of each part lie and which transaction wrote them, and how many facts it has.</summary>
    private const string Versions = """
        with here as materialized (select part_id from log_lines where outcome is null or out_at >= {0}),
        versions as (select p.id, concat_ws('|', p.xmin, p.ctid, j.xmin, j.ctid, c.last, s.versions) as version
        from here h join parts p on p.id = h.part_id join jobs j on j.id = p.job_id left join fact_counters c on c.part_id = p.id
            left join (select part_id, string_agg(xmin::text || ctid::text, ',' order by id) as versions from surfaces
                where part_id = any(array(select part_id from here)) group by part_id) s on s.part_id = p.id)
        """;

    private const string OfAll =
        Versions + "select coalesce(md5(string_agg(id || ':' || version, ';' order by id)), '') as \"Value\" from versions";

    private const string OfEach = Versions + "select id, version from versions";

    private readonly ConcurrentDictionary<int, Kept> kept = new();
    private readonly SemaphoreSlim asking = new(1, 1);
    private long asked;
    private Whole? whole;
    private long stamps;

    private sealed record Kept(string Version, string Shop, BenchPart Part);

    private sealed record Whole(long Asked, string Version, string Shop, DateTimeOffset Since, BenchNow Bench);

    private sealed record PartVersion(int Id, string Version);

    /// <summary>The parts that are in the shop, or left it since a moment.</summary>
    public async Task<BenchNow> OnBenchAsync(UncialDb db, DateTimeOffset since, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        var before = Interlocked.Read(ref asked);
        // Those who come while one asks wait; what was asked after they came answers them all.
        await asking.WaitAsync(cancel);
        try
        {
            if (whole is { } answer && answer.Asked > before && answer.Since == since)
                return answer.Bench;
            return await AskAsync(db, since, Interlocked.Increment(ref asked), cancel);
        }
        finally
        {
            asking.Release();
        }
    }

    private async Task<BenchNow> AskAsync(UncialDb db, DateTimeOffset since, long number, CancellationToken cancel)
    {
        var (shop, shopVersion, _) = await shops.ShopAsync(db, cancel);
        var version = await db.Database.SqlQueryRaw<string>(OfAll, since).SingleAsync(cancel);
        if (whole is { } known && known.Version == version && known.Shop == shopVersion && known.Since == since)
        {
            whole = known with { Asked = number };
            return known.Bench;
        }
        var parts = await ReadAsync(db, shop, shopVersion, since, cancel);
        var bench = new BenchNow(
            [
                .. parts
                    .OrderBy(p => p.Part.Job!.PromisedAt ?? DateTimeOffset.MaxValue)
                    .ThenBy(p => p.Part.Job!.Number)
                    .ThenBy(p => p.Part.Corner),
            ],
            Interlocked.Increment(ref stamps)
        );
        if (shopVersion is not null)
            whole = new(number, version, shopVersion, since, bench);
        return bench;
    }

    public void Dispose() => asking.Dispose();

    /// <summary>Reads those anew that have changed.</summary>
    private async Task<List<BenchPart>> ReadAsync(
        UncialDb db,
        Shop shop,
        string? shopVersion,
        DateTimeOffset since,
        CancellationToken cancel
    )
    {
        var now = await db.Database.SqlQueryRaw<PartVersion>(OfEach, since).ToListAsync(cancel);
        var (bench, changed) = (new List<BenchPart>(), new Dictionary<int, string>());
        foreach (var part in now)
            if (kept.TryGetValue(part.Id, out var one) && one.Version == part.Version && one.Shop == shopVersion)
                bench.Add(one.Part);
            else
                changed[part.Id] = part.Version;
        if (changed.Count > 0)
        {
            var workshop = shop.Workshop;
            foreach (var part in await db.PartsAsync(changed.Keys, cancel))
            {
                var surfaces = part.Surfaces.Select(s => new SurfaceRecord(s, part, shop, workshop)).ToList();
                var behind = surfaces.OrderBy(s => s.Station).First();
                var read = new BenchPart(
                    part,
                    behind,
                    surfaces.IndexOf(behind) + 1,
                    behind.Station,
                    Interlocked.Increment(ref stamps),
                    surfaces
                );
                bench.Add(read);
                // A fact that came in between is in the state already; its version differs next time, and the part is read once more.
                if (shopVersion is not null)
                    kept[part.Id] = new(changed[part.Id], shopVersion, read);
            }
        }
        foreach (var gone in kept.Keys.Except(now.Select(p => p.Id)))
            kept.TryRemove(gone, out _);
        return bench;
    }
}
