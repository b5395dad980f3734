using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;

namespace Uncial.Core.Cutting;

/// <summary>What was seen on one side after a pass.</summary>
/// <param name="CleanSectors">Sectors of twelve that are bright all over.</param>
/// <param name="GrooveLeft">Depth of the deepest groove that is left; null where nobody looked.</param>
public readonly record struct SideSeen(int CleanSectors, Length? GrooveLeft);

/// <summary>A size measured between passes.</summary>
/// <param name="Size">Thickness or diameter.</param>
/// <param name="SpotIsBright">Taken where every side is clean (in a drum, where both ends are).</param>
public readonly record struct SizeSeen(Length Size, bool SpotIsBright);

/// <summary>What happens next.</summary>
public enum NextStep
{
    /// <summary>The plan holds: next pass.</summary>
    GoOn,

    /// <summary>What was seen changes the need: plan anew from <see cref="AfterPass.Request"/>.</summary>
    PlanAnew,

    /// <summary>Everything is clean: measure and confirm. A finishing pass may still be offered.</summary>
    Finished,

    /// <summary>Size and dial contradict each other: stop, find out why.</summary>
    Stop,
}

/// <summary>The reading of what a pass has shown.</summary>
/// <param name="Next">What happens next.</param>
/// <param name="Request">The state of the part now, as first touch of the next zeroing: what a new plan starts from.</param>
/// <param name="Notes">What was concluded, and what contradicts the plan.</param>
public sealed record AfterPass(NextStep Next, PlanRequest Request, IReadOnlyList<Note> Notes)
{
    /// <summary>Reads the metal after a pass.</summary>
    /// <param name="plan">The request that the running plan was made from.</param>
    /// <param name="done">Passes of the running plan that are done, in order, the last one just now.</param>
    /// <param name="toCome">Passes of the running plan that are left.</param>
    /// <param name="seen">Outer and inner face, or the bore.</param>
    /// <param name="measured">A size measured now, or null.</param>
    /// <param name="rules">The shop's rules.</param>
    public static AfterPass Read(
        PlanRequest plan, IReadOnlyList<PlannedPass> done, IReadOnlyList<PlannedPass> toCome,
        IReadOnlyList<SideSeen> seen, SizeSeen? measured, ShopRules rules)
    {
        ArgumentNullException.ThrowIfNull(plan);
        ArgumentNullException.ThrowIfNull(done);
        ArgumentNullException.ThrowIfNull(toCome);
        ArgumentNullException.ThrowIfNull(seen);
        ArgumentNullException.ThrowIfNull(rules);
        return new Reader(plan, done, seen, rules).Read(toCome, measured);
    }

    private sealed class Reader(PlanRequest plan, IReadOnlyList<PlannedPass> done, IReadOnlyList<SideSeen> seen, ShopRules rules)
    {
        private readonly List<Note> notes = [];
        private readonly Length[] depth = [.. plan.Sides.Select((_, i) => done.Aggregate(Length.Zero, (sum, p) => sum + p.Depth[i]))];

        private Length Taken => depth.Aggregate(Length.Zero, (sum, d) => sum + d);

        public AfterPass Read(IReadOnlyList<PlannedPass> toCome, SizeSeen? measured)
        {
            var needs = plan.Sides.Select((side, i) => NeedNow(side, i)).ToArray();
            var changed = needs.Where((n, i) => n != plan.Sides[i].Need).Any();
            var left = needs.Select((n, i) => Length.Max(Length.Zero, n - depth[i])).ToArray();
            var request = Carried(left);
            if (measured is { } size)
            {
                if (Contradicts(size)) return new(NextStep.Stop, request, notes);
                request = WithSize(request, size);
            }
            if (left.All(l => l == Length.Zero)) return new(NextStep.Finished, request, notes);
            return new(changed || measured is not null || toCome.Count == 0 ? NextStep.PlanAnew : NextStep.GoOn, request, notes);
        }

