using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Reasoning;

namespace Uncial.Core.Planning;

/// <summary>Left and right of an axle planned together: how far apart they would end, and what it costs to have them alike.</summary>
/// <param name="Finish">Size that this side ends at by its own plan.</param>
/// <param name="OtherFinish">Size that the other side ends at.</param>
/// <param name="Apart">Difference of the two.</param>
/// <param name="Within">What the shop accepts; 0: it asks for nothing.</param>
/// <param name="Steps">How it was worked out, in order.</param>
public sealed record PairPlan(Length Finish, Length OtherFinish, Length Apart, Length Within, IReadOnlyList<Step> Steps)
{
    /// <summary>They end alike enough, or the shop asks for nothing.</summary>
    public bool IsAlike => Within == Length.Zero || Apart <= Within;

    /// <summary>This side is the better one: it would have to take more to be like the other, never the reverse.</summary>
    public bool TakesMore { get; init; }

    /// <summary>
    /// Metal that this side takes more than by its own plan, so that both end alike; null where they do already, where the other side
    /// would have
    /// to take more, or where this one has not so much.
    /// </summary>
    public Length? Price { get; init; }

    /// <summary>What this side is planned from to end like the other; null where there is no <see cref="Price"/>.</summary>
    public PlanRequest? Alike { get; init; }

    /// <summary>Size that a part ends at by the plan that is recommended for it; null where none can be started.</summary>
    public static Length? FinishOf(PlanRequest request) => Recommended(request)?.Passes is [.., var last] ? last.SizeAfter : null;

    /// <summary>Plans one side against the other.</summary>
    /// <param name="mine">What this side's plan rests on.</param>
    /// <param name="otherFinish">Size that the other side ends at, or has.</param>
    /// <param name="rules">The shop's rules: how far apart an axle may be.</param>
    /// <returns>Null where nothing can be started on this side.</returns>
    public static PairPlan? Of(PlanRequest mine, Length otherFinish, ShopRules rules)
    {
        ArgumentNullException.ThrowIfNull(mine);
        ArgumentNullException.ThrowIfNull(rules);
        if (Recommended(mine) is not { Passes: [.., var last], Metal: { } metal } alone)
            return null;
        var (finish, within, steps) = (last.SizeAfter, rules.Limits.GreatestAxleDifference, new Steps());
        var apart = (finish - otherFinish).Abs();
        steps.Add("axleDifference", "|{0} − {1}|", apart, null, finish, otherFinish);
        var pair = new PairPlan(finish, otherFinish, apart, within, steps.All)
        {
            TakesMore = Limits.Margin(mine.Kind, finish, otherFinish) > Length.Zero,
        };
        if (pair.IsAlike || !pair.TakesMore)
            return pair;

        // Half of what is too much from either face of a rotor; a bore goes on both ends of its diameter.
        var more = (apart - within) / 2;
        steps.Add("eachMore", "({0} − {1}) / 2", more, null, apart, within);
        var alike = mine with { Sides = [.. mine.Sides.Select((s, i) => s with { Need = DepthOf(alone, i) + more })] };
        PlanOption? least = null;
        foreach (var option in PassPlanner.Plan(alike).Options)
            if (
                option is { CanStart: true, Passes: [.., var end] }
                && (end.SizeAfter - otherFinish).Abs() <= within
                && (least is null || option.Metal < least.Metal)
            )
                least = option;
        if (least?.Metal is not { } takes)
            return pair with { Steps = steps.All };
        steps.Add("priceOfEquality", "{0} − {1}", takes - metal, null, takes, metal);
        return pair with { Price = takes - metal, Alike = alike with { DefaultTechnique = least.Key }, Steps = steps.All };
    }

    private static Length DepthOf(PlanOption option, int side) => option.Passes.Aggregate(Length.Zero, (sum, p) => sum + p.Depth[side]);

    private static PlanOption? Recommended(PlanRequest request) =>
        PassPlanner.Plan(request) is { Recommended: { } key } plan ? plan.Options.First(o => o.Key == key) : null;
}
