using Microsoft.EntityFrameworkCore;

namespace Uncial.Data.Queries;

/// <summary>Parts with all their facts, each query in one round trip.</summary>
public static class PartQueries
{
    /// <summary>
    /// A part by its tag, tracked, with names; null where there is none. One that was here more than once is that of its last visit.
    /// </summary>
    public static async Task<Part?> PartAsync(this UncialDb db, string tag, CancellationToken cancel) =>
        (
            await PartLoader.LoadAsync(
                db,
                "p.tag = $1 and not exists (select from parts later where later.tag = $1 and later.visit > p.visit)",
                [tag],
                names: true,
                track: true,
                cancel
            )
        ).SingleOrDefault();

    /// <summary>One visit of a part by its tag, tracked, with names; null where there is none.</summary>
    public static async Task<Part?> PartAsync(this UncialDb db, string tag, int visit, CancellationToken cancel) =>
        (await PartLoader.LoadAsync(db, "p.tag = $1 and p.visit = $2", [tag, visit], names: true, track: true, cancel)).SingleOrDefault();

    /// <summary>The last visit of a part by its tag, whichever way its letters are written; null where there is none.</summary>
    public static async Task<Part?> LastVisitAsync(this UncialDb db, string tag, CancellationToken cancel) =>
        (
            await PartLoader.LoadAsync(
                db,
                "p.tag ilike $1 and not exists (select from parts later where later.tag = p.tag and later.visit > p.visit)",
                [tag],
                names: false,
                track: false,
                cancel
            )
        ).FirstOrDefault();

    /// <summary>The visits of a part, the first one first, with names.</summary>
    /// <param name="db">The database.</param>
    /// <param name="tag">Its tag.</param>
    /// <param name="visit">One visit only; null for all.</param>
    /// <param name="cancel">Cancels.</param>
    public static async Task<IReadOnlyList<Part>> VisitsAsync(this UncialDb db, string tag, int? visit, CancellationToken cancel) =>
        InOrder(
            await PartLoader.LoadAsync(
                db,
                visit is null ? "p.tag = $1" : "p.tag = $1 and p.visit = $2",
                visit is null ? [tag] : [tag, visit],
                names: true,
                track: false,
                cancel
            )
        );

    /// <summary>The visits of a part before this one, the first one first, with names.</summary>
    public static async Task<IReadOnlyList<Part>> EarlierVisitsAsync(this UncialDb db, Part part, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(part);
        return InOrder(
            await PartLoader.LoadAsync(db, "p.tag = $1 and p.visit < $2", [part.Tag, part.Visit], names: true, track: false, cancel)
        );
    }

    private static IReadOnlyList<Part> InOrder(List<Part> visits) => [.. visits.OrderBy(p => p.Visit)];

    /// <summary>The other parts of the same job.</summary>
    public static async Task<IReadOnlyList<Part>> SiblingsAsync(this UncialDb db, Part part, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(part);
        return await PartLoader.LoadAsync(db, "p.job_id = $1 and p.id <> $2", [part.JobId, part.Id], names: false, track: false, cancel);
    }

    /// <summary>The parts that left last, with their facts, the newest first.</summary>
    public static async Task<IReadOnlyList<Part>> LastFinishedAsync(this UncialDb db, int count, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        return await PartLoader.LoadAsync(
            db,
            "p.id = any(array(select o.part_id from outcomes o left join outcome_withdrawals w on w.outcome_id = o.id "
                + "where w.id is null and o.kind in ('Released', 'Shelved') order by o.id desc limit $1))",
            [count],
            names: false,
            track: false,
            cancel
        );
    }

    /// <summary>The parts of a job with names.</summary>
    /// <param name="db">The database.</param>
    /// <param name="number">Number of the job.</param>
    /// <param name="track">They are to be changed or added to.</param>
    /// <param name="cancel">Cancels.</param>
    public static async Task<IReadOnlyList<Part>> PartsOfJobAsync(this UncialDb db, int number, bool track, CancellationToken cancel) =>
        await PartLoader.LoadAsync(db, "p.job_id = (select j.id from jobs j where j.number = $1)", [number], names: true, track, cancel);

    /// <summary>A job with its parts and all their facts; null where there is none of that number.</summary>
    public static async Task<Job?> JobWithFactsAsync(this UncialDb db, int number, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        if (await db.Jobs.AsNoTracking().SingleOrDefaultAsync(j => j.Number == number, cancel) is not { } job)
            return null;
        job.Parts.AddRange(await db.PartsOfJobAsync(number, track: false, cancel));
        return job;
    }

    /// <summary>Parts by their keys.</summary>
    public static async Task<IReadOnlyList<Part>> PartsAsync(this UncialDb db, IEnumerable<int> keys, CancellationToken cancel) =>
        await PartLoader.LoadAsync(db, "p.id = any($1)", [keys.ToArray()], names: false, track: false, cancel);
}
