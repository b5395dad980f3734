using System.Net.ServerSentEvents;
using System.Runtime.CompilerServices;
using System.Text.Json;
using System.Threading.Channels;
using Microsoft.EntityFrameworkCore.Diagnostics;
using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Planning;
using Uncial.Data;
using Uncial.Web.Drawing;
using Uncial.Web.Wording;

namespace Uncial.Web.Live;

/// <summary>How a gauge that sends its readings stands.</summary>
public enum GaugeState { Lost, Stale, Connected }

/// <summary>What a gauge is at this moment.</summary>
/// <param name="State">Connected, silent, or lost.</param>
/// <param name="Shows">What it shows, with its unit; null where nothing was heard.</param>
/// <param name="IsStable">Its spindle rests.</param>
/// <param name="Battery">Charge in percent, or null.</param>
public sealed record GaugeNow(GaugeState State, string? Shows, bool IsStable, int? Battery);

/// <summary>
/// Tells the open pages what happens meanwhile: a fact that another hand added to the surface that they show, and what the gauges send.
/// </summary>
public sealed class News
{
    private const int Backlog = 64;
    private static readonly TimeSpan HeartBeat = TimeSpan.FromSeconds(10);
    private readonly Lock gate = new();
    private readonly List<Listener> listeners = [];
    private readonly Dictionary<int, GaugeNow> gauges = [];

    private readonly Dictionary<int, (LatheLine Line, Lathe Profile)> lathes = [];

    private sealed record Listener(int? Surface, IReadOnlyList<int> Gauges, int? Lathe, IReadOnlyList<Length> Targets, Channel<SseItem<string>> Channel);

    /// <summary>A surface has got new facts.</summary>
    public void Changed(int surface, int turn)
    {
        lock (gate)
            foreach (var listener in listeners.Where(l => l.Surface == surface)) listener.Channel.Writer.TryWrite(Item("part", new { surface, turn }));
    }

    /// <summary>What a gauge is and shows now.</summary>
    public void Says(int gauge, GaugeNow now)
    {
        lock (gate)
        {
            if (gauges.TryGetValue(gauge, out var before) && before == now) return;
            gauges[gauge] = now;
            foreach (var listener in listeners.Where(l => l.Gauges.Contains(gauge))) listener.Channel.Writer.TryWrite(Item("gauge", Words(gauge, now)));
        }
    }

    /// <summary>What a lathe's read-out says now; null where it is silent.</summary>
    public void Turns(int lathe, LatheLine? line, Lathe? profile)
    {
        lock (gate)
        {
            (LatheLine, Lathe)? now = line is null || profile is null ? null : (line, profile);
            if (now is null ? !lathes.Remove(lathe) : lathes.TryGetValue(lathe, out var before) && before.Profile == profile && before.Line.Write() == line!.Write()) return;
            if (now is { } n) lathes[lathe] = n;
            foreach (var listener in listeners.Where(l => l.Lathe == lathe)) listener.Channel.Writer.TryWrite(Item("lathe", ReadOutWords.Of(now, listener.Targets)));
        }
    }

    /// <summary>What was heard of a gauge last, or null.</summary>
    public GaugeNow? Now(int gauge)
    {
        lock (gate) return gauges.GetValueOrDefault(gauge);
    }

    /// <summary>A reading was sent: it goes to the page that took the gauge up last.</summary>
    /// <returns>Whether a page took it.</returns>
    public bool Sends(int gauge, string typed, bool isStable)
    {
        lock (gate)
        {
            // The newest listener is the screen that somebody stands at.
            for (var i = listeners.Count - 1; i >= 0; i--)
                if (listeners[i].Gauges.Contains(gauge) && listeners[i].Channel.Writer.TryWrite(Item("reading", new { gauge, text = typed, stable = isStable }))) return true;
            return false;
        }
    }

