namespace Uncial.Core.Scheduling;

/// <summary>How long a step of the work takes, in whole minutes.</summary>
public readonly record struct StepTime
{
    /// <summary>A time.</summary>
    /// <param name="likely">As long in half of all cases, 0 or more.</param>
    /// <param name="sure">As long in four of five cases, no less than the likely time.</param>
    /// <exception cref="ArgumentOutOfRangeException">A time is less than 0, or the sure one is less than the likely one.</exception>
    public StepTime(int likely, int sure)
    {
        ArgumentOutOfRangeException.ThrowIfNegative(likely);
        ArgumentOutOfRangeException.ThrowIfLessThan(sure, likely);
        (Likely, Sure) = (likely, sure);
    }

    /// <summary>Minutes that it takes in half of all cases.</summary>
    public int Likely { get; }

    /// <summary>Minutes that it takes in four of five cases.</summary>
    public int Sure { get; }
}
