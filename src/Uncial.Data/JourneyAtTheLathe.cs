using Uncial.Core;
using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Planning;

namespace Uncial.Data;

/// <summary>The steps at the lathe: a pass is started and ended, chatter met, the part finished.</summary>
public static partial class Journey
{
    /// <summary>Starts the pass that is due. From here on nobody else can.</summary>
    /// <param name="record">The surface.</param>
    /// <param name="overrun">What passes took of their planned time on this lathe.</param>
    /// <param name="hand">Who starts.</param>
    /// <exception cref="InvalidOperationException">It may not be started: see <see cref="SurfaceRecord.StartRefusal"/>.</exception>
    public static CutStart StartPass(SurfaceRecord record, decimal overrun, Hand hand)
    {
        ArgumentNullException.ThrowIfNull(record);
        if (
            record.Planning.Document is not { } plan
            || record.Planning.Passes.Count >= plan.Option.Passes.Count
            || record.Cutting.IsCutting
            || record.Cutting.IsCut
            || record.Planning.Doubt is not null
            || record.Cutting.StartRefusal is not null
        )
            throw new InvalidOperationException("This pass may not be started.");
        var (index, surface) = (record.Planning.Passes.Count, record.Surface);
        var minutes =
            surface.Diameter > Length.Zero && surface.Band > Length.Zero
                ? record.Lathe.Profile.Run(plan.Option.Passes[index].Kind, record.Kind, surface.Diameter, surface.Band).Minutes
                : 0;
        surface.Turn++;
        var start = new CutStart
        {
            Plan = record.Planning.Latest!.Row<PlanEntry>(),
            PlanId = record.Planning.Latest!.Id,
            Index = index,
            Attempt = (record.Cutting.Start?.Attempt ?? 0) + 1,
            LatheId = record.Lathe.Id,
            PlannedMinutes = Math.Round(minutes, 3),
            Seconds = PassTime.Seconds(minutes, overrun),
            At = hand.At,
            ById = hand.OperatorId,
        };
        surface.CutStarts.Add(start);
        return start;
    }

    /// <summary>Ends the pass that is being cut.</summary>
    /// <exception cref="ArgumentException">One that is broken off takes a reason.</exception>
    public static void StopPass(SurfaceRecord record, CutStopKind kind, string? reason, Hand hand)
    {
        ArgumentNullException.ThrowIfNull(record);
        if (!record.Cutting.IsCutting)
            throw new InvalidOperationException("No pass is being cut.");
        if (kind == CutStopKind.BrokenOff && Trimmed(reason) is null)
            throw new ArgumentException("A cut that is broken off takes a reason.", nameof(reason));
        record.Surface.Turn++;
        record.Cutting.Start!.Row<CutStart>().Stop = new()
        {
            Kind = kind,
            Reason = Trimmed(reason),
            At = hand.At,
            ById = hand.OperatorId,
        };
    }

    /// <summary>Hatched, edges, washed: what finishing asks for was done. A step that was left out takes a reason.</summary>
    public static void Finish(SurfaceRecord record, IReadOnlyCollection<FinishStepKind> done, string? reason, Hand hand)
    {
        ArgumentNullException.ThrowIfNull(record);
        ArgumentNullException.ThrowIfNull(done);
        var asked = record.Cutting.FinishSteps.Select(s => s.Kind).ToList();
        if (asked.Except(done).Any() && Trimmed(reason) is null)
            throw new ArgumentException("A step that is left out takes a reason.", nameof(reason));
        record.Surface.Turn++;
        record.Surface.Finishes.Add(
            new()
            {
                Cuts = record.CutsDone,
                Steps = [.. asked.Where(done.Contains).Select(s => s.ToString())],
                Reason = Trimmed(reason),
                At = hand.At,
                ById = hand.OperatorId,
            }
        );
    }

    /// <summary>Keeps what was tried against chatter on this lathe, and whether it helped.</summary>
    public static void Tried(SurfaceRecord record, ChatterSign sign, ChatterRemedy remedy, bool helped, Hand hand)
    {
        ArgumentNullException.ThrowIfNull(record);
        record.Surface.Chatters.Add(
            new()
            {
                LatheId = record.Lathe.Id,
                Cuts = record.CutsDone,
                Sign = sign,
                Remedy = remedy,
                Helped = helped,
                At = hand.At,
                ById = hand.OperatorId,
            }
        );
    }

    /// <summary>The finishing pass that may still be taken where everything was clean before it; null where none can be.</summary>
    public static PlanOption? FinishOffered(SurfaceRecord record)
    {
        ArgumentNullException.ThrowIfNull(record);
        if (
            record.Planning.Document is not { Option.Key: PlanState.Finished } plan
            || record.CutsDone == 0
            || record.Surface.Passes.MaxBy(p => p.Cut)!.Next != NextStep.Finished
        )
            return null;
        var option = PassPlanner
            .Plan(plan.Request)
            .Options.Where(o => o.CanStart && o.Passes.Count == 1 && o.Passes[0].Kind == PassKind.Finish)
            .MinBy(o => o.Metal);
        return
            option is null
            || PassStart.Refuses(plan.Request, option.Passes[0], record.Surface.Passes.MaxBy(p => p.Cut)!.Size is not null, false)
                is not null
            ? null
            : option;
    }

    /// <summary>Takes the finishing pass that was offered; the dials stay as they are.</summary>
    public static void TakeFinish(SurfaceRecord record, PlanOption option, Hand hand)
    {
        ArgumentNullException.ThrowIfNull(record);
        ArgumentNullException.ThrowIfNull(option);
        TakePlan(record, record.Planning.Document!.Request, option, [], hand, new(NextStep.PlanAnew, record.Planning.Document.Request, []));
    }

    /// <summary>Plans what is left anew from what is known now, where the plan does not hold any more: see <see cref="SurfaceRecord.PlanDoubt"/>.</summary>
    /// <exception cref="InvalidOperationException">It holds, a pass is being cut, or there is no reading to plan from.</exception>
    public static void PlanForFacts(SurfaceRecord record, Hand hand)
    {
        ArgumentNullException.ThrowIfNull(record);
        if (
            record is not { Planning.Doubt: { } doubt, Planning.Document: { } plan, Planning.CanPlanAnew: true }
            || record.Cutting.IsCutting
            || record.Cutting.IsCut
        )
            throw new InvalidOperationException("The plan holds as it is, or cannot be made anew.");
        var otherDial = record.Planning.IsOtherDial(plan.Request.Dial);
        var request = record.Planning.Request(plan.Request.Dial.Confirmed && !otherDial);
        var note = otherDial ? new Note("dialChanged", plan.Request.Dial.Division, request.Dial.Division) : DoubtNote(doubt);
        record.Surface.Turn++;
        PlanAnew(record, new(NextStep.PlanAnew, request, [note]), plan.Option.Key, hand, newZero: doubt == PlanDoubt.Mount);
    }
}
