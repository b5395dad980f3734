using Uncial.Core.Gauges;
using Uncial.Core.Lengths;

namespace Uncial.Core.Settings;

/// <summary>How gauges repeat, and when a reading is asked about.</summary>
public sealed record GaugeRules
{
    /// <summary>
    /// A reading that is off its neighbours by so much more than they are among themselves is asked about before it is kept.
    /// </summary>
    public Length UnlikeNeighbours { get; init; } = Length.FromMillimetres(0.10m);

    /// <summary>The worst place is read twice where its margin to a limit is less than this beyond the uncertainty.</summary>
    public Length SecondReadingWithin { get; init; } = Length.FromMillimetres(0.15m);

    /// <summary>Minutes for which a good zero check of a gauge holds; a part that is begun later asks for a new one.</summary>
    public int ZeroCheckHoldsMinutes { get; init; } = 30;

    /// <summary>Kelvin by which part and gauge may differ when a reading is taken.</summary>
    public decimal TemperatureDifference { get; init; } = 3m;

    /// <summary>Standard deviation of repeats with a micrometer, where too few were taken to tell.</summary>
    public Length MicrometerRepeat { get; init; } = Length.FromMillimetres(0.003m);

    /// <summary>The same with a caliper.</summary>
    public Length CaliperRepeat { get; init; } = Length.FromMillimetres(0.02m);

    /// <summary>The same with a drum gauge.</summary>
    public Length DrumGaugeRepeat { get; init; } = Length.FromMillimetres(0.02m);

    /// <summary>The same with a tape.</summary>
    public Length TapeRepeat { get; init; } = Length.FromMillimetres(0.5m);

    /// <summary>Standard deviation of repeats with a kind of gauge, where too few were taken to tell.</summary>
    public Length RepeatOf(GaugeKind kind) =>
        kind switch
        {
            GaugeKind.Caliper => CaliperRepeat,
            GaugeKind.DrumGauge or GaugeKind.DrumGaugeStations or GaugeKind.DrumGaugeEighths => DrumGaugeRepeat,
            GaugeKind.Tape => TapeRepeat,
            _ => MicrometerRepeat,
        };
}
