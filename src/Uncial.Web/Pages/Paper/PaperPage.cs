using Microsoft.AspNetCore.Html;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using QRCoder;
using Uncial.Data;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>
/// What goes onto paper about a part: its tag, or its certificate. Every print is counted; what is printed again says copy.
/// </summary>
public abstract class PaperPage(UncialDb db, ShopFile file, Reader reader, TimeProvider time) : PageModel
{
    [BindProperty(SupportsGet = true)]
    public string Tag { get; set; } = "";

    /// <summary>Which visit of the part; null for the last.</summary>
    [BindProperty(SupportsGet = true)]
    public int? Visit { get; set; }

    public Part Part { get; private set; } = null!;
    public Shop Shop { get; private set; } = null!;

    /// <summary>The proof of how it left; null while it is here.</summary>
    public Certificate? Certificate { get; private set; }
    public CertificateDocument? Proof { get; private set; }

    /// <summary>Its surfaces: as they were proven, or as they are on record while it is here.</summary>
    public IReadOnlyList<CertificateSurface> Surfaces { get; private set; } = [];

    /// <summary>Readings that it rests on came under suspicion.</summary>
    public bool IsSuspect { get; private set; }

    /// <summary>Prints of this kind so far.</summary>
    public int Copies { get; private set; }

    public IHtmlContent Qr { get; private set; } = HtmlString.Empty;
    public string Address { get; private set; } = "";

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
        if (Certificate is not null)
        {
            await ReleaseCommands.RecordPrintAsync(db, Certificate, Kind, new(reader.OperatorId, reader.Role, time.GetUtcNow()), cancel);
        }
        return new NoContentResult();
    }

    private async Task<bool> LoadAsync(CancellationToken cancel)
    {
        if (await file.PartAsync(Tag, cancel, Visit) is not { } part)
            return false;
        (Part, Shop) = (part, await file.ShopAsync(cancel));
        var records = part.Surfaces.Select(s => new SurfaceRecord(s, part, Shop)).ToList();
        if (part.Outcome is not null)
        {
            Certificate = await CertificateStore.EnsureAsync(db, part, Shop, time.GetUtcNow(), cancel);
            Proof = CertificateStore.Read(Certificate);
            Copies = Certificate.Prints.Count(p => p.Kind == Kind);
        }
        Surfaces = Proof?.Surfaces ?? [.. records.Select(CertificateStore.Of)];
        IsSuspect = records.Any(r => r.Measuring.Suspect.Count > 0);
        ViewData["Title"] = (Kind == PrintKind.Tag ? "Tag " : Words.Say("paper.certificateOf")) + part.Tag;
        ViewData["Sub"] = $"{part.Job!.Vehicle}, job {part.Job.Number}";
        Address =
            $"{Request.Scheme}://{Request.Host}"
            + (Certificate is null ? $"/part/{part.Tag}" : $"/proof/{CertificateStore.CodeOf(Certificate)}");
        Qr = Code(Address);
        return true;
    }

    /// <summary>A surface's name where a part has two.</summary>
    public static string NameOf(CertificateSurface surface)
    {
        ArgumentNullException.ThrowIfNull(surface);
        return surface.InHat ? Words.Say("paper.drumInTheHat")
            : surface.Kind == Core.Parts.PartKind.Rotor ? "Faces"
            : "Bore";
    }

    /// <summary>How it left, as it stands on the paper.</summary>
    public string Stamp =>
        Proof is null
            ? Words.Say("paper.notReleased")
            : Words.Say("outcome." + Proof.Outcome).ToUpperInvariant()
                + (Proof.DoNotMachineAgain ? Words.Say("paper.doNotMachineAgain") : "")
                + (IsSuspect ? Words.Say("paper.readingsSuspect") : "");

    private static HtmlString Code(string address)
    {
        using var data = QRCodeGenerator.GenerateQrCode(address, QRCodeGenerator.ECCLevel.M);
        using var code = new SvgQRCode(data);
        return new(
            code.GetGraphic(
                new System.Drawing.Size(240, 240),
                "#000000",
                "#ffffff",
                drawQuietZones: true,
                SvgQRCode.SizingMode.ViewBoxAttribute
            )
        );
    }
}

/// <summary>
/// The tag on paper: sizes before and after, limits, what is left, who and when, with the address of its proof as a QR code.
/// </summary>
public class TagModel(UncialDb db, ShopFile file, Reader reader, TimeProvider time) : PaperPage(db, file, reader, time)
{
    protected override PrintKind Kind => PrintKind.Tag;
}

/// <summary>The certificate on one page: everything that the certificate holds, and its hash.</summary>
public class CertificateModel(UncialDb db, ShopFile file, Reader reader, TimeProvider time) : PaperPage(db, file, reader, time)
{
    protected override PrintKind Kind => PrintKind.Certificate;
}
