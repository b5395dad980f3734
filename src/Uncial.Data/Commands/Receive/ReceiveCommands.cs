using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Data.Commands;

/// <summary>Taking a part in: its limits are stated, and one that was here before comes back.</summary>
public static partial class ReceiveCommands
{
    /// <summary>Opens a job for a part that was checked in passing, with the readings of the check: all or nothing.</summary>
    /// <param name="db">The database.</param>
    /// <param name="shop">The shop.</param>
    /// <param name="vehicle">The vehicle.</param>
    /// <param name="part">The part, with one surface and its limits.</param>
    /// <param name="readings">What was read, in the order of the measuring points.</param>
    /// <param name="actor">Who read it.</param>
    /// <param name="cancel">Cancels.</param>
    public static async Task<Result<Job>> OpenCheckedAsync(
        UncialDb db,
        Shop shop,
        string vehicle,
        Part part,
        IReadOnlyList<TypedLength> readings,
        Actor actor,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(shop);
        ArgumentNullException.ThrowIfNull(part);
        ArgumentNullException.ThrowIfNull(readings);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var job = new Job
        {
            Vehicle = vehicle,
            ReceivedAt = actor.At,
            ReceivedById = actor.Id,
            Parts = { part },
        };
        db.Jobs.Add(job);
        if (await db.TrySaveAsync(cancel) is { } notOpened)
            return notOpened;
        var surface = part.Surfaces[0];
        foreach (var (place, typed) in new SurfaceRecord(surface, part, shop).Measuring.Places.Zip(readings))
        {
            var record = new SurfaceRecord(surface, part, shop);
            MeasureCommands.RecordReading(record, ReadingKind.Size, place, typed, typed.Unit, shop.GaugeFor(surface.Kind), actor);
        }
        if (await db.TrySaveAsync(cancel) is { } refusal)
            return refusal;
        await transaction.CommitAsync(cancel);
        return job;
    }

    private const int MostTries = 5;

    /// <summary>Opens a job under the next free number.</summary>
    public static async Task<Result<Job>> OpenJobAsync(UncialDb db, Job job, Actor actor, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(job);
        (job.ReceivedAt, job.ReceivedById) = (actor.At, actor.Id);
        // The sequence gives numbers out one by one; one that a file took meanwhile is passed over.
        for (var tries = 1; ; tries++)
        {
            job.Number = 0;
            db.Jobs.Add(job);
            if (await db.TrySaveAsync(cancel) is not { } refusal)
                return job;
            if (refusal is not Refusal.DoneAlready || tries == MostTries)
                return refusal;
        }
    }

    /// <summary>Takes a part in with its surfaces and limits, under a new tag.</summary>
    public static async Task<Result<Part>> TakeInAsync(UncialDb db, Job job, Part part, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(job);
        ArgumentNullException.ThrowIfNull(part);
        if (IsInAlready(job, part.Corner))
            return new Refusal.Taken();
        part.JobId = job.Id;
        db.Parts.Add(part);
        return await db.TrySaveAsync(cancel) is { } refusal ? refusal : part;
    }

    /// <summary>Takes in both parts of an axle under new tags: both or neither.</summary>
    public static async Task<Result<Job>> TakeInPairAsync(UncialDb db, Job job, IReadOnlyList<Part> pair, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(job);
        ArgumentNullException.ThrowIfNull(pair);
        if (pair.Any(p => IsInAlready(job, p.Corner)))
            return new Refusal.Taken();
        foreach (var part in pair)
            part.JobId = job.Id;
        db.Parts.AddRange(pair);
        return await db.TrySaveAsync(cancel) is { } refusal ? refusal : job;
    }

    /// <summary>Takes a part in again that was here before, under its tag.</summary>
    /// <param name="db">The database.</param>
    /// <param name="job">The job, with its parts.</param>
    /// <param name="last">Its last visit, with its facts.</param>
    /// <param name="shop">The shop.</param>
    /// <param name="actor">Who takes it in.</param>
    /// <param name="cancel">Cancels.</param>
    public static async Task<Result<Part>> TakeInAgainAsync(
        UncialDb db,
        Job job,
        Part last,
        Shop shop,
        Actor actor,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(last);
        return RefusesAgain(last) is { } why
            ? new Refusal.NotAgain(why)
            : await TakeInAsync(db, job, TakeInAgain(last, shop, actor), cancel);
    }

