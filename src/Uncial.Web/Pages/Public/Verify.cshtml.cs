using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.RateLimiting;
using Uncial.Data;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>
/// The proof of a part by the code on its paper: the whole of it for those who are signed in; for anybody only sizes, limits, dates and
/// whether it
/// still holds.
/// </summary>
[AllowAnonymous]
[EnableRateLimiting("calculations")]
public class VerifyModel(UncialDb db, Reader reader) : PageModel
{
    public CertificateDocument? Proof { get; private set; }
    public Certificate? Certificate { get; private set; }
    public CertificateState? State { get; private set; }
    public string Code { get; private set; } = "";

    public async Task<IActionResult> OnGetAsync(string? code, CancellationToken cancel)
    {
        (ViewData["Title"], Code) = (Words.Say("title.proof"), code?.Trim() ?? "");
        if (Code.Length == 0)
            return Page();
        Certificate = await CertificateStore.FindAsync(db, Code, cancel);
        if (Certificate is null)
        {
            Response.StatusCode = StatusCodes.Status404NotFound;
            return Page();
        }
        Proof = CertificateStore.Read(Certificate);
        State = await CertificateStore.CheckAsync(db, Certificate, cancel);
        if (reader.IsSignedIn)
            (ViewData["Title"], ViewData["Sub"]) = (
                Words.Say("verify.certificateOf") + Words.Of(Proof).ToLowerInvariant(),
                Words.Say("verify.job", Proof.Tag, Proof.Vehicle, Proof.Job)
            );
        return Page();
    }
}
