using System.Security.Cryptography;
using Microsoft.AspNetCore.DataProtection;

namespace Uncial.Web.Accounts;

/// <summary>
/// The cookie by which somebody without an account is known at the practice bench. A guest's token is too long to be guessed. A trainee's
/// code is short: it is taken from the cookie only as this server has sealed it, so that nobody tries codes past the page that counts them.
/// </summary>
public sealed class PracticeCookie(IDataProtectionProvider protection)
{
    private const string Name = "practice",
        Sealed = "class.";

    private const int GuestToken = 64;

    private readonly IDataProtector protector = protection.CreateProtector("Uncial.Practice.Code");

    /// <summary>Token or code of who asks; null where there is none, or it was not sealed here.</summary>
    public string? TokenOf(HttpRequest request)
    {
        ArgumentNullException.ThrowIfNull(request);
        var value = request.Cookies[Name];
        if (value is null || !value.StartsWith(Sealed, StringComparison.Ordinal))
            return value?.Length == GuestToken ? value : null;
        try
        {
            return protector.Unprotect(value[Sealed.Length..]);
        }
        catch (CryptographicException)
        {
            return null;
        }
    }

    /// <summary>Keeps a guest's token.</summary>
    public static void KeepGuest(HttpContext context, string token, TimeSpan until) => Keep(context, token, until);

    /// <summary>Keeps a trainee's code.</summary>
    public void KeepTrainee(HttpContext context, string code, TimeSpan until) => Keep(context, Sealed + protector.Protect(code), until);

    /// <summary>Forgets who it was.</summary>
    public static void Forget(HttpResponse response)
    {
        ArgumentNullException.ThrowIfNull(response);
        response.Cookies.Delete(Name);
    }

    private static void Keep(HttpContext context, string value, TimeSpan until) =>
        context.Response.Cookies.Append(
            Name,
            value,
            new()
            {
                MaxAge = until,
                IsEssential = true,
                SameSite = SameSiteMode.Lax,
                HttpOnly = true,
                Secure = context.Request.IsHttps,
            }
        );
}
