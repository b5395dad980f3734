using Microsoft.EntityFrameworkCore;
using Uncial.Data;

namespace Uncial.Testing;

/// <summary>Parts as a test asks for them.</summary>
public static class PartFacts
{
    /// <summary>The parts that a query finds, tracked and with names: two round trips.</summary>
    public static async Task<IReadOnlyList<Part>> WithFactsAsync(this IQueryable<Part> which, UncialDb db, CancellationToken cancel) =>
        await PartLoader.LoadAsync(
            db,
            "p.id = any($1)",
            [await which.Select(p => p.Id).ToArrayAsync(cancel)],
            names: true,
            track: true,
            cancel
        );
}
