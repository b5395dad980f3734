using Microsoft.EntityFrameworkCore;

namespace Uncial.Data.Practice;

/// <summary>Brings the tables of practice up to date, with what its login may do and how much.</summary>
public static class PracticeSchema
{
    /// <summary>Needs the owner's login.</summary>
    /// <param name="owner">Connection of the owner.</param>
    /// <param name="cancel">Cancels.</param>
    public static async Task ApplyAsync(string owner, CancellationToken cancel = default)
    {
        await using var db = new PracticeDb(PracticeDb.For(owner));
        await db.Database.MigrateAsync(cancel);
        foreach (var name in new[] { "practice", "practice_classes" })
            await db.Database.ExecuteSqlRawAsync(await IntegritySql.ReadAsync(name), cancel);
    }
}
