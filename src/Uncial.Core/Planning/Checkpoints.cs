using System.Globalization;
using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Reasoning;

namespace Uncial.Core.Planning;

/// <summary>
/// Lays the passes out with their forecast and bound, and puts a measurement before every pass that could reach past machine-to.
/// </summary>
internal sealed class Checkpoints
{
    private readonly PlanRequest request;
    private readonly long[] cutThen;
    private PlanRequest then;
    private readonly Steps steps;
    private readonly Length q;
    private readonly long[] cut;
    private readonly bool[] touched;
    private readonly List<PlannedPass> passes = [];

    private Checkpoints(PlanRequest request, Steps steps)
    {
        (this.request, this.steps, q) = (request, steps, request.Dial.DepthPerDivision);
        cut = new long[request.Sides.Count];
        (then, cutThen) = (request, new long[cut.Length]);
        touched = new bool[cut.Length];
    }

    public PlanStart Start { get; private set; } = PlanStart.Free;

    public bool PastDiscard { get; private set; }

    /// <summary>
    /// By how much a pass behind a checkpoint would still end past machine-to, if the part measures there what the plan expects: it would
    /// be
    /// begun and hardly be finished. 0 where all of it can go on.
    /// </summary>
    public Length ShortAtCheckpoint { get; private set; }

    /// <summary>The dial is unconfirmed, and a measurement before one of the passes settles it.</summary>
    public bool SettlesAtCheckpoint { get; private set; }

    public long Total
    {
        get
        {
            var total = 0L;
            foreach (var side in cut)
                total += side;
            return total;
        }
    }

    public IReadOnlyList<PlannedPass> Passes => passes;

    public static Checkpoints Apply(
        PlanRequest request,
        Divisions divisions,
        Distribution distribution,
        long[] need,
        Length budget,
        Steps steps
    )
    {
        var result = new Checkpoints(request, steps);
        var planned = distribution.InOrder(divisions.SparksOut);
        if (planned.Count > 0 && result.PastMachineTo(planned[0].Divisions))
            planned = result.ShortenFirst(planned, divisions, need, budget);
        foreach (var (kind, each) in planned)
            result.Add(kind, each);
        return result;
    }

    /// <summary>The passes as they are given: a first one whose bound is past machine-to blocks the plan.</summary>
    public static Checkpoints Lay(PlanRequest request, IReadOnlyList<(PassKind Kind, long[] Divisions)> passes, Steps steps)
    {
        var result = new Checkpoints(request, steps);
        if (passes.Count > 0 && result.PastMachineTo(passes[0].Divisions))
            result.Start = PlanStart.Blocked;
        foreach (var (kind, each) in passes)
            result.Add(kind, each);
        return result;
    }

    /// <summary>
    /// Before the first pass a new measurement tells nothing, so the pass is made shallower until its bound is inside, and the rest is
    /// planned anew for after the measurement. Where that cannot be, the plan stays as it is and is not started.
    /// </summary>
    private List<(PassKind Kind, long[] Divisions)> ShortenFirst(
        List<(PassKind Kind, long[] Divisions)> planned,
        Divisions divisions,
        long[] need,
        Length budget
    )
    {
        var (kind, first) = (planned[0].Kind, planned[0].Divisions.ToArray());
        var least = kind == PassKind.Rough ? divisions.RoughMin : divisions.FinishMin;
        while (Past(first) is > 0 and var tooMany)
            if (!LowerDeepest(first, tooMany, least))
            {
                Start = PlanStart.Blocked;
                return planned;
            }
        // What the shortened pass leaves goes onto the passes that follow it, which must be able to take it.
        var left = need.Select((n, i) => Math.Max(0, n - first[i])).ToArray();
        RoughCount RoughsLeft(int side, int more)
        {
            var roughs =
                planned.Count(p => p.Kind == PassKind.Rough && p.Divisions[side] > 0) - (kind == PassKind.Rough && first[side] > 0 ? 1 : 0);
            return new(roughs, roughs + more);
        }
        for (var more = 0; more <= 6; more++)
        {
            var rest = Distribution.Least(divisions, left, request.TwinCutter, [.. cut.Select((_, i) => RoughsLeft(i, more))]);
            // More passes may take more metal than there is; then the plan stays as it was found, and a lead decides.
            if (rest is null || (first.Sum() + rest.Total) * q > budget)
                continue;
            Start = PlanStart.Shortened;
            steps.Add("firstShortened", "", first.Sum() * q, null);
            return [(kind, first), .. rest.InOrder(divisions.SparksOut)];
        }
        Start = PlanStart.Blocked;
        return planned;
    }

