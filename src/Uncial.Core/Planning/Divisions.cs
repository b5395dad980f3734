using Uncial.Core.Lengths;

namespace Uncial.Core.Planning;

/// <summary>A technique's depths in whole divisions of a dial: least rounded up, greatest down, nothing raised.</summary>
internal sealed record Divisions(long RoughMin, long RoughMax, long FinishMin, long FinishMax, bool SparksOut)
{
    /// <summary>The technique on this dial, or null where no whole division fits between a least and a greatest depth.</summary>
    public static Divisions? Of(Technique t, Length q)
    {
        var usesRough = t.MaxRough > 0;
        var (roughMin, roughMax) = usesRough ? (Math.Max(1, Up(t.RoughMin, q)), Down(t.RoughMax, q)) : (1, 1);
        var (finishMin, finishMax) = t.SparksOut ? (0, 0) : (Math.Max(1, Up(t.FinishMin, q)), Down(t.FinishMax, q));
        return roughMin > roughMax || finishMin > finishMax ? null : new(roughMin, roughMax, finishMin, finishMax, t.SparksOut);
    }

    public static long Up(Length depth, Length q) => (long)Math.Ceiling(depth / q);

    private static long Down(Length depth, Length q) => (long)Math.Floor(depth / q);
}

/// <summary>How one side is cut: roughing passes and finishing pass, in divisions.</summary>
internal sealed record SideCut(IReadOnlyList<long> Roughs, long Finish)
{
    public static readonly SideCut None = new([], 0);

    public long Total => Roughs.Sum() + Finish;
}

/// <summary>How the metal is shared out over the passes of every side.</summary>
internal sealed record Distribution(IReadOnlyList<SideCut> Sides, bool Together)
{
    public long Total => Sides.Sum(s => s.Total);

    /// <summary>The least metal that reaches every need, then the fewest passes; null where no number of passes reaches.</summary>
    public static Distribution? Least(Divisions steps, long[] need, bool twinCutter, int minRough, int maxRough)
    {
        if (steps.SparksOut) minRough = Math.Max(1, minRough);
        if (!twinCutter && need.Length > 1)
        {
            // Each face in its own time; one that needs nothing is left alone.
            var sides = need.Select(n => n == 0 ? SideCut.None : Least(steps, [n], true, minRough, maxRough)?.Sides[0]).ToList();
            return sides.Contains(null) ? null : new(sides!, Together: false);
        }

        (int Roughs, long[] Take)? best = null;
        for (var k = minRough; k <= maxRough; k++)
        {
            var (low, high) = (k * steps.RoughMin + steps.FinishMin, k * steps.RoughMax + steps.FinishMax);
            var take = need.Select(n => Math.Max(n, low)).ToArray();
            if (take.Any(n => n > high)) continue;
            if (best is null || take.Sum() < best.Value.Take.Sum()) best = (k, take);
        }
        return best is { } b ? new([.. b.Take.Select(n => Share(steps, n, b.Roughs))], Together: true) : null;
    }

    /// <summary>The finish no deeper than it must be, the rest evenly over the roughs, larger first.</summary>
    private static SideCut Share(Divisions steps, long total, int roughs)
    {
        if (roughs == 0) return new([], total);
        var finish = Math.Max(steps.FinishMin, total - roughs * steps.RoughMax);
        var (each, over) = Math.DivRem(total - finish, roughs);
        return new([.. Enumerable.Range(0, roughs).Select(i => each + (i < over ? 1 : 0))], finish);
    }

    /// <summary>The passes in the order in which they are made, each with its divisions per side.</summary>
    public IEnumerable<(PassKind Kind, long[] Divisions)> InOrder(bool sparksOut)
    {
        var groups = Together
            ? [Enumerable.Range(0, Sides.Count).ToArray()]
            : Enumerable.Range(0, Sides.Count).Where(i => Sides[i].Total > 0).Select(i => new[] { i });
        foreach (var sides in groups)
        {
            for (var i = 0; i < Sides[sides[0]].Roughs.Count; i++) yield return (PassKind.Rough, Only(sides, s => s.Roughs[i]));
            if (sparksOut) yield return (PassKind.SparkOut, Only(sides, _ => 0));
            else yield return (PassKind.Finish, Only(sides, s => s.Finish));
        }
    }

    private long[] Only(int[] sides, Func<SideCut, long> of) =>
        [.. Sides.Select((side, i) => sides.Contains(i) ? of(side) : 0)];
}
