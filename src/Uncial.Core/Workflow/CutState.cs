using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;

namespace Uncial.Core.Workflow;

/// <summary>A surface at the lathe: where the dials stand, what is being cut, what finishing asks for.</summary>
public sealed class CutState
{
    private readonly SurfaceState surface;
    private readonly SurfaceFacts facts;
    private long[]? dialsBefore;

    internal CutState(SurfaceState surface) => (this.surface, facts) = (surface, surface.Facts);

    private PlanState Planning => surface.Planning;

    /// <summary>The newest pass of all; null where nothing was cut.</summary>
    public PassFact? LastPass => facts.Passes.MaxBy(p => p.Cut);

    /// <summary>The last pass left nothing dark.</summary>
    public bool LastPassIsClean => LastPass is { IsClean: true };

    /// <summary>Turned bright all round in this job, in one chucking or between twin tools.</summary>
    public bool TurnedBright =>
        surface.CutsDone > 0
        && LastPassIsClean
        && (surface.Kind == PartKind.Drum || surface.Mounting.Lathe.Profile is { TwinCutter: true } or { BothFacesInOneChucking: true });

    /// <summary>
    /// Where the dials stand for a pass, as it is read off their scales: counted from the zero at first touch, through every plan since.
    /// </summary>
    public IReadOnlyList<Length> DialAt(PlannedPass pass)
    {
        ArgumentNullException.ThrowIfNull(pass);
        var (before, division) = (DialsBefore, surface.Mounting.Lathe.Profile.DialOf(surface.Kind).Division);
        return [.. pass.DialFromTouch.Select((d, i) => d + before[i] * division)];
    }

    /// <summary>Sides that a pass cuts; sparking out goes on with those of the pass before it.</summary>
    /// <param name="index">Place of the pass in the plan that runs.</param>
    public IReadOnlyList<int> SidesOf(int index)
    {
        var passes = Planning.Document!.Option.Passes;
        while (index > 0 && passes[index].Divisions.All(d => d == 0))
            index--;
        return [.. Enumerable.Range(0, passes[index].Divisions.Count).Where(i => passes[index].Divisions[i] > 0)];
    }

    /// <summary>The pass after the one that is due; null where there is none.</summary>
    public PlannedPass? Following => Planning.Document?.Option.Passes.ElementAtOrDefault(Planning.Passes.Count + 1);

    /// <summary>The newest start of the pass that is due; null where nobody has started it.</summary>
    public CutStartFact? Start =>
        Planning.Latest is { } plan
            ? facts.CutStarts.Where(s => s.PlanId == plan.Id && s.Index == Planning.Passes.Count).MaxBy(s => s.Attempt)
            : null;

    /// <summary>The pass that is due is being cut.</summary>
    public bool IsCutting => Start is { Stopped: null };

    /// <summary>What the pass that is due takes before it is started; nothing where none is due.</summary>
    public IReadOnlyList<StartCheck> NeededChecks =>
        Planning is { Document: { } plan, IsCutToItsEnd: false }
            ? StartChecks.Needed(surface.Mounting.Lathe.Profile.Kind, plan.Option.Passes[Planning.Passes.Count].TurnFirst)
            : [];

    /// <summary>It was heard or seen to chatter in the last pass, or since.</summary>
    public bool Chattered => LastPass?.Noise is not null || facts.Chatters.Any(c => c.Cuts == surface.CutsDone);

    /// <summary>It was made, and what the metal shows is not kept yet.</summary>
    public bool IsCut => Start is { Stopped.Kind: CutStopKind.Done };

    /// <summary>A size was taken since the last pass, or none was made yet.</summary>
    public bool IsMeasured => Planning.Passes.Count == 0 || Planning.Passes[^1].Size is not null;

    /// <summary>A lead has signed for the plan's first pass.</summary>
    public bool IsSigned => Planning is { Passes.Count: 0, Latest.SignatureId: not null };

    /// <summary>Why the pass that is due may not be started, or null.</summary>
    public StartRefusal? StartRefusal =>
        Planning is { Document: { } plan, IsCutToItsEnd: false }
            ? PassStart.Refuses(plan.Request, plan.Option.Passes[Planning.Passes.Count], IsMeasured, IsSigned)
            : null;

    /// <summary>What finishing asks for here; nothing where the surface was left as it came.</summary>
    public IReadOnlyList<FinishStep> FinishSteps =>
        surface.CutsDone == 0 && Planning.Document?.Option.Key != PlanState.Scuff
            ? []
            : FinishStep.For(
                surface.Kind,
                surface.Mounting.Lathe.Profile.Kind == LatheKind.Grinder && surface.CutsDone > 0,
                surface.Part.Shape is { Hubbed: true }
            );

