namespace Uncial.Core.Cutting;

/// <summary>How long a pass takes on a lathe, by what its passes took before.</summary>
public static class PassTime
{
    /// <summary>Passes that are looked back on.</summary>
    public const int LookedBack = 12;

    /// <summary>
    /// Fewest seconds after which a pass can be said to be done: somebody who is still ticking off its start must not end it.
    /// </summary>
    public const int FewestSeconds = 2;

    private const int Fewest = 3;
    private const decimal Least = 0.5m,
        Greatest = 3m;

    /// <summary>
    /// What passes took of the time planned for them: the median of the newest, at least 0.5 and at most 3; 1 with fewer than three of
    /// them. One that was left alone for dinner does not move it.
    /// </summary>
    /// <param name="passes">Planned and actual minutes, the newest first.</param>
    public static decimal Overrun(IEnumerable<(decimal Planned, decimal Actual)> passes)
    {
        ArgumentNullException.ThrowIfNull(passes);
        var ratios = passes
            .Where(p => p is { Planned: > 0, Actual: > 0 })
            .Take(LookedBack)
            .Select(p => p.Actual / p.Planned)
            .Order()
            .ToList();
        if (ratios.Count < Fewest)
            return 1;
        var middle = ratios.Count / 2;
        return Math.Clamp(ratios.Count % 2 == 1 ? ratios[middle] : (ratios[middle - 1] + ratios[middle]) / 2, Least, Greatest);
    }

    /// <summary>Whole seconds that a pass should take.</summary>
    /// <param name="planned">Minutes by band, feed and speed.</param>
    /// <param name="overrun">What passes took of their planned time on this lathe.</param>
    public static int Seconds(decimal planned, decimal overrun) => (int)Math.Round(planned * overrun * 60);
}
