using System.Text;
using Microsoft.EntityFrameworkCore;
using Npgsql;

namespace Uncial.Data.Integrity;

/// <summary>
/// Functions, triggers and rights of the database, from the embedded files in Sql. They are put in place anew after every
/// migration;
/// doing it twice changes nothing.
/// </summary>
public static class IntegritySql
{
    internal static readonly string[] Functions = ["numbering", "limits", "release", "logbook", "shop_chain", "people", "days", "news"];

    /// <summary>One of the embedded files.</summary>
    public static async Task<string> ReadAsync(string name)
    {
        await using var stream = typeof(IntegritySql).Assembly.GetManifestResourceStream($"Uncial.Data.Integrity.{name}.sql")
            ?? throw new InvalidOperationException($"Integrity/{name}.sql is not embedded.");
        using var reader = new StreamReader(stream, Encoding.UTF8);
        return await reader.ReadToEndAsync();
    }

    /// <summary>Puts functions, triggers and rights in place. Needs the owner's login.</summary>
    public static async Task ApplyAsync(UncialDb owner, CancellationToken cancel = default)
    {
        ArgumentNullException.ThrowIfNull(owner);
        await owner.Database.OpenConnectionAsync(cancel);
        try
        {
            var connection = (NpgsqlConnection)owner.Database.GetDbConnection();
            await using var transaction = await connection.BeginTransactionAsync(cancel);
            async Task RunAsync(string sql)
            {
                await using var command = new NpgsqlCommand(sql, connection, transaction) { CommandTimeout = 600 };
                await command.ExecuteNonQueryAsync(cancel);
            }
            await RunAsync("set local client_min_messages = warning; select pg_advisory_xact_lock(8214906355)");
            foreach (var name in Functions)
                await RunAsync(await ReadAsync(name));
            await RunAsync(GuardedTables.TriggersSql());
            await RunAsync(NoPracticeTag);
            await RunAsync(await ReadAsync("rights"));
            await RunAsync(RightsSql());
            await transaction.CommitAsync(cancel);
        }
        finally
        {
            await owner.Database.CloseConnectionAsync();
        }
    }

    /// <summary>Tags of practice name no part of a workshop, and the other way about (practice_shop.sql).</summary>
    private const string NoPracticeTag = """
        do $$ begin
            if not exists (select 1 from pg_constraint where conname = 'no_practice_tag' and conrelid = 'public.parts'::regclass) then
                alter table public.parts add constraint no_practice_tag check (tag !~* '^P-');
            end if;
        end $$
        """;

    /// <summary>What the application may write, table by table.</summary>
    private static string RightsSql()
    {
        var sql = new StringBuilder();
        foreach (
            var (name, writes) in GuardedTables
                .All.Select(t => (t.Name, t.Writes))
                .Concat(GuardedTables.Others)
                .Where(t => t.Item2.Length > 0)
        )
            sql.AppendLine(
                System.Globalization.CultureInfo.InvariantCulture,
                $"grant {writes} on public.\"{name}\" to {Logins.Application};"
            );
        return sql.ToString();
    }
}
