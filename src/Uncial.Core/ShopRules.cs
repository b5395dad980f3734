using Uncial.Core.Gauges;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Core;

/// <summary>
/// The figures that a shop may settle for itself, with the values it starts from. Kept in one place, changed by the owner only.
/// </summary>
public sealed record ShopRules
{
    /// <summary>The rules that a new shop starts with.</summary>
    public static ShopRules Default { get; } = new();

    /// <summary>Where only a rotor's discard limit is known, machine-to is this much thicker.</summary>
    public Length RotorMachineToAboveDiscard { get; init; } = Mm(0.40m);

    /// <summary>Where only a drum's discard limit is known, machine-to is this much smaller in diameter.</summary>
    public Length DrumMachineToBelowDiscard { get; init; } = Mm(0.75m);

    /// <summary>A drum with less than this to its discard diameter is not started.</summary>
    public Length DrumFloor { get; init; } = Mm(0.75m);

    /// <summary>
    /// A reading that is off its neighbours by so much more than they are among themselves is asked about before it is kept.
    /// </summary>
    public Length UnlikeNeighbours { get; init; } = Mm(0.10m);

    /// <summary>Least run-out that is assumed of a face that nobody has measured, total reading.</summary>
    public Length AssumedRunout { get; init; } = Mm(0.05m);

    /// <summary>The thickness variation divided by this is allowed for the places between eight or more readings.</summary>
    public decimal UnreadShareOfVariation { get; init; } = 6m;

    /// <summary>
    /// What the depth of a groove or relief that stays may be more than it was read. Three standard deviations, not two: it is read once,
    /// and
    /// nothing stands behind it.
    /// </summary>
    public Length DepthUncertainty { get; init; } = Mm(0.03m);

    /// <summary>
    /// A groove or low land that was said to be none by eye is looked at once more with the depth gauge where less than this would be
    /// left to
    /// discard beside all that is allowed for: deeper than most that somebody overlooks.
    /// </summary>
    public Length LookAgainWithin { get; init; } = Mm(0.30m);

    /// <summary>The same for a depth that is the mean of three measurements with a depth gauge, alike among themselves.</summary>
    public Length RepeatedDepthUncertainty { get; init; } = Mm(0.01m);

    /// <summary>
    /// Waves around a part that eight evenly spaced places cannot see may be so deep: that much is allowed at least for what lies between
    /// them.
    /// </summary>
    public Length UnseenLobesFullRound { get; init; } = Mm(0.01m);

    /// <summary>The same where three to seven places were read around a part.</summary>
    public Length UnseenLobes { get; init; } = Mm(0.03m);

    /// <summary>
    /// A surface that was turned bright in one chucking may run out of parallel over the band by so much: both faces of a rotor together,
    /// in
    /// diameter of a drum.
    /// </summary>
    public Length UnknownParallelism { get; init; } = Mm(0.02m);

    /// <summary>The worst place is read twice where its margin to a limit is less than this beyond the uncertainty.</summary>
    public Length SecondReadingWithin { get; init; } = Mm(0.15m);

    /// <summary>Relief of a face that nobody looked at, in the bound on the size after a pass.</summary>
    public Length UnknownRelief { get; init; } = Mm(0.05m);

    /// <summary>Whether a part that is inside discard but past machine-to may leave with a lead's reason.</summary>
    public bool LeadMayReleaseBetweenLimits { get; init; } = true;

    /// <summary>Run-out of a set-up up to which cutting may start.</summary>
    public Length SetUpTolerance { get; init; } = Mm(0.025m);

    /// <summary>A first scratch that runs half-way round or more is accepted without turning the part.</summary>
    public bool AcceptHalfRoundScratch { get; init; }

    /// <summary>Run-out of the second face against the first where the part is turned round or flipped, total reading.</summary>
    public Length SecondChuckingRunout { get; init; } = Mm(0.05m);

    /// <summary>Kelvin by which part and gauge may differ when a reading is taken.</summary>
    public decimal TemperatureDifference { get; init; } = 3m;

    /// <summary>Standard deviation of repeats with a micrometer, where too few were taken to tell.</summary>
    public Length MicrometerRepeat { get; init; } = Mm(0.003m);

