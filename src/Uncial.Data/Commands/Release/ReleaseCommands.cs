using Uncial.Core.Release;

namespace Uncial.Data.Commands;

/// <summary>What goes with the end of a workflow beside its reason.</summary>
/// <param name="Cause">Why it is scrap.</param>
/// <param name="Place">Where a shelved part lies.</param>
/// <param name="Preservative">What keeps rust off it.</param>
/// <param name="SignatureId">The lead's signature for a release between the limits.</param>
/// <param name="SignedById">Who signed; the database sets it from the signature.</param>
public sealed record OutcomeAside(
    ScrapCause? Cause = null,
    string? Place = null,
    string? Preservative = null,
    long? SignatureId = null,
    int? SignedById = null
);

/// <summary>A part leaves, and is recalled.</summary>
public static class ReleaseCommands
{
    /// <summary>A certificate or tag is printed.</summary>
    public static Task RecordPrintAsync(UncialDb db, Certificate certificate, PrintKind kind, Actor actor, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(certificate);
        db.Prints.Add(
            new()
            {
                CertificateId = certificate.Id,
                Kind = kind,
                At = actor.At,
                ById = actor.Id,
            }
        );
        return db.SaveChangesAsync(cancel);
    }

    /// <summary>
    /// Ends the part's workflow and makes its certificate. Between the limits a lead signs the judgements that need it; the database has
    /// the last word on what may leave.
    /// </summary>
    /// <param name="action">The action.</param>
    /// <param name="kind">How it leaves.</param>
    /// <param name="reason">Why; needed for scrap and for a release between the limits.</param>
    /// <param name="aside">What goes with scrap or a shelved part.</param>
    /// <param name="cancel">Cancels.</param>
    public static async Task<Result<Outcome>> ReleaseAsync(
        PartAction action,
        OutcomeKind kind,
        string? reason,
        OutcomeAside? aside,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(action);
        var (part, shop) = (action.Record.Part, action.Record.Shop);
        var state = ReleaseState.Of([.. part.Surfaces.Select(s => new SurfaceRecord(s, part, shop).State)], shop.Rules);
        var takesLead = kind == OutcomeKind.Released && state.NeedsLead;
        var result = await action.RunAsync(
            () =>
                (kind == OutcomeKind.Released ? state.Refuses : null)
                ?? (
                    (takesLead || kind == OutcomeKind.Scrapped) && Text.Trimmed(reason) is null ? new Refusal.Missing(Answer.Reason) : null
                ),
            signed =>
                Close(
                    part,
                    kind,
                    reason,
                    takesLead,
                    action.Actor,
                    takesLead ? new(SignatureId: signed!.Id, SignedById: signed.SignedById) : aside
                ),
            cancel,
            takesLead ? new(part.Id, SignedFor.BetweenLimits, [Signature.OfConfirmations(state.SignedConfirmations)], reason ?? "") : null
        );
        if (result.Refusal is null)
            await CertificateStore.EnsureAsync(action.Db, part, shop, result.Value.At, cancel);
        return result;
    }

    /// <summary>Recalls a part: a lead signs, with a reason. How it left holds no more.</summary>
    /// <param name="db">The database.</param>
    /// <param name="part">The part.</param>
    /// <param name="reason">Why.</param>
    /// <param name="hadLeft">It had left the shop: it is read anew.</param>
    /// <param name="actor">Who recalls it.</param>
    /// <param name="typed">The lead's signature as typed.</param>
    /// <param name="cancel">Cancels.</param>
    public static async Task<Result<Outcome>> RecallAsync(
        UncialDb db,
        Part part,
        string reason,
        bool hadLeft,
        Actor actor,
        SignatureTyped typed,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(part);
        if (part.Outcome is not { Kind: not OutcomeKind.Scrapped } outcome)
            return new Refusal.NotNow();
        if (Text.Trimmed(reason) is null)
            return new Refusal.Missing(Answer.Reason);
        var given = await db.SignAsync(typed, new(part.Id, SignedFor.Recall, [Signature.OfOutcome(outcome.Id)], reason), cancel);
        if (given.Refusal is { } unsigned)
            return unsigned;
        await using var signed = given.Value;
        Recall(outcome, reason, hadLeft, signed.Id, actor);
        if (await db.TrySaveAsync(cancel) is { } refusal)
            return refusal;
        await signed.Transaction.CommitAsync(cancel);
        return outcome;
    }

    /// <summary>Ends the part's workflow. The database refuses what must not leave.</summary>
    public static Outcome Close(Part part, OutcomeKind kind, string? reason, bool betweenLimits, Actor actor, OutcomeAside? aside = null)
    {
        ArgumentNullException.ThrowIfNull(part);
        var outcome = new Outcome
        {
            Kind = kind,
            Reason = Text.Trimmed(reason),
            DoNotMachineAgain = betweenLimits,
            Cause = kind == OutcomeKind.Scrapped ? aside?.Cause ?? ScrapCause.Other : null,
            Place = kind == OutcomeKind.Shelved ? Text.Trimmed(aside?.Place) : null,
            Preservative = kind == OutcomeKind.Shelved ? Text.Trimmed(aside?.Preservative) : null,
            SignatureId = aside?.SignatureId,
            SignedById = aside?.SignedById,
            At = actor.At,
            ById = actor.Id,
        };
        part.Outcomes.Add(outcome);
        return outcome;
    }

    /// <summary>Calls a part back: how it left holds no more.</summary>
    /// <param name="outcome">How it left.</param>
    /// <param name="reason">Why.</param>
    /// <param name="hadLeft">It had left the shop: it is read anew.</param>
    /// <param name="signature">The lead's signature.</param>
    /// <param name="actor">Who recalls it.</param>
    public static void Recall(Outcome outcome, string reason, bool hadLeft, long? signature, Actor actor)
    {
        ArgumentNullException.ThrowIfNull(outcome);
        outcome.Withdrawal = new()
        {
            Reason = reason.Trim(),
            HadLeft = hadLeft,
            SignatureId = signature,
            At = actor.At,
            ById = actor.Id,
        };
    }
}
