using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Practice.Causes;

namespace Uncial.Practice.Drills;

/// <summary>What is asked. A closed set: each names what its sentence needs.</summary>
public abstract record Ask
{
    private Ask() { }

    /// <summary>What does the gauge read?</summary>
    /// <param name="From">Least size of a micrometer that does not begin at 0.</param>
    public sealed record GaugeReads(Length? From) : Ask;

    /// <summary>How far did the part swing: the total reading.</summary>
    public sealed record TotalReading : Ask;

    /// <summary>Which start is set for a drum with this discard limit?</summary>
    /// <param name="Discard">Its limit.</param>
    /// <param name="Unit">Unit in which the limit is cast.</param>
    /// <param name="Reach">How far the dial reaches from a start.</param>
    /// <param name="ReachUnit">Unit of the dial.</param>
    public sealed record StartForLimit(Length Discard, LengthUnit Unit, Length Reach, LengthUnit ReachUnit) : Ask;

    /// <summary>What is this limit in the other unit, on the safe side?</summary>
    /// <param name="Limit">The limit.</param>
    /// <param name="Part">Rotor: least thickness; drum: greatest diameter.</param>
    /// <param name="From">Unit in which it is given.</param>
    /// <param name="To">Unit that is asked for.</param>
    public sealed record LimitInOtherUnit(Length Limit, PartKind Part, LengthUnit From, LengthUnit To) : Ask;

    /// <summary>Is the reading within the limit, or beyond?</summary>
    /// <param name="Part">Rotor or drum.</param>
    /// <param name="Limit">Discard limit.</param>
    /// <param name="LimitUnit">Its unit.</param>
    /// <param name="Reading">What the gauge reads.</param>
    /// <param name="ReadingUnit">Unit of the gauge.</param>
    public sealed record WithinOrBeyond(PartKind Part, Length Limit, LengthUnit LimitUnit, Length Reading, LengthUnit ReadingUnit) : Ask;

    /// <summary>Which of the two is worn more?</summary>
    /// <param name="Part">Rotor or drum.</param>
    public sealed record WhichIsWorse(PartKind Part) : Ask;

    /// <summary>A drum of this diameter loses so much depth all round: what is its diameter then?</summary>
    public sealed record DiameterAfter(Length Diameter, Length Depth, LengthUnit Unit) : Ask;

    /// <summary>A rotor of this thickness loses so much on each side: how thick is it then?</summary>
    public sealed record ThicknessAfter(Length Thickness, Length EachSide, LengthUnit Unit) : Ask;

    /// <summary>The dial of the lathe counts diameter: how far is it turned for a cut so deep?</summary>
    public sealed record DialForDepth(Length Depth, LengthUnit Unit) : Ask;

    /// <summary>What does the casting say?</summary>
    /// <param name="Part">Rotor or drum.</param>
    public sealed record Marking(PartKind Part) : Ask;

    /// <summary>Two scratches, the part turned on the arbor between them: whose is the run-out?</summary>
    /// <param name="Turned">How far it was turned, clockwise, degrees.</param>
    /// <param name="First">Run-out that the first scratch shows.</param>
    /// <param name="Second">Run-out that the second one shows.</param>
    public sealed record Scratches(int Turned, Length First, Length Second) : Ask;

    /// <summary>Which cone centres this hole?</summary>
    public sealed record ConeForHole(Length Hole) : Ask;

    /// <summary>Which pair of cups clamps this part?</summary>
    /// <param name="Part">Rotor or drum.</param>
    /// <param name="Register">Machined face, up to which a cup seats flat.</param>
    /// <param name="Hole">Hole in the middle.</param>
    /// <param name="Cone">Greatest diameter of the cone, which stands in the cups.</param>
    /// <param name="Size">Inside diameter of a drum; null for a rotor.</param>
    /// <param name="CutterRoom">What the head needs beside a cup in a drum; null for a rotor.</param>
    public sealed record CupsForPart(PartKind Part, Length Register, Length Hole, Length Cone, Length? Size, Length? CutterRoom) : Ask;

    /// <summary>How is this part held?</summary>
    /// <param name="Part">Rotor or drum.</param>
    /// <param name="Hubbed">Hub and bearing races are one piece with it.</param>
    /// <param name="Hole">Hole of a hubless part.</param>
    public sealed record HowHeld(PartKind Part, bool Hubbed, Length? Hole) : Ask;

    /// <summary>The lathe is about to be started: what is wrong?</summary>
    /// <param name="Part">What is on it.</param>
    public sealed record WhatIsWrong(PartKind Part) : Ask;
}

/// <summary>One of the answers that an item offers, with what picking it would mean.</summary>
/// <param name="Cause">Why somebody picks it; <see cref="MistakeCause.None"/> for the right one.</param>
public abstract record Choice(MistakeCause Cause)
{
    /// <summary>A size, written in a unit with so many decimals.</summary>
    public sealed record Size(Length Value, LengthUnit Unit, int Decimals, MistakeCause Cause) : Choice(Cause);

    /// <summary>Within the limit.</summary>
    public sealed record Within(MistakeCause Cause) : Choice(Cause);

    /// <summary>Beyond the limit.</summary>
    public sealed record Beyond(MistakeCause Cause) : Choice(Cause);

    /// <summary>A limit of a kind.</summary>
    public sealed record Limit(LimitKind Kind, Length Value, LengthUnit Unit, int Decimals, MistakeCause Cause) : Choice(Cause);

    /// <summary>The part's: cut.</summary>
    public sealed record ThePart(MistakeCause Cause) : Choice(Cause);

    /// <summary>The set-up's: clean and mount again.</summary>
    public sealed record TheSetUp(Length Runout, MistakeCause Cause) : Choice(Cause);

    /// <summary>Both: the set-up has so much of it.</summary>
    public sealed record Both(Length SetUp, MistakeCause Cause) : Choice(Cause);

    /// <summary>An adapter by its range.</summary>
    public sealed record Adapter(Core.Mounting.Adapter What, MistakeCause Cause) : Choice(Cause);

    /// <summary>A way of holding a part.</summary>
    public sealed record Held(Core.Mounting.MountWay Way, MistakeCause Cause) : Choice(Cause);

    /// <summary>A lock stands wrong.</summary>
    public sealed record Lock(string Name, MistakeCause Cause) : Choice(Cause);

    /// <summary>The feed lever points the wrong way.</summary>
    public sealed record Lever(MistakeCause Cause) : Choice(Cause);

    /// <summary>The band is missing.</summary>
    public sealed record Band(MistakeCause Cause) : Choice(Cause);

    /// <summary>Nothing is wrong.</summary>
    public sealed record Nothing(MistakeCause Cause) : Choice(Cause);
}
