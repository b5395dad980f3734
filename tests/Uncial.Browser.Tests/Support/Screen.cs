using System.Collections.Concurrent;
using System.Diagnostics;
using System.Text.Json;
using OpenQA.Selenium;
using OpenQA.Selenium.Chrome;
using OpenQA.Selenium.Support.UI;

[assembly: AssemblyFixture(typeof(Uncial.Browser.Tests.Browsers))]

namespace Uncial.Browser.Tests;

/// <summary>A screen in the shop: headless Chromium, used by keyboard, with words for what a person does.</summary>
internal sealed class Screen : IDisposable
{
    private static readonly string Axe = File.ReadAllText(
        Path.Combine(Repository.Root(), "src/Uncial.Web/node_modules/axe-core/axe.min.js")
    );

    /// <summary>
    /// The name of an element as the screen reads it; the browser's own is slow to ask for and is only asked of what was found.
    /// </summary>
    private const string Named =
        "const name = e => (e.getAttribute('aria-label') ?? e.labels?.[0]?.innerText ?? "
        + "(e.matches('a,button,summary,[role=button],[role=slider]') ? e.innerText : '') ?? '').trim();";

    /// <summary>Each kind of element below its parent, by class, roles and whether it has a text; the theme besides.</summary>
    private const string Made =
        "const of = e => e.tagName + '.' + (e.getAttribute('class') ?? '') + [...e.attributes].filter(a => "
        + "/^(role|aria-|type$|hidden$|disabled$|href$|for$|alt$)/.test(a.name)).map(a => a.name) + (e.textContent.trim() ? '' : "
        + "'0'); return document.documentElement.dataset.theme + [...new Set([...document.querySelectorAll('body *')].map(e => "
        + "of(e.parentElement) + '>' + of(e)))].sort().join();";

