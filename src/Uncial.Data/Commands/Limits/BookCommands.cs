using Microsoft.EntityFrameworkCore;

namespace Uncial.Data.Commands;

/// <summary>Entries of the limit book. One that is changed ends, and a new one takes its place.</summary>
public static class BookCommands
{
    /// <summary>Enters limits, and ends the entry that they replace.</summary>
    /// <param name="action">The action.</param>
    /// <param name="entry">What is entered.</param>
    /// <param name="replaced">Key of the entry that it replaces; null for none.</param>
    /// <param name="cancel">Cancels.</param>
    public static async Task<Result<BookEntry>> KeepAsync(ShopAction action, BookEntry entry, int? replaced, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(action);
        ArgumentNullException.ThrowIfNull(entry);
        var result = await ReplaceAsync(action, [entry], e => e.Id == replaced, cancel);
        return result.Refusal is { } refusal ? refusal : result.Value[0];
    }

    /// <summary>Enters the lines of a file; each replaces the entry of the same vehicle, axle and kind of part.</summary>
    public static Task<Result<IReadOnlyList<BookEntry>>> LoadAsync(
        ShopAction action,
        IReadOnlyList<BookEntry> entries,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(action);
        ArgumentNullException.ThrowIfNull(entries);
        var places = entries.Select(e => e.Place).ToHashSet();
        return ReplaceAsync(action, entries, e => places.Contains(e.Place), cancel);
    }

    /// <summary>Ends an entry: it is not offered any more. Limits that were taken from it stay.</summary>
    public static async Task<Refusal?> EndAsync(ShopAction action, int entry, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(action);
        if (!action.Actor.IsAtLeast(Role.Lead))
            return new Refusal.NeedsRole(Role.Lead);
        var at = action.Actor.At;
        await action
            .Db.Book.Where(e => e.Id == entry && e.EndedAt == null)
            .ExecuteUpdateAsync(set => set.SetProperty(e => e.EndedAt, at), cancel);
        return null;
    }

    private static async Task<Result<IReadOnlyList<BookEntry>>> ReplaceAsync(
        ShopAction action,
        IReadOnlyList<BookEntry> entries,
        Func<BookEntry, bool> ends,
        CancellationToken cancel
    )
    {
        var (db, actor) = (action.Db, action.Actor);
        if (!actor.IsAtLeast(Role.Lead))
            return new Refusal.NeedsRole(Role.Lead);
        // The old ones end and the new ones begin together or not at all.
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        foreach (var before in (await db.Book.Where(e => e.EndedAt == null).ToListAsync(cancel)).Where(ends))
            before.EndedAt = actor.At;
        if (await db.TrySaveAsync(cancel) is { } notEnded)
            return notEnded;
        foreach (var entry in entries)
        {
            (entry.At, entry.ById) = (actor.At, actor.Id);
            db.Book.Add(entry);
        }
        if (await db.TrySaveAsync(cancel) is { } refusal)
            return refusal;
        await transaction.CommitAsync(cancel);
        return Result.Done(entries);
    }
}
