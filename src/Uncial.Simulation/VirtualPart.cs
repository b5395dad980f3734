using Uncial.Core.Parts;

namespace Uncial.Simulation;

/// <summary>
/// A part as metal: the two faces of a rotor, or the bore of a drum. Its sizes are taken off the metal; no formula of the product is
/// used, so
/// it can be the yardstick for all of them.
/// </summary>
public sealed partial class VirtualPart
{
    private const int Half = WorkFace.Angles / 2;

    private readonly WorkFace[] faces;

    private VirtualPart(PartKind kind, Sizes sizes, WorkFace[] faces, double[] stationsMm) =>
        (Kind, Limits, this.faces, StationsMm) = (kind, sizes, faces, stationsMm);

    /// <summary>Limits as its maker states them, millimetres.</summary>
    /// <param name="Nominal">Size when new.</param>
    /// <param name="MachineTo">Size down (rotor) or up (drum) to which it may be machined; null where none is stated.</param>
    /// <param name="Discard">Size past which it is scrap.</param>
    public readonly record struct Sizes(double Nominal, double? MachineTo, double Discard);

    /// <summary>Rotor or drum.</summary>
    public PartKind Kind { get; }

    /// <summary>Its limits.</summary>
    public Sizes Limits { get; }

    /// <summary>Outer and inner face, or the bore.</summary>
    public IReadOnlyList<WorkFace> Faces => faces;

    /// <summary>Radius (rotor) or depth from the open edge (drum) of each station, mm.</summary>
    public IReadOnlyList<double> StationsMm { get; }

    /// <summary>Width of the swept band, mm: from ridge to ridge.</summary>
    public double BandMm => StationsMm[^1] - StationsMm[0];

    /// <summary>Largest diameter that is cut, mm.</summary>
    public double DiameterMm => Kind == PartKind.Rotor ? 2 * StationsMm[^1] : Limits.Nominal;

    /// <summary>The station at which it is measured and touched: 25 mm in from the edge of a rotor, in the middle of a drum.</summary>
    public int ReadingStation => Kind == PartKind.Rotor ? RotorReading : DrumMiddle;

    /// <summary>The land that lies nearest to a radius or depth.</summary>
    public int StationAt(double mm)
    {
        var nearest = ReadingStation;
        for (var s = 0; s < StationsMm.Count; s++)
            if (faces[0].At(s) == Ground.Land && Math.Abs(StationsMm[s] - mm) < Math.Abs(StationsMm[nearest] - mm))
                nearest = s;
        return nearest;
    }

    /// <summary>The same metal once more.</summary>
    public VirtualPart Copy() => new(Kind, Limits, Array.ConvertAll(faces, f => f.Copy()), [.. StationsMm]);

    /// <summary>Thickness or diameter at a spot.</summary>
    public double SizeAt(int angle, int station) =>
        Kind == PartKind.Rotor
            ? faces[0].Height(angle, station) + faces[1].Height(angle, station)
            : -(faces[0].Height(angle % WorkFace.Angles, station) + faces[0].Height((angle + Half) % WorkFace.Angles, station));

    /// <summary>Its worst size by the metal itself: least thickness, largest diameter.</summary>
    /// <param name="grooves">Also at the bottom of grooves.</param>
    public double WorstSize(bool grooves)
    {
        var worst = Kind == PartKind.Rotor ? double.MaxValue : double.MinValue;
        for (var station = 0; station < StationsMm.Count; station++)
        {
            if (faces[0].At(station) == Ground.Ridge || (!grooves && faces[0].At(station) == Ground.Groove))
                continue;
            for (var i = 0; i < (Kind == PartKind.Rotor ? WorkFace.Angles : Half); i++)
            {
                var size = SizeAt(i, station);
                worst = Kind == PartKind.Rotor ? Math.Min(worst, size) : Math.Max(worst, size);
            }
        }
        return worst;
    }

    /// <summary>How far its worst size is inside a limit; negative past it.</summary>
    public double Inside(double limit, bool grooves = false) => (Kind == PartKind.Rotor ? 1 : -1) * (WorstSize(grooves) - limit);
}
