using System.Globalization;
using System.Text;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Uncial.Core.Parts;
using Uncial.Core.Times;
using Uncial.Data;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>The limit book as a file.</summary>
internal static class BookFile
{
    public static void MapBookFile(this IEndpointRouteBuilder app) =>
        app.MapGet("/book.csv", async (UncialDb db, CancellationToken cancel) =>
            {
                var entries = await db
                    .Book.AsNoTracking()
                    .Where(e => e.EndedAt == null)
                    .OrderBy(e => e.Vehicle)
                    .ThenBy(e => e.Axle)
                    .ThenBy(e => e.Kind)
                    .ThenBy(e => e.InHat)
                    .ToListAsync(cancel);
                return Results.File(Encoding.UTF8.GetBytes(BookCsv.Write(entries)), "text/csv; charset=utf-8", "limit-book.csv");
            })
            .ExcludeFromDescription();
}

/// <summary>The limit book: searched as one types, entered by hand or from a CSV file that is looked at before it is loaded.</summary>
public class LimitsModel(UncialDb db, ShopFile file, Reader reader, TimeProvider time) : FormPage(reader, time)
{
    private const int MostShown = 60;

    /// <summary>Column of the day of the paper that the limits are from.</summary>
    private const string PaperDay = "source_date";

    [BindProperty(SupportsGet = true)]
    public string? Find { get; set; }

    [BindProperty(SupportsGet = true)]
    public int? Id { get; set; }

    [BindProperty(SupportsGet = true)]
    public bool Edit { get; set; }

    [BindProperty]
    public Dictionary<string, string?> Typed { get; set; } = [];

    [BindProperty]
    public string? Csv { get; set; }

    [BindProperty]
    public string? FileName { get; set; }

    [BindProperty]
    public IFormFile? Upload { get; set; }

    public IReadOnlyList<BookEntry> Entries { get; private set; } = [];
    public int Total { get; private set; }
    public BookEntry? Chosen { get; private set; }

    /// <summary>The lines of a file that is looked at; null where none is.</summary>
    public IReadOnlyList<BookLine>? Preview { get; private set; }

    public int BadLines => Preview?.Count(l => l.Faults.Count > 0) ?? 0;
    public int Changes => Preview?.Count(l => l.Entry is not null && l.Change != BookChange.Same) ?? 0;
    public int? Loaded { get; private set; }
    public bool MayChange => Reader.IsLead;

    /// <summary>The fields of an entry: the columns of the file, with their labels.</summary>
    public static IReadOnlyList<(string Column, string Label)> SizeFields =>
        [
            ("new", Words.Say("book.new")),
            ("machine_to", Words.Say("book.machineTo")),
            ("discard", Words.Say("book.discard")),
            ("max_runout", Words.Say("book.runOutMost")),
            ("max_variation", Words.Say("book.variesMost")),
            ("max_out_of_round", Words.Say("book.outOfRoundMost")),
            ("across", Words.Say("book.across")),
            ("band", Words.Say("book.sweptBand")),
        ];

    public string? Value(string column) => Typed.GetValueOrDefault(column);

    public async Task<IActionResult> OnGetAsync(int? loaded, CancellationToken cancel)
    {
        Loaded = loaded;
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        if (Edit && !MayChange)
            return Redirect("/book");
        if (Edit && Chosen is { } entry)
            Typed = TypedOf(entry);
        return Page();
    }

