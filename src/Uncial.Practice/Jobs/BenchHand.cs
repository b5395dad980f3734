using System.Text.Json.Serialization;
using Uncial.Core.Parts;
using Uncial.Practice.Lessons;
using Uncial.Simulation.Held;
using Uncial.Simulation.Scales;

namespace Uncial.Practice.Jobs;

/// <summary>What lies at hand at the practice bench.</summary>
public enum BenchTool
{
    /// <summary>The part as it lies there, with what is cast in it.</summary>
    Part,

    /// <summary>A lamp, to look at its faces.</summary>
    Lamp,

    /// <summary>A gauge.</summary>
    Gauge,

    /// <summary>Arbor, cones and cups.</summary>
    Arbor,

    /// <summary>The bit, for a scratch or the first touch.</summary>
    Bit,

    /// <summary>Dials, locks, lever and feed.</summary>
    Lathe,
}

/// <summary>
/// How everything at the bench is held or set at the moment: kept between two looks, so that another tablet shows the same. It is no deed
/// and says nothing of the metal.
/// </summary>
public sealed record BenchHand
{
    /// <summary>A step of rocking a micrometer, degrees.</summary>
    public const double MicrometerStep = 0.4;

    /// <summary>A step of rocking a bar, degrees.</summary>
    public const double BarStep = 0.5;

    /// <summary>Furthest that a gauge is rocked to, in steps.</summary>
    public const int MostSteps = 12;

    /// <summary>What is in use.</summary>
    public BenchTool Tool { get; init; }

    /// <summary>The work surface that it is about, from 1 on.</summary>
    public int Surface { get; init; } = 1;

    /// <summary>The station at which it was taken up; empty for none yet.</summary>
    public string Station { get; init; } = "";

    /// <summary>Which gauge of the lesson.</summary>
    public int Gauge { get; init; }

    /// <summary>Where round the part, degrees clockwise from 12.</summary>
    public double Degrees { get; init; }

    /// <summary>How far in from the outer edge of a rotor or from the open edge of a drum, mm.</summary>
    public double InMm { get; init; } = 3;

    /// <summary>Steps off square, or across the drum.</summary>
    public int Rocked { get; init; }

    /// <summary>Steps along the drum.</summary>
    public int Leaned { get; init; }

    /// <summary>How the micrometer is closed.</summary>
    public Closing Closing { get; init; } = Closing.NotClosed;

    /// <summary>Where the bar is set, in the unit of the gauge; 0 for its least.</summary>
    public double Start { get; init; }

    /// <summary>The gauge is on its setting standard.</summary>
    public bool OnStandard { get; init; }

    /// <summary>Outer or inner face, or the bore.</summary>
    public int Face { get; init; }

    /// <summary>Where the light comes from, degrees.</summary>
    public int Light { get; init; }

    /// <summary>Which cone of the board.</summary>
    public int Cone { get; init; }

    /// <summary>Which cups of the board.</summary>
    public int Cups { get; init; }

    /// <summary>The notches of the cups face one another.</summary>
    public bool NotchesMeet { get; init; }

    /// <summary>Locks of the lathe that are tight, in their order.</summary>
    public IReadOnlyList<bool> Tight { get; init; } = [];

    /// <summary>The lever points the way for a rotor; else for a drum.</summary>
    public bool LeverForRotor { get; init; }

    /// <summary>Feed, mm a turn.</summary>
    public double FeedMm { get; init; } = 0.12;

    /// <summary>Speed of the spindle.</summary>
    public double TurnsPerMinute { get; init; } = 85;

    /// <summary>Where the dials stand, divisions from their zero.</summary>
    public IReadOnlyList<int> Dials { get; init; } = [];

    /// <summary>The bench as somebody left it: nothing is in its place.</summary>
    /// <param name="lesson">The lesson.</param>
    public static BenchHand Of(Lesson lesson)
    {
        ArgumentNullException.ThrowIfNull(lesson);
        var rotor = lesson.Part.Kind == PartKind.Rotor;
        var locks = PracticeBoard.LatheOf(lesson.Lathe).Locks;
        return new BenchHand
        {
            // The lathe was last set for the other kind of part.
            Tight = [.. locks.Select(l => rotor ? l.TightForDrum : l.TightForRotor)],
            LeverForRotor = !rotor,
            Dials = [.. Enumerable.Repeat(0, rotor ? 2 : 1)],
            Gauge = Math.Max(0, lesson.Gauges.ToList().FindIndex(g => ReadsSize(g.Design, rotor))),
        }.At(0, rotor ? 3 : 12);
    }

