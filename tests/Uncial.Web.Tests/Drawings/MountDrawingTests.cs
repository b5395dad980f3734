using System.Globalization;
using System.Text.Encodings.Web;
using System.Text.RegularExpressions;
using System.Xml.Linq;
using CsCheck;
using Microsoft.AspNetCore.Html;
using Uncial.Core.Lengths;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Data;
using Uncial.Web.Charts;

namespace Uncial.Web.Tests;

/// <summary>The pictures of Mount say what the figures say: to scale, in order, inside their frame.</summary>
public class MountDrawingTests
{
    private static readonly Shop Shop = Shop.New("x");

    private static readonly Adapter[] Board =
    [
        new()
        {
            Name = "Cone",
            Kind = AdapterKind.Cone,
            Least = Mm(50),
            Greatest = Mm(90),
            Height = Mm(34),
        },
        new()
        {
            Name = "Cups",
            Kind = AdapterKind.Cup,
            Outside = Mm(120),
            Recess = Mm(95),
            Height = Mm(32),
            Count = 2,
        },
        new()
        {
            Name = "S 5",
            Kind = AdapterKind.Spacer,
            Outside = Mm(45),
            Height = Mm(5),
            Count = 2,
        },
        new()
        {
            Name = "S 20",
            Kind = AdapterKind.Spacer,
            Outside = Mm(45),
            Height = Mm(20),
            Count = 2,
        },
        new()
        {
            Name = "S 50",
            Kind = AdapterKind.Spacer,
            Outside = Mm(45),
            Height = Mm(50),
            Count = 2,
        },
    ];

    private static Length Mm(int mm) => Length.FromMillimetres(mm);

    private static XElement Xml(IHtmlContent drawing)
    {
        using var text = new StringWriter();
        drawing.WriteTo(text, HtmlEncoder.Default);
        Regex.IsMatch(text.ToString(), "NaN|∞|Infinity").ShouldBeFalse(text.ToString());
        return XElement.Parse(text.ToString());
    }

    private static double N(XElement of, string name) => double.Parse(of.Attribute(name)!.Value, CultureInfo.InvariantCulture);

    private static (double X, double Y)[] Points(string path) =>
        [
            .. Regex
                .Matches(path, @"[ML](-?[\d.]+) (-?[\d.]+)")
                .Select(m =>
                    (
                        double.Parse(m.Groups[1].Value, CultureInfo.InvariantCulture),
                        double.Parse(m.Groups[2].Value, CultureInfo.InvariantCulture)
                    )
                ),
        ];

    [Fact]
    public void Every_stack_is_drawn_inside_its_frame_in_order_and_to_scale()
    {
        var drawn = 0;
        Gen.Select(Gen.Int[58, 82], Gen.Int[0, 110], Gen.Int[4, 14], Gen.Int[160, 400], Gen.Int[20, 70], Gen.Bool)
            .Sample(
                (hole, depth, web, across, band, drum) =>
                {
                    var (kind, lathe, shape) = (
                        drum ? PartKind.Drum : PartKind.Rotor,
                        Shop.Lathes[0].Profile,
                        new MountShape
                        {
                            Hole = Mm(hole),
                            Register = Mm(130),
                            Depth = Mm(depth),
                            Web = Mm(web),
                            Vented = band % 2 == 0,
                        }
                    );
                    if (MountingPlan.For(kind, Mm(across), shape, lathe, Board).Ways is not [var way, ..])
                        return;
                    Interlocked.Increment(ref drawn);
                    var xml = Xml(
                        StackDrawing.Draw(way.Stack, lathe, new(kind, Mm(across), Mm(band), Mm(22), shape), l =>
                            l.Millimetres.ToString(CultureInfo.InvariantCulture)
                        )
                    );
                    foreach (var rect in xml.Descendants("rect"))
                    {
                        (N(rect, "width") >= 0 && N(rect, "height") >= 0).ShouldBeTrue(rect.ToString());
                        (
                            N(rect, "x") >= 0
                            && N(rect, "x") + N(rect, "width") <= 600
                            && N(rect, "y") >= 0
                            && N(rect, "y") + N(rect, "height") <= 412
                        ).ShouldBeTrue(rect.ToString());
                    }
                    // Numbers on the pieces and in the list agree, and no piece is left out.
                    xml.Descendants("tspan")
                        .Select(t => t.Value)
                        .Where(t => int.TryParse(t, CultureInfo.InvariantCulture, out _))
                        .ShouldBe(Enumerable.Range(1, way.Stack.Count).Select(i => i.ToString(CultureInfo.InvariantCulture)));
                    xml.Descendants("circle").Count().ShouldBe(way.Stack.Count);
                    // The walls of the two cups are as far apart as the web is thick, by the scale of the arbor.
                    var arbor = xml.Descendants("rect").First(r => (string?)r.Attribute("class") == "casting-2");
                    var scale = N(arbor, "width") / (double)lathe.Arbor!.Room.Millimetres;
                    var walls = xml.Descendants("rect").Where(r => (string?)r.Attribute("class") == "part").ToList();
                    walls.ShouldContain(w => Math.Abs(N(w, "width") - web * scale) < 0.02);
                },
                iter: 800
            );
        drawn.ShouldBeGreaterThan(200);
    }

