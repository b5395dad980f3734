using Uncial.Core.Lengths;
using Uncial.Core.Mounting;
using Uncial.Core.Planning;
using Uncial.Practice.Lessons;

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

    /// <summary>The arbor on which everything of the board goes, mm.</summary>
    private const decimal ArborMm = 25m;

    /// <summary>The lathe of a lesson as its profile says.</summary>
    /// <param name="lathe">The lathe of the lesson.</param>
    /// <param name="name">What it is called.</param>
    public static Lathe LatheOf(LessonLathe lathe, string name = "")
    {
        ArgumentNullException.ThrowIfNull(lathe);
        return new()
        {
            Name = name,
            Division = Mm(lathe.DivisionMm),
            CountsDiameter = lathe.CountsDiameter,
            DialAllowance = Mm(lathe.DivisionMm),
            NoseRadius = Length.FromMillimetres(0.8m),
            Feeds = [new("1", Mm(0.06)), new("2", Mm(0.12)), new("3", Mm(0.25))],
            RoughFeed = "2",
            FinishFeed = "1",
            Speeds = [60m, 85m, 110m, 150m],
            Arbor = new(Length.FromMillimetres(ArborMm), Mm(240), Mm(90), Mm(22)),
        };
    }

    /// <summary>The board as the station Mount knows it, the names counted from 1.</summary>
    /// <param name="cone">Name of a cone, with its number in it.</param>
    /// <param name="cups">Name of a pair of cups.</param>
    /// <param name="spacer">Name of a spacer.</param>
    public static IEnumerable<Adapter> Adapters(Func<int, string> cone, Func<int, string> cups, Func<int, string> spacer)
    {
        ArgumentNullException.ThrowIfNull(cone);
        ArgumentNullException.ThrowIfNull(cups);
        ArgumentNullException.ThrowIfNull(spacer);
        var bore = Length.FromMillimetres(ArborMm);
        for (var i = 0; i < Cones.Count; i++)
            yield return new()
            {
                Name = cone(i + 1),
                Kind = AdapterKind.Cone,
                Bore = bore,
                Least = Mm(Cones[i].Least),
                Greatest = Mm(Cones[i].Greatest),
                Height = Mm(34),
            };
        for (var i = 0; i < Cups.Count; i++)
            yield return new()
            {
                Name = cups(i + 1),
                Kind = AdapterKind.Cup,
                Bore = bore,
                Outside = Mm(Cups[i].Outside),
                Recess = Mm(Cups[i].Recess),
                Height = Mm(32),
                Count = 2,
            };
        foreach (var height in new[] { 5, 12, 25, 50 })
            yield return new()
            {
                Name = spacer(height),
                Kind = AdapterKind.Spacer,
                Bore = bore,
                Outside = Mm(45),
                Height = Mm(height),
                Count = 2,
            };
    }

    private static Length Mm(double mm) => Length.FromMillimetres((decimal)mm);
}
