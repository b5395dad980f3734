namespace Uncial.Core.Workflow;

/// <summary>
/// Something that was stated about a part, by whom and when. Facts are added, never changed. A clock orders nothing: <see cref="Number"/>
/// does.
/// </summary>
public abstract class PartFact
{
    /// <summary>Its key; 0 while it is not stored.</summary>
    public long Id { get; set; }

    /// <summary>Place among the facts of its part, from 1 without gaps; 0 while it is not stored.</summary>
    public int Number { get; set; }

    /// <summary>When it was stated, by the server's clock. For people to read; nothing is decided by it.</summary>
    public DateTimeOffset At { get; init; }

    /// <summary>Who stated it.</summary>
    public int ById { get; init; }

    /// <summary>Name of who stated it; null where names were not loaded.</summary>
    public virtual string? ByName => null;
}

/// <summary>The order of facts: by their number. One that is not stored yet is newer than every one that is.</summary>
public static class FactOrder
{
    /// <summary>Place of a fact among those of its part.</summary>
    public static int Place(this PartFact fact)
    {
        ArgumentNullException.ThrowIfNull(fact);
        return fact.Number == 0 ? int.MaxValue : fact.Number;
    }

    /// <summary>Whether a fact was stated after another one.</summary>
    public static bool IsAfter(this PartFact fact, PartFact other) => fact.Place() > other.Place();

    /// <summary>The oldest first.</summary>
    public static IEnumerable<T> Ordered<T>(this IEnumerable<T> facts)
        where T : PartFact => facts.OrderBy(f => f.Place());

    /// <summary>The newest, or null.</summary>
    public static T? Newest<T>(this IEnumerable<T> facts)
        where T : PartFact => facts.Ordered().LastOrDefault();
}
