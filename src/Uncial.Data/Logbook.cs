using Microsoft.EntityFrameworkCore;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Release;

namespace Uncial.Data;

/// <summary>What is looked for in the logbook.</summary>
/// <param name="Find">Words of tag, vehicle, customer, job number or mark; all must be there.</param>
/// <param name="State">here, or how it left.</param>
/// <param name="By">Number of a hand that stated something about it.</param>
/// <param name="Day">out: the days are those of leaving; otherwise those of receiving.</param>
/// <param name="From">First day.</param>
/// <param name="To">Last day.</param>
public sealed record LogFilter(string? Find = null, string? State = null, int? By = null, string? Day = null, DateOnly? From = null, DateOnly? To = null)
{
    private const int MostWords = 6;

    public bool IsEmpty => string.IsNullOrWhiteSpace(Find) && string.IsNullOrEmpty(State) && By is null && From is null && To is null;

    /// <summary>The lines that match, in no order.</summary>
    public IQueryable<LogLine> Of(UncialDb db)
    {
        ArgumentNullException.ThrowIfNull(db);
        var lines = db.LogLines.AsNoTracking();
        foreach (var word in (Find ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries).Take(MostWords))
        {
            var like = "%" + word.ToLowerInvariant().Replace("\\", "\\\\", StringComparison.Ordinal).Replace("%", "\\%", StringComparison.Ordinal).Replace("_", "\\_", StringComparison.Ordinal) + "%";
            lines = lines.Where(l => EF.Functions.Like(l.Search, like));
        }
        lines = State switch
        {
            "here" => lines.Where(l => l.Outcome == null),
            _ when Enum.TryParse<OutcomeKind>(State, out var kind) && Enum.IsDefined(kind) => lines.Where(l => l.Outcome == kind),
            _ => lines,
        };
        if (By is { } by) lines = lines.Where(l => l.People.Contains(by));
        var leaving = Day == "out";
        if (From is { } from) { var at = Midnight(from); lines = leaving ? lines.Where(l => l.OutAt >= at) : lines.Where(l => l.ReceivedAt >= at); }
        if (To is { } to && to < DateOnly.MaxValue) { var at = Midnight(to.AddDays(1)); lines = leaving ? lines.Where(l => l.OutAt < at) : lines.Where(l => l.ReceivedAt < at); }
        return lines;
    }

    /// <summary>Days of the shop's own calendar.</summary>
    private static DateTimeOffset Midnight(DateOnly day) => new DateTimeOffset(day.ToDateTime(TimeOnly.MinValue), TimeZoneInfo.Local.GetUtcOffset(day.ToDateTime(TimeOnly.MinValue))).ToUniversalTime();
}

/// <summary>A line of the logbook.</summary>
public sealed record LogbookLine(
    string Tag, int Visit, int Job, string Vehicle, string? Customer, Corner Corner, string? Mark, PartKind Kind, DateTimeOffset ReceivedAt, OutcomeKind? Outcome, DateTimeOffset? OutAt, string? By, Length? Before, Length? After);

/// <summary>Reads the logbook.</summary>
public static class Logbook
{
    /// <summary>How far matches are counted: past that nobody reads on.</summary>
    public const int CountedUpTo = 2000;

    /// <summary>Makes the lines of the logbook anew from the facts, by the owner's login.</summary>
    public static Task MakeAnewAsync(UncialDb db, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        return db.Database.ExecuteSqlRawAsync(Migrations.ChainRules.LogAnew.Replace("{", "{{", StringComparison.Ordinal).Replace("}", "}}", StringComparison.Ordinal), cancel);
    }

    /// <summary>How many match, up to <see cref="CountedUpTo"/> and one.</summary>
    public static Task<int> CountAsync(UncialDb db, LogFilter filter, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(filter);
        return filter.Of(db).Take(CountedUpTo + 1).CountAsync(cancel);
    }

    /// <summary>Lines of the logbook, the newest job first, in two round trips whatever their number.</summary>
    public static async Task<IReadOnlyList<LogbookLine>> LinesAsync(UncialDb db, LogFilter filter, int skip, int take, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(filter);
        var rows = await filter.Of(db).OrderByDescending(l => l.JobNumber).ThenBy(l => l.PartId).Skip(skip).Take(take)
            .Select(l => new
            {
                l.Part!.Tag, l.Part.Visit, l.JobNumber, l.Part.Job!.Vehicle, l.Part.Job.Customer, l.Part.Corner, l.Part.Mark, l.ReceivedAt, l.Outcome, l.OutAt,
                By = l.Part.Outcomes.Where(o => o.Withdrawal == null).Select(o => o.By!.DisplayName).FirstOrDefault(),
                Surface = l.Part.Surfaces.OrderBy(s => s.Id).Select(s => new { s.Id, s.Kind, Cuts = s.Passes.Count }).First(),
            }).ToListAsync(cancel);
        var ids = rows.Select(r => r.Surface.Id).ToList();
        var sizes = (await db.Readings.AsNoTracking().Where(r => ids.Contains(r.SurfaceId) && r.Kind == ReadingKind.Size && r.Withdrawal == null && r.Flag == null)
            .Select(r => new { r.SurfaceId, r.Cuts, r.Value }).ToListAsync(cancel)).ToLookup(r => (r.SurfaceId, r.Cuts), r => r.Value);
        return [.. rows.Select(r => new LogbookLine(r.Tag, r.Visit, r.JobNumber, r.Vehicle, r.Customer, r.Corner, r.Mark, r.Surface.Kind, r.ReceivedAt, r.Outcome, r.OutAt, r.By,
            Conformity.Worst(r.Surface.Kind, sizes[(r.Surface.Id, 0)]), r.Surface.Cuts > 0 ? Conformity.Worst(r.Surface.Kind, sizes[(r.Surface.Id, r.Surface.Cuts)]) : null))];
    }
}
