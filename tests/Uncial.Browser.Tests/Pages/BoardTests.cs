using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;
using Uncial.Web.Board;

namespace Uncial.Browser.Tests;

/// <summary>The day's board, walked and changed with keys and pointer, and followed on other screens.</summary>
public class BoardTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private Screen Open(string name = "Ines Varga", string pin = "2417")
    {
        var screen = new Screen(shop.Address);
        screen.SignIn(name, pin);
        screen.Go("/");
        screen.Until(() => screen.Driver.FindElements(By.CssSelector(".day-svg .block")).Count > 0, "the board");
        return screen;
    }

    private static string? Of(Screen screen, string attribute) =>
        (string?)screen.Driver.ExecuteScript("return document.activeElement.getAttribute(arguments[0])", attribute);

    /// <summary>Walks with the arrows to a part that is still to be mounted, and on to one that every lathe takes.</summary>
    private async Task<string> ToPlannedAsync(Screen screen)
    {
        screen.Driver.ExecuteScript("document.querySelector('[data-day]').focus()");
        screen.Press(Keys.ArrowRight);
        screen.Until(() => Of(screen, "data-block") is not null, "a block in focus");
        for (var i = 0; i < 30 && string.IsNullOrEmpty(Of(screen, "data-place")); i++)
            screen.Press(i % 6 == 5 ? Keys.ArrowUp : Keys.ArrowRight);
        Of(screen, "data-place").ShouldNotBeNullOrEmpty();
        // One whose plan is begun stays on its lathe, and no drum goes on a grinder.
        var board = await shop.Services.GetRequiredService<BoardKeeper>().NowAsync(Cancel);
        var free = board.Plan.Day.Plan.Works.Where(w => board.At.Floor.Lathes.All(l => w.IsFor(l.Id))).Select(w => $"{w.Id}").ToList();
        screen.Until(
            () =>
                (bool)
                    screen.Driver.ExecuteScript(
                        "const b = [...document.querySelectorAll('.block')].find(b => b.dataset.place && b.dataset.lathe !== arguments[1]"
                            + " && arguments[0].includes(b.dataset.surface));"
                            + " b?.focus(); return !!b",
                        free,
                        $"{board.At.Floor.Lathes[^1].Id}"
                    )!,
            "a part that every lathe takes"
        );
        return Of(screen, "data-surface")!;
    }

    private static void Shift(Screen screen, string arrow) =>
        new Actions(screen.Driver).KeyDown(Keys.Shift).SendKeys(arrow).KeyUp(Keys.Shift).Perform();

    private static string Line(Screen screen) => screen.Driver.FindElement(By.CssSelector(".below .day-line:not([hidden])")).Text;

    [Fact]
    public async Task A_part_is_moved_by_keys_with_its_price_first_and_every_other_screen_follows()
    {
        using var other = Open("Tom Okoro", "1304");
        using var screen = Open();
        screen.IsAccessible();
        var surface = await ToPlannedAsync(screen);
        Line(screen).ShouldContain(Of(screen, "data-about")!);
        // The board is asked for when somebody else saves; its answer comes while a move is tried, and does not take the trial away.
        screen.Driver.ExecuteScript(
            "const real = fetch; window.fetch = async (url, options) => { if (options?.method === 'POST') return real(url, options);"
                + "await new Promise(go => (window.letGo = go)); window.fetch = real; const answer = await real(url, options);"
                + "setTimeout(() => (window.answered = true), 200); return answer; }"
        );
        await using var db = shop.Db();
        await shop.ReadPartAsync(Core.Parts.PartKind.Rotor);
        await shop.Services.GetRequiredService<BoardKeeper>().PlanAsync(Cancel);
        screen.Until(() => (bool)screen.Driver.ExecuteScript("return !!window.letGo")!, "the board being asked for");
        Shift(screen, Keys.ArrowDown);
        screen.Until(() => screen.Driver.FindElements(By.CssSelector(".is-trial")).Count == 1, "the trial");
        screen.Driver.ExecuteScript("window.letGo()");
        screen.Until(() => (bool)screen.Driver.ExecuteScript("return !!window.answered")!, "the answer");
        Line(screen).ShouldContain("Moving");
        screen.IsAccessible();
        screen.Press(Keys.Escape);
        screen.Until(() => screen.Driver.FindElements(By.CssSelector(".is-trial")).Count == 0, "the board as it stands");
        (await db.BoardPins.AnyAsync(Cancel)).ShouldBeFalse();
        screen.Until(() => Of(screen, "data-surface") == surface, "the same part in focus");

        Shift(screen, Keys.ArrowDown);
        screen.Until(() => screen.Driver.FindElements(By.CssSelector(".is-trial")).Count == 1, "the trial again");
        screen.Press(Keys.Enter);
        string pinned = $"[data-surface='{surface}'][data-pinned='yes']";
        screen.Until(() => screen.Driver.FindElements(By.CssSelector(pinned)).Count > 0, "the pin");
        other.Until(() => other.Driver.FindElements(By.CssSelector(pinned)).Count > 0, "the pin on the other screen");
        // The same key takes it off.
        screen.Until(() => Of(screen, "data-surface") == surface, "the part in focus");
        screen.Press("p");
        screen.Until(() => screen.Driver.FindElements(By.CssSelector(pinned)).Count == 0, "no pin");
        screen.Until(() => Of(screen, "data-surface") == surface, "the part in focus");
        screen.Press("u");
        screen.Until(
            () => screen.Driver.FindElements(By.CssSelector($"[data-surface='{surface}'][data-urgent='yes']")).Count > 0,
            "the urgent job"
        );
        // Not before a time: what is wrong is said at the field, and what it costs before it is kept.
        screen.Until(() => Of(screen, "data-surface") == surface, "the part in focus");
        screen.Press("n");
        screen.Until(() => screen.Driver.SwitchTo().ActiveElement().GetAttribute("name") == "NotBefore", "the time");
        screen.Press("soon", Keys.Enter);
        screen.UntilText("Such as");
        screen.Until(() => screen.Driver.SwitchTo().ActiveElement().GetAttribute("value") == "soon", "what was typed");
        screen.IsAccessible();
        screen.Press("+2h", Keys.Enter);
        screen.Until(() => screen.Driver.FindElements(By.CssSelector(".is-trial")).Count == 1, "what it would cost");
        screen.Until(() => Of(screen, "data-surface") == surface, "the part in focus");
        screen.Press(Keys.Enter);
        screen.Until(() => screen.Driver.FindElements(By.CssSelector(pinned)).Count > 0, "the pin");
        screen.Until(() => Line(screen).Contains("Not mounted before", StringComparison.Ordinal), "the time on its line");
    }

    [Fact]
    public async Task A_lathe_that_breaks_takes_a_reason_and_its_parts_go_elsewhere_at_once()
    {
        using var screen = Open();
        await ToPlannedAsync(screen);
        var lathe = Of(screen, "data-lathe")!;
        screen.Press("o");
        screen.Until(() => screen.Driver.SwitchTo().ActiveElement().GetAttribute("name") == "Reason", "the reason");
        screen.IsAccessible();
        screen.Press(Keys.Enter, Keys.Enter);
        screen.UntilText("Say what is wrong with the lathe.");
        screen.Until(() => screen.Driver.SwitchTo().ActiveElement().GetAttribute("name") == "Reason", "the reason again");
        // A letter that closes a sheet elsewhere belongs to what is typed.
        screen.Press("Belt worn, it whines", Keys.Enter, Keys.Enter);
        screen.Until(
            () =>
                screen
                    .Driver.FindElement(By.CssSelector($"[data-lathe-name='{lathe}']"))
                    .Text.Contains("Out of order", StringComparison.Ordinal),
            "the lathe out of order"
        );
        screen.Driver.FindElements(By.CssSelector($".block[data-lathe='{lathe}']:not([data-place=''])")).ShouldBeEmpty();
        screen.Click(By.CssSelector($"[data-lathe-name='{lathe}']"));
        screen.Until(() => screen.Driver.FindElements(By.CssSelector(":popover-open")).Count == 1, "the sheet of the lathe");
        screen.Click(By.CssSelector(":popover-open .button.go"));
        screen.Until(
            () => !screen.Driver.FindElement(By.CssSelector($"[data-lathe-name='{lathe}']")).Text.Contains("Out", StringComparison.Ordinal),
            "the lathe in order"
        );
    }

    [Fact]
    public void A_first_tap_says_what_a_block_is_and_a_second_one_opens_it()
    {
        using var screen = Open();
        // A finger that lands a little behind a block means it, where no other one stands closer. A board that was put in place anew
        // between looking and tapping is looked at again.
        var meant = "";
        screen.Until(
            () =>
            {
                var found =
                    (IReadOnlyList<object>)
                        screen.Driver.ExecuteScript(
                            "const all = [...document.querySelectorAll('[data-day] .block')] "
                                + ".map(b => ({ b, box: b.getBoundingClientRect() })); "
                                + "const far = (box, x, y) => Math.hypot(Math.max(box.left - x, 0, x - box.right), "
                                + "Math.max(box.top - y, 0, y - box.bottom)); "
                                + "for (const { b, box } of all) { if (box.width === 0) continue; "
                                + "const [x, y] = [Math.round(box.right + 8), Math.round(box.top + box.height / 2)]; "
                                + "const on = document.elementFromPoint(x, y); "
                                + "if (!on?.closest('[data-day] svg') || on.closest('a')) continue; "
                                + "if (all.every(o => o.b === b || o.box.width === 0 || far(o.box, x, y) > 12)) "
                                + "return [b.dataset.block, x, y]; } "
                                + "return []"
                        )!;
                if (found.Count != 3)
                    return false;
                meant = (string)found[0];
                var at = found.Skip(1).Select(v => Convert.ToInt32(v, System.Globalization.CultureInfo.InvariantCulture)).ToList();
                new Actions(screen.Driver).MoveToLocation(at[0], at[1]).Click().Perform();
                return Shown() == meant;
            },
            "the block that was meant"
        );
        screen.Until(
            () =>
                (bool)
                    screen.Driver.ExecuteScript(
                        "return document.querySelector('p[data-about]')?.textContent "
                            + "=== document.querySelector('.block.is-shown')?.dataset.about"
                    )!,
            "what the block is"
        );
        screen.Path_.ShouldBe("/");
        var href = (string)screen.Driver.ExecuteScript("return document.querySelector('[data-open-part]').getAttribute('href')")!;
        screen.Click(By.CssSelector(".block.is-shown"));
        screen.Until(() => screen.Path_ == href, "the part at its station");

        string? Shown() => (string?)screen.Driver.ExecuteScript("return document.querySelector('.block.is-shown')?.dataset.block ?? null");
    }

    [Fact]
    public async Task A_part_that_is_dragged_to_another_lathe_is_tried_there()
    {
        var keeper = shop.Services.GetRequiredService<BoardKeeper>();
        using var screen = Open();
        var surface = await ToPlannedAsync(screen);
        int[] Px(string script) =>
            [
                .. ((IReadOnlyList<object>)screen.Driver.ExecuteScript(script, surface)!).Select(n =>
                    Convert.ToInt32(n, System.Globalization.CultureInfo.InvariantCulture)
                ),
            ];
        // The board may be put in place anew at any moment, but not from under a finger: whoever has another block looks again.
        screen.Until(
            () =>
            {
                var at = Px(
                    "const r = document.querySelector(`.block[data-surface='${arguments[0]}']:not([data-place=''])`)"
                        + ".getBoundingClientRect(); return [r.x + r.width / 2, r.y + r.height / 2].map(Math.round)"
                );
                new Actions(screen.Driver).MoveToLocation(at[0], at[1]).ClickAndHold().Perform();
                if (
                    screen.Driver.ExecuteScript("return document.querySelector('.is-dragged')?.dataset.surface") is string held
                    && held == surface
                )
                    return true;
                new Actions(screen.Driver).MoveToLocation(1, 1).Release().Perform();
                return false;
            },
            "the block in hand"
        );
        // A board that comes meanwhile waits.
        screen.Driver.ExecuteScript("document.querySelector('.is-dragged').dataset.mine = 'yes'");
        await keeper.PlanAsync(Cancel);
        var to = Px(
            "const b = document.querySelector('.is-dragged[data-mine]'); const l = [...document.querySelectorAll('[data-lathe-name]')]"
                + ".find(e => e.dataset.latheName !== b.dataset.lathe); const [t, r] = [l, b].map(e => e.getBoundingClientRect()); "
                + "return [l.dataset.latheName, r.x + r.width / 2 + 4, t.y + t.height / 2].map(n => Math.round(Number(n)))"
        );
        new Actions(screen.Driver).MoveToLocation(to[1], to[2]).Release().Perform();
        screen.Until(() => screen.Driver.FindElements(By.CssSelector(".is-trial")).Count == 1, "the trial");
        screen.Driver.FindElement(By.CssSelector(".is-trial [name=Lathe]")).GetAttribute("value").ShouldBe($"{to[0]}");
        screen.Click(By.CssSelector("[data-undo-trial]"));
        screen.Until(() => screen.Driver.FindElements(By.CssSelector(".is-trial")).Count == 0, "the board as it stands");
    }

    [Fact]
    public async Task The_board_fits_every_screen_with_nine_vehicles_and_with_forty_parts()
    {
        using var screen = Open();
        void Look()
        {
            foreach (var (width, height) in new[] { (1280, 800), (1024, 768), (1920, 1080) })
            {
                screen.Size(width, height);
                foreach (var page in new[] { "/", "/board/week", "/board/print", "/hours" })
                {
                    screen.Go(page);
                    screen.Until(() => screen.Driver.FindElements(By.Id("main")).Count == 1, page);
                    (
                        (long)screen.Driver.ExecuteScript("return document.documentElement.scrollWidth - innerWidth")!
                    ).ShouldBeLessThanOrEqualTo(0, $"{page} at {width}");
                }
                screen.Go("/");
                screen.ShowsItsMainAction();
                screen.IsAccessible();
            }
        }
        Look();
        for (var i = 0; i < 30; i++)
            await shop.ReadPartAsync(i % 3 == 0 ? Core.Parts.PartKind.Drum : Core.Parts.PartKind.Rotor);
        await shop.Services.GetRequiredService<BoardKeeper>().PlanAsync(Cancel);
        Look();
        screen.Size(1280, 800);
        screen.Go("/board?wall");
        screen.Until(() => screen.Driver.FindElements(By.CssSelector("[data-wall-page]:not([hidden])")).Count == 1, "a page of the wall");
        screen.IsAccessible();
    }
}

