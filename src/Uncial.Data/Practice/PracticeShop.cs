using System.Data.Common;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Diagnostics;
using Npgsql;

namespace Uncial.Data.Practice;

/// <summary>
/// The shop that each attempt at a lesson has for itself: the same tables, functions and guards as those of the workshop, in a schema of
/// their own. The database shows an attempt nothing but its own rows, whatever is asked.
/// </summary>
public static class PracticeShop
{
    /// <summary>Schema of the tables.</summary>
    public const string Schema = "practice_shop";

    /// <summary>What the database knows the attempt by, on a connection.</summary>
    private const string Setting = "uncial.attempt";

    /// <summary>What of PostgreSQL's own extensions the functions use; it stays where it was installed.</summary>
    private static readonly string[] OfExtensions = ["gen_random_bytes", "hmac", "crypt", "gen_salt"];

    /// <summary>The shop of one attempt, over the connection of practice.</summary>
    /// <param name="connection">Connection of practice.</param>
    /// <param name="attempt">The attempt.</param>
    public static UncialDb Open(string connection, long attempt)
    {
        var builder = new DbContextOptionsBuilder<UncialDb>();
        UncialDbOptions.Use(builder, Inside(connection)).AddInterceptors(new OfAttempt(attempt));
        return new(builder.Options);
    }

    /// <summary>Makes the tables, functions, guards and rights, or brings them up to date. Needs the owner's login.</summary>
    /// <param name="owner">Connection of the owner.</param>
    /// <param name="cancel">Cancels.</param>
    public static async Task ApplyAsync(string owner, CancellationToken cancel = default)
    {
        await using (var connection = new NpgsqlConnection(owner))
        {
            await connection.OpenAsync(cancel);
            await RunAsync(connection, $"create schema if not exists {Schema}", cancel);
        }
        var builder = new DbContextOptionsBuilder<UncialDb>();
        UncialDbOptions.Use(builder, Inside(owner), npgsql => npgsql.MigrationsHistoryTable("__EFMigrationsHistory", Schema));
        await using var db = new UncialDb(builder.Options);
        db.Database.SetCommandTimeout(TimeSpan.FromMinutes(10));
        await db.Database.MigrateAsync(cancel);
        await db.Database.OpenConnectionAsync(cancel);
        var here = (NpgsqlConnection)db.Database.GetDbConnection();
        await using var transaction = await here.BeginTransactionAsync(cancel);
        await RunAsync(here, "set local client_min_messages = warning; select pg_advisory_xact_lock(8214906356)", cancel);
        foreach (var name in IntegritySql.Functions)
            await RunAsync(here, Moved(await IntegritySql.ReadAsync(name)), cancel);
        await RunAsync(here, Moved(GuardedTables.TriggersSql()), cancel);
        await RunAsync(here, await IntegritySql.ReadAsync("practice_shop"), cancel);
        await RunAsync(here, ForPractice(await IntegritySql.ReadAsync("rights")), cancel);
        // An attempt's shop and its people are made by the application: they sign nothing outside of it.
        await RunAsync(
            here,
            $"grant insert on {Schema}.shops, {Schema}.operators to {Logins.Practice}; "
                + $"grant execute on function {Schema}.attempt() to {Logins.Practice}",
            cancel
        );
        await RunAsync(here, RightsSql(), cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>What practice may write, table by table: what the application may in the shop.</summary>
    private static string RightsSql() =>
        string.Join(
            '\n',
            GuardedTables
                .All.Select(t => (t.Name, t.Writes))
                .Concat(GuardedTables.Others)
                .Where(t => t.Item2.Length > 0)
                .Select(t => $"grant {t.Item2} on {Schema}.\"{t.Item1}\" to {Logins.Practice};")
        );

    /// <summary>The rights of the application in the shop, as those of practice here.</summary>
    private static string ForPractice(string sql) =>
        sql.Replace("schema public", $"schema {Schema}", StringComparison.Ordinal)
            .Replace(Logins.Application, Logins.Practice, StringComparison.Ordinal);

    /// <summary>SQL of the shop, said of the tables of practice.</summary>
    private static string Moved(string sql)
    {
        var moved = sql.Replace("pg_catalog, public, pg_temp", $"pg_catalog, {Schema}, public, pg_temp", StringComparison.Ordinal)
            .Replace("public.", Schema + ".", StringComparison.Ordinal);
        foreach (var function in OfExtensions)
            moved = moved.Replace($"{Schema}.{function}(", $"public.{function}(", StringComparison.Ordinal);
        return moved;
    }

    private static string Inside(string connection) =>
        new NpgsqlConnectionStringBuilder(connection)
        {
            SearchPath = $"{Schema},public",
            MaxPoolSize = PracticeDb.MostConnections,
        }.ConnectionString;

    private static async Task RunAsync(NpgsqlConnection connection, string sql, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(sql, connection) { CommandTimeout = 600 };
        await command.ExecuteNonQueryAsync(cancel);
    }

    /// <summary>Tells the database, on every connection that is opened, whose rows may be seen.</summary>
    private sealed class OfAttempt(long attempt) : DbConnectionInterceptor
    {
        public override async Task ConnectionOpenedAsync(
            DbConnection connection,
            ConnectionEndEventData eventData,
            CancellationToken cancellationToken = default
        )
        {
            await using var command = Telling(connection);
            await command.ExecuteNonQueryAsync(cancellationToken);
        }

        public override void ConnectionOpened(DbConnection connection, ConnectionEndEventData eventData)
        {
            using var command = Telling(connection);
            command.ExecuteNonQuery();
        }

        private NpgsqlCommand Telling(DbConnection connection) =>
            new($"select set_config('{Setting}', $1, false)", (NpgsqlConnection)connection)
            {
                Parameters = { new() { Value = attempt.ToString(System.Globalization.CultureInfo.InvariantCulture) } },
            };
    }
}
