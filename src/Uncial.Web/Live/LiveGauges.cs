using System.Collections.Concurrent;
using System.Net.Sockets;
using System.Text;
using Microsoft.EntityFrameworkCore;
using Uncial.Core.Gauges;
using Uncial.Data;

namespace Uncial.Web.Live;

/// <summary>
/// Listens to the gauges that send their readings, each on a connection of its own that is made anew whenever it breaks. Nothing waits for it:
/// without it readings are typed.
/// </summary>
public sealed partial class LiveGauges(IServiceScopeFactory scopes, News news, TimeProvider time, ILogger<LiveGauges> log) : BackgroundService
{
    private static readonly TimeSpan LookAgain = TimeSpan.FromSeconds(3);
    private static readonly TimeSpan TryAgain = TimeSpan.FromSeconds(1);
    private static readonly TimeSpan Silence = TimeSpan.FromSeconds(2);
    private static readonly TimeSpan ConnectWithin = TimeSpan.FromSeconds(2);
    private const int LongestRun = 4096;

    private readonly Dictionary<int, (string Address, CancellationTokenSource Stop)> connections = [];

    private readonly ConcurrentDictionary<int, (string Session, long Number)> lastTaken = new();

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await FollowAsync(await AddressesAsync(stoppingToken), stoppingToken);
                await Task.Delay(LookAgain, time, stoppingToken);
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested) { }
#pragma warning disable CA1031 // The database may be away for a while; the gauges that are known are listened to on.
            catch (Exception e)
#pragma warning restore CA1031
            {
                NotKnown(e.Message);
                await Task.Delay(LookAgain, time, CancellationToken.None);
            }
        }
        foreach (var (_, stop) in connections.Values) await stop.CancelAsync();
    }

    private async Task<Dictionary<int, string>> AddressesAsync(CancellationToken cancel)
    {
        await using var scope = scopes.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<UncialDb>();
        return await db.Gauges.AsNoTracking().Where(g => g.Address != null && g.RetiredAt == null).ToDictionaryAsync(g => g.Id, g => g.Address!, cancel);
    }

    private async Task FollowAsync(Dictionary<int, string> addresses, CancellationToken cancel)
    {
        foreach (var (gauge, (address, stop)) in connections.ToList())
        {
            if (addresses.TryGetValue(gauge, out var still) && still == address) continue;
            await stop.CancelAsync();
            connections.Remove(gauge);
        }
        foreach (var (gauge, address) in addresses)
        {
            if (connections.ContainsKey(gauge)) continue;
            var stop = CancellationTokenSource.CreateLinkedTokenSource(cancel);
            connections[gauge] = (address, stop);
            _ = Task.Run(() => KeepAsync(gauge, address, stop.Token), CancellationToken.None);
        }
    }

    private async Task KeepAsync(int gauge, string address, CancellationToken cancel)
    {
        while (!cancel.IsCancellationRequested)
        {
            try
            {
                await ListenAsync(gauge, address, cancel);
            }
            catch (Exception e) when (e is SocketException or IOException or OperationCanceledException or FormatException)
            {
                // Lost: said on the pages, and tried again.
            }
            news.Says(gauge, new(GaugeState.Lost, null, false, null));
            try { await Task.Delay(TryAgain, time, cancel); }
            catch (OperationCanceledException) { }
        }
    }

    private async Task ListenAsync(int gauge, string address, CancellationToken cancel)
    {
        var (host, port) = address.Split(':') is [var h, var p] && int.TryParse(p, out var n) ? (h, n) : throw new FormatException("host:port");
        using var client = new TcpClient { NoDelay = true };
        using (var within = CancellationTokenSource.CreateLinkedTokenSource(cancel))
        {
            within.CancelAfter(ConnectWithin);
            await client.ConnectAsync(host, port, within.Token);
        }
        await using var stream = client.GetStream();
        using var reader = new StreamReader(stream, Encoding.ASCII, false, LongestRun, leaveOpen: true);
        GaugeNow now = new(GaugeState.Stale, null, false, null);
        news.Says(gauge, now);
        var session = "";
        var reading = reader.ReadLineAsync(cancel).AsTask();
        while (true)
        {
            if (await Task.WhenAny(reading, Task.Delay(Silence, time, cancel)) != reading)
            {
                cancel.ThrowIfCancellationRequested();
                news.Says(gauge, now with { State = GaugeState.Stale });
                continue;
            }
            if (await reading is not { } text) return;
            if (GaugeLine.Read(text) is { } line)
            {
                now = new(GaugeState.Connected, line.Text is null ? now.Shows : line.Typed, line.IsStable, line.Battery);
                news.Says(gauge, now);
                if (line.Word == GaugeWord.Hello) session = line.Session ?? "";
                if (line.Word == GaugeWord.Send)
                {
                    // A gauge repeats what was not answered: the same number is the same reading.
                    var taken = lastTaken.GetValueOrDefault(gauge) == (session, line.Number) || news.Sends(gauge, line.Typed, line.IsStable);
                    if (taken) lastTaken[gauge] = (session, line.Number);
                    await stream.WriteAsync(Encoding.ASCII.GetBytes($"{(taken ? "TAKEN" : "NOBODY")} n={line.Number}\n"), cancel);
                }
            }
            reading = reader.ReadLineAsync(cancel).AsTask();
        }
    }

    [LoggerMessage(Level = LogLevel.Information, Message = "The gauges are not known for the moment: {Why}")]
    private partial void NotKnown(string why);
}
