using Uncial.Core.Parts;
using Uncial.Practice.Lessons;
using Uncial.Simulation;
using Uncial.Simulation.Held;
using Uncial.Simulation.Scales;

namespace Uncial.Practice.Jobs;

/// <summary>A pass as it truly was.</summary>
/// <param name="Taken">Metal taken off each face, mm of depth, where it was touched.</param>
/// <param name="Chatter">How it sounded.</param>
/// <param name="IsRuined">It ruined the part.</param>
public sealed record TruePass(IReadOnlyList<double> Taken, Chattering Chatter, bool IsRuined);

/// <summary>
/// A part, its gauges and a lathe, worked by deeds. The same lesson, seed and deeds come to the same metal everywhere, so a job is kept as
/// its deeds and carried on from them on any tablet.
/// </summary>
public sealed class VirtualBench
{
    private const double MinutesOfDeed = 0.5,
        MetresOfEdge = 4000;

    private readonly Lesson lesson;
    private readonly long seed;
    private readonly GaugeErrors[] errors;
    private readonly double[] shifted;
    private readonly DialWithPlay[] dials;
    private readonly double[] touch;
    private readonly double[] plane;
    private readonly bool[] isZeroed;
    private readonly double crackAt;
    private readonly List<TruePass> passes = [];
    private int deeds;
    private bool partIsClean;
    private bool adaptersAreClean;
    private Chattering chatter = new(0, HeardAs.Clean, 0);
    private double feed;
    private double wobble;
    private double wobbleAt;

    /// <summary>A bench on which nothing has been done.</summary>
    public VirtualBench(Lesson lesson, long seed)
    {
        ArgumentNullException.ThrowIfNull(lesson);
        (this.lesson, this.seed) = (lesson, seed);
        Part = lesson.Draw(seed);
        var chance = new Chance(unchecked(seed + 77));
        errors = [.. lesson.Gauges.Select(g => new GaugeErrors(g.BiasMm.Draw(chance), g.Design.InMillimetres(g.Design.Division) * 0.15))];
        shifted = [.. lesson.Gauges.Select(g => g.ShiftedMm.Draw(chance))];
        crackAt = chance.Between(0, 360);
        var faces = Part.Faces.Count;
        dials = [.. Enumerable.Range(0, faces).Select(_ => new DialWithPlay(lesson.Lathe.PlayMm))];
        (touch, plane, isZeroed) = (new double[faces], new double[faces], new bool[faces]);
        (partIsClean, adaptersAreClean) = (!lesson.Lathe.IsDirty, !lesson.Lathe.IsDirty);
        (EdgeWorn, ReachMm) = (lesson.Lathe.EdgeWorn, lesson.Lathe.ReachMm);
    }

    /// <summary>The part as it is now.</summary>
    public VirtualPart Part { get; }

    /// <summary>How warm it is.</summary>
    public Warmth Warmth { get; private set; }

    /// <summary>Minutes that have passed at the bench.</summary>
    public double Minutes { get; private set; }

    /// <summary>It is on the arbor.</summary>
    public bool IsMounted { get; private set; }

    /// <summary>A band is on it.</summary>
    public bool HasBand { get; private set; }

    /// <summary>How far the tool stands out, mm.</summary>
    public double ReachMm { get; private set; }

    /// <summary>How far the edges are worn, 0 … 1.</summary>
    public double EdgeWorn { get; private set; }

    /// <summary>A hand feels that the part is warm, kelvin above the room.</summary>
    public bool FeelsWarm => Warmth.Kelvin > 8;

    /// <summary>An eye sees a land on the edges.</summary>
    public bool EdgesLookWorn => EdgeWorn > 0.5;

    /// <summary>The part is ruined: a wrong lever, or a ring cut into it.</summary>
    public bool IsRuined { get; private set; }

    /// <summary>The passes as they truly were.</summary>
    public IReadOnlyList<TruePass> Passes => passes;

    /// <summary>Wobble of the set-up: what an indicator would swing beyond the part's own, mm.</summary>
    public double Wobble => 2 * wobble;

    /// <summary>How far somebody has shifted the datum of a gauge, and nobody has set it right, mm.</summary>
    public double ShiftedOf(int gauge) => shifted[gauge];

