using Microsoft.EntityFrameworkCore;
using Npgsql;
using Uncial.Data.Integrity;

namespace Uncial.Data.Commands;

/// <summary>Saves what an action has added, or says why the database refused it.</summary>
public static class Saving
{
    /// <summary>
    /// Saves. Where the database refuses, the context forgets everything that it holds: load again before anything else is done.
    /// </summary>
    /// <returns>Why it was refused; null where it was saved.</returns>
    public static async Task<Refusal?> TrySaveAsync(this UncialDb db, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        try
        {
            await db.SaveChangesAsync(cancel);
            return null;
        }
        catch (DbUpdateException e) when (RefusalOf(e) is { } refusal)
        {
            db.ChangeTracker.Clear();
            return refusal;
        }
    }

    private static Refusal? RefusalOf(DbUpdateException e) =>
        e switch
        {
            DbUpdateConcurrencyException => new Refusal.Overtaken(),
            { InnerException: PostgresException { SqlState: PostgresErrorCodes.UniqueViolation } } => new Refusal.DoneAlready(),
            { InnerException: PostgresException { SqlState: var code } } when StoredRules.Of(code) is { } rule => new Refusal.AgainstRule(
                rule
            ),
            _ => null,
        };
}
