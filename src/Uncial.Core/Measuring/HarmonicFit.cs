namespace Uncial.Core.Measuring;

/// <summary>
/// Least-squares fit of a constant and a few harmonics to readings around a circle:
/// <c>y(θ) = a₀ + Σ (aₙ cos nθ + bₙ sin nθ)</c>. Source: ordinary least squares on the normal equations.
/// </summary>
internal sealed class HarmonicFit
{
    private const int MostTerms = 5;

    private readonly double[] coefficients;
    private readonly int[] orders;
    private readonly double[] normal;

    private HarmonicFit(double[] coefficients, int[] orders, double[] normal) =>
        (this.coefficients, this.orders, this.normal) = (coefficients, orders, normal);

    /// <summary>The constant of the fit.</summary>
    public double Constant => coefficients[0];

    /// <summary>Fits, or returns null where the places are too close together to tell the harmonics apart.</summary>
    /// <param name="places">Angle in radians and value, one for each spot.</param>
    /// <param name="orders">At most two harmonics, such as 1 and 2 for a rotor's thickness, 2 for a drum's diameter.</param>
    public static HarmonicFit? Solve(ReadOnlySpan<(double Angle, double Value)> places, ReadOnlySpan<int> orders)
    {
        var n = 1 + 2 * orders.Length;
        if (places.Length < n)
            return null;
        // A shift of origin keeps the digits: 24.31 and 24.33 differ in the fourth place only.
        var origin = places[0].Value;
        Span<double> equations = stackalloc double[MostTerms * (MostTerms + 1)];
        Span<double> row = stackalloc double[n];
        foreach (var (angle, value) in places)
        {
            Terms(angle, orders, row);
            for (var i = 0; i < n; i++)
            {
                for (var j = 0; j < n; j++)
                    equations[i * (n + 1) + j] += row[i] * row[j];
                equations[i * (n + 1) + n] += row[i] * (value - origin);
            }
        }
        var normal = new double[n * n];
        for (var i = 0; i < n; i++)
        for (var j = 0; j < n; j++)
            normal[i * n + j] = equations[i * (n + 1) + j];
        // A pivot far below its even-spacing size (half the points) means clusters that would send the fit swinging between them.
        var solution = Eliminate(equations, n, leastPivot: places.Length * 0.02);
        if (solution is null)
            return null;
        solution[0] += origin;
        return new(solution, orders.ToArray(), normal);
    }

    /// <summary>
    /// The largest leverage of the fit over the whole turn: x(θ)ᵀ(XᵀX)⁻¹x(θ), so that the fitted value at its least sure angle has the
    /// variance of one reading times this. 3/n and 5/n for n evenly spaced places and one or two harmonics.
    /// </summary>
    public double LargestLeverage()
    {
        const int steps = 72; // the leverage has harmonics up to the fourth: no peak is closer than 45° to the next
        var inverse = Inverse();
        var (best, most) = (0, double.MinValue);
        for (var i = 0; i < steps; i++)
            if (LeverageAt(inverse, i * 2 * Math.PI / steps) is var here && here > most)
                (best, most) = (i, here);
        // Between the steps the peak is a parabola to well under a thousandth.
        var step = 2 * Math.PI / steps;
        var (left, right) = (LeverageAt(inverse, (best - 1) * step), LeverageAt(inverse, (best + 1) * step));
        var bend = left - 2 * most + right;
        return bend >= -1e-12 ? most : Math.Max(most, LeverageAt(inverse, (best + (left - right) / (2 * bend)) * step));
    }

    private double LeverageAt(double[] inverse, double angle)
    {
        var n = coefficients.Length;
        Span<double> row = stackalloc double[n];
        Terms(angle, orders, row);
        var sum = 0.0;
        for (var i = 0; i < n; i++)
        for (var j = 0; j < n; j++)
            sum += row[i] * inverse[i * n + j] * row[j];
        return sum;
    }

