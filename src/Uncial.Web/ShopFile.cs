using Microsoft.EntityFrameworkCore;
using Uncial.Data;

namespace Uncial.Web;

/// <summary>Fetches the shop and its parts, with all facts, for the time of one request.</summary>
public sealed class ShopFile(UncialDb db)
{
    private Shop? shop;

    /// <summary>The shop with its gauges and their latest zero checks.</summary>
    public async Task<Shop> ShopAsync(CancellationToken cancel = default) => shop ??= await db.ShopAsync(cancel);

    /// <summary>A part by its tag with every fact of its surfaces, or null.</summary>
    public async Task<Part?> PartAsync(string tag, CancellationToken cancel) =>
        await SurfaceRecord.WithFactsAndNames(db.Parts.Where(p => p.Tag == tag)).AsTracking().SingleOrDefaultAsync(cancel);

    /// <summary>The other parts of the same job, with their facts, for the pair of an axle.</summary>
    public async Task<IReadOnlyList<Part>> SiblingsAsync(Part part, CancellationToken cancel) =>
        await SurfaceRecord.WithFacts(db.Parts.Where(p => p.JobId == part.JobId && p.Id != part.Id)).AsNoTrackingWithIdentityResolution().ToListAsync(cancel);
}
