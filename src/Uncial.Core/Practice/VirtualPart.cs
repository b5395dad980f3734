using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Core.Practice;

/// <summary>
/// A part as metal: the two faces of a rotor, or the bore of a drum. Its sizes are taken off the metal; no formula of the product is used,
/// so it can be the yardstick for all of them.
/// </summary>
public sealed class VirtualPart
{
    private const int Half = WorkFace.Angles / 2;

    private readonly WorkFace[] faces;

    private VirtualPart(PartKind kind, Limits limits, WorkFace[] faces, double[] stationsMm) =>
        (Kind, Limits, this.faces, StationsMm) = (kind, limits, faces, stationsMm);

    /// <summary>Rotor or drum.</summary>
    public PartKind Kind { get; }

    /// <summary>Its limits.</summary>
    public Limits Limits { get; }

    /// <summary>Outer and inner face, or the bore.</summary>
    public IReadOnlyList<WorkFace> Faces => faces;

    /// <summary>Radius (rotor) or depth from the open edge (drum) of each station, mm.</summary>
    public IReadOnlyList<double> StationsMm { get; }

    /// <summary>The station at which it is measured and touched: about 25 mm in from the edge of a rotor, near the open edge of a drum.</summary>
    public int ReadingStation => Kind == PartKind.Rotor ? 5 : 1;

    /// <summary>The land in the middle of the band.</summary>
    public const int MiddleStation = 3;

    /// <summary>The land at the back of a drum.</summary>
    public const int BackStation = 5;

    /// <summary>The same metal once more.</summary>
    public VirtualPart Copy() => new(Kind, Limits, Array.ConvertAll(faces, f => f.Copy()), [.. StationsMm]);

    /// <summary>Thickness or diameter at a spot.</summary>
    public double SizeAt(int angle, int station) => Kind == PartKind.Rotor
        ? faces[0].Height(angle, station) + faces[1].Height(angle, station)
        : -(faces[0].Height(angle % WorkFace.Angles, station) + faces[0].Height((angle + Half) % WorkFace.Angles, station));

    /// <summary>Its worst size by the metal itself: least thickness, largest diameter.</summary>
    /// <param name="grooves">Also at the bottom of grooves.</param>
    public double WorstSize(bool grooves)
    {
        var worst = Kind == PartKind.Rotor ? double.MaxValue : double.MinValue;
        for (var station = 0; station < StationsMm.Count; station++)
        {
            if (faces[0].At(station) == Ground.Ridge || (!grooves && faces[0].At(station) == Ground.Groove)) continue;
            for (var i = 0; i < (Kind == PartKind.Rotor ? WorkFace.Angles : Half); i++)
            {
                var size = SizeAt(i, station);
                worst = Kind == PartKind.Rotor ? Math.Min(worst, size) : Math.Max(worst, size);
            }
        }
        return worst;
    }

    /// <summary>How far its worst size is inside a limit; negative past it.</summary>
    public double Inside(Length limit, bool grooves = false) =>
        (Kind == PartKind.Rotor ? 1 : -1) * (WorstSize(grooves) - (double)limit.Millimetres);

    /// <summary>A worn rotor. Distributions are written down in the product's document on computation.</summary>
    /// <param name="chance">Chance to draw by.</param>
    /// <param name="borderline">Worn to within a few hundredths of discard, where a verdict is hardest.</param>
    public static VirtualPart Rotor(Chance chance, bool borderline = false)
    {
        ArgumentNullException.ThrowIfNull(chance);
        var nominal = chance.OneOf<double>([10, 12, 20, 22, 24, 26, 28, 32]);
        var wearable = nominal < 20 ? 1.5 : 2.0;
        var thickness = borderline ? nominal - wearable + chance.Between(-0.03, 0.08) : nominal - wearable * chance.Between(0.05, 1.08);
        Ground[] ground = [Ground.Ridge, Ground.Land, Ground.Groove, Ground.Land, Ground.Groove, Ground.Land, Ground.Land, Ground.Ridge];
        var edge = chance.Between(110, 170);
        double[] stations = [edge - 54, edge - 48, edge - 42, edge - 36, edge - 30, edge - 24, edge - 6, edge];
        var faces = new WorkFace[2];
        for (var f = 0; f < 2; f++)
        {
            faces[f] = new(ground, [.. stations.Select(r => r / edge)]);
            for (var s = 0; s < ground.Length; s++) faces[f].Shape(s, thickness / 2);
        }
        // The wobble of both faces together is no thickness; what each face has for itself is.
        var (common, commonAt) = (chance.Rayleigh(0.025) / 2, chance.Direction());
        var rough = chance.Happens(0.1) ? 3 : 1;
        for (var f = 0; f < 2; f++)
        {
            var (one, two, more) = (rough * chance.Rayleigh(0.006) / 2, rough * chance.Rayleigh(0.004) / 2, chance.Rayleigh(0.0015) / 2);
            var (oneAt, twoAt, moreAt, lobes) = (chance.Direction(), chance.Direction(), chance.Direction(), 3 + (int)(chance.Share() * 4));
            for (var s = 0; s < ground.Length; s++)
            {
                faces[f].Shape(s, (f == 0 ? common : -common) * stations[s] / edge, 1, commonAt);
                faces[f].Shape(s, one, 1, oneAt);
                faces[f].Shape(s, two, 2, twoAt);
                faces[f].Shape(s, more, lobes, moreAt);
            }
            Wear(faces[f], ground, chance, touched: 5);
        }
        return new(PartKind.Rotor, LimitsOf(PartKind.Rotor, nominal, nominal - wearable), faces, stations);
    }

