using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Reasoning;
using Uncial.Core.Release;

namespace Uncial.Core.Measuring;

/// <summary>What is known of one face of a rotor besides thickness.</summary>
/// <param name="Runout">Total indicator reading as the part turns on the lathe now, or null if nobody has measured it.</param>
/// <param name="Groove">Depth of the deepest groove below the lands; null: nobody looked.</param>
/// <param name="Relief">From the touched land down to the lowest land of the swept band; null: nobody looked.</param>
/// <param name="RunoutRadius">Radius at which the indicator stood, above 0; null: at the edge of the band.</param>
public readonly record struct Face(Length? Runout, Length? Groove, Length? Relief, Length? RunoutRadius = null);

/// <summary>A figure for each of the two faces of a rotor: outer is the wheel's side, inner the car's.</summary>
public readonly record struct PerFace<T>(T Outer, T Inner);

/// <summary>Everything that was read off a rotor.</summary>
public sealed record RotorMeasurement
{
    /// <summary>The limits of its thickness.</summary>
    public required Limits Limits { get; init; }

    /// <summary>Thickness readings, on lands, in any order. May be empty while measuring.</summary>
    public required IReadOnlyList<Reading> Readings { get; init; }

    /// <summary>Expanded uncertainty (k = 2) of one reading, 0 or more.</summary>
    public required Length Uncertainty { get; init; }

    /// <summary>Run-out, grooves and relief of the faces.</summary>
    public PerFace<Face> Faces { get; init; }

    /// <summary>Outer radius of the swept band, to which a run-out that was read further in is scaled; null: taken as read.</summary>
    public Length? EdgeRadius { get; init; }

    /// <summary>Radius at which the bits will touch; must be one that was read. Null: the least favourable is taken.</summary>
    public Length? TouchStation { get; init; }
}

/// <summary>The wave fitted through a rotor's thickness at one radius.</summary>
/// <param name="Mean">Constant of the fit.</param>
/// <param name="Least">Least fitted thickness.</param>
/// <param name="LeastAt">Where it lies.</param>
public sealed record ThicknessFit(Length Mean, Length Least, ClockAngle LeastAt)
{
    private readonly HarmonicFit? fit;

    internal ThicknessFit(HarmonicFit fit, double leverage, double leastAngle)
        : this(
            Length.FromTrigonometry(fit.Constant, Toward.Nearest),
            Length.FromTrigonometry(fit.At(leastAngle), Toward.Less),
            ClockAngle.FromRadians(leastAngle)
        ) => (this.fit, Leverage) = (fit, Math.Max(1, Math.Sqrt(leverage)));

    /// <summary>Root of the largest leverage of the places read, at least 1: the fit is less sure than a reading by so much.</summary>
    public double Leverage { get; } = 1;

    /// <summary>Expanded uncertainty of the fitted thickness at its least sure angle.</summary>
    /// <param name="u">Expanded uncertainty of one reading.</param>
    public Length Uncertainty(Length u) => Leverage == 1 ? u : Length.FromTrigonometry((double)u.Millimetres * Leverage, Toward.Greater);

    /// <summary>Fitted thickness at a clock position, degrees.</summary>
    internal double At(decimal degrees) => fit!.At((double)degrees * Math.PI / 180);
}

/// <summary>What the readings of a rotor come to. Lengths in millimetres inside; null where too little was read.</summary>
public sealed record RotorFigures
{
    /// <summary>Least reading: counts for the limits.</summary>
    public Length? Least { get; init; }

    /// <summary>Where the least reading was taken.</summary>
    public ClockAngle? LeastAt { get; init; }

    /// <summary>Greatest reading.</summary>
    public Length? Greatest { get; init; }

    /// <summary>Thickness variation: the largest spread within one radius.</summary>
    public Length? ThicknessVariation { get; init; }

    /// <summary>Fewer than eight places were read: the true variation is this or more.</summary>
    public bool VariationIsLowerBound { get; init; }

    /// <summary>Distinct places read around the part, at the radius with most of them.</summary>
    public int Places { get; init; }

    /// <summary>Least reading less discard.</summary>
    public Length? StockToDiscard { get; init; }

    /// <summary>Least reading less machine-to.</summary>
    public Length? StockToMachineTo { get; init; }

    /// <summary>Least reading against discard.</summary>
    public Verdict DiscardVerdict { get; init; } = Verdict.NotEnough;

    /// <summary>Least reading against machine-to.</summary>
    public Verdict MachineToVerdict { get; init; } = Verdict.NotEnough;

    /// <summary>Thickness between the bits at first touch, as expected.</summary>
    public Length? Touch { get; init; }

    /// <summary>The same, to the careful side: for budget and forecast.</summary>
    public Length? TouchCareful { get; init; }

    /// <summary>Thickness at first touch is not less than this (about 98 %).</summary>
    public Length? TouchBound { get; init; }

    /// <summary>Depth from first touch until a face is clean.</summary>
    public PerFace<Length>? Need { get; init; }

    /// <summary>Run-out used for each face: measured, or assumed.</summary>
    public PerFace<Length>? Runout { get; init; }

    /// <summary>Thickness that is left when both faces are just clean.</summary>
    public Length? LeastFinished { get; init; }

    /// <summary>Whether a face's run-out was assumed.</summary>
    public PerFace<bool> RunoutAssumed { get; init; }

    /// <summary>Whether variation and the two run-outs can belong to one part; null where that cannot be tested.</summary>
    public bool? FiguresAgree { get; init; }

    /// <summary>
    /// What the run-outs of the two faces differ by at most, by the thickness; null where both are measured, or that cannot be told.
    /// </summary>
    public Length? RunoutsDifferAtMost { get; init; }

    /// <summary>Mean at the greatest radius less mean at the least: thinner inside if positive; null with one radius.</summary>
    public Length? Taper { get; init; }

    /// <summary>The fit at the touched radius, where one is allowed.</summary>
    public ThicknessFit? Fit { get; init; }

    /// <summary>What else the operator should know.</summary>
    public IReadOnlyList<Note> Notes { get; init; } = [];

    /// <summary>How it was worked out, in order.</summary>
    public IReadOnlyList<Step> Steps { get; init; } = [];
}
