namespace Uncial.Practice.Jobs;

/// <summary>A cone of the board: the holes that it centres, mm.</summary>
public readonly record struct BoardCone(double Least, double Greatest);

/// <summary>A pair of cups of the board: outside and recess, mm.</summary>
public readonly record struct BoardCups(double Outside, double Recess);

/// <summary>The adapters of the practice bench.</summary>
public static class PracticeBoard
{
    /// <summary>The cones, the smallest first.</summary>
    public static IReadOnlyList<BoardCone> Cones { get; } = [new(38, 58), new(52, 74), new(68, 92)];

    /// <summary>The pairs of cups, the smallest first.</summary>
    public static IReadOnlyList<BoardCups> Cups { get; } = [new(96, 70), new(112, 84), new(128, 96), new(150, 110)];
}
