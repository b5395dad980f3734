using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Reasoning;

namespace Uncial.Core.Planning;

/// <summary>What kind of machine a lathe is.</summary>
public enum LatheKind
{
    /// <summary>Bench brake lathe: arbor, twin cutter for rotors, boring bar for drums.</summary>
    Bench,

    /// <summary>Engine lathe with a chuck or a face plate.</summary>
    Engine,

    /// <summary>Rotary surface grinder with a table.</summary>
    Grinder,
}

/// <summary>A lock of a lathe, and whether it is tight while a rotor or a drum is cut.</summary>
/// <param name="Name">What the shop calls it.</param>
/// <param name="TightForRotor">Tight while a rotor is cut; otherwise free.</param>
/// <param name="TightForDrum">Tight while a drum is cut; otherwise free.</param>
public sealed record LatheLock(string Name, bool TightForRotor, bool TightForDrum);

/// <summary>Diameters that a machine takes, both ends included.</summary>
/// <param name="Least">Least diameter.</param>
/// <param name="Greatest">Greatest diameter.</param>
public sealed record DiameterRange(Length Least, Length Greatest);

/// <summary>How far a frequency drive is turned down and up.</summary>
/// <param name="Least">Slowest, above 0 … 1.</param>
/// <param name="Greatest">Fastest, 1 … 2.</param>
public sealed record DriveRange(decimal Least, decimal Greatest);

/// <summary>The arbor of a bench lathe, counted from its shoulder.</summary>
/// <param name="Diameter">Its diameter; adapters with the same bore fit.</param>
/// <param name="Room">From the shoulder to its end.</param>
/// <param name="Thread">Length of thread at its end: only there the nut holds.</param>
/// <param name="Nut">Thickness of the nut.</param>
public sealed record Arbor(Length Diameter, Length Room, Length Thread, Length Nut);

/// <summary>The dial of one head: the twin cutter's, or the boring bar's.</summary>
/// <param name="Division">What one division is marked as.</param>
/// <param name="Unit">Unit in which it is marked; settings are given in it whatever the reader's unit.</param>
/// <param name="CountsDiameter">It counts diameter or thickness instead of depth.</param>
/// <param name="Allowance">Error of a setting, per bit (z): one division, at least 0.01 mm.</param>
/// <param name="DivisionsPerTurn">Divisions in one turn, for the drawing of its collar.</param>
/// <param name="Since">When it was entered, changed or its head realigned: cuts from before say nothing of it. Null: never.</param>
public sealed record HeadDial(
    Length Division,
    LengthUnit Unit,
    bool CountsDiameter,
    Length Allowance,
    int DivisionsPerTurn = 50,
    DateTimeOffset? Since = null
)
{
    /// <summary>It moves the bit as a dial does that is marked so.</summary>
    public bool MovesAs(Length division, bool countsDiameter) => (Division, CountsDiameter) == (division, countsDiameter);
}

/// <summary>A lathe of the shop: what it is, how its dials count, what it takes and how it is worked.</summary>
public sealed record Lathe
{
    /// <summary>What the shop calls it.</summary>
    public required string Name { get; init; }

    /// <summary>Bench lathe, engine lathe or grinder.</summary>
    public LatheKind Kind { get; init; }

    /// <summary>
    /// What one division of its dials is marked as: of the head that cuts rotors, and of the other where that has no dial of its own.
    /// </summary>
    public required Length Division { get; init; }

    /// <summary>Unit in which its dials are marked; settings are given in it whatever the reader's unit.</summary>
    public LengthUnit DialUnit { get; init; }

    /// <summary>The dials count diameter or thickness instead of depth.</summary>
    public bool CountsDiameter { get; init; }

    /// <summary>Error of a setting, per bit (z): one division, at least 0.01 mm.</summary>
    public required Length DialAllowance { get; init; }

    /// <summary>Divisions in one turn of the dial, for the drawing of its collar.</summary>
    public int DivisionsPerTurn { get; init; } = 50;

