using System.Globalization;

namespace Uncial.Simulation.Scales;

/// <summary>Reads a gauge from its scales as somebody does who has learned it: the last mark, then the line that meets.</summary>
public static class Eye
{
    /// <summary>The size that a gauge shows, in its unit, to one of its divisions; of an indicator the total reading.</summary>
    public static double Read(GaugePicture picture)
    {
        ArgumentNullException.ThrowIfNull(picture);
        var gauge = picture.Design;
        var size = gauge.Form switch
        {
            GaugeForm.Micrometer or GaugeForm.DepthMicrometer => Micrometer(picture),
            GaugeForm.VernierCaliper => VernierCaliper(picture),
            GaugeForm.DialCaliper => DialCaliper(picture),
            GaugeForm.Indicator => Total(picture),
            GaugeForm.BarEighths => BarSetAt(picture) + Hand(picture, 0),
            _ => BarSetAt(picture) + Counted(picture),
        };
        return Math.Round(size / gauge.Division) * gauge.Division;
    }

    private static double Micrometer(GaugePicture picture)
    {
        var (gauge, sleeve, thimble) = (picture.Design, picture.Scale(ScaleName.Sleeve).Marks, picture.Scale(ScaleName.Thimble).Marks);
        var isDepth = gauge.Form == GaugeForm.DepthMicrometer;
        var n = gauge.DivisionsOfTurn;
        // The division at the line, and how far past it: seen or, with a vernier, by the line that meets.
        var near = thimble.MinBy(m => Math.Abs(m.At));
        var at = DivisionOf(thimble, near, n, isDepth) + near.At * (isDepth ? 1 : -1);
        if (gauge.HasVernier)
        {
            var lines = picture.Scale(ScaleName.Vernier).Marks;
            var meets = Enumerable.Range(0, 10).MinBy(k => thimble.Min(m => Math.Abs(m.At - lines[k].At)));
            at = Math.Round(at - meets / 10.0) + meets / 10.0;
        }
        at = (at + n) % n;
        // Every mark that the thimble has uncovered is a turn; one at its very edge counts if the thimble agrees.
        var turned = at / n * gauge.Turn;
        var (whole, from) = sleeve
            .Where(m => m.Numeral is not null)
            .Select(m => (int.Parse(m.Numeral!, CultureInfo.InvariantCulture) * (gauge.IsInch ? 0.1 : 1), m.At))
            .First();
        // Inches begin anew on every sleeve; millimetres are numbered on from where the gauge begins.
        var turns = Math.Round((whole - (gauge.IsInch ? 0 : gauge.From) - from - turned) / gauge.Turn);
        return gauge.From + turns * gauge.Turn + turned;
    }

    /// <summary>What is engraved, or would be, at a mark of a thimble: counted on from a numeral that is seen.</summary>
    private static int DivisionOf(IReadOnlyList<ScaleMark> thimble, ScaleMark mark, int n, bool isDepth)
    {
        var numbered = thimble.First(m => m.Numeral is not null);
        var on = (int)Math.Round(mark.At - numbered.At) * (isDepth ? -1 : 1);
        return ((int.Parse(numbered.Numeral!, CultureInfo.InvariantCulture) + on) % n + n) % n;
    }

    private static double VernierCaliper(GaugePicture picture)
    {
        var (gauge, beam, lines) = (picture.Design, picture.Scale(ScaleName.Beam).Marks, picture.Scale(ScaleName.Vernier).Marks);
        var meets = Enumerable.Range(0, lines.Count - 1).MinBy(k => beam.Min(m => Math.Abs(m.At - lines[k].At)));
        var at = AtEdge(picture);
        var past = meets * gauge.Division;
        return Math.Round((at - past) / gauge.Turn) * gauge.Turn + past;
    }

    private static double DialCaliper(GaugePicture picture)
    {
        var past = Hand(picture, 0);
        return Math.Round((AtEdge(picture) - past) / picture.Design.Turn) * picture.Design.Turn + past;
    }

    /// <summary>Roughly where the edge stands on the beam: from its nearest whole numeral.</summary>
    private static double AtEdge(GaugePicture picture)
    {
        var whole = picture
            .Scale(ScaleName.Beam)
            .Marks.Where(m => m is { Size: MarkSize.Large, Numeral: not null })
            .MinBy(m => Math.Abs(m.At));
        return int.Parse(whole.Numeral!, CultureInfo.InvariantCulture) - whole.At;
    }

    private static double BarSetAt(GaugePicture picture)
    {
        var bar = picture.Scale(ScaleName.Bar).Marks;
        if (picture.Design.Form == GaugeForm.BarStarts)
            return double.Parse(bar.MinBy(m => Math.Abs(m.At)).Numeral!, CultureInfo.InvariantCulture);
        var whole = bar.First(m => m.Numeral is not null);
        // Eighths counted from the whole inch to the pointer.
        var eighths = bar.Count(m => m.At > Math.Min(0, whole.At) + 1e-6 && m.At <= Math.Max(0, whole.At) + 1e-6);
        return int.Parse(whole.Numeral!, CultureInfo.InvariantCulture) + (whole.At <= 0 ? eighths : -eighths) * picture.Design.Step;
    }

    /// <summary>Where a hand stands in its turn.</summary>
    private static double Hand(GaugePicture picture, int hand)
    {
        var dial = picture.DialOf(ScaleName.Dial);
        return dial.Hands[hand] * dial.Divisions * picture.Design.Division;
    }

    /// <summary>Hand and counter together: the counter tells which turn, the hand where in it.</summary>
    private static double Counted(GaugePicture picture)
    {
        var (turn, past) = (picture.Design.Turn, Hand(picture, 0));
        var turns = picture.DialOf(ScaleName.Counter).Hands[0] * 10;
        return Math.Round(turns - past / turn) * turn + past;
    }

    /// <summary>From the lowest place on clockwise to the highest.</summary>
    private static double Total(GaugePicture picture)
    {
        var way = Hand(picture, 1) - Hand(picture, 0);
        return way < -1e-9 ? way + picture.Design.Turn : way;
    }
}