    private static readonly string Fit = File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "Support", "fit.js"));

    private static readonly ConcurrentDictionary<string, bool> Checked = new();

    private readonly Uri address;
    private readonly bool isOwn;
    private bool wasUsed;

    public Screen(Uri address)
    {
        this.address = address;
        Driver = Browsers.Take();
        Size(1280, 800);
        Wait = new(Driver, TimeSpan.FromSeconds(30)) { PollingInterval = TimeSpan.FromMilliseconds(50) };
    }

    /// <summary>A tablet with trust of its own, which finds a name of the shop at this machine.</summary>
    /// <param name="address">Address of the shop.</param>
    /// <param name="home">Home of its user, where it keeps what it trusts.</param>
    public Screen(Uri address, string home)
    {
        this.address = address;
        isOwn = true;
        Driver = Browsers.Open(home, $"--host-resolver-rules=MAP {address.Host} 127.0.0.1");
        Size(1280, 800);
        Wait = new(Driver, TimeSpan.FromSeconds(30)) { PollingInterval = TimeSpan.FromMilliseconds(50) };
    }

    public ChromeDriver Driver { get; }

    private WebDriverWait Wait { get; }

    public string Path_ => new Uri(Driver.Url).AbsolutePath;

    public string Heading => Driver.FindElement(By.CssSelector(".slate h2")).Text;

    public void Go(string path) => Driver.Navigate().GoToUrl(new Uri(address, path));

    /// <summary>Waits until something holds, as a person looks until the page has changed.</summary>
    public void Until(Func<bool> holds, string what)
    {
        try
        {
            Wait.Until(_ =>
            {
                try
                {
                    return holds();
                }
                catch (Exception e)
                    when (e
                            is StaleElementReferenceException
                                or NoSuchElementException
                                or ElementNotInteractableException
                                or InvalidElementStateException
                    )
                {
                    return false;
                }
            });
        }
        catch (WebDriverTimeoutException e)
        {
            throw new InvalidOperationException(
                $"Not seen: {what}. On {Driver.Url} the page says: {Driver.FindElement(By.TagName("body")).Text.ReplaceLineEndings(" | ")}",
                e
            );
        }
    }

    public void UntilHeading(string text) => Until(() => Heading.Contains(text, StringComparison.Ordinal), $"the heading “{text}”");

    public void UntilText(string text) =>
        Until(() => Driver.FindElement(By.TagName("main")).Text.Contains(text, StringComparison.Ordinal), $"“{text}”");

    /// <summary>
    /// Presses keys where the focus is. The field with the focus may be replaced by an answer just then: keys go to whatever has it.
    /// </summary>
    public void Press(params string[] keys)
    {
        foreach (var key in keys)
            Until(
                () =>
                {
                    Driver.SwitchTo().ActiveElement().SendKeys(key);
                    return true;
                },
                "something with the focus"
            );
    }

    /// <summary>Types into the field that has the focus, as soon as one has, and moves on with Enter.</summary>
    public void Enter(string text)
    {
        Until(() => Driver.SwitchTo().ActiveElement().TagName is "input" or "textarea" or "select", "a field with the focus");
        Press(text, Keys.Enter);
    }

    /// <summary>Sends keys to an element, as soon as it is there.</summary>
    public void Send(By by, string keys) =>
        Until(
            () =>
            {
                Driver.FindElement(by).SendKeys(keys);
                return true;
            },
            $"{by}"
        );

    /// <summary>Clicks an element, as soon as it is there.</summary>
    public void Click(By by) =>
        Until(
            () =>
            {
                Driver.FindElement(by).Click();
                return true;
            },
            $"{by}"
        );

    /// <summary>What stands in a field.</summary>
    public string Value(string name)
    {
        var value = "";
        Until(
            () =>
            {
                value = Driver.FindElement(By.Name(name)).GetAttribute("value") ?? "";
                return true;
            },
            $"the field {name}"
        );
        return value;
    }

    /// <summary>
    /// Ticks every step by Enter, from the one that has the focus, until the main action has it. Where steps are told in one block, it has
    /// it at once.
    /// </summary>
    public void TickThrough()
    {
        bool OnTick() => Driver.ExecuteScript("return document.activeElement.type === 'checkbox'") is true;
        bool OnMain() => Driver.ExecuteScript("return document.activeElement.matches('.go')") is true;
        Until(() => OnTick() || OnMain(), "the first step or the main action in focus");
        for (var i = 0; i < 40 && OnTick(); i++)
            Press(Keys.Enter);
        Until(OnMain, "the main action in focus");
    }

    /// <summary>Waits until the page is there with its scripts, and something has the focus.</summary>
    public void Settle() =>
        Until(
            () =>
                Driver.ExecuteScript(
                    "return document.readyState === 'complete' && (document.activeElement !== document.body || "
                        + "[...document.querySelectorAll('[autofocus]')].every(e => !e.checkVisibility() || e.closest('[popover]')))"
                )
                    is true,
            "the page at rest"
        );

    /// <summary>Ends the pass that is cut, as soon as the page lets a hand do so.</summary>
    public void EndPass()
    {
        UntilHeading("is cutting");
        Until(() => Driver.FindElement(By.CssSelector("[data-key=Space]")).Enabled, "a pass that runs for a moment");
        Driver.FindElement(By.TagName("body")).SendKeys(" ");
    }

    /// <summary>Makes the pass that is due, as far as to what the metal shows.</summary>
    public void MakePass(string path)
    {
        Go(path);
        Until(() => Heading.Length > 0, "the lathe");
        if (!Heading.Contains("Tap what", StringComparison.Ordinal))
        {
            if (!Heading.Contains("is cutting", StringComparison.Ordinal))
            {
                TickThrough();
                Press(Keys.Enter);
            }
            EndPass();
        }
        UntilHeading("Tap what is still dark");
    }

    /// <summary>Tabs until the focus is on the element with this name.</summary>
    public void TabTo(string name)
    {
        for (var i = 0; i < 80; i++)
        {
            Press(Keys.Tab);
            if (Driver.ExecuteScript(Named + "return name(document.activeElement).includes(arguments[0])", name) is not true)
                continue;
            Until(
                () =>
                    (((WebElement)Driver.SwitchTo().ActiveElement()).ComputedAccessibleLabel ?? "").Contains(
                        name,
                        StringComparison.Ordinal
                    ),
                $"“{name}” as the accessible name of what has the focus"
            );
            return;
        }
        throw new InvalidOperationException($"The keyboard does not reach “{name}” on {Driver.Url}.");
    }

    /// <summary>Goes to a field by its label, as Tab would, and types.</summary>
    public void Fill(string label, string text) =>
        Until(
            () =>
            {
                if (
                    Driver.ExecuteScript(
                        Named
                            + "return [...document.querySelectorAll('input,textarea,select')].find(e => e.checkVisibility() && "
                            + "name(e).startsWith(arguments[0]))",
                        label
                    )
                    is not IWebElement field
                )
                    return false;
                field.Clear();
                field.SendKeys(text);
                return true;
            },
            $"the field “{label}”"
        );

    /// <summary>Signs somebody in at this screen, without the way through the page where nobody was here before.</summary>
    public void SignIn(string name, string pin)
    {
        if (wasUsed)
        {
            SignInByKeyboard(name, pin);
            return;
        }
        wasUsed = true;
        using var person = new HttpPerson(address);
        Task.Run(() => person.SignInByNameAsync(name, pin)).GetAwaiter().GetResult();
        foreach (System.Net.Cookie cookie in person.Cookies.GetCookies(address))
            Driver.ExecuteCdpCommand(
                "Network.setCookie",
                new Dictionary<string, object?>
                {
                    ["name"] = cookie.Name,
                    ["value"] = cookie.Value,
                    ["url"] = address.AbsoluteUri,
                    ["httpOnly"] = cookie.HttpOnly,
                }
            );
        Go("/");
    }

    /// <summary>Signs somebody in as a person does.</summary>
    public void SignInByKeyboard(string name, string pin)
    {
        wasUsed = true;
        Go("/SignIn");
        TabTo(name);
        Press(Keys.Enter);
        UntilHeading("PIN of " + name);
        Enter(pin);
        Until(() => Path_ == "/", "the bench");
    }

    /// <summary>The accessibility check: nothing serious or critical on the page as it stands; and all of it can be seen and
    /// touched.</summary>
    public void IsAccessible()
    {
        Fits();
        // What is made of the same elements in the same places was looked at already, whatever its figures are.
        if (!Checked.TryAdd((string)Driver.ExecuteScript(Made)!, true))
            return;
        if (Driver.ExecuteScript("return typeof axe") is not "object")
            Driver.ExecuteScript(Axe); // a page that was swapped in still has it
        var found = (string)
            Driver.ExecuteAsyncScript(
                "const done = arguments[0]; axe.run(document, { resultTypes: ['violations'] }).then(r => "
                    + "done(JSON.stringify(r.violations.filter(v => ['serious', 'critical'].includes(v.impact)).map(v => v.id + ': ' + "
                    + "v.nodes.slice(0, 3).map(n => n.html.slice(0, 160) + ' ' + n.failureSummary).join(' | ')))))"
            )!;
        JsonSerializer.Deserialize<string[]>(found).ShouldBeEmpty($"on {Driver.Url}");
    }

    /// <summary>Nothing is cut off, lies under something else, scrolls at a station, or is too small to touch.</summary>
    /// <param name="mayScroll">The screen is smaller than a station asks for: it may scroll.</param>
    public void Fits(bool mayScroll = false)
    {
        var faults = ((IReadOnlyCollection<object>)Driver.ExecuteScript(Fit, mayScroll)!).Cast<string>().ToList();
        if (faults.Count == 0)
            return;
        var picture = Path.Combine(Path.GetTempPath(), $"uncial-screen-{Guid.NewGuid():N}.png");
        Driver.GetScreenshot().SaveAsFile(picture);
        faults.ShouldBeEmpty($"on {Driver.Url}, as in {picture}");
    }

    /// <summary>Makes the screen as large as that of another device.</summary>
    public void Size(int width, int height) =>
        Driver.ExecuteCdpCommand(
            "Emulation.setDeviceMetricsOverride",
            new Dictionary<string, object?>
            {
                ["width"] = width,
                ["height"] = height,
                ["deviceScaleFactor"] = 1,
                ["mobile"] = false,
            }
        );

    /// <summary>The main action of a station can be seen and touched without scrolling.</summary>
    public void ShowsItsMainAction() =>
        Driver
            .ExecuteScript(
                "const go = [...document.querySelectorAll('.slate .button.go')].find(e => e.checkVisibility()); if (!go) return ''; "
                    + "const box = go.getBoundingClientRect(); return box.top >= 0 && box.bottom <= innerHeight && box.right <= innerWidth "
                    + "? '' : go.textContent.trim() + ' at ' + Math.round(box.top) + ' to ' + Math.round(box.bottom)"
            )
            .ShouldBe("", $"on {Driver.Url}");

    /// <summary>Cuts the screen off from the server, or joins it again.</summary>
    public void Offline(bool off)
    {
        Driver.ExecuteCdpCommand("Network.enable", []);
        Driver.ExecuteCdpCommand(
            "Network.emulateNetworkConditions",
            new Dictionary<string, object?>
            {
                ["offline"] = off,
                ["latency"] = 0,
                ["downloadThroughput"] = -1,
                ["uploadThroughput"] = -1,
            }
        );
    }

    /// <summary>Lets every answer take so long.</summary>
    public void Slow(int milliseconds)
    {
        Driver.ExecuteCdpCommand("Network.enable", []);
        Driver.ExecuteCdpCommand(
            "Network.emulateNetworkConditions",
            new Dictionary<string, object?>
            {
                ["offline"] = false,
                ["latency"] = milliseconds,
                ["downloadThroughput"] = -1,
                ["uploadThroughput"] = -1,
            }
        );
    }

    public void Dispose()
    {
        if (isOwn)
            Driver.Dispose();
        else
            Browsers.Give(Driver, address);
    }
}