    /// <summary>When that dial was entered, changed or its head realigned; null: never since the lathe was entered.</summary>
    public DateTimeOffset? DialSince { get; init; }

    /// <summary>Dial of the head that cuts drums; null where it is marked as the other one is.</summary>
    public HeadDial? BarDial { get; init; }

    /// <summary>Feeds, coarse and fine, as engraved.</summary>
    public required IReadOnlyList<Feed> Feeds { get; init; }

    /// <summary>Number of the feed for roughing.</summary>
    public required string RoughFeed { get; init; }

    /// <summary>Number of the feed for finishing.</summary>
    public required string FinishFeed { get; init; }

    /// <summary>Spindle speeds in turns a minute; slowest and fastest alone where it is <see cref="Stepless"/>.</summary>
    public required IReadOnlyList<decimal> Speeds { get; init; }

    /// <summary>It runs at any speed between the slowest and the fastest.</summary>
    public bool Stepless { get; init; }

    /// <summary>Turns a minute of each gear with the frequency drive at 1; none where it has no drive behind gears.</summary>
    public IReadOnlyList<decimal> Gears { get; init; } = [];

    /// <summary>Slowest and fastest that the drive runs, as a fraction of its usual speed.</summary>
    public DriveRange Drive { get; init; } = new(0.4m, 1.2m);

    /// <summary>Surface speed in m/min that its tools bear in grey iron.</summary>
    public double FastestSurface { get; init; } = 90;

    /// <summary>Nose radius of its inserts.</summary>
    public required Length NoseRadius { get; init; }

    /// <summary>Minutes to bring the tool to the cut and away from it.</summary>
    public decimal ApproachMinutes { get; init; } = 0.5m;

    /// <summary>It cuts rotors.</summary>
    public bool CutsRotors { get; init; } = true;

    /// <summary>It cuts drums.</summary>
    public bool CutsDrums { get; init; } = true;

    /// <summary>Rotors that it takes, by their outside diameter, where it cuts any.</summary>
    public DiameterRange Rotors { get; init; } = new(Length.FromMillimetres(100), Length.FromMillimetres(500));

    /// <summary>Drums that it takes, by their inside diameter, where it cuts any.</summary>
    public DiameterRange Drums { get; init; } = new(Length.FromMillimetres(120), Length.FromMillimetres(500));

    /// <summary>Both faces of a rotor are cut at once; otherwise one after the other.</summary>
    public bool TwinCutter { get; init; } = true;

    /// <summary>A single tool reaches both faces in one chucking; otherwise the part is turned round in between.</summary>
    public bool BothFacesInOneChucking { get; init; }

    /// <summary>Head that cuts rotors, as the shop calls it.</summary>
    public string RotorHead { get; init; } = "twin cutter";

    /// <summary>Head that cuts drums.</summary>
    public string DrumHead { get; init; } = "boring bar";

    /// <summary>Minutes to change from one head to the other.</summary>
    public decimal ChangeOverMinutes { get; init; } = 10m;

    /// <summary>The arbor nut tightens clockwise; most have a left-hand thread and tighten anticlockwise.</summary>
    public bool NutTightensClockwise { get; init; }

    /// <summary>Its locks, in the order in which they are gone through.</summary>
    public IReadOnlyList<LatheLock> Locks { get; init; } =
    [new("Cutter knobs", true, true), new("Cross-slide", true, true), new("Spindle feed", true, false), new("Cross-feed", false, true)];

    /// <summary>Where the feed lever points for a rotor.</summary>
    public string RotorLever { get; init; } = "outwards";

    /// <summary>Where it points for a drum.</summary>
    public string DrumLever { get; init; } = "out of the drum";

    /// <summary>Turns to back off after the spindle was run in to its stop.</summary>
    public decimal RunInTurns { get; init; } = 1m;

    /// <summary>How far the tool may stand out before it chatters: the lathe's own mark.</summary>
    public Length OverhangMark { get; init; } = Length.FromMillimetres(90);

    /// <summary>What the head needs beside an adapter inside a drum, radially.</summary>
    public Length CutterRoom { get; init; } = Length.FromMillimetres(35);

