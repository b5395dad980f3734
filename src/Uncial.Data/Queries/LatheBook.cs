using Microsoft.EntityFrameworkCore;
using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Mounting;

namespace Uncial.Data.Queries;

/// <summary>One checked set-up in a lathe's history.</summary>
/// <param name="LatheId">The lathe.</param>
/// <param name="Centring">Adapter that centred the part.</param>
/// <param name="At">When.</param>
/// <param name="SetUpRunout">Run-out of the set-up.</param>
/// <param name="Verdict">What it came to.</param>
public sealed record SetUpPast(int LatheId, string Centring, DateTimeOffset At, Length SetUpRunout, SetUpVerdict Verdict);

/// <summary>What the shop's records say of its lathes.</summary>
public static class LatheQueries
{
    private const int SetUpsLookedAt = 200;

    /// <summary>The last check with a length of each of the newest mountings, the oldest first.</summary>
    /// <param name="db">The database.</param>
    /// <param name="lathe">Of one lathe only, or null for all.</param>
    /// <param name="cancel">Cancels the work.</param>
    public static async Task<IReadOnlyList<SetUpPast>> SetUpsAsync(UncialDb db, int? lathe, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        var checks = await db
            .SetUpChecks.AsNoTracking()
            .Where(c =>
                c.SetUpRunout != null
                && (lathe == null || c.Mount!.LatheId == lathe)
                && !db.SetUpChecks.Any(n => n.MountId == c.MountId && n.Id > c.Id && n.SetUpRunout != null)
            )
            .OrderByDescending(c => c.Id)
            .Take(SetUpsLookedAt)
            .Select(c => new
            {
                c.Mount!.LatheId,
                c.Mount.Centring,
                c.At,
                c.SetUpRunout,
                c.Verdict,
            })
            .ToListAsync(cancel);
        return [.. checks.Select(c => new SetUpPast(c.LatheId, c.Centring, c.At, c.SetUpRunout!.Value, c.Verdict)).Reverse()];
    }

    private const int OnLatheLookedAt = 5;

    /// <summary>
    /// Surfaces that may be on a lathe, the likeliest first: one that is being cut there, then by what was done last. Parts that have left,
    /// and surfaces that were mounted elsewhere since, are not among them.
    /// </summary>
    /// <returns>Tag of the part, and the surface's place on it, from 1.</returns>
    public static async Task<IReadOnlyList<(string Tag, int Number)>> OnLatheAsync(UncialDb db, int lathe, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        var found = await (
            from s in db.Surfaces
            join p in db.Parts on s.PartId equals p.Id
            let mounted = s.Mounts.OrderByDescending(m => m.Id).FirstOrDefault()
            where mounted != null && mounted.LatheId == lathe && !p.Outcomes.Any(o => o.Withdrawal == null)
            orderby s.CutStarts.Any(c => c.LatheId == lathe && c.Stop == null) descending, s.CutStarts.Max(c => (DateTimeOffset?)c.At)
                ?? mounted.At descending
            select new { p.Tag, Number = p.Surfaces.Count(o => o.Id <= s.Id) }
        )
            .Take(OnLatheLookedAt)
            .ToListAsync(cancel);
        return [.. found.Select(f => (f.Tag, f.Number))];
    }

    /// <summary>How deep a person made the newest scratches on a lathe; null where none is on record.</summary>
    public static Task<Length?> ScratchDepthAsync(UncialDb db, int lathe, int person, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        return db
            .SetUpChecks.Where(c =>
                c.Mount!.LatheId == lathe && c.ById == person && c.FirstLength != null && c.Manner != SetUpManner.Indicator
            )
            .OrderByDescending(c => c.Id)
            .Select(c => c.FirstLength)
            .FirstOrDefaultAsync(cancel);
    }

    /// <summary>What was found at the newest remounts on a lathe.</summary>
    public static async Task<IReadOnlyList<RemountCause>> CausesAsync(UncialDb db, int lathe, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        return await db
            .Mounts.Where(m => m.LatheId == lathe && m.Found != null)
            .OrderByDescending(m => m.Id)
            .Take(SetUpsLookedAt)
            .Select(m => m.Found!.Value)
            .ToListAsync(cancel);
    }

