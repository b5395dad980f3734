using Microsoft.EntityFrameworkCore;
using Uncial.Data;

namespace Uncial.Web.Hosting;

/// <summary>
/// Looks whether a clock has gone back: that of this machine or that of the database, against the newest record. Order does not depend on
/// either, but times on paper do: it is said on every page and in the log.
/// </summary>
public sealed partial class ClockWatch(IServiceScopeFactory scopes, TimeProvider time, ILogger<ClockWatch> log) : BackgroundService
{
    private static readonly TimeSpan Every = TimeSpan.FromSeconds(10);
    private static readonly TimeSpan Slack = TimeSpan.FromSeconds(5);

    /// <summary>How far the clock is behind the newest record; null where it is not.</summary>
    public TimeSpan? Behind { get; private set; }

    /// <summary>Looks once.</summary>
    public async Task LookAsync(CancellationToken cancel)
    {
        await using var scope = scopes.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<UncialDb>();
        var newest = await db.ShopChain.MaxAsync(l => (DateTimeOffset?)l.At, cancel);
        var there = await db.Database.SqlQuery<DateTimeOffset>($"select uncial_now() as \"Value\"").SingleAsync(cancel);
        var now = time.GetUtcNow() < there ? time.GetUtcNow() : there;
        var before = Behind;
        Behind = newest is { } at && at - now > Slack ? at - now : null;
        if (Behind is { } behind && before is null)
            WentBack(log, behind);
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await LookAsync(stoppingToken);
                await Task.Delay(Every, time, stoppingToken);
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested) { }
#pragma warning disable CA1031 // The database may be away for a while.
            catch (Exception)
#pragma warning restore CA1031
            {
                await Task.Delay(Every, time, CancellationToken.None);
            }
        }
    }

    [LoggerMessage(Level = LogLevel.Error, Message = "The clock is {Behind} behind the newest record: set it right")]
    private static partial void WentBack(ILogger log, TimeSpan behind);
}

/// <summary>Writes the head of the shop's chain once a day into a file, which should lie on another medium.</summary>
public sealed partial class HeadKeeper(IServiceScopeFactory scopes, IConfiguration settings, TimeProvider time, ILogger<HeadKeeper> log)
    : BackgroundService
{
    private static readonly TimeSpan Every = TimeSpan.FromMinutes(10);

    /// <summary>Writes the head where the newest one in the file is not of today.</summary>
    public async Task KeepAsync(string file, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(file);
        var last = File.Exists(file)
            ? (await File.ReadAllLinesAsync(file, cancel)).Select(ChainHead.Read).OfType<ChainHead>().LastOrDefault()
            : null;
        await using var scope = scopes.CreateAsyncScope();
        if (
            await ShopChain.HeadAsync(scope.ServiceProvider.GetRequiredService<UncialDb>(), cancel) is not { } head
            || head.Number == last?.Number
            || head.At.UtcDateTime.Date == last?.At.UtcDateTime.Date
        )
            return;
        await File.AppendAllTextAsync(file, head + "\n", cancel);
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        if (settings["Heads"] is not { Length: > 0 } file)
            return;
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await KeepAsync(file, stoppingToken);
                await Task.Delay(Every, time, stoppingToken);
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested) { }
#pragma warning disable CA1031 // The medium may be away for a while; it is said and tried again.
            catch (Exception e)
#pragma warning restore CA1031
            {
                NotKept(log, e.Message);
                await Task.Delay(Every, time, CancellationToken.None);
            }
        }
    }

    [LoggerMessage(Level = LogLevel.Error, Message = "The head of the chain could not be written: {Why}")]
    private static partial void NotKept(ILogger log, string why);
}
