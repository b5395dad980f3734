using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Reasoning;

namespace Uncial.Core.Release;

/// <summary>What of a finished surface's shape is held to a limit beside its size.</summary>
public enum ShapeQuantity
{
    /// <summary>Thickness variation of a rotor.</summary>
    Variation,

    /// <summary>Out-of-round of a bore.</summary>
    OutOfRound,

    /// <summary>Taper over the band, either way.</summary>
    Taper,

    /// <summary>Run-out of the outer face.</summary>
    RunoutOuter,

    /// <summary>Run-out of the inner face.</summary>
    RunoutInner,
}

/// <summary>How a figure stands to its limit.</summary>
public enum ShapeState
{
    /// <summary>Not more than it may be.</summary>
    Within,

    /// <summary>So far within, but what was read shows the least that it can be.</summary>
    AtLeast,

    /// <summary>More than it may be.</summary>
    Over,

    /// <summary>Not measured since the last cut.</summary>
    NotRead,
}

/// <summary>What was measured of a shape since the last cut; null where nobody did.</summary>
/// <param name="Spread">Thickness variation of a rotor or out-of-round of a bore, 0 or more.</param>
/// <param name="SpreadIsLowerBound">Too few places were read for more than a lower bound.</param>
/// <param name="Taper">Open edge less back, or outer band less inner, signed.</param>
/// <param name="RunoutOuter">Total reading of the outer face.</param>
/// <param name="RunoutInner">Total reading of the inner face.</param>
public readonly record struct ShapeMeasured(
    Length? Spread,
    bool SpreadIsLowerBound,
    Length? Taper,
    Length? RunoutOuter = null,
    Length? RunoutInner = null
);

/// <summary>One figure of the shape against its limit.</summary>
/// <param name="Quantity">What it is.</param>
/// <param name="Size">How much it is, without its sign; null where it was not read.</param>
/// <param name="Limit">How much it may be.</param>
/// <param name="IsShopRule">The limit is the shop's own, since the limit book has none.</param>
/// <param name="State">How they stand.</param>
public sealed record ShapeFigure(ShapeQuantity Quantity, Length? Size, Length Limit, bool IsShopRule, ShapeState State);

/// <summary>
/// The shape of a finished surface. It decides nothing about the size: what is over asks for a reason, not for scrap, since the driver
/// feels it and
/// the limit does not.
/// </summary>
/// <param name="Figures">Every figure that such a surface is held to, read or not.</param>
/// <param name="Steps">How it was worked out, in order.</param>
public sealed record ShapeCheck(IReadOnlyList<ShapeFigure> Figures, IReadOnlyList<Step> Steps)
{
    /// <summary>At least one figure is more than it may be.</summary>
    public bool IsOver => Figures.Any(f => f.State == ShapeState.Over);

    /// <summary>Holds what was measured to the limit book, or to the shop's rules where the book says nothing.</summary>
    /// <param name="kind">Rotor or drum.</param>
    /// <param name="measured">What was measured since the last cut.</param>
    /// <param name="mayVary">Greatest thickness variation or out-of-round of the limit book, or null.</param>
    /// <param name="mayRunOut">Greatest run-out of the limit book, or null.</param>
    /// <param name="rules">The shop's rules.</param>
    public static ShapeCheck Of(PartKind kind, ShapeMeasured measured, Length? mayVary, Length? mayRunOut, ShopRules rules)
    {
        ArgumentNullException.ThrowIfNull(rules);
        var steps = new Steps();
        ShapeFigure Figure(ShapeQuantity quantity, Length? size, bool isLeast, Length? book, Length own)
        {
            var limit = book ?? own;
            var state =
                size is not { } s ? ShapeState.NotRead
                : s > limit ? ShapeState.Over
                : isLeast ? ShapeState.AtLeast
                : ShapeState.Within;
            if (size is { } read)
                steps.Add("shape" + quantity, read > limit ? "{0} > {1}" : "{0} ≤ {1}", Term.Named(state), null, read, limit);
            return new(quantity, size, limit, book is null, state);
        }
        var taper = Figure(ShapeQuantity.Taper, measured.Taper?.Abs(), false, null, rules.Limits.GreatestTaper);
        return kind == PartKind.Drum
            ? new(
                [
                    Figure(
                        ShapeQuantity.OutOfRound,
                        measured.Spread,
                        measured.SpreadIsLowerBound,
                        mayVary,
                        rules.Limits.GreatestOutOfRound
                    ),
                    taper,
                ],
                steps.All
            )
            : new(
                [
                    Figure(ShapeQuantity.Variation, measured.Spread, measured.SpreadIsLowerBound, mayVary, rules.Limits.GreatestVariation),
                    taper,
                    Figure(ShapeQuantity.RunoutOuter, measured.RunoutOuter, false, mayRunOut, rules.Limits.GreatestRunout),
                    Figure(ShapeQuantity.RunoutInner, measured.RunoutInner, false, mayRunOut, rules.Limits.GreatestRunout),
                ],
                steps.All
            );
    }
}
