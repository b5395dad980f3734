using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Core.Measuring;

/// <summary>Why a size is questioned before it is kept.</summary>
public enum Implausible
{
    /// <summary>Smaller than such a part can be.</summary>
    TooSmall,

    /// <summary>Larger than such a part can be.</summary>
    TooLarge,

    /// <summary>Off by about 25.4: inches taken for millimetres or the reverse.</summary>
    WrongUnit,

    /// <summary>
    /// Much less worn than its neighbours, or than the part was before: the gauge may have lain on the ridge at the edge.
    /// </summary>
    OnTheRidge,

    /// <summary>Much more worn than its neighbours: a wrong place, or figures changed about.</summary>
    UnlikeItsNeighbours,
}

/// <summary>Questions a reading that cannot well be; the operator may insist.</summary>
public static class Plausibility
{
    /// <summary>
    /// Compares a size with what the part should be: nominal −25 … +5 % for a rotor's thickness, −1 … +3 % for a drum's diameter.
    /// </summary>
    /// <param name="size">The size as read.</param>
    /// <param name="limits">Limits of the surface; without a nominal size machine-to stands in for it.</param>
    public static Implausible? Question(Length size, Limits limits)
    {
        ArgumentNullException.ThrowIfNull(limits);
        var expected = limits.Nominal ?? limits.MachineTo;
        var ratio = size / expected;
        var (low, high) = limits.Kind == PartKind.Rotor ? (0.75m, 1.05m) : (0.99m, 1.03m);
        if (ratio >= low && ratio <= high)
            return null;
        var slipped = ratio > 1 ? ratio / Length.MillimetresPerInch : ratio * Length.MillimetresPerInch;
        if (slipped > 0.7m && slipped < 1.1m)
            return Implausible.WrongUnit;
        return ratio < low ? Implausible.TooSmall : Implausible.TooLarge;
    }

    /// <summary>
    /// Compares a size with those that stand at the same radius or depth, and with what the part was at its last visit: wear takes metal
    /// away and
    /// never puts it on. The ridge at the edge of a worn part reads as if nothing had worn.
    /// </summary>
    /// <param name="kind">Rotor or drum.</param>
    /// <param name="size">The size as read.</param>
    /// <param name="neighbours">What stands at the other places of that radius or depth; two and more say something.</param>
    /// <param name="lastVisit">Worst size when the part left last; null where it was not here before.</param>
    /// <param name="uncertainty">Expanded uncertainty of one reading.</param>
    /// <param name="rules">The shop's rules: how far off is asked about.</param>
    /// <returns>The uncertainty and the size that it is held against, or null.</returns>
    public static (Implausible Why, Length Against)? Question(
        PartKind kind,
        Length size,
        IReadOnlyList<Length> neighbours,
        Length? lastVisit,
        Length uncertainty,
        ShopRules rules
    )
    {
        ArgumentNullException.ThrowIfNull(neighbours);
        ArgumentNullException.ThrowIfNull(rules);
        var step = Length.Max(rules.Gauges.UnlikeNeighbours, 2 * uncertainty);
        if (neighbours.Count >= FewestNeighbours)
        {
            var (least, greatest) = (neighbours.Min(), neighbours.Max());
            var (best, worst) = kind == PartKind.Rotor ? (greatest, least) : (least, greatest);
            // What the neighbours differ by among themselves is no doubt.
            var far = step + (greatest - least);
            if (Limits.Margin(kind, size, best) > far)
                return (Implausible.OnTheRidge, best);
            if (Limits.Margin(kind, worst, size) > far)
                return (Implausible.UnlikeItsNeighbours, worst);
        }
        return lastVisit is { } before && Limits.Margin(kind, size, before) > step ? (Implausible.OnTheRidge, before) : null;
    }

    private const int FewestNeighbours = 2;

    /// <summary>
    /// Questions a limit that no part of the kind has: thickness 3 … 80 mm, inside diameter 100 … 700 mm. Most often the unit slipped.
    /// </summary>
    public static Implausible? QuestionLimit(Length limit, PartKind kind)
    {
        var (low, high) = kind == PartKind.Rotor ? (3m, 80m) : (100m, 700m);
        if (limit.Millimetres >= low && limit.Millimetres <= high)
            return null;
        var slipped =
            limit.Millimetres < low ? limit.Millimetres * Length.MillimetresPerInch : limit.Millimetres / Length.MillimetresPerInch;
        if (slipped >= low && slipped <= high)
            return Implausible.WrongUnit;
        return limit.Millimetres < low ? Implausible.TooSmall : Implausible.TooLarge;
    }
}
