using Uncial.Core.Planning;

namespace Uncial.Core.Cutting;

/// <summary>What is looked at before a pass. The first four injure or ruin when missed: without them none is started.</summary>
public enum StartCheck
{
    /// <summary>Every lock stands as it must for this kind of part.</summary>
    Locks,

    /// <summary>The feed lever points the right way.</summary>
    Lever,

    /// <summary>Band, silencers or belt are on the part.</summary>
    Damping,

    /// <summary>The part was turned round on its datum for its second face.</summary>
    Turned,

    /// <summary>Eyes are covered, guard and shield down, nothing loose at the sleeves.</summary>
    Eyes,

    /// <summary>The edges are fresh and their screws snug.</summary>
    Insert,

    /// <summary>Rust ridges are off.</summary>
    Ridges,

    /// <summary>Each dial was set to zero at the first touch.</summary>
    Zero,

    /// <summary>The tool was run in again to where the cut begins.</summary>
    Inwards,

    /// <summary>Hands are clear of the part.</summary>
    Hands,
}

/// <summary>What has to be looked at before a pass.</summary>
public static class StartChecks
{
    /// <summary>For how long a check of eyes, guard and sleeves holds at most; it ends with the day of the shop before that.</summary>
    public static TimeSpan EyesHoldFor { get; } = TimeSpan.FromHours(24);

    /// <summary>What each start takes. A grinder has nothing that damps the part.</summary>
    /// <param name="lathe">Kind of the lathe.</param>
    /// <param name="turnFirst">The part is turned round before this pass.</param>
    public static IReadOnlyList<StartCheck> Needed(LatheKind lathe, bool turnFirst)
    {
        List<StartCheck> needed = [StartCheck.Locks, StartCheck.Lever];
        if (lathe != LatheKind.Grinder)
            needed.Add(StartCheck.Damping);
        if (turnFirst)
            needed.Add(StartCheck.Turned);
        return needed;
    }

    /// <summary>The first check that a start lacks; null where it has all.</summary>
    /// <param name="needed">What it takes.</param>
    /// <param name="done">What was looked at.</param>
    /// <param name="eyesToday">Who starts has seen to eyes, guard and sleeves at this lathe today.</param>
    public static StartCheck? Missing(IReadOnlyList<StartCheck> needed, IReadOnlyCollection<StartCheck> done, bool eyesToday)
    {
        ArgumentNullException.ThrowIfNull(needed);
        ArgumentNullException.ThrowIfNull(done);
        foreach (var check in needed)
            if (!done.Contains(check))
                return check;
        return eyesToday || done.Contains(StartCheck.Eyes) ? null : StartCheck.Eyes;
    }
}
