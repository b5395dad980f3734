using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Uncial.Web.Pages;

/// <summary>Unit, theme and signing out: what the rail offers on every page.</summary>
public class PreferencesModel : PageModel
{
    public IActionResult OnGet() => Redirect("/");

    public IActionResult OnPostUnit(string? unit, string? back) => Keep(Reader.UnitCookie, unit == "in" ? "in" : "mm", back);

    public IActionResult OnPostTheme(string? theme, string? back) => Keep(Reader.ThemeCookie, theme == "dark" ? "dark" : "light", back);

    public async Task<IActionResult> OnPostSignOutAsync()
    {
        await HttpContext.SignOutAsync(CookieAuthenticationDefaults.AuthenticationScheme);
        return Redirect("/SignIn");
    }

    private IActionResult Keep(string cookie, string value, string? back)
    {
        Keep(Response, cookie, value);
        return LocalRedirect(Url.IsLocalUrl(back) ? back : "/");
    }

    /// <summary>Keeps a choice on this screen.</summary>
    internal static void Keep(HttpResponse response, string cookie, string value) =>
        response.Cookies.Append(
            cookie,
            value,
            new()
            {
                MaxAge = TimeSpan.FromDays(365),
                IsEssential = true,
                SameSite = SameSiteMode.Lax,
                HttpOnly = true,
            }
        );
}
