using System.Numerics;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Reasoning;

namespace Uncial.Core.Mounting;

/// <summary>Whether cutting may start.</summary>
public enum SetUpVerdict
{
    /// <summary>The set-up is true enough.</summary>
    True,

    /// <summary>Between once and twice the tolerance.</summary>
    Close,

    /// <summary>Clean and mount again.</summary>
    Remount,

    /// <summary>Angles only: both have their share.</summary>
    Mixed,

    /// <summary>Angles only: most of it is the set-up's.</summary>
    SetUpAtFault,

    /// <summary>The marks do not say.</summary>
    CannotTell,
}

/// <summary>
/// Splits run-out into the part's own and the set-up's, by turning the part on the arbor. Source: reversal, a method of error separation.
/// </summary>
/// <param name="PartRunout">The part's own run-out, or null where only its share is known.</param>
/// <param name="PartAt">Its high spot.</param>
/// <param name="SetUpRunout">The set-up's run-out, or null.</param>
/// <param name="SetUpAt">Its high spot.</param>
/// <param name="SetUpShare">|S|/(|S| + |P|), 0 … 1, or null.</param>
/// <param name="CostFirst">Metal that the set-up costs in the first position; negative: saved.</param>
/// <param name="CostNow">Metal that it costs as it stands now; negative: saved.</param>
/// <param name="LeftOnVehicle">What cutting now would leave: run-out of a rotor, eccentricity of a drum.</param>
/// <param name="Verdict">Whether cutting may start.</param>
/// <param name="Notes">What weakens it.</param>
public sealed record SetUpCheck(
    Length? PartRunout,
    ClockAngle? PartAt,
    Length? SetUpRunout,
    ClockAngle? SetUpAt,
    double? SetUpShare,
    Length? CostFirst,
    Length? CostNow,
    Length? LeftOnVehicle,
    SetUpVerdict Verdict,
    IReadOnlyList<Note> Notes
)
{
    /// <summary>How it was worked out, in order.</summary>
    public IReadOnlyList<Step> Steps { get; init; } = [];

    /// <summary>Run-out as the part turns now, part and set-up together; null where no lengths are known.</summary>
    public Length? RunoutNow => PartRunout + CostNow;

    /// <summary>Smallest arc that has a direction, degrees.</summary>
    public const decimal SmallestArc = 30;

    /// <summary>Checks a set-up from two marks of one kind.</summary>
    /// <param name="kind">Rotor or drum.</param>
    /// <param name="turned">Turn of the part on the arbor between the marks, clockwise, degrees.</param>
    /// <param name="tolerance">Set-up run-out that the shop accepts.</param>
    /// <param name="division">One division of the dial or indicator.</param>
    /// <param name="first">Mark in the first position.</param>
    /// <param name="second">Mark after the turn.</param>
    /// <exception cref="ArgumentException">The turn is within 30° of none, or the marks are of different kinds.</exception>
    public static SetUpCheck Of(PartKind kind, decimal turned, Length tolerance, Length division, RunoutMark first, RunoutMark second)
    {
        ArgumentNullException.ThrowIfNull(first);
        ArgumentNullException.ThrowIfNull(second);
        if (!TurnTells(turned))
            throw new ArgumentException("A turn within 30° of none tells nothing.", nameof(turned));
        if ((first.Runout is null) != (second.Runout is null) || (first.Depth is null) != (second.Depth is null))
            throw new ArgumentException("Both marks are of one kind.", nameof(second));

        var turn = (double)turned * Math.PI / 180;
        if (first.Arc < SmallestArc || second.Arc < SmallestArc)
            return Unknown(new Note.ArcTooShort());
        if (first.IsRing || second.IsRing)
            return FromRings(turn, tolerance, first, second);

        static Length Mm(double mm) => Length.FromTrigonometry(mm, Toward.Nearest);
        var (part, setUp) = Split(first.Vector(), second.Vector(), turn);
        var share = part.Magnitude + setUp.Magnitude is > 0 and var whole ? setUp.Magnitude / whole : 0;
        var partAt = ClockAngle.FromRadians(part.Phase);
        var setUpAt = ClockAngle.FromRadians(setUp.Phase);
        if (first.Runout is null && first.Depth is null)
            return new(null, partAt, null, setUpAt, share, null, null, null, ByShare(share), [new Note.Rough()])
            {
                Steps = ShareSteps(part, setUp, share),
            };

        List<Note> notes = [];
        var verdict = ByLength(setUp.Magnitude, tolerance);
        if (IsUncertain(first, second, turn, tolerance, division, verdict))
            notes.Add(new Note.Uncertain());
        var (v1, v2) = (Mm(first.Vector().Magnitude), Mm(second.Vector().Magnitude));
        var (p, s) = (Mm(part.Magnitude), Mm(setUp.Magnitude));
        var left = kind == PartKind.Drum ? s / 2 : s;
        var steps = new Steps();
        Say(steps, "firstMark", first, v1);
        Say(steps, "secondMark", second, v2);
        steps.Add("apart", "", Mm((first.Vector() - second.Vector()).Magnitude), null);
        steps.Add("setUpRunout", "{0} / |2 · sin({1}° / 2)|", s, null, Mm((first.Vector() - second.Vector()).Magnitude), turned);
        steps.Add("partRunout", "", p, null);
        steps.Add("costFirst", "{0} − {1}", v1 - p, null, v1, p);
        steps.Add("costNow", "{0} − {1}", v2 - p, null, v2, p);
        steps.Add("leftOnVehicle", kind == PartKind.Drum ? "{0} / 2" : "{0}", left, null, s);
        steps.Add(
            "setUpVerdict",
            verdict switch
            {
                SetUpVerdict.True => "{0} ≤ {1}",
                SetUpVerdict.Close => "{1} < {0} ≤ 2 · {1}",
                _ => "{0} > 2 · {1}",
            },
            Term.Named(verdict),
            null,
            s,
            tolerance
        );
        if (v2 < p)
            notes.Add(new Note.SavesNow(p - v2, s));
        return new(p, partAt, s, setUpAt, share, v1 - p, v2 - p, left, verdict, notes) { Steps = steps.All };
    }

    /// <summary>
    /// The first scratch alone: nothing to tell part and set-up apart by, but a shop may take half-way round or more as good enough. All
    /// that it says then is R ≤ 2d.
    /// </summary>
    /// <param name="scratch">A scratch with its depth.</param>
    /// <param name="rules">The shop's rules.</param>
    /// <exception cref="ArgumentException">The mark has no depth.</exception>
    public static SetUpCheck OfFirstScratch(RunoutMark scratch, ShopRules rules)
    {
        ArgumentNullException.ThrowIfNull(scratch);
        ArgumentNullException.ThrowIfNull(rules);
        if (scratch is not { Arc: { } arc, Depth: { } depth })
            throw new ArgumentException("A scratch has an arc and a depth.", nameof(scratch));
        if (arc < 180 || !rules.SetUp.AcceptHalfRoundScratch)
            return Unknown(new Note.OneScratchOnly());
        var most = scratch.IsRing ? depth : 2 * depth;
        var steps = new Steps();
        steps.Add("runoutAtMost", scratch.IsRing ? "{0}" : "2 · {0}", most, null, depth);
        return new(null, null, null, null, null, null, null, null, SetUpVerdict.True, [new Note.HalfRoundAccepted(most)])
        {
            Steps = steps.All,
        };
    }

    /// <summary>
    /// Two arcs opposite each other on one scratch in a drum: it is oval, which is the drum's own and turning cures; eccentricity shows as
    /// one arc longer than the other.
    /// </summary>
    /// <param name="arc">Extent of one arc, degrees.</param>
    /// <param name="opposite">Extent of the other.</param>
    public static SetUpCheck OfOval(decimal arc, decimal opposite) =>
        arc < SmallestArc || opposite < SmallestArc ? Unknown(new Note.ArcTooShort())
        : Math.Abs(arc - opposite) <= SmallestArc
            ? new(null, null, null, null, null, null, null, null, SetUpVerdict.True, [new Note.OvalIsThePartsOwn()])
        : Unknown(new Note.OvalAndOffCentre());

    /// <summary>
    /// Two scratches, the part turned half round between them, whose arcs lie side by side on the part: the run-out is the part's own.
    /// Nothing is measured, so that no length follows from it.
    /// </summary>
    /// <param name="depth">How deep the scratches were made; null where that is not known.</param>
    public static SetUpCheck OfSideBySide(Length? depth) =>
        new(null, null, null, null, null, null, null, null, SetUpVerdict.True, [new Note.SideBySide(depth)]);

    /// <summary>Whether a turn is far enough from a whole one to tell part and set-up apart.</summary>
    public static bool TurnTells(decimal turned) => ClockAngle.FromDegrees(turned).Degrees is > 30 and < 330;

    /// <summary>V₁ = P + S and V₂ = P + S·e^(−iβ), solved for P and S.</summary>
    private static (Complex Part, Complex SetUp) Split(Complex first, Complex second, double turn)
    {
        var setUp = (first - second) / (1 - Complex.Exp(new Complex(0, -turn)));
        return (first - setUp, setUp);
    }

    private static void Say(Steps steps, string quantity, RunoutMark mark, Length vector)
    {
        if (mark.Depth is { } depth)
            steps.Add(quantity, "2 · {0} / (1 − cos(π · {1} / 360))", vector, null, depth, mark.Arc!.Value);
        else
            steps.Add(quantity, "{0}", vector, null, vector);
    }

    private static IReadOnlyList<Step> ShareSteps(Complex part, Complex setUp, double share)
    {
        var steps = new Steps();
        steps.Add("setUpShare", "{0} / ({0} + {1})", Term.Number(share), null, Term.Number(setUp.Magnitude), Term.Number(part.Magnitude));
        steps.Add("setUpVerdict", "", Term.Named(ByShare(share)), null);
        return steps.All;
    }

    /// <summary>Whether a set-up's run-out is true enough.</summary>
    /// <param name="runout">Total reading of the set-up alone.</param>
    /// <param name="tolerance">What the shop accepts.</param>
    public static bool Accepts(Length runout, Length tolerance) => runout <= tolerance;

    private static SetUpVerdict ByLength(double setUp, Length tolerance) =>
        setUp <= (double)tolerance.Millimetres + 1e-12 ? SetUpVerdict.True
        : setUp <= 2 * (double)tolerance.Millimetres + 1e-12 ? SetUpVerdict.Close
        : SetUpVerdict.Remount;

    private static SetUpVerdict ByShare(double share) =>
        share <= 0.25 ? SetUpVerdict.True
        : share <= 0.6 ? SetUpVerdict.Mixed
        : SetUpVerdict.SetUpAtFault;

    /// <summary>Whether arcs read half a finger wrong, or dials half a division, would give another verdict.</summary>
    private static bool IsUncertain(
        RunoutMark first,
        RunoutMark second,
        double turn,
        Length tolerance,
        Length division,
        SetUpVerdict verdict
    )
    {
        var step = (double)division.Millimetres * (first.Runout is null ? 0.5 : 1);
        double[] arcs = first.Runout is null ? [-7.5, 0, 7.5] : [0];
        double[] lengths = [-step, 0, step];
        foreach (var arc1 in arcs)
        foreach (var length1 in lengths)
        foreach (var arc2 in arcs)
        foreach (var length2 in lengths)
            if (ByLength(Split(first.Vector(arc1, length1), second.Vector(arc2, length2), turn).SetUp.Magnitude, tolerance) != verdict)
                return true;
        return false;
    }

    /// <summary>A full ring has no direction, but bounds what the set-up can be.</summary>
    private static SetUpCheck FromRings(double turn, Length tolerance, RunoutMark first, RunoutMark second)
    {
        if (first.Depth is not { } depth1 || second.Depth is not { } depth2)
            return Unknown(new Note.RingWithoutDepth());
        double Size(RunoutMark mark, Length depth) => mark.IsRing ? (double)depth.Millimetres : mark.Vector().Magnitude;
        var (m1, m2) = (Size(first, depth1), Size(second, depth2));
        var span = 2 * Math.Abs(Math.Sin(turn / 2));
        var upper = (m1 + m2) / span;
        var lower =
            first.IsRing && second.IsRing ? 0 : (first.IsRing ? m2 - (double)depth1.Millimetres : m1 - (double)depth2.Millimetres) / span;
        var verdict =
            upper <= (double)tolerance.Millimetres ? SetUpVerdict.True
            : lower > 2 * (double)tolerance.Millimetres ? SetUpVerdict.Remount
            : SetUpVerdict.CannotTell;
        var steps = new Steps();
        Term[] terms =
        [
            Length.FromTrigonometry(m1, Toward.Greater),
            Length.FromTrigonometry(m2, Toward.Greater),
            (decimal)(turn * 180 / Math.PI),
        ];
        steps.Add("setUpAtMost", "({0} + {1}) / |2 · sin({2}° / 2)|", Length.FromTrigonometry(upper, Toward.Greater), null, terms);
        if (lower > 0)
            steps.Add("setUpAtLeast", "", Length.FromTrigonometry(lower, Toward.Less), null);
        steps.Add("setUpVerdict", "", Term.Named(verdict), null);
        return new(
            null,
            null,
            null,
            null,
            null,
            null,
            null,
            null,
            verdict,
            [new Note.FullRing(Length.FromTrigonometry(upper, Toward.Greater))]
        )
        {
            Steps = steps.All,
        };
    }

    private static SetUpCheck Unknown(Note why) => new(null, null, null, null, null, null, null, null, SetUpVerdict.CannotTell, [why]);
}
