using Microsoft.EntityFrameworkCore;
using OpenQA.Selenium;
using Uncial.Data.Practice;

namespace Uncial.Browser.Tests;

/// <summary>A class of practice: begun by its instructor, worked by a trainee with a code, watched, closed and debriefed.</summary>
public class ClassTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task An_instructor_sees_who_is_where_and_a_trainee_is_debriefed_when_the_class_is_closed()
    {
        await using (var db = shop.Db())
            await db.Database.ExecuteSqlAsync($"update operators set instructs_since = now() where user_name = 'ines'", Cancel);
        using var screen = new Screen(shop.Address);
        screen.SignIn("Ines Varga", "2417");
        screen.Go("/practice");
        screen.Press("v");
        screen.UntilHeading("Begin a class");
        screen.IsAccessible();
        // Nothing picked: it says so, and what was typed stands there still.
        screen.Enter("Autumn");
        screen.UntilText("Pick one lesson at least");
        screen.Driver.FindElement(By.Name("Name")).GetDomProperty("value").ShouldBe("Autumn");
        screen.Click(By.CssSelector("[name=Lesson][value=clear-of-the-ridge]"));
        screen.Click(By.CssSelector(".slate .go"));
        screen.UntilHeading("Who is where");
        screen.Send(By.Name("Names"), "Ann Lee\nBo Falk\nAnn Lee");
        screen.Click(By.CssSelector("form[action*=Add] button"));
        // The third has the first one's name; it stands there still, and the two are in.
        screen.UntilText("has this name already");
        screen.Driver.FindElement(By.Name("Names")).GetDomProperty("value").ShouldBe("Ann Lee");
        screen.Driver.FindElements(By.CssSelector(".class-code")).Count.ShouldBe(2);
        screen.IsAccessible();
        var code = screen.Driver.FindElement(By.CssSelector(".class-code")).Text;
        // What is typed there is no key of the page.
        screen.Driver.FindElement(By.Name("Names")).Clear();
        screen.Driver.ExecuteScript("document.activeElement.blur()");

        using var tablet = new Screen(shop.Address);
        tablet.Size(1024, 768);
        tablet.Go("/practice");
        tablet.Press("c");
        tablet.UntilHeading("I am in a class");
        tablet.IsAccessible();
        tablet.Enter("WRONG234");
        tablet.UntilText("Nobody has this code");
        // The field has the focus, with what was typed: it is typed over.
        tablet.Press(Keys.Control + "a");
        tablet.Enter(code[..4].ToLowerInvariant() + " " + code[4..]);
        tablet.UntilText("The lessons of your class");
        tablet.IsAccessible();
        tablet.Press(Keys.Enter);
        tablet.Until(() => tablet.Path_.StartsWith("/look/P-", StringComparison.Ordinal), "the part");
        tablet.Until(() => tablet.Driver.FindElements(By.CssSelector("[data-at-bench]:not([aria-busy=true])")).Count == 1, "the bench");
        tablet.Press(Keys.ArrowRight);
        // The instructor's page follows by itself.
        screen.UntilText("Looking at it");
        tablet.Press("f");
        tablet.UntilHeading("What becomes of this part?");
        tablet.Press("4");
        tablet.UntilHeading("You have decided");
        tablet.IsAccessible();
        tablet.Driver.FindElements(By.CssSelector(".debrief-lines, .skills")).ShouldBeEmpty();
        var debrief = tablet.Path_;
        screen.UntilText("A good part was scrapped");

        screen.Press("c");
        screen.UntilText("It is closed");
        screen.IsAccessible();
        tablet.Go(debrief);
        tablet.UntilText("What you did, and what was true");
        // To print: what was practised, and that it proves nothing.
        screen.Click(By.CssSelector(".class-lines tr.is-first a"));
        screen.UntilHeading("Certificate of practice");
        screen.UntilText("no proof of any part");
        screen.IsAccessible();
    }
}
