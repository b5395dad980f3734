using Microsoft.AspNetCore.Html;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Uncial.Data;
using Uncial.Web.Network;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>
/// What goes onto paper about a part: its tag, or its certificate. Every print is counted; what is printed again says copy.
/// </summary>
public abstract class PaperPage(UncialDb db, ShopFile file, ShopAddress address, Reader reader, TimeProvider time) : PageModel
{
    [BindProperty(SupportsGet = true)]
    public string Tag { get; set; } = "";

    /// <summary>Which visit of the part; null for the last.</summary>
    [BindProperty(SupportsGet = true)]
    public int? Visit { get; set; }

    public PartPaper Paper { get; private set; } = null!;
    public Shop Shop { get; private set; } = null!;
    public Part Part => Paper.Part;
    public Certificate? Certificate => Paper.Certificate;
    public CertificateDocument? Proof => Paper.Proof;
    public int Copies => Paper.Copies;
    public IHtmlContent Qr => Paper.Qr;
    public string Address => Paper.Address;
    public string Stamp => Paper.Stamp;

    /// <summary>What is printed on one sheet.</summary>
    public virtual IReadOnlyList<PartPaper> Papers => [Paper];

    protected abstract PrintKind Kind { get; }

    public async Task<IActionResult> OnGetAsync(CancellationToken cancel)
    {
        if (!await LoadAsync(cancel))
            return NotFound();
        return Certificate is null && Kind == PrintKind.Certificate ? Redirect($"/part/{Tag}") : Page();
    }

    /// <summary>It is being printed.</summary>
    public async Task<IActionResult> OnPostPrintAsync(CancellationToken cancel)
    {
        if (!await LoadAsync(cancel))
            return NotFound();
        foreach (var certificate in Papers.Select(p => p.Certificate).OfType<Certificate>())
            await ReleaseCommands.RecordPrintAsync(db, certificate, Kind, new(reader.OperatorId, reader.Role, time.GetUtcNow()), cancel);
        return new NoContentResult();
    }

    private async Task<bool> LoadAsync(CancellationToken cancel)
    {
        if (await ReadAsync(Tag, Visit, cancel) is not { } paper)
            return false;
        Paper = paper;
        ViewData["Title"] = Kind == PrintKind.Tag ? Words.Say("paper.tag", Part.Tag) : Words.Say("paper.certificateOf") + Part.Tag;
        ViewData["Sub"] = Words.Say("paper.job", Part.Job!.Vehicle, Part.Job.Number);
        await LoadMoreAsync(cancel);
        return true;
    }

    /// <summary>Loads what is printed along.</summary>
    protected virtual Task LoadMoreAsync(CancellationToken cancel) => Task.CompletedTask;

    /// <summary>The paper of a part; null where there is none of that tag.</summary>
    protected async Task<PartPaper?> ReadAsync(string tag, int? visit, CancellationToken cancel)
    {
        if (await file.PartAsync(tag, cancel, visit) is not { } part)
            return null;
        Shop = await file.ShopAsync(cancel);
        return await PartPaper.OfAsync(db, part, Shop, Kind, address.Of(Shop, Request), time.GetUtcNow(), cancel);
    }

    /// <summary>A surface's name where a part has two.</summary>
    public static string NameOf(CertificateSurface surface)
    {
        ArgumentNullException.ThrowIfNull(surface);
        return surface.InHat ? Words.Say("paper.drumInTheHat")
            : surface.Kind == Core.Parts.PartKind.Rotor ? Words.Say("receive.faces")
            : Words.Say("word.Bore");
    }
}

/// <summary>
/// The tag on paper: sizes before and after, limits, what is left, who and when, with the address of its proof as a QR code. The tags of
/// both parts of an axle come on one sheet.
/// </summary>
public class TagModel(UncialDb db, ShopFile file, ShopAddress address, Reader reader, TimeProvider time)
    : PaperPage(db, file, address, reader, time)
{
    /// <summary>Tag of the other part of the axle, to be printed along; null for none.</summary>
    [BindProperty(SupportsGet = true)]
    public string? With { get; set; }

    /// <summary>The paper of the other part; null for none.</summary>
    public PartPaper? Other { get; private set; }

    public override IReadOnlyList<PartPaper> Papers => Other is null ? [Paper] : [Paper, Other];

    protected override PrintKind Kind => PrintKind.Tag;

    protected override async Task LoadMoreAsync(CancellationToken cancel)
    {
        // Only of the same job: a sheet is about one axle.
        if (
            With is { Length: > 0 and <= 20 }
            && With != Tag
            && await ReadAsync(With, null, cancel) is { } other
            && other.Part.JobId == Part.JobId
        )
            Other = other;
    }
}

/// <summary>The certificate on one page: everything that the certificate holds, and its hash.</summary>
public class CertificateModel(UncialDb db, ShopFile file, ShopAddress address, Reader reader, TimeProvider time)
    : PaperPage(db, file, address, reader, time)
{
    protected override PrintKind Kind => PrintKind.Certificate;
}
