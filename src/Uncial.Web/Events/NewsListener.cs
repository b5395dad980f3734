using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Uncial.Core.Cutting;
using Uncial.Data;
using Uncial.Web.Board;
using Uncial.Web.Devices;

namespace Uncial.Web.Events;

/// <summary>
/// Hears from the database what any instance has saved, once it is committed. A notification names what it is about and no more: it is
/// read anew here. After the connection broke, everything that the open pages show is looked at once.
/// </summary>
public sealed partial class NewsListener(
    string connection,
    News news,
    BoardKeeper board,
    DeviceOwners owners,
    LiveLathes lathes,
    IDbContextFactory<UncialDb> shops,
    TimeProvider time,
    ILogger<NewsListener> log
) : BackgroundService
{
    private const string Channel = "uncial_news";
    private static readonly TimeSpan TryAgain = TimeSpan.FromMilliseconds(500);
    private static readonly TimeSpan SentLately = TimeSpan.FromSeconds(15);
    private const int AnswersWithin = 5;

    /// <summary>What was told and is not looked at yet.</summary>
    private sealed class Heard
    {
        public HashSet<int> Surfaces { get; } = [];
        public HashSet<(int Gauge, string Line)> Taken { get; } = [];
        public HashSet<DeviceKey> Devices { get; } = [];
        public HashSet<long> Sends { get; } = [];
        public bool IsSaved { get; set; }

        public void Take(string told)
        {
            switch (told.Split(' '))
            {
                case ["surface", var id] when int.TryParse(id, CultureInfo.InvariantCulture, out var surface):
                    Surfaces.Add(surface);
                    break;
                case ["taken", var id, var line] when int.TryParse(id, CultureInfo.InvariantCulture, out var gauge):
                    Taken.Add((gauge, line));
                    break;
                case ["device", var kind, var id]
                    when Enum.TryParse<DeviceKind>(kind, out var of) && int.TryParse(id, CultureInfo.InvariantCulture, out var device):
                    Devices.Add(new(of, device));
                    break;
                case ["send", var id] when long.TryParse(id, CultureInfo.InvariantCulture, out var send):
                    Sends.Add(send);
                    break;
                case ["saved"]:
                    IsSaved = true;
                    break;
                default:
                    break;
            }
        }
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        var told = false;
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await using var db = new NpgsqlConnection(
                    new NpgsqlConnectionStringBuilder(connection)
                    {
                        ApplicationName = "uncial news",
                        Pooling = false,
                        KeepAlive = AnswersWithin,
                        Timeout = AnswersWithin,
                        CommandTimeout = AnswersWithin,
                    }.ConnectionString
                );
                var heard = new Heard();
                db.Notification += (_, e) => heard.Take(e.Payload);
                await db.OpenAsync(stoppingToken);
                await using (var listen = new NpgsqlCommand($"listen {Channel}", db))
                    await listen.ExecuteNonQueryAsync(stoppingToken);
                told = false;
                await CatchUpAsync(stoppingToken);
                while (true)
                {
                    await db.WaitAsync(stoppingToken);
                    // Notifications are taken while this connection is read, which is not while they are looked at.
                    var now = heard;
                    heard = new();
                    await LookAsync(now, stoppingToken);
                }
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested) { }
#pragma warning disable CA1031 // The database may be away for a while.
            catch (Exception e)
#pragma warning restore CA1031
            {
                if (!told)
                    Away(log, e.Message);
                told = true;
                await Task.Delay(TryAgain, time, CancellationToken.None);
            }
        }
    }

    private async Task LookAsync(Heard heard, CancellationToken cancel)
    {
        if (heard.IsSaved)
            board.Saved();
        heard.Surfaces.IntersectWith(news.Surfaces);
        heard.Taken.RemoveWhere(t => !news.IsOpen(t.Gauge, t.Line));
        if (heard.Surfaces.Count + heard.Taken.Count + heard.Devices.Count + heard.Sends.Count == 0)
            return;
        await using var db = await shops.CreateDbContextAsync(cancel);
        await ChangedAsync(db, heard.Surfaces, cancel);
        foreach (var (gauge, line) in heard.Taken)
            if (await db.Readings.AnyAsync(r => r.GaugeId == gauge && r.Line == line, cancel))
                news.Took(gauge, line);
        foreach (var (kind, id) in heard.Devices)
            await TellAsync(db, db.LiveDevices.Where(d => d.Kind == kind && d.DeviceId == id), cancel);
        if (heard.Sends.Count > 0)
            await ShowAsync(db, db.GaugeSends.Where(s => heard.Sends.Contains(s.Id)), cancel);
    }

    /// <summary>What may have been told while nobody listened.</summary>
    private async Task CatchUpAsync(CancellationToken cancel)
    {
        board.Saved();
        await using var db = await shops.CreateDbContextAsync(cancel);
        await ChangedAsync(db, news.Surfaces, cancel);
        foreach (var (gauge, line) in news.Open)
            if (await db.Readings.AnyAsync(r => r.GaugeId == gauge && r.Line == line, cancel))
                news.Took(gauge, line);
        await TellAsync(db, db.LiveDevices, cancel);
        await ShowAsync(db, db.GaugeSends.FromSql($"select * from gauge_sends where at > uncial_now() - {SentLately}"), cancel);
    }

    private async Task ChangedAsync(UncialDb db, IReadOnlyCollection<int> surfaces, CancellationToken cancel)
    {
        if (surfaces.Count == 0)
            return;
        var turns = await db.Surfaces.Where(s => surfaces.Contains(s.Id)).Select(s => new { s.Id, s.Turn }).ToListAsync(cancel);
        foreach (var surface in turns)
            news.Changed(surface.Id, surface.Turn);
    }

    /// <summary>What another instance hears of devices, and which screens have them. All times are of the database's clock.</summary>
    private async Task TellAsync(UncialDb db, IQueryable<LiveDevice> devices, CancellationToken cancel)
    {
        var rows = await devices.AsNoTracking().ToListAsync(cancel);
        var held = await db
            .Database.SqlQuery<int>(
                $"""
                select device_id as "Value" from live_devices where kind = 'Gauge'
                    and holder_seen_at between uncial_now() - {News.HeldFor} and uncial_now() + {News.HeldFor}
                """
            )
            .ToListAsync(cancel);
        foreach (var device in rows)
        {
            if (device.Instance != owners.Instance && device.Kind == DeviceKind.Lathe)
                lathes.Told(device.DeviceId, device.Says is null ? null : LatheLine.Read(device.Says));
            else if (device.Instance != owners.Instance)
                news.Says(
                    device.DeviceId,
                    device.Says is { } said && GaugeNow.Read(said) is { } now ? now : new(GaugeState.Lost, null, false, null)
                );
            if (device is { Kind: DeviceKind.Gauge, HolderScreenId: { } screen } && held.Contains(device.DeviceId))
                news.HeldAt(device.DeviceId, screen, device.HolderName ?? "");
        }
    }

    /// <summary>Shows what a gauge of another instance sent to the page that takes it, where that page listens here.</summary>
    private async Task ShowAsync(UncialDb db, IQueryable<GaugeSend> sends, CancellationToken cancel)
    {
        var rows = await sends
            .AsNoTracking()
            .Join(
                db.LiveDevices.Where(d => d.Kind == DeviceKind.Gauge),
                s => s.GaugeId,
                d => d.DeviceId,
                (s, d) =>
                    new
                    {
                        Sent = s,
                        d.Fence,
                        d.Instance,
                    }
            )
            .ToListAsync(cancel);
        foreach (var row in rows)
        {
            if (row.Sent.IsRefused)
                news.Refuses(row.Sent.GaugeId, row.Sent.Line);
            else if (row.Instance != owners.Instance && row.Fence == row.Sent.Fence)
                news.Shows(row.Sent.GaugeId, row.Sent.Line, row.Sent.Typed, row.Sent.Fence);
        }
    }

    [LoggerMessage(Level = LogLevel.Warning, Message = "The database is away; pages hear nothing new until it is back: {Why}")]
    private static partial void Away(ILogger log, string why);
}
