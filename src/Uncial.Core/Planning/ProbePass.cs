using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Reasoning;

namespace Uncial.Core.Planning;

/// <summary>
/// A plan whose first pass is as deep as tells most where nobody measured the run-out of a face: what it leaves dark says how far the face
/// runs out, and only that is cut then. Source: computation, section 7: least expected metal and passes over the run-outs that are
/// possible.
/// </summary>
public static class ProbePass
{
    /// <summary>Key of the option.</summary>
    public const string Key = "probe";

    /// <summary>
    /// Metal that a pass more must save. With it, 0.3 passes more than the working technique halve its waste (docs/study.md).
    /// </summary>
    private static readonly Length WorthOfAPass = Length.FromMillimetres(0.008m);

    private const int Possible = 16;

    /// <summary>
    /// The lightest technique of a request that cuts: the one that the first pass and what follows are taken from; null without one.
    /// </summary>
    public static Technique? Lightest(PlanRequest request)
    {
        ArgumentNullException.ThrowIfNull(request);
        return request
            .Techniques.Where(t => !t.SparksOut && t is { MinRough: 0, MaxRough: > 0 } && t.RoughMin > Length.Zero)
            .MinBy(t => t.RoughMin);
    }

    /// <summary>
    /// The plan; null for a drum, whose out-of-round is known, and where every run-out was measured, a pass has been made, or it cannot
    /// be started.
    /// </summary>
    internal static PlanOption? Of(PlanRequest request, Length budget)
    {
        var assumed = request.Sides.Select(IsAssumed).ToArray();
        if (
            request.Kind == PartKind.Drum
            || !assumed.Contains(true)
            || request.Sides.Any(s => s.Done > Length.Zero)
            || Lightest(request) is not { } technique
        )
            return null;
        var (steps, q) = (new Steps(), request.Dial.DepthPerDivision);
        if (Divisions.Of(technique, q, steps) is not { } divisions || divisions.RoughMax < divisions.RoughMin)
            return null;
        // The first pass may be as deep as any technique's: it is not a light one, it is the one that tells most.
        var deepest = (long)Math.Floor(request.Techniques.Where(t => !t.SparksOut).Max(t => t.RoughMax) / q);
        var first = new long[assumed.Length];
        var expected = Length.Zero;
        for (var i = 0; i < first.Length; i++)
        {
            var need = Divisions.Up(request.Sides[i].Need, q);
            Length metal;
            if (assumed[i])
                (first[i], metal) = Best(request, i, divisions, deepest, q);
            else
                (first[i], metal) = (Math.Clamp(need, divisions.RoughMin, deepest), Math.Max(need, divisions.RoughMin) * q);
            if (need == 0 && !request.TwinCutter)
                (first[i], metal) = (0, Length.Zero);
            expected += metal;
        }
        if (Lay(request, divisions, technique, first, q) is not { } passes)
            return null;
        var laid = Checkpoints.Lay(request, passes, steps);
        var total = laid.Total * q;
        if (laid.Start == PlanStart.Blocked || laid.PastDiscard || total > budget)
            return null;
        steps.Add("metal", "{0} · {1}", total, null, laid.Total, q);
        steps.Add("probeExpected", "", expected, null);
        var needed = request.Sides.Aggregate(Length.Zero, (sum, s) => sum + s.Need);
        List<Note> notes = [new Note.ProbeExpects(expected, total)];
        if (laid.ShortAtCheckpoint > Length.Zero)
            notes.Add(new Note.ShortAtCheckpoint(laid.ShortAtCheckpoint));
        return new(Key, null, laid.Start, total, total - needed, laid.Passes, notes) { Steps = steps.All };
    }

    private static bool IsAssumed(SideNeed side) =>
        side is { RunoutAssumed: true, Runout: { } runout } && side.Done == Length.Zero && runout > Length.Zero;

