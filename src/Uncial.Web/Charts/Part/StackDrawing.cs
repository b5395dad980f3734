using Microsoft.AspNetCore.Html;
using Uncial.Core.Lengths;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Web.Text;

namespace Uncial.Web.Charts;

/// <summary>What the section of a mounted part shows beside the stack.</summary>
internal sealed record MountedPart(PartKind Kind, Length Diameter, Length Band, Length Thickness, MountShape Shape);

/// <summary>
/// The stack on the arbor in section, in order and to scale: lathe on the left, nut on the right, the open side of the part towards the
/// lathe.
/// </summary>
internal static class StackDrawing
{
    private const double Cy = 206,
        Left = 34,
        MostWide = 318,
        MostHigh = 366;

    public static IHtmlContent Draw(IReadOnlyList<StackPiece> stack, Lathe lathe, MountedPart part, Func<Length, string> figure)
    {
        var svg = new Svg();
        var room =
            D(
                lathe.Arbor?.Room
                    ?? stack.Select(p => p.To).DefaultIfEmpty(Length.FromMillimetres(100)).Max() + (part.Shape.Depth ?? Length.Zero)
            ) + 12;
        var radius = Math.Max(
            D(part.Diameter) / 2 + (part.Kind == PartKind.Drum ? 12 : 0),
            stack.Select(p => D(Length.Max(p.Outside, p.OutsideFar)) / 2).DefaultIfEmpty(60).Max()
        );
        var k = Math.Min(MostWide / room, MostHigh / (2 * Math.Max(radius, 60)));
        var draw = new Section(svg, k, figure);
        svg.Add(
            $"<svg class='drawing stack' viewBox='0 0 600 412' role='img' aria-label='",
            $"{Words.Say("draw.sectionOfTheStack", string.Join(", ", stack.Select(Word)))}'><defs><pattern id='cut-h' width='7' ",
            $"height='7' patternUnits='userSpaceOnUse' ",
            $"patternTransform='rotate(45)'><path d='M0 0V7' stroke='var(--iron-3)' stroke-width='1.1'/></pattern></defs>"
        );
        draw.Lathe(lathe, room);
        foreach (var piece in stack.Where(p => p.Role != PieceRole.Cone && p.Role != PieceRole.Part))
            draw.Piece(piece, lathe);
        foreach (var piece in stack.Where(p => p.Role == PieceRole.Cone))
            draw.Piece(piece, lathe);
        // On an arbor the open side faces the lathe; on jaws, plate or table the hub's face lies against them and the ring stands away.
        var away =
            !stack.Any(p => p.Role is PieceRole.InnerCup or PieceRole.NearRaceCone)
            && stack.Count(p => p.Role is PieceRole.Chuck or PieceRole.Plate) < 2;
        foreach (var piece in stack.Where(p => p.Role == PieceRole.Part))
            draw.Part(piece, part, away);
        draw.Notches(stack);
        draw.Legend(stack, part);
        var scale = k >= 1 ? Words.Say("draw.mmDrawnWide", k) : $"1 : {1 / k:0.0}";
        svg.Add(
            $"<path class='hair' d='M{Left - 14} {Cy}H{Left + room * k + 16}' stroke-dasharray='14 4 3 4'/><text x='{Left}' y='406' ",
            $"font-size='15' class='q'>{Words.Say(away ? "draw.toScaleOpenSideAway" : "draw.toScaleOpenSideTo", scale)}</text>"
        );
        return svg.Add($"</svg>").Html();
    }

    public static string Word(StackPiece piece) =>
        piece.Role switch
        {
            PieceRole.Part => Words.Say("draw.thePart"),
            PieceRole.Nut => Words.Say("draw.nut"),
            PieceRole.InnerCup => Words.Say("draw.inner", piece.Name),
            PieceRole.OuterCup => Words.Say("draw.outer", piece.Name),
            PieceRole.Plate when piece.Name is null => Words.Say("draw.table2"),
            _ => piece.Name ?? "",
        };

    private static double D(Length length) => (double)length.Millimetres;

    private sealed class Section(Svg svg, double k, Func<Length, string> figure)
    {
        private double X(Length at) => Left + D(at) * k;

        private void Ring(double x1, double x2, double inner, double outer, string css = "casting")
        {
            foreach (var side in new[] { -1, 1 })
            {
                var (top, height) = side < 0 ? (Cy - outer * k, (outer - inner) * k) : (Cy + inner * k, (outer - inner) * k);
                svg.Add($"<rect class='{css}' x='{x1}' y='{top}' width='{x2 - x1}' height='{height}'/>");
                if (css == "casting")
                    svg.Add($"<rect fill='url(#cut-h)' x='{x1}' y='{top}' width='{x2 - x1}' height='{height}'/>");
            }
        }

