using Uncial.Simulation;

namespace Uncial.Practice.Drills;

/// <summary>Draws the items of the drills: a seed and a number give the same item everywhere.</summary>
public static class DrillItems
{
    /// <summary>One item.</summary>
    /// <param name="kind">The drill.</param>
    /// <param name="seed">Seed of the run.</param>
    /// <param name="number">Which item of it, from 1 on.</param>
    public static DrillItem Draw(DrillKind kind, long seed, int number)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(number, 1);
        var chance = new Chance(unchecked(seed * 1_000_003 + number));
        // Items of one run differ in kind: the first few do not repeat one another.
        return kind switch
        {
            DrillKind.Units => UnitDrill.Item(chance, number),
            DrillKind.Markings => MarkingDrill.Item(chance),
            DrillKind.Scratches => ScratchDrill.Item(chance),
            DrillKind.Adapters => AdapterDrill.Item(chance, number),
            DrillKind.Locks => LockDrill.Item(chance),
            _ => ReadingDrill.Item(kind, chance, number),
        };
    }

    /// <summary>The same in another order.</summary>
    internal static IReadOnlyList<Choice> Mixed(Chance chance, IEnumerable<Choice> choices)
    {
        List<Choice> mixed = [.. choices];
        for (var i = mixed.Count - 1; i > 0; i--)
        {
            var j = (int)(chance.Share() * (i + 1));
            (mixed[i], mixed[j]) = (mixed[j], mixed[i]);
        }
        return mixed;
    }
}
