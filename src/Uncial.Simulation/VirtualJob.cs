using Uncial.Core.Parts;

namespace Uncial.Simulation;

/// <summary>How a rotor's faces are cut.</summary>
public enum Chucking
{
    /// <summary>Both at once, between two tools.</summary>
    Twin,

    /// <summary>One after the other as the part is mounted.</summary>
    OneAfterTheOther,

    /// <summary>The part is turned round for the second face.</summary>
    TurnedRound,
}

/// <summary>What came of a part, by the metal itself.</summary>
public sealed record WorkResult
{
    /// <summary>A plan was made and started.</summary>
    public bool Started { get; init; }

    /// <summary>Everything is clean, with no more metal than the first plan had.</summary>
    public bool CleanedByFirstPlan { get; init; }

    /// <summary>
    /// Metal taken over the least that physics asked for from the same first touch, all faces together, mm; 0 where none was cut.
    /// </summary>
    public double Excess { get; init; }

    /// <summary>Everything was clean in the end.</summary>
    public bool Clean { get; init; }

    /// <summary>Passes made.</summary>
    public int Passes { get; init; }

    /// <summary>Minutes of cutting.</summary>
    public double Minutes { get; init; }

    /// <summary>Readings of sizes taken.</summary>
    public int Readings { get; init; }

    /// <summary>Passes after which a bound was on record.</summary>
    public int Bounds { get; init; }

    /// <summary>How often the metal was worse than the bound, and by how much at most, mm.</summary>
    public (int Times, double Most) BoundFailed { get; init; }

    /// <summary>The part left the shop.</summary>
    public bool Released { get; init; }

    /// <summary>… as inside machine-to, without a lead's reason.</summary>
    public bool ReleasedPlainly { get; init; }

    /// <summary>Inside discard by the metal on lands and in grooves, before anything was done; mm, negative beyond.</summary>
    public double InsideBefore { get; init; }

    /// <summary>The same in the end.</summary>
    public double InsideAfter { get; init; }

    /// <summary>Inside machine-to on lands in the end.</summary>
    public double InsideMachineTo { get; init; }

    /// <summary>Why no more was cut although it was not clean; empty where it was, or was not started.</summary>
    public string LeftDarkBy { get; init; } = "";

    /// <summary>What the last judgement said against a release; empty where nothing did. Codes of the product's notes.</summary>
    public string HeldBackBy { get; init; } = "";
}

/// <summary>
/// A part, a lathe, gauges and an operator, all with their errors: drawn once, so that every way of working meets the same.
/// </summary>
public sealed class VirtualJob
{
    /// <summary>
    /// How often a gauge's datum is shifted without anybody noticing: before the first reading, and while the part is on the lathe.
    /// </summary>
    public const double DatumShifted = 0.005;

    /// <summary>Size of the setting standard of the micrometer, and of the drum gauge, mm.</summary>
    public static (double Rotor, double Drum) Standards { get; } = (25, 200);

    private const double ThermalExpansion = 11e-6;

    private VirtualJob(VirtualPart part, Chance chance, Workmanship work) => (Part, Chance, Work, Gauge) = (part, chance, work, null!);

    /// <summary>The part.</summary>
    public VirtualPart Part { get; }

    /// <summary>Chance of this job.</summary>
    public Chance Chance { get; }

    /// <summary>How lathe and operator truly err.</summary>
    public Workmanship Work { get; }

    /// <summary>The gauge itself.</summary>
    public VirtualGauge Gauge { get; private set; }

    /// <summary>What the operator gets wrong.</summary>
    public Slips Slips { get; private init; }

    /// <summary>One division of the dial as the shop's papers say: depth, mm.</summary>
    public double Division { get; private init; }

    /// <summary>A measured cut has verified the dial of this head.</summary>
    public bool DialVerified { get; private init; }

    /// <summary>How the faces are cut.</summary>
    public Chucking Chucking { get; private init; }

    /// <summary>The part is so much warmer than the gauge in the shop's air, kelvin.</summary>
    public double WarmerThanGauge { get; private init; }

