using System.Text.Json.Serialization;
using Uncial.Simulation;
using Uncial.Simulation.Held;

namespace Uncial.Practice.Jobs;

/// <summary>
/// What a trainee does with the virtual part, gauges and lathe. A closed set: the state of a bench is its lesson, its seed and its deeds in
/// their order, and nothing else.
/// </summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "deed")]
[JsonDerivedType(typeof(CleanPart), "cleanPart")]
[JsonDerivedType(typeof(CleanAdapters), "cleanAdapters")]
[JsonDerivedType(typeof(Mount), "mount")]
[JsonDerivedType(typeof(TurnOnArbor), "turnOnArbor")]
[JsonDerivedType(typeof(Dismount), "dismount")]
[JsonDerivedType(typeof(HoldMicrometer), "holdMicrometer")]
[JsonDerivedType(typeof(HoldBar), "holdBar")]
[JsonDerivedType(typeof(HoldIndicator), "holdIndicator")]
[JsonDerivedType(typeof(HoldDepthGauge), "holdDepthGauge")]
[JsonDerivedType(typeof(ReadStandard), "readStandard")]
[JsonDerivedType(typeof(SetDatum), "setDatum")]
[JsonDerivedType(typeof(LookAt), "lookAt")]
[JsonDerivedType(typeof(Scratch), "scratch")]
[JsonDerivedType(typeof(ZeroAtTouch), "zeroAtTouch")]
[JsonDerivedType(typeof(SetDial), "setDial")]
[JsonDerivedType(typeof(Band), "band")]
[JsonDerivedType(typeof(SetReach), "setReach")]
[JsonDerivedType(typeof(FreshEdges), "freshEdges")]
[JsonDerivedType(typeof(Pass), "pass")]
[JsonDerivedType(typeof(Wait), "wait")]
public abstract record Deed
{
    private Deed() { }

    /// <summary>Cleans the mounting face of the part on both sides.</summary>
    public sealed record CleanPart : Deed;

    /// <summary>Cleans arbor and adapters.</summary>
    public sealed record CleanAdapters : Deed;

    /// <summary>Mounts the part; one that is on the arbor comes off first.</summary>
    /// <param name="Cone">Which cone of the board, from 0 on.</param>
    /// <param name="Cups">Which pair of cups, from 0 on.</param>
    /// <param name="NotchesMeet">The notches of the cups face one another.</param>
    public sealed record Mount(int Cone, int Cups, bool NotchesMeet) : Deed;

    /// <summary>Slackens the nut, turns the part on the arbor and tightens.</summary>
    /// <param name="Degrees">How far, clockwise.</param>
    public sealed record TurnOnArbor(int Degrees) : Deed;

    /// <summary>Takes the part off the arbor.</summary>
    public sealed record Dismount : Deed;

    /// <summary>Holds a micrometer on the rotor.</summary>
    /// <param name="Gauge">Which gauge of the lesson, from 0 on.</param>
    /// <param name="Held">Where and how.</param>
    public sealed record HoldMicrometer(int Gauge, HeldMicrometer Held) : Deed;

    /// <summary>Holds a drum gauge in the drum.</summary>
    /// <param name="Gauge">Which gauge of the lesson, from 0 on.</param>
    /// <param name="Start">Where its bar is set, in its unit.</param>
    /// <param name="Held">Where and how.</param>
    public sealed record HoldBar(int Gauge, double Start, HeldBar Held) : Deed;

    /// <summary>Turns the part once under an indicator.</summary>
    /// <param name="Gauge">Which gauge of the lesson, from 0 on.</param>
    /// <param name="Held">Where.</param>
    public sealed record HoldIndicator(int Gauge, HeldIndicator Held) : Deed;

    /// <summary>Sets a depth gauge down.</summary>
    /// <param name="Gauge">Which gauge of the lesson, from 0 on.</param>
    /// <param name="Held">Where.</param>
    public sealed record HoldDepthGauge(int Gauge, HeldDepthGauge Held) : Deed;

    /// <summary>Reads a gauge on its setting standard.</summary>
    /// <param name="Gauge">Which gauge of the lesson, from 0 on.</param>
    public sealed record ReadStandard(int Gauge) : Deed;

    /// <summary>Sets the datum of a gauge right on its standard.</summary>
    /// <param name="Gauge">Which gauge of the lesson, from 0 on.</param>
    public sealed record SetDatum(int Gauge) : Deed;

