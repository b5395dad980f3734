using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Uncial.Data;
using Uncial.Data.Demo;
using Uncial.Web.Accounts;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>
/// A name tile and a PIN, at a screen that a lead has enrolled. At another screen a lead enrols it first; in an empty shop the first one in
/// becomes the owner.
/// </summary>
[AllowAnonymous]
public class SignInModel(UncialDb db, PinDesk pins, ShopFile file, Reader reader, TimeProvider time) : FormPage(reader, time)
{
    private const int LongestName = 80;
    private const int LongestShop = 120;
    private const int LongestScreen = 60;

    public sealed record NameTile(int Id, string User, string Name, string Role, string? DemoPin);

    [BindProperty(SupportsGet = true)]
    public string? Who { get; set; }

    [BindProperty(SupportsGet = true)]
    public string? ReturnUrl { get; set; }

    [BindProperty]
    public string? Pin { get; set; }

    [BindProperty]
    public string? ShopTitle { get; set; }

    [BindProperty]
    public string? OwnerName { get; set; }

    [BindProperty]
    public string? ScreenName { get; set; }

    public IReadOnlyList<NameTile> Names { get; private set; } = [];
    public string ShopName { get; private set; } = "";
    public string? WhoName => Chosen?.Name;

    /// <summary>This screen signs nobody in before a lead has enrolled it.</summary>
    public bool Enrols { get; private set; }

    /// <summary>It lies over the page of a screen that was locked: whoever types a PIN goes on there.</summary>
    public bool IsLock { get; private set; }

    /// <summary>The key that picks a name.</summary>
    public static char KeyOf(int at) => (char)('a' + at);

    private NameTile? Chosen => Names.FirstOrDefault(n => n.User == Who);

    /// <param name="over">Somebody is picked on the lock that lies over a page.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<IActionResult> OnGetAsync(bool over, CancellationToken cancel)
    {
        IsLock = over;
        if (!over && User.Identity?.IsAuthenticated == true)
            return LocalRedirect("/");
        await LoadAsync(cancel);
        return Page();
    }

    /// <summary>
    /// Locks this screen: the session is over, and what was typed stays on the page beneath. Whoever was signed in is asked for first.
    /// </summary>
    public async Task<IActionResult> OnPostLockAsync(CancellationToken cancel)
    {
        var who = Reader.IsSignedIn ? Reader.OperatorId : 0;
        await HttpContext.SignOutAsync(CookieAuthenticationDefaults.AuthenticationScheme);
        // The form that comes is for somebody who is not signed in.
        HttpContext.User = new(new System.Security.Claims.ClaimsIdentity());
        IsLock = true;
        await LoadAsync(cancel);
        Who = Names.FirstOrDefault(n => n.Id == who)?.User;
        return Page();
    }

    /// <summary>Whoever types a PIN on the lock goes on at the page beneath.</summary>
    public async Task<IActionResult> OnPostUnlockAsync(CancellationToken cancel)
    {
        IsLock = true;
        return await OnPostPinAsync(cancel) is LocalRedirectResult ? new NoContentResult() : Page();
    }

    public async Task<IActionResult> OnPostPinAsync(CancellationToken cancel)
    {
        await LoadAsync(cancel);
        if (Enrols)
            return Page();
        if (Chosen is not { } chosen)
            Reject(nameof(Pin), Words.Say("signIn.pickYourNameFirst"));
        else if (string.IsNullOrEmpty(Pin))
            Reject(nameof(Pin), Words.Say("signIn.typeYourPin"));
        else if (await ScreenAsync(cancel) is not { } screen)
            Reject(nameof(Pin), Words.Say("signIn.thisScreenIsNotEnrolled"));
        else
        {
            var attempt = await pins.BeginAsync(chosen.Id, Pin, screen, ScreenCookie.AddressOf(HttpContext), "sign-in", cancel);
            if (attempt.Try is null)
                Reject(nameof(Pin), Words.Wait(attempt.WaitSeconds));
            else if (await pins.SignInAsync(attempt, screen, cancel) is { } token)
            {
                await OpenAsync(token, cancel);
                return LocalRedirect(Url.IsLocalUrl(ReturnUrl) ? ReturnUrl : "/");
            }
            else
                Reject(nameof(Pin), Words.Say("signIn.thatIsNotThePin"));
        }
        return Page();
    }

    /// <summary>The lead who will enrol this screen is picked; what is typed stays.</summary>
    public async Task<IActionResult> OnPostPickAsync(string? pick, CancellationToken cancel)
    {
        Who = pick;
        await LoadAsync(cancel);
        return Enrols ? Page() : RedirectToPage(new { ReturnUrl });
    }

