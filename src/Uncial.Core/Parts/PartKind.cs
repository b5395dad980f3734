namespace Uncial.Core.Parts;

/// <summary>What is measured and cut: the pair of faces of a rotor, or the bore of a drum.</summary>
public enum PartKind
{
    /// <summary>A disc: two faces, sized by thickness. Wear and cutting make the figure smaller.</summary>
    Rotor,

    /// <summary>
    /// A drum, or the parking-brake drum in a rotor's hat: a bore, sized by inside diameter. Wear and cutting make the figure larger.
    /// </summary>
    Drum,
}
