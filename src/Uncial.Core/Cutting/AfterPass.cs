using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Reasoning;

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
    /// <summary>The size measured now rules out that the dial counts twice or half the depth.</summary>
    public bool VerifiesDial { get; init; }

    /// <summary>How it was worked out, in order.</summary>
    public IReadOnlyList<Step> Steps { get; init; } = [];

    /// <summary>Whether the next pass may not be given on what is known without a size measured now.</summary>
    /// <param name="following">The pass of the running plan that would come next; null where there is none.</param>
    /// <param name="made">The plan that was made anew, where <see cref="Next"/> asks for one; otherwise null.</param>
    public bool MustMeasure(PlannedPass? following, PlanOption? made) =>
        Next == NextStep.GoOn
            ? following is { MeasureFirst: true }
            : made is not null && (made.Passes.Count == 0 || made.Start != PlanStart.Free);

    /// <summary>Reads the metal after a pass.</summary>
    /// <param name="plan">The request that the running plan was made from.</param>
    /// <param name="done">Passes of the running plan that are done, in order, the last one just now.</param>
    /// <param name="toCome">Passes of the running plan that are left.</param>
    /// <param name="seen">Outer and inner face, or the bore.</param>
    /// <param name="measured">A size measured now, or null.</param>
    /// <param name="rules">The shop's rules.</param>
    public static AfterPass Read(
        PlanRequest plan,
        IReadOnlyList<PlannedPass> done,
        IReadOnlyList<PlannedPass> toCome,
        IReadOnlyList<SideSeen> seen,
        SizeSeen? measured,
        ShopRules rules
    )
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
        private readonly Steps steps = new();
        private readonly Length[] depth = [.. plan.Sides.Select((_, i) => done.Aggregate(Length.Zero, (sum, p) => sum + p.Depth[i]))];
        private readonly Length?[] runout = [.. plan.Sides.Select(s => s.Runout)];

        public AfterPass Read(IReadOnlyList<PlannedPass> toCome, SizeSeen? measured)
        {
            // A groove that is seen on cut metal goes so far below the cut, whatever is still dark.
            var needs = plan
                .Sides.Select(
                    (side, i) =>
                        depth[i] > Length.Zero && seen[i].GrooveLeft is { } groove && groove > Length.Zero
                            ? Length.Max(NeedNow(side, i), SinceTouch(i) + groove)
                            : NeedNow(side, i)
                )
                .ToArray();
            var changed = needs.Where((n, i) => n != plan.Sides[i].Done + plan.Sides[i].Need).Any();
            var left = needs.Select((n, i) => Length.Max(Length.Zero, n - SinceTouch(i))).ToArray();
            for (var i = 0; i < left.Length; i++)
                steps.Add("needLeft", "max(0, {0} − {1})", left[i], Side(i), needs[i], SinceTouch(i));
            for (var i = 0; i < left.Length; i++)
            {
                var by = left[i] - Length.Max(Length.Zero, plan.Sides[i].Need - depth[i]);
                if (by != Length.Zero)
                    notes.Add(by > Length.Zero ? new Note.NeedsMore(by, left[i], Side(i)) : new Note.NeedsLess(by.Abs(), left[i], Side(i)));
            }
            var ledger = new Ledger(plan, depth, steps);
            var stop = measured is { } size && Contradicts(ledger, size);
            var request = Carried(left, ledger);
            AfterPass Result(NextStep next) => new(next, request, notes) { VerifiesDial = ledger.ConfirmsDial, Steps = steps.All };
            if (stop)
                return Result(NextStep.Stop);
            if (left.All(l => l == Length.Zero))
                return Result(NextStep.Finished);
            return Result(changed || measured is not null || toCome.Count == 0 ? NextStep.PlanAnew : NextStep.GoOn);
        }

        /// <summary>Depth since first touch, through every plan since.</summary>
        private Length SinceTouch(int i) => plan.Sides[i].Done + depth[i];

        /// <summary>Need from first touch, as corrected by what this side shows.</summary>
        private Length NeedNow(SideNeed side, int i)
        {
            var (d, q, need) = (SinceTouch(i), plan.Dial.DepthPerDivision, side.Done + side.Need);
            if (depth[i] == Length.Zero)
                return need; // not its turn yet: what is dark there says nothing
            if (seen[i].CleanSectors >= Coverage.Sectors)
                return seen[i].GrooveLeft is { } groove
                    ? groove > Length.Zero
                        ? d + groove
                        : Length.Min(need, d)
                    : need;

            var range = Coverage.RunoutRange(d, seen[i].CleanSectors);
            Length? estimate = null;
            if (range is { } r)
            {
                steps.Add("runoutSeen", "2 · {0} / (1 − cos(π · ({1}/12 − 1/24)))", r.Greatest, Side(i), d, seen[i].CleanSectors);
                range = r = r with { Greatest = ByThickness(i, r.Greatest) };
                estimate = r.Greatest + side.Groove + side.Relief;
                steps.Add("needSeen", "{0} + {1} + {2}", estimate.Value, Side(i), r.Greatest, side.Groove, side.Relief);
            }
            else
                notes.Add(new Note.TooLittleTouched(Side(i)));
            if (d >= need)
            {
                // Dark where it should be clean: the metal is right and the figures were not.
                notes.Add(new Note.DarkBeyondNeed(need, d, Side(i)));
                // A groove read too shallow looks like this: it is read again, not only cut away.
                if (seen[i].GrooveLeft is not { } left || left == Length.Zero)
                    notes.Add(new Note.GrooveAgain(Side(i)));
                // A run-out that was measured stands: the cut was shallower than the dial says, or a low land deeper than it was read.
                if (!side.RunoutAssumed && side.Runout is not null)
                    return d + Length.Max(q, plan.Dial.Allowance);
                if (range is { } beyond)
                    runout[i] = beyond.Greatest;
                return Length.Max(d + q, estimate ?? d + rules.SetUp.AssumedRunout);
            }
            if (range is not { } seenRunout)
                return need;
            if (side.RunoutAssumed)
            {
                runout[i] = seenRunout.Greatest;
                return Length.Max(d + q, estimate!.Value);
            }
            // Measured on the lathe: the estimate only warns, and only where its whole range is off by half as much again.
            if (side.Runout is { } known && known > Length.Zero && (seenRunout.Least > 1.5m * known || 1.5m * seenRunout.Greatest < known))
                notes.Add(new Note.CoverageDisagrees(known, seenRunout.Least > known ? seenRunout.Least : seenRunout.Greatest, Side(i)));
            return need;
        }

        /// <summary>
        /// An estimate of an assumed run-out, held against the thickness: what the other face runs out, measured or cut away, and what they
        /// differ by at most.
        /// </summary>
        private Length ByThickness(int i, Length estimate)
        {
            if (plan.RunoutsDifferAtMost is not { } differ || !plan.Sides[i].RunoutAssumed || plan.Sides.Count < 2)
                return estimate;
            var other = plan.Sides[1 - i];
            Length? runs =
                !other.RunoutAssumed ? other.Runout
                : seen[1 - i].CleanSectors >= Coverage.Sectors && SinceTouch(1 - i) > Length.Zero ? SinceTouch(1 - i)
                : null;
            if (runs is not { } known || known + differ >= estimate)
                return estimate;
            steps.Add("runoutByThickness", "min({0}, {1} + {2})", known + differ, Side(i), estimate, known, differ);
            return known + differ;
        }

        private string Side(int i) =>
            plan.Kind == PartKind.Drum ? "bore"
            : i == 0 ? "outer"
            : "inner";

        /// <summary>The part as it is now: what the ledger says, as first touch of the next zeroing.</summary>
        private PlanRequest Carried(Length[] left, Ledger ledger)
        {
            var roughs = plan.Sides.Select((_, i) => done.Count(p => p.Kind == PassKind.Rough && p.Divisions[i] > 0)).ToArray();
            return plan with
            {
                Touch = ledger.Size,
                TouchBound = ledger.Bound,
                Worst = ledger.Worst,
                Sides =
                [
                    .. plan.Sides.Select(
                        (s, i) =>
                            new SideNeed(
                                left[i],
                                Length.Min(s.Groove, left[i]),
                                runout[i],
                                s.Relief,
                                s.RunoutAssumed,
                                SinceTouch(i),
                                s.UnreadRelief
                            )
                    ),
                ],
                RoughsDone = plan.RoughsDone + done.Count(p => p.Kind == PassKind.Rough),
                RoughsDoneBySide = [.. roughs.Select((r, i) => r + (plan.RoughsDoneBySide?[i] ?? 0))],
                IsTurnedRound = plan.IsTurnedRound || done.Any(p => p.TurnFirst),
                Dial = ledger.ConfirmsDial ? plan.Dial with { Confirmed = true } : plan.Dial,
            };
        }

        /// <summary>
        /// A bright spot that is worse than what was sure says that zero or dial is wrong. Twice or half the metal names the dial; half
        /// of it
        /// wastes nothing and only needs saying.
        /// </summary>
        private bool Contradicts(Ledger ledger, SizeSeen size)
        {
            var (dial, stop, byDial, bySize) = ledger.Enter(size);
            if (size.SpotIsBright && !stop)
                notes.Add(new Note.TouchFromSize(size.Size));
            if (dial is DialAgreement.TwiceTheMetal or DialAgreement.HalfTheMetal)
                notes.Add(new Note.DialFactorOfTwo(byDial, bySize));
            else if (stop)
                notes.Add(new Note.DialOrZeroWrong(byDial, bySize));
            return stop;
        }
    }
}
