using Microsoft.AspNetCore.Mvc;
using Uncial.Data.Practice;
using Uncial.Practice.Lessons;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>The classes of an instructor, and beginning one.</summary>
public class ClassesModel(ClassDesk classes, LessonBook book, Reader reader, TimeProvider time) : InstructorPage(classes, reader, time)
{
    /// <summary>The lessons that a class can have.</summary>
    public IReadOnlyList<(Lesson Lesson, string Text, bool IsOwn)> Lessons { get; private set; } = [];

    public IReadOnlyList<PracticeClass> All { get; private set; } = [];

    /// <summary>Name of a new class, as typed.</summary>
    [BindProperty]
    public string? Name { get; set; }

    /// <summary>Everybody gets the same part.</summary>
    [BindProperty]
    public bool Same { get; set; } = true;

    /// <summary>The lessons of a new class.</summary>
    [BindProperty]
    public List<string> Lesson { get; set; } = [];

    public async Task<IActionResult> OnGetAsync(CancellationToken cancel)
    {
        if (await LetInAsync(cancel) is { } elsewhere)
            return elsewhere;
        await ShowAsync(cancel);
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(CancellationToken cancel)
    {
        if (await LetInAsync(cancel) is { } elsewhere)
            return elsewhere;
        var name = ReadText(Name, ClassDesk.LongestName, "class.giveName", nameof(Name));
        Lessons = await book.AllAsync(cancel);
        var lessons = Lessons.Where(l => Lesson.Contains(l.Lesson.Id)).Select(l => (l.Lesson.Id, l.Text)).ToList();
        if (lessons.Count is 0 or > ClassDesk.MostLessons)
            Reject(nameof(Lesson), Words.Say("class.pickLessons", ClassDesk.MostLessons));
        if (ModelState.IsValid)
        {
            var (id, refusal) = await Classes.BeginAsync(Reader.SessionToken, name!, Same, lessons, cancel);
            if (id is { } begun)
                return Redirect($"/practice/classes/{begun}");
            Tell(refusal!.Value);
        }
        await ShowAsync(cancel);
        return Page();
    }

    private async Task ShowAsync(CancellationToken cancel)
    {
        Lessons = await book.AllAsync(cancel);
        All = await Classes.ClassesAsync(Instructor, cancel);
        Head(Words.Say("class.classes"));
    }
}
