using Uncial.Core.Lengths;

namespace Uncial.Core.Mounting;

/// <summary>What an adapter of the board is.</summary>
public enum AdapterKind
{
    /// <summary>Cone that centres a hole from the inside.</summary>
    Cone,

    /// <summary>Cup that clamps the machined face round the hole; always a pair of the same size.</summary>
    Cup,

    /// <summary>Spacer that fills the arbor.</summary>
    Spacer,

    /// <summary>Self-centring expanding chuck.</summary>
    Chuck,

    /// <summary>Backing plate of a chuck, or face plate.</summary>
    Plate,

    /// <summary>Cone for a bearing race of a hub.</summary>
    RaceCone,

    /// <summary>Jaws of an engine lathe, which grip a hub.</summary>
    Jaws,
}

/// <summary>An adapter of the shop's board. What a kind does not have is 0.</summary>
public sealed record Adapter
{
    /// <summary>What the shop calls it; no two have the same name.</summary>
    public required string Name { get; init; }

    /// <summary>What it is.</summary>
    public required AdapterKind Kind { get; init; }

    /// <summary>Bore that goes on the arbor; 0 where it fits any, or sits on the spindle.</summary>
    public Length Bore { get; init; }

    /// <summary>Cone, race cone, chuck, jaws: least diameter that it takes.</summary>
    public Length Least { get; init; }

    /// <summary>Cone, race cone, chuck, jaws: greatest diameter that it takes.</summary>
    public Length Greatest { get; init; }

    /// <summary>Cup, plate: outside diameter, up to which it seats.</summary>
    public Length Outside { get; init; }

    /// <summary>Cup, plate: diameter of its recess, from which on it seats.</summary>
    public Length Recess { get; init; }

    /// <summary>How much of the arbor it takes.</summary>
    public Length Height { get; init; }

    /// <summary>How many of it the shop has.</summary>
    public int Count { get; init; } = 1;

    /// <summary>It goes on an arbor of a diameter.</summary>
    public bool Fits(Length arbor) => Bore == Length.Zero || Bore == arbor;

    /// <summary>How far a cone goes into a hole, as a share of its length: 0 at its small end, 1 at its large one.</summary>
    /// <param name="hole">Diameter of the hole or race.</param>
    public double Enters(Length hole) => Greatest <= Least ? 0 : (double)((hole - Least) / (Greatest - Least));
}

/// <summary>The sizes of a part that decide how it is mounted. Null where nobody has measured it.</summary>
public sealed record MountShape
{
    /// <summary>No part that a brake lathe takes, and nothing that mounts one, is larger.</summary>
    public static Length LargestSize { get; } = Length.FromMillimetres(900m);

    /// <summary>Hub and races are one piece with it.</summary>
    public bool Hubbed { get; init; }

    /// <summary>Diameter of the hole in the middle; of a hubbed part not needed.</summary>
    public Length? Hole { get; init; }

    /// <summary>Outside diameter of the machined face round the hole, up to which an adapter seats flat.</summary>
    public Length? Register { get; init; }

    /// <summary>From the open edge of the drum, or the rim of the hat, to the mounting face.</summary>
    public Length? Depth { get; init; }

    /// <summary>Thickness of the web that is clamped.</summary>
    public Length? Web { get; init; }

    /// <summary>Diameter of the bearing race on the lathe's side.</summary>
    public Length? NearRace { get; init; }

    /// <summary>Diameter of the bearing race on the nut's side.</summary>
    public Length? FarRace { get; init; }

    /// <summary>From one race to the other.</summary>
    public Length? RacesApart { get; init; }

    /// <summary>A rotor with vents between its faces.</summary>
    public bool Vented { get; init; }

    /// <summary>What is not known and is needed before a mounting can be picked, by name.</summary>
    public IReadOnlyList<string> Missing
    {
        get
        {
            List<string> missing = [];
            void Need(string name, Length? size)
            {
                if (size is null)
                    missing.Add(name);
            }
            if (Hubbed)
            {
                Need("nearRace", NearRace);
                Need("farRace", FarRace);
                Need("racesApart", RacesApart);
            }
            else
            {
                Need("hole", Hole);
                Need("register", Register);
                Need("depth", Depth);
                Need("web", Web);
            }
            return missing;
        }
    }
}
