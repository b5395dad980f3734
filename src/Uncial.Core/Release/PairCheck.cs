using Uncial.Core.Lengths;
using Uncial.Core.Reasoning;

namespace Uncial.Core.Release;

/// <summary>How the two parts of an axle stand to each other.</summary>
public enum PairState
{
    /// <summary>Alike enough.</summary>
    Even,

    /// <summary>Their sizes differ by more than the shop accepts.</summary>
    Differ,

    /// <summary>One was cut, the other was not: they brake unlike each other until both are bedded in.</summary>
    OneCut,

    /// <summary>The other side has no readings yet: look at it too.</summary>
    OtherNotRead,
}

/// <summary>One side of an axle.</summary>
/// <param name="Size">Its worst reading now; null where it has none.</param>
/// <param name="IsCut">It was machined in this job.</param>
public readonly record struct PairSide(Length? Size, bool IsCut);

/// <summary>Left and right of one axle, confirmed together.</summary>
/// <param name="State">How they stand to each other; the graver where two hold.</param>
/// <param name="Difference">Difference of their sizes; null where one is not read.</param>
/// <param name="Steps">How it was worked out, in order.</param>
public sealed record PairCheck(PairState State, Length? Difference, IReadOnlyList<Step> Steps)
{
    /// <summary>Compares two sides.</summary>
    public static PairCheck Of(PairSide mine, PairSide other, ShopRules rules)
    {
        ArgumentNullException.ThrowIfNull(rules);
        if (mine.Size is not { } a || other.Size is not { } b)
            return new(PairState.OtherNotRead, null, []);
        var steps = new Steps();
        var difference = (a - b).Abs();
        steps.Add("axleDifference", "|{0} − {1}|", difference, null, a, b);
        // A shop that asks for nothing has 0 there.
        var isAsked = rules.Limits.GreatestAxleDifference > Length.Zero;
        var state =
            isAsked && difference > rules.Limits.GreatestAxleDifference ? PairState.Differ
            : mine.IsCut != other.IsCut ? PairState.OneCut
            : PairState.Even;
        if (isAsked)
            steps.Add(
                "pair",
                difference > rules.Limits.GreatestAxleDifference ? "{0} > {1}" : "{0} ≤ {1}",
                Term.Named(state),
                null,
                difference,
                rules.Limits.GreatestAxleDifference
            );
        return new(state, difference, steps.All);
    }
}
