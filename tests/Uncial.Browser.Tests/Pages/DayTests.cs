using System.Globalization;
using System.Text.RegularExpressions;
using OpenQA.Selenium;
using Uncial.Core.Parts;

namespace Uncial.Browser.Tests;

/// <summary>The work of every day by somebody who knows the lathe: few keys, and both parts of an axle together.</summary>
public partial class DayTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private const int MostKeys = 45;
    private const int MostTicks = 12;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>A line of the script in docs/entry.md.</summary>
    private sealed record Line(string Where, IReadOnlyList<string> Keys, string Then, int Ticks)
    {
        public bool IsReading => Where == "Readings";
    }

    private static (IReadOnlyList<Line> Lines, int Keys, int Ticks) Script()
    {
        var doc = File.ReadAllText(Path.Combine(Repository.Root(), "docs/entry.md"));
        var part = doc[doc.IndexOf("## A whole rotor, key by key", StringComparison.Ordinal)..];
        var lines = part.Split('\n')
            .Where(l => l.StartsWith("| ", StringComparison.Ordinal))
            .Skip(2)
            .Select(l => l.Split('|', StringSplitOptions.TrimEntries))
            .Select(c => new Line(
                c[1],
                [.. c[2].Split('`').Where((_, i) => i % 2 == 1)],
                c[3],
                c[4].Length == 0 ? 0 : int.Parse(c[4], CultureInfo.InvariantCulture)
            ))
            .ToList();
        var said = Said().Match(part);
        return (
            lines,
            int.Parse(said.Groups["keys"].Value, CultureInfo.InvariantCulture),
            int.Parse(said.Groups["ticks"].Value, CultureInfo.InvariantCulture)
        );
    }

    private Screen Open()
    {
        var screen = new Screen(shop.Address);
        screen.SignIn("Ines Varga", "2417");
        return screen;
    }

    private static string Key(string name) =>
        name switch
        {
            "Enter" => Keys.Enter,
            "Right" => Keys.ArrowRight,
            "Tab" => Keys.Tab,
            "Space" => " ",
            _ => name,
        };

    private static void See(Screen screen, string text) =>
        screen.Until(() => screen.Driver.FindElement(By.TagName("main")).Text.Contains(text, StringComparison.Ordinal), $"“{text}”");

    private static void Read(Screen screen, params string[] sizes)
    {
        foreach (var size in sizes)
        {
            screen.Until(() => screen.Driver.SwitchTo().ActiveElement().GetAttribute("name") == "Entry", "the entry in focus");
            var before = screen.Heading;
            screen.Press(size, Keys.Enter);
            screen.Until(() => screen.Heading != before, $"{size} kept");
        }
    }

    [Fact]
    public void A_whole_rotor_takes_the_keys_that_the_docs_say_and_no_more_than_a_shop_can_live_with()
    {
        var (lines, keys, ticks) = Script();
        using var screen = Open();
        foreach (var line in lines)
        {
            if (line.IsReading)
                Read(screen, [.. line.Keys]);
            else
                foreach (var key in line.Keys)
                    if (key == "Space" && line.Where == "The pass is done")
                        screen.EndPass(); // as soon as a pass may have run
                    else
                        screen.Press(Key(key));
            if (line.Then.Length > 0)
                See(screen, line.Then);
            screen.Settle();
        }
        screen.Until(() => screen.Path_.StartsWith("/tag/", StringComparison.Ordinal), "the tag");
        lines.Where(l => !l.IsReading).Sum(l => l.Keys.Count).ShouldBe(keys);
        lines.Sum(l => l.Ticks).ShouldBe(ticks);
        keys.ShouldBeLessThanOrEqualTo(MostKeys);
        ticks.ShouldBeLessThanOrEqualTo(MostTicks);
    }

    [Fact]
    public async Task Both_parts_of_an_axle_go_from_one_key_to_one_sheet()
    {
        using var screen = Open();
        screen.Go("/receive");
        screen.UntilHeading("Receive a job");
        foreach (var text in new[] { "Brindle L3 van", "Kelp farm", "", "" })
            screen.Enter(text);
        See(screen, "Both front rotors");
        screen.IsAccessible();
        screen.Settle();
        screen.Press(Keys.Enter); // the limits of the book, two tags
        See(screen, "Measure front left rotor");
        screen.IsAccessible();
        screen.Settle();
        screen.Press(Keys.Enter);
        // One after the other, without going back.
        Read(screen, "25.31", "25.33", "25.36", "25.38", "25.37", "25.35", "25.32", "25.30");
        See(screen, "Measure front right rotor");
        screen.IsAccessible();
        screen.Press(Keys.Enter);
        screen.UntilHeading("Read at 12 o’clock");
        var right = screen.Path_.Split('/')[2];
        Read(screen, "25.21", "25.23", "25.26", "25.28", "25.27", "25.25", "25.22", "25.20");
        See(screen, "Worth cutting");
        screen.Press(Keys.Enter);
        screen.UntilHeading("Mount on Quay lathe");
        screen.Press(Keys.Enter);
        screen.UntilHeading("Put it on");
        screen.IsAccessible();
        Cut(screen);
        // The other one on the same adapters.
        See(screen, "Finished: front left rotor on, same adapters");
        screen.IsAccessible();
        screen.Press(Keys.Enter);
        screen.UntilHeading("Same adapters, next part on");
        screen.IsAccessible();
        var left = screen.Path_.Split('/')[2];
        Cut(screen);
        See(screen, "Finished: measure it");
        screen.Press(Keys.Enter);
        Read(screen, "25.10", "25.11", "25.12", "25.11", "25.10", "25.11", "25.12", "25.11");
        See(screen, "Read front right rotor");
        screen.IsAccessible();
        screen.Settle();
        screen.Press(Keys.Enter);
        screen.Until(() => screen.Path_ == $"/confirm/{right}/1", "the other part");
        Read(screen, "25.00", "25.01", "25.02", "25.01", "25.00", "25.01", "25.02", "25.01");
        screen.UntilHeading("Both within limit");
        screen.IsAccessible();
        foreach (var size in new[] { (1920, 1080), (1024, 768), (768, 1024), (390, 844) })
        {
            screen.Size(size.Item1, size.Item2);
            screen.Fits(mayScroll: size.Item1 < 1280);
        }
        screen.Size(1280, 800);
        // Both rules are drawn to one scale: 23.00 stands at one height.
        screen
            .Driver.FindElements(By.CssSelector(".stock-rule svg"))
            .Select(svg => svg.FindElements(By.CssSelector("text")).First(t => t.Text == "23.00").Location.Y)
            .Distinct()
            .Count()
            .ShouldBe(1);
        screen.Settle();
        screen.Press(Keys.Enter);
        See(screen, "let it cool"); // not ticked: it says so and stays
        screen.Press(" ", Keys.Enter);
        screen.UntilHeading("Both ready to go");
        screen.IsAccessible();
        screen.Settle();
        screen.Press(Keys.Enter);
        screen.UntilHeading("Two tags on one sheet");
        screen.Driver.FindElements(By.CssSelector(".paper-tag .code")).Select(e => e.Text).ShouldBe([left, right]);
        screen.IsAccessible();
        foreach (var tag in new[] { left, right })
            (await shop.RecordAsync(tag)).Station.ShouldBe(Station.Done);
    }

    /// <summary>Puts the part on, makes the pass of its plan, and comes to finishing.</summary>
    private static void Cut(Screen screen)
    {
        screen.TickThrough(); // eyes, once a day
        screen.Press(Keys.Enter);
        screen.UntilHeading("Does it run true?");
        screen.Settle();
        screen.Press("b");
        screen.UntilHeading("Come to first touch");
        screen.Settle();
        screen.Press(Keys.Enter);
        screen.UntilHeading("Pick a technique");
        screen.Settle();
        screen.Press(Keys.Enter);
        See(screen, "locks as shown");
        screen.IsAccessible();
        screen.TickThrough();
        screen.Press(Keys.Enter);
        screen.EndPass();
        screen.UntilHeading("Tap what is still dark");
        screen.Until(() => screen.Driver.SwitchTo().ActiveElement().GetAttribute("name") == "GrooveOuter", "the groove in focus");
        screen.Press("0", Keys.Enter, "0", Keys.Enter, Keys.Enter, Keys.Enter);
        screen.UntilHeading("Finish it");
        screen.Settle();
    }

    [GeneratedRegex("(?<keys>[0-9]+) keys beside the readings, (?<ticks>[0-9]+) of them ticks", RegexOptions.NonBacktracking)]
    private static partial Regex Said();
}
