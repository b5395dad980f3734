using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Core.Measuring;

/// <summary>Why a size is questioned before it is kept.</summary>
public enum Doubt
{
    /// <summary>Smaller than such a part can be.</summary>
    TooSmall,

    /// <summary>Larger than such a part can be.</summary>
    TooLarge,

    /// <summary>Off by about 25.4: inches taken for millimetres or the reverse.</summary>
    WrongUnit,
}

/// <summary>Questions a reading that cannot well be; the operator may insist.</summary>
public static class Plausibility
{
    /// <summary>
    /// Compares a size with what the part should be: nominal −25 … +5 % for a rotor's thickness, −1 … +3 % for a drum's diameter.
    /// </summary>
    /// <param name="size">The size as read.</param>
    /// <param name="limits">Limits of the surface; without a nominal size machine-to stands in for it.</param>
    public static Doubt? Question(Length size, Limits limits)
    {
        ArgumentNullException.ThrowIfNull(limits);
        var expected = limits.Nominal ?? limits.MachineTo;
        var ratio = size / expected;
        var (low, high) = limits.Kind == PartKind.Rotor ? (0.75m, 1.05m) : (0.99m, 1.03m);
        if (ratio >= low && ratio <= high) return null;
        var slipped = ratio > 1 ? ratio / Length.MillimetresPerInch : ratio * Length.MillimetresPerInch;
        if (slipped > 0.7m && slipped < 1.1m) return Doubt.WrongUnit;
        return ratio < low ? Doubt.TooSmall : Doubt.TooLarge;
    }

    /// <summary>
    /// Questions a limit that no part of the kind has: thickness 3 … 80 mm, inside diameter 100 … 700 mm. Most often the unit slipped.
    /// </summary>
    public static Doubt? QuestionLimit(Length limit, PartKind kind)
    {
        var (low, high) = kind == PartKind.Rotor ? (3m, 80m) : (100m, 700m);
        if (limit.Millimetres >= low && limit.Millimetres <= high) return null;
        var slipped = limit.Millimetres < low ? limit.Millimetres * Length.MillimetresPerInch : limit.Millimetres / Length.MillimetresPerInch;
        if (slipped >= low && slipped <= high) return Doubt.WrongUnit;
        return limit.Millimetres < low ? Doubt.TooSmall : Doubt.TooLarge;
    }
}
