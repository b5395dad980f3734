using Microsoft.AspNetCore.Html;
using Uncial.Core.Lengths;
using Uncial.Core.Planning;
using Uncial.Web.Text;

namespace Uncial.Web.Charts;

/// <summary>The collars of the lathe's dials, and the clocks on which what is dark is tapped.</summary>
internal static class LatheDrawing
{
    private const double Cy = 182,
        R = 130;

    /// <summary>A collar for each tool, turned to where it shall stand.</summary>
    public static IHtmlContent Dials(HeadDial dial, IReadOnlyList<(string Name, Length Setting)> tools)
    {
        var svg = new Svg();
        svg.Add(
            $"<svg class='drawing dials' viewBox='0 0 600 352' role='img' aria-label='",
            $"{Words.Say("draw.dials", string.Join(", ", tools.Select(t => t.Name + " " + DialText.Of(dial, t.Setting))))}'>"
        );
        for (var i = 0; i < tools.Count; i++)
            Dial(
                svg,
                dial,
                i,
                tools.Count == 1 ? 300
                    : i == 0 ? 154
                    : 446,
                tools[i].Name,
                tools[i].Setting
            );
        return svg.Add($"</svg>").Html();
    }

    private static void Dial(Svg svg, HeadDial dial, int index, double cx, string name, Length setting)
    {
        var perTurn = dial.DivisionsPerTurn;
        var divisions = (double)(setting / dial.Division);
        var on = divisions % perTurn;
        var turns = (int)(divisions / perTurn);
        svg.Add(
            $"<text x='{cx}' y='20' text-anchor='middle' font-size='20' font-weight='650'>",
            $"{name}{(turns > 0 ? Words.Say(turns == 1 ? "draw.fullTurnAnd" : "draw.fullTurnsAnd", turns) : "")}</text><circle cx='{cx}' ",
            $"cy='{Cy}' ",
            $"r='{R}' fill='var(--sheet)' stroke='var(--iron-3)' stroke-width='2'/>"
        );
        if (on > 0)
            svg.Add(
                $"<path d='{Polar.Arc(cx, Cy, R - 12, 0, on / perTurn * 12)}' stroke='var(--blue-fill)' stroke-width='22' fill='none'/>"
            );
        for (var i = 0; i < perTurn; i++)
        {
            var (hour, major) = (i * 12.0 / perTurn, i % 5 == 0);
            svg.Add(
                $"<path d='M{Polar.P(Polar.At(cx, Cy, R - 1, hour))}L{Polar.P(Polar.At(cx, Cy, R - (major ? 23 : 13), hour))}' ",
                $"stroke='{(i <= on && on > 0 ? "var(--on-blue)" : "var(--ink)")}' stroke-width='{(major ? 2.2 : 1.2)}'/>"
            );
            if (i % (perTurn > 60 ? 20 : 10) != 0)
                continue;
            var p = Polar.At(cx, Cy, R - 38, hour);
            svg.Add($"<text x='{p.X}' y='{p.Y + 6}' text-anchor='middle' font-size='17' class='fig q' font-weight='600'>{i}</text>");
        }
        var pointer = on / perTurn * 12;
        svg.Add(
            $"<path ",
            $"d='M{Polar.P(Polar.At(cx, Cy, R + 2, pointer))}L{Polar.P(Polar.At(cx, Cy, R + 22, pointer - 0.22))}L",
            $"{Polar.P(Polar.At(cx, Cy, R + 22, pointer + 0.22))}Z' ",
            $"fill='var(--ink)'/>"
        );
        // Where a read-out says that the dial stands now; placed and shown by what the server sends.
        svg.Add(
            $"<g data-live-dial='{index}' data-cx='{cx}' data-cy='{Cy}' visibility='hidden'><path d='M{cx} {Cy - R + 1}l-9 21h18Z' ",
            $"fill='var(--brass)' stroke='var(--ink)' stroke-width='1.5'/></g>"
        );
        var text = DialText.Of(dial, setting);
        var unit = LengthText.Name(dial.Unit);
        svg.Add(
            $"<text x='{cx}' y='{Cy - 32}' text-anchor='middle' font-size='16' class='q'>",
            $"{(dial.CountsDiameter ? Words.Say("draw.ofDiameter", unit) : Words.Say("draw.turnedIn") + unit)}</text>",
            $"<text x='{cx - 4}' y='{Cy + 46}' text-anchor='middle' class='fig' font-weight='700' ",
            $"font-size='{(text.Length > 5 ? 54 : text.Length > 4 ? 66 : 86)}' letter-spacing='-7'>{text}</text><text ",
            $"class='in-brass' data-live-says='{index}' x='{cx}' y='{Cy - 58}' text-anchor='middle' font-size='18' font-weight='700'>",
            $"</text>"
        );
    }

    /// <summary>A clock for each side; a sector is dark or clean, and a tap turns it.</summary>
    public static IHtmlContent Clocks(IReadOnlyList<(string Name, string Field, int Dark)> sides) =>
        Clocks(sides, Words.Say("draw.dark"), Words.Say("draw.whichTwelfthsAreStillDark"));

    /// <summary>The same for another thing that lies in twelfths, with its word.</summary>
    public static IHtmlContent Clocks(IReadOnlyList<(string Name, string Field, int Dark)> sides, string word, string question)
    {
        var svg = new Svg();
        svg.Add($"<svg class='drawing' viewBox='0 0 600 352' role='group' aria-label='{question}'>");
        for (var i = 0; i < sides.Count; i++)
        {
            var (cx, (name, field, dark)) = (
                sides.Count == 1 ? 300.0
                : i == 0 ? 152
                : 448,
                sides[i]
            );
            svg.Add(
                $"<text x='{cx}' y='30' text-anchor='middle' font-size='20' font-weight='650'>{name}</text><g data-face='{field}' ",
                $"role='group' aria-label='{name}'>"
            );
            for (var hour = 0; hour < 12; hour++)
            {
                var isDark = (dark & 1 << hour) != 0;
                var at = Polar.At(cx, Cy, 101, hour);
                svg.Add(
                    $"<g class='sector' role='button' tabindex='0' aria-pressed='{(isDark ? "true" : "false")}' aria-label='{name}, ",
                    $"{(hour == 0 ? 12 : hour)} {word}'><path d='{Polar.Sector(cx, Cy, 66, R, hour - 0.47, hour + 0.47)}'/><text ",
                    $"x='{at.X}' y='{at.Y + 5}' text-anchor='middle'>{(hour == 0 ? 12 : hour)}</text> <text class='word' x='{at.X}' ",
                    $"y='{at.Y + 21}' text-anchor='middle'>{word}</text></g>"
                );
            }
            svg.Add(
                $"<text data-count='' x='{cx}' y='{Cy + 2}' text-anchor='middle' class='fig' font-size='40' font-weight='650' ",
                $"letter-spacing='-2'>{System.Numerics.BitOperations.PopCount((uint)dark)}</text><text x='{cx}' y='{Cy + 24}' ",
                $"text-anchor='middle' font-size='16' class='q'>{Words.Say("draw.of", word)}</text></g>"
            );
        }
        return svg.Add($"</svg>").Html();
    }
}
