using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Uncial.Data.Practice;
using Uncial.Practice.Jobs;
using Uncial.Web.Accounts;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>Touches of the virtual bench: each is answered with the bench as it is then.</summary>
public class BenchTouchModel(Practising practising, AttemptDesk desk) : PageModel
{
    /// <summary>The touch (see <see cref="BenchAct"/>).</summary>
    [BindProperty]
    public string? Act { get; set; }

    public IActionResult OnGet() => Redirect("/practice");

    public async Task<IActionResult> OnPostAsync(CancellationToken cancel)
    {
        if (practising.Surface is not { Attempt: var attempt } surface)
            return NotFound();
        if (attempt.IsEnded)
            return Redirect(PracticeGate.JobPage + attempt.Tag);
        if (BenchAct.Of(surface.Lesson, surface.Hand(), Act ?? "") is not var (hand, deed))
            return BadRequest();
        if (deed is null)
        {
            await desk.TakeUpAsync(attempt, hand, BenchPanel.HeldOf(surface, hand), cancel);
            return Panel(new(surface, hand));
        }
        return await desk.DoAsync(attempt, deed, hand, cancel) switch
        {
            null => Panel(new BenchView(attempt.On(surface.Number), hand).WithWhy()),
            BenchRefusal.IsOver => Redirect(PracticeGate.JobPage + attempt.Tag),
            var refusal => Panel(new(surface, surface.Hand(), Words.Say("benchRefusal." + refusal))),
        };
    }

    public IActionResult OnPostUnit(string? unit, string? back) => Keep(Reader.UnitCookie, unit == "in" ? "in" : "mm", back);

    public IActionResult OnPostTheme(string? theme, string? back) => Keep(Reader.ThemeCookie, theme == "dark" ? "dark" : "light", back);

    private LocalRedirectResult Keep(string cookie, string value, string? back)
    {
        PreferencesModel.Keep(Response, cookie, value);
        return LocalRedirect(Url.IsLocalUrl(back) ? back : "/practice");
    }

    private PartialViewResult Panel(BenchView view) => Partial("_Bench", view);
}
