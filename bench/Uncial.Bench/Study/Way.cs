using Uncial.Core.Planning;
using Uncial.Core.Practice;

namespace Uncial.Bench.Study;

/// <summary>A way of working: a technique by the book, perhaps with a rule left out, or a habit.</summary>
internal sealed record Way(string Name, Technique? Technique = null, HabitKind Habit = default, BookRule Without = BookRule.None)
{
    public bool OnGrinder => Technique is { SparksOut: true };

    public Outcome Work(Job job) => Technique is null ? Core.Practice.Habit.Work(job, Habit) : ByTheBook.Work(job, Technique, Without);
}
