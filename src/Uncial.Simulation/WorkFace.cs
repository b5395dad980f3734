namespace Uncial.Simulation;

/// <summary>What lies at a station of a face.</summary>
public enum Ground
{
    /// <summary>A land: where one measures and touches.</summary>
    Land,

    /// <summary>The bottom of a groove.</summary>
    Groove,

    /// <summary>A rust ridge or lip, which the lining never wipes.</summary>
    Ridge,
}

/// <summary>
/// A face of a rotor or the bore of a drum as metal: heights in millimetres over angle and station, counted out of the metal towards the
/// tool
/// (in a bore: less the radius), and which spots a tool has made bright. It knows nothing of run-out, needs or bounds.
/// </summary>
public sealed class WorkFace
{
    /// <summary>Spots once round: every 5°.</summary>
    public const int Angles = 72;

    /// <summary>Deepest groove that counts as gone: a finger-nail passes over it.</summary>
    public const double SmoothGroove = 0.020;

    private const int Quarter = Angles * 3 / 4; // cos(x + 270°) = sin x

    private static readonly double[] Cosines = [.. Enumerable.Range(0, Angles).Select(i => Math.Cos(i * 2 * Math.PI / Angles))];

    private readonly double[] heights;
    private readonly double[] pits;
    private readonly double[] hardness;
    private readonly bool[] bright;
    private readonly Ground[] ground;
    private readonly double[] reach;
    private double tilt;
    private double tiltAt;

    /// <summary>A face at height 0.</summary>
    /// <param name="ground">What lies at each station.</param>
    /// <param name="reach">How much of a wobble each station swings, 0 … 1: its radius over the edge's on a rotor, 1 in a bore.</param>
    public WorkFace(Ground[] ground, double[] reach)
    {
        ArgumentNullException.ThrowIfNull(ground);
        (this.ground, this.reach) = (ground, reach);
        heights = new double[ground.Length * Angles];
        (pits, hardness, bright) = (new double[heights.Length], new double[heights.Length], new bool[heights.Length]);
    }

    private WorkFace(WorkFace other)
    {
        (ground, reach, tilt, tiltAt) = (other.ground, other.reach, other.tilt, other.tiltAt);
        (heights, pits, hardness, bright) = ([.. other.heights], [.. other.pits], [.. other.hardness], [.. other.bright]);
    }

    /// <summary>Number of stations.</summary>
    public int Stations => ground.Length;

    /// <summary>What lies at a station.</summary>
    public Ground At(int station) => ground[station];

    /// <summary>Height at a spot, in the part's own frame.</summary>
    public double Height(int angle, int station) => heights[station * Angles + angle];

    /// <summary>A tool has been over the spot.</summary>
    public bool IsBright(int angle, int station) => bright[station * Angles + angle];

    /// <summary>The same metal once more.</summary>
    public WorkFace Copy() => new(this);

    /// <summary>Raises or lowers one station all round by a wave: <c>amount · cos(lobes · θ − phase)</c>, or evenly for no lobes.</summary>
    public void Shape(int station, double amount, int lobes = 0, double phase = 0)
    {
        var (cos, sin) = (amount * Math.Cos(phase), amount * Math.Sin(phase));
        for (var i = 0; i < Angles; i++)
        {
            var turn = lobes * i % Angles;
            heights[station * Angles + i] += lobes == 0 ? amount : cos * Cosines[turn] + sin * Cosines[(turn + Quarter) % Angles];
        }
    }

    /// <summary>Rust has eaten a patch: lands lie lower there by a depth.</summary>
    /// <param name="from">First spot.</param>
    /// <param name="spots">Spots that it spans, 1 or more.</param>
    /// <param name="station">Its station.</param>
    /// <param name="depth">Depth below the land beside it, mm.</param>
    public void Corrode(int from, int spots, int station, double depth)
    {
        if (ground[station] != Ground.Land)
            return;
        for (var i = from; i < from + spots; i++)
            pits[station * Angles + i % Angles] = depth;
        for (var i = from; i < from + spots; i++)
            heights[station * Angles + i % Angles] -= depth;
    }

    /// <summary>A patch is harder than the rest: the tool rides up on it and leaves it standing.</summary>
    /// <param name="from">First spot.</param>
    /// <param name="spots">Spots that it spans.</param>
    /// <param name="station">Its station.</param>
    /// <param name="left">What a pass leaves standing there, mm.</param>
    public void Harden(int from, int spots, int station, double left)
    {
        for (var i = from; i < from + spots; i++)
            hardness[station * Angles + i % Angles] = left;
    }

    /// <summary>
    /// Mounts the face anew: as the spindle turns, its edge swings by so much to either side, highest at an angle in radians.
    /// </summary>
    public void Swing(double amplitude, double at) => (tilt, tiltAt) = (amplitude, at);

    /// <summary>Adds to the swing that is there.</summary>
    public void SwingMore(double amplitude, double at)
    {
        var (x, y) = (tilt * Math.Cos(tiltAt) + amplitude * Math.Cos(at), tilt * Math.Sin(tiltAt) + amplitude * Math.Sin(at));
        (tilt, tiltAt) = (Math.Sqrt(x * x + y * y), Math.Atan2(y, x));
    }

    /// <summary>Half of the swing of the edge and where it is highest, radians.</summary>
    public (double Amplitude, double At) Swinging => (tilt, tiltAt);

