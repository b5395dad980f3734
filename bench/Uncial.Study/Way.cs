using Uncial.Core.Planning;
using Uncial.Simulation;

namespace Uncial.Study;

/// <summary>A way of working: a technique by the product's pages, perhaps with something changed about it, or a habit.</summary>
internal sealed record Way(string Name, Technique? Technique = null, HabitKind Habit = default, Variant? Variant = null)
{
    public bool OnGrinder => Technique is { SparksOut: true };

    public WorkResult Work(VirtualJob job) =>
        Technique is null ? Simulation.Habit.Work(job, Habit) : Operator.Work(job, Technique, Variant);
}
