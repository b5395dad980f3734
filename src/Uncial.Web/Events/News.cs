using System.Net.ServerSentEvents;
using System.Runtime.CompilerServices;
using System.Text.Json;
using System.Threading.Channels;
using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Planning;

namespace Uncial.Web.Events;

/// <summary>How a gauge that sends its readings stands.</summary>
public enum GaugeState
{
    Lost,
    Stale,
    Connected,
}

/// <summary>What a gauge is at this moment.</summary>
/// <param name="State">Connected, silent, or lost.</param>
/// <param name="Shows">What it shows, with its unit; null where nothing was heard.</param>
/// <param name="IsStable">Its spindle rests.</param>
/// <param name="Battery">Charge in percent, or null.</param>
public sealed record GaugeNow(GaugeState State, string? Shows, bool IsStable, int? Battery)
{
    /// <summary>As instances tell one another.</summary>
    public string Write() => JsonSerializer.Serialize(this, JsonSerializerOptions.Web);

    /// <summary>What <see cref="Write"/> wrote.</summary>
    public static GaugeNow? Read(string text) => JsonSerializer.Deserialize<GaugeNow>(text, JsonSerializerOptions.Web);
}

/// <summary>What became of a reading that a gauge sent.</summary>
public enum SentReading
{
    /// <summary>It was shown to a page and is not stored yet.</summary>
    Waits,

    /// <summary>It is stored.</summary>
    Taken,

    /// <summary>Nobody can take it.</summary>
    Refused,

    /// <summary>The page that takes it listens at another instance. It is not stored yet.</summary>
    Elsewhere,
}

/// <summary>A screen whose page listens.</summary>
public sealed record ListeningScreen(int Id, string Name);

/// <summary>The screen that has taken a gauge up, and when it last showed a page with it.</summary>
/// <param name="Screen">The screen.</param>
/// <param name="Name">Its name.</param>
/// <param name="SeenAt">When.</param>
/// <param name="IsElsewhere">Another instance has said so.</param>
public sealed record GaugeHolder(int Screen, string Name, DateTimeOffset SeenAt, bool IsElsewhere = false);

/// <summary>
/// Tells the open pages what happens meanwhile: a fact that somebody else added to the surface that they show, and what the gauges send.
/// </summary>
public sealed class News(TimeProvider time)
{
    private const int MostSent = 1000;

    /// <summary>A screen that has shown no page with a gauge for so long has it no longer.</summary>
    public static readonly TimeSpan HeldFor = TimeSpan.FromSeconds(4);
    private const int Backlog = 64;
    private static readonly TimeSpan HeartBeat = TimeSpan.FromSeconds(10);
    private readonly Lock gate = new();
    private readonly List<Listener> listeners = [];
    private readonly Dictionary<int, GaugeNow> gauges = [];

    private readonly Dictionary<int, (LatheLine Line, Lathe Profile)> lathes = [];

    /// <summary>Readings that were sent and are not answered yet, or were lately: by gauge and line.</summary>
    private readonly Dictionary<(int Gauge, string Line), SentReading> sent = [];

    /// <summary>Which screen has taken a gauge up.</summary>
    private readonly Dictionary<int, GaugeHolder> holders = [];

    private sealed record Listener(
        ListeningScreen Screen,
        int? Surface,
        IReadOnlyList<int> Gauges,
        int? Lathe,
        IReadOnlyList<Length> Targets,
        CutStage Stage,
        bool Board,
        Channel<SseItem<string>> Channel
    );

    /// <summary>Told of each gauge that a screen of this instance has taken up.</summary>
    public Action<int>? TakenUp { get; set; }

    /// <summary>The surfaces whose pages listen.</summary>
    public IReadOnlyList<int> Surfaces
    {
        get
        {
            lock (gate)
                return [.. listeners.Where(l => l.Surface is not null).Select(l => l.Surface!.Value).Distinct()];
        }
    }

    /// <summary>The gauges whose holder's page listens here.</summary>
    public IReadOnlyList<int> HeldHere
    {
        get
        {
            lock (gate)
                return [.. holders.Where(h => IsListening(h.Key, h.Value.Screen)).Select(h => h.Key)];
        }
    }

