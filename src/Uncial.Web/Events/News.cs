using System.Net.ServerSentEvents;
using System.Runtime.CompilerServices;
using System.Text.Json;
using System.Threading.Channels;
using Microsoft.EntityFrameworkCore.Diagnostics;
using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Planning;
using Uncial.Data;
using Uncial.Web.Accounts;
using Uncial.Web.Charts;
using Uncial.Web.Text;

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
public sealed record GaugeNow(GaugeState State, string? Shows, bool IsStable, int? Battery);

/// <summary>What became of a reading that a gauge sent.</summary>
public enum SentReading
{
    /// <summary>It was shown to a page and is not stored yet.</summary>
    Waits,

    /// <summary>It is stored.</summary>
    Taken,

    /// <summary>Nobody can take it.</summary>
    Refused,
}

/// <summary>A screen whose page listens.</summary>
public sealed record ListeningScreen(int Id, string Name);

/// <summary>The screen that has taken a gauge up, and when it last showed a page with it.</summary>
internal sealed record GaugeHolder(int Screen, string Name, DateTimeOffset SeenAt);

/// <summary>
/// Tells the open pages what happens meanwhile: a fact that somebody else added to the surface that they show, and what the gauges send.
/// </summary>
public sealed class News(TimeProvider time)
{
    private const int MostSent = 1000;
    private static readonly TimeSpan HeldFor = TimeSpan.FromSeconds(4);
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
    /// <returns>What is answered to the gauge; nothing is while <see cref="SentReading.Waits"/>.</returns>
    public SentReading Sends(int gauge, string line, string typed, bool isStable)
    {
        lock (gate)
        {
            if (sent.TryGetValue((gauge, line), out var known) && known is SentReading.Taken or SentReading.Refused)
                return known;
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
            if (sent.GetValueOrDefault((gauge, line)) == SentReading.Waits)
                sent[(gauge, line)] = SentReading.Refused;
    }

    /// <summary>Whether a screen shows a page that a gauge can send to.</summary>
    public bool IsShownAt(int gauge, int screen)
    {
        lock (gate)
            return listeners.Exists(l => l.Screen.Id == screen && l.Gauges.Contains(gauge));
    }

    /// <summary>A screen takes a gauge up; another that had it is told.</summary>
    public void TakeUp(int gauge, int screen, string name)
    {
        lock (gate)
        {
            holders[gauge] = new(screen, name, time.GetUtcNow());
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
        if (!holders.TryGetValue(gauge, out var held) || listeners.Exists(l => l.Screen.Id == held.Screen && l.Gauges.Contains(gauge)))
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
            && (listeners.Exists(l => l.Screen.Id == held.Screen && l.Gauges.Contains(gauge)) || now - held.SeenAt < HeldFor)
        )
            return;
        var changed = held?.Screen != screen.Id;
        holders[gauge] = new(screen.Id, screen.Name, now);
        if (changed)
            TellHolder(gauge);
    }

    /// <summary>Listens until the page goes away.</summary>
    /// <param name="screen">The screen that the page is on.</param>
    /// <param name="surface">Whose facts are of interest.</param>
    /// <param name="gaugeIds">The gauges whose readings are.</param>
    /// <param name="lathe">The lathe whose read-out is.</param>
    /// <param name="targets">Where its dials shall stand.</param>
    /// <param name="stage">How far the record has got with the pass.</param>
    /// <param name="board">It shows the day's board.</param>
    /// <param name="cancel">The page has gone away.</param>
    public async IAsyncEnumerable<SseItem<string>> ListenAsync(
        ListeningScreen screen,
        int? surface,
        IReadOnlyList<int> gaugeIds,
        int? lathe,
        IReadOnlyList<Length> targets,
        CutStage stage,
        bool board = false,
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
                        holders[gauge] = held with { SeenAt = time.GetUtcNow() };
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

/// <summary>What a read-out says, held against where the dials shall stand.</summary>
internal static class ReadOutWords
{
    public static object Of((LatheLine Line, Lathe Profile)? now, IReadOnlyList<Length> targets, CutStage stage)
    {
        if (now is not { } n)
            return new
            {
                state = "lost",
                word = Words.Say("readOut.lost"),
                dials = Array.Empty<object>(),
            };
        var (line, lathe) = n;
        // A read-out with one dial where two tools cut rotors is the boring bar's.
        var dial = lathe.DialOf(
            line.Dials.Count == 1 && lathe.TwinCutter || !lathe.CutsRotors ? Core.Parts.PartKind.Drum : Core.Parts.PartKind.Rotor
        );
        var turns = line.SpindleTurns
            ? line.TurnsPerMinute is { } rpm
                ? Words.Say("readOut.turnsAt", rpm)
                : Words.Say("readOut.turns")
            : Words.Say("readOut.stands");
        return new
        {
            state = "connected",
            word = $"{turns}, {Words.Say(line.Feeds ? "readOut.feeds" : "readOut.feedOut")}",
            fault = ReadOutCheck.Of(line, stage, targets, dial.Division) is { } fault
                ? Words.Say(
                    "readOut.fault." + fault.Fault,
                    fault.Side is { } side
                        ? Words.Say(
                            "readOut.dial."
                                + (
                                    line.Dials.Count == 1 ? "bar"
                                    : side == 0 ? "outer"
                                    : "inner"
                                )
                        )
                        : "",
                    fault.Off is { } off ? DialText.Of(dial, off) : ""
                )
                : null,
            dials = line.Dials.Select(
                (at, i) =>
                {
                    var state = DialPosition.Of(at, i < targets.Count ? targets[i] : null, dial.Division);
                    return new
                    {
                        turn = DialPosition.Degrees(at, dial.Division, dial.DivisionsPerTurn),
                        says = state.ToGo is { } left ? Words.Say("readOut." + state.Word, DialText.Of(dial, left)) : DialText.Of(dial, at),
                    };
                }
            ),
        };
    }
}

/// <summary>Tells the news of every surface whose facts were saved.</summary>
public sealed class NewsOfSaves(News news) : SaveChangesInterceptor
{
    public override ValueTask<int> SavedChangesAsync(
        SaveChangesCompletedEventData eventData,
        int result,
        CancellationToken cancellationToken = default
    )
    {
        ArgumentNullException.ThrowIfNull(eventData);
        if (eventData.Context is UncialDb db)
        {
            foreach (var surface in db.ChangeTracker.Entries<WorkSurface>().Select(e => e.Entity))
                news.Changed(surface.Id, surface.Turn);
            // Stored: now, and not before, the gauge hears that its reading was taken.
            foreach (
                var reading in db
                    .ChangeTracker.Entries<ReadingEntry>()
                    .Select(e => e.Entity)
                    .Where(r => r is { Line: not null, GaugeId: not null })
            )
                news.Took(reading.GaugeId!.Value, reading.Line!);
        }
        return base.SavedChangesAsync(eventData, result, cancellationToken);
    }
}

/// <summary>Where the pages listen.</summary>
internal static class NewsFeed
{
    public static void MapNews(this IEndpointRouteBuilder app)
    {
        app.MapGet(
                "/news",
                (
                    int? surface,
                    int[]? gauge,
                    int? lathe,
                    decimal[]? target,
                    CutStage? stage,
                    bool? board,
                    News news,
                    Reader reader,
                    HttpContext http,
                    IHostApplicationLifetime life,
                    CancellationToken cancel
                ) =>
                {
                    // A page that listens must not hold up the closing of the shop.
                    var until = CancellationTokenSource.CreateLinkedTokenSource(cancel, life.ApplicationStopping);
                    http.Response.RegisterForDispose(until);
                    return TypedResults.ServerSentEvents(
                        news.ListenAsync(
                            new(reader.ScreenId, reader.Screen),
                            surface,
                            gauge ?? [],
                            lathe,
                            [.. (target ?? []).Select(Length.FromMillimetres)],
                            stage ?? CutStage.Ready,
                            board ?? false,
                            until.Token
                        )
                    );
                }
            )
            .ExcludeFromDescription();
        // A screen on the wall, where nobody signs in, hears that the day was planned anew, and nothing else.
        app.MapGet(
                "/news/board",
                async (News news, PinDesk desk, HttpContext http, IHostApplicationLifetime life, CancellationToken cancel) =>
                {
                    if (!await desk.IsEnrolledAsync(ScreenCookie.Of(http.Request), cancel))
                        return Results.NotFound();
                    var until = CancellationTokenSource.CreateLinkedTokenSource(cancel, life.ApplicationStopping);
                    http.Response.RegisterForDispose(until);
                    return TypedResults.ServerSentEvents(
                        news.ListenAsync(new(0, ""), null, [], null, [], CutStage.Ready, board: true, until.Token)
                    );
                }
            )
            .AllowAnonymous()
            .ExcludeFromDescription();
        // Somebody puts the cursor where a gauge sends its figure: the gauge is used at this screen from now on.
        app.MapPost(
                "/gauges/{gauge:int}/takes",
                async (int gauge, HttpContext http, Microsoft.AspNetCore.Antiforgery.IAntiforgery antiforgery, Reader reader, News news) =>
                {
                    if (!await antiforgery.IsRequestValidAsync(http))
                        return Results.BadRequest();
                    if (!news.IsShownAt(gauge, reader.ScreenId))
                        return Results.NotFound();
                    news.TakeUp(gauge, reader.ScreenId, reader.Screen);
                    return Results.NoContent();
                }
            )
            .ExcludeFromDescription();
        // A page says that it cannot take a reading that it was shown. Taken is answered when the reading is stored, not here.
        app.MapPost(
                "/gauges/{gauge:int}/refuses",
                async (int gauge, HttpContext http, Microsoft.AspNetCore.Antiforgery.IAntiforgery antiforgery, News news) =>
                {
                    if (!await antiforgery.IsRequestValidAsync(http))
                        return Results.BadRequest();
                    var form = await http.Request.ReadFormAsync();
                    if (form["line"].ToString() is not { Length: > 0 and <= 60 } line)
                        return Results.BadRequest();
                    news.Refuses(gauge, line);
                    return Results.NoContent();
                }
            )
            .ExcludeFromDescription();
    }
}
