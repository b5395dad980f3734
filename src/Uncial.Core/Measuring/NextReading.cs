using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Release;

namespace Uncial.Core.Measuring;

/// <summary>How far waves go round parts of a kind, before anything is read of one: the prior of <see cref="NextReading"/>.</summary>
/// <param name="Waves">Lobes, and the standard deviation of the wave's cosine and sine in the size, millimetres.</param>
public sealed record ShapePrior(IReadOnlyList<(int Lobes, double Deviation)> Waves)
{
    /// <summary>Worn parts as they come in: one and two lobes most, up to eight.</summary>
    public static ShapePrior Usual(PartKind kind) =>
        kind == PartKind.Rotor
            ? new([(1, 0.008), (2, 0.005), (3, 0.003), (4, 0.002), (5, 0.002), (6, 0.0015), (7, 0.001), (8, 0.001)])
            : new([(2, 0.020), (4, 0.006), (6, 0.003), (8, 0.002)]);

    /// <summary>
    /// The same from a shop's own parts: one and two lobes of a rotor, two of a drum, as their readings show them; the rest as usual.
    /// Twenty parts
    /// and more say something.
    /// </summary>
    /// <param name="kind">Rotor or drum.</param>
    /// <param name="amplitudes">For each part read before: lobes and amplitude of a wave in its size, millimetres.</param>
    public static ShapePrior From(PartKind kind, IReadOnlyCollection<(int Lobes, double Amplitude)> amplitudes)
    {
        ArgumentNullException.ThrowIfNull(amplitudes);
        var own = amplitudes
            .GroupBy(a => a.Lobes)
            .Where(g => g.Count() >= FewestParts)
            .ToDictionary(g => g.Key, g => Math.Sqrt(g.Average(a => a.Amplitude * a.Amplitude) / 2));
        return new([.. Usual(kind).Waves.Select(w => own.TryGetValue(w.Lobes, out var deviation) ? (w.Lobes, deviation) : w)]);
    }

    /// <summary>Amplitudes of the waves that readings once round show; none where they cannot be told apart.</summary>
    /// <param name="kind">Rotor or drum.</param>
    /// <param name="spots">Degrees and sizes read at one radius or depth.</param>
    public static IReadOnlyList<(int Lobes, double Amplitude)> AmplitudesOf(
        PartKind kind,
        IReadOnlyList<(decimal Degrees, Length Size)> spots
    )
    {
        ArgumentNullException.ThrowIfNull(spots);
        int[] orders = kind == PartKind.Rotor ? [1, 2] : [2];
        (double, double)[] places = [.. spots.Select(s => ((double)s.Degrees * Math.PI / 180, (double)s.Size.Millimetres))];
        if (HarmonicFit.Solve(places, orders) is not { } fit)
            return [];
        return
        [
            .. orders.Select(k =>
            {
                var (x, y) = (0.0, 0.0);
                for (var i = 0; i < Samples; i++)
                {
                    var angle = i * 2 * Math.PI / Samples;
                    var (sin, cos) = Math.SinCos(k * angle);
                    (x, y) = (x + fit.At(angle) * cos * 2 / Samples, y + fit.At(angle) * sin * 2 / Samples);
                }
                return (k, Math.Sqrt(x * x + y * y));
            }),
        ];
    }

    private const int FewestParts = 20,
        Samples = 16;
}

/// <summary>
/// Where a reading more would tell most: the place at which the part is likeliest to be past its limit, by what was read and by how such
/// parts
/// are shaped. It only adds to the readings that a release asks for. Source: Bayesian linear regression on harmonics (computation,
/// section 8).
/// </summary>
/// <param name="At">The place, to half an hour.</param>
/// <param name="ChanceOfBeyond">Probability, 0 … 1, that the size there is past the limit.</param>
/// <param name="IsEnough">No place that was not read is past the limit with a probability worth a reading: one in a thousand.</param>
public sealed record NextReading(ClockAngle At, double ChanceOfBeyond, bool IsEnough)
{
    private const double WorthAReading = 0.001;

    /// <summary>Half an hour.</summary>
    private const int Step = 15;

    /// <summary>The deviation of the mean before anything is read: it says nothing.</summary>
    private const double AnyMean = 1;