    /// <summary>The same bench when somebody turns to another work surface: locks, lever and feed stand as they were left.</summary>
    /// <param name="lesson">The lesson as that surface has it.</param>
    /// <param name="surface">The surface.</param>
    public BenchHand TurnTo(Lesson lesson, int surface) =>
        surface == Surface
            ? this
            : Of(lesson) with
            {
                Surface = surface,
                Tight = Tight,
                LeverForRotor = LeverForRotor,
                FeedMm = FeedMm,
                TurnsPerMinute = TurnsPerMinute,
            };

    /// <summary>It reads thickness, or diameter.</summary>
    public static bool ReadsSize(GaugeDesign gauge, bool rotor)
    {
        ArgumentNullException.ThrowIfNull(gauge);
        return rotor ? gauge.Form == GaugeForm.Micrometer : gauge.Form is GaugeForm.BarEighths or GaugeForm.BarStarts;
    }

    /// <summary>Brought to a place: as a hand brings it, off its turning point and not closed.</summary>
    public BenchHand At(double degrees, double? inMm = null)
    {
        var off = 4 + (int)Math.Abs(degrees * 7 / 15 % 4);
        return this with
        {
            Degrees = degrees,
            InMm = inMm ?? InMm,
            Rocked = (int)(degrees / 15) % 2 == 0 ? off : -off,
            Leaned = (int)(degrees / 15) % 3 == 0 ? -off : off - 1,
            Closing = Closing.NotClosed,
            OnStandard = false,
        };
    }

    /// <summary>What the gauge in the hand does; null where it does nothing for this part.</summary>
    /// <param name="lesson">The lesson.</param>
    public Deed? Holds(Lesson lesson)
    {
        ArgumentNullException.ThrowIfNull(lesson);
        var design = lesson.Gauges[Gauge].Design;
        if (OnStandard)
            return new Deed.ReadStandard(Gauge);
        var rotor = lesson.Part.Kind == PartKind.Rotor;
        var mm = rotor ? lesson.Part.EdgeMm - InMm : InMm;
        return design.Form switch
        {
            GaugeForm.Micrometer when rotor => new Deed.HoldMicrometer(Gauge, new(Degrees, mm, Rocked * MicrometerStep, Closing)),
            GaugeForm.BarEighths or GaugeForm.BarStarts when !rotor => new Deed.HoldBar(
                Gauge,
                Math.Max(design.From, Start),
                new(Degrees, mm, Rocked * BarStep, Leaned * BarStep)
            ),
            GaugeForm.Indicator => new Deed.HoldIndicator(Gauge, new(Face, mm)),
            GaugeForm.DepthMicrometer => new Deed.HoldDepthGauge(Gauge, new(Face, Degrees, mm)),
            _ => null,
        };
    }

    /// <summary>The pass that would be run as locks, lever and feed stand.</summary>
    /// <param name="lesson">The lesson.</param>
    /// <param name="stoppedAt">Share of the band after which it is stopped; null for a whole pass.</param>
    public Deed.Pass Runs(Lesson lesson, double? stoppedAt)
    {
        ArgumentNullException.ThrowIfNull(lesson);
        var rotor = lesson.Part.Kind == PartKind.Rotor;
        var locks = PracticeBoard.LatheOf(lesson.Lathe).Locks;
        var (loose, feedLocked) = (0, false);
        for (var i = 0; i < locks.Count; i++)
        {
            var should = rotor ? locks[i].TightForRotor : locks[i].TightForDrum;
            if (should && !Tight[i])
                loose++;
            // What has to run freely is the feed.
            if (!should && Tight[i])
                feedLocked = true;
        }
        return new(FeedMm, TurnsPerMinute, loose, feedLocked, LeverForRotor == rotor, stoppedAt);
    }
}
