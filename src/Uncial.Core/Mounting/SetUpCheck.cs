using System.Numerics;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Core.Mounting;

/// <summary>
/// What one position of the part on the arbor shows: the arc of a scratch with its depth from its own touch, the arc alone, or an
/// indicator's total reading with the place of its high spot.
/// </summary>
public sealed record RunoutMark
{
    private RunoutMark(ClockAngle at, decimal? arc, Length? depth, Length? runout) => (At, Arc, Depth, Runout) = (at, arc, depth, runout);

    /// <summary>Middle of the arc, or the high spot.</summary>
    public ClockAngle At { get; }

    /// <summary>Extent of the arc in degrees, above 0 … 360; 360 is a full ring.</summary>
    public decimal? Arc { get; }

    /// <summary>Depth of the scratch from its own first touch.</summary>
    public Length? Depth { get; }

    /// <summary>Indicator's total reading.</summary>
    public Length? Runout { get; }

    /// <summary>A scratch that goes all the way round.</summary>
    public bool IsRing => Arc >= 360;

    /// <summary>An arc with its depth, which together give a run-out.</summary>
    public static RunoutMark Scratch(ClockAngle at, decimal arc, Length depth) => new(at, arc, depth, null);

    /// <summary>An arc alone, which gives a direction only.</summary>
    public static RunoutMark Direction(ClockAngle at, decimal arc) => new(at, arc, null, null);

    /// <summary>An indicator's total reading.</summary>
    public static RunoutMark Indicated(ClockAngle at, Length runout) => new(at, null, null, runout);

    /// <summary>The mark as a vector: R = 2d/(1 − cos(π·extent/360)), or the total reading; length 1 for a direction.</summary>
    internal Complex Vector(double arcError = 0, double lengthError = 0)
    {
        var length = Runout is { } total ? Math.Max(0, (double)total.Millimetres + lengthError)
            : Depth is { } depth ? 2 * Math.Max(1e-6, (double)depth.Millimetres + lengthError)
                / (1 - Math.Cos(Math.PI * Math.Clamp((double)Arc!.Value + arcError, 7.5, 360) / 360))
            : 1;
        return Complex.FromPolarCoordinates(length, At.Radians);
    }
}

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

