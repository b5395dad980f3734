using System.Globalization;
using BenchmarkDotNet.Running;
using Uncial.Bench;
using Uncial.Bench.Search;
using Uncial.Bench.Study;

// study [parts] [seed]: the planner against virtual parts. Anything else goes to BenchmarkDotNet, such as --filter '*'.
if (args is ["study", ..])
{
    var parts = args.Length > 1 ? int.Parse(args[1], CultureInfo.InvariantCulture) : 100_000;
    var seed = args.Length > 2 ? long.Parse(args[2], CultureInfo.InvariantCulture) : 1;
    return PlannerStudy.Run(parts, seed, Console.Out) == 0 ? 0 : 1;
}
// search [parts]: the logbook on a shop of many years; see bench/search.
if (args is ["search", ..])
    return await SearchBench.RunAsync(Environment.GetEnvironmentVariable("UNCIAL_BENCH_DATABASE") ?? throw new InvalidOperationException("Run bench/search."), args.Length > 1 ? int.Parse(args[1], CultureInfo.InvariantCulture) : 100_000, Console.Out);
BenchmarkSwitcher.FromAssembly(typeof(CoreBenchmarks).Assembly).Run(args);
return 0;
