using Uncial.Core.Lengths;

namespace Uncial.Core.Planning;

/// <summary>A school of cutting: how deep its passes go and how many there are. Depths are per side.</summary>
/// <param name="Key">Stable name, such as <c>two-fast-one-slow</c>.</param>
/// <param name="RoughMin">Shallowest roughing pass.</param>
/// <param name="RoughMax">Deepest roughing pass.</param>
/// <param name="FinishMin">Shallowest finishing pass; 0 together with <paramref name="FinishMax"/> means spark out instead.</param>
/// <param name="FinishMax">Deepest finishing pass.</param>
/// <param name="MinRough">Fewest roughing passes.</param>
/// <param name="MaxRough">Most roughing passes.</param>
public sealed record Technique(string Key, Length RoughMin, Length RoughMax, Length FinishMin, Length FinishMax, int MinRough, int MaxRough)
{
    /// <summary>The six schools that every shop starts with, in the order in which ties are settled.</summary>
    public static IReadOnlyList<Technique> BuiltIn { get; } =
    [
        Of("working", 0.15m, 0.25m, 0.10m, 0.15m, 0, 6),
        Of("light", 0.025m, 0.08m, 0.025m, 0.08m, 0, 12),
        Of("single", 0m, 0m, 0.10m, 0.20m, 0, 0),
        Of("two-fast-one-slow", 0.05m, 0.15m, 0.05m, 0.10m, 2, 2),
        Of("heavier-finish", 0.10m, 0.15m, 0.15m, 0.20m, 1, 4),
        Of("grind", 0.005m, 0.025m, 0m, 0m, 1, 100),
    ];

    /// <summary>No finishing cut: the last pass sparks out at the same setting.</summary>
    public bool SparksOut => FinishMin == Length.Zero && FinishMax == Length.Zero;

    private static Technique Of(
        string key,
        decimal roughMin,
        decimal roughMax,
        decimal finishMin,
        decimal finishMax,
        int minRough,
        int maxRough
    ) =>
        new(
            key,
            Length.FromMillimetres(roughMin),
            Length.FromMillimetres(roughMax),
            Length.FromMillimetres(finishMin),
            Length.FromMillimetres(finishMax),
            minRough,
            maxRough
        );
}

/// <summary>The lathe's dial, as far as planning goes.</summary>
/// <param name="Division">What one division is marked as, above 0.</param>
/// <param name="CountsDiameter">The dial counts diameter (or thickness), so a division makes half as much depth.</param>
/// <param name="Allowance">Error of a setting, per bit (z).</param>
/// <param name="Confirmed">A measured pass on this lathe has verified the dial; until then every depth counts double in the bound.</param>
public sealed record Dial(Length Division, bool CountsDiameter, Length Allowance, bool Confirmed)
{
    /// <summary>Depth that one division makes.</summary>
    public Length DepthPerDivision => CountsDiameter ? Division / 2 : Division;
}
