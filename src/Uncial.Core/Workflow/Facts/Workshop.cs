using Uncial.Core.Gauges;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;

namespace Uncial.Core.Workflow;

/// <summary>A gauge of the shop.</summary>
/// <param name="Id">Its key.</param>
/// <param name="Name">What it is called at the bench.</param>
/// <param name="Facts">What the uncertainty of its readings rests on.</param>
/// <param name="Pooled">What its repeats on record say.</param>
public sealed record WorkshopGauge(int Id, string Name, GaugeFacts Facts, Repeatability Pooled = default)
{
    /// <summary>Taken out of use; its readings stay.</summary>
    public bool IsRetired { get; init; }

    /// <summary>Expanded uncertainty of a reading of a size, with so many repeats at its spot.</summary>
    public Length UncertaintyAt(Length size, int repeats, bool corrected, ShopRules rules) =>
        ReadingUncertainty.Of(Facts, size, repeats, rules, corrected ? 1 : 0, Pooled).Expanded;
}

/// <summary>A lathe of the shop.</summary>
/// <param name="Id">Its key.</param>
/// <param name="Profile">What it is.</param>
public sealed record WorkshopLathe(int Id, Lathe Profile)
{
    /// <summary>Taken out of use; what was cut on it stays.</summary>
    public bool IsRetired { get; init; }
}

/// <summary>What the state of a part needs of the shop.</summary>
public sealed record Workshop
{
    /// <summary>The rules of the shop.</summary>
    public required ShopRules Rules { get; init; }

    /// <summary>The newest change of its rules; 0 for none.</summary>
    public long RulesId { get; init; }

    /// <summary>Changes of the rules that derived a laxer machine-to limit.</summary>
    public IReadOnlyList<LaxerRules> LaxerRules { get; init; } = [];

    /// <summary>Its gauges, also those out of use.</summary>
    public IReadOnlyList<WorkshopGauge> Gauges { get; init; } = [];

    /// <summary>At least one.</summary>
    public required IReadOnlyList<WorkshopLathe> Lathes { get; init; }

    /// <summary>Techniques that the planner tries.</summary>
    public IReadOnlyList<Technique> Techniques { get; init; } = Technique.BuiltIn;

    /// <summary>Key of the technique that the shop prefers.</summary>
    public string DefaultTechnique { get; init; } = "working";

    /// <summary>The gauges in use that read the size of a kind of part, the best kind first.</summary>
    public IReadOnlyList<WorkshopGauge> GaugesFor(PartKind kind) =>
        [
            .. Gauges
                .Where(g => !g.IsRetired && g.Facts.Kind.Reads(kind))
                .OrderBy(g => g.Facts.Kind is GaugeKind.Caliper or GaugeKind.Tape)
                .ThenBy(g => g.Id),
        ];

    /// <summary>The gauge that reads a kind of part unless another is picked; null where the shop has none.</summary>
    public WorkshopGauge? GaugeFor(PartKind kind) => GaugesFor(kind) is [var first, ..] ? first : null;

    /// <summary>The lathe that a part goes on unless another is picked: the first in use that takes it, otherwise the first.</summary>
    public WorkshopLathe LatheFor(PartKind kind, Length diameter) =>
        Lathes.Where(l => !l.IsRetired).OrderBy(l => l.Id).FirstOrDefault(l => l.Profile.Takes(kind, diameter))
        ?? Lathes.OrderBy(l => l.IsRetired).ThenBy(l => l.Id).First();
}
