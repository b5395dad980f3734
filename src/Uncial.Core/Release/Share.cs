namespace Uncial.Core.Release;

/// <summary>A part of a whole, as counts or amounts of one kind.</summary>
/// <param name="Part">0 or more.</param>
/// <param name="Whole">0 or more; may be less than the part where more was taken than needed.</param>
public readonly record struct Share(decimal Part, decimal Whole)
{
    /// <summary>In whole percent, half to even; null of nothing.</summary>
    public decimal? Percent => Whole == 0 ? null : Math.Round(100 * Part / Whole, 0, MidpointRounding.ToEven);

    /// <summary>Amount for each of so many, half to even; null for none.</summary>
    public static decimal? Each(decimal amount, int count, int decimals) =>
        count == 0 ? null : Math.Round(amount / count, decimals, MidpointRounding.ToEven);
}
