using System.Globalization;
using BenchmarkDotNet.Running;
using Uncial.Bench;
using Uncial.Bench.Search;

// search [parts]: the logbook on a shop of many years; see bench/search.
if (args is ["search", ..])
    return await SearchBench.RunAsync(
        Environment.GetEnvironmentVariable("UNCIAL_BENCH_DATABASE") ?? throw new InvalidOperationException("Run bench/search."),
        args.Length > 1 ? int.Parse(args[1], CultureInfo.InvariantCulture) : 100_000,
        Console.Out
    );

// board: how long planning a day takes.
if (args is ["board"])
{
    Uncial.Bench.Board.BoardTimes.Run(Console.Out);
    return 0;
}

// weeks N FILE: made-up weeks worked by the board and by three habits; results are kept in the file.
if (args is ["weeks", var weeks, var file])
{
    Uncial.Bench.Board.SimulatedWeeks.Run(int.Parse(weeks, CultureInfo.InvariantCulture), file, Console.Out);
    return 0;
}
BenchmarkSwitcher.FromAssembly(typeof(CoreBenchmarks).Assembly).Run(args);
return 0;
