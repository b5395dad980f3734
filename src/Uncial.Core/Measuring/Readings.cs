using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Reasoning;

namespace Uncial.Core.Measuring;

/// <summary>One reading of a size: a rotor's thickness at a place and radius, or a drum's diameter on an axis at a depth.</summary>
/// <param name="At">Place around the part; for a drum only its axis counts.</param>
/// <param name="Station">Radius (rotor) or depth from the open edge (drum); null where only one station is read.</param>
/// <param name="Size">Thickness or inside diameter.</param>
public readonly record struct Reading(ClockAngle At, Length? Station, Length Size);

/// <summary>The readings of one radius or one depth.</summary>
internal sealed class StationReadings
{
    public StationReadings(Length? station, Reading[] readings, PartKind kind)
    {
        (Station, Readings) = (station, readings);
        (Least, Greatest) = (readings[0].Size, readings[0].Size);
        var places = new decimal[readings.Length];
        var sizes = new Length[readings.Length];
        for (var i = 0; i < readings.Length; i++)
        {
            var (at, _, size) = readings[i];
            if (size < Least)
                Least = size;
            if (size > Greatest)
                Greatest = size;
            (places[i], sizes[i]) = (kind == PartKind.Rotor ? at.Degrees : at.Axis, size);
        }
        Array.Sort(places, sizes);
        Spots = Merge(places, sizes);
    }

    public Length? Station { get; }

    public IReadOnlyList<Reading> Readings { get; }

    /// <summary>Distinct places (degrees, ascending) with their repeats averaged.</summary>
    public (decimal Degrees, Length Size)[] Spots { get; }

    public Length Least { get; }

    public Length Greatest { get; }

    public Length Spread => Greatest - Least;

    public Length SpotMean
    {
        get
        {
            var sum = Length.Zero;
            foreach (var (_, size) in Spots)
                sum += size;
            return sum / Spots.Length;
        }
    }

    public Term[] SpotTerms => Array.ConvertAll(Spots, s => (Term)s.Size);

    public decimal WidestGap(decimal circle) => ClockAngle.WidestGap(Spots, circle);

    /// <summary>Fits the given harmonics to the spots.</summary>
    public HarmonicFit? Fit(params ReadOnlySpan<int> orders)
    {
        Span<(double, double)> places = Spots.Length <= 64 ? stackalloc (double, double)[Spots.Length] : new (double, double)[Spots.Length];
        for (var i = 0; i < places.Length; i++)
            places[i] = ((double)Spots[i].Degrees * Math.PI / 180, (double)Spots[i].Size.Millimetres);
        return HarmonicFit.Solve(places, orders);
    }

    /// <summary>The readings by station, in order of radius or depth.</summary>
    public static StationReadings[] Of(IReadOnlyList<Reading> readings, PartKind kind)
    {
        var first = readings[0].Station;
        var one = true;
        for (var i = 1; i < readings.Count && one; i++)
            one = readings[i].Station == first;
        return one
            ? [new(first, [.. readings], kind)]
            :
            [
                .. readings
                    .GroupBy(r => r.Station)
                    .OrderBy(g => g.Key?.Millimetres ?? -1)
                    .Select(g => new StationReadings(g.Key, [.. g], kind)),
            ];
    }

    /// <summary>The sizes of all readings as terms of a step.</summary>
    public static Term[] TermsOf(IReadOnlyList<Reading> readings)
    {
        var terms = new Term[readings.Count];
        for (var i = 0; i < terms.Length; i++)
            terms[i] = readings[i].Size;
        return terms;
    }

    private static (decimal, Length)[] Merge(decimal[] places, Length[] sizes)
    {
        var distinct = 1;
        for (var i = 1; i < places.Length; i++)
            if (places[i] != places[i - 1])
                distinct++;
        var spots = new (decimal, Length)[distinct];
        for (int i = 0, spot = 0; i < places.Length; spot++)
        {
            var (start, sum) = (i, Length.Zero);
            for (; i < places.Length && places[i] == places[start]; i++)
                sum += sizes[i];
            spots[spot] = (places[start], i - start == 1 ? sum : sum / (i - start));
        }
        return spots;
    }
}
