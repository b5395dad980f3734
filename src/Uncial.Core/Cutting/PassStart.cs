using Uncial.Core.Parts;
using Uncial.Core.Planning;

namespace Uncial.Core.Cutting;

/// <summary>Why a pass is not started.</summary>
public enum StartRefusal
{
    /// <summary>The part is measured first: the pass could reach past machine-to, or the part was turned round.</summary>
    MeasureFirst,

    /// <summary>Its bound is past machine-to, nothing is left to measure, and no lead has signed.</summary>
    PastMachineTo,

    /// <summary>Its bound is past discard: it is never given, to anyone.</summary>
    PastDiscard,
}

/// <summary>Whether a pass may be started.</summary>
public static class PassStart
{
    /// <summary>Looks at a pass before it is started.</summary>
    /// <param name="request">What its plan rests on.</param>
    /// <param name="pass">The pass.</param>
    /// <param name="measured">A size was taken since the last cut.</param>
    /// <param name="hasSignature">A lead has signed for a first pass that could end past machine-to.</param>
    /// <returns>Why not, or null where it may be started.</returns>
    public static StartRefusal? Refuses(PlanRequest request, PlannedPass pass, bool measured, bool hasSignature)
    {
        ArgumentNullException.ThrowIfNull(request);
        ArgumentNullException.ThrowIfNull(pass);
        bool IsPast(Lengths.Length limit) => Limits.Margin(request.Kind, pass.BoundAfter, limit) < Lengths.Length.Zero;
        if (request.Discard is { } discard && IsPast(discard))
            return StartRefusal.PastDiscard;
        if (pass.MeasureFirst && (!measured || IsPast(request.MachineTo)))
            return StartRefusal.MeasureFirst;
        // Sparking out goes no deeper than the pass before it, which was judged.
        return IsPast(request.MachineTo) && !hasSignature && pass.Kind != PassKind.SparkOut ? StartRefusal.PastMachineTo : null;
    }
}
