using Uncial.Core.Inspection;

namespace Uncial.Core.Workflow;

/// <summary>What was found on a surface by eye and hand.</summary>
public sealed class InspectState
{
    internal InspectState(SurfaceFacts facts, PartFacts part)
    {
        Findings = [.. facts.Findings.Where(f => f.Withdrawn is null && f.Kind != FindingKind.Nothing).Ordered()];
        IsDone = facts.Findings.Any(f => f.Withdrawn is null);
        End = part
            .Findings.Where(f => f.Withdrawn is null && Inspection.Findings.StopsThePart(f.Kind))
            .OrderBy(f => f.Kind)
            .FirstOrDefault();
    }

    /// <summary>What was found and stands, the oldest first.</summary>
    public IReadOnlyList<FindingFact> Findings { get; }

    /// <summary>Somebody has looked at it.</summary>
    public bool IsDone { get; }

    /// <summary>
    /// A finding on any surface of the part that ends its way through the shop: a crack, or that it must not be turned; null where there
    /// is none.
    /// </summary>
    public FindingFact? End { get; }
}
