using Uncial.Core.Parts;
using Uncial.Simulation;
using Uncial.Simulation.Scales;

namespace Uncial.Practice.Lessons;

/// <summary>What is true of a part of a lesson, by its metal.</summary>
/// <param name="Before">How far its worst spot, grooves included, is inside discard before anything is done; mm, negative beyond.</param>
/// <param name="After">How far it would be inside discard when it has just been cut clean in a true set-up.</param>
/// <param name="AfterToMachine">The same to machine-to.</param>
/// <param name="Unevenness">What the driver would feel: spread of thickness, or out-of-round, mm.</param>
/// <param name="HasCrack">It is cracked.</param>
public sealed record PartTruth(double Before, double After, double AfterToMachine, double Unevenness, bool HasCrack)
{
    /// <summary>Less than this is no reason to take metal off, mm.</summary>
    public const double Felt = 0.02;

    /// <summary>So near to a limit nobody could tell: no lesson is decided there, mm.</summary>
    public const double Margin = 0.03;

    /// <summary>What is true of a part as it comes in.</summary>
    public static PartTruth Of(VirtualPart part, bool hasCrack)
    {
        ArgumentNullException.ThrowIfNull(part);
        var rotor = part.Kind == PartKind.Rotor;
        var clean = rotor ? part.Faces[0].LowestToClean() + part.Faces[1].LowestToClean() : -2 * part.Faces[0].LowestToClean();
        double Inside(double limit) => rotor ? clean - limit : limit - clean;
        var (least, most) = (double.MaxValue, double.MinValue);
        for (var i = 0; i < WorkFace.Angles; i++)
        {
            var size = part.SizeAt(i, part.ReadingStation);
            (least, most) = (Math.Min(least, size), Math.Max(most, size));
        }
        return new(
            part.Inside(part.Limits.Discard, grooves: true),
            Inside(part.Limits.Discard),
            Inside(part.Limits.MachineTo ?? part.Limits.Discard),
            most - least,
            hasCrack
        );
    }

    /// <summary>Whether a decision is right for it, and plainly so.</summary>
    public bool Bears(Decision decision) =>
        decision switch
        {
            Decision.Scrap => HasCrack || Before < -Margin || After < -Margin && Unevenness > Felt,
            _ when HasCrack || Before < Margin => false,
            Decision.Release => AfterToMachine > Margin && Unevenness > Felt,
            Decision.AskLead => After > Margin && AfterToMachine < -Margin && Unevenness > Felt,
            _ => Unevenness < Felt && Before > Margin,
        };
}

/// <summary>Whether a lesson holds together: somebody can pass it, and what it calls right is right for every part that it draws.</summary>
public static class LessonSense
{
    /// <summary>Parts that are drawn to see whether the decision is true of them.</summary>
    private const int Drawn = 60;

    /// <summary>What does not hold.</summary>
    public static IReadOnlyList<FaultAt> Of(Lesson lesson)
    {
        ArgumentNullException.ThrowIfNull(lesson);
        List<FaultAt> faults = [];
        for (var surface = 1; surface <= lesson.Surfaces; surface++)
        {
            var of = lesson.Of(surface);
            if (!of.Gauges.Any(g => Measures(g.Design, of)))
                faults.Add(new("gauges", LessonFault.NoGaugeForPart));
            for (var seed = 1; seed <= Drawn; seed++)
                if (!PartTruth.Of(of.Draw(Lesson.SeedOf(seed, surface)), of.Wear.HasCrack).Bears(of.Decision))
                {
                    faults.Add(new(surface == 1 ? "decision" : "hat.decision", LessonFault.DecisionNotTrue));
                    break;
                }
        }
        return faults;
    }

    /// <summary>A gauge reads the size of a part over all that it may have, and what a cut takes of it.</summary>
    private static bool Measures(GaugeDesign gauge, Lesson lesson)
    {
        const double Beside = 0.4;
        var (part, wear) = (lesson.Part, lesson.Wear);
        var rotor = part.Kind == PartKind.Rotor;
        if (rotor ? gauge.Form is not GaugeForm.Micrometer : gauge.Form is not (GaugeForm.BarEighths or GaugeForm.BarStarts))
            return false;
        var (low, high) = rotor
            ? (part.DiscardMm + wear.Left.Low - Beside, part.DiscardMm + wear.Left.High + wear.Variation.High + wear.LowLand.High)
            : (part.DiscardMm - wear.Left.High - wear.Oval.High, part.DiscardMm - wear.Left.Low + Beside);
        return gauge.InMillimetres(gauge.From) <= low && gauge.InMillimetres(gauge.To) >= high;
    }
}
