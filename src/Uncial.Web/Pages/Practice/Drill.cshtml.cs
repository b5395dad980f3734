using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Uncial.Core.Lengths;
using Uncial.Data.Practice;
using Uncial.Practice.Drills;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>A drill: one item after the other, each marked as soon as it is answered; in the end what came of it.</summary>
public class DrillModel(PracticeDesk desk, Reader reader, TimeProvider time) : PracticePage(desk, reader, time)
{
    [BindProperty]
    public string? Answer { get; set; }

    public DrillRun Run { get; private set; } = null!;

    /// <summary>The item that is shown.</summary>
    public DrillItem Item { get; private set; } = null!;

    /// <summary>Which one it is, from 1 on.</summary>
    public int Number { get; private set; }

    /// <summary>How it was answered; null while it is not.</summary>
    public DrillAnswer? Given { get; private set; }

    /// <summary>All are answered and none is looked at again.</summary>
    public bool IsResult { get; private set; }

    public async Task<IActionResult> OnGetAsync(long id, int? n, CancellationToken cancel)
    {
        await FindLearnerAsync(cancel);
        if (await Desk.RunAsync(Learner, id, cancel) is not { } run)
            return RedirectToPage("/Practice/Practice");
        Show(run, n);
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(long id, int n, CancellationToken cancel)
    {
        await FindLearnerAsync(cancel);
        if (await Desk.RunAsync(Learner, id, cancel) is not { } run)
            return RedirectToPage("/Practice/Practice");
        if (n < 1 || n > run.Next || n > DrillKinds.Items)
            return RedirectToPage(new { id });
        var given = await Desk.AnswerAsync(run, n, Answer ?? "", cancel);
        if (given.Marked is not null)
            return RedirectToPage(new { id, n });
        Show(run, n);
        if (given.Fault is { } fault)
            Reject(nameof(Answer), Words.Of(fault, ((SizeItem)Item).Unit));
        else
            Reject(nameof(Answer), Words.Say("drill.pickOne"));
        return Page();
    }

    /// <summary>The right answer as it is told.</summary>
    public string RightText =>
        Item switch
        {
            SizeItem size => LengthText.Figure(size.Right, size.Unit, size.Decimals) + " " + LengthText.Name(size.Unit),
            ChoiceItem choice => AskWords.Of(choice.Choices[choice.Right]),
            _ => "",
        };

    /// <summary>The answer that was given, as it is told.</summary>
    public string GivenText =>
        Item is ChoiceItem choice ? AskWords.Of(choice.Choices[int.Parse(Given!.Text, CultureInfo.InvariantCulture) - 1]) : Given!.Text;

    /// <summary>How far the answer was off, with its sign; null where nothing was measured or nothing is off.</summary>
    public string? OffText =>
        Item is SizeItem size && Given is { IsRight: false, OffMm: { } off }
            ? (off > 0 ? "+" : "−")
                + LengthText.Figure(Length.FromMillimetres(Math.Abs(off)), size.Unit, size.Decimals)
                + " "
                + LengthText.Name(size.Unit)
            : null;

    /// <summary>What led to wrong answers, the most frequent first.</summary>
    public IEnumerable<(string Cause, int Times)> Causes =>
        Run
            .Answers.Where(a => !a.IsRight)
            .GroupBy(a => a.Cause)
            .OrderByDescending(g => g.Count())
            .Select(g => (Words.Say("cause." + g.Key), g.Count()));

    /// <summary>How long it took, from the beginning to the last answer.</summary>
    public TimeSpan Took => Run.Answers.Max(a => a.At) - Run.StartedAt;

    private void Show(DrillRun run, int? n)
    {
        Run = run;
        Number = n is { } asked && asked >= 1 && asked <= run.Answers.Count ? asked : Math.Min(run.Next, DrillKinds.Items);
        Given = run.Answers.Find(a => a.Number == Number);
        IsResult = run.IsDone && n is null;
        Item = run.Item(Number);
        Head(Words.Say($"drill.{run.Kind}"), Words.Say("practice.bandOfDrill", Words.Say($"drill.{run.Kind}"), Number, DrillKinds.Items));
    }
}
