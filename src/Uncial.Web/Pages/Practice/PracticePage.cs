using Microsoft.AspNetCore.Authorization;
using Uncial.Data.Practice;
using Uncial.Web.Accounts;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>A page of practice: for who is signed in under the own name, for everybody else as a guest.</summary>
[AllowAnonymous]
public abstract class PracticePage(PracticeDesk desk, Reader reader, TimeProvider time) : FormPage(reader, time)
{
    protected PracticeDesk Desk => desk;

    /// <summary>The cookie that a guest or a trainee is known by.</summary>
    protected PracticeCookie Cookie => HttpContext.RequestServices.GetRequiredService<PracticeCookie>();

    /// <summary>Who practises; null for a guest who has not begun anything.</summary>
    public Learner? Learner { get; private set; }

    /// <summary>Name as it is shown.</summary>
    public string LearnerName => Learner?.Name ?? (Reader.IsSignedIn ? Reader.Name : Words.Say("practice.guest"));

    /// <summary>Finds who practises.</summary>
    protected async Task FindLearnerAsync(CancellationToken cancel) =>
        Learner = Reader.IsSignedIn
            ? await desk.MemberAsync(Reader.OperatorId, Reader.Name, cancel)
            : await desk.GuestAsync(Cookie.TokenOf(Request), cancel);

    /// <summary>Whoever it is, known from here on; null where too many guests have begun from this address.</summary>
    protected async Task<Learner?> WelcomeAsync(CancellationToken cancel)
    {
        await FindLearnerAsync(cancel);
        if (Learner is not null)
            return Learner;
        var (guest, token, _) = await desk.NewGuestAsync(ScreenCookie.AddressOf(HttpContext), cancel);
        if (guest is not null)
            PracticeCookie.KeepGuest(HttpContext, token, PracticeDesk.GuestsStay);
        return Learner = guest;
    }

    /// <summary>Head of the page.</summary>
    protected void Head(string title, string band)
    {
        ViewData["Title"] = Words.Say("practice.title", title);
        ViewData["Name"] = title;
        ViewData["Band"] = band;
        ViewData["Learner"] = LearnerName;
        ViewData["Topic"] = "practice";
    }
}
