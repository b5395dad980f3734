using Microsoft.AspNetCore.Html;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Web.Text;

namespace Uncial.Web.Charts;

/// <summary>The lathe from above with the part on it: its locks, each with its number, the band, and which way it feeds.</summary>
internal static class LatheTop
{
    /// <summary>As it must stand for a kind of part.</summary>
    public static IHtmlContent Draw(Lathe lathe, PartKind kind, bool hasBand)
    {
        var rotor = kind == PartKind.Rotor;
        return Draw(
            lathe,
            kind,
            hasBand,
            [.. lathe.Locks.Select(l => rotor ? l.TightForRotor : l.TightForDrum)],
            rotor ? lathe.RotorLever : lathe.DrumLever
        );
    }

    /// <summary>As it stands: which locks are tight, and where the lever points.</summary>
    public static IHtmlContent Draw(Lathe lathe, PartKind kind, bool hasBand, IReadOnlyList<bool> isTight, string lever)
    {
        var svg = new Svg();
        var rotor = kind == PartKind.Rotor;
        var locks = lathe.Locks.Select((l, i) => $"{i + 1} {l.Name} {Words.Say(isTight[i] ? "draw.tight" : "draw.free")}");
        svg.Add(
            $"<svg class='lathe-top' viewBox='0 0 330 252' role='img' aria-label='",
            $"{Words.Say("draw.fromAboveFeeds", lathe.Name, lever, string.Join(", ", locks))}'>"
        );
        var spots =
            lathe.Kind == LatheKind.Grinder ? Grinder(svg)
            : rotor ? Rotor(svg, lathe, hasBand)
            : Drum(svg, lathe, hasBand);
        var (x, y, dx, dy) =
            lathe.Kind == LatheKind.Grinder ? (200.0, 40.0, -1, 0)
            : rotor ? (186.0, 252.0, 0, -1)
            : (214.0, 240.0, 1, 0);
        if (lathe.Kind != LatheKind.Grinder && rotor)
            svg.Add(
                $"<path d='M{x} 250V226M{x - 8} 234L{x} 225L{x + 8} 234' class='blue-line' fill='none' stroke-width='3'/><text ",
                $"class='in-blue' x='{x + 14}' y='246' font-size='15' font-weight='700'{Svg.Fit(Words.Say("draw.feeds", lever), 126, 15)}>",
                $"{Words.Say("draw.feeds", lever)}</text>"
            );
        else
            svg.Add(
                $"<path d='M{x} {y}h{dx * 26}m{-dx * 9} -8l{dx * 9} 8l{-dx * 9} 8' class='blue-line' fill='none' stroke-width='3'/>",
                $"<text class='in-blue' x='{(dx > 0 ? x - 8 : x - 36)}' y='{y + 5 + dy}' text-anchor='end' font-size='15' ",
                $"font-weight='700'>{Words.Say("draw.feeds", lever)}</text>"
            );
        var free = 0;
        for (var i = 0; i < lathe.Locks.Count; i++)
        {
            var (name, tight) = (lathe.Locks[i].Name, isTight[i]);
            var at = spots
                .Where(s => s.Words.Any(w => name.Contains(w, StringComparison.OrdinalIgnoreCase)))
                .Select(s => s.At)
                .FirstOrDefault();
            if (at == default)
                at = (30 + 46 * free++, 232);
            svg.Add(
                $"{Marks.In(tight ? "tight" : "loose", at.X, at.Y, 24)}<text x='{at.X + 15}' y='{at.Y - 8}' font-size='15' ",
                $"font-weight='700' class='fig'>{i + 1}</text>"
            );
        }
        return svg.Add($"</svg>").Html();
    }