    /// <summary>The screen that has a gauge; null where nobody took it up.</summary>
    public GaugeHolder? HolderOf(int gauge)
    {
        lock (gate)
            return holders.GetValueOrDefault(gauge);
    }

    private bool IsListening(int gauge, int screen) => listeners.Exists(l => l.Screen.Id == screen && l.Gauges.Contains(gauge));

    /// <summary>A surface has got new facts.</summary>
    public void Changed(int surface, int turn)
    {
        lock (gate)
            foreach (var listener in listeners.Where(l => l.Surface == surface))
                listener.Channel.Writer.TryWrite(Item("part", new { surface, turn }));
    }

    /// <summary>Pages that listen.</summary>
    public int Streams
    {
        get
        {
            lock (gate)
                return listeners.Count;
        }
    }

    /// <summary>Gauges that send.</summary>
    public int ConnectedGauges
    {
        get
        {
            lock (gate)
                return gauges.Values.Count(g => g.State == GaugeState.Connected);
        }
    }

    /// <summary>A screen shows the day's board.</summary>
    public bool IsBoardShown
    {
        get
        {
            lock (gate)
                return listeners.Exists(l => l.Board);
        }
    }

    /// <summary>The day was planned anew.</summary>
    public void Planned(long version)
    {
        lock (gate)
            foreach (var listener in listeners.Where(l => l.Board))
                listener.Channel.Writer.TryWrite(Item("board", new { version }));
    }

    /// <summary>What a gauge is and shows now.</summary>
    public void Says(int gauge, GaugeNow now)
    {
        lock (gate)
        {
            PassOn(gauge);
            if (gauges.TryGetValue(gauge, out var before) && before == now)
                return;
            gauges[gauge] = now;
            foreach (var listener in listeners.Where(l => l.Gauges.Contains(gauge)))
                listener.Channel.Writer.TryWrite(Item("gauge", Words(gauge, now)));
        }
    }

    /// <summary>What a lathe's read-out says now; null where it is silent.</summary>
    public void Turns(int lathe, LatheLine? line, Lathe? profile)
    {
        lock (gate)
        {
            (LatheLine, Lathe)? now = line is null || profile is null ? null : (line, profile);
            if (
                now is null
                    ? !lathes.Remove(lathe)
                    : lathes.TryGetValue(lathe, out var before) && before.Profile == profile && before.Line.Write() == line!.Write()
            )
                return;
            if (now is { } n)
                lathes[lathe] = n;
            foreach (var listener in listeners.Where(l => l.Lathe == lathe))
                listener.Channel.Writer.TryWrite(Item("lathe", ReadOutWords.Of(now, listener.Targets, listener.Stage)));
        }
    }

    /// <summary>What was heard of a gauge last, or null.</summary>
    public GaugeNow? Now(int gauge)
    {
        lock (gate)
            return gauges.GetValueOrDefault(gauge);
    }

    /// <summary>
    /// A gauge sends a reading, and goes on sending it until it is answered. It is shown to the page of the screen that has the gauge; it
    /// counts
    /// as taken once it is stored.
    /// </summary>
    /// <param name="gauge">The gauge.</param>
    /// <param name="line">Session and number of the line: the same line is the same reading.</param>
    /// <param name="typed">The figure with its unit.</param>
    /// <param name="isStable">The spindle rests.</param>
    /// <param name="fence">The owner of the gauge that heard it: it goes with the reading.</param>
    /// <returns>What is answered to the gauge; nothing is while it is <see cref="SentReading.Waits"/> or elsewhere.</returns>
    public SentReading Sends(int gauge, string line, string typed, bool isStable, long fence = 0)
    {
        lock (gate)
        {
            if (sent.TryGetValue((gauge, line), out var known) && known is SentReading.Taken or SentReading.Refused)
                return known;
            if (
                isStable
                && holders.TryGetValue(gauge, out var away)
                && !IsListening(gauge, away.Screen)
                && time.GetUtcNow() - away.SeenAt < HeldFor
                && away.IsElsewhere
            )
                return sent[(gauge, line)] = SentReading.Elsewhere;
            var page = listeners.FindLast(l =>
                l.Gauges.Contains(gauge) && (!holders.TryGetValue(gauge, out var holder) || holder.Screen == l.Screen.Id)
            );
            if (
                page is null
                || !page.Channel.Writer.TryWrite(
                    Item(
                        "reading",
                        new
                        {
                            gauge,
                            line,
                            fence,
                            text = typed,
                            stable = isStable,
                        }
                    )
                )
            )
                return SentReading.Refused;
            if (!isStable)
                return SentReading.Refused;
            if (sent.Count >= MostSent)
                sent.Clear();
            return sent[(gauge, line)] = SentReading.Waits;
        }
    }

