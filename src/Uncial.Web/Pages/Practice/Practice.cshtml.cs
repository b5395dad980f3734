using Microsoft.AspNetCore.Mvc;
using Uncial.Data.Practice;
using Uncial.Practice.Drills;
using Uncial.Practice.Lessons;
using Uncial.Web.Accounts;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>What can be practised, with what was reached so far.</summary>
public class PracticeModel(PracticeDesk desk, AttemptDesk attempts, ClassDesk classes, LessonBook book, Reader reader, TimeProvider time)
    : PracticePage(desk, reader, time)
{
    /// <summary>A drill as it is offered.</summary>
    /// <param name="Kind">The drill.</param>
    /// <param name="Best">Best score so far, 0 … 100; null where none was finished.</param>
    /// <param name="Open">A run that was left in the middle; null for none.</param>
    public sealed record Tile(DrillKind Kind, int? Best, DrillRun? Open);

    /// <summary>A lesson as it is offered.</summary>
    /// <param name="Lesson">The lesson.</param>
    /// <param name="Done">How often it was ended.</param>
    /// <param name="Open">An attempt that was left in the middle; null for none.</param>
    /// <param name="Waits">One that is over and waits for the class to be closed; null for none.</param>
    public sealed record LessonTile(Lesson Lesson, int Done, Attempt? Open, Attempt? Waits = null);

    public IReadOnlyList<LessonTile> Lessons { get; private set; } = [];

    /// <summary>The drills are shown; else the lessons.</summary>
    [BindProperty(SupportsGet = true, Name = "drills")]
    public bool AreDrills { get; set; }

    /// <summary>Every lesson is shown to somebody in a class; else those of the class.</summary>
    [BindProperty(SupportsGet = true, Name = "all")]
    public bool IsAll { get; set; }

    /// <summary>The class of who practises; null for none.</summary>
    public PracticeClass? Class { get; private set; }

    /// <summary>The lessons of the class are shown.</summary>
    public bool IsClass => Class is not null && !AreDrills && !IsAll;

    /// <summary>Who looks instructs classes.</summary>
    public bool Instructs { get; private set; }

    /// <summary>The lesson that comes next: what was left in the middle, else the first that was never ended.</summary>
    public LessonTile? NextLesson =>
        Lessons.Where(l => l.Open is not null).MaxBy(l => l.Open!.StartedAt) ?? Lessons.FirstOrDefault(l => l.Done == 0 && l.Waits is null);

    public IReadOnlyList<Tile> Tiles { get; private set; } = [];

    /// <summary>What is practised next: what was left in the middle, what was never done, else the weakest.</summary>
    public Tile Next { get; private set; } = null!;

    /// <summary>Something was practised already.</summary>
    public bool HasBegun => Tiles.Any(t => t.Best is not null || t.Open is not null) || Lessons.Any(l => l.Done > 0 || l.Open is not null);

    public async Task OnGetAsync(CancellationToken cancel)
    {
        await FindLearnerAsync(cancel);
        await ShowAsync(cancel);
    }

    public async Task<IActionResult> OnPostBeginAsync(DrillKind kind, CancellationToken cancel)
    {
        if (!Enum.IsDefined(kind))
            return RedirectToPage();
        if (await WelcomeAsync(cancel) is { } learner && (await Desk.BeginAsync(learner, kind, cancel)).Run is { } run)
            return RedirectToPage("/Practice/Drill", new { id = run.Id });
        Trouble = Words.Say("practice.tooMany");
        await ShowAsync(cancel);
        return Page();
    }

    /// <summary>Begins a lesson, or goes on with one that was left in the middle.</summary>
    public async Task<IActionResult> OnPostLessonAsync(string? lesson, bool ofClass, CancellationToken cancel)
    {
        var learner = await WelcomeAsync(cancel);
        Class = await classes.ClassOfAsync(learner, cancel);
        var ours = ofClass ? Class?.Lessons.Find(l => l.LessonId == lesson) : null;
        var found = ofClass
            ? ours is null
                ? null
                : (ours.Lesson, ours.LessonText)
            : await book.FindAsync(lesson, cancel);
        if (found is not var (picked, text))
            return RedirectToPage();
        var own = (await attempts.AttemptsAsync(learner, cancel)).Where(a => a.LessonId == picked.Id && (a.ClassId is not null) == ofClass);
        var open = own.FirstOrDefault(a => !a.IsEnded);
        if (open is not null)
            return Redirect($"/look/{open.Tag}");
        if (
            learner is not null
            && await LessonStart.BeginAsync(attempts, learner, text, picked, LearnerName, null, ours?.ClassId, cancel) is { } begun
        )
            return Redirect(begun);
        Trouble = Words.Say(ofClass ? "class.notAgain" : "practice.tooManyLessons");
        await ShowAsync(cancel);
        return Page();
    }

    /// <summary>The other theme, for a guest too.</summary>
    public IActionResult OnPostTheme(string? theme, string? back)
    {
        Response.Cookies.Append(
            Reader.ThemeCookie,
            theme == "dark" ? "dark" : "light",
            new()
            {
                MaxAge = TimeSpan.FromDays(365),
                IsEssential = true,
                SameSite = SameSiteMode.Lax,
                HttpOnly = true,
            }
        );
        return LocalRedirect(Url.IsLocalUrl(back) ? back : "/practice");
    }

    /// <summary>Removes what was practised, for good.</summary>
    public async Task<IActionResult> OnPostRemoveAsync(CancellationToken cancel)
    {
        await FindLearnerAsync(cancel);
        if (Learner is { IsTrainee: true })
            return RedirectToPage();
        if (Learner is not null)
            await Desk.RemoveAsync(Learner, cancel);
        PracticeCookie.Forget(Response);
        return RedirectToPage();
    }

    private async Task ShowAsync(CancellationToken cancel)
    {
        var runs = await Desk.RunsAsync(Learner, cancel);
        Tiles =
        [
            .. Enum.GetValues<DrillKind>()
                .Select(kind =>
                {
                    var own = runs.Where(r => r.Kind == kind).ToList();
                    return new Tile(
                        kind,
                        own.Where(r => r.IsDone).Max(r => (int?)r.Score),
                        own.FirstOrDefault() is { IsDone: false, Answers.Count: > 0 } open ? open : null
                    );
                }),
        ];
        Next = Tiles.Where(t => t.Open is not null).MaxBy(t => t.Open!.StartedAt)
            ?? Tiles.FirstOrDefault(t => t.Best is null)
            ?? Tiles.MinBy(t => t.Best)!;
        var worked = await attempts.AttemptsAsync(Learner, cancel);
        Class = await classes.ClassOfAsync(Learner, cancel);
        Instructs = Reader.IsSignedIn && await classes.InstructorAsync(Reader.SessionToken, cancel) is not null;
        Lessons =
        [
            .. (IsClass ? Class!.Lessons.Select(l => l.Lesson) : (await book.AllAsync(cancel)).Select(l => l.Lesson)).Select(l =>
            {
                var own = worked.Where(a => a.LessonId == l.Id && (a.ClassId is not null) == IsClass).ToList();
                return new LessonTile(
                    l,
                    own.Count(a => a.IsDebriefed),
                    own.FirstOrDefault(a => !a.IsEnded),
                    own.FirstOrDefault(a => a.IsEnded && !a.IsDebriefed)
                );
            }),
        ];
        Head(Words.Say("practice.bench"), Words.Say("practice.band"));
    }
}
