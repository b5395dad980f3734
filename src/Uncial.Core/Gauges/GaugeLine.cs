using System.Globalization;
using Uncial.Core.Lengths;

namespace Uncial.Core.Gauges;

/// <summary>What a line of a gauge says.</summary>
public enum GaugeWord
{
    /// <summary>It introduces itself.</summary>
    Hello,

    /// <summary>What it shows now; sent over and over, so that silence is noticed.</summary>
    Now,

    /// <summary>A reading that the operator sends: its button was pressed.</summary>
    Send,
}

/// <summary>
/// One line that a gauge sends: a word and its figures, such as <c>SEND n=17 value=24.313 unit=mm stable=yes battery=87</c>. The protocol
/// is
/// described in docs/formats/gauge-line.md.
/// </summary>
/// <param name="Word">What it says.</param>
/// <param name="Text">The figure as shown, without its unit; null in a <see cref="GaugeWord.Hello"/>.</param>
/// <param name="Unit">Unit of the figure.</param>
/// <param name="IsStable">The spindle rests.</param>
/// <param name="Battery">Charge in percent, 0 … 100; null where the gauge does not say.</param>
/// <param name="Number">Number of a sent reading, from 1 up; 0 otherwise.</param>
public sealed record GaugeLine(GaugeWord Word, string? Text, LengthUnit Unit, bool IsStable, int? Battery, long Number)
{
    /// <summary>
    /// What a gauge calls the time since it was switched on, in a <see cref="GaugeWord.Hello"/>: its numbers begin anew with it.
    /// </summary>
    public string? Session { get; init; }

    /// <summary>Longest line that is read, in characters.</summary>
    public const int LongestLine = 200;

    /// <summary>The figure with its unit, as an operator would type it.</summary>
    public string Typed => Text + LengthText.Name(Unit);

    /// <summary>Reads a line.</summary>
    /// <param name="line">The line without its end.</param>
    /// <returns>What it says, or null where it is none of ours.</returns>
    public static GaugeLine? Read(string? line)
    {
        if (string.IsNullOrWhiteSpace(line) || line.Length > LongestLine)
            return null;
        var words = line.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        GaugeWord? said = words[0] switch
        {
            "HELLO" => GaugeWord.Hello,
            "NOW" => GaugeWord.Now,
            "SEND" => GaugeWord.Send,
            _ => null,
        };
        if (said is not { } word)
            return null;
        var figures = new Dictionary<string, string>(StringComparer.Ordinal);
        foreach (var pair in words.Skip(1))
            if (pair.Split('=', 2) is not [{ Length: > 0 } name, var value] || !figures.TryAdd(name, value))
                return null;
        int? battery = figures.TryGetValue("battery", out var charge)
            ? Whole(charge) is >= 0 and <= 100 and var percent
                ? (int)percent
                : -1
            : null;
        if (battery < 0)
            return null;
        if (word == GaugeWord.Hello)
            return new(word, null, LengthUnit.Millimetre, false, battery, 0) { Session = figures.GetValueOrDefault("session") };
        LengthUnit? unit = figures.GetValueOrDefault("unit") switch
        {
            "mm" => LengthUnit.Millimetre,
            "in" => LengthUnit.Inch,
            _ => null,
        };
        bool? stable = figures.GetValueOrDefault("stable") switch
        {
            "yes" => true,
            "no" => false,
            _ => null,
        };
        var number = Whole(figures.GetValueOrDefault("n"));
        if (unit is null || stable is null || !figures.TryGetValue("value", out var text) || !IsFigure(text))
            return null;
        if (word == GaugeWord.Send && number is null or < 1)
            return null;
        return new(word, text, unit.Value, stable.Value, battery, word == GaugeWord.Send ? number!.Value : 0);
    }

    /// <summary>Writes the line as it is sent.</summary>
    public string Write()
    {
        var charge = Battery is { } b ? string.Create(CultureInfo.InvariantCulture, $" battery={b}") : "";
        var rest = $"value={Text} unit={LengthText.Name(Unit)} stable={(IsStable ? "yes" : "no")}{charge}";
        return Word switch
        {
            GaugeWord.Hello => $"HELLO v=1 session={Session}{charge}",
            GaugeWord.Send => string.Create(CultureInfo.InvariantCulture, $"SEND n={Number} {rest}"),
            _ => "NOW " + rest,
        };
    }

    private static bool IsFigure(string text) =>
        text.Length is > 0 and <= 13
        && decimal.TryParse(text, NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out _)
        && text[0] != '+'
        && text[^1] != '.';

    private static long? Whole(string? text) =>
        long.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var whole) ? whole : null;
}
