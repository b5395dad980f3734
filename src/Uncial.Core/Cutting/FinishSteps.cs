using Uncial.Core.Parts;

namespace Uncial.Core.Cutting;

/// <summary>What is done to a part between its last pass and its last measurement.</summary>
public enum FinishStepKind
{
    /// <summary>The spiral of the outer face is broken up with abrasive, the part turning.</summary>
    CrossHatchOuter,

    /// <summary>The same on the inner face.</summary>
    CrossHatchInner,

    /// <summary>The thread of a bore is broken up with abrasive.</summary>
    CrossHatchBore,

    /// <summary>Sharp edges are broken.</summary>
    Edges,

    /// <summary>Grease and chips are wiped out of the hub, races and all.</summary>
    Hub,

    /// <summary>Washed with soap and water, dried.</summary>
    Wash,

    /// <summary>No bare fingers on the faces any more.</summary>
    Hands,
}

/// <summary>A step of finishing.</summary>
/// <param name="Kind">What is done.</param>
/// <param name="Seconds">For how long, about; 0 where it takes what it takes.</param>
public readonly record struct FinishStep(FinishStepKind Kind, int Seconds)
{
    private const int AbrasiveSeconds = 60;

    /// <summary>The steps of a part that was cut, in their order.</summary>
    /// <param name="kind">Rotor or drum.</param>
    /// <param name="ground">It was ground: no spiral is left to break up.</param>
    /// <param name="hubbed">The hub is one piece with it.</param>
    public static IReadOnlyList<FinishStep> For(PartKind kind, bool ground, bool hubbed)
    {
        List<FinishStep> steps = [];
        if (!ground && kind == PartKind.Rotor)
            steps.AddRange([new(FinishStepKind.CrossHatchOuter, AbrasiveSeconds), new(FinishStepKind.CrossHatchInner, AbrasiveSeconds)]);
        if (!ground && kind == PartKind.Drum)
            steps.Add(new(FinishStepKind.CrossHatchBore, AbrasiveSeconds));
        steps.Add(new(FinishStepKind.Edges, 0));
        if (hubbed)
            steps.Add(new(FinishStepKind.Hub, 0));
        steps.AddRange([new(FinishStepKind.Wash, 0), new(FinishStepKind.Hands, 0)]);
        return steps;
    }
}
