using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Reasoning;

namespace Uncial.Core.Planning;

/// <summary>Finds, for each technique, the passes that clean the part with the least metal, in whole divisions of the dial.</summary>
public static class PassPlanner
{
    /// <summary>Plans a part by every technique of the request.</summary>
    /// <exception cref="ArgumentException">A rotor without two sides, or a drum without one.</exception>
    public static PassPlan Plan(PlanRequest request)
    {
        ArgumentNullException.ThrowIfNull(request);
        if (request.Sides.Count != (request.Kind == PartKind.Rotor ? 2 : 1))
            throw new ArgumentException("A rotor has two sides, a drum one.", nameof(request));

        var steps = new Steps();
        var q = request.Dial.DepthPerDivision;
        var budget = BudgetOf(request, steps);
        var need = new long[request.Sides.Count];
        for (var i = 0; i < need.Length; i++)
        {
            need[i] = Divisions.Up(request.Sides[i].Need, q);
            steps.Add(
                "needDivisions",
                "⌈{0} / {1}⌉",
                need[i],
                request.Kind == PartKind.Drum ? "bore"
                    : i == 0 ? "outer"
                    : "inner",
                request.Sides[i].Need,
                q
            );
        }
        var physicalLeast = need.Sum() * q;
        if (need.Length > 1)
            steps.Add("physicalLeast", "({0} + {1}) · {2}", physicalLeast, null, need[0], need[1], q);
        else
            steps.Add("physicalLeast", "{0} · {1}", physicalLeast, null, need[0], q);
        if (!request.Dial.Confirmed)
            steps.Add("dialUnconfirmed", "", 2, null);

        var options = new PlanOption[request.Techniques.Count];
        for (var i = 0; i < options.Length; i++)
            options[i] = Try(request, request.Techniques[i], need, budget);
        PlanOption? least = null,
            preferred = null;
        foreach (var option in options)
        {
            if (!option.CanStart)
                continue;
            if (least is null || option.Metal < least.Metal)
                least = option;
            if (preferred is null && option.Key == request.DefaultTechnique)
                preferred = option;
        }
        var plan = new PassPlan((preferred ?? least)?.Key, null, budget, physicalLeast, options)
        {
            Scuff = Remedies.Scuff(request),
            Steps = steps.All,
        };
        if (least is null)
        {
            var metals = options.Where(o => o.Metal is not null).Select(o => o.Metal!.Value).ToList();
            var needed = metals.Count > 0 ? metals.Min() : physicalLeast;
            plan = plan with { Shortfall = new(needed, budget, CauseOf(options, needed > budget)) };
            return plan with { Remedies = Remedies.For(request, plan) };
        }
        for (var i = 0; i < options.Length; i++)
            options[i] = WithDeadZone(options[i], need, q, least);
        return ProbePass.Of(request, budget) is { } probe ? plan with { Options = [.. options, probe] } : plan;
    }

    /// <summary>
    /// Lays passes out as an operator has set them, with forecast, bound and checkpoints like any plan. Nothing is made shallower by
    /// itself.
    /// What does not go stays shown, refused, so that it can be moved on.
    /// </summary>
    /// <param name="request">What the plan rests on.</param>
    /// <param name="technique">The technique that it started from, whose depths it is held against.</param>
    /// <param name="passes">The passes, at least one.</param>
    /// <param name="rules">The shop's rules: the heaviest pass.</param>
    public static PlanOption ByHand(PlanRequest request, Technique technique, IReadOnlyList<HandPass> passes, ShopRules rules)
    {
        ArgumentNullException.ThrowIfNull(request);
        ArgumentNullException.ThrowIfNull(technique);
        ArgumentNullException.ThrowIfNull(passes);
        ArgumentNullException.ThrowIfNull(rules);
        var steps = new Steps();
        var q = request.Dial.DepthPerDivision;
        var budget = BudgetOf(request, steps);
        var laid = Checkpoints.Lay(request, [.. passes.Select(p => (p.Kind, p.Divisions.ToArray()))], steps);
        var (metal, needed) = (laid.Total * q, Length.Zero);
        foreach (var side in request.Sides)
            needed += side.Need;
        List<Note> notes = [];
        for (var i = 0; i < request.Sides.Count; i++)
        {
            var depth = passes.Sum(p => p.Divisions[i]) * q;
            if (depth < request.Sides[i].Need)
                notes.Add(
                    new Note.StaysDark(
                        request.Sides[i].Need - depth,
                        request.Kind == PartKind.Drum ? "bore"
                            : i == 0 ? "outer"
                            : "inner"
                    )
                );
        }
        for (var p = 0; p < passes.Count; p++)
        {
            var (least, most) =
                passes[p].Kind == PassKind.Rough ? (technique.RoughMin, technique.RoughMax) : (technique.FinishMin, technique.FinishMax);
            if (passes[p].Kind == PassKind.SparkOut || most == Length.Zero)
                continue;
            var depths = passes[p].Divisions.Where(d => d > 0).Select(d => d * q).ToList();
            var number = (p + 1).ToString(System.Globalization.CultureInfo.InvariantCulture);
            if (depths.Min() < least)
                notes.Add(new Note.PassShallow(depths.Min(), least, number));
            if (depths.Max() > most)
                notes.Add(new Note.PassDeep(depths.Max(), most, number));
        }
        steps.Add("metal", "{0} · {1}", metal, null, laid.Total, q);
        steps.Add("waste", "{0} − {1}", metal - needed, null, metal, needed);
        var refusal =
            passes.SelectMany(p => p.Divisions).Max() * q > rules.Cutting.HeaviestPass ? PlanRefusal.TooHeavy
            : metal > budget ? PlanRefusal.Budget
            : laid.PastDiscard ? PlanRefusal.DiscardBound
            : (PlanRefusal?)null;
        steps.Add(
            "againstBudget",
            metal > budget ? "{0} > {1}" : "{0} ≤ {1}",
            refusal is { } why ? Term.Named(why) : Term.Named(laid.Start),
            null,
            metal,
            budget
        );
        return new(technique.Key, refusal, laid.Start, metal, metal - needed, laid.Passes, notes) { ByHand = true, Steps = steps.All };
    }

