using System.Text.Json.Serialization;
using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Parts;

namespace Uncial.Core.Planning;

/// <summary>What one side (face or bore) needs until it is clean, counted from first touch.</summary>
/// <param name="Need">Depth until clean.</param>
/// <param name="Groove">Groove in it; stays whole in the bound while the cut is above <paramref name="Need"/>.</param>
/// <param name="Runout">Run-out in it, for the forecast of the clean share; null: the need itself.</param>
/// <param name="Relief">Relief in it, for the forecast of the clean share.</param>
/// <param name="RunoutAssumed">Nobody measured the run-out, so what is seen after a pass may correct the need.</param>
/// <param name="Done">
/// Depth that was cut since first touch, before this plan. <paramref name="Need"/> is what is left from here; run-out and relief count from
/// first touch, and so does the share that is seen clean.
/// </param>
/// <param name="UnreadRelief">Lands that were not read may lie so much lower on this side; null: only the request's sum is known.</param>
public readonly record struct SideNeed(
    Length Need,
    Length Groove = default,
    Length? Runout = null,
    Length Relief = default,
    bool RunoutAssumed = false,
    Length Done = default,
    Length? UnreadRelief = null
)
{
    /// <summary>It was cut and seen bright all over, and needs nothing more.</summary>
    [JsonIgnore]
    public bool IsClean => Done > Length.Zero && Need == Length.Zero;
}

/// <summary>Everything that a plan of passes rests on.</summary>
public sealed record PlanRequest
{
    /// <summary>Rotor or drum.</summary>
    public required PartKind Kind { get; init; }

    /// <summary>Size at first touch, to the careful side.</summary>
    public required Length Touch { get; init; }

    /// <summary>Size that first touch surely is not worse than.</summary>
    public required Length TouchBound { get; init; }

    /// <summary>Least reading of a rotor, greatest of a drum; null: the bound's first term stands alone.</summary>
    public Length? Worst { get; init; }

    /// <summary>
    /// Lands that were not read may lie lower than the worst reading by so much, both faces together: it lessens the bound's second term.
    /// Nothing
    /// where every land was read, or in calculations that do not know it.
    /// </summary>
    public Length UnreadRelief { get; init; }

    /// <summary>
    /// What the run-outs of a rotor's faces differ by at most, by its thickness; null where both were measured or that cannot be told. One
    /// that was assumed and is estimated from what a pass has cleaned is not more than the other by more than this.
    /// </summary>
    public Length? RunoutsDifferAtMost { get; init; }

    /// <summary>How far machining may go.</summary>
    public required Length MachineTo { get; init; }

    /// <summary>Where the part is scrap; null in calculations that do not know it.</summary>
    public Length? Discard { get; init; }

    /// <summary>Expanded uncertainty (k = 2) of one reading.</summary>
    public required Length Uncertainty { get; init; }

    /// <summary>Outer then inner face of a rotor; the bore alone of a drum.</summary>
    public required IReadOnlyList<SideNeed> Sides { get; init; }

    /// <summary>The lathe's dial.</summary>
    public required Dial Dial { get; init; }

    /// <summary>Rotor: both bits cut at once and hold each other, so both faces get the same number of passes.</summary>
    public bool TwinCutter { get; init; } = true;

    /// <summary>
    /// Rotor on an engine lathe or grinder: the second face is cut after the part is turned round, so it runs out by so much against the
    /// first (total reading). Null: one chucking for both. Counts only without a twin cutter.
    /// </summary>
    public Length? SecondChuckingRunout { get; init; }

    /// <summary>The part has been turned round already.</summary>
    public bool IsTurnedRound { get; init; }

    /// <summary>Run-out of the set-up as the last check found it; null where it was not checked.</summary>
    public Length? SetUpRunout { get; init; }

    /// <summary>The technique that the shop prefers.</summary>
    public string DefaultTechnique { get; init; } = "working";

    /// <summary>The techniques to try, in the order in which ties are settled.</summary>
    public IReadOnlyList<Technique> Techniques { get; init; } = Technique.BuiltIn;

    /// <summary>Roughing passes already made in this job: they come off a technique's fewest and most.</summary>
    public int RoughsDone { get; init; }

    /// <summary>The same for each side, where a single tool cuts them one after the other; null: none.</summary>
    public IReadOnlyList<int>? RoughsDoneBySide { get; init; }

