using System.Globalization;
using Uncial.Core.Lengths;

namespace Uncial.Core.Cutting;

/// <summary>
/// One line that a lathe's read-out sends: what its dials stand at and whether its spindle turns, such as
/// <c>NOW outer=0.14 inner=0.10 unit=mm spindle=on rpm=150 feed=on way=out</c>. The protocol is described in docs/formats/lathe-line.md.
/// </summary>
/// <param name="IsHello">It only introduces itself; the figures mean nothing.</param>
/// <param name="Dials">Where the dials stand from their zero: outer then inner bit, or the boring bar alone.</param>
/// <param name="Unit">Unit of the dials.</param>
/// <param name="SpindleTurns">The spindle turns.</param>
/// <param name="TurnsPerMinute">How fast; null where the lathe does not say.</param>
/// <param name="Feeds">The feed is in.</param>
/// <param name="FeedsInwards">It feeds towards the middle of a rotor or into a drum; null where the lathe does not say.</param>
public sealed record LatheLine(
    bool IsHello,
    IReadOnlyList<Length> Dials,
    LengthUnit Unit,
    bool SpindleTurns,
    int? TurnsPerMinute,
    bool Feeds,
    bool? FeedsInwards = null
)
{
    private const int LongestLine = 200;
    private const decimal FarthestDial = 100m;

    /// <summary>Reads a line.</summary>
    /// <param name="line">The line without its end.</param>
    /// <returns>What it says, or null where it is none of ours.</returns>
    public static LatheLine? Read(string? line)
    {
        if (string.IsNullOrWhiteSpace(line) || line.Length > LongestLine)
            return null;
        var words = line.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        if (words[0] == "HELLO")
            return new(true, [], LengthUnit.Millimetre, false, null, false);
        if (words[0] != "NOW")
            return null;
        var figures = new Dictionary<string, string>(StringComparer.Ordinal);
        foreach (var pair in words.Skip(1))
            if (pair.Split('=', 2) is not [{ Length: > 0 } name, var value] || !figures.TryAdd(name, value))
                return null;
        LengthUnit? unit = figures.GetValueOrDefault("unit") switch
        {
            "mm" => LengthUnit.Millimetre,
            "in" => LengthUnit.Inch,
            _ => null,
        };
        if (unit is not { } of || Is(figures, "spindle") is not { } turns || Is(figures, "feed") is not { } feeds)
            return null;
        if (figures.TryGetValue("way", out var way) && way is not ("in" or "out"))
            return null;
        int? rpm = null;
        if (figures.TryGetValue("rpm", out var said))
        {
            if (!int.TryParse(said, NumberStyles.None, CultureInfo.InvariantCulture, out var n) || n > 10_000)
                return null;
            rpm = n;
        }
        List<Length> dials = [];
        foreach (var name in figures.ContainsKey("bar") ? new[] { "bar" } : ["outer", "inner"])
        {
            if (!figures.TryGetValue(name, out var text))
                continue;
            if (
                text.Length > 12
                || !decimal.TryParse(
                    text,
                    NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint,
                    CultureInfo.InvariantCulture,
                    out var figure
                )
                || Math.Abs(figure) > FarthestDial
            )
                return null;
            dials.Add(Length.From(figure, of));
        }
        return dials.Count == 0 ? null : new(false, dials, of, turns, rpm, feeds, way is null ? null : way == "in");
    }

    /// <summary>Writes the line as it is sent.</summary>
    public string Write()
    {
        if (IsHello)
            return "HELLO v=1";
        string At(Length dial) => dial.In(Unit).ToString("0.00###", CultureInfo.InvariantCulture);
        var dials = Dials.Count == 1 ? $"bar={At(Dials[0])}" : $"outer={At(Dials[0])} inner={At(Dials[1])}";
        var rpm = TurnsPerMinute is { } n ? string.Create(CultureInfo.InvariantCulture, $" rpm={n}") : "";
        var way =
            FeedsInwards is not { } inwards ? ""
            : inwards ? " way=in"
            : " way=out";
        return $"NOW {dials} unit={LengthText.Name(Unit)} spindle={(SpindleTurns ? "on" : "off")}{rpm} feed={(Feeds ? "on" : "off")}{way}";
    }

    private static bool? Is(Dictionary<string, string> figures, string name) =>
        figures.GetValueOrDefault(name) switch
        {
            "on" => true,
            "off" => false,
            _ => null,
        };
}
