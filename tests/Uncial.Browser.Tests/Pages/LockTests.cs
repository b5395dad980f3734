using Microsoft.EntityFrameworkCore;
using OpenQA.Selenium;

namespace Uncial.Browser.Tests;

/// <summary>A screen that several people share: its lock, and the lathe that it stands at.</summary>
public sealed class LockTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static bool IsLocked(Screen screen) => screen.Driver.FindElements(By.CssSelector("dialog.lock")).Count > 0;

    private static string Signed(Screen screen) => screen.Driver.FindElement(By.CssSelector(".who b")).Text;

    [Fact]
    public async Task What_is_typed_stays_on_a_locked_screen_and_whoever_unlocks_it_goes_on_there()
    {
        var rotor = await shop.ReadPartAsync(readings: 0);
        using var screen = new Screen(shop.Address);
        screen.SignIn("Tom Okoro", "1304");
        screen.Go("/measure/" + rotor);
        screen.UntilHeading("Read at 12 ");
        screen.Press("24.3");
        var cookies = new System.Net.CookieContainer();
        foreach (var cookie in screen.Driver.Manage().Cookies.AllCookies)
            cookies.Add(new System.Net.Cookie(cookie.Name, cookie.Value, "/", shop.Address.Host));
        screen.Press(Keys.F9);
        screen.Until(() => IsLocked(screen), "the lock");
        screen.IsAccessible();
        // The session is over at the server too, and no key reaches the page beneath.
        using (var taken = new HttpPerson(shop.Address, cookies))
            (await taken.GetAsync("/measure/" + rotor)).To.ShouldNotBeNull().ShouldContain("/SignIn");
        // Nor does a reload without the server show what was there.
        screen
            .Driver.ExecuteAsyncScript(
                "const done = arguments[0]; caches.open('uncial-pages').then(c => c.keys())"
                    + ".then(keys => done(keys.filter(k => k.url.includes('/measure/')).length))"
            )
            .ShouldBe(0L);
        screen.Press(Keys.Escape);
        IsLocked(screen).ShouldBeTrue();
        // Two presses and a PIN: the key of the lock, the key on the name.
        var key = screen
            .Driver.FindElements(By.CssSelector("dialog.lock .name-tiles button"))
            .Single(b => b.Text.Contains("Ines Varga", StringComparison.Ordinal))
            .GetDomAttribute("data-key");
        screen.Press(key!);
        screen.Until(
            () =>
                screen.Driver.FindElement(By.CssSelector("dialog.lock h2[data-who]")).Text.Contains("Ines Varga", StringComparison.Ordinal),
            "who is picked"
        );
        screen.Enter("0000");
        screen.Until(
            () => screen.Driver.FindElement(By.CssSelector("dialog.lock .is-wrong .expands")).Text.Length > 0,
            "that it is not the PIN"
        );
        screen.Enter("2417");
        screen.Until(() => !IsLocked(screen) && Signed(screen) == "Ines Varga", "Ines at the page");
        screen.Path_.ShouldBe("/measure/" + rotor);
        screen.Until(() => screen.Value("Entry") == "24.3", "what was typed");
        screen.Press("1", Keys.Enter);
        screen.UntilHeading("Read at 1½");
        await using var db = shop.Db();
        var reading = await db.Readings.Include(r => r.By).OrderByDescending(r => r.Id).FirstAsync(Cancel);
        (reading.Typed, reading.By!.DisplayName).ShouldBe(("24.31", "Ines Varga"));
    }

    [Fact]
    public async Task A_screen_locks_itself_when_nobody_has_touched_it_for_as_long_as_the_shop_says()
    {
        await using var own = new OwnShop();
        await own.InitializeAsync();
        await using (var db = own.Db())
            await db.Shops.ExecuteUpdateAsync(
                s => s.SetProperty(x => x.LockAfterMinutes, 1).SetProperty(x => x.Turn, x => x.Turn + 1),
                Cancel
            );
        using var screen = new Screen(own.Address);
        screen.SignIn("Tom Okoro", "1304");
        screen.Until(() => (string?)screen.Driver.ExecuteScript("return document.body.dataset.lockAfter ?? null") == "1", "the rule");
        // A minute goes by for the page.
        screen.Driver.ExecuteScript("const now = Date.now; Date.now = () => now() + 61000");
        screen.Until(() => IsLocked(screen), "the lock");
    }

    private sealed class OwnShop : RunningShop;

    [Fact]
    public async Task A_screen_that_a_lead_pins_to_a_lathe_opens_there_and_leads_on_to_its_part()
    {
        using var screen = new Screen(shop.Address);
        screen.SignIn("Ines Varga", "2417");
        screen.Go("/people");
        var row = screen.Driver.FindElements(By.CssSelector(".pin-screen")).Last();
        row.FindElement(By.TagName("select")).SendKeys("Quay lathe");
        row.FindElement(By.TagName("button")).Click();
        await using var db = shop.Db();
        screen.Until(() => db.Screens.Any(s => s.LatheId != null), "the pin");
        screen.IsAccessible();
        screen.Go("/");
        screen.Until(() => screen.Path_.EndsWith("/view", StringComparison.Ordinal), "the lathe");
        screen.Driver.FindElement(By.TagName("h1")).Text.ShouldBe("Quay lathe");
        foreach (var (width, height) in new[] { (1280, 800), (1024, 768), (768, 1024) })
        {
            screen.Size(width, height);
            screen.IsAccessible();
            // One with nothing on it, and what comes next.
            screen.Go("/lathes/2/view");
            screen.IsAccessible();
            screen.Go("/lathes/1/view");
        }
        screen.Size(1280, 800);
        screen.Press("a");
        screen.Until(() => screen.Path_ == "/", "the whole bench");
        (await db.PeopleEvents.OrderByDescending(e => e.Id).FirstAsync(Cancel)).ShouldSatisfyAllConditions(
            e => e.Act.ShouldBe(PeopleAct.ScreenPinned),
            e => e.Detail.ShouldBe("Quay lathe")
        );
        using var person = await new HttpPerson(shop.Address).SignInAsync("tom", "1304");
        (await person.PostAsync($"/people?handler=PinScreen&screen=1", [("Lathe", "1")], "/check")).Code.ShouldNotBe(
            System.Net.HttpStatusCode.OK
        );
    }
}
