using Uncial.Core.Cutting;

namespace Uncial.Core.Release;

/// <summary>
/// What speaks against a finished part although its size is within the limit. Each takes a reason to go on; none is a way past the limit.
/// </summary>
public enum Objection
{
    /// <summary>Its shape is more than the book or the shop allows.</summary>
    Shape,

    /// <summary>Left and right of the axle differ by more than the shop accepts.</summary>
    Axle,

    /// <summary>The dial says another depth than the metal: about twice or half of it, or it drifts.</summary>
    Dial,

    /// <summary>It was read with a coarser gauge than before the cut.</summary>
    CoarserGauge,
}

/// <summary>Collects what speaks against a finished part.</summary>
public static class Objections
{
    /// <summary>What speaks against it, in the order in which it is said.</summary>
    /// <param name="shape">Its shape.</param>
    /// <param name="pair">The pair of the axle; null where there is no other side.</param>
    /// <param name="dial">Dial against metal; null where nothing was cut.</param>
    /// <param name="coarserGauge">A reading after the cut was made with a coarser gauge than those before.</param>
    public static IReadOnlyList<Objection> Of(ShapeCheck shape, PairCheck? pair, DialAgreement? dial, bool coarserGauge)
    {
        ArgumentNullException.ThrowIfNull(shape);
        List<Objection> all = [];
        if (shape.IsOver)
            all.Add(Objection.Shape);
        if (pair is { State: PairState.Differ })
            all.Add(Objection.Axle);
        if (dial is not (null or DialAgreement.Agrees))
            all.Add(Objection.Dial);
        if (coarserGauge)
            all.Add(Objection.CoarserGauge);
        return all;
    }
}
