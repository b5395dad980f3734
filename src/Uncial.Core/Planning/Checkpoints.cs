using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Core.Planning;

/// <summary>Lays the passes out with their forecast and bound, and puts a measurement before every pass that could reach past machine-to.</summary>
internal sealed class Checkpoints
{
    private readonly PlanRequest request;
    private readonly Length q;
    private readonly long[] cut;
    private readonly List<PlannedPass> passes = [];

    private Checkpoints(PlanRequest request)
    {
        this.request = request;
        q = request.Dial.DepthPerDivision;
        cut = new long[request.Sides.Count];
    }

    public PlanStart Start { get; private set; } = PlanStart.Free;

    public bool PastDiscard { get; private set; }

    public long Total => cut.Sum();

    public IReadOnlyList<PlannedPass> Passes => passes;

    public static Checkpoints Apply(PlanRequest request, Divisions steps, Distribution distribution, long[] need)
    {
        var result = new Checkpoints(request);
        var planned = distribution.InOrder(steps.SparksOut).ToList();
        if (planned.Count > 0 && result.PastMachineTo(planned[0].Divisions)) planned = result.ShortenFirst(planned, steps, need);
        foreach (var (kind, divisions) in planned) result.Add(kind, divisions);
        return result;
    }

    /// <summary>
    /// Before the first pass a new measurement tells nothing, so the pass is made shallower until its bound is inside, and the rest is
    /// planned anew for after the measurement. Where that cannot be, the plan stays as it is and is not started.
    /// </summary>
    private List<(PassKind Kind, long[] Divisions)> ShortenFirst(List<(PassKind Kind, long[] Divisions)> planned, Divisions steps, long[] need)
    {
        var (kind, first) = (planned[0].Kind, planned[0].Divisions.ToArray());
        var least = kind == PassKind.Rough ? steps.RoughMin : steps.FinishMin;
        while (PastMachineTo(first))
        {
            var deepest = Array.IndexOf(first, first.Max());
            if (first[deepest] <= least) { Start = PlanStart.Blocked; return planned; }
            first[deepest]--;
        }
        // What the shortened pass leaves goes onto the passes that follow it, which must be able to take it.
        var left = need.Select((n, i) => Math.Max(0, n - first[i])).ToArray();
        var roughsLeft = planned.Count(p => p.Kind == PassKind.Rough) - (kind == PassKind.Rough ? 1 : 0);
        for (var more = 0; more <= 6; more++)
        {
            var rest = Distribution.Least(steps, left, request.TwinCutter, roughsLeft, roughsLeft + more);
            if (rest is null) continue;
            Start = PlanStart.Shortened;
            return [(kind, first), .. rest.InOrder(steps.SparksOut)];
        }
        Start = PlanStart.Blocked;
        return planned;
    }

    private bool PastMachineTo(long[] next) =>
        Limits.Margin(request.Kind, BoundAt([.. cut.Select((c, i) => (c + next[i]) * q)]), request.MachineTo) < Length.Zero;

    private void Add(PassKind kind, long[] divisions)
    {
        for (var i = 0; i < cut.Length; i++) cut[i] += divisions[i];
        var depth = cut.Select(c => c * q).ToArray();
        var bound = BoundAt(depth);
        var total = depth.Aggregate(Length.Zero, (sum, d) => sum + d);
        PastDiscard |= request.Discard is { } discard && Limits.Margin(request.Kind, bound, discard) < Length.Zero;
        var measureFirst = passes.Count > 0 && kind != PassKind.SparkOut
            && (Limits.Margin(request.Kind, bound, request.MachineTo) < Length.Zero || (passes.Count == 1 && Start == PlanStart.Shortened));
        passes.Add(new(
            kind, divisions, [.. divisions.Select(d => d * q)], [.. cut.Select(c => c * request.Dial.Division)],
            request.Kind == PartKind.Rotor ? request.Touch - total : request.Touch + 2 * total,
            bound, measureFirst, [.. request.Sides.Select((side, i) => CleanShare(side, depth[i]))]));
    }

    private static double CleanShare(SideNeed side, Length depth) =>
        depth >= side.Need ? 1 : Math.Min(Coverage.CleanShare(depth - side.Relief, side.Runout ?? side.Need), 0.99);

    /// <summary>
    /// The size that the part surely is not worse than after these depths (about 98 %). The second term is for places where one side is
    /// still dark, from which whole grooves may still be missing.
    /// </summary>
    private Length BoundAt(Length[] depth)
    {
        var z = request.Dial.Allowance;
        var factor = request.Dial.Confirmed ? 1 : 2;
        var sum = depth.Aggregate(Length.Zero, (total, d) => total + d) * factor;
        var deepest = depth.Max() * factor;
        var grooves = request.Sides.Select((s, i) => depth[i] < s.Need ? s.Groove : Length.Zero).Aggregate(Length.Zero, (total, g) => total + g);
        if (request.Kind == PartKind.Rotor)
        {
            var clean = request.TouchBound - sum - 2 * z;
            return request.Worst is { } least ? Length.Min(clean, least - grooves - request.Uncertainty - deepest - z) : clean;
        }
        var cleanBore = request.TouchBound + 2 * sum + 2 * z;
        return request.Worst is { } greatest ? Length.Max(cleanBore, greatest + 2 * grooves + request.Uncertainty + deepest + z) : cleanBore;
    }
}
