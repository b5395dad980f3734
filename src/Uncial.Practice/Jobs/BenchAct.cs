using System.Globalization;
using Uncial.Core.Parts;
using Uncial.Practice.Lessons;
using Uncial.Simulation.Held;
using Uncial.Simulation.Scales;

namespace Uncial.Practice.Jobs;

/// <summary>
/// A touch of the bench, as a key or a finger gives it: a word, and after a colon how far or which, as in <c>rock:-1</c> or <c>lock:2</c>.
/// It changes what is at hand, and some are deeds.
/// </summary>
public static class BenchAct
{
    /// <summary>Band that a gauge reaches into from the edge, mm.</summary>
    private const double DeepestMm = 90;

    /// <summary>Depth of a scratch from the touch, mm.</summary>
    public const double ScratchMm = 0.02;

    private const int MostDivisions = 400;

    /// <summary>What a touch comes to.</summary>
    /// <param name="lesson">The lesson.</param>
    /// <param name="hand">What is at hand.</param>
    /// <param name="act">The touch.</param>
    /// <returns>What is at hand then, and what was done; null for a touch that is none.</returns>
    public static (BenchHand Hand, Deed? Deed)? Of(Lesson lesson, BenchHand hand, string act)
    {
        ArgumentNullException.ThrowIfNull(lesson);
        ArgumentNullException.ThrowIfNull(hand);
        ArgumentNullException.ThrowIfNull(act);
        var (word, value) = act.Split(':', 2) is [var w, var v] ? (w, v) : (act, "");
        return word switch
        {
            "tool" => Enum.TryParse<BenchTool>(value, out var tool) && Enum.IsDefined(tool) ? (hand with { Tool = tool }, null) : null,
            "gauge" => Index(value, lesson.Gauges.Count) is { } gauge
                ? (hand with { Gauge = gauge, Tool = BenchTool.Gauge, OnStandard = false, Closing = Closing.NotClosed }, null)
                : null,
            "rock" => Whole(value) is { } by ? (hand with { Rocked = Rocked(hand.Rocked + by) }, null) : null,
            "rockTo" => Whole(value) is { } to ? (hand with { Rocked = Rocked(to) }, null) : null,
            "lean" => Whole(value) is { } by ? (hand with { Leaned = Rocked(hand.Leaned + by) }, null) : null,
            "in" => Number(value) is { } by
                ? (hand with { InMm = Math.Clamp(hand.InMm + by, 1, DeepestMm), Closing = Closing.NotClosed }, null)
                : null,
            "round" => Whole(value) is { } by ? (hand.At(((hand.Degrees + by) % 360 + 360) % 360) with { Face = hand.Face }, null) : null,
            "close" => Enum.TryParse<Closing>(value, out var closing) && Enum.IsDefined(closing)
                ? (hand with { Closing = closing }, null)
                : null,
            "start" => Whole(value) is { } by ? (hand with { Start = StartOf(lesson, hand, by) }, null) : null,
            "standard" => (hand with { OnStandard = !hand.OnStandard }, null),
            "datum" => (hand, new Deed.SetDatum(hand.Gauge)),
            "face" => Index(value, FacesOf(lesson)) is { } face ? (hand with { Face = face }, null) : null,
            "light" => Whole(value) is { } by ? (hand with { Light = ((hand.Light + by) % 360 + 360) % 360 }, null) : null,
            "clean" => value switch
            {
                "part" => (hand, new Deed.CleanPart()),
                "adapters" => (hand, new Deed.CleanAdapters()),
                _ => null,
            },
            "cone" => Index(value, PracticeBoard.Cones.Count) is { } cone ? (hand with { Cone = cone }, null) : null,
            "cups" => Index(value, PracticeBoard.Cups.Count) is { } cups ? (hand with { Cups = cups }, null) : null,
            "notches" => (hand with { NotchesMeet = !hand.NotchesMeet }, null),
            "mount" => (hand with { Dials = [.. hand.Dials.Select(_ => 0)] }, new Deed.Mount(hand.Cone, hand.Cups, hand.NotchesMeet)),
            "dismount" => (hand, new Deed.Dismount()),
            "turn" => Whole(value) is { } degrees and > -360 and < 360 ? (hand, new Deed.TurnOnArbor(degrees)) : null,
            "scratch" => (hand, new Deed.Scratch(hand.Face, ScratchMm)),
            "zero" => Index(value, FacesOf(lesson)) is { } face
                ? (hand with { Dials = [.. hand.Dials.Select((d, i) => i == face ? 0 : d)] }, new Deed.ZeroAtTouch(face))
                : null,
            "dial" => Dial(hand, value, fromBehind: false),
            "behind" => Dial(hand, value, fromBehind: true),
            "lock" => Index(value, hand.Tight.Count) is { } locked
                ? (hand with { Tight = [.. hand.Tight.Select((t, i) => i == locked ? !t : t)] }, null)
                : null,
            "lever" => (hand with { LeverForRotor = !hand.LeverForRotor }, null),
            "feed" => Number(value) is { } feed and >= 0.02 and <= 0.6 ? (hand with { FeedMm = feed }, null) : null,
            "speed" => Number(value) is { } speed and >= 20 and <= 400 ? (hand with { TurnsPerMinute = speed }, null) : null,
            "band" => value switch
            {
                "on" => (hand, new Deed.Band(true)),
                "off" => (hand, new Deed.Band(false)),
                _ => null,
            },
            "reach" => Number(value) is { } reach and >= 40 and <= 160 ? (hand, new Deed.SetReach(reach)) : null,
            "edges" => (hand, new Deed.FreshEdges()),
            "run" => (hand, hand.Runs(lesson, null)),
            "stop" => Index(value, 100) is { } percent ? (hand, hand.Runs(lesson, percent / 100.0)) : null,
            "wait" => Number(value) is { } minutes and > 0 and <= 240 ? (hand, new Deed.Wait(minutes)) : null,
            _ => null,
        };
    }

