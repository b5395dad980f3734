using System.Collections.Concurrent;
using System.Net;
using System.Net.Sockets;
using System.Text;

namespace Uncial.DeviceSimulators;

/// <summary>A device that is played: it listens on a port of the loopback address and tells every host what it shows, in lines.</summary>
public abstract class SimulatedDevice : IAsyncDisposable
{
    private static readonly TimeSpan Beat = TimeSpan.FromMilliseconds(500);
    private const int MostTries = 40;
    private readonly CancellationTokenSource stop = new();
    private readonly ConcurrentDictionary<TcpClient, SemaphoreSlim> hosts = new();
    private TcpListener listener;
    private Task accepting = Task.CompletedTask;

    /// <summary>Makes a device; <see cref="Open"/> lets it be heard.</summary>
    /// <param name="name">What it is called.</param>
    /// <param name="port">Port on the loopback address; 0 for any that is free.</param>
    protected SimulatedDevice(string name, int port)
    {
        (Name, Port) = (name, port);
        listener = new(IPAddress.Loopback, port);
    }

    public string Name { get; }

    public int Port { get; private set; }

    /// <summary>It is on but says nothing, as a device does whose radio is disturbed.</summary>
    public bool IsSilent { get; set; }

    public int Hosts => hosts.Count;

    /// <summary>Opens its port.</summary>
    public void Open()
    {
        listener = new(IPAddress.Loopback, Port);
        listener.Start();
        Port = ((IPEndPoint)listener.LocalEndpoint).Port;
        var open = listener;
        accepting = Task.Run(() => AcceptAsync(open), CancellationToken.None);
    }

    /// <summary>Opens its port as soon as it is free: who played before may still be closing it.</summary>
    public async Task OpenWhenFreeAsync(CancellationToken cancel)
    {
        for (var tries = 0; ; tries++)
        {
            try
            {
                Open();
                return;
            }
            catch (SocketException) when (tries < MostTries)
            {
                await Task.Delay(Beat, cancel);
            }
        }
    }

    /// <summary>Closes its port and drops who is connected, as when its battery is taken out.</summary>
    public void Close()
    {
        listener.Stop();
        foreach (var host in hosts.Keys)
            host.Close();
    }

    public async ValueTask DisposeAsync()
    {
        GC.SuppressFinalize(this);
        await stop.CancelAsync();
        Close();
        await accepting;
        stop.Dispose();
        listener.Dispose();
    }

    /// <summary>What it says first on a connection.</summary>
    protected abstract string Hello();

    /// <summary>What it says over and over.</summary>
    protected abstract IEnumerable<string> Says();

    /// <summary>What a host answered.</summary>
    protected virtual void Hear(string line) { }

    /// <summary>Says something to every host at once.</summary>
    protected async Task TellAsync(string line)
    {
        if (IsSilent)
            return;
        foreach (var host in hosts.Keys)
        {
            try
            {
                await WriteAsync(host, line);
            }
            catch (Exception e) when (e is IOException or SocketException or ObjectDisposedException or InvalidOperationException)
            {
                hosts.TryRemove(host, out _);
            }
        }
    }

    private async Task AcceptAsync(TcpListener open)
    {
        while (!stop.IsCancellationRequested)
        {
            try
            {
                var host = await open.AcceptTcpClientAsync(stop.Token);
                host.NoDelay = true;
                hosts[host] = new(1);
                _ = Task.Run(() => ServeAsync(host), CancellationToken.None);
            }
            catch (Exception e)
                when (e is SocketException or OperationCanceledException or ObjectDisposedException or InvalidOperationException)
            {
                return;
            }
        }
    }

    private async Task ServeAsync(TcpClient host)
    {
        try
        {
            var listening = ListenAsync(host);
            await WriteAsync(host, Hello());
            while (!stop.IsCancellationRequested && !listening.IsCompleted)
            {
                if (!IsSilent)
                    foreach (var line in Says())
                        await WriteAsync(host, line);
                await Task.WhenAny(listening, Task.Delay(Beat, stop.Token));
            }
        }
        catch (Exception e)
            when (e is IOException or SocketException or OperationCanceledException or ObjectDisposedException or InvalidOperationException)
        {
            // It went away.
        }
        hosts.TryRemove(host, out _);
        host.Dispose();
    }

    private async Task ListenAsync(TcpClient host)
    {
        using var reader = new StreamReader(host.GetStream(), Encoding.ASCII, false, 256, leaveOpen: true);
        while (await reader.ReadLineAsync(stop.Token) is { } line)
            Hear(line);
    }

    private async Task WriteAsync(TcpClient host, string line)
    {
        if (!hosts.TryGetValue(host, out var turn))
            return;
        await turn.WaitAsync(stop.Token);
        try
        {
            await host.GetStream().WriteAsync(Encoding.ASCII.GetBytes(line + "\n"), stop.Token);
        }
        finally
        {
            turn.Release();
        }
    }
}
