using Uncial.Core.Settings;

namespace Uncial.Core;

/// <summary>
/// The figures that a shop may settle for itself, with the values it starts from. Kept in one place, changed by the owner only.
/// <see cref="ShopSettings"/> has the range of each.
/// </summary>
public sealed record ShopRules
{
    /// <summary>The rules that a new shop starts with.</summary>
    public static ShopRules Default { get; } = new();

    /// <summary>Limits that the shop derives, and what a finished part may have left of its faults.</summary>
    public LimitRules Limits { get; init; } = new();

    /// <summary>How gauges repeat, and when a reading is asked about.</summary>
    public GaugeRules Gauges { get; init; } = new();

    /// <summary>The set-up on the lathe.</summary>
    public SetUpRules SetUp { get; init; } = new();

    /// <summary>What is allowed for the shape that nobody read.</summary>
    public ShapeRules Shape { get; init; } = new();

    /// <summary>Passes, tools and swarf.</summary>
    public CuttingRules Cutting { get; init; } = new();

    /// <summary>What decides whether turning pays.</summary>
    public CostRules Cost { get; init; } = new();
}
