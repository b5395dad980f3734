using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Uncial.Core.Times;
using Uncial.Data;
using Uncial.Data.Migrations.Earlier;
using Uncial.Web.Network;

namespace Uncial.Web.Hosting;

/// <summary>What ./start does besides serving: checks the chains, brings a database up to date, writes and reads a whole shop.</summary>
internal static class ShopCommand
{
    private const int MostNamed = 100;

    /// <summary>The commands by name.</summary>
    private static readonly string[] Names =
    [
        "open",
        "prepare",
        "verify",
        "rehearse",
        "guards",
        "head",
        "empty",
        "export",
        "import",
        "certify",
        "pending",
        "prune",
    ];

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
            try
            {
                await Opening.OpenAsync(
                    owner,
                    settings.GetValue("Demo", false),
                    settings.GetValue("Simulators", 0),
                    TimeProvider.System,
                    cancel
                );
            }
            catch (NotSupportedException e)
            {
                await says.WriteLineAsync(e.Message);
                return 1;
            }
            return 0;
        }
        if (args is ["certify", ..])
            return Certify(new ConfigurationBuilder().AddEnvironmentVariables().Build(), args.Contains("--new-authority"), says);
        if (args is ["prune", var folder])
            return Prune(folder, TimeProvider.System, says);
        if (args is ["prepare"])
        {
            await Logins.PrepareAsync(owner, cancel);
            return 0;
        }
        if (args is ["head", ..])
            return await HeadAsync(owner, args.ElementAtOrDefault(1), says, cancel);
        await using var db = new UncialDb(UncialDbOptions.For(owner));
        db.Database.SetCommandTimeout(TimeSpan.FromHours(1));
        if (args is ["guards"])
        {
            await says.WriteAsync(await GuardDigest.DescribeAsync(db, cancel));
            return 0;
        }
        if (args is ["pending"])
        {
            // What has no tables yet is new, and nothing of it could be lost.
            var applied = await db.Database.GetAppliedMigrationsAsync(cancel);
            if (applied.Any() && (await db.Database.GetPendingMigrationsAsync(cancel)).LastOrDefault() is { } newest)
                await says.WriteLineAsync(newest);
            return 0;
        }
        if (args is ["rehearse", var version, ..])
            return await RehearseAsync(db, version, args.ElementAtOrDefault(2), says, cancel);
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
                return await VerifyAsync(db, args.ElementAtOrDefault(1), says, cancel);
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
                await says.WriteLineAsync(string.Join(" | ", Names));
                return 2;
        }
    }

    /// <summary>Removes the nightly backups that are not kept any more, and says which.</summary>
    private static int Prune(string folder, TimeProvider time, TextWriter says)
    {
        var made = Directory.EnumerateFiles(folder).Select(f => BackupRetention.MadeAt(Path.GetFileName(f))).OfType<DateTime>();
        foreach (var old in BackupRetention.NotKept(made, DateOnly.FromDateTime(time.GetLocalNow().DateTime)))
        {
            File.Delete(Path.Combine(folder, BackupRetention.NameOf(old)));
            says.WriteLine(BackupRetention.NameOf(old));
        }
        return 0;
    }

    /// <summary>
    /// Makes or renews the certificates of the shop's own authority. It says on the output which host it is asked for as, and what there is
    /// to know on the other.
    /// </summary>
    private static int Certify(IConfiguration configuration, bool anew, TextWriter says)
    {
        var settings = configuration.GetSection("Network").Get<NetworkSettings>() ?? new();
        var names = NetworkNames.OfThisMachine(settings.GivenNames);
        var made = new ShopAuthority(settings.Files, TimeProvider.System).Certify(names, anew);
        if (made.Strange is { } strange)
        {
            Console.Error.WriteLine(
                $"uncial: The authority of this shop does not vouch for {strange}. With --new-authority another is made, which every "
                    + "tablet has to trust."
            );
            return 1;
        }
        if (made.IsNewAuthority)
            Console.Error.WriteLine("The shop has an authority of its own now; every tablet has to trust it once.");
        if (made.IsNewCertificate)
            Console.Error.WriteLine(
                string.Create(CultureInfo.InvariantCulture, $"A new certificate serves until {made.EndsAt:yyyy-MM-dd}.")
            );
        Console.Error.WriteLine("Fingerprint of the authority, SHA-256: " + made.Fingerprint);
        says.WriteLine(string.Join(' ', names.Names.Concat(names.Addresses.Select(ServedCertificate.HostOf))));
        return 0;
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

    /// <summary>Says the newest link of the chain, or the one of a number.</summary>
    private static async Task<int> HeadAsync(string owner, string? number, TextWriter says, CancellationToken cancel)
    {
        await using var connection = new Npgsql.NpgsqlConnection(owner);
        await connection.OpenAsync(cancel);
        var link = await ShopChain.LinkAsync(connection, number is null ? null : long.Parse(number, CultureInfo.InvariantCulture), cancel);
        await says.WriteLineAsync(link?.ToString() ?? (number is null ? "The chain has not begun." : "There is no such link."));
        return link is null && number is not null ? 1 : 0;
    }

    /// <summary>Checks every chain, row and guard, and heads that were kept on another medium, one a line.</summary>
    private static async Task<int> VerifyAsync(UncialDb db, string? heads, TextWriter says, CancellationToken cancel)
    {
        var (parts, links, faults) = await ChainCheck.OfAllAsync(db, cancel);
        var kept =
            heads is not null && File.Exists(heads)
                ? (await File.ReadAllLinesAsync(heads, cancel)).Select(ChainHead.Read).OfType<ChainHead>().ToList()
                : [];
        faults = [.. faults, .. await ShopChain.CheckAsync(db, kept, cancel)];
        await SayAsync(faults, says);
        var found =
            faults.Count == 0
                ? "every chain holds."
                : $"{faults.Count} {(faults.Count == 1 ? "fault" : "faults")}. The history was changed behind the application’s back.";
        await says.WriteLineAsync(
            string.Create(CultureInfo.InvariantCulture, $"{parts} {(parts == 1 ? "part" : "parts")}, {links} facts: {found}")
        );
        return faults.Count == 0 ? 0 : 1;
    }

    /// <summary>
    /// Brings a backup into an empty database: makes the tables of the version that its list of migrations names, reads its rows from the
    /// input, brings the tables up to date with their guards, and checks everything. In the end it says the head of the chain.
    /// </summary>
    private static async Task<int> RehearseAsync(UncialDb db, string versionFile, string? heads, TextWriter says, CancellationToken cancel)
    {
        using var list = new StringReader(await File.ReadAllTextAsync(versionFile, cancel));
        var version = await BackupReader.VersionAsync(list, cancel);
        if (version is null || !await EarlierVersions.MakeTablesAsync(db, version, cancel))
        {
            await says.WriteLineAsync(
                version is null
                    ? "it does not say of which version it is."
                    : $"it was made by a newer version of Uncial ({version}): restore it with that one."
            );
            return 1;
        }
        try
        {
            using var script = new StreamReader(Console.OpenStandardInput(), new System.Text.UTF8Encoding(false));
            await BackupReader.FillAsync(db, script, cancel);
            await Opening.MigrateAsync(db, cancel);
        }
        catch (Exception e) when (e is FormatException or Npgsql.PostgresException)
        {
            await says.WriteLineAsync(e.Message);
            await says.WriteLineAsync("it could not be read to its end.");
            return 1;
        }
        if (await VerifyAsync(db, heads, says, cancel) != 0)
        {
            await says.WriteLineAsync("its history does not hold.");
            return 1;
        }
        await says.WriteLineAsync((await ShopChain.HeadAsync(db, cancel))?.ToString());
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
