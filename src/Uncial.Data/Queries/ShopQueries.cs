using Microsoft.EntityFrameworkCore;

namespace Uncial.Data.Queries;

/// <summary>The shop's settings.</summary>
public static class ShopQueries
{
    private const int ChecksLookedAt = 20;

    /// <summary>The shop with its lathes, its adapters, its gauges and their latest zero checks, tracked.</summary>
    public static async Task<Shop> ShopAsync(this UncialDb db, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        var shop = await db
            .Shops.Include(s => s.Gauges.OrderBy(g => g.Id))
                .ThenInclude(g => g.ZeroChecks.OrderByDescending(c => c.Id).Take(ChecksLookedAt))
            .Include(s => s.Lathes.OrderBy(l => l.Id))
            .Include(s => s.Board.OrderBy(a => a.Id))
            .Include(s => s.OwnTechniques.OrderBy(t => t.Id))
            .AsSplitQuery()
            .SingleAsync(cancel);
        if (shop.RulesId > 0)
            shop.LaxerRules = await db
                .RuleChanges.AsNoTracking()
                .Where(c => c.Laxer)
                .Include(c => c.By)
                .Include(c => c.Signature!.SignedBy)
                .OrderBy(c => c.Id)
                .ToListAsync(cancel);
        return shop;
    }
}
