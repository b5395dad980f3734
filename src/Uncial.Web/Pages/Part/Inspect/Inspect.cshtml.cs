using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Uncial.Core.Inspection;
using Uncial.Core.Parts;
using Uncial.Data;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>
/// Look: what eye and hand find before anything is measured, with what to do about it. A crack ends the part's workflow here.
/// </summary>
public class InspectModel(UncialDb db, ShopFile shop, Reader reader, TimeProvider time) : PartPage(db, shop, reader, time)
{
    private const int LongestNote = 200;
    private const int LongestReason = 300;

    [BindProperty]
    public FindingKind Kind { get; set; }

    [BindProperty]
    public Side Side { get; set; }

    [BindProperty]
    public int Sectors { get; set; }

    [BindProperty]
    public LengthInput? Depth { get; set; }

    [BindProperty]
    public string? Note { get; set; }

    [BindProperty]
    public string? Reason { get; set; }

    [BindProperty]
    public IFormFile? Photo { get; set; }

    /// <summary>The face and the hours of the clock at which it was found, in words; empty for the whole part.</summary>
    public static string WhereOf(FindingFact finding)
    {
        ArgumentNullException.ThrowIfNull(finding);
        var hours = Enumerable.Range(0, 12).Where(h => (finding.Sectors & 1 << h) != 0).Select(h => h == 0 ? 12 : h).ToList();
        string?[] words =
        [
            finding.Side == Side.Whole ? null : Words.Say(finding.Side == Side.Outer ? "inspect.outerFace" : "inspect.innerFace"),
            hours.Count == 0 ? null : Words.Say("inspect.atHours", string.Join(" ", hours)),
        ];
        return string.Join(", ", words.OfType<string>());
    }

    /// <summary>Why the part goes no further, as it will stand on its history unless somebody words it otherwise.</summary>
    public static string ReasonOf(FindingFact finding)
    {
        ArgumentNullException.ThrowIfNull(finding);
        var where = WhereOf(finding);
        return Words.Say("finding." + finding.Kind)
            + (where.Length > 0 ? ", " + where : "")
            + (finding.Note is { } remark ? ": " + remark : "")
            + ".";
    }

    protected override Station At => Station.Measure;

    /// <summary>The finding that ends the workflow, or null.</summary>
    public FindingFact? End => Record.Inspection.End;

    public bool IsCrack => End?.Kind == FindingKind.Crack;

    public IReadOnlyList<FindingKind> Kinds =>
        [.. Enum.GetValues<FindingKind>().Where(k => k != FindingKind.Nothing && Findings.CanBeOn(k, Record.Kind))];

    public async Task<IActionResult> OnPostKeepAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        if (!Findings.CanBeOn(Kind, Record.Kind))
            Reject(nameof(Kind), Words.Say("inspect.suchAPartHasNone"));
        var depth = Findings.HasDepth(Kind) && !IsBlank(Depth) ? ReadLength(Depth, LengthRule.Depth) : null;
        var note = ReadText(Note, LongestNote);
        var photo = await ReadPhotoAsync(cancel);
        if (!ModelState.IsValid)
            return await ShowAsync(cancel);
        if (Kind == FindingKind.Nothing && Record.Inspection.IsDone)
            return Redirect(Href(Station.Measure));
        FindingSeen seen = new(Kind, IsRotor ? Side : Side.Whole, Sectors, depth, Reader.Unit, note, photo);
        return await AnswerAsync(
            await InspectCommands.RecordFindingAsync(Action, seen, cancel),
            _ => Kind == FindingKind.Nothing ? Next() : Request.Path,
            cancel
        );
    }

    /// <summary>The part is marked to its wheel stud, or the word is taken back.</summary>
    public async Task<IActionResult> OnPostMarkAsync(bool marked, CancellationToken cancel) =>
        await LoadAsync(cancel)
        ?? await AnswerAsync(await InspectCommands.MarkAsync(Action.WhateverWasAdded(), marked, cancel), Request.Path, cancel);

    public async Task<IActionResult> OnPostWithdrawAsync(long finding, CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        return ReadText(Reason, LongestNote, "inspect.sayWhyItIsNone") is { } reason
            ? await AnswerAsync(await InspectCommands.WithdrawAsync(Action, finding, reason, cancel), Request.Path, cancel)
            : await ShowAsync(cancel);
    }

    /// <summary>The part is scrapped for its crack, or refused since it must not be turned.</summary>
    public async Task<IActionResult> OnPostEndAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        if (End is null)
            return Redirect(Request.Path);
        return ReadText(Reason, LongestReason, "inspect.sayWhyAsItWill") is { } reason
            ? await AnswerAsync(await InspectCommands.EndAsync(Action, reason, cancel), $"/tag/{Tag}", cancel)
            : await ShowAsync(cancel);
    }

    protected override async Task<IActionResult> ShowAsync(CancellationToken cancel)
    {
        ViewData["Help"] = "look";
        if (End is not null)
            Leads = await Db.LeadsAsync(cancel);
        return Page();
    }

    /// <summary>The other surface of the part where nobody has looked yet, otherwise the measuring.</summary>
    private string Next() =>
        Number < Part.Surfaces.Count && !new SurfaceRecord(Part.Surfaces[Number], Part, Record.Shop).Inspection.IsDone
            ? $"/look/{Tag}/{Number + 1}"
            : Href(Station.Measure);

    private async Task<Photo?> ReadPhotoAsync(CancellationToken cancel)
    {
        if (Photo is not { Length: > 0 } file)
            return null;
        if (file.Length > Data.Model.Photo.LargestBytes)
        {
            Reject(nameof(Photo), Words.Say("inspect.thePhotoIsOverMb"));
            return null;
        }
        using var memory = new MemoryStream((int)file.Length);
        await file.CopyToAsync(memory, cancel);
        var bytes = memory.ToArray();
        if (Data.Model.Photo.TypeOf(bytes) is { } type && PhotoCleaning.Clean(bytes) is { } cleaned)
            return new() { ContentType = type, Bytes = cleaned };
        Reject(nameof(Photo), Words.Say("inspect.aJpegPngOrWebp"));
        return null;
    }
}

/// <summary>The photos of the parts.</summary>
internal static class Photos
{
    public static void MapPhotos(this IEndpointRouteBuilder app) =>
        app.MapGet("/photos/{id:int}", async (int id, UncialDb db, HttpContext http, CancellationToken cancel) =>
            {
                if (await db.Photos.AsNoTracking().SingleOrDefaultAsync(p => p.Id == id, cancel) is not { } photo)
                    return Results.NotFound();
                http.Response.Headers.CacheControl = "private, max-age=31536000, immutable";
                return Results.File(photo.Bytes, photo.ContentType);
            })
            .ExcludeFromDescription();
}
