using System.Collections.Concurrent;
using System.Globalization;
using System.Net;
using System.Net.Sockets;
using System.Text;
using Uncial.Core.Gauges;
using Uncial.Core.Lengths;

namespace Uncial.StandIns;

/// <summary>
/// A gauge that is played: it talks over TCP as docs/formats/gauge-line.md says, shows what its spindle is turned to, and sends a reading when
/// its button is pressed. A sent reading is repeated until somebody has answered.
/// </summary>
public sealed class StandInGauge : IAsyncDisposable
{
    private static readonly TimeSpan Beat = TimeSpan.FromMilliseconds(500);
    private static readonly TimeSpan GivesUp = TimeSpan.FromSeconds(8);
    private readonly string session = Guid.NewGuid().ToString("N")[..8];
    private readonly CancellationTokenSource stop = new();
    private readonly ConcurrentDictionary<TcpClient, SemaphoreSlim> hosts = new();
    private readonly Lock gate = new();
    private TcpListener listener;
    private Task accepting = Task.CompletedTask;
    private long number;
    private (GaugeLine Line, long SentAt)? unanswered;

    /// <summary>Makes a gauge; <see cref="Open"/> lets it be heard.</summary>
    /// <param name="name">What it is called.</param>
    /// <param name="port">Port on the loopback address; 0 for any that is free.</param>
    /// <param name="value">What it shows first.</param>
    /// <param name="step">Its least step.</param>
    public StandInGauge(string name, int port, decimal value, decimal step)
    {
        (Name, Port, Value, Step) = (name, port, value, step);
        listener = new(IPAddress.Loopback, port);
    }

    public string Name { get; }

    public int Port { get; private set; }

    /// <summary>What the spindle is turned to, in <see cref="Unit"/>.</summary>
    public decimal Value { get; private set; }

    public decimal Step { get; }

    public LengthUnit Unit { get; private set; } = LengthUnit.Millimetre;

    public bool IsStable { get; private set; } = true;

    public int Battery { get; private set; } = 87;

    /// <summary>It is on but says nothing, as a gauge does whose radio is disturbed.</summary>
    public bool IsSilent { get; set; }

    /// <summary>What became of the reading that was sent last.</summary>
    public string Answer { get; private set; } = "";

    public int Hosts => hosts.Count;

    /// <summary>What it shows, with the digits of its step.</summary>
    public string Shows => Math.Round(Value, Digits).ToString("F" + Digits, CultureInfo.InvariantCulture);

    private int Digits => Unit == LengthUnit.Inch ? 4 : Step < 0.01m ? 3 : 2;

    /// <summary>Opens its port.</summary>
    public void Open()
    {
        listener = new(IPAddress.Loopback, Port);
        listener.Start();
        Port = ((IPEndPoint)listener.LocalEndpoint).Port;
        var open = listener;
        accepting = Task.Run(() => AcceptAsync(open), CancellationToken.None);
    }

    /// <summary>Closes its port and drops who is connected, as when its battery is taken out.</summary>
    public void Close()
    {
        listener.Stop();
        foreach (var host in hosts.Keys) host.Close();
    }

    /// <summary>Turns the spindle, changes the unit, lets it shake, or drains the battery.</summary>
    public Task TurnAsync(decimal? to = null, decimal? by = null, LengthUnit? unit = null, bool? stable = null, int? battery = null)
    {
        lock (gate)
        {
            if (unit is { } u && u != Unit) (Value, Unit) = (Length.From(Value, Unit).In(u), u);
            Value = Math.Clamp((to ?? Value) + (by ?? 0), -2000, 2000);
            (IsStable, Battery) = (stable ?? IsStable, Math.Clamp(battery ?? Battery, 0, 100));
        }
        return TellAsync(Line(GaugeWord.Now));
    }

    /// <summary>Presses its button: what it shows is sent.</summary>
    public Task SendAsync()
    {
        GaugeLine line;
        lock (gate)
        {
            number++;
            line = Line(GaugeWord.Send);
            unanswered = (line, Environment.TickCount64);
            Answer = hosts.IsEmpty ? "nobody hears it yet" : "sent";
        }
        return TellAsync(line);
    }

    public async ValueTask DisposeAsync()
    {
        await stop.CancelAsync();
        Close();
        await accepting;
        stop.Dispose();
        listener.Dispose();
    }

    private GaugeLine Line(GaugeWord word) => new(word, word == GaugeWord.Hello ? null : Shows, Unit, IsStable, Battery, word == GaugeWord.Send ? number : 0) { Session = session };

    /// <summary>The reading that nobody has answered yet; after a while it is given up, so that it does not land at another part.</summary>
    private GaugeLine? Unanswered()
    {
        lock (gate)
        {
            if (unanswered is not { } sent) return null;
            if (Environment.TickCount64 - sent.SentAt < GivesUp.TotalMilliseconds) return sent.Line;
            (unanswered, Answer) = (null, "nobody answered, given up");
            return null;
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
            catch (Exception e) when (e is SocketException or OperationCanceledException or ObjectDisposedException or InvalidOperationException)
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
            await WriteAsync(host, Line(GaugeWord.Hello));
            while (!stop.IsCancellationRequested && !listening.IsCompleted)
            {
                if (!IsSilent)
                {
                    await WriteAsync(host, Line(GaugeWord.Now));
                    if (Unanswered() is { } line) await WriteAsync(host, line);
                }
                await Task.WhenAny(listening, Task.Delay(Beat, stop.Token));
            }
        }
        catch (Exception e) when (e is IOException or SocketException or OperationCanceledException or ObjectDisposedException or InvalidOperationException)
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
        {
            if (line.Split(" n=") is not [var word, var n]) continue;
            lock (gate)
            {
                if (n != number.ToString(CultureInfo.InvariantCulture)) continue;
                Answer = word == "TAKEN" ? "taken" : "nobody took it";
                unanswered = null;
            }
        }
    }

    private async Task TellAsync(GaugeLine line)
    {
        if (IsSilent) return;
        foreach (var host in hosts.Keys)
        {
            try { await WriteAsync(host, line); }
            catch (Exception e) when (e is IOException or SocketException or ObjectDisposedException or InvalidOperationException) { hosts.TryRemove(host, out _); }
        }
    }

    private async Task WriteAsync(TcpClient host, GaugeLine line)
    {
        if (!hosts.TryGetValue(host, out var turn)) return;
        await turn.WaitAsync(stop.Token);
        try { await host.GetStream().WriteAsync(Encoding.ASCII.GetBytes(line.Write() + "\n"), stop.Token); }
        finally { turn.Release(); }
    }
}