    /// <summary>The bench after deeds.</summary>
    public static VirtualBench After(Lesson lesson, long seed, IEnumerable<Deed> deeds)
    {
        ArgumentNullException.ThrowIfNull(deeds);
        VirtualBench bench = new(lesson, seed);
        foreach (var deed in deeds)
            bench.Do(deed);
        return bench;
    }

    /// <summary>
    /// What would be seen if a gauge were held so, or a face looked at so, next. Nothing is done: it may be asked as often as a hand moves.
    /// </summary>
    /// <param name="look">Holding a gauge, reading its standard or looking at a face.</param>
    /// <exception cref="ArgumentException">It changes something.</exception>
    public Seen Peek(Deed look)
    {
        if (
            look
            is not (Deed.HoldMicrometer or Deed.HoldBar or Deed.HoldIndicator or Deed.HoldDepthGauge or Deed.ReadStandard or Deed.LookAt)
        )
            throw new ArgumentException("It is more than a look.", nameof(look));
        var before = (deeds, Minutes, Warmth);
        var seen = Do(look);
        (deeds, Minutes, Warmth) = before;
        return seen;
    }

    /// <summary>Does something, and says what is seen.</summary>
    public Seen Do(Deed deed)
    {
        ArgumentNullException.ThrowIfNull(deed);
        // Each deed has a chance of its own: doing one thing more changes nothing of what came before.
        var chance = new Chance(unchecked(seed * 31 + ++deeds));
        Pass(MinutesOfDeed);
        return deed switch
        {
            Deed.CleanPart => Then(() => partIsClean = true),
            Deed.CleanAdapters => Then(() => adaptersAreClean = true),
            Deed.Mount mount => Mount(mount, chance),
            Deed.TurnOnArbor turn => OnTheArbor(() => Swing(wobble, wobbleAt - turn.Degrees * Math.PI / 180)),
            Deed.Dismount => Then(() => (IsMounted, HasBand) = (false, false)),
            Deed.HoldMicrometer hold => Held(hold.Gauge, 0, e => hold.Held.Shows(Part, e, Warmth.Kelvin, chance)),
            Deed.HoldBar hold => Held(hold.Gauge, hold.Start, e => hold.Held.Shows(Part, e, Warmth.Kelvin, chance)),
            Deed.HoldIndicator hold => Indicated(hold, chance),
            Deed.HoldDepthGauge hold => Held(hold.Gauge, 0, e => hold.Held.Shows(Part, e, chance)),
            Deed.ReadStandard read => Held(read.Gauge, 0, e => StandardOf(read.Gauge) + e.Bias + chance.Normal(e.Noise)),
            Deed.SetDatum set => Then(() => shifted[set.Gauge] = 0),
            Deed.LookAt look => new Seen.Face(Look(look)),
            Deed.Scratch scratch => Scratched(scratch, chance),
            Deed.ZeroAtTouch zero => OnTheArbor(() => Zero(zero.Face, chance)),
            Deed.SetDial set => OnTheArbor(() => SetDial(set)),
            Deed.Band band => OnTheArbor(() => HasBand = band.On),
            Deed.SetReach reach => Then(() => ReachMm = Math.Clamp(reach.Mm, 40, 160)),
            Deed.FreshEdges => Then(() => EdgeWorn = 0),
            Deed.Pass pass => Cut(pass, chance),
            Deed.Wait wait => Then(() => Pass(Math.Clamp(wait.Minutes, 0, 240))),
            _ => throw new ArgumentOutOfRangeException(nameof(deed), deed, "It is no deed."),
        };
    }

    /// <summary>Setting standard of a gauge, mm: what it must show.</summary>
    public double StandardOf(int gauge) => lesson.Gauges[gauge].Design is { From: > 0 } design ? design.InMillimetres(design.From) : 0;

    private static Seen.Done Then(Action act)
    {
        act();
        return new();
    }

    private Seen OnTheArbor(Action act) => IsMounted ? Then(act) : new Seen.NotNow("notMounted");

    private void Pass(double minutes)
    {
        Minutes += minutes;
        Warmth = Warmth.After(minutes);
    }

    private Seen Held(int gauge, double start, Func<GaugeErrors, double> shows)
    {
        var design = lesson.Gauges[gauge].Design;
        var size = design.InUnit(shows(errors[gauge]) + shifted[gauge]);
        var least = Math.Max(design.From, start);
        // What lies outside of its reach moves no hand and opens no spindle.
        if (size < least - design.Turn || size > design.To || design.Step > 0 && size - start > 10 * design.Turn)
            return new Seen.NotNow("outOfReach");
        return new Seen.Gauge(design.At(Math.Max(size, least), start));
    }

