using System.Globalization;
using Uncial.Core;
using Uncial.Core.Cutting;
using Uncial.Core.Gauges;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Simulation;

namespace Uncial.Study;

/// <summary>What the records of a head and of a gauge are worth: the same work with them and without.</summary>
internal static class Records
{
    private const int PartsOfALathe = 60;

    /// <summary>
    /// Lathes whose cross-slide is out by 0.01 to 0.02 over the band: sixty parts each, with the ledger of the head and without.
    /// </summary>
    public static void Ledger(int lathes, long seed, TextWriter to)
    {
        to.WriteLine("| kind | records | parts | mean z | bound failed | at most (95 %) | good, held back | **released beyond discard** |");
        to.WriteLine("| --- | --- | ---: | ---: | ---: | ---: | ---: | ---: |");
        foreach (var kind in new[] { PartKind.Rotor, PartKind.Drum })
        foreach (var on in new[] { false, true })
        {
            var tally = new Tally(on ? "ledger of the head" : "none", kind);
            var (sum, plans, gate) = (0.0, 0, new Lock());
            Parallel.For(0, lathes, n =>
            {
                var results = OnOneLathe(seed * 1_000_003 + n * 1_000L, kind, on);
                lock (gate)
                    foreach (var (result, allowance) in results)
                    {
                        tally.Add(result);
                        if (allowance is { } z)
                            (sum, plans) = (sum + (double)z.Millimetres, plans + 1);
                    }
            });
            to.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"| {kind.ToString().ToLowerInvariant()} | {tally.Name} | {tally.Parts} | {sum / plans:0.0000} | "
                        + $"{100 * tally.BoundFailed:0.00} % | {100 * tally.BoundFailedAtMost:0.00} % | "
                        + $"{100 * tally.HeldBack:0.00} % | **{tally.Beyond}** |"
                )
            );
        }
    }

    private static List<(WorkResult Result, Length? Allowance)> OnOneLathe(long seed, PartKind kind, bool on)
    {
        var chance = new Chance(seed);
        var division = chance.OneOf<double>([0.01, 0.02, 0.005]);
        var rise = (chance.Happens(0.5) ? 1 : -1) * chance.Between(0.01, 0.02);
        var lathe = new Workmanship
        {
            DepthPerDivision = division * (1 + chance.Normal(0.003)),
            PushOff = chance.Between(0, 0.03),
            RiseOverBand = rise / 2,
        };
        List<HeadCut> cuts = [];
        List<(WorkResult, Length?)> all = [];
        for (var part = 0; part < PartsOfALathe; part++)
        {
            var head = on ? HeadLedger.Of(cuts, kind == PartKind.Rotor ? 2 : 1) : null;
            var (result, cut, allowance) = Operator.WorkOnRecord(
                VirtualJob.On(seed + part + 1, kind, Stratum.Fleet, lathe, division),
                Technique.BuiltIn[0],
                head
            );
            if (cut is { } measured)
                cuts.Add(measured);
            all.Add((result, allowance));
        }
        return all;
    }

    /// <summary>
    /// Gauges and people that repeat within a third to two and a half times what the shop assumes: how often the true size lies past the
    /// reading
    /// and its uncertainty, to the unsafe side, and how large that uncertainty is beside the one that knowing all would give.
    /// </summary>
    public static void Repeats(int gauges, long seed, TextWriter to)
    {
        to.WriteLine("| gauge | repeats on record, degrees of freedom | covers the unsafe side | mean U over the ideal |");
        to.WriteLine("| --- | ---: | ---: | ---: |");
        var rules = ShopRules.Default;
        foreach (var (kind, resolution, certificate) in new[] { (GaugeKind.Micrometer, 0.001, 0.003), (GaugeKind.DrumGauge, 0.01, 0.01) })
        foreach (var freedom in new[] { 0, 10, 20, 60, 200 })
        {
            var (chance, covered, tries, ratio) = (new Chance(seed + freedom), 0L, 0L, 0.0);
            var size = kind == GaugeKind.Micrometer ? 24.0 : 230.0;
            for (var g = 0; g < gauges; g++)
            {
                var usual = (double)rules.Gauges.RepeatOf(kind).Millimetres;
                var truly = usual * Math.Exp(chance.Between(Math.Log(0.4), Math.Log(2)));
                // Pairs of repeats, as the pages collect them near a limit.
                var sum = 0.0;
                for (var i = 0; i < freedom; i++)
                    sum += Math.Pow(chance.Normal(truly), 2);
                var pooled = freedom == 0 ? default : new Repeatability((decimal)sum, freedom);
                var facts = new GaugeFacts(kind, Mm(resolution), CertificateUncertainty: Mm(certificate));
                var u = (double)ReadingUncertainty.Of(facts, Mm(size), 1, rules, 0, pooled).Expanded.Millimetres;
                // What it would be if the repeats were known for sure; what is left of it beside papers, repeat and steps is warmth.
                const int sure = 1_000_000;
                var ideal = (double)
                    ReadingUncertainty.Of(facts, Mm(size), 1, rules, 0, new((decimal)(truly * truly) * sure, sure)).Expanded.Millimetres;
                var papers = certificate / 2;
                var warmth = Math.Sqrt(3 * Math.Max(0, ideal * ideal / 4 - papers * papers - truly * truly - resolution * resolution / 6));
                ratio += u / ideal;
                for (var i = 0; i < 100; i++)
                {
                    var error = chance.Normal(papers) + chance.Normal(truly) + chance.Between(-warmth, warmth);
                    var shown = Math.Round(error / resolution) * resolution;
                    tries++;
                    covered += shown <= u ? 1 : 0;
                }
            }
            to.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"| {(kind == GaugeKind.Micrometer ? "micrometer" : "drum gauge")} | {freedom} | "
                        + $"{100.0 * covered / tries:0.00} % | {ratio / gauges:0.00} |"
                )
            );
        }
    }

    private static Length Mm(double mm) => Length.FromMillimetres((decimal)mm);
}
