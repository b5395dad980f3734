using System.Globalization;
using CsvHelper;
using Microsoft.AspNetCore.Mvc;
using Uncial.Data.Practice;
using Uncial.Practice.Drills;
using Uncial.Practice.Jobs;
using Uncial.Practice.Lessons;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>A class: who is where, and what came of it.</summary>
public class ClassModel(ClassDesk classes, ScoreBook scores, Reader reader, TimeProvider time) : InstructorPage(classes, reader, time)
{
    /// <summary>A trainee at a lesson.</summary>
    /// <param name="Trainee">The trainee.</param>
    /// <param name="Lesson">The lesson.</param>
    /// <param name="Work">What was done; null before it was begun.</param>
    /// <param name="Scored">What came of it; null before it is over.</param>
    public sealed record Line(Learner Trainee, Lesson Lesson, ClassWork? Work, Scored? Scored)
    {
        /// <summary>Whole minutes from the first step to the last, or to the decision; null before the first.</summary>
        public int? Minutes =>
            Work is { LastAt: { } last } work
                ? Math.Max(1, (int)Math.Round(((work.Attempt.EndedAt ?? last) - work.Attempt.StartedAt).TotalMinutes))
                : null;
    }

    [BindProperty(SupportsGet = true)]
    public int Id { get; set; }

    public PracticeClass Of { get; private set; } = null!;
    public IReadOnlyList<Line> Lines { get; private set; } = [];

    /// <summary>The trainee of a certificate.</summary>
    public Learner? Trainee { get; private set; }

    /// <summary>Names of trainees to add, as typed: one a line.</summary>
    [BindProperty]
    public string? Names { get; set; }

    public async Task<IActionResult> OnGetAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        await ShowAsync(cancel);
        return Page();
    }

    public async Task<IActionResult> OnPostAddAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        var names = (Names ?? "").Split(['\n', ','], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
        if (names.Length == 0)
            Reject(nameof(Names), Words.Say("class.giveNames"));
        else if (Array.Find(names, n => n.Length > ClassDesk.LongestName) is { } tooLong)
            Reject(nameof(Names), Words.Say("class.nameTooLong", tooLong[..20], ClassDesk.LongestName));
        if (!ModelState.IsValid)
        {
            await ShowAsync(cancel);
            return Page();
        }
        for (var i = 0; i < names.Length; i++)
            if (await Classes.AddAsync(Reader.SessionToken, Id, names[i], cancel) is { } refusal)
            {
                // Those before it are in; what is left stands there still.
                Names = string.Join('\n', names[i..]);
                ModelState.Clear();
                Reject(nameof(Names), Words.Say("class.notAdded", names[i], Words.Say("classRefusal." + refusal)));
                await LoadAsync(cancel);
                await ShowAsync(cancel);
                return Page();
            }
        return Redirect($"/practice/classes/{Id}");
    }

    public Task<IActionResult> OnPostCloseAsync(CancellationToken cancel) =>
        DoAsync(Classes.CloseAsync(Reader.SessionToken, Id, cancel), $"/practice/classes/{Id}", cancel);

    public Task<IActionResult> OnPostRemoveAsync(CancellationToken cancel) =>
        DoAsync(Classes.RemoveAsync(Reader.SessionToken, Id, cancel), "/practice/classes", cancel);

    public Task<IActionResult> OnPostRemoveTraineeAsync(int trainee, CancellationToken cancel) =>
        DoAsync(Classes.RemoveAsync(Reader.SessionToken, Id, trainee, cancel), $"/practice/classes/{Id}", cancel);

    /// <summary>The results as a file: a line for each trainee and lesson.</summary>
    public async Task<IActionResult> OnGetCsvAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        await ShowAsync(cancel);
        await using var text = new StringWriter(CultureInfo.InvariantCulture);
        await using (var csv = new CsvWriter(text, CultureInfo.InvariantCulture, leaveOpen: true))
        {
            foreach (var head in new[] { "class", "trainee", "lesson", "begun", "ended", "minutes", "outcome" })
                csv.WriteField(head);
            foreach (var skill in Enum.GetValues<Skill>())
                csv.WriteField(JsonName(skill.ToString()));
            foreach (var line in Lines)
            {
                await csv.NextRecordAsync();
                csv.WriteField(Safe(Of.Name));
                csv.WriteField(Safe(line.Trainee.Name));
                csv.WriteField(line.Lesson.Id);
                csv.WriteField(line.Work?.Attempt.StartedAt.ToString("O", CultureInfo.InvariantCulture));
                csv.WriteField(line.Work?.Attempt.EndedAt?.ToString("O", CultureInfo.InvariantCulture));
                csv.WriteField(line.Minutes);
                csv.WriteField(line.Scored is { } scored ? JsonName(scored.Outcome.ToString()) : null);
                foreach (var skill in Enum.GetValues<Skill>())
                    csv.WriteField(line.Scored?.Scores[skill]);
            }
            await csv.NextRecordAsync();
        }
        return File(System.Text.Encoding.UTF8.GetBytes(text.ToString()), "text/csv; charset=utf-8", $"practice-class-{Of.Id}.csv");
    }

    private static string JsonName(string name) => System.Text.Json.JsonNamingPolicy.CamelCase.ConvertName(name);

    /// <summary>A name that a spreadsheet would take for a formula is marked as text.</summary>
    private static string? Safe(string? name) =>
        name?.Length > 0 && "=+-@\t".Contains(name[0], StringComparison.Ordinal) ? "'" + name : name;

    private async Task<IActionResult> DoAsync(Task<ClassRefusal?> asked, string next, CancellationToken cancel)
    {
        if (await asked is not { } refusal)
            return Redirect(next);
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        Tell(refusal);
        await ShowAsync(cancel);
        return Page();
    }

    private async Task<IActionResult?> LoadAsync(CancellationToken cancel)
    {
        if (await LetInAsync(cancel) is { } elsewhere)
            return elsewhere;
        if (await Classes.ClassAsync(Instructor, Id, cancel) is not { } found)
            return Redirect("/practice/classes");
        Of = found;
        Head(Of.Name);
        return null;
    }

    private async Task ShowAsync(CancellationToken cancel)
    {
        var work = (await Classes.WorkAsync(Id, cancel)).ToDictionary(w => (w.LearnerId, w.LessonId));
        var over = work.Values.Where(w => w.Attempt.IsEnded).Select(w => w.Attempt.Id).ToList();
        // What is over is worked out once.
        foreach (var attempt in await Classes.WithStepsAsync([.. over.Where(id => scores.KnownOf(id) is null)], cancel))
            scores.Of(attempt);
        Lines =
        [
            .. Of.Trainees.SelectMany(t =>
                Of.Lessons.Select(l =>
                {
                    var done = work.GetValueOrDefault((t.Id, l.LessonId));
                    return new Line(t, l.Lesson, done, done is { Attempt.IsEnded: true } ? scores.KnownOf(done.Attempt.Id) : null);
                })
            ),
        ];
    }

    /// <summary>Where a trainee is at the moment, in words.</summary>
    public string WhereOf(Line line)
    {
        ArgumentNullException.ThrowIfNull(line);
        if (line.Work is not { } work)
            return Words.Say("class.notBegun");
        if (work.Attempt.Hand is not { } hand || JobJson.ReadHand(hand).Station is not { Length: > 0 } station)
            return Words.Say("class.begun");
        var minutes = (int)Math.Max(0, (Now - (work.LastAt ?? work.Attempt.StartedAt)).TotalMinutes);
        return Words.Say(minutes < 1 ? "class.atNow" : "class.at", Words.Say("classStation." + station), work.Steps, minutes);
    }
}
