using Uncial.Core.Lengths;

namespace Uncial.Core;

/// <content>Notes of mounting.</content>
public abstract partial record Note
{
    /// <summary>An arc under 30° has no direction.</summary>
    public sealed record ArcTooShort : Note;

    /// <summary>From angles alone only the shares are known.</summary>
    public sealed record Rough : Note;

    /// <summary>Read a little otherwise the verdict would change.</summary>
    public sealed record Uncertain : Note;

    /// <summary>As it stands this saves metal now and leaves run-out on the vehicle.</summary>
    public sealed record SavesNow(Length Saves, Length LeftOnVehicle) : Note(length: Saves, second: LeftOnVehicle);

    /// <summary>One scratch cannot tell part and set-up apart.</summary>
    public sealed record OneScratchOnly : Note;

    /// <summary>Half-way round or more: the shop takes that.</summary>
    public sealed record HalfRoundAccepted(Length? Most) : Note(length: Most);

    /// <summary>The arcs lay side by side by eye.</summary>
    public sealed record SideBySide(Length? Depth) : Note(length: Depth);

    /// <summary>Two arcs opposite each other: the drum is oval.</summary>
    public sealed record OvalIsThePartsOwn : Note;

    /// <summary>Two arcs of unlike length: oval and off centre.</summary>
    public sealed record OvalAndOffCentre : Note;

    /// <summary>A full ring without its depth says nothing.</summary>
    public sealed record RingWithoutDepth : Note;

    /// <summary>A full ring has no direction.</summary>
    public sealed record FullRing(Length Most) : Note(length: Most);

    /// <summary>The machined face lies on the table.</summary>
    public sealed record OnTable : Note;

    /// <summary>The lathe takes no rotors.</summary>
    public sealed record TakesNoRotors(string Lathe) : Note(subject: Lathe);

    /// <summary>The lathe takes no drums.</summary>
    public sealed record TakesNoDrums(string Lathe) : Note(subject: Lathe);

    /// <summary>The part is larger than the lathe takes.</summary>
    public sealed record PartTooLarge(Length Across, Length Greatest) : Note(length: Across, second: Greatest);

    /// <summary>The part is smaller than the lathe takes.</summary>
    public sealed record PartTooSmall(Length Across, Length Least) : Note(length: Across, second: Least);

    /// <summary>A hub does not lie flat on a table.</summary>
    public sealed record HubNotFlat : Note;

    /// <summary>How far up the cone the hole stands.</summary>
    public sealed record ConeEnters(Length Least, Length Greatest, decimal Percent, string Cone)
        : Note(length: Least, second: Greatest, degrees: Percent, subject: Cone);

    /// <summary>How far up the race cone the race stands.</summary>
    public sealed record RaceConeEnters(Length? Race, decimal Percent, string Cone) : Note(length: Race, degrees: Percent, subject: Cone);

    /// <summary>Spacers inside keep the edge off the shoulder, those outside bring the nut onto its thread.</summary>
    public sealed record SpacersFill(Length Inside, Length Outside) : Note(length: Inside, second: Outside);

    /// <summary>The chuck expands into the hole.</summary>
    public sealed record ChuckGrips(Length Least, Length Greatest, string Chuck) : Note(length: Least, second: Greatest, subject: Chuck);

    /// <summary>The jaws grip the hole.</summary>
    public sealed record JawsGrip(Length Least, Length Greatest, string Jaws) : Note(length: Least, second: Greatest, subject: Jaws);

    /// <summary>The face is bolted to the plate.</summary>
    public sealed record FacePlateCarries(Length Outside, Length Seat, string Plate) : Note(length: Outside, second: Seat, subject: Plate);

    /// <summary>The largest plate that seats on the face.</summary>
    public sealed record LargestPlate(Length Outside, Length? Face, string Plate) : Note(length: Outside, second: Face, subject: Plate);

    /// <summary>The largest pair of cups that seats on the face.</summary>
    public sealed record LargestCup(Length Outside, Length? Face, string Cup) : Note(length: Outside, second: Face, subject: Cup);

    /// <summary>The next pair would be in the way of the cutter.</summary>
    public sealed record CupLeavesCutter(Length Outside, Length Next, string Cup) : Note(length: Outside, second: Next, subject: Cup);

    /// <summary>No cone fits the hole.</summary>
    public sealed record NoCone(Length Hole, Length Ends, decimal Begins, string Nearest)
        : Note(length: Hole, second: Ends, degrees: Begins, subject: Nearest);

    /// <summary>No cone is on the board.</summary>
    public sealed record NoConeAtAll(Length Hole) : Note(length: Hole);

    /// <summary>No race cone fits the race.</summary>
    public sealed record NoRaceCone(Length Race, Length Ends, decimal Begins, string Nearest)
        : Note(length: Race, second: Ends, degrees: Begins, subject: Nearest);

    /// <summary>No race cone is on the board.</summary>
    public sealed record NoRaceConeAtAll(Length Race) : Note(length: Race);

    /// <summary>No chuck fits the hole.</summary>
    public sealed record NoChuck(Length Hole, Length Ends, decimal Begins, string Nearest)
        : Note(length: Hole, second: Ends, degrees: Begins, subject: Nearest);

    /// <summary>No chuck is on the board.</summary>
    public sealed record NoChuckAtAll(Length Hole) : Note(length: Hole);

    /// <summary>No jaws fit the hole.</summary>
    public sealed record NoJaws(Length Hole, Length Ends, decimal Begins, string Nearest)
        : Note(length: Hole, second: Ends, degrees: Begins, subject: Nearest);

    /// <summary>No jaws are on the board.</summary>
    public sealed record NoJawsAtAll(Length Hole) : Note(length: Hole);

    /// <summary>No face plate is as wide as the face.</summary>
    public sealed record NoFacePlate(Length Face) : Note(length: Face);

    /// <summary>No pair of cups seats on the face.</summary>
    public sealed record NoCup(Length Face, Length? Smallest) : Note(length: Face, second: Smallest);

    /// <summary>No cups leave the cutter its room.</summary>
    public sealed record NoCupForCutter(Length Smallest, Length? Room) : Note(length: Smallest, second: Room);

    /// <summary>No plate seats on the face.</summary>
    public sealed record NoPlate(Length Face, Length? Smallest) : Note(length: Face, second: Smallest);

    /// <summary>No plate leaves the cutter its room.</summary>
    public sealed record NoPlateForCutter(Length Smallest, Length? Room) : Note(length: Smallest, second: Room);

    /// <summary>No cone that fits goes into the recess of the cup.</summary>
    public sealed record ConeTooWideForCup(Length Cone, Length Recess, string Cup) : Note(length: Cone, second: Recess, subject: Cup);

    /// <summary>Cup and all spacers are too short to keep the edge off the lathe.</summary>
    public sealed record CannotKeepOff(Length? Depth, Length Reach) : Note(length: Depth, second: Reach);

    /// <summary>The stack is too long for the nut.</summary>
    public sealed record StackTooLong(Length Stack, Length Most) : Note(length: Stack, second: Most);

    /// <summary>The stack is too short for the thread.</summary>
    public sealed record StackTooShort(Length Stack, Length Least) : Note(length: Stack, second: Least);
}
