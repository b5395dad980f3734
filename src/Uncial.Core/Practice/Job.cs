using Uncial.Core.Cutting;
using Uncial.Core.Gauges;
using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Parts;
using Uncial.Core.Planning;

namespace Uncial.Core.Practice;

/// <summary>What came of a part in practice, by the metal itself.</summary>
public sealed record Outcome
{
    /// <summary>A plan was made and started.</summary>
    public bool Started { get; init; }

    /// <summary>Everything is clean, with no more metal than the first plan had.</summary>
    public bool CleanedByFirstPlan { get; init; }

    /// <summary>Metal taken over the least that physics asked for from the same first touch, all faces together, mm; 0 where none was cut.</summary>
    public double Excess { get; init; }

    /// <summary>Everything was clean in the end.</summary>
    public bool Clean { get; init; }

    /// <summary>Passes made.</summary>
    public int Passes { get; init; }

    /// <summary>Minutes of cutting.</summary>
    public double Minutes { get; init; }

    /// <summary>Passes after which a bound was on record.</summary>
    public int Bounds { get; init; }

    /// <summary>How often the metal was worse than the bound, and by how much at most, mm.</summary>
    public (int Times, double Most) BoundFailed { get; init; }

    /// <summary>The part left the shop.</summary>
    public bool Released { get; init; }

    /// <summary>… as inside machine-to, without a lead hand's reason.</summary>
    public bool ReleasedPlainly { get; init; }

    /// <summary>Inside discard by the metal on lands and in grooves, before anything was done; mm, negative beyond.</summary>
    public double InsideBefore { get; init; }

    /// <summary>The same in the end.</summary>
    public double InsideAfter { get; init; }

    /// <summary>Inside machine-to on lands in the end.</summary>
    public double InsideMachineTo { get; init; }
}

/// <summary>A part, a lathe, gauges and a hand, all with their errors: drawn once, so that every way of working meets the same.</summary>
public sealed class Job
{
    /// <summary>How often a gauge's datum is shifted without anybody noticing before the first reading.</summary>
    public const double ShiftedEarly = 0.005;

    /// <summary>Readings of the standard that a zero check is the mean of.</summary>
    public const int ZeroReadings = 3;

    /// <summary>How often it is shifted while the part is on the lathe.</summary>
    public const double ShiftedLate = 0.005;

    private static readonly Lathe Profile = new()
    {
        Name = "Practice", Division = Length.FromMillimetres(0.01m), DialAllowance = Length.FromMillimetres(0.01m),
        Feeds = [new("1", Length.FromMillimetres(0.10m)), new("2", Length.FromMillimetres(0.25m))], RoughFeed = "2", FinishFeed = "1",
        Speeds = [60m, 85m, 110m, 150m, 200m], NoseRadius = Length.FromMillimetres(0.8m),
    };

    private static readonly GaugeFacts Micrometer = new(GaugeKind.Micrometer, Mm(0.001), CertificateUncertainty: Mm(0.003));
    private static readonly GaugeFacts DrumGauge = new(GaugeKind.DrumGauge, Mm(0.01), CertificateUncertainty: Mm(0.01));

    private Job(VirtualPart part, Chance chance, Dial dial, Workmanship work, Length uncertainty)
    {
        (Part, Chance, Dial, Work, Uncertainty) = (part, chance, dial, work, uncertainty);
        Gauge = null!;
    }

    /// <summary>The part.</summary>
    public VirtualPart Part { get; }

    /// <summary>Chance of this job.</summary>
    public Chance Chance { get; }

    /// <summary>The dial as the shop's profile of the lathe says.</summary>
    public Dial Dial { get; }

    /// <summary>How lathe and hand truly err.</summary>
    public Workmanship Work { get; }

    /// <summary>Expanded uncertainty of a reading, as the product works it out.</summary>
    public Length Uncertainty { get; }

    /// <summary>The gauge itself.</summary>
    public VirtualGauge Gauge { get; private set; }

    /// <summary>Rotor: both faces at once, or one after the other.</summary>
    public bool TwinCutter { get; private init; } = true;

    /// <summary>Rotor, single tool: the part is turned round for the second face.</summary>
    public bool TurnsRound { get; private init; }

