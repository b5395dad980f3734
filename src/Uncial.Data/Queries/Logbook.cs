using Microsoft.EntityFrameworkCore;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Release;
using Uncial.Core.Times;

namespace Uncial.Data.Queries;

/// <summary>What is looked for in the logbook.</summary>
/// <param name="Find">Words of tag, vehicle, customer, job number or mark; all must be there.</param>
/// <param name="State">here, or how it left.</param>
/// <param name="By">Number of a hand that stated something about it.</param>
/// <param name="Day">out: the days are those of leaving; otherwise those of receiving.</param>
/// <param name="From">First day.</param>
/// <param name="To">Last day.</param>
public sealed record LogFilter(
    string? Find = null,
    string? State = null,
    int? By = null,
    string? Day = null,
    DateOnly? From = null,
    DateOnly? To = null
)
{
    /// <summary>Time of the shop, whose days are meant.</summary>
    public ShopTime Time { get; init; } = new(TimeZoneInfo.Utc, DateStyle.DayMonth);

    private const int MostWords = 6;
    private const int TrigramLength = 3;

    public bool IsEmpty => string.IsNullOrWhiteSpace(Find) && string.IsNullOrEmpty(State) && By is null && From is null && To is null;

    /// <summary>The lines that match, in no order.</summary>
    public IQueryable<LogLine> Of(UncialDb db)
    {
        ArgumentNullException.ThrowIfNull(db);
        var lines = db.LogLines.AsNoTracking();
        foreach (var word in (Find ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries).Take(MostWords))
        {
            var small = word.ToLowerInvariant();
            // Fewer than three letters make no trigram by themselves, the beginning of a word does: short ones are looked for there only.
            var like =
                (small.Length < TrigramLength ? "% " : "%")
                + small
                    .Replace("\\", "\\\\", StringComparison.Ordinal)
                    .Replace("%", "\\%", StringComparison.Ordinal)
                    .Replace("_", "\\_", StringComparison.Ordinal)
                + "%";
            lines = lines.Where(l => EF.Functions.Like(l.Search, like));
        }
        lines = State switch
        {
            "here" => lines.Where(l => l.Outcome == null),
            _ when Enum.TryParse<OutcomeKind>(State, out var kind) && Enum.IsDefined(kind) => lines.Where(l => l.Outcome == kind),
            _ => lines,
        };
        // As a containment, which the index on people answers.
        if (By is { } by)
        {
            int[] hands = [by];
            lines = lines.Where(l => hands.All(h => l.People.Contains(h)));
        }
        var leaving = Day == "out";
        if (From is { } from)
        {
            var at = Time.BeginOf(from);
            lines = leaving ? lines.Where(l => l.OutAt >= at) : lines.Where(l => l.ReceivedAt >= at);
        }
        if (To is { } to && to < DateOnly.MaxValue)
        {
            var at = Time.BeginOf(to.AddDays(1));
            lines = leaving ? lines.Where(l => l.OutAt < at) : lines.Where(l => l.ReceivedAt < at);
        }
        return lines;
    }
}

/// <summary>A line of the logbook.</summary>
public sealed record LogbookLine(
    string Tag,
    int Visit,
    int Job,
    string Vehicle,
    string? Customer,
    Corner Corner,
    string? Mark,
    PartKind Kind,
    DateTimeOffset ReceivedAt,
    OutcomeKind? Outcome,
    DateTimeOffset? OutAt,
    string? By,
    Length? Before,
    Length? After
);

/// <summary>Reads the logbook.</summary>
public static class Logbook
{
    /// <summary>How far matches are counted: past that nobody reads on.</summary>
    public const int CountedUpTo = 2000;

    /// <summary>Makes the lines of the logbook anew from the facts, by the owner's login.</summary>
    public static Task MakeAnewAsync(UncialDb db, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        var people = string.Join(
            " union ",
            GuardedTables
                .OfParts.Where(t => t.Kind != GuardKind.PartRow && t.Name != "signatures")
                .Select(t => $"select {t.Part} as part_id, f.by_id from {t.Name} f")
        );
#pragma warning disable EF1002 // Names of our own tables.
        return db.Database.ExecuteSqlRawAsync(
            $"""
            select log_refresh(id) from jobs;
            update log_lines l set outcome = o.kind, out_at = o.at from outcomes o left join outcome_withdrawals w on w.outcome_id = o.id
                where o.part_id = l.part_id and w.id is null;
            with people as ({people} union select p.id, j.received_by_id from parts p join jobs j on j.id = p.job_id)
            update log_lines l set people = h.people from (select part_id, array_agg(by_id order by by_id) as people
                from people group by part_id) h where h.part_id = l.part_id;
            """,
            cancel
        );
#pragma warning restore EF1002
    }