    /// <summary>
    /// Everything is clean and measured: zero anew on what is there, with nothing needed but what grooves are left. That holds in the
    /// mounting
    /// it was cut in; in another see <see cref="MountedAnew"/>.
    /// </summary>
    /// <param name="worst">Least reading of a rotor, greatest of a drum, taken now.</param>
    /// <param name="uncertainty">Expanded uncertainty of a reading.</param>
    /// <param name="grooveLeft">Deepest groove that is left: both faces of a rotor together, radial in a drum.</param>
    public PlanRequest ZeroedAnew(Length worst, Length uncertainty, Length grooveLeft) =>
        this with
        {
            Touch = worst,
            TouchBound = worst - Limits.Sign(Kind) * uncertainty,
            Worst = worst,
            UnreadRelief = Length.Zero,
            Uncertainty = uncertainty,
            Sides = [.. Sides.Select(_ => new SideNeed(grooveLeft / Sides.Count))],
        };

    /// <summary>Sizes read since, wherever they were taken: each proves the part no worse than itself by the uncertainty.</summary>
    public PlanRequest Proven(IEnumerable<Length> sizes, Length uncertainty)
    {
        ArgumentNullException.ThrowIfNull(sizes);
        var (bound, worst) = (TouchBound, Worst);
        foreach (var size in sizes)
        {
            var proof = size - Limits.Sign(Kind) * uncertainty;
            bound = Kind == PartKind.Rotor ? Length.Max(bound, proof) : Length.Min(bound, proof);
            worst =
                worst is not { } known ? null
                : Kind == PartKind.Rotor ? Length.Min(known, size)
                : Length.Max(known, size);
        }
        // A size better than first touch was thought to be is first touch.
        var touch = Kind == PartKind.Rotor ? Length.Max(Touch, bound) : Length.Min(Touch, bound);
        return this with { Touch = touch, TouchBound = bound, Worst = worst };
    }

    /// <summary>
    /// The part was put on anew: what was clean runs out as the new set-up makes it, and the dials are set to zero at a new first touch.
    /// What the sizes prove stays.
    /// </summary>
    /// <param name="runouts">
    /// Run-out of each face, or twice the eccentricity of a drum, as read on the lathe or found by the check of this set-up; null where
    /// neither
    /// was done, which counts as the run-out that the shop assumes.
    /// </param>
    /// <param name="rules">The shop's rules.</param>
    public PlanRequest MountedAnew(IReadOnlyList<Length?> runouts, ShopRules rules)
    {
        ArgumentNullException.ThrowIfNull(runouts);
        ArgumentNullException.ThrowIfNull(rules);
        if (runouts.Count != Sides.Count)
            throw new ArgumentException("A run-out, or null, for each side.", nameof(runouts));
        // First touch is on the highest spot, so it is better than the size by half of what both sides run out; where nobody read it, by
        // nothing.
        var higher = Length.Zero;
        foreach (var runout in runouts)
            higher += (runout ?? Length.Zero) * (Kind == PartKind.Drum ? 2 : 1) / 2;
        return this with { Touch = Touch + Limits.Sign(Kind) * higher, Sides = [.. Sides.Select((s, i) => Side(s, runouts[i]))] };

        SideNeed Side(SideNeed side, Length? read)
        {
            var runout = read ?? rules.SetUp.AssumedRunout;
            return new(side.Need + runout, side.Groove, runout, Length.Zero, read is null);
        }
    }

    /// <summary>The bound lies on the better side of first touch: one of the two is wrong.</summary>
    public bool BoundIsBetterThanTouch => Limits.Margin(Kind, TouchBound, Touch) > Length.Zero;

    /// <summary>
    /// The worst reading is better than the reading that the bound rests on could be, or than first touch: the figures are not of one part.
    /// </summary>
    public bool WorstContradicts =>
        Worst is { } worst && (Limits.Margin(Kind, worst, Touch) > Length.Zero || Limits.Margin(Kind, worst, TouchBound) > Uncertainty);

    /// <summary>
    /// What dial and metal may differ by without either being wrong: the uncertainty, the error of two settings, and where run-outs were
    /// assumed what first touch may be off by for it.
    /// </summary>
    public Length DialSlack
    {
        get
        {
            var slack = Uncertainty + 2 * Dial.Allowance;
            foreach (var side in Sides)
                if (side is { RunoutAssumed: true, Runout: { } runout } && side.Done == Length.Zero)
                    slack += runout / 2;
            return slack;
        }
    }