    [Fact]
    public void The_arrows_add_up_for_any_split_and_any_turn()
    {
        Gen.Select(Gen.Double[0.005, 0.2], Gen.Int[0, 359], Gen.Double[0.005, 0.2], Gen.Int[0, 359], Gen.Int[31, 329])
            .Sample(
                (part, partAt, setUp, setUpAt, turn) =>
                {
                    var xml = Xml(ScratchDrawing.Vectors((part, partAt), (setUp, setUpAt), turn, "0.05", "0.03", "", "mm"));
                    var paths = xml.Descendants("path")
                        .Where(p =>
                            ((string?)p.Attribute("stroke"))?.Contains("chalk", StringComparison.Ordinal) == true
                            || ((string?)p.Attribute("stroke"))?.Contains("brass", StringComparison.Ordinal) == true
                        )
                        .Select(p => Points(p.Attribute("d")!.Value))
                        .Where(p => p.Length == 2)
                        .ToList();
                    var origin = paths[0][0];
                    var (first, second) = (paths[0][1], paths[1][1]);
                    // After the turn the set-up's share lies back by the turn: both its arrows start where the part's ends, and are equally
                    // long.
                    if (paths.Count < 5)
                        return; // too short to draw
                    (paths[2][0], paths[3][0], paths[4][0]).ShouldBe((origin, paths[2][1], paths[2][1]));
                    (paths[3][1], paths[4][1]).ShouldBe((first, second));
                    double Long((double X, double Y)[] p) => Math.Sqrt(Math.Pow(p[1].X - p[0].X, 2) + Math.Pow(p[1].Y - p[0].Y, 2));
                    Long(paths[3]).ShouldBe(Long(paths[4]), 0.05);
                    (Long(paths[2]) * setUp).ShouldBe(Long(paths[3]) * part, 0.02);
                    new[] { first, second }.ShouldAllBe(p => p.X >= 0 && p.X <= 214 && p.Y >= 0 && p.Y <= 214);
                }
            );
    }

    [Fact]
    public void Marks_lie_where_they_were_said_to_be_and_their_ends_at_the_ends_of_the_arc()
    {
        Gen.Select(Gen.Int[0, 359], Gen.Int[8, 360])
            .Sample(
                (at, arc) =>
                {
                    var xml = Xml(ScratchDrawing.Face(PartKind.Rotor, [new(1, at, arc, true), new(2, 90, null, true)], ""));
                    var first = xml.Descendants("g").Single(g => (string?)g.Attribute("data-scratch") == "1");
                    double At(string grip)
                    {
                        var g = first.Descendants("g").Single(g => (string?)g.Attribute("data-grip") == grip);
                        var m = Regex.Match(g.Attribute("transform")!.Value, @"(-?[\d.]+) (-?[\d.]+)");
                        return (
                                Math.Atan2(
                                    double.Parse(m.Groups[1].Value, CultureInfo.InvariantCulture) - 300,
                                    208 - double.Parse(m.Groups[2].Value, CultureInfo.InvariantCulture)
                                )
                                    * 180
                                    / Math.PI
                                + 720
                            ) % 360;
                    }
                    static double Apart(double a, double b) => Math.Abs((a - b + 900) % 360 - 180);
                    Apart(At("middle"), at).ShouldBeLessThan(0.05);
                    Apart(At("from"), at - arc / 2.0).ShouldBeLessThan(0.05);
                    Apart(At("to"), at + arc / 2.0).ShouldBeLessThan(0.05);
                    // Three to take hold of on an arc, one on a high spot, each told in words.
                    xml.Descendants("g")
                        .Count(g => (string?)g.Attribute("role") == "slider" && g.Attribute("aria-label") is not null)
                        .ShouldBe(4);
                }
            );
    }
}
