using System.Threading.Channels;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Diagnostics;
using Uncial.Core.Scheduling;
using Uncial.Core.Times;
using Uncial.Data;
using Uncial.Data.Commands;
using Uncial.Web.Events;

namespace Uncial.Web.Board;

/// <summary>The day's board as every screen shows it.</summary>
/// <param name="At">The shop that it was planned from.</param>
/// <param name="Plan">The plan.</param>
/// <param name="Version">Goes up whenever anything on it is another.</param>
public sealed record BoardNow(FloorNow At, PlannedDay Plan, long Version);

/// <summary>
/// Plans the day off the requests: while a screen shows the board after every save and every half minute, else now and then. One plan is
/// made at a time; what was saved meanwhile is in the next one. Pages read what was planned last; only where that is old they wait.
/// </summary>
public sealed partial class BoardKeeper(
    IServiceScopeFactory scopes,
    ShopCache shops,
    BenchStates bench,
    News news,
    ShopMeter meter,
    TimeProvider time,
    ILogger<BoardKeeper> log
) : BackgroundService
{
    /// <summary>So often it is planned anew though nothing was saved: time goes on.</summary>
    private static readonly TimeSpan Every = TimeSpan.FromSeconds(30);

    /// <summary>So often where no screen shows the board: what is promised is looked at, and the day is kept.</summary>
    private static readonly TimeSpan Unseen = TimeSpan.FromMinutes(5);

    /// <summary>A plan that is older is no answer to somebody who asks.</summary>
    private static readonly TimeSpan Old = TimeSpan.FromMinutes(1);

    /// <summary>What is saved within this time goes into one plan.</summary>
    private static readonly TimeSpan Gather = TimeSpan.FromMilliseconds(60);

    /// <summary>A better board is looked for when nothing was saved for so long.</summary>
    private static readonly TimeSpan Quiet = TimeSpan.FromSeconds(1);

    private readonly Channel<bool> saved = Channel.CreateBounded<bool>(
        new BoundedChannelOptions(1) { FullMode = BoundedChannelFullMode.DropWrite }
    );
    private readonly SemaphoreSlim planning = new(1, 1);
    private readonly Lock improving = new();
    private CancellationTokenSource? improvement;
    private volatile BoardNow? now;
    private volatile bool isStale;

    /// <summary>When the board that stands was improved last, in ticks of the world's time; 0 where it was not.</summary>
    private long improvedAt;
    private DateOnly? kept;

    /// <summary>
    /// So many rounds a board is improved by after it is shown: first soon, then as long as more is gained (docs/board.md).
    /// </summary>
    private static readonly int[] Rounds = [4, 12];

    /// <summary>Something was saved: the day is planned anew.</summary>
    public void Saved()
    {
        isStale = true;
        // A better board of before is of no use any more.
        lock (improving)
            improvement?.Cancel();
        if (news.IsBoardShown)
            saved.Writer.TryWrite(true);
    }

    /// <summary>A screen shows the board from now on: what was saved while none did is planned.</summary>
    /// <returns>The version that was planned last; null where none was.</returns>
    public long? Shown()
    {
        if (isStale || now is not { } board || (time.GetUtcNow() - board.At.Floor.Now).Duration() > Old)
            saved.Writer.TryWrite(true);
        return now?.Version;
    }

    /// <summary>The board as it was planned last; planned here and now where it never was.</summary>
    public async Task<BoardNow> NowAsync(CancellationToken cancel)
    {
        if (now is not { } board || (time.GetUtcNow() - board.At.Floor.Now).Duration() > Old)
            return await PlanNowAsync(cancel);
        // The page that asks is told of the next one.
        if (isStale)
            saved.Writer.TryWrite(true);
        return board;
    }

    /// <summary>Plans from what is on record at this moment, for somebody who waits for it. Why something is next follows later.</summary>
    public async Task<BoardNow> PlanNowAsync(CancellationToken cancel)
    {
        var board = await PlanOnceAsync(cancel);
        saved.Writer.TryWrite(true);
        return board;
    }

    /// <summary>
    /// Plans from what is on record at this moment, with the reasons for what is next: they take a plan more for each lathe.
    /// </summary>
    public async Task<BoardNow> PlanAsync(CancellationToken cancel)
    {
        var board = await PlanOnceAsync(cancel);
        if (board.Plan.Reasons.Count > 0 || board.Plan.WithReasons(cancel: cancel) is not { Reasons.Count: > 0 } reasoned)
            return board;
        await planning.WaitAsync(cancel);
        try
        {
            // Those of another board might not be true of a newer one.
            if (ReferenceEquals(now, board))
                Publish(board.At, reasoned, isSame: false);
            return now!;
        }
        finally
        {
            planning.Release();
        }
    }

    private async Task<BoardNow> PlanOnceAsync(CancellationToken cancel)
    {
        await planning.WaitAsync(cancel);
        try
        {
            var isChanged = isStale;
            isStale = false;
            await using var scope = scopes.CreateAsyncScope();
            var db = scope.ServiceProvider.GetRequiredService<UncialDb>();
            var shopTime = await TimeAsync(db, cancel);
            var floor = await db.FloorAsync(shops, bench, time.GetUtcNow(), shopTime, cancel);
            floor = floor with { Floor = floor.Floor with { Seen = now?.Plan.Board.Seen ?? [] } };
            var begun = System.Diagnostics.Stopwatch.GetTimestamp();
            var plan = Plan(floor.Floor);
            var (works, took) = (plan.Day.Plan.Works.Count, System.Diagnostics.Stopwatch.GetElapsedTime(begun).TotalMilliseconds);
            Planned(log, works, took);
            meter.Planned(took, works);
            var isSame = now is { } before && IsSame(before.Plan, plan);
            // While only time goes on, what is next stays so for the same reasons.
            if (isSame || !isChanged && now is { } last && plan.NextUp.SequenceEqual(last.Plan.NextUp))
                plan = plan with { Reasons = now!.Plan.Reasons };
            else
                Volatile.Write(ref improvedAt, 0);
            Publish(floor, plan, isSame);
            await KeepDaysAsync(db, floor, plan, cancel);
            return now!;
        }
        finally
        {
            planning.Release();
        }
    }

    /// <summary>
    /// Looks longer for a better board, until something is saved. It is shown with reasons that were looked for as long: why something is
    /// next does not hold on to a plan that is only worse because it was made quickly.
    /// </summary>
    private async Task ImproveAsync(CancellationToken stopping)
    {
        using var cancel = CancellationTokenSource.CreateLinkedTokenSource(stopping);
        lock (improving)
            improvement = cancel;
        try
        {
            if (now is not { } board || isStale)
                return;
            var begun = time.GetUtcNow().UtcTicks;
            if (DayPlanner.IsBest(board.Plan.Day.Plan))
            {
                Volatile.Write(ref improvedAt, begun);
                return;
            }
            var shown = board;
            foreach (var rounds in Rounds)
            {
                var better = await Task.Run(
                    () => board.Plan.Improved(rounds, cancel.Token).WithReasons(rounds, cancel.Token),
                    cancel.Token
                );
                await planning.WaitAsync(cancel.Token);
                try
                {
                    if (!ReferenceEquals(now, shown))
                        return;
                    Volatile.Write(ref improvedAt, begun);
                    if (!IsAlike(shown.Plan, better))
                    {
                        Publish(board.At, better, isSame: false);
                        shown = now;
                    }
                }
                finally
                {
                    planning.Release();
                }
            }
        }
        catch (OperationCanceledException) when (!stopping.IsCancellationRequested) { }
        finally
        {
            lock (improving)
                improvement = null;
        }
    }

    private static bool IsAlike(PlannedDay before, PlannedDay after) =>
        ReferenceEquals(before.Board, after.Board) && before.Reasons.OrderBy(r => r.Key).SequenceEqual(after.Reasons.OrderBy(r => r.Key));

    /// <summary>
    /// A fault of the planner is written to the log and leaves an empty board: the bench is the way to every part, and is never taken away.
    /// </summary>
    private PlannedDay Plan(ShopFloor floor)
    {
        try
        {
            return PlannedDay.Of(floor);
        }
#pragma warning disable CA1031 // Whatever it is.
        catch (Exception e)
#pragma warning restore CA1031
        {
            NotPlanned(log, e);
            return PlannedDay.Of(floor with { Jobs = [], Settings = new(), SingleDays = [] });
        }
    }

    /// <summary>Plans the same moment with something else decided, for somebody who tries it. Nothing is kept.</summary>
    /// <param name="from">The board that it is tried on.</param>
    /// <param name="change">What is decided otherwise.</param>
    public static PlannedDay Try(BoardNow from, Func<ShopFloor, ShopFloor> change)
    {
        ArgumentNullException.ThrowIfNull(from);
        ArgumentNullException.ThrowIfNull(change);
        return PlannedDay.Of(change(from.At.Floor with { Seen = from.Plan.Board.Seen })).Improved(1);
    }

    public override void Dispose()
    {
        planning.Dispose();
        base.Dispose();
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await PlanAsync(stoppingToken);
                if (
                    news.IsBoardShown
                    && Math.Abs(time.GetUtcNow().UtcTicks - Volatile.Read(ref improvedAt)) > Unseen.Ticks
                    && await IsQuietAsync(stoppingToken)
                )
                    await ImproveAsync(stoppingToken);
                using var wait = CancellationTokenSource.CreateLinkedTokenSource(stoppingToken);
                wait.CancelAfter(news.IsBoardShown ? Every : Unseen);
                if (await saved.Reader.WaitToReadAsync(wait.Token))
                    await Task.Delay(Gather, stoppingToken);
            }
            catch (OperationCanceledException) { }
#pragma warning disable CA1031 // The database may be away for a while; the board of before stands until it is back.
            catch (Exception e)
#pragma warning restore CA1031
            {
                NotPlanned(log, e);
                await Task.Delay(TimeSpan.FromSeconds(2), CancellationToken.None);
            }
            while (saved.Reader.TryRead(out _)) { }
        }
    }

    /// <summary>Nobody saves for a moment: the search for a better board takes no core from who is at work.</summary>
    private async Task<bool> IsQuietAsync(CancellationToken stopping)
    {
        using var wait = CancellationTokenSource.CreateLinkedTokenSource(stopping);
        wait.CancelAfter(Quiet);
        try
        {
            return !await saved.Reader.WaitToReadAsync(wait.Token);
        }
        catch (OperationCanceledException) when (!stopping.IsCancellationRequested)
        {
            return true;
        }
    }

    /// <summary>Once a day, from its opening on: what is planned for it, and what happened on the days before.</summary>
    private async Task KeepDaysAsync(UncialDb db, FloorNow at, PlannedDay plan, CancellationToken cancel)
    {
        var (floor, today) = (at.Floor, at.Floor.Time.DayOf(at.Floor.Now));
        if (kept == today || WorkHours.OnDay(null, floor.Settings, floor.SingleDays, today)?.On(today, floor.Time) is not { } hours)
            return;
        // A shop in which nothing was received yet has no day to remember.
        if (floor.Now < hours.From || floor.Jobs.Count == 0)
            return;
        var forecast = DayForecast.Of(plan, hours.To);
        await DayRecords.KeepForecastAsync(db, today, forecast, floor.Now, cancel);
        await DayRecords.KeepResultsAsync(db, at.Shop, floor.Settings, floor.Time, floor.Now, cancel);
        kept = today;
    }

    private async Task<ShopTime> TimeAsync(UncialDb db, CancellationToken cancel)
    {
        var shop = await db.Shops.Select(s => new { s.TimeZone, s.DateStyle }).SingleAsync(cancel);
        return ShopTime.Of(shop.TimeZone, shop.DateStyle ?? default, time.LocalTimeZone);
    }

    private void Publish(FloorNow floor, PlannedDay plan, bool isSame)
    {
        // In milliseconds of the world's time: a page that another instance made tells an older board from a newer one.
        var version = isSame ? now!.Version : Math.Max((now?.Version ?? 0) + 1, time.GetUtcNow().ToUnixTimeMilliseconds());
        now = new(floor, plan, version);
        if (!isSame)
            news.Planned(version);
    }

    /// <summary>Nothing that is shown differs: the same steps at the same times, but for what is under way now.</summary>
    private static bool IsSame(PlannedDay before, PlannedDay after) =>
        before.Board.Steps.SequenceEqual(after.Board.Steps)
        && before.Day.Blocked.SequenceEqual(after.Day.Blocked)
        && before.Day.Past.SequenceEqual(after.Day.Past)
        && before.Day.Plan.Jobs.SequenceEqual(after.Day.Plan.Jobs)
        && before.Ready.OrderBy(r => r.Key).SequenceEqual(after.Ready.OrderBy(r => r.Key))
        && before.Day.Plan.Now.ToUnixTimeSeconds() / 60 == after.Day.Plan.Now.ToUnixTimeSeconds() / 60;

    [LoggerMessage(Level = LogLevel.Debug, Message = "{Works} surfaces planned in {Milliseconds:0} ms")]
    private static partial void Planned(ILogger log, int works, double milliseconds);

    [LoggerMessage(Level = LogLevel.Error, Message = "The day could not be planned")]
    private static partial void NotPlanned(ILogger log, Exception e);
}

/// <summary>
/// Tells the board of every save of this instance at once, so that whoever saved and looks at it finds what was saved. Saves of others are
/// told by the database (NewsListener).
/// </summary>
public sealed class BoardOfSaves(Lazy<BoardKeeper> keeper) : SaveChangesInterceptor
{
    public override ValueTask<int> SavedChangesAsync(
        SaveChangesCompletedEventData eventData,
        int result,
        CancellationToken cancellationToken = default
    )
    {
        keeper.Value.Saved();
        return base.SavedChangesAsync(eventData, result, cancellationToken);
    }
}