    /// <summary>A lead enrols this screen with a PIN.</summary>
    public async Task<IActionResult> OnPostEnrolAsync(CancellationToken cancel)
    {
        await LoadAsync(cancel);
        if (!Enrols)
            return RedirectToPage(new { ReturnUrl });
        if (string.IsNullOrWhiteSpace(ScreenName))
            Reject(nameof(ScreenName), Words.Say("signIn.sayWhereItStandsSuch"));
        else if (ScreenName.Length > LongestScreen)
            Reject(nameof(ScreenName), Words.Say("form.atMost", LongestScreen));
        if (Chosen is null)
            Reject(nameof(Pin), Words.Say("signIn.pickTheLeadWhoEnrols"));
        else if (string.IsNullOrEmpty(Pin))
            Reject(nameof(Pin), Words.Say("signIn.pinOf", Chosen.Name));
        if (!ModelState.IsValid)
            return Page();
        var address = ScreenCookie.AddressOf(HttpContext);
        var attempt = await pins.BeginAsync(Chosen!.Id, Pin!, null, address, "enrolment", cancel);
        if (attempt.Try is null)
        {
            Reject(nameof(Pin), Words.Wait(attempt.WaitSeconds));
            return Page();
        }
        if (await pins.EnrolAsync(attempt, ScreenName!, address, cancel) is not { } token)
        {
            Reject(nameof(Pin), Words.Say("signIn.thatIsNotThePin2"));
            return Page();
        }
        ScreenCookie.Keep(HttpContext, token);
        return RedirectToPage(new { ReturnUrl });
    }

    public async Task<IActionResult> OnPostFirstOwnerAsync(CancellationToken cancel)
    {
        await LoadAsync(cancel);
        if (Names.Count > 0)
            return RedirectToPage();
        if (string.IsNullOrWhiteSpace(ShopTitle) || ShopTitle.Trim().Length > LongestShop)
            Reject(nameof(ShopTitle), Words.Say("signIn.giveTheWorkshopAName", LongestShop));
        if (string.IsNullOrWhiteSpace(OwnerName) || OwnerName.Trim().Length > LongestName)
            Reject(nameof(OwnerName), Words.Say("signIn.giveYourNameAtMost", LongestName));
        if (Pin is null || Pin.Length is < 4 or > 8 || !Pin.All(char.IsAsciiDigit))
            Reject(nameof(Pin), Words.Say("signIn.fourToEightDigits"));
        if (!ModelState.IsValid)
            return Page();
        var (screen, token, refusal) = await pins.FoundAsync(ShopTitle!, OwnerName!, Pin!, ScreenCookie.AddressOf(HttpContext), cancel);
        if (refusal == "notEmpty")
            return RedirectToPage();
        if (refusal is not null)
        {
            Reject(nameof(Pin), Words.Say("signIn.tooEasyToGuessNo"));
            return Page();
        }
        ScreenCookie.Keep(HttpContext, screen!);
        await OpenAsync(token!, cancel);
        return Redirect("/");
    }

    /// <summary>The token of this screen; the demo's screens on this machine enrol themselves.</summary>
    private async Task<string?> ScreenAsync(CancellationToken cancel)
    {
        if (ScreenCookie.Of(Request) is { } known)
            return known;
        if (!ScreenCookie.IsHere(HttpContext) || await pins.EnrolForDemoAsync(ScreenCookie.AddressOf(HttpContext), cancel) is not { } token)
            return null;
        ScreenCookie.Keep(HttpContext, token);
        return token;
    }

    private async Task OpenAsync(string token, CancellationToken cancel)
    {
        var session = await pins.SessionAsync(token, cancel) ?? throw new InvalidOperationException("The session was ended at once.");
        await HttpContext.SignInAsync(
            CookieAuthenticationDefaults.AuthenticationScheme,
            SessionTickets.PrincipalOf(session, token),
            new AuthenticationProperties { IsPersistent = false }
        );
    }

    private async Task LoadAsync(CancellationToken cancel)
    {
        var shop = await file.ShopAsync(cancel);
        ShopName = shop.Name;
        var people = await db.Operators.AsNoTracking().Where(o => o.DisabledAt == null).OrderBy(o => o.Id).ToListAsync(cancel);
        var offersDemo = shop.HasDemoData && ScreenCookie.IsHere(HttpContext);
        Enrols = people.Count > 0 && !offersDemo && !await pins.IsEnrolledAsync(ScreenCookie.Of(Request), cancel);
        // A demo PIN that somebody has changed is not offered.
        var changed = offersDemo
            ? await db
                .PeopleEvents.Where(e => e.Act == PeopleAct.PinChanged || e.Act == PeopleAct.OwnPinChanged)
                .Select(e => e.OperatorId)
                .ToListAsync(cancel)
            : [];
        var demo = offersDemo ? DemoShop.Hands.ToDictionary(h => h.User, h => h.Pin) : [];
        Names =
        [
            .. people
                .Where(o => !Enrols || o.IsLead)
                .Select(o => new NameTile(
                    o.Id,
                    o.UserName,
                    o.DisplayName,
                    o.Role,
                    changed.Contains(o.Id) ? null : demo.GetValueOrDefault(o.UserName)
                )),
        ];
        if (Names.Count == 1)
            Who ??= Names[0].User;
    }
}
