using Uncial.Core.Gauges;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Simulation;

namespace Uncial.Study;

/// <summary>A way of working: a technique by the product's pages, perhaps with something changed about it, or a habit.</summary>
internal sealed record Way(
    string Name,
    Technique? Technique = null,
    HabitKind Habit = default,
    Variant? Variant = null,
    bool HasRepeats = false
)
{
    public bool OnGrinder => Technique is { SparksOut: true };

    public WorkResult Work(VirtualJob job) =>
        Technique is null
            ? Simulation.Habit.Work(job, Habit)
            : Operator.Work(job, Technique, Variant, pooled: HasRepeats ? Repeats(job.Part.Kind) : default);

    /// <summary>Sixty degrees of freedom of repeats on record, as the gauge of the study truly repeats.</summary>
    private static Repeatability Repeats(PartKind kind) => new(60 * (kind == PartKind.Rotor ? 0.0025m * 0.0025m : 0.010m * 0.010m), 60);
}
