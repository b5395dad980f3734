using System.Collections.Concurrent;
using Microsoft.AspNetCore.Mvc;
using Uncial.Data.Practice;
using Uncial.Practice.Debriefs;
using Uncial.Practice.Drills;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>How somebody came along: every lesson that was ended with its scores, the newest first, and each skill over time.</summary>
public class ProgressModel(PracticeDesk desk, AttemptDesk attempts, Reader reader, TimeProvider time) : PracticePage(desk, reader, time)
{
    /// <summary>More than this is no way but a history.</summary>
    private const int Most = 24;

    /// <summary>What is over does not change: it is worked out once.</summary>
    private static readonly ConcurrentDictionary<long, Scored> Known = new();

    private const int MostKnown = 20_000;

    /// <summary>An attempt with what came of it.</summary>
    /// <param name="Attempt">The attempt.</param>
    /// <param name="Scores">Score of each skill; null where the lesson did not come to it.</param>
    /// <param name="Outcome">What came of the part.</param>
    public sealed record Scored(Attempt Attempt, IReadOnlyDictionary<Skill, int?> Scores, Uncial.Practice.Debriefs.Outcome Outcome);

    /// <summary>Attempts that were ended, the newest first.</summary>
    public IReadOnlyList<Scored> Done { get; private set; } = [];

    /// <summary>Scores of a skill, the oldest first.</summary>
    public IReadOnlyList<int?> Of(Skill skill) => [.. Done.Reverse().Select(d => d.Scores[skill])];

    /// <summary>The newest score of a skill; null where none was reached.</summary>
    public int? Newest(Skill skill) => Done.Select(d => d.Scores[skill]).FirstOrDefault(s => s is not null);

    public async Task<IActionResult> OnGetAsync(CancellationToken cancel)
    {
        await FindLearnerAsync(cancel);
        if (Known.Count > MostKnown)
            Known.Clear();
        Done = [.. (await attempts.EndedAsync(Learner, Most, cancel)).Select(a => Known.GetOrAdd(a.Id, _ =>
                {
                    var debrief = a.Debrief();
                    return new(a, Enum.GetValues<Skill>().ToDictionary(s => s, debrief.Score), debrief.Outcome);
                }))];
        Head(Words.Say("progress.title"), Words.Say("practice.band"));
        return Page();
    }
}
