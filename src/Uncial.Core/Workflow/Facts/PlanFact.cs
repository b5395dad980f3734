using Uncial.Core.Planning;
using Uncial.Core.Reasoning;

namespace Uncial.Core.Workflow;

/// <summary>A plan as it was taken: what it rests on and the option that was chosen.</summary>
/// <param name="Request">State of the part and the lathe when it was planned.</param>
/// <param name="Option">The chosen technique with its passes; no passes where the part is left as it is or is finished.</param>
/// <param name="Why">Notes on why it replaced the one before, if it did.</param>
public sealed record PlanDocument(PlanRequest Request, PlanOption Option, IReadOnlyList<Note> Why)
{
    /// <summary>How the metal was read that made this plan replace the one before; none where it is the first.</summary>
    public IReadOnlyList<Step> Seen { get; init; } = [];

    /// <summary>It goes on from the zero of the plan before it: dials are not set to zero again.</summary>
    public bool Continues { get; init; }

    /// <summary>The same, also of plans from before that was kept: what was made from the metal goes on.</summary>
    internal bool GoesOn => Continues || Seen.Count > 0;
}

/// <summary>A plan that was taken; a new one gets the next version.</summary>
public class PlanFact : PartFact
{
    /// <summary>Place among the plans of its surface, from 1.</summary>
    public int Version { get; init; }

    /// <summary>Key of its technique.</summary>
    public required string Technique { get; init; }

    /// <summary>The lathe that its dial settings are for; null for one from before lathes were on record.</summary>
    public int? LatheId { get; init; }

    /// <summary>The lead's signature for a first pass that could end past machine-to; otherwise null.</summary>
    public long? SignatureId { get; init; }

    /// <summary>What it rests on and its passes.</summary>
    public virtual PlanDocument Contents
    {
        get => contents ?? throw new InvalidOperationException("The plan was built without its document.");
        init => contents = value;
    }

    private readonly PlanDocument? contents;
}