/// <summary>
/// The browsers of the tests: opened once and handed on wiped, since opening one takes longer than most of what is done in it.
/// </summary>
public sealed class Browsers : IDisposable
{
    private static readonly ConcurrentBag<ChromeDriver> Free = [];
    private static readonly ConcurrentBag<string> Profiles = [];
    private static readonly ConcurrentBag<int> Drivers = [];

    internal static ChromeDriver Take() => Free.TryTake(out var wiped) ? wiped : Open(null);

    /// <summary>Opens a browser.</summary>
    /// <param name="home">Home of its user; null for that of who runs the tests.</param>
    /// <param name="more">Further arguments.</param>
    internal static ChromeDriver Open(string? home, params string[] more)
    {
        var profile = Directory.CreateTempSubdirectory("uncial-screen").FullName;
        Profiles.Add(profile);
        var program = "/usr/bin/chromium";
        if (home is not null)
        {
            File.WriteAllText(Path.Combine(profile, "browser"), $"#!/bin/sh\nHOME='{home}' exec {program} \"$@\"\n");
            program = Path.Combine(profile, "browser");
            File.SetUnixFileMode(program, UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute);
        }
        var options = new ChromeOptions { BinaryLocation = program };
        // As on most screens of a shop, scroll bars take room.
        options.AddExcludedArgument("hide-scrollbars");
        options.AddArguments(
            "--disable-features=OverlayScrollbar",
            "--headless",
            "--no-sandbox",
            "--disable-gpu",
            "--disable-quic",
            "--no-first-run",
            "--disable-background-networking",
            "--disable-component-update",
            "--disable-sync",
            "--disable-extensions",
            "--window-size=1280,940",
            "--user-data-dir=" + profile
        );
        options.AddArguments(more);
        var service = ChromeDriverService.CreateDefaultService("/usr/bin", "chromedriver");
        var driver = new ChromeDriver(service, options);
        Drivers.Add(service.ProcessId);
        return driver;
    }

