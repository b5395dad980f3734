using Microsoft.AspNetCore.Html;
using Uncial.Practice.Drills;
using Uncial.Simulation;
using Uncial.Web.Text;

namespace Uncial.Web.Charts;

/// <summary>A marking cast in iron: strokes that are worn are hardly seen until chalk is rubbed over them.</summary>
internal static class CastDrawing
{
    /// <summary>Strokes of each letter on a grid four wide and six high, from the top left.</summary>
    private static readonly Dictionary<char, string[]> Strokes = new()
    {
        ['0'] = ["0 1 1 0 3 0 4 1", "4 1 4 5", "4 5 3 6 1 6 0 5", "0 5 0 1"],
        ['1'] = ["1 1 2 0 2 6", "1 6 3 6"],
        ['2'] = ["0 1 1 0 3 0 4 1 4 2", "4 2 0 6", "0 6 4 6"],
        ['3'] = ["0 1 1 0 3 0 4 1 4 2 3 3", "2 3 3 3 4 4 4 5 3 6 1 6 0 5"],
        ['4'] = ["3 6 3 0", "3 0 0 4", "0 4 4 4"],
        ['5'] = ["4 0 0 0", "0 0 0 3", "0 3 1 2 3 2 4 3 4 5 3 6 1 6 0 5"],
        ['6'] = ["4 1 3 0 1 0 0 1", "0 1 0 5 1 6 3 6 4 5", "4 5 4 4 3 3 1 3 0 4"],
        ['7'] = ["0 0 4 0", "4 0 1 6"],
        ['8'] = ["1 3 0 2 0 1 1 0", "1 0 3 0 4 1 4 2 3 3", "1 3 0 4 0 5 1 6", "1 6 3 6 4 5 4 4 3 3 1 3"],
        ['9'] = ["4 2 3 3 1 3 0 2 0 1", "0 1 1 0 3 0 4 1", "4 1 4 5 3 6 1 6 0 5"],
        ['.'] = ["1.6 5.4 2.4 5.4 2.4 6.1 1.6 6.1 1.6 5.4"],
        ['A'] = ["0 6 2 0", "2 0 4 6", "1 4 3 4"],
        ['C'] = ["4 1 3 0 1 0 0 1", "0 1 0 5", "0 5 1 6 3 6 4 5"],
        ['D'] = ["0 0 0 6", "0 0 2 0 4 2 4 4 2 6 0 6"],
        ['H'] = ["0 0 0 6", "4 0 4 6", "0 3 4 3"],
        ['I'] = ["2 0 2 6"],
        ['M'] = ["0 6 0 0", "0 0 2 3 4 0", "4 0 4 6"],
        ['N'] = ["0 6 0 0", "0 0 4 6", "4 6 4 0"],
        ['O'] = ["0 1 1 0 3 0 4 1", "4 1 4 5", "4 5 3 6 1 6 0 5", "0 5 0 1"],
        ['R'] = ["0 6 0 0 3 0 4 1 4 2 3 3 0 3", "2 3 4 6"],
        ['S'] = ["4 1 3 0 1 0 0 1 0 2 1 3", "1 3 3 3 4 4 4 5 3 6 1 6 0 5"],
        ['T'] = ["0 0 4 0", "2 0 2 6"],
        ['X'] = ["0 0 4 6", "4 0 0 6"],
    };

    public static IHtmlContent Draw(DrillPicture.Casting casting)
    {
        ArgumentNullException.ThrowIfNull(casting);
        var svg = new Svg();
        var chance = new Chance(casting.Worn);
        svg.Add(
            $"<svg class='drawing casting-marks' viewBox='0 0 600 400' role='img' aria-label='{Words.Say("draw.castMarking")}' ",
            $"data-casting><path class='metal' d='M10 40H590V360H10Z'/>"
        );
        // Rust between the letters.
        for (var i = 0; i < 90; i++)
            svg.Add($"<circle class='rust' cx='{chance.Between(16, 584)}' cy='{chance.Between(46, 354)}' r='{chance.Between(2, 9)}'/>");
        var size = Math.Min(7.4, 550 / (casting.Lines.Max(l => l.Length) * 5.4));
        var y = 200 - casting.Lines.Count * size * 4.4;
        foreach (var line in casting.Lines)
        {
            var x = 300 - line.Length * size * 2.7 + size * 0.7;
            foreach (var letter in line)
            {
                foreach (var stroke in Strokes.GetValueOrDefault(letter) ?? [])
                {
                    // One stroke in three is worn, and one in ten nearly gone.
                    var worn = chance.Share() switch
                    {
                        < 0.1 => "is-gone",
                        < 0.36 => "is-worn",
                        _ => "",
                    };
                    svg.Add($"<path class='cast {worn}' stroke-width='{size * 0.8}' d='M{Path(stroke, x, y, size)}'/>");
                }
                x += size * 5.4;
            }
            y += size * 9;
        }
        return svg.Add($"</svg>").Html();
    }

    private static Raw Path(string stroke, double x, double y, double size)
    {
        var at = stroke.Split(' ').Select(n => double.Parse(n, System.Globalization.CultureInfo.InvariantCulture)).ToArray();
        return new(string.Join('L', at.Chunk(2).Select(p => Polar.P((x + p[0] * size, y + p[1] * size)))));
    }
}
