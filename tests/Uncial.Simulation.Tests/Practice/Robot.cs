using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Practice.Jobs;
using Uncial.Practice.Lessons;
using Uncial.Simulation.Held;
using Uncial.Simulation.Scales;

namespace Uncial.Simulation.Tests;

/// <summary>What a robot does wrong, each thing alone.</summary>
public enum RobotHabit
{
    /// <summary>Nothing: it works by the book.</summary>
    None,

    /// <summary>Reads half a turn of the thimble, an eighth or a turn of the hand too much, every other time.</summary>
    MisreadsTheScale,

    /// <summary>Holds the gauge a little off its turning point.</summary>
    DoesNotRock,

    /// <summary>Holds a micrometer across the rust ridge.</summary>
    ReadsOnTheRidge,

    /// <summary>Enters machine-to for discard.</summary>
    MixesLimits,

    /// <summary>Mounts without cleaning, takes cups that are too large and never looks whether it runs true.</summary>
    MountsCarelessly,

    /// <summary>Takes a heavy pass more than it needs.</summary>
    TakesTooMuch,

    /// <summary>Never turns the part to the light, and releases whatever it has cut.</summary>
    NeverLooks,
}

/// <summary>
/// A trainee made of rules: it sees what a trainee sees (scales, arcs, faces) and enters what a trainee enters. It knows the book's limits
/// of its lesson, and nothing of the metal.
/// </summary>
internal sealed class Robot(Lesson lesson, long seed, RobotHabit habit, bool byTouch = false)
{
    private const double Division = 0.0005;

    private readonly VirtualBench bench = new(lesson, seed);
    private readonly List<JobStep> steps = [];
    private readonly bool rotor = lesson.Part.Kind == PartKind.Rotor;
    private readonly Fingers fingers = new(lesson);
    private int readings;
    private double discard;

    /// <summary>Works every surface of a lesson's part, one after the other, and decides on the part by the stricter of them.</summary>
    public static IReadOnlyList<JobStep> WorkAll(Lesson lesson, long seed, RobotHabit habit, bool byTouch = false)
    {
        List<JobStep> all = [];
        List<Decision> decisions = [];
        for (var surface = 1; surface <= lesson.Surfaces; surface++)
        {
            var steps = new Robot(lesson.Of(surface), Lesson.SeedOf(seed, surface), habit, byTouch).Work();
            all.AddRange(steps.Where(s => s is not JobStep.Verdict).Select(s => s with { Surface = surface }));
            decisions.Add(steps.OfType<JobStep.Verdict>().Single().Decision);
        }
        return [.. all, new JobStep.Verdict(decisions.Aggregate(Lesson.Stricter))];
    }

    /// <summary>Works the job from the first look to the verdict.</summary>
    public IReadOnlyList<JobStep> Work()
    {
        if (habit != RobotHabit.NeverLooks && SeesCrack())
        {
            steps.Add(new JobStep.Found(true));
            State();
            return End(Decision.Scrap);
        }
        steps.Add(new JobStep.Found(false));
        State();
        var gauge = GaugeForPart();
        CheckDatum(gauge);
        var sizes = ReadAll(gauge);
        if (Beyond(sizes))
            return End(Decision.Scrap);
        if (sizes.Max() - sizes.Min() < 0.02)
            return End(Decision.LeaveUncut);
        Mount();
        CutClean();
        Do(new Deed.Wait(60));
        var after = ReadAll(gauge);
        return End(
            Beyond(after) ? Decision.Scrap
            : habit == RobotHabit.NeverLooks ? Decision.Release
            : Inside(Worst(after), lesson.Part.MachineToMm) >= 0 ? Decision.Release
            : Decision.AskLead
        );
    }

    private List<JobStep> End(Decision decision)
    {
        steps.Add(new JobStep.Verdict(decision));
        return steps;
    }

    private Seen Do(Deed deed)
    {
        if (!byTouch)
            return Done(deed);
        return fingers.Touch(deed) is { } done ? Done(done) : bench.Peek(fingers.Held!);
    }

    private Seen Done(Deed deed)
    {
        steps.Add(new JobStep.Did(deed));
        return bench.Do(deed);
    }

    private bool SeesCrack()
    {
        for (var face = 0; face < bench.Part.Faces.Count; face++)
        for (var light = 0; light < 180; light += 30)
            if (((Seen.Face)Do(new Deed.LookAt(face, light))).Picture.Crack.Count > 0)
                return true;
        return false;
    }

    /// <summary>The limit as it is cast, in either unit, to the safe side.</summary>
    private void State()
    {
        var text = string.Join(' ', lesson.Part.Cast);
        var (marking, _) = CastMarking.Read(text, lesson.Part.Kind);
        var cast = marking?.Limits.FirstOrDefault(l => l.Kind == LimitKind.Discard).Value.Millimetres;
        discard = cast is { } mm and > 0 ? (double)mm : lesson.Part.DiscardMm;
        if (habit == RobotHabit.MixesLimits)
            discard = lesson.Part.MachineToMm;
        steps.Add(new JobStep.Limit(LimitKind.Discard, discard));
    }

    private int GaugeForPart()
    {
        // The nearest of what lies there that a first try shows anything on.
        for (var g = 0; g < lesson.Gauges.Count; g++)
            if (BenchHand.ReadsSize(lesson.Gauges[g].Design, rotor) && Do(Hold(g, 0, byTheBook: true)) is Seen.Gauge)
                return g;
        throw new InvalidOperationException($"{lesson.Id}: no gauge of it reads its part.");
    }

