using System.Globalization;
using Uncial.Practice.Causes;
using Uncial.Practice.Drills;
using Uncial.Simulation.Scales;

namespace Uncial.Simulation.Tests;

/// <summary>What is said to have led to a wrong reading is what led to it.</summary>
public class ReadingCausesTests
{
    /// <summary>How each mistake reads a gauge, told apart from how it is recognised.</summary>
    private static double? Misread(MistakeCause cause, ReadingItem item, Chance chance)
    {
        var (gauge, right) = (item.Gauge, Eye.Read(((DrillPicture.Gauge)item.Picture!).Shown));
        var up = chance.Happens(0.5) ? 1 : -1;
        var text = right.ToString("F" + item.Decimals, CultureInfo.InvariantCulture);
        var isMicrometer = gauge.Form is GaugeForm.Micrometer or GaugeForm.DepthMicrometer;
        switch (cause)
        {
            case MistakeCause.OneDivision:
                return right + up * gauge.Division;
            case MistakeCause.TurnOfThimble:
                return isMicrometer ? right + up * (gauge.IsInch ? 0.025 : 0.5) : null;
            case MistakeCause.WholeMark:
                return gauge.Form is GaugeForm.VernierCaliper ? right + up * (gauge.IsInch ? 0.025 : 1)
                    : gauge.Form == GaugeForm.Micrometer && !gauge.IsInch ? right + up
                    : null;
            case MistakeCause.CountedBackwards when isMicrometer && !gauge.HasVernier:
                // 17 read as 23: three beyond the 20 instead of three before it.
                var division = gauge.IsInch ? 0.001 : 0.01;
                var at = (int)Math.Round((right - gauge.From) / division) % gauge.DivisionsOfTurn;
                var above = (at + 4) / 5 * 5;
                return above - at is 0 ? null : right + 2 * (above - at) * division;
            case MistakeCause.Eighths:
                return gauge.Form == GaugeForm.BarEighths ? right + up * 0.125 : null;
            case MistakeCause.TurnOfHand:
                return gauge.Form == GaugeForm.BarStarts ? right + up * gauge.Turn : null;
            case MistakeCause.StartForgotten:
                return item.Start > 0 ? right - item.Start
                    : gauge.From > 0 ? right - gauge.From
                    : null;
            case MistakeCause.AnotherStart:
                return gauge.Form == GaugeForm.BarStarts ? right + up * gauge.Step : null;
            case MistakeCause.OtherUnit:
                return gauge.IsInch ? right / 25.4 : right * 25.4;
            case MistakeCause.PointMoved:
                return right / 10;
            case MistakeCause.DigitsSwapped:
                var i = (int)(chance.Share() * (text.Length - 1));
                if (text[i] == '.' || text[i + 1] == '.' || text[i] == text[i + 1])
                    return null;
                return double.Parse(text[..i] + text[i + 1] + text[i] + text[(i + 2)..], CultureInfo.InvariantCulture);
            default:
                return null;
        }
    }

    [Fact]
    public void Nine_in_ten_mistakes_are_called_by_their_name()
    {
        var chance = new Chance(3);
        DrillKind[] kinds =
        [
            DrillKind.Micrometer,
            DrillKind.InchMicrometer,
            DrillKind.Caliper,
            DrillKind.DepthGauge,
            DrillKind.Eighths,
            DrillKind.Starts,
        ];
        var causes = Enum.GetValues<MistakeCause>();
        Dictionary<MistakeCause, (int Right, int All)> table = [];
        for (var n = 0; n < 20_000; n++)
        {
            if (
                DrillItems.Draw(chance.OneOf<DrillKind>(kinds), n, 1 + n % 20) is not ReadingItem item
                || Misread(chance.OneOf<MistakeCause>(causes), item, chance) is null
            )
                continue;
            var cause = chance.OneOf<MistakeCause>(causes);
            if (Misread(cause, item, chance) is not { } typed || Math.Abs(typed - item.Shown) < item.Gauge.Division * 0.8)
                continue;
            var (right, all) = table.GetValueOrDefault(cause);
            table[cause] = (right + (ReadingCauses.Of(item.Gauge, typed, item.Shown, item.Start) == cause ? 1 : 0), all + 1);
        }
        var told = string.Join(", ", table.Select(t => $"{t.Key} {t.Value.Right}/{t.Value.All}"));
        table.Count.ShouldBeGreaterThanOrEqualTo(10, told);
        ((double)table.Sum(t => t.Value.Right) / table.Sum(t => t.Value.All)).ShouldBeGreaterThan(0.9, told);
        table.ShouldAllBe(t => t.Value.Right > 0.75 * t.Value.All, told);
    }

    [Theory]
    [InlineData(0.07, MistakeCause.None)]
    [InlineData(0.035, MistakeCause.HalfOfTotal)]
    [InlineData(0.93, MistakeCause.LongWayRound)]
    [InlineData(0.04, MistakeCause.OneEndOnly)]
    [InlineData(0.06, MistakeCause.OneDivision)]
    [InlineData(0.7, MistakeCause.PointMoved)]
    [InlineData(0.5, MistakeCause.Unknown)]
    public void A_total_reading_over_the_zero_is_told_from_its_halves_and_ends(double typed, MistakeCause cause) =>
        ReadingCauses.OfTotal(GaugeDesign.Indicator, typed, 0.97, 1.04).ShouldBe(cause);
}
