using Microsoft.AspNetCore.Mvc;
using Uncial.Data.Practice;
using Uncial.Practice.Drills;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>How somebody came along: every lesson that was ended with its scores, the newest first, and each skill over time.</summary>
public class ProgressModel(PracticeDesk desk, AttemptDesk attempts, ScoreBook scores, Reader reader, TimeProvider time)
    : PracticePage(desk, reader, time)
{
    /// <summary>More than this is no way but a history.</summary>
    private const int Most = 24;

    /// <summary>Attempts that were ended, the newest first.</summary>
    public IReadOnlyList<Scored> Done { get; private set; } = [];

    /// <summary>Scores of a skill, the oldest first.</summary>
    public IReadOnlyList<int?> Of(Skill skill) => [.. Done.Reverse().Select(d => d.Scores[skill])];

    /// <summary>The newest score of a skill; null where none was reached.</summary>
    public int? Newest(Skill skill) => Done.Select(d => d.Scores[skill]).FirstOrDefault(s => s is not null);

    public async Task<IActionResult> OnGetAsync(CancellationToken cancel)
    {
        await FindLearnerAsync(cancel);
        Done = [.. (await attempts.EndedAsync(Learner, Most, cancel)).Select(scores.Of)];
        Head(Words.Say("progress.title"), Words.Say("practice.band"));
        return Page();
    }
}