    private static Length BudgetOf(PlanRequest request, Steps steps)
    {
        var rotor = request.Kind == PartKind.Rotor;
        var budget = rotor
            ? request.Touch - request.MachineTo - request.Uncertainty
            : (request.MachineTo - request.Uncertainty - request.Touch) / 2;
        if (rotor)
            steps.Add("budget", "{0} − {1} − {2}", budget, null, request.Touch, request.MachineTo, request.Uncertainty);
        else
            steps.Add("budget", "({0} − {1} − {2})/2", budget, null, request.MachineTo, request.Uncertainty, request.Touch);
        return budget;
    }

    private static ShortfallCause CauseOf(IReadOnlyList<PlanOption> options, bool lacksMetal) =>
        options.Any(o => o is { Feasible: true, Start: PlanStart.Blocked }) ? ShortfallCause.FirstPass
        : lacksMetal ? ShortfallCause.Metal
        : options.Any(o => o.Refusal == PlanRefusal.DiscardBound) ? ShortfallCause.Discard
        : ShortfallCause.Technique;

    private static PlanOption Try(PlanRequest request, Technique technique, long[] need, Length budget)
    {
        var steps = new Steps();
        PlanOption Option(PlanRefusal? refusal, PlanStart start, Length? metal, Length? waste, IReadOnlyList<PlannedPass> passes) =>
            new(
                technique.Key,
                refusal,
                start,
                metal,
                waste,
                passes,
                passes.Any(p => p.TurnFirst) ? [new Note.TurnedRound(request.SecondChuckingRunout)] : []
            )
            {
                Steps = steps.All,
            };

        var q = request.Dial.DepthPerDivision;
        if (Divisions.Of(technique, q, steps) is not { } divisions)
            return Option(PlanRefusal.DialTooCoarse, PlanStart.Free, null, null, []);
        var roughs = RoughCount.Of(technique, request);
        var cut = Distribution.Least(divisions, need, request.TwinCutter, roughs);
        if (cut is null)
        {
            steps.Add(
                "mostReached",
                "{0} · {1} + {2}",
                roughs[0].Most * divisions.RoughMax + divisions.FinishMax,
                null,
                roughs[0].Most,
                divisions.RoughMax,
                divisions.FinishMax
            );
            return Option(PlanRefusal.TechniqueRange, PlanStart.Free, null, null, []);
        }
        for (var i = 0; i < cut.Sides.Length; i++)
            steps.Add(
                "sideDivisions",
                cut.Sides[i].Total == 0 ? "" : "max({0}, {1} · {2} + {3})",
                cut.Sides[i].Total,
                request.Kind == PartKind.Drum ? "bore"
                    : i == 0 ? "outer"
                    : "inner",
                need[i],
                cut.Sides[i].Roughs.Length,
                divisions.RoughMin,
                divisions.FinishMin
            );

        var metal = cut.Total * q;
        var needed = Length.Zero;
        foreach (var side in request.Sides)
            needed += side.Need;
        if (metal > budget)
        {
            steps.Add("metal", "{0} · {1}", metal, null, cut.Total, q);
            steps.Add("againstBudget", "{0} > {1}", Term.Named(PlanRefusal.Budget), null, metal, budget);
            return Option(PlanRefusal.Budget, PlanStart.Free, metal, metal - needed, []);
        }
        var checkpoints = Checkpoints.Apply(request, divisions, cut, need, budget, steps);
        metal = checkpoints.Total * q;
        steps.Add("metal", "{0} · {1}", metal, null, checkpoints.Total, q);
        steps.Add("waste", "{0} − {1}", metal - needed, null, metal, needed);
        var refusal =
            metal > budget ? PlanRefusal.Budget
            : checkpoints.PastDiscard ? PlanRefusal.DiscardBound
            : (PlanRefusal?)null;
        steps.Add(
            "againstBudget",
            metal > budget ? "{0} > {1}" : "{0} ≤ {1}",
            refusal is { } why ? Term.Named(why) : Term.Named(checkpoints.Start),
            null,
            metal,
            budget
        );
        var option = Option(
            refusal,
            refusal is null ? checkpoints.Start : PlanStart.Free,
            metal,
            metal - needed,
            refusal is null ? checkpoints.Passes : []
        );
        return !option.CanStart || checkpoints.ShortAtCheckpoint == Length.Zero
            ? option
            : option with
            {
                Notes = [.. option.Notes, new Note.ShortAtCheckpoint(checkpoints.ShortAtCheckpoint)],
            };
    }

    /// <summary>Says where a technique's least depths force more metal than another would take.</summary>
    private static PlanOption WithDeadZone(PlanOption option, long[] need, Length q, PlanOption least)
    {
        if (!option.Feasible || option.Key == least.Key || option.Metal <= least.Metal)
            return option;
        var most = 0L;
        for (var side = 0; side < need.Length; side++)
        {
            var over = -need[side];
            foreach (var pass in option.Passes)
                over += pass.Divisions[side];
            most = Math.Max(most, over);
        }
        return most <= 0 ? option : option with { Notes = [.. option.Notes, new Note.MoreThanNeeded(most * q, least.Metal, least.Key)] };
    }
}
