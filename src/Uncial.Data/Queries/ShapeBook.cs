using Microsoft.EntityFrameworkCore;
using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Parts;

namespace Uncial.Data.Queries;

/// <summary>How the shop's own parts are shaped, by their readings before the first cut.</summary>
public static class ShapeQueries
{
    /// <summary>Readings that are looked back on.</summary>
    public const int LookedBack = 800;

    /// <summary>What is known of such parts before anything is read of one: the shop's own, and what is usual.</summary>
    public static async Task<ShapePrior> PriorAsync(UncialDb db, PartKind kind, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        var kindName = kind.ToString();
        var rows = await db
            .Database.SqlQuery<ShapeReading>(
                $"""
                select r.surface_id, r.station_mm, r.degrees, r.value_mm from readings r join surfaces s on s.id = r.surface_id
                    left join withdrawals w on w.reading_id = r.id left join reading_flags f on f.reading_id = r.id
                    where s.kind = {kindName} and r.kind = 'Size' and r.cuts = 0 and r.degrees is not null and w.id is null and f.id is null
                    order by r.id desc limit {LookedBack}
                """
            )
            .ToListAsync(cancel);
        return ShapePrior.From(
            kind,
            [
                .. rows.GroupBy(r => (r.SurfaceId, r.StationMm))
                    .SelectMany(g => ShapePrior.AmplitudesOf(kind, [.. g.Select(r => (r.Degrees, Length.FromMillimetres(r.ValueMm)))])),
            ]
        );
    }

    private sealed record ShapeReading(int SurfaceId, decimal? StationMm, decimal Degrees, decimal ValueMm);
}
