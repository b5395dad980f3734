using Uncial.Core.Lengths;
using Uncial.Core.Reasoning;

namespace Uncial.Core.Planning;

/// <summary>A technique's depths in whole divisions of a dial: least rounded up, greatest down, nothing raised.</summary>
internal sealed record Divisions(long RoughMin, long RoughMax, long FinishMin, long FinishMax, bool SparksOut)
{
    /// <summary>The technique on this dial, or null where no whole division fits between a least and a greatest depth.</summary>
    public static Divisions? Of(Technique t, Length q, Steps steps)
    {
        var (roughMin, roughMax) = t.MaxRough > 0 ? (Math.Max(1, Up(t.RoughMin, q)), Down(t.RoughMax, q)) : (1, 1);
        var (finishMin, finishMax) = t.SparksOut ? (0, 0) : (Math.Max(1, Up(t.FinishMin, q)), Down(t.FinishMax, q));
        if (t.MaxRough > 0)
            Say("rough", t.RoughMin, t.RoughMax, roughMin, roughMax);
        if (!t.SparksOut)
            Say("finish", t.FinishMin, t.FinishMax, finishMin, finishMax);
        return roughMin > roughMax || finishMin > finishMax ? null : new(roughMin, roughMax, finishMin, finishMax, t.SparksOut);

        void Say(string pass, Length least, Length most, long low, long high)
        {
            steps.Add("leastDivisions", "max(1, ⌈{0} / {1}⌉)", low, pass, least, q);
            steps.Add("mostDivisions", "⌊{0} / {1}⌋", high, pass, most, q);
        }
    }

    public static long Up(Length depth, Length q) => (long)Math.Ceiling(depth / q);

    private static long Down(Length depth, Length q) => (long)Math.Floor(depth / q);
}

/// <summary>Fewest and most roughing passes that a side may still get.</summary>
internal readonly record struct RoughCount(int Least, int Most)
{
    /// <summary>What a technique asks of each side, less what is done already.</summary>
    public static RoughCount[] Of(Technique technique, PlanRequest request)
    {
        var counts = new RoughCount[request.Sides.Count];
        for (var i = 0; i < counts.Length; i++)
        {
            var done = !request.TwinCutter && request.RoughsDoneBySide is { } bySide ? bySide[i] : request.RoughsDone;
            counts[i] = new(Math.Max(0, technique.MinRough - done), Math.Max(0, technique.MaxRough - done));
        }
        return counts;
    }
}

/// <summary>How one side is cut: roughing passes and finishing pass, in divisions.</summary>
internal readonly record struct SideCut(long[] Roughs, long Finish)
{
    public static readonly SideCut None = new([], 0);

    public long Total
    {
        get
        {
            var total = Finish;
            foreach (var rough in Roughs)
                total += rough;
            return total;
        }
    }
}

/// <summary>How the metal is shared out over the passes of every side.</summary>
internal sealed record Distribution(SideCut[] Sides, bool Together)
{
    public long Total
    {
        get
        {
            var total = 0L;
            foreach (var side in Sides)
                total += side.Total;
            return total;
        }
    }

    /// <summary>The least metal that reaches every need, then the fewest passes; null where no number of passes reaches.</summary>
    public static Distribution? Least(Divisions steps, long[] need, bool twinCutter, RoughCount[] allowed)
    {
        var sides = new SideCut[need.Length];
        if (!twinCutter && need.Length > 1)
        {
            // Each face in its own time; one that needs nothing is left alone.
            for (var i = 0; i < sides.Length; i++)
            {
                var roughs = need[i] == 0 ? 0 : Roughs(steps, need[i], allowed[i]);
                if (roughs < 0)
                    return null;
                sides[i] = need[i] == 0 ? SideCut.None : Share(steps, need[i], roughs);
            }
            return new(sides, Together: false);
        }
        var passes = Roughs(steps, need.Max(), allowed[0]);
        if (passes < 0)
            return null;
        for (var i = 0; i < sides.Length; i++)
            sides[i] = Share(steps, need[i], passes);
        return new(sides, Together: true);
    }

    /// <summary>
    /// The fewest roughing passes that reach a need, or −1. More passes never take less, since each adds its least depth: the fewest are
    /// the least metal too.
    /// </summary>
    private static int Roughs(Divisions steps, long need, RoughCount allowed)
    {
        var least = steps.SparksOut ? Math.Max(1, allowed.Least) : allowed.Least;
        var shortOf = need - steps.FinishMax;
        var roughs = Math.Max(least, shortOf <= 0 ? 0 : (shortOf + steps.RoughMax - 1) / steps.RoughMax);
        return roughs <= allowed.Most ? (int)roughs : -1;
    }

    /// <summary>The finish no deeper than it must be, the rest evenly over the roughs, larger first.</summary>
    private static SideCut Share(Divisions steps, long need, int roughs)
    {
        var total = Math.Max(need, roughs * steps.RoughMin + steps.FinishMin);
        if (roughs == 0)
            return new([], total);
        var finish = Math.Max(steps.FinishMin, total - roughs * steps.RoughMax);
        var (each, over) = Math.DivRem(total - finish, roughs);
        var shares = new long[roughs];
        for (var i = 0; i < roughs; i++)
            shares[i] = each + (i < over ? 1 : 0);
        return new(shares, finish);
    }

    /// <summary>The passes in the order in which they are made, each with its divisions per side.</summary>
    public List<(PassKind Kind, long[] Divisions)> InOrder(bool sparksOut)
    {
        List<(PassKind, long[])> passes = [];
        var last = sparksOut ? PassKind.SparkOut : PassKind.Finish;
        if (Together)
        {
            for (var i = 0; i < Sides[0].Roughs.Length; i++)
                passes.Add((PassKind.Rough, Array.ConvertAll(Sides, s => s.Roughs[i])));
            passes.Add((last, Array.ConvertAll(Sides, s => sparksOut ? 0 : s.Finish)));
            return passes;
        }
        for (var side = 0; side < Sides.Length; side++)
        {
            if (Sides[side].Total == 0)
                continue;
            foreach (var rough in Sides[side].Roughs)
                passes.Add((PassKind.Rough, Only(side, rough)));
            passes.Add((last, Only(side, sparksOut ? 0 : Sides[side].Finish)));
        }
        return passes;
    }

    private long[] Only(int side, long divisions)
    {
        var row = new long[Sides.Length];
        row[side] = divisions;
        return row;
    }
}
