using Uncial.Core.Parts;
using Uncial.Core.Release;

namespace Uncial.Core.Workflow;

/// <summary>A stretch of the work that both parts of an axle go through before either goes on.</summary>
public enum PairStretch
{
    /// <summary>Limits and readings: one gauge, one zero check.</summary>
    Measure,

    /// <summary>Mounting, planning and cutting: one set of adapters, one head.</summary>
    Lathe,

    /// <summary>Measured again and judged.</summary>
    Confirm,

    /// <summary>Ready to leave.</summary>
    Release,

    /// <summary>Out of the shop.</summary>
    Out,
}

/// <summary>
/// The order in which the two parts of an axle are worked on: measured one after the other, then mounted and cut one after the other on the
/// same adapters, then confirmed and released together.
/// </summary>
public static class PairOrder
{
    /// <summary>The stretch of a station.</summary>
    public static PairStretch Of(Station station) =>
        station switch
        {
            Station.Receive or Station.Measure => PairStretch.Measure,
            Station.Mount or Station.Plan or Station.Cut => PairStretch.Lathe,
            Station.Confirm => PairStretch.Confirm,
            Station.Release => PairStretch.Release,
            _ => PairStretch.Out,
        };

    /// <summary>
    /// Whether the other part of the axle comes next: it is behind, and can go on. One that is stopped by what was found, or surely beyond
    /// discard, waits for a decision and holds nobody up.
    /// </summary>
    /// <param name="mine">The surface that is worked on.</param>
    /// <param name="other">The same surface of the other part.</param>
    public static bool OtherIsNext(SurfaceState mine, SurfaceState other)
    {
        ArgumentNullException.ThrowIfNull(mine);
        ArgumentNullException.ThrowIfNull(other);
        return Of(other.Station) < Of(mine.Station) && CanGoOn(other);
    }

    /// <summary>Whether a surface can go on without a decision about it.</summary>
    public static bool CanGoOn(SurfaceState state)
    {
        ArgumentNullException.ThrowIfNull(state);
        return state.Inspection.End is null && (state.Station < Station.Mount || state.Measuring.DiscardVerdict != Verdict.Beyond);
    }

    /// <summary>
    /// Whether a surface can be confirmed as it stands, without a word more: everything is read and looked at, it is within its limit, and
    /// nothing speaks against it.
    /// </summary>
    /// <param name="state">The surface, with what the records of its head say.</param>
    /// <param name="pair">How it stands to the other side.</param>
    public static bool IsReady(SurfaceState state, PairCheck pair)
    {
        ArgumentNullException.ThrowIfNull(state);
        ArgumentNullException.ThrowIfNull(pair);
        if (state.Station < Station.Confirm || state.Measuring.NextPlace is not null || state.Confirming.NotLookedAt.Count > 0)
            return false;
        return state.Confirming.Judge(readingsAreFit: true) is { Decision: Decision.Release } judged
            && ConfirmState.LookAgain(judged).Count == 0
            && state.Confirming.DepthsToRepeat(judged).Count == 0
            && state.Confirming.Objections(pair).Count == 0;
    }

    /// <summary>How two surfaces stand to each other; one that waits to be cut counts as not read yet.</summary>
    public static PairCheck Compare(SurfaceState mine, SurfaceState other, ShopRules rules)
    {
        ArgumentNullException.ThrowIfNull(mine);
        ArgumentNullException.ThrowIfNull(other);
        return PairCheck.Of(
            new(mine.Measuring.Worst, mine.CutsDone > 0),
            new(other.Station < Station.Confirm ? null : other.Measuring.Worst, other.CutsDone > 0),
            rules
        );
    }
}
