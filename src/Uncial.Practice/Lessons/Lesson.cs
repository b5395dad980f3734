using Uncial.Core.Parts;
using Uncial.Practice.Drills;
using Uncial.Simulation;
using Uncial.Simulation.Scales;

namespace Uncial.Practice.Lessons;

/// <summary>What is right in the end of a lesson.</summary>
public enum Decision
{
    /// <summary>Cut it clean and release it.</summary>
    Release,

    /// <summary>Leave it uncut: nothing is wrong with it that metal would cure.</summary>
    LeaveUncut,

    /// <summary>Only a lead may release it: it ends between machine-to and discard.</summary>
    AskLead,

    /// <summary>Scrap it.</summary>
    Scrap,
}

/// <summary>The mistake of the trade that a lesson is built on.</summary>
public enum LessonMistake
{
    /// <summary>Across the rust ridge a micrometer reads too much.</summary>
    ReadOnTheRidge,

    /// <summary>Fractions added wrong.</summary>
    FractionsAddedWrong,

    /// <summary>Limit in one unit, gauge in the other.</summary>
    UnitsMixed,

    /// <summary>The cast discard limit taken for the machining limit.</summary>
    DiscardForMachineTo,

    /// <summary>Two axes of a drum taken for proof of roundness.</summary>
    TwoAxes,

    /// <summary>The set-up's wobble cut into the part.</summary>
    WobbleCutIn,

    /// <summary>A dial that counts diameter taken for one that counts depth.</summary>
    DialCountsDiameter,

    /// <summary>A gauge whose datum somebody has shifted.</summary>
    ShiftedDatum,

    /// <summary>Chatter from a missing band, reach or a worn edge.</summary>
    Chatter,

    /// <summary>More metal taken than needed.</summary>
    TooMuchMetal,

    /// <summary>Nobody looked: a crack, a groove, a low land.</summary>
    NotLooked,

    /// <summary>A part that needs no cut is cut.</summary>
    CutForNothing,

    /// <summary>Of a rotor with a drum in its hat only the faces were read.</summary>
    HatForgotten,
}

/// <summary>A figure of a lesson: fixed, or drawn between two.</summary>
/// <param name="Low">Least.</param>
/// <param name="High">Greatest.</param>
public readonly record struct Range(double Low, double High)
{
    /// <summary>One of them.</summary>
    public double Draw(Chance chance)
    {
        ArgumentNullException.ThrowIfNull(chance);
        return Low == High ? Low : chance.Between(Low, High);
    }
}

/// <summary>The part of a lesson.</summary>
/// <param name="Kind">Rotor or drum.</param>
/// <param name="NominalMm">Size when new.</param>
/// <param name="MachineToMm">How far it may be machined.</param>
/// <param name="DiscardMm">Size past which it is scrap.</param>
/// <param name="EdgeMm">Radius of the outer edge of a rotor; 0 for a drum.</param>
/// <param name="Cast">What is cast in it, line by line.</param>
public sealed record LessonPart(
    PartKind Kind,
    double NominalMm,
    double MachineToMm,
    double DiscardMm,
    double EdgeMm,
    IReadOnlyList<string> Cast
)
{
    /// <summary>Hole in its middle, mm.</summary>
    public double HoleMm { get; init; } = 63.5;

    /// <summary>Machined face round the hole, mm: up to it a cup seats flat.</summary>
    public double FaceMm { get; init; } = 132;

    /// <summary>Web that is clamped, mm.</summary>
    public double WebMm { get; init; } = 8;
}

/// <summary>A gauge of a lesson.</summary>
/// <param name="Design">How it is made.</param>
/// <param name="BiasMm">Its own error.</param>
/// <param name="ShiftedMm">How far somebody has shifted its datum; 0 for nobody.</param>
public sealed record LessonGauge(GaugeDesign Design, Range BiasMm, Range ShiftedMm);

/// <summary>The lathe of a lesson.</summary>
/// <param name="DivisionMm">What one division of its dial is marked as.</param>
/// <param name="CountsDiameter">It counts diameter or thickness rather than depth.</param>
/// <param name="PlayMm">Play of its screw.</param>
/// <param name="EdgeWorn">How far its edges are worn, 0 … 1.</param>
/// <param name="ReachMm">How far its tool stands out as it was left.</param>
/// <param name="IsDirty">Arbor, adapters and the part's face have to be cleaned.</param>
public sealed record LessonLathe(double DivisionMm, bool CountsDiameter, double PlayMm, double EdgeWorn, double ReachMm, bool IsDirty);

/// <summary>How the part of a lesson is worn, in ranges.</summary>
public sealed record LessonWear
{
    /// <summary>How far the worst land is inside discard.</summary>
    public required Range Left { get; init; }

    /// <summary>See <see cref="WornShape.Runout"/>.</summary>
    public Range Runout { get; init; }

    /// <summary>See <see cref="WornShape.Variation"/>.</summary>
    public Range Variation { get; init; }

    /// <summary>See <see cref="WornShape.Oval"/>.</summary>
    public Range Oval { get; init; }

    /// <summary>See <see cref="WornShape.At"/>.</summary>
    public Range At { get; init; }

    /// <summary>See <see cref="WornShape.Eccentricity"/>.</summary>
    public Range Eccentricity { get; init; }

