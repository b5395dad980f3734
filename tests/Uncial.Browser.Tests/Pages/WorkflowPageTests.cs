using Microsoft.EntityFrameworkCore;
using OpenQA.Selenium;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Data;

namespace Uncial.Browser.Tests;

/// <summary>
/// A rotor and a drum from sign-in to tag, by keyboard, on the real thing; once clean, once with a wrong entry at every step.
/// </summary>
public class WorkflowPageTests(EmptyShop shop) : IClassFixture<EmptyShop>
{
    private const string Space = " ";

    [Fact]
    public async Task From_an_empty_shop_a_rotor_and_a_drum_reach_their_tags_by_keyboard()
    {
        using var screen = new Screen(shop.Address);
        OpenTheShop(screen);
        var (rotor, drum) = Receive(screen);

        // The rotor: eight places, both faces, the shop's own technique.
        screen.UntilHeading("Read at 12 o’clock");
        screen.IsAccessible();
        Read(screen, "24.31", "24.33", "24.36", "24.38", "24+.37", "0.9586614in", "24.32", "24.30");
        screen.UntilText("All 8 points read");
        screen.Fill("Run-out, outer", "0.09");
        screen.Press(Keys.Enter, "0.05", Keys.Enter, Keys.Enter, "0.05", Keys.Enter, "0.02", Keys.Enter, "0", Keys.Enter);
        screen.Until(
            () =>
                screen.Driver.FindElement(By.Name("Figures[RunoutInner]")).GetAttribute("value") == "0.05"
                && screen.Driver.FindElement(By.Name("Turn")).GetAttribute("value") == "13",
            "the figures kept"
        );
        screen.Press(Keys.Enter);
        Mount(screen, isFirst: true, "12", "6", "0.045", "12", "6", "0.045"); // half-way round at half of the 0.09 that it runs out
        screen.UntilHeading("Pick a technique");
        screen.Driver.FindElement(By.CssSelector(".way[aria-pressed=true]")).Text.ShouldContain("0.24");
        screen.IsAccessible();
        screen.Press(Keys.Enter);
        Cut(screen, "Finish");
        Finish(screen);
        Confirm(screen, "24.172", "24.174", "24.176", "24.175", "24.174", "24.173", "24.172", "24.171");
        screen.UntilHeading("Ready to go");
        screen.IsAccessible();
        screen.Press(Keys.Enter);
        screen.Until(() => screen.Path_ == "/tag/" + rotor, "the tag");
        screen.UntilText("RELEASED");
        screen
            .Driver.FindElement(By.CssSelector(".paper-tag"))
            .Text.ShouldSatisfyAllConditions(
                t => t.ShouldContain("24.30"),
                t => t.ShouldContain("24.171"),
                t => t.ShouldContain("1.17 mm")
            );
        screen.IsAccessible();

        // The drum: four axes in the middle, one of them near both ends, proven round along its band.
        screen.Go($"/measure/{drum}");
        Read(screen, "228.62", "228.74", "228.62", "228.50", "228.63", "228.61");
        screen.UntilText("All 6 diameters read");
        screen.UntilText("proven");
        screen.IsAccessible();
        screen.Press(Keys.Enter);
        Mount(screen, isFirst: false, "12", "all", "0.01", "12", "all", "0.01");
        screen.UntilHeading("Pick a technique");
        screen.Press(Keys.Enter);
        Cut(screen, "Finish");
        Finish(screen);
        // the same figure twice within a second would be asked about
        Confirm(screen, "228.75", "228.76", "228.75", "228.76", "228.75", "228.76");
        screen.UntilHeading("Ready to go");
        screen.Press(Keys.Enter);
        screen.Until(() => screen.Path_ == "/tag/" + drum, "the tag");

        screen.Go("/logbook?state=Released");
        screen.UntilText(rotor);
        screen.UntilText(drum);
        screen.IsAccessible();
        screen.Go("/part/" + rotor);
        screen.UntilText("Confirmed within limit");
        screen.UntilText("typed “0.9586614in”");
        screen.IsAccessible();

        await using var db = shop.Db();
        var stored = await db
            .Readings.Where(r => r.Typed == "0.9586614in")
            .Select(r => r.Value)
            .SingleAsync(TestContext.Current.CancellationToken);
        stored.ShouldBe(Length.FromInches(0.9586614m));
        (await db.Outcomes.CountAsync(o => o.Kind == OutcomeKind.Released, TestContext.Current.CancellationToken)).ShouldBe(2);
    }

