namespace Uncial.Data;

/// <summary>
/// Order of facts: by their number, never by a clock. A fact that is not stored yet has none and is newer than every one that is.
/// </summary>
public static class InOrder
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

    /// <summary>The newest of facts that belong to no part, or null.</summary>
    public static T? NewestById<T>(this IEnumerable<T> facts)
        where T : Fact => facts.OrderBy(f => f.Id == 0 ? long.MaxValue : f.Id).LastOrDefault();
}
