using System.Text;
using Uncial.Core.Parts;
using Uncial.Data.Practice;
using Uncial.Practice.Jobs;
using Uncial.Practice.Lessons;
using Uncial.Simulation.Scales;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>The virtual bench as it is seen at the moment: what an eye sees and an ear hears, and no figure of the metal.</summary>
public sealed class BenchView
{
    /// <summary>Made from an attempt.</summary>
    public BenchView(AttemptSurface surface, BenchHand hand, string? trouble = null)
    {
        ArgumentNullException.ThrowIfNull(surface);
        (Surface, Hand, Trouble) = (surface, hand, trouble);
        VirtualBench bench = new(Lesson, surface.Seed);
        foreach (var deed in surface.Deeds)
        {
            var seen = bench.Do(deed);
            Note(deed, seen);
        }
        (IsMounted, HasBand, ReachMm, EdgesAreWorn, Passes) = (
            bench.IsMounted,
            bench.HasBand,
            bench.ReachMm,
            bench.EdgesLookWorn,
            bench.Passes.Count
        );
        IsWarm = bench.FeelsWarm;
        if (hand.Tool == BenchTool.Gauge && hand.Holds(Lesson) is { } hold)
            Gauge = bench.Peek(hold);
        if (hand.Tool is BenchTool.Lamp or BenchTool.Lathe)
            Face = ((Seen.Face)bench.Peek(new Deed.LookAt(hand.Face, hand.Light))).Picture;
    }

    public AttemptSurface Surface { get; }
    public Attempt Attempt => Surface.Attempt;
    public BenchHand Hand { get; }

    /// <summary>Why the last touch did nothing; null where it did.</summary>
    public string? Trouble { get; private set; }

    public Lesson Lesson => Surface.Lesson;
    public bool IsRotor => Lesson.Part.Kind == PartKind.Rotor;

    /// <summary>The gauge as it shows, or why it shows nothing; null where none is in the hand.</summary>
    public Seen? Gauge { get; }

    /// <summary>The face under the lamp; null where none is looked at.</summary>
    public FacePicture? Face { get; }

    /// <summary>Scratches since the part was mounted or cut, the newest last.</summary>
    public IReadOnlyList<Seen.Arc> Scratches => scratches;

    /// <summary>What was heard of the last pass; null before one.</summary>
    public Seen.Heard? Heard { get; private set; }

    public bool IsMounted { get; }
    public bool HasBand { get; }
    public double ReachMm { get; }
    public bool EdgesAreWorn { get; }
    public bool IsWarm { get; }
    public int Passes { get; }

    /// <summary>The part and the adapters were cleaned.</summary>
    public (bool Part, bool Adapters) Cleaned { get; private set; }

    /// <summary>Faces whose dial was set to zero at the first touch, on this mounting.</summary>
    public IReadOnlyCollection<int> Zeroed => zeroed;

    /// <summary>Cone and cups that are on; null where it is not mounted.</summary>
    public (int Cone, int Cups)? On { get; private set; }

    private readonly List<Seen.Arc> scratches = [];
    private readonly HashSet<int> zeroed = [];

    private void Note(Deed deed, Seen seen)
    {
        switch (deed, seen)
        {
            case (Deed.Mount mount, _):
                scratches.Clear();
                zeroed.Clear();
                On = (mount.Cone, mount.Cups);
                break;
            case (Deed.Dismount, _):
                scratches.Clear();
                zeroed.Clear();
                On = null;
                break;
            case (Deed.TurnOnArbor, Seen.Done):
                zeroed.Clear();
                break;
            case (Deed.Scratch, Seen.Arc arc):
                scratches.Add(arc);
                break;
            case (Deed.ZeroAtTouch zero, Seen.Done):
                zeroed.Add(zero.Face);
                break;
            case (Deed.CleanPart, _):
                Cleaned = (true, Cleaned.Adapters);
                break;
            case (Deed.CleanAdapters, _):
                Cleaned = (Cleaned.Part, true);
                break;
            case (Deed.Pass, Seen.Heard heard):
                Heard = heard;
                scratches.Clear();
                break;
        }
        lastSeen = seen;
    }

    private Seen? lastSeen;

    /// <summary>Says why the newest touch did nothing.</summary>
    public BenchView WithWhy()
    {
        if (lastSeen is Seen.NotNow { Why: var why })
            Trouble = Words.Say("benchNot." + why);
        return this;
    }

    /// <summary>
    /// The face as text for the canvas: stations parted by spaces, a letter for each spot; digits are dull metal from dark to bright,
    /// letters metal that a tool has been over. A crack is nothing but dark spots.
    /// </summary>
    public static string TextOf(FacePicture face)
    {
        ArgumentNullException.ThrowIfNull(face);
        var dark = face.Crack.ToHashSet();
        StringBuilder text = new(face.Stations * (face.Spots + 1));
        for (var s = 0; s < face.Stations; s++)
        {
            if (s > 0)
                text.Append(' ');
            for (var i = 0; i < face.Spots; i++)
            {
                var at = s * face.Spots + i;
                text.Append(
                    dark.Contains(at) ? '0'
                    : face.IsBright[at] ? (char)('a' + face.Shades[at])
                    : (char)('0' + face.Shades[at])
                );
            }
        }
        return text.ToString();
    }

    /// <summary>Where a bar is set, in its unit.</summary>
    public double StartNow => Math.Max(Lesson.Gauges[Hand.Gauge].Design.From, Hand.Start);

    /// <summary>The gauge in the hand.</summary>
    public GaugeDesign Design => Lesson.Gauges[Hand.Gauge].Design;

    /// <summary>What a gauge is called, with its reach.</summary>
    public static string NameOf(GaugeDesign design)
    {
        ArgumentNullException.ThrowIfNull(design);
        var form = Words.Say("gaugeForm." + design.Form);
        return design.Form == GaugeForm.Micrometer
            ? Words.Say(design.IsInch ? "bench.gaugeInch" : "bench.gaugeMm", form, design.From, design.To)
            : form;
    }
}
