using System.Collections.Concurrent;
using Uncial.Data.Practice;
using Uncial.Practice.Debriefs;
using Uncial.Practice.Drills;

namespace Uncial.Web.Pages;

/// <summary>An attempt that is over, with what came of it. What is over does not change: it is worked out once.</summary>
/// <param name="Attempt">The attempt.</param>
/// <param name="Scores">Score of each skill; null where the lesson did not come to it.</param>
/// <param name="Outcome">What came of the part.</param>
public sealed record Scored(Attempt Attempt, IReadOnlyDictionary<Skill, int?> Scores, Uncial.Practice.Debriefs.Outcome Outcome)
{
    private const int MostKnown = 20_000;

    private static readonly ConcurrentDictionary<long, Scored> Known = new();

    /// <summary>What is known already of an attempt; null where it was not worked out yet.</summary>
    public static Scored? KnownOf(long attempt) => Known.GetValueOrDefault(attempt);

    /// <summary>Works it out, of an attempt with its steps.</summary>
    public static Scored Of(Attempt attempt)
    {
        ArgumentNullException.ThrowIfNull(attempt);
        if (Known.Count > MostKnown)
            Known.Clear();
        return Known.GetOrAdd(attempt.Id, _ =>
        {
            var debrief = attempt.Debrief();
            return new(attempt, Enum.GetValues<Skill>().ToDictionary(s => s, debrief.Score), debrief.Outcome);
        });
    }

    /// <summary>The mark of an outcome, and its colour.</summary>
    public static (string Mark, string Css) MarkOf(Uncial.Practice.Debriefs.Outcome outcome) =>
        outcome switch
        {
            Uncial.Practice.Debriefs.Outcome.Right => ("within", "is-blue"),
            Uncial.Practice.Debriefs.Outcome.WouldHaveFailed => ("over", "is-over"),
            _ => ("close", "is-brass"),
        };
}
