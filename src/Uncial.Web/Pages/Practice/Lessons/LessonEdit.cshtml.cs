using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Uncial.Core.Lengths;
using Uncial.Data.Practice;
using Uncial.Practice.Lessons;
using Uncial.Web.Accounts;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>Writes a lesson of the own: what is wrong stands at its field, and parts are drawn as a trainee would get them.</summary>
[Authorize(Roles = Roles.LeadOrOwner)]
public class LessonEditModel(LessonBook book, Reader reader, TimeProvider time) : FormPage(reader, time)
{
    /// <summary>Parts that the preview draws.</summary>
    private const int Drawn = 4;

    /// <summary>A part as the lesson draws it.</summary>
    /// <param name="Surface">Its work surface, from 1 on.</param>
    /// <param name="Worst">Its worst land.</param>
    /// <param name="After">What would be left inside discard once it has just been cut clean; negative beyond.</param>
    /// <param name="Unevenness">What the driver would feel.</param>
    /// <param name="Holds">What the lesson calls right is right for it.</param>
    public sealed record Sample(int Surface, Length Worst, double After, Length Unevenness, bool Holds);

    /// <summary>The lesson of the shop that is changed; null for a new one.</summary>
    [BindProperty(SupportsGet = true, Name = "lesson")]
    public string? Id { get; set; }

    /// <summary>The lesson that a new one is made from.</summary>
    [BindProperty(SupportsGet = true)]
    public string? From { get; set; }

    public LessonForm Form { get; private set; } = null!;

    /// <summary>The lesson as it stands in the fields; null where something is wrong.</summary>
    public Lesson? Lesson { get; private set; }

    public IReadOnlyList<Sample> Samples { get; private set; } = [];

    /// <summary>What is wrong and belongs to no field.</summary>
    public IReadOnlyList<FaultAt> Faults { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(CancellationToken cancel)
    {
        if (await book.FindAsync(Id ?? From ?? ShippedLessons.All[0].Id, cancel) is not var (lesson, _))
            return Redirect("/practice/lessons");
        // A new one needs a name of its own.
        Form = LessonForm.Of(LessonWriter.Write(Id is null ? lesson with { Id = lesson.Id + "-2" } : lesson));
        Look();
        return Page();
    }

    /// <summary>Draws parts of what stands in the fields; nothing is kept.</summary>
    public IActionResult OnPostPreview()
    {
        Form = LessonForm.Of(Request.Form);
        Look();
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(CancellationToken cancel)
    {
        Form = LessonForm.Of(Request.Form);
        Look();
        if (Lesson is null)
            return Page();
        var (kept, refusal, _) = await book.KeepAsync(Reader.SessionToken, LessonWriter.Write(Lesson), cancel);
        if (kept is not null)
            return Redirect("/practice/lessons");
        Reject("id", Words.Say("lessonRefusal." + refusal));
        return Page();
    }

    /// <summary>The field where the next entry goes: the first that is wrong, else the title.</summary>
    public string Focus =>
        LessonForm.Groups.SelectMany(g => g.Fields).FirstOrDefault(f => Wrong(f.Path) is not null)?.Path ?? (Id is null ? "title" : "");

    private void Look()
    {
        (Lesson, var faults) = LessonFile.Read(Form.ToFile());
        foreach (var fault in faults)
            if (LessonForm.FieldOf(fault.Path) is { } field)
                Reject(field, Words.Say("lessonFault." + fault.Fault));
        Faults = [.. faults.Where(f => LessonForm.FieldOf(f.Path) is null)];
        Samples = Lesson is null ? [] : [.. Enumerable.Range(1, Lesson.Surfaces).SelectMany(Parts)];
        var title = Words.Say(Id is null ? "lesson.new" : "lesson.change");
        ViewData["Band"] = Words.Say("practice.band");
        ViewData["Learner"] = Reader.Name;
        ViewData["Topic"] = "practice";
        ViewData["Title"] = Words.Say("practice.title", title);
        ViewData["Name"] = title;
    }

    private IEnumerable<Sample> Parts(int surface)
    {
        var of = Lesson!.Of(surface);
        for (var seed = 1; seed <= Drawn; seed++)
        {
            var part = of.Draw(Lesson.SeedOf(seed, surface));
            var truth = PartTruth.Of(part, of.Wear.HasCrack);
            yield return new(surface, Mm(part.WorstSize(grooves: false)), truth.After, Mm(truth.Unevenness), truth.Bears(of.Decision));
        }
    }

    /// <summary>A length that may be on the wrong side, as the reader sees it.</summary>
    public string WithSign(double mm) => (mm < 0 ? "−" : "") + Reader.Figure(Mm(Math.Abs(mm)));

    private static Length Mm(double mm) => Length.FromMillimetres((decimal)Math.Round(mm, 4));
}
