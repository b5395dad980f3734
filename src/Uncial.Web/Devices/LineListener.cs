using System.Net.Sockets;
using System.Text;
using Uncial.Data;

namespace Uncial.Web.Devices;

/// <summary>
/// Listens to devices that talk in lines over TCP, each on a connection of its own that is made anew whenever it breaks. Of several
/// instances one listens to each of them (<see cref="DeviceOwners"/>). Nothing waits for it: without it figures are typed.
/// </summary>
public abstract partial class LineListener(
    DeviceKind kind,
    DeviceOwners owners,
    IServiceScopeFactory scopes,
    TimeProvider time,
    ILogger log
) : BackgroundService
{
    private static readonly TimeSpan LookAgain = TimeSpan.FromSeconds(3);
    private static readonly TimeSpan LookForOwner = TimeSpan.FromMilliseconds(250);
    private static readonly TimeSpan TryAgain = TimeSpan.FromSeconds(1);
    private static readonly TimeSpan Silence = TimeSpan.FromSeconds(2);
    private static readonly TimeSpan ConnectWithin = TimeSpan.FromSeconds(2);
    private const int LongestLine = 512;

    private readonly Dictionary<int, (string Address, CancellationTokenSource Stop)> connections = [];

    /// <summary>Number under which this instance is connected to a device; null where another one is.</summary>
    protected long? FenceOf(int id) => owners.FenceOf(new(kind, id));

    /// <summary>No other instance can have taken the devices over meanwhile.</summary>
    protected bool IsSure => owners.IsSure;

    /// <summary>The devices that send, by their id: host:port.</summary>
    protected abstract Task<Dictionary<int, string>> AddressesAsync(UncialDb db, CancellationToken cancel);

    /// <summary>A device is connected and has said nothing yet, or has fallen silent.</summary>
    protected abstract void Stale(int id);

    /// <summary>The connection is lost.</summary>
    protected abstract void Lost(int id);

    /// <summary>A line was heard; what is returned is answered.</summary>
    protected abstract string? Heard(int id, string text);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                Dictionary<int, string> addresses;
                await using (var scope = scopes.CreateAsyncScope())
                    addresses = await AddressesAsync(scope.ServiceProvider.GetRequiredService<UncialDb>(), stoppingToken);
                owners.Want(kind, addresses.Keys);
                for (var since = time.GetTimestamp(); time.GetElapsedTime(since) < LookAgain; )
                {
                    await FollowAsync(addresses, stoppingToken);
                    await Task.Delay(LookForOwner, time, stoppingToken);
                }
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested) { }
#pragma warning disable CA1031 // The database may be away for a while; the devices that are known are listened to on.
            catch (Exception e)
#pragma warning restore CA1031
            {
                NotKnown(log, e.Message);
                await Task.Delay(LookForOwner, time, CancellationToken.None);
            }
        }
        foreach (var (_, stop) in connections.Values)
            await stop.CancelAsync();
    }

    private async Task FollowAsync(Dictionary<int, string> addresses, CancellationToken cancel)
    {
        foreach (var (id, (address, stop)) in connections.ToList())
        {
            if (addresses.TryGetValue(id, out var still) && still == address && FenceOf(id) is not null)
                continue;
            await stop.CancelAsync();
            connections.Remove(id);
        }
        foreach (var (id, address) in addresses)
        {
            if (connections.ContainsKey(id) || FenceOf(id) is null)
                continue;
            var stop = CancellationTokenSource.CreateLinkedTokenSource(cancel);
            connections[id] = (address, stop);
            _ = Task.Run(() => KeepAsync(id, address, stop.Token), CancellationToken.None);
        }
    }

    private async Task KeepAsync(int id, string address, CancellationToken cancel)
    {
        while (!cancel.IsCancellationRequested)
        {
            try
            {
                await ListenAsync(id, address, cancel);
            }
#pragma warning disable CA1031 // Whatever a device does, it is lost for the moment: said on the pages, and tried again.
            catch (Exception e)
#pragma warning restore CA1031
            {
                if (e is not (SocketException or IOException or OperationCanceledException or FormatException))
                    Failed(log, id, e);
            }
            // What another instance hears of it now is told by that one.
            if (FenceOf(id) is not null)
                Lost(id);
            try
            {
                await Task.Delay(TryAgain, time, cancel);
            }
            catch (OperationCanceledException) { }
        }
    }

    private async Task ListenAsync(int id, string address, CancellationToken cancel)
    {
        var (host, port) =
            address.Split(':') is [var h, var p] && DeviceAddress.Allows(h) && ushort.TryParse(p, out var n)
                ? (h, n)
                : throw new FormatException("host:port");
        using var client = new TcpClient { NoDelay = true };
        using (var within = CancellationTokenSource.CreateLinkedTokenSource(cancel))
        {
            within.CancelAfter(ConnectWithin);
            await client.ConnectAsync(System.Net.IPAddress.Parse(host), port, within.Token);
        }
        await using var stream = client.GetStream();
        using var reader = new BoundedLines(stream, LongestLine);
        Stale(id);
        var reading = reader.ReadAsync(cancel);
        while (true)
        {
            if (await Task.WhenAny(reading, Task.Delay(Silence, time, cancel)) != reading)
            {
                cancel.ThrowIfCancellationRequested();
                Stale(id);
                continue;
            }
            if (await reading is not { } line)
                return;
            if (Heard(id, line) is { } answer)
                await stream.WriteAsync(Encoding.ASCII.GetBytes(answer + "\n"), cancel);
            reading = reader.ReadAsync(cancel);
        }
    }

    [LoggerMessage(Level = LogLevel.Warning, Message = "Device {Id} was lost by a fault")]
    private static partial void Failed(ILogger log, int id, Exception e);

    [LoggerMessage(Level = LogLevel.Information, Message = "The devices that send are not known for the moment: {Why}")]
    private static partial void NotKnown(ILogger log, string why);
}

/// <summary>Reads lines of a stream, none longer than so many bytes: what runs on without an end is passed over, not kept.</summary>
internal sealed class BoundedLines(Stream stream, int longest) : IDisposable
{
    private readonly byte[] buffer = System.Buffers.ArrayPool<byte>.Shared.Rent(longest);
    private int from,
        to;

    /// <summary>The next line in ASCII; null at the end of the stream.</summary>
    public async Task<string?> ReadAsync(CancellationToken cancel)
    {
        var passing = false;
        while (true)
        {
            var end = Array.IndexOf(buffer, (byte)'\n', from, to - from);
            if (end >= 0)
            {
                var line = Encoding.ASCII.GetString(buffer, from, end - from).TrimEnd('\r');
                from = end + 1;
                if (!passing)
                    return line;
                passing = false;
                continue;
            }
            if (to - from >= longest)
                (from, to, passing) = (0, 0, true);
            if (from > 0)
            {
                Buffer.BlockCopy(buffer, from, buffer, 0, to - from);
                (from, to) = (0, to - from);
            }
            var read = await stream.ReadAsync(buffer.AsMemory(to, longest - to), cancel);
            if (read == 0)
                return null;
            to += read;
        }
    }

    public void Dispose() => System.Buffers.ArrayPool<byte>.Shared.Return(buffer);
}