    /// <summary>Takes a browser back: a new tab, nothing known of the shop that it showed.</summary>
    internal static void Give(ChromeDriver driver, Uri shop)
    {
        try
        {
            var old = driver.CurrentWindowHandle;
            var tab = driver.SwitchTo().NewWindow(WindowType.Tab).CurrentWindowHandle;
            driver.SwitchTo().Window(old);
            driver.Close();
            driver.SwitchTo().Window(tab);
            driver.ExecuteCdpCommand("Network.clearBrowserCookies", []);
            driver.ExecuteCdpCommand(
                "Storage.clearDataForOrigin",
                new Dictionary<string, object?> { ["origin"] = shop.GetLeftPart(UriPartial.Authority), ["storageTypes"] = "all" }
            );
            Free.Add(driver);
        }
        catch (WebDriverException)
        {
            driver.Dispose();
        }
    }

    public void Dispose()
    {
        // Asked to quit, a driver takes seconds, and now and then leaves its browser behind.
        foreach (var driver in Drivers)
            try
            {
                using var process = Process.GetProcessById(driver);
                process.Kill(entireProcessTree: true);
                process.WaitForExit();
            }
            catch (ArgumentException)
            {
                // It has ended by itself.
            }
        foreach (var profile in Profiles.Where(Directory.Exists))
            Directory.Delete(profile, recursive: true);
    }
}
