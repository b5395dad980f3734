using Uncial.Core.Parts;
using Uncial.Core.Vehicles;

namespace Uncial.Core.Tests.Vehicles;

public class LayoutTests
{
    private static readonly string[] Texts =
    [
        "car",
        "motorcycle:1",
        "motorcycle:2",
        .. Enumerable.Range(1, 4).Select(n => $"trailer:{n}"),
        .. Enumerable.Range(2, 4).Select(n => $"truck:{n}:2"),
        "truck:5:2,3,5",
        "other:Boom L|Boom R|Winch",
    ];

    [Fact]
    public void A_layout_comes_back_from_its_text_and_each_position_has_a_code_and_name_of_its_own()
    {
        foreach (var text in Texts)
        {
            var layout = Layout.Parse(text).Layout.ShouldNotBeNull();
            layout.Text.ShouldBe(text);
            layout.Positions.Select(p => p.Code).ShouldBeUnique();
            layout.Positions.Select(p => p.Name).ShouldBeUnique();
            foreach (var position in layout.Positions)
            {
                layout.Find(position.Code).ShouldBe(position);
                if (layout.Opposite(position) is not { } other)
                    continue;
                layout.Opposite(other).ShouldBe(position);
                (other.Axle, other.Side == position.Side).ShouldBe((position.Axle, false));
            }
        }
    }

    [Theory]
    [InlineData("car", "FL FR RL RR")]
    [InlineData("motorcycle:1", "F R")]
    [InlineData("motorcycle:2", "F L|F R|R")]
    [InlineData("trailer:1", "A1 L|A1 R")]
    [InlineData("truck:3:2,3", "A1 L|A1 R|A2 L|A2 R|A3 L|A3 R")]
    [InlineData("other:Boom L|Boom R|Winch", "Boom L|Boom R|Winch")]
    public void Short_names_fit_the_layout(string text, string names) =>
        Layout.Parse(text).Layout!.Positions.Select(p => p.Name).ShouldBe(names.Split(names.Contains('|') ? '|' : ' '));

    [Fact]
    public void Sides_of_an_axle_are_a_pair_and_a_wheel_in_the_middle_has_none()
    {
        var motorcycle = Layout.Motorcycle(2).Layout!;
        motorcycle.Opposite(motorcycle.Positions[0]).ShouldBe(motorcycle.Positions[1]);
        motorcycle.Opposite(motorcycle.Positions[2]).ShouldBeNull();
        var crane = Layout.Other(["Boom L", "Boom R", "Winch", "Capstan L"]).Layout!;
        crane.Positions.Select(p => crane.Opposite(p)?.Name).ShouldBe(["Boom R", "Boom L", null, null]);
        motorcycle.Opposite(crane.Positions[0]).ShouldBeNull();
        // The corners that jobs have had until now.
        (Layout.Car.Of(Corner.RearLeft)!.Name, Layout.Car.Of(Corner.Other), crane.Of(Corner.FrontLeft)).ShouldBe(("RL", null, null));
        foreach (var corner in new[] { Corner.FrontLeft, Corner.FrontRight, Corner.RearLeft, Corner.RearRight })
            Layout.Car.Opposite(Layout.Car.Of(corner)!).ShouldBe(Layout.Car.Of(corner.Opposite()!.Value));
    }

    [Theory]
    [InlineData("truck:1", LayoutFault.Axles)]
    [InlineData("truck:6", LayoutFault.Axles)]
    [InlineData("trailer:0", LayoutFault.Axles)]
    [InlineData("trailer:5", LayoutFault.Axles)]
    [InlineData("motorcycle:3", LayoutFault.FrontRotors)]
    [InlineData("truck:3:4", LayoutFault.TwinWheels)]
    [InlineData("truck:3:2,2", LayoutFault.TwinWheels)]
    [InlineData("other:", LayoutFault.Names)]
    [InlineData("other:Boom|boom", LayoutFault.Names)]
    [InlineData("other:A name of twenty-one c", LayoutFault.Names)]
    [InlineData("boat", LayoutFault.Text)]
    [InlineData("truck", LayoutFault.Text)]
    [InlineData("truck:-2", LayoutFault.Text)]
    [InlineData("truck:3:", LayoutFault.Text)]
    [InlineData("motorcycle:2:1", LayoutFault.Text)]
    public void What_no_vehicle_has_is_refused(string text, LayoutFault fault) => Layout.Parse(text).ShouldBe((null, fault));

    [Fact]
    public void Twenty_names_fit_and_one_more_does_not()
    {
        Layout.Other([.. Enumerable.Range(1, 20).Select(i => $"Brake {i}")]).Layout!.Positions.Count.ShouldBe(20);
        Layout.Other([.. Enumerable.Range(1, 21).Select(i => $"Brake {i}")]).Fault.ShouldBe(LayoutFault.Names);
    }
}
