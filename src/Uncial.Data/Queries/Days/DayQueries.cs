using Microsoft.EntityFrameworkCore;
using Uncial.Core.Parts;
using Uncial.Core.Scheduling;
using Uncial.Core.Times;

namespace Uncial.Data.Queries;

/// <summary>What somebody has decided about a surface on the board.</summary>
/// <param name="Turn">Which decision it is.</param>
/// <param name="By">Who made it.</param>
/// <param name="Pin">What it says; null where it is not pinned any more.</param>
public sealed record PinNow(int Turn, string By, Core.Scheduling.Pin? Pin);

/// <summary>How a lathe was marked last.</summary>
/// <param name="Turn">Which mark it is.</param>
/// <param name="IsOut">It is out of order.</param>
/// <param name="Reason">Why; null where it is in order.</param>
/// <param name="At">Since when.</param>
/// <param name="BackAt">When it is expected back; null where nobody knows.</param>
/// <param name="By">Who marked it.</param>
public sealed record OutageNow(int Turn, bool IsOut, string? Reason, DateTimeOffset At, DateTimeOffset? BackAt, string By);

/// <summary>The shop at a moment, as its day is planned from it.</summary>
/// <param name="Floor">What Core takes.</param>
/// <param name="Bench">The parts.</param>
/// <param name="Shop">Its lathes and settings.</param>
/// <param name="Pins">What people decided, by surface.</param>
/// <param name="Outages">How lathes were marked, by lathe.</param>
/// <param name="Urgent">How often each job was marked urgent or not, by job.</param>
/// <param name="People">Names of those who may work.</param>
/// <param name="SettingsTurn">Which settlement of hours and times holds; 0 for what a new shop starts with.</param>
public sealed record FloorNow(
    ShopFloor Floor,
    BenchNow Bench,
    Shop Shop,
    IReadOnlyDictionary<int, PinNow> Pins,
    IReadOnlyDictionary<int, OutageNow> Outages,
    IReadOnlyDictionary<int, int> Urgent,
    IReadOnlyDictionary<int, string> People,
    int SettingsTurn
);

/// <summary>Loads what a day is planned from.</summary>
public static class DayQueries
{
    /// <summary>So many of the newest surfaces say how long steps take.</summary>
    private const int LooksBackAt = 400;

    /// <summary>The shop at a moment.</summary>
    /// <param name="db">The database.</param>
    /// <param name="shops">The shop's settings, kept between requests.</param>
    /// <param name="bench">The parts, kept between requests.</param>
    /// <param name="now">The moment.</param>
    /// <param name="time">The shop's time.</param>
    /// <param name="cancel">Cancels.</param>
    public static async Task<FloorNow> FloorAsync(
        this UncialDb db,
        ShopCache shops,
        BenchStates bench,
        DateTimeOffset now,
        ShopTime time,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(shops);
        ArgumentNullException.ThrowIfNull(bench);
        ArgumentNullException.ThrowIfNull(time);
        var today = time.DayOf(now);
        var shopNow = await shops.ShopAsync(db, cancel);
        var parts = await bench.OnBenchAsync(db, time.BeginOf(today), cancel);
        var (settings, settingsTurn) = await db.DaySettingsAsync(cancel);
        var pins = await PinsAsync(db, [.. parts.Parts.SelectMany(p => p.Surfaces.Select(s => s.Surface.Id))], cancel);
        var outages = await OutagesAsync(db, cancel);
        var urgent = await UrgentAsync(db, [.. parts.Parts.Select(p => p.Part.JobId).Distinct()], cancel);
        var people = await db
            .Operators.Where(o => o.DisabledAt == null)
            .OrderBy(o => o.Id)
            .ToDictionaryAsync(o => o.Id, o => o.DisplayName, cancel);
        var newest = await NewestMountsAsync(db, cancel);
        var times = await shops.AnswerAsync(shopNow, $"times {settingsTurn}", () => TimesAsync(db, settings, shopNow.Shop, cancel));
        var floor = new ShopFloor
        {
            Now = now,
            Time = time,
            Jobs =
            [
                .. parts
                    .Parts.GroupBy(p => p.Part.JobId)
                    .Select(g => new JobInShop(
                        g.Key,
                        g.First().Part.Job!.PromisedAt,
                        urgent.GetValueOrDefault(g.Key).IsUrgent,
                        [.. g.Select(p => new PartInShop(p.Part.Id, p.Part.Corner, SurfacesOf(p)))]
                    )),
            ],
            Lathes =
            [
                .. shopNow
                    .Shop.Lathes.Where(l => l.RetiredAt is null)
                    .Select(l => new LatheInShop(
                        l.Id,
                        l.Profile,
                        newest.GetValueOrDefault(l.Id) is { } mount ? new(mount.Kind, mount.Centring) : null,
                        newest.GetValueOrDefault(l.Id)?.Id,
                        outages.GetValueOrDefault(l.Id) is { IsOut: true } o ? new(o.At, o.BackAt) : null
                    )),
            ],
            Board = shopNow.Shop.AdaptersInUse,
            Operators = [.. people.Keys.Order()],
            Settings = settings,
            SingleDays = await SingleDaysAsync(db, today.AddDays(-1), today.AddDays(ShopDay.Days), cancel),
            Times = times,
            Pins = pins.Where(p => p.Value.Pin is not null).ToDictionary(p => p.Key, p => p.Value.Pin!),
        };
        return new(floor, parts, shopNow.Shop, pins, outages, urgent.ToDictionary(u => u.Key, u => u.Value.Turn), people, settingsTurn);
    }

