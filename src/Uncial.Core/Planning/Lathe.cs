using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Reasoning;

namespace Uncial.Core.Planning;

/// <summary>A lathe of the shop, as far as planning and cutting data go.</summary>
public sealed record Lathe
{
    /// <summary>What the shop calls it.</summary>
    public required string Name { get; init; }

    /// <summary>What one division of its dials is marked as.</summary>
    public required Length Division { get; init; }

    /// <summary>Unit in which its dials are marked; settings are given in it whatever the reader's unit.</summary>
    public LengthUnit DialUnit { get; init; }

    /// <summary>The dials count diameter or thickness instead of depth.</summary>
    public bool CountsDiameter { get; init; }

    /// <summary>Error of a setting, per bit (z): one division, at least 0.01 mm.</summary>
    public required Length DialAllowance { get; init; }

    /// <summary>Divisions in one turn of the dial, for the drawing of its collar.</summary>
    public int DivisionsPerTurn { get; init; } = 50;

    /// <summary>Feeds, coarse and fine, as engraved.</summary>
    public required IReadOnlyList<Feed> Feeds { get; init; }

    /// <summary>Number of the feed for roughing.</summary>
    public required string RoughFeed { get; init; }

    /// <summary>Number of the feed for finishing.</summary>
    public required string FinishFeed { get; init; }

    /// <summary>Spindle speeds in turns a minute.</summary>
    public required IReadOnlyList<decimal> Speeds { get; init; }

    /// <summary>Surface speed in m/min that its tools bear in grey iron.</summary>
    public double FastestSurface { get; init; } = 90;

    /// <summary>Nose radius of its inserts.</summary>
    public required Length NoseRadius { get; init; }

    /// <summary>Minutes to bring the tool to the cut and away from it.</summary>
    public decimal ApproachMinutes { get; init; } = 0.5m;

    /// <summary>The dial as planning sees it.</summary>
    /// <param name="confirmed">A measured pass on record has borne it out.</param>
    public Dial Dial(bool confirmed) => new(Division, CountsDiameter, DialAllowance, confirmed);

    /// <summary>Feed, speed and time of a pass on this lathe.</summary>
    /// <param name="kind">Rough or finish; sparking out runs at the finishing feed.</param>
    /// <param name="part">Rotor or drum: a coarse finishing feed threads a drum.</param>
    /// <param name="diameter">Largest diameter cut.</param>
    /// <param name="band">Width of the swept band.</param>
    public PassRun Run(PassKind kind, PartKind part, Length diameter, Length band)
    {
        var number = kind == PassKind.Rough ? RoughFeed : FinishFeed;
        var feed = Feeds.First(f => f.Number == number);
        var bearable = CuttingData.Speed(Speeds, diameter, FastestSurface);
        var speed = bearable ?? Speeds.Min();
        var surface = CuttingData.SurfaceSpeed(diameter, speed);
        var minutes = CuttingData.Minutes(band, feed.PerTurn, speed, ApproachMinutes);
        var roughness = CuttingData.RoughnessMean(feed.PerTurn, NoseRadius);
        var steps = new Steps();
        steps.Add("surfaceSpeed", "π · {0} · {1} / 1000", Term.Number(surface), null, diameter.Millimetres, speed);
        if (bearable is null) steps.Add("speedBorne", "{0} > {1}", Term.State("tooFast"), null, Term.Number(surface), (decimal)FastestSurface);
        steps.Add("minutes", "{0} / {1} / {2} + {3}", minutes, null, band, feed.PerTurn, speed, ApproachMinutes);
        steps.Add("roughness", "1000 · {0}² / (32 · {1})", Term.Number(roughness), null, feed.PerTurn.Millimetres, NoseRadius.Millimetres);
        return new(feed, speed, minutes, surface, roughness, TooFast: bearable is null,
            Threads: part == PartKind.Drum && kind != PassKind.Rough && feed.PerTurn > CuttingData.CoarsestDrumFinish)
        { Steps = steps.All };
    }
}

/// <summary>How a pass runs on a lathe.</summary>
/// <param name="Feed">Feed number and length in a turn.</param>
/// <param name="TurnsPerMinute">Spindle speed.</param>
/// <param name="Minutes">Time of the pass with its approach.</param>
/// <param name="SurfaceSpeed">m/min at the largest diameter.</param>
/// <param name="RoughnessMean">Ra in µm, about.</param>
/// <param name="TooFast">Even the slowest speed of the lathe is faster than the tool bears.</param>
/// <param name="Threads">A finishing feed this coarse cuts a thread into a drum that pulls the shoes aside.</param>
public sealed record PassRun(Feed Feed, decimal TurnsPerMinute, decimal Minutes, double SurfaceSpeed, double RoughnessMean, bool TooFast, bool Threads)
{
    /// <summary>How it was worked out, in order: surface speed in m/min of millimetres and turns, minutes, Ra in µm of millimetres.</summary>
    public IReadOnlyList<Step> Steps { get; init; } = [];
}
