namespace Uncial.Data.Commands;

/// <summary>
/// One action on a part: whether it may be done is looked at first, then its facts are added and saved in one transaction, with a lead's
/// signature where it takes one. Whatever is refused leaves nothing behind.
/// </summary>
/// <param name="db">The database that the part was loaded from, tracked.</param>
/// <param name="record">The surface as it was loaded.</param>
/// <param name="seen">Version of the surface that the person has seen; null where the action holds whatever was added since.</param>
/// <param name="actor">Who acts.</param>
/// <param name="typed">A signature that was typed along; null for none.</param>
public sealed class PartAction(UncialDb db, SurfaceRecord record, int? seen, Actor actor, SignatureTyped? typed = null)
{
    private readonly UncialDb db = db ?? throw new ArgumentNullException(nameof(db));

    public SurfaceRecord Record { get; } = record ?? throw new ArgumentNullException(nameof(record));
    public Actor Actor { get; } = actor;
    internal UncialDb Db => db;

    /// <summary>The same action, whatever was added to the surface since it was shown.</summary>
    public PartAction WhateverWasAdded() => new(db, Record, null, Actor, typed);

    /// <summary>Does it where nothing speaks against it.</summary>
    /// <param name="refuse">Why not, or null.</param>
    /// <param name="act">Adds the facts; gets the signature where one was asked for.</param>
    /// <param name="cancel">Cancels.</param>
    /// <param name="signature">The signature that it takes; null for none.</param>
    internal Task<Result<T>> RunAsync<T>(
        Func<Refusal?> refuse,
        Func<LeadSigned?, T> act,
        CancellationToken cancel,
        SignatureNeeded? signature = null
    ) => RunAsync<T>(refuse, signed => Task.FromResult<Result<T>>(act(signed)), cancel, signature);

    /// <summary>The same for an action that finds out on the way that it is refused, or that saves in steps.</summary>
    /// <param name="refuse">Why not, or null.</param>
    /// <param name="act">Adds the facts; gets the signature where one was asked for.</param>
    /// <param name="cancel">Cancels.</param>
    /// <param name="signature">The signature that it takes; null for none.</param>
    /// <param name="inSteps">It saves more than once.</param>
    internal async Task<Result<T>> RunAsync<T>(
        Func<Refusal?> refuse,
        Func<LeadSigned?, Task<Result<T>>> act,
        CancellationToken cancel,
        SignatureNeeded? signature = null,
        bool inSteps = false
    )
    {
        if (seen is { } version && version != Record.Surface.Turn)
            return Record.Cutting.Start is { Stopped: null, ByName: { } other } running && running.ById != Actor.Id
                ? new Refusal.BeingCut(other, running.At)
                : new Refusal.Outdated(NewestBy);
        if (Record.Part.Outcome is not null)
            return new Refusal.AgainstRule(StoredRule.PartHasLeft);
        if (refuse() is { } refusal)
            return refusal;
        LeadSigned? signed = null;
        if (signature is not null)
        {
            var given = await db.SignAsync(typed ?? new(null, null, "", null, null), signature, cancel);
            if (given.Refusal is { } unsigned)
                return unsigned;
            signed = given.Value;
        }
        await using var _ = signed;
        // One save is a transaction of its own.
        await using var steps = signed is null && inSteps ? await db.Database.BeginTransactionAsync(cancel) : null;
        var result = await act(signed);
        if (result.Refusal is not null)
        {
            db.ChangeTracker.Clear();
            return result;
        }
        // Leaving without a commit rolls back, the signature too.
        if (await db.TrySaveAsync(cancel) is { } notSaved)
            return notSaved;
        if ((signed?.Transaction ?? steps) is { } transaction)
            await transaction.CommitAsync(cancel);
        return result;
    }

    /// <summary>Who added the newest fact.</summary>
    private string? NewestBy =>
        Record
            .Surface.Readings.Cast<PartFact>()
            .Concat(Record.Surface.Plans)
            .Concat(Record.Surface.Passes)
            .Concat(Record.Surface.Confirmations)
            .Concat(Record.Surface.LimitEntries)
            .Concat(Record.Surface.SetUpDecisions)
            .Newest()
            ?.ByName;
}
