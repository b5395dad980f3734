using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Parts;

namespace Uncial.Core.Planning;

/// <summary>
/// The surface of one side once round, as depth below first touch: its shape from the readings (thin lies deep), its height from the
/// figures
/// (run-out, groove, relief). A picture of what is known, for drawing: where readings say nothing of the shape, one high and one low side
/// are drawn, as the clean share is computed.
/// </summary>
public sealed class SurfaceProfile
{
    /// <summary>Places once round at which a profile is given.</summary>
    public const int Places = 96;

    private readonly SideNeed side;
    private readonly double[][] shapes;

    private SurfaceProfile(SideNeed side, IReadOnlyList<Length?> stations, double[][] shapes, bool shapeIsRead)
    {
        (this.side, Stations, this.shapes, ShapeIsRead) = (side, stations, shapes, shapeIsRead);
        Touched = 0;
    }

    /// <summary>Stations across the band, in the order given; one that is null where the place is not asked.</summary>
    public IReadOnlyList<Length?> Stations { get; }

    /// <summary>The shape comes from readings; otherwise one high and one low side are assumed.</summary>
    public bool ShapeIsRead { get; }

    /// <summary>The station whose land first touch was on, by its place in <see cref="Stations"/>: the highest one.</summary>
    public int Touched { get; private init; }

    /// <summary>Makes the profile of a side.</summary>
    /// <param name="kind">Rotor or drum.</param>
    /// <param name="side">What the side needs.</param>
    /// <param name="readings">Sizes as read; may be empty.</param>
    public static SurfaceProfile Of(PartKind kind, SideNeed side, IReadOnlyList<Reading> readings)
    {
        ArgumentNullException.ThrowIfNull(readings);
        var stations = readings.Select(r => r.Station).Distinct().OrderBy(s => s?.Millimetres ?? 0).ToList();
        if (stations.Count == 0)
            stations.Add(null);
        var circle = kind == PartKind.Drum ? 180m : 360m;
        var (shapes, read) = (new double[stations.Count][], false);
        for (var s = 0; s < shapes.Length; s++)
        {
            var places = readings
                .Where(r => r.Station == stations[s])
                .GroupBy(r => r.At.Degrees % circle)
                .Select(g => (Degrees: (double)g.Key, Low: (kind == PartKind.Rotor ? -1 : 1) * (double)g.Average(r => r.Size.Millimetres)))
                .OrderBy(p => p.Degrees)
                .ToList();
            var spread = places.Count < 3 ? 0 : places.Max(p => p.Low) - places.Min(p => p.Low);
            shapes[s] = spread > 0 ? Around(places, (double)circle, places.Min(p => p.Low), spread) : Assumed();
            read |= spread > 0;
        }
        double Mean(int s) =>
            readings.Where(r => r.Station == stations[s]).Select(r => (double)r.Size.Millimetres).DefaultIfEmpty(0).Average();
        var touched = Enumerable.Range(0, stations.Count).MaxBy(s => kind == PartKind.Rotor ? Mean(s) : -Mean(s));
        return new(side, stations, shapes, read) { Touched = touched };
    }

    /// <summary>Depth of the lands below first touch at a station, once round.</summary>
    /// <param name="station">Place in <see cref="Stations"/>.</param>
    public IReadOnlyList<double> Lands(int station)
    {
        var runout = (double)(side.Runout ?? Length.Max(Length.Zero, side.Need - side.Groove - side.Relief)).Millimetres;
        // The touched station lies highest; relief is how far the lowest lies below it.
        var relief = Stations.Count > 1 && station != Touched ? (double)side.Relief.Millimetres : 0;
        var done = (double)side.Done.Millimetres;
        return Array.ConvertAll(shapes[station], u => Math.Max(0, relief + runout * u - done));
    }

    /// <summary>Depth of the groove's floor, once round: groove under the lowest land.</summary>
    public IReadOnlyList<double> GrooveFloor =>
        Array.ConvertAll(shapes[Touched], u =>
            Math.Max(
                0,
                (double)(side.Relief + side.Groove - side.Done).Millimetres
                    + (double)(side.Runout ?? Length.Max(Length.Zero, side.Need - side.Groove - side.Relief)).Millimetres * u
            )
        );

    /// <summary>
    /// Which pass cleans each place of a row: its place in the plan from 0, or −1 where it stays dark after all.
    /// </summary>
    /// <param name="depths">Depths of the row, as given here.</param>
    /// <param name="ends">Depth from first touch at which each pass ends on this side, ascending.</param>
    public static IReadOnlyList<int> CleanedBy(IReadOnlyList<double> depths, IReadOnlyList<Length> ends)
    {
        ArgumentNullException.ThrowIfNull(depths);
        ArgumentNullException.ThrowIfNull(ends);
        const double rounding = 1e-9;
        var result = new int[depths.Count];
        for (var i = 0; i < result.Length; i++)
        {
            result[i] = -1;
            for (var p = 0; p < ends.Count && result[i] < 0; p++)
                if ((double)ends[p].Millimetres > 0 && (double)ends[p].Millimetres + rounding >= depths[i])
                    result[i] = p;
        }
        return result;
    }

    private static double[] Assumed() => [.. Enumerable.Range(0, Places).Select(i => (1 - Math.Cos(2 * Math.PI * i / Places)) / 2)];

    /// <summary>
    /// Readings joined by half waves, so that no place lies beyond its neighbours: 0 at the highest land, 1 at the lowest.
    /// </summary>
    private static double[] Around(List<(double Degrees, double Low)> places, double circle, double least, double spread)
    {
        var shape = new double[Places];
        for (var i = 0; i < Places; i++)
        {
            var at = i * 360.0 / Places % circle;
            var next = places.FindIndex(p => p.Degrees > at);
            var (a, b) = next <= 0 ? (places[^1], places[0]) : (places[next - 1], places[next]);
            var gap = (b.Degrees - a.Degrees + circle) % circle;
            var way = gap == 0 ? 0 : (at - a.Degrees + circle) % circle / gap;
            shape[i] = (a.Low + (b.Low - a.Low) * (1 - Math.Cos(Math.PI * way)) / 2 - least) / spread;
        }
        return shape;
    }
}
