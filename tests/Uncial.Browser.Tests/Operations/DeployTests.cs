using System.Diagnostics;
using System.Globalization;

namespace Uncial.Browser.Tests;

/// <summary>What deploy/install puts under /opt, run as a user who may write into its data folder and nowhere else.</summary>
public sealed class DeployTests : IDisposable
{
    private readonly string root = Directory.CreateTempSubdirectory("uncial-deploy").FullName;
    private readonly StartCommand ports = new();
    private Process? service;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private string Data => Path.Combine(root, "data");
    private string Start => Path.Combine(root, "opt/uncial/current/start");

    public void Dispose()
    {
        if (service is not null)
        {
            using (var stopping = Process.Start("pkill", ["-TERM", "-f", Path.Combine(root, "opt")]))
                stopping.WaitForExit();
            service.WaitForExit(TimeSpan.FromMinutes(1));
            service.Dispose();
        }
        ports.Dispose();
        Directory.Delete(root, recursive: true);
    }

    private static async Task<string> RunAsync(int code, string program, params string[] arguments)
    {
        using var process = Process.Start(
            new ProcessStartInfo(program, arguments)
            {
                WorkingDirectory = Repository.Root(),
                UseShellExecute = false,
                RedirectStandardOutput = true,
                RedirectStandardError = true,
            }
        )!;
        var (said, wrong) = (process.StandardOutput.ReadToEndAsync(Cancel), process.StandardError.ReadToEndAsync(Cancel));
        await process.WaitForExitAsync(Cancel);
        process.ExitCode.ShouldBe(code, $"{program} {string.Join(' ', arguments)}: {await said}{await wrong}");
        return await said + await wrong;
    }

    /// <summary>What an address answers; null where it does not. The certificate is for tablets, not for this machine.</summary>
    private static async Task<string?> AskAsync(string address)
    {
        using var curl = Process.Start(
            new ProcessStartInfo("curl", ["-fsk", address]) { UseShellExecute = false, RedirectStandardOutput = true }
        )!;
        var text = await curl.StandardOutput.ReadToEndAsync(Cancel);
        await curl.WaitForExitAsync(Cancel);
        return curl.ExitCode == 0 ? text : null;
    }

    /// <summary>A command of the published build, as a user of its own where the tests may become one.</summary>
    private (string Program, string[] Arguments) AsUser(params string[] arguments) =>
        Environment.IsPrivilegedProcess ? ("runuser", ["-u", "nobody", "--", Start, .. arguments]) : (Start, arguments);

    private Task<string> StartAsync(int code, params string[] arguments)
    {
        var (program, all) = AsUser(arguments);
        return RunAsync(code, program, all);
    }

    [Fact]
    public async Task The_published_build_serves_as_a_user_of_its_own_and_its_units_are_sound()
    {
        const UnixFileMode everybody = UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute;
        File.SetUnixFileMode(root, everybody | UnixFileMode.GroupExecute | UnixFileMode.OtherExecute | UnixFileMode.OtherRead);
        await RunAsync(0, Path.Combine(Repository.Root(), "deploy/install"), "--into", root, "--no-service");

        // The units, with the paths that they will have there.
        var units = Directory.CreateDirectory(Path.Combine(root, "units")).FullName;
        foreach (var unit in Directory.GetFiles(Path.Combine(root, "etc/systemd/system")))
            await File.WriteAllTextAsync(
                Path.Combine(units, Path.GetFileName(unit)),
                (await File.ReadAllTextAsync(unit, Cancel)).Replace("/opt/uncial", root + "/opt/uncial", StringComparison.Ordinal),
                Cancel
            );
        (await RunAsync(0, "systemd-analyze", ["verify", .. Directory.GetFiles(units)])).Trim().ShouldBe("");

        Directory.CreateDirectory(Data);
        if (Environment.IsPrivilegedProcess)
            await RunAsync(0, "chown", "nobody", Data);
        string[] options = ["--data", Data, "--name", "brakes.test", "--port", $"{ports.Port}", "--plain-port", $"{ports.Port + 1}"];
        (await StartAsync(1, ["--certified", "--empty", .. options])).ShouldContain("--certify makes one");
        await StartAsync(0, ["--certify", .. options]);
        var (program, arguments) = AsUser(["--certified", "--no-night", "--empty", .. options]);
        service = Process.Start(new ProcessStartInfo(program, arguments) { UseShellExecute = false })!;
        var address = $"https://127.0.0.1:{ports.Port}";
        await StartCommand.UntilAsync(
            async () => await AskAsync(address + "/health/ready") == "Healthy",
            "the published build ready",
            longest: 2
        );
        (await AskAsync(address + "/SignIn")).ShouldNotBeNull().ShouldContain("A new shop");
        (await AskAsync($"http://127.0.0.1:{ports.Port + 1}/")).ShouldNotBeNull().ShouldContain("Trust this shop");

        // Nothing of it runs as root, and what it keeps lies in its data folder.
        var owners = (await RunAsync(0, "pgrep", "-f", Path.Combine(root, "opt/uncial")))
            .Split('\n', StringSplitOptions.RemoveEmptyEntries)
            .Select(id =>
                File.Exists($"/proc/{id}/status")
                    ? File.ReadLines($"/proc/{id}/status").First(l => l.StartsWith("Uid:", StringComparison.Ordinal))
                    : ""
            )
            .Where(l => l.Length > 0)
            .Select(l => int.Parse(l.Split('\t')[2], CultureInfo.InvariantCulture))
            .ToList();
        owners.ShouldNotBeEmpty();
        if (Environment.IsPrivilegedProcess)
            owners.Count(o => o == 0).ShouldBeLessThanOrEqualTo(1, "runuser alone is root's");
        (await StartAsync(0, "--back-up-now", "--data", Data)).ShouldContain("restored into a scratch database and checked");
        Directory.GetFiles(Path.Combine(Data, "backups")).ShouldHaveSingleItem();
        (await StartAsync(0, "--version")).ShouldStartWith("Uncial ");
    }
}
