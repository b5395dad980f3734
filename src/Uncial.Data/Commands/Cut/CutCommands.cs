using Microsoft.EntityFrameworkCore;
using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;

namespace Uncial.Data.Commands;

/// <summary>What the operator saw after a pass.</summary>
/// <param name="DarkOuter">Dark twelfths of the outer face or bore, bit 0 at 12 o'clock.</param>
/// <param name="DarkInner">Dark twelfths of the inner face.</param>
/// <param name="GrooveOuter">Groove left, or null where nobody looked.</param>
/// <param name="GrooveInner">Groove left on the inner face, or null.</param>
/// <param name="Size">A size measured now, or null.</param>
/// <param name="SizeDegrees">Where it was measured.</param>
/// <param name="Noise">What was heard or seen of chatter, or null.</param>
public sealed record PassSeen(
    int DarkOuter,
    int DarkInner,
    Length? GrooveOuter,
    Length? GrooveInner,
    Length? Size,
    decimal? SizeDegrees,
    ChatterSign? Noise = null
);

/// <summary>Passes are started, ended and read; the part is finished.</summary>
public static partial class CutCommands
{
    /// <summary>Keeps what is being ticked, tapped and typed at a surface, for a reload or another screen.</summary>
    /// <param name="db">The database.</param>
    /// <param name="tag">Tag of the part.</param>
    /// <param name="number">Which surface, from 1.</param>
    /// <param name="of">Which view of which pass it belongs to.</param>
    /// <param name="values">Names and values, JSON.</param>
    /// <param name="at">When.</param>
    /// <param name="cancel">Cancels.</param>
    public static Task KeepDraftAsync(
        UncialDb db,
        string tag,
        int number,
        string of,
        string values,
        DateTimeOffset at,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(db);
        return db.Database.ExecuteSqlAsync(
            $"""
            insert into cut_drafts (surface_id, of, document, at)
            select s.id, {of}, {values}::jsonb, {at} from surfaces s join parts p on p.id = s.part_id
            where p.tag = {tag} order by s.id limit 1 offset {number - 1}
            on conflict (surface_id) do update set of = excluded.of, document = excluded.document, at = excluded.at
            """,
            cancel
        );
    }

    /// <summary>All twelfths are dark.</summary>
    private const int AllDark = (1 << Coverage.Sectors) - 1;

    /// <summary>
    /// Starts the pass that is due. From here on nobody else can. What injures or ruins when missed was looked at, or it is not started.
    /// </summary>
    /// <param name="action">The action.</param>
    /// <param name="looked">What was looked at.</param>
    /// <param name="today">The day of the shop: eyes, guard and sleeves are seen to once a day.</param>
    /// <param name="cancel">Cancels.</param>
    public static async Task<Result<CutStart>> StartPassAsync(
        PartAction action,
        IReadOnlyCollection<StartCheck> looked,
        DateOnly today,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(action);
        ArgumentNullException.ThrowIfNull(looked);
        var (record, db) = (action.Record, action.Db);
        var eyes = await PaceQueries.EyesAsync(db, action.Actor.Id, record.Lathe.Id, today, cancel);
        return await action.RunAsync<CutStart>(
            () =>
                !IsAtLathe(record) || record.Cutting is not { IsCutting: false, IsCut: false, FinishIsDue: false } ? new Refusal.NotNow()
                : record.Planning.Change is not null ? new Refusal.NotNow()
                : record.Cutting.StartRefusal is { } why ? new Refusal.PassRefused(why)
                : StartChecks.Missing(record.Cutting.NeededChecks, looked, eyes) is { } open ? new Refusal.NotLookedAt(open)
                : null,
            async _ =>
            {
                var overrun = await LatheQueries.OverrunAsync(db, record.Lathe.Id, cancel);
                if (!eyes)
                {
                    SeeToEyes(db, record.Lathe.Id, action.Actor, today);
                    if (await db.TrySaveAsync(cancel) is { } refusal)
                        return refusal;
                }
                return StartPass(record, overrun, action.Actor, looked);
            },
            cancel,
            inSteps: !eyes
        );
    }

    /// <summary>Eyes, guard and sleeves are seen to, at a lathe on a day.</summary>
    public static void SeeToEyes(UncialDb db, int lathe, Actor actor, DateOnly today)
    {
        ArgumentNullException.ThrowIfNull(db);
        db.EyeChecks.Add(
            new()
            {
                LatheId = lathe,
                Day = today,
                At = actor.At,
                ById = actor.Id,
            }
        );
    }

