using System.Globalization;
using System.Text.Encodings.Web;
using System.Text.RegularExpressions;
using System.Xml.Linq;
using Uncial.Core;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Web.Charts;

namespace Uncial.Web.Tests;

/// <summary>The stock rule is a true rule: whatever is put on it, the order on screen is the order on the scale.</summary>
public class DrawingTests
{
    private static XElement Rule(StockRuleView view)
    {
        using var text = new StringWriter();
        StockRule.Draw(view).WriteTo(text, HtmlEncoder.Default);
        var markup = text.ToString();
        Regex.IsMatch(markup, "NaN|∞|Infinity").ShouldBeFalse(markup);
        return XElement.Parse(markup);
    }

    private static List<(string Word, double Y, double Figure)> Flags(XElement rule)
    {
        var texts = rule.Descendants("text").ToList();
        return
        [
            .. texts
                .Select((t, i) => (t, i))
                .Where(x => ((string?)x.t.Attribute("class"))!.StartsWith("sr-val", StringComparison.Ordinal))
                .Select(x => (texts[x.i - 1].Value, (double)x.t.Attribute("y")!, double.Parse(x.t.Value, CultureInfo.InvariantCulture))),
        ];
    }

    [Fact]
    public void Order_on_screen_is_order_on_the_scale_for_any_part()
    {
        var random = new Random(3);
        for (var n = 0; n < 600; n++)
        {
            var rotor = n % 2 == 0;
            var discard = rotor ? random.Next(400, 4000) / 100m : random.Next(15_000, 40_000) / 100m;
            var (wear, sign) = (random.Next(0, 900) / 100m, rotor ? 1 : -1);
            var limits = Limits
                .Create(
                    rotor ? PartKind.Rotor : PartKind.Drum,
                    Length.FromMillimetres(discard + sign * (wear + 1)),
                    null,
                    Length.FromMillimetres(discard),
                    ShopRules.Default
                )
                .Limits!;
            var now = Length.FromMillimetres(discard + sign * (random.Next(-60, (int)(100 * wear) + 90) / 100m));
            var rule = Rule(
                new()
                {
                    Limits = limits,
                    Now = now,
                    Uncertainty = Length.FromMillimetres(0.02m),
                    Head = "0.42",
                    HeadWord = "may still come off",
                    Unit = n % 3 == 0 ? LengthUnit.Inch : LengthUnit.Millimetre,
                    Slices =
                        random.Next(2) == 0
                            ? []
                            :
                            [
                                new("rough", now - sign * Length.FromMillimetres(0.1m), "cut"),
                                new("finish", now - sign * Length.FromMillimetres(0.2m), "planned"),
                            ],
                    ForecastWord = "Forecast",
                }
            );
            var flags = Flags(rule).OrderBy(f => f.Y).ToList();
            flags.Select(f => f.Word).ShouldContain("Discard");
            flags.Select(f => f.Y).ShouldAllBe(y => y > 0 && y < 728);
            for (var i = 1; i < flags.Count; i++)
            {
                (flags[i].Y - flags[i - 1].Y).ShouldBeGreaterThan(42); // never one over another
                // The larger size stands higher, of rotor and drum alike. (A limit in inches is shown rounded to the safe side.)
                (flags[i - 1].Figure - flags[i].Figure).ShouldBeGreaterThanOrEqualTo(-0.0011);
            }
        }
    }

    [Theory]
    [InlineData(PartKind.Rotor, 26, 24, 23.4, 23)]
    [InlineData(PartKind.Drum, 254, 258.8, 259.1, 259.5)]
    public void Where_the_rule_is_broken_no_figure_is_half_hidden(
        PartKind part,
        double nominal,
        double now,
        double machineTo,
        double discard
    )
    {
        static Length Mm(double mm) => Length.FromMillimetres((decimal)mm);
        // The break slides over the figures as today's size moves.
        for (var step = 0; step < 30; step++)
        {
            var rule = Rule(
                new()
                {
                    Limits = Limits.Create(part, Mm(nominal), Mm(machineTo), Mm(discard), ShopRules.Default).Limits!,
                    Now = Mm(now) + Mm(0.01) * step,
                    Uncertainty = Mm(0.02),
                    Head = "0.42",
                    HeadWord = "may still come off",
                    Unit = LengthUnit.Millimetre,
                }
            );
            var zigzag = rule.Descendants("path")
                .Select(p => (string)p.Attribute("d")!)
                .First(d => d.Contains("l20 -7", StringComparison.Ordinal));
            var at = double.Parse(zigzag.Split('l')[0].Split(' ')[1], CultureInfo.InvariantCulture);
            rule.Descendants("text")
                .Where(t => ((string?)t.Attribute("class"))!.StartsWith("sr-n", StringComparison.Ordinal))
                .Select(t => (double)t.Attribute("y")! - 6)
                .ShouldAllBe(y => Math.Abs(y - at) > 21);
        }
    }

    [Fact]
    public void A_part_past_discard_says_how_much_over_it_is()
    {
        var rule = Rule(
            new()
            {
                Limits = Limits
                    .Create(
                        PartKind.Rotor,
                        Length.FromMillimetres(34),
                        Length.FromMillimetres(31.5m),
                        Length.FromMillimetres(31),
                        ShopRules.Default
                    )
                    .Limits!,
                Now = Length.FromMillimetres(30.93m),
                Head = "0.07",
                HeadWord = "over discard",
                HeadIsOver = true,
                Unit = LengthUnit.Millimetre,
            }
        );
        rule.Attribute("aria-label")!.Value.ShouldBe("Stock rule: 0.07 mm over discard");
        var flags = Flags(rule);
        flags.Select(f => f.Figure).ShouldBe([34, 31.5, 31, 30.93], ignoreOrder: true);
        rule.Descendants("text").Any(t => t.Value == "spare").ShouldBeFalse();
    }
}