    /// <summary>Takes so many divisions off the deepest side, evenly once they are level; false where none may be lower.</summary>
    private static bool LowerDeepest(long[] divisions, long by, long least)
    {
        var deepest = divisions.Length > 1 && divisions[1] > divisions[0] ? 1 : 0;
        var other = divisions.Length > 1 ? divisions[1 - deepest] : 0;
        if (divisions[deepest] <= least)
            return false;
        if (divisions[deepest] == other && by > 1)
        {
            var each = Math.Min(by / 2, other - least);
            for (var i = 0; i < divisions.Length; i++)
                divisions[i] -= each;
        }
        else
            divisions[deepest] -= Math.Min(by, Math.Max(1, divisions[deepest] - Math.Max(other, least)));
        return true;
    }

    private bool PastMachineTo(long[] next) => Past(next) > 0;

    /// <summary>By how many divisions at least a pass must be shallower so that its bound is inside machine-to; 0 where it is.</summary>
    private long Past(long[] next)
    {
        Span<long> after = stackalloc long[next.Length];
        for (var i = 0; i < after.Length; i++)
            after[i] = cut[i] + next[i];
        var margin = Limits.Margin(
            request.Kind,
            BoundAt(request, after, next.Length > 1 && next[1] > 0, quantity: null),
            request.MachineTo
        );
        if (margin >= Length.Zero)
            return 0;
        // No division wins more than this, so none too many is taken off.
        var most = (request.Kind == PartKind.Drum ? 2 : 1) * (request.Dial.Confirmed ? 1 : 2) * q;
        return Math.Max(1, (long)Math.Floor(-margin / most));
    }

    private void Add(PassKind kind, long[] divisions)
    {
        var (turnFirst, before) = (false, cut.ToArray());
        for (var i = 0; i < cut.Length; i++)
        {
            cut[i] += divisions[i];
            if (divisions[i] == 0)
                continue;
            turnFirst |= i > 0 && !touched[i] && request is { TwinCutter: false, SecondChuckingRunout: not null, IsTurnedRound: false };
            touched[i] = true;
        }
        var number = (passes.Count + 1).ToString(CultureInfo.InvariantCulture);
        var total = Total * q;
        var size = request.Kind == PartKind.Rotor ? request.Touch - total : request.Touch + 2 * total;
        steps.Add("sizeAfter", request.Kind == PartKind.Rotor ? "{0} − {1}" : "{0} + 2 · {1}", size, number, request.Touch, total);
        var bound = BoundAt(request, cut, cut.Length > 1 && touched[1], "boundAfter");
        var past = Limits.Margin(request.Kind, bound, request.MachineTo) < Length.Zero;
        // Measured between the chuckings, too: the second stands on the first.
        var measureFirst =
            passes.Count > 0 && kind != PassKind.SparkOut && (past || turnFirst || (passes.Count == 1 && Start == PlanStart.Shortened));
        // A measurement settles a dial that nobody has verified ; what lies behind it is planned anew then, and refuses nothing now.
        SettlesAtCheckpoint |= measureFirst && !request.Dial.Confirmed;
        PastDiscard |= !SettlesAtCheckpoint && request.Discard is { } discard && Limits.Margin(request.Kind, bound, discard) < Length.Zero;
        if (measureFirst)
            MeasuredAt(before);
        if (kind != PassKind.SparkOut && passes.Count > 0)
            LookPastCheckpoint();
        passes.Add(
            new(
                kind,
                divisions,
                Each(i => divisions[i] * q),
                Each(i => cut[i] * request.Dial.Division),
                size,
                bound,
                measureFirst,
                Each(i => CleanShare(request.Sides[i], cut[i] * q))
            )
            {
                TurnFirst = turnFirst,
            }
        );
    }

