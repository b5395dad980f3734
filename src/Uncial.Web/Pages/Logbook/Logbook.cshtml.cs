using System.Globalization;
using CsvHelper;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using Uncial.Core.Parts;
using Uncial.Core.Release;
using Uncial.Core.Times;
using Uncial.Data;
using Uncial.Web.Hosting;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>A search as an address that can be passed on.</summary>
internal static class LogAddress
{
    /// <summary>The same search as an address.</summary>
    public static string Address(this LogFilter filter, string path, int page = 1)
    {
        var query = new Dictionary<string, string?>
        {
            ["find"] = string.IsNullOrWhiteSpace(filter.Find) ? null : filter.Find.Trim(),
            ["state"] = filter.State,
            ["by"] = filter.By?.ToString(CultureInfo.InvariantCulture),
            ["day"] = filter.Day == "out" ? "out" : null,
            ["from"] = filter.From?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            ["to"] = filter.To?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            ["number"] = page > 1 ? page.ToString(CultureInfo.InvariantCulture) : null,
        };
        return path + QueryString.Create(query.Where(q => !string.IsNullOrEmpty(q.Value)));
    }
}

/// <summary>The logbook: all parts that were ever here.</summary>
public class LogbookModel(UncialDb db, TimeProvider time) : PageModel
{
    private const int PageSize = 40;

    [BindProperty(SupportsGet = true)]
    public string? Find { get; set; }

    [BindProperty(SupportsGet = true)]
    public string? State { get; set; }

    [BindProperty(SupportsGet = true)]
    public int? By { get; set; }

    [BindProperty(SupportsGet = true)]
    public string? Day { get; set; }

    [BindProperty(SupportsGet = true)]
    public string? From { get; set; }

    [BindProperty(SupportsGet = true)]
    public string? To { get; set; }

    [BindProperty(SupportsGet = true)]
    public int Number { get; set; } = 1;

    public IReadOnlyList<LogbookLine> Lines { get; private set; } = [];
    public IReadOnlyList<Operator> Hands { get; private set; } = [];
    public bool HasMore { get; private set; }

    /// <summary>What is wrong with a day as it was typed; null where nothing is.</summary>
    public string? FromWrong => Read(From).Wrong;

    /// <inheritdoc cref="FromWrong"/>
    public string? ToWrong => Read(To).Wrong;

    public LogFilter Filter => new(Find, State, By, Day, Read(From).Day, Read(To).Day) { Time = Dates.Shop };

    private (DateOnly? Day, string? Wrong) Read(string? text)
    {
        if (string.IsNullOrWhiteSpace(text))
            return (null, null);
        var (day, fault) = DayText.Read(text, Dates.Shop.DayOf(time.GetUtcNow()), Dates.Shop.Style, DayLean.Past);
        return (day, fault is { } why ? Words.Say("dayFault." + why) : null);
    }

    public async Task OnGetAsync(CancellationToken cancel)
    {
        ViewData["Title"] = Words.Say("title.logbook");
        ViewData["At"] = "logbook";
        Number = Math.Clamp(Number, 1, 100_000);
        var (total, found) = await Logbook.PageAsync(db, Filter, (Number - 1) * PageSize, PageSize + 1, cancel);
        (Lines, HasMore) = ([.. found.Take(PageSize)], found.Count > PageSize);
        Hands = await db.Operators.AsNoTracking().OrderBy(u => u.DisplayName).ToListAsync(cancel);
        ViewData["Sub"] =
            total > Logbook.CountedUpTo ? Words.Say("logbook.moreThanParts", Logbook.CountedUpTo)
            : total == 1 ? "1 part"
            : Words.Say("logbook.parts", total);
    }

    public string Address(int number) => Filter.Address("/logbook", number);
}

/// <summary>The logbook as a file.</summary>
internal static class LogbookFile
{
    public static void MapLogbookFile(this IEndpointRouteBuilder app) =>
        app.MapGet(
                "/logbook.csv",
                (string? find, string? state, int? by, string? day, DateOnly? from, DateOnly? to, UncialDb db, CancellationToken cancel) =>
                    TypedResults.Stream(
                        stream => WriteAsync(stream, db, new(find, state, by, day, from, to) { Time = Dates.Shop }, cancel),
                        "text/csv; charset=utf-8",
                        "logbook.csv"
                    )
            )
            .WithMetadata(new WritesTimes())
            .ExcludeFromDescription();

    /// <summary>What is shown, all pages of it, as a file.</summary>
    private static async Task WriteAsync(Stream to, UncialDb db, LogFilter filter, CancellationToken cancel)
    {
        await using var text = new StreamWriter(to, leaveOpen: true);
        await using var csv = new CsvWriter(
            text,
            new CsvHelper.Configuration.CsvConfiguration(CultureInfo.InvariantCulture)
            {
                InjectionOptions = CsvHelper.Configuration.InjectionOptions.Escape,
            }
        );
        foreach (
            var head in new[]
            {
                "tag",
                "visit",
                "job",
                "vehicle",
                "customer",
                "part",
                "kind",
                "received_utc",
                "before_mm",
                "after_mm",
                "state",
                "left_utc",
                "by",
            }
        )
            csv.WriteField(head);
        await csv.NextRecordAsync();
        const int batch = 1000;
        for (var from = 0; ; from += batch)
        {
            var lines = await Logbook.LinesAsync(db, filter, from, batch, cancel);
            foreach (var line in lines)
            {
                csv.WriteField(line.Tag);
                csv.WriteField(line.Visit);
                csv.WriteField(line.Job);
                csv.WriteField(line.Vehicle);
                csv.WriteField(line.Customer);
                csv.WriteField(line.Corner == Corner.Other ? line.Mark : Words.Say("corner." + line.Corner));
                csv.WriteField(Words.Say("kind." + line.Kind));
                csv.WriteField(line.ReceivedAt.UtcDateTime.ToString("s", CultureInfo.InvariantCulture));
                csv.WriteField(line.Before?.Millimetres);
                csv.WriteField(line.After?.Millimetres);
                csv.WriteField(line.Outcome is { } o ? Words.Say("outcome." + o) : Words.Say("logbook.inTheShop"));
                csv.WriteField(line.OutAt?.UtcDateTime.ToString("s", CultureInfo.InvariantCulture));
                csv.WriteField(line.By);
                await csv.NextRecordAsync();
            }
            if (lines.Count < batch)
                return;
        }
    }
}
