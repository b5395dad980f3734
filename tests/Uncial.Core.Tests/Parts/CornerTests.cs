using Uncial.Core.Parts;

namespace Uncial.Core.Tests.Parts;

public class CornerTests
{
    [Theory]
    [InlineData(Corner.FrontLeft, Corner.FrontRight, Axle.Front)]
    [InlineData(Corner.RearRight, Corner.RearLeft, Axle.Rear)]
    public void Two_ends_of_an_axle_belong_together(Corner one, Corner other, Axle axle) =>
        (one.Opposite(), other.Opposite(), one.Axle(), other.Axle()).ShouldBe((other, one, axle, axle));

    [Fact]
    public void A_part_of_no_corner_has_no_other_side_and_may_have_any_limit_of_the_book_but_is_offered_none_of_one_axle()
    {
        Corner.Other.Opposite().ShouldBeNull();
        Enum.GetValues<Axle>().Where(a => a.Takes(Corner.Other)).ShouldBe([Axle.Any, Axle.Front, Axle.Rear]);
        Enum.GetValues<Axle>().Where(a => a.IsFor(Corner.Other)).ShouldBe([Axle.Any]);
    }

    [Fact]
    public void A_limit_of_one_axle_is_for_no_part_of_the_other()
    {
        Axle.Front.Takes(Corner.RearLeft).ShouldBeFalse();
        Axle.Rear.Takes(Corner.FrontRight).ShouldBeFalse();
        (Axle.Front.Takes(Corner.FrontLeft), Axle.Front.IsFor(Corner.FrontLeft), Axle.Any.Takes(Corner.RearLeft)).ShouldBe(
            (true, true, true)
        );
    }
}
