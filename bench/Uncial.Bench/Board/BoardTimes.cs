using System.Diagnostics;
using Uncial.Core.Scheduling;
using Uncial.Core.Tests.Scheduling;

namespace Uncial.Bench.Board;

/// <summary>How long planning a day takes: forty made-up days of each size.</summary>
internal static class BoardTimes
{
    private const int Days = 40;

    public static void Run(TextWriter says)
    {
        says.WriteLine("| Surfaces | Median, ms | 95 % of days, ms | Longest, ms |");
        says.WriteLine("| --- | --- | --- | --- |");
        DayPlanner.Plan(RandomDays.Of(1, 12));
        foreach (var surfaces in new[] { 6, 8, 12, 25, 40, 100 })
        {
            List<double> times = [];
            for (var seed = 1; seed <= Days; seed++)
            {
                var day = RandomDays.Of(5000 + seed, surfaces);
                var from = Stopwatch.GetTimestamp();
                DayPlanner.Plan(day);
                times.Add(Stopwatch.GetElapsedTime(from).TotalMilliseconds);
            }
            times.Sort();
            says.WriteLine(
                FormattableString.Invariant($"| {surfaces} | {times[Days / 2]:0.0} | {times[Days * 95 / 100]:0.0} | {times[^1]:0.0} |")
            );
        }
    }
}
