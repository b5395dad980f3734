using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Web.Charts;

/// <summary>A small stock rule for boards: the same bands, twelve marks, a pointer, no numerals.</summary>
internal static class MiniRule
{
    public static Raw At(double x, double top, double height, Limits? limits, Length? now)
    {
        const double width = 24;
        var svg = new Svg();
        if (limits is null || now is not { } today)
            return svg.Add(
                    $"<rect x='{x}' y='{top}' width='{width}' height='{height}' fill='none' class='sr-lead' stroke-dasharray='4 4'/>"
                )
                .ToRaw();

        var rotor = limits.Kind == PartKind.Rotor;
        var (size, machineTo, discard) = (D(today), D(limits.MachineTo), D(limits.Discard));
        var s = rotor ? 1 : -1;
        var (least, most) = (Math.Min(s * discard, s * size) - 0.15, Math.Max(s * size + 0.3, s * machineTo + 0.3));
        double Y(double mm) =>
            rotor ? top + (most - s * mm) / (most - least) * height : top + height - (most - s * mm) / (most - least) * height;
        void Band(string css, double from, double to)
        {
            var (a, b) = (Math.Clamp(Y(from), top, top + height), Math.Clamp(Y(to), top, top + height));
            svg.Add($"<rect class='{css}' x='{x}' y='{Math.Min(a, b)}' width='{width}' height='{Math.Abs(a - b)}'/>");
        }
        svg.Add($"<rect class='sr-gone' x='{x}' y='{top}' width='{width}' height='{height}'/>");
        if (s * size > s * machineTo)
        {
            Band("sr-brass", size, machineTo);
            Band("sr-iron", machineTo, discard);
        }
        else if (s * size > s * discard)
            Band("sr-iron", size, discard);
        var end = s * least;
        Band("sr-over", discard, end);
        var (hatchTop, hatchBottom) = (Math.Min(Y(discard), Y(end)), Math.Max(Y(discard), Y(end)));
        for (var y = hatchTop; y < hatchBottom - 2; y += 6)
            svg.Add($"<path d='M{x} {Math.Min(y + 7, hatchBottom)}L{x + width} {y}' class='sr-over-lead' stroke-width='2' fill='none'/>");
        for (var i = 1; i < 12; i++)
            svg.Add($"<path class='sr-tick faint' d='M{x} {top + height * i / 12}h{(i % 3 == 0 ? 8 : 4)}'/>");
        svg.Add($"<rect x='{x}' y='{top}' width='{width}' height='{height}' fill='none' stroke='var(--ink)' stroke-width='1.5'/>");
        svg.Add(
            $"<path class='sr-limit' stroke-width='3' d='M{x - 3} {Y(discard)}h{width + 6}'/><path class='sr-edge' d='M{x - 4} ",
            $"{Y(size)}h{width + 8}'/><path d='M{x + width + 3} {Y(size)}l8 -5v10Z' fill='var(--ink)'/>"
        );
        return svg.ToRaw();
    }

    private static double D(Length length) => (double)length.Millimetres;
}