    /// <summary>A reading that a gauge sent is stored: it is answered as taken.</summary>
    public void Took(int gauge, string line)
    {
        lock (gate)
            sent[(gauge, line)] = SentReading.Taken;
    }

    /// <summary>The page cannot take it: it is answered as taken by nobody.</summary>
    public void Refuses(int gauge, string line)
    {
        lock (gate)
            if (sent.TryGetValue((gauge, line), out var known) && known is SentReading.Waits or SentReading.Elsewhere)
                sent[(gauge, line)] = SentReading.Refused;
    }

    /// <summary>Shows a reading that a gauge of another instance sent, where the page that takes it listens here.</summary>
    public void Shows(int gauge, string line, string typed, long fence)
    {
        lock (gate)
            if (holders.TryGetValue(gauge, out var holder) && IsListening(gauge, holder.Screen))
                _ = Sends(gauge, line, typed, isStable: true, fence);
    }

    /// <summary>Readings that were shown and are not answered yet.</summary>
    public IReadOnlyList<(int Gauge, string Line)> Open
    {
        get
        {
            lock (gate)
                return [.. sent.Where(s => s.Value is SentReading.Waits or SentReading.Elsewhere).Select(s => s.Key)];
        }
    }

    /// <summary>Whether this instance has heard of a reading that a gauge sends.</summary>
    public bool IsKnown(int gauge, string line)
    {
        lock (gate)
            return sent.ContainsKey((gauge, line));
    }

    /// <summary>Whether a reading that a gauge sent was shown and is not answered yet.</summary>
    public bool IsOpen(int gauge, string line)
    {
        lock (gate)
            return sent.TryGetValue((gauge, line), out var known) && known is SentReading.Waits or SentReading.Elsewhere;
    }

    /// <summary>Whether a screen shows a page that a gauge can send to.</summary>
    public bool IsShownAt(int gauge, int screen)
    {
        lock (gate)
            return IsListening(gauge, screen);
    }

    /// <summary>A screen takes a gauge up; another that had it is told.</summary>
    public void TakeUp(int gauge, int screen, string name)
    {
        lock (gate)
        {
            holders[gauge] = new(screen, name, time.GetUtcNow());
            TellHolder(gauge);
        }
        TakenUp?.Invoke(gauge);
    }

    /// <summary>Which screen has a gauge, as all instances have it on record.</summary>
    public void HeldAt(int gauge, int screen, string name)
    {
        lock (gate)
        {
            var changed = holders.GetValueOrDefault(gauge)?.Screen != screen;
            holders[gauge] = new(screen, name, time.GetUtcNow(), IsElsewhere: true);
            if (changed)
                TellHolder(gauge);
        }
    }

    private void TellHolder(int gauge)
    {
        foreach (var listener in listeners.Where(l => l.Gauges.Contains(gauge)))
            listener.Channel.Writer.TryWrite(Item("holder", HolderFor(gauge, listener.Screen.Id)));
    }

    private object HolderFor(int gauge, int screen) =>
        new { gauge, at = holders.TryGetValue(gauge, out var h) && h.Screen != screen ? h.Name : null };

    /// <summary>A gauge whose screen shows no page with it any more goes to the newest page that has it at hand.</summary>
    private void PassOn(int gauge)
    {
        if (!holders.TryGetValue(gauge, out var held) || IsListening(gauge, held.Screen))
            return;
        if (listeners.FindLast(l => l.Gauges.Contains(gauge)) is { } next)
            Claim(gauge, next.Screen);
    }

