using System.Text;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

namespace Uncial.Data.Migrations.Earlier;

/// <summary>
/// Databases of versions before the baseline: their tables can still be made, and are brought up to the baseline by the embedded *.sql
/// beside
/// this file. Each file is named after the migration that it stands for; the first one makes all tables, each later one changes those
/// before it.
/// Everything after the baseline is an ordinary migration.
/// </summary>
public static class EarlierVersions
{
    private static readonly string[] Scripts =
    [
        "20261124045608_Proofs",
        "20261128212103_Signatures",
        "20261129012529_LookedAt",
        "20261129050922_HeadLedger",
        Baseline,
    ];

    /// <summary>The first migration of those that EF Core runs.</summary>
    public const string Baseline = "20261129135349_Baseline";

    /// <summary>Makes the tables of a version in an empty database, without functions, triggers and rights.</summary>
    /// <param name="owner">The database under its owner's login.</param>
    /// <param name="version">Name of the newest migration of that version.</param>
    /// <param name="cancel">Cancels.</param>
    /// <returns>False where this program does not know the version.</returns>
    public static async Task<bool> MakeTablesAsync(UncialDb owner, string version, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(owner);
        var last = Array.IndexOf(Scripts, version);
        if (last >= 0 && version != Baseline)
        {
            await RunAsync(owner, 0, last, cancel);
            return true;
        }
        if (!owner.Database.GetMigrations().Contains(version))
            return false;
        await owner.GetService<IMigrator>().MigrateAsync(version, cancel);
        return true;
    }

    /// <summary>Brings a database of an earlier version up to the baseline; a later one is left as it is.</summary>
    /// <exception cref="NotSupportedException">
    /// Its version is older than the first one that was given away, newer than this program, or not known.
    /// </exception>
    public static async Task UpgradeAsync(UncialDb owner, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(owner);
        var applied = (await owner.Database.GetAppliedMigrationsAsync(cancel)).ToList();
        // An older program would put its own guards in the place of newer ones.
        if (
            applied.Contains(Baseline)
            && applied.Except(owner.Database.GetMigrations(), StringComparer.Ordinal).LastOrDefault() is { } newer
        )
            throw new NotSupportedException($"The database is of a newer version ({newer}) than this program: start that one.");
        if (applied.Count == 0 || applied.Contains(Baseline))
            return;
        var at = Array.IndexOf(Scripts, applied[^1]);
        if (at < 0)
            throw new NotSupportedException($"The database is of version {applied[^1]}, which this program cannot bring up to date.");
        await RunAsync(owner, at + 1, Scripts.Length - 1, cancel);
    }

    private static async Task RunAsync(UncialDb owner, int from, int to, CancellationToken cancel)
    {
        var history = owner.GetService<IHistoryRepository>();
        await using var transaction = await owner.Database.BeginTransactionAsync(cancel);
        for (var i = from; i <= to; i++)
        {
            await RunAsync(owner, await ReadAsync(Scripts[i]), cancel);
            if (Scripts[i] == Baseline)
                await RunAsync(owner, "delete from \"__EFMigrationsHistory\"", cancel);
            await RunAsync(owner, history.GetInsertScript(new(Scripts[i], ProductInfo.GetVersion())), cancel);
        }
        await transaction.CommitAsync(cancel);
    }

    /// <summary>Runs a script as it stands: braces and percent signs in it mean nothing.</summary>
    private static async Task RunAsync(UncialDb owner, string sql, CancellationToken cancel)
    {
        await using var command = owner.Database.GetDbConnection().CreateCommand();
        command.CommandText = sql;
        command.CommandTimeout = 3600;
        await command.ExecuteNonQueryAsync(cancel);
    }

    private static async Task<string> ReadAsync(string name)
    {
        await using var stream = typeof(EarlierVersions).Assembly.GetManifestResourceStream($"Uncial.Data.Migrations.Earlier.{name}.sql")
            ?? throw new InvalidOperationException($"Migrations/Earlier/{name}.sql is not embedded.");
        using var reader = new StreamReader(stream, Encoding.UTF8);
        return await reader.ReadToEndAsync();
    }
}
