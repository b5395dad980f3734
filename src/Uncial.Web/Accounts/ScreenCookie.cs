using System.Net;

namespace Uncial.Web.Accounts;

/// <summary>The token by which a screen is known; it is kept for years and read by no script.</summary>
internal static class ScreenCookie
{
    public const string Name = "screen";
    private static readonly TimeSpan KeptFor = TimeSpan.FromDays(400);

    public static string? Of(HttpRequest request) => request.Cookies[Name] is { Length: > 0 and <= 100 } token ? token : null;

    public static void Keep(HttpContext http, string token) =>
        http.Response.Cookies.Append(
            Name,
            token,
            new()
            {
                MaxAge = KeptFor,
                IsEssential = true,
                SameSite = SameSiteMode.Lax,
                HttpOnly = true,
                Secure = http.Request.IsHttps,
            }
        );

    public static string? AddressOf(HttpContext http) => http.Connection.RemoteIpAddress?.ToString();

    /// <summary>The request comes from this machine.</summary>
    public static bool IsHere(HttpContext http) => http.Connection.RemoteIpAddress is { } from && IPAddress.IsLoopback(from);
}