    private double[] Inverse()
    {
        var n = coefficients.Length;
        var inverse = new double[n * n];
        Span<double> equations = stackalloc double[n * (n + 1)];
        for (var column = 0; column < n; column++)
        {
            for (var i = 0; i < n; i++)
            {
                normal.AsSpan(i * n, n).CopyTo(equations[(i * (n + 1))..]);
                equations[i * (n + 1) + n] = i == column ? 1 : 0;
            }
            var solved = Eliminate(equations, n, leastPivot: 0)!;
            for (var i = 0; i < n; i++)
                inverse[i * n + column] = solved[i];
        }
        return inverse;
    }

    /// <summary>The fitted value at an angle in radians.</summary>
    public double At(double angle)
    {
        Span<double> row = stackalloc double[coefficients.Length];
        Terms(angle, orders, row);
        var sum = 0.0;
        for (var i = 0; i < coefficients.Length; i++)
            sum += coefficients[i] * row[i];
        return sum;
    }

    /// <summary>The angle in radians, 0 … below 2π, where the fit is least.</summary>
    public double LeastAngle()
    {
        const int steps = 36; // with harmonics up to the second, two valleys are never closer than this can tell
        var (best, least) = (0, double.MaxValue);
        for (var i = 0; i < steps; i++)
            if (At(i * 2 * Math.PI / steps) is var value && value < least)
                (best, least) = (i, value);
        var (low, high) = ((best - 1) * 2 * Math.PI / steps, (best + 1) * 2 * Math.PI / steps);
        // In the bracket the slope goes from falling to rising: halve it down to 1e-9 of a turn.
        for (var i = 0; i < 28; i++)
        {
            var middle = (low + high) / 2;
            if (Slope(middle) > 0)
                high = middle;
            else
                low = middle;
        }
        var angle = (low + high) / 2;
        return angle < 0 ? angle + 2 * Math.PI : angle % (2 * Math.PI);
    }

    /// <summary>Half of the swing of the n-th harmonic (its amplitude) and the first angle at which it is largest, radians.</summary>
    public (double Amplitude, double Angle) Harmonic(int order)
    {
        var i = 1 + 2 * Array.IndexOf(orders, order);
        var (a, b) = (coefficients[i], coefficients[i + 1]);
        var angle = Math.Atan2(b, a) / order;
        return (Math.Sqrt(a * a + b * b), angle < 0 ? angle + 2 * Math.PI / order : angle);
    }

    private double Slope(double angle)
    {
        var slope = 0.0;
        for (var i = 0; i < orders.Length; i++)
        {
            var (sin, cos) = Math.SinCos(orders[i] * angle);
            slope += orders[i] * (coefficients[2 * i + 2] * cos - coefficients[2 * i + 1] * sin);
        }
        return slope;
    }

    private static void Terms(double angle, ReadOnlySpan<int> orders, Span<double> row)
    {
        row[0] = 1;
        for (var i = 0; i < orders.Length; i++)
            (row[2 * i + 2], row[2 * i + 1]) = Math.SinCos(orders[i] * angle);
    }

    private static double[]? Eliminate(Span<double> m, int n, double leastPivot)
    {
        var width = n + 1;
        for (var column = 0; column < n; column++)
        {
            var pivot = column;
            for (var i = column + 1; i < n; i++)
                if (Math.Abs(m[i * width + column]) > Math.Abs(m[pivot * width + column]))
                    pivot = i;
            if (Math.Abs(m[pivot * width + column]) < leastPivot)
                return null;
            for (var j = column; j <= n; j++)
                (m[column * width + j], m[pivot * width + j]) = (m[pivot * width + j], m[column * width + j]);
            for (var i = 0; i < n; i++)
            {
                if (i == column)
                    continue;
                var factor = m[i * width + column] / m[column * width + column];
                for (var j = column; j <= n; j++)
                    m[i * width + j] -= factor * m[column * width + j];
            }
        }
        var x = new double[n];
        for (var i = 0; i < n; i++)
            x[i] = m[i * width + n] / m[i * width + i];
        return x;
    }
}
