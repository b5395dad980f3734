using Uncial.Core.Lengths;

namespace Uncial.Core.Release;

/// <summary>A depth that was measured more than once with a depth gauge. Source: computation, section 3.</summary>
public static class RepeatedDepth
{
    /// <summary>Measurements that make a depth surer.</summary>
    public const int Times = 3;

    /// <summary>The depth that three measurements say.</summary>
    /// <param name="depths">Measurements of one groove or low land since the last cut, the oldest first; the newest three count.</param>
    /// <param name="rules">The shop's rules: measurements that differ by more than the uncertainty of one are not of one depth.</param>
    /// <returns>Their mean; null with fewer than three, or where they are not alike: then the newest counts by itself.</returns>
    public static Length? Of(IReadOnlyList<Length> depths, ShopRules rules)
    {
        ArgumentNullException.ThrowIfNull(depths);
        ArgumentNullException.ThrowIfNull(rules);
        if (depths.Count < Times)
            return null;
        Length[] last = [.. depths.Skip(depths.Count - Times)];
        return last.Max() - last.Min() > rules.Shape.DepthUncertainty ? null : last.Aggregate(Length.Zero, (sum, d) => sum + d) / Times;
    }
}