        public void Lathe(Lathe lathe, double room)
        {
            if (lathe.Arbor is not { } arbor)
                return;
            svg.Add($"<path class='casting-2' d='M6 {Cy - 58 * k}H{Left}V{Cy + 58 * k}H6Z'/>");
            Ring(Left, Left + (room - 12) * k, 0, D(arbor.Diameter) / 2, "casting-2");
            for (var x = room - 12 - D(arbor.Thread); x < room - 12; x += 3)
                svg.Add(
                    $"<path class='hair is-faint' d='M{Left + x * k} {Cy - D(arbor.Diameter) / 2 * k}l{2 * k} {D(arbor.Diameter) * k}'/>"
                );
        }

        public void Piece(StackPiece p, Lathe lathe)
        {
            var hole = D(lathe.Arbor?.Diameter ?? Length.Zero) / 2;
            var (x1, x2, outside, recess) = (X(p.From), X(p.To), D(p.Outside) / 2, D(p.Recess) / 2);
            var wall = Math.Min(9 * k, (x2 - x1) / 2);
            switch (p.Role)
            {
                case PieceRole.InnerCup:
                    Ring(x1, x1 + wall, hole, outside);
                    Ring(x1 + wall, x2, recess, outside);
                    foreach (var side in new[] { -1, 1 })
                        svg.Add(
                            $"<path class='scribe' d='M{x1 + wall} {Cy + side * (hole + 9) * k}l{3 * k} {side * 6 * k}l{3 * k} ",
                            $"{-side * 10 * k}l{3 * k} {side * 10 * k}'/>"
                        );
                    break;
                case PieceRole.OuterCup:
                    Ring(x1, x2 - wall, recess, outside);
                    Ring(x2 - wall, x2, hole, outside);
                    break;
                case PieceRole.Cone or PieceRole.NearRaceCone or PieceRole.FarRaceCone:
                    foreach (var side in new[] { -1, 1 })
                        svg.Add(
                            $"<path class='cone' d='M{x1} {Cy + side * hole * k}V{Cy + side * outside * k}L{x2} ",
                            $"{Cy + side * D(p.OutsideFar) / 2 * k}V{Cy + side * hole * k}Z'/>"
                        );
                    break;
                case PieceRole.Nut:
                    Ring(x1, x2, hole, outside, "casting-2");
                    break;
                default:
                    Ring(x1, x2, p.Role == PieceRole.Chuck ? 0 : hole, Math.Max(outside, hole + 6));
                    break;
            }
        }

        public void Part(StackPiece p, MountedPart part, bool away)
        {
            var (x1, x2, hole, outer, depth) = (
                X(p.From),
                X(p.To),
                D(p.Recess) / 2,
                D(part.Diameter) / 2,
                D(part.Shape.Depth ?? Length.Zero) * k
            );
            if (outer <= 0)
                outer = Math.Max(D(p.Outside) / 2 * 1.6, 100);
            var drum = part.Kind == PartKind.Drum;
            var (wallFrom, wallTo) = away ? (x2, x2 + depth) : (Math.Max(Left, x1 - depth), x1);
            if (part.Shape.Hubbed)
            {
                // The hub carries the races; its flange stands near the nut's end.
                var bore = Math.Max(D(p.Outside), D(p.OutsideFar)) / 2 - 3;
                Ring(x1, x2, Math.Min(hole, bore), bore + 10, "part");
                hole = bore + 10;
                (x1, x2) = (Math.Max(x1, x2 - 16 * k), x2 - 6 * k);
                (wallFrom, wallTo) = away ? (x2, x2 + depth) : (Math.Max(Left, x1 - depth), x1);
            }
            if (drum)
            {
                Ring(x1, x2, hole, outer + 8, "part");
                Ring(wallFrom, wallTo, outer, outer + 8, "part");
                return;
            }
            var hat = Math.Min(Math.Max(D(p.Outside) / 2 + 3, hole + 6), Math.Max(outer - 20, hole));
            var thick = Math.Max(D(part.Thickness), 8) * k;
            var inner = Math.Max(outer - Math.Max(D(part.Band), 30), hat);
            Ring(x1, x2, hole, hat + 7, "part");
            Ring(wallFrom, wallTo, hat, hat + 7, "part");
            var x = away ? wallTo - thick : wallFrom;
            if (depth <= 0)
                x = away ? x2 : x1 - thick;
            Ring(x, x + thick, hat, inner, "part");
            Ring(x, x + thick, inner, outer, "part");
            if (!part.Shape.Vented)
                return;
            Ring(x + thick * 0.38, x + thick * 0.62, inner, outer, "void");
        }

