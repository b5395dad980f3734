using System.Diagnostics;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Practice;

namespace Uncial.Bench.Study;

/// <summary>Works seeded virtual parts by every technique and by three habits, and prints what came of them.</summary>
internal static class PlannerStudy
{
    public static int Run(int parts, long seed, TextWriter to)
    {
        var clock = Stopwatch.StartNew();
        var ways = Technique.BuiltIn.Select(t => new Way(t.Key, t)).Concat(Enum.GetValues<HabitKind>().Select(h => new Way(Named(h), Habit: h))).ToList();
        var all = Work(ways, parts, seed, borderline: false);
        to.WriteLine($"{parts} parts, seed {seed}: half rotors, half drums, each worked in every way.");
        to.WriteLine();
        to.WriteLine(Tally.Head);
        foreach (var tally in all) to.WriteLine(tally);

        static List<Way> Without(params BookRule[] rules) => [.. rules.Select(r => new Way(Named(r), Technique.BuiltIn[0], Without: r))];
        var bounds = Work(Without(BookRule.None, BookRule.DialAllowance, BookRule.DarkPlaces), parts / 5, seed, borderline: false);
        to.WriteLine();
        to.WriteLine($"{parts / 5} parts, working cut by the book, with one rule of the bound left out.");
        to.WriteLine();
        to.WriteLine(Tally.BoundHead);
        foreach (var tally in bounds) to.WriteLine(tally.OfBound());
        var hard = Work(Without(BookRule.None, BookRule.Relief, BookRule.DepthUncertainty, BookRule.WhatLiesLower, BookRule.Allowance, BookRule.HalfTheUncertainty), parts / 5, seed, borderline: true);
        to.WriteLine();
        to.WriteLine($"{parts / 5} parts worn to about their discard limit, working cut by the book, with one rule of release left out.");
        to.WriteLine();
        to.WriteLine(Tally.ReleaseHead);
        foreach (var tally in hard) to.WriteLine(tally.OfRelease());
        Console.Error.WriteLine(FormattableString.Invariant($"{clock.Elapsed.TotalSeconds:0.0} s on {Environment.ProcessorCount} cores"));
        // The promise that this product stands on: by the book no part leaves beyond discard.
        return all.Concat(hard).Where(t => t.Way is { Technique: not null, Without: BookRule.None }).Sum(t => t.Beyond);
    }

    /// <summary>Every part in every way; each worker keeps its own account, so the sums are the same on any machine.</summary>
    private static List<Tally> Work(List<Way> ways, int parts, long seed, bool borderline)
    {
        var workers = Environment.ProcessorCount;
        var all = new List<Tally>[workers];
        Parallel.For(0, workers, new ParallelOptions { MaxDegreeOfParallelism = workers }, worker =>
        {
            var tallies = Fresh(ways);
            for (var n = worker; n < parts; n += workers)
            {
                var kind = n % 4 < 2 ? PartKind.Rotor : PartKind.Drum;
                var onLathe = Job.Draw(seed * 1_000_003 + n, kind, onGrinder: false, borderline);
                Job? onGrinder = null;
                foreach (var tally in tallies)
                {
                    if (tally.Kind != kind) continue;
                    if (tally.Way.OnGrinder) onGrinder ??= Job.Draw(seed * 1_000_003 + n, kind, onGrinder: true, borderline);
                    tally.Add(tally.Way.Work((tally.Way.OnGrinder ? onGrinder! : onLathe).Copy()));
                }
            }
            all[worker] = tallies;
        });
        var sum = Fresh(ways);
        foreach (var tallies in all)
            for (var i = 0; i < sum.Count; i++) sum[i].Add(tallies[i]);
        return sum;
    }

    private static List<Tally> Fresh(List<Way> ways) =>
        [.. new[] { PartKind.Rotor, PartKind.Drum }.SelectMany(kind => ways.Where(w => kind == PartKind.Rotor || !w.OnGrinder).Select(w => new Tally(w, kind)))];

    private static string Named(HabitKind habit) => habit switch
    {
        HabitKind.DialSumFromThickness => "habit: dial sum from thickness",
        HabitKind.TwoAxesAndGo => "habit: two axes and go",
        _ => "habit: cut until it looks clean",
    };

    private static string Named(BookRule rule) => rule switch
    {
        BookRule.None => "nothing: as built",
        BookRule.Relief => "lands lower than those read not counted",
        BookRule.DepthUncertainty => "depths of grooves taken as read",
        BookRule.WhatLiesLower => "both of these: grooves as read, no more",
        BookRule.DialAllowance => "error of a setting (z)",
        BookRule.DarkPlaces => "places where one side is dark (second term)",
        BookRule.Allowance => "nothing allowed between eight readings",
        _ => "half the uncertainty kept",
    };
}