    /// <summary>A worn drum. Distributions are written down in the product's document on computation.</summary>
    /// <param name="chance">Chance to draw by.</param>
    /// <param name="borderline">Worn to within a few tenths of discard, where a verdict is hardest.</param>
    public static VirtualPart Drum(Chance chance, bool borderline = false)
    {
        ArgumentNullException.ThrowIfNull(chance);
        var nominal = chance.OneOf<double>([160, 180, 200, 203.2, 228.6, 254, 280]);
        const double wearable = 1.5;
        var diameter = borderline ? nominal + wearable - chance.Between(-0.05, 0.20) : nominal + wearable * chance.Between(0.02, 1.08);
        Ground[] ground = [Ground.Ridge, Ground.Land, Ground.Groove, Ground.Land, Ground.Groove, Ground.Land, Ground.Ridge];
        double[] stations = [0, 8, 14, 20, 26, 34, 40];
        var bore = new WorkFace(ground, [1, 1, 1, 1, 1, 1, 1]);
        var (oval, ovalAt) = ((chance.Happens(0.1) ? 3 : 1) * chance.Rayleigh(0.06) / 4, chance.Direction());
        var (odd, oddAt, four, fourAt) = (chance.Rayleigh(0.006) / 2, chance.Direction(), chance.Rayleigh(0.004) / 2, chance.Direction());
        var (off, offAt) = (chance.Rayleigh(0.015), chance.Direction());
        var (mouth, belly) = (chance.Normal(0.025), chance.Normal(0.01));
        for (var s = 0; s < ground.Length; s++)
        {
            var along = stations[s] / 20 - 1; // −1 at the open edge, 1 at the back
            bore.Shape(s, -(diameter / 2 - mouth * along / 2 + belly * (1 - along * along)));
            bore.Shape(s, -oval, 2, ovalAt);
            bore.Shape(s, -odd, 3, oddAt);
            bore.Shape(s, -four, 4, fourAt);
            bore.Shape(s, -off, 1, offAt);
        }
        Wear(bore, ground, chance, touched: 1);
        return new(PartKind.Drum, LimitsOf(PartKind.Drum, nominal, nominal + wearable), [bore], stations);
    }

    /// <summary>Grooves, ridges, and lands that lie lower or stand higher than the touched one.</summary>
    private static void Wear(WorkFace face, Ground[] ground, Chance chance, int touched)
    {
        for (var s = 0; s < ground.Length; s++)
        {
            if (ground[s] == Ground.Ridge) face.Shape(s, chance.Between(0.1, 1.0));
            if (ground[s] == Ground.Groove && chance.Happens(0.5)) face.Shape(s, -Math.Min(0.4, chance.Exponential(0.06)));
            if (ground[s] == Ground.Land && s != touched && chance.Happens(0.5)) face.Shape(s, Math.Clamp(chance.Normal(0.02), -0.08, 0.08));
        }
    }

    private static Limits LimitsOf(PartKind kind, double nominal, double discard) => Limits.Create(
        kind, Length.FromMillimetres((decimal)nominal), null, Length.FromMillimetres((decimal)discard), ShopRules.Default).Limits!;
}