    /// <summary>Draws a part and its circumstances.</summary>
    /// <param name="seed">Number of the job.</param>
    /// <param name="kind">Rotor or drum.</param>
    /// <param name="stratum">The group that the part is from; null: the fleet.</param>
    /// <param name="slips">What the operator gets wrong.</param>
    /// <param name="onGrinder">A rotary grinder with a fine dial in place of a lathe.</param>
    public static VirtualJob Draw(long seed, PartKind kind, Stratum? stratum = null, Slips slips = Slips.None, bool onGrinder = false)
    {
        stratum ??= Stratum.Fleet;
        var chance = new Chance(seed);
        var part = VirtualPart.Draw(kind, chance, stratum);
        var (division, unverified, misread) = (
            chance.OneOf<double>([0.01, 0.01, 0.01, 0.02, 0.005, 0.0254]),
            chance.Happens(stratum.UnverifiedDials),
            chance.Share()
        );
        var (single, turned) = (chance.Happens(0.2), chance.Happens(0.5));
        if (onGrinder)
            (division, single, turned) = (0.002, true, true);
        // Nobody has verified it yet: it may count diameter for depth, or the reverse.
        var factor =
            !unverified ? 1
            : misread < 0.25 ? 0.5
            : misread < 0.5 ? 2
            : 1;
        if (slips.HasFlag(Slips.DialOfAnotherWorth) && chance.Happens(SlipRates.Of(Slips.DialOfAnotherWorth)))
            (unverified, factor) = (true, misread < 0.5 ? 0.5 : 2);
        var rise =
            (chance.Happens(0.5) ? 1 : -1)
            * (stratum.OutOfParallel == 0 ? chance.Normal(0.003) : chance.Between(0.5, 1) * stratum.OutOfParallel);
        var work = new Workmanship
        {
            DepthPerDivision = division * factor * (1 + chance.Normal(0.003)),
            PushOff = chance.Between(0, 0.03),
            RiseOverBand = rise / 2,
        };
        var job = new VirtualJob(part, chance, work)
        {
            Slips = slips,
            Division = division,
            DialVerified = !unverified,
            Chucking =
                !single || kind == PartKind.Drum ? Chucking.Twin
                : turned ? Chucking.TurnedRound
                : Chucking.OneAfterTheOther,
            WarmerThanGauge = chance.Between(-1, 1),
        };
        job.Gauge = job.FreshGauge();
        if (chance.Happens(DatumShifted))
            job.Gauge.Shift = chance.Normal(0.05);
        return job;
    }

    /// <summary>A part of the fleet that is worked on a lathe that stays the same from part to part, its dial verified.</summary>
    /// <param name="seed">Number of the job.</param>
    /// <param name="kind">Rotor or drum.</param>
    /// <param name="stratum">The group that the part is from.</param>
    /// <param name="lathe">How the lathe errs.</param>
    /// <param name="division">One division of its dial: depth, mm.</param>
    public static VirtualJob On(long seed, PartKind kind, Stratum stratum, Workmanship lathe, double division)
    {
        var chance = new Chance(seed);
        var job = new VirtualJob(VirtualPart.Draw(kind, chance, stratum), chance, lathe)
        {
            Division = division,
            DialVerified = true,
            WarmerThanGauge = chance.Between(-1, 1),
        };
        job.Gauge = job.FreshGauge();
        return job;
    }

    /// <summary>The same job once more: same part, same errors, same chance to come.</summary>
    public VirtualJob Copy() =>
        new(Part.Copy(), Chance.Copy(), Work)
        {
            Slips = Slips,
            Division = Division,
            DialVerified = DialVerified,
            Chucking = Chucking,
            WarmerThanGauge = WarmerThanGauge,
            Gauge = Gauge.Copy(),
        };

    /// <summary>Whether a slip happens now. One that the operator does not make takes no chance, so all else stays the same.</summary>
    public bool Slip(Slips slip) => Slips.HasFlag(slip) && Chance.Happens(SlipRates.Of(slip));

    /// <summary>Another gauge is taken, or this one set right.</summary>
    public void TakeFreshGauge() => Gauge = FreshGauge();

    /// <summary>What the gauge shows on its standard: the mean of three readings, mm.</summary>
    public double ReadStandard()
    {
        var (size, sum) = (Part.Kind == PartKind.Rotor ? Standards.Rotor : Standards.Drum, 0.0);
        for (var i = 0; i < 3; i++)
            sum += Gauge.ReadStandard(size, Chance);
        return sum / 3;
    }

    /// <summary>Somebody may shift the datum while the part is cut.</summary>
    public void LeaveGaugeLying()
    {
        if (Chance.Happens(DatumShifted))
            Gauge.Shift = Chance.Normal(0.05);
    }

    /// <summary>Reads a size on a land, a few degrees beside the spot that is meant.</summary>
    /// <param name="spot">The spot, in steps of 5°.</param>
    /// <param name="station">The station.</param>
    /// <param name="warmth">So much warmer than the shop's air, kelvin: from cutting.</param>
    public double Read(int spot, int station, double warmth = 0)
    {
        var at = (spot + (int)Math.Round(Chance.Normal(0.5)) + WorkFace.Angles) % WorkFace.Angles;
        return Gauge.Read(Part.SizeAt(at, station) * (1 + ThermalExpansion * (warmth + WarmerThanGauge)), Chance);
    }

    /// <summary>Reads a run-out or a depth with an indicator or a straightedge: to 0.005, and never below nothing.</summary>
    public double Indicate(double depth, double error) => Math.Max(0, Math.Round((depth + Chance.Normal(error)) / 0.005) * 0.005);

    /// <summary>What the metal says in the end.</summary>
    public WorkResult Close(WorkResult so, bool released, bool plainly, double machineTo)
    {
        ArgumentNullException.ThrowIfNull(so);
        return so with
        {
            Released = released,
            ReleasedPlainly = released && plainly,
            Clean = Part.Faces.All(f => f.IsClean()),
            InsideAfter = Part.Inside(Part.Limits.Discard, grooves: true),
            InsideMachineTo = Part.Inside(machineTo),
        };
    }

    private VirtualGauge FreshGauge() =>
        Part.Kind == PartKind.Rotor ? new(0.001, Chance.Normal(0.0015), 0.0025) : new(0.01, Chance.Normal(0.005), 0.010, swing: 1.5);
}
