using Uncial.Core.Lengths;

namespace Uncial.Core.Cutting;

/// <summary>A cut of a head that was measured before and after.</summary>
/// <param name="ByDial">What its dial took: off the thickness, or on the diameter.</param>
/// <param name="BySize">What the sizes before and after say was taken, likewise.</param>
/// <param name="Metres">Metres that the edge had cut since it was turned or replaced.</param>
/// <param name="Slope">
/// How far the surface runs out of parallel after it, in millimetres of size on a millimetre of band, signed; null where one station was
/// read.
/// </param>
public readonly record struct HeadCut(Length ByDial, Length BySize, decimal Metres = 0, double? Slope = null);

/// <summary>What the measured cuts of a head say by now.</summary>
public enum HeadState
{
    /// <summary>Fewer cuts than say anything: twelve.</summary>
    TooFew,

    /// <summary>Metal and dial agree, as far as they scatter.</summary>
    Steady,

    /// <summary>The mean has moved off: look at play, gib and edge.</summary>
    Drifts,
}

/// <summary>
/// The account of one head of a lathe, twin cutter or boring bar: how far metal and dial differ, whether that drifts, and how parallel it
/// cuts. Source: computation, section 9 (exponentially weighted mean with λ = 0.2, cumulative sum with half a standard deviation of slack).
/// </summary>
public sealed class HeadLedger
{
    /// <summary>Cuts from which on they say what a setting may be wrong by.</summary>
    public const int Fewest = 12;

    /// <summary>Cuts that are looked back on.</summary>
    public const int LookedBack = 60;

    /// <summary>Surfaces from which on they say how parallel the head cuts.</summary>
    public const int FewestSlopes = 5;

    private const double Weight = 0.2,
        Coverage = 2.5,
        CusumSlack = 0.5,
        CusumLimit = 5;

    private HeadLedger(IReadOnlyList<HeadCut> cuts, double[] residuals, double[] means, double scatter, bool cusum, double independent)
    {
        (Cuts, this.residuals, Means, this.scatter, this.cusum, this.independent) = (cuts, residuals, means, scatter, cusum, independent);
    }

    private readonly double[] residuals;
    private readonly double scatter,
        independent;
    private readonly bool cusum;

    /// <summary>The cuts, the oldest first.</summary>
    public IReadOnlyList<HeadCut> Cuts { get; }

    /// <summary>The weighted mean after each cut, millimetres for one bit.</summary>
    public IReadOnlyList<double> Means { get; }

    /// <summary>
    /// What metal and dial differ by in each cut, millimetres for one bit: above 0 where more metal went than the dial says.
    /// </summary>
    public IReadOnlyList<double> Residuals => residuals;

    /// <summary>
    /// Half-width of the band in which the weighted mean stays while nothing has changed, millimetres: three standard deviations.
    /// </summary>
    public double Band => 3 * scatter * Math.Sqrt(Weight / (2 - Weight));

    /// <summary>The weighted mean now; 0 with no cut.</summary>
    public double Mean => Means.Count == 0 ? 0 : Means[^1];

    /// <summary>Whether it drifts.</summary>
    public HeadState State =>
        Cuts.Count < Fewest ? HeadState.TooFew
        : cusum || Math.Abs(Mean) > Band ? HeadState.Drifts
        : HeadState.Steady;

    /// <summary>Reads the cuts of a head.</summary>
    /// <param name="cuts">Its measured cuts, the oldest first; more than <see cref="LookedBack"/> are cut off at the old end.</param>
    /// <param name="bits">Bits that cut at once: two err each by itself, one on a diameter errs twice over.</param>
    /// <param name="metresNow">Metres that its edge has cut by now.</param>
    public static HeadLedger Of(IReadOnlyList<HeadCut> cuts, int bits, decimal metresNow = 0)
    {
        ArgumentNullException.ThrowIfNull(cuts);
        ArgumentOutOfRangeException.ThrowIfLessThan(bits, 1);
        cuts = [.. cuts.Skip(Math.Max(0, cuts.Count - LookedBack))];
        // A thickness is cut from two sides, a diameter at two ends: half of the difference is one bit's.
        var residuals = cuts.Select(c => (double)(c.BySize - c.ByDial).Millimetres / 2).ToArray();
        var means = new double[residuals.Length];
        var mean = 0.0;
        for (var i = 0; i < residuals.Length; i++)
            means[i] = mean = Weight * residuals[i] + (1 - Weight) * mean;
        var scatter = Deviation(residuals);
        var (up, down, cusum) = (0.0, 0.0, false);
        foreach (var r in residuals)
        {
            if (scatter <= 0)
                break;
            (up, down) = (Math.Max(0, up + r / scatter - CusumSlack), Math.Max(0, down - r / scatter - CusumSlack));
            // Only where the sum stands high now does something drift now.
            cusum = up > CusumLimit || down > CusumLimit;
        }
        return new(cuts, residuals, means, scatter, cusum, bits > 1 ? Math.Sqrt(2) : 1) { MetresNow = metresNow };
    }

