using Uncial.Core.Lengths;

namespace Uncial.Core.Settings;

/// <summary>Passes, tools and swarf.</summary>
public sealed record CuttingRules
{
    /// <summary>Heaviest pass, per side: all schools agree on a ceiling.</summary>
    public Length HeaviestPass { get; init; } = Length.FromMillimetres(0.25m);

    /// <summary>Below this depth a bit rubs more than it cuts, and may chatter.</summary>
    public Length RubbingDepth { get; init; } = Length.FromMillimetres(0.10m);

    /// <summary>A rotor thinner than this rings.</summary>
    public Length ThinRotor { get; init; } = Length.FromMillimetres(10m);

    /// <summary>From this diameter on a finishing feed is prone to chatter.</summary>
    public Length LargeDiameter { get; init; } = Length.FromMillimetres(300m);

    /// <summary>Iron that the swarf bin takes, kg.</summary>
    public decimal SwarfBinKilograms { get; init; } = 20m;
}
