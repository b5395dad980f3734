using System.Globalization;
using System.Text.Encodings.Web;
using System.Xml.Linq;
using Uncial.Practice.Drills;
using Uncial.Simulation.Scales;
using Uncial.Web.Charts;

namespace Uncial.Web.Tests;

/// <summary>
/// Every gauge is read back from its drawing: which line stands opposite which, by where it is drawn and what is engraved, and by nothing
/// else.
/// </summary>
public class GaugeDrawingTests
{
    private sealed record Line(double X, double Y, double Length, string? Numeral);

    [Theory]
    [InlineData(DrillKind.Micrometer)]
    [InlineData(DrillKind.InchMicrometer)]
    [InlineData(DrillKind.Caliper)]
    [InlineData(DrillKind.Indicator)]
    [InlineData(DrillKind.DepthGauge)]
    [InlineData(DrillKind.Eighths)]
    [InlineData(DrillKind.Starts)]
    public void A_drawn_gauge_shows_what_it_reads(DrillKind kind)
    {
        var read = 0;
        for (var seed = 1; seed <= 12; seed++)
        for (var number = 1; number <= DrillKinds.Items; number++)
        {
            if (DrillItems.Draw(kind, seed, number) is not SizeItem { Picture: DrillPicture.Gauge { Shown: var shown } } item)
                continue;
            using var text = new StringWriter();
            GaugeDrawing.Draw(shown).WriteTo(text, HtmlEncoder.Default);
            var drawn = XElement.Parse(text.ToString());
            var seen = Eye.Read(SeenIn(drawn, shown.Design));
            ((double)item.Right.In(item.Unit)).ShouldBe(seen, shown.Design.Division * 0.1, $"{kind} {seed} {number}");
            read++;
        }
        read.ShouldBeGreaterThan(100);
    }

    /// <summary>What an eye makes of the drawing: scales from lines, their worth from how far they stand apart.</summary>
    private static GaugePicture SeenIn(XElement drawn, GaugeDesign design)
    {
        List<StraightScale> straight = [];
        List<RoundScale> round = [];
        foreach (var scale in drawn.Elements("g"))
        {
            var name = scale.Attribute("class")!.Value.Split(' ')[1];
            if (name == "dial")
                round.Add(Dial(scale, drawn, round.Count));
            else
                straight.Add(Straight(scale, name, design));
        }
        return new(design, straight, round);
    }

    private static StraightScale Straight(XElement scale, string name, GaugeDesign design)
    {
        var up = name == "thimble" || name == "vernier" && design.Form == GaugeForm.Micrometer;
        var lines = Lines(scale, up);
        // One line to the next: a turn on a sleeve, a division on a thimble, a mark on a beam or a bar.
        var apart = Enumerable.Range(1, lines.Count - 1).Average(i => Place(i) - Place(i - 1));
        double Place(int i) => up ? lines[i].Y : lines[i].X;
        var worth = name switch
        {
            "sleeve" => design.Turn,
            "thimble" => -1.0,
            "bar" => design.Step,
            "beam" => design.Form == GaugeForm.DialCaliper ? (design.IsInch ? 0.1 : 2) : design.Turn,
            _ => 0.0,
        };
        double unit,
            zero;
        if (name == "vernier" && up)
            // The lines of the vernier stand beside those of the thimble, drawn to its measure; its first line is the line that is read.
            (unit, zero) = (-1 / ThimbleApart(scale.Parent!), lines.Max(l => l.Y));
        else if (name == "vernier")
        {
            var beam = Lines(scale.Parent!.Elements("g").First(), false);
            unit = design.Turn / Enumerable.Range(1, beam.Count - 1).Average(i => beam[i].X - beam[i - 1].X);
            zero = lines[0].X;
        }
        else
        {
            unit = worth / apart;
            zero = double.Parse(scale.Attribute("data-line")!.Value, CultureInfo.InvariantCulture);
        }
        var longest = lines.Max(l => l.Length);
        return new(
            Enum.Parse<ScaleName>(name, ignoreCase: true),
            [
                .. lines
                    .Select(l => new ScaleMark(
                        ((up ? l.Y : l.X) - zero) * unit,
                        l.Length > longest - 1 ? MarkSize.Large : MarkSize.Middle,
                        l.Numeral
                    ))
                    .OrderBy(m => m.At),
            ]
        );
    }

    private static double ThimbleApart(XElement svg)
    {
        var lines = Lines(svg.Elements("g").Single(g => g.Attribute("class")!.Value == "scale thimble"), true);
        return Enumerable.Range(1, lines.Count - 1).Average(i => lines[i].Y - lines[i - 1].Y);
    }

    private static RoundScale Dial(XElement scale, XElement drawn, int before)
    {
        var middle = scale.Attribute("data-line")!.Value.Split(' ').Select(Number).ToArray();
        double Turns(double x, double y) => (Math.Atan2(x - middle[0], middle[1] - y) / (2 * Math.PI) + 1) % 1;
        var lines = scale.Elements("path").Select(p => Numbers(p.Attribute("d")!.Value)).ToList();
        var hands = drawn
            .Elements("path")
            .Where(p => p.Attribute("class")?.Value.StartsWith("hand", StringComparison.Ordinal) is true)
            .Select(p => p.Attribute("d")!.Value)
            .Where(d => !d.Contains('h', StringComparison.Ordinal))
            .Select(Numbers)
            // A hand goes through the middle of its dial.
            .Where(d => d.Length == 4 && Math.Abs((d[2] - d[0]) * (middle[1] - d[1]) - (middle[0] - d[0]) * (d[3] - d[1])) < 30)
            .Where(d => Math.Abs(d[2] - middle[0]) < 200 && Math.Abs(d[3] - middle[1]) < 200)
            .Select(d => Turns(d[2], d[3]))
            .ToList();
        return new(before == 0 ? ScaleName.Dial : ScaleName.Counter, lines.Count, [], hands);
    }

    /// <summary>Lines of a straight scale in their order, each with the numeral that stands nearest to it in its direction.</summary>
    private static List<Line> Lines(XElement scale, bool up)
    {
        var numerals = scale
            .Elements("text")
            .Select(t => (X: Number(t.Attribute("x")!.Value), Y: Number(t.Attribute("y")!.Value), t.Value));
        List<Line> lines =
        [
            .. scale
                .Elements("path")
                .Select(p => Numbers(p.Attribute("d")!.Value))
                .Select(d => new Line(d[0], d[1], Math.Abs(d[2] - (up ? d[0] : d[1])), null)),
            .. scale.Elements("circle").Select(c => new Line(Number(c.Attribute("cx")!.Value), 0, 1, null)),
        ];
        foreach (var (x, y, text) in numerals)
        {
            // Beside a horizontal line the numeral's foot stands a little lower.
            var at = lines.MinBy(l => up ? Math.Abs(l.Y + 6 - y) : Math.Abs(l.X - x))!;
            lines[lines.IndexOf(at)] = at with { Numeral = text };
        }
        return [.. lines.OrderBy(l => up ? l.Y : l.X)];
    }

    private static double Number(string text) => double.Parse(text, CultureInfo.InvariantCulture);

    private static double[] Numbers(string path) =>
        [.. path.Split(['M', 'V', 'H', 'L', ' '], StringSplitOptions.RemoveEmptyEntries).Select(Number)];
}
