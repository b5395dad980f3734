using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Uncial.Core.Inspection;
using Uncial.Core.Parts;
using Uncial.Data;
using Uncial.Web.Accounts;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>
/// Look: what eye and hand find before anything is measured, with what to do about it. A crack ends the part's workflow here.
/// </summary>
public class InspectModel(UncialDb db, ShopFile shop, Reader reader, TimeProvider time, LeadSignature signature)
    : PartPage(db, shop, reader, time)
{
    [BindProperty]
    public FindingKind Kind { get; set; }

    [BindProperty]
    public Side Side { get; set; }

    [BindProperty]
    public int Sectors { get; set; }

    [BindProperty]
    public string? Depth { get; set; }

    [BindProperty]
    public string? Note { get; set; }

    [BindProperty]
    public string? Reason { get; set; }

    [BindProperty]
    public IFormFile? Photo { get; set; }

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
            ModelState.AddModelError(nameof(Kind), Words.Say("inspect.suchAPartHasNone"));
        var depth =
            Findings.HasDepth(Kind) && !string.IsNullOrWhiteSpace(Depth)
                ? ReadLength(nameof(Depth), Depth, Reader.Unit, allowZero: true)
                : null;
        if (Note?.Length > 200)
            ModelState.AddModelError(nameof(Note), Words.Say("form.atMost", 200));
        var photo = await ReadPhotoAsync(cancel);
        if (!ModelState.IsValid || IsStale())
            return await ShowAsync(cancel);
        if (Kind == FindingKind.Nothing && Record.Inspection.IsDone)
            return Redirect(Href(Station.Measure));
        // Photo and finding are kept together or not at all.
        await using var transaction = await Db.Database.BeginTransactionAsync(cancel);
        if (photo is not null)
        {
            Db.Photos.Add(photo);
            await Db.SaveChangesAsync(cancel);
        }
        InspectCommands.RecordFinding(Record, Kind, IsRotor ? Side : Side.Whole, Sectors, depth, Reader.Unit, Note, photo?.Id, Actor);
        if (!await SaveAsync(cancel))
        {
            await transaction.RollbackAsync(cancel);
            return await ShowAgainAsync(cancel);
        }
        await transaction.CommitAsync(cancel);
        return Redirect(Kind == FindingKind.Nothing ? Next() : Request.Path);
    }

    /// <summary>The part is marked to its wheel stud, or the word is taken back.</summary>
    public async Task<IActionResult> OnPostMarkAsync(bool marked, CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        (Part.MarkedAt, Part.MarkedById) = (marked ? Actor.At : null, marked ? Actor.Id : null);
        if (!await SaveAsync(cancel))
            return await ShowAgainAsync(cancel);
        return Redirect(Request.Path);
    }

    public async Task<IActionResult> OnPostWithdrawAsync(long finding, CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        var found = Part.Surfaces.SelectMany(s => s.Findings).FirstOrDefault(f => f.Id == finding && f.Withdrawal is null);
        if (string.IsNullOrWhiteSpace(Reason))
            ModelState.AddModelError(nameof(Reason), Words.Say("inspect.sayWhyItIsNone"));
        else if (Reason.Length > 200)
            ModelState.AddModelError(nameof(Reason), Words.Say("form.atMost", 200));
        if (found is null || !ModelState.IsValid || IsStale())
            return await ShowAsync(cancel);
        // What would end the part's way is taken back by a lead, with a PIN.
        LeadSigned? signed = null;
        if (
            Findings.StopsThePart(found.Kind)
            && (
                signed = await signature.SignAsync(
                    Lead,
                    LeadPin,
                    Part.Id,
                    SignedFor.FindingTakenBack,
                    Signature.OfFinding(found.Id),
                    Reason!,
                    ModelState,
                    cancel
                )
            )
                is null
        )
            return await ShowAsync(cancel);
        await using var _ = signed;
        InspectCommands.Withdraw(Record, found, Reason!.Trim(), Actor, signed?.Id);
        if (!await SaveSignedAsync(signed, cancel))
            return await ShowAgainAsync(cancel);
        return Redirect(Request.Path);
    }

    /// <summary>The part is scrapped for its crack, or refused since it must not be turned.</summary>
    public async Task<IActionResult> OnPostEndAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        if (End is not { } end)
            return Redirect(Request.Path);
        if (string.IsNullOrWhiteSpace(Reason))
            ModelState.AddModelError(nameof(Reason), Words.Say("inspect.sayWhyAsItWill"));
        else if (Reason.Length > 300)
            ModelState.AddModelError(nameof(Reason), Words.Say("form.atMost", 300));
        if (!ModelState.IsValid || IsStale())
            return await ShowAsync(cancel);
        ReleaseCommands.Close(
            Part,
            Findings.Means(end.Kind) == Consequence.Scrap ? OutcomeKind.Scrapped : OutcomeKind.Refused,
            Reason,
            false,
            Actor,
            new(Cause: end.Kind == FindingKind.Crack ? ScrapCause.Crack : ScrapCause.Other)
        );
        if (!await SaveAsync(cancel))
            return await ShowAgainAsync(cancel);
        return Redirect($"/tag/{Tag}");
    }

    protected override async Task<IActionResult> ShowAsync(CancellationToken cancel)
    {
        if (End is not null)
            Leads = await signature.LeadsAsync(cancel);
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
            ModelState.AddModelError(nameof(Photo), Words.Say("inspect.thePhotoIsOverMb"));
            return null;
        }
        using var memory = new MemoryStream((int)file.Length);
        await file.CopyToAsync(memory, cancel);
        var bytes = memory.ToArray();
        if (Data.Model.Photo.TypeOf(bytes) is { } type && PhotoCleaning.Clean(bytes) is { } cleaned)
            return new()
            {
                ContentType = type,
                Bytes = cleaned,
                At = Actor.At,
                ById = Actor.Id,
            };
        ModelState.AddModelError(nameof(Photo), Words.Say("inspect.aJpegPngOrWebp"));
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