    /// <summary>A gauge that nobody has, or whose screen has shown no page with it for a while, goes to the screen that asks.</summary>
    private void Claim(int gauge, ListeningScreen screen)
    {
        var now = time.GetUtcNow();
        if (
            holders.TryGetValue(gauge, out var held)
            && held.Screen != screen.Id
            && (IsListening(gauge, held.Screen) || now - held.SeenAt < HeldFor)
        )
            return;
        var changed = held?.Screen != screen.Id;
        holders[gauge] = new(screen.Id, screen.Name, now);
        if (!changed)
            return;
        TellHolder(gauge);
        TakenUp?.Invoke(gauge);
    }

    /// <summary>Listens until the page goes away.</summary>
    /// <param name="screen">The screen that the page is on.</param>
    /// <param name="surface">Whose facts are of interest.</param>
    /// <param name="gaugeIds">The gauges whose readings are.</param>
    /// <param name="lathe">The lathe whose read-out is.</param>
    /// <param name="targets">Where its dials shall stand.</param>
    /// <param name="stage">How far the record has got with the pass.</param>
    /// <param name="board">It shows the day's board.</param>
    /// <param name="newest">
    /// What may have happened before the page listened: the turn of its surface, or the version of the board. It is asked once it listens.
    /// </param>
    /// <param name="cancel">The page has gone away.</param>
    public async IAsyncEnumerable<SseItem<string>> ListenAsync(
        ListeningScreen screen,
        int? surface,
        IReadOnlyList<int> gaugeIds,
        int? lathe,
        IReadOnlyList<Length> targets,
        CutStage stage,
        bool board = false,
        Func<CancellationToken, Task<long?>>? newest = null,
        [EnumeratorCancellation] CancellationToken cancel = default
    )
    {
        var listener = new Listener(
            screen,
            surface,
            gaugeIds,
            lathe,
            targets,
            stage,
            board,
            Channel.CreateBounded<SseItem<string>>(new BoundedChannelOptions(Backlog) { FullMode = BoundedChannelFullMode.DropOldest })
        );
        lock (gate)
        {
            foreach (var gauge in gaugeIds)
                Claim(gauge, screen);
            listeners.Add(listener);
            foreach (var gauge in gaugeIds)
                listener.Channel.Writer.TryWrite(Item("holder", HolderFor(gauge, screen.Id)));
            foreach (var gauge in gaugeIds)
                if (gauges.TryGetValue(gauge, out var now))
                    listener.Channel.Writer.TryWrite(Item("gauge", Words(gauge, now)));
            if (lathe is { } turning && lathes.TryGetValue(turning, out var read))
                listener.Channel.Writer.TryWrite(Item("lathe", ReadOutWords.Of(read, targets, stage)));
        }
        try
        {
            yield return Item("open", new { });
            if (newest is not null && await newest(cancel) is { } then)
                yield return surface is { } shown
                    ? Item("part", new { surface = shown, turn = then })
                    : Item("board", new { version = then });
            while (!cancel.IsCancellationRequested)
            {
                using var beat = CancellationTokenSource.CreateLinkedTokenSource(cancel);
                beat.CancelAfter(HeartBeat);
                var waits = false;
                try
                {
                    waits = await listener.Channel.Reader.WaitToReadAsync(beat.Token);
                }
                catch (OperationCanceledException) { }
                // The page has gone away: nothing went wrong.
                if (cancel.IsCancellationRequested)
                    yield break;
                if (!waits)
                {
                    yield return Item("beat", new { });
                    continue;
                }
                while (listener.Channel.Reader.TryRead(out var item))
                    yield return item;
            }
        }
        finally
        {
            lock (gate)
            {
                listeners.Remove(listener);
                foreach (var gauge in gaugeIds)
                    if (holders.TryGetValue(gauge, out var held) && held.Screen == screen.Id)
                        holders[gauge] = held with { SeenAt = time.GetUtcNow(), IsElsewhere = false };
            }
        }
    }

    private static object Words(int gauge, GaugeNow now) =>
        new
        {
            gauge,
            state = now.State.ToString().ToLowerInvariant(),
            shows = now.Shows,
            stable = now.IsStable,
            battery = now.Battery,
        };

    private static SseItem<string> Item(string kind, object data) => new(JsonSerializer.Serialize(data, JsonSerializerOptions.Web), kind);
}
