using Uncial.Core.Parts;

namespace Uncial.Core.Measuring;

/// <summary>Where a part is read once round.</summary>
public static class ReadingPlaces
{
    private const decimal HalfHour = 15;

    /// <summary>
    /// The places that are proposed. Eight or more of a rotor, and the axes of a drum, are spread evenly. Three to seven even ones would be
    /// blind to as many waves as there are places, so every second one is moved half an hour back: 12, 3½, 8 instead of 12, 4, 8.
    /// </summary>
    /// <param name="kind">Rotor, read all round, or drum, read across.</param>
    /// <param name="count">Number of places, 1 or more.</param>
    /// <returns>Degrees from the index mark, clockwise, ascending.</returns>
    public static IReadOnlyList<decimal> Around(PartKind kind, int count)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(count, 1);
        var even = Even(kind, count);
        if (kind == PartKind.Drum || count is < 3 or >= RotorAssessment.FullRound)
            return even;
        return [.. even.Select((degrees, i) => Math.Round((degrees - (i % 2 == 1 ? HalfHour : 0)) / HalfHour) * HalfHour)];
    }

    /// <summary>Places spread evenly.</summary>
    public static IReadOnlyList<decimal> Even(PartKind kind, int count)
    {
        var circle = kind == PartKind.Drum ? 180m : 360m;
        return [.. Enumerable.Range(0, count).Select(i => i * circle / count)];
    }
}
