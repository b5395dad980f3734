using System.Diagnostics;
using System.Net;
using System.Net.Sockets;
using OpenQA.Selenium;

namespace Uncial.Web.Tests;

/// <summary>The start command as a person uses it, and what it makes of programs that are killed under it.</summary>
public sealed class StartTests : IDisposable
{
    private readonly string data = Directory.CreateTempSubdirectory("uncial-start").FullName;
    private readonly int port = FreePort();
    private readonly List<Process> started = [];

    private async Task<(Process Process, List<string> Said)> Start(string until)
    {
        List<string> said = [];
        var heard = new TaskCompletionSource();
        // A program started from here must not take this one's test settings for its own.
        var start = new ProcessStartInfo("bash", ["./start", "--port", $"{port}", "--data", data]) { WorkingDirectory = Screen.Root(), RedirectStandardOutput = true, RedirectStandardError = true };
        var process = Process.Start(start)!;
        started.Add(process);
        void Hear(string? line)
        {
            if (line is null) return;
            lock (said) said.Add(line);
            if (line.Contains(until, StringComparison.Ordinal)) heard.TrySetResult();
        }
        process.OutputDataReceived += (_, e) => Hear(e.Data);
        process.ErrorDataReceived += (_, e) => Hear(e.Data);
        process.BeginOutputReadLine();
        process.BeginErrorReadLine();
        try { await heard.Task.WaitAsync(TimeSpan.FromSeconds(90), TestContext.Current.CancellationToken); }
        catch (TimeoutException) { throw new InvalidOperationException($"./start never said “{until}”, but: {string.Join('\n', said)}"); }
        return (process, said);
    }

    /// <summary>Runs a command of ./start to its end.</summary>
    private async Task<(int Code, string Said)> Run(params string[] arguments)
    {
        using var process = Process.Start(new ProcessStartInfo("bash", ["./start", "--data", data, .. arguments]) { WorkingDirectory = Screen.Root(), RedirectStandardOutput = true, RedirectStandardError = true })!;
        var (said, wrong) = (process.StandardOutput.ReadToEndAsync(TestContext.Current.CancellationToken), process.StandardError.ReadToEndAsync(TestContext.Current.CancellationToken));
        await process.WaitForExitAsync(TestContext.Current.CancellationToken);
        return (process.ExitCode, await said + await wrong);
    }

    private static async Task Signal(string signal, string pattern) =>
        await Process.Start("pkill", [$"-{signal}", "-f", pattern]).WaitForExitAsync(TestContext.Current.CancellationToken);

    private async Task<HttpStatusCode> Health()
    {
        using var caller = new HttpClient();
        return (await caller.GetAsync(new Uri($"http://127.0.0.1:{port}/health"), TestContext.Current.CancellationToken)).StatusCode;
    }

