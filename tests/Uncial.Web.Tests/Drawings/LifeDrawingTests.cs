using System.Globalization;
using System.Text.Encodings.Web;
using System.Text.RegularExpressions;
using System.Xml.Linq;
using Microsoft.AspNetCore.Html;
using Microsoft.AspNetCore.Http;
using Uncial.Core;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Release;
using Uncial.Web.Charts;

namespace Uncial.Web.Tests;

/// <summary>The life of a part and the figures of the shop are drawn to scale, whatever is put into them.</summary>
public class LifeDrawingTests
{
    private static Length Mm(decimal mm) => Length.FromMillimetres(mm);

    private static XElement Parsed(IHtmlContent drawn)
    {
        using var text = new StringWriter();
        drawn.WriteTo(text, HtmlEncoder.Default);
        var markup = text.ToString();
        Regex.IsMatch(markup, "NaN|∞|Infinity").ShouldBeFalse(markup);
        return XElement.Parse(markup);
    }

    private static double[] Numbers(string path) =>
        [.. Regex.Matches(path, @"-?\d+(\.\d+)?").Select(m => double.Parse(m.Value, CultureInfo.InvariantCulture))];

    [Fact]
    public void Wear_runs_down_to_discard_at_one_scale_for_rotor_and_drum()
    {
        var reader = new Reader(new HttpContextAccessor { HttpContext = new DefaultHttpContext() });
        var random = new Random(5);
        for (var n = 0; n < 200; n++)
        {
            var rotor = n % 2 == 0;
            var (sign, nominal) = (rotor ? -1 : 1, rotor ? 26m : 254m);
            var limits = Limits
                .Create(
                    rotor ? PartKind.Rotor : PartKind.Drum,
                    n % 5 == 0 ? null : Mm(nominal),
                    null,
                    Mm(nominal + sign * 3),
                    ShopRules.Default
                )
                .Limits!;
            var (size, km, visits) = (nominal, 0m, new List<WearVisit>());
            for (var i = 0; i < random.Next(1, 5); i++)
            {
                km += random.Next(1, 80_000);
                var came = size + sign * random.Next(0, 90) / 100m;
                size = came + sign * random.Next(0, 2) * 0.2m;
                visits.Add(new(random.Next(9) == 0 ? null : km, Mm(came), size == came ? null : Mm(size)));
            }
            var curve = WearCurve.Of(limits, visits);
            if (curve.Points.Count < 2)
                continue;
            var drawing = Parsed(WearChart.Draw(curve, limits, reader));
            double Line(string css) =>
                Numbers(drawing.Descendants("path").Single(p => (string?)p.Attribute("class") == css).Attribute("d")!.Value)[1];
            var scale =
                (Line("wc-discard") - Line("wc-machine"))
                / (double)Limits.Margin(limits.Kind, limits.MachineTo, limits.Discard).Millimetres;
            scale.ShouldBeGreaterThan(0);
            var marks = drawing
                .Elements("svg")
                .Select(m =>
                    (
                        X: (double)m.Attribute("x")! + (double)m.Attribute("width")! / 2,
                        Y: (double)m.Attribute("y")! + (double)m.Attribute("height")! / 2
                    )
                )
                .ToList();
            marks.Count.ShouldBe(curve.Points.Count);
            foreach (var (mark, point) in marks.Zip(curve.Points))
            {
                (Line("wc-discard") - mark.Y).ShouldBe(
                    scale * (double)Limits.Margin(limits.Kind, point.Size, limits.Discard).Millimetres,
                    0.1
                );
                mark.X.ShouldBeInRange(70, 530);
            }
            // Where it is forecast, the line leads on from the last size and never past discard.
            foreach (
                var ahead in drawing
                    .Descendants("path")
                    .Where(p => (string?)p.Attribute("class") == "wc-forecast")
                    .Select(p => Numbers(p.Attribute("d")!.Value))
            )
                (ahead[0], ahead[1], ahead[3] <= Line("wc-discard") + 0.1 || curve.Forecast!.DistanceLeft == 0).ShouldSatisfyAllConditions(
                    a => a.Item1.ShouldBe(marks[^1].X, 0.1),
                    a => a.Item2.ShouldBe(marks[^1].Y, 0.1),
                    a => a.Item3.ShouldBeTrue()
                );
        }
    }

    [Fact]
    public void Bars_are_as_long_as_what_they_stand_for_and_say_it()
    {
        var bars = Parsed(
            BarChart.Lying("What", [new("A <b>", 10, "ten"), new("A very long name of a lathe", 5, "five", 20), new("None", 0, "0")])
        );
        double Long(XElement path) => Numbers(path.Attribute("d")!.Value)[2];
        var blue = bars.Elements("path").Where(p => (string?)p.Attribute("class") == "bc-blue").Select(Long).ToList();
        var iron = Long(bars.Elements("path").Single(p => (string?)p.Attribute("class") == "bc-iron"));
        (blue[0] / iron, blue[1] / iron, blue[2]).ShouldSatisfyAllConditions(
            b => b.Item1.ShouldBe(0.5, 0.01),
            b => b.Item2.ShouldBe(0.25, 0.01),
            b => b.Item3.ShouldBe(0)
        );
        bars.Attribute("aria-label")!.Value.ShouldBe("What: A <b> ten; A very long name of a lathe five; None 0");
        var share = Parsed(BarChart.Lying("Share", [new("A", 25, "1 of 4")], whole: 100));
        (
            Long(share.Elements("path").Single(p => (string?)p.Attribute("class") == "bc-blue"))
            / Long(share.Elements("path").Single(p => (string?)p.Attribute("class") == "bc-track"))
        ).ShouldBe(0.25, 0.01);

        var weeks = Parsed(
            BarChart.Standing(
                "Weeks",
                [("1 Jan", [3, 1]), ("8 Jan", [0, 0]), ("15 Jan", [2, 0])],
                [("Released", "bc-blue"), ("Scrapped", "bc-ink")]
            )
        );
        double High(XElement path) => Math.Abs(Numbers(path.Attribute("d")!.Value)[3]);
        var columns = weeks.Elements("path").Where(p => (string?)p.Attribute("class") == "bc-blue").Select(High).ToList();
        (columns[0] / columns[1]).ShouldBe(1.5, 0.01); // the last one is the legend's square
        weeks.Elements("text").Select(t => t.Value).ShouldContain("4");
        weeks.Attribute("aria-label")!.Value.ShouldContain("15 Jan Released 2");
    }
}
