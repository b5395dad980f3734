using Microsoft.EntityFrameworkCore;
using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;

namespace Uncial.Data.Commands;

/// <summary>Adds the facts of cutting to a surface that is loaded; nothing is saved.</summary>
public static partial class CutCommands
{
    /// <summary>Starts the pass that is due. From here on nobody else can.</summary>
    /// <param name="record">The surface.</param>
    /// <param name="overrun">What passes took of their planned time on this lathe.</param>
    /// <param name="actor">Who starts.</param>
    /// <param name="looked">What was looked at.</param>
    /// <exception cref="InvalidOperationException">It may not be started: see <see cref="SurfaceRecord.StartRefusal"/>.</exception>
    public static CutStart StartPass(SurfaceRecord record, decimal overrun, Actor actor, IReadOnlyCollection<StartCheck> looked)
    {
        ArgumentNullException.ThrowIfNull(record);
        ArgumentNullException.ThrowIfNull(looked);
        if (
            record.Planning.Document is not { } plan
            || record.Planning.Passes.Count >= plan.Option.Passes.Count
            || record.Cutting.IsCutting
            || record.Cutting.IsCut
            || record.Planning.Change is not null
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
            LookedAt = [.. looked.Distinct().Order().Select(c => c.ToString())],
            At = actor.At,
            ById = actor.Id,
        };
        surface.CutStarts.Add(start);
        return start;
    }

    /// <summary>Ends the pass that is being cut.</summary>
    /// <exception cref="ArgumentException">One that is broken off takes a reason.</exception>
    public static void StopPass(SurfaceRecord record, CutStopKind kind, string? reason, Actor actor)
    {
        ArgumentNullException.ThrowIfNull(record);
        if (!record.Cutting.IsCutting)
            throw new InvalidOperationException("No pass is being cut.");
        if (kind == CutStopKind.BrokenOff && Text.Trimmed(reason) is null)
            throw new ArgumentException("A cut that is broken off takes a reason.", nameof(reason));
        record.Surface.Turn++;
        record.Cutting.Start!.Row<CutStart>().Stop = new()
        {
            Kind = kind,
            Reason = Text.Trimmed(reason),
            At = actor.At,
            ById = actor.Id,
        };
    }

    /// <summary>Records the pass that is due, reads the metal, and plans anew where that changes the plan.</summary>
    public static AfterPass RecordPass(SurfaceRecord record, PassSeen seen, Actor actor)
    {
        ArgumentNullException.ThrowIfNull(record);
        ArgumentNullException.ThrowIfNull(seen);
        var plan = record.Planning.Document ?? throw new InvalidOperationException("No plan was taken.");
        var index = record.Planning.Passes.Count;
        var passes = plan.Option.Passes;
        if (index >= passes.Count)
            throw new InvalidOperationException("All passes of the plan are done.");

        var sides = CutState.Sides(record.Kind, seen.DarkOuter, seen.DarkInner, seen.GrooveOuter, seen.GrooveInner);
        var size = seen.Size is { } s
            ? new SizeSeen(s, seen.SizeDegrees is { } at && CutState.IsBright(record.Kind, seen.DarkOuter, seen.DarkInner, at))
            : (SizeSeen?)null;
        var after = AfterPass.Read(plan.Request, [.. passes.Take(index + 1)], [.. passes.Skip(index + 1)], sides, size, record.Shop.Rules);
        var change = record.Planning.Change;
        record.Surface.Turn++;
        record.Surface.Passes.Add(
            new()
            {
                Plan = record.Planning.Latest!.Row<PlanEntry>(),
                PlanId = record.Planning.Latest!.Id,
                Index = index,
                Cut = record.CutsDone + 1,
                DarkOuter = seen.DarkOuter,
                DarkInner = seen.DarkInner,
                GrooveOuter = seen.GrooveOuter,
                GrooveInner = seen.GrooveInner,
                Size = seen.Size,
                Next = after.Next,
                DialVerified = after.VerifiesDial,
                Notes = StoredJson.Write(after.Notes),
                LatheId = record.Lathe.Id,
                Metres = MetresOf(record, passes[index].Kind),
                Grams = Lathe.IronOf(record.Kind, passes[index].Depth, record.Surface.Diameter, record.Surface.Band),
                Noise = seen.Noise,
                At = actor.At,
                ById = actor.Id,
            }
        );
        // What the plan rested on changed while this pass was cut: what follows is made from what is known now.
        if (change is not null and not PlanChange.Dial && after.Next != NextStep.Stop && record.Planning.CanPlanAnew)
        {
            var request = new SurfaceRecord(record.Surface, record.Part, record.Shop).Planning.Request(after.Request.Dial.Confirmed);
            after = after with
            {
                Next = request.Sides.All(s => s.Need == Length.Zero) ? NextStep.Finished : NextStep.PlanAnew,
                Request = request,
                Notes = [.. after.Notes, PlanCommands.ChangeNote(change.Value)],
            };
        }
        if (after.Next == NextStep.PlanAnew)
            PlanCommands.PlanAnew(record, after, plan.Option.Key, actor);
        else if (after.Next == NextStep.Stop || (after.Next == NextStep.Finished && index + 1 < passes.Count))
            PlanCommands.TakePlan(record, after.Request, PlanCommands.Empty(PlanState.Finished), after.Notes, actor, after);
        return after;
    }

    /// <summary>Hatched, edges, washed: what finishing asks for was done. A step that was left out takes a reason.</summary>
    public static void Finish(SurfaceRecord record, IReadOnlyCollection<FinishStepKind> done, string? reason, Actor actor)
    {
        ArgumentNullException.ThrowIfNull(record);
        ArgumentNullException.ThrowIfNull(done);
        var asked = record.Cutting.FinishSteps.Select(s => s.Kind).ToList();
        if (asked.Except(done).Any() && Text.Trimmed(reason) is null)
            throw new ArgumentException("A step that is left out takes a reason.", nameof(reason));
        record.Surface.Turn++;
        record.Surface.Finishes.Add(
            new()
            {
                Cuts = record.CutsDone,
                Steps = [.. asked.Where(done.Contains).Select(s => s.ToString())],
                Reason = Text.Trimmed(reason),
                At = actor.At,
                ById = actor.Id,
            }
        );
    }

    /// <summary>Keeps what was tried against chatter on this lathe, and whether it helped.</summary>
    public static void RecordChatter(SurfaceRecord record, ChatterSign sign, ChatterRemedy remedy, bool helped, Actor actor)
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
                At = actor.At,
                ById = actor.Id,
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
    public static void TakeFinish(SurfaceRecord record, PlanOption option, Actor actor)
    {
        ArgumentNullException.ThrowIfNull(record);
        ArgumentNullException.ThrowIfNull(option);
        PlanCommands.TakePlan(
            record,
            record.Planning.Document!.Request,
            option,
            [],
            actor,
            new(NextStep.PlanAnew, record.Planning.Document.Request, [])
        );
    }

    /// <summary>Metres that each tip goes through the metal in one pass.</summary>
    private static decimal MetresOf(SurfaceRecord record, PassKind kind)
    {
        var (across, band) = (record.Surface.Diameter, record.Surface.Band);
        if (across <= Length.Zero || band <= Length.Zero)
            return 0;
        var mean = record.Kind == PartKind.Rotor ? Length.Max(band, across - band) : across;
        return Math.Round(
            (decimal)CuttingData.LengthOfCut(mean, band, record.Lathe.Profile.Run(kind, record.Kind, across, band).PerTurn),
            1
        );
    }
}
