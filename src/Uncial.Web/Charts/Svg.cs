using System.Globalization;
using System.Net;
using System.Text;
using Microsoft.AspNetCore.Html;

namespace Uncial.Web.Charts;

/// <summary>Writes SVG. Geometry only: every figure that is shown comes ready from Core.</summary>
internal sealed class Svg
{
    private readonly StringBuilder text = new();

    public Svg Add(FormattableString markup)
    {
        // Numbers in the invariant culture at two decimals, text escaped; markup itself is ours.
        var arguments = markup
            .GetArguments()
            .Select(a =>
                a switch
                {
                    double d => (object)N(d),
                    Raw raw => raw.Markup,
                    string s => WebUtility.HtmlEncode(s),
                    _ => a ?? "",
                }
            )
            .ToArray();
        text.AppendFormat(CultureInfo.InvariantCulture, markup.Format, arguments);
        return this;
    }

    /// <summary>Adds markup in parts, one after the other.</summary>
    public Svg Add(FormattableString first, params FormattableString[] more)
    {
        Add(first);
        foreach (var markup in more)
            Add(markup);
        return this;
    }

    public Svg Add(Raw raw)
    {
        text.Append(raw.Markup);
        return this;
    }

    public Raw ToRaw() => new(text.ToString());

    public IHtmlContent Html() => new HtmlString(text.ToString());

    /// <summary>
    /// Sets the letters of a text closer where it would be longer than its room; nothing where it fits. How long it is is estimated: half
    /// its size a letter and a little more.
    /// </summary>
    public static Raw Fit(string word, double room, double size)
    {
        ArgumentNullException.ThrowIfNull(word);
        return new(word.Length * size * 0.54 > room ? $" textLength='{N(room)}' lengthAdjust='spacingAndGlyphs'" : "");
    }

    public static string N(double value) => Math.Round(value, 2).ToString("0.##", CultureInfo.InvariantCulture);
}

/// <summary>Markup of our own that goes in as it is.</summary>
internal readonly record struct Raw(string Markup);

/// <summary>Points on the face of a clock: hour 12 up, clockwise.</summary>
internal static class Polar
{
    public static (double X, double Y) At(double cx, double cy, double r, double hour)
    {
        var (sin, cos) = Math.SinCos(hour % 12 / 12 * 2 * Math.PI);
        return (cx + r * sin, cy - r * cos);
    }

    public static string P((double X, double Y) p) => Svg.N(p.X) + " " + Svg.N(p.Y);

    public static string Arc(double cx, double cy, double r, double from, double to)
    {
        var large = ((to - from) % 12 + 12) % 12 > 6 ? 1 : 0;
        return $"M{P(At(cx, cy, r, from))}A{Svg.N(r)} {Svg.N(r)} 0 {large} 1 {P(At(cx, cy, r, to))}";
    }

    public static string Sector(double cx, double cy, double r1, double r2, double from, double to) =>
        $"M{P(At(cx, cy, r2, from))}A{Svg.N(r2)} {Svg.N(r2)} 0 0 1 {P(At(cx, cy, r2, to))}L{P(At(cx, cy, r1, to))}A{Svg.N(r1)} "
        + $"{Svg.N(r1)} 0 0 0 {P(At(cx, cy, r1, from))}Z";

    /// <summary>A smooth path through points.</summary>
    public static string Smooth(IReadOnlyList<(double X, double Y)> points, bool closed)
    {
        if (points.Count == 0)
            return "";
        var n = points.Count;
        (double X, double Y) G(int i) => closed ? points[(i % n + n) % n] : points[Math.Clamp(i, 0, n - 1)];
        var path = new StringBuilder("M" + P(points[0]));
        for (var i = 0; i < (closed ? n : n - 1); i++)
        {
            var (p0, p1, p2, p3) = (G(i - 1), G(i), G(i + 1), G(i + 2));
            path.Append('C')
                .Append(P((p1.X + (p2.X - p0.X) / 6, p1.Y + (p2.Y - p0.Y) / 6)))
                .Append(' ')
                .Append(P((p2.X - (p3.X - p1.X) / 6, p2.Y - (p3.Y - p1.Y) / 6)))
                .Append(' ')
                .Append(P(p2));
        }
        return path.Append(closed ? "Z" : "").ToString();
    }
}

