using Microsoft.EntityFrameworkCore;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Release;
using Uncial.Core.Vehicles;
using Uncial.Core.Workflow;

namespace Uncial.Data.Queries;

/// <summary>A part that lies on the shelf.</summary>
/// <param name="Part">Its last visit, with its facts.</param>
/// <param name="Record">Its faces or bore; of a rotor with a drum in its hat the faces.</param>
/// <param name="Stock">It as stock; null where its size or limits are not known.</param>
public sealed record OnShelf(Part Part, SurfaceRecord Record, ShelfPart? Stock)
{
    /// <summary>How it was shelved.</summary>
    public Outcome Shelved => Part.Outcome!;
}

/// <summary>What lies on the shelf, and what of it fits.</summary>
public static class ShelfBook
{
    /// <summary>Every part that was shelved last and has not come again since, the one that was shelved last first.</summary>
    public static async Task<IReadOnlyList<OnShelf>> OnShelfAsync(this UncialDb db, Shop shop, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(shop);
        var parts = await PartLoader.LoadAsync(
            db,
            "p.id = any(array(select l.part_id from log_lines l where l.outcome = $1)) "
                + "and not exists (select from parts later where later.tag = p.tag and later.visit > p.visit)",
            [nameof(OutcomeKind.Shelved)],
            names: false,
            track: false,
            cancel
        );
        var book = await PlacesAsync(db, parts.Select(p => Entry(p.Surfaces[0])), cancel);
        var workshop = shop.Workshop;
        var records = parts
            .Where(p => p.Outcome is { Kind: OutcomeKind.Shelved })
            .OrderByDescending(p => p.Outcome!.Id)
            .Select(p => new SurfaceRecord(p.Surfaces[0], p, shop, workshop))
            .ToList();
        var keys = records.GroupBy(r => (r.Part.JobId, r.Part.Corner, r.Kind)).ToDictionary(g => g.Key, g => g.First().Part.Id);
        return [.. records.Select(r => new OnShelf(r.Part, r, Stock(r, book, keys)))];
    }

    /// <summary>What on the shelf fits in place of a part that cannot be saved, pairs first.</summary>
    public static async Task<IReadOnlyList<(ShelfOffer Offer, IReadOnlyList<OnShelf> Parts)>> OffersAsync(
        this UncialDb db,
        SurfaceRecord wanted,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(wanted);
        var shelf = (await db.OnShelfAsync(wanted.Shop, cancel)).Where(s => s.Stock is not null && s.Part.Tag != wanted.Part.Tag).ToList();
        if (shelf.Count == 0)
            return [];
        var book = await PlacesAsync(db, [Entry(wanted.Surface)], cancel);
        var (rules, limits) = (wanted.Shop.Rules.Limits, wanted.Receiving.Limits);
        var byKey = shelf.ToDictionary(s => s.Stock!.Id);
        return
        [
            .. ShelfMatch
                .Find(
                    new(Fit(wanted, book), limits?.MachineTo, limits?.Discard),
                    shelf.Select(s => s.Stock!),
                    rules.LeastLifeOf(wanted.Kind),
                    rules.GreatestAxleDifference
                )
                .Select(o => (o, (IReadOnlyList<OnShelf>)[.. o.Parts.Select(p => byKey[p.Id])])),
        ];
    }

    private static ShelfPart? Stock(SurfaceRecord record, IReadOnlyDictionary<int, int> book, Dictionary<(int, Corner, PartKind), int> keys)
    {
        if (record.Receiving.Limits is not { } limits || record.Measuring.Worst is not { } size)
            return null;
        long? other =
            record.Part.Corner.Opposite() is { } corner && keys.TryGetValue((record.Part.JobId, corner, record.Kind), out var key)
                ? key
                : null;
        var all = record.Part.Surfaces.ConvertAll(s => s == record.Surface ? record : new SurfaceRecord(s, record.Part, record.Shop));
        return new(
            record.Part.Id,
            Fit(record, book),
            size,
            limits.MachineTo,
            limits.Discard,
            ReleaseState.Of([.. all.Select(r => r.State)], record.Shop.Rules).AllConfirmed,
            record.Inspection.End is not null || all.Exists(IsPastMachineTo),
            other
        );
    }

    // What nobody has read is not known to be inside.
    private static bool IsPastMachineTo(SurfaceRecord record) =>
        record.Receiving.Limits is not { } limits
        || record.Measuring.Worst is not { } size
        || Limits.Margin(record.Kind, size, limits.MachineTo) < Length.Zero;

    private static FitFacts Fit(SurfaceRecord record, IReadOnlyDictionary<int, int> book)
    {
        var known = new Dictionary<FitDimension, Length>();
        void Know(FitDimension dimension, Length? size)
        {
            if (size is { } one && one > Length.Zero)
                known[dimension] = one;
        }
        var nominal = record.Receiving.Limits?.Nominal;
        // A bore grows with wear; what it was new is what its shoes and wheel are made for.
        Know(FitDimension.Diameter, record.Kind == PartKind.Rotor ? record.Surface.Diameter : nominal);
        Know(FitDimension.Width, record.Kind == PartKind.Rotor ? nominal : null);
        Know(FitDimension.Height, record.Part.Shape?.Depth);
        Know(FitDimension.Hole, record.Part.Shape?.Hole);
        return new(
            record.Kind,
            Entry(record.Surface) is { } entry && book.TryGetValue(entry, out var first) ? first : null,
            record.Part.Surfaces.Exists(s => s.InHat),
            null,
            known
        );
    }

    private static int? Entry(WorkSurface surface) =>
        surface.LimitEntries.OrderByDescending(l => l.Id).Select(l => l.BookEntryId).FirstOrDefault(e => e is not null);

    // An entry that was corrected is another row for the same place: the first row of a place stands for all of them.
    private static async Task<IReadOnlyDictionary<int, int>> PlacesAsync(UncialDb db, IEnumerable<int?> entries, CancellationToken cancel)
    {
        var keys = entries.OfType<int>().Distinct().ToArray();
        if (keys.Length == 0)
            return new Dictionary<int, int>();
#pragma warning disable CA1862, MA0011, RCS1155 // It becomes upper() in the database.
        return await db
            .Book.Where(e => keys.Contains(e.Id))
            .Select(e => new
            {
                e.Id,
                First = db
                    .Book.Where(f =>
                        f.Vehicle.ToUpper() == e.Vehicle.ToUpper() && f.Axle == e.Axle && f.Kind == e.Kind && f.InHat == e.InHat
                    )
                    .Min(f => f.Id),
            })
            .ToDictionaryAsync(e => e.Id, e => e.First, cancel);
#pragma warning restore CA1862, MA0011, RCS1155
    }
}
