using Uncial.Core.Lengths;
using Uncial.Core.Reasoning;

namespace Uncial.Core.Gauges;

/// <summary>A gauge read on its setting standard: tells whether somebody has shifted its datum.</summary>
/// <param name="Nominal">Size of the standard.</param>
/// <param name="Shown">What the gauge showed on it.</param>
/// <param name="Tolerance">Greatest error that the gauge may have, 0 or more.</param>
public readonly record struct ZeroCheck(Length Nominal, Length Shown, Length Tolerance)
{
    /// <summary>To be added to every reading: the standard's size less what was shown.</summary>
    public Length Correction => Nominal - Shown;

    /// <summary>The gauge is good; otherwise its readings since its last good check are suspect.</summary>
    public bool Passes => Correction.Abs() <= Tolerance;

    /// <summary>No gauge that is in use is off by so much: it is another standard, or another unit.</summary>
    private static readonly Length WrongStandard = Length.FromMillimetres(1m);

    /// <summary>What was shown is so far off that it was probably read on another standard, or in another unit.</summary>
    public bool IsOfAnotherStandard => Correction.Abs() > WrongStandard;

    /// <summary>How it was worked out, in order.</summary>
    public IReadOnlyList<Step> Steps
    {
        get
        {
            var steps = new Steps();
            steps.Add("zeroCorrection", "{0} − {1}", Correction, null, Nominal, Shown);
            steps.Add(
                "zeroCheck",
                Passes ? "|{0}| ≤ {1}" : "|{0}| > {1}",
                Term.State(Passes ? "gaugeGood" : "gaugeFails"),
                null,
                Correction,
                Tolerance
            );
            return steps.All;
        }
    }

    /// <summary>A reading with the correction put in.</summary>
    public Length Correct(Length reading) => reading + Correction;

    /// <summary>
    /// Which readings of a gauge are suspect: those taken between a good check (or the beginning) and a check that failed, and those after
    /// a failed check until the next good one. Readings after the last good check stand until a check says otherwise.
    /// </summary>
    /// <param name="checks">The number of each check of the gauge and whether it passed, in any order.</param>
    /// <param name="readings">For each reading the number of the check before it; 0 where there was none.</param>
    /// <returns>For each reading whether it is flagged.</returns>
    public static IReadOnlyList<bool> Flagged(IEnumerable<(long Number, bool Passed)> checks, IReadOnlyList<long> readings)
    {
        ArgumentNullException.ThrowIfNull(checks);
        ArgumentNullException.ThrowIfNull(readings);
        var inOrder = checks.OrderBy(c => c.Number).ToList();
        return
        [
            .. readings.Select(number =>
            {
                var before = inOrder.FindLastIndex(c => c.Number <= number);
                var after = before + 1;
                return (before >= 0 && !inOrder[before].Passed) || (after < inOrder.Count && !inOrder[after].Passed);
            }),
        ];
    }
}