    /// <summary>A shop whose board is empty mounts by hand; two scratches, then the steps to first touch, all by keys.</summary>
    private static void Mount(Screen screen, bool isFirst, params string[] marks)
    {
        screen.UntilHeading("Mount on Brake lathe");
        screen.UntilText("4 sizes are missing");
        screen.Send(By.TagName("body"), "h");
        screen.UntilHeading("Put it on");
        screen.Enter("Cone 2");
        if (isFirst)
        {
            // Once a day, before anything turns.
            screen.UntilText("The part turns in the next step");
            screen.Until(() => screen.Driver.SwitchTo().ActiveElement().GetAttribute("name") == "Eyes", "the tick in focus");
            screen.TickThrough();
            screen.Press(Keys.Enter);
        }
        screen.UntilHeading("Does it run true?");
        foreach (var mark in marks)
            screen.Enter(mark);
        screen.Press(Keys.Enter); // half a turn, as it says
        screen.UntilHeading("It runs true");
        screen.Until(
            () => screen.Driver.SwitchTo().ActiveElement().Text.StartsWith("Keep it, go to first touch", StringComparison.Ordinal),
            "the main action in focus"
        );
        screen.Press(Keys.Enter);
        screen.UntilHeading("Come to first touch");
        screen.TickThrough();
        screen.Press(Keys.Enter);
    }

    private static void OpenTheShop(Screen screen)
    {
        screen.Go("/");
        screen.UntilHeading("Open the shop");
        screen.IsAccessible();
        screen.Enter("Test bench");
        screen.Enter("A. Hand");
        screen.Enter("12");
        screen.UntilText("Four to eight digits");
        screen.Driver.FindElement(By.Name("OwnerName")).GetAttribute("value").ShouldBe("A. Hand"); // what was typed stays
        screen.Enter("2468");
        screen.UntilHeading("The bench is clear");
        screen.IsAccessible();
    }

    private static (string Rotor, string Drum) Receive(Screen screen)
    {
        screen.Press("r");
        screen.UntilHeading("Receive a job");
        screen.IsAccessible();
        foreach (var text in new[] { "Brindle L3 van", "Harbour bakery", "148200" })
            screen.Enter(text);
        // A time is typed as it is said; what it means stands below it.
        screen.Enter("yesterday");
        screen.UntilText("Such as today 16:30");
        screen.Press(Keys.Control + "a" + Keys.Control, "+3d");
        screen.UntilText("in 3 days 0 h");
        screen.Press(Keys.Enter);
        screen.UntilHeading("Add a part");
        screen.IsAccessible();
        foreach (var text in new[] { "", "26.0", "23.4", "23.0", "300", "52", "" })
            screen.Enter(text);
        screen.UntilText("Front left rotor");
        // The second part: back to the kind with Shift+Tab, on with the arrow.
        screen.Until(() => screen.Driver.SwitchTo().ActiveElement().GetAttribute("name") == "Marking", "the focus on the cast marking");
        screen.Press(Keys.Shift + Keys.Tab, Keys.ArrowRight);
        screen.Driver.FindElement(By.CssSelector("[name=Kind][value=drum]")).Selected.ShouldBeTrue();
        screen.Fill("New", "228.6");
        screen.Press(Keys.Enter);
        foreach (var text in new[] { "229.6", "230.1", "", "40", "" })
            screen.Enter(text);
        screen.Enter("");
        screen.UntilText("Front right drum");
        var tags = screen.Driver.FindElements(By.CssSelector(".log td.fig")).Select(e => e.Text).ToList();
        screen.Press(Keys.Escape);
        screen.Send(By.TagName("body"), "m");
        return (tags[0], tags[1]);
    }

    private static void Read(Screen screen, params string[] sizes)
    {
        foreach (var size in sizes)
        {
            var before = screen.Heading;
            screen.Enter(size);
            screen.Until(() => screen.Heading != before, $"{size} kept and the next place asked");
        }
    }

    private static void Cut(Screen screen, string pass)
    {
        screen.UntilHeading(pass);
        screen.IsAccessible();
        screen.TickThrough();
        screen.Press(Keys.Enter);
        screen.UntilHeading(pass.Split(',')[0] + " is cutting");
        screen.IsAccessible();
        screen.Press(Keys.Enter); // a hand that ticks on does not end the pass
        screen.EndPass();
        screen.UntilHeading("Tap what is still dark");
        screen.IsAccessible();
        while (
            screen.Path_.StartsWith("/cut", StringComparison.Ordinal)
            && screen.Driver.SwitchTo().ActiveElement().GetAttribute("name") is { } name
            && name.StartsWith("Groove", StringComparison.Ordinal)
        )
            screen.Enter("0");
        screen.Enter(""); // no size in between
    }

    private static void Finish(Screen screen)
    {
        screen.UntilHeading("Finish it");
        screen.IsAccessible();
        screen.TickThrough();
        screen.Press(Keys.Enter);
    }

    private static void Confirm(Screen screen, params string[] sizes)
    {
        screen.UntilHeading("Read again at");
        screen.IsAccessible();
        Read(screen, sizes);
        screen.UntilHeading("Within limit");
        screen.IsAccessible();
        screen.Press(Keys.Enter); // not ticked: it says so and stays
        screen.UntilText("let it cool");
        screen.Until(() => screen.Driver.SwitchTo().ActiveElement().GetAttribute("name") == "OffClean", "the tick in focus");
        screen.Press(Space, Keys.Enter);
    }
}
