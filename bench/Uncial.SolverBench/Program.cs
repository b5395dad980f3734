using System.Globalization;
using Uncial.Core.Scheduling;
using Uncial.Core.Tests.Scheduling;
using Uncial.SolverBench;

// DAYS SECONDS FILE: plans so many made-up days of 12, 25 and 40 surfaces, gives a solver so many seconds for each to find a better board,
// and writes what both came to. Days that are in the file already are not solved again. The table shows the planner as it is now, quick
// and after its rounds, beside what the solver found.
if (args is not [var days, var seconds, var file])
    return Fail("Give the number of days, the seconds for each and the file of the results.");
const int Rounds = 12;
int[] sizes = [12, 25, 40];
var done = File.Exists(file) ? await File.ReadAllLinesAsync(file) : [];
for (var n = 0; n < int.Parse(days, CultureInfo.InvariantCulture); n++)
{
    var (size, seed) = (sizes[n % sizes.Length], 9000 + n);
    if (done.Any(l => l.StartsWith($"{size},{seed},", StringComparison.Ordinal)))
        continue;
    var day = RandomDays.Of(seed, size);
    var board = DayPlanner.Improve(day, DayPlanner.Plan(day), Rounds);
    if (board.Cost.NotKept > 0)
    {
        Console.WriteLine($"{size},{seed}: not every step finds a time; left out.");
        continue;
    }
    SolvedDay solved = new(day);
    var told = solved.CostOf(board);
    if (told != new DayCost(board.Cost.Lateness, board.Cost.Idle, board.Cost.Finish))
        return Fail($"Day {seed} of {size} surfaces: the planner says {board.Cost}, the model {told}.");
    var (best, isProven) = solved.Solve(double.Parse(seconds, CultureInfo.InvariantCulture));
    var soonest = best.Late == told.Late && best.Idle < told.Idle ? new SolvedDay(day).Soonest(solved) : best;
    var proven = isProven ? "proven" : "open";
    var line = FormattableString.Invariant(
        $"{size},{seed},{told.Late},{told.Idle},{told.Finish},{best.Late},{best.Idle},{best.Finish},{soonest.Idle},{proven}"
    );
    await File.AppendAllLinesAsync(file, [line]);
    Console.WriteLine(line);
}
Console.WriteLine(
    "| Surfaces | Board | Days | Proven | Late alike | Late behind, most | Idle alike too | Idle behind "
        + "| Idle behind when begun at the soonest |"
);
Console.WriteLine("| --- | --- | --- | --- | --- | --- | --- | --- | --- |");
foreach (var size in (await File.ReadAllLinesAsync(file)).Select(l => l.Split(',')).GroupBy(l => l[0]))
{
    foreach (var rounds in new[] { 0, Rounds })
    {
        var all = size.Select(l => (Own: Own(l, rounds), Best: Cost(l[5..8]), Soonest: Number(l[8]), IsProven: l[9] == "proven")).ToList();
        var alike = all.Where(d => d.Own.Late <= d.Best.Late).ToList();
        // Where lateness is less than the solver's, there is nothing to compare.
        var same = alike.Where(d => d.Own.Late == d.Best.Late).ToList();
        double Behind(Func<(DayCost Own, DayCost Best, long Soonest, bool IsProven), long> best) =>
            100.0 * same.Sum(d => d.Own.Idle - best(d)) / Math.Max(1, same.Sum(best));
        Console.WriteLine(
            FormattableString.Invariant(
                $"| {size.Key} | {(rounds == 0 ? "quick" : "improved")} | {all.Count} | {all.Count(d => d.IsProven)} | {alike.Count} "
            )
                + FormattableString.Invariant(
                    $"| {all.Max(d => Math.Max(0, d.Own.Late - d.Best.Late))} min | {all.Count(d => IsAlike(d.Own, d.Best))} "
                )
                + FormattableString.Invariant($"| {Behind(d => d.Best.Idle):0} % | {Behind(d => d.Soonest):0} % |")
        );
    }
}
return 0;

static bool IsAlike(DayCost own, DayCost best) => own.Late < best.Late || own.Late == best.Late && own.Idle <= best.Idle;

static DayCost Own(string[] line, int rounds)
{
    var day = RandomDays.Of((int)Number(line[1]), (int)Number(line[0]));
    var cost = DayPlanner.Improve(day, DayPlanner.Plan(day), rounds).Cost;
    return new(cost.Lateness, cost.Idle, cost.Finish);
}

static long Number(string text) => long.Parse(text, CultureInfo.InvariantCulture);

static DayCost Cost(string[] texts) => new(Number(texts[0]), Number(texts[1]), Number(texts[2]));

static int Fail(string why)
{
    Console.Error.WriteLine(why);
    return 1;
}
