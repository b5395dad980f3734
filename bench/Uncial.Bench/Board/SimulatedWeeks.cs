using System.Globalization;

namespace Uncial.Bench.Board;

/// <summary>Works the same made-up weeks by this board and by three habits.</summary>
internal static class SimulatedWeeks
{
    /// <summary>
    /// Works so many weeks, and writes what they came to as a table. What each came to goes to a file; weeks that are there already are
    /// not worked again.
    /// </summary>
    /// <param name="weeks">How many weeks.</param>
    /// <param name="file">The file of the results.</param>
    /// <param name="to">Where the table goes.</param>
    public static void Run(int weeks, string file, TextWriter to)
    {
        var results = File.Exists(file)
            ? File.ReadAllLines(file).Select(l => l.Split(',')).ToDictionary(Key, Result)
            : new Dictionary<(int, Habit), WeekResult>();
        var habits = Enum.GetValues<Habit>();
        var open = Enumerable
            .Range(0, weeks)
            .SelectMany(w => habits.Select(h => (Week: w, Habit: h)))
            .Where(x => !results.ContainsKey(x))
            .ToList();
        var writing = new Lock();
        Parallel.ForEach(open, new() { MaxDegreeOfParallelism = 2 }, x =>
        {
            var result = new WorkedWeek(new(x.Week), x.Habit).Run();
            lock (writing)
            {
                results[x] = result;
                File.AppendAllLines(file, [Line(x.Week, x.Habit, result)]);
            }
        });
        WeekResult[] Of(Habit habit) => [.. Enumerable.Range(0, weeks).Select(w => results[(w, habit)])];
        to.WriteLine("| Picked by | Promises kept | Late in a week, min | Change-over in a week, min | Mean time in the shop, h |");
        to.WriteLine("| --- | --- | --- | --- | --- |");
        foreach (var habit in habits)
            to.WriteLine(Row(habit, Of(habit)));
        var best = habits.Where(h => h != Habit.Board).MaxBy(h => Of(h).Sum(r => r.Kept));
        var worse = Of(Habit.Board).Zip(Of(best)).Count(x => x.First.LateMinutes > x.Second.LateMinutes);
        to.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"Best habit: {best}. Weeks with more lateness by the board than by it: {worse} of {weeks}."
            )
        );
        var later = Of(Habit.Board).Max(r => r.PlannedLater);
        to.WriteLine(FormattableString.Invariant($"A board planned later than a habit's order at that moment: by {later} min at most."));
    }

    private static (int, Habit) Key(string[] line) => (Number(line[0]), Enum.Parse<Habit>(line[1]));

    private static WeekResult Result(string[] line) =>
        new(
            Number(line[2]),
            Number(line[3]),
            Number(line[4]),
            Number(line[5]),
            double.Parse(line[6], CultureInfo.InvariantCulture),
            line.Length > 7 ? Number(line[7]) : 0
        );

    private static int Number(string text) => int.Parse(text, CultureInfo.InvariantCulture);

    private static string Line(int week, Habit habit, WeekResult r) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"{week},{habit},{r.Promised},{r.Kept},{r.LateMinutes},{r.ChangeOverMinutes},{r.MeanHours:0.000},{r.PlannedLater}"
        );

    private static string Row(Habit habit, WeekResult[] weeks) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"| {habit} | {100.0 * weeks.Sum(w => w.Kept) / weeks.Sum(w => w.Promised):0.0} % | {weeks.Average(w => w.LateMinutes):0} | "
                + $"{weeks.Average(w => w.ChangeOverMinutes):0} | {weeks.Average(w => w.MeanHours):0.0} |"
        );
}
