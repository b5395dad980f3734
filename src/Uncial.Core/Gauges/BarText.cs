using System.Globalization;
using Uncial.Core.Lengths;

namespace Uncial.Core.Gauges;

/// <summary>The starts of a bar as one line of text: a list, or <c>6 to 16 by 0.25</c>.</summary>
public static class BarText
{
    /// <summary>Most starts that a bar has.</summary>
    public const int MostStarts = 400;

    /// <summary>Reads the starts.</summary>
    /// <param name="text">Figures with a space between, or <c>from to to</c> with or without <c>by step</c>.</param>
    /// <param name="unit">Unit of the bar.</param>
    /// <returns>The starts, ascending; null where the text is none, or holds none or too many.</returns>
    public static IReadOnlyList<Length>? Read(string? text, LengthUnit unit)
    {
        var words = (text ?? "").Split([' ', ';'], StringSplitOptions.RemoveEmptyEntries);
        List<Length> starts = [];
        if (words is [var from, "to", var to, ..])
        {
            var by =
                words is [_, _, _, "by", var step] ? Figure(step)
                : words.Length == 3 ? 1m
                : null;
            if (
                Figure(from) is not { } least
                || Figure(to) is not { } most
                || by is not { } each
                || most < least
                || (most - least) / each > MostStarts
            )
                return null;
            for (var at = least; at <= most; at += each)
                starts.Add(Length.From(at, unit));
        }
        else
        {
            foreach (var word in words)
                if (Figure(word) is { } at)
                    starts.Add(Length.From(at, unit));
                else
                    return null;
        }
        return starts.Count is 0 or > MostStarts ? null : [.. starts.Distinct().Order()];

        static decimal? Figure(string word) =>
            decimal.TryParse(word.Replace(',', '.'), NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var figure)
            && figure is > 0 and <= 2000
                ? figure
                : null;
    }

    /// <summary>Writes the starts; evenly spaced ones as a span.</summary>
    public static string Write(IReadOnlyList<Length> starts, LengthUnit unit)
    {
        ArgumentNullException.ThrowIfNull(starts);
        string Figure(Length length) => length.In(unit).ToString("0.######", CultureInfo.InvariantCulture);
        if (starts.Count < 3)
            return string.Join(' ', starts.Select(Figure));
        var step = starts[1] - starts[0];
        for (var i = 2; i < starts.Count; i++)
            if (starts[i] - starts[i - 1] != step)
                return string.Join(' ', starts.Select(Figure));
        return $"{Figure(starts[0])} to {Figure(starts[^1])} by {Figure(step)}";
    }
}
