extern alias simulators;
using Microsoft.EntityFrameworkCore;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;
using simulators::Uncial.DeviceSimulators;
using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Data;

namespace Uncial.Browser.Tests;

/// <summary>Plan and cut: passes moved by hand, started once, led through, told what the metal says, and nothing lost on the way.</summary>
public class CutTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private Screen Open(string name, string pin, string path)
    {
        var screen = new Screen(shop.Address);
        screen.SignIn(name, pin);
        screen.Go(path);
        return screen;
    }

    private static int Ticked(Screen screen) => screen.Driver.FindElements(By.CssSelector("input[type=checkbox]:checked")).Count;

    private static string Says(Screen screen) => screen.Driver.FindElement(By.TagName("main")).Text;

    [Fact]
    public async Task A_whole_cut_with_a_new_plan_on_two_screens_and_without_the_server()
    {
        // Both work step by step here.
        await using (var db = shop.Db())
            await db.Operators.ExecuteUpdateAsync(o => o.SetProperty(p => p.ExperiencedSince, (DateTimeOffset?)null), Cancel);
        var tag = await shop.PlannedPartAsync("two-fast-one-slow");
        using var tom = Open("Tom Okoro", "1304", "/cut/" + tag);
        tom.UntilHeading("Rough 1, 1 of 3");
        tom.Until(() => tom.Driver.ExecuteScript("return !!navigator.serviceWorker.controller") is true, "the page kept for a reload");
        tom.Go("/cut/" + tag);
        tom.IsAccessible();
        tom.Driver.FindElement(By.TagName("html")).GetAttribute("data-theme").ShouldBe("dark");
        tom.Until(() => tom.Driver.SwitchTo().ActiveElement().GetAttribute("value") == "lock0", "the first lock in focus");
        tom.Press(Keys.Enter, Keys.Enter, Keys.Enter);
        tom.Send(By.CssSelector(".button.go"), Keys.Enter);
        tom.UntilText("See to this first: Cross-feed");
        Ticked(tom).ShouldBe(3);
        // A reload and another screen find what was ticked.
        tom.Driver.Navigate().Refresh();
        tom.Until(() => Ticked(tom) == 3, "the ticks after a reload");
        tom.Until(() => DraftOf(tag).Contains("lock2", StringComparison.Ordinal), "what was ticked on the server");
        using var ines = Open("Ines Varga", "2417", "/cut/" + tag);
        ines.Until(() => Ticked(ines) == 3, "the ticks on another screen");
        foreach (var tick in ines.Driver.FindElements(By.CssSelector("input[type=checkbox]:not(:checked)")))
            tick.SendKeys(Keys.Space);
        // Both start it: one does. The other's page is held back, as if the two pressed in the same moment.
        ines.Driver.ExecuteScript("document.querySelector('main').dataset.turn = 9999");
        tom.TickThrough();
        tom.Press(Keys.Enter);
        tom.UntilHeading("Rough 1 is cutting");
        ines.Send(By.CssSelector(".button.go"), Keys.Enter);
        ines.UntilText("Tom Okoro started this pass at");
        ines.UntilHeading("Rough 1 is cutting");
        (await shop.RecordAsync(tag)).Surface.CutStarts.ShouldHaveSingleItem().By!.UserName.ShouldBe("tom");

        tom.IsAccessible();
        tom.Until(
            () => System.Text.RegularExpressions.Regex.IsMatch(tom.Driver.FindElement(By.CssSelector("[data-left]")).Text, @"^\d+:\d\d$"),
            "the time left"
        );
        // Chatter: what helps is kept for the lathe.
        tom.Send(By.TagName("body"), "n");
        tom.UntilHeading("Chatter");
        tom.Send(By.CssSelector("[value=Rumble]"), Keys.Enter);
        tom.UntilText("Head and spindle in");
        tom.IsAccessible();
        tom.Send(By.XPath("//button[contains(@aria-label,'It helped: Slower spindle')]"), Keys.Enter);
        tom.UntilHeading("is cutting");
        tom.Go($"/cut/{tag}?noisy=true&sign=Ringing");
        tom.UntilText("helped here 1 ×");
        tom.Driver.FindElements(By.CssSelector(".remedies b"))[0].Text.ShouldStartWith("Slower spindle");
        tom.Press(Keys.Enter);
        tom.UntilHeading("is cutting");

        // The server is away while the pass ends, and the page is loaded anew meanwhile.
        tom.Go("/cut/" + tag);
        tom.Offline(true);
        tom.EndPass();
        tom.UntilText("The lathe cuts on");
        tom.Driver.Navigate().Refresh();
        tom.UntilHeading("is cutting");
        tom.Offline(false);
        tom.EndPass();
        tom.UntilHeading("Tap what is still dark");
        tom.TabTo("Inner face, 3 dark");
        tom.Press(" ", Keys.ArrowRight, " ", Keys.ArrowRight, " ", Keys.ArrowRight, " ", Keys.ArrowRight, " ", Keys.ArrowRight, " ");
        tom.Fill("Groove left, outer", "0.01");
        tom.Driver.Navigate().Refresh();
        tom.Until(() => tom.Value("DarkInner") == "504" && tom.Value("GrooveOuter") == "0.01", "what was tapped and typed after a reload");
        tom.Driver.FindElement(By.CssSelector("[data-face=DarkInner] [data-count]")).Text.ShouldBe("6");
        tom.Offline(true);
        tom.Send(By.Name("GrooveInner"), "0" + Keys.Enter + Keys.Enter);
        tom.UntilText("What you tapped and typed is still here");
        tom.Offline(false);
        tom.Send(By.CssSelector(".button.go"), Keys.Enter);
        tom.UntilText("The plan was made anew");
        // d 0.05, half dark: R may be 0.115; outer needs no more than its groove.
        tom.UntilText("The inner face needs");
        tom.UntilText("will be left to machine-to");
        tom.UntilText("The dials count on from the same zero");
        var record = await shop.RecordAsync(tag);
        (record.Planning.Latest!.Version, record.Planning.Document!.Continues).ShouldBe((2, true));
        var first = record.Planning.Document.Option.Passes[0];
        record.Cutting.DialAt(first).ShouldBe([.. first.DialFromTouch.Select(d => d + Mm(0.05m))]);
        Says(tom).ShouldNotContain("Cutter knobs Tight\nSee");
        tom.IsAccessible();

        // A pass that is broken off is made again at the same setting.
        tom.TickThrough();
        tom.Press(Keys.Enter);
        tom.UntilHeading("is cutting");
        tom.Click(By.CssSelector(".anyway summary"));
        tom.Click(By.XPath("//button[text()='Broken off']"));
        tom.UntilText("Say why it was stopped");
        tom.Send(By.Name("Reason"), "The belt slipped");
        tom.Click(By.XPath("//button[text()='Broken off']"));
        tom.UntilText("This pass was broken off: The belt slipped");
        (await shop.RecordAsync(tag)).Cutting.DialAt(first).ShouldBe(record.Cutting.DialAt(first));
        while (tom.Heading != "Finish it")
        {
            tom.MakePass("/cut/" + tag);
            tom.Until(() => tom.Driver.SwitchTo().ActiveElement().GetAttribute("name") == "GrooveOuter", "the groove in focus");
            tom.Press("0", Keys.Enter, "0", Keys.Enter, Keys.Enter);
            tom.Until(() => !tom.Heading.Contains("Tap what", StringComparison.Ordinal), "kept");
        }
        // Finishing: a clock for each side, a step left out takes its reason.
        tom.IsAccessible();
        tom.Click(By.CssSelector(".timer"));
        tom.Until(
            () => tom.Driver.FindElement(By.CssSelector(".timer [data-clock-left]")).Text.StartsWith("0:5", StringComparison.Ordinal),
            "the clock running"
        );
        tom.Driver.Navigate().Refresh();
        tom.Until(
            () => tom.Driver.FindElement(By.CssSelector(".timer [data-clock-left]")).Text.StartsWith("0:5", StringComparison.Ordinal),
            "the clock running on after a reload"
        );
        foreach (var step in new[] { "CrossHatchOuter", "CrossHatchInner", "Wash", "Hands" })
            tom.Send(By.CssSelector($"[value={step}]"), Keys.Space);
        tom.Send(By.CssSelector(".button.go"), Keys.Enter);
        tom.UntilText("say why it is left out: break the sharp edges");
        tom.Fill("Left out", "Edges are chamfered as cast");
        tom.Press(Keys.Enter);
        tom.UntilHeading("Read again at 12");
        var done = await shop.RecordAsync(tag);
        done.Surface.Finishes.ShouldHaveSingleItem().Steps.ShouldBe(["CrossHatchOuter", "CrossHatchInner", "Wash", "Hands"]);
        (done.Surface.Passes.Sum(p => p.Metres) > 100, done.Surface.Passes.All(p => p.Grams > 5)).ShouldBe((true, true));
        tom.Go("/part/" + tag);
        tom.UntilText("The belt slipped");
        tom.UntilText("Edges are chamfered as cast");
    }

    private string DraftOf(string tag)
    {
        using var db = shop.Db();
        return (
            from d in db.CutDrafts
            join s in db.Surfaces on d.SurfaceId equals s.Id
            join p in db.Parts on s.PartId equals p.Id
            where p.Tag == tag
            select d.Document
        ).FirstOrDefault() ?? "";
    }

    private static Length Mm(decimal mm) => TestParts.Mm(mm);

    [Fact]
    public async Task What_could_reach_past_machine_to_is_not_started_before_it_is_measured()
    {
        // 0.14 of run-out on either face: the last of three passes is past 24.01 with its bound, though not by forecast.
        var tag = await shop.PlannedPartAsync("two-fast-one-slow", machineTo: "24.01", runout: "0.14");
        var plan = (await shop.RecordAsync(tag)).Planning.Document!;
        var checkpoint = plan.Option.Passes.ToList().FindIndex(p => p.MeasureFirst);
        checkpoint.ShouldBeGreaterThan(0);
        using var screen = Open("Tom Okoro", "1304", "/cut/" + tag);
        for (var i = 0; i < checkpoint; i++)
        {
            screen.MakePass("/cut/" + tag);
            foreach (var face in new[] { "Outer", "Inner" })
                screen.Click(By.CssSelector($"[data-face=Dark{face}] .sector:nth-of-type(4)"));
            screen.Send(By.CssSelector(".button.go"), Keys.Enter);
            if (i < checkpoint - 1)
                screen.Until(() => !screen.Heading.Contains("Tap what", StringComparison.Ordinal), "the next pass");
        }
        screen.UntilText("Measure here first: the next pass could reach past machine-to.");
        screen.Heading.ShouldBe("Tap what is still dark");
        screen.Value("DarkInner").ShouldBe("8");
        // Nor does anything start it behind the page's back.
        await using (var db = shop.Db())
        {
            await using var undone = await db.Database.BeginTransactionAsync(Cancel);
            var record = await db.RecordAsync(tag);
            record.Cutting.IsCut.ShouldBeTrue();
            CutCommands.RecordPass(
                record,
                new(8, 8, null, null, null, null),
                new(await db.PersonAsync("tom"), Role.Operator, DateTimeOffset.UtcNow)
            );
            await db.SaveChangesAsync(Cancel);
            record = new(record.Surface, record.Part, record.Shop);
            record.Cutting.StartRefusal.ShouldBe(StartRefusal.MeasureFirst);
            Should.Throw<InvalidOperationException>(() =>
                CutCommands.StartPass(record, 1, new(1, Role.Operator, DateTimeOffset.UtcNow), record.Cutting.NeededChecks)
            );
        }
        // With a size it goes on, from what the size says.
        var size = plan
            .Option.Passes[checkpoint - 1]
            .SizeAfter.Millimetres.ToString("0.000", System.Globalization.CultureInfo.InvariantCulture);
        screen.Fill("Measured now", size);
        screen.Press(Keys.Enter);
        screen.UntilText("The plan was made anew");
        screen.UntilText("on a bright spot: the plan counts from there");
        (await shop.RecordAsync(tag)).Cutting.StartRefusal.ShouldBeNull();
    }

    [Fact]
    public async Task Lines_are_moved_lifted_and_put_in_and_the_plan_is_taken_as_it_stands()
    {
        var tag = await shop.ReadPartAsync();
        using var screen = Open("Ines Varga", "2417", $"/plan/{tag}?technique=two-fast-one-slow");
        screen.IsAccessible();
        string Address() => new Uri(screen.Driver.Url).Query;
        // By keys: down is into the metal on the outer face.
        screen.TabTo("Rough 1, Outer face");
        screen.Press(Keys.ArrowDown);
        screen.Until(() => Address().Contains("passes=R6-5.R4-5.F5-5", StringComparison.Ordinal), "the line a division deeper");
        screen.Until(
            () => screen.Driver.SwitchTo().ActiveElement().GetAttribute("aria-valuetext") == "dial 0.06",
            "the focus still on the line"
        );
        // By the mouse: two divisions on, told in steps of the drawing.
        var step = double.Parse(
            screen.Driver.FindElement(By.CssSelector("svg.passes")).GetAttribute("data-step")!,
            System.Globalization.CultureInfo.InvariantCulture
        );
        var box = screen.Driver.FindElement(By.CssSelector("svg.passes")).Size;
        var pixels = (int)Math.Round(2 * step * Math.Min(box.Width / 600.0, box.Height / 412.0));
        new Actions(screen.Driver)
            .MoveToElement(screen.Driver.FindElement(By.CssSelector("[data-line='2,1'] .knob")))
            .ClickAndHold()
            .MoveByOffset(0, -pixels)
            .Release()
            .Perform();
        screen.Until(() => Address().Contains("passes=R6-5.R4-5.F5-7", StringComparison.Ordinal), "the last line of the inner face deeper");
        screen.UntilText("Set by hand");
        // Lifted out, what follows keeps its depth; then one is put in.
        screen.TabTo("Rough 1, Outer face");
        screen.Press(Keys.Delete);
        screen.Until(() => Address().Contains("passes=R4-5.F5-7", StringComparison.Ordinal), "the pass lifted out");
        screen.Send(By.CssSelector("[aria-label='Put a pass before Finish']"), Keys.Enter);
        screen.Until(() => Address().Contains("passes=R4-5.R5-5.F5-7", StringComparison.Ordinal), "a pass put in");
        screen.Driver.Navigate().Back();
        screen.Until(() => Address().Contains("passes=R4-5.F5-7", StringComparison.Ordinal), "back is undo");
        foreach (var sheet in new[] { "2", "3" })
        {
            screen.Send(By.TagName("body"), sheet);
            screen.Until(
                () => Address().Contains(sheet == "2" ? "sheet=unrolled" : "sheet=compare", StringComparison.Ordinal),
                "another sheet"
            );
            screen.IsAccessible();
        }
        screen.UntilText("No machining");
        screen.UntilText("A new part");
        screen.Send(By.CssSelector(".button.go"), Keys.Enter);
        screen.UntilHeading("Rough, 1 of 2");
        var plan = (await shop.RecordAsync(tag)).Planning.Document!;
        (plan.Option.ByHand, string.Join('.', plan.Option.Passes.Select(p => string.Join('-', p.Divisions)))).ShouldBe((true, "4-5.5-7"));

        // What takes more than there is stays shown, refused, and is not taken.
        var other = await shop.ReadPartAsync(machineTo: "24.1");
        screen.Go($"/plan/{other}?technique=light&passes=R20-20.F8-8");
        screen.UntilText("takes more than there is");
        screen.Driver.FindElement(By.CssSelector(".button.go")).Enabled.ShouldBeFalse();
        using var caller = shop.Caller();
        (await caller.GetAsync(new Uri($"/plan/{other}?passes=R9999999-1", UriKind.Relative), Cancel)).EnsureSuccessStatusCode();
    }

    [Fact]
    public async Task One_side_at_a_time_turned_round_and_measured_in_between()
    {
        var tag = await shop.ReadPartAsync();
        await using (var db = shop.Db())
        {
            var grinder = await db.Lathes.SingleAsync(l => l.Id == 3, Cancel);
            var record = await db.RecordAsync(tag);
            var actor = new Actor(await db.PersonAsync("ines"), Role.Operator, DateTimeOffset.UtcNow);
            MountCommands.Mount(record, grinder, new(Core.Mounting.MountWay.Table, "Table", Mm(100), [], []), damped: false, null, actor);
            await db.SaveChangesAsync(Cancel);
            record = new(record.Surface, record.Part, record.Shop);
            var request = record.Planning.Request(true);
            PlanCommands.TakePlan(record, request, PassPlanner.Plan(request).Options.Single(o => o.Key == "grind"), [], actor);
            await db.SaveChangesAsync(Cancel);
        }
        using var screen = Open("Tom Okoro", "1304", "/cut/" + tag);
        screen.UntilHeading("Rough 1, outer");
        screen.UntilText("Table magnet");
        screen.IsAccessible();
        screen.Driver.FindElements(By.CssSelector("[data-live-dial]")).Count.ShouldBe(1);
        var plan = (await shop.RecordAsync(tag)).Planning.Document!;
        var turn = plan.Option.Passes.ToList().FindIndex(p => p.TurnFirst);
        for (var i = 0; i < turn; i++)
        {
            screen.MakePass("/cut/" + tag);
            screen.Driver.FindElements(By.CssSelector("[data-face]")).Count.ShouldBe(1);
            // Dark until the infeed that should clean it, so that the plan runs as it is.
            if (i < turn - 2)
                for (var hour = 1; hour <= 12; hour++)
                    screen.Click(By.CssSelector($"[data-face=DarkOuter] .sector:nth-of-type({hour})"));
            screen.Send(By.CssSelector(".button.go"), Keys.Enter);
            if (i < turn - 1)
                screen.Until(() => !screen.Heading.Contains("Tap what", StringComparison.Ordinal), "the next infeed");
        }
        screen.UntilText("the second face stands on the first");
        screen.Fill(
            "Measured now",
            plan.Option.Passes[turn - 1].SizeAfter.Millimetres.ToString("0.000", System.Globalization.CultureInfo.InvariantCulture)
        );
        screen.Press(Keys.Enter);
        screen.UntilHeading(", inner");
        screen.UntilText("Turned round, seated clean");
        (await shop.RecordAsync(tag)).Surface.Passes.ShouldAllBe(p => p.DarkInner == 0xFFF); // nobody has cut the inner face
    }

    [Fact]
    public async Task The_page_follows_a_read_out_and_works_without()
    {
        var tag = await shop.PlannedPartAsync("working");
        await using var lathe = new SimulatedLathe("Read-out", 0);
        lathe.Open();
        await using (var db = shop.Db())
            await db
                .Lathes.Where(l => l.Id == 1)
                .ExecuteUpdateAsync(set => set.SetProperty(l => l.Address, $"127.0.0.1:{lathe.Port}"), Cancel);
        using var screen = Open("Tom Okoro", "1304", "/cut/" + tag);
        string Live() => screen.Driver.FindElement(By.CssSelector("[data-live-lathe-word]")).Text;
        screen.Until(() => Live() == "Spindle stands, feed out", "the read-out");
        screen.UntilText("0.10 to go");
        await lathe.TurnAsync(outer: 0.10m, inner: 0.12m);
        screen.UntilText("there");
        screen.UntilText("0.02 past, back off");
        await lathe.TurnAsync(rpm: 85, feed: true);
        screen.Until(() => Live() == "Spindle turns, 85 rpm, feed in", "the spindle");
        // What the lathe does otherwise than the page believes is said at once.
        string Fault() => screen.Driver.FindElement(By.CssSelector("[data-live-fault]")).Text;
        screen.Until(() => Fault() == "Inner dial stands 0.02 deeper than this pass. Stop, and look at the dial.", "the dial that is past");
        await lathe.TurnAsync(inner: -0.02m);
        screen.Until(() => Fault() == "The lathe feeds, and no pass was started here.", "the feed that is in");
        screen.IsAccessible();
        screen.TickThrough();
        screen.Press(Keys.Enter);
        screen.UntilHeading("is cutting");
        screen.Until(() => Fault() == "", "the lathe that does as the page says");
        await lathe.TurnAsync(inwards: true);
        screen.Until(() => Fault() == "The feed runs inwards. Stop it: the cut runs outwards.", "the wrong way");
        screen.IsAccessible();
        await lathe.TurnAsync(rpm: 0, inwards: false);
        screen.Until(() => Fault() == "The spindle stands: nothing is being cut.", "the spindle that stands");
        lathe.IsSilent = true;
        screen.Until(() => Live().StartsWith("Read-out: silent", StringComparison.Ordinal), "the silence");
        screen.Until(() => Fault() == "", "nothing said of a silent lathe");
    }

    [Fact]
    public async Task A_dial_that_was_changed_in_its_profile_voids_or_renews_the_plan()
    {
        await using var db = shop.Db();
        var lathe = await db.Lathes.SingleAsync(l => l.Id == 1, Cancel);
        var (was, actor) = (lathe.Profile, new Actor(await db.PersonAsync("ines"), Role.Operator, DateTimeOffset.UtcNow));
        var (begun, notBegun) = (await shop.PlannedPartAsync("two-fast-one-slow"), await shop.PlannedPartAsync("working"));
        var record = await db.RecordAsync(begun);
        await db.SeeToEyesAsync(actor, record.Lathe.Id);
        CutCommands.StartPass(record, 1, actor, record.Cutting.NeededChecks);
        CutCommands.StopPass(record, CutStopKind.Done, null, actor);
        await db.SaveChangesAsync(Cancel);
        CutCommands.RecordPass(new(record.Surface, record.Part, record.Shop), new(0xFFF, 0xFFF, null, null, null, null), actor);
        await db.SaveChangesAsync(Cancel);
        try
        {
            lathe.Profile = was with { Division = Mm(0.02m) };
            await db.SaveChangesAsync(Cancel);
            (await shop.RecordAsync(notBegun)).Planning.Document.ShouldBeNull();
            using var screen = Open("Tom Okoro", "1304", "/cut/" + begun);
            screen.UntilText("The dial of Quay lathe is another one now");
            screen.Send(By.CssSelector(".button.go"), Keys.Enter);
            screen.UntilText("Planned anew for a dial of 0.02 mm");
            var anew = await shop.RecordAsync(begun);
            // Five divisions are on the dial as it stands; they are 0.10 of the new marking.
            anew.Cutting.DialAt(anew.Planning.Document!.Option.Passes[0])[0]
                .ShouldBe(Mm(0.10m) + anew.Planning.Document.Option.Passes[0].DialFromTouch[0]);
            anew.Planning.Document.Request.Dial.Confirmed.ShouldBeFalse();
        }
        finally
        {
            lathe.Profile = was;
            await db.SaveChangesAsync(Cancel);
        }
    }

    [Fact]
    public async Task The_owner_keeps_techniques_of_the_shop_and_the_bin_is_emptied()
    {
        var tag = await shop.ReadPartAsync();
        using var screen = Open("Marit Sund", "9051", "/techniques");
        screen.UntilHeading("A way of your own");
        screen.IsAccessible();
        screen.Until(() => screen.Driver.SwitchTo().ActiveElement().GetAttribute("name") == "Typed.Name", "the name in focus");
        foreach (var text in new[] { "Gale hand", "0.06", "0.3", "0.05", "0.08", "0", "4" })
            screen.Enter(text);
        screen.Until(
            () => screen.Driver.FindElement(By.CssSelector(".field.is-wrong .says")).Text == "No pass is heavier than 0.25 mm.",
            "the depth refused at its field"
        );
        screen.Value("Typed.RoughMax").ShouldBe("0.3");
        screen.Fill("Rough, deepest", "0.12");
        screen.Send(By.CssSelector(".button.go"), Keys.Enter);
        screen.UntilHeading("Change Gale hand");
        screen.Go("/plan/" + tag);
        screen.UntilText("Gale hand");
        screen.Go("/lathes");
        screen.UntilText("Swarf bin");
        screen.IsAccessible();
        await using (var db = shop.Db())
            (await LatheQueries.BinAsync(db, await db.ShopAsync(Cancel), Cancel)).Bin.Grams.ShouldBeGreaterThan(100);
        screen.Send(By.TagName("body"), "e");
        screen.UntilText("0.0 of 20 kg");
        await using var after = shop.Db();
        (await after.BinsEmptied.SingleAsync(Cancel)).Grams.ShouldBeGreaterThan(100);
    }
}
