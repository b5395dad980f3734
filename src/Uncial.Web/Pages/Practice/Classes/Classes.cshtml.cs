using Microsoft.AspNetCore.Mvc;
using Uncial.Data.Practice;
using Uncial.Practice.Lessons;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>The classes of an instructor, and beginning one.</summary>
public class ClassesModel(ClassDesk classes, Reader reader, TimeProvider time) : InstructorPage(classes, reader, time)
{
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
        var lessons = ShippedLessons.All.Where(l => Lesson.Contains(l.Id)).Select(l => (l.Id, ShippedLessons.FileOf(l.Id)!)).ToList();
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
        All = await Classes.ClassesAsync(Instructor, cancel);
        Head(Words.Say("class.classes"));
    }
}
