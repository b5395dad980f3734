using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using Microsoft.EntityFrameworkCore;
using Npgsql;

namespace Uncial.Data.Integrity;

/// <summary>
/// The newest link of the shop's chain: who keeps it outside the database finds out every later change of what was there.
/// </summary>
/// <param name="Number">Number of the link.</param>
/// <param name="Hash">Its hash, hexadecimal.</param>
/// <param name="At">When it was made, by the database's clock.</param>
public sealed record ChainHead(long Number, string Hash, DateTimeOffset At)
{
    public override string ToString() => string.Create(CultureInfo.InvariantCulture, $"{Number} {Hash} {At.UtcDateTime:O}");

    /// <summary>Reads what <see cref="ToString"/> wrote; null where it is none.</summary>
    public static ChainHead? Read(string? line) =>
        line?.Split(' ', StringSplitOptions.RemoveEmptyEntries) is [var number, var hash, var at]
        && long.TryParse(number, NumberStyles.None, CultureInfo.InvariantCulture, out var n)
        && hash.Length == 64
        && DateTimeOffset.TryParse(at, CultureInfo.InvariantCulture, DateTimeStyles.RoundtripKind, out var time)
            ? new(n, hash, time)
            : null;
}

/// <summary>
/// The chain over the whole shop, and its check: every part's chain, every row that belongs to no part, and the guards themselves. Hashes
/// are
/// worked out here, not by the database that is being checked.
/// </summary>
public static class ShopChain
{
    /// <summary>The tables whose rows are in the chain by themselves.</summary>
    private static IEnumerable<string> Tables =>
        GuardedTables.All.Where(t => !t.IsOfParts).Select(t => t.Name).Concat(["signatures", "parts", "surfaces"]);