    /// <summary>Its arbor; null for a machine with a chuck, plate or table.</summary>
    public Arbor? Arbor { get; init; }

    /// <summary>Edges of one insert, both sides together.</summary>
    public int EdgesPerInsert { get; init; } = 6;

    /// <summary>Metres of cut after which an edge is looked at.</summary>
    public decimal EdgeMetres { get; init; } = 2500m;

    /// <summary>It takes a part of a kind and size; sizes that nobody knows are taken.</summary>
    /// <param name="part">Rotor or drum.</param>
    /// <param name="diameter">Outside of a rotor, inside of a drum; 0 where not known.</param>
    public bool Takes(PartKind part, Length diameter) =>
        RangeOf(part) is { } range && (diameter <= Length.Zero || (diameter >= range.Least && diameter <= range.Greatest));

    /// <summary>Sizes that it takes of a kind of part; null where it takes none.</summary>
    /// <param name="part">Rotor or drum.</param>
    public DiameterRange? RangeOf(PartKind part) =>
        part == PartKind.Rotor
            ? CutsRotors
                ? Rotors
                : null
            : CutsDrums
                ? Drums
                : null;

    /// <summary>The techniques that it can work by: a grinder grinds, a lathe does not.</summary>
    /// <param name="all">All techniques of the shop.</param>
    public IReadOnlyList<Technique> Techniques(IReadOnlyList<Technique> all)
    {
        ArgumentNullException.ThrowIfNull(all);
        return [.. all.Where(t => t.SparksOut == (Kind == LatheKind.Grinder))];
    }

    /// <summary>The dial of the head that cuts a kind of part.</summary>
    /// <param name="part">Rotor or drum.</param>
    public HeadDial DialOf(PartKind part) =>
        part == PartKind.Drum && BarDial is not null
            ? BarDial
            : new(Division, DialUnit, CountsDiameter, DialAllowance, DivisionsPerTurn, DialSince);

    /// <summary>That dial as planning sees it.</summary>
    /// <param name="part">Rotor or drum: each head has its own.</param>
    /// <param name="confirmed">A measured pass of this head has verified it.</param>
    /// <param name="allowance">Error of a setting as the head's own cuts tell it; null: the profile's.</param>
    public Dial Dial(PartKind part, bool confirmed, Length? allowance = null)
    {
        var dial = DialOf(part);
        return new(dial.Division, dial.CountsDiameter, allowance ?? dial.Allowance, confirmed);
    }

    /// <summary>Feed, speed and time of a pass on this lathe.</summary>
    /// <param name="kind">Rough or finish; sparking out runs at the finishing feed.</param>
    /// <param name="part">Rotor or drum: a coarse finishing feed threads a drum.</param>
    /// <param name="diameter">Largest diameter cut.</param>
    /// <param name="band">Width of the swept band.</param>
    public PassRun Run(PassKind kind, PartKind part, Length diameter, Length band)
    {
        var number = kind == PassKind.Rough ? RoughFeed : FinishFeed;
        var feed = Feeds.First(f => f.Number == number);
        var driven = Gears.Count > 0 ? CuttingData.SpeedByDrive(Gears, Drive.Least, Drive.Greatest, diameter, FastestSurface) : null;
        var bearable =
            Gears.Count > 0 ? driven?.TurnsPerMinute
            : Stepless ? CuttingData.SpeedInRange(Speeds.Min(), Speeds.Max(), diameter, FastestSurface)
            : CuttingData.Speed(Speeds, diameter, FastestSurface);
        var speed = bearable ?? (Gears.Count > 0 ? Gears.Min() * Drive.Least : Speeds.Min());
        var surface = CuttingData.SurfaceSpeed(diameter, speed);
        var perTurn = feed.InATurn(speed);
        var minutes = CuttingData.Minutes(band, perTurn, speed, ApproachMinutes);
        var roughness = CuttingData.RoughnessMean(perTurn, NoseRadius);
        var steps = new Steps();
        steps.Add("surfaceSpeed", "π · {0} · {1} / 1000", Term.Number(surface), null, diameter.Millimetres, speed);
        if (feed.PerMinute is { } perMinute)
            steps.Add("feedPerTurn", "{0} / {1}", perTurn, null, perMinute, speed);
        if (bearable is null)
            steps.Add("speedBorne", "{0} > {1}", Term.State("tooFast"), null, Term.Number(surface), (decimal)FastestSurface);
        steps.Add("minutes", "{0} / {1} / {2} + {3}", minutes, null, band, perTurn, speed, ApproachMinutes);
        steps.Add("roughness", "1000 · {0}² / (32 · {1})", Term.Number(roughness), null, perTurn.Millimetres, NoseRadius.Millimetres);
        return new(
            feed,
            perTurn,
            speed,
            minutes,
            surface,
            roughness,
            TooFast: bearable is null,
            Threads: part == PartKind.Drum && kind != PassKind.Rough && perTurn > CuttingData.CoarsestDrumFinish
        )
        {
            Gear = driven?.Gear ?? (Gears.Count > 0 ? Gears.Min() : null),
            Fraction = driven?.Fraction ?? (Gears.Count > 0 ? Drive.Least : null),
            SurfaceAtInnerEdge =
                part == PartKind.Rotor ? CuttingData.SurfaceSpeed(Length.Max(Length.Zero, diameter - 2 * band), speed) : surface,
            Steps = steps.All,
        };
    }

