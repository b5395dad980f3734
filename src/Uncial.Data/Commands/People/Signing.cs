using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;

namespace Uncial.Data.Commands;

/// <summary>A lead's name and PIN as they were typed at a screen, to sign a decision.</summary>
/// <param name="SignerId">Key of the one who signs; null where nobody is picked.</param>
/// <param name="Pin">The PIN.</param>
/// <param name="Session">Token of the session at the screen.</param>
/// <param name="Screen">Token of the screen.</param>
/// <param name="Address">Address of the screen.</param>
public sealed record SignatureTyped(int? SignerId, string? Pin, string Session, string? Screen, string? Address);

/// <summary>What an action takes a signature for.</summary>
/// <param name="PartId">The part; null for the shop's rules.</param>
/// <param name="For">What kind of decision it is.</param>
/// <param name="Subjects">Each decision by itself.</param>
/// <param name="Reason">Why.</param>
public sealed record SignatureNeeded(int? PartId, SignedFor For, IReadOnlyList<string> Subjects, string Reason);

/// <summary>A signature in the transaction that its decision is saved in. Leaving it undone takes it back.</summary>
/// <param name="Ids">Number of the signature for each decision.</param>
/// <param name="SignedById">Who signed.</param>
/// <param name="Transaction">Commit it after the decision is saved.</param>
public sealed record LeadSigned(IReadOnlyList<long> Ids, int SignedById, IDbContextTransaction Transaction) : IAsyncDisposable
{
    /// <summary>The signature, where there is one decision.</summary>
    public long Id => Ids[0];

    public ValueTask DisposeAsync() => Transaction.DisposeAsync();
}

/// <summary>A lead signs with a PIN at whatever enrolled screen the part is on; whoever is signed in there stays so.</summary>
public static class Signing
{
    /// <summary>Those who may sign, by name.</summary>
    public static async Task<IReadOnlyList<Operator>> LeadsAsync(this UncialDb db, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        return await db
            .Operators.AsNoTracking()
            .Where(o => o.DisabledAt == null && (o.Role == Roles.Lead || o.Role == Roles.Owner))
            .OrderBy(o => o.DisplayName)
            .ToListAsync(cancel);
    }

    /// <summary>Asks the database for a lead's signature. A try that missed stays on record.</summary>
    public static async Task<Result<LeadSigned>> SignAsync(
        this UncialDb db,
        SignatureTyped typed,
        SignatureNeeded needed,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(typed);
        ArgumentNullException.ThrowIfNull(needed);
        var lead = (await db.LeadsAsync(cancel)).FirstOrDefault(l => l.Id == typed.SignerId);
        if (lead is null)
            return new Refusal.NotSigned(SignatureFault.NoSigner);
        if (string.IsNullOrEmpty(typed.Pin))
            return new Refusal.NotSigned(SignatureFault.NoPin, Signer: lead.DisplayName);
        var pins = new PinDesk(db);
        List<PinAttempt> attempts = [];
        foreach (var _ in needed.Subjects)
        {
            var attempt = await pins.BeginAsync(lead.Id, typed.Pin, typed.Screen, typed.Address, needed.For.ToString(), cancel);
            if (attempt.Try is null)
                return new Refusal.NotSigned(SignatureFault.Wait, attempt.WaitSeconds, lead.DisplayName);
            attempts.Add(attempt);
        }
        var transaction = await db.Database.BeginTransactionAsync(cancel);
        try
        {
            List<long> ids = [];
            foreach (var (subject, attempt) in needed.Subjects.Zip(attempts))
                if (await pins.SignAsync(typed.Session, attempt, needed.PartId, needed.For, subject, needed.Reason, cancel) is { } id)
                    ids.Add(id);
                else
                    break;
            if (ids.Count == needed.Subjects.Count)
                return new LeadSigned(ids, lead.Id, transaction);
            // The miss stays on record; a signature without its decision does not.
            if (ids.Count == 0)
                await transaction.CommitAsync(cancel);
        }
        catch
        {
            await transaction.DisposeAsync();
            throw;
        }
        await transaction.DisposeAsync();
        return new Refusal.NotSigned(SignatureFault.WrongPin, Signer: lead.DisplayName);
    }
}
