using System.Globalization;
using Uncial.Core.Parts;
using Uncial.Simulation;

namespace Uncial.Study;

/// <summary>What came of many parts worked one way.</summary>
internal sealed class Tally(string name, PartKind kind)
{
    /// <summary>Width of the steps in which the distance from discard is counted, mm, and how many there are.</summary>
    private const double Step = 0.01;
    private const int Steps = 60;

    private readonly List<float> excess = [];
    private readonly long[] near = new long[Steps];
    private readonly long[] nearReleased = new long[Steps];
    private readonly Dictionary<string, int> heldBackBy = [];
    private readonly Dictionary<string, int> leftDarkBy = [];
    private long parts;
    private long started;
    private long firstCleaned;
    private long clean;
    private long passes;
    private double minutes;
    private long readings;
    private long bounds;
    private long boundFailures;
    private double worstFailure;
    private long released;
    private long unnoticed;
    private long beyond;
    private double worstBeyond;
    private long spoilt;
    private long good;
    private long heldBack;

    public PartKind Kind => kind;
    public string Name => name;
    public long Parts => parts;
    public long Beyond => beyond;
    public long Released => released;
    public double WorstBeyond => worstBeyond;
    public double HeldBack => Share(heldBack, parts);
    public double GoodHeldBack => Share(heldBack, good);
    public double CleanShare => Share(clean, started);
    public double BoundFailed => Share(boundFailures, bounds);
    public double WorstFailure => worstFailure;
    public double MeanReadings => Share(readings, parts);
    public double MeanPasses => Share(passes, started);
    public double MedianExcess => Excess(0.5);
    public long Spoilt => spoilt;
    public IReadOnlyDictionary<string, int> HeldBackBy => heldBackBy;
    public IReadOnlyDictionary<string, int> LeftDarkBy => leftDarkBy;

    /// <summary>Upper 95 % bound of the share of released parts that are beyond (Wilson's score interval).</summary>
    public double BeyondAtMost => Wilson(beyond, released);

    /// <summary>Upper 95 % bound of the share of passes whose bound failed.</summary>
    public double BoundFailedAtMost => Wilson(boundFailures, bounds);

    /// <summary>Distance from discard at which half of the parts are released, mm; NaN where too few lie there.</summary>
    public double Guard
    {
        get
        {
            for (var i = 0; i + 1 < Steps; i++)
            {
                var all = near[i] + near[i + 1];
                if (all >= 20 && 2 * (nearReleased[i] + nearReleased[i + 1]) >= all)
                    return (i + 1) * Step;
            }
            return double.NaN;
        }
    }

    public void Add(WorkResult o)
    {
        parts++;
        readings += o.Readings;
        if (o.Started)
        {
            started++;
            excess.Add((float)o.Excess);
            (passes, minutes, bounds, boundFailures) = (
                passes + o.Passes,
                minutes + o.Minutes,
                bounds + o.Bounds,
                boundFailures + o.BoundFailed.Times
            );
            worstFailure = Math.Max(worstFailure, o.BoundFailed.Most);
            firstCleaned += o.CleanedByFirstPlan ? 1 : 0;
            clean += o.Clean ? 1 : 0;
            spoilt += o.InsideBefore >= 0 && o.InsideAfter < 0 ? 1 : 0;
        }
        if (o.InsideAfter >= 0)
        {
            good++;
            var step = (int)(o.InsideAfter / Step);
            if (step < Steps)
            {
                near[step]++;
                nearReleased[step] += o.Released ? 1 : 0;
            }
        }
        released += o.Released ? 1 : 0;
        unnoticed += o.ReleasedPlainly && o.InsideMachineTo < 0 ? 1 : 0;
        if (!o.Released && o.InsideAfter >= 0)
        {
            heldBack++;
            Count(heldBackBy, o.HeldBackBy, 1);
        }
        if (o.LeftDarkBy.Length > 0)
            Count(leftDarkBy, o.LeftDarkBy, 1);
        if (!o.Released || o.InsideAfter >= 0)
            return;
        beyond++;
        worstBeyond = Math.Max(worstBeyond, -o.InsideAfter);
    }

