using Uncial.Core.Lengths;

namespace Uncial.Core;

/// <content>Notes of measuring.</content>
public abstract partial record Note
{
    /// <summary>Fewer than three measuring points are read: no verdict.</summary>
    public sealed record TooFewPlaces : Note;

    /// <summary>One axis is read: no verdict on roundness.</summary>
    public sealed record TooFewAxes : Note;

    /// <summary>Read at fewer than eight points: thickness varies by so much or more.</summary>
    public sealed record VariationLowerBound(Length Variation) : Note(length: Variation);

    /// <summary>Run-out of a face was not measured and is assumed.</summary>
    public sealed record RunoutAssumed(Length Assumed, string Face) : Note(length: Assumed, subject: Face);

    /// <summary>How far a drum is off centre was not read and is assumed.</summary>
    public sealed record EccentricityAssumed(Length Assumed) : Note(length: Assumed);

    /// <summary>Thickness varies by more than the run-outs together.</summary>
    public sealed record FiguresDisagree(Length Variation, Length Runouts) : Note(length: Variation, second: Runouts);

    /// <summary>The wave through the readings has its least between measuring points.</summary>
    public sealed record LookHere(Length Least, decimal At) : Note(length: Least, degrees: At);

    /// <summary>Machine-to was derived from discard.</summary>
    public sealed record MachineToDerived(Length MachineTo) : Note(length: MachineTo);

    /// <summary>An oval can hide between the axes that were read.</summary>
    public sealed record RoundnessNotProven(Length? OutOfRound) : Note(length: OutOfRound);

    /// <summary>Opposite ends of one axis were read: they are repeats.</summary>
    public sealed record RepeatsAveraged : Note;

    /// <summary>A reading lies off the oval.</summary>
    public sealed record NotAnOval(Length Residual) : Note(length: Residual);

    /// <summary>Wider at the open edge than at the back.</summary>
    public sealed record BellMouth(Length Taper) : Note(length: Taper);

    /// <summary>Narrower at the open edge than at the back.</summary>
    public sealed record NarrowMouth(Length Taper) : Note(length: Taper);

    /// <summary>Wider in the middle than at its ends.</summary>
    public sealed record Barrel(Length Belly) : Note(length: Belly);

    /// <summary>Narrower in the middle than at its ends.</summary>
    public sealed record Waist(Length Belly) : Note(length: Belly);

    /// <summary>A drum with less left to discard than the shop starts with.</summary>
    public sealed record BelowFloor(Length Left, Length Floor) : Note(length: Left, second: Floor);

    /// <summary>Thinner inside than outside.</summary>
    public sealed record ThinInside(Length Taper) : Note(length: Taper);

    /// <summary>Thinner outside than inside.</summary>
    public sealed record ThinOutside(Length Taper) : Note(length: Taper);

    /// <summary>Grooves or low lands of a side were not inspected.</summary>
    public sealed record NotLookedAt(string What) : Note(subject: What);
}
