using System.Globalization;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Core.Gauges;

/// <summary>
/// The bar of a drum gauge that is set at a start and read on a dial: the diameter is the start plus the dial. The start is one of a row of
/// stations, or a whole inch with so many eighth marks.
/// </summary>
public sealed class Bar
{
    private readonly bool eighths;

    private Bar(IEnumerable<Length> starts, Length reach, LengthUnit unit, bool eighths)
    {
        if (reach <= Length.Zero)
            throw new ArgumentOutOfRangeException(nameof(reach), reach, "A dial reaches further than nothing.");
        (Starts, Reach, Unit, this.eighths) = ([.. starts.Distinct().Order()], reach, unit, eighths);
        if (Starts.Count == 0 || Starts[0] <= Length.Zero)
            throw new ArgumentException("A bar has starts above 0.", nameof(starts));
    }

    /// <summary>Where it can be set, ascending.</summary>
    public IReadOnlyList<Length> Starts { get; }

    /// <summary>How far the dial reads from a start.</summary>
    public Length Reach { get; }

    /// <summary>Unit of the bar and of its dial.</summary>
    public LengthUnit Unit { get; }

    /// <summary>A bar with a row of stations.</summary>
    /// <param name="stations">The stations, above 0, in any order.</param>
    /// <param name="reach">How far the dial reads, above 0.</param>
    /// <param name="unit">Unit of stations and dial.</param>
    public static Bar WithStations(IEnumerable<Length> stations, Length reach, LengthUnit unit) => new(stations, reach, unit, false);

    /// <summary>A bar with inches on both sides and eighth marks between.</summary>
    /// <param name="least">Least whole inch, 1 or more.</param>
    /// <param name="most">Greatest whole inch, not under the least and not over 78.</param>
    /// <param name="reach">How far the dial reads, above 0.</param>
    public static Bar WithEighths(int least, int most, Length reach)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(least, 1);
        ArgumentOutOfRangeException.ThrowIfGreaterThan(most, 78);
        ArgumentOutOfRangeException.ThrowIfLessThan(most, least);
        return new(
            Enumerable.Range(least * 8, (most - least) * 8 + 1).Select(n => Length.FromInches(n / 8m)),
            reach,
            LengthUnit.Inch,
            true
        );
    }

    /// <summary>
    /// The start to set for a drum: the highest below its discard limit from which the dial still reaches that limit. Where the new size is
    /// known, a start above it is passed over: the dial of a drum with little wear would stand below zero.
    /// </summary>
    /// <param name="limits">Limits of the drum.</param>
    /// <returns>The start, or null where the bar does not fit the drum.</returns>
    public Length? StartFor(Limits limits)
    {
        ArgumentNullException.ThrowIfNull(limits);
        Length? best = null,
            readable = null;
        foreach (var start in Starts)
        {
            if (start >= limits.Discard || limits.Discard - start > Reach)
                continue;
            best = start;
            if (limits.Nominal is not { } nominal || start <= nominal)
                readable = start;
        }
        return readable ?? best;
    }

    /// <summary>The starts next to one, for the eye: the nearest on both sides, ascending.</summary>
    /// <param name="around">A start of this bar.</param>
    /// <param name="each">How many on each side.</param>
    public IReadOnlyList<Length> Near(Length around, int each)
    {
        var at = 0;
        while (at < Starts.Count - 1 && Starts[at] < around)
            at++;
        var from = Math.Max(0, Math.Min(at - each, Starts.Count - 2 * each - 1));
        return [.. Starts.Skip(from).Take(2 * each + 1)];
    }

    /// <summary>What is engraved at a start: <c>9.75</c>, <c>230</c>, or <c>8 7/8</c>.</summary>
    public string Name(Length start)
    {
        if (!eighths)
            return start.In(Unit).ToString(Unit == LengthUnit.Inch ? "0.00##" : "0.##", CultureInfo.InvariantCulture);
        var marks = (int)(start.Inches * 8);
        var (whole, rest) = (marks / 8, marks % 8);
        var (over, under) =
            rest % 4 == 0 ? (rest / 4, 2)
            : rest % 2 == 0 ? (rest / 2, 4)
            : (rest, 8);
        return rest == 0
            ? whole.ToString(CultureInfo.InvariantCulture)
            : string.Create(CultureInfo.InvariantCulture, $"{whole} {over}/{under}");
    }

    /// <summary>
    /// Writes start and dial as one sum that the parser reads, such as <c>8 7/8 + 132t</c>. On an inch dial a bare whole number counts
    /// thousandths, as its numerals do; with a point it is inches. On a millimetre dial a bare number is millimetres.
    /// </summary>
    /// <param name="start">A start of this bar.</param>
    /// <param name="dial">The dial as typed; a leading minus is below zero.</param>
    public string Write(Length start, string dial)
    {
        ArgumentNullException.ThrowIfNull(dial);
        var text = dial.Trim();
        var below = text.StartsWith('-');
        if (below)
            text = text[1..].TrimStart();
        if (Unit == LengthUnit.Inch && text.Length is > 0 and <= 3 && text.All(char.IsAsciiDigit))
            text += "t";
        // The unit behind the start keeps "9 - 1/8" from being the mixed number.
        return below ? $"{Name(start)}{LengthText.Name(Unit)} - {text}" : $"{Name(start)} + {text}";
    }

    /// <summary>
    /// Whether a size lies on the dial when the bar is set at a start; a hundredth of the reach below zero is allowed for play.
    /// </summary>
    public bool IsOnDial(Length start, Length size) => size - start >= -Reach / 100 && size - start <= Reach;
}
