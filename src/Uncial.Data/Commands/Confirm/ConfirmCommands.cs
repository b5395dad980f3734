using Uncial.Core.Lengths;
using Uncial.Core.Release;

namespace Uncial.Data.Commands;

/// <summary>A finished surface is judged.</summary>
public static class ConfirmCommands
{
    /// <summary>Judges the surface and keeps the judgement.</summary>
    /// <param name="action">The action.</param>
    /// <param name="readingsAreFit">Off the lathe, clean, at room temperature.</param>
    /// <param name="pair">How it stands to the other side of the axle; null where there is none.</param>
    /// <param name="reason">Why it goes on although something speaks against it; not kept where nothing does.</param>
    /// <param name="cancel">Cancels.</param>
    public static Task<Result<Judgement>> ConfirmAsync(
        PartAction action,
        bool readingsAreFit,
        PairCheck? pair,
        string? reason,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(action);
        var record = action.Record;
        var needsReason = record.Confirming.Objections(pair).Count > 0;
        return action.RunAsync(
            () =>
                record.Station < Core.Parts.Station.Confirm || record.Confirming.Judge(readingsAreFit).Worst is null ? new Refusal.NotNow()
                : needsReason && string.IsNullOrWhiteSpace(reason) ? new Refusal.Missing(Answer.Reason)
                : null,
            _ => Confirm(record, readingsAreFit, action.Actor, needsReason ? reason : null),
            cancel
        );
    }

    /// <summary>Judges the surface and keeps the judgement as a fact.</summary>
    /// <param name="record">The surface.</param>
    /// <param name="readingsAreFit">Off the lathe, clean, at room temperature.</param>
    /// <param name="actor">Who confirms.</param>
    /// <param name="reason">Why it goes on although its shape, its fellow or the dial speaks against it.</param>
    public static Judgement Confirm(SurfaceRecord record, bool readingsAreFit, Actor actor, string? reason = null)
    {
        ArgumentNullException.ThrowIfNull(record);
        var judgement = record.Confirming.Judge(readingsAreFit);
        if (judgement.Worst is not { } worst)
            return judgement;
        record.Surface.Turn++;
        record.Surface.Confirmations.Add(
            new()
            {
                Cuts = record.CutsDone,
                Kind = record.Kind,
                Worst = worst,
                Discard = record.Receiving.Limits!.Discard,
                MachineTo = record.Receiving.Limits.MachineTo,
                Uncertainty = record.Measuring.Uncertainty,
                Allowance = judgement.Allowance,
                GrooveLeft = record.Confirming.DepthsLeft.Groove,
                ReliefLeft = record.Confirming.DepthsLeft.Relief,
                DepthUncertainty = record.Cutting.TurnedBright ? Length.Zero : record.Confirming.DepthsLeft.Uncertainty,
                Decision = judgement.Decision,
                DialTook = record.Confirming.MeasuredCut?.ByDial,
                MetalGone = record.Confirming.MeasuredCut?.BySize,
                Slope = record.Confirming.MeasuredCut is null ? null : record.Confirming.SlopeNow,
                DialVerified = record.Confirming.DialVerified,
                LatheId = record.Lathe.Id,
                Variation = record.Measuring.Spread,
                Taper = record.Measuring.Taper,
                Reason = Text.Trimmed(reason),
                At = actor.At,
                ById = actor.Id,
            }
        );
        return judgement;
    }
}