    /// <summary>What would be known after a measurement that finds what the plan expects.</summary>
    private void MeasuredAt(long[] before)
    {
        var (total, sign) = (0L, Limits.Sign(request.Kind) * (request.Kind == PartKind.Drum ? 2 : 1));
        foreach (var side in before)
            total += side;
        var size = request.Touch - sign * total * q;
        then = request with
        {
            Touch = size,
            TouchBound = size - Limits.Sign(request.Kind) * request.Uncertainty,
            Worst = request.Worst - Limits.Sign(request.Kind) * (request.DeepestBesideDark<long>(before) ?? 0) * q,
            Dial = request.Dial with { Confirmed = true },
            Sides =
            [
                .. request.Sides.Select(
                    (s, i) => s with { Need = Length.Max(Length.Zero, s.Need - before[i] * q), Done = s.Done + before[i] * q }
                ),
            ],
        };
        before.CopyTo(cutThen, 0);
    }

    private void LookPastCheckpoint()
    {
        if (ReferenceEquals(then, request))
            return;
        Span<long> since = stackalloc long[cut.Length];
        for (var i = 0; i < since.Length; i++)
            since[i] = cut[i] - cutThen[i];
        var margin = Limits.Margin(request.Kind, BoundAt(then, since, cut.Length > 1 && touched[1], null), request.MachineTo);
        if (-margin > ShortAtCheckpoint)
            ShortAtCheckpoint = -margin;
    }

    private T[] Each<T>(Func<int, T> of)
    {
        var row = new T[cut.Length];
        for (var i = 0; i < row.Length; i++)
            row[i] = of(i);
        return row;
    }

    private static double CleanShare(SideNeed side, Length depth) =>
        depth >= side.Need ? 1 : Math.Min(Coverage.CleanShare(side.Done + depth - side.Relief, side.Runout ?? side.Done + side.Need), 0.99);

    /// <summary>
    /// The size that the part surely is not worse than after these depths (about 98 %). The second term is for places where one side is
    /// still dark, from which whole grooves may still be missing.
    /// </summary>
    private Length BoundAt(PlanRequest request, ReadOnlySpan<long> divisions, bool secondCut, string? quantity)
    {
        var (z, u, factor) = (request.Dial.Allowance, request.Uncertainty, request.Dial.Confirmed ? 1 : 2);
        var (total, grooves) = (0L, Length.Zero);
        for (var i = 0; i < divisions.Length; i++)
        {
            total += divisions[i];
            if (divisions[i] * q < request.Sides[i].Need)
                grooves += request.Sides[i].Groove;
        }
        var (sum, beside) = (total * factor * q, request.DeepestBesideDark(divisions));
        // Where everything is clean no place is dark any more, and the first term stands alone.
        var (worst, deepest, unread) = (beside is null ? null : request.Worst, (beside ?? 0) * factor * q, request.UnreadReliefWhereDark);
        var second = secondCut && !request.TwinCutter && request.SecondChuckingRunout is { } runout ? runout : Length.Zero;
        Length bound;
        string formula;
        if (request.Kind == PartKind.Rotor)
        {
            bound = request.TouchBound - sum - 2 * z;
            formula = (worst is null, second > Length.Zero) switch
            {
                (true, false) => "{0} − {1} − 2 · {2}",
                (true, true) => "{0} − {1} − 2 · {2} − {7}",
                (false, false) => "min({0} − {1} − 2 · {2}, {3} − {8} − {4} − {5} − {6} − {2})",
                _ => "min({0} − {1} − 2 · {2}, {3} − {8} − {4} − {5} − {6} − {2}) − {7}",
            };
            if (worst is { } least)
                bound = Length.Min(bound, least - unread - grooves - u - deepest - z);
            bound -= second;
        }
        else
        {
            bound = request.TouchBound + 2 * sum + 2 * z;
            formula = worst is null ? "{0} + 2 · {1} + 2 · {2}" : "max({0} + 2 · {1} + 2 · {2}, {3} + {8} + 2 · {4} + {5} + {6} + {2})";
            if (worst is { } greatest)
                bound = Length.Max(bound, greatest + unread + 2 * grooves + u + deepest + z);
        }
        if (quantity is not null)
            steps.Add(
                quantity,
                formula,
                bound,
                (passes.Count + 1).ToString(CultureInfo.InvariantCulture),
                request.TouchBound,
                sum,
                z,
                worst ?? Length.Zero,
                grooves,
                u,
                deepest,
                second,
                unread
            );
        return bound;
    }
}