    /// <summary>Whether the job has a part of that corner that has not left.</summary>
    public static bool IsInAlready(Job job, Corner corner)
    {
        ArgumentNullException.ThrowIfNull(job);
        return corner != Corner.Other && job.Parts.Exists(p => p.Corner == corner && p.Outcome is null);
    }

    /// <summary>What limits that are put together would make laxer of those that hold.</summary>
    /// <param name="record">The surface.</param>
    /// <param name="stated">The limits, new size first.</param>
    /// <returns>The statements that take a signature, and from what to what they loosen.</returns>
    public static (IReadOnlyList<LimitEntry> Laxer, IReadOnlyList<(LimitKind Kind, Length From, Length To)> Loosens) LaxerOf(
        SurfaceRecord record,
        IReadOnlyList<LimitEntry> stated
    )
    {
        ArgumentNullException.ThrowIfNull(record);
        ArgumentNullException.ThrowIfNull(stated);
        List<LimitEntry> before = [],
            laxer = [];
        List<(LimitKind, Length, Length)> loosens = [];
        foreach (var limit in stated)
        {
            var loosened = record.Receiving.WouldLoosen(limit.Kind, limit.Value, limit.Source, before);
            if (loosened.Count > 0)
            {
                laxer.Add(limit);
                loosens.AddRange(loosened);
            }
            before.Add(limit);
        }
        return (laxer, loosens);
    }

    /// <summary>States limits of a surface. Those that make a limit laxer that holds take a lead's signature each.</summary>
    /// <param name="action">The action.</param>
    /// <param name="draft">A surface that holds the statements, and run-out and variation of the book.</param>
    /// <param name="fromBook">Run-out and variation are taken over as well.</param>
    /// <param name="reason">Why a laxer limit holds.</param>
    /// <param name="cancel">Cancels.</param>
    public static Task<Result<SurfaceRecord>> StateLimitsAsync(
        PartAction action,
        WorkSurface draft,
        bool fromBook,
        string? reason,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(action);
        ArgumentNullException.ThrowIfNull(draft);
        var (record, surface) = (action.Record, action.Record.Surface);
        IReadOnlyList<LimitEntry> stated = [.. draft.LimitEntries.OrderBy(l => l.Kind)];
        var laxer = LaxerOf(record, stated).Laxer;
        return action.RunAsync(
            () =>
                stated.Count == 0 ? new Refusal.NotNow()
                : laxer.Count > 0 && Text.Trimmed(reason) is null ? new Refusal.Missing(Answer.Reason)
                : null,
            signed =>
            {
                for (var i = 0; i < laxer.Count; i++)
                    laxer[i].SignatureId = signed!.Ids[i];
                surface.Turn += stated.Count;
                surface.LimitEntries.AddRange(stated);
                if (fromBook)
                    (surface.MaxRunout, surface.MaxVariation) = (draft.MaxRunout, draft.MaxVariation);
                return record;
            },
            cancel,
            laxer.Count > 0
                ? new(
                    record.Part.Id,
                    SignedFor.LaxerLimit,
                    [.. laxer.Select(l => Signature.OfLimit(surface.Id, l.Kind, l.Value))],
                    reason ?? ""
                )
                : null
        );
    }

    /// <summary>A lead settles which source of a limit holds, with a signature and a reason.</summary>
    public static Task<Result<LimitEntry>> SettleAsync(PartAction action, long entry, string? reason, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(action);
        var record = action.Record;
        var settled = record.Surface.LimitEntries.Find(l => l.Id == entry);
        return action.RunAsync(
            () =>
                settled is null ? new Refusal.Missing(Answer.Choice)
                : Text.Trimmed(reason) is null ? new Refusal.Missing(Answer.Reason)
                : null,
            signed =>
            {
                Settle(record.Surface, settled!, reason!.Trim(), action.Actor, signed!.Id);
                return settled!;
            },
            cancel,
            new(record.Part.Id, SignedFor.Settlement, [Signature.OfSettlement(entry)], reason ?? "")
        );
    }
}