    /// <summary>Cut or scuffed, and not finished: it was neither said to be, nor measured or judged since.</summary>
    public bool FinishIsDue =>
        Planning is { Latest: { } latest, IsCutToItsEnd: true }
        && FinishSteps.Count > 0
        && facts.Finishes.All(f => f.Cuts != surface.CutsDone || latest.IsAfter(f))
        && surface.Confirming.Holding is null
        && (surface.CutsDone == 0 || surface.Measuring.Sizes.Count == 0)
        && LastPass?.Next != NextStep.Stop;

    /// <summary>
    /// Run-out of the face that was cut, read after the part was turned round for the other one; null where nobody has checked it.
    /// </summary>
    public ReadingFact? TurnedRoundRunout => surface.Measuring.Standing(ReadingKind.RunoutOuter).LastOrDefault(r => r.Cuts > 0);

    /// <summary>The worst reading, or where the part is on the lathe the size that its last pass should have left.</summary>
    public Length? Expected =>
        surface.Measuring.Worst
        ?? (
            surface.CutsDone == 0 ? null
            : Planning.Passes.Count > 0 ? Planning.Document!.Option.Passes[Planning.Passes.Count - 1].SizeAfter
            : Planning.Document?.Request.Touch
        );

    /// <summary>Metal that the dial says was taken in all passes: off the thickness, or on the diameter.</summary>
    public Length TakenByDial =>
        (surface.Kind == PartKind.Rotor ? 1 : 2)
        * facts.Passes.SelectMany(p => Planning.PassOf(p).Depth).Aggregate(Length.Zero, (sum, depth) => sum + depth);

    /// <summary>Metal that the worst sizes before and after say was taken, or null.</summary>
    public Length? TakenBySize => surface.Measuring is { WorstBefore: { } before, Worst: { } after } ? (before - after).Abs() : null;

    /// <summary>Bright on every side at a place; in a drum at both ends of the diameter.</summary>
    /// <param name="kind">Rotor or drum.</param>
    /// <param name="darkOuter">Dark twelfths of the outer face or bore.</param>
    /// <param name="darkInner">Dark twelfths of the inner face.</param>
    /// <param name="degrees">The place.</param>
    public static bool IsBright(PartKind kind, int darkOuter, int darkInner, decimal degrees)
    {
        var sector = (int)Math.Round(degrees / 30m) % Coverage.Sectors;
        var dark = kind == PartKind.Rotor ? darkOuter | darkInner : darkOuter;
        var places = kind == PartKind.Rotor ? 1 << sector : 1 << sector | 1 << (sector + Coverage.Sectors / 2) % Coverage.Sectors;
        return (dark & places) == 0;
    }

    /// <summary>What was seen of each side after a pass.</summary>
    /// <param name="kind">Rotor or drum.</param>
    /// <param name="darkOuter">Dark twelfths of the outer face or bore.</param>
    /// <param name="darkInner">Dark twelfths of the inner face.</param>
    /// <param name="grooveOuter">Groove left on the outer face or bore; null where nobody looked.</param>
    /// <param name="grooveInner">Groove left on the inner face, likewise.</param>
    public static IReadOnlyList<SideSeen> Sides(PartKind kind, int darkOuter, int darkInner, Length? grooveOuter, Length? grooveInner)
    {
        return kind == PartKind.Rotor
            ? [new(Clean(darkOuter), grooveOuter), new(Clean(darkInner), grooveInner)]
            : [new(Clean(darkOuter), grooveOuter)];

        static int Clean(int dark) => Coverage.Sectors - System.Numerics.BitOperations.PopCount((uint)dark);
    }

    /// <summary>Divisions that passes of earlier plans have taken since the dials were set to zero, for each side.</summary>
    private long[] DialsBefore
    {
        get
        {
            if (dialsBefore is not null)
                return dialsBefore;
            dialsBefore = new long[surface.Kind == PartKind.Rotor ? 2 : 1];
            var plans = facts.Plans.OrderBy(p => p.Version).ToList();
            for (var at = Planning.Latest is null ? 0 : plans.IndexOf(Planning.Latest); at > 0 && plans[at].Contents.GoesOn; at--)
                foreach (var pass in facts.Passes.Where(p => p.IsOf(plans[at - 1])))
                    for (var side = 0; side < dialsBefore.Length; side++)
                        dialsBefore[side] += plans[at - 1].Contents.Option.Passes[pass.Index].Divisions[side];
            return dialsBefore;
        }
    }
}