    /// <summary>
    /// Iron that a pass takes, by its depths, in grams; 0 where size or band are not known. The first pass over a wave takes less.
    /// </summary>
    /// <param name="part">Rotor or drum.</param>
    /// <param name="depths">Depth on each side.</param>
    /// <param name="diameter">Outside of a rotor, inside of a drum.</param>
    /// <param name="band">Width of the swept band.</param>
    public static decimal IronOf(PartKind part, IReadOnlyList<Length> depths, Length diameter, Length band)
    {
        ArgumentNullException.ThrowIfNull(depths);
        if (diameter <= Length.Zero || band <= Length.Zero || (part == PartKind.Rotor && 2 * band >= diameter))
            return 0;
        var depth = depths.Aggregate(Length.Zero, (sum, d) => sum + d);
        return Math.Round(
            (decimal)(
                part == PartKind.Rotor
                    ? CuttingData.IronGramsOfRing(diameter, diameter - 2 * band, depth)
                    : CuttingData.IronGrams(diameter, band, depth)
            ),
            1
        );
    }
}

/// <summary>How a pass runs on a lathe.</summary>
/// <param name="Feed">Feed as engraved.</param>
/// <param name="PerTurn">What it moves in a turn at this speed.</param>
/// <param name="TurnsPerMinute">Spindle speed.</param>
/// <param name="Minutes">Time of the pass with its approach.</param>
/// <param name="SurfaceSpeed">m/min at the largest diameter.</param>
/// <param name="RoughnessMean">Ra in µm, about.</param>
/// <param name="TooFast">Even the slowest speed of the lathe is faster than the tool bears.</param>
/// <param name="Threads">A finishing feed this coarse cuts a thread into a drum that pulls the shoes aside.</param>
public sealed record PassRun(
    Feed Feed,
    Length PerTurn,
    decimal TurnsPerMinute,
    decimal Minutes,
    double SurfaceSpeed,
    double RoughnessMean,
    bool TooFast,
    bool Threads
)
{
    /// <summary>Gear to put in, turns a minute with the drive at 1; null where the lathe has no drive behind gears.</summary>
    public decimal? Gear { get; init; }

    /// <summary>What the drive is set to; null where there is none.</summary>
    public decimal? Fraction { get; init; }

    /// <summary>m/min at the inner edge of a rotor's band; the same as at the outer one in a drum.</summary>
    public double SurfaceAtInnerEdge { get; init; }

    /// <summary>
    /// How it was worked out, in order: surface speed in m/min of millimetres and turns, minutes, Ra in µm of millimetres.
    /// </summary>
    public IReadOnlyList<Step> Steps { get; init; } = [];
}