    public async Task<IActionResult> OnPostKeepAsync(CancellationToken cancel)
    {
        if (!MayChange)
            return Forbid();
        Edit = true;
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        // One line of a file and one entry on the page are read by the same rules.
        var columns = BookCsv.Columns;
        var paper = ReadDay(Typed.GetValueOrDefault(PaperDay), DayLean.Past, $"Typed[{PaperDay}]");
        var row = string.Join(
            ',',
            columns.Select(c =>
                '"'
                + (c == PaperDay ? paper?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture) ?? "" : Typed.GetValueOrDefault(c) ?? "")
                    .Replace("\"", "\"\"", StringComparison.Ordinal)
                    .Replace('\n', ' ')
                + '"'
            )
        );
        var current = await Current().AsNoTracking().ToListAsync(cancel);
        var (lines, fault) = BookCsv.Read(string.Join(',', columns) + "\n" + row, current, (await file.ShopAsync(cancel)).Rules);
        if (fault is not null)
            Trouble = fault;
        foreach (var (column, what) in lines.SelectMany(l => l.Faults))
            Reject($"Typed[{column}]", what);
        if (!ModelState.IsValid || lines is not [{ Entry: { } entry }])
            return Page();
        var before = Chosen is null ? null : current.Find(e => e.Id == Chosen.Id);
        if (current.Find(e => e.Place == entry.Place) is { } same && same.Id != before?.Id)
        {
            Trouble = Words.Say("book.theBookHasThatPart");
            return Page();
        }
        var kept = await BookCommands.KeepAsync(new(db, Actor), entry, before?.Id, cancel);
        if (kept.Refusal is not { } refusal)
            return Redirect($"/book/{kept.Value.Id}");
        Trouble = refusal is Refusal.DoneAlready ? Words.Say("book.somebodyElseEnteredItIn") : Words.Of(refusal);
        return Page();
    }

    public async Task<IActionResult> OnPostStrikeAsync(CancellationToken cancel)
    {
        if (!MayChange)
            return Forbid();
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        if (Chosen is { } entry)
            await BookCommands.EndAsync(new(db, Actor), entry.Id, cancel);
        return Redirect("/book");
    }

    public async Task<IActionResult> OnPostPreviewAsync(CancellationToken cancel)
    {
        if (!MayChange)
            return Forbid();
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        if (Upload is not { Length: > 0 })
        {
            Reject(nameof(Upload), Words.Say("book.pickAFile"));
            return Page();
        }
        if (Upload.Length > BookCsv.LargestFile)
        {
            Reject(nameof(Upload), Words.Say("book.theFileIsOverMb"));
            return Page();
        }
        using var text = new StreamReader(Upload.OpenReadStream(), new UTF8Encoding(false, throwOnInvalidBytes: true));
        try
        {
            Csv = await text.ReadToEndAsync(cancel);
        }
        catch (DecoderFallbackException)
        {
            Reject(nameof(Upload), Words.Say("book.theFileIsNoUtf"));
            return Page();
        }
        FileName = Path.GetFileName(Upload.FileName);
        return await LookAsync(cancel);
    }

    public async Task<IActionResult> OnPostLoadAsync(CancellationToken cancel)
    {
        if (!MayChange)
            return Forbid();
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        await LookAsync(cancel);
        if (Preview is null || BadLines > 0 || Trouble is not null)
            return Page();
        var entries = Preview.Where(l => l.Change != BookChange.Same).Select(l => l.Entry!).ToList();
        var loaded = await BookCommands.LoadAsync(new(db, Actor), entries, cancel);
        if (loaded.Refusal is not { } refusal)
            return Redirect($"/book?loaded={entries.Count}");
        Trouble = Words.Of(refusal);
        return Page();
    }

    private async Task<IActionResult> LookAsync(CancellationToken cancel)
    {
        var (lines, fault) = BookCsv.Read(
            Csv ?? "",
            await Current().AsNoTracking().ToListAsync(cancel),
            (await file.ShopAsync(cancel)).Rules
        );
        (Preview, Trouble) = (fault is null ? lines : null, fault);
        return Page();
    }

    private IQueryable<BookEntry> Current() => db.Book.Where(e => e.EndedAt == null);

    private async Task<IActionResult?> LoadAsync(CancellationToken cancel)
    {
        (ViewData["Title"], ViewData["At"]) = (Words.Say("book.limitBook"), "book");
        var found = Matching(Current().AsNoTracking(), Find);
        Total = await found.CountAsync(cancel);
        ViewData["Sub"] = Total == 1 ? Words.Say("book.entry") : Words.Say("book.entries", Total);
        Entries = await found
            .OrderBy(e => e.Vehicle)
            .ThenBy(e => e.Axle)
            .ThenBy(e => e.Kind)
            .Take(MostShown)
            .Include(e => e.By)
            .ToListAsync(cancel);
        if (Id is null)
            return null;
        Chosen = await db.Book.AsNoTracking().Include(e => e.By).SingleOrDefaultAsync(e => e.Id == Id, cancel);
        return Chosen is null ? NotFound() : null;
    }

    /// <summary>Entries that have every word of a search in vehicle, part or source.</summary>
    public static IQueryable<BookEntry> Matching(IQueryable<BookEntry> entries, string? find)
    {
        foreach (var word in (find ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries).Take(6))
        {
            var like =
                "%"
                + word.Replace("\\", "\\\\", StringComparison.Ordinal)
                    .Replace("%", "\\%", StringComparison.Ordinal)
                    .Replace("_", "\\_", StringComparison.Ordinal)
                + "%";
            Axle? axle = word.ToLowerInvariant() switch
            {
                "front" => Axle.Front,
                "rear" => Axle.Rear,
                _ => null,
            };
            PartKind? kind = word.ToLowerInvariant() switch
            {
                "rotor" or "rotors" => PartKind.Rotor,
                "drum" or "drums" => PartKind.Drum,
                _ => null,
            };
            entries = entries.Where(e =>
                EF.Functions.ILike(e.Vehicle, like) || EF.Functions.ILike(e.Source, like) || e.Axle == axle || e.Kind == kind
            );
        }
        return entries;
    }

    private static Dictionary<string, string?> TypedOf(BookEntry entry)
    {
        // As the file would write it.
        using var csv = new CsvHelper.CsvReader(new StringReader(BookCsv.Write([entry])), CultureInfo.InvariantCulture);
        csv.Read();
        csv.ReadHeader();
        csv.Read();
        var typed = BookCsv.Columns.ToDictionary(c => c, string? (c) => csv.GetField(c));
        typed[PaperDay] = entry.SourceDate is { } day ? Dates.Day(day) : null;
        return typed;
    }
}
