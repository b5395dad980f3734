using Uncial.Simulation.Scales;

namespace Uncial.Simulation.Tests;

/// <summary>What stands opposite what on a gauge says its size, and nothing else does.</summary>
public class ScaleTests
{
    public static TheoryData<string, GaugeDesign> Gauges =>
        new()
        {
            { "micrometer", GaugeDesign.Micrometer(0, vernier: false) },
            { "micrometer from 25", GaugeDesign.Micrometer(25, vernier: false) },
            { "micrometer with vernier", GaugeDesign.Micrometer(0, vernier: true) },
            { "inch micrometer", GaugeDesign.InchMicrometer(0, vernier: false) },
            { "inch micrometer with vernier", GaugeDesign.InchMicrometer(1, vernier: true) },
            { "depth micrometer", GaugeDesign.DepthMicrometer },
            { "vernier caliper", GaugeDesign.VernierCaliper },
            { "coarse vernier caliper", GaugeDesign.CoarseVernierCaliper },
            { "inch vernier caliper", GaugeDesign.InchVernierCaliper },
            { "dial caliper", GaugeDesign.DialCaliper },
            { "inch dial caliper", GaugeDesign.InchDialCaliper },
            { "bar with eighths", GaugeDesign.BarEighths },
            { "bar with starts", GaugeDesign.BarStarts },
            { "inch bar with starts", GaugeDesign.InchBarStarts },
        };

    /// <summary>Every gauge is read back from its marks over its whole reach, beside every numeral and at every turn.</summary>
    [Theory]
    [MemberData(nameof(Gauges), DisableDiscoveryEnumeration = true)]
    public void Every_size_is_read_back_from_the_marks(string name, GaugeDesign gauge)
    {
        ArgumentNullException.ThrowIfNull(gauge);
        var chance = new Chance(name.Length);
        for (var n = 0; n < 4000; n++)
        {
            var start = gauge.Step == 0 ? 0 : gauge.From + gauge.Step * Math.Floor(chance.Share() * (gauge.To - gauge.From) / gauge.Step);
            // A size beside a mark, and any size.
            var size =
                gauge.Step > 0 ? start + chance.Between(0, Math.Min(gauge.Step, 0.999 * gauge.Turn * 10) - gauge.Division)
                : n % 4 == 0 ? gauge.From + gauge.Turn * Math.Floor(chance.Share() * (gauge.To - gauge.From) / gauge.Turn)
                : chance.Between(gauge.From, gauge.To - gauge.Division);
            size = Math.Round(size / gauge.Division) * gauge.Division + chance.Between(-0.3, 0.3) * gauge.Division;
            size = Math.Clamp(size, Math.Max(gauge.From, start), gauge.To);
            Eye.Read(gauge.At(size, start)).ShouldBe(size, gauge.Division * 0.51, $"{name} at {size} from {start}");
        }
    }

    [Fact]
    public void A_micrometer_is_read_by_hand_as_its_makers_teach_it()
    {
        // 7.83: seven whole marks and a half uncovered, 33 at the line.
        var picture = GaugeDesign.Micrometer(0, vernier: false).At(7.83);
        var sleeve = picture.Scale(ScaleName.Sleeve).Marks.Where(m => m.At <= 0).ToList();
        sleeve.Count(m => m.Size != MarkSize.Small).ShouldBe(8); // 0 … 7
        sleeve[^1].Size.ShouldBe(MarkSize.Small);
        sleeve.Last(m => m.Numeral is not null).Numeral.ShouldBe("5");
        var thimble = picture.Scale(ScaleName.Thimble).Marks;
        thimble.Single(m => m.Numeral == "35").At.ShouldBe(2, 1e-9);
        thimble.Single(m => m.Numeral == "30").At.ShouldBe(-3, 1e-9);
    }

    [Fact]
    public void A_vernier_meets_at_the_line_that_it_should()
    {
        // 24.36 on a caliper to 0.02: past 24, and line 18 meets the mark of 42 (24.36 + 18 × 0.98).
        var picture = GaugeDesign.VernierCaliper.At(24.36);
        var (beam, vernier) = (picture.Scale(ScaleName.Beam).Marks, picture.Scale(ScaleName.Vernier).Marks);
        vernier[18].At.ShouldBe(17.64, 1e-9);
        beam.Where(m => Math.Abs(m.At - vernier[18].At) < 1e-6).Count().ShouldBe(1);
        beam.Last(m => m.At <= 0).At.ShouldBe(-0.36, 1e-9);
        // 0.3447 on an inch micrometer: line 7 meets.
        picture = GaugeDesign.InchMicrometer(0, vernier: true).At(0.3447);
        var lines = picture.Scale(ScaleName.Vernier).Marks;
        picture.Scale(ScaleName.Thimble).Marks.Min(m => Math.Abs(m.At - lines[7].At)).ShouldBeLessThan(0.011);
    }

    [Fact]
    public void A_depth_micrometer_hides_what_it_has_measured()
    {
        var picture = GaugeDesign.DepthMicrometer.At(2.37);
        picture.Scale(ScaleName.Sleeve).Marks[0].At.ShouldBe(0.13, 0.007); // 2.5 is the first that is seen
        picture.Scale(ScaleName.Thimble).Marks.Single(m => m.Numeral == "40").At.ShouldBe(-3, 1e-9);
    }

    [Fact]
    public void The_hands_of_an_indicator_keep_how_far_it_swung()
    {
        // From 0.97 over the zero to 1.04: seven divisions.
        var picture = GaugeDesign.Indicator.Swept(0.97, 1.04);
        picture.DialOf(ScaleName.Dial).Hands.ShouldBe([0.97, 0.04]);
        Eye.Read(picture).ShouldBe(0.07, 1e-9);
    }

    [Fact]
    public void A_picture_says_no_more_than_an_eye_sees()
    {
        // Sizes that differ by a fortieth of a division look alike.
        var gauge = GaugeDesign.Micrometer(0, vernier: false);
        Marks(gauge.At(12.3402)).ShouldBe(Marks(gauge.At(12.3403)));
        Marks(GaugeDesign.VernierCaliper.At(12.3402)).ShouldBe(Marks(GaugeDesign.VernierCaliper.At(12.3404)));

        static string Marks(GaugePicture picture) =>
            string.Join(';', picture.Straight.SelectMany(s => s.Marks).Select(m => m.At.ToString("0.######", null)));
    }

    [Fact]
    public void A_gauge_is_set_only_where_it_reaches()
    {
        Should.Throw<ArgumentOutOfRangeException>(() => GaugeDesign.Micrometer(25, vernier: false).At(24.9));
        Should.Throw<ArgumentOutOfRangeException>(() => GaugeDesign.Micrometer(25, vernier: false).At(50.1));
    }
}
