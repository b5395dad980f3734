using Microsoft.AspNetCore.Html;
using Uncial.Core.Gauges;
using Uncial.Core.Lengths;

namespace Uncial.Web.Charts;

/// <summary>A piece of a drum gauge's bar with the mark at which it may be set: the longer the stroke, the rounder the figure.</summary>
internal static class BarMark
{
    public static IHtmlContent Draw(Bar bar, Length start)
    {
        var at = start.In(bar.Unit);
        var height =
            at % 1 == 0 ? 30
            : at % 0.5m == 0 ? 22
            : at % 0.25m == 0 ? 16
            : 10;
        var svg = new Svg();
        svg.Add(
            $"<svg viewBox='0 0 52 34' aria-hidden='true'><path d='M0 2h52M0 32h52' class='bar-edge'/><path d='M26 2v{height}' ",
            $"class='bar-stroke' stroke-width='{(at % 1 == 0 ? 3.5 : 2)}'/></svg>"
        );
        return svg.Html();
    }

    /// <summary>The engraved figure, a fraction with its whole inches only where asked.</summary>
    public static IHtmlContent Label(Bar bar, Length start, bool whole)
    {
        var name = bar.Name(start).Split(' ');
        return (
            name is [var inches, var fraction]
                ? whole
                    ? new Svg().Add($"<i>{inches}</i> {fraction}")
                    : new Svg().Add($"{fraction}")
                : new Svg().Add($"{name[0]}")
        ).Html();
    }
}
