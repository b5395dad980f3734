using System.Collections.Concurrent;
using Uncial.Data.Practice;
using Uncial.Practice.Debriefs;
using Uncial.Practice.Drills;

namespace Uncial.Web.Pages;

/// <summary>An attempt that is over, with what came of it.</summary>
/// <param name="Attempt">The attempt.</param>
/// <param name="Scores">Score of each skill; null where the lesson did not come to it.</param>
/// <param name="Outcome">What came of the part.</param>
public sealed record Scored(Attempt Attempt, IReadOnlyDictionary<Skill, int?> Scores, Uncial.Practice.Debriefs.Outcome Outcome)
{
    /// <summary>The mark of an outcome, and its colour.</summary>
    public static (string Mark, string Css) MarkOf(Uncial.Practice.Debriefs.Outcome outcome) =>
        outcome switch
        {
            Uncial.Practice.Debriefs.Outcome.Right => ("within", "is-blue"),
            Uncial.Practice.Debriefs.Outcome.WouldHaveFailed => ("over", "is-over"),
            _ => ("close", "is-brass"),
        };
}

/// <summary>What came of attempts that are over. What is over does not change: it is worked out once.</summary>
public sealed class ScoreBook
{
    private const int MostKnown = 20_000;

    private readonly ConcurrentDictionary<long, Scored> known = new();

    /// <summary>What is known already of an attempt; null where it was not worked out yet.</summary>
    public Scored? KnownOf(long attempt) => known.GetValueOrDefault(attempt);

    /// <summary>Works it out, of an attempt with its steps.</summary>
    public Scored Of(Attempt attempt)
    {
        ArgumentNullException.ThrowIfNull(attempt);
        if (known.Count > MostKnown)
            known.Clear();
        return known.GetOrAdd(attempt.Id, _ =>
        {
            var debrief = attempt.Debrief();
            return new(attempt, Enum.GetValues<Skill>().ToDictionary(s => s, debrief.Score), debrief.Outcome);
        });
    }
}