        /// <summary>The notches of the two cups stand in line at 12, so that a thin web is not bent between them.</summary>
        public void Notches(IReadOnlyList<StackPiece> stack)
        {
            if (
                stack.FirstOrDefault(p => p.Role == PieceRole.InnerCup) is not { } inner
                || stack.FirstOrDefault(p => p.Role == PieceRole.OuterCup) is not { } outer
            )
                return;
            var y = Cy - D(inner.Outside) / 2 * k;
            var (a, b) = ((X(inner.From) + X(inner.To)) / 2, (X(outer.From) + X(outer.To)) / 2);
            foreach (var x in new[] { a, b })
                svg.Add($"<path d='M{x - 6} {y}h12l-6 11Z' fill='var(--brass)' stroke='var(--ink)' stroke-width='1.5'/>");
            svg.Add($"<path d='M{a} {y + 5}H{b}' stroke='var(--ink)' stroke-width='1.5' stroke-dasharray='3 4'/>");
        }

        public void Legend(IReadOnlyList<StackPiece> stack, MountedPart part)
        {
            var ordered = stack.OrderBy(p => p.Role == PieceRole.Cone ? p.To - Length.FromMillimetres(1) : p.From).ToList();
            var (pitch, y) = (Math.Min(44.0, 372.0 / Math.Max(1, ordered.Count)), 26.0);
            for (var i = 0; i < ordered.Count; i++, y += pitch)
            {
                var p = ordered[i];
                var x = (X(p.From) + X(p.To)) / 2;
                var side = i % 2 == 0 || p.Role is PieceRole.InnerCup or PieceRole.OuterCup ? 1 : -1;
                var at = Cy + side * (p.Role == PieceRole.Cone ? D(p.OutsideFar) / 2 * k * 0.8 : Math.Max(D(p.Outside) / 2 - 11, 16) * k);
                if (
                    p.Role == PieceRole.Part
                    && part.Diameter > Length.Zero
                    && p.Name is null
                    && stack.Any(s => s.Role is PieceRole.InnerCup or PieceRole.Chuck or PieceRole.NearRaceCone)
                )
                    (x, at) = (
                        Math.Max(Left, (part.Shape.Hubbed ? X(p.To) - 16 * k : X(p.From)) - D(part.Shape.Depth ?? Length.Zero) * k) + 14,
                        Cy + (part.Kind == PartKind.Drum ? D(part.Diameter) / 2 + 4 : D(part.Diameter) / 2 - D(part.Band) / 2) * k
                    );
                svg.Add(
                    $"<circle cx='{x}' cy='{at}' r='11' fill='var(--paper)' stroke='var(--ink)' stroke-width='1.5'/><text x='{x}' ",
                    $"y='{at + 5}' text-anchor='middle' class='fig' font-size='14' font-weight='700'>",
                    $"{(i + 1).ToString(System.Globalization.CultureInfo.InvariantCulture)}</text>"
                );
                svg.Add(
                    $"<text x='366' y='{y}' font-size='17'><tspan class='fig' font-weight='700'>",
                    $"{(i + 1).ToString(System.Globalization.CultureInfo.InvariantCulture)}</tspan><tspan x='390' ",
                    $"font-weight='{(p.Role == PieceRole.Part ? 750 : 600)}'>{Word(p)}</tspan></text>"
                );
                if (pitch > 38)
                    svg.Add($"<text x='390' y='{y + 18}' font-size='15' class='q'>{Note(p)}</text>");
            }
        }

        private string Note(StackPiece p) =>
            p.Role switch
            {
                PieceRole.InnerCup or PieceRole.OuterCup => Words.Say("draw.seatsTo", figure(p.Recess), figure(p.Outside)),
                PieceRole.Cone => Words.Say("draw.toOnASpring", figure(p.OutsideFar), figure(p.Outside)),
                PieceRole.Part when p.Outside != p.OutsideFar => Words.Say("draw.hubFromRaceToRace", figure(p.To - p.From)),
                PieceRole.Part => p.Recess > Length.Zero ? Words.Say("draw.holeWeb", figure(p.Recess), figure(p.To - p.From)) : "",
                PieceRole.NearRaceCone => Words.Say("draw.to", figure(p.OutsideFar), figure(p.Outside)),
                PieceRole.FarRaceCone => Words.Say("draw.to", figure(p.Outside), figure(p.OutsideFar)),
                PieceRole.InnerSpacer or PieceRole.OuterSpacer => Words.Say("draw.ofTheArbor", figure(p.To - p.From)),
                PieceRole.Nut => Words.Say("draw.endsAt", figure(p.To)),
                _ => Words.Say("draw.across", figure(p.Outside)),
            };
    }
}
