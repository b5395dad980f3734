using Uncial.Core.Parts;
using Uncial.Core.Vehicles;

namespace Uncial.Core.Tests.Vehicles;

public class DueListTests
{
    private static readonly DateOnly Begin = new(2026, 1, 1);
    private static readonly DateOnly Inspection = new(2026, 3, 1); // 59 days later

    [Theory]
    [InlineData(0, 0, DueWord.Surely)]
    [InlineData(10, 59, DueWord.Surely)]
    [InlineData(10, 108, DueWord.Likely)]
    [InlineData(10, 109, DueWord.Perhaps)]
    [InlineData(59, 400, DueWord.Perhaps)]
    [InlineData(10, null, DueWord.Perhaps)]
    [InlineData(60, 400, DueWord.No)]
    public void A_part_is_due_by_a_day_as_surely_as_its_range_says(int least, int? most, DueWord word) =>
        Part(1, "FL", least, most).By(Inspection).ShouldBe(word);

    [Fact]
    public void What_comes_first_stands_first_and_what_nobody_knows_last()
    {
        var silent = new DuePart(1, "RL", "A2", null, null, null);
        var once = new DuePart(1, "RR", "A2", null, Begin, null);
        (silent.By(Inspection), once.By(Inspection)).ShouldBe((DueWord.Unknown, DueWord.Unknown));
        DuePart[] parts = [silent, Part(2, "FL", 40, 90), Part(3, "FL", 10, null), Part(1, "FL", 10, 30), once];
        DueList.Sort(parts).Select(p => (p.Vehicle, p.Position)).ShouldBe([(1, "FL"), (3, "FL"), (2, "FL"), (1, "RL"), (1, "RR")]);
        DueList.Within(parts, Begin, 5).Select(p => p.Vehicle).ShouldBe([1, 3]);
        DueList.Within(parts, Begin, 6).Select(p => p.Vehicle).ShouldBe([1, 3, 2]);
        Should.Throw<ArgumentOutOfRangeException>(() => DueList.Within(parts, Begin, 0));
        // Life of more than any calendar holds is no fault.
        Part(1, "FL", 4_000_000, 4_000_000).By(Inspection).ShouldBe(DueWord.No);
    }

    [Fact]
    public void Both_sides_of_an_axle_are_ordered_where_one_is_due_and_the_sure_ones_apart()
    {
        DuePart[] parts =
        [
            Part(1, "FL", 10, 30),
            Part(1, "FR", 200, 400),
            Part(1, "RL", 500, 900, "A2", "drum"),
            Part(1, "RR", 500, 900, "A2", "drum"),
            Part(2, "FL", 55, 300),
            Part(2, "FR", 70, 300),
            Part(2, "RL", 20, 50, "A2", "drum"),
            Part(2, "RR", 20, 50, "A2", null),
            Part(3, "W", 20, 500, "W", null),
        ];
        DueList.ToOrder(parts, Inspection).ShouldBe([new("drum", 2, 0, 0), new("rotor", 2, 2, 0), new(null, 0, 1, 0)]);
        // An axle of which one side is good and nobody has read the other one is not counted as good.
        DueList
            .ToOrder([Part(4, "FL", 200, 400), new(4, "FR", "A1", "rotor", null, null), .. parts], Inspection)
            .ShouldContain(new OrderLine("rotor", 2, 2, 2));
        DueList.ToOrder(parts, Begin).ShouldBeEmpty();
    }

    [Fact]
    public void A_part_goes_back_by_its_best_position_or_its_mark_and_the_pedal_is_pumped_before_it_moves()
    {
        foreach (var kind in Enum.GetValues<PartKind>())
        foreach (var read in new[] { true, false })
        {
            var steps = RefitSteps.Of(kind, read);
            steps.ShouldBeUnique();
            (steps.Contains(RefitStep.BestPosition), steps.Contains(RefitStep.IndexMark)).ShouldBe((read, !read));
            (steps.Contains(RefitStep.SlidePins), steps.Contains(RefitStep.ShoesSet)).ShouldBe(
                (kind == PartKind.Rotor, kind == PartKind.Drum)
            );
            steps.TakeLast(2).ShouldBe([RefitStep.PedalPumped, RefitStep.BeddedIn]);
        }
    }

    private static DuePart Part(int vehicle, string position, int least, int? most, string pair = "A1", string? order = "rotor") =>
        new(vehicle, position, pair, order, Begin, new(least, most));
}
