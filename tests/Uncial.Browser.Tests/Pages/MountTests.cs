using Microsoft.EntityFrameworkCore;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;
using Uncial.Core.Lengths;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Data;

namespace Uncial.Browser.Tests;

/// <summary>Mount: the stack that is picked, the check that is dragged and typed, and what follows from it.</summary>
public class MountTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static Length Mm(decimal mm) => Length.FromMillimetres(mm);

    private Task<string> PartAsync(PartKind kind = PartKind.Rotor, MountShape? shape = null, RunningShop? of = null) =>
        (of ?? shop).ReadPartAsync(kind, shape);

    private Task<SurfaceRecord> RecordAsync(string tag, RunningShop? of = null) => (of ?? shop).RecordAsync(tag);

    private Screen Open(string tag)
    {
        var screen = new Screen(shop.Address);
        screen.SignIn("Tom Okoro", "1304");
        screen.Go("/mount/" + tag);
        return screen;
    }

    private static void TickAll(Screen screen)
    {
        screen.IsAccessible();
        foreach (var step in screen.Driver.FindElements(By.CssSelector(".mount-steps input[type=checkbox],[name=Eyes]")))
            step.SendKeys(Keys.Space);
    }

    private static void PutOn(Screen screen)
    {
        screen.UntilHeading("Mount on Quay lathe");
        screen.IsAccessible();
        screen.Press(Keys.Enter);
        screen.UntilHeading("Put it on");
        TickAll(screen);
        screen.Send(By.CssSelector(".button.go"), Keys.Enter);
        screen.UntilHeading("Does it run true?");
    }

    private static string Value(Screen screen, string name) =>
        screen.Driver.FindElement(By.Name("Marks." + name)).GetAttribute("value") ?? "";

    private static void Type(Screen screen, params (string Name, string Text)[] fields)
    {
        foreach (var (name, text) in fields)
        {
            var field = screen.Driver.FindElement(By.Name("Marks." + name));
            field.Clear();
            field.SendKeys(text);
        }
    }

    private static void Manner(Screen screen, string manner)
    {
        screen.Driver.ExecuteScript($"document.querySelector('[name=\"Marks.Manner\"][value={manner}]').click()");
        screen.Until(
            () =>
                screen.Driver.FindElement(By.CssSelector($"[name='Marks.Manner'][value={manner}]")).Selected
                && screen.Driver.FindElements(By.Name("Marks.FirstLength")).Count == (manner is "Angles" or "TwoArcs" ? 0 : 1)
                && screen.Driver.FindElements(By.Name("Marks.FirstArc")).Count == (manner is "Indicator" ? 0 : 1)
                && screen.Driver.FindElements(By.Name("Marks.SecondAt")).Count == (manner is "OneScratch" ? 0 : 1),
            manner
        );
    }

    [Fact]
    public async Task Marks_dragged_on_the_face_show_a_wobble_and_after_a_remount_its_run_out_is_in_the_plan()
    {
        var tag = await PartAsync();
        using var screen = Open(tag);
        screen.UntilText("the hole stands 50% up it");
        screen.UntilText("Cups 135: the largest pair that seats on the face of 146 mm");
        screen.IsAccessible();
        PutOn(screen);
        screen.IsAccessible();

        // The first mark by hand: from 12 to 3 on the face.
        var face = screen.Driver.FindElement(By.CssSelector("[data-scratches]"));
        var size = Math.Min(face.Size.Width / 600.0, face.Size.Height / 416.0);
        new Actions(screen.Driver)
            .MoveToElement(screen.Driver.FindElement(By.CssSelector("[data-scratch='1'] [data-grip=middle]")))
            .ClickAndHold()
            .MoveToElement(face, (int)(100 * size), (int)(-100 * size))
            .MoveToElement(face, (int)(142 * size), 0)
            .Release()
            .Perform();
        (Value(screen, "FirstAt"), Value(screen, "FirstArc")).ShouldBe(("3", "3"));
        // The second by the keys: its middle half an hour on, its end an hour.
        var middle = screen.Driver.FindElement(By.CssSelector("[data-scratch='2'] [data-grip=middle]"));
        middle.SendKeys(Keys.ArrowRight + Keys.ArrowRight);
        screen.Send(By.CssSelector("[data-scratch='2'] [data-grip=to]"), Keys.Shift + Keys.ArrowRight + Keys.Shift);
        (Value(screen, "SecondAt"), Value(screen, "SecondArc")).ShouldBe(("7", "4"));
        Type(screen, ("FirstLength", "0.02"), ("SecondLength", "0.02"));
        screen.UntilHeading("Clean and remount");
        screen.IsAccessible();
        (await RecordAsync(tag)).Mounting.SetUps.ShouldBeEmpty(); // shown, not kept
        // V₁ 0.1366 at 3, V₂ 0.08 at 7: S is half of what lies between them.
        var s = Math.Sqrt(0.1366 * 0.1366 + 0.08 * 0.08 + 0.1366 * 0.08) / 2;
        screen.UntilText($"{Math.Ceiling(s * 1000) / 1000:0.000}");

        screen.Send(By.CssSelector(".button.go"), Keys.Enter);
        screen.UntilText("What was it?");
        TickAll(screen);
        screen.Send(By.CssSelector(".button.go"), Keys.Enter);
        screen.UntilText("Say what was found");
        screen.Driver.ExecuteScript("document.querySelector('[name=Found][value=Dirt]').click()");
        TickAll(screen);
        screen.Send(By.CssSelector(".button.go"), Keys.Enter);
        screen.UntilHeading("Does it run true?");
        Manner(screen, "Indicator");
        Type(screen, ("FirstAt", "2:30"), ("FirstLength", "0.07"), ("SecondAt", "90°"), ("SecondLength", "0.06"));
        screen.UntilHeading("It runs true");
        screen.Press(Keys.Enter, Keys.Enter); // past the half turn that it was
        screen.Until(
            () => screen.Driver.SwitchTo().ActiveElement().Text.StartsWith("Keep it, go to first touch", StringComparison.Ordinal),
            "the main action in focus"
        );
        screen.Press(Keys.Enter);
        screen.UntilHeading("Come to first touch");
        screen.UntilText("It runs out 0.06 mm as it turns now");
        screen.IsAccessible();

        var record = await RecordAsync(tag);
        record.Station.ShouldBe(Station.Plan);
        record
            .Surface.Mounts.OrderBy(m => m.Id)
            .Select(m => (m.Centring, m.Found, m.Damped))
            .ShouldBe([("Cone 3", null, true), ("Cone 3", RemountCause.Dirt, true)]);
        record.Surface.SetUps.OrderBy(c => c.Id).Select(c => c.Verdict).ShouldBe([SetUpVerdict.Remount, SetUpVerdict.True]);
        record.Mounting.Decision!.Reason.ShouldBeNull();
        record.Measuring.Figure(ReadingKind.RunoutOuter)!.Value.Millimetres.ShouldBe(0.06m, 0.0001m);
        record.Measuring.RotorFigures.RunoutAssumed.Outer.ShouldBeFalse();
        record.Planning.Request(true).SetUpRunout.ShouldBe(record.Mounting.SetUp!.SetUpRunout);
        TickAll(screen);
        screen.Send(By.CssSelector(".button.go"), Keys.Enter);
        screen.Until(() => screen.Path_ == "/plan/" + tag + "/1", "the plan");
    }

    [Fact]
    public async Task Going_on_against_the_check_takes_a_reason_and_shows_before_the_cut_and_at_confirm()
    {
        var tag = await PartAsync(PartKind.Drum, TestParts.Shape with { Vented = false });
        using var screen = Open(tag);
        PutOn(screen);
        Type(
            screen,
            ("FirstAt", "12"),
            ("FirstArc", "6"),
            ("FirstLength", "0.03"),
            ("SecondAt", "6"),
            ("SecondArc", "6"),
            ("SecondLength", "x")
        );
        screen.Until(
            () =>
                screen
                    .Driver.FindElement(By.Name("Marks.SecondLength"))
                    .FindElement(By.XPath(".."))
                    .GetAttribute("class")!
                    .Contains("is-wrong", StringComparison.Ordinal),
            "what is wrong at its field"
        );
        screen.Press(Keys.Enter, Keys.Enter); // leads back to what is wrong
        screen.Until(
            () => screen.Driver.SwitchTo().ActiveElement().GetAttribute("name") == "Marks.SecondLength",
            "the wrong field in focus"
        );
        Type(screen, ("SecondLength", "0.03"));
        screen.UntilHeading("Clean and remount");
        screen.Offline(true);
        Type(screen, ("SecondLength", "0.01"));
        screen.Until(() => !screen.Driver.FindElement(By.CssSelector("#set-up h2")).Displayed, "no verdict on other marks");
        screen.UntilText("The server does not answer");
        screen.Offline(false);
        Type(screen, ("SecondLength", "0.03"));
        screen.UntilHeading("Clean and remount");
        screen.UntilText("off centre, over the 0.012 allowed");
        screen.Press(Keys.Escape, "g");
        screen.Until(() => screen.Driver.SwitchTo().ActiveElement().GetAttribute("name") == "Reason", "the reason in focus");
        screen.Click(By.CssSelector(".anyway button"));
        screen.UntilText("Say why it is cut all the same");
        Value(screen, "SecondLength").ShouldBe("0.03");
        (await RecordAsync(tag)).Mounting.Decision.ShouldBeNull();
        screen.Send(By.Name("Reason"), "No other cone today");
        screen.Click(By.CssSelector(".anyway button"));
        screen.UntilHeading("Come to first touch");
        var record = await RecordAsync(tag);
        record.Measuring.Figure(ReadingKind.Eccentricity)!.Value.Millimetres.ShouldBe(0.03m); // half of the 0.06 that it runs out
        screen.Go("/plan/" + tag);
        screen.UntilHeading("Pick a technique");
        screen.Press(Keys.Enter);
        screen.UntilText("gone on against its check. “No other cone today”");
        screen.UntilText("Spindle feed Free");
        screen.Go("/confirm/TQA2P/1"); // cut against its check yesterday
        screen.UntilText("Cut against the set-up check, 0.031 mm in the set-up: “Cleaned twice, comes out the same.” (Ines Varga)");
    }

    [Fact]
    public async Task Angles_rings_and_one_scratch_say_what_they_can_and_going_on_unchecked_is_said()
    {
        var tag = await PartAsync();
        using var screen = Open(tag);
        PutOn(screen);
        Type(
            screen,
            ("FirstAt", "12"),
            ("FirstArc", "all"),
            ("FirstLength", "0.01"),
            ("SecondAt", "12"),
            ("SecondArc", "12"),
            ("SecondLength", "0.01")
        );
        screen.UntilHeading("It runs true");
        Manner(screen, "Angles");
        Type(screen, ("FirstArc", "4"), ("SecondArc", "4"), ("SecondAt", "6"));
        screen.UntilHeading("Clean and remount");
        screen.UntilText("only the shares are known");
        Type(screen, ("Turned", "20°"));
        screen.UntilText("within 30° of none");
        Manner(screen, "OneScratch");
        Type(screen, ("FirstArc", "7"), ("FirstLength", "0.02"));
        screen.UntilHeading("Cannot tell");
        await using (var db = shop.Db())
        {
            var settings = await db.ShopAsync(Cancel);
            db.Attach(settings).Entity.Rules = settings.Rules with { SetUp = settings.Rules.SetUp with { AcceptHalfRoundScratch = true } };
            db.Update(settings);
            await db.SaveChangesAsync(Cancel);
        }
        Type(screen, ("FirstArc", "7.5"));
        screen.UntilHeading("It runs true");
        screen.UntilText("It runs out 0.04 mm at most");

        var other = await PartAsync();
        screen.Go("/mount/" + other);
        PutOn(screen);
        screen.Press(Keys.Escape, "g");
        screen.Until(() => screen.Driver.SwitchTo().ActiveElement().GetAttribute("name") == "Reason", "the reason in focus");
        screen.Press("In a hurry");
        screen.Click(By.CssSelector(".anyway button"));
        screen.UntilHeading("Come to first touch");
        (await RecordAsync(other)).Mounting.Decision!.ShouldSatisfyAllConditions(
            d => d.Reason.ShouldBe("In a hurry"),
            d => d.CheckId.ShouldBeNull()
        );
    }

    [Fact]
    public async Task What_does_not_fit_is_named_sizes_are_asked_for_and_other_lathes_are_at_hand()
    {
        var tag = await PartAsync(
            shape: new()
            {
                Hole = Mm(30),
                Register = Mm(146),
                Depth = Mm(52),
                Web = Mm(8),
            }
        );
        using var screen = Open(tag);
        screen.UntilText("No cone: the hole is 30 mm; Cone 1, the nearest, ends at 58 mm.");
        screen.IsAccessible();
        screen.Press("s");
        screen.UntilHeading("Sizes for mounting");
        screen.Fill("Hole in the middle", "150");
        // Enter walks through the four fields; at the last it keeps them.
        screen.Press(Keys.Enter, Keys.Enter, Keys.Enter, Keys.Enter);
        screen.UntilText("The face lies round the hole: it is wider.");
        screen.Fill("Hole in the middle", "8in - 5 11/64in"); // 71.83 mm, as the tape says
        screen.Send(By.CssSelector(".button.go"), Keys.Enter);
        screen.UntilText("Cone and cups, seated to 135 mm");
        screen.Send(By.PartialLinkText("Slip grinder"), Keys.Enter);
        screen.UntilHeading("Mount on Slip grinder");
        screen.Press(Keys.Enter);
        screen.UntilText("Try that it holds before it turns");
        (await RecordAsync(tag)).Part.Shape!.Hole!.Value.Inches.ShouldBe(8 - 5 - 11m / 64);
    }

    [Fact]
    public async Task The_owner_changes_lathes_and_adapters_and_an_insert_starts_anew_when_it_is_turned()
    {
        await using var own = new RunningShop(); // what it changes, the other tests go by
        await own.InitializeAsync();
        var tag = await PartAsync(of: own);
        using var screen = new Screen(own.Address);
        screen.SignIn("Marit Sund", "9051");
        screen.Go("/lathes/1");
        screen.UntilText("Cone 3 on Quay lathe: ");
        screen.UntilText("edge 2 of 6");
        screen.IsAccessible();
        screen.Send(By.XPath("//form[.//input[@value='Outer']]//button[text()='Turned']"), Keys.Enter);
        screen.UntilText("edge 3 of 6, 0 of");
        screen.Send(By.XPath("//form[.//input[@value='Inner']]//button[text()='Chipped']"), Keys.Enter);
        screen.UntilText("chipped");
        screen.Go("/lathes/1?edit=true");
        screen.IsAccessible();
        screen.Fill("One division", "0,01in");
        screen.Fill("Locks", "Cross-feed: sometimes");
        screen.Fill("Name", "Quay lathe");
        screen.Send(By.CssSelector(".button.go"), Keys.Enter);
        screen.UntilText("when it is tight (rotor, drum, both or free)");
        screen.Driver.FindElement(By.Name("Typed.Division")).GetAttribute("value").ShouldBe("0,01in");
        screen.Fill("One division", "0.02");
        screen.Fill("Locks", "Cross-feed: drum, Big knob: rotor");
        screen.Send(By.Name("Typed.CountsDiameter"), Keys.Space);
        screen.Send(By.CssSelector(".button.go"), Keys.Enter);
        screen.Until(() => screen.Driver.FindElements(By.Name("Typed.Division")).Count == 0, "the lathe kept");
        var dial = (await RecordAsync(tag, own)).Planning.Request(true).Dial;
        (dial.CountsDiameter, dial.DepthPerDivision.Millimetres).ShouldBe((true, 0.01m));

        await using var db = own.Db();
        var cone = (await db.Adapters.ToListAsync(Cancel)).Single(a => a.Spec.Name == "Cone 3").Id;
        screen.Go("/adapters/" + cone);
        screen.IsAccessible();
        screen.Fill("Takes to", "50");
        screen.Send(By.CssSelector(".button.go"), Keys.Enter);
        screen.UntilText("More than the least.");
        screen.Fill("Takes to", "120");
        screen.Send(By.CssSelector(".button.go"), Keys.Enter);
        screen.UntilText("60 to 120");
        screen.Go("/mount/" + tag);
        screen.UntilText("Chuck 55–85 expands from 55 mm to 85 mm."); // so wide a cone does not go into the cups any more
    }

    [Fact]
    public async Task The_book_of_lathes_takes_the_last_check_of_each_mounting_and_metres_since_an_edge_was_turned()
    {
        var tag = await PartAsync();
        await using var db = shop.Db();
        var settings = await db.ShopAsync(Cancel);
        var (bench, capstan) = (settings.Lathes[0], settings.Lathes[1]);
        var actor = new Actor((await db.Operators.FirstAsync(Cancel)).Id, Role.Operator, DateTimeOffset.UtcNow);
        var part = (await db.Parts.Where(p => p.Tag == tag).WithFactsAsync(db, Cancel)).Single();
        SurfaceRecord Record() => new(part.Surfaces[0], part, settings);
        static SetUpSeen Seen(decimal first, decimal second) =>
            new(
                SetUpManner.Indicator,
                180,
                RunoutMark.Indicated(ClockAngle.FromDegrees(0), Mm(first)),
                RunoutMark.Indicated(ClockAngle.FromDegrees(180), Mm(second))
            );
        foreach (var checks in new[] { new[] { (0.10m, 0.10m), (0.06m, 0.04m) }, [(0.02m, 0.02m)] })
        {
            MountCommands.Mount(
                Record(),
                capstan,
                new(MountWay.Jaws, "Test jaws", Length.Zero, [], []),
                false,
                Record().Mounting.Mount is null ? null : RemountCause.Nick,
                actor
            );
            await db.SaveChangesAsync(Cancel);
            foreach (var (first, second) in checks)
            {
                MountCommands.CheckSetUp(Record(), Seen(first, second), actor);
                await db.SaveChangesAsync(Cancel);
            }
        }
        var past = (await LatheQueries.SetUpsAsync(db, capstan.Id, Cancel)).Where(p => p.Centring == "Test jaws").ToList();
        past.Select(p => p.SetUpRunout.Millimetres).ShouldBe([0.05m, 0.02m]);
        (await LatheQueries.CausesAsync(db, capstan.Id, Cancel)).ShouldContain(RemountCause.Nick);

        // Indicated on the lathe since it was mounted: the check does not put its own figure over that.
        var later = actor with { At = actor.At.AddSeconds(5) };
        MeasureCommands.RecordReading(
            Record(),
            ReadingKind.RunoutOuter,
            null,
            LengthParser.Parse("0.035", LengthUnit.Millimetre).Typed!,
            LengthUnit.Millimetre,
            null,
            later
        );
        await db.SaveChangesAsync(Cancel);
        MountCommands.GoOn(Record(), null, later);
        await db.SaveChangesAsync(Cancel);
        Record().Measuring.Figure(ReadingKind.RunoutOuter)!.Value.ShouldBe(Mm(0.035m));

        // Cut on the bench lathe by the demo; a turned edge begins at nothing, the other goes on counting.
        var before = await LatheQueries.InsertsAsync(db, bench, Cancel);
        before.Select(i => i.Holder).ShouldBe([ToolHolder.Outer, ToolHolder.Inner, ToolHolder.Bar]);
        before.ShouldAllBe(i => i.Metres > 0);
        db.InsertEvents.Add(LatheCommands.RecordInsert(bench, before[2], InsertEventKind.Turned, later));
        await db.SaveChangesAsync(Cancel);
        var after = await LatheQueries.InsertsAsync(db, bench, Cancel);
        (after[0].Metres, after[2].Metres, after[2].Edge).ShouldBe(
            (before[0].Metres, 0m, before[2].Edge!.Value % bench.Profile.EdgesPerInsert + 1)
        );

        // The next part of the same vehicle and axle starts from the sizes of this one.
        var twin = new Part
        {
            Corner = Corner.FrontRight,
            Tag = "x",
            Job = part.Job,
            Surfaces = { new() { Kind = PartKind.Rotor } },
        };
        (await LatheQueries.ShapeLikeAsync(db, twin, Cancel)).ShouldBe(part.Shape);
        twin.Corner = Corner.RearLeft;
        (await LatheQueries.ShapeLikeAsync(db, twin, Cancel)).ShouldBeNull();
    }

    [Fact]
    public async Task Facts_of_mounting_stay_and_a_plan_for_one_lathe_is_none_for_another()
    {
        var tag = await PartAsync();
        await using var db = shop.Db();
        var actor = new Actor((await db.Operators.FirstAsync(Cancel)).Id, Role.Operator, DateTimeOffset.UtcNow);
        var part = (await db.Parts.Where(p => p.Tag == tag).WithFactsAsync(db, Cancel)).Single();
        var settings = await db.ShopAsync(Cancel);
        SurfaceRecord Record() => new(part.Surfaces[0], part, settings);
        async Task MountAsync(int lathe)
        {
            var on = settings.Lathes[lathe];
            MountCommands.Mount(
                Record(),
                on,
                MountingPlan.For(PartKind.Rotor, Mm(300), TestParts.Shape, on.Profile, settings.AdaptersInUse).Ways[0],
                true,
                null,
                actor
            );
            await db.SaveChangesAsync(Cancel);
        }
        await MountAsync(0);
        Should.Throw<ArgumentException>(() => MountCommands.GoOn(Record(), " ", actor)); // unchecked, and no reason
        MountCommands.GoOn(Record(), "Tried before", actor);
        var record = Record();
        var request = record.Planning.Request(true);
        request.Techniques.ShouldNotContain(t => t.SparksOut);
        PlanCommands.TakePlan(record, request, Core.Planning.PassPlanner.Plan(request).Options.First(o => o.CanStart), [], actor);
        await db.SaveChangesAsync(Cancel);
        Record().Station.ShouldBe(Station.Cut);
        actor = actor with { At = actor.At.AddSeconds(5) };
        await MountAsync(2);
        Record()
            .ShouldSatisfyAllConditions(
                r => r.Planning.Latest.ShouldBeNull(),
                r => r.Station.ShouldBe(Station.Mount),
                r => r.Planning.Request(true).Techniques.ShouldAllBe(t => t.SparksOut),
                r => r.Planning.Request(true).SecondChuckingRunout.ShouldBe(settings.Rules.SetUp.SecondChuckingRunout)
            );
        foreach (var table in new[] { "mounts", "set_up_checks", "set_up_decisions", "insert_events" })
        {
            await db.Database.OpenConnectionAsync(Cancel);
            await using var command = db.Database.GetDbConnection().CreateCommand();
            command.CommandText = $"truncate {table} cascade";
            (await Should.ThrowAsync<Npgsql.PostgresException>(() => command.ExecuteNonQueryAsync(Cancel))).SqlState.ShouldBe("UN001");
        }
    }
}
