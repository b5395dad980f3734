using System.Globalization;

namespace Uncial.Bench.Board;

/// <summary>Works the same made-up weeks by this board and by three habits.</summary>
internal static class SimulatedWeeks
{
    /// <summary>Works so many weeks, and writes what they came to as a table.</summary>
    public static void Run(int weeks, TextWriter to)
    {
        var habits = Enum.GetValues<Habit>();
        var results = new Dictionary<Habit, WeekResult[]>();
        foreach (var habit in habits)
        {
            results[habit] = new WeekResult[weeks];
            Parallel.For(0, weeks, new() { MaxDegreeOfParallelism = 2 }, w => results[habit][w] = new WorkedWeek(new(w), habit).Run());
            to.WriteLine(Line(habit, results[habit]));
        }
        var best = habits.Where(h => h != Habit.Board).MaxBy(h => results[h].Sum(r => r.Kept));
        var worse = Enumerable.Range(0, weeks).Count(w => results[Habit.Board][w].LateMinutes > results[best][w].LateMinutes);
        to.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"Best habit: {best}. Weeks with more lateness by the board than by it: {worse} of {weeks}."
            )
        );
    }

    private static string Line(Habit habit, WeekResult[] weeks) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"| {habit} | {100.0 * weeks.Sum(w => w.Kept) / weeks.Sum(w => w.Promised):0.0} % | {weeks.Average(w => w.LateMinutes):0} | "
                + $"{weeks.Average(w => w.ChangeOverMinutes):0} | {weeks.Average(w => w.MeanHours):0.0} |"
        );
}
