using Microsoft.AspNetCore.Mvc;
using Uncial.Web.Accounts;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>Everyone changes the own PIN. All other sessions of that person end.</summary>
public class OwnPinModel(PinDesk pins, Reader reader, TimeProvider time) : FormPage(reader, time)
{
    [BindProperty]
    public string? OldPin { get; set; }

    [BindProperty]
    public string? NewPin { get; set; }

    [BindProperty]
    public string? Again { get; set; }

    public bool Kept { get; private set; }

    public void OnGet(bool kept)
    {
        Kept = kept;
        Head();
    }

    public async Task<IActionResult> OnPostAsync(CancellationToken cancel)
    {
        Head();
        if (NewPin is null || NewPin.Length is < 4 or > 8 || !NewPin.All(char.IsAsciiDigit))
            Reject(nameof(NewPin), Words.Say("signIn.fourToEightDigits"));
        else if (NewPin != Again)
            Reject(nameof(Again), Words.Say("signIn.theTwoAreNotThe"));
        if (string.IsNullOrEmpty(OldPin))
            Reject(nameof(OldPin), Words.Say("signIn.thePinThatYouHave"));
        if (!ModelState.IsValid)
            return Page();
        var attempt = await pins.BeginAsync(
            Reader.OperatorId,
            OldPin!,
            ScreenCookie.Of(Request),
            ScreenCookie.AddressOf(HttpContext),
            nameof(PeopleAct.OwnPinChanged),
            cancel
        );
        if (attempt.Try is null)
        {
            Reject(nameof(OldPin), Words.Wait(attempt.WaitSeconds));
            return Page();
        }
        var result = await pins.ManageAsync(Reader.SessionToken, attempt, PeopleAct.OwnPinChanged, null, null, null, NewPin, cancel);
        if (result == PeopleResult.Done)
            return Redirect("/own-pin?kept=true");
        Reject(
            result == PeopleResult.WeakPin ? nameof(NewPin) : nameof(OldPin),
            result == PeopleResult.WrongPin ? Words.Say("signIn.thatIsNotYourPin") : PeopleModel.Say(result)
        );
        return Page();
    }

    private void Head() => (ViewData["Title"], ViewData["Sub"], ViewData["At"]) = (Words.Say("signIn.yourPin"), Reader.Name, "");
}
