using System.Globalization;
using CsvHelper;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Release;
using Uncial.Data;
using Uncial.Web.Wording;

namespace Uncial.Web.Pages;

/// <summary>What is looked for in the logbook; the address of the page says it all, so that it can be passed on.</summary>
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

    /// <summary>The same search as an address.</summary>
    public string Address(string path, int page = 1)
    {
        var query = new Dictionary<string, string?>
        {
            ["find"] = string.IsNullOrWhiteSpace(Find) ? null : Find.Trim(), ["state"] = State, ["by"] = By?.ToString(CultureInfo.InvariantCulture), ["day"] = Day == "out" ? "out" : null,
            ["from"] = From?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture), ["to"] = To?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture), ["number"] = page > 1 ? page.ToString(CultureInfo.InvariantCulture) : null,
        };
        return path + QueryString.Create(query.Where(q => !string.IsNullOrEmpty(q.Value)));
    }

    /// <summary>Days of the shop's own calendar.</summary>
    private static DateTimeOffset Midnight(DateOnly day) => new DateTimeOffset(day.ToDateTime(TimeOnly.MinValue), TimeZoneInfo.Local.GetUtcOffset(day.ToDateTime(TimeOnly.MinValue))).ToUniversalTime();
}

/// <summary>A line of the logbook.</summary>
public sealed record LogbookLine(
    string Tag, int Visit, int Job, string Vehicle, string? Customer, Corner Corner, string? Mark, PartKind Kind, DateTimeOffset ReceivedAt, OutcomeKind? Outcome, DateTimeOffset? OutAt, string? By, Length? Before, Length? After);

/// <summary>The logbook: all parts that were ever here.</summary>
public class LogbookModel(UncialDb db) : PageModel
{
    private const int PageSize = 40;
    private const int CountedUpTo = 2000;

    [BindProperty(SupportsGet = true)] public string? Find { get; set; }
    [BindProperty(SupportsGet = true)] public string? State { get; set; }
    [BindProperty(SupportsGet = true)] public int? By { get; set; }
    [BindProperty(SupportsGet = true)] public string? Day { get; set; }
    [BindProperty(SupportsGet = true)] public DateOnly? From { get; set; }
    [BindProperty(SupportsGet = true)] public DateOnly? To { get; set; }
    [BindProperty(SupportsGet = true)] public int Number { get; set; } = 1;

    public IReadOnlyList<LogbookLine> Lines { get; private set; } = [];
    public IReadOnlyList<Operator> Hands { get; private set; } = [];
    public bool HasMore { get; private set; }

    public LogFilter Filter => new(Find, State, By, Day, From, To);

    public async Task OnGetAsync(CancellationToken cancel)
    {
        ViewData["Title"] = "Logbook";
        ViewData["At"] = "logbook";
        Number = Math.Clamp(Number, 1, 100_000);
        var lines = Filter.Of(db);
        var total = await lines.Take(CountedUpTo + 1).CountAsync(cancel);
        var found = await LinesAsync(db, lines, (Number - 1) * PageSize, PageSize + 1, cancel);
        (Lines, HasMore) = ([.. found.Take(PageSize)], found.Count > PageSize);
        Hands = await db.Users.AsNoTracking().OrderBy(u => u.DisplayName).ToListAsync(cancel);
        ViewData["Sub"] = total > CountedUpTo ? $"more than {CountedUpTo} parts" : total == 1 ? "1 part" : $"{total} parts";
    }

    public string Address(int number) => Filter.Address("/logbook", number);

    /// <summary>Lines of the logbook, the newest job first, in two round trips whatever their number.</summary>
    public static async Task<IReadOnlyList<LogbookLine>> LinesAsync(UncialDb db, IQueryable<LogLine> lines, int skip, int take, CancellationToken cancel)
    {
        var rows = await lines.OrderByDescending(l => l.JobNumber).ThenBy(l => l.PartId).Skip(skip).Take(take)
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

/// <summary>The logbook as a file.</summary>
internal static class LogbookFile
{
    public static void MapLogbookFile(this IEndpointRouteBuilder app) => app.MapGet("/logbook.csv", (string? find, string? state, int? by, string? day, DateOnly? from, DateOnly? to, UncialDb db, CancellationToken cancel) =>
        TypedResults.Stream(stream => WriteAsync(stream, db, new(find, state, by, day, from, to), cancel), "text/csv; charset=utf-8", "logbook.csv")).ExcludeFromDescription();

    /// <summary>What is shown, all pages of it, as a file.</summary>
    private static async Task WriteAsync(Stream to, UncialDb db, LogFilter filter, CancellationToken cancel)
    {
        await using var text = new StreamWriter(to, leaveOpen: true);
        await using var csv = new CsvWriter(text, new CsvHelper.Configuration.CsvConfiguration(CultureInfo.InvariantCulture) { InjectionOptions = CsvHelper.Configuration.InjectionOptions.Escape });
        foreach (var head in new[] { "tag", "visit", "job", "vehicle", "customer", "part", "kind", "received_utc", "before_mm", "after_mm", "state", "left_utc", "by" }) csv.WriteField(head);
        await csv.NextRecordAsync();
        const int batch = 1000;
        for (var from = 0; ; from += batch)
        {
            var lines = await LogbookModel.LinesAsync(db, filter.Of(db), from, batch, cancel);
            foreach (var line in lines)
            {
                csv.WriteField(line.Tag); csv.WriteField(line.Visit); csv.WriteField(line.Job); csv.WriteField(line.Vehicle); csv.WriteField(line.Customer);
                csv.WriteField(line.Corner == Corner.Other ? line.Mark : Words.Say("corner." + line.Corner)); csv.WriteField(Words.Say("kind." + line.Kind));
                csv.WriteField(line.ReceivedAt.UtcDateTime.ToString("s", CultureInfo.InvariantCulture)); csv.WriteField(line.Before?.Millimetres); csv.WriteField(line.After?.Millimetres);
                csv.WriteField(line.Outcome is { } o ? Words.Say("outcome." + o) : "In the shop"); csv.WriteField(line.OutAt?.UtcDateTime.ToString("s", CultureInfo.InvariantCulture)); csv.WriteField(line.By);
                await csv.NextRecordAsync();
            }
            if (lines.Count < batch) return;
        }
    }
}
