using System.Globalization;

namespace Uncial.Simulation.Scales;

/// <summary>Puts the marks of each form of gauge where they stand at a size.</summary>
internal static class ScaleDrawing
{
    /// <summary>Marks of the thimble that are drawn above and below the line, divisions.</summary>
    private const double ThimbleSeen = 12;

    public static GaugePicture Of(GaugeDesign gauge, double size, double start) =>
        gauge.Form switch
        {
            GaugeForm.Micrometer => Micrometer(gauge, size - gauge.From, isDepth: false),
            GaugeForm.DepthMicrometer => Micrometer(gauge, size - gauge.From, isDepth: true),
            GaugeForm.VernierCaliper => VernierCaliper(gauge, size),
            GaugeForm.DialCaliper => new(gauge, [Beam(gauge, size, gauge.IsInch ? 0.1 : 2)], [Dial(gauge, [size])]),
            GaugeForm.Indicator => Swept(gauge, size, size),
            GaugeForm.BarEighths => new(gauge, [Bar(gauge, start)], [Dial(gauge, [size - start])]),
            _ => new(gauge, [Bar(gauge, start)], [Dial(gauge, [size - start]), Counter(gauge, size - start)]),
        };

    public static GaugePicture Swept(GaugeDesign gauge, double lowest, double highest) =>
        new(gauge, [], [Dial(gauge, [lowest, highest]), Counter(gauge, lowest)]);

    /// <summary>
    /// Sleeve: a mark for every turn of the thimble, numbered every 5 mm or tenth of an inch. Thimble: unrolled, numbers rising upwards; of
    /// a depth micrometer both run the other way.
    /// </summary>
    private static GaugePicture Micrometer(GaugeDesign gauge, double opened, bool isDepth)
    {
        var (turn, n) = (gauge.Turn, gauge.DivisionsOfTurn);
        var (perNumeral, turns) = (gauge.IsInch ? 4 : 10, (int)Math.Round((gauge.To - gauge.From) / turn));
        var edge = turn * 0.06; // a line that comes up at the edge is seen a little before it is whole
        var sleeve = Enumerable
            .Range(0, turns + 1)
            .Select(k =>
                (
                    Mark: new ScaleMark(
                        Seen(k * turn - opened, turn / 40),
                        k % perNumeral == 0 ? MarkSize.Large
                            : gauge.IsInch || k % 2 == 0 ? MarkSize.Middle
                            : MarkSize.Small,
                        k % perNumeral == 0 ? Text(gauge.IsInch ? k / 4 % 10 : (int)gauge.From + k / 2) : null
                    ),
                    At: k * turn - opened
                )
            )
            .Where(m => isDepth ? m.At >= -edge : m.At <= edge)
            .Select(m => m.Mark);
        var divisions = opened / turn % 1 * n;
        var thimble = Enumerable
            .Range(0, n)
            .Select(j => (j, At: Wrap(j - divisions, n) * (isDepth ? -1 : 1)))
            .Where(m => Math.Abs(m.At) <= ThimbleSeen)
            .OrderBy(m => m.At)
            .Select(m => new ScaleMark(Seen(m.At, 0.02), m.j % 5 == 0 ? MarkSize.Large : MarkSize.Small, m.j % 5 == 0 ? Text(m.j) : null));
        List<StraightScale> scales = [new(ScaleName.Sleeve, [.. sleeve]), new(ScaleName.Thimble, [.. thimble])];
        if (gauge.HasVernier)
            scales.Add(
                new(ScaleName.Vernier, [.. Enumerable.Range(0, 11).Select(k => new ScaleMark(0.9 * k, MarkSize.Small, Text(k % 10)))])
            );
        return new(gauge, scales, []);
    }

    /// <summary>Beam in whole divisions; vernier so that one of its lines meets one of the beam's.</summary>
    private static GaugePicture VernierCaliper(GaugeDesign gauge, double size)
    {
        var (beam, n) = (gauge.Turn, gauge.DivisionsOfTurn);
        // Every second mark of the beam where the lines would stand too close: 20 lines over 39 mm.
        var every = n == 20 ? 2 : 1;
        var line = every * beam - gauge.Division;
        var numbered = gauge.IsInch ? 5 : n / 10;
        var vernier = Enumerable
            .Range(0, n + 1)
            .Select(k => new ScaleMark(
                k * line,
                k % numbered == 0 ? MarkSize.Large : MarkSize.Small,
                k % numbered == 0 ? Text(gauge.IsInch ? k : k / numbered) : null
            ));
        return new(gauge, [Beam(gauge, size, beam, n * line), new(ScaleName.Vernier, [.. vernier])], []);
    }

