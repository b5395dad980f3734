using Microsoft.AspNetCore.Html;
using Uncial.Practice.Jobs;
using Uncial.Simulation.Held;
using Uncial.Web.Text;

namespace Uncial.Web.Charts;

/// <summary>
/// How a gauge is held on the part: where, how far in, and how far off its turning point. It draws the hand, never the metal: the part is
/// the same in every drawing.
/// </summary>
internal static class HoldDrawing
{
    private const double Width = 600,
        Height = 196;

    /// <summary>A micrometer on a rotor, seen from the face and across it.</summary>
    public static IHtmlContent Rotor(BenchHand hand)
    {
        var svg = Begin("draw.heldOnRotor");
        Clock(svg, hand.Degrees, hand.InMm);
        // Across: the edge of the rotor above, the anvils to both sides; what is off square is drawn twice as much.
        const double X = 400,
            Top = 44;
        svg.Add(
            $"<path class='metal' d='M{X - 24} {Top + 8}h10v-8h28v8h10V{Height - 4}H{X - 24}Z'/><path class='line' d='M{X - 24} {Top + 8}",
            $"V{Height - 4}M{X + 24} {Top + 8}V{Height - 4}'/>"
        );
        var y = Top + 10 + Math.Min(hand.InMm, 60) * 2.2;
        var gap = hand.Closing == Closing.NotClosed ? 10 : 0;
        svg.Add(
            $"<g class='held' data-rocks transform='rotate({hand.Rocked * BenchHand.MicrometerStep * 2} {X} {y})'>",
            $"<path class='tool' d='M{X - 116} {y - 8}V{Top - 34}H{X + 116}V{y - 8}h-22V{Top - 14}H{X - 94}V{y - 8}Z'/>",
            $"<path class='tool' d='M{X - 116} {y - 8}H{X - 24}v16H{X - 116}Z'/>",
            $"<path class='tool-2' d='M{X + 24 + gap} {y - 6}h{92 - gap}v12",
            $"h{gap - 92}Z'/><path class='tool' d='M{X + 116} {y - 14}h54v28h-54Z'/></g>"
        );
        GaugeDrawing.Say(
            svg,
            X + 46,
            Height - 12,
            hand.Closing switch
            {
                Closing.NotClosed => "draw.notClosed",
                Closing.Ratchet => "draw.byRatchet",
                _ => "draw.screwedOn",
            }
        );
        return svg.Add($"</svg>").Html();
    }

    /// <summary>A bar in a drum, seen into its opening and along it.</summary>
    public static IHtmlContent Drum(BenchHand hand)
    {
        var svg = Begin("draw.heldInDrum");
        const double Cx = 120,
            Cy = 98,
            R = 86;
        svg.Add(
            $"<circle class='metal' cx='{Cx}' cy='{Cy}' r='{R + 10}'/><circle class='void' cx='{Cx}' cy='{Cy}' r='{R}'/>",
            $"<circle class='metal-2' cx='{Cx}' cy='{Cy}' r='30'/><circle class='void' cx='{Cx}' cy='{Cy}' r='14'/>",
            $"<path class='stud' d='M{Cx} {Cy - R - 10}v-9'/>"
        );
        // Its fixed end lies at the place; the free end swings three times as far as it does.
        var fixedEnd = Polar.At(Cx, Cy, R, hand.Degrees / 30);
        var free = Polar.At(Cx, Cy, R, hand.Degrees / 30 + 6 + hand.Rocked * BenchHand.BarStep * 2 * 3 / 30);
        svg.Add(
            $"<path class='scribe' stroke-dasharray='4 5' d='M{Polar.P(fixedEnd)}L{Polar.P(Polar.At(Cx, Cy, R, hand.Degrees / 30 + 6))}'/>",
            $"<path class='bar-of' d='M{Polar.P(fixedEnd)}L{Polar.P(free)}'/>",
            $"<circle class='fixed-end' cx='{fixedEnd.X}' cy='{fixedEnd.Y}' r='6'/>",
            $"<circle class='free-end' data-rocks cx='{free.X}' cy='{free.Y}' r='11'/>"
        );
        // Along: the opening to the left.
        const double Left = 330,
            Right = 560,
            Up = 24,
            Down = 150;
        svg.Add(
            $"<path class='metal' d='M{Left} {Up - 14}H{Right}V{Down + 14}H{Left}V{Down}H{Right - 20}V{Up}H{Left}Z'/>",
            $"<path class='line' d='M{Left} {Up}H{Right - 20}V{Down}H{Left}'/>"
        );
        var x = Left + 14 + Math.Min(hand.InMm, 60) * 2.4;
        var lean = hand.Leaned * BenchHand.BarStep * 3;
        svg.Add(
            $"<path class='scribe' stroke-dasharray='4 5' d='M{x} {Up}V{Down}'/><path class='bar-of' d='M{x} {Up}L{x + lean} {Down}'/>",
            $"<circle class='fixed-end' cx='{x}' cy='{Up}' r='6'/><circle class='free-end' cx='{x + lean}' cy='{Down}' r='11'/>"
        );
        GaugeDrawing.Say(svg, Left, Height - 8, "draw.openEdge");
        return svg.Add($"</svg>").Html();
    }

    /// <summary>An indicator or a depth gauge at its place.</summary>
    public static IHtmlContent At(BenchHand hand, bool rotor)
    {
        var svg = Begin("draw.heldAt");
        Clock(svg, hand.Degrees, hand.InMm);
        GaugeDrawing.Say(
            svg,
            260,
            90,
            !rotor ? "draw.inTheBore"
                : hand.Face == 0 ? "draw.onOuterFace"
                : "draw.onInnerFace"
        );
        return svg.Add($"</svg>").Html();
    }

    private static Svg Begin(string name)
    {
        var svg = new Svg();
        return svg.Add($"<svg class='drawing hold' viewBox='0 0 {Width} {Height}' role='img' aria-label='{Words.Say(name)}'>");
    }

    /// <summary>The face with the place on it.</summary>
    private static void Clock(Svg svg, double degrees, double inMm)
    {
        const double Cx = 120,
            Cy = 100,
            R = 84;
        svg.Add(
            $"<circle class='metal' cx='{Cx}' cy='{Cy}' r='{R}'/><circle class='metal-2' cx='{Cx}' cy='{Cy}' r='38'/>",
            $"<circle class='void' cx='{Cx}' cy='{Cy}' r='15'/><path class='stud' d='M{Cx} {Cy - R - 3}v-9'/>"
        );
        var at = Polar.At(Cx, Cy, R - 3 - Math.Min(inMm, 60) * 0.7, degrees / 30);
        svg.Add($"<circle class='free-end' cx='{at.X}' cy='{at.Y}' r='8'/>");
    }
}