    public void Add(Tally other)
    {
        excess.AddRange(other.excess);
        for (var i = 0; i < Steps; i++)
            (near[i], nearReleased[i]) = (near[i] + other.near[i], nearReleased[i] + other.nearReleased[i]);
        foreach (var (why, times) in other.heldBackBy)
            Count(heldBackBy, why, times);
        foreach (var (why, times) in other.leftDarkBy)
            Count(leftDarkBy, why, times);
        (parts, started, firstCleaned, clean) = (
            parts + other.parts,
            started + other.started,
            firstCleaned + other.firstCleaned,
            clean + other.clean
        );
        (passes, minutes, readings, bounds) = (
            passes + other.passes,
            minutes + other.minutes,
            readings + other.readings,
            bounds + other.bounds
        );
        (boundFailures, worstFailure) = (boundFailures + other.boundFailures, Math.Max(worstFailure, other.worstFailure));
        (released, unnoticed, beyond) = (released + other.released, unnoticed + other.unnoticed, beyond + other.beyond);
        (worstBeyond, spoilt, good, heldBack) = (
            Math.Max(worstBeyond, other.worstBeyond),
            spoilt + other.spoilt,
            good + other.good,
            heldBack + other.heldBack
        );
    }

    public const string WayHead =
        "| kind | way of working | started | clean by the first plan | clean in the end | metal over the physical least, median | "
        + "95th | passes | minutes | bound failed | by at most | released | past machine-to unnoticed | spoilt | good, held back | "
        + "**released beyond discard** | by at most |\n"
        + "| --- | --- | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: |";

    public string AsWay() =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"| {Word} | {name} | {started} | {Percent(firstCleaned, started)} | {Percent(clean, started)} | "
                + $"{Excess(0.5):0.000} | {Excess(0.95):0.000} | "
        )
        + FormattableString.Invariant(
            $"{MeanPasses:0.0} | {Share(minutes, started):0.0} | {Percent(boundFailures, bounds)} | {worstFailure:0.000} | "
        )
        + FormattableString.Invariant(
            $"{released} | {unnoticed} | {spoilt} | {Percent(heldBack, parts)} | **{beyond}** | {worstBeyond:0.000} |"
        );

    public const string GroupHead =
        "| kind | group | parts | readings | released | good, held back | of the good | half released at | clean in the end | bound "
        + "failed | at most (95 %) | **released beyond discard** | by at most | rate at most (95 %) |\n"
        + "| --- | --- | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: |";

    public string AsGroup() =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"| {Word} | {name} | {parts} | {MeanReadings:0.0} | {released} | {Percent(heldBack, parts)} | "
                + $"{Percent(heldBack, good)} | {Mm(Guard)} | "
        )
        + string.Create(
            CultureInfo.InvariantCulture,
            $"{Percent(clean, started)} | {Percent(boundFailures, bounds)} | {100 * BoundFailedAtMost:0.00} % | **{beyond}** | "
                + $"{worstBeyond:0.000} | {10_000 * BeyondAtMost:0.00} in 10 000 |"
        );

    private string Word => kind == PartKind.Rotor ? "rotor" : "drum";

    private double Excess(double share)
    {
        if (excess.Count == 0)
            return 0;
        excess.Sort();
        return excess[(int)Math.Min(excess.Count - 1, share * excess.Count)];
    }

    private static void Count(Dictionary<string, int> whys, string why, int times) => whys[why] = whys.GetValueOrDefault(why) + times;

    private static double Share(double of, double all) => all == 0 ? 0 : of / all;

    private static string Percent(double of, double all) => all == 0 ? "–" : FormattableString.Invariant($"{100 * of / all:0.00} %");

    private static string Mm(double mm) => double.IsNaN(mm) ? "–" : FormattableString.Invariant($"{mm:0.00}");

    private static double Wilson(long of, long all)
    {
        if (all == 0)
            return 0;
        const double z = 1.645;
        var (p, n) = ((double)of / all, (double)all);
        return (p + z * z / 2 / n + z * Math.Sqrt(p * (1 - p) / n + z * z / 4 / n / n)) / (1 + z * z / n);
    }
}