    /// <summary>Height of a spot as the spindle turns.</summary>
    public double Turning(int angle, int station) => heights[station * Angles + angle] + reach[station] * Wobble(angle);

    /// <summary>Heights of a whole station as the spindle turns.</summary>
    /// <param name="station">The station.</param>
    /// <param name="spots">Room for <see cref="Angles"/> heights.</param>
    public void Turning(int station, Span<double> spots)
    {
        Wobbles(spots);
        for (var i = 0; i < Angles; i++)
            spots[i] = heights[station * Angles + i] + reach[station] * spots[i];
    }

    /// <summary>The highest and the lowest of a station as the spindle turns.</summary>
    public (double Highest, double Lowest) Extremes(int station)
    {
        var (high, low) = (double.MinValue, double.MaxValue);
        Span<double> spots = stackalloc double[Angles];
        Turning(station, spots);
        foreach (var h in spots)
        {
            if (h > high)
                high = h;
            if (h < low)
                low = h;
        }
        return (high, low);
    }

    /// <summary>The tool takes away whatever stands above its path, all round and at every station.</summary>
    /// <param name="plane">Height of the tool as the spindle turns, at the station where it was touched.</param>
    /// <param name="rise">How much higher the tool runs at each station, where it does not run parallel; empty where it does.</param>
    /// <param name="byHand">Only takes ridges and whatever else stands high; leaves no surface that counts as cut.</param>
    /// <param name="from">First station that it goes over.</param>
    /// <param name="until">Station before which it stops: a step is left there.</param>
    public void Cut(double plane, ReadOnlySpan<double> rise = default, bool byHand = false, int from = 0, int until = int.MaxValue)
    {
        Span<double> wobble = stackalloc double[Angles];
        Wobbles(wobble);
        for (var station = from; station < Math.Min(until, ground.Length); station++)
        {
            var path = plane + (rise.IsEmpty ? 0 : rise[station]);
            for (var i = 0; i < Angles; i++)
            {
                var at = station * Angles + i;
                var left = path - reach[station] * wobble[i] + (byHand ? 0 : hardness[at]);
                if (heights[at] <= left)
                    continue;
                heights[at] = left;
                bright[at] = !byHand;
            }
        }
    }

    /// <summary>Twelfths that are dark somewhere on a land: bit 0 is from 0° to 30°.</summary>
    public int DarkSectors()
    {
        const int each = Angles / 12;
        var dark = 0;
        for (var station = 0; station < ground.Length; station++)
            if (ground[station] == Ground.Land)
                for (var i = 0; i < Angles; i++)
                    if (!bright[station * Angles + i])
                        dark |= 1 << (i / each);
        return dark;
    }

    /// <summary>Twelfths that are bright on every land.</summary>
    public int CleanSectors() => 12 - System.Numerics.BitOperations.PopCount((uint)DarkSectors());

    /// <summary>Every land is bright, and of grooves no more is left than a finger-nail passes over.</summary>
    public bool IsClean() => DarkSectors() == 0 && GrooveLeft() < SmoothGroove;

    /// <summary>Depth of the deepest groove that is still dark, below the land beside it; 0 where none is.</summary>
    public double GrooveLeft()
    {
        var deepest = 0.0;
        for (var station = 1; station < ground.Length; station++)
        {
            if (ground[station] != Ground.Groove)
                continue;
            for (var i = 0; i < Angles; i++)
                if (!bright[station * Angles + i])
                    deepest = Math.Max(deepest, heights[(station - 1) * Angles + i] - heights[station * Angles + i]);
        }
        return deepest;
    }

    /// <summary>
    /// What a straightedge laid along the face shows at its worst place: from the level of a station down to the lowest land that is dark
    /// there,
    /// patches of rust included; 0 where none lies lower.
    /// </summary>
    public double ReliefLeft(int from)
    {
        var most = 0.0;
        for (var station = 0; station < ground.Length; station++)
        {
            if (ground[station] != Ground.Land)
                continue;
            for (var i = 0; i < Angles; i++)
                if (!bright[station * Angles + i])
                {
                    // The straightedge lies beside a pit, not in it.
                    var level = heights[from * Angles + i] + (bright[from * Angles + i] ? 0 : pits[from * Angles + i]);
                    most = Math.Max(most, level - heights[station * Angles + i]);
                }
        }
        return most;
    }

    /// <summary>The lowest land or groove that a clean face must reach, as the spindle turns.</summary>
    /// <param name="rise">How much higher the tool runs at each station; empty where it runs parallel.</param>
    public double LowestToClean(ReadOnlySpan<double> rise = default)
    {
        var lowest = double.MaxValue;
        for (var station = 0; station < ground.Length; station++)
            if (ground[station] != Ground.Ridge)
                lowest = Math.Min(lowest, Extremes(station).Lowest - (rise.IsEmpty ? 0 : rise[station]));
        return lowest;
    }

    private double Wobble(int angle) => tilt == 0 ? 0 : tilt * Math.Cos(angle * 2 * Math.PI / Angles - tiltAt);

    private void Wobbles(Span<double> wobble)
    {
        var (cos, sin) = (tilt * Math.Cos(tiltAt), tilt * Math.Sin(tiltAt));
        for (var i = 0; i < Angles; i++)
            wobble[i] = cos * Cosines[i] + sin * Cosines[(i + Quarter) % Angles];
    }
}
