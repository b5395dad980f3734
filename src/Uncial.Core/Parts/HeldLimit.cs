using Uncial.Core.Lengths;

namespace Uncial.Core.Parts;

/// <summary>Of several sources for one limit, which holds: the strictest, until a lead has settled it.</summary>
public static class HeldLimit
{
    /// <summary>
    /// The strictest of the figures: the thickest for a rotor, the smallest for a drum. A part is scrap where any source says so.
    /// </summary>
    /// <param name="part">Rotor or drum.</param>
    /// <param name="figures">What the sources say; not empty.</param>
    public static Length Strictest(PartKind part, IEnumerable<Length> figures) => part == PartKind.Rotor ? figures.Max() : figures.Min();

    /// <summary>Whether sources that should say the same do not.</summary>
    public static bool Differ(IEnumerable<Length> figures) => figures.Distinct().Skip(1).Any();
}
