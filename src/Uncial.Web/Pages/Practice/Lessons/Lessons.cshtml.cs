using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Uncial.Data.Practice;
using Uncial.Practice.Lessons;
using Uncial.Web.Accounts;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>The lessons, for who may keep some of the own: to get as files, to take in, to remove.</summary>
[Authorize(Roles = Roles.LeadOrOwner)]
public class LessonsModel(LessonBook book, Reader reader, TimeProvider time) : FormPage(reader, time)
{
    /// <summary>Longest file that is taken in, bytes: letters of a text may take several.</summary>
    private const int LongestFile = 4 * LessonFile.LongestText;

    public IReadOnlyList<(Lesson Lesson, string Text, bool IsOwn)> All { get; private set; } = [];

    /// <summary>Everything that is wrong in the file, by its place.</summary>
    public IReadOnlyList<FaultAt> Faults { get; private set; } = [];

    /// <summary>A lesson's file.</summary>
    [BindProperty]
    public IFormFile? Lesson { get; set; }

    public async Task OnGetAsync(CancellationToken cancel) => await ShowAsync(cancel);

    public async Task<IActionResult> OnPostAsync(CancellationToken cancel)
    {
        if (Lesson is not { Length: > 0 } file)
            Reject(nameof(Lesson), Words.Say("lesson.pickFile"));
        else if (file.Length > LongestFile)
            Reject(nameof(Lesson), Words.Say("lesson.tooLong"));
        else
        {
            using StreamReader text = new(file.OpenReadStream(), System.Text.Encoding.UTF8);
            var (lesson, refusal, faults) = await book.KeepAsync(Reader.SessionToken, await text.ReadToEndAsync(cancel), cancel);
            if (lesson is not null)
                return Redirect($"/practice/lessons?kept={lesson.Id}");
            Faults = faults;
            Reject(nameof(Lesson), Words.Say("lessonRefusal." + refusal));
        }
        await ShowAsync(cancel);
        return Page();
    }

    public async Task<IActionResult> OnPostRemoveAsync(string? lesson, CancellationToken cancel)
    {
        if (await book.RemoveAsync(Reader.SessionToken, lesson ?? "", cancel) is not { } refusal)
            return Redirect("/practice/lessons");
        Trouble = Words.Say("lessonRefusal." + refusal);
        await ShowAsync(cancel);
        return Page();
    }

    /// <summary>A lesson as a file.</summary>
    public async Task<IActionResult> OnGetFileAsync(string? lesson, CancellationToken cancel) =>
        await book.FindAsync(lesson, cancel) is var (found, text)
            ? File(System.Text.Encoding.UTF8.GetBytes(text), "application/json", found.Id + ".json")
            : NotFound();

    private async Task ShowAsync(CancellationToken cancel)
    {
        All = await book.AllAsync(cancel);
        ViewData["Band"] = Words.Say("practice.band");
        ViewData["Learner"] = Reader.Name;
        ViewData["Topic"] = "practice";
        ViewData["Title"] = Words.Say("practice.title", Words.Say("lesson.lessons"));
        ViewData["Name"] = Words.Say("lesson.lessons");
    }
}
