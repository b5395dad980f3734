namespace Uncial.Data.Commands;

/// <summary>One action on what the shop keeps (lathes, gauges, limits, rules), for those whose role allows it.</summary>
/// <param name="Db">The database; what is changed was loaded from it, tracked.</param>
/// <param name="Actor">Who acts.</param>
/// <param name="Seen">Version of the thing that the person has seen; 0 for a new one.</param>
public sealed record ShopAction(UncialDb Db, Actor Actor, int Seen = 0)
{
    /// <summary>Does it where role and version allow it, and saves.</summary>
    /// <param name="least">The least role that may.</param>
    /// <param name="version">Version on record; null where none is kept.</param>
    /// <param name="act">Changes or adds.</param>
    /// <param name="cancel">Cancels.</param>
    internal async Task<Result<T>> RunAsync<T>(Role least, int? version, Func<Result<T>> act, CancellationToken cancel)
    {
        if (!Actor.IsAtLeast(least))
            return new Refusal.NeedsRole(least);
        if (version is { } now && now != Seen)
            return new Refusal.Outdated(null);
        var result = act();
        if (result.Refusal is not null)
        {
            Db.ChangeTracker.Clear();
            return result;
        }
        return await Db.TrySaveAsync(cancel) is { } refusal ? refusal : result;
    }
}