    [Fact]
    public async Task It_opens_once_comes_again_after_any_kill_and_stops_clean()
    {
        var (first, said) = await Start("Ctrl-C stops it");
        said.ShouldContain(l => l.Contains("Ines Varga 2417"));
        (await Health()).ShouldBe(HttpStatusCode.OK);
        var (second, _) = await Start("is running already");
        await second.WaitForExitAsync(TestContext.Current.CancellationToken);
        second.ExitCode.ShouldBe(0);
        (await Health()).ShouldBe(HttpStatusCode.OK);

        // The database is killed under it: health says so, the next start brings both back with what was on record.
        var cluster = await File.ReadAllTextAsync(Path.Combine(data, "db-port"), TestContext.Current.CancellationToken);
        await Signal("KILL", $"postgres .*-p {cluster.Trim()}");
        // The kill takes a moment to be felt; 503 must come, and nothing else.
        for (var until = DateTime.UtcNow.AddSeconds(30); await Health() == HttpStatusCode.OK && DateTime.UtcNow < until;) await Task.Delay(100, TestContext.Current.CancellationToken);
        (await Health()).ShouldBe(HttpStatusCode.ServiceUnavailable);
        await Process.Start("kill", ["-INT", $"{first.Id}"]).WaitForExitAsync(TestContext.Current.CancellationToken);
        await first.WaitForExitAsync(TestContext.Current.CancellationToken);
        first.ExitCode.ShouldBe(0);

        var (third, saidAgain) = await Start("Ctrl-C stops it");
        saidAgain.ShouldContain(l => l.Contains("Ines Varga 2417"));
        // Somebody reads a rotor with a played gauge when the application is killed: start ends, stops the database, and says how to go on.
        using var screen = new Screen(new($"http://127.0.0.1:{port}"));
        screen.SignIn("Tom Okoro", "1304");
        screen.Go("/measure/TQB5P");
        screen.UntilHeading("Read at 4½");
        using (var player = new HttpClient { BaseAddress = new($"http://127.0.0.1:{port + 10}"), DefaultRequestHeaders = { { "X-Stand-In", "1" } } })
        {
            screen.Until(() => screen.Driver.FindElement(By.CssSelector("[data-live-word]")).Text.EndsWith("mm", StringComparison.Ordinal), "the played gauge connected");
            foreach (var what in new[] { "turn?to=27.534", "send" }) (await player.PostAsync(new Uri($"/gauges/0/{what}", UriKind.Relative), null, TestContext.Current.CancellationToken)).EnsureSuccessStatusCode();
        }
        screen.UntilHeading("Read at 6 ");
        await Signal("KILL", $"Uncial.Web.dll --port-of-start={port}");
        await third.WaitForExitAsync(TestContext.Current.CancellationToken);
        third.ExitCode.ShouldNotBe(0);
        foreach (var (size, next) in new[] { ("27.55", "7½"), ("27.56", "9 ") })
        {
            screen.Enter(size);
            screen.UntilHeading("Read at " + next);
        }
        screen.UntilText("27.56 waits");

        var (last, _) = await Start("Ctrl-C stops it");
        (await Health()).ShouldBe(HttpStatusCode.OK);
        screen.Until(() => !screen.Driver.FindElement(By.CssSelector("[data-outbox]")).Displayed, "what waited gone in by itself");
        screen.UntilHeading("Read at 9 ");
        screen.UntilText("27.56");
        // Backed up while it works, and what must not be done meanwhile is refused.
        var backup = Path.Combine(data, "shop.backup");
        (await Run("--backup", backup)).ShouldSatisfyAllConditions(r => r.Said.ShouldContain("Backed up into"), r => r.Code.ShouldBe(0));
        (await Run("--restore", backup)).ShouldSatisfyAllConditions(r => r.Said.ShouldContain("stop it first"), r => r.Code.ShouldBe(1));
        screen.Enter("27.5713");
        screen.UntilHeading("Read at 10½");
        await Process.Start("kill", ["-INT", $"{last.Id}"]).WaitForExitAsync(TestContext.Current.CancellationToken);
        await last.WaitForExitAsync(TestContext.Current.CancellationToken);
        last.ExitCode.ShouldBe(0);
        await Should.ThrowAsync<HttpRequestException>(Health);

        // Brought back, it is as it was then: what came in before is there, what came after is not, and every chain holds.
        var export = Path.Combine(data, "shop.jsonl");
        (await Run("--restore", export + "x")).Code.ShouldBe(1);
        (await Run("--export", export)).Code.ShouldBe(0);
        (await File.ReadAllTextAsync(export, TestContext.Current.CancellationToken)).ShouldContain("\"typed\": \"27.5713\"");
        (await Run("--restore", export)).ShouldSatisfyAllConditions(r => r.Said.ShouldContain("is no backup"), r => r.Code.ShouldBe(1));
        (await Run("--restore", backup)).ShouldSatisfyAllConditions(r => r.Said.ShouldContain("Restored from"), r => r.Code.ShouldBe(0));
        (await Run("--verify")).ShouldSatisfyAllConditions(r => r.Said.ShouldContain("every chain holds"), r => r.Code.ShouldBe(0));
        (await Run("--export", export)).Code.ShouldBe(0);
        (await File.ReadAllTextAsync(export, TestContext.Current.CancellationToken)).ShouldSatisfyAllConditions(t => t.ShouldContain("\"typed\": \"27.56\""), t => t.ShouldNotContain("\"typed\": \"27.5713\""));
    }

    public void Dispose()
    {
        foreach (var process in started) { if (!process.HasExited) process.Kill(entireProcessTree: true); process.Dispose(); }
        Directory.Delete(data, recursive: true);
    }

    /// <summary>A port with the ones after it free for the stand-ins, below those that are given out to any program that asks.</summary>
    private static int FreePort()
    {
        while (true)
        {
            var first = Random.Shared.Next(20_000, 30_000);
            if (Enumerable.Range(first, 20).All(IsFree)) return first;
        }
    }

    private static bool IsFree(int port)
    {
        using var listener = new TcpListener(IPAddress.Loopback, port);
        try { listener.Start(); return true; }
        catch (SocketException) { return false; }
    }
}
