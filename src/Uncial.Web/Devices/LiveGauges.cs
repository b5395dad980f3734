using System.Collections.Concurrent;
using Microsoft.EntityFrameworkCore;
using Uncial.Core.Gauges;
using Uncial.Data;

namespace Uncial.Web.Devices;

/// <summary>Listens to the gauges that send their readings.</summary>
public sealed class LiveGauges(
    DeviceOwners owners,
    DeviceRelay relay,
    IServiceScopeFactory scopes,
    News news,
    TimeProvider time,
    ILogger<LiveGauges> log
) : LineListener(DeviceKind.Gauge, owners, scopes, time, log)
{
    private readonly ConcurrentDictionary<int, string> sessions = new();

    protected override Task<Dictionary<int, string>> AddressesAsync(UncialDb db, CancellationToken cancel) =>
        db.Gauges.AsNoTracking().Where(g => g.Address != null && g.RetiredAt == null).ToDictionaryAsync(g => g.Id, g => g.Address!, cancel);

    protected override void Stale(int id) =>
        Says(
            id,
            (news.Now(id) is { State: not GaugeState.Lost } now ? now : new(GaugeState.Stale, null, false, null)) with
            {
                State = GaugeState.Stale,
            }
        );

    protected override void Lost(int id) => Says(id, new(GaugeState.Lost, null, false, null));

    private void Says(int id, GaugeNow now)
    {
        news.Says(id, now);
        relay.Says(DeviceKind.Gauge, id, now.Write());
    }

    protected override string? Heard(int id, string text)
    {
        if (GaugeLine.Read(text) is not { } said)
            return null;
        Says(id, new(GaugeState.Connected, said.Text is null ? news.Now(id)?.Shows : said.Typed, said.IsStable, said.Battery));
        // Without a name of its own a session is one connection: its numbers begin anew with the next.
        if (said.Word == GaugeWord.Hello)
            sessions[id] = said.Session is { Length: > 0 and <= 30 } name ? name : Guid.NewGuid().ToString("N")[..12];
        if (said.Word != GaugeWord.Send)
            return null;
        // A gauge repeats what was not answered: the same number of a session is the same reading.
        var line = string.Create(
            System.Globalization.CultureInfo.InvariantCulture,
            $"{sessions.GetOrAdd(id, _ => Guid.NewGuid().ToString("N")[..12])}:{said.Number}"
        );
        if (FenceOf(id) is not { } fence)
            return null;
        // It may have been stored by an earlier owner, which ended before it could say so.
        if (!news.IsKnown(id, line))
            _ = relay.LookAsync(id, line, CancellationToken.None);
        switch (news.Sends(id, line, said.Typed, said.IsStable, fence))
        {
            case SentReading.Taken:
                return $"TAKEN n={said.Number}";
            // Another instance may have the gauge, and a page for its reading, by now.
            case SentReading.Refused when IsSure:
                return $"NOBODY n={said.Number}";
            case SentReading.Elsewhere:
                _ = relay.PassAsync(id, line, said.Typed, fence, CancellationToken.None);
                return null;
            default:
                return null;
        }
    }
}

/// <summary>Listens to the read-outs of lathes.</summary>
public sealed class LiveLathes(
    DeviceOwners owners,
    DeviceRelay relay,
    IServiceScopeFactory scopes,
    News news,
    TimeProvider time,
    ILogger<LiveLathes> log
) : LineListener(DeviceKind.Lathe, owners, scopes, time, log)
{
    private readonly ConcurrentDictionary<int, Core.Planning.Lathe> profiles = new();

    protected override async Task<Dictionary<int, string>> AddressesAsync(UncialDb db, CancellationToken cancel)
    {
        var lathes = await db.Lathes.AsNoTracking().Where(l => l.Address != null && l.RetiredAt == null).ToListAsync(cancel);
        foreach (var lathe in lathes)
            profiles[lathe.Id] = lathe.Profile;
        return lathes.ToDictionary(l => l.Id, l => l.Address!);
    }

    protected override void Stale(int id) => Says(id, null);

    protected override void Lost(int id) => Says(id, null);

    private void Says(int id, Core.Cutting.LatheLine? line)
    {
        Told(id, line);
        relay.Says(DeviceKind.Lathe, id, line?.Write());
    }

    /// <summary>Another instance has heard what a read-out says; null where it is silent.</summary>
    public void Told(int id, Core.Cutting.LatheLine? line) => news.Turns(id, line, profiles.GetValueOrDefault(id));

    protected override string? Heard(int id, string text)
    {
        if (Core.Cutting.LatheLine.Read(text) is { IsHello: false } said)
            Says(id, said);
        return null;
    }
}
