using System.Collections.Concurrent;
using Npgsql;
using NpgsqlTypes;

namespace Uncial.Web.Devices;

/// <summary>A device, whatever it is.</summary>
public readonly record struct DeviceKey(DeviceKind Kind, int Id);

/// <summary>
/// Which devices this instance is connected to. Of all instances that serve the shop one has each of them: it holds an advisory lock on a
/// connection of its own, and says every second that it is there. The lock of one that ended goes with its connection; that of one that
/// hangs is taken from it.
/// </summary>
/// <remarks>
/// While the database is away an instance stays connected to what it had: what a gauge sends is kept by the page until it can be stored,
/// and the database refuses it where another instance has taken the gauge over since (<c>guard_fence</c>).
/// </remarks>
public sealed partial class DeviceOwners(string connection, TimeProvider time, ILogger<DeviceOwners> log) : BackgroundService
{
    private static readonly TimeSpan Beat = TimeSpan.FromSeconds(1);

    /// <summary>An owner that has not been heard of for so long hangs.</summary>
    private static readonly TimeSpan Hangs = TimeSpan.FromSeconds(3);

    /// <summary>For so long after it was confirmed an owner speaks for the device; less than <see cref="Hangs"/>.</summary>
    private static readonly TimeSpan Sure = TimeSpan.FromSeconds(2.5);
    private const int AnswersWithin = 2;
    private const int OpensWithin = 10;
    private readonly ConcurrentDictionary<DeviceKey, byte> wanted = new();
    private readonly ConcurrentDictionary<DeviceKey, long> owned = new();
    private readonly SemaphoreSlim asked = new(0);
    private long confirmedAt = long.MinValue;

    /// <summary>Name of the connections by which instances know of one another.</summary>
    private const string Name = "uncial devices";

    /// <summary>This instance.</summary>
    public Guid Instance { get; } = Guid.NewGuid();

    /// <summary>No other instance serves the shop.</summary>
    public bool IsAlone { get; private set; } = true;

    /// <summary>This instance was confirmed as owner a moment ago: it may say that nobody takes a reading.</summary>
    public bool IsSure => Volatile.Read(ref confirmedAt) is var at && at != long.MinValue && time.GetElapsedTime(at) < Sure;

    /// <summary>Number of this instance's ownership; null where another one has the device.</summary>
    public long? FenceOf(DeviceKey device) => owned.TryGetValue(device, out var fence) ? fence : null;

    /// <summary>Says which devices of a kind there are.</summary>
    public void Want(DeviceKind kind, IReadOnlyCollection<int> ids)
    {
        ArgumentNullException.ThrowIfNull(ids);
        var isNew = false;
        foreach (var id in ids)
            isNew |= wanted.TryAdd(new(kind, id), 0);
        foreach (var gone in wanted.Keys.Where(d => d.Kind == kind && !ids.Contains(d.Id)))
            wanted.TryRemove(gone, out _);
        if (isNew)
            asked.Release();
    }

    public override void Dispose()
    {
        asked.Dispose();
        base.Dispose();
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        var told = false;
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await using var db = await OpenAsync(stoppingToken);
                told = false;
                // What another instance took while this one had no connection is its own.
                foreach (var device in owned.Keys)
                    if (!await TryTakeAsync(db, device, stoppingToken))
                        owned.TryRemove(device, out _);
                var since = time.GetTimestamp();
                while (true)
                {
                    await TurnAsync(db, time.GetElapsedTime(since) > Hangs + Beat, stoppingToken);
                    await asked.WaitAsync(Beat, stoppingToken);
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
                await Task.Delay(Beat, time, CancellationToken.None);
            }
        }
    }

    /// <summary>A connection that the database gives up within seconds where this machine is gone.</summary>
    private async Task<NpgsqlConnection> OpenAsync(CancellationToken cancel)
    {
        var db = new NpgsqlConnection(
            new NpgsqlConnectionStringBuilder(connection)
            {
                ApplicationName = Name,
                Pooling = false,
                Timeout = OpensWithin,
                CommandTimeout = AnswersWithin,
                CancellationTimeout = -1,
            }.ConnectionString
        );
        try
        {
            await db.OpenAsync(cancel);
            await RunAsync(
                db,
                "set tcp_keepalives_idle = 2; set tcp_keepalives_interval = 1; set tcp_keepalives_count = 2; set tcp_user_timeout = 3000",
                cancel
            );
            return db;
        }
        catch
        {
            await db.DisposeAsync();
            throw;
        }
    }

    private async Task TurnAsync(NpgsqlConnection db, bool mayTakeOver, CancellationToken cancel)
    {
        var began = time.GetTimestamp();
        IsAlone = (long)(await RunAsync(db, OthersSql, cancel))! == 0;
        if (!IsAlone && !owned.IsEmpty)
            await RunAsync(db, "select keep_devices($1)", cancel, new NpgsqlParameter { Value = Instance });
        Volatile.Write(ref confirmedAt, began);
        foreach (var gone in owned.Keys.Where(d => !wanted.ContainsKey(d)))
        {
            owned.TryRemove(gone, out _);
            await RunAsync(db, "select pg_advisory_unlock(device_lock($1), $2)", cancel, KindOf(gone), IdOf(gone));
        }
        foreach (var device in wanted.Keys.Where(d => !owned.ContainsKey(d)))
            if (!await TryTakeAsync(db, device, cancel) && mayTakeOver)
                await RunAsync(db, EndHungSql, cancel, KindOf(device), IdOf(device), new NpgsqlParameter { Value = Hangs });
    }

    private async Task<bool> TryTakeAsync(NpgsqlConnection db, DeviceKey device, CancellationToken cancel)
    {
        if (await RunAsync(db, "select pg_try_advisory_lock(device_lock($1), $2)", cancel, KindOf(device), IdOf(device)) is not true)
            return false;
        var fence = await RunAsync(
            db,
            "select take_device($1, $2, $3)",
            cancel,
            KindOf(device),
            IdOf(device),
            new NpgsqlParameter { Value = Instance }
        );
        owned[device] = (long)fence!;
        return true;
    }

    private static NpgsqlParameter KindOf(DeviceKey device) => new() { Value = device.Kind.ToString(), NpgsqlDbType = NpgsqlDbType.Text };

    private static NpgsqlParameter IdOf(DeviceKey device) => new() { Value = device.Id };

    private static async Task<object?> RunAsync(NpgsqlConnection db, string sql, CancellationToken cancel, params NpgsqlParameter[] values)
    {
        await using var command = new NpgsqlCommand(sql, db);
        command.Parameters.AddRange(values);
        return await command.ExecuteScalarAsync(cancel);
    }

    private const string OthersSql = $"""
        select count(*) from pg_stat_activity
            where application_name = '{Name}' and datname = current_database() and usename = current_user and pid <> pg_backend_pid()
        """;

    /// <summary>
    /// Ends the session of an owner that has not been heard of; its lock goes with it. A login may end its own sessions. What was heard in
    /// the future was so before the clock was set back.
    /// </summary>
    private const string EndHungSql = """
        select pg_terminate_backend(l.pid) from pg_locks l join live_devices d on d.kind = $1 and d.device_id = $2
            where l.locktype = 'advisory' and l.granted and l.classid = device_lock($1)::oid and l.objid = $2::oid and l.objsubid = 2
                and l.database = (select oid from pg_database where datname = current_database())
                and d.seen_at not between uncial_now() - $3 and uncial_now() + $3
        """;

    [LoggerMessage(Level = LogLevel.Warning, Message = "The database is away; devices stay connected as they are: {Why}")]
    private static partial void Away(ILogger log, string why);
}
