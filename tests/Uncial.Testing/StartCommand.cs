using System.Diagnostics;
using System.Globalization;
using System.Net;
using System.Net.Sockets;

namespace Uncial.Testing;

/// <summary>The start command with a data folder and ports of its own.</summary>
public sealed class StartCommand : IDisposable
{
    private static readonly TimeSpan LongestWait = TimeSpan.FromSeconds(90);

    private readonly List<Process> started = [];

    /// <summary>The data folder; thrown away afterwards.</summary>
    public string Data { get; } = Directory.CreateTempSubdirectory("uncial-start").FullName;

    public int Port { get; } = FreePort();

    /// <summary>Starts it, and waits until it says something.</summary>
    /// <param name="until">What it says when it is ready.</param>
    /// <param name="more">Further arguments.</param>
    public async Task<(Process Process, List<string> Said)> StartAsync(string until, params string[] more)
    {
        List<string> said = [];
        var heard = new TaskCompletionSource();
        // A program started from here must not take this one's test settings for its own.
        var start = new ProcessStartInfo("bash", ["./start", "--port", $"{Port}", "--data", Data, .. more])
        {
            WorkingDirectory = Repository.Root(),
            UseShellExecute = false,
            RedirectStandardOutput = true,
            RedirectStandardError = true,
        };
        var process = Process.Start(start)!;
        started.Add(process);
        void Hear(string? line)
        {
            if (line is null)
                return;
            lock (said)
                said.Add(line);
            if (line.Contains(until, StringComparison.Ordinal))
                heard.TrySetResult();
        }
        process.OutputDataReceived += (_, e) => Hear(e.Data);
        process.ErrorDataReceived += (_, e) => Hear(e.Data);
        process.BeginOutputReadLine();
        process.BeginErrorReadLine();
        try
        {
            await heard.Task.WaitAsync(TimeSpan.FromMinutes(5), TestContext.Current.CancellationToken);
        }
        catch (TimeoutException e)
        {
            throw new InvalidOperationException($"./start never said “{until}”, but: {string.Join('\n', said)}", e);
        }
        return (process, said);
    }

    /// <summary>Kills the database that the command has started, as a power cut would.</summary>
    public async Task KillDatabaseAsync()
    {
        using var database = Database() ?? throw new InvalidOperationException("No database of this command is running.");
        database.Kill();
        await database.WaitForExitAsync();
    }

    /// <summary>The database server that listens where the data folder says; null where none does.</summary>
    private Process? Database()
    {
        var kept = Path.Combine(Data, "db-port");
        if (!File.Exists(kept))
            return null;
        var port = File.ReadAllText(kept).Trim();
        return Process
            .GetProcesses()
            .FirstOrDefault(p =>
                ArgumentsOf(p) is [var program, .. var given]
                && program.EndsWith("/postgres", StringComparison.Ordinal)
                && given.Zip(given.Skip(1)).Contains(("-p", port))
            );
    }

    /// <summary>Kills the application that the command has started.</summary>
    public void KillApplication() => Application().Kill();

    /// <summary>The application that the command has started.</summary>
    public Process Application() =>
        Process
            .GetProcesses()
            .Single(p =>
                ArgumentsOf(p).Contains($"--port-of-start={Port}") && ArgumentsOf(p)[0].EndsWith("dotnet", StringComparison.Ordinal)
            );

    private static string[] ArgumentsOf(Process process)
    {
        try
        {
            return File.ReadAllText($"/proc/{process.Id}/cmdline").Split('\0');
        }
        catch (IOException)
        {
            return [""];
        }
    }

    /// <summary>Waits until something holds, or says what never came.</summary>
    /// <param name="holds">What has to hold.</param>
    /// <param name="what">What is waited for.</param>
    /// <param name="longest">How many times the usual wait.</param>
    public static async Task UntilAsync(Func<Task<bool>> holds, string what, int longest = 1)
    {
        using var asks = new PeriodicTimer(TimeSpan.FromMilliseconds(100));
        for (var waited = Stopwatch.StartNew(); !await holds(); await asks.WaitForNextTickAsync(TestContext.Current.CancellationToken))
            if (waited.Elapsed > LongestWait * longest)
                throw new TimeoutException($"It never came: {what}.");
    }

    /// <summary>Runs a command of ./start to its end.</summary>
    public async Task<(int Code, string Said)> RunAsync(params string[] arguments)
    {
        using var process = Process.Start(
            new ProcessStartInfo("bash", ["./start", "--data", Data, .. arguments])
            {
                WorkingDirectory = Repository.Root(),
                UseShellExecute = false,
                RedirectStandardOutput = true,
                RedirectStandardError = true,
            }
        )!;
        var (said, wrong) = (
            process.StandardOutput.ReadToEndAsync(TestContext.Current.CancellationToken),
            process.StandardError.ReadToEndAsync(TestContext.Current.CancellationToken)
        );
        await process.WaitForExitAsync(TestContext.Current.CancellationToken);
        return (process.ExitCode, await said + await wrong);
    }

    public void Dispose()
    {
        foreach (var process in started)
        {
            if (!process.HasExited)
                process.Kill(entireProcessTree: true);
            process.Dispose();
        }
        // Whatever ended the test, its database does not go on.
        using (var database = Database())
            database?.Kill();
        Directory.Delete(Data, recursive: true);
    }

    /// <summary>
    /// A port with the ones after it free for the device simulators, below those that are given out to any program that asks.
    /// </summary>
    private static int FreePort()
    {
        while (true)
        {
            var first = Random.Shared.Next(20_000, 30_000);
            if (Enumerable.Range(first, 20).All(IsFree))
                return first;
        }
    }

    private static bool IsFree(int port)
    {
        using var listener = new TcpListener(IPAddress.Loopback, port);
        try
        {
            listener.Start();
            return true;
        }
        catch (SocketException)
        {
            return false;
        }
    }
}
