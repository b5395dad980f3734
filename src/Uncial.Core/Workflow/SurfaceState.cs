using Uncial.Core.Cutting;
using Uncial.Core.Parts;
using Uncial.Core.Release;

namespace Uncial.Core.Workflow;

/// <summary>
/// The state of a work surface, worked out from the facts on record, station by station. It is never stored; what is added to the record
/// makes a new state.
/// </summary>
public sealed class SurfaceState
{
    /// <summary>Works the state out.</summary>
    /// <param name="facts">What is on record about the surface.</param>
    /// <param name="part">What is known of the whole part.</param>
    /// <param name="shop">Rules, gauges and lathes.</param>
    /// <param name="head">What the measured cuts of the head that cuts it say; null where they were not looked up.</param>
    public SurfaceState(SurfaceFacts facts, PartFacts part, Workshop shop, HeadLedger? head = null)
    {
        ArgumentNullException.ThrowIfNull(facts);
        ArgumentNullException.ThrowIfNull(part);
        ArgumentNullException.ThrowIfNull(shop);
        (Facts, Part, Shop, Head) = (facts, part, shop, head);
        CutsDone = facts.Passes.Count;
        Receiving = new(facts, shop);
        Inspection = new(facts, part);
        Mounting = new(facts, shop);
        Measuring = new(this);
        Planning = new(this);
        Cutting = new(this);
        Confirming = new(this);
    }

    /// <summary>What is on record about it.</summary>
    public SurfaceFacts Facts { get; }

    /// <summary>What is known of the whole part.</summary>
    public PartFacts Part { get; }

    /// <summary>Rules, gauges and lathes.</summary>
    public Workshop Shop { get; }

    /// <summary>What the measured cuts of its head say; null where they were not looked up, or there are none.</summary>
    public HeadLedger? Head { get; }

    /// <summary>Rotor or drum.</summary>
    public PartKind Kind => Facts.Kind;

    /// <summary>Passes that it has behind it.</summary>
    public int CutsDone { get; }

    /// <summary>Its limits.</summary>
    public ReceiveState Receiving { get; }

    /// <summary>What was found by eye.</summary>
    public InspectState Inspection { get; }

    /// <summary>How it is on the lathe.</summary>
    public MountState Mounting { get; }

    /// <summary>What was read.</summary>
    public MeasureState Measuring { get; }

    /// <summary>Its plans.</summary>
    public PlanState Planning { get; }

    /// <summary>What is done at the lathe.</summary>
    public CutState Cutting { get; }

    /// <summary>How it is judged.</summary>
    public ConfirmState Confirming { get; }

    /// <summary>Where it waits.</summary>
    public Station Station =>
        new Progress(
            Receiving.Limits is not null,
            Measuring.Places.Count,
            Measuring.Places.Count(p => Measuring.ReadingAt(p) is not null),
            Mounting.Decision is not null,
            Planning.Document?.Option.Passes.Count,
            Planning.Passes.Count,
            !Cutting.FinishIsDue,
            Confirming.Holding is { Decision: Decision.Release or Decision.LeadOnly },
            Part.HasLeft
        ).Station;

    /// <summary>Not from before the part went out and came back.</summary>
    internal bool IsSinceItCameBack(PartFact fact) => Part.Recalled is not { HadLeft: true } recalled || fact.IsAfter(recalled);
}
