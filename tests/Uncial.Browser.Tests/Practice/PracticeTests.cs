using OpenQA.Selenium;
using Uncial.Core.Lengths;
using Uncial.Data.Practice;
using Uncial.Practice.Drills;

namespace Uncial.Browser.Tests;

/// <summary>Somebody without an account tries the product at the sign-in, with the keyboard alone.</summary>
public class PracticeTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private DrillItem Item(Screen screen, int number)
    {
        var id = long.Parse(screen.Path_.Split('/')[^1], null);
        using var db = new PracticeDb(PracticeDb.For(shop.PracticeConnection));
        return db.DrillRuns.Single(r => r.Id == id).Item(number);
    }

    private static bool Marked(Screen screen) => screen.Driver.FindElements(By.CssSelector(".drill-told")).Count == 1;

    [Fact]
    public void A_guest_goes_through_a_drill_by_keyboard_and_looks_closer()
    {
        using var screen = new Screen(shop.Address);
        screen.Go("/SignIn");
        screen.Click(By.LinkText("Practise"));
        screen.UntilText("Clear of the ridge");
        screen.IsAccessible();
        screen.Press("i");
        screen.UntilText("Two scratches");
        screen.IsAccessible();
        // Enter begins with the first drill.
        screen.Press(Keys.Enter);
        screen.Until(() => screen.Path_.StartsWith("/practice/drill/", StringComparison.Ordinal), "the first drill");
        screen.Driver.Title.ShouldStartWith("Practice");
        screen.Settle();
        screen.IsAccessible();
        // Closer, and along the scale by the arrows, from the field of the figure.
        string Seen() => screen.Driver.FindElement(By.CssSelector("svg.gauge")).GetDomAttribute("viewBox")!;
        var whole = Seen();
        screen.Press("z");
        screen.Until(() => Seen() != whole, "the gauge closer");
        var close = Seen();
        screen.Press(Keys.ArrowLeft);
        screen.Until(() => Seen() != close, "another part of the scale");
        screen.Press("z", "z");
        screen.Until(() => Seen() == whole, "the whole gauge again");
        for (var n = 1; n <= DrillKinds.Items; n++)
        {
            screen.Until(
                () =>
                    !Marked(screen)
                    && screen.Driver.FindElement(By.CssSelector(".practice-band")).Text.Contains($"item {n} of", StringComparison.Ordinal),
                $"item {n}"
            );
            var item = (SizeItem)Item(screen, n);
            // The third one is read half a millimetre too large.
            var typed = n == 3 ? item.Right + Length.FromMillimetres(0.5m) : item.Right;
            screen.Enter(LengthText.Figure(typed, item.Unit, item.Decimals));
            screen.Until(() => Marked(screen), $"item {n} marked");
            screen.UntilHeading(n == 3 ? "Not right" : "Right");
            if (n == 3)
            {
                screen.Driver.FindElement(By.CssSelector(".slate .alert")).Text.ShouldContain("A turn of the thimble.");
                screen.IsAccessible();
            }
            screen.Press(Keys.Enter);
        }
        screen.UntilText("of 100: 19 right of 20");
        screen.UntilText("proves nothing about any part");
        screen.IsAccessible();
        screen.Driver.FindElement(By.CssSelector(".drill-causes")).Text.ShouldContain("A turn of the thimble. 1");
        // Back to the drills: the next one that was never done is offered.
        screen.Press("d");
        screen.Until(() => screen.Path_ == "/practice", "the drills");
        screen.Driver.FindElement(By.CssSelector(".slate .go")).Text.ShouldContain("Micrometer, inch");
    }

    [Theory]
    [InlineData(DrillKind.Markings)]
    [InlineData(DrillKind.Locks)]
    [InlineData(DrillKind.Adapters)]
    public void Choices_are_picked_by_their_number(DrillKind kind)
    {
        using var screen = new Screen(shop.Address);
        screen.Go("/practice?drills=true");
        screen.Click(By.CssSelector($".drill-tile[value={kind}]"));
        screen.Until(() => screen.Path_.StartsWith("/practice/drill/", StringComparison.Ordinal), "the drill");
        screen.IsAccessible();
        if (kind == DrillKind.Markings)
        {
            screen.Press("c");
            screen.Until(() => screen.Driver.FindElements(By.CssSelector(".is-chalked")).Count == 1, "chalk on the casting");
        }
        for (var n = 1; n <= 3; n++)
        {
            var item = (ChoiceItem)Item(screen, n);
            screen.Press((item.Right + 1).ToString(System.Globalization.CultureInfo.InvariantCulture));
            screen.Until(() => Marked(screen), "the mark");
            screen.UntilHeading("Right");
            screen.Press(Keys.Enter);
            screen.Until(() => !Marked(screen), "the next item");
        }
    }
}