    /// <summary>Makes the request from a measured rotor.</summary>
    /// <param name="rotor">What was read. Relief that nobody looked at counts nothing in the need, and the shop's rule in the
    /// bound.</param>
    /// <param name="figures">What the readings come to.</param>
    /// <param name="dial">The dial of the head that cuts.</param>
    /// <param name="rules">The shop's rules.</param>
    /// <exception cref="InvalidOperationException">The rotor has no readings.</exception>
    public static PlanRequest For(RotorMeasurement rotor, RotorFigures figures, Dial dial, ShopRules rules)
    {
        ArgumentNullException.ThrowIfNull(rules);
        ArgumentNullException.ThrowIfNull(rotor);
        ArgumentNullException.ThrowIfNull(figures);
        if (figures is not { Need: { } need, Runout: { } runout })
            throw new InvalidOperationException("A plan needs readings.");
        return new()
        {
            Kind = PartKind.Rotor,
            Touch = figures.TouchCareful!.Value,
            TouchBound = figures.TouchBound!.Value,
            Worst = figures.Least,
            UnreadRelief =
                (rotor.Faces.Outer.Relief ?? rules.Shape.UnknownRelief) + (rotor.Faces.Inner.Relief ?? rules.Shape.UnknownRelief),
            MachineTo = rotor.Limits.MachineTo,
            Discard = rotor.Limits.Discard,
            Uncertainty = rotor.Uncertainty,
            Sides =
            [
                Side(need.Outer, rotor.Faces.Outer, runout.Outer, figures.RunoutAssumed.Outer),
                Side(need.Inner, rotor.Faces.Inner, runout.Inner, figures.RunoutAssumed.Inner),
            ],
            RunoutsDifferAtMost = figures.RunoutsDifferAtMost,
            Dial = dial,
        };

        SideNeed Side(Length need, Face face, Length runout, bool assumed) =>
            new(
                need,
                face.Groove ?? Length.Zero,
                runout,
                face.Relief ?? Length.Zero,
                assumed,
                UnreadRelief: face.Relief ?? rules.Shape.UnknownRelief
            );
    }

    /// <summary>
    /// What unread lands may lie lower where a side is still dark. A side that is bright all over has none: the tool went over them.
    /// </summary>
    internal Length UnreadReliefWhereDark
    {
        get
        {
            var (sum, dark) = (Length.Zero, false);
            foreach (var side in Sides)
            {
                if (side.UnreadRelief is not { } unread)
                    return UnreadRelief;
                if (side.IsClean)
                    continue;
                (sum, dark) = (sum + unread * (Kind == PartKind.Drum ? 2 : 1), true);
            }
            return dark ? sum : Length.Zero;
        }
    }

    /// <summary>
    /// The deepest cut at a place where another side is still dark: of a rotor the deeper of the faces whose other face is not clean; of
    /// a drum
    /// the bore's own. Null where everything is clean.
    /// </summary>
    /// <param name="depths">Depth of each side.</param>
    internal T? DeepestBesideDark<T>(ReadOnlySpan<T> depths)
        where T : struct, IComparable<T>
    {
        T? deepest = null;
        for (var i = 0; i < depths.Length; i++)
        {
            var beside = depths.Length == 1 ? i : 1 - i;
            if (!Sides[beside].IsClean && (deepest is not { } known || depths[i].CompareTo(known) > 0))
                deepest = depths[i];
        }
        return deepest;
    }

    /// <summary>Makes the request from a measured drum.</summary>
    /// <param name="drum">
    /// What was read. An eccentricity that nobody read counts as half the run-out that the shop assumes; relief counts nothing.
    /// </param>
    /// <param name="figures">What the readings come to.</param>
    /// <param name="dial">The dial of the head that cuts.</param>
    /// <param name="rules">The shop's rules.</param>
    /// <exception cref="InvalidOperationException">The drum has no readings.</exception>
    public static PlanRequest For(DrumMeasurement drum, DrumFigures figures, Dial dial, ShopRules rules)
    {
        ArgumentNullException.ThrowIfNull(drum);
        ArgumentNullException.ThrowIfNull(figures);
        ArgumentNullException.ThrowIfNull(rules);
        if (figures.Need is not { } known)
            throw new InvalidOperationException("A plan needs readings.");
        var assumed = drum.Eccentricity is null;
        var need = assumed ? known + rules.SetUp.AssumedRunout : known;
        var (groove, relief) = (drum.Groove ?? Length.Zero, drum.Relief ?? Length.Zero);
        return new()
        {
            Kind = PartKind.Drum,
            Touch = figures.TouchCareful!.Value,
            TouchBound = figures.TouchBound!.Value,
            Worst = figures.Greatest,
            MachineTo = drum.Limits.MachineTo,
            Discard = drum.Limits.Discard,
            Uncertainty = drum.Uncertainty,
            UnreadRelief = 2 * relief,
            Sides = [new(need, groove, need - groove - relief, relief, assumed, UnreadRelief: relief)],
            Dial = dial,
        };
    }
}
