using Uncial.Core.Lengths;
using Uncial.Core.Reasoning;

namespace Uncial.Core.Gauges;

/// <summary>
/// The uncertainty of one reading. Source: JCGM 100, standard uncertainties added in squares, expanded with k = 2 and never below one step
/// of
/// the gauge.
/// </summary>
/// <param name="Expanded">Expanded uncertainty U, rounded up at the last millionth of a millimetre.</param>
/// <param name="Steps">How it was worked out, in order.</param>
public sealed record ReadingUncertainty(Length Expanded, IReadOnlyList<Step> Steps)
{
    /// <summary>Expansion of grey iron for each kelvin.</summary>
    public const decimal ExpansionPerKelvin = 11e-6m;

    /// <summary>Works the uncertainty out.</summary>
    /// <param name="gauge">The gauge, with what is known of it.</param>
    /// <param name="size">Size that is read, above 0: its expansion counts.</param>
    /// <param name="repeats">Readings at the spot that its size is the mean of, 1 or more.</param>
    /// <param name="rules">The shop's rules: repeatability by kind of gauge, difference of temperature.</param>
    /// <param name="zeroReadings">
    /// Readings of the setting standard that the zero correction is the mean of; their own scatter comes in. 0: readings are not corrected.
    /// </param>
    /// <param name="pooled">What repeats on record say of this gauge in this hand; nothing: the shop's figure for its kind.</param>
    public static ReadingUncertainty Of(
        GaugeFacts gauge,
        Length size,
        int repeats,
        ShopRules rules,
        int zeroReadings = 0,
        Repeatability pooled = default
    )
    {
        ArgumentNullException.ThrowIfNull(gauge);
        ArgumentNullException.ThrowIfNull(rules);
        var steps = new Steps();
        var (ofGauge, ofStandard, step, repeat) = (
            OfGauge(gauge, steps),
            OfStandard(gauge, steps),
            OfResolution(gauge, steps),
            OfRepeats(gauge, repeats, rules, pooled, steps)
        );
        var zero = OfZero(repeats > 1 ? OneOf(gauge, rules, pooled) : repeat, zeroReadings, steps);
        var temperature = OfTemperature(size, rules, steps);
        // Twice the step: once where the gauge was set, once where it is read.
        var standard = Up(
            Math.Sqrt(Square(ofGauge) + Square(ofStandard) + 2 * Square(step) + Square(repeat) + Square(zero) + Square(temperature))
        );
        steps.Add(
            "uncertaintyStandard",
            "√({0}² + {1}² + 2 · {2}² + {3}² + {4}² + {5}²)",
            standard,
            null,
            ofGauge,
            ofStandard,
            step,
            repeat,
            zero,
            temperature
        );
        var expanded = Length.Max(2 * standard, gauge.Resolution);
        steps.Add("uncertaintyExpanded", "max(2 · {0}, {1})", expanded, null, standard, gauge.Resolution);
        return new(expanded, steps.All);
    }

    /// <summary>How much too large a warm part reads: a part that is still warm from cutting gives no reading for release.</summary>
    /// <param name="size">Size of the part.</param>
    /// <param name="kelvinAbove">Kelvin above the gauge.</param>
    public static Length WarmPartReads(Length size, decimal kelvinAbove) => size * (ExpansionPerKelvin * kelvinAbove);

    private static Length OfGauge(GaugeFacts gauge, Steps steps)
    {
        Length u;
        if (gauge.CertificateUncertainty is { } certificate)
            steps.Add("uGauge", "{0} / 2", u = certificate / 2, null, certificate);
        else if (gauge.PermissibleError is { } error)
            steps.Add("uGauge", "{0} / √3", u = Up((double)error.Millimetres / Math.Sqrt(3)), null, error);
        else
            steps.Add("uGauge", "{0}", u = gauge.Resolution, null, gauge.Resolution);
        return u;
    }

    private static Length OfStandard(GaugeFacts gauge, Steps steps)
    {
        if (gauge.StandardUncertainty is not { } standard)
            return Length.Zero;
        steps.Add("uStandard", "{0} / 2", standard / 2, null, standard);
        return standard / 2;
    }

    private static Length OfResolution(GaugeFacts gauge, Steps steps)
    {
        var step = Up((double)gauge.Resolution.Millimetres / (2 * Math.Sqrt(3)));
        steps.Add("uResolution", "{0} / (2 · √3)", step, null, gauge.Resolution);
        return step;
    }

    private static Length OfZero(Length repeat, int readings, Steps steps)
    {
        if (readings <= 0)
            return Length.Zero;
        var zero = Up((double)repeat.Millimetres / Math.Sqrt(readings));
        steps.Add("uZero", "{0} / √{1}", zero, null, repeat, readings);
        return zero;
    }

    private static Length OneOf(GaugeFacts gauge, ShopRules rules, Repeatability pooled) =>
        pooled.Degrees > 0 ? pooled.Deviation(rules.Gauges.RepeatOf(gauge.Kind)) : rules.Gauges.RepeatOf(gauge.Kind);

    private static double Square(Length u) => (double)u.Millimetres * (double)u.Millimetres;

    private static Length OfRepeats(GaugeFacts gauge, int repeats, ShopRules rules, Repeatability pooled, Steps steps)
    {
        var usual = rules.Gauges.RepeatOf(gauge.Kind);
        var one = pooled.Degrees > 0 ? pooled.Deviation(usual) : usual;
        if (pooled.Degrees > 0)
            steps.Add(
                "repeatPooled",
                "max(√(({0} · {1}² + {3} · {2}²) / ({0} + {3})), {1} / 3)",
                one,
                null,
                Repeatability.PriorDegrees,
                usual,
                pooled.Own,
                pooled.Degrees
            );
        var mean = repeats > 1 ? Up((double)one.Millimetres / Math.Sqrt(repeats)) : one;
        if (repeats > 1)
            steps.Add("uRepeat", "{0} / √{1}", mean, null, one, repeats);
        else
            steps.Add("uRepeat", "{0}", mean, null, one);
        return mean;
    }

    private static Length OfTemperature(Length size, ShopRules rules, Steps steps)
    {
        var u = Up((double)(ExpansionPerKelvin * size.Millimetres * rules.Gauges.TemperatureDifference) / Math.Sqrt(3));
        steps.Add("uTemperature", "0.000011 · {0} · {1} / √3", u, null, size, rules.Gauges.TemperatureDifference);
        return u;
    }

    private static Length Up(double millimetres) => Length.FromTrigonometry(millimetres, Toward.Greater);
}
