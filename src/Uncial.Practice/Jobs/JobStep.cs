using Uncial.Core.Parts;
using Uncial.Practice.Lessons;

namespace Uncial.Practice.Jobs;

/// <summary>A step of a job: something done at the bench, or something that the trainee entered.</summary>
public abstract record JobStep
{
    private JobStep() { }

    /// <summary>The work surface that it is about, from 1 on; of no meaning for a verdict, which is about the part.</summary>
    public int Surface { get; init; } = 1;

    /// <summary>Something done.</summary>
    public sealed record Did(Deed Deed) : JobStep;

    /// <summary>A limit, as it was entered.</summary>
    /// <param name="Kind">Which limit.</param>
    /// <param name="Mm">Its value.</param>
    public sealed record Limit(LimitKind Kind, double Mm) : JobStep;

    /// <summary>What was found on the part.</summary>
    /// <param name="Crack">A crack.</param>
    public sealed record Found(bool Crack) : JobStep;

    /// <summary>A size, read off the gauge that was held last.</summary>
    /// <param name="Mm">As it was entered.</param>
    public sealed record Reading(double Mm) : JobStep;

    /// <summary>The set-up was taken as true enough.</summary>
    public sealed record SetUpAccepted : JobStep;

    /// <summary>What becomes of the part.</summary>
    public sealed record Verdict(Decision Decision) : JobStep;
}
