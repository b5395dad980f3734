using Uncial.Core.Parts;

namespace Uncial.Simulation;

/// <summary>How far parts of a group are worn.</summary>
public enum Wear
{
    /// <summary>Anywhere from nearly new to past discard, as parts come off a fleet.</summary>
    Fleet,

    /// <summary>To about discard, where a judgement is hardest: a rotor −0.03 … +0.12 inside it, a drum −0.05 … +0.25.</summary>
    NearDiscard,
}

/// <summary>A group of virtual parts that have something in common. Lengths in millimetres.</summary>
/// <param name="Name">What the tables call it.</param>
public sealed record Stratum(string Name)
{
    /// <summary>How far they are worn.</summary>
    public Wear Wear { get; init; }

    /// <summary>No machine-to is stated apart from discard: both are the same size.</summary>
    public bool MachineToIsDiscard { get; init; }

    /// <summary>
    /// Greatest taper over the band: of thickness, both faces together, or of the diameter. Each part has from half of it to all.
    /// </summary>
    public double Taper { get; init; }

    /// <summary>Peak to valley of one wave of three to eight lobes in the size; 0 for what fleets have.</summary>
    public double Lobes { get; init; }

    /// <summary>
    /// How far the tool runs out of parallel over the band, both faces together or on the diameter: from half of it to all.
    /// </summary>
    public double OutOfParallel { get; init; }

    /// <summary>
    /// How far both faces of a rotor are warped together to a saddle, total reading: the mode of a Rayleigh distribution.
    /// </summary>
    public double Warp { get; init; } = 0.010;

    /// <summary>Share of lathes whose dial nobody has verified.</summary>
    public double UnverifiedDials { get; init; } = 0.02;

    /// <summary>Only parts of one kind; null: both.</summary>
    public PartKind? Only { get; init; }

    /// <summary>What comes in day by day.</summary>
    public static Stratum Fleet { get; } = new("fleet");

    /// <summary>Worn to about discard.</summary>
    public static Stratum NearDiscard { get; } = new("near discard") { Wear = Wear.NearDiscard };

    /// <summary>The groups of the study.</summary>
    public static IReadOnlyList<Stratum> All { get; } =
    [
        Fleet,
        NearDiscard,
        new("near discard, machine-to = discard") { Wear = Wear.NearDiscard, MachineToIsDiscard = true },
        new("worn to a taper, machine-to = discard") { MachineToIsDiscard = true, Taper = 0.20 },
        new("bell-mouthed by 0.18, near discard")
        {
            Wear = Wear.NearDiscard,
            Taper = 0.18,
            Only = PartKind.Drum,
            MachineToIsDiscard = true,
        },
        new("three to eight lobes of 0.01")
        {
            Wear = Wear.NearDiscard,
            Lobes = 0.01,
            MachineToIsDiscard = true,
        },
        new("three to eight lobes of 0.02")
        {
            Wear = Wear.NearDiscard,
            Lobes = 0.02,
            MachineToIsDiscard = true,
        },
        new("three to eight lobes of 0.04")
        {
            Wear = Wear.NearDiscard,
            Lobes = 0.04,
            MachineToIsDiscard = true,
        },
        new("cross-slide out of parallel by 0.02") { OutOfParallel = 0.02, MachineToIsDiscard = true },
        new("dials that nobody has verified") { UnverifiedDials = 1 },
    ];
}