    /// <summary>See <see cref="WornShape.Taper"/>.</summary>
    public Range Taper { get; init; }

    /// <summary>See <see cref="WornShape.Grooves"/>.</summary>
    public IReadOnlyList<Range> Grooves { get; init; } = [];

    /// <summary>See <see cref="WornShape.LowLand"/>.</summary>
    public Range LowLand { get; init; }

    /// <summary>See <see cref="WornShape.Ridge"/>.</summary>
    public Range Ridge { get; init; } = new(0.3, 0.3);

    /// <summary>See <see cref="WornShape.Rust"/>.</summary>
    public Range Rust { get; init; }

    /// <summary>See <see cref="WornShape.HardSpot"/>.</summary>
    public Range HardSpot { get; init; }

    /// <summary>It is cracked: seen when the face is turned to the light.</summary>
    public bool HasCrack { get; init; }
}

/// <summary>The drum in the hat of a lesson's rotor: a work surface with limits, wear and a decision of its own.</summary>
/// <param name="Part">The drum; hole, face and web are those of the rotor.</param>
/// <param name="Wear">How it is worn.</param>
/// <param name="Decision">What is right for it alone.</param>
public sealed record LessonHat(LessonPart Part, LessonWear Wear, Decision Decision);

/// <summary>A lesson: a part, gauges and a lathe with what is wrong with them, and what is right in the end.</summary>
public sealed record Lesson
{
    /// <summary>Its name in addresses and files: small letters, digits and hyphens.</summary>
    public required string Id { get; init; }

    /// <summary>Its title.</summary>
    public required string Title { get; init; }

    /// <summary>What it is about, for the trainee.</summary>
    public required string About { get; init; }

    /// <summary>How hard it is, 1 … 5.</summary>
    public required int Grade { get; init; }

    /// <summary>How long it takes, minutes.</summary>
    public required int Minutes { get; init; }

    /// <summary>The mistake that it is built on.</summary>
    public required LessonMistake Mistake { get; init; }

    /// <summary>The part.</summary>
    public required LessonPart Part { get; init; }

    /// <summary>How it is worn.</summary>
    public required LessonWear Wear { get; init; }

    /// <summary>The gauges that lie on the bench.</summary>
    public required IReadOnlyList<LessonGauge> Gauges { get; init; }

    /// <summary>The lathe.</summary>
    public required LessonLathe Lathe { get; init; }

    /// <summary>What is marked.</summary>
    public required IReadOnlyList<Skill> Marked { get; init; }

    /// <summary>What is right in the end; of a rotor with a drum in its hat what is right for its faces alone.</summary>
    public required Decision Decision { get; init; }

    /// <summary>The drum in the hat of the rotor; null where there is none.</summary>
    public LessonHat? Hat { get; init; }

    /// <summary>Work surfaces of the part: 2 for a rotor with a drum in its hat.</summary>
    public int Surfaces => Hat is null ? 1 : 2;

    /// <summary>What is right for the part as a whole: the stricter of what is right for its surfaces.</summary>
    public Decision WholeDecision => Hat is { } hat ? Stricter(Decision, hat.Decision) : Decision;

    /// <summary>The lesson as one work surface has it.</summary>
    /// <param name="surface">The surface, from 1 on.</param>
    public Lesson Of(int surface)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(surface, 1);
        ArgumentOutOfRangeException.ThrowIfGreaterThan(surface, Surfaces);
        return Hat is not { } hat ? this
            : surface == 1 ? this with { Hat = null }
            : this with { Hat = null, Part = hat.Part, Wear = hat.Wear, Decision = hat.Decision };
    }

    /// <summary>The seed of a work surface, of the seed of the part.</summary>
    public static long SeedOf(long seed, int surface) => surface == 1 ? seed : unchecked(seed * 7919 + surface);

    /// <summary>What becomes of a part of which one surface asks for this and another for that.</summary>
    public static Decision Stricter(Decision a, Decision b)
    {
        Decision[] order = [Decision.Scrap, Decision.AskLead, Decision.Release, Decision.LeaveUncut];
        return order.First(d => d == a || d == b);
    }

    /// <summary>
    /// The part of this lesson: a seed gives the same one everywhere. Of a rotor with a drum in its hat the faces; see <see cref="Of"/>.
    /// </summary>
    public VirtualPart Draw(long seed)
    {
        var chance = new Chance(seed);
        var sizes = new VirtualPart.Sizes(Part.NominalMm, Part.MachineToMm, Part.DiscardMm);
        return VirtualPart.Worn(
            Part.Kind,
            sizes,
            Part.EdgeMm,
            new()
            {
                Left = Wear.Left.Draw(chance),
                Runout = Wear.Runout.Draw(chance),
                Variation = Wear.Variation.Draw(chance),
                Oval = Wear.Oval.Draw(chance),
                At = Wear.At.Draw(chance),
                Eccentricity = Wear.Eccentricity.Draw(chance),
                Taper = Wear.Taper.Draw(chance),
                Grooves = [.. Wear.Grooves.Select(g => g.Draw(chance))],
                LowLand = Wear.LowLand.Draw(chance),
                Ridge = Wear.Ridge.Draw(chance),
                Rust = Wear.Rust.Draw(chance),
                HardSpot = Wear.HardSpot.Draw(chance),
            },
            chance
        );
    }
}
