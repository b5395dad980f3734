namespace Uncial.Data.Storage;

/// <summary>Order of facts that belong to no part: by their key, never by a clock.</summary>
public static class InOrder
{
    /// <summary>The newest, or null. One that is not stored yet is newer than every one that is.</summary>
    public static T? NewestById<T>(this IEnumerable<T> facts)
        where T : Fact => facts.OrderBy(f => f.Id == 0 ? long.MaxValue : f.Id).LastOrDefault();

    /// <summary>The row that holds a fact of a part.</summary>
    /// <exception cref="ArgumentException">The fact is of no row: it was not loaded from the database.</exception>
    public static T Row<T>(this PartFact fact)
        where T : PartFact =>
        fact as T ?? throw new ArgumentException($"{fact?.GetType().Name ?? "nothing"} is no {typeof(T).Name}.", nameof(fact));
}
