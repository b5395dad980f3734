using System.Collections.Concurrent;
using Microsoft.EntityFrameworkCore;
using Uncial.Core.Gauges;
using Uncial.Data;

namespace Uncial.Web.Devices;

/// <summary>Listens to the gauges that send their readings.</summary>
public sealed class LiveGauges(IServiceScopeFactory scopes, News news, TimeProvider time, ILogger<LiveGauges> log)
    : LineListener(scopes, time, log)
{
    private readonly ConcurrentDictionary<int, string> sessions = new();

    protected override Task<Dictionary<int, string>> AddressesAsync(UncialDb db, CancellationToken cancel) =>
        db.Gauges.AsNoTracking().Where(g => g.Address != null && g.RetiredAt == null).ToDictionaryAsync(g => g.Id, g => g.Address!, cancel);

    protected override void Stale(int id) =>
        news.Says(
            id,
            (news.Now(id) is { State: not GaugeState.Lost } now ? now : new(GaugeState.Stale, null, false, null)) with
            {
                State = GaugeState.Stale,
            }
        );

    protected override void Lost(int id) => news.Says(id, new(GaugeState.Lost, null, false, null));

    protected override string? Heard(int id, string text)
    {
        if (GaugeLine.Read(text) is not { } said)
            return null;
        news.Says(id, new(GaugeState.Connected, said.Text is null ? news.Now(id)?.Shows : said.Typed, said.IsStable, said.Battery));
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
        return news.Sends(id, line, said.Typed, said.IsStable) switch
        {
            SentReading.Taken => $"TAKEN n={said.Number}",
            SentReading.Refused => $"NOBODY n={said.Number}",
            _ => null,
        };
    }
}

/// <summary>Listens to the read-outs of lathes.</summary>
public sealed class LiveLathes(IServiceScopeFactory scopes, News news, TimeProvider time, ILogger<LiveLathes> log)
    : LineListener(scopes, time, log)
{
    private readonly ConcurrentDictionary<int, Core.Planning.Lathe> profiles = new();

    protected override async Task<Dictionary<int, string>> AddressesAsync(UncialDb db, CancellationToken cancel)
    {
        var lathes = await db.Lathes.AsNoTracking().Where(l => l.Address != null && l.RetiredAt == null).ToListAsync(cancel);
        foreach (var lathe in lathes)
            profiles[lathe.Id] = lathe.Profile;
        return lathes.ToDictionary(l => l.Id, l => l.Address!);
    }

    protected override void Stale(int id) => news.Turns(id, null, null);

    protected override void Lost(int id) => news.Turns(id, null, null);

    protected override string? Heard(int id, string text)
    {
        if (Core.Cutting.LatheLine.Read(text) is { IsHello: false } said)
            news.Turns(id, said, profiles.GetValueOrDefault(id));
        return null;
    }
}