/// <summary>A shop in which nothing was received yet.</summary>
public class EmptyBoardTests(EmptyShop shop) : IClassFixture<EmptyShop>
{
    [Fact]
    public async Task An_empty_board_says_what_to_do()
    {
        (
            await shop.Services.GetRequiredService<BoardKeeper>().PlanAsync(TestContext.Current.CancellationToken)
        ).Plan.Board.Steps.ShouldBeEmpty();
    }
}

/// <summary>A shop whose clocks go forward: it promises nothing for the hour that does not come.</summary>
public class SummerTimeTests(RunningShop shop) : IClassFixture<RunningShop>
{
    [Fact]
    public async Task A_promise_for_the_hour_that_the_clock_leaves_out_is_asked_again_and_the_hour_after_it_is_kept()
    {
        await using var db = shop.Db();
        await db.Shops.ExecuteUpdateAsync(s => s.SetProperty(x => x.TimeZone, "Europe/Lisbon"), TestContext.Current.CancellationToken);
        using var screen = new Screen(shop.Address);
        screen.SignIn("Ines Varga", "2417");
        screen.Go("/receive");
        foreach (var text in new[] { "Pilchard city car", "Night ferry", "90210" })
            screen.Enter(text);
        screen.Enter("28 Mar 2027 1:30");
        screen.UntilText("The clocks go forward over that time");
        screen.Until(() => screen.Value("Promised") == "28 Mar 2027 1:30", "what was typed");
        screen.Press(Keys.Control + "a" + Keys.Control, "28 Mar 2027 2:30", Keys.Enter);
        screen.UntilHeading("Add a part");
        var kept = await db
            .Jobs.Where(j => j.Customer == "Night ferry")
            .Select(j => j.PromisedAt)
            .SingleAsync(TestContext.Current.CancellationToken);
        kept.ShouldBe(new DateTimeOffset(2027, 3, 28, 1, 30, 0, TimeSpan.Zero)); // summer time: an hour ahead of the world's
    }
}
