using Microsoft.AspNetCore.Mvc;
using Uncial.Data.Practice;
using Uncial.Practice.Drills;

namespace Uncial.Web.Pages;

/// <summary>What a trainee of a class has practised, to print: a certificate of practice, and no proof of any part.</summary>
public class PracticeCertificateModel(ClassDesk classes, ScoreBook scores, Reader reader, TimeProvider time)
    : InstructorPage(classes, reader, time)
{
    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    /// <summary>The trainee.</summary>
    [BindProperty(SupportsGet = true)]
    public int Who { get; set; }

    public PracticeClass Of { get; private set; } = null!;
    public Learner Trainee { get; private set; } = null!;

    /// <summary>Lessons that were ended, with what came of them.</summary>
    public IReadOnlyList<(ClassLesson Lesson, Scored? Scored)> Lessons { get; private set; } = [];

    /// <summary>The mean score of a skill over the lessons; null where none came to it.</summary>
    public int? Mean(Skill skill)
    {
        var scores = Lessons.Select(l => l.Scored?.Scores[skill]).OfType<int>().ToList();
        return scores.Count == 0 ? null : (int)Math.Round(scores.Average());
    }

    public async Task<IActionResult> OnGetAsync(CancellationToken cancel)
    {
        if (await LetInAsync(cancel) is { } elsewhere)
            return elsewhere;
        if (await Classes.ClassAsync(Instructor, Id, cancel) is not { } found || found.Trainees.Find(t => t.Id == Who) is not { } trainee)
            return Redirect("/practice/classes");
        (Of, Trainee) = (found, trainee);
        var work = (await Classes.WorkAsync(Id, cancel)).Where(w => w.LearnerId == Who && w.Attempt.IsEnded).ToList();
        foreach (var attempt in await Classes.WithStepsAsync([.. work.Select(w => w.Attempt.Id)], cancel))
            scores.Of(attempt);
        Lessons =
        [
            .. Of.Lessons.Select(l => (l, work.Find(w => w.LessonId == l.LessonId) is { } done ? scores.KnownOf(done.Attempt.Id) : null)),
        ];
        Head(Trainee.Name!);
        return Page();
    }
}