    /// <summary>The same with a caliper.</summary>
    public Length CaliperRepeat { get; init; } = Mm(0.02m);

    /// <summary>The same with a drum gauge.</summary>
    public Length DrumGaugeRepeat { get; init; } = Mm(0.02m);

    /// <summary>The same with a tape.</summary>
    public Length TapeRepeat { get; init; } = Mm(0.5m);

    /// <summary>Minutes for which a good zero check of a gauge holds; a part that is begun later asks for a new one.</summary>
    public int ZeroCheckHoldsMinutes { get; init; } = 30;

    /// <summary>Left and right of an axle may differ by so much in size when both leave.</summary>
    public Length GreatestAxleDifference { get; init; } = Mm(0.50m);

    /// <summary>Thickness variation up to which a finished rotor goes without a reason, where the limit book has none.</summary>
    public Length GreatestVariation { get; init; } = Mm(0.025m);

    /// <summary>Out-of-round up to which a finished drum goes without a reason, where the limit book has none.</summary>
    public Length GreatestOutOfRound { get; init; } = Mm(0.10m);

    /// <summary>Taper over the band up to which a finished part goes without a reason.</summary>
    public Length GreatestTaper { get; init; } = Mm(0.08m);

    /// <summary>
    /// Run-out of a face, total reading, up to which a finished rotor goes without a reason, where the limit book has none.
    /// </summary>
    public Length GreatestRunout { get; init; } = Mm(0.08m);

    /// <summary>A part should go at least so far after a cut before it reaches discard, km.</summary>
    public decimal LeastDistanceAfterCut { get; init; } = 20_000m;

    /// <summary>Minutes to mount, set up, finish and wash a part, beside its passes.</summary>
    public decimal MountMinutes { get; init; } = 20m;

    /// <summary>Price of a minute at the bench, in the shop's money.</summary>
    public decimal BenchMinutePrice { get; init; } = 1.00m;

    /// <summary>Consumables of one part: insert edge, abrasive, wash, in the shop's money.</summary>
    public decimal ConsumablesPrice { get; init; } = 3.00m;

    /// <summary>Below this depth a bit rubs more than it cuts, and may chatter.</summary>
    public Length RubbingDepth { get; init; } = Mm(0.10m);

    /// <summary>Heaviest pass, per side: all schools agree on a ceiling.</summary>
    public Length HeaviestPass { get; init; } = Mm(0.25m);

    /// <summary>Iron that the swarf bin takes, kg.</summary>
    public decimal SwarfBinKilograms { get; init; } = 20m;

    /// <summary>A rotor thinner than this rings.</summary>
    public Length ThinRotor { get; init; } = Mm(10m);

    /// <summary>From this diameter on a finishing feed is prone to chatter.</summary>
    public Length LargeDiameter { get; init; } = Mm(300m);

    /// <summary>Standard deviation of repeats with a kind of gauge, where too few were taken to tell.</summary>
    public Length RepeatOf(GaugeKind kind) =>
        kind switch
        {
            GaugeKind.Caliper => CaliperRepeat,
            GaugeKind.DrumGauge or GaugeKind.DrumGaugeStations or GaugeKind.DrumGaugeEighths => DrumGaugeRepeat,
            GaugeKind.Tape => TapeRepeat,
            _ => MicrometerRepeat,
        };

    /// <summary>
    /// Whether these rules derive a machine-to limit that lets more be machined off than other rules do, for rotors or drums.
    /// </summary>
    /// <param name="other">The rules before.</param>
    public bool DerivesLaxerThan(ShopRules other)
    {
        ArgumentNullException.ThrowIfNull(other);
        return RotorMachineToAboveDiscard < other.RotorMachineToAboveDiscard || DrumMachineToBelowDiscard < other.DrumMachineToBelowDiscard;
    }

    /// <summary>What lies between discard and the machine-to limit that is derived from it.</summary>
    internal Length MachineToFromDiscard(PartKind kind) => kind == PartKind.Rotor ? RotorMachineToAboveDiscard : DrumMachineToBelowDiscard;

    private static Length Mm(decimal millimetres) => Length.FromMillimetres(millimetres);
}