    /// <summary>Draws a part and its circumstances.</summary>
    /// <param name="seed">Number of the job.</param>
    /// <param name="kind">Rotor or drum.</param>
    /// <param name="onGrinder">A rotary grinder with a fine dial in place of a lathe.</param>
    /// <param name="borderline">A part worn to about its discard limit.</param>
    public static Job Draw(long seed, PartKind kind, bool onGrinder = false, bool borderline = false)
    {
        var chance = new Chance(seed);
        var part = kind == PartKind.Rotor ? VirtualPart.Rotor(chance, borderline) : VirtualPart.Drum(chance, borderline);
        var (division, confirmed, misread, single, turned) = (
            chance.OneOf<decimal>([0.01m, 0.01m, 0.01m, 0.02m, 0.005m, 0.0254m]), !chance.Happens(0.02), chance.Share(), chance.Happens(0.2), chance.Happens(0.5));
        if (onGrinder) (division, single, turned) = (0.002m, true, true);
        var dial = new Dial(Mm((double)division), false, Mm(Math.Max(0.01, (double)division)), confirmed);
        // Where nobody has borne the dial out yet, it may count diameter for depth, or the reverse.
        var factor = confirmed ? 1 : misread < 0.25 ? 0.5 : misread < 0.5 ? 2 : 1;
        var work = new Workmanship { DepthPerDivision = (double)division * factor * (1 + chance.Normal(0.003)), PushOff = chance.Between(0, 0.03) };
        var uncertainty = ReadingUncertainty.Of(kind == PartKind.Rotor ? Micrometer : DrumGauge, Mm(part.WorstSize(false)), 1, ShopRules.Default, ZeroReadings).Expanded;
        var job = new Job(part, chance, dial, work, uncertainty) { TwinCutter = !single, TurnsRound = single && turned };
        job.Gauge = job.FreshGauge();
        if (chance.Happens(ShiftedEarly)) job.Gauge.Shift = chance.Normal(0.05);
        return job;
    }

    /// <summary>The same job once more: same part, same errors, same chance to come.</summary>
    public Job Copy() => new(Part.Copy(), Chance.Copy(), Dial, Work, Uncertainty)
    {
        TwinCutter = TwinCutter, TurnsRound = TurnsRound, Gauge = Gauge.Copy(),
    };

    /// <summary>
    /// Checks the gauge on its standard: a datum that was shifted past the tolerance is found, and another gauge taken; a small error is
    /// corrected.
    /// </summary>
    /// <returns>The correction to be put into each reading, and whether the gauge was good.</returns>
    public (double Correction, bool Good) CheckZero()
    {
        const double standard = 25;
        var check = new ZeroCheck(Mm(standard), Mm(ReadStandard(standard)), Part.Kind == PartKind.Rotor ? Mm(0.01) : Mm(0.05));
        if (check.Passes) return ((double)check.Correction.Millimetres, true);
        Gauge = FreshGauge();
        return (standard - ReadStandard(standard), false);
    }

    private double ReadStandard(double standard)
    {
        var sum = 0.0;
        for (var i = 0; i < ZeroReadings; i++) sum += Gauge.Read(standard, Chance);
        return sum / ZeroReadings;
    }

    /// <summary>Somebody may shift the datum while the part is cut.</summary>
    public void LeaveGaugeLying()
    {
        if (Chance.Happens(ShiftedLate)) Gauge.Shift = Chance.Normal(0.05);
    }

    /// <summary>Takes readings of a part at places given as spots of 5°, at the station where it will be touched, in a drum also in the middle and at the back.</summary>
    public IReadOnlyList<Reading> Read(ReadOnlySpan<int> spots, double correction, double warmth = 0)
    {
        List<Reading> readings = [];
        var rotor = Part.Kind == PartKind.Rotor;
        ReadOnlySpan<int> stations = rotor ? [Part.ReadingStation] : [Part.ReadingStation, VirtualPart.MiddleStation, VirtualPart.BackStation];
        foreach (var station in stations)
            foreach (var spot in spots)
                readings.Add(new(ClockAngle.FromDegrees(spot * 5), rotor ? null : Mm(Part.StationsMm[station]), Mm(ReadOne(spot, station, correction, warmth))));
        return readings;
    }

    /// <summary>Takes one reading.</summary>
    public double ReadOne(int spot, int station, double correction, double warmth = 0)
    {
        var size = Part.SizeAt(spot, station);
        return Math.Round(Gauge.Read(size * (1 + 11e-6 * warmth), Chance) + correction, 6);
    }

    /// <summary>Reads a run-out or a depth with an indicator or a straightedge: to 0.005, and never below nothing.</summary>
    public Length Indicate(double depth, double error) => Mm(Math.Max(0, Math.Round((depth + Chance.Normal(error)) / 0.005) * 0.005));

    /// <summary>Minutes of a pass.</summary>
    public double MinutesOf(PassKind kind)
    {
        var rotor = Part.Kind == PartKind.Rotor;
        var diameter = rotor ? 2 * Part.StationsMm[^1] : Part.WorstSize(false);
        return (double)Profile.Run(kind, Part.Kind, Mm(diameter), Mm(rotor ? 54 : 40)).Minutes;
    }

    /// <summary>What the metal says in the end.</summary>
    public Outcome Close(Outcome so, bool released, bool plainly) => so with
    {
        Released = released,
        ReleasedPlainly = released && plainly,
        Clean = Part.Faces.All(f => f.IsClean()),
        InsideAfter = Part.Inside(Part.Limits.Discard, grooves: true),
        InsideMachineTo = Part.Inside(Part.Limits.MachineTo),
    };

    internal static Length Mm(double millimetres) => Length.FromMillimetres(Math.Round((decimal)millimetres, 6));

    private VirtualGauge FreshGauge() => Part.Kind == PartKind.Rotor
        ? new(0.001, Chance.Normal(0.0015), 0.0025) : new(0.01, Chance.Normal(0.005), 0.012);
}
