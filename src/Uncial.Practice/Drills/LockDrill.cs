using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Practice.Causes;
using Uncial.Simulation;

namespace Uncial.Practice.Drills;

/// <summary>The lathe before a start: one lock, the lever or the band is wrong, or nothing is.</summary>
internal static class LockDrill
{
    /// <summary>The lathe of the drills; its locks are those of the trade.</summary>
    public static Lathe Machine { get; } =
        new()
        {
            Name = "Practice lathe",
            Division = Mm(0.01m),
            DialAllowance = Mm(0.01m),
            NoseRadius = Mm(0.8m),
            Feeds = [new("1", Mm(0.06m)), new("2", Mm(0.12m)), new("3", Mm(0.25m))],
            RoughFeed = "3",
            FinishFeed = "1",
            Speeds = [60m, 85m, 110m, 150m, 200m],
            Arbor = new(Mm(25m), Mm(240m), Mm(90m), Mm(22m)),
        };

    public static ChoiceItem Item(Chance chance)
    {
        var part = chance.Happens(0.5) ? PartKind.Rotor : PartKind.Drum;
        var rotor = part == PartKind.Rotor;
        List<bool> tight = [.. Machine.Locks.Select(l => rotor ? l.TightForRotor : l.TightForDrum)];
        var (lever, other) = rotor ? (Machine.RotorLever, Machine.DrumLever) : (Machine.DrumLever, Machine.RotorLever);
        var (band, points) = (true, lever);
        var locks = tight.Count;
        // A lock in six of ten, the lever, the band, nothing.
        var wrong = (int)(chance.Share() * 10) switch
        {
            < 6 => (int)(chance.Share() * locks),
            6 or 7 => locks,
            8 => locks + 1,
            _ => locks + 2,
        };
        if (wrong < locks)
            tight[wrong] = !tight[wrong];
        else if (wrong == locks)
            points = other;
        else if (wrong == locks + 1)
            band = false;
        MistakeCause Of(int choice) =>
            choice == wrong ? MistakeCause.None
            : choice == locks + 2 ? MistakeCause.Overlooked
            : MistakeCause.FalseAlarm;
        return new(
            new Ask.WhatIsWrong(part),
            [
                .. Machine.Locks.Select((l, i) => new Choice.Lock(l.Name, Of(i))),
                new Choice.Lever(Of(locks)),
                new Choice.Band(Of(locks + 1)),
                new Choice.Nothing(Of(locks + 2)),
            ]
        )
        {
            Picture = new DrillPicture.Lathe(Machine, part, tight, points, band),
        };
    }

    private static Length Mm(decimal mm) => Length.FromMillimetres(mm);
}
