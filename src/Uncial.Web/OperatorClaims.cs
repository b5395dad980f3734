using System.Security.Claims;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.Options;
using Uncial.Data;

namespace Uncial.Web;

/// <summary>Puts the operator's shown name into the sign-in, so that no page has to look it up.</summary>
internal sealed class OperatorClaims(UserManager<Operator> users, RoleManager<IdentityRole<int>> roles, IOptions<IdentityOptions> options)
    : UserClaimsPrincipalFactory<Operator, IdentityRole<int>>(users, roles, options)
{
    public const string DisplayName = "uncial:name";

    protected override async Task<ClaimsIdentity> GenerateClaimsAsync(Operator user)
    {
        var identity = await base.GenerateClaimsAsync(user);
        identity.AddClaim(new(DisplayName, user.DisplayName));
        return identity;
    }
}
