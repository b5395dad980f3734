using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Core.Release;

/// <summary>A size held against a limit.</summary>
public enum Verdict
{
    /// <summary>Inside the limit by at least the uncertainty.</summary>
    Within,

    /// <summary>Inside as read, but by less than the uncertainty: too close to call.</summary>
    TooClose,

    /// <summary>Past the limit as read.</summary>
    Beyond,

    /// <summary>Too few readings for any verdict but beyond.</summary>
    NotEnough,
}

/// <summary>The rule that decides whether a size keeps a limit. Source: ISO 14253-1, JCGM 106.</summary>
public static class Conformity
{
    /// <summary>Highest probability that is stated: one place does not speak for the whole part.</summary>
    public const double MostCertain = 0.999;

    /// <summary>Decides from the margin and the expanded uncertainty (k = 2).</summary>
    /// <param name="margin">Distance to the limit, positive inside.</param>
    /// <param name="uncertainty">0 or more.</param>
    public static Verdict Decide(Length margin, Length uncertainty) =>
        margin < Length.Zero ? Verdict.Beyond
        : margin < uncertainty ? Verdict.TooClose
        : Verdict.Within;

    /// <summary>The size that counts for the limit: the least thickness or the largest diameter; null where there is none.</summary>
    public static Length? Worst(PartKind kind, IEnumerable<Length> sizes) =>
        sizes
            .Cast<Length?>()
            .Aggregate((Length?)null, (worst, size) =>
                worst is not { } w || Limits.Margin(kind, size!.Value, w) < Length.Zero ? size : worst
            );

    /// <summary>The less favourable of two verdicts: beyond, then not enough, then too close, then within.</summary>
    public static Verdict Worse(Verdict a, Verdict b) => Rank(a) >= Rank(b) ? a : b;

    /// <summary>
    /// Probability that the true size is inside, Φ(2m/U). Without uncertainty 1, 0.5 or 0 for a margin above, at or below nothing.
    /// </summary>
    public static double ProbabilityWithin(Length margin, Length uncertainty) =>
        uncertainty == Length.Zero
            ? (Math.Sign(margin.Millimetres) + 1) / 2.0
            : NormalDistribution((double)(2 * margin.Millimetres / uncertainty.Millimetres));

    /// <summary>
    /// A probability for showing, in percent and never more than it is: <c>over 99.9</c>, <c>97.31</c>, <c>under 0.01</c>.
    /// </summary>
    /// <param name="probability">0 … 1.</param>
    public static string Percent(double probability) =>
        probability switch
        {
            >= MostCertain => "over 99.9",
            < 0.0001 => "under 0.01",
            _ => (Math.Floor(probability * 10_000) / 100).ToString("0.00", System.Globalization.CultureInfo.InvariantCulture),
        };

    private static int Rank(Verdict v) =>
        v switch
        {
            Verdict.Beyond => 3,
            Verdict.NotEnough => 2,
            Verdict.TooClose => 1,
            _ => 0,
        };

    /// <summary>
    /// Φ(x), to about 1e-15: series near the middle, continued fraction in the tails. Source: Abramowitz and Stegun 26.2.
    /// </summary>
    internal static double NormalDistribution(double x)
    {
        if (x < -37)
            return 0;
        if (x > 37)
            return 1;
        var density = Math.Exp(-x * x / 2) / Math.Sqrt(2 * Math.PI);
        if (Math.Abs(x) < 3)
        {
            var (term, sum) = (x, x);
            for (var i = 3; Math.Abs(term) > 1e-17; i += 2)
                sum += term *= x * x / i;
            return 0.5 + density * sum;
        }
        var tail = 0.0;
        for (var i = 60; i >= 1; i--)
            tail = i / (Math.Abs(x) + tail);
        var beyond = density / (Math.Abs(x) + tail);
        return x > 0 ? 1 - beyond : beyond;
    }
}
