namespace Uncial.Simulation;

/// <summary>How a lathe and the hand on it err. Millimetres, unless said.</summary>
public sealed record Workmanship
{
    /// <summary>What one division of the dial truly moves the bit, in depth.</summary>
    public required double DepthPerDivision { get; init; }

    /// <summary>The hand sets the dial this near, in divisions to either side.</summary>
    public double SettingError { get; init; } = 0.3;

    /// <summary>Play of the screw, which comes in where the dial is not brought up from behind.</summary>
    public double Backlash { get; init; } = 0.02;

    /// <summary>How often that happens, 0 … 1.</summary>
    public double BacklashShare { get; init; } = 0.05;

    /// <summary>The tool is pushed off by this share of the depth it takes.</summary>
    public double PushOff { get; init; } = 0.02;

    /// <summary>Mean of how far in a bit goes before its touch is heard.</summary>
    public double TouchOvershoot { get; init; } = 0.002;

    /// <summary>How much higher each tool runs at the last station than at the first: cross-slide, or a part that gives.</summary>
    public double RiseOverBand { get; init; }
}

/// <summary>A lathe with a part on it: mounts with a wobble, touches, cuts to where the bit truly stands.</summary>
public sealed class VirtualLathe
{
    private readonly Workmanship work;
    private readonly Chance chance;
    private readonly double[] zero;
    private readonly double[] touch;
    private readonly double[] taken;
    private readonly double[] plane;
    private int touchedAt;

    /// <summary>Puts a part on the lathe, not yet true.</summary>
    public VirtualLathe(VirtualPart part, Workmanship work, Chance chance)
    {
        ArgumentNullException.ThrowIfNull(part);
        (Part, this.work, this.chance) = (part, work, chance);
        var n = part.Faces.Count;
        (zero, touch, taken, plane) = (new double[n], new double[n], new double[n], new double[n]);
    }

    /// <summary>The part on it.</summary>
    public VirtualPart Part { get; }

    /// <summary>
    /// Mounts the part: the arbor swings its edge by an amplitude. A tilt lifts one face of a rotor where it lowers the other; a drum is
    /// off centre.
    /// </summary>
    public void Mount(double amplitude, double at)
    {
        Part.Faces[0].Swing(amplitude, at);
        if (Part.Faces.Count > 1)
            Part.Faces[1].Swing(-amplitude, at);
    }

    /// <summary>Turns a rotor round onto the face just cut: the other face swings with it, and by the error of the new chucking.</summary>
    public void TurnRound(double amplitude, double at)
    {
        var (first, firstAt) = Part.Faces[0].Swinging;
        Part.Faces[1].Swing(-first, firstAt);
        Part.Faces[1].SwingMore(amplitude, at);
    }

    /// <summary>Takes off by hand what stands higher than a station, then brings the bit to its first touch there and zeroes it.</summary>
    public void Touch(int face, int station)
    {
        var highest = Part.Faces[face].Extremes(station).Highest;
        touchedAt = station;
        Part.Faces[face].Cut(highest, byHand: true);
        touch[face] = highest;
        zero[face] = highest - chance.Exponential(work.TouchOvershoot);
        plane[face] = highest;
        taken[face] = 0;
    }

    /// <summary>Goes deeper by so many divisions of the dial and cuts across.</summary>
    public void Cut(int face, long divisions)
    {
        taken[face] += divisions;
        var depth = (taken[face] + chance.Between(-1, 1) * work.SettingError) * work.DepthPerDivision;
        if (chance.Happens(work.BacklashShare))
            depth -= work.Backlash;
        var to = zero[face] - depth;
        var bite = plane[face] - to;
        if (bite <= 0)
            return;
        plane[face] = to + work.PushOff * bite;
        Part.Faces[face].Cut(plane[face], Rise());
    }

    /// <summary>Grinds on at the same setting until no sparks fly: what was pushed off comes off.</summary>
    public void SparkOut(int face)
    {
        var to = zero[face] - taken[face] * work.DepthPerDivision;
        if (to >= plane[face])
            return;
        plane[face] = to;
        Part.Faces[face].Cut(to, Rise());
    }

    /// <summary>Divisions that the dial has been moved on since it was zeroed.</summary>
    public long Divisions(int face) => (long)taken[face];

    /// <summary>
    /// Scratches a face a little beside a station, from its own first touch: where the scratch runs and how far, in degrees. Hardly any
    /// metal
    /// goes.
    /// </summary>
    /// <param name="face">Outer or inner face, or the bore.</param>
    /// <param name="station">Where the bit touches.</param>
    /// <param name="depth">Depth from the touch, mm.</param>
    /// <returns>Middle of the scratch and its extent; 360 where it closes to a ring.</returns>
    public (double Middle, double Extent) Scratch(int face, int station, double depth)
    {
        Span<double> spots = stackalloc double[WorkFace.Angles];
        Part.Faces[face].Turning(station, spots);
        var highest = double.MinValue;
        foreach (var h in spots)
            highest = Math.Max(highest, h);
        var plane = highest - chance.Exponential(work.TouchOvershoot) - depth;
        var (x, y, touched) = (0.0, 0.0, 0);
        for (var i = 0; i < WorkFace.Angles; i++)
        {
            if (spots[i] <= plane)
                continue;
            var (sin, cos) = Math.SinCos(i * 2 * Math.PI / WorkFace.Angles);
            (x, y, touched) = (x + cos, y + sin, touched + 1);
        }
        return (Math.Atan2(y, x) * 180 / Math.PI, touched * 360.0 / WorkFace.Angles);
    }

    /// <summary>Metal truly taken off a face, from its true first touch.</summary>
    public double Depth(int face) => touch[face] - plane[face];

    /// <summary>Metal that a face truly needs from its true first touch until all of it is clean.</summary>
    public double TrueNeed(int face) => touch[face] - Part.Faces[face].LowestToClean(Rise());

    /// <summary>How much higher the tool runs at each station than where it was touched.</summary>
    private double[] Rise() =>
        work.RiseOverBand == 0
            ? []
            : [.. Part.StationsMm.Select(at => work.RiseOverBand * (at - Part.StationsMm[touchedAt]) / Part.BandMm)];
}