/// <summary>Splits run-out into the part's own and the set-up's, by turning the part on the arbor. Source: reversal, a method of error separation.</summary>
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
    Length? PartRunout, ClockAngle? PartAt, Length? SetUpRunout, ClockAngle? SetUpAt, double? SetUpShare,
    Length? CostFirst, Length? CostNow, Length? LeftOnVehicle, SetUpVerdict Verdict, IReadOnlyList<Note> Notes)
{
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
        if (!TurnTells(turned)) throw new ArgumentException("A turn within 30° of none tells nothing.", nameof(turned));
        if ((first.Runout is null) != (second.Runout is null) || (first.Depth is null) != (second.Depth is null))
            throw new ArgumentException("Both marks are of one kind.", nameof(second));

        var turn = (double)turned * Math.PI / 180;
        if (first.Arc < SmallestArc || second.Arc < SmallestArc) return Unknown(new("arcTooShort"));
        if (first.IsRing || second.IsRing) return FromRings(turn, tolerance, first, second);

        var (part, setUp) = Split(first.Vector(), second.Vector(), turn);
        var share = part.Magnitude + setUp.Magnitude is > 0 and var whole ? setUp.Magnitude / whole : 0;
        var partAt = ClockAngle.FromRadians(part.Phase);
        var setUpAt = ClockAngle.FromRadians(setUp.Phase);
        if (first.Runout is null && first.Depth is null)
            return new(null, partAt, null, setUpAt, share, null, null, null, ByShare(share), [new("rough")]);

        static Length Mm(double mm) => Length.FromTrigonometry(mm, Toward.Nearest);
        List<Note> notes = [];
        var verdict = ByLength(setUp.Magnitude, tolerance);
        if (Doubtful(first, second, turn, tolerance, division, verdict)) notes.Add(new("uncertain"));
        var costNow = Mm(second.Vector().Magnitude - part.Magnitude);
        if (costNow < Length.Zero) notes.Add(new("savesNow", -costNow, Mm(setUp.Magnitude)));
        return new(Mm(part.Magnitude), partAt, Mm(setUp.Magnitude), setUpAt, share,
            Mm(first.Vector().Magnitude - part.Magnitude), costNow, Mm(kind == PartKind.Drum ? setUp.Magnitude / 2 : setUp.Magnitude), verdict, notes);
    }

    /// <summary>Whether a turn is far enough from a whole one to tell part and set-up apart.</summary>
    public static bool TurnTells(decimal turned) => ClockAngle.FromDegrees(turned).Degrees is > 30 and < 330;

    /// <summary>V₁ = P + S and V₂ = P + S·e^(−iβ), solved for P and S.</summary>
    private static (Complex Part, Complex SetUp) Split(Complex first, Complex second, double turn)
    {
        var setUp = (first - second) / (1 - Complex.Exp(new Complex(0, -turn)));
        return (first - setUp, setUp);
    }

    private static SetUpVerdict ByLength(double setUp, Length tolerance) =>
        setUp <= (double)tolerance.Millimetres + 1e-12 ? SetUpVerdict.True
        : setUp <= 2 * (double)tolerance.Millimetres + 1e-12 ? SetUpVerdict.Close : SetUpVerdict.Remount;

    private static SetUpVerdict ByShare(double share) =>
        share <= 0.25 ? SetUpVerdict.True : share <= 0.6 ? SetUpVerdict.Mixed : SetUpVerdict.SetUpAtFault;

    /// <summary>Whether arcs read half a finger wrong, or dials half a division, would give another verdict.</summary>
    private static bool Doubtful(RunoutMark first, RunoutMark second, double turn, Length tolerance, Length division, SetUpVerdict verdict)
    {
        var step = (double)division.Millimetres * (first.Runout is null ? 0.5 : 1);
        double[] arcs = first.Runout is null ? [-7.5, 0, 7.5] : [0];
        double[] lengths = [-step, 0, step];
        foreach (var arc1 in arcs)
            foreach (var length1 in lengths)
                foreach (var arc2 in arcs)
                    foreach (var length2 in lengths)
                        if (ByLength(Split(first.Vector(arc1, length1), second.Vector(arc2, length2), turn).SetUp.Magnitude, tolerance) != verdict) return true;
        return false;
    }

    /// <summary>A full ring has no direction, but bounds what the set-up can be.</summary>
    private static SetUpCheck FromRings(double turn, Length tolerance, RunoutMark first, RunoutMark second)
    {
        if (first.Depth is not { } depth1 || second.Depth is not { } depth2) return Unknown(new("ringWithoutDepth"));
        double Size(RunoutMark mark, Length depth) => mark.IsRing ? (double)depth.Millimetres : mark.Vector().Magnitude;
        var (m1, m2) = (Size(first, depth1), Size(second, depth2));
        var span = 2 * Math.Abs(Math.Sin(turn / 2));
        var upper = (m1 + m2) / span;
        var lower = first.IsRing && second.IsRing ? 0 : (first.IsRing ? m2 - (double)depth1.Millimetres : m1 - (double)depth2.Millimetres) / span;
        var verdict = upper <= (double)tolerance.Millimetres ? SetUpVerdict.True
            : lower > 2 * (double)tolerance.Millimetres ? SetUpVerdict.Remount : SetUpVerdict.CannotTell;
        return new(null, null, null, null, null, null, null, null, verdict, [new("fullRing", Length.FromTrigonometry(upper, Toward.Greater))]);
    }

    private static SetUpCheck Unknown(Note why) => new(null, null, null, null, null, null, null, null, SetUpVerdict.CannotTell, [why]);
}