    private Seen Indicated(Deed.HoldIndicator hold, Chance chance)
    {
        if (!IsMounted)
            return new Seen.NotNow("notMounted");
        var design = lesson.Gauges[hold.Gauge].Design;
        var (low, high) = hold.Held.Swings(Part, errors[hold.Gauge], chance);
        // The indicator is preloaded by a turn or two; where it stands says nothing.
        var from = design.InMillimetres(design.Turn) * chance.Between(1.5, 3.5);
        return new Seen.Gauge(design.Swept(design.InUnit(from + low), design.InUnit(from + Math.Max(low, high))));
    }

    private Seen.Done Mount(Deed.Mount mount, Chance chance)
    {
        var (cone, cups) = (PracticeBoard.Cones[mount.Cone], PracticeBoard.Cups[mount.Cups]);
        var enters = (lesson.Part.HoleMm - cone.Least) / (cone.Greatest - cone.Least);
        var mounted = new Mounted(
            partIsClean,
            adaptersAreClean,
            cups.Outside > lesson.Part.FaceMm ? Seating.BeyondTheFace
                : cups.Recess <= cone.Greatest ? Seating.OnTheCone
                : Seating.Flat,
            enters is >= 0.2 and <= 0.8 ? Centring.HalfWay : Centring.Not,
            mount.NotchesMeet,
            Math.Min(cups.Outside, lesson.Part.FaceMm),
            lesson.Part.WebMm
        );
        var (amplitude, at) = SeatedPart.Wobble(mounted, Part.DiameterMm, chance);
        (IsMounted, HasBand) = (true, false);
        Swing(amplitude, at);
        return new();
    }

    private void Swing(double amplitude, double at)
    {
        (wobble, wobbleAt) = (amplitude, at);
        Part.Faces[0].Swing(amplitude, at);
        if (Part.Faces.Count > 1)
            Part.Faces[1].Swing(-amplitude, at);
        Array.Fill(isZeroed, false);
    }

    private Seen Scratched(Deed.Scratch scratch, Chance chance)
    {
        if (!IsMounted)
            return new Seen.NotNow("notMounted");
        Span<double> spots = stackalloc double[WorkFace.Angles];
        Part.Faces[scratch.Face].Turning(Part.ReadingStation, spots);
        var highest = double.MinValue;
        foreach (var h in spots)
            highest = Math.Max(highest, h);
        var depth = Math.Clamp(scratch.DepthMm, 0.005, 0.2) + chance.Exponential(0.002);
        var (x, y, touched) = (0.0, 0.0, 0);
        for (var i = 0; i < WorkFace.Angles; i++)
            if (spots[i] > highest - depth)
            {
                var (sin, cos) = Math.SinCos(i * 2 * Math.PI / WorkFace.Angles);
                (x, y, touched) = (x + cos, y + sin, touched + 1);
            }
        var middle = Math.Round(((Math.Atan2(y, x) * 180 / Math.PI + chance.Normal(2)) % 360 + 360) % 360 / 2) * 2 % 360;
        return new Seen.Arc(scratch.Face, middle, Math.Min(360, Math.Round(touched * 360.0 / WorkFace.Angles / 2) * 2));
    }

    private void Zero(int face, Chance chance)
    {
        var highest = Part.Faces[face].Extremes(Part.ReadingStation).Highest;
        Part.Faces[face].Cut(highest, byHand: true);
        (touch[face], plane[face]) = (highest - chance.Exponential(0.002), highest);
        dials[face].Zero();
        isZeroed[face] = true;
    }

    private void SetDial(Deed.SetDial set)
    {
        var depth = set.Divisions * lesson.Lathe.DivisionMm / (lesson.Lathe.CountsDiameter ? 2 : 1);
        if (set.FromBehind)
            dials[set.Face].TurnToFromBehind(depth);
        else
            dials[set.Face].TurnTo(depth);
    }