    /// <summary>Ends the pass that is being cut; one that is broken off takes a reason.</summary>
    public static Task<Result<SurfaceRecord>> StopPassAsync(PartAction action, CutStopKind kind, string? reason, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(action);
        var record = action.Record;
        return action.RunAsync(
            () =>
                !IsAtLathe(record)
                    ? new Refusal.NotNow()
                    : (
                        !record.Cutting.IsCutting ? new Refusal.NotNow()
                        : kind == CutStopKind.BrokenOff && Text.Trimmed(reason) is null ? new Refusal.Missing(Answer.Reason)
                        : null
                    ),
            _ =>
            {
                StopPass(record, kind, reason, action.Actor);
                return record;
            },
            cancel
        );
    }

    /// <summary>
    /// Keeps what the metal shows after a pass. Where the next pass may not be given on what is known, a size is measured first.
    /// </summary>
    public static Task<Result<AfterPass>> RecordPassAsync(PartAction action, PassSeen seen, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(action);
        ArgumentNullException.ThrowIfNull(seen);
        var record = action.Record;
        return action.RunAsync<AfterPass>(
            () => !IsAtLathe(record) ? new Refusal.NotNow() : (record.Cutting.IsCut ? null : new Refusal.NotNow()),
            _ =>
            {
                var following = record.Cutting.Following;
                var after = RecordPass(record, WithUncutSides(record, seen), action.Actor);
                // The newest plan is still without a number: it was only just made.
                var anew = after.Next == NextStep.PlanAnew ? record.Surface.Plans.MaxBy(p => p.Version)!.Contents.Option : null;
                return Task.FromResult<Result<AfterPass>>(
                    seen.Size is null && (following is { TurnFirst: true } || after.MustMeasure(following, anew))
                        ? new Refusal.Missing(Answer.Size)
                        : after
                );
            },
            cancel
        );
    }

    /// <summary>Keeps what finishing was done; a step that was left out takes a reason.</summary>
    public static Task<Result<SurfaceRecord>> FinishAsync(
        PartAction action,
        IReadOnlyCollection<FinishStepKind> done,
        string? reason,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(action);
        ArgumentNullException.ThrowIfNull(done);
        var record = action.Record;
        return action.RunAsync(
            () =>
                !IsAtLathe(record)
                    ? new Refusal.NotNow()
                    : (
                        !record.Cutting.FinishIsDue ? new Refusal.NotNow()
                        : record.Cutting.FinishSteps.Any(s => !done.Contains(s.Kind)) && Text.Trimmed(reason) is null
                            ? new Refusal.Missing(Answer.Reason)
                        : null
                    ),
            _ =>
            {
                Finish(record, done, reason, action.Actor);
                return record;
            },
            cancel
        );
    }

    /// <summary>Keeps what was tried against chatter, and whether it helped.</summary>
    public static Task<Result<SurfaceRecord>> RecordChatterAsync(
        PartAction action,
        ChatterSign sign,
        ChatterRemedy remedy,
        bool helped,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(action);
        var record = action.Record;
        return action
            .WhateverWasAdded()
            .RunAsync(
                () => record.Planning.Document is null || !Enum.IsDefined(sign) || !Enum.IsDefined(remedy) ? new Refusal.NotNow() : null,
                _ =>
                {
                    RecordChatter(record, sign, remedy, helped, action.Actor);
                    return record;
                },
                cancel
            );
    }

    /// <summary>Takes the finishing pass that is offered where everything was clean before it.</summary>
    public static Task<Result<SurfaceRecord>> TakeFinishAsync(PartAction action, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(action);
        var record = action.Record;
        var option = FinishOffered(record);
        return action.RunAsync(
            () =>
                !IsAtLathe(record)
                    ? new Refusal.NotNow()
                    : (record.Cutting.FinishIsDue && option is not null ? null : new Refusal.NotNow()),
            _ =>
            {
                TakeFinish(record, option!, action.Actor);
                return record;
            },
            cancel
        );
    }

    /// <summary>A side that the pass did not cut stands as the last one left it; one that no pass has cut is dark all round.</summary>
    private static PassSeen WithUncutSides(SurfaceRecord record, PassSeen seen)
    {
        var (sides, last) = (record.Cutting.SidesOf(record.Planning.Passes.Count), record.Cutting.LastPass);
        if (!sides.Contains(0))
            seen = seen with { DarkOuter = last?.DarkOuter ?? AllDark, GrooveOuter = last?.GrooveOuter };
        if (record.Kind == PartKind.Drum)
            return seen with { DarkInner = 0, GrooveInner = null };
        return sides.Contains(1) ? seen : seen with { DarkInner = last?.DarkInner ?? AllDark, GrooveInner = last?.GrooveInner };
    }

    private static bool IsAtLathe(SurfaceRecord record) => record.Planning.Document is not null && record.Station == Station.Cut;
}
