using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using Uncial.Data;
using Uncial.Web.Network;

namespace Uncial.Web.Pages;

/// <summary>How to trust the shop on a tablet; the one page that is served without TLS.</summary>
[AllowAnonymous]
[IgnoreAntiforgeryToken]
public class TrustModel(UncialDb db, ShopAddress address, TrustFacts trust) : PageModel
{
    /// <summary>Fingerprint of the authority; null where there is none to trust.</summary>
    public string? Fingerprint { get; private set; }

    /// <summary>Address of the shop.</summary>
    public string Address { get; private set; } = "";

    public async Task<IActionResult> OnGetAsync(CancellationToken cancel)
    {
        if (!trust.IsOnNetwork)
            return NotFound();
        Fingerprint = trust.HasAuthority ? trust.Fingerprint() : null;
        Address = await db.Shops.Select(s => s.Address).SingleAsync(cancel) ?? address.Usual(Request);
        return Page();
    }
}
