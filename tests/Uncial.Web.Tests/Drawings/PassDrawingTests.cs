using System.Globalization;
using System.Text.Encodings.Web;
using System.Text.RegularExpressions;
using System.Xml.Linq;
using CsCheck;
using Microsoft.AspNetCore.Html;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Web.Charts;

namespace Uncial.Web.Tests;

/// <summary>The pictures of Plan and Cut say what the figures say: to scale, in order, inside their frame.</summary>
public class PassDrawingTests
{
    private static readonly Length Division = Length.FromMillimetres(0.01m);

    private static XElement Xml(IHtmlContent drawing)
    {
        using var text = new StringWriter();
        drawing.WriteTo(text, HtmlEncoder.Default);
        Regex.IsMatch(text.ToString(), "NaN|∞|Infinity").ShouldBeFalse(text.ToString());
        return XElement.Parse(text.ToString());
    }

    private static double N(XElement of, string name) => double.Parse(of.Attribute(name)!.Value, CultureInfo.InvariantCulture);

    private static readonly Gen<SectionSide> AnySide = Gen.Select(Gen.Double[0, 0.4], Gen.Double[0, 0.3], Gen.Int[1, 25].Array[0, 12])
        .Select(
            (runout, groove, divisions) =>
            {
                var depth = 0;
                return new SectionSide(
                    0,
                    "Outer face",
                    runout + groove,
                    groove,
                    [.. Enumerable.Range(0, 96).Select(i => runout * (1 - Math.Cos(i * Math.PI / 48)) / 2)],
                    null,
                    true,
                    [
                        .. divisions.Select(
                            (d, i) =>
                                new SectionPass(
                                    i,
                                    $"Rough {i + 1}",
                                    (depth += d) / 100.0,
                                    (depth / 100.0).ToString("0.00", CultureInfo.InvariantCulture),
                                    d
                                )
                        ),
                    ]
                );
            }
        );

    [Fact]
    public void Lines_lie_to_scale_in_their_order_and_inside_the_frame() =>
        Gen.Select(AnySide, AnySide, Gen.Bool)
            .Sample(
                (outer, inner, rotor) =>
                {
                    SectionSide[] sides = rotor ? [outer, inner with { Number = 1, Title = "Inner face" }] : [outer];
                    var drawing = Xml(
                        PassSection.Draw(rotor ? PartKind.Rotor : PartKind.Drum, sides, "touch", "need", Division, canMove: true)
                    );
                    var perDivision = N(drawing, "data-step");
                    foreach (var side in sides)
                    {
                        var grips = drawing
                            .Descendants("g")
                            .Where(g => ((string?)g.Attribute("data-line"))?.EndsWith("," + side.Number, StringComparison.Ordinal) == true)
                            .ToList();
                        grips.Count.ShouldBe(side.Passes.Count);
                        var into = grips.Count == 0 ? 1 : N(grips[0], "data-into");
                        var at = grips.ConvertAll(g => N(g.Elements("circle").First(), "cy"));
                        for (var i = 0; i < at.Count; i++)
                        {
                            at[i].ShouldBeInRange(0, 412);
                            // From one line to the next it is as many steps as the pass has divisions: what is dragged is what is cut.
                            if (i > 0)
                                ((at[i] - at[i - 1]) * into).ShouldBe(side.Passes[i].Divisions * perDivision, 0.02);
                            grips[i].Attribute("aria-valuetext")!.Value.ShouldBe("dial " + side.Passes[i].Dial);
                            N(grips[i].Elements("circle").First(), "r").ShouldBe(24); // 48 across to the touch
                        }
                    }
                    var figures = drawing
                        .Elements("text")
                        .Where(t => (string?)t.Attribute("class") == "fig")
                        .GroupBy(t => N(t, "y") < 208 || !rotor)
                        .Select(g => g.Select(t => N(t, "y")).Order().ToList());
                    foreach (var column in figures)
                        for (var i = 1; i < column.Count; i++)
                            (column[i] - column[i - 1]).ShouldBeGreaterThan(19.9); // no figure on another
                }
            );