    /// <summary>What the shop has settled about its days, and which settlement that is; 0 for none.</summary>
    public static async Task<(DaySettings Settings, int Turn)> DaySettingsAsync(this UncialDb db, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        var newest = await db.DaySettings.AsNoTracking().OrderByDescending(s => s.Turn).FirstOrDefaultAsync(cancel);
        return (newest?.Settings ?? new(), newest?.Turn ?? 0);
    }

    /// <summary>Single days with hours of their own, the newest entry of each day and person.</summary>
    /// <param name="db">The database.</param>
    /// <param name="from">The first day.</param>
    /// <param name="to">The last day.</param>
    /// <param name="cancel">Cancels.</param>
    public static async Task<IReadOnlyList<DayHours>> SingleDaysAsync(UncialDb db, DateOnly from, DateOnly to, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        var entries = await db.DayHours.AsNoTracking().Where(h => h.Day >= from && h.Day <= to).ToListAsync(cancel);
        return
        [
            .. entries
                .GroupBy(h => (h.Day, h.OperatorId))
                .Select(g => g.MaxBy(h => h.Turn)!)
                .Where(h => !h.IsUsual)
                .OrderBy(h => h.Day)
                .Select(h => h.Hours),
        ];
    }

    private static IReadOnlyList<SurfaceInShop> SurfacesOf(BenchPart part) =>
        [.. part.Surfaces.Select(s => new SurfaceInShop(s.Surface.Id, s.State))];

    private static async Task<Dictionary<int, PinNow>> PinsAsync(UncialDb db, int[] surfaces, CancellationToken cancel)
    {
        var pins = await db
            .BoardPins.AsNoTracking()
            .Where(p => surfaces.Contains(p.SurfaceId) && p.Turn == db.BoardPins.Where(o => o.SurfaceId == p.SurfaceId).Max(o => o.Turn))
            .Select(p => new
            {
                p.SurfaceId,
                p.LatheId,
                p.Place,
                p.NotBefore,
                p.Turn,
                By = p.By!.DisplayName,
                // A place counts what is still to come: it goes down by what was put on since.
                Since = db
                    .Mounts.Where(m => m.LatheId == p.LatheId && m.At > p.At && m.SurfaceId != p.SurfaceId)
                    .Select(m => m.SurfaceId)
                    .Distinct()
                    .Count(),
            })
            .ToListAsync(cancel);
        return pins.ToDictionary(
            p => p.SurfaceId,
            p => new PinNow(
                p.Turn,
                p.By,
                p is { LatheId: null, Place: null, NotBefore: null }
                    ? null
                    : new(p.LatheId, p.Place is { } place ? Math.Max(0, place - p.Since) : null, p.NotBefore)
            )
        );
    }

    private static Task<Dictionary<int, OutageNow>> OutagesAsync(UncialDb db, CancellationToken cancel) =>
        db
            .LatheOutages.AsNoTracking()
            .Include(o => o.By)
            .Where(o => o.Turn == db.LatheOutages.Where(x => x.LatheId == o.LatheId).Max(x => x.Turn))
            .ToDictionaryAsync(o => o.LatheId, o => new OutageNow(o.Turn, o.IsOut, o.Reason, o.At, o.BackAt, o.By!.DisplayName), cancel);

