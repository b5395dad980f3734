using Uncial.Core.Lengths;

namespace Uncial.Core.Mounting;

/// <summary>How true the set-ups of a lathe, or of one of its adapters, have been of late.</summary>
/// <param name="Looked">Set-ups looked at: the newest, <see cref="LookedAt"/> at most.</param>
/// <param name="Above">Of these, above tolerance.</param>
/// <param name="IsUp">So many above it that it is no chance: look at the lathe or the adapter.</param>
public readonly record struct SetUpHealth(int Looked, int Above, bool IsUp)
{
    /// <summary>So many of the newest set-ups count.</summary>
    public const int LookedAt = 6;

    private const int TooMany = 4;

    /// <summary>Looks at set-ups, the oldest first.</summary>
    /// <param name="wobbles">Run-out of each set-up.</param>
    /// <param name="tolerance">Run-out that the shop accepts.</param>
    public static SetUpHealth Of(IReadOnlyList<Length> wobbles, Length tolerance)
    {
        ArgumentNullException.ThrowIfNull(wobbles);
        var last = wobbles.TakeLast(LookedAt).ToList();
        var above = last.Count(w => w > tolerance);
        return new(last.Count, above, above >= TooMany);
    }
}

/// <summary>What was found when a part was mounted anew.</summary>
public enum RemountCause
{
    /// <summary>Dirt between adapter and part, or on the arbor.</summary>
    Dirt,

    /// <summary>A nick or burr on the part's face or hole.</summary>
    Nick,

    /// <summary>The adapter did not fit: another one was taken.</summary>
    WrongAdapter,

    /// <summary>An adapter that is bent, worn or nicked itself.</summary>
    WornAdapter,

    /// <summary>The nut was loose, or tightened askew.</summary>
    Nut,

    /// <summary>Races dirty or pitted.</summary>
    Races,

    /// <summary>Nothing was found.</summary>
    Nothing,
}

/// <summary>What to look for first when a set-up runs out.</summary>
public static class RemountAdvice
{
    /// <summary>
    /// The causes that can be, what this lathe's remounts have shown most often first; without a history, in the order of the trade.
    /// </summary>
    /// <param name="hubbed">The part is on its own races.</param>
    /// <param name="history">What earlier remounts found.</param>
    public static IReadOnlyList<(RemountCause Cause, int Times)> For(bool hubbed, IEnumerable<RemountCause> history)
    {
        var times = history.CountBy(c => c).ToDictionary();
        RemountCause[] causes = hubbed
            ? [RemountCause.Races, RemountCause.Dirt, RemountCause.Nut, RemountCause.WornAdapter, RemountCause.WrongAdapter]
            : [RemountCause.Dirt, RemountCause.Nick, RemountCause.Nut, RemountCause.WrongAdapter, RemountCause.WornAdapter];
        return [.. causes.Select(c => (c, times.GetValueOrDefault(c))).OrderByDescending(c => c.Item2)];
    }
}
