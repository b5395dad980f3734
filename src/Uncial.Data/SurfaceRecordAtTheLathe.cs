using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;

namespace Uncial.Data;

/// <summary>The facts at the lathe: where the dials stand, what is being cut, what finishing asks for.</summary>
public sealed partial class SurfaceRecord
{
    private long[]? dialsBefore;

    /// <summary>
    /// Where the dials stand for a pass, as it is read off their scales: counted from the zero at first touch, through every plan since.
    /// </summary>
    public IReadOnlyList<Length> DialAt(PlannedPass pass)
    {
        ArgumentNullException.ThrowIfNull(pass);
        var before = DialsBefore;
        return [.. pass.DialFromTouch.Select((d, i) => d + before[i] * Lathe.Profile.DialOf(Kind).Division)];
    }

    /// <summary>Divisions that passes of earlier plans have taken since the dials were set to zero, for each side.</summary>
    private long[] DialsBefore
    {
        get
        {
            if (dialsBefore is not null)
                return dialsBefore;
            dialsBefore = new long[Kind == PartKind.Rotor ? 2 : 1];
            var plans = Surface.Plans.OrderBy(p => p.Version).ToList();
            for (var at = LatestPlan is null ? 0 : plans.IndexOf(LatestPlan); at > 0 && plans[at].Read().GoesOn; at--)
                foreach (var pass in Surface.Passes.Where(p => IsOf(p, plans[at - 1])))
                    for (var side = 0; side < dialsBefore.Length; side++)
                        dialsBefore[side] += plans[at - 1].Read().Option.Passes[pass.Index].Divisions[side];
            return dialsBefore;
        }
    }

    /// <summary>Sides that a pass cuts; sparking out goes on with those of the pass before it.</summary>
    public IReadOnlyList<int> SidesOf(int index)
    {
        var passes = Plan!.Option.Passes;
        while (index > 0 && passes[index].Divisions.All(d => d == 0))
            index--;
        return [.. Enumerable.Range(0, passes[index].Divisions.Count).Where(i => passes[index].Divisions[i] > 0)];
    }

    /// <summary>The newest start of the pass that is due; null where nobody has started it.</summary>
    public CutStart? Start =>
        LatestPlan is null
            ? null
            : Surface.CutStarts.Where(s => s.PlanId == LatestPlan.Id && s.Index == PassesOfPlan.Count).MaxBy(s => s.Attempt);

    /// <summary>The pass that is due is being cut.</summary>
    public bool IsCutting => Start is { Stop: null };

    /// <summary>It was made, and what the metal shows is not kept yet.</summary>
    public bool IsCut => Start is { Stop.Kind: CutStopKind.Done };

    /// <summary>A size was taken since the last pass, or none was made yet.</summary>
    public bool IsMeasured => PassesOfPlan.Count == 0 || PassesOfPlan[^1].Size is not null;

    /// <summary>A lead hand has signed for the plan's first pass.</summary>
    public bool IsSigned => PassesOfPlan.Count == 0 && Plan is { } plan && LatestPlan!.SignatureId is not null;

    /// <summary>Why the pass that is due may not be started, or null.</summary>
    public StartRefusal? StartRefusal =>
        Plan is { } plan && PassesOfPlan.Count < plan.Option.Passes.Count
            ? PassStart.Refuses(plan.Request, plan.Option.Passes[PassesOfPlan.Count], IsMeasured, IsSigned)
            : null;

    /// <summary>What finishing asks for here; nothing where the surface was left as it came.</summary>
    public IReadOnlyList<FinishStep> FinishSteps =>
        CutsDone == 0 && Plan?.Option.Key != Journey.Scuff
            ? []
            : FinishStep.For(Kind, Lathe.Profile.Kind == LatheKind.Grinder && CutsDone > 0, Part.Shape is { Hubbed: true });

    /// <summary>Cut or scuffed, and not finished: it was neither said to be, nor measured or judged since.</summary>
    public bool FinishIsDue =>
        Plan is { } plan
        && PassesOfPlan.Count >= plan.Option.Passes.Count
        && FinishSteps.Count > 0
        && Surface.Finishes.All(f => f.Cuts != CutsDone || LatestPlan!.IsAfter(f))
        && Confirmation is null
        && (CutsDone == 0 || Sizes.Count == 0)
        && Surface.Passes.MaxBy(p => p.Cut)?.Next != NextStep.Stop;
}
