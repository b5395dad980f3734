using System.Globalization;
using System.Security.Claims;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Uncial.Web.Hosting;

namespace Uncial.Web.Accounts;

/// <summary>
/// Sessions live in the database: the cookie holds no more than a session's token, which is looked up with every request. A session that
/// was
/// ended there is over at once.
/// </summary>
public sealed class SessionTickets(IServiceScopeFactory scopes, IHttpContextAccessor asked) : ITicketStore
{
    public const string TokenClaim = "uncial:session";
    public const string ScreenClaim = "uncial:screen";
    public const string ScreenIdClaim = "uncial:screen-id";

    public Task<string> StoreAsync(AuthenticationTicket ticket)
    {
        ArgumentNullException.ThrowIfNull(ticket);
        return Task.FromResult(
            ticket.Principal.FindFirstValue(TokenClaim) ?? throw new InvalidOperationException("The database opens sessions.")
        );
    }

    public Task RenewAsync(string key, AuthenticationTicket ticket) => Task.CompletedTask;

    public async Task<AuthenticationTicket?> RetrieveAsync(string key)
    {
        if (asked.HttpContext is { } http && RequestGuards.IsOfFault(http))
            return null;
        await using var scope = scopes.CreateAsyncScope();
        return await scope.ServiceProvider.GetRequiredService<PinDesk>().SessionAsync(key, CancellationToken.None) is { } session
            ? Ticket(session, key)
            : null;
    }

    public async Task RemoveAsync(string key)
    {
        await using var scope = scopes.CreateAsyncScope();
        await scope.ServiceProvider.GetRequiredService<PinDesk>().SignOutAsync(key, CancellationToken.None);
    }

    /// <summary>Who is signed in, as the pages know it.</summary>
    public static ClaimsPrincipal PrincipalOf(SignedIn session, string token)
    {
        ArgumentNullException.ThrowIfNull(session);
        return new(
            new ClaimsIdentity(
                [
                    new(ClaimTypes.NameIdentifier, session.Operator.ToString(CultureInfo.InvariantCulture)),
                    new(ClaimTypes.Name, session.Name),
                    new(ClaimTypes.Role, session.Role),
                    new(TokenClaim, token),
                    new(ScreenClaim, session.ScreenName),
                    new(ScreenIdClaim, session.Screen.ToString(CultureInfo.InvariantCulture)),
                ],
                CookieAuthenticationDefaults.AuthenticationScheme
            )
        );
    }

    private static AuthenticationTicket Ticket(SignedIn session, string token) =>
        new(PrincipalOf(session, token), new() { AllowRefresh = false }, CookieAuthenticationDefaults.AuthenticationScheme);
}
