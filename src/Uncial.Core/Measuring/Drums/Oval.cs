using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Core.Measuring;

/// <summary>An oval fitted through the diameters of one depth, where its axes prove it.</summary>
/// <param name="Mean">Mean diameter.</param>
/// <param name="OutOfRound">Largest less smallest.</param>
/// <param name="Largest">Largest diameter of the oval.</param>
/// <param name="Smallest">Smallest diameter of the oval.</param>
/// <param name="LargestAxis">Axis of the largest, degrees.</param>
/// <param name="Leverage">Root of the largest leverage of its axes, at least 1: the oval is less sure than a reading by so much.</param>
/// <param name="GreatestResidual">Reading furthest from the oval.</param>
internal sealed record Oval(
    Length Mean,
    Length OutOfRound,
    Length Largest,
    Length Smallest,
    decimal LargestAxis,
    double Leverage,
    Length GreatestResidual
)
{
    /// <summary>Expanded uncertainty of the fitted diameter at its least sure axis.</summary>
    public Length Uncertainty(Length u) => Leverage == 1 ? u : Length.FromTrigonometry((double)u.Millimetres * Leverage, Toward.Greater);

    /// <summary>Fitted diameter on an axis, degrees.</summary>
    public Length At(decimal axis)
    {
        var (mean, amplitude) = ((double)Mean.Millimetres, (double)(Largest - Mean).Millimetres);
        return Length.FromTrigonometry(mean + amplitude * Math.Cos(2 * (double)(axis - LargestAxis) * Math.PI / 180), Toward.Less);
    }

    /// <summary>The oval through a depth's diameters, or null where its axes could hide one.</summary>
    public static Oval? Of(StationReadings depth)
    {
        if (!AxesProve(depth.Spots) || depth.Fit(2) is not { } fit)
            return null;
        var (amplitude, angle) = fit.Harmonic(2);
        var residual = 0.0;
        foreach (var (degrees, size) in depth.Spots)
            residual = Math.Max(residual, Math.Abs((double)size.Millimetres - fit.At((double)degrees * Math.PI / 180)));
        return new(
            Length.FromTrigonometry(fit.Constant, Toward.Nearest),
            Length.FromTrigonometry(2 * amplitude, Toward.Greater),
            Length.FromTrigonometry(fit.Constant + amplitude, Toward.Greater),
            Length.FromTrigonometry(fit.Constant - amplitude, Toward.Less),
            ClockAngle.FromRadians(angle).Axis,
            Math.Max(1, Math.Sqrt(fit.LargestLeverage())),
            Length.FromTrigonometry(residual, Toward.Greater)
        );
    }

    /// <summary>Three axes at least 30° from one another and no gap over 90°: only then can no oval hide between them.</summary>
    private static bool AxesProve((decimal Degrees, Length Size)[] axes)
    {
        if (axes.Length < 3 || ClockAngle.WidestGap(axes, 180) > 90)
            return false;
        for (var i = 0; i < axes.Length; i++)
        for (var j = i + 1; j < axes.Length; j++)
        for (var k = j + 1; k < axes.Length; k++)
            if (
                axes[j].Degrees - axes[i].Degrees >= 30
                && axes[k].Degrees - axes[j].Degrees >= 30
                && axes[i].Degrees + 180 - axes[k].Degrees >= 30
            )
                return true;
        return false;
    }
}