    /// <summary>Listens until the page goes away.</summary>
    /// <param name="surface">Whose facts are of interest.</param>
    /// <param name="gaugeIds">The gauges whose readings are.</param>
    /// <param name="lathe">The lathe whose read-out is.</param>
    /// <param name="targets">Where its dials shall stand.</param>
    /// <param name="cancel">The page has gone away.</param>
    public async IAsyncEnumerable<SseItem<string>> ListenAsync(int? surface, IReadOnlyList<int> gaugeIds, int? lathe, IReadOnlyList<Length> targets, [EnumeratorCancellation] CancellationToken cancel)
    {
        var listener = new Listener(surface, gaugeIds, lathe, targets, Channel.CreateBounded<SseItem<string>>(new BoundedChannelOptions(Backlog) { FullMode = BoundedChannelFullMode.DropOldest }));
        lock (gate)
        {
            listeners.Add(listener);
            foreach (var gauge in gaugeIds)
                if (gauges.TryGetValue(gauge, out var now)) listener.Channel.Writer.TryWrite(Item("gauge", Words(gauge, now)));
            if (lathe is { } turning && lathes.TryGetValue(turning, out var read)) listener.Channel.Writer.TryWrite(Item("lathe", ReadOutWords.Of(read, targets)));
        }
        try
        {
            yield return Item("open", new { });
            while (!cancel.IsCancellationRequested)
            {
                using var beat = CancellationTokenSource.CreateLinkedTokenSource(cancel);
                beat.CancelAfter(HeartBeat);
                var waits = false;
                try { waits = await listener.Channel.Reader.WaitToReadAsync(beat.Token); }
                catch (OperationCanceledException) { }
                // The page has gone away: nothing went wrong.
                if (cancel.IsCancellationRequested) yield break;
                if (!waits) { yield return Item("beat", new { }); continue; }
                while (listener.Channel.Reader.TryRead(out var item)) yield return item;
            }
        }
        finally
        {
            lock (gate) listeners.Remove(listener);
        }
    }

    private static object Words(int gauge, GaugeNow now) => new { gauge, state = now.State.ToString().ToLowerInvariant(), shows = now.Shows, stable = now.IsStable, battery = now.Battery };

    private static SseItem<string> Item(string kind, object data) => new(JsonSerializer.Serialize(data, JsonSerializerOptions.Web), kind);
}

/// <summary>What a read-out says, held against where the dials shall stand.</summary>
internal static class ReadOutWords
{
    public static object Of((LatheLine Line, Lathe Profile)? now, IReadOnlyList<Length> targets)
    {
        if (now is not { } n) return new { state = "lost", word = Words.Say("readOut.lost"), dials = Array.Empty<object>() };
        var (line, lathe) = n;
        var turns = line.SpindleTurns ? line.TurnsPerMinute is { } rpm ? Words.Say("readOut.turnsAt", rpm) : Words.Say("readOut.turns") : Words.Say("readOut.stands");
        return new
        {
            state = "connected", word = $"{turns}, {Words.Say(line.Feeds ? "readOut.feeds" : "readOut.feedOut")}",
            dials = line.Dials.Select((at, i) =>
            {
                var state = DialPosition.Of(at, i < targets.Count ? targets[i] : null, lathe.Division);
                return new { turn = DialPosition.Degrees(at, lathe.Division, lathe.DivisionsPerTurn), says = state.ToGo is { } left ? Words.Say("readOut." + state.Word, DialText.Of(lathe, left)) : DialText.Of(lathe, at) };
            }),
        };
    }
}

/// <summary>Tells the news of every surface whose facts were saved.</summary>
public sealed class NewsOfSaves(News news) : SaveChangesInterceptor
{
    public override ValueTask<int> SavedChangesAsync(SaveChangesCompletedEventData eventData, int result, CancellationToken cancellationToken = default)
    {
        ArgumentNullException.ThrowIfNull(eventData);
        if (eventData.Context is UncialDb db)
            foreach (var surface in db.ChangeTracker.Entries<WorkSurface>().Select(e => e.Entity)) news.Changed(surface.Id, surface.Turn);
        return base.SavedChangesAsync(eventData, result, cancellationToken);
    }
}

/// <summary>Where the pages listen.</summary>
internal static class NewsFeed
{
    public static void MapNews(this IEndpointRouteBuilder app) => app.MapGet("/news", (int? surface, int[]? gauge, int? lathe, decimal[]? target, News news, IHostApplicationLifetime life, CancellationToken cancel) =>
        // A page that listens must not hold up the closing of the shop.
        TypedResults.ServerSentEvents(news.ListenAsync(surface, gauge ?? [], lathe, [.. (target ?? []).Select(Length.FromMillimetres)], CancellationTokenSource.CreateLinkedTokenSource(cancel, life.ApplicationStopping).Token))).ExcludeFromDescription();
}
