using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Reasoning;

namespace Uncial.Core.Cutting;

/// <summary>
/// The account of a part on the lathe since it was zeroed: what the dial has taken, and what measured sizes prove of the size that is
/// left. <see cref="Size"/> is first touch less (drum: plus) what was cut; a plan for what remains starts from it as its own first touch.
/// </summary>
internal sealed class Ledger
{
    private readonly PlanRequest plan;
    private readonly Length cut;
    private readonly int sign;
    private readonly Steps steps;

    public Ledger(PlanRequest plan, Length[] depth, Steps steps)
    {
        (this.plan, this.steps, sign) = (plan, steps, Limits.Sign(plan.Kind));
        foreach (var d in depth)
            cut += plan.Kind == PartKind.Drum ? 2 * d : d;
        var deepest = plan.DeepestBesideDark<Length>(depth) ?? Length.Zero;
        // Until a measured pass has verified the dial, every depth counts double in what is sure.
        var factor = plan.Dial.Confirmed ? 1 : 2;
        Size = plan.Touch - sign * cut;
        Bound = plan.TouchBound - sign * factor * cut;
        Worst = plan.Worst - sign * factor * deepest;
        var rotor = plan.Kind == PartKind.Rotor;
        steps.Add("sizeNow", rotor ? "{0} − {1}" : "{0} + {1}", Size, null, plan.Touch, cut);
        steps.Add("boundNow", rotor ? "{0} − {1}" : "{0} + {1}", Bound, null, plan.TouchBound, factor * cut);
    }

    /// <summary>Size expected now where it is clean.</summary>
    public Length Size { get; private set; }

    /// <summary>Size that it surely is not worse than now, before the allowance for the dial.</summary>
    public Length Bound { get; private set; }

    /// <summary>Worst reading carried on; null where none was known.</summary>
    public Length? Worst { get; private set; }

    /// <summary>A bright spot has verified the dial.</summary>
    public bool ConfirmsDial { get; private set; }

    /// <summary>
    /// Enters a size. It proves the part no worse than itself by the uncertainty; taken where every side is clean it is the size at the
    /// dial outright, also to the worse.
    /// </summary>
    /// <returns>What it says of the dial, and whether it is so much worse than what was sure that cutting stops.</returns>
    public (DialAgreement Dial, bool Stop, Length ByDial, Length BySize) Enter(SizeSeen seen)
    {
        var rotor = plan.Kind == PartKind.Rotor;
        var proof = seen.Size - sign * plan.Uncertainty;
        Worst =
            Worst is not { } worst ? null
            : rotor ? Length.Min(worst, seen.Size)
            : Length.Max(worst, seen.Size);
        if (!seen.SpotIsBright)
        {
            var before = Bound;
            Bound = rotor ? Length.Max(before, proof) : Length.Min(before, proof);
            steps.Add(
                "boundProven",
                rotor ? "max({0}, {1} − {2})" : "min({0}, {1} + {2})",
                Bound,
                null,
                before,
                seen.Size,
                plan.Uncertainty
            );
            return (DialAgreement.Agrees, false, cut, cut);
        }
        var bySize = Limits.Margin(plan.Kind, plan.Touch, seen.Size);
        var slack = plan.Uncertainty + 2 * plan.Dial.Allowance;
        var touchByThis = seen.Size + sign * cut;
        steps.Add("touchBySize", rotor ? "{0} + {1}" : "{0} − {1}", touchByThis, null, seen.Size, cut);
        var dial = DialCheck.Compare(cut, bySize, plan.DialSlack);
        (Size, Bound, ConfirmsDial) = (seen.Size, proof, DialCheck.Verifies(cut, bySize, plan.DialSlack));
        steps.Add("boundProven", rotor ? "{0} − {1}" : "{0} + {1}", proof, null, seen.Size, plan.Uncertainty);
        var stop = cut > Length.Zero && Limits.Margin(plan.Kind, touchByThis, plan.TouchBound) < -slack;
        return (dial, stop, cut, bySize);
    }
}