    /// <summary>The kind of part that was last put on a lathe; null where none was.</summary>
    public static async Task<Core.Parts.PartKind?> LastKindAsync(UncialDb db, int lathe, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        return await (
            from m in db.Mounts
            join s in db.Surfaces on m.SurfaceId equals s.Id
            where m.LatheId == lathe
            orderby m.Id descending
            select (Core.Parts.PartKind?)s.Kind
        ).FirstOrDefaultAsync(cancel);
    }

    /// <summary>Whether a measured cut on record has verified the dial of a head , since it was entered, changed or realigned.</summary>
    public static async Task<bool> DialIsConfirmedAsync(UncialDb db, ShopLathe lathe, Core.Parts.PartKind kind, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(lathe);
        var since = lathe.Profile.DialOf(kind).Since ?? DateTimeOffset.MinValue;
        return await db.Confirmations.AnyAsync(c => c.DialVerified && c.LatheId == lathe.Id && c.Kind == kind && c.At >= since, cancel)
            || await (
                from p in db.Passes
                join s in db.Surfaces on p.SurfaceId equals s.Id
                where p.DialVerified && p.LatheId == lathe.Id && s.Kind == kind && p.At >= since
                select p.Id
            ).AnyAsync(cancel);
    }

    /// <summary>The account of a head: its newest measured cuts, with what the edge had cut by then.</summary>
    public static async Task<HeadLedger> LedgerAsync(UncialDb db, ShopLathe lathe, Core.Parts.PartKind kind, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(lathe);
        var since = lathe.Profile.DialOf(kind).Since ?? DateTimeOffset.MinValue;
        var cuts = await db
            .Confirmations.AsNoTracking()
            .Where(c => c.LatheId == lathe.Id && c.Kind == kind && c.DialTook != null && c.MetalGone != null && c.At >= since)
            .OrderByDescending(c => c.Id)
            .Take(HeadLedger.LookedBack)
            .Select(c => new
            {
                c.At,
                c.DialTook,
                c.MetalGone,
                c.Slope,
            })
            .ToListAsync(cancel);
        if (cuts.Count == 0)
            return HeadLedger.Of([], BitsOf(lathe, kind));
        var oldest = cuts[^1].At;
        ToolHolder[] holders = kind == Core.Parts.PartKind.Drum ? [ToolHolder.Bar] : [ToolHolder.Outer, ToolHolder.Inner];
        var turned = await db
            .InsertEvents.AsNoTracking()
            .Where(e => e.LatheId == lathe.Id && e.Kind != InsertEventKind.Chipped && holders.Contains(e.Holder))
            .OrderBy(e => e.At)
            .Select(e => e.At)
            .ToListAsync(cancel);
        var edge = turned.Where(t => t <= oldest).DefaultIfEmpty(DateTimeOffset.MinValue).Max();
        var passes = await (
            from p in db.Passes
            join s in db.Surfaces on p.SurfaceId equals s.Id
            where p.LatheId == lathe.Id && s.Kind == kind && p.At >= edge
            orderby p.At
            select new { p.At, p.Metres }
        ).ToListAsync(cancel);
        decimal MetresAt(DateTimeOffset at)
        {
            var from = turned.Where(t => t <= at).DefaultIfEmpty(DateTimeOffset.MinValue).Max();
            return passes.Where(p => p.At >= from && p.At <= at).Sum(p => p.Metres);
        }
        return HeadLedger.Of(
            [.. cuts.Select(c => new HeadCut(c.DialTook!.Value, c.MetalGone!.Value, MetresAt(c.At), c.Slope)).Reverse()],
            BitsOf(lathe, kind),
            MetresAt(DateTimeOffset.MaxValue)
        );
    }

    private static int BitsOf(ShopLathe lathe, Core.Parts.PartKind kind) =>
        kind == Core.Parts.PartKind.Rotor && lathe.Profile.TwinCutter ? 2 : 1;

