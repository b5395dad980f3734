using Uncial.Core.Parts;

namespace Uncial.Simulation;

/// <summary>How people work without the product.</summary>
public enum HabitKind
{
    /// <summary>Measures once, then takes the dials for the thickness that is gone, and believes the sum in the end.</summary>
    DialSumFromThickness,

    /// <summary>Reads two axes (two places of a rotor) before and after, and holds what they show against discard.</summary>
    TwoAxesAndGo,

    /// <summary>Cuts until it looks clean, then measures.</summary>
    CutUntilClean,
}

/// <summary>A hand who works by habit: no check of the set-up, no bound, no uncertainty, passes of 0.20 and 0.10.</summary>
public static class Habit
{
    private const int MostPasses = 12;

    /// <summary>Works a part from the first reading to the decision.</summary>
    public static WorkResult Work(VirtualJob job, HabitKind habit)
    {
        ArgumentNullException.ThrowIfNull(job);
        var part = job.Part;
        var rotor = part.Kind == PartKind.Rotor;
        var (sign, perFace) = (rotor ? 1 : -1, rotor ? 1 : 2);
        var so = new WorkResult { InsideBefore = part.Inside(part.Limits.Discard, grooves: true) };
        var discard = part.Limits.Discard;
        var machineTo = part.Limits.MachineTo ?? discard;

        double Worst(params int[] spots) =>
            rotor ? spots.Min(s => job.Read(s, part.ReadingStation)) : spots.Max(s => job.Read(s, part.ReadingStation));
        var before = habit switch
        {
            HabitKind.DialSumFromThickness => rotor ? Worst(0, 18, 36, 54) : Worst(0, 18),
            HabitKind.TwoAxesAndGo => rotor ? Worst(0, 36) : Worst(0, 18),
            _ => sign * double.MaxValue,
        };
        if (sign * (before - discard) < 0)
            return job.Close(so, released: false, plainly: false, machineTo);

        var lathe = new VirtualLathe(part, job.Work, job.Chance);
        lathe.Mount(job.Chance.Rayleigh(rotor ? 0.010 : 0.008), job.Chance.Direction());
        var needed = 0.0;
        for (var i = 0; i < part.Faces.Count; i++)
        {
            lathe.Touch(i, part.ReadingStation);
            needed += lathe.TrueNeed(i);
        }
        job.LeaveGaugeLying();
        var q = job.Division;
        var (passes, believed) = (0, before);
        while (passes < MostPasses && !part.Faces.All(f => f.CleanSectors() == 12))
        {
            var depth = passes == 0 ? 0.20 : 0.10;
            var divisions = Math.Max(1, (long)Math.Round(depth / q));
            var after = believed - sign * perFace * part.Faces.Count * divisions * q;
            if (habit == HabitKind.DialSumFromThickness && sign * (after - discard) < 0)
                break; // no more metal, by the sum
            for (var i = 0; i < part.Faces.Count; i++)
                lathe.Cut(i, divisions);
            (believed, passes) = (after, passes + 1);
        }
        var found = habit switch
        {
            HabitKind.DialSumFromThickness => believed,
            HabitKind.TwoAxesAndGo => rotor ? Worst(0, 36) : Worst(0, 18),
            _ => rotor ? Worst(0, 24, 48) : Worst(0, 18),
        };
        so = so with
        {
            Started = true,
            CleanedByFirstPlan = passes <= 1 && part.Faces.All(f => f.IsClean()),
            Excess = Enumerable.Range(0, part.Faces.Count).Sum(lathe.Depth) - needed,
            Passes = passes,
        };
        return job.Close(so, released: sign * (found - discard) >= 0, plainly: sign * (found - machineTo) >= 0, machineTo);
    }
}