    /// <summary>
    /// What one setting may take more than the dial says, from the cuts themselves: two and a half standard deviations, and the mean
    /// where more
    /// metal goes than the dial says; at least half a division. A mean to the other side takes nothing from a part.
    /// </summary>
    /// <param name="depthPerDivision">Depth that one division makes.</param>
    /// <returns>The allowance z; null with too few cuts, where the profile's own holds.</returns>
    public Length? Allowance(Length depthPerDivision) =>
        Cuts.Count < Fewest
            ? null
            : Length.Max(
                depthPerDivision / 2,
                Length.FromTrigonometry(Coverage * scatter * independent + Math.Max(0, Mean), Toward.Greater)
            );

    /// <summary>
    /// How far the head may cut out of parallel over a band: the mean of the slopes found and two standard deviations, both faces
    /// together or
    /// on the diameter.
    /// </summary>
    /// <param name="band">Width of the band.</param>
    /// <returns>Null with too few surfaces that were read at two stations.</returns>
    public Length? ParallelOver(Length band)
    {
        var slopes = Cuts.Where(c => c.Slope is not null).Select(c => c.Slope!.Value).ToArray();
        if (slopes.Length < FewestSlopes)
            return null;
        var mean = slopes.Aggregate(slopes[0], (sum, s) => Weight * s + (1 - Weight) * sum);
        return Length.FromTrigonometry((Math.Abs(mean) + 2 * Deviation(slopes)) * (double)band.Millimetres, Toward.Greater);
    }

    /// <summary>Metres that the edge has cut by now.</summary>
    public decimal MetresNow { get; private init; }

    /// <summary>
    /// What the edge loses for each thousand metres that it cuts, millimetres: below 0 where ever less metal goes than the dial says. Null
    /// where the cuts show no such trend: three standard errors.
    /// </summary>
    public double? LossPerThousandMetres => Trend() is { } trend ? trend.Slope : null;

    /// <summary>
    /// How many divisions deeper a setting may be than a plan says, because the edge has receded: what it surely falls short by after the
    /// metres that it has cut by now, in whole divisions, so that no more metal goes than is planned. 0 where no such loss shows.
    /// </summary>
    /// <param name="depthPerDivision">Depth that one division makes, above 0.</param>
    public int Correction(Length depthPerDivision)
    {
        ArgumentOutOfRangeException.ThrowIfLessThanOrEqual(depthPerDivision, Length.Zero);
        if (Trend() is not { Slope: < 0 } trend)
            return 0;
        var metres = (double)MetresNow / 1000;
        var surely = -(trend.At(metres) + 2 * trend.ErrorAt(metres));
        return surely <= 0 ? 0 : (int)Math.Floor(surely / (double)depthPerDivision.Millimetres);
    }

    private Line? Trend()
    {
        if (Cuts.Count < Fewest)
            return null;
        var metres = Cuts.Select(c => (double)c.Metres / 1000).ToArray();
        var (x, y) = (metres.Average(), residuals.Average());
        var spread = metres.Sum(m => (m - x) * (m - x));
        if (spread <= 0)
            return null;
        var slope = metres.Zip(residuals, (m, r) => (m - x) * (r - y)).Sum() / spread;
        var rest = metres.Zip(residuals, (m, r) => Math.Pow(r - y - slope * (m - x), 2)).Sum() / (residuals.Length - 2);
        return Math.Abs(slope) > 3 * Math.Sqrt(rest / spread) ? new(slope, x, y, rest, spread, residuals.Length) : null;
    }

    /// <summary>Least squares of the residuals over thousands of metres.</summary>
    private sealed record Line(double Slope, double X, double Y, double Variance, double Spread, int Count)
    {
        public double At(double x) => Y + Slope * (x - X);

        public double ErrorAt(double x) => Math.Sqrt(Variance * (1.0 / Count + (x - X) * (x - X) / Spread));
    }

    /// <summary>Metres after which an edge has lost a quarter of the variation that is allowed; null where no loss shows.</summary>
    /// <param name="allowedVariation">Thickness variation or out-of-round that may be left.</param>
    public decimal? EdgeDueAfter(Length allowedVariation) =>
        LossPerThousandMetres is { } loss and < 0 ? Math.Round(allowedVariation.Millimetres / 4 / (decimal)-loss * 1000) : null;

    private static double Deviation(double[] values)
    {
        if (values.Length < 2)
            return 0;
        var mean = values.Average();
        return Math.Sqrt(values.Sum(v => (v - mean) * (v - mean)) / (values.Length - 1));
    }
}