    private static async Task<Dictionary<int, (int Turn, bool IsUrgent)>> UrgentAsync(UncialDb db, int[] jobs, CancellationToken cancel)
    {
        var marks = await db.JobUrgencies.AsNoTracking().Where(u => jobs.Contains(u.JobId)).ToListAsync(cancel);
        return marks.GroupBy(u => u.JobId).ToDictionary(g => g.Key, g => g.MaxBy(u => u.Turn) is var n ? (n!.Turn, n.IsUrgent) : default);
    }

    private sealed record NewestMount(int LatheId, long Id, PartKind Kind, string Centring);

    private static async Task<Dictionary<int, NewestMount>> NewestMountsAsync(UncialDb db, CancellationToken cancel)
    {
        var newest = await db
            .Lathes.Select(l => db.Mounts.Where(m => m.LatheId == l.Id).OrderByDescending(m => m.At).ThenByDescending(m => m.Id).First())
            .Where(m => m != null)
            .Join(db.Surfaces, m => m.SurfaceId, s => s.Id, (m, s) => new NewestMount(m.LatheId, m.Id, s.Kind, m.Centring))
            .ToListAsync(cancel);
        return newest.ToDictionary(n => n.LatheId);
    }

    /// <summary>
    /// Measured: from the first look or reading to the last reading before it was mounted. At the lathe: from mounting to the first pass
    /// and from the last pass to the end of finishing. Confirmed: from the first reading after the last pass to the judgement.
    /// </summary>
    private const string StepsSql = """
        with s as (select s.id, s.kind from surfaces s where exists (select 1 from confirmations c where c.surface_id = s.id)
            order by s.id desc limit {0})
        select 'Measure' as step, s.kind, null::int as lathe_id, max(r.by_id) as operator_id,
            extract(epoch from max(r.at) - least(min(r.at), (select min(f.at) from findings f where f.surface_id = s.id))) / 60 as minutes
            from s join readings r on r.surface_id = s.id and r.cuts = 0 and r.kind = 'Size' group by s.id, s.kind
        union all
        select 'Machine', s.kind, m.lathe_id, m.by_id, extract(epoch from b.first - m.at + coalesce(f.at - b.last, interval '0')) / 60
            from s join lateral (select * from mounts m where m.surface_id = s.id order by m.number desc limit 1) m on true
            join lateral (select min(c.at) as first, max(coalesce(e.at, c.at)) as last from cut_starts c
                left join cut_stops e on e.start_id = c.id
                where c.surface_id = s.id and c.at >= m.at) b on b.first is not null
            left join lateral (select min(f.at) as at from finishes f where f.surface_id = s.id and f.at >= b.last) f on true
        union all
        select 'Confirm', s.kind, null, c.by_id, extract(epoch from c.at - min(r.at)) / 60
            from s join lateral (select * from confirmations c where c.surface_id = s.id order by c.number desc limit 1) c on true
            join readings r on r.surface_id = s.id and r.cuts = c.cuts and r.at <= c.at and c.cuts > 0
            group by s.id, s.kind, c.id, c.at, c.by_id
        """;

    private static async Task<WorkTimes> TimesAsync(UncialDb db, DaySettings settings, Shop shop, CancellationToken cancel)
    {
        var steps = await db.Database.SqlQueryRaw<StepRowText>(StepsSql, LooksBackAt).ToListAsync(cancel);
        var passes = await db.Database.SqlQueryRaw<PassRow>(PassesSql, LooksBackAt).ToListAsync(cancel);
        return new(
            [
                .. steps
                    .Where(s => s.Minutes is >= 0.5m and <= DaySettings.MostMinutes)
                    .Select(s => new PastStep(
                        Enum.Parse<WorkStep>(s.Step),
                        Enum.Parse<PartKind>(s.Kind),
                        s.LatheId,
                        s.OperatorId,
                        (int)Math.Ceiling(s.Minutes)
                    ))
                    // Newest last.
                    .Reverse(),
            ],
            [.. passes.Select(p => (Enum.Parse<PartKind>(p.Kind), p.Passes))],
            settings,
            shop.Rules
        );
    }

    /// <summary>How many passes surfaces took.</summary>
    private const string PassesSql = """
        select s.kind, count(*)::int as passes from passes p join surfaces s on s.id = p.surface_id
            where s.id in (select c.surface_id from confirmations c order by c.id desc limit {0}) group by s.id, s.kind
        """;

    private sealed record PassRow(string Kind, int Passes);

    private sealed record StepRowText(string Step, string Kind, int? LatheId, int OperatorId, decimal Minutes);
}
