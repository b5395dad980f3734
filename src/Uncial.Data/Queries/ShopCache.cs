using System.Collections.Concurrent;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata;

namespace Uncial.Data.Queries;

/// <summary>The shop at one moment.</summary>
/// <param name="Shop">Its settings, gauges, lathes, adapters and techniques.</param>
/// <param name="Settings">Changes with any of them; null inside a transaction.</param>
/// <param name="Records">Changes with whatever is recorded at a lathe: mountings, checks, passes, judgements, inserts, chatter,
/// swarf.</param>
public sealed record ShopNow(Shop Shop, string? Settings, string? Records);

/// <summary>
/// The shop with its settings, gauges, lathes, adapters and techniques, kept between requests. Each request asks the database in one round
/// trip
/// whether a row of them has changed since, whoever changed it; only then are they read anew. One for each database.
/// </summary>
public sealed class ShopCache
{
    /// <summary>
    /// Where a row lies and which transaction wrote it; checks and changes of rules are only added. Then the newest of what is recorded at
    /// lathes,
    /// which is only added too.
    /// </summary>
    private const string Version = """
        select concat_ws('|', (select string_agg(xmin::text || ctid::text, '' order by id) from shops),
            (select string_agg(xmin::text || ctid::text, '' order by id) from gauges),
            (select string_agg(xmin::text || ctid::text, '' order by id) from lathes),
                (select string_agg(xmin::text || ctid::text, '' order by id) from adapters),
            (select string_agg(xmin::text || ctid::text, '' order by id) from techniques),
                (select string_agg(xmin::text || ctid::text, '' order by id) from operators),
            coalesce((select max(id) from zero_checks), 0), coalesce((select max(id) from rule_changes), 0)) as settings,
            concat_ws('|', coalesce((select max(id) from passes), 0), coalesce((select max(id) from confirmations), 0),
                coalesce((select max(id) from insert_events), 0),
            coalesce((select max(id) from set_up_checks), 0), coalesce((select max(id) from mounts), 0),
                coalesce((select max(id) from cut_stops), 0),
            coalesce((select max(id) from chatters), 0), coalesce((select max(id) from bins_emptied), 0)) as records
        """;

    /// <summary>A few for each lathe; more than any shop has.</summary>
    private const int MostAnswers = 1000;

    private volatile Kept? kept;

    private readonly ConcurrentDictionary<string, (string Version, object? Answer)> answers = new(StringComparer.Ordinal);

    private sealed record Kept(string Version, Shop Shop);

    private sealed record Versions(string Settings, string Records);

    /// <summary>
    /// The shop as it is now, for reading: a copy that is tracked by nobody and may be written to without anybody seeing it. Inside a
    /// transaction,
    /// whose changes nobody else sees yet, it is read anew.
    /// </summary>
    public async Task<ShopNow> ShopAsync(UncialDb db, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        if (db.Database.CurrentTransaction is not null)
            return new(await db.ShopAsync(cancel), null, null);
        var version = await db.Database.SqlQueryRaw<Versions>(Version).SingleAsync(cancel);
        var now = kept;
        if (now?.Version != version.Settings)
        {
            await using var reading = db.Sibling();
            kept = now = new(version.Settings, await reading.ShopAsync(cancel));
        }
        return new(Copy(now.Shop, db.Model), version.Settings, version.Records);
    }

    /// <summary>The answer to a question about what is recorded at the lathes, asked only where something was recorded since.</summary>
    /// <param name="shop">The shop as this request has it.</param>
    /// <param name="question">Names the question with everything that it depends on besides settings and records.</param>
    /// <param name="ask">Asks the database; what it answers is shared and never written to.</param>
    public async Task<T> AnswerAsync<T>(ShopNow shop, string question, Func<Task<T>> ask)
    {
        ArgumentNullException.ThrowIfNull(shop);
        ArgumentNullException.ThrowIfNull(ask);
        if (shop.Settings is null)
            return await ask();
        var version = shop.Settings + "|" + shop.Records;
        if (answers.TryGetValue(question, out var known) && known.Version == version)
            return (T)known.Answer!;
        var answer = await ask();
        if (answers.Count > MostAnswers)
            answers.Clear();
        answers[question] = (version, answer);
        return answer;
    }

    private static Shop Copy(Shop shop, IModel model)
    {
        var copy = RowCopy<Shop>.Of(shop, model);
        copy.LaxerRules = shop.LaxerRules;
        copy.Lathes.AddRange(shop.Lathes.Select(l => RowCopy<ShopLathe>.Of(l, model)));
        copy.Board.AddRange(shop.Board.Select(a => RowCopy<BoardAdapter>.Of(a, model)));
        copy.OwnTechniques.AddRange(shop.OwnTechniques.Select(t => RowCopy<ShopTechnique>.Of(t, model)));
        foreach (var gauge in shop.Gauges)
        {
            var of = RowCopy<Gauge>.Of(gauge, model);
            of.ZeroChecks.AddRange(gauge.ZeroChecks);
            copy.Gauges.Add(of);
        }
        return copy;
    }
}
