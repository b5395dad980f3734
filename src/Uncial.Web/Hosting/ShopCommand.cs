using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Uncial.Data;
using Uncial.Data.Migrations.Earlier;

namespace Uncial.Web.Hosting;

/// <summary>What ./start does besides serving: checks the chains, brings a database up to date, writes and reads a whole shop.</summary>
internal static class ShopCommand
{
    private const int MostNamed = 100;

    /// <summary>The commands by name.</summary>
    private static readonly string[] Names = ["open", "prepare", "verify", "make", "fill", "guards", "head", "empty", "export", "import"];

    public static bool Is(string[] args) => args.Length > 0 && Names.Contains(args[0]);

    /// <summary>Runs a command: opening with the administrator's connection, the others with the owner's.</summary>
    /// <returns>0 where all is well, 1 where a fault was found.</returns>
    public static async Task<int> RunAsync(string[] args, string owner, TextWriter says, CancellationToken cancel = default)
    {
        if (args is ["open", ..])
        {
            var settings = new ConfigurationBuilder().AddEnvironmentVariables().Build();
            if (settings["KeyFile"] is { Length: > 0 } keys)
                Accounts.KeyFile.ReadOrMake(keys).Dispose();
            await Opening.OpenAsync(
                owner,
                settings.GetValue("Demo", false),
                settings.GetValue("Simulators", 0),
                TimeProvider.System,
                cancel
            );
            return 0;
        }
        if (args is ["prepare"])
        {
            await Logins.PrepareAsync(owner, cancel);
            return 0;
        }
        await using var db = new UncialDb(UncialDbOptions.For(owner));
        db.Database.SetCommandTimeout(TimeSpan.FromHours(1));
        if (args is ["guards"])
        {
            await says.WriteAsync(await GuardDigest.DescribeAsync(db, cancel));
            return 0;
        }
        if (args is ["head"])
        {
            await says.WriteLineAsync((await ShopChain.HeadAsync(db, cancel))?.ToString() ?? "The chain has not begun.");
            return 0;
        }
        if (args is ["make"])
            return await MakeAsync(db, says, cancel);
        if (args is ["fill"])
            return await FillAsync(db, says, cancel);
        if (args is ["import", var shop])
            return await ImportAsync(db, shop, says, cancel);
        if (args[0] != "verify")
            await Opening.MigrateAsync(db, cancel);
        else if ((await db.Database.GetPendingMigrationsAsync(cancel)).Any())
        {
            await says.WriteLineAsync("The database is of an older version and has no chains yet: ./start brings it up to date.");
            return 1;
        }
        switch (args)
        {
            case ["verify", ..]:
                var (parts, links, faults) = await ChainCheck.OfAllAsync(db, cancel);
                // Heads that were kept on another medium, one a line.
                var kept =
                    args is ["verify", var heads] && File.Exists(heads)
                        ? (await File.ReadAllLinesAsync(heads, cancel)).Select(ChainHead.Read).OfType<ChainHead>().ToList()
                        : [];
                faults = [.. faults, .. await ShopChain.CheckAsync(db, kept, cancel)];
                await SayAsync(faults, says);
                var found =
                    faults.Count == 0
                        ? "every chain holds."
                        : $"{faults.Count} {(faults.Count == 1 ? "fault" : "faults")}. "
                            + "The history was changed behind the application’s back.";
                await says.WriteLineAsync(
                    string.Create(CultureInfo.InvariantCulture, $"{parts} {(parts == 1 ? "part" : "parts")}, {links} facts: {found}")
                );
                return faults.Count == 0 ? 0 : 1;
            case ["export", var file]:
                await using (var to = File.Create(file))
                {
                    var written = await ShopArchive.ExportAsync(db, to, TimeProvider.System.GetUtcNow(), cancel);
                    await says.WriteLineAsync(
                        $"{written} rows written. The file holds names and PINs in hashed form: keep it like the database."
                    );
                }
                return 0;
            case ["empty"]:
                if (await ShopArchive.IsEmptyAsync(db, cancel))
                    return 0;
                await says.WriteLineAsync(
                    "It is not empty: a shop is read into a new one only (./start --empty --data DIR). Nothing was read in."
                );
                return 1;
            default:
                await says.WriteLineAsync("open | prepare | verify | make | fill | head | empty | export FILE | import FILE");
                return 2;
        }
    }

    /// <summary>
    /// Reads a whole shop in; a file of an older version goes into tables of that version first, where the database has none yet.
    /// </summary>
    private static async Task<int> ImportAsync(UncialDb db, string file, TextWriter says, CancellationToken cancel)
    {
        await using var from = File.OpenRead(file);
        var schema = await ShopArchive.SchemaAsync(from, cancel);
        var isNew = !(await db.Database.GetAppliedMigrationsAsync(cancel)).Any();
        if (
            !isNew
            || schema is null
            || !await EarlierVersions.MakeTablesAsync(db, schema, cancel)
            || schema == db.Database.GetMigrations().Last()
        )
            await Opening.MigrateAsync(db, cancel);
        var (rows, wrong) = await ShopArchive.ImportAsync(db, from, () => Opening.MigrateAsync(db, cancel), cancel);
        await SayAsync(wrong.Select(f => f.Path + ": " + f.What).ToList(), says);
        await says.WriteLineAsync(
            wrong.Count == 0
                ? string.Create(CultureInfo.InvariantCulture, $"{rows} rows read in; every chain holds.")
                : "Nothing was read in."
        );
        return wrong.Count == 0 ? 0 : 1;
    }

    /// <summary>Makes the tables of the version that a backup names; reads its list of migrations from the input.</summary>
    private static async Task<int> MakeAsync(UncialDb db, TextWriter says, CancellationToken cancel)
    {
        var version = await BackupReader.VersionAsync(Console.In, cancel);
        if (version is not null && await EarlierVersions.MakeTablesAsync(db, version, cancel))
            return 0;
        await says.WriteLineAsync(
            version is null
                ? "It does not say of which version it is."
                : $"It was made by a newer version of Uncial ({version}): restore it with that one."
        );
        return 1;
    }

    /// <summary>Reads the rows of a backup from the input, then brings the tables up to date and puts the guards in place.</summary>
    private static async Task<int> FillAsync(UncialDb db, TextWriter says, CancellationToken cancel)
    {
        try
        {
            using var script = new StreamReader(Console.OpenStandardInput(), new System.Text.UTF8Encoding(false));
            await BackupReader.FillAsync(db, script, cancel);
        }
        catch (Exception e) when (e is FormatException or Npgsql.PostgresException)
        {
            await says.WriteLineAsync(e.Message);
            return 1;
        }
        await Opening.MigrateAsync(db, cancel);
        return 0;
    }

    private static async Task SayAsync<T>(IReadOnlyList<T> faults, TextWriter says)
    {
        foreach (var fault in faults.Take(MostNamed))
            await says.WriteLineAsync(fault?.ToString());
        if (faults.Count > MostNamed)
            await says.WriteLineAsync($"and {faults.Count - MostNamed} more");
    }
}