/// <summary>The marks of a state: shape first, then word and colour. On a box of 24.</summary>
internal static class Marks
{
    private static readonly Dictionary<string, string> Shapes = new()
    {
        ["toread"] = "<circle class='m-line' cx='12' cy='12' r='8.5' stroke-dasharray='4.2 3.2'/>",
        ["unsent"] = "<rect class='m-line' x='3.5' y='3.5' width='17' height='17' stroke-dasharray='4 3'/>",
        ["look"] = "<circle class='m-line' cx='12' cy='12' r='8.5' stroke-dasharray='2 3'/><path class='m-line' d='M12 6v8M12 17v2'/>",
        ["now"] = "<circle class='m-line' cx='12' cy='12' r='7.5'/><path class='m-line' d='M12 0v8M12 16v8M0 12h8M16 12h8'/>",
        ["read"] = "<circle class='m-ink' cx='12' cy='12' r='7.5'/>",
        ["worst"] = "<path class='m-ink' d='M1 4h22L12 22Z'/><path class='m-cut' d='M6.5 8.3h11'/>",
        ["within"] = "<path class='m-ink' d='M2 2h20v20H2Z'/><path class='m-cut' d='M6.5 12.5l4 4 7.5-9'/>",
        ["close"] = "<path class='m-line' d='M12 1.5L22.5 12 12 22.5 1.5 12Z'/><path class='m-ink' d='M1.5 12h21L12 22.5Z'/>",
        ["over"] = "<path class='m-ink' d='M7.5 1h9L23 7.5v9L16.5 23h-9L1 16.5v-9Z'/><path class='m-cut' d='M5 12h14' stroke-width='4'/>",
        ["planned"] = "<path class='m-line' d='M3 3h18v18H3Z'/><path class='m-line' stroke-width='1.8' d='M3 12l9-9M3 21L21 3M12 21l9-9'/>",
        ["cutting"] = "<path class='m-line' d='M3 3h18v18H3Z'/><path class='m-ink' d='M3 3h18v10H3Z'/>",
        ["cut"] = "<path class='m-ink' d='M2 2h20v20H2Z'/>",
        ["waiting"] = "<path class='m-line' d='M3 3h18v18H3Z'/>",
        ["tight"] = "<circle class='m-ink' cx='12' cy='12' r='10.5'/><path class='m-cut' d='M4 12h16'/>",
        ["loose"] = "<circle class='m-line' cx='12' cy='12' r='9'/><path class='m-line' d='M6 18L18 6'/>",
        ["hand"] = "<path class='m-line' d='M6 4h17l-5 16H1Z'/><path class='m-line' stroke-width='1.6' d='M9 8l-2 8M14 8l-2 8'/>",
        ["on"] = "<circle class='m-line' cx='12' cy='12' r='9.5'/><circle class='m-ink' cx='12' cy='12' r='5'/>",
    };

    /// <summary>A mark inside a drawing, centred on a point.</summary>
    public static Raw In(string name, double x, double y, double size, string css = "") =>
        new(
            $"<svg x='{Svg.N(x - size / 2)}' y='{Svg.N(y - size / 2)}' width='{Svg.N(size)}' height='{Svg.N(size)}' "
                + $"viewBox='0 0 24 24' overflow='visible' class='{css}'>{Shapes[name]}</svg>"
        );

    /// <summary>A mark in a line of text; its word stands beside it.</summary>
    public static IHtmlContent Text(string name) =>
        new HtmlString($"<svg class='mark' viewBox='0 0 24 24' aria-hidden='true'>{Shapes[name]}</svg>");
}
