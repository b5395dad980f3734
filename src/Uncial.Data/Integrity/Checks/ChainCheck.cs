using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using Microsoft.EntityFrameworkCore;

namespace Uncial.Data.Integrity;

/// <summary>A fault in a part's chain.</summary>
/// <param name="Tag">Tag of the part.</param>
/// <param name="Link">Number of the link, or 0 for a fact that is in no chain.</param>
/// <param name="What">What is wrong, in words.</param>
public sealed record ChainFault(string Tag, int Link, string What)
{
    public override string ToString() =>
        Link == 0 ? $"{Tag}: {What}" : string.Create(CultureInfo.InvariantCulture, $"{Tag}, link {Link}: {What}");
}

/// <summary>
/// Checks the chains: every fact against its link, every link against the one before, and that no fact is without one. The hashes are
/// worked
/// out here, not by the database that is being checked.
/// </summary>
public static class ChainCheck
{
    private const int Batch = 400;

    /// <summary>The faults of one part's chain, none where it is whole.</summary>
    public static Task<IReadOnlyList<ChainFault>> OfPartAsync(UncialDb db, int part, CancellationToken cancel) =>
        OfPartsAsync(db, [part], cancel);

    /// <summary>Checks every part's chain.</summary>
    /// <returns>Parts and links that were looked at, and the faults.</returns>
    public static async Task<(int Parts, long Links, IReadOnlyList<ChainFault> Faults)> OfAllAsync(UncialDb db, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        var parts = await db.Parts.AsNoTracking().OrderBy(p => p.Id).Select(p => p.Id).ToListAsync(cancel);
        var faults = new List<ChainFault>();
        foreach (var batch in parts.Chunk(Batch))
            faults.AddRange(await OfPartsAsync(db, batch, cancel));
        // A part that was taken away with all its facts leaves the numbers of its links behind.
        var orphans = await db
            .Database.SqlQueryRaw<int>(
                "select distinct c.part_id as \"Value\" from chain c left join parts p on p.id = c.part_id where p.id is null"
            )
            .ToListAsync(cancel);
        faults.AddRange(
            orphans.Select(id => new ChainFault(
                string.Create(CultureInfo.InvariantCulture, $"part {id}"),
                1,
                "the part is gone, its chain is still there"
            ))
        );
        return (parts.Count, await db.Chain.LongCountAsync(cancel), faults);
    }

    private sealed record Link(int Part, string? Tag, int Number, string FactTable, long FactId, byte[] Hash, string? Text);

    private static async Task<IReadOnlyList<ChainFault>> OfPartsAsync(UncialDb db, int[] parts, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        var (links, loose) = await ReadAsync(db, parts, cancel);
        var faults = new List<ChainFault>();
        foreach (var chain in links.GroupBy(l => l.Part))
        {
            var (before, number, tag) = (Array.Empty<byte>(), 0, chain.First().Tag ?? $"part {chain.Key}");
            foreach (var link in chain.OrderBy(l => l.Number))
            {
                if (link.Number != ++number)
                {
                    faults.Add(new(tag, number, "the link is missing"));
                    number = link.Number;
                }
                if (link.Text is null)
                    faults.Add(new(tag, link.Number, $"{link.FactTable} {link.FactId} is gone"));
                else if (
                    !SHA256
                        .HashData([.. before, .. Encoding.UTF8.GetBytes(link.FactTable + " " + link.Text)])
                        .AsSpan()
                        .SequenceEqual(link.Hash)
                )
                    faults.Add(new(tag, link.Number, $"{link.FactTable} {link.FactId} is not what was stated"));
                before = link.Hash;
            }
        }
        faults.AddRange(loose.Select(l => new ChainFault(l.Tag, 0, $"{l.Table} {l.Id} was slipped in: no link knows of it")));
        return faults;
    }

    private static async Task<(List<Link> Links, List<(string Tag, string Table, long Id)> Loose)> ReadAsync(
        UncialDb db,
        int[] parts,
        CancellationToken cancel
    )
    {
        await db.Database.OpenConnectionAsync(cancel);
        try
        {
            var connection = (Npgsql.NpgsqlConnection)db.Database.GetDbConnection();
            await using (var zone = new Npgsql.NpgsqlCommand("set timezone = 'UTC'", connection))
                await zone.ExecuteNonQueryAsync(cancel);
            var links = new List<Link>();
            await using (var command = new Npgsql.NpgsqlCommand(LinksSql, connection))
            {
                command.Parameters.AddWithValue(parts);
                await using var reader = await command.ExecuteReaderAsync(cancel);
                while (await reader.ReadAsync(cancel))
                    links.Add(
                        new(
                            reader.GetInt32(0),
                            reader.IsDBNull(1) ? null : reader.GetString(1),
                            reader.GetInt32(2),
                            reader.GetString(3),
                            reader.GetInt64(4),
                            (byte[])reader[5],
                            reader.IsDBNull(6) ? null : reader.GetString(6)
                        )
                    );
            }
            var loose = new List<(string, string, long)>();
            await using (var command = new Npgsql.NpgsqlCommand(LooseSql, connection))
            {
                command.Parameters.AddWithValue(parts);
                await using var reader = await command.ExecuteReaderAsync(cancel);
                while (await reader.ReadAsync(cancel))
                    loose.Add((reader.GetString(0), reader.GetString(1), reader.GetInt64(2)));
            }
            return (links, loose);
        }
        finally
        {
            await db.Database.CloseConnectionAsync();
        }
    }

    private static readonly string LinksSql = string.Join(
        " union all ",
        GuardedTables.OfParts.Select(f =>
            "select c.part_id, p.tag, c.number, c.fact_table, c.fact_id, c.hash, fact_text(c.fact_table, to_jsonb(f)) from chain c "
            + $"left join parts p on p.id = c.part_id left join {f.Name} f on f.id = c.fact_id "
            + $"where c.part_id = any($1) and c.fact_table = '{f.Name}'"
        )
    );

    private static readonly string LooseSql = string.Join(
        " union all ",
        GuardedTables.OfParts.Select(f =>
            $"select p.tag, '{f.Name}', f.id::bigint from {f.Name} f join parts p on p.id = {f.Part} where p.id = any($1) "
            + $"and not exists (select 1 from chain c where c.part_id = p.id and c.fact_table = '{f.Name}' and c.fact_id = f.id)"
        )
    );
}
