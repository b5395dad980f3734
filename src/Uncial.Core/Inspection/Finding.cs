using Uncial.Core.Parts;

namespace Uncial.Core.Inspection;

/// <summary>What the eye and the hand find on a part before it is measured.</summary>
public enum FindingKind
{
    /// <summary>Looked at, and nothing is wrong.</summary>
    Nothing,

    /// <summary>A crack: the part is scrap, whatever it measures.</summary>
    Crack,

    /// <summary>The part must not be turned: ceramic, coated, or its maker forbids it.</summary>
    NoTurn,

    /// <summary>A blue hard spot: a bit skips over it and leaves it proud; a grinder takes it.</summary>
    HardSpot,

    /// <summary>A score groove below the lands.</summary>
    Groove,

    /// <summary>A rust ridge at an edge that the pad or shoe never wipes.</summary>
    Ridge,

    /// <summary>Rust pitting.</summary>
    Pitting,

    /// <summary>Glaze: shiny, hard to the file, little friction.</summary>
    Glaze,

    /// <summary>A wavy, tapered or belly-shaped wear profile.</summary>
    Waves,

    /// <summary>Fins of a vented rotor that are chipped or rusted through.</summary>
    Fins,

    /// <summary>Bearing races of a hubbed part that are pitted or blue.</summary>
    Races,
}

/// <summary>What a finding means for the work.</summary>
public enum Consequence
{
    /// <summary>Nothing to do about it.</summary>
    None,

    /// <summary>The part is scrapped.</summary>
    Scrap,

    /// <summary>The part goes back as it came: it is not worked on here.</summary>
    Refuse,

    /// <summary>Grinding takes it, turning does not.</summary>
    Grind,

    /// <summary>It is taken off by hand feed before the first touch.</summary>
    HandFeed,

    /// <summary>Its depth enters the plan: the cut goes below it, or it stays on purpose.</summary>
    Plan,

    /// <summary>Scuffing takes it; a cut is not needed for it.</summary>
    Scuff,

    /// <summary>More places or depths are to be read.</summary>
    ReadMore,

    /// <summary>It is looked into closer before the part goes on.</summary>
    LookCloser,
}

/// <summary>The rules of looking at a part. Source: the trade's practice; a maker's own rule comes first.</summary>
public static class Findings
{
    /// <summary>What a finding means.</summary>
    public static Consequence Means(FindingKind kind) =>
        kind switch
        {
            FindingKind.Crack => Consequence.Scrap,
            FindingKind.NoTurn => Consequence.Refuse,
            FindingKind.HardSpot => Consequence.Grind,
            FindingKind.Groove or FindingKind.Pitting => Consequence.Plan,
            FindingKind.Ridge => Consequence.HandFeed,
            FindingKind.Glaze => Consequence.Scuff,
            FindingKind.Waves => Consequence.ReadMore,
            FindingKind.Fins or FindingKind.Races => Consequence.LookCloser,
            _ => Consequence.None,
        };

    /// <summary>The part's workflow ends with it: it is scrapped or refused.</summary>
    public static bool StopsThePart(FindingKind kind) => Means(kind) is Consequence.Scrap or Consequence.Refuse;

    /// <summary>Whether such a part can have it: a drum has no fins.</summary>
    public static bool CanBeOn(FindingKind kind, PartKind part) => kind != FindingKind.Fins || part == PartKind.Rotor;

    /// <summary>Whether it has a depth or height that is worth measuring.</summary>
    public static bool HasDepth(FindingKind kind) =>
        kind is FindingKind.Groove or FindingKind.Ridge or FindingKind.Pitting or FindingKind.Waves;
}