    private static (string[] Words, (double X, double Y) At)[] Rotor(Svg svg, Lathe lathe, bool hasBand)
    {
        svg.Add(
            $"<path d='M10 46h92v96h-92Z' class='casting'/><text x='56' y='74' text-anchor='middle' font-size='15' class='q'>",
            $"{Words.Say(lathe.Kind == LatheKind.Engine ? "draw.chuck" : "draw.spindle")}</text><path d='M102 78h56v34h-56Z' ",
            $"class='casting'/><path ",
            $"d='M146 64l26 8v46l-26 8ZM216 64l-26 8v46l26 8Z' class='casting'/><path d='M216 82h34v26h-34Z' class='casting'/><path ",
            $"d='M96 95h170' class='hair' stroke-dasharray='12 4 3 4'/>"
        );
        svg.Add($"<path d='M172 20h18v140h-18Z' class='casting-2 edge'/>");
        if (hasBand)
            svg.Add(
                $"<path d='M168 10h26M168 16h26M168 22h26' stroke='var(--brass)' stroke-width='4'/><text x='202' y='21' ",
                $"font-size='15' class='q'>{Words.Say("draw.band")}</text>"
            );
        if (lathe.TwinCutter)
            svg.Add(
                $"<path d='M172 140l-9 -6v12ZM190 140l9 -6v12Z' fill='var(--blue)'/><path d='M142 133h21v14h-21ZM199 133h21v14h-21Z' ",
                $"fill='var(--ink)'/><path d='M132 147h28v44h-28ZM202 147h28v44h-28Z' class='casting'/>"
            );
        else
            svg.Add(
                $"<path d='M190 140l9 -6v12Z' fill='var(--blue)'/><path d='M199 133h21v14h-21Z' fill='var(--ink)'/><path d='M202 ",
                $"147h28v44h-28Z' class='casting'/>"
            );
        svg.Add(
            $"<path d='M88 190h194v32h-194Z' class='casting'/><text x='176' y='211' text-anchor='middle' font-size='15' class='q'>",
            $"{Words.Say("draw.crossSlide")}</text>"
        );
        return
        [
            (["cutter", "top slide", "tool"], (216, 172)),
            (["spindle", "carriage"], (56, 112)),
            (["cross-feed", "cross feed"], (264, 206)),
            (["cross"], (106, 206)),
        ];
    }

    private static (string[] Words, (double X, double Y) At)[] Drum(Svg svg, Lathe lathe, bool hasBand)
    {
        svg.Add(
            $"<path d='M10 62h80v86h-80Z' class='casting'/><text x='50' y='84' text-anchor='middle' font-size='15' class='q'>",
            $"{Words.Say(lathe.Kind == LatheKind.Engine ? "draw.chuck" : "draw.spindle")}</text><path d='M90 90h30v30h-30Z' ",
            $"class='casting'/>"
        );
        svg.Add(
            $"<path d='M120 30H216V44H130V166H216V180H120Z' class='casting-2 edge'/><path d='M90 105h150' class='hair' ",
            $"stroke-dasharray='12 4 3 4'/>"
        );
        if (hasBand)
            svg.Add(
                $"<path d='M196 24v-8M203 24v-8M210 24v-8' stroke='var(--brass)' stroke-width='4'/><path d='M192 25h24' ",
                $"stroke='var(--brass)' stroke-width='5'/><text x='222' y='25' font-size='15' class='q'>{Words.Say("draw.band")}</text>"
            );
        svg.Add(
            $"<path d='M180 166l-7 -10h14Z' fill='var(--blue)'/><path d='M172 144h92v12h-92Z' fill='var(--ink)'/><path d='M258 ",
            $"128h34v44h-34Z' class='casting'/><path d='M268 172h14v18h-14Z' class='casting'/><path d='M222 190h88v30h-88Z' ",
            $"class='casting'/><text x='265' y='238' text-anchor='middle' font-size='15' class='q'>{Words.Say("draw.slide")}</text>"
        );
        return
        [
            (["cutter", "top slide", "tool"], (275, 150)),
            (["spindle", "carriage"], (50, 122)),
            (["cross-feed", "cross feed"], (292, 205)),
            (["cross"], (238, 205)),
        ];
    }

    private static (string[] Words, (double X, double Y) At)[] Grinder(Svg svg)
    {
        svg.Add(
            $"<path d='M40 176h250v40h-250Z' class='casting'/><text x='60' y='201' font-size='15' class='q'>{Words.Say("draw.table")}",
            $"</text><path d='M90 ",
            $"160h150v16h-150Z' class='casting-2 edge'/><path d='M165 120v100' class='hair' stroke-dasharray='12 4 3 4'/><path ",
            $"d='M186 96h70v64h-70Z' fill='var(--blue-wash)' class='edge'/><path d='M206 50h30v46h-30Z' class='casting'/><path ",
            $"d='M256 20h34v156h-34Z' class='casting'/><text x='221' y='132' text-anchor='middle' ",
            $"font-size='15'>{Words.Say("draw.wheel")}</text>"
        );
        return [(["table", "magnet"], (264, 196)), (["column"], (273, 40))];
    }
}