    /// <summary>Looks at a face with the light from a side.</summary>
    /// <param name="Face">Outer or inner face, or the bore.</param>
    /// <param name="LightDegrees">Where the light comes from.</param>
    public sealed record LookAt(int Face, double LightDegrees) : Deed;

    /// <summary>Brings the bit in until it ticks, and so much deeper: a scratch.</summary>
    /// <param name="Face">Outer or inner face, or the bore.</param>
    /// <param name="DepthMm">Depth from the touch.</param>
    public sealed record Scratch(int Face, double DepthMm) : Deed;

    /// <summary>Takes ridges off by hand, brings the bit to its first touch and sets its scale to zero.</summary>
    /// <param name="Face">Outer or inner face, or the bore.</param>
    public sealed record ZeroAtTouch(int Face) : Deed;

    /// <summary>Sets a dial.</summary>
    /// <param name="Face">Outer or inner face, or the bore.</param>
    /// <param name="Divisions">Divisions from its zero.</param>
    /// <param name="FromBehind">Backed off and brought up again, so that the play is out.</param>
    public sealed record SetDial(int Face, int Divisions, bool FromBehind) : Deed;

    /// <summary>Puts a band on, or takes it off.</summary>
    public sealed record Band(bool On) : Deed;

    /// <summary>Brings the tool nearer or further out.</summary>
    /// <param name="Mm">How far it stands out then.</param>
    public sealed record SetReach(double Mm) : Deed;

    /// <summary>Turns the inserts to fresh edges.</summary>
    public sealed record FreshEdges : Deed;

    /// <summary>Runs a pass over every face that is to be cut.</summary>
    /// <param name="FeedMm">Feed, mm a turn.</param>
    /// <param name="TurnsPerMinute">Speed of the spindle.</param>
    /// <param name="Loose">Locks that are not tight though they should be.</param>
    /// <param name="IsFeedLocked">The feed that should be free is locked: the tool stands still and cuts a ring.</param>
    /// <param name="LeverIsRight">The lever points the right way.</param>
    /// <param name="StoppedAt">Share of the band after which it was stopped; null for a whole pass.</param>
    public sealed record Pass(
        double FeedMm,
        double TurnsPerMinute,
        int Loose,
        bool IsFeedLocked,
        bool LeverIsRight,
        double? StoppedAt = null
    ) : Deed;

    /// <summary>Lets the part cool.</summary>
    /// <param name="Minutes">For how long.</param>
    public sealed record Wait(double Minutes) : Deed;
}

/// <summary>What a trainee sees or hears after a deed: what an eye could see, and no figure of it.</summary>
public abstract record Seen
{
    private Seen() { }

    /// <summary>Nothing to be seen beside that it was done.</summary>
    public sealed record Done : Seen;

    /// <summary>It cannot be done now.</summary>
    public sealed record NotNow(string Why) : Seen;

    /// <summary>A gauge.</summary>
    public sealed record Gauge(Simulation.Scales.GaugePicture Picture) : Seen;

    /// <summary>A scratch: where its middle lies on the part and how far it runs, to two degrees.</summary>
    public sealed record Arc(int On, double MiddleDegrees, double ArcDegrees) : Seen;

    /// <summary>A face as light shows it.</summary>
    public sealed record Face(FacePicture Picture) : Seen;

    /// <summary>What is heard of a pass, and whether the part is ruined.</summary>
    public sealed record Heard(HeardAs As, int WavesPerTurn, bool IsRuined) : Seen;
}

/// <summary>A face as an eye sees it, station by station round the part.</summary>
/// <param name="Stations">Stations from the inner edge out, or from the open edge in.</param>
/// <param name="Spots">Spots of each station.</param>
/// <param name="Shades">
/// Shade of each spot, 0 dark … 9 bright, station by station: what the slope to its neighbours and the light make of it, in steps.
/// </param>
/// <param name="IsBright">Spots that a tool has been over.</param>
/// <param name="FeedMarks">How wide apart the marks of the feed stand, mm; 0 where nothing was cut.</param>
/// <param name="Waves">Waves of chatter once round; 0 for none.</param>
/// <param name="Crack">Spots of a crack that the light brings out; empty where it does not.</param>
public sealed record FacePicture(
    int Stations,
    int Spots,
    IReadOnlyList<int> Shades,
    IReadOnlyList<bool> IsBright,
    double FeedMarks,
    int Waves,
    IReadOnlyList<int> Crack
);
