using OpenQA.Selenium;

namespace Uncial.Browser.Tests;

/// <summary>A lead writes a lesson in the form, sees what is wrong and what it draws, and anybody may begin it.</summary>
public class LessonTests(RunningShop shop) : IClassFixture<RunningShop>
{
    [Fact]
    public void A_lesson_is_written_by_keyboard_and_begun()
    {
        using var screen = new Screen(shop.Address);
        screen.SignIn("Ines Varga", "2417");
        screen.Go("/practice");
        screen.Press("o");
        screen.UntilHeading("Take in a lesson");
        screen.IsAccessible();
        screen.Driver.ExecuteScript("document.activeElement.blur()");
        screen.Press("n");
        screen.UntilHeading("A new lesson");
        screen.IsAccessible();
        // The title has the focus; Enter moves on.
        screen.Press(Keys.Control + "a");
        screen.Enter("Ours");
        screen.Driver.SwitchTo().ActiveElement().GetAttribute("name").ShouldBe("grade");
        screen.Send(By.Name("part.machineToMm"), Keys.Control + "a");
        screen.Send(By.Name("part.machineToMm"), "thick");
        screen.Press(Keys.Escape);
        screen.Press("v");
        screen.UntilText("has to be a number");
        screen.IsAccessible();
        screen.Driver.FindElement(By.Name("title")).GetDomProperty("value").ShouldBe("Ours");
        screen.Driver.FindElement(By.Name("part.machineToMm")).GetDomProperty("value").ShouldBe("thick");
        screen.Driver.SwitchTo().ActiveElement().GetAttribute("name").ShouldBe("part.machineToMm");
        screen.Press(Keys.Control + "a");
        screen.Press("20.6", Keys.Escape);
        screen.Click(By.CssSelector(".slate .go"));
        screen.UntilText("this shop");
        screen.Go("/practice");
        screen.UntilText("Ours");
        screen.Click(By.CssSelector(".drill-tile[value=clear-of-the-ridge-2]"));
        screen.Until(() => screen.Path_.StartsWith("/look/P-", StringComparison.Ordinal), "the part");
    }
}
