using Uncial.Core.Parts;
using Uncial.Practice.Jobs;
using Uncial.Practice.Lessons;

namespace Uncial.Simulation.Tests;

/// <summary>Does what a trainee wants by nothing but the keys of the practice bench.</summary>
internal sealed class Fingers(Lesson lesson)
{
    private BenchHand hand = BenchHand.Of(lesson);
    private readonly bool rotor = lesson.Part.Kind == PartKind.Rotor;

    /// <summary>What is held or looked at.</summary>
    public Deed? Held { get; private set; }

    /// <summary>Comes to a deed by touches; null where it was taken up or looked at, and nothing was done.</summary>
    public Deed? Touch(Deed wanted)
    {
        switch (wanted)
        {
            case Deed.LookAt look:
                Act($"face:{look.Face}");
                while (hand.Light != (int)look.LightDegrees)
                    Act("light:15");
                return Take(new Deed.LookAt(hand.Face, hand.Light));
            case Deed.HoldMicrometer hold:
                Hold(hold.Gauge, hold.Held.Degrees);
                while (lesson.Part.EdgeMm - hand.InMm > hold.Held.RadiusMm + 1)
                    Act("in:2");
                Rock((int)Math.Round(hold.Held.TiltDegrees / BenchHand.MicrometerStep));
                Act($"close:{hold.Held.Closing}");
                return Take(hand.Holds(lesson)!);
            case Deed.HoldBar hold:
                Hold(hold.Gauge, hold.Held.Degrees);
                while (hand.Holds(lesson) is Deed.HoldBar bar && bar.Start < hold.Start - 1e-6)
                    Act("start:1");
                Rock((int)Math.Round(hold.Held.AcrossDegrees / BenchHand.BarStep));
                while (hand.Leaned != 0)
                    Act($"lean:{-Math.Sign(hand.Leaned)}");
                return Take(hand.Holds(lesson)!);
            case Deed.ReadStandard read:
                Act($"gauge:{read.Gauge}");
                Act("standard");
                return Take(hand.Holds(lesson)!);
            case Deed.SetDatum:
                return Act("datum");
            case Deed.CleanPart:
                return Act("clean:part");
            case Deed.CleanAdapters:
                return Act("clean:adapters");
            case Deed.Mount mount:
                Act($"cone:{mount.Cone}");
                Act($"cups:{mount.Cups}");
                if (hand.NotchesMeet != mount.NotchesMeet)
                    Act("notches");
                return Act("mount");
            case Deed.TurnOnArbor turn:
                return Act($"turn:{turn.Degrees}");
            case Deed.Scratch scratch:
                Act($"face:{scratch.Face}");
                return Act("scratch");
            case Deed.ZeroAtTouch zero:
                return Act($"zero:{zero.Face}");
            case Deed.SetDial dial:
                return Act($"{(dial.FromBehind ? "behind" : "dial")}:{dial.Face}:{dial.Divisions}");
            case Deed.Band band:
                return Act(band.On ? "band:on" : "band:off");
            case Deed.SetReach reach:
                return Act(FormattableString.Invariant($"reach:{reach.Mm}"));
            case Deed.FreshEdges:
                return Act("edges");
            case Deed.Pass:
                Locks();
                return Act("run");
            case Deed.Wait wait:
                return Act(FormattableString.Invariant($"wait:{wait.Minutes}"));
            default:
                throw new ArgumentOutOfRangeException(nameof(wanted), wanted, "There is no key for it.");
        }
    }

    /// <summary>Everything as the profile of the lathe says.</summary>
    private void Locks()
    {
        var locks = PracticeBoard.LatheOf(lesson.Lathe).Locks;
        for (var i = 0; i < locks.Count; i++)
            if (hand.Tight[i] != (rotor ? locks[i].TightForRotor : locks[i].TightForDrum))
                Act($"lock:{i}");
        if (hand.LeverForRotor != rotor)
            Act("lever");
    }

    private void Hold(int gauge, double degrees)
    {
        Act($"gauge:{gauge}");
        if (hand.Degrees != degrees || hand.Closing == Simulation.Held.Closing.NotClosed)
            hand = hand.At(degrees);
        hand.Rocked.ShouldNotBe(0, "a hand does not find the turning point by itself");
    }

    private void Rock(int to)
    {
        while (hand.Rocked != to)
            Act($"rock:{Math.Sign(to - hand.Rocked)}");
    }

    private Deed? Act(string act)
    {
        var (after, deed) = BenchAct.Of(lesson, hand, act).ShouldNotBeNull(act);
        hand = after;
        return deed;
    }

    private Deed? Take(Deed look)
    {
        Held = look;
        return null;
    }
}
