namespace Uncial.Core.Scheduling;

/// <summary>How long a step of the work takes, in whole minutes.</summary>
public sealed record StepTime
{
    /// <summary>So many of the newest are looked back on.</summary>
    public const int LooksBack = 12;

    /// <summary>Standard deviations of a normal distribution between its median and what four of five stay under.</summary>
    private const double DeviationsToSure = 0.8416;

    private readonly int[] past = [];

    /// <summary>A time of which no history is known.</summary>
    /// <param name="likely">As long in half of all cases, 0 or more.</param>
    /// <param name="sure">As long in four of five cases, no less than the likely time.</param>
    /// <exception cref="ArgumentOutOfRangeException">A time is less than 0, or the sure one is less than the likely one.</exception>
    public StepTime(int likely, int sure)
    {
        ArgumentOutOfRangeException.ThrowIfNegative(likely);
        ArgumentOutOfRangeException.ThrowIfLessThan(sure, likely);
        (Likely, Sure) = (likely, sure);
    }

    private StepTime(int[] newest)
        : this(Quantile([.. newest.Order()], 0.5), Quantile([.. newest.Order()], 0.8)) => past = newest;

    /// <summary>Minutes that it takes in half of all cases.</summary>
    public int Likely { get; }

    /// <summary>Minutes that it takes in four of five cases.</summary>
    public int Sure { get; }

    /// <summary>How long it takes those operators whose own history is known, by their numbers.</summary>
    public IReadOnlyDictionary<int, StepTime> Own { get; init; } = new Dictionary<int, StepTime>();

    /// <summary>How long it takes an operator: as long as that one took before, where enough is known, else as long as anybody.</summary>
    /// <param name="operatorId">Number of the operator.</param>
    public StepTime Of(int operatorId) => Own.GetValueOrDefault(operatorId, this);

    /// <summary>What is left of it after some minutes: at least one.</summary>
    /// <param name="minutes">Minutes that have gone by, 0 or more.</param>
    public StepTime After(int minutes)
    {
        var likely = Math.Max(1, Likely - minutes);
        return new(likely, Math.Max(likely, Sure - minutes));
    }

    /// <summary>A share of it, rounded up to whole minutes.</summary>
    /// <param name="part">So many parts, 0 or more,</param>
    /// <param name="of">of so many, 1 or more.</param>
    public StepTime Share(int part, int of) => new((Likely * part + of - 1) / of, (Sure * part + of - 1) / of);

    /// <summary>From what it took before: the median of the newest twelve, and what four of five stayed within.</summary>
    /// <param name="minutes">Minutes that it took, the newest last; at least one, each 0 or more.</param>
    /// <exception cref="ArgumentException">There is none.</exception>
    /// <exception cref="ArgumentOutOfRangeException">One is less than 0.</exception>
    public static StepTime FromHistory(IReadOnlyList<int> minutes)
    {
        ArgumentNullException.ThrowIfNull(minutes);
        if (minutes.Count == 0)
            throw new ArgumentException("A history has at least one time.", nameof(minutes));
        ArgumentOutOfRangeException.ThrowIfNegative(minutes.Min(), nameof(minutes));
        return new([.. minutes.TakeLast(LooksBack)]);
    }

    /// <summary>The least of ordered numbers that so great a share of them does not exceed.</summary>
    public static int Quantile(IReadOnlyList<int> ordered, double share)
    {
        ArgumentNullException.ThrowIfNull(ordered);
        return ordered[Math.Clamp((int)Math.Ceiling(share * ordered.Count) - 1, 0, ordered.Count - 1)];
    }

    /// <summary>
    /// Minutes as they may be on a day: one of those that it took before; without a history as likely as its likely and its sure time say.
    /// </summary>
    /// <param name="random">Decides.</param>
    public int Draw(Random random)
    {
        ArgumentNullException.ThrowIfNull(random);
        if (past.Length > 0)
            return past[random.Next(past.Length)];
        if (Likely == 0)
            return 0;
        // Times stretch more easily than they shrink: their logarithm is taken as normal.
        var normal = Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble());
        return (int)Math.Round(Likely * Math.Exp(Math.Log((double)Sure / Likely) / DeviationsToSure * normal));
    }

    /// <summary>As long as another time, of the same past, for everybody.</summary>
    public bool Equals(StepTime? other) =>
        other is not null
        && (Likely, Sure) == (other.Likely, other.Sure)
        && past.SequenceEqual(other.past)
        && Own.Count == other.Own.Count
        && Own.All(o => other.Own.TryGetValue(o.Key, out var time) && time.Equals(o.Value));

    /// <summary>Follows the equality.</summary>
    public override int GetHashCode() => HashCode.Combine(Likely, Sure, past.Length);
}
