using System.Globalization;
using Microsoft.EntityFrameworkCore;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;
using Uncial.Core.Parts;
using Uncial.Data.Practice;
using Uncial.Practice.Debriefs;
using Uncial.Practice.Drills;
using Uncial.Practice.Jobs;
using Uncial.Practice.Lessons;
using Uncial.Simulation.Scales;

namespace Uncial.Browser.Tests;

/// <summary>Whole jobs of practice at the ordinary stations, by somebody without an account who reads what the gauges show.</summary>
public class JobTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private const double ClearOfTheRidge = 25;

    private sealed class Trainee(Screen screen, RunningShop shop, string lesson)
    {
        public Screen Screen => screen;
        public string Tag { get; private set; } = "";

        /// <summary>The work surface that is worked at.</summary>
        public int Surface { get; set; } = 1;

        /// <summary>It, as it is now.</summary>
        public AttemptSurface Here() => Now().On(Surface);

        public Attempt Now()
        {
            using var db = new PracticeDb(PracticeDb.For(shop.PracticeConnection));
            var id = Attempt.IdOf(Tag)!.Value;
            return db.Attempts.AsNoTracking().Include(a => a.Steps).Single(a => a.Id == id);
        }

        public void Begin()
        {
            screen.Go("/practice");
            screen.Click(By.CssSelector($".drill-tile[value={lesson}]"));
            screen.Until(() => screen.Path_.StartsWith("/look/P-", StringComparison.Ordinal), "the part");
            Tag = screen.Path_.Split('/')[^1];
            Idle();
        }

        /// <summary>Waits until the bench has answered.</summary>
        public void Idle() =>
            screen.Until(
                () => screen.Driver.FindElements(By.CssSelector("[data-at-bench]:not([aria-busy=true])")).Count == 1,
                "the bench at rest"
            );

        public void Press(string key, int times = 1)
        {
            for (var i = 0; i < times; i++)
            {
                screen.Press(key);
                Idle();
            }
        }

        /// <summary>Touches a key of the bench with a finger.</summary>
        public void Touch(params string[] acts)
        {
            foreach (var act in acts)
            {
                if (screen.Driver.FindElement(By.CssSelector("[data-at-bench]")).GetDomAttribute("hidden") is not null)
                    screen.Press("y");
                screen.Click(By.CssSelector($"[data-bench-form] [value='{act}']"));
                Idle();
            }
        }

        /// <summary>The figure that an eye reads off the gauge that is held.</summary>
        public string Read()
        {
            var here = Here();
            var hand = here.Hand();
            var seen = here.Bench().Peek(hand.Holds(here.Lesson)!).ShouldBeOfType<Seen.Gauge>().Picture;
            var size = Eye.Read(seen);
            return seen.Design.Step > 0
                ? (size - Math.Max(seen.Design.From, hand.Start)).ToString(
                    seen.Design.IsInch ? "0.000" : "0.00",
                    CultureInfo.InvariantCulture
                )
                : size.ToString("0.00", CultureInfo.InvariantCulture);
        }

        /// <summary>Goes to the next station by the main action, through the ticks that it asks for.</summary>
        public void GoOn()
        {
            screen.TickThrough();
            screen.Press(Keys.Enter);
        }

        /// <summary>Everything that is asked for on slate and sheet is ticked, then the main action pressed.</summary>
        public void TickAllAndGoOn()
        {
            screen.Driver.ExecuteScript(
                "document.querySelectorAll('main input[type=checkbox]').forEach(c => { if (!c.checked) c.click(); })"
            );
            screen.Click(By.CssSelector(".slate .push .go, .slate .go"));
        }
    }

    private static void StateLimits(Trainee trainee)
    {
        var part = trainee.Here().Lesson.Part;
        trainee.Screen.Until(() => trainee.Screen.Path_.StartsWith("/receive/", StringComparison.Ordinal), "the limits");
        trainee.Screen.Enter(part.Cast[0]);
        trainee.Screen.Enter(part.NominalMm.ToString(CultureInfo.InvariantCulture));
        trainee.Screen.Enter(part.MachineToMm.ToString(CultureInfo.InvariantCulture));
        trainee.Screen.Press(Keys.Enter);
        if (trainee.Surface < trainee.Now().Lesson.Surfaces)
        {
            // The limits of the drum in the hat are asked for next.
            trainee.Screen.Until(
                () => trainee.Screen.Driver.FindElements(By.CssSelector("[name=surface][value='2']:checked")).Count == 1,
                "the drum"
            );
            trainee.Surface++;
            StateLimits(trainee);
            return;
        }
        trainee.Surface = 1;
        trainee.Screen.Until(() => trainee.Screen.Path_ == $"/measure/{trainee.Tag}", "the first place");
        trainee.Idle();
    }

    /// <summary>Reads every place that is asked for: clear of the ridge, rocked, closed.</summary>
    private static void ReadAll(Trainee trainee, bool byDragging)
    {
        var screen = trainee.Screen;
        for (var i = 0; i < 8 && screen.Driver.FindElements(By.CssSelector("[data-entry]")).Count == 1; i++)
        {
            var hand = trainee.Here().Hand();
            if (trainee.Here().Lesson.Part.Kind == PartKind.Rotor)
            {
                trainee.Press(Keys.ArrowDown, (int)Math.Ceiling((ClearOfTheRidge - hand.InMm) / 2));
                trainee.Press(Keys.Home);
            }
            else
            {
                // The highest start below the size when new.
                var design = trainee.Here().Lesson.Gauges[hand.Gauge].Design;
                var size = design.InUnit(trainee.Here().Lesson.Part.NominalMm);
                trainee.Press(Keys.PageUp, (int)Math.Floor((size - Math.Max(design.From, hand.Start)) / design.Step + 1e-9));
                trainee.Press(hand.Leaned > 0 ? Keys.ArrowUp : Keys.ArrowDown, Math.Abs(hand.Leaned));
            }
            if (byDragging)
                Drag(trainee, -hand.Rocked);
            trainee.Press(trainee.Here().Hand().Rocked > 0 ? Keys.ArrowLeft : Keys.ArrowRight, Math.Abs(trainee.Here().Hand().Rocked));
            var place = screen.Driver.FindElement(By.CssSelector("h2[data-place]")).Text;
            screen.Press(trainee.Read());
            if (i == 0)
            {
                screen.IsAccessible();
                screen.Driver.FindElement(By.CssSelector(".drill-side, .at-bench")).Displayed.ShouldBeTrue();
            }
            screen.Press(Keys.Enter);
            screen.Until(
                () =>
                    screen.Driver.FindElements(By.CssSelector("h2[data-place]")) is var places
                    && (places.Count == 0 || places[0].Text != place),
                "the next place"
            );
            trainee.Idle();
        }
    }

    /// <summary>Rocks the gauge by drawing it with a finger.</summary>
    private static void Drag(Trainee trainee, int steps)
    {
        const int PixelsOfStep = 14;
        var before = trainee.Here().Hand().Rocked;
        var hold = trainee.Screen.Driver.FindElement(By.CssSelector("[data-hold]"));
        var act = new Actions(trainee.Screen.Driver).MoveToElement(hold).ClickAndHold();
        for (var i = 0; i < Math.Abs(steps); i++)
            act.MoveByOffset(Math.Sign(steps) * PixelsOfStep, 0).Pause(TimeSpan.FromMilliseconds(150));
        act.Release().Perform();
        trainee.Screen.Until(() => trainee.Here().Hand().Rocked != before, "the gauge rocked");
        trainee.Idle();
    }

    /// <summary>Two scratches are read as they lie, and entered on the sheet.</summary>
    private static void CheckSetUp(Trainee trainee)
    {
        var screen = trainee.Screen;
        screen.UntilHeading("Does it run true?");
        trainee.Touch("scratch", "turn:180", "scratch");
        VirtualBench bench = new(trainee.Here().Lesson, trainee.Here().Seed);
        var arcs = trainee.Here().Deeds.Select(bench.Do).OfType<Seen.Arc>().ToList();
        screen.Press("y");
        var n = 0;
        foreach (var which in new[] { "First", "Second" })
        {
            var arc = arcs[n++];
            foreach (
                var (field, value) in new[] { ("At", arc.MiddleDegrees / 30), ("Arc", arc.ArcDegrees / 30), ("Length", BenchAct.ScratchMm) }
            )
                screen.Send(By.Name($"Marks.{which}{field}"), value.ToString("0.##", CultureInfo.InvariantCulture));
        }
        screen.Until(() => screen.Heading != "Does it run true?", "what the scratches say");
        screen.Settle();
        if (screen.Heading.Contains("It runs true", StringComparison.Ordinal))
            screen.Click(By.CssSelector("#set-up-do .go"));
        else
        {
            // A few degrees may tell it otherwise: the bench was worked by the book.
            screen.Click(By.CssSelector(".anyway summary"));
            screen.Send(By.Name("Reason"), "clean, seated and centred");
            screen.Click(By.CssSelector(".anyway button"));
        }
        screen.UntilHeading("Come to first touch");
    }

    [Theory]
    [InlineData("clear-of-the-ridge", false)]
    [InlineData("eighths-and-thousandths", true)]
    [InlineData("the-drum-in-the-hat", false)]
    public void A_whole_part_is_worked_from_the_first_look_to_the_debrief(string lesson, bool byDragging)
    {
        using var screen = new Screen(shop.Address);
        Trainee trainee = new(screen, shop, lesson);
        trainee.Begin();
        screen.Driver.Title.ShouldStartWith("Practice");
        screen.IsAccessible();
        // The lamp is at hand; the arrows turn it.
        trainee.Press(Keys.ArrowRight, 2);
        trainee.Here().Hand().Light.ShouldBe(30);
        screen.Press(Keys.Enter);
        if (trainee.Now().Lesson.Surfaces > 1)
        {
            screen.Until(() => screen.Path_ == $"/look/{trainee.Tag}/2", "the drum in the hat");
            trainee.Idle();
            screen.IsAccessible();
            screen.Press(Keys.Enter);
        }
        StateLimits(trainee);
        ReadAll(trainee, byDragging);

        screen.UntilHeading("Worth cutting");
        screen.Press(Keys.Enter);
        screen.UntilHeading("Mount on");
        screen.Press(Keys.Enter);
        screen.UntilHeading("Put it on");
        trainee.Touch("clean:part", "clean:adapters", "cone:1", "cups:2", "notches", "mount");
        screen.IsAccessible();
        trainee.TickAllAndGoOn();
        CheckSetUp(trainee);
        var faces = BenchAct.FacesOf(trainee.Now().Lesson);
        trainee.Touch([.. Enumerable.Range(0, faces).Select(f => $"zero:{f}")]);
        trainee.TickAllAndGoOn();
        screen.UntilHeading("Pick a technique");
        screen.Press(Keys.Enter);
        screen.Until(() => screen.Path_.StartsWith("/cut/", StringComparison.Ordinal), "the lathe");
        trainee.Idle();

        // Everything as the profile says; then pass by pass until nothing is dark.
        trainee.Touch("lock:2", "lock:3", "lever", "band:on");
        screen.IsAccessible();
        trainee.TickAllAndGoOn();
        screen.UntilHeading("is cutting");
        for (var pass = 1; pass <= 8 && !IsClean(trainee); pass++)
        {
            foreach (var face in Enumerable.Range(0, faces))
            {
                trainee.Touch($"dial:{face}:{(pass - 1) * 6 + 5}", $"dial:{face}:{pass * 6}", $"behind:{face}:{pass * 6}");
            }
            trainee.Touch("run");
        }
        screen.Driver.FindElement(By.CssSelector("[data-heard]")).Text.ShouldContain("It cut clean");
        while (trainee.Here().Bench().Warmth.Kelvin > 1)
        {
            trainee.Touch("tool:Gauge");
            if (screen.Driver.FindElements(By.CssSelector("[value='wait:15']")).Count == 0)
                break;
            trainee.Touch("wait:15");
        }
        FinishAtStation(trainee);
        // Read once more at the same gauge, and decided.
        ReadAll(trainee, byDragging: false);
        if (trainee.Now().Lesson.Surfaces > 1)
        {
            // The drum in the hat is read as well, and left as it is.
            screen.Go($"/measure/{trainee.Tag}");
            screen.Press("j");
            screen.Until(() => screen.Path_ == $"/measure/{trainee.Tag}/2", "the drum in the hat");
            trainee.Surface = 2;
            trainee.Idle();
            ReadAll(trainee, byDragging: false);
        }
        screen.Press("f");
        screen.UntilHeading("What becomes of this part?");
        screen.IsAccessible();
        screen.Press("1");
        screen.UntilText("What you did, and what was true");
        screen.IsAccessible();
        var debrief = trainee.Now().Debrief();
        var told = string.Join("; ", debrief.Lines.Where(l => l.Share < 1).Select(l => $"{l.Of} {l.Cause} {l.Yours} {l.True}"));
        foreach (var skill in trainee.Now().Lesson.Marked)
            (debrief.Score(skill) ?? 100).ShouldBeGreaterThanOrEqualTo(90, $"{skill}: {told}");
        debrief.Outcome.ShouldBe(Uncial.Practice.Debriefs.Outcome.Right, told);
        screen.Heading.ShouldContain("The right thing was done");
        screen.Driver.FindElements(By.CssSelector(".skills .fig")).Count.ShouldBe(Enum.GetValues<Skill>().Length);
        // A reading is looked at again as it was held.
        screen.Click(By.CssSelector(".debrief-lines th a"));
        screen.Until(() => screen.Driver.FindElements(By.CssSelector(".debrief-seen svg.gauge")).Count == 1, "the gauge as it was held");
        // It stands in the progress with its scores.
        screen.Go("/practice");
        screen.Press("e");
        screen.UntilText("Progress of");
        screen.IsAccessible();
        screen
            .Driver.FindElements(By.CssSelector(".skill-chart .dot"))
            .Count.ShouldBe(Enum.GetValues<Skill>().Count(s => debrief.Score(s) is not null));
        screen.Driver.FindElement(By.CssSelector(".debrief-lines")).Text.ShouldContain(trainee.Now().Lesson.Title);
    }

    /// <summary>What the station Cut asks for, pass by pass, as far as to Confirm.</summary>
    private static void FinishAtStation(Trainee trainee)
    {
        var screen = trainee.Screen;
        for (var i = 0; i < 12 && screen.Path_.StartsWith("/cut/", StringComparison.Ordinal); i++)
        {
            var before = screen.Heading + screen.Driver.FindElements(By.CssSelector(".slate .go"))[0].Text;
            if (screen.Heading.Contains("is cutting", StringComparison.Ordinal))
                screen.EndPass();
            else
                trainee.TickAllAndGoOn();
            screen.Until(
                () =>
                    !screen.Path_.StartsWith("/cut/", StringComparison.Ordinal)
                    || screen.Heading + screen.Driver.FindElements(By.CssSelector(".slate .go"))[0].Text != before,
                "the next step at the lathe"
            );
            screen.Settle();
        }
        screen.Path_.ShouldStartWith("/confirm/");
        trainee.Idle();
    }

    private static bool IsClean(Trainee trainee) =>
        trainee.Here().Bench() is { Passes.Count: > 0 } bench && bench.Part.Faces.All(f => f.IsClean());

    [Fact]
    public void Another_tablet_shows_the_bench_as_it_was_left()
    {
        using var screen = new Screen(shop.Address);
        Trainee trainee = new(screen, shop, "leave-it-alone");
        trainee.Begin();
        screen.Press(Keys.Enter);
        StateLimits(trainee);
        trainee.Press(Keys.ArrowDown, 4);
        trainee.Press(Keys.ArrowLeft, 2);
        var shown = screen.Driver.FindElement(By.CssSelector(".bench-hold svg")).GetDomProperty("outerHTML");
        var cookie = screen.Driver.Manage().Cookies.GetCookieNamed("practice")!;
        using var tablet = new Screen(shop.Address);
        tablet.Go("/practice");
        tablet.Driver.Manage().Cookies.AddCookie(new(cookie.Name, cookie.Value, "/"));
        tablet.Size(1024, 768);
        tablet.Go($"/measure/{trainee.Tag}");
        tablet.Until(
            () => tablet.Driver.FindElement(By.CssSelector(".bench-hold svg")).GetDomProperty("outerHTML") == shown,
            "the gauge as it was held"
        );
        // What is done there counts; here it is told.
        tablet.Click(By.CssSelector("[value='tool:Arbor']"));
        tablet.Click(By.CssSelector("[value='clean:part']"));
        tablet.Until(() => trainee.Now().JobSteps.OfType<JobStep.Did>().Any(d => d.Deed is Deed.CleanPart), "a clean part");
        trainee.Touch("tool:Arbor", "mount");
        trainee.Here().Bench().IsMounted.ShouldBeTrue();
        foreach (var tool in Enum.GetValues<BenchTool>())
        {
            trainee.Touch($"tool:{tool}");
            foreach (var (width, height) in new[] { (1024, 768), (1180, 820), (768, 1024), (1920, 1080), (1280, 800) })
            {
                screen.Size(width, height);
                screen.Fits(mayScroll: width < 1280);
            }
        }
    }
}
