namespace Uncial.Core.Settings;

/// <summary>What decides whether turning pays.</summary>
public sealed record CostRules
{
    /// <summary>A part should go at least so far after a cut before it reaches discard, km.</summary>
    public decimal LeastDistanceAfterCut { get; init; } = 20_000m;

    /// <summary>Minutes to mount, set up, finish and wash a part, beside its passes.</summary>
    public decimal MountMinutes { get; init; } = 20m;

    /// <summary>Price of a minute at the bench, in the shop's money.</summary>
    public decimal BenchMinutePrice { get; init; } = 1.00m;

    /// <summary>Consumables of one part: insert edge, abrasive, wash, in the shop's money.</summary>
    public decimal ConsumablesPrice { get; init; } = 3.00m;
}
