using System.Diagnostics;
using Uncial.Data.Exchange;

namespace Uncial.Browser.Tests;

/// <summary>What the first version left behind is opened, restored and read by this one (see tests/assets/shop-v1).</summary>
public sealed class FirstVersionTests : IDisposable
{
    private static readonly string Assets = Path.Combine(Repository.Root(), "tests/assets/shop-v1");
    private readonly StartCommand command = new();

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static async Task Shell(string line)
    {
        using var process = Process.Start(
            new ProcessStartInfo("bash", ["-c", line]) { UseShellExecute = false, RedirectStandardError = true }
        )!;
        var wrong = await process.StandardError.ReadToEndAsync(Cancel);
        await process.WaitForExitAsync(Cancel);
        process.ExitCode.ShouldBe(0, wrong);
    }

    [Fact]
    public async Task A_data_folder_is_brought_up_to_date_with_every_chain_whole_and_its_PINs_still_good()
    {
        await Shell(
            $"tar -xJf '{Assets}/data-folder.tar.xz' -C '{command.Data}' && chmod 711 '{command.Data}' && if [ \"$(id -u)\" = 0 ]; "
                + $"then chown -R postgres: '{command.Data}/cluster'; fi"
        );
        // A database that cannot be backed up is not changed.
        var noFolder = Path.Combine(command.Data, "a-file");
        await File.WriteAllTextAsync(noFolder, "", Cancel);
        (await command.RunAsync("--port", $"{command.Port}", "--backups", noFolder)).ShouldSatisfyAllConditions(
            r => r.Said.ShouldContain("a-file cannot be written to"),
            r => r.Said.ShouldContain("Nothing was changed"),
            r => r.Code.ShouldBe(1)
        );
        var folder = Path.Combine(command.Data, "kept");
        var (process, _) = await command.StartAsync("Ctrl-C stops it", "--backups", folder);
        Directory.GetFiles(folder).ShouldHaveSingleItem().ShouldContain("uncial-before-");
        // The hash of the first version signs in once more, and is replaced by it.
        using (var person = await new HttpPerson(new($"http://127.0.0.1:{command.Port}")).SignInAsync("tom", "1304"))
        {
            (await person.GetAsync("/part/TQA2P")).Text.ShouldContain("Released");
            (await person.GetAsync("/certificate/TQA2P")).Text.ShouldContain("Certificate of a brake part");
            await person.PostAsync("/preferences?handler=SignOut", [], "/check");
            await person.SignInAsync("tom", "1304");
        }
        await Process.Start("kill", ["-TERM", $"{process.Id}"]).WaitForExitAsync(Cancel);
        await process.WaitForExitAsync(Cancel);
        (await command.RunAsync("--verify")).ShouldSatisfyAllConditions(
            r => r.Said.ShouldContain("every chain holds"),
            r => r.Said.ShouldContain("63 parts"),
            r => r.Code.ShouldBe(0)
        );
        (await command.RunAsync("--head")).Said.ShouldMatch("[0-9]+ [0-9a-f]{64} ");
    }

    [Fact]
    public async Task A_backup_is_restored_and_a_job_file_read_and_of_a_whole_shop_it_is_said_which_version_wrote_it()
    {
        (await command.RunAsync("--restore", Path.Combine(Assets, "shop.backup"))).ShouldSatisfyAllConditions(
            r => r.Said.ShouldContain("Restored from"),
            r => r.Code.ShouldBe(0)
        );
        (await command.RunAsync("--verify")).ShouldSatisfyAllConditions(
            r => r.Said.ShouldContain("63 parts"),
            r => r.Said.ShouldContain("every chain holds"),
            r => r.Code.ShouldBe(0)
        );
        // A backup with a program in it: a view that is filled when it is restored. It is refused, and nothing of it has run.
        var (admin, ran) = (
            new Npgsql.NpgsqlConnectionStringBuilder(
                Environment.GetEnvironmentVariable("UNCIAL_TEST_DATABASE")!.Replace("{0}", "postgres", StringComparison.Ordinal)
            ),
            Path.Combine(command.Data, "ran")
        );
        var pg = $"PGPASSWORD='{admin.Password}' PGHOST={admin.Host} PGPORT={admin.Port} PGUSER={admin.Username}";
        var evil = Path.Combine(command.Data, "evil.backup");
        await Shell(
            $"bin=$(ls -d /usr/lib/postgresql/*/bin | sort -V | tail -n 1); export {pg}; db=evil_{Guid.NewGuid():N}; "
                + "\"$bin/createdb\" $db && \"$bin/psql\" -q $db -c \"create function public.f() returns int language plpgsql as \\$\\$ "
                + $"begin copy (select 1) to program 'touch {ran}'; return 1; end \\$\\$; create materialized view public.v as select "
                + $"public.f() as x with no data\" && \"$bin/pg_dump\" -Fc -f '{evil}' $db; \"$bin/dropdb\" $db"
        );
        (await command.RunAsync("--restore", evil)).ShouldSatisfyAllConditions(
            r => r.Said.ShouldContain("MATERIALIZED VIEW"),
            r => r.Said.ShouldContain("Nothing was changed"),
            r => r.Code.ShouldBe(1)
        );
        File.Exists(ran).ShouldBeFalse();
        // What is no backup of Uncial is not restored, whatever its name.
        var strange = Path.Combine(command.Data, "strange.backup");
        await File.WriteAllTextAsync(strange, "PGDMP but not really", Cancel);
        (await command.RunAsync("--restore", strange)).ShouldSatisfyAllConditions(
            r => r.Said.ShouldContain("is no backup"),
            r => r.Code.ShouldBe(1)
        );

        var (job, faults) = JobFile.Read(await File.ReadAllTextAsync(Path.Combine(Assets, "job-2410.json"), Cancel));
        faults.ShouldBeEmpty();
        job!.Parts.Select(p => p.Tag).ShouldBe(["TQA2P", "TQA3Q"]);
        var file = Path.Combine(command.Data, "shop.jsonl");
        await Shell($"xz -dc '{Assets}/shop.jsonl.xz' > '{file}'");
        using var other = new StartCommand();
        (await other.RunAsync("--import", file)).ShouldSatisfyAllConditions(
            r => r.Said.ShouldContain("every chain holds"),
            r => r.Code.ShouldBe(0)
        );
        (await other.RunAsync("--verify")).ShouldSatisfyAllConditions(
            r => r.Said.ShouldContain(": every chain holds"),
            r => r.Code.ShouldBe(0)
        );
        // One line of it bent: nothing of it stays.
        await Shell($"sed -i 's/\"vehicle\": *\"/&New /' '{file}'");
        using var bent = new StartCommand();
        (await bent.RunAsync("--import", file)).ShouldSatisfyAllConditions(
            r => r.Said.ShouldContain("a line was changed, added or lost"),
            r => r.Said.ShouldContain("Nothing was read in"),
            r => r.Code.ShouldBe(1)
        );
    }

    public void Dispose() => command.Dispose();
}
