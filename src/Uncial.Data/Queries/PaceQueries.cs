using Microsoft.EntityFrameworkCore;

namespace Uncial.Data.Queries;

/// <summary>What the records say of how well people know the lathes.</summary>
public static class PaceQueries
{
    /// <summary>How well a person knows a lathe and an adapter.</summary>
    /// <param name="db">The database.</param>
    /// <param name="person">The person.</param>
    /// <param name="lathe">The lathe.</param>
    /// <param name="adapter">Adapter that centres the part; null for none.</param>
    /// <param name="surface">The surface that is worked on: its own mountings do not count.</param>
    /// <param name="today">The day of the shop.</param>
    /// <param name="cancel">Cancels.</param>
    public static async Task<Familiarity> FamiliarityAsync(
        UncialDb db,
        int person,
        int lathe,
        string? adapter,
        int surface,
        DateOnly today,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(db);
        var known = await db
            .Operators.Where(o => o.Id == person)
            .Select(o => new
            {
                o.ExperiencedSince,
                OnLathe = db
                    .Mounts.Where(m => m.ById == person && m.LatheId == lathe && m.SurfaceId != surface)
                    .Take(Familiarity.KnowsLatheFrom)
                    .Count(),
                With = db.Mounts.Any(m => m.ById == person && m.Centring == adapter && m.SurfaceId != surface),
                Eyes = db.EyeChecks.Any(c => c.ById == person && c.LatheId == lathe && c.Day == today),
            })
            .FirstOrDefaultAsync(cancel);
        return known is null
            ? Familiarity.None
            : new(known.ExperiencedSince is null ? Pace.Guided : Pace.Experienced, known.OnLathe, known.With ? 1 : 0, known.Eyes);
    }

    /// <summary>Whether a person has seen to eyes, guard and sleeves at a lathe on a day.</summary>
    public static Task<bool> EyesAsync(UncialDb db, int person, int lathe, DateOnly today, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        return db.EyeChecks.AnyAsync(c => c.ById == person && c.LatheId == lathe && c.Day == today, cancel);
    }
}
