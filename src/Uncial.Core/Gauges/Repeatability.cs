using Uncial.Core.Lengths;

namespace Uncial.Core.Gauges;

/// <summary>
/// What repeats on record say of how well a gauge repeats: sums of squares within spots, added up over all spots. A few repeats at one spot
/// tell the spread badly, so they are never taken alone.
/// </summary>
/// <param name="Squares">Sum of the squared deviations from the means of their spots, mm².</param>
/// <param name="Degrees">Degrees of freedom: readings less spots.</param>
public readonly record struct Repeatability(decimal Squares, int Degrees)
{
    /// <summary>The shop's figure for the kind of gauge counts as so many degrees of freedom.</summary>
    public const int PriorDegrees = 10;

    /// <summary>From so many degrees of freedom on a person's own repeats count instead of all.</summary>
    public const int OwnDegrees = 20;

    /// <summary>Never below this part of the shop's figure.</summary>
    private const int LeastShare = 3;

    /// <summary>Adds up the repeats of several spots; a spot with one reading adds nothing.</summary>
    public static Repeatability Of(IEnumerable<IReadOnlyList<Length>> spots)
    {
        ArgumentNullException.ThrowIfNull(spots);
        var (squares, degrees) = (0m, 0);
        foreach (var spot in spots.Where(s => s.Count > 1))
        {
            var mean = spot.Average(r => r.Millimetres);
            squares += spot.Sum(r => (r.Millimetres - mean) * (r.Millimetres - mean));
            degrees += spot.Count - 1;
        }
        return new(squares, degrees);
    }

    /// <summary>Standard deviation of one reading by the repeats alone, rounded up; 0 without any.</summary>
    public Length Own => Degrees == 0 ? Length.Zero : Length.FromTrigonometry(Math.Sqrt((double)(Squares / Degrees)), Toward.Greater);

    /// <summary>The pooled standard deviation of one reading, rounded up.</summary>
    /// <param name="usual">The shop's figure for the kind of gauge, above 0.</param>
    public Length Deviation(Length usual)
    {
        decimal Squared(Length s) => s.Millimetres * s.Millimetres;
        var pooled = (PriorDegrees * Squared(usual) + Degrees * Squared(Own)) / (PriorDegrees + Degrees);
        return Length.Max(Length.FromTrigonometry(Math.Sqrt((double)pooled), Toward.Greater), usual / LeastShare);
    }

    /// <summary>Degrees of freedom of <see cref="Deviation"/>.</summary>
    public int DegreesWithPrior => PriorDegrees + Degrees;

    /// <summary>
    /// The factor that makes 95 % of a combined standard uncertainty of which only the repeats are known by few readings. Source: JCGM 100,
    /// annex G (Welch and Satterthwaite), Student's distribution in the series of Cornish and Fisher.
    /// </summary>
    /// <param name="combined">Combined standard uncertainty, above 0.</param>
    /// <param name="ofRepeats">What the repeats contribute to it.</param>
    /// <returns>2 and more.</returns>
    public decimal CoverageFactor(Length combined, Length ofRepeats)
    {
        if (combined <= Length.Zero || ofRepeats <= Length.Zero)
            return 2;
        var share = Math.Pow((double)(ofRepeats / combined), 4);
        var degrees = DegreesWithPrior / share;
        const double z = 1.959964;
        var t = z + (Math.Pow(z, 3) + z) / (4 * degrees) + (5 * Math.Pow(z, 5) + 16 * Math.Pow(z, 3) + 3 * z) / (96 * degrees * degrees);
        return Math.Max(2, Math.Round((decimal)t, 2, MidpointRounding.ToPositiveInfinity));
    }
}
