using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using Uncial.Data;
using Uncial.Data.Demo;

namespace Uncial.Web.Pages;

/// <summary>A name tile and a PIN. In an empty shop the first one in becomes the owner.</summary>
[AllowAnonymous]
public class SignInModel(UncialDb db, UserManager<Operator> operators, SignInManager<Operator> signIn, ShopFile file) : PageModel
{
    public sealed record NameTile(string User, string Name, string Role, string? DemoPin);

    [BindProperty(SupportsGet = true)] public string? Who { get; set; }
    [BindProperty(SupportsGet = true)] public string? ReturnUrl { get; set; }
    [BindProperty] public string? Pin { get; set; }
    [BindProperty] public string? ShopTitle { get; set; }
    [BindProperty] public string? OwnerName { get; set; }

    public IReadOnlyList<NameTile> Names { get; private set; } = [];
    public string ShopName { get; private set; } = "";
    public string? WhoName => Names.FirstOrDefault(n => n.User == Who)?.Name;

    public string? Wrong(string field) => ModelState.TryGetValue(field, out var state) ? state.Errors.FirstOrDefault()?.ErrorMessage : null;

    public async Task<IActionResult> OnGetAsync()
    {
        if (User.Identity?.IsAuthenticated == true) return LocalRedirect("/");
        await LoadAsync();
        return Page();
    }

    public async Task<IActionResult> OnPostPinAsync()
    {
        await LoadAsync();
        if (WhoName is null) ModelState.AddModelError(nameof(Pin), "Pick your name first.");
        else if (string.IsNullOrEmpty(Pin)) ModelState.AddModelError(nameof(Pin), "Type your PIN.");
        else
        {
            var result = await signIn.PasswordSignInAsync(Who!, Pin, isPersistent: false, lockoutOnFailure: true);
            if (result.Succeeded) return LocalRedirect(Url.IsLocalUrl(ReturnUrl) ? ReturnUrl : "/");
            ModelState.AddModelError(nameof(Pin), result.IsLockedOut ? "Locked for five minutes after five misses." : "That is not the PIN.");
        }
        return Page();
    }

    public async Task<IActionResult> OnPostFirstOwnerAsync()
    {
        await LoadAsync();
        if (Names.Count > 0) return RedirectToPage();
        if (string.IsNullOrWhiteSpace(ShopTitle)) ModelState.AddModelError(nameof(ShopTitle), "Give the workshop a name.");
        if (string.IsNullOrWhiteSpace(OwnerName)) ModelState.AddModelError(nameof(OwnerName), "Give your name.");
        if (Pin is null || Pin.Length is < 4 or > 8 || !Pin.All(char.IsAsciiDigit)) ModelState.AddModelError(nameof(Pin), "Four to eight digits.");
        if (!ModelState.IsValid) return Page();

        var owner = new Operator { UserName = "owner", DisplayName = OwnerName!.Trim() };
        var made = await operators.CreateAsync(owner, Pin!);
        if (!made.Succeeded)
        {
            ModelState.AddModelError(nameof(Pin), string.Join(" ", made.Errors.Select(e => e.Description)));
            return Page();
        }
        await operators.AddToRoleAsync(owner, Roles.Owner);
        var shop = await file.ShopAsync();
        shop.Name = ShopTitle!.Trim();
        shop.Turn++;
        await db.SaveChangesAsync();
        await signIn.SignInAsync(owner, isPersistent: false);
        return Redirect("/");
    }

    private async Task LoadAsync()
    {
        var shop = await file.ShopAsync();
        ShopName = shop.Name;
        var rows = await (from o in db.Users
                          join ur in db.UserRoles on o.Id equals ur.UserId
                          join r in db.Roles on ur.RoleId equals r.Id
                          orderby o.Id
                          select new { o.UserName, o.DisplayName, Role = r.Name }).AsNoTracking().ToListAsync();
        var pins = shop.HasDemoData ? DemoShop.Hands.ToDictionary(h => h.User, h => h.Pin) : [];
        Names = [.. rows.Select(r => new NameTile(r.UserName!, r.DisplayName, r.Role!, pins.GetValueOrDefault(r.UserName!)))];
        if (Names.Count == 1) Who ??= Names[0].User;
    }
}
