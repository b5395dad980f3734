using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Uncial.Web.Accounts;
using Uncial.Web.Network;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>The sheet that the office prints: how a tablet comes to trust the shop, with the fingerprint to compare.</summary>
[Authorize(Roles = Roles.LeadOrOwner)]
public class TabletsModel(ShopFile file, ShopAddress address, TrustFacts trust, TimeProvider time) : PageModel
{
    /// <summary>A certificate that ends within so long was not renewed by itself.</summary>
    private static readonly TimeSpan Soon = TimeSpan.FromDays(21);

    public TrustFacts Trust => trust;

    /// <summary>Address of the shop.</summary>
    public string Address { get; private set; } = "";

    public bool EndsSoon => trust.EndsAt - time.GetUtcNow() < Soon;

    public async Task OnGetAsync(CancellationToken cancel)
    {
        Address = address.Of(await file.ShopAsync(cancel), Request);
        (ViewData["Title"], ViewData["Sub"], ViewData["At"]) = (Words.Say("tablets.title"), "", "shop");
    }
}
