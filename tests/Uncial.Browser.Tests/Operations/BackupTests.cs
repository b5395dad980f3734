using System.Diagnostics;
using System.Text;
using System.Text.RegularExpressions;
using Npgsql;
using Uncial.Core.Times;

namespace Uncial.Browser.Tests;

/// <summary>The backups that are made by themselves: encrypted, proven before they count, and of use on another machine.</summary>
public sealed partial class BackupTests : IDisposable
{
    private readonly StartCommand command = new();
    private readonly string folder = Directory.CreateTempSubdirectory("uncial-backups").FullName;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private string State => Path.Combine(command.Data, "backup.state");

    public void Dispose()
    {
        command.Dispose();
        foreach (var left in new[] { folder, folder + "-away" }.Where(Directory.Exists))
            Directory.Delete(left, recursive: true);
    }

    private async Task ChangeAsync(string sql)
    {
        var password = await File.ReadAllTextAsync(Path.Combine(command.Data, "db-password"), Cancel);
        var port = int.Parse(await File.ReadAllTextAsync(Path.Combine(command.Data, "db-port"), Cancel), null);
        await using var source = NpgsqlDataSource.Create(
            new NpgsqlConnectionStringBuilder
            {
                Host = "127.0.0.1",
                Port = port,
                Username = "uncial",
                Password = password,
                Database = "uncial",
            }
        );
        await using var change = source.CreateCommand("set session_replication_role = replica; " + sql);
        (await change.ExecuteNonQueryAsync(Cancel)).ShouldBe(1);
    }

    private async Task<string> ShopPageAsync()
    {
        using var owner = await new HttpPerson(new($"http://127.0.0.1:{command.Port}")).SignInAsync("marit", "9051");
        return (await owner.GetAsync("/shop")).Text;
    }

    [Fact]
    public async Task Each_night_leaves_a_backup_that_was_proven_and_another_machine_opens_with_the_key_on_paper()
    {
        var first = Path.Combine(Repository.Root(), "tests/assets/shop-v1/shop.backup");
        (await command.RunAsync("--restore", first)).Code.ShouldBe(0);
        // The shop is older than last night, and nobody has backed it up since.
        File.SetLastWriteTimeUtc(Path.Combine(command.Data, "db-password"), DateTime.UtcNow.AddDays(-3));
        var (process, _) = await command.StartAsync("Ctrl-C stops it", "--backups", folder);
        (await ShopPageAsync()).ShouldContain("No backup was ever made here");
        await StartCommand.UntilAsync(() => Task.FromResult(File.Exists(State)), "the backup of the night", longest: 4);
        var made = Directory.GetFiles(folder).ShouldHaveSingleItem();
        BackupRetention.MadeAt(Path.GetFileName(made)).ShouldNotBeNull();
        File.GetUnixFileMode(made).ShouldBe(UnixFileMode.UserRead | UnixFileMode.UserWrite);
        Encoding.Latin1.GetString(await File.ReadAllBytesAsync(made, Cancel)).ShouldNotContain("PGDMP");
        (await ShopPageAsync()).ShouldContain("restored and checked");
        Directory.GetDirectories(command.Data, "backup.*").ShouldBeEmpty();

        // The folder is away: the shop says so, and what was good counts on.
        var away = folder + "-away";
        Directory.Move(folder, away);
        await File.WriteAllTextAsync(folder, "", Cancel);
        (await command.RunAsync("--back-up-now")).ShouldSatisfyAllConditions(
            r => r.Said.ShouldContain("cannot be written to"),
            r => r.Code.ShouldBe(1)
        );
        (await ShopPageAsync()).ShouldSatisfyAllConditions(
            t => t.ShouldContain("restored and checked"),
            t => t.ShouldContain("cannot be written to")
        );
        File.Delete(folder);
        Directory.Move(away, folder);

        // Somebody has changed a row behind the application's back: such a copy is none, and takes no good one's place.
        var good = await File.ReadAllTextAsync(State, Cancel);
        await ChangeAsync("update jobs set vehicle = 'Another' where number = 2410");
        (await command.RunAsync("--back-up-now")).ShouldSatisfyAllConditions(
            r => r.Said.ShouldContain("its history does not hold"),
            r => r.Code.ShouldBe(1)
        );
        Directory.GetFiles(folder).ShouldHaveSingleItem().ShouldBe(made);
        (await File.ReadAllTextAsync(State, Cancel)).ShouldBe(good);

        var (_, said) = await command.RunAsync("--backup-key");
        await Process.Start("kill", ["-TERM", $"{process.Id}"]).WaitForExitAsync(Cancel);
        await process.WaitForExitAsync(Cancel);

        // The machine is gone. What is left: the file, and a sheet of paper that somebody types off.
        var paper = KeyOnPaper().Match(said).Value;
        paper.Length.ShouldBe(39);
        using var other = new StartCommand();
        var typed = Path.Combine(other.Data, "key");
        (await other.RunAsync("--restore", made)).ShouldSatisfyAllConditions(
            r => r.Said.ShouldContain("is encrypted: give the key"),
            r => r.Code.ShouldBe(1)
        );
        await File.WriteAllTextAsync(typed, paper[..^1] + (paper[^1] == 'A' ? 'B' : 'A'), Cancel);
        (await other.RunAsync("--restore", made, "--key-of-backups", typed)).ShouldSatisfyAllConditions(
            r => r.Said.ShouldContain("cannot be decrypted with that key"),
            r => r.Code.ShouldBe(1)
        );
        await File.WriteAllTextAsync(typed, paper.ToLowerInvariant() + "\n", Cancel);
        (await other.RunAsync("--restore", made, "--key-of-backups", typed)).ShouldSatisfyAllConditions(
            r => r.Said.ShouldContain("Restored from"),
            r => r.Code.ShouldBe(0)
        );
        (await other.RunAsync("--verify")).ShouldSatisfyAllConditions(
            r => r.Said.ShouldContain("63 parts"),
            r => r.Said.ShouldContain("every chain holds")
        );
    }

    [GeneratedRegex("([A-Z2-7]{4} ){7}[A-Z2-7]{4}", RegexOptions.ExplicitCapture)]
    private static partial Regex KeyOnPaper();
}
