using System.Diagnostics;
using Uncial.Core;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Simulation;

namespace Uncial.Study;

/// <summary>Works seeded virtual parts and prints what came of them.</summary>
internal static class Studies
{
    private static readonly PartKind[] Kinds = [PartKind.Rotor, PartKind.Drum];

    /// <summary>Every part of a group once by the pages, for every group: what is promised of careful work.</summary>
    /// <returns>Parts that were released beyond discard where unseen lobes are at most what the rules allow for.</returns>
    public static long Groups(int parts, long seed, Slips slips, TextWriter to)
    {
        List<Tally> all = [];
        to.WriteLine(Tally.GroupHead);
        var ways = Stratum
            .All.Select(s => (s, new Way(s.Name, Technique.BuiltIn[1])))
            .Concat(
                Stratum
                    .All.Take(2)
                    .Select(s => (s, new Way(s.Name + ", 60 repeats of the gauge on record", Technique.BuiltIn[1], HasRepeats: true)))
            );
        foreach (var (stratum, way) in ways)
        foreach (var kind in Kinds.Where(k => stratum.Only is not { } only || only == k))
        {
            var tally = Work(way, kind, parts, seed, stratum, slips);
            to.WriteLine(tally.AsGroup());
            all.Add(tally);
        }
        return all.Where(t =>
                !Stratum.All.Any(s => s.Name == t.Name && s.Lobes > (double)ShopRules.Default.Shape.UnseenLobesFullRound.Millimetres)
            )
            .Sum(t => t.Beyond);
    }

    /// <summary>Every slip by itself and all together, on the fleet and near discard.</summary>
    public static void EachSlip(int parts, long seed, TextWriter to)
    {
        to.WriteLine(Tally.GroupHead);
        foreach (var stratum in new[] { Stratum.Fleet, Stratum.All[2] })
        foreach (var slips in Enum.GetValues<Slips>())
        foreach (var kind in Kinds)
            to.WriteLine(Work(new(stratum.Name + ": " + Named(slips), Technique.BuiltIn[1]), kind, parts, seed, stratum, slips).AsGroup());
    }

    /// <summary>Every technique and habit on the fleet.</summary>
    public static long Ways(int parts, long seed, TextWriter to)
    {
        List<Way> ways =
        [
            .. Technique.BuiltIn.Select(t => new Way(t.Key, t)),
            .. Enum.GetValues<HabitKind>().Select(h => new Way(Named(h), Habit: h)),
        ];
        to.WriteLine(Tally.WayHead);
        var beyond = 0L;
        foreach (var kind in Kinds)
        foreach (var way in ways.Where(w => kind == PartKind.Rotor || !w.OnGrinder))
        {
            var tally = Work(way, kind, parts, seed, Stratum.Fleet, Slips.None);
            to.WriteLine(tally.AsWay());
            beyond += way.Technique is null ? 0 : tally.Beyond;
        }
        return beyond;
    }

    /// <summary>What each rule is worth: left out, with everything else as built.</summary>
    public static void Rules(int parts, long seed, TextWriter to)
    {
        var (built, shape) = (ShopRules.Default, ShopRules.Default.Shape);
        (string Name, Variant Variant)[] variants =
        [
            ("nothing: as built", Variant.AsBuilt),
            ("error of a setting (z)", new(DialAllowance: 0)),
            ("places where one side is dark (second term of the bound)", new(NoSecondTerm: true)),
            ("depths of grooves and low lands (\"none\" is said of all)", new(SaysNone: true)),
            ("what a depth may be more than it was read", new(built with { Shape = shape with { DepthUncertainty = Length.Zero } })),
            (
                "places between the readings (h)",
                new(
                    built with
                    {
                        Shape = shape with
                        {
                            UnreadShareOfVariation = 1_000_000m,
                            UnseenLobesFullRound = Length.Zero,
                            UnseenLobes = Length.Zero,
                        },
                    }
                )
            ),
            ("what the cross-slide hides (τ)", new(built with { Shape = shape with { UnknownParallelism = Length.Zero } })),
            (
                "second reading of the worst place",
                new(built with { Gauges = built.Gauges with { SecondReadingWithin = Length.FromMillimetres(-10) } })
            ),
        ];
        to.WriteLine(Tally.GroupHead);
        foreach (var stratum in new[] { Stratum.Fleet, Stratum.All[2], Stratum.All[8] })
        foreach (var kind in Kinds)
        foreach (var (name, variant) in variants)
            to.WriteLine(
                Work(
                        new(stratum.Name + ", without " + name, Technique.BuiltIn[0], Variant: variant),
                        kind,
                        parts,
                        seed,
                        stratum,
                        Slips.None
                    )
                    .AsGroup()
            );
    }