    private Deed Hold(int gauge, double degrees, bool byTheBook)
    {
        var mm = bench.Part.StationsMm[bench.Part.ReadingStation];
        var off = !byTheBook && habit == RobotHabit.DoesNotRock;
        if (!rotor)
            return new Deed.HoldBar(gauge, Start(lesson.Gauges[gauge].Design), new(degrees, mm, off ? 2.5 : 0, 0));
        if (!byTheBook && habit == RobotHabit.ReadsOnTheRidge)
            mm = bench.Part.StationsMm[^1] - 3;
        return new Deed.HoldMicrometer(gauge, new(degrees, mm, off ? 1.2 : 0, Closing.Ratchet));
    }

    /// <summary>The highest start below the size when new, a little lower for play.</summary>
    private double Start(GaugeDesign design) =>
        design.From + Math.Floor((design.InUnit(lesson.Part.NominalMm) - design.From) / design.Step + 1e-9) * design.Step;

    private void CheckDatum(int gauge)
    {
        var design = lesson.Gauges[gauge].Design;
        if (design.Step > 0)
            return; // a bar has no standard here
        var shown = design.InMillimetres(Eye.Read(((Seen.Gauge)Do(new Deed.ReadStandard(gauge))).Picture));
        if (Math.Abs(shown - bench.StandardOf(gauge)) > 0.015)
            Do(new Deed.SetDatum(gauge));
    }

    private List<double> ReadAll(int gauge)
    {
        List<double> sizes = [];
        for (var i = 0; i < 8; i++)
        {
            var degrees = i * (rotor ? 45 : 22.5);
            // Where it does not reach, the other one is taken.
            var seen = Enumerable
                .Range(0, lesson.Gauges.Count)
                .Where(g => lesson.Gauges[g].Design.Form == lesson.Gauges[gauge].Design.Form)
                .OrderBy(g => g != gauge)
                .Select(g => Do(Hold(g, degrees, byTheBook: false)))
                .OfType<Seen.Gauge>()
                .FirstOrDefault();
            if (seen is null)
                continue;
            var design = seen.Picture.Design;
            var size = design.InMillimetres(Eye.Read(seen.Picture));
            if (habit == RobotHabit.MisreadsTheScale && readings++ % 2 == 0)
                size += design.InMillimetres(design.Turn);
            // At the stations the gauge that is held goes with its figure.
            if (byTouch)
                Done(fingers.Held!);
            steps.Add(new JobStep.Reading(size));
            sizes.Add(size);
        }
        return sizes;
    }

    private double Worst(List<double> sizes) => rotor ? sizes.Min() : sizes.Max();

    private double Inside(double size, double limit) => rotor ? size - limit : limit - size;

    private bool Beyond(List<double> sizes) => sizes.Count == 0 || Inside(Worst(sizes), discard) < -Division;

    private void Mount()
    {
        if (habit == RobotHabit.MountsCarelessly)
        {
            Do(new Deed.Mount(1, 3, NotchesMeet: false));
            return;
        }
        Do(new Deed.CleanPart());
        Do(new Deed.CleanAdapters());
        Do(new Deed.Mount(1, 2, NotchesMeet: true));
        Do(new Deed.Scratch(0, 0.02));
        Do(new Deed.TurnOnArbor(180));
        Do(new Deed.Scratch(0, 0.02));
        steps.Add(new JobStep.SetUpAccepted());
    }

    /// <summary>Steps of 0.06 from the first touch until every land is bright and no groove is dark, as an eye sees it.</summary>
    private void CutClean()
    {
        Do(new Deed.Band(true));
        Do(new Deed.SetReach(70));
        Do(new Deed.FreshEdges());
        var faces = bench.Part.Faces.Count;
        for (var f = 0; f < faces; f++)
            Do(new Deed.ZeroAtTouch(f));
        var perStep = (int)Math.Max(1, Math.Round(0.06 / lesson.Lathe.DivisionMm * (lesson.Lathe.CountsDiameter ? 2 : 1)));
        for (var pass = 1; pass <= 12; pass++)
        {
            for (var f = 0; f < faces; f++)
                Do(new Deed.SetDial(f, pass * perStep, FromBehind: true));
            Do(new Deed.Pass(0.12, 85, 0, IsFeedLocked: false, LeverIsRight: true));
            if (Enumerable.Range(0, faces).All(IsClean))
            {
                if (habit == RobotHabit.TakesTooMuch)
                {
                    for (var f = 0; f < faces; f++)
                        Do(new Deed.SetDial(f, pass * perStep + 4 * perStep, FromBehind: true));
                    Do(new Deed.Pass(0.12, 85, 0, IsFeedLocked: false, LeverIsRight: true));
                }
                return;
            }
        }
    }

    /// <summary>Nothing dark between the ridges.</summary>
    private bool IsClean(int face)
    {
        var picture = ((Seen.Face)Do(new Deed.LookAt(face, 0))).Picture;
        for (var s = 0; s < picture.Stations; s++)
            if (bench.Part.Faces[face].At(s) != Ground.Ridge)
                for (var i = 0; i < picture.Spots; i++)
                    if (!picture.IsBright[s * picture.Spots + i])
                        return false;
        return true;
    }
}
