using Uncial.Practice.Jobs;
using Uncial.Practice.Lessons;

namespace Uncial.Data.Practice;

/// <summary>A work surface of an attempt: the lesson, the metal, what was done and what is at hand, as that surface has them.</summary>
public sealed class AttemptSurface
{
    /// <summary>Made from an attempt.</summary>
    /// <param name="attempt">The attempt.</param>
    /// <param name="number">The surface, from 1 on.</param>
    public AttemptSurface(Attempt attempt, int number)
    {
        ArgumentNullException.ThrowIfNull(attempt);
        (Attempt, Number, Lesson) = (attempt, number, attempt.Lesson.Of(number));
        Seed = Lesson.SeedOf(attempt.Seed, number);
        Steps = [.. attempt.JobSteps.Where(s => s.Surface == number)];
    }

    public Attempt Attempt { get; }
    public int Number { get; }

    /// <summary>The lesson as this surface has it.</summary>
    public Lesson Lesson { get; }

    /// <summary>Told to nobody.</summary>
    public long Seed { get; }

    /// <summary>What was done and entered of it.</summary>
    public IReadOnlyList<JobStep> Steps { get; }

    /// <summary>What was done at its bench.</summary>
    public IEnumerable<Deed> Deeds => Steps.OfType<JobStep.Did>().Select(d => d.Deed);

    /// <summary>The bench as it is after what was done.</summary>
    public VirtualBench Bench() => VirtualBench.After(Lesson, Seed, Deeds);

    /// <summary>What is at hand, when somebody stands at this surface.</summary>
    public BenchHand Hand() =>
        (Attempt.Hand is { } hand ? JobJson.ReadHand(hand) : BenchHand.Of(Attempt.Lesson.Of(1))).TurnTo(Lesson, Number);
}