    /// <summary>
    /// Takes what was there before the chain began into it; photos of the first version lose their location first. Needs the owner's
    /// login.
    /// </summary>
    public static async Task BeginAsync(UncialDb owner, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(owner);
        var tables = Tables.ToArray();
        if (await owner.ShopChain.AnyAsync(cancel))
        {
            // It has begun: what an earlier version left out of its links is linked again.
            await owner.Database.ExecuteSqlAsync($"select begin_shop_chain({tables})", cancel);
            return;
        }
        await using var transaction = await owner.Database.BeginTransactionAsync(cancel);
        await owner.Database.ExecuteSqlRawAsync("alter table photos disable trigger user", cancel);
        foreach (var id in await owner.Photos.Select(p => p.Id).ToListAsync(cancel))
        {
            var bytes = await owner.Photos.Where(p => p.Id == id).Select(p => p.Bytes).SingleAsync(cancel);
            if (PhotoCleaning.Clean(bytes) is { } cleaned && cleaned.Length != bytes.Length)
                await owner.Photos.Where(p => p.Id == id).ExecuteUpdateAsync(set => set.SetProperty(p => p.Bytes, cleaned), cancel);
        }
        await owner.Database.ExecuteSqlRawAsync("alter table photos enable trigger user", cancel);
        await owner.Database.ExecuteSqlAsync($"select begin_shop_chain({tables})", cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>The newest link; null where the chain has not begun.</summary>
    public static async Task<ChainHead?> HeadAsync(UncialDb db, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        await db.Database.OpenConnectionAsync(cancel);
        try
        {
            return await LinkAsync((NpgsqlConnection)db.Database.GetDbConnection(), null, cancel);
        }
        finally
        {
            await db.Database.CloseConnectionAsync();
        }
    }

    /// <summary>A link of the chain; null where there is none of that number.</summary>
    /// <param name="connection">An open connection.</param>
    /// <param name="number">Its number; null for the newest.</param>
    /// <param name="cancel">Cancels.</param>
    public static async Task<ChainHead?> LinkAsync(NpgsqlConnection connection, long? number, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(
            "select number, hash, at from public.shop_chain where $1 is null or number = $1 order by number desc limit 1",
            connection
        )
        {
            Parameters = { new NpgsqlParameter<long?> { TypedValue = number } },
        };
        await using var reader = await command.ExecuteReaderAsync(cancel);
        return await reader.ReadAsync(cancel)
            ? new(
                reader.GetInt64(0),
                Convert.ToHexStringLower((byte[])reader[1]),
                await reader.GetFieldValueAsync<DateTimeOffset>(2, cancel)
            )
            : null;
    }

    /// <summary>Checks the chain, the rows that it covers, and heads that were kept outside.</summary>
    /// <param name="db">The database.</param>
    /// <param name="kept">Heads that were kept on another medium; none where nobody did.</param>
    /// <param name="cancel">Cancels.</param>
    public static async Task<IReadOnlyList<ChainFault>> CheckAsync(UncialDb db, IReadOnlyList<ChainHead> kept, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(kept);
        var faults = new List<ChainFault>();
        void Fault(string what) => faults.Add(new("the shop", 0, what));
        var newest = new Dictionary<(string Table, string Id), (string Op, byte[] Hash)>();
        var outside = kept.ToLookup(h => h.Number);
        await db.Database.OpenConnectionAsync(cancel);
        try
        {
            var connection = (NpgsqlConnection)db.Database.GetDbConnection();
            await ExecuteAsync(connection, "set timezone = 'UTC'", cancel);
            var (before, number) = (Array.Empty<byte>(), 0L);
            await using (
                var command = new NpgsqlCommand(
                    "select number, ref_table, ref_id, op, row_hash, hash, at from public.shop_chain order by number",
                    connection
                )
            )
            await using (var reader = await command.ExecuteReaderAsync(cancel))
                while (await reader.ReadAsync(cancel))
                {
                    var (n, table, id, op, row, hash) = (
                        reader.GetInt64(0),
                        reader.GetString(1),
                        reader.GetString(2),
                        reader.GetString(3),
                        (byte[])reader[4],
                        (byte[])reader[5]
                    );
                    if (n != ++number)
                    {
                        Fault($"link {number} of its chain is missing");
                        number = n;
                    }
                    // Links of earlier versions leave their time out of the hash; their operation is an upper-case letter.
                    var time = char.IsAsciiLetterLower(op[0]) ? MicrosecondsOf(reader.GetDateTime(6)) + " " : "";
                    if (
                        !SHA256
                            .HashData([.. before, .. Encoding.UTF8.GetBytes($"{table} {id} {op} {time}"), .. row])
                            .AsSpan()
                            .SequenceEqual(hash)
                    )
                        Fault($"link {n} of its chain, {table} {id}, is not what it was");
                    foreach (var head in outside[n].Where(h => h.Hash != Convert.ToHexStringLower(hash)))
                        Fault($"link {n} of its chain is not the one that was kept outside on {head.At:yyyy-MM-dd}");
                    newest[(table, id)] = (op.ToUpperInvariant(), row);
                    before = hash;
                }
            foreach (var head in kept.Where(h => h.Number > number))
                Fault($"its chain ends at link {number}; link {head.Number} was kept outside on {head.At:yyyy-MM-dd}");
            // Every link of a part is in it, and no part has more or fewer.
            await using (var command = new NpgsqlCommand("select part_id, number, hash from public.chain", connection))
            await using (var reader = await command.ExecuteReaderAsync(cancel))
                while (await reader.ReadAsync(cancel))
                {
                    var key = ("chain", string.Create(CultureInfo.InvariantCulture, $"{reader.GetInt32(0)}:{reader.GetInt32(1)}"));
                    if (!newest.Remove(key, out var link))
                        Fault($"link {key.Item2} of a part's chain is not in the shop's");
                    else if (!link.Hash.AsSpan().SequenceEqual((byte[])reader[2]))
                        Fault($"link {key.Item2} of a part's chain is not the one in the shop's");
                }
            foreach (var gone in newest.Keys.Where(k => k.Table == "chain").ToList())
            {
                Fault($"link {gone.Id} of a part's chain is gone");
                newest.Remove(gone);
            }
            foreach (var table in Tables)
            {
                await using var command = new NpgsqlCommand(
                    $"select to_jsonb(f)->>'id', to_jsonb(f)->>'operator_id', public.row_text(to_jsonb(f)) from public.\"{table}\" "
                        + $"f{(table == "signatures" ? " where f.part_id is null" : "")}",
                    connection
                );
                await using var reader = await command.ExecuteReaderAsync(cancel);
                while (await reader.ReadAsync(cancel))
                {
                    var id = reader.IsDBNull(0) ? reader.GetString(1) : reader.GetString(0);
                    if (!newest.Remove((table, id), out var link))
                        Fault($"{table} {id} was slipped in: no link knows of it");
                    else if (link.Op == "D")
                        Fault($"{table} {id} is there again after it was removed");
                    else if (!SHA256.HashData(Encoding.UTF8.GetBytes(table + " " + reader.GetString(2))).AsSpan().SequenceEqual(link.Hash))
                        Fault($"{table} {id} is not what was kept");
                }
            }
            foreach (var (gone, _) in newest.Where(l => l.Value.Op != "D"))
                Fault($"{gone.Table} {gone.Id} is gone");
            await NumbersAsync(connection, Fault, cancel);
            await CertificatesAsync(connection, Fault, cancel);
        }
        finally
        {
            await db.Database.CloseConnectionAsync();
        }
        faults.AddRange((await GuardDigest.CheckAsync(db, cancel)).Select(f => new ChainFault("the guards", 0, f)));
        return faults;
    }

    private static string MicrosecondsOf(DateTime at) =>
        ((at.ToUniversalTime() - DateTime.UnixEpoch).Ticks / TimeSpan.TicksPerMicrosecond).ToString(CultureInfo.InvariantCulture);

    /// <summary>The numbers of a part's facts are those of its links, without a gap, up to its counter.</summary>
    private static async Task NumbersAsync(NpgsqlConnection connection, Action<string> fault, CancellationToken cancel)
    {
        var numbered = string.Join(
            " union all ",
            GuardedTables.OfParts.Select(t =>
                $"select '{t.Name}' as t, f.id::bigint as id, f.number from public.{t.Name} f"
                + (t.Name == "signatures" ? " where f.part_id is not null" : "")
            )
        );
        await foreach (
            var row in ReadAsync(
                connection,
                $"select f.t, f.id::text, f.number::text from ({numbered}) f left join public.chain c on c.fact_table = f.t and "
                    + "c.fact_id = f.id where c.number is distinct from f.number",
                cancel
            )
        )
            fault($"{row[0]} {row[1]} has the number {row[2]}, its link another");
        await foreach (
            var row in ReadAsync(
                connection,
                "select coalesce(k.part_id, c.part_id)::text, coalesce(k.last, 0)::text, coalesce(max(c.number), 0)::text from "
                    + "public.fact_counters k full join public.chain c on c.part_id = k.part_id group by 1, k.last "
                    + "having coalesce(max(c.number), 0) <> coalesce(k.last, 0) or count(c.number) <> coalesce(k.last, 0)",
                cancel
            )
        )
            fault($"part {row[0]} has had {row[1]} facts, its chain ends at {row[2]} or has a gap");
    }

    /// <summary>A certificate is the text under its hash, and closes on the head of its part's chain at that time.</summary>
    private static async Task CertificatesAsync(NpgsqlConnection connection, Action<string> fault, CancellationToken cancel)
    {
        await foreach (
            var row in ReadAsync(
                connection,
                """
                select c.id::text, c.document, c.hash, (select encode(l.hash, 'hex') from public.chain l where l.part_id = o.part_id
                    and l.number = ((c.document::jsonb)->>'links')::int), (c.document::jsonb)->>'chainHead'
                from public.certificates c join public.outcomes o on o.id = c.outcome_id
                """,
                cancel
            )
        )
        {
            if (CertificateStore.Hash(row[1]!) != row[2])
                fault($"certificate {row[0]} is not the text under its hash");
            if (row[3] is null || row[3] != row[4])
                fault($"certificate {row[0]} closes on a link that is not there");
        }
    }

    private static async IAsyncEnumerable<string?[]> ReadAsync(
        NpgsqlConnection connection,
        string sql,
        [System.Runtime.CompilerServices.EnumeratorCancellation] CancellationToken cancel
    )
    {
        await using var command = new NpgsqlCommand(sql, connection);
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
            yield return [.. Enumerable.Range(0, reader.FieldCount).Select(i => reader.IsDBNull(i) ? null : reader.GetString(i))];
    }

    private static async Task ExecuteAsync(NpgsqlConnection connection, string sql, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(sql, connection);
        await command.ExecuteNonQueryAsync(cancel);
    }
}