        /// <summary>Need from first touch, as corrected by what this side shows.</summary>
        private Length NeedNow(SideNeed side, int i)
        {
            var (d, q) = (depth[i], plan.Dial.DepthPerDivision);
            if (seen[i].CleanSectors >= Coverage.Sectors)
                return seen[i].GrooveLeft is { } groove ? groove > Length.Zero ? d + groove : Length.Min(side.Need, d) : side.Need;

            var runout = Coverage.RunoutFrom(d, seen[i].CleanSectors);
            var estimate = runout is { } r ? r + side.Groove + side.Relief : (Length?)null;
            if (estimate is null) notes.Add(new("tooLittleTouched", Subject: Side(i)));
            if (d >= side.Need)
            {
                // Dark where it should be clean: the metal is right and the figures were not.
                notes.Add(new("darkBeyondNeed", side.Need, d, Subject: Side(i)));
                return Length.Max(d + q, estimate ?? d + rules.AssumedRunout);
            }
            if (estimate is not { } e) return side.Need;
            if (side.RunoutAssumed) return Length.Max(d + q, e);
            if (side.Runout is { } known && known > Length.Zero && (runout!.Value / known is < 1 / 1.5m or > 1.5m))
                notes.Add(new("coverageDisagrees", known, runout, Subject: Side(i)));
            return side.Need;
        }

        private string Side(int i) => plan.Kind == PartKind.Drum ? "bore" : i == 0 ? "outer" : "inner";

        /// <summary>The part as it is now, carried forward from the running plan.</summary>
        private PlanRequest Carried(Length[] left)
        {
            var sign = Limits.Sign(plan.Kind);
            var factor = plan.Dial.Confirmed ? 1 : 2;
            var diameter = plan.Kind == PartKind.Drum ? 2 : 1;
            return plan with
            {
                Touch = plan.Touch - sign * diameter * Taken,
                TouchBound = plan.TouchBound - sign * diameter * factor * Taken,
                Worst = plan.Worst - sign * factor * depth.Max(),
                Sides = [.. plan.Sides.Select((s, i) => new SideNeed(left[i], Length.Min(s.Groove, left[i]), RunoutAssumed: s.RunoutAssumed))],
                RoughsDone = plan.RoughsDone + done.Count(p => p.Kind == PassKind.Rough),
            };
        }

        /// <summary>A size proves the part no thinner (no wider) than itself; taken on a bright spot it is the size at the dial.</summary>
        private PlanRequest WithSize(PlanRequest request, SizeSeen size)
        {
            var rotor = plan.Kind == PartKind.Rotor;
            var proof = rotor ? size.Size - plan.Uncertainty : size.Size + plan.Uncertainty;
            var worst = request.Worst is not { } known ? (Length?)null
                : rotor ? Length.Min(known, size.Size) : Length.Max(known, size.Size);
            if (size.SpotIsBright)
            {
                notes.Add(new("touchFromSize", size.Size));
                return request with { Touch = size.Size, TouchBound = proof, Worst = worst, Dial = request.Dial with { Confirmed = true } };
            }
            var bound = rotor ? Length.Max(request.TouchBound, proof) : Length.Min(request.TouchBound, proof);
            return request with { TouchBound = bound, Worst = worst };
        }

        /// <summary>
        /// A bright spot that is worse than the bound allows says that zero or dial is wrong. Twice or half the metal names the dial;
        /// half of it wastes nothing and only needs saying.
        /// </summary>
        private bool Contradicts(SizeSeen size)
        {
            if (!size.SpotIsBright || Taken == Length.Zero) return false;
            var byDial = (plan.Kind == PartKind.Drum ? 2 : 1) * Taken;
            var bySize = Limits.Margin(plan.Kind, plan.Touch, size.Size);
            var slack = plan.Uncertainty + 2 * plan.Dial.Allowance;
            var touchByThis = size.Size + Limits.Sign(plan.Kind) * byDial;
            var worse = Limits.Margin(plan.Kind, touchByThis, plan.TouchBound) < -slack;
            var factorOfTwo = bySize / byDial is > 1.6m and < 2.5m or > 0.4m and < 0.6m && (bySize - byDial).Abs() > slack;
            if (factorOfTwo) notes.Add(new("dialFactorOfTwo", byDial, bySize));
            else if (worse) notes.Add(new("dialOrZeroWrong", byDial, bySize));
            return worse;
        }
    }
}