    [Fact]
    public void Unrolled_each_row_is_filled_once_round_by_the_pass_that_cleans_it() =>
        Gen.Select(Gen.Int[1, 6], Gen.Int[1, 4])
            .SelectMany((passes, rows) => Gen.Int[-1, passes - 1].Array[96].Array[rows].Select(cleaned => (passes, cleaned)))
            .Sample(x =>
            {
                var side = new UnrolledSide(
                    "Bore",
                    [.. Enumerable.Range(1, x.passes).Select(i => $"Rough {i}")],
                    [.. x.cleaned.Select((c, i) => ($"row {i}", (IReadOnlyList<int>)c))],
                    true
                );
                var cells = Xml(PassSection.Unrolled([side]))
                    .Elements("rect")
                    .Where(r => (string?)r.Attribute("stroke-width") == "1")
                    .ToList();
                foreach (var row in cells.GroupBy(c => N(c, "y")))
                {
                    row.Sum(c => N(c, "width")).ShouldBe(456, 0.2);
                    row.All(c =>
                            ((string)c.Attribute("fill")!).StartsWith("url(#un-", StringComparison.Ordinal)
                            || (string?)c.Attribute("fill") == "var(--blue-fill)"
                        )
                        .ShouldBeTrue();
                }
                cells
                    .Count(c => (string?)c.Attribute("fill") == "url(#un-dark)")
                    .ShouldBe(x.cleaned.Sum(row => row.Index().Count(c => c.Item == -1 && (c.Index == 0 || row[c.Index - 1] != -1))));
            });

    [Theory]
    [InlineData(PartKind.Rotor)]
    [InlineData(PartKind.Drum)]
    public void Every_lock_is_on_the_lathe_with_its_state_and_its_number(PartKind kind)
    {
        var random = new Random(5);
        string[] names =
        [
            "Cutter knobs",
            "Cross-slide",
            "Spindle feed",
            "Cross-feed",
            "Top slide",
            "Carriage",
            "Tailstock",
            "Table magnet",
            "Column",
            "Quill",
        ];
        for (var n = 0; n < 200; n++)
        {
            var lathe = new Lathe
            {
                Name = "Any",
                Kind = (LatheKind)random.Next(3),
                Division = Division,
                DialAllowance = Division,
                NoseRadius = Length.FromMillimetres(0.8m),
                Speeds = [60m],
                Feeds = [new("1", Division)],
                RoughFeed = "1",
                FinishFeed = "1",
                TwinCutter = random.Next(2) == 0,
                Locks =
                [
                    .. names
                        .OrderBy(_ => random.Next())
                        .Take(random.Next(1, 7))
                        .Select(l => new LatheLock(l, random.Next(2) == 0, random.Next(2) == 0)),
                ],
            };
            var drawing = Xml(LatheTop.Draw(lathe, kind, hasBand: true));
            var numbers = drawing.Elements("text").Where(t => (string?)t.Attribute("class") == "fig").ToList();
            numbers
                .Select(t => t.Value)
                .ShouldBe(Enumerable.Range(1, lathe.Locks.Count).Select(i => i.ToString(CultureInfo.InvariantCulture)));
            foreach (var number in numbers)
            {
                N(number, "x").ShouldBeInRange(0, 318);
                N(number, "y").ShouldBeInRange(10, 252);
            }
            drawing
                .Attribute("aria-label")!
                .Value.ShouldContain(
                    string.Join(
                        ", ",
                        lathe.Locks.Select(
                            (l, i) => $"{i + 1} {l.Name} {((kind == PartKind.Rotor ? l.TightForRotor : l.TightForDrum) ? "tight" : "free")}"
                        )
                    )
                );
        }
    }
}