    /// <summary>Rotors whose run-outs nobody measured: with a first pass that tells them, and with the techniques as they are.</summary>
    public static void Probe(int parts, long seed, TextWriter to)
    {
        to.WriteLine(Tally.WayHead);
        Variant never = new(NeverIndicates: true);
        foreach (
            var way in new Way[]
            {
                new("working", Technique.BuiltIn[0], Variant: never),
                new("light", Technique.BuiltIn[1], Variant: never),
                new("probe first, then the least", Technique.BuiltIn[1], Variant: never with { ProbesFirst = true }),
            }
        )
            to.WriteLine(Work(way, PartKind.Rotor, parts, seed, Stratum.Fleet, Slips.None).AsWay());
    }

    /// <summary>Parts with lobes near discard: read further where it tells most, and half-way between what was read.</summary>
    public static void Places(int parts, long seed, TextWriter to)
    {
        to.WriteLine(Tally.GroupHead);
        foreach (var stratum in Stratum.All.Where(s => s.Lobes > 0 || s == Stratum.NearDiscard))
        foreach (var kind in Kinds)
        foreach (
            var (name, variant) in new[] { ("half-way between", new Variant(FixedPlaces: true)), ("where it tells most", Variant.AsBuilt) }
        )
            to.WriteLine(
                Work(new(stratum.Name + ", " + name, Technique.BuiltIn[1], Variant: variant), kind, parts, seed, stratum, Slips.None)
                    .AsGroup()
            );
    }

    /// <summary>What keeps good parts back, and what leaves parts dark, by what the product said last.</summary>
    public static void Why(int parts, long seed, TextWriter to)
    {
        foreach (var stratum in Stratum.All.Take(3))
        foreach (var kind in Kinds)
        {
            var tally = Work(new(stratum.Name, Technique.BuiltIn[1]), kind, parts, seed, stratum, Slips.None);
            to.WriteLine(
                FormattableString.Invariant(
                    $"{kind}, {stratum.Name}: {100 * tally.GoodHeldBack:0.0} % of the good held back, half released at {tally.Guard:0.00}"
                )
            );
            foreach (var (why, times) in tally.HeldBackBy.OrderByDescending(w => w.Value).Take(8))
                to.WriteLine(FormattableString.Invariant($"  {times, 6} {why}"));
            to.WriteLine(FormattableString.Invariant($"{100 * tally.CleanShare:0.0} % of those started are clean; the others:"));
            foreach (var (why, times) in tally.LeftDarkBy.OrderByDescending(w => w.Value).Take(60))
                to.WriteLine(FormattableString.Invariant($"  {times, 6} {why}"));
        }
    }

    /// <summary>One group worked one way; each worker keeps its own account, so the sums are the same on any machine.</summary>
    public static Tally Work(Way way, PartKind kind, int parts, long seed, Stratum stratum, Slips slips)
    {
        var workers = Environment.ProcessorCount;
        var all = new Tally[workers];
        Parallel.For(0, workers, new ParallelOptions { MaxDegreeOfParallelism = workers }, worker =>
        {
            var tally = new Tally(way.Name, kind);
            for (var n = worker; n < parts; n += workers)
                tally.Add(way.Work(VirtualJob.Draw(seed * 1_000_003 + n, kind, stratum, slips, way.OnGrinder)));
            all[worker] = tally;
        });
        var sum = new Tally(way.Name, kind);
        foreach (var tally in all)
            sum.Add(tally);
        return sum;
    }

    private static string Named(Slips slips) =>
        slips switch
        {
            Slips.None => "careful",
            Slips.WrongUnit => "the other unit",
            Slips.TransposedDigits => "digits changed about",
            Slips.AcrossTheRidge => "across the ridge",
            Slips.WrongPoint => "another place",
            Slips.GrooveAtHalfDepth => "a groove at half its depth",
            Slips.NoneWithoutLooking => "\"none\" without looking",
            Slips.TouchOnAnotherLand => "touched on another land",
            Slips.DialOfAnotherWorth => "a dial of twice or half its worth",
            Slips.ZeroCheckSkipped => "no zero check",
            _ => "all of these",
        };

    private static string Named(HabitKind habit) =>
        habit switch
        {
            HabitKind.DialSumFromThickness => "habit: dial sum from thickness",
            HabitKind.TwoAxesAndGo => "habit: two axes and go",
            _ => "habit: cut until it looks clean",
        };
}
