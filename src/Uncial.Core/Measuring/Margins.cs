using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Reasoning;
using Uncial.Core.Release;

namespace Uncial.Core.Measuring;

/// <summary>A worst reading against a limit, with the steps that lead to the verdict.</summary>
internal static class Margins
{
    /// <summary>Sets a worst reading against a limit.</summary>
    /// <param name="steps">Where the steps go.</param>
    /// <param name="kind">Rotor or drum.</param>
    /// <param name="limit"><c>Discard</c> or <c>MachineTo</c>.</param>
    /// <param name="worst">Least thickness or largest diameter.</param>
    /// <param name="limits">The limits.</param>
    /// <param name="places">Distinct places or axes read.</param>
    /// <param name="placesNeeded">Fewest of them for a verdict other than beyond.</param>
    /// <param name="u">Expanded uncertainty of what <paramref name="worst"/> rests on.</param>
    public static (Length Margin, Verdict Verdict) Step(
        Steps steps,
        PartKind kind,
        string limit,
        Length worst,
        Limits limits,
        int places,
        int placesNeeded,
        Length u
    )
    {
        var discard = limit == "Discard";
        var at = discard ? limits.Discard : limits.MachineTo;
        if (!discard && limits.MachineToDerived)
            steps.Add("machineToDerived", "", at, null);
        var margin = Limits.Margin(kind, worst, at);
        steps.Add(
            discard ? "stockToDiscard" : "stockToMachineTo",
            "{0} − {1}",
            margin,
            null,
            kind == PartKind.Rotor ? [worst, at] : [at, worst]
        );
        var verdict = places < placesNeeded && margin >= Length.Zero ? Verdict.NotEnough : Conformity.Decide(margin, u);
        if (verdict == Verdict.NotEnough)
            steps.Add(discard ? "discardVerdict" : "machineToVerdict", "{0} < {1}", Term.Named(verdict), null, places, placesNeeded);
        else
            AddVerdict(steps, discard ? "discardVerdict" : "machineToVerdict", margin, u, verdict);
        return (margin, verdict);
    }

    public static void AddVerdict(Steps steps, string quantity, Length margin, Length u, Verdict verdict) =>
        steps.Add(
            quantity,
            verdict switch
            {
                Verdict.Beyond => "{0} < 0",
                Verdict.TooClose => "0 ≤ {0} < {1}",
                _ => "{0} ≥ {1}",
            },
            Term.Named(verdict),
            null,
            margin,
            u
        );
}
