using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Uncial.Web.Accounts;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>Everyone changes the own PIN. All other sessions of that person end.</summary>
public class OwnPinModel(PinDesk pins, Reader reader) : PageModel
{
    [BindProperty]
    public string? OldPin { get; set; }

    [BindProperty]
    public string? NewPin { get; set; }

    [BindProperty]
    public string? Again { get; set; }

    public bool Kept { get; private set; }

    public string? Wrong(string field) => ModelState.TryGetValue(field, out var state) ? state.Errors.FirstOrDefault()?.ErrorMessage : null;

    public void OnGet(bool kept)
    {
        Kept = kept;
        Head();
    }

    public async Task<IActionResult> OnPostAsync(CancellationToken cancel)
    {
        Head();
        if (NewPin is null || NewPin.Length is < 4 or > 8 || !NewPin.All(char.IsAsciiDigit))
            ModelState.AddModelError(nameof(NewPin), Words.Say("signIn.fourToEightDigits"));
        else if (NewPin != Again)
            ModelState.AddModelError(nameof(Again), Words.Say("signIn.theTwoAreNotThe"));
        if (string.IsNullOrEmpty(OldPin))
            ModelState.AddModelError(nameof(OldPin), Words.Say("signIn.thePinThatYouHave"));
        if (!ModelState.IsValid)
            return Page();
        var attempt = await pins.BeginAsync(
            reader.OperatorId,
            OldPin!,
            ScreenCookie.Of(Request),
            ScreenCookie.AddressOf(HttpContext),
            nameof(PeopleAct.OwnPinChanged),
            cancel
        );
        if (attempt.Try is null)
        {
            ModelState.AddModelError(nameof(OldPin), LeadSignature.Wait(attempt.WaitSeconds));
            return Page();
        }
        var result = await pins.ManageAsync(reader.SessionToken, attempt, PeopleAct.OwnPinChanged, null, null, null, NewPin, cancel);
        if (result == PeopleResult.Done)
            return Redirect("/own-pin?kept=true");
        ModelState.AddModelError(
            result == PeopleResult.WeakPin ? nameof(NewPin) : nameof(OldPin),
            result == PeopleResult.WrongPin ? "That is not your PIN." : PeopleModel.Say(result)
        );
        return Page();
    }

    private void Head() => (ViewData["Title"], ViewData["Sub"], ViewData["At"]) = ("Your PIN", reader.Name, "");
}
