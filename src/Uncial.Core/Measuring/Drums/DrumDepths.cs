using Uncial.Core.Lengths;

namespace Uncial.Core.Measuring;

/// <summary>At which depths a bore is read, and when a depth may stand for another. Source: computation, section 3.</summary>
public static class DrumDepths
{
    private const decimal LeastShareOfBand = 0.6m;

    private static readonly decimal[] UsualShares = [0.15m, 0.5m, 0.85m];

    /// <summary>
    /// Depths from the open edge where nobody names others: near the edge, the middle, near the back. Whole millimetres, distinct.
    /// </summary>
    /// <param name="band">Width of the swept band, above 0.</param>
    public static IReadOnlyList<Length> Usual(Length band) =>
        [.. UsualShares.Select(share => Length.FromMillimetres(Math.Round(band.Millimetres * share))).Distinct()];

    /// <summary>A size differs so far from what the proven shape has on that axis that every axis is to be read at its depth.</summary>
    public static bool Differs(Length read, Length expected, Length uncertainty) => (read - expected).Abs() > 2 * uncertainty;

    /// <summary>The depths that were read lie far enough apart to speak for the band.</summary>
    /// <param name="span">From the shallowest to the deepest; 0 where only one was read.</param>
    /// <param name="band">Width of the swept band; null where it is not known: any two depths will do.</param>
    public static bool SpeakForTheBand(Length span, Length? band) =>
        span > Length.Zero && (band is not { } width || span >= width * LeastShareOfBand);
}
