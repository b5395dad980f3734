using Uncial.Core.Lengths;

namespace Uncial.Core.Release;

/// <summary>What stays below the lands that were read: grooves and low lands of a surface, and how sure their depths are.</summary>
/// <param name="Groove">Deepest groove of each face, added up; radial in a drum.</param>
/// <param name="Relief">From the lands that were read down to the lowest, of each face, added up.</param>
/// <param name="Uncertainty">What they may be more together: the doubt in one depth times the root of their number.</param>
public readonly record struct DepthsLeft(Length Groove, Length Relief, Length Uncertainty)
{
    /// <summary>Adds up the faces of a part.</summary>
    /// <param name="faces">For each face that is not bright all over, its groove and its relief as read.</param>
    /// <param name="rules">The shop's rules: the doubt in one depth.</param>
    public static DepthsLeft Of(IReadOnlyCollection<(Length Groove, Length Relief)> faces, ShopRules rules)
    {
        ArgumentNullException.ThrowIfNull(faces);
        ArgumentNullException.ThrowIfNull(rules);
        var (groove, relief) = (Length.Zero, Length.Zero);
        foreach (var face in faces) (groove, relief) = (groove + face.Groove, relief + face.Relief);
        // Errors of several depths seldom fall the same way: they add in squares.
        var doubt = Length.FromTrigonometry((double)rules.DepthUncertainty.Millimetres * Math.Sqrt(2 * faces.Count), Toward.Greater);
        return new(groove, relief, doubt);
    }
}
