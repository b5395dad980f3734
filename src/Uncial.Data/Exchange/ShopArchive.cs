using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using NpgsqlTypes;

namespace Uncial.Data.Exchange;

/// <summary>
/// The whole shop as one file of JSON lines: every row of every table to its last digit, and the chains that prove that none is missing.
/// See docs/formats/shop.md.
/// </summary>
public static class ShopArchive
{
    public const string FormatName = "uncial-shop";
    public const int CurrentVersion = 1;
    private const int Batch = 500;
    private const int MostFaults = 50;

    /// <summary>
    /// Tables that are not carried over: keys of this machine, who is signed in, and what the database makes of the others by itself.
    /// </summary>
    private static readonly string[] LeftOut = ["data_protection_keys", "log_lines", "sessions", "pin_tries", "pin_delays"];

    private sealed record Table(string Name, IReadOnlyList<string> Columns, IReadOnlyList<string> Key, string? Serial);

    /// <summary>Writes the shop as it is at one moment. Needs the owner's login.</summary>
    /// <returns>Rows written.</returns>
    public static async Task<long> ExportAsync(UncialDb db, Stream to, DateTimeOffset now, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(to);
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        var rows = 0L;
        async Task LineAsync(string text)
        {
            var bytes = Encoding.UTF8.GetBytes(text + "\n");
            hash.AppendData(bytes);
            await to.WriteAsync(bytes, cancel);
        }
        await db.Database.OpenConnectionAsync(cancel);
        try
        {
            var connection = (NpgsqlConnection)db.Database.GetDbConnection();
            await using var transaction = await connection.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead, cancel);
            await ExecuteAsync(connection, "set local timezone = 'UTC'", cancel);
            var schema = (await db.Database.GetAppliedMigrationsAsync(cancel)).Last();
            await LineAsync(
                JsonSerializer.Serialize(
                    new
                    {
                        format = FormatName,
                        version = CurrentVersion,
                        schema,
                        at = now.UtcDateTime.ToString("O", CultureInfo.InvariantCulture),
                    }
                )
            );
            foreach (var table in TablesOf(db))
            {
                await using var command = new NpgsqlCommand(
                    $"select to_jsonb(t)::text from \"{table.Name}\" t order by {string.Join(", ", table.Key.Select(k => $"\"{k}\""))}",
                    connection
                );
                await using var reader = await command.ExecuteReaderAsync(cancel);
                for (; await reader.ReadAsync(cancel); rows++)
                    await LineAsync($"{{\"table\":\"{table.Name}\",\"row\":{reader.GetString(0)}}}");
            }
            await transaction.CommitAsync(cancel);
        }
        finally
        {
            await db.Database.CloseConnectionAsync();
        }
        var sum = Convert.ToHexStringLower(hash.GetHashAndReset());
        await to.WriteAsync(
            Encoding.UTF8.GetBytes(
                JsonSerializer.Serialize(
                    new
                    {
                        end = true,
                        rows,
                        sha256 = sum,
                    }
                ) + "\n"
            ),
            cancel
        );
        await to.FlushAsync(cancel);
        return rows;
    }

    /// <summary>The version of the tables that a shop file was written from, or null where its head does not say.</summary>
    /// <param name="from">The file; it stands at its start afterwards.</param>
    /// <param name="cancel">Cancels.</param>
    public static async Task<string?> SchemaAsync(Stream from, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(from);
        using var reader = new StreamReader(from, new UTF8Encoding(false), false, leaveOpen: true);
        var head = await reader.ReadLineAsync(cancel);
        from.Position = 0;
        try
        {
            using var document = JsonDocument.Parse(head ?? "");
            return
                document.RootElement.ValueKind == JsonValueKind.Object
                && document.RootElement.TryGetProperty("schema", out var schema)
                && schema.ValueKind == JsonValueKind.String
                ? schema.GetString()
                : null;
        }
        catch (JsonException)
        {
            return null;
        }
    }

    /// <summary>
    /// Reads a shop into a database in which nothing was done yet. All or nothing: a fault leaves the database as it was. A file of an
    /// older
    /// version goes into tables of that version (<see cref="Migrations.Earlier.EarlierVersions.MakeTablesAsync"/>); they are brought up to
    /// date and checked afterwards,
    /// so that such a database is thrown away where this finds a fault.
    /// </summary>
    /// <param name="db">The database under its owner's login, with the tables of the file's version and without jobs and operators.</param>
    /// <param name="from">The file; it is read twice.</param>
    /// <param name="upToDate">Brings the tables up to date.</param>
    /// <param name="cancel">Cancels.</param>
    /// <returns>Rows taken in, or the faults by line.</returns>
    public static async Task<(long Rows, IReadOnlyList<FileFault> Faults)> ImportAsync(
        UncialDb db,
        Stream from,
        Func<Task> upToDate,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(from);
        ArgumentNullException.ThrowIfNull(upToDate);
        var applied = (await db.Database.GetAppliedMigrationsAsync(cancel)).Last();
        var isOlder = applied != db.Database.GetMigrations().Last();
        if (!isOlder && !await IsEmptyAsync(db, cancel))
            return (0, [new("database", "It is not empty: a shop is read into a new one only (./start --empty --data DIR).")]);
        await db.Database.OpenConnectionAsync(cancel);
        try
        {
            var connection = (NpgsqlConnection)db.Database.GetDbConnection();
            var tables = isOlder ? await TablesAsync(connection, cancel) : TablesOf(db).ToDictionary(t => t.Name);
            var faults = await LookAsync(from, tables, applied, cancel);
            if (faults.Count > 0)
                return (0, faults);
            from.Position = 0;
            await using var transaction = await db.Database.BeginTransactionAsync(cancel);
            await ExecuteAsync(connection, "set local timezone = 'UTC'", cancel);
            // What the shop began with gives way. Rules of the tables rest meanwhile; keys between them are checked all the same.
            foreach (var table in tables.Values.Reverse())
                await ExecuteAsync(
                    connection,
                    $"alter table \"{table.Name}\" disable trigger user; {(isOlder ? "" : $"delete from \"{table.Name}\"")}",
                    cancel
                );
            if (!isOlder)
                await ExecuteAsync(connection, "delete from log_lines", cancel);
            var rows = await FillAsync(connection, from, tables, faults, cancel);
            if (faults.Count > 0)
                return (0, faults);
            foreach (var table in tables.Values)
            {
                await ExecuteAsync(connection, $"alter table \"{table.Name}\" enable trigger user", cancel);
                if (table.Serial is { } serial)
                    await ExecuteAsync(
                        connection,
                        $"select setval(pg_get_serial_sequence('\"{table.Name}\"', '{serial}'), greatest((select max(\"{serial}\") "
                            + $"from \"{table.Name}\"), 1))",
                        cancel
                    );
            }
            if (isOlder)
            {
                await transaction.CommitAsync(cancel);
                await upToDate();
            }
            await Logbook.MakeAnewAsync(db, cancel);
            var (_, _, broken) = await ChainCheck.OfAllAsync(db, cancel);
            if (broken.Count > 0)
                return (
                    0,
                    [
                        .. broken
                            .Take(MostFaults)
                            .Select(f => new FileFault(
                                f.Tag,
                                f.Link == 0 ? f.What : string.Create(CultureInfo.InvariantCulture, $"link {f.Link} of its chain: {f.What}")
                            )),
                    ]
                );
            if (!isOlder)
                await transaction.CommitAsync(cancel);
            return (rows, []);
        }
        finally
        {
            await db.Database.CloseConnectionAsync();
        }
    }

    /// <summary>Nothing was done in this shop yet: it has no job and no operator.</summary>
    public static async Task<bool> IsEmptyAsync(UncialDb db, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        return !await db.Jobs.AnyAsync(cancel) && !await db.Operators.AnyAsync(cancel);
    }

    /// <summary>Looks at the file as a whole before a row of it goes in: its head, every line's shape, its end and its hash.</summary>
    private static async Task<List<FileFault>> LookAsync(
        Stream from,
        Dictionary<string, Table> tables,
        string schema,
        CancellationToken cancel
    )
    {
        var faults = new List<FileFault>();
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        using var reader = new StreamReader(from, new UTF8Encoding(false), false, leaveOpen: true);
        var (number, ended) = (0, false);
        void Fault(string what) => faults.Add(new(string.Create(CultureInfo.InvariantCulture, $"line {number}"), what));
        while (await reader.ReadLineAsync(cancel) is { } line && faults.Count < MostFaults)
        {
            number++;
            if (ended)
            {
                Fault("Something stands after the end.");
                break;
            }
            JsonDocument? document = null;
            try
            {
                document = JsonDocument.Parse(line, new() { AllowDuplicateProperties = false });
            }
            catch (JsonException e)
            {
                Fault("No JSON: " + e.Message.Split(" LineNumber", 2)[0]);
            }
            using var _ = document;
            var root = document?.RootElement ?? default;
            if (document is not null && root.ValueKind != JsonValueKind.Object)
                Fault("No object.");
            else if (document is not null)
            {
                if (number == 1)
                    Head(root, schema, Fault);
                else if (root.TryGetProperty("end", out var end) && end.ValueKind == JsonValueKind.True)
                {
                    ended = true;
                    End(root, number - 2, Convert.ToHexStringLower(hash.GetHashAndReset()), Fault);
                    continue;
                }
                else
                    Row(root, tables, Fault);
            }
            if (number == 1 && faults.Count > 0)
                return faults;
            hash.AppendData(Encoding.UTF8.GetBytes(line + "\n"));
        }
        if (!ended && faults.Count == 0)
        {
            number++;
            Fault("The file ends too early: its last line is missing.");
        }
        return faults;
    }

    private static void Head(JsonElement root, string schema, Action<string> fault)
    {
        string? Text(string name) =>
            root.TryGetProperty(name, out var value) && value.ValueKind == JsonValueKind.String ? value.GetString() : null;
        if (Text("format") != FormatName)
            fault($"This is no shop file: “format” is not “{FormatName}”.");
        else if (!root.TryGetProperty("version", out var version) || !version.TryGetVersion(out var v) || v != CurrentVersion)
            fault($"This program reads version {CurrentVersion}.");
        else if (Text("schema") != schema)
            fault(
                $"It was written by another version of Uncial ({Text("schema")}; this one is {schema}), which is not known here. "
                    + "Read it in with a newer version."
            );
    }

    private static void Row(JsonElement root, Dictionary<string, Table> tables, Action<string> fault)
    {
        if (
            !root.TryGetProperty("table", out var name)
            || name.ValueKind != JsonValueKind.String
            || !tables.TryGetValue(name.GetString()!, out var table)
        )
        {
            fault("“table” names none that is known.");
            return;
        }
        if (!root.TryGetProperty("row", out var row) || row.ValueKind != JsonValueKind.Object)
        {
            fault("“row” is no object.");
            return;
        }
        var seen = 0;
        foreach (var member in row.EnumerateObject())
            if (table.Columns.Contains(member.Name))
                seen++;
            else
                fault($"{table.Name}.{member.Name}: no such field.");
        if (seen < table.Columns.Count)
            fault($"{table.Name}: {string.Join(", ", table.Columns.Where(c => !row.TryGetProperty(c, out _)))} is missing.");
    }

    private static void End(JsonElement root, int rows, string sum, Action<string> fault)
    {
        if (
            !root.TryGetProperty("rows", out var said)
            || said.ValueKind != JsonValueKind.Number
            || !said.TryGetInt64(out var n)
            || n != rows
        )
            fault($"The end speaks of other than the {rows} rows that are there.");
        if (!root.TryGetProperty("sha256", out var hash) || hash.ValueKind != JsonValueKind.String || hash.GetString() != sum)
            fault("The hash at the end does not fit: a line was changed, added or lost.");
    }

    private static async Task<long> FillAsync(
        NpgsqlConnection connection,
        Stream from,
        Dictionary<string, Table> tables,
        List<FileFault> faults,
        CancellationToken cancel
    )
    {
        using var reader = new StreamReader(from, new UTF8Encoding(false), false, leaveOpen: true);
        var (number, rows, pending, current) = (0, 0L, new List<(int Line, string Row)>(Batch), "");
        while (await reader.ReadLineAsync(cancel) is { } line && faults.Count < MostFaults)
        {
            if (++number == 1)
                continue;
            using var document = JsonDocument.Parse(line);
            if (!document.RootElement.TryGetProperty("table", out var name))
                break;
            if (name.GetString() != current || pending.Count == Batch)
            {
                await InsertAsync(connection, current, pending, tables, faults, cancel);
                current = name.GetString()!;
            }
            pending.Add((number, document.RootElement.GetProperty("row").GetRawText()));
            rows++;
        }
        await InsertAsync(connection, current, pending, tables, faults, cancel);
        return rows;
    }

    private static async Task InsertAsync(
        NpgsqlConnection connection,
        string name,
        List<(int Line, string Row)> pending,
        Dictionary<string, Table> tables,
        List<FileFault> faults,
        CancellationToken cancel
    )
    {
        if (pending.Count == 0)
            return;
        var table = tables[name];
        var columns = string.Join(", ", table.Columns.Select(c => $"\"{c}\""));
        async Task<PostgresException?> TryAsync(IEnumerable<string> rows)
        {
            await ExecuteAsync(connection, "savepoint lines", cancel);
            try
            {
                await using var command = new NpgsqlCommand(
                    $"insert into \"{name}\" ({columns}) select {columns} from jsonb_populate_recordset(null::\"{name}\", $1)",
                    connection
                );
                command.Parameters.Add(new() { Value = "[" + string.Join(',', rows) + "]", NpgsqlDbType = NpgsqlDbType.Jsonb });
                await command.ExecuteNonQueryAsync(cancel);
                await ExecuteAsync(connection, "release savepoint lines", cancel);
                return null;
            }
            catch (PostgresException e)
            {
                await ExecuteAsync(connection, "rollback to savepoint lines", cancel);
                return e;
            }
        }
        // Together, as fast as it goes; one by one only to name the lines that are at fault.
        if (await TryAsync(pending.Select(p => p.Row)) is not null)
            foreach (var (line, row) in pending)
                if (await TryAsync([row]) is { } fault)
                    faults.Add(
                        new(
                            string.Create(CultureInfo.InvariantCulture, $"line {line}"),
                            $"{name}{(fault.ColumnName is { } column ? "." + column : "")}: "
                                + $"{fault.MessageText}{(fault.Detail is { } detail ? " (" + detail + ")" : "")}"
                        )
                    );
        pending.Clear();
    }

    /// <summary>The tables in an order in which each comes after those that it points to.</summary>
    private static List<Table> TablesOf(UncialDb db)
    {
        var types = db
            .Model.GetEntityTypes()
            .Where(t => t.GetTableName() is { } name && !LeftOut.Contains(name))
            .OrderBy(t => t.GetTableName(), StringComparer.Ordinal)
            .ToList();
        var ordered = new List<Microsoft.EntityFrameworkCore.Metadata.IEntityType>();
        void Visit(Microsoft.EntityFrameworkCore.Metadata.IEntityType type)
        {
            if (ordered.Contains(type) || !types.Contains(type))
                return;
            foreach (var to in type.GetForeignKeys().Select(k => k.PrincipalEntityType).Where(t => t != type))
                Visit(to);
            ordered.Add(type);
        }
        types.ForEach(Visit);
        return
        [
            .. ordered.Select(t => new Table(
                t.GetTableName()!,
                [.. t.GetProperties().Select(p => p.GetColumnName())],
                [.. t.FindPrimaryKey()!.Properties.Select(p => p.GetColumnName())],
                t.FindPrimaryKey()!.Properties is [{ ValueGenerated: Microsoft.EntityFrameworkCore.Metadata.ValueGenerated.OnAdd } key]
                && key.ClrType != typeof(string)
                    ? key.GetColumnName()
                    : null
            )),
        ];
    }

    /// <summary>
    /// The tables as the database has them, whatever its version: for a file that comes in the order that its own version wrote.
    /// </summary>
    private static async Task<Dictionary<string, Table>> TablesAsync(NpgsqlConnection connection, CancellationToken cancel)
    {
        const string sql = """
            select table_name::text, array_agg(column_name::text order by ordinal_position),
                max(column_name::text) filter (where is_identity = 'YES')
            from information_schema.columns c join information_schema.tables t using (table_schema, table_name)
            where table_schema = 'public' and table_type = 'BASE TABLE' and table_name <> '__EFMigrationsHistory' group by table_name
            """;
        await using var command = new NpgsqlCommand(sql, connection);
        await using var reader = await command.ExecuteReaderAsync(cancel);
        var tables = new Dictionary<string, Table>();
        while (await reader.ReadAsync(cancel))
            tables[reader.GetString(0)] = new(
                reader.GetString(0),
                reader.GetFieldValue<string[]>(1),
                [],
                await reader.IsDBNullAsync(2, cancel) ? null : reader.GetString(2)
            );
        return tables;
    }

    private static async Task ExecuteAsync(NpgsqlConnection connection, string sql, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(sql, connection);
        await command.ExecuteNonQueryAsync(cancel);
    }
}
