using Uncial.Core.Lengths;

namespace Uncial.Core.Settings;

/// <summary>The set-up on the lathe.</summary>
public sealed record SetUpRules
{
    /// <summary>Run-out of a set-up up to which cutting may start.</summary>
    public Length SetUpTolerance { get; init; } = Length.FromMillimetres(0.025m);

    /// <summary>A first scratch that runs half-way round or more is accepted without turning the part.</summary>
    public bool AcceptHalfRoundScratch { get; init; }

    /// <summary>Run-out of the second face against the first where the part is turned round or flipped, total reading.</summary>
    public Length SecondChuckingRunout { get; init; } = Length.FromMillimetres(0.05m);

    /// <summary>Least run-out that is assumed of a face that nobody has measured, total reading.</summary>
    public Length AssumedRunout { get; init; } = Length.FromMillimetres(0.05m);
}