    /// <summary>How many faces the part of a lesson has to cut.</summary>
    public static int FacesOf(Lesson lesson)
    {
        ArgumentNullException.ThrowIfNull(lesson);
        return lesson.Part.Kind == PartKind.Rotor ? 2 : 1;
    }

    /// <summary>Turns a dial: which one, then how many divisions from its zero, as in <c>0:12</c>.</summary>
    private static (BenchHand, Deed?)? Dial(BenchHand hand, string value, bool fromBehind)
    {
        if (value.Split(':') is not [var which, var to] || Index(which, hand.Dials.Count) is not { } face || Whole(to) is not { } divisions)
            return null;
        divisions = Math.Clamp(divisions, 0, MostDivisions);
        return (
            hand with
            {
                Dials = [.. hand.Dials.Select((d, i) => i == face ? divisions : d)],
            },
            new Deed.SetDial(face, divisions, fromBehind)
        );
    }

    private static double StartOf(Lesson lesson, BenchHand hand, int by)
    {
        var design = lesson.Gauges[hand.Gauge].Design;
        if (design.Step == 0)
            return 0;
        var steps = (int)Math.Round((Math.Max(design.From, hand.Start) - design.From) / design.Step) + by;
        var most = (int)Math.Floor((design.To - design.From) / design.Step);
        return design.From + Math.Clamp(steps, 0, most) * design.Step;
    }

    private static int Rocked(int steps) => Math.Clamp(steps, -BenchHand.MostSteps, BenchHand.MostSteps);

    private static int? Index(string value, int count) => Whole(value) is { } index && index >= 0 && index < count ? index : null;

    private static int? Whole(string value) =>
        int.TryParse(value, NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var n) && Math.Abs(n) <= 1000 ? n : null;

    private static double? Number(string value) =>
        double.TryParse(value, NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var n)
        && Math.Abs(n) <= 1000
            ? n
            : null;
}
