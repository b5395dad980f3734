using Microsoft.EntityFrameworkCore;
using Uncial.Data;

namespace Uncial.Web;

/// <summary>Fetches the shop and its parts, with all facts, for the time of one request.</summary>
public sealed class ShopFile(UncialDb db)
{
    private Shop? shop;

    /// <summary>The shop with its gauges and their latest zero checks.</summary>
    public async Task<Shop> ShopAsync(CancellationToken cancel = default) => shop ??= await db.ShopAsync(cancel);

    /// <summary>A part by its tag with every fact of its surfaces, or null. One that was here more than once is the one of its last visit, unless another is asked for.</summary>
    public async Task<Part?> PartAsync(string tag, CancellationToken cancel, int? visit = null) =>
        await SurfaceRecord
            .WithFactsAndNames(
                db.Parts.Where(p =>
                    p.Tag == tag && (visit == null ? !db.Parts.Any(later => later.Tag == tag && later.Visit > p.Visit) : p.Visit == visit)
                )
            )
            .AsTracking()
            .SingleOrDefaultAsync(cancel);

    /// <summary>Earlier visits of a part, the first one first, with their facts.</summary>
    public async Task<IReadOnlyList<Part>> EarlierAsync(Part part, CancellationToken cancel) =>
        part.Visit == 1
            ? []
            : await SurfaceRecord
                .WithFactsAndNames(db.Parts.Where(p => p.Tag == part.Tag && p.Visit < part.Visit))
                .AsNoTrackingWithIdentityResolution()
                .OrderBy(p => p.Visit)
                .ToListAsync(cancel);

    /// <summary>The other parts of the same job, with their facts, for the pair of an axle.</summary>
    public async Task<IReadOnlyList<Part>> SiblingsAsync(Part part, CancellationToken cancel) =>
        await SurfaceRecord
            .WithFacts(db.Parts.Where(p => p.JobId == part.JobId && p.Id != part.Id))
            .AsNoTrackingWithIdentityResolution()
            .ToListAsync(cancel);
}