    /// <summary>
    /// How many match, up to <see cref="CountedUpTo"/> and one, and the lines of one page of them. The lines are looked through once for
    /// both.
    /// </summary>
    public static async Task<(int Count, IReadOnlyList<LogbookLine> Lines)> PageAsync(
        UncialDb db,
        LogFilter filter,
        int skip,
        int take,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(filter);
        var found = await Ordered(filter.Of(db)).Take(CountedUpTo + 1).Select(l => l.PartId).ToListAsync(cancel);
        if (skip + take > CountedUpTo)
            return (found.Count, await LinesAsync(db, filter, skip, take, cancel));
        var page = found.Skip(skip).Take(take).ToList();
        return (found.Count, await LinesOfAsync(db, Ordered(db.LogLines.AsNoTracking().Where(l => page.Contains(l.PartId))), cancel));
    }

    /// <summary>Lines of the logbook, the newest job first.</summary>
    public static Task<IReadOnlyList<LogbookLine>> LinesAsync(UncialDb db, LogFilter filter, int skip, int take, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(filter);
        return LinesOfAsync(db, Ordered(filter.Of(db)).Skip(skip).Take(take), cancel);
    }

    private static IQueryable<LogLine> Ordered(IQueryable<LogLine> lines) =>
        lines.OrderByDescending(l => l.JobNumber).ThenBy(l => l.PartId);

    /// <summary>Four round trips whatever the number of lines.</summary>
    private static async Task<IReadOnlyList<LogbookLine>> LinesOfAsync(UncialDb db, IQueryable<LogLine> lines, CancellationToken cancel)
    {
        var rows = await lines
            .Select(l => new
            {
                l.PartId,
                l.Part!.Tag,
                l.Part.Visit,
                l.JobNumber,
                l.Part.Job!.Vehicle,
                l.Part.Job.Customer,
                l.Part.Corner,
                l.Part.Mark,
                l.ReceivedAt,
                l.Outcome,
                l.OutAt,
            })
            .ToListAsync(cancel);
        // By their numbers: asked for along with the lines, the database would look through all surfaces and outcomes that ever were.
        var parts = rows.Select(r => r.PartId).ToList();
        var surfaces = (
            await db
                .Surfaces.AsNoTracking()
                .Where(s => parts.Contains(s.PartId))
                .Select(s => new
                {
                    s.PartId,
                    s.Id,
                    s.Kind,
                    Cuts = s.Passes.Count,
                })
                .ToListAsync(cancel)
        ).GroupBy(s => s.PartId).ToDictionary(g => g.Key, g => g.MinBy(s => s.Id)!);
        var hands = (
            await db
                .Outcomes.AsNoTracking()
                .Where(o => parts.Contains(o.PartId) && o.Withdrawal == null)
                .Select(o => new { o.PartId, o.By!.DisplayName })
                .ToListAsync(cancel)
        ).ToDictionary(o => o.PartId, o => o.DisplayName);
        var ids = surfaces.Values.Select(s => s.Id).ToList();
        var sizes = (
            await db
                .Readings.AsNoTracking()
                .Where(r => ids.Contains(r.SurfaceId) && r.Kind == ReadingKind.Size && r.Withdrawal == null && r.Flag == null)
                .Select(r => new
                {
                    r.SurfaceId,
                    r.Cuts,
                    r.Value,
                })
                .ToListAsync(cancel)
        ).ToLookup(r => (r.SurfaceId, r.Cuts), r => r.Value);
        return
        [
            .. rows.Where(r => surfaces.ContainsKey(r.PartId))
                .Select(r =>
                {
                    var s = surfaces[r.PartId];
                    return new LogbookLine(
                        r.Tag,
                        r.Visit,
                        r.JobNumber,
                        r.Vehicle,
                        r.Customer,
                        r.Corner,
                        r.Mark,
                        s.Kind,
                        r.ReceivedAt,
                        r.Outcome,
                        r.OutAt,
                        hands.GetValueOrDefault(r.PartId),
                        Conformity.Worst(s.Kind, sizes[(s.Id, 0)]),
                        s.Cuts > 0 ? Conformity.Worst(s.Kind, sizes[(s.Id, s.Cuts)]) : null
                    );
                }),
        ];
    }
}