    /// <summary>Looks for the place.</summary>
    /// <param name="kind">Rotor or drum.</param>
    /// <param name="spots">Degrees and sizes read at one radius or depth; repeats may be among them. Two and more say something.</param>
    /// <param name="repeat">Standard deviation of one reading.</param>
    /// <param name="limit">The limit.</param>
    /// <param name="prior">How such parts are shaped.</param>
    /// <returns>Null with fewer than two readings.</returns>
    public static NextReading? Of(
        PartKind kind,
        IReadOnlyList<(decimal Degrees, Length Size)> spots,
        Length repeat,
        Length limit,
        ShapePrior prior
    )
    {
        ArgumentNullException.ThrowIfNull(spots);
        ArgumentNullException.ThrowIfNull(prior);
        if (spots.Count < 2)
            return null;
        var middle = spots.Average(s => (double)s.Size.Millimetres);
        var noise = Math.Max((double)repeat.Millimetres, 1e-4);
        var shape = Posterior.Of([.. spots.Select(s => ((double)s.Degrees, (double)s.Size.Millimetres - middle))], noise, prior);
        var circle = kind == PartKind.Drum ? 180 : 360;
        (double Chance, double Deviation, int Degrees) most = (-1, 0, 0);
        for (var degrees = 0; degrees < circle; degrees += Step)
        {
            if (spots.Any(s => IsThere((double)s.Degrees, degrees, circle)))
                continue;
            var (mean, deviation) = shape.At(degrees);
            var inside = Limits.Sign(kind) * (middle + mean - (double)limit.Millimetres);
            var here = (1 - Conformity.NormalDistribution(inside / deviation), deviation, degrees);
            if (here.CompareTo(most) > 0)
                most = here;
        }
        return most.Chance < 0 ? null : new(ClockAngle.FromDegrees(most.Degrees), most.Chance, most.Chance < WorthAReading);
    }

    private static bool IsThere(double read, int degrees, int circle)
    {
        var off = Math.Abs(read - degrees) % circle;
        return Math.Min(off, circle - off) < Step / 2.0;
    }

    /// <summary>What mean and waves are, given the readings: normal, with a mean and a covariance.</summary>
    private sealed class Posterior(double[] mean, double[,] factor, ShapePrior prior)
    {
        public static Posterior Of((double Degrees, double Size)[] read, double noise, ShapePrior prior)
        {
            var n = 1 + 2 * prior.Waves.Count;
            var (precision, right) = (new double[n, n], new double[n]);
            precision[0, 0] = 1 / (AnyMean * AnyMean);
            for (var w = 0; w < prior.Waves.Count; w++)
                precision[1 + 2 * w, 1 + 2 * w] = precision[2 + 2 * w, 2 + 2 * w] =
                    1 / (prior.Waves[w].Deviation * prior.Waves[w].Deviation);
            foreach (var (degrees, size) in read)
            {
                var x = Row(degrees, prior);
                for (var i = 0; i < n; i++)
                {
                    right[i] += x[i] * size / (noise * noise);
                    for (var j = 0; j < n; j++)
                        precision[i, j] += x[i] * x[j] / (noise * noise);
                }
            }
            var factor = Cholesky(precision);
            return new(Back(factor, Forward(factor, right)), factor, prior);
        }

        public (double Mean, double Deviation) At(double degrees)
        {
            var x = Row(degrees, prior);
            var half = Forward(factor, x);
            return (x.Zip(mean, (a, b) => a * b).Sum(), Math.Sqrt(half.Sum(h => h * h)));
        }

        private static double[] Row(double degrees, ShapePrior prior)
        {
            var row = new double[1 + 2 * prior.Waves.Count];
            row[0] = 1;
            for (var w = 0; w < prior.Waves.Count; w++)
                (row[2 + 2 * w], row[1 + 2 * w]) = Math.SinCos(prior.Waves[w].Lobes * degrees * Math.PI / 180);
            return row;
        }

        private static double[,] Cholesky(double[,] a)
        {
            var n = a.GetLength(0);
            var l = new double[n, n];
            for (var i = 0; i < n; i++)
            for (var j = 0; j <= i; j++)
            {
                var sum = a[i, j];
                for (var k = 0; k < j; k++)
                    sum -= l[i, k] * l[j, k];
                l[i, j] = i == j ? Math.Sqrt(sum) : sum / l[j, j];
            }
            return l;
        }

        private static double[] Forward(double[,] l, double[] b)
        {
            var x = new double[b.Length];
            for (var i = 0; i < x.Length; i++)
            {
                x[i] = b[i];
                for (var k = 0; k < i; k++)
                    x[i] -= l[i, k] * x[k];
                x[i] /= l[i, i];
            }
            return x;
        }

        private static double[] Back(double[,] l, double[] b)
        {
            var x = new double[b.Length];
            for (var i = x.Length - 1; i >= 0; i--)
            {
                x[i] = b[i];
                for (var k = i + 1; k < x.Length; k++)
                    x[i] -= l[k, i] * x[k];
                x[i] /= l[i, i];
            }
            return x;
        }
    }
}
