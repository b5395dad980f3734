using Microsoft.AspNetCore.Html;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using QRCoder;
using Uncial.Data;

namespace Uncial.Web.Pages;

/// <summary>The tag on paper: sizes before and after, limits, what is left, who and when, with the address of the part as a QR code.</summary>
public class TagModel(ShopFile shop) : PageModel
{
    public Part Part { get; private set; } = null!;
    public Shop Shop { get; private set; } = null!;
    public IReadOnlyList<SurfaceRecord> Surfaces { get; private set; } = [];
    public IHtmlContent Qr { get; private set; } = HtmlString.Empty;
    public string Address { get; private set; } = "";

    public async Task<IActionResult> OnGetAsync(string tag, CancellationToken cancel)
    {
        if (await shop.PartAsync(tag, cancel) is not { } part) return NotFound();
        (Part, Shop) = (part, await shop.ShopAsync(cancel));
        Surfaces = [.. part.Surfaces.Select(s => new SurfaceRecord(s, part, Shop))];
        ViewData["Title"] = "Tag " + part.Tag;
        ViewData["Sub"] = $"{part.Job!.Vehicle}, job {part.Job.Number}";
        Address = $"{Request.Scheme}://{Request.Host}/part/{part.Tag}";
        using var data = QRCodeGenerator.GenerateQrCode(Address, QRCodeGenerator.ECCLevel.M);
        using var code = new SvgQRCode(data);
        Qr = new HtmlString(code.GetGraphic(new System.Drawing.Size(240, 240), "#000000", "#ffffff", drawQuietZones: true, SvgQRCode.SizingMode.ViewBoxAttribute));
        return Page();
    }
}
