using Uncial.Core.Lengths;

namespace Uncial.Core.Planning;

/// <summary>What is wrong with a technique that a shop wants to keep.</summary>
public enum TechniqueFault
{
    /// <summary>It has no name, or one of more than forty letters.</summary>
    Name,

    /// <summary>Another technique has that name.</summary>
    NameTaken,

    /// <summary>Its shallowest roughing pass is deeper than its deepest.</summary>
    RoughRange,

    /// <summary>Its shallowest finishing pass is deeper than its deepest.</summary>
    FinishRange,

    /// <summary>A pass would be heavier than the shop's heaviest.</summary>
    TooHeavy,

    /// <summary>Fewest passes over most, or more than a hundred.</summary>
    Count,

    /// <summary>It neither roughs nor finishes.</summary>
    Nothing,
}

/// <summary>Looks at a technique before it is kept.</summary>
public static class TechniqueCheck
{
    private const int LongestName = 40;

    /// <summary>Finds what is wrong; nothing where it may be kept.</summary>
    /// <param name="technique">The technique; its key is its name.</param>
    /// <param name="taken">Names that others have, the built-in ones as they are said too.</param>
    /// <param name="rules">The shop's rules: the heaviest pass.</param>
    public static IReadOnlyList<TechniqueFault> Faults(Technique technique, IEnumerable<string> taken, ShopRules rules)
    {
        ArgumentNullException.ThrowIfNull(technique);
        ArgumentNullException.ThrowIfNull(taken);
        ArgumentNullException.ThrowIfNull(rules);
        List<TechniqueFault> faults = [];
        var name = technique.Key.Trim();
        if (name.Length is 0 or > LongestName)
            faults.Add(TechniqueFault.Name);
        else if (taken.Any(t => string.Equals(t.Trim(), name, StringComparison.OrdinalIgnoreCase)))
            faults.Add(TechniqueFault.NameTaken);
        var roughs = technique.MaxRough > 0;
        if (roughs && (technique.RoughMin > technique.RoughMax || technique.RoughMax <= Length.Zero))
            faults.Add(TechniqueFault.RoughRange);
        if (technique.FinishMin > technique.FinishMax)
            faults.Add(TechniqueFault.FinishRange);
        if ((roughs && technique.RoughMax > rules.Cutting.HeaviestPass) || technique.FinishMax > rules.Cutting.HeaviestPass)
            faults.Add(TechniqueFault.TooHeavy);
        if (technique.MinRough < 0 || technique.MinRough > technique.MaxRough || technique.MaxRough > HandPasses.Most)
            faults.Add(TechniqueFault.Count);
        if (!roughs && technique.FinishMax <= Length.Zero)
            faults.Add(TechniqueFault.Nothing);
        return faults;
    }
}
