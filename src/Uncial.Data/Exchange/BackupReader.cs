using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;
using Npgsql;

namespace Uncial.Data.Exchange;

/// <summary>
/// Reads the rows of a backup into a database whose structure is made by this program. Of what <c>pg_restore --data-only -f -</c> prints
/// only
/// the rows of known tables are taken; no statement of the file is ever run.
/// </summary>
public static partial class BackupReader
{
    private const string History = "__EFMigrationsHistory";

    /// <summary>Rows that stay behind: keys of a machine, sessions and tries of another time.</summary>
    private static readonly string[] LeftBehind = [History, "data_protection_keys", "sessions", "pin_tries"];

    [GeneratedRegex(
        """^COPY public\.(?<quote>"?)(?<table>\w+)\k<quote> \((?<columns>[\w", ]+)\) FROM stdin;$""",
        RegexOptions.ExplicitCapture,
        matchTimeoutMilliseconds: 10_000
    )]
    private static partial Regex CopyLine();

    /// <summary>The migration that a backup was made at: the newest in its list.</summary>
    /// <param name="script">What <c>pg_restore --data-only --table=__EFMigrationsHistory -f -</c> prints.</param>
    /// <param name="cancel">Cancels.</param>
    /// <returns>Name of the migration; null where there is none.</returns>
    public static async Task<string?> VersionAsync(TextReader script, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(script);
        string? newest = null;
        var inside = false;
        while (await script.ReadLineAsync(cancel) is { } line)
        {
            if (!inside)
                inside = CopyLine().Match(line) is { Success: true } copy && copy.Groups["table"].Value == History;
            else if (line == @"\.")
                inside = false;
            else if (line.Split('\t')[0] is var name && string.CompareOrdinal(name, newest) > 0)
                newest = name;
        }
        return newest;
    }

    /// <summary>Reads the rows in. Triggers and keys between tables rest meanwhile; the keys are checked when they are put back.</summary>
    /// <param name="owner">The database with the tables of the backup's version, under the owner's login.</param>
    /// <param name="script">What <c>pg_restore --data-only -f -</c> prints.</param>
    /// <param name="cancel">Cancels.</param>
    /// <returns>Rows read in.</returns>
    /// <exception cref="FormatException">The file names a table or a column that its version does not have, or ends in the middle of
    /// one.</exception>
    public static async Task<long> FillAsync(UncialDb owner, TextReader script, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(owner);
        ArgumentNullException.ThrowIfNull(script);
        await owner.Database.OpenConnectionAsync(cancel);
        try
        {
            var connection = (NpgsqlConnection)owner.Database.GetDbConnection();
            await using var transaction = await connection.BeginTransactionAsync(cancel);
            var tables = await TablesAsync(connection, cancel);
            var keys = await ReadAsync(
                connection,
                """
                select format('alter table %s drop constraint %I', conrelid::regclass, conname),
                    format('alter table %s add constraint %I %s', conrelid::regclass, conname, pg_get_constraintdef(oid))
                from pg_constraint where contype = 'f' and connamespace = 'public'::regnamespace
                """,
                cancel
            );
            foreach (var key in keys)
                await RunAsync(connection, key[0], cancel);
            foreach (var table in tables.Keys)
                await RunAsync(
                    connection,
                    $"alter table \"{table}\" disable trigger user; {(table == History ? "" : $"delete from \"{table}\"")}",
                    cancel
                );
            var rows = 0L;
            while (await script.ReadLineAsync(cancel) is { } line)
            {
                if (CopyLine().Match(line) is not { Success: true } copy)
                    continue;
                var (name, columns) = (
                    copy.Groups["table"].Value,
                    copy.Groups["columns"].Value.Split(", ").Select(c => c.Trim('"')).ToList()
                );
                if (!tables.TryGetValue(name, out var known))
                    throw new FormatException($"The backup holds a table {name} that its version does not have.");
                if (columns.Find(c => !known.Contains(c)) is { } strange)
                    throw new FormatException($"The backup holds a column {name}.{strange} that its version does not have.");
                rows += await RowsAsync(connection, script, name, columns, LeftBehind.Contains(name), cancel);
            }
            foreach (var table in tables.Keys)
                await RunAsync(connection, $"alter table \"{table}\" enable trigger user", cancel);
            foreach (var key in keys)
                await RunAsync(connection, key[1], cancel);
            foreach (
                var serial in await ReadAsync(
                    connection,
                    """
                    select c.table_name::text, c.column_name::text from information_schema.columns c where c.table_schema = 'public'
                        and c.is_identity = 'YES'
                    """,
                    cancel
                )
            )
                await RunAsync(
                    connection,
                    $"select setval(pg_get_serial_sequence('\"{serial[0]}\"', '{serial[1]}'), greatest((select max(\"{serial[1]}\") "
                        + $"from \"{serial[0]}\"), 1))",
                    cancel
                );
            if (await ReadAsync(connection, "select 'x', 'x' from pg_class where relname = 'job_number'", cancel) is { Count: > 0 })
                await RunAsync(connection, "select setval('job_number', greatest((select max(number) from jobs), 1000))", cancel);
            await transaction.CommitAsync(cancel);
            return rows;
        }
        finally
        {
            await owner.Database.CloseConnectionAsync();
        }
    }

    private static async Task<long> RowsAsync(
        NpgsqlConnection connection,
        TextReader script,
        string table,
        List<string> columns,
        bool skip,
        CancellationToken cancel
    )
    {
        var rows = 0L;
        // Our own statement; of the file only the lines of values go through it.
        await using var into = skip
            ? null
            : await connection.BeginTextImportAsync(
                $"COPY public.\"{table}\" ({string.Join(", ", columns.Select(c => $"\"{c}\""))}) FROM STDIN",
                cancel
            );
        while (await script.ReadLineAsync(cancel) is { } line)
        {
            if (line == @"\.")
                return rows;
            rows++;
            if (into is not null)
                await into.WriteAsync((line + "\n").AsMemory(), cancel);
        }
        throw new FormatException($"The backup ends in the middle of {table}.");
    }

    private static async Task<Dictionary<string, HashSet<string>>> TablesAsync(NpgsqlConnection connection, CancellationToken cancel) =>
        (
            await ReadAsync(
                connection,
                "select c.table_name::text, c.column_name::text from information_schema.columns c join information_schema.tables t "
                    + "using (table_schema, table_name) where table_schema = 'public' and t.table_type = 'BASE TABLE'",
                cancel
            )
        )
            .GroupBy(r => r[0])
            .ToDictionary(g => g.Key, g => g.Select(r => r[1]).ToHashSet());

    private static async Task<List<string[]>> ReadAsync(NpgsqlConnection connection, string sql, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(sql, connection);
        await using var reader = await command.ExecuteReaderAsync(cancel);
        List<string[]> rows = [];
        while (await reader.ReadAsync(cancel))
            rows.Add([reader.GetString(0), reader.GetString(1)]);
        return rows;
    }

    private static async Task RunAsync(NpgsqlConnection connection, string sql, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(sql, connection) { CommandTimeout = 3600 };
        await command.ExecuteNonQueryAsync(cancel);
    }
}