    /// <summary>The inserts of a lathe as they stand.</summary>
    public static async Task<IReadOnlyList<InsertNow>> InsertsAsync(UncialDb db, ShopLathe lathe, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(lathe);
        var events = await db
            .InsertEvents.AsNoTracking()
            .Where(e => e.LatheId == lathe.Id)
            .GroupBy(e => e.Holder)
            .Select(g => new
            {
                g.Key,
                Last = g.OrderByDescending(e => e.Id).First(),
                Fresh = g.Where(e => e.Kind != InsertEventKind.Chipped).Max(e => (DateTimeOffset?)e.At),
            })
            .ToListAsync(cancel);
        var oldest =
            events.Count == 0
                ? DateTimeOffset.MinValue
                : lathe.Holders.Select(h => events.Find(e => e.Key == h)?.Fresh ?? DateTimeOffset.MinValue).Min();
        var cuts = await (
            from p in db.Passes
            join s in db.Surfaces on p.SurfaceId equals s.Id
            where p.LatheId == lathe.Id && p.At > oldest
            select new
            {
                p.At,
                p.Metres,
                s.Kind,
            }
        ).ToListAsync(cancel);
        return
        [
            .. lathe.Holders.Select(holder =>
            {
                var known = events.Find(e => e.Key == holder);
                var metres = cuts.Where(c =>
                        c.At > (known?.Fresh ?? DateTimeOffset.MinValue)
                        && c.Kind == (holder == ToolHolder.Bar ? Core.Parts.PartKind.Drum : Core.Parts.PartKind.Rotor)
                    )
                    .Sum(c => c.Metres);
                return new InsertNow(
                    holder,
                    known?.Last.Edge,
                    metres,
                    known?.Last.Kind == InsertEventKind.Chipped,
                    metres > lathe.Profile.EdgeMetres
                );
            }),
        ];
    }

    /// <summary>What the newest passes on a lathe took of the time planned for them.</summary>
    public static async Task<decimal> OverrunAsync(UncialDb db, int lathe, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        var passes = await db
            .CutStarts.Where(s => s.LatheId == lathe && s.PlannedMinutes > 0 && s.Stop!.Kind == CutStopKind.Done)
            .OrderByDescending(s => s.Id)
            .Take(PassTime.LookedBack)
            .Select(s => new
            {
                s.PlannedMinutes,
                From = s.At,
                To = s.Stop!.At,
            })
            .ToListAsync(cancel);
        return PassTime.Overrun(passes.Select(p => (p.PlannedMinutes, (decimal)(p.To - p.From).TotalMinutes)));
    }

    /// <summary>How often each remedy has helped against chatter on a lathe.</summary>
    public static async Task<IReadOnlyDictionary<ChatterRemedy, int>> HelpedAsync(UncialDb db, int lathe, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        return await db
            .Chatters.Where(c => c.LatheId == lathe && c.Helped)
            .GroupBy(c => c.Remedy)
            .Select(g => new { g.Key, Count = g.Count() })
            .ToDictionaryAsync(g => g.Key, g => g.Count, cancel);
    }

    /// <summary>The swarf bin as it stands, and when it was emptied last.</summary>
    public static async Task<(SwarfBin Bin, DateTimeOffset? EmptiedAt)> BinAsync(UncialDb db, Shop shop, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(shop);
        var emptied = await db.BinsEmptied.MaxAsync(b => (DateTimeOffset?)b.At, cancel);
        var grams = await db.Passes.Where(p => emptied == null || p.At > emptied).SumAsync(p => p.Grams, cancel);
        return (new(grams, shop.Rules.Cutting.SwarfBinKilograms * 1000), emptied);
    }

    /// <summary>The sizes of the newest part of the same vehicle, axle and kind, to start from; null where there is none.</summary>
    public static async Task<MountShape?> ShapeLikeAsync(UncialDb db, Part part, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(part);
        var (vehicle, kind) = (part.Job!.Vehicle, part.Surfaces[0].Kind);
        var corners = Enum.GetValues<Core.Parts.Corner>()
            .Where(c => Core.Parts.Corners.Axle(c) == Core.Parts.Corners.Axle(part.Corner))
            .ToList();
        return await db
            .Parts.AsNoTracking()
            .Where(p =>
                p.Id != part.Id
                && p.Shape != null
                && p.Job!.Vehicle == vehicle
                && p.Surfaces.Any(s => !s.InHat && s.Kind == kind)
                && corners.Contains(p.Corner)
            )
            .OrderByDescending(p => p.Id)
            .Select(p => p.Shape)
            .FirstOrDefaultAsync(cancel);
    }
}