    /// <summary>
    /// The beam near its index: marks up to the edge of the slide, or beyond it where a vernier lies beside them. Inches have long marks,
    /// their tenths middle ones with a digit.
    /// </summary>
    private static StraightScale Beam(GaugeDesign gauge, double size, double mark, double beside = 0)
    {
        // So much that a whole inch, or a numeral of ten millimetres, is always among them.
        var (before, beyond) =
            beside == 0 ? (gauge.IsInch ? 1.1 : 32, gauge.Division / 2)
            : gauge.IsInch ? (0.42, beside + 0.06)
            : (12.0, beside + 3);
        var marks = Enumerable
            .Range(0, (int)Math.Round((gauge.To + beside + 3 * mark) / mark) + 1) // the beam goes on beside a vernier at its end
            .Select(k => (At: k * mark - size, Value: (int)Math.Round(k * mark * 1000)))
            .Where(m => m.At >= -before && m.At <= beyond)
            .Select(m =>
            {
                var (whole, numbered, middle) = gauge.IsInch ? (1000, 100, 50) : (10_000, 10_000, 5_000);
                return new ScaleMark(
                    Seen(m.At, gauge.Division / 20),
                    m.Value % whole == 0 ? MarkSize.Large
                        : m.Value % middle == 0 ? MarkSize.Middle
                        : MarkSize.Small,
                    m.Value % numbered != 0 ? null
                        : gauge.IsInch && m.Value % whole != 0 ? Text(m.Value / 100 % 10)
                        : Text(m.Value / 1000)
                );
            });
        return new(ScaleName.Beam, [.. marks]);
    }

    private static StraightScale Bar(GaugeDesign gauge, double start)
    {
        var seen = gauge.Step * (gauge.Form == GaugeForm.BarEighths ? 13 : 3);
        var marks = Enumerable
            .Range(0, (int)Math.Round((gauge.To - gauge.From) / gauge.Step) + 1)
            .Select(k => (At: gauge.From + k * gauge.Step - start, Value: gauge.From + k * gauge.Step, k))
            .Where(m => Math.Abs(m.At) <= seen + gauge.Step / 4)
            .Select(m =>
                gauge.Form == GaugeForm.BarStarts
                    ? new ScaleMark(m.At, MarkSize.Middle, m.Value.ToString(gauge.IsInch ? "0.00" : "0", CultureInfo.InvariantCulture))
                    : new ScaleMark(
                        m.At,
                        m.k % 8 == 0 ? MarkSize.Large
                            : m.k % 4 == 0 ? MarkSize.Middle
                            : MarkSize.Small,
                        m.k % 8 == 0 ? Text((int)Math.Round(m.Value)) : null
                    )
            );
        return new(ScaleName.Bar, [.. marks]);
    }

    /// <summary>The dial of one turn; its hands point where a size leads.</summary>
    private static RoundScale Dial(GaugeDesign gauge, IReadOnlyList<double> sizes)
    {
        var n = gauge.DivisionsOfTurn;
        // Of a caliper to 0.02 the numerals are hundredths of a millimetre.
        var worth = gauge.IsInch ? 1 : (int)Math.Round(gauge.Division * 100);
        var marks = Enumerable
            .Range(0, n)
            .Select(k => new ScaleMark(
                (double)k / n,
                k % 10 == 0 ? MarkSize.Large
                    : k % 5 == 0 ? MarkSize.Middle
                    : MarkSize.Small,
                k % 10 == 0 ? Text(k * worth) : null
            ));
        return new(ScaleName.Dial, n, [.. marks], [.. sizes.Select(s => Turns(s / gauge.Turn, n))]);
    }

    /// <summary>Ten turns once round.</summary>
    private static RoundScale Counter(GaugeDesign gauge, double size) =>
        new(
            ScaleName.Counter,
            10,
            [.. Enumerable.Range(0, 10).Select(k => new ScaleMark(k / 10.0, MarkSize.Middle, Text(k)))],
            [Turns(size / gauge.Turn / 10, 50)]
        );

    private static double Turns(double turns, int divisions)
    {
        var shown = Math.Round((turns - Math.Floor(turns)) * divisions * 20) / (divisions * 20);
        return shown >= 1 ? 0 : shown;
    }

    private static double Seen(double at, double finest) => Math.Round(at / finest) * finest;

    private static double Wrap(double divisions, int n) =>
        divisions > n / 2.0 ? divisions - n
        : divisions < -n / 2.0 ? divisions + n
        : divisions;

    private static string Text(int value) => value.ToString(CultureInfo.InvariantCulture);
}
