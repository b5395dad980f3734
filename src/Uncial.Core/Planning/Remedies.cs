using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Reasoning;
using Uncial.Core.Release;

namespace Uncial.Core.Planning;

/// <summary>What would help where no technique can start, and scuffing in place of cutting.</summary>
internal static class Remedies
{
    /// <summary>Ranked: what may win enough before what may not, each in the order of its effort.</summary>
    public static IReadOnlyList<Remedy> For(PlanRequest request, PassPlan plan)
    {
        var shortBy = ShortBy(request, plan);
        List<Remedy> remedies = [];
        void May(string code, Length wins)
        {
            if (wins > Length.Zero)
                remedies.Add(new(code, wins, wins >= shortBy));
        }

        var coarse = plan.Options.Count > 0 && plan.Options.All(o => o.Refusal is PlanRefusal.DialTooCoarse or PlanRefusal.TechniqueRange);
        if (!request.Dial.Confirmed && plan.Options.Any(o => o.Refusal == PlanRefusal.DiscardBound || o.Start == PlanStart.Blocked))
            May("confirmDial", plan.Shortfall!.Needed);
        if (request.SetUpRunout is { } setUp)
            May("remount", setUp);
        May("measureRunout", request.Sides.Where(s => s.RunoutAssumed).Aggregate(Length.Zero, (sum, s) => sum + (s.Runout ?? s.Need)));
        May("finerGauge", request.Uncertainty);
        if (coarse)
            remedies.Add(new("finerDial", null, true));
        else
            May("finerDial", plan.PhysicalLeast - request.Sides.Aggregate(Length.Zero, (sum, s) => sum + s.Need));
        if (!request.Techniques.Any(t => t.Key == "light"))
            May("light", plan.Shortfall!.Needed - plan.PhysicalLeast);
        var ranked = remedies.OrderByDescending(r => r.IsEnough).ToList();
        if (plan.Options.Any(o => o is { Feasible: true, Start: PlanStart.Blocked }))
            ranked.Add(new("leadSigns", null, true));
        if (plan.Scuff is { Allowed: true })
            ranked.Add(new("scuff", null, true));
        ranked.Add(new("replace", null, true));
        return ranked;
    }

    /// <summary>Scuffing takes glaze, no metal that counts: the readings as they are must keep discard, grooves and all.</summary>
    public static ScuffOnly? Scuff(PlanRequest request)
    {
        if (request is not { Worst: { } worst, Discard: { } discard })
            return null;
        var steps = new Steps();
        var rotor = request.Kind == PartKind.Rotor;
        var (grooves, runout) = (Length.Zero, Length.Zero);
        foreach (var side in request.Sides)
        {
            grooves += rotor ? side.Groove : 2 * side.Groove;
            runout = Length.Max(runout, side.Runout ?? Length.Max(Length.Zero, side.Need - side.Groove - side.Relief));
        }
        var margin = Limits.Margin(request.Kind, worst, discard);
        steps.Add("stockToDiscard", "{0} − {1}", margin, null, rotor ? [worst, discard] : [discard, worst]);
        var allowed = Conformity.Decide(margin, request.Uncertainty) == Verdict.Within && grooves <= margin - request.Uncertainty;
        steps.Add(
            "grooveStays",
            allowed ? "{0} ≤ {1} − {2}" : "{0} > {1} − {2}",
            Term.State(allowed ? "sure" : "unsure"),
            null,
            grooves,
            margin,
            request.Uncertainty
        );
        return new(allowed, grooves, runout, margin, Limits.Margin(request.Kind, worst, request.MachineTo), steps.All);
    }

    /// <summary>How much metal is missing: over the budget, or of the bound past machine-to for the shallowest first pass.</summary>
    private static Length ShortBy(PlanRequest request, PassPlan plan)
    {
        var overBudget = plan.Shortfall!.Needed - plan.Shortfall.Available;
        var past = plan
            .Options.Where(o => o.Start == PlanStart.Blocked)
            .Select(o => -Limits.Margin(request.Kind, o.Passes[0].BoundAfter, request.MachineTo))
            .ToList();
        return past.Count > 0 ? Length.Max(overBudget, past.Min()) : overBudget;
    }
}
