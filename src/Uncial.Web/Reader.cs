using System.Globalization;
using System.Security.Claims;
using Uncial.Core.Lengths;

namespace Uncial.Web;

/// <summary>Who looks at the page, and in which unit.</summary>
public sealed class Reader(IHttpContextAccessor context)
{
    public const string UnitCookie = "unit";
    public const string ThemeCookie = "theme";

    private HttpContext Http => context.HttpContext!;

    /// <summary>The unit that figures are shown and typed in.</summary>
    public LengthUnit Unit => Http.Request.Cookies[UnitCookie] == "in" ? LengthUnit.Inch : LengthUnit.Millimetre;

    public string UnitName => LengthText.Name(Unit);

    /// <summary>The theme that was chosen, or null where none was.</summary>
    public string? Theme =>
        Http.Request.Cookies[ThemeCookie] switch
        {
            "dark" => "dark",
            "light" => "light",
            _ => null,
        };

    public bool IsSignedIn => Http.User.Identity?.IsAuthenticated == true;

    public string Name => Http.User.FindFirstValue(ClaimTypes.Name) ?? "";

    public int OperatorId => int.Parse(Http.User.FindFirstValue(ClaimTypes.NameIdentifier)!, CultureInfo.InvariantCulture);

    /// <summary>The token of the session, for what the database checks by it; empty where nobody is signed in.</summary>
    public string SessionToken => Http.User.FindFirstValue(Accounts.SessionTickets.TokenClaim) ?? "";

    /// <summary>Name of the screen.</summary>
    public string Screen => Http.User.FindFirstValue(Accounts.SessionTickets.ScreenClaim) ?? "";

    /// <summary>Number of the screen; 0 where nobody is signed in.</summary>
    public int ScreenId =>
        int.TryParse(
            Http.User.FindFirstValue(Accounts.SessionTickets.ScreenIdClaim),
            NumberStyles.None,
            CultureInfo.InvariantCulture,
            out var id
        )
            ? id
            : 0;

    /// <summary>What the person who is signed in may do.</summary>
    public Role Role =>
        IsOwner ? Role.Owner
        : IsLead ? Role.Lead
        : Role.Operator;

    public bool IsLead => Http.User.IsInRole(Roles.Lead) || Http.User.IsInRole(Roles.Owner);

    public bool IsOwner => Http.User.IsInRole(Roles.Owner);

    /// <summary>A reading with the digits it has.</summary>
    public string Reading(Length length) => LengthText.Reading(length, Unit);

    /// <summary>A computed figure at the trade's digits, rounded to the side named.</summary>
    public string Figure(Length length, Toward toward = Toward.Nearest) =>
        LengthText.Figure(length, Unit, LengthText.Decimals(Unit), toward);

    /// <summary>A figure with one digit more, for sums that must add up on the page.</summary>
    public string Fine(Length length, Toward toward = Toward.Nearest) =>
        LengthText.Figure(length, Unit, LengthText.Decimals(Unit) + (Unit == LengthUnit.Millimetre ? 1 : 0), toward);

    /// <summary>What is left or over: never shown larger than it is.</summary>
    public string Margin(Length margin) => Figure(margin, Toward.Less);

    public string Limit(Length limit, bool isLeast) => LengthText.Limit(limit, Unit, isLeast);

    /// <summary>A size of a tool or a part that is no reading: as few digits as it has.</summary>
    public string Size(Length length) => length.In(Unit).ToString("0.####", CultureInfo.InvariantCulture);

    public string SizeWith(Length length) => Size(length) + " " + UnitName;

    public string With(Length length) => Reading(length) + " " + UnitName;
}