    /// <summary>The first pass, and after it whatever may be left at most.</summary>
    private static List<(PassKind, long[])>? Lay(PlanRequest request, Divisions divisions, Technique technique, long[] first, Length q)
    {
        var left = request.Sides.Select((s, i) => Math.Max(0, Divisions.Up(s.Need, q) - first[i])).ToArray();
        var counts = first.Select(_ => new RoughCount(0, Math.Max(0, technique.MaxRough - 1))).ToArray();
        if (left.All(l => l == 0))
            return [(PassKind.Rough, first)];
        if (Distribution.Least(divisions, left, request.TwinCutter, counts) is not { } rest)
            return null;
        var after = rest.InOrder(sparksOut: false);
        if (request.TwinCutter || first.Length == 1)
            return [(PassKind.Rough, first), .. after];
        // A single tool: each face its first pass and what is left of it, one after the other.
        List<(PassKind, long[])> all = [];
        for (var i = 0; i < first.Length; i++)
        {
            if (first[i] > 0)
                all.Add((PassKind.Rough, [.. first.Select((d, side) => side == i ? d : 0)]));
            all.AddRange(after.Where(p => p.Divisions[i] > 0));
        }
        return all;
    }

    /// <summary>The depth of least expected metal, with what a pass more is worth, over the run-outs that are possible.</summary>
    private static (long Divisions, Length Metal) Best(PlanRequest request, int i, Divisions divisions, long deepest, Length q)
    {
        var side = request.Sides[i];
        var (least, greatest) = Between(request, i);
        var runouts = Runouts(side.Runout!.Value, least, greatest);
        var (best, bestCost, bestMetal) = (divisions.RoughMin, Length.FromMillimetres(1_000), Length.Zero);
        for (var d = divisions.RoughMin; d <= deepest; d++)
        {
            var (metal, cost) = (Length.Zero, Length.Zero);
            for (var k = 0; k < Possible; k++)
            {
                var (cut, more) = Outcome(d * q, runouts[k], greatest, side, divisions, q);
                // Between twin cutters a pass more cuts the other face as well.
                var other = request.TwinCutter && request.Sides.Count > 1 ? more * divisions.RoughMin * q / 2 : Length.Zero;
                (metal, cost) = (metal + cut, cost + cut + more * WorthOfAPass + other);
            }
            if (cost < bestCost)
                (best, bestCost, bestMetal) = (d, cost, metal / Possible);
        }
        return (best, bestMetal);
    }

    /// <summary>
    /// Metal and passes more, if a face runs out so far: what is seen after the first pass is what the next plan goes by.
    /// </summary>
    private static (Length Metal, int More) Outcome(
        Length depth,
        Length runout,
        Length greatest,
        SideNeed side,
        Divisions divisions,
        Length q
    )
    {
        var (below, finishMax) = (side.Groove + side.Relief, divisions.FinishMax * q);
        if (depth >= runout + below)
            return (depth, 0);
        var clean = (int)(Coverage.CleanShare(depth - side.Relief, runout) * Coverage.Sectors);
        var target =
            clean >= Coverage.Sectors
                ? depth + side.Groove
                : Length.Min(greatest, Coverage.RunoutRange(depth, clean)?.Greatest ?? greatest) + below;
        var rest = Length.Max(Divisions.Up(Length.Max(q, target - depth), q) * q, divisions.FinishMin * q);
        return (depth + rest, (int)Math.Ceiling(rest / finishMax));
    }

    /// <summary>
    /// Run-outs that are equally likely: spread as the size of a vector is (Rayleigh), four tenths of what the shop assumes the most
    /// frequent,
    /// and held between what is possible.
    /// </summary>
    private static Length[] Runouts(Length assumed, Length least, Length greatest)
    {
        var mode = (double)assumed.Millimetres * 0.4;
        return
        [
            .. Enumerable
                .Range(0, Possible)
                .Select(k => Length.FromTrigonometry(mode * Math.Sqrt(-2 * Math.Log(1 - (k + 0.5) / Possible)), Toward.Greater))
                .Select(r => Length.Max(least, Length.Min(greatest, r))),
        ];
    }

    /// <summary>
    /// What a face can run out, by the other one and the thickness; from 0 to three times what is assumed where neither tells.
    /// </summary>
    private static (Length Least, Length Greatest) Between(PlanRequest request, int i)
    {
        var most = 3 * request.Sides[i].Runout!.Value;
        if (
            request.RunoutsDifferAtMost is not { } differ
            || request.Sides.Count < 2
            || request.Sides[1 - i] is not { RunoutAssumed: false, Runout: { } other }
        )
            return (Length.Zero, most);
        return (Length.Max(Length.Zero, other - differ), Length.Min(most, other + differ));
    }
}
