using System.Collections.Concurrent;
using Microsoft.EntityFrameworkCore;
using Uncial.Data;

namespace Uncial.Web.Devices;

/// <summary>
/// Tells the other instances what the devices of this one say, and which screen of this one has taken a gauge up. Where there is no other
/// instance it writes nothing.
/// </summary>
public sealed partial class DeviceRelay(
    DeviceOwners owners,
    News news,
    IDbContextFactory<UncialDb> shops,
    TimeProvider time,
    ILogger<DeviceRelay> log
) : BackgroundService
{
    private static readonly TimeSpan Every = TimeSpan.FromMilliseconds(150);
    private static readonly TimeSpan Beat = TimeSpan.FromSeconds(1);
    private static readonly TimeSpan SendsStay = TimeSpan.FromHours(1);
    private readonly ConcurrentDictionary<DeviceKey, string?> says = new();
    private readonly ConcurrentDictionary<DeviceKey, string?> told = new();
    private readonly ConcurrentQueue<int> taken = new();

    /// <summary>What a device of this instance says now.</summary>
    public void Says(DeviceKind kind, int id, string? text) => says[new(kind, id)] = text;

    /// <summary>Shows a reading that a gauge of this instance sent to the page that takes it, which listens at another instance.</summary>
    public Task PassAsync(int gauge, string line, string typed, long fence, CancellationToken cancel) =>
        RunAsync(
            db =>
                db.Database.ExecuteSqlAsync(
                    $"""
                    with passed as (
                        insert into gauge_sends (gauge_id, line, typed, fence, at, is_refused)
                            values ({gauge}, {line}, {typed}, {fence}, uncial_now(), false)
                        on conflict (gauge_id, line) do update set fence = excluded.fence returning id)
                    select pg_notify('uncial_news', 'send ' || id) from passed
                    """,
                    cancel
                ),
            cancel
        );

    /// <summary>Looks whether a reading that a gauge sends is stored already; it is answered then.</summary>
    public Task LookAsync(int gauge, string line, CancellationToken cancel) =>
        RunAsync(
            async db =>
            {
                if (await db.Readings.AnyAsync(r => r.GaugeId == gauge && r.Line == line, cancel))
                    news.Took(gauge, line);
            },
            cancel
        );

    /// <summary>A page of this instance cannot take a reading; the instance that has the gauge answers it.</summary>
    public Task RefuseAsync(int gauge, string line, CancellationToken cancel) =>
        owners.IsAlone
            ? Task.CompletedTask
            : RunAsync(
                db =>
                    db.Database.ExecuteSqlAsync(
                        $"""
                        with refused as (update gauge_sends set is_refused = true where gauge_id = {gauge} and line = {line} returning id)
                        select pg_notify('uncial_news', 'send ' || id) from refused
                        """,
                        cancel
                    ),
                cancel
            );

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        news.TakenUp = taken.Enqueue;
        var (beat, pruned) = (time.GetTimestamp(), long.MinValue);
        using var timer = new PeriodicTimer(Every, time);
        try
        {
            while (await timer.WaitForNextTickAsync(stoppingToken))
            {
                if (owners.IsAlone)
                {
                    // Whoever comes is told everything.
                    told.Clear();
                    taken.Clear();
                    continue;
                }
                var isBeat = time.GetElapsedTime(beat) > Beat;
                if (isBeat)
                    beat = time.GetTimestamp();
                await RunAsync(
                    async db =>
                    {
                        foreach (var (device, text) in says)
                            await TellAsync(db, device, text, stoppingToken);
                        while (taken.TryDequeue(out var gauge))
                            await HoldAsync(db, gauge, isForced: true, stoppingToken);
                        if (isBeat)
                            foreach (var gauge in news.HeldHere)
                                await HoldAsync(db, gauge, isForced: false, stoppingToken);
                        if (pruned != long.MinValue && time.GetElapsedTime(pruned) < SendsStay)
                            return;
                        pruned = time.GetTimestamp();
                        await db.Database.ExecuteSqlAsync($"delete from gauge_sends where at < uncial_now() - {SendsStay}", stoppingToken);
                    },
                    stoppingToken
                );
            }
        }
        catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested) { }
        finally
        {
            news.TakenUp = null;
        }
    }

    private async Task TellAsync(UncialDb db, DeviceKey device, string? text, CancellationToken cancel)
    {
        if (owners.FenceOf(device) is null || told.TryGetValue(device, out var before) && before == text)
            return;
        var kind = device.Kind.ToString();
        await db.Database.ExecuteSqlAsync(
            $"""
            with said as (update live_devices set says = {text}
                where kind = {kind} and device_id = {device.Id} and instance = {owners.Instance} returning kind, device_id)
            select pg_notify('uncial_news', 'device ' || kind || ' ' || device_id) from said
            """,
            cancel
        );
        told[device] = text;
    }

    /// <summary>A screen of this instance has a gauge: it took it up, or has it still where nobody else took it since.</summary>
    private async Task HoldAsync(UncialDb db, int gauge, bool isForced, CancellationToken cancel)
    {
        if (news.HolderOf(gauge) is not { } holder)
            return;
        await db.Database.ExecuteSqlAsync(
            $"""
            with held as (update live_devices set holder_screen_id = {holder.Screen}, holder_name = {holder.Name},
                    holder_seen_at = uncial_now()
                    where kind = 'Gauge' and device_id = {gauge} and ({isForced} or holder_screen_id is null
                        or holder_screen_id = {holder.Screen}
                        or holder_seen_at not between uncial_now() - {News.HeldFor} and uncial_now() + {News.HeldFor})
                    returning device_id)
            select pg_notify('uncial_news', 'device Gauge ' || device_id) from held
            """,
            cancel
        );
    }

    private async Task RunAsync(Func<UncialDb, Task> act, CancellationToken cancel)
    {
        try
        {
            await using var db = await shops.CreateDbContextAsync(cancel);
            await act(db);
        }
        catch (OperationCanceledException) when (cancel.IsCancellationRequested) { }
#pragma warning disable CA1031 // The database may be away: what a device says next is told then.
        catch (Exception e)
#pragma warning restore CA1031
        {
            told.Clear();
            NotTold(log, e.Message);
        }
    }

    [LoggerMessage(Level = LogLevel.Debug, Message = "The other instances could not be told: {Why}")]
    private static partial void NotTold(ILogger log, string why);
}
