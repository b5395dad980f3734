using Uncial.Core.Reasoning;

namespace Uncial.Core.Release;

/// <summary>Whether a part is worth its bench time.</summary>
public enum Worth
{
    /// <summary>Cut it.</summary>
    Cut,

    /// <summary>A new part costs no more.</summary>
    NewPartIsCheaper,

    /// <summary>It would reach discard too soon after the cut.</summary>
    TooShortALife,

    /// <summary>No way to cut it within its limits.</summary>
    CannotBeCut,
}

/// <summary>Bench time against the price of a new part, and the distance left against the shop's least. Money is the shop's own.</summary>
/// <param name="Verdict">Whether to cut.</param>
/// <param name="CostOfCutting">Bench minutes and consumables.</param>
/// <param name="Saved">Price of a new part less that; null where the price is not known.</param>
/// <param name="DistanceLeft">Kilometres to discard after the cut; null where not known.</param>
/// <param name="Steps">How it was worked out, in order.</param>
public sealed record WorthIt(Worth Verdict, decimal CostOfCutting, decimal? Saved, decimal? DistanceLeft, IReadOnlyList<Step> Steps)
{
    /// <summary>Weighs it up. What is not known speaks neither for nor against.</summary>
    /// <param name="canBeCut">A technique can start.</param>
    /// <param name="benchMinutes">Minutes at the bench, mounting and all, 0 or more.</param>
    /// <param name="newPartPrice">Price of a new part, or null.</param>
    /// <param name="distanceLeft">Kilometres to discard after the cut, or null.</param>
    /// <param name="rules">The shop's rules: price of a minute, consumables, least distance.</param>
    public static WorthIt Of(bool canBeCut, decimal benchMinutes, decimal? newPartPrice, decimal? distanceLeft, ShopRules rules)
    {
        ArgumentNullException.ThrowIfNull(rules);
        var steps = new Steps();
        var cost = benchMinutes * rules.Cost.BenchMinutePrice + rules.Cost.ConsumablesPrice;
        steps.Add("costOfCutting", "{0} · {1} + {2}", cost, null, benchMinutes, rules.Cost.BenchMinutePrice, rules.Cost.ConsumablesPrice);
        var saved = newPartPrice - cost;
        if (saved is { } s)
            steps.Add("saved", "{0} − {1}", s, null, newPartPrice!.Value, cost);
        var tooShort = distanceLeft < rules.Cost.LeastDistanceAfterCut;
        var verdict =
            !canBeCut ? Worth.CannotBeCut
            : tooShort ? Worth.TooShortALife
            : saved <= 0 ? Worth.NewPartIsCheaper
            : Worth.Cut;
        if (distanceLeft is { } left && canBeCut)
            steps.Add("worth", tooShort ? "{0} < {1}" : "{0} ≥ {1}", Term.Named(verdict), null, left, rules.Cost.LeastDistanceAfterCut);
        else
            steps.Add("worth", "", Term.Named(verdict), null);
        return new(verdict, cost, saved, distanceLeft, steps.All);
    }
}
