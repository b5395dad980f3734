using Uncial.Core;
using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;

namespace Uncial.Data.Commands;

/// <summary>Plans are taken and made anew.</summary>
public static class PlanCommands
{
    /// <summary>Leaves the surface uncut, scuffed or as it is: it goes on to be confirmed by the readings it has.</summary>
    /// <param name="action">The action.</param>
    /// <param name="request">What it would be planned from.</param>
    /// <param name="scuffed">It is scuffed.</param>
    /// <param name="cancel">Cancels.</param>
    public static Task<Result<SurfaceRecord>> LeaveUncutAsync(
        PartAction action,
        PlanRequest? request,
        bool scuffed,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(action);
        var record = action.Record;
        return action.RunAsync(
            () =>
                request is null
                || record.Planning.IsRunning
                || !record.Measuring.IsEnoughForPlan
                || (scuffed && PassPlanner.Plan(request).Scuff is not { Allowed: true })
                    ? new Refusal.NotNow()
                    : null,
            _ =>
            {
                LeaveUncut(record, request!, scuffed, action.Actor);
                return record;
            },
            cancel
        );
    }

    /// <summary>Plans what is left anew, where something that the plan rests on has changed.</summary>
    public static Task<Result<SurfaceRecord>> PlanForFactsAsync(PartAction action, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(action);
        var record = action.Record;
        return action.RunAsync(
            () => MayPlanForFacts(record) ? null : new Refusal.NotNow(),
            _ =>
            {
                PlanForFacts(record, action.Actor);
                return record;
            },
            cancel
        );
    }

    private static bool MayPlanForFacts(SurfaceRecord record) =>
        record is { Planning: { Change: not null, Document: not null, CanPlanAnew: true }, Cutting: { IsCutting: false, IsCut: false } };

    /// <summary>Takes the plan that was picked. One whose first pass could end past machine-to takes a lead's signature.</summary>
    /// <param name="action">The action.</param>
    /// <param name="request">What it is planned from.</param>
    /// <param name="option">The plan that was picked; null where none can be.</param>
    /// <param name="reason">Why the first pass is cut past machine-to.</param>
    /// <param name="cancel">Cancels.</param>
    public static Task<Result<SurfaceRecord>> TakePlanAsync(
        PartAction action,
        PlanRequest? request,
        PlanOption? option,
        string? reason,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(action);
        var record = action.Record;
        var takesLead = option is { Start: PlanStart.Blocked };
        return action.RunAsync(
            () =>
                request is null || option is not { Feasible: true } || record.Planning.IsRunning || !record.Measuring.MayBePlanned
                    ? new Refusal.NotNow()
                : takesLead && Text.Trimmed(reason) is null ? new Refusal.Missing(Answer.Reason)
                : null,
            signed =>
            {
                IReadOnlyList<Note> why = takesLead ? [new Note.SignedByLead(reason!.Trim())] : [];
                TakePlan(record, request!, option!, why, action.Actor, signature: signed?.Id);
                return record;
            },
            cancel,
            takesLead
                ? new(
                    record.Part.Id,
                    SignedFor.PastMachineTo,
                    [Signature.OfPlan(record.Surface.Id, record.Planning.NextVersion)],
                    reason ?? ""
                )
                : null
        );
    }

    public static void TakePlan(
        SurfaceRecord record,
        PlanRequest request,
        PlanOption option,
        IReadOnlyList<Note> why,
        Actor actor,
        AfterPass? after = null,
        long? signature = null,
        bool newZero = false
    )
    {
        ArgumentNullException.ThrowIfNull(record);
        ArgumentNullException.ThrowIfNull(option);
        record.Surface.Turn++;
        record.Surface.Plans.Add(
            new()
            {
                LatheId = record.Lathe.Id,
                Version = record.Surface.Plans.Select(p => p.Version).DefaultIfEmpty().Max() + 1,
                SignatureId = signature,
                Technique = option.Key,
                At = actor.At,
                ById = actor.Id,
                Document = StoredJson.Write(
                    new PlanDocument(request, option, why)
                    {
                        Seen = newZero ? [] : after?.Steps ?? [],
                        Continues = after is not null && !newZero,
                    }
                ),
            }
        );
    }

    /// <summary>Leaves the surface uncut, scuffed or as it is: it goes on to be confirmed by the readings it has.</summary>
    public static void LeaveUncut(SurfaceRecord record, PlanRequest request, bool scuffed, Actor actor) =>
        TakePlan(record, request, Empty(scuffed ? PlanState.Scuff : PlanState.NoCut), [], actor);

    /// <summary>
    /// Plans what is left anew from what is known now, where the plan does not hold any more: see <see cref="SurfaceRecord.PlanChange"/>.
    /// </summary>
    /// <exception cref="InvalidOperationException">It holds, a pass is being cut, or there is no reading to plan from.</exception>
    public static void PlanForFacts(SurfaceRecord record, Actor actor)
    {
        ArgumentNullException.ThrowIfNull(record);
        if (!MayPlanForFacts(record))
            throw new InvalidOperationException("The plan holds as it is, or cannot be made anew.");
        var (change, plan) = (record.Planning.Change!.Value, record.Planning.Document!);
        var otherDial = record.Planning.IsOtherDial(plan.Request.Dial);
        var request = record.Planning.Request(plan.Request.Dial.Confirmed && !otherDial);
        var note = otherDial ? new Note.DialChanged(plan.Request.Dial.Division, request.Dial.Division) : ChangeNote(change);
        record.Surface.Turn++;
        PlanAnew(record, new(NextStep.PlanAnew, request, [note]), plan.Option.Key, actor, newZero: change == PlanChange.Mount);
    }

    internal static void PlanAnew(SurfaceRecord record, AfterPass after, string technique, Actor actor, bool newZero = false)
    {
        if (after.Request.Sides.All(s => s.Need == Length.Zero))
        {
            TakePlan(record, after.Request, Empty(PlanState.Finished), after.Notes, actor, after);
            return;
        }
        var anew = PassPlanner.Plan(after.Request with { DefaultTechnique = technique });
        var option = anew.Options.FirstOrDefault(o => o.Key == technique && o.CanStart)
            // After a first pass that was made to tell how far a face runs out, what is left goes with the least metal.
            ?? (technique == ProbePass.Key ? anew.Options.Where(o => o.CanStart).MinBy(o => o.Metal) : null)
            ?? anew.Options.FirstOrDefault(o => o.Key == anew.Recommended);
        Note says = option is null
            ? new Note.NoWayOn(anew.Shortfall?.Needed, anew.Shortfall?.Available)
            : new Note.WillBeLeft(
                Limits.Margin(
                    record.Kind,
                    option.Passes.Count > 0 ? option.Passes[^1].SizeAfter : after.Request.Touch,
                    after.Request.MachineTo
                )
            );
        TakePlan(record, after.Request, option ?? Empty(PlanState.Finished), [.. after.Notes, says], actor, after, newZero: newZero);
    }

    internal static Note ChangeNote(PlanChange change) => new Note.PlanOutlived(change.ToString());

    internal static PlanOption Empty(string key) => new(key, null, PlanStart.Free, Length.Zero, Length.Zero, [], []);
}
