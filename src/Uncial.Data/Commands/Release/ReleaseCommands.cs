using Uncial.Core.Release;

namespace Uncial.Data.Commands;

/// <summary>What goes with the end of a journey beside its reason.</summary>
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
    /// <param name="hand">Who calls it back.</param>
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
