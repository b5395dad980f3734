using Microsoft.EntityFrameworkCore;

namespace Uncial.Data.Queries;

/// <summary>
/// Metal and minutes of a technique: of surfaces that were cut by it from their first plan on. Millimetres, all sides together; minutes in
/// the cut.
/// </summary>
public sealed record MetalUse(string Technique, int Surfaces, decimal Taken, decimal Needed, int PlanHeld, decimal Minutes);

/// <summary>
/// What a lathe did: surfaces cut and the minutes that their passes took, parts mounted and those mounted more than once.
/// </summary>
public sealed record LatheUse(int LatheId, int Surfaces, decimal Minutes, int Mounted, int MountedAgain);

/// <summary>How many parts left in a week, and how.</summary>
public sealed record WeekOut(DateOnly Week, OutcomeKind Kind, int Parts);

/// <summary>Parts that were scrapped for a cause.</summary>
public sealed record ScrapCount(ScrapCause? Cause, int Parts);

/// <summary>Edges of an insert that came to their end, and how far each went on average.</summary>
public sealed record EdgeLife(int LatheId, ToolHolder Holder, int Edges, decimal Metres);

/// <summary>The figures of the shop since a day, counted by the database in one round trip each.</summary>
public sealed record ShopFigures(
    IReadOnlyList<MetalUse> Metal,
    IReadOnlyList<LatheUse> Lathes,
    IReadOnlyList<WeekOut> Weeks,
    IReadOnlyList<ScrapCount> Scrap,
    IReadOnlyList<EdgeLife> Edges
)
{
    /// <summary>Counts them.</summary>
    /// <param name="db">The database.</param>
    /// <param name="since">From when.</param>
    /// <param name="zone">Name of the shop's time zone: a week begins on Monday there.</param>
    /// <param name="cancel">Cancels.</param>
    public static async Task<ShopFigures> SinceAsync(UncialDb db, DateTimeOffset since, string zone, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        var metal = await db
            .Database.SqlQuery<MetalUse>(
                $"""
                with cut as (
                    select p.surface_id, count(distinct p.plan_id) as plans,
                        sum((select sum(d::text::numeric) from jsonb_array_elements(pl.document->'option'->'passes'->p.index->'depth') d))
                            as taken
                    from passes p join plans pl on pl.id = p.plan_id
                    where p.surface_id in (select surface_id from passes where at >= {since}) group by p.surface_id),
                first as (
                    select distinct on (pl.surface_id) pl.surface_id, pl.technique,
                        (select sum((s->>'need')::numeric) from jsonb_array_elements(pl.document->'request'->'sides') s) as need
                    from plans pl where pl.surface_id in (select surface_id from cut)
                        and exists (select 1 from passes q where q.plan_id = pl.id) order by pl.surface_id, pl.version),
                timed as (
                    select s.surface_id, sum(extract(epoch from t.at - s.at)) / 60 as minutes from cut_starts s
                        join cut_stops t on t.start_id = s.id
                    where t.kind = 'Done' and s.surface_id in (select surface_id from cut) group by s.surface_id)
                select f.technique, count(*)::int as surfaces, sum(c.taken) as taken, sum(f.need)
                    as needed, (count(*) filter (where c.plans = 1))::int as plan_held, coalesce(sum(t.minutes), 0)::numeric as minutes
                from cut c join first f on f.surface_id = c.surface_id
                    left join timed t on t.surface_id = c.surface_id group by f.technique order by count(*) desc, f.technique
                """
            )
            .ToListAsync(cancel);
        var lathes = await db
            .Database.SqlQuery<LatheUse>(
                $"""
                with passed as (
                    select s.lathe_id, count(distinct s.surface_id)::int as surfaces, sum(extract(epoch from t.at - s.at)) / 60 as minutes
                    from cut_starts s join cut_stops t on t.start_id = s.id where s.at >= {since} and t.kind = 'Done' group by s.lathe_id),
                mounted as (
                    select lathe_id, count(*)::int as mounted, (count(*) filter (where times > 1))::int as again
                    from (select lathe_id, surface_id, count(*) as times from mounts
                        where at >= {since} group by lathe_id, surface_id) m group by lathe_id)
                select l.id as lathe_id, coalesce(p.surfaces, 0) as surfaces, coalesce(p.minutes, 0)::numeric
                    as minutes, coalesce(m.mounted, 0) as mounted, coalesce(m.again, 0) as mounted_again
                from lathes l left join passed p on p.lathe_id = l.id left join mounted m on m.lathe_id = l.id
                    where p.lathe_id is not null or m.lathe_id is not null order by l.id
                """
            )
            .ToListAsync(cancel);
        var weeks = await db
            .Database.SqlQuery<WeekRow>(
                $"""
                select date_trunc('week', l.out_at at time zone {zone})::date as week, l.outcome as kind, count(*)::int as parts
                    from log_lines l where l.out_at >= {since} and l.outcome is not null group by 1, 2 order by 1, 2
                """
            )
            .ToListAsync(cancel);
        var scrap = await db
            .Database.SqlQuery<ScrapRow>(
                $"""
                select o.cause, count(*)::int as parts from outcomes o where o.kind = 'Scrapped' and o.at >= {since} group by o.cause
                    order by count(*) desc, o.cause
                """
            )
            .ToListAsync(cancel);
        // An edge ends with the event that turns or replaces it; what it did is the way of every pass of its kind of part on that lathe
        // since it came in.
        var edges = await db
            .Database.SqlQuery<EdgeRow>(
                $"""
                with ends as (
                    select e.lathe_id, e.holder, e.at, lead(e.at) over (partition by e.lathe_id, e.holder order by e.at, e.id) as ended
                        from insert_events e where e.kind <> 'Chipped'),
                went as (
                    select e.lathe_id, e.holder, coalesce((select sum(p.metres) from passes p join surfaces s on s.id = p.surface_id
                        where p.lathe_id = e.lathe_id and p.at > e.at and p.at <= e.ended and (s.kind = 'Drum') = (e.holder = 'Bar')), 0)
                            as metres
                    from ends e where e.ended >= {since})
                select lathe_id, holder, count(*)::int as edges, avg(metres) as metres from went group by lathe_id, holder
                    order by lathe_id, holder
                """
            )
            .ToListAsync(cancel);
        return new(
            metal,
            lathes,
            [.. weeks.Select(w => new WeekOut(w.Week, Enum.Parse<OutcomeKind>(w.Kind), w.Parts))],
            [.. scrap.Select(s => new ScrapCount(s.Cause is { } cause ? Enum.Parse<ScrapCause>(cause) : null, s.Parts))],
            [.. edges.Select(e => new EdgeLife(e.LatheId, Enum.Parse<ToolHolder>(e.Holder), e.Edges, e.Metres))]
        );
    }

    private sealed record WeekRow(DateOnly Week, string Kind, int Parts);

    private sealed record ScrapRow(string? Cause, int Parts);

    private sealed record EdgeRow(int LatheId, string Holder, int Edges, decimal Metres);
}
