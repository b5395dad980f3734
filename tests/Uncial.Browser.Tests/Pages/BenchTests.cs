using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using OpenQA.Selenium;
using Uncial.Core.Parts;
using Uncial.Data;

namespace Uncial.Browser.Tests;

/// <summary>The demo shop in use: wrong entries, two people on one part, a server that is away, and who may do what.</summary>
public class BenchTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private async Task<string> Tag(int job, Corner corner)
    {
        await using var db = shop.Db();
        return (await db.Parts.SingleAsync(p => p.Job!.Number == job && p.Corner == corner, TestContext.Current.CancellationToken)).Tag;
    }

    private static string Value(Screen screen, string name) =>
        (string?)screen.Driver.ExecuteScript("return document.getElementsByName(arguments[0])[0].value", name) ?? "";

    [Fact]
    public void A_scanned_code_opens_its_part_on_any_page()
    {
        using var screen = new Screen(shop.Address);
        screen.SignIn("Tom Okoro", "1304");
        void Scan(string code) =>
            screen.Driver.ExecuteScript(
                "for (const key of [...arguments[0], 'Enter']) document.body.dispatchEvent(new KeyboardEvent('keydown', "
                    + "{ key, bubbles: true, cancelable: true }))",
                code
            );
        screen.Go("/lathes");
        Scan("TQB2R");
        screen.Until(() => screen.Path_ == "/cut/TQB2R/1", "the part at its station");
        // The code on paper is an address.
        screen.Go("/gauges");
        Scan("http://uncial.example/proof/TQA8Q");
        screen.Until(() => screen.Path_ == "/confirm/TQA8Q/1", "another part");
        // What nothing is of is looked for in the logbook.
        screen.Go("/lathes");
        Scan("NOSUCH");
        screen.Until(
            () => screen.Path_ == "/logbook" && screen.Driver.Url.EndsWith("find=NOSUCH", StringComparison.Ordinal),
            "the logbook"
        );
        // In the field of a figure too: no size begins with a letter.
        screen.Go("/measure/TQB5P");
        screen.Until(() => screen.Driver.SwitchTo().ActiveElement().GetAttribute("data-entry") is not null, "the entry in focus");
        // The handbook opens at the station, from the field of a figure too, and Escape leads back.
        screen.Press("?");
        screen.Until(() => screen.Path_ == "/handbook/measure", "the handbook");
        screen.IsAccessible();
        screen.Press(Keys.Escape);
        screen.Until(() => screen.Path_ == "/measure/TQB5P", "the part again");
        screen.Until(() => screen.Driver.SwitchTo().ActiveElement().GetAttribute("data-entry") is not null, "the entry in focus");
        screen.Enter("TQC3P");
        screen.Until(() => screen.Path_ == "/measure/TQC3P/1", "the part whose tag was typed");
    }

    [Fact]
    public async Task A_wrong_entry_at_every_step_is_said_at_its_field_and_nothing_typed_is_lost()
    {
        using var screen = new Screen(shop.Address);
        screen.Go("/SignIn?who=ines");
        screen.Enter("0000");
        screen.UntilText("That is not the PIN");
        screen.Enter("2417");
        screen.Until(() => screen.Path_ == "/", "the bench");
        screen.IsAccessible();

        // Receive: a vehicle without a name, an odometer in words, a limit in the wrong unit and in the wrong order.
        screen.Go("/receive");
        // Who was here before is proposed.
        string[] Proposed(string field) =>
            [
                .. screen
                    .Driver.FindElements(By.CssSelector($"[id='{field}-proposed'] option"))
                    .Select(o => o.GetDomAttribute("value") ?? ""),
            ];
        Proposed("Vehicle").ShouldContain("School minibus Gannet 16");
        Proposed("Vehicle").ShouldBeUnique();
        Proposed("Customer").ShouldContain("Coastguard");
        screen.Fill("Odometer", "lots");
        screen.Press(Keys.Enter, Keys.Enter);
        screen.UntilText("Say which vehicle");
        Value(screen, "Odometer").ShouldBe("lots");
        screen.UntilText("Whole kilometres");
        screen.Fill("Odometer", "1200");
        screen.Fill("Vehicle", "Puffin city car with a very long name for a very small car indeed");
        screen.Press(Keys.Enter, Keys.Enter, Keys.Enter, Keys.Enter);
        screen.UntilHeading("Add a part");
        screen.Fill("New", "22.0");
        screen.Fill("Machine to", "0.8");
        screen.Fill("Discard", "8 7/8");
        screen.Press(Keys.Enter, Keys.Enter, Keys.Enter, Keys.Enter);
        screen.UntilText("A fraction is in inches");
        screen.UntilText("no such part is known");
        (Value(screen, "Main.Nominal"), Value(screen, "Main.Discard")).ShouldBe(("22.0", "8 7/8"));
        screen.Fill("Machine to", "19.0");
        screen.Fill("Discard", "20.0");
        screen.Press(Keys.Enter, Keys.Enter, Keys.Enter, Keys.Enter);
        screen.UntilText("Machine-to lies past discard");
        screen.Fill("Machine to", "20.4");
        screen.Fill("Mark, name", "");
        screen.Press(Keys.Enter);
        screen.UntilText("Front left rotor");
        var tag = screen.Driver.FindElement(By.CssSelector(".log td.fig")).Text;

        // Measure: bad text, a unit slip that is questioned, insisted on only by pressing again.
        screen.Go("/measure/" + tag);
        screen.Enter("21.4.1");
        // the echo says it before
        screen.Until(() => screen.Driver.FindElement(By.Name("Entry")).GetAttribute("aria-invalid") == "true", "the answer of the server");
        screen.UntilText("one point or comma");
        Value(screen, "Entry").ShouldBe("21.4.1");
        screen.Press(Keys.Control + "a");
        screen.Enter("0.84");
        screen.UntilText("off by about 25.4");
        Value(screen, "Entry").ShouldBe("0.84");
        screen.Press(Keys.Control + "a");
        screen.Enter("0.84in");
        screen.UntilHeading("Read at 1½");
        screen.Fill("Run-out, outer", "5 3/8");
        screen.Press(Keys.Enter, Keys.Enter, Keys.Enter, Keys.Enter, Keys.Enter, Keys.Enter);
        screen.UntilText("A fraction is in inches");
        Value(screen, "Figures[RunoutOuter]").ShouldBe("5 3/8");
        // What is typed on while the answer is under way is not lost with the page that it came from.
        screen.Slow(4000);
        screen.Press(Keys.Enter, Keys.Enter, Keys.Enter, Keys.Enter, Keys.Enter, Keys.Enter);
        screen.Fill("Run-out, inner", "0.0x");
        screen.Driver.ExecuteScript("document.querySelector('main').dataset.old = ''");
        screen.Until(() => screen.Driver.FindElements(By.CssSelector("main[data-old]")).Count == 0, "the answer");
        Value(screen, "Figures[RunoutInner]").ShouldBe("0.0x");
        screen.Slow(0);
        screen.Go("/measure/" + tag + "?at=0");
        screen.Press("t");
        screen.Send(By.XPath("//button[contains(.,'Withdraw')]"), Keys.Enter);
        screen.UntilText("Say why it is withdrawn");
        // Plan and release are not to be had before their time.
        screen.Go("/plan/" + tag);
        screen.Until(() => screen.Path_.StartsWith("/measure", StringComparison.Ordinal), "back at measuring");
        screen.Go("/release/" + tag);
        screen.UntilHeading("Not confirmed");
        screen.Driver.FindElement(By.CssSelector(".button.go")).Enabled.ShouldBeFalse();
        screen.Send(By.TagName("body"), "x");
        screen.UntilHeading("Scrap it");
        screen.Click(By.CssSelector(".button.go"));
        screen.UntilText("Say in a few words what is wrong with it");

        // The address of an action, reloaded, is its page again.
        screen.Go("/measure/" + tag + "?handler=Keep");
        screen.UntilHeading("Read at 1½");
        // Signed out meanwhile (at another tab): what was typed is there again after signing in.
        screen.Press("21.3");
        screen.Driver.Manage().Cookies.DeleteCookieNamed("uncial");
        screen.Press(Keys.Enter);
        screen.Until(() => screen.Path_ == "/SignIn", "sign-in");
        screen.TabTo("Ines Varga");
        screen.Press(Keys.Enter);
        screen.UntilHeading("PIN of Ines");
        screen.Enter("2417");
        screen.UntilHeading("Read at 1½");
        Value(screen, "Entry").ShouldBe("21.3mm"); // with the unit that it was typed in

        // Cut: a groove deeper than any, a size that cannot be.
        screen.MakePass($"/cut/{await shop.PlannedPartAsync("light")}");
        screen.Fill("Groove left, outer", "60");
        screen.Fill("Measured now", "2.41");
        screen.Press(Keys.Enter);
        screen.UntilText("no groove or run-out is");
        screen.UntilText("far under");
        (Value(screen, "GrooveOuter"), Value(screen, "Size")).ShouldBe(("60", "2.41"));
    }

    [Fact]
    public async Task A_change_of_unit_keeps_what_is_being_typed()
    {
        var tag = await Tag(2418, Corner.FrontRight);
        using var screen = new Screen(shop.Address);
        screen.SignInByKeyboard("Tom Okoro", "1304");
        screen.Go("/measure/" + tag);
        screen.UntilHeading("Read at 4½");
        screen.Press("27.5");
        screen.Send(By.CssSelector(".unit-switch [value=in]"), Keys.Enter);
        screen.Until(() => Value(screen, "Entry") == "27.5mm", "the entry in its own unit");
        screen.UntilText("1.08");
    }

    [Fact]
    public async Task Two_hands_on_one_part_see_each_other_and_the_part_goes_on_at_another_screen()
    {
        var tag = await Tag(2418, Corner.RearLeft);
        using var here = new Screen(shop.Address);
        using var there = new Screen(shop.Address);
        here.SignIn("Ines Varga", "2417");
        there.SignIn("Tom Okoro", "1304");
        here.Go("/measure/" + tag);
        there.Go("/measure/" + tag);
        here.Press("280.4"); // typing while the other's reading comes in
        there.Enter("280.41");
        there.UntilHeading("Read at axis 1½");
        here.UntilText("Tom Okoro read 280.41 mm here just now");
        Value(here, "Entry").ShouldBe("280.4");
        here.Heading.ShouldBe("Read at axis 12, deep"); // the place does not move under the gauge
        here.Press("2", Keys.Enter);
        here.UntilText("yours is 280.42 mm");
        here.IsAccessible();
        here.Press(Keys.Enter); // both are kept
        here.UntilHeading("Read at axis 1½");
        await using var db = shop.Db();
        (
            await db.Readings.Where(r => r.Typed == "280.41" || r.Typed == "280.42").CountAsync(TestContext.Current.CancellationToken)
        ).ShouldBe(2);
    }

    [Fact]
    public async Task An_operator_cannot_decide_what_a_lead_decides()
    {
        var tag = await Tag(2423, Corner.FrontLeft);
        using var screen = new Screen(shop.Address);
        screen.SignIn("Tom Okoro", "1304");
        screen.Go("/plan/" + tag);
        screen.UntilHeading("Beyond discard");
        screen.IsAccessible();
        screen.Press(Keys.Enter);
        screen.UntilText("It never goes back on a vehicle");
        screen.Driver.FindElements(By.XPath("//button[starts-with(.,'Release')]")).ShouldBeEmpty();
        screen.Press("0.07 under discard", Keys.Tab, " ", Keys.Tab, Keys.Enter);
        screen.UntilText("SCRAPPED");
    }

    [Fact]
    public async Task What_is_seen_on_the_metal_makes_the_plan_anew_and_says_so()
    {
        var tag = await Tag(2417, Corner.FrontLeft);
        using var screen = new Screen(shop.Address);
        screen.SignIn("Ines Varga", "2417");
        screen.MakePass($"/cut/{tag}");
        // Two twelfths of the outer face, by keyboard: dark where the last pass should have cleaned it.
        screen.TabTo("Outer face, 4 dark");
        screen.Press(" ", Keys.ArrowRight, Keys.Enter);
        screen.Driver.FindElement(By.CssSelector("[data-face=DarkOuter] [data-count]")).Text.ShouldBe("2");
        screen.IsAccessible();
        screen.Fill("Groove left, outer", "0.02");
        screen.Press(Keys.Enter, "0", Keys.Enter, Keys.Enter);
        screen.UntilText("The plan was made anew");
        screen.UntilText("The outer face is dark at");
        // How the metal was read is kept with the plan that it made.
        screen.Send(By.TagName("body"), "w");
        screen.UntilText("What the metal showed");
        screen.UntilText("Still needed, outer face");
        screen.Press(Keys.Escape);
        await using var db = shop.Db();
        var part = (await db.Parts.Where(p => p.Tag == tag).WithFactsAsync(db, TestContext.Current.CancellationToken)).Single();
        var record = new SurfaceRecord(part.Surfaces[0], part, await db.ShopAsync(TestContext.Current.CancellationToken));
        (
            record.Planning.Latest!.Version,
            record.Surface.Passes.Max(p => p.Cut),
            record.Surface.Passes.Single(p => p.Cut == 2).DarkOuter
        ).ShouldBe((2, 2, 0b11_0000));
        record.Station.ShouldBe(Station.Cut);
        // The plan that was stays on record beside the new one, in the part's history.
        screen.Go("/part/" + tag);
        screen.UntilText("Plan 1: Light passes");
        screen.UntilText("Plan 2: Light passes");
    }

    [Fact]
    public void The_owner_keeps_the_rules_and_lets_a_new_person_in()
    {
        using var screen = new Screen(shop.Address);
        screen.SignIn("Tom Okoro", "1304");
        screen.Go("/shop");
        screen.Until(() => screen.Path_ == "/", "the bench: the settings are the owner's");
        screen.Driver.FindElements(By.LinkText("Shop")).ShouldBeEmpty();
        screen.Send(By.CssSelector("button.who"), Keys.Enter);
        screen.Send(By.XPath("//button[.='Sign out']"), Keys.Enter);
        screen.Until(() => screen.Path_ == "/SignIn", "signed out");
        screen.SignIn("Marit Sund", "9051");
        screen.Go("/shop");
        screen.IsAccessible();
        screen.Fill("Drum: do not start under", "lots");
        screen.Send(By.XPath("//button[contains(.,'Keep the settings')]"), Keys.Enter);
        screen.Until(
            () => screen.Driver.FindElement(By.Name("Values[DrumFloor]")).GetAttribute("aria-invalid") == "true",
            "the field marked"
        );
        Value(screen, "Values[DrumFloor]").ShouldBe("lots");
        screen.Fill("Drum: do not start under", "0.8");
        screen.Send(By.XPath("//label[contains(.,'Unread shape')]/input"), Keys.Space);
        screen.Fill("Between eight points: variation", "0.5");
        screen.Send(By.XPath("//button[contains(.,'Keep the settings')]"), Keys.Enter);
        screen.UntilText("A number, 1 to 12.");
        screen.UntilText("Unread shape, 1 wrong");
        screen.Fill("Between eight points: variation", "4");
        screen.Send(By.XPath("//label[contains(.,'Cost')]/input"), Keys.Space);
        screen.Fill("Price of a minute", "1.35");
        screen.Send(By.XPath("//label[contains(.,'Limits')]/input"), Keys.Space);
        screen.Fill("Left and right differ by", "0.35");
        screen.Send(By.XPath("//button[contains(.,'Keep the settings')]"), Keys.Enter);
        screen.UntilText("Kept.");
        (
            Value(screen, "Values[DrumFloor]"),
            Value(screen, "Values[UnreadShareOfVariation]"),
            Value(screen, "Values[GreatestAxleDifference]")
        ).ShouldBe(("0.8", "4", "0.35"));
        Value(screen, "Values[BenchMinutePrice]").ShouldBe("1.35");
        // Found by its words over all groups; Enter goes to it and keeps nothing; one key brings the default back.
        screen.Send(By.Id("find-setting"), "price minute");
        screen.Until(
            () => screen.Driver.FindElements(By.CssSelector(".setting")).Count(e => e.Displayed) == 1,
            "the one setting that is looked for"
        );
        screen.IsAccessible();
        screen.Press(Keys.Enter);
        screen.Driver.SwitchTo().ActiveElement().GetAttribute("name").ShouldBe("Values[BenchMinutePrice]");
        screen.Click(By.CssSelector("[data-of='s-BenchMinutePrice']"));
        Value(screen, "Values[BenchMinutePrice]").ShouldBe("1");
        screen.Send(By.XPath("//button[contains(.,'Keep the settings')]"), Keys.Enter);
        screen.Until(
            () => screen.Driver.FindElements(By.CssSelector("[data-of='s-BenchMinutePrice']")).Count == 0,
            "the default kept, and no way back to it"
        );
        // A laxer rule takes a reason and a PIN, and stands there afterwards.
        screen.Fill("Rotor: machine-to above", "0.3");
        screen.Send(By.XPath("//button[contains(.,'Keep the settings')]"), Keys.Enter);
        screen.UntilHeading("A laxer machine-to");
        screen.IsAccessible();
        screen.Fill("Why", "the maker says so");
        screen.Send(By.Name("Lead"), "Marit Sund");
        screen.Fill("PIN", "9051");
        screen.Send(By.XPath("//button[contains(.,'Keep the settings')]"), Keys.Enter);
        screen.UntilText("laxer machine-to, signed by Marit Sund");
        Value(screen, "Values[RotorMachineToAboveDiscard]").ShouldBe("0.3");
        screen.Go("/people");
        screen.UntilHeading("Add a person");
        screen.IsAccessible();
        screen.Fill("Name", "Pia Holm");
        screen.Fill("PIN, four", "1234");
        screen.Fill("Your own PIN", "9051");
        screen.Press(Keys.Enter);
        screen.UntilText("Too easy to guess");
        screen.Value("NewName").ShouldBe("Pia Holm");
        screen.Fill("PIN, four", "7708");
        screen.Fill("Your own PIN", "9051");
        screen.Press(Keys.Enter);
        screen.Until(() => screen.Driver.FindElements(By.LinkText("Pia Holm")).Count == 1, "the new person");
        screen.Send(By.CssSelector("button.who"), Keys.Enter);
        screen.Send(By.XPath("//button[.='Sign out']"), Keys.Enter);
        screen.Until(() => screen.Path_ == "/SignIn", "signed out");
        screen.SignIn("Pia Holm", "7708");
    }

    [Fact]
    public async Task A_first_pass_that_could_end_past_machine_to_is_signed_for_by_a_lead()
    {
        // Run-out of both faces makes room in the expected touch that the bound, which knows the readings only, does not have.
        string tag;
        await using (var db = shop.Db())
        {
            var settings = await db.ShopAsync(TestContext.Current.CancellationToken);
            var by = (await db.Operators.SingleAsync(u => u.UserName == "tom", TestContext.Current.CancellationToken)).Id;
            var job = new Job
            {
                Number = 7001,
                Vehicle = "Ottershaw 4x4",
                ReceivedAt = DateTimeOffset.UtcNow,
                ReceivedById = by,
            };
            var surface = new WorkSurface { Kind = PartKind.Rotor, Places = 8 };
            job.Parts.Add(
                new()
                {
                    Tag = tag = "TIGHT",
                    Corner = Corner.FrontLeft,
                    Surfaces = { surface },
                }
            );
            db.Jobs.Add(job);
            await db.SaveChangesAsync(TestContext.Current.CancellationToken);
            Uncial.Core.Lengths.TypedLength Typed(string text) => Uncial.Core.Lengths.LengthParser.Parse(text, default).Typed!;
            foreach (var (kind, text) in new[] { (LimitKind.MachineTo, "23.4"), (LimitKind.Discard, "22.9") })
                ReceiveCommands.StateLimit(
                    surface,
                    kind,
                    Typed(text),
                    default,
                    LimitSource.MakersSheet,
                    new(by, Role.Operator, DateTimeOffset.UtcNow)
                );
            await db.SaveChangesAsync(TestContext.Current.CancellationToken);
            var record = new SurfaceRecord(surface, job.Parts[0], settings);
            foreach (var place in record.Measuring.Places)
                MeasureCommands.RecordReading(
                    record,
                    ReadingKind.Size,
                    place,
                    Typed("23.46"),
                    default,
                    record.Gauge,
                    new(by, Role.Operator, DateTimeOffset.UtcNow)
                );
            foreach (var kind in new[] { ReadingKind.RunoutOuter, ReadingKind.RunoutInner })
                MeasureCommands.RecordReading(
                    record,
                    kind,
                    null,
                    Typed("0.05"),
                    default,
                    null,
                    new(by, Role.Operator, DateTimeOffset.UtcNow)
                );
            await db.SaveChangesAsync(TestContext.Current.CancellationToken);
        }
        using var screen = new Screen(shop.Address);
        screen.SignIn("Tom Okoro", "1304");
        screen.Go("/plan/" + tag);
        screen.UntilText("Not to start");
        screen.UntilHeading("No way to cut it"); // nor does a lathe grind
        screen.Driver.FindElement(By.TagName("main")).Text.ShouldNotContain("Grinding");
        screen.IsAccessible();
        screen.Go("/plan/" + tag + "?technique=light");
        screen.UntilText("A lead signs, because");
        screen.IsAccessible();
        screen.Send(By.CssSelector(".button.go"), Keys.Enter);
        screen.UntilText("Say why it is cut all the same");
        screen.Fill("Its first pass could", "run-out measured twice");
        screen.Driver.Navigate().Refresh();
        screen.Until(() => screen.Value("Reason") == "run-out measured twice", "what was typed after a reload");
        screen.Send(By.Name("Lead"), "Ines Varga");
        screen.Fill("PIN", "1304"); // Tom's own
        screen.Press(Keys.Enter);
        screen.UntilText("That is not the PIN");
        screen.Value("Reason").ShouldBe("run-out measured twice");
        screen.Fill("PIN", "2417");
        screen.Press(Keys.Enter);
        screen.Until(() => screen.Path_.StartsWith("/cut/" + tag, StringComparison.Ordinal), "the lathe");
        screen.Go("/part/" + tag);
        screen.UntilText("run-out measured twice");
    }

    [Fact]
    public async Task Five_wrong_pins_lock_the_name()
    {
        // A hand of its own, so that nobody else in the shop is locked out by this.
        await shop.AddPersonAsync("forgetful", "Olle Berg", "9051", Roles.Operator);
        using var screen = new Screen(shop.Address);
        screen.Go("/SignIn?who=forgetful");
        for (var i = 0; i < 5; i++)
        {
            screen.UntilHeading("PIN of Olle");
            var field = screen.Driver.FindElement(By.Name("Pin"));
            screen.Enter("1111");
            screen.Until(() => IsGone(field), "the answer");
        }
        screen.Enter("9051");
        screen.UntilText("Too many misses");
    }

    private static bool IsGone(IWebElement element)
    {
        try
        {
            return !element.Displayed;
        }
        catch (StaleElementReferenceException)
        {
            return true;
        }
    }
}
