using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Core.Measuring;

/// <summary>One reading of a size: a rotor's thickness at a place and radius, or a drum's diameter on an axis at a depth.</summary>
/// <param name="At">Place around the part; for a drum only its axis counts.</param>
/// <param name="Station">Radius (rotor) or depth from the open edge (drum); null where only one station is read.</param>
/// <param name="Size">Thickness or inside diameter.</param>
public readonly record struct Reading(ClockAngle At, Length? Station, Length Size);

/// <summary>The readings of one radius or one depth.</summary>
internal sealed class StationReadings
{
    public StationReadings(Length? station, IEnumerable<Reading> readings, PartKind kind)
    {
        Station = station;
        Readings = [.. readings];
        Spots = [.. Readings.GroupBy(r => kind == PartKind.Rotor ? r.At.Degrees : r.At.Axis)
            .OrderBy(g => g.Key)
            .Select(g => (g.Key, Mean(g.Select(r => r.Size))))];
        Least = Readings.Min(r => r.Size);
        Greatest = Readings.Max(r => r.Size);
    }

    public Length? Station { get; }

    public IReadOnlyList<Reading> Readings { get; }

    /// <summary>Distinct places (degrees, ascending) with their repeats averaged.</summary>
    public IReadOnlyList<(decimal Degrees, Length Size)> Spots { get; }

    public Length Least { get; }

    public Length Greatest { get; }

    public Length Spread => Greatest - Least;

    public Length SpotMean => Mean(Spots.Select(s => s.Size));

    public decimal WidestGap(decimal circle) => ClockAngle.WidestGap([.. Spots.Select(s => s.Degrees)], circle);

    /// <summary>Fits the given harmonics to the spots.</summary>
    public HarmonicFit? Fit(params int[] orders)
    {
        var places = new (double, double)[Spots.Count];
        for (var i = 0; i < places.Length; i++) places[i] = ((double)Spots[i].Degrees * Math.PI / 180, (double)Spots[i].Size.Millimetres);
        return HarmonicFit.Solve(places, orders);
    }

    public static StationReadings[] Of(IReadOnlyList<Reading> readings, PartKind kind) =>
        [.. readings.GroupBy(r => r.Station).OrderBy(g => g.Key?.Millimetres ?? -1).Select(g => new StationReadings(g.Key, g, kind))];

    private static Length Mean(IEnumerable<Length> sizes)
    {
        var (sum, count) = (Length.Zero, 0);
        foreach (var size in sizes) (sum, count) = (sum + size, count + 1);
        return sum / count;
    }
}
