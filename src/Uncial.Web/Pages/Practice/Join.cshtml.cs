using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;
using Uncial.Data.Practice;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>Where a trainee comes in with the code of the own.</summary>
[EnableRateLimiting(Limit)]
public class JoinModel(PracticeDesk desk, Reader reader, TimeProvider time) : PracticePage(desk, reader, time)
{
    /// <summary>Name of the limit on codes that are tried.</summary>
    public const string Limit = "codes";

    /// <summary>Codes that one address may try in a minute.</summary>
    public const int TriesAMinute = 20;

    /// <summary>The code as typed: letters of either size, with or without spaces.</summary>
    [BindProperty]
    public string? Code { get; set; }

    public void OnGet() => Head(Words.Say("class.join"), Words.Say("practice.band"));

    public async Task<IActionResult> OnPostAsync(CancellationToken cancel)
    {
        Head(Words.Say("class.join"), Words.Say("practice.band"));
        var code = string.Concat((Code ?? "").Where(char.IsAsciiLetterOrDigit)).ToUpperInvariant();
        if (code.Length == 0)
            Reject(nameof(Code), Words.Say("class.giveCode"));
        else if (Reader.IsSignedIn)
            Reject(nameof(Code), Words.Say("class.signedIn"));
        else if (await Desk.GuestAsync(code, cancel) is not { IsTrainee: true } trainee)
            Reject(nameof(Code), Words.Say("class.codeUnknown"));
        else
        {
            Cookie.KeepTrainee(HttpContext, code, trainee.ExpiresAt!.Value - Now);
            return Redirect("/practice");
        }
        return Page();
    }
}