    private Seen Cut(Deed.Pass pass, Chance chance)
    {
        if (!IsMounted)
            return new Seen.NotNow("notMounted");
        if (!isZeroed.Any(z => z))
            return new Seen.NotNow("notZeroed");
        var worst = Part.WorstSize(grooves: false);
        var depths = Enumerable
            .Range(0, Part.Faces.Count)
            .Select(f => isZeroed[f] ? Math.Max(0, plane[f] - (touch[f] - dials[f].Slide)) : 0)
            .ToList();
        chatter = Chattering.Of(
            new(
                Part.Kind,
                depths.Max(),
                pass.FeedMm,
                pass.TurnsPerMinute,
                Part.DiameterMm,
                Part.Kind == PartKind.Rotor ? worst : 8,
                ReachMm,
                HasBand,
                EdgeWorn
            )
        );
        feed = pass.FeedMm;
        var ruins = !pass.LeverIsRight || pass.IsFeedLocked;
        List<double> taken = [];
        for (var f = 0; f < Part.Faces.Count; f++)
            taken.Add(isZeroed[f] ? CutFace(f, pass, depths[f], chance) : 0);
        IsRuined |= ruins;
        var metres = Math.PI * Part.DiameterMm / 1000 * Part.BandMm / Math.Max(0.02, pass.FeedMm);
        EdgeWorn = Math.Min(1, EdgeWorn + metres / MetresOfEdge);
        Pass(Part.BandMm / Math.Max(0.02, pass.FeedMm) / Math.Max(20, pass.TurnsPerMinute) * (pass.StoppedAt ?? 1));
        Warmth = Warmth.Cut(depths.Max(), EdgeWorn);
        passes.Add(new(taken, chatter, ruins));
        return new Seen.Heard(chatter.Heard, chatter.WavesPerTurn, ruins);
    }

    /// <summary>Cuts one face; returns the metal that truly went where it was touched.</summary>
    private double CutFace(int face, Deed.Pass pass, double depth, Chance chance)
    {
        var before = plane[face];
        if (!pass.LeverIsRight || pass.IsFeedLocked)
        {
            // The tool runs into the part, or stands and cuts a ring.
            Part.Faces[face].Cut(before - Math.Max(depth, 0) - 1.5, byHand: false, from: 1, until: 3);
            return 1.5;
        }
        // What is loose gives way under the cut, and never twice alike.
        var gives = pass.Loose * chance.Between(0.2, 0.5);
        var to = before - depth * Math.Max(0, 1 - 0.02 - gives);
        var until = pass.StoppedAt is { } share
            ? (int)Math.Ceiling(Part.StationsMm.Count * Math.Clamp(share, 0, 1))
            : Part.StationsMm.Count;
        if (to < before)
            Part.Faces[face].Cut(to, byHand: false, from: 0, until: until);
        if (pass.StoppedAt is null)
            plane[face] = Math.Min(before, to);
        return before - to;
    }

    private FacePicture Look(Deed.LookAt look)
    {
        var face = Part.Faces[look.Face];
        List<int> shades = [];
        List<bool> bright = [];
        for (var s = 0; s < face.Stations; s++)
        for (var i = 0; i < WorkFace.Angles; i++)
        {
            // Light from a side darkens what slopes away from it: in steps, as an eye tells shades apart.
            double Height(int angle, int station) =>
                face.Height((angle + WorkFace.Angles) % WorkFace.Angles, Math.Clamp(station, 0, face.Stations - 1));
            var (round, across) = (Height(i + 1, s) - Height(i - 1, s), Height(i, s + 1) - Height(i, s - 1));
            var (sin, cos) = Math.SinCos((look.LightDegrees - i * 360.0 / WorkFace.Angles) * Math.PI / 180);
            var lit = (face.IsBright(i, s) ? 7 : 4.5) + 40 * (round * sin + across * 0.3 * cos);
            shades.Add((int)Math.Clamp(Math.Round(lit), 0, 9));
            bright.Add(face.IsBright(i, s));
        }
        return new(
            face.Stations,
            WorkFace.Angles,
            shades,
            bright,
            passes.Count == 0 ? 0 : feed,
            chatter.WavesPerTurn,
            Crack(look.LightDegrees)
        );
    }

    /// <summary>A crack runs outwards; it throws a shadow only when the light comes across it.</summary>
    private int[] Crack(double light)
    {
        if (!lesson.Wear.HasCrack)
            return [];
        var across = Math.Abs(((light - crackAt - 90) % 180 + 270) % 180 - 90);
        var spot = (int)(crackAt / 360 * WorkFace.Angles);
        return across < 30 ? [.. Enumerable.Range(4, 5).Select(s => s * WorkFace.Angles + spot)] : [];
    }
}
