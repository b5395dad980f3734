using Uncial.Core.Lengths;
using Uncial.Core.Parts;

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

        var q = request.Dial.DepthPerDivision;
        var budget = request.Kind == PartKind.Rotor
            ? request.Touch - request.MachineTo - request.Uncertainty
            : (request.MachineTo - request.Uncertainty - request.Touch) / 2;
        var need = request.Sides.Select(s => Divisions.Up(s.Need, q)).ToArray();
        var options = request.Techniques.Select(t => Try(request, t, need, budget)).ToList();

        var startable = options.Where(o => o.CanStart).ToList();
        var least = startable.MinBy(o => o.Metal!.Value.Millimetres);
        var recommended = startable.Find(o => o.Key == request.DefaultTechnique) ?? least;
        var physicalLeast = need.Sum() * q;
        Shortfall? shortfall = null;
        if (recommended is null)
        {
            var metals = options.Where(o => o.Metal is not null).Select(o => o.Metal!.Value).ToList();
            shortfall = new(metals.Count > 0 ? metals.Min() : physicalLeast, budget);
        }
        else options = [.. options.Select(o => WithDeadZone(o, need, q, least!))];
        return new(recommended?.Key, shortfall, budget, physicalLeast, options);
    }

    private static PlanOption Try(PlanRequest request, Technique technique, long[] need, Length budget)
    {
        var q = request.Dial.DepthPerDivision;
        if (Divisions.Of(technique, q) is not { } steps) return Refused(technique, PlanRefusal.DialTooCoarse);
        var cut = Distribution.Least(steps, need, request.TwinCutter, Math.Max(0, technique.MinRough - request.RoughsDone),
            Math.Max(0, technique.MaxRough - request.RoughsDone));
        if (cut is null) return Refused(technique, PlanRefusal.TechniqueRange);

        var metal = cut.Total * q;
        var needed = request.Sides.Aggregate(Length.Zero, (sum, s) => sum + s.Need);
        if (metal > budget) return new(technique.Key, PlanRefusal.Budget, PlanStart.Free, metal, metal - needed, [], []);

        var checkpoints = Checkpoints.Apply(request, steps, cut, need);
        metal = checkpoints.Total * q;
        var refusal = metal > budget ? PlanRefusal.Budget : checkpoints.PastDiscard ? PlanRefusal.DiscardBound : (PlanRefusal?)null;
        return new(technique.Key, refusal, refusal is null ? checkpoints.Start : PlanStart.Free, metal, metal - needed,
            refusal is null ? checkpoints.Passes : [], []);
    }

    private static PlanOption Refused(Technique technique, PlanRefusal refusal) =>
        new(technique.Key, refusal, PlanStart.Free, null, null, [], []);

    /// <summary>Says where a technique's least depths force more metal than another would take.</summary>
    private static PlanOption WithDeadZone(PlanOption option, long[] need, Length q, PlanOption least)
    {
        if (!option.Feasible || option.Key == least.Key || option.Metal <= least.Metal) return option;
        var over = need.Select((n, side) => option.Passes.Sum(p => p.Divisions[side]) - n).Max();
        return over <= 0 ? option : option with { Notes = [new("moreThanNeeded", over * q, least.Metal, Subject: least.Key)] };
    }
}
