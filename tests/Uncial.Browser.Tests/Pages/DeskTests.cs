extern alias simulators;
using Microsoft.EntityFrameworkCore;
using OpenQA.Selenium;
using simulators::Uncial.DeviceSimulators;
using Uncial.Core.Gauges;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Data;

namespace Uncial.Browser.Tests;

/// <summary>The reading desk with its gauges: played ones that send, bars, zero checks, and a server that goes away.</summary>
public class DeskTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static string Value(Screen screen, string name) => screen.Driver.FindElement(By.Name(name)).GetAttribute("value") ?? "";

    /// <summary>A rotor and a drum of a job of its own, not read yet.</summary>
    private async Task<(string Rotor, string Drum)> PartsAsync()
    {
        await using var db = shop.Db();
        var by = (await db.Operators.FirstAsync(Cancel)).Id;
        var actor = new Actor(by, Role.Operator, DateTimeOffset.UtcNow);
        var job = new Job
        {
            Number = TestParts.NextJob(),
            Vehicle = "Test",
            ReceivedAt = actor.At,
            ReceivedById = by,
        };
        foreach (
            var (kind, limits) in new[]
            {
                (PartKind.Rotor, new[] { "26", "23.4", "23" }),
                (PartKind.Drum, ["9.000in", "9.040in", "9.060in"]),
            }
        )
        {
            var surface = new WorkSurface { Kind = kind, Places = kind == PartKind.Rotor ? 8 : 4 };
            foreach (var (limit, text) in new[] { LimitKind.Nominal, LimitKind.MachineTo, LimitKind.Discard }.Zip(limits))
                ReceiveCommands.StateLimit(
                    surface,
                    limit,
                    LengthParser.Parse(text, LengthUnit.Millimetre).Typed!,
                    LengthUnit.Millimetre,
                    LimitSource.MakersSheet,
                    actor
                );
            job.Parts.Add(
                new()
                {
                    Tag = Guid.NewGuid().ToString("N")[..8],
                    Corner = Corner.Other,
                    Mark = kind.ToString(),
                    Surfaces = { surface },
                }
            );
        }
        db.Jobs.Add(job);
        await db.SaveChangesAsync(Cancel);
        return (job.Parts[0].Tag, job.Parts[1].Tag);
    }

    private async Task<List<ReadingEntry>> ReadingsAsync(string tag)
    {
        await using var db = shop.Db();
        return await (
            from r in db.Readings.Include(r => r.Flag).Include(r => r.Withdrawal)
            join s in db.Surfaces on r.SurfaceId equals s.Id
            join p in db.Parts on s.PartId equals p.Id
            where p.Tag == tag
            orderby r.Id
            select r
        ).ToListAsync(Cancel);
    }

    private async Task ListenAsync(string gauge, int port)
    {
        await using var db = shop.Db();
        await db.Gauges.Where(g => g.Name == gauge).ExecuteUpdateAsync(set => set.SetProperty(g => g.Address, $"127.0.0.1:{port}"), Cancel);
    }

    [Fact]
    public async Task A_played_gauge_sends_eight_readings_and_losing_it_never_stops_the_typing()
    {
        var (rotor, _) = await PartsAsync();
        await using var micrometer = new SimulatedGauge("Micrometer 1", 0, 24.31m, 0.001m);
        micrometer.Open();
        await ListenAsync("Micrometer 1", micrometer.Port);
        using var screen = new Screen(shop.Address);
        screen.SignIn("Tom Okoro", "1304");
        screen.Go("/measure/" + rotor);
        string Live() => screen.Driver.FindElement(By.CssSelector("[data-live-word]")).Text;
        screen.Until(() => Live() == "24.310mm", "the gauge connected");
        screen.IsAccessible();
        await micrometer.TurnAsync(stable: false);
        await micrometer.SendAsync();
        screen.UntilText("It moves: hold still");
        await micrometer.TurnAsync(stable: true);
        foreach (var (size, next) in new[] { (24.311m, "1½"), (24.312m, "3"), (24.313m, "4½"), (24.314m, "6"), (24.315m, "7½") })
        {
            await micrometer.TurnAsync(to: size);
            await micrometer.SendAsync();
            screen.UntilHeading($"Read at {next} ");
        }
        screen.Until(() => micrometer.Answer == "taken", "the last one answered");
        micrometer.IsSilent = true;
        screen.Until(() => Live().StartsWith("silent", StringComparison.Ordinal), "the gauge silent");
        screen.Enter("24.30");
        screen.UntilHeading("Read at 9 ");
        micrometer.Close();
        screen.Until(() => Live().StartsWith("off", StringComparison.Ordinal), "the gauge lost");
        screen.Enter("24.29");
        screen.UntilHeading("Read at 10½ ");
        micrometer.IsSilent = false;
        micrometer.Open();
        screen.Until(() => Live() == "24.315mm", "the gauge back");
        await micrometer.TurnAsync(unit: LengthUnit.Inch);
        await micrometer.SendAsync();
        screen.UntilText("All 8 points read");
        (await ReadingsAsync(rotor))
            .Select(r => r.Typed)
            .ShouldBe(["24.311mm", "24.312mm", "24.313mm", "24.314mm", "24.315mm", "24.30", "24.29", "0.9573in"]);
        await micrometer.SendAsync();
        screen.Until(() => micrometer.Answer == "nobody took it", "nothing asked, nothing kept");
        (await ReadingsAsync(rotor)).Count.ShouldBe(8);
    }

    [Fact]
    public async Task A_run_out_that_a_gauge_sends_is_stored_before_the_gauge_is_answered()
    {
        var (rotor, _) = await PartsAsync();
        await using var db = shop.Db();
        var name = (
            await db.Gauges.Where(g => g.Kind == GaugeKind.Indicator && g.RetiredAt == null).OrderBy(g => g.Id).FirstAsync(Cancel)
        ).Name;
        await using var indicator = new SimulatedGauge(name, 0, 0.034m, 0.001m) { GivesUp = TimeSpan.FromMinutes(1) };
        indicator.Open();
        await ListenAsync(name, indicator.Port);
        using var screen = new Screen(shop.Address);
        screen.SignIn("Tom Okoro", "1304");
        screen.Go("/measure/" + rotor);
        screen.Until(() => indicator.Hosts > 0, "the indicator listened to");
        screen.Until(() => screen.Driver.FindElements(By.CssSelector("body[data-news=open]")).Count == 1, "the page told of news");
        screen.Send(By.CssSelector("[data-entry]"), "24.3");
        screen.Send(By.Name("Figures[GrooveOuter]"), "0.2");
        // Another screen may have had the indicator a moment ago: the cursor in its field takes it up here.
        screen.Click(By.Name("Figures[RunoutOuter]"));
        screen.Until(
            () => screen.Driver.FindElements(By.CssSelector("[name='Figures[RunoutOuter]'][data-elsewhere]")).Count == 0,
            "the indicator used here"
        );
        await indicator.SendAsync();
        screen.Until(() => indicator.Answer == "taken", "the run-out answered");
        var stored = (await ReadingsAsync(rotor)).Single(r => r.Kind == ReadingKind.RunoutOuter);
        stored.Value.ShouldBe(Length.FromMillimetres(0.034m));
        stored.Line.ShouldNotBeNull();
        screen.Until(
            () => screen.Driver.SwitchTo().ActiveElement().GetAttribute("name") == "Figures[RunoutInner]",
            "the next run-out in focus"
        );
        screen.Until(
            () => screen.Driver.FindElement(By.Name("Figures[RunoutOuter]")).GetDomProperty("value") == "0.034",
            "the run-out shown"
        );
        // What is typed stays, however often the page is fetched anew meanwhile.
        screen.Until(
            () => screen.Driver.FindElement(By.Name("Figures[GrooveOuter]")).GetDomProperty("value") == "0.2",
            "the groove as typed"
        );
        screen.Until(
            () => screen.Driver.FindElement(By.CssSelector("[data-entry]")).GetDomProperty("value") == "24.3",
            "the entry as typed"
        );
    }

    [Fact]
    public async Task The_cursor_in_a_field_takes_its_gauge_up_at_that_screen()
    {
        var ((one, _), (other, _)) = (await PartsAsync(), await PartsAsync());
        await using var db = shop.Db();
        var name = (
            await db.Gauges.Where(g => g.Kind == GaugeKind.Indicator && g.RetiredAt == null).OrderBy(g => g.Id).FirstAsync(Cancel)
        ).Name;
        await using var indicator = new SimulatedGauge(name, 0, 0.052m, 0.001m) { GivesUp = TimeSpan.FromMinutes(1) };
        indicator.Open();
        await ListenAsync(name, indicator.Port);
        using var far = new Screen(shop.Address);
        far.SignIn("Tom Okoro", "1304");
        far.Go("/measure/" + one);
        far.Click(By.Name("Figures[RunoutOuter]"));
        far.Until(() => far.Driver.FindElements(By.CssSelector("body[data-news=open]")).Count == 1, "the first screen told of news");
        using var near = new Screen(shop.Address);
        near.SignIn("Ines Varga", "2417");
        near.Go("/measure/" + other);
        near.Until(
            () => near.Driver.FindElements(By.CssSelector("[name='Figures[RunoutInner]'][data-elsewhere]")).Count == 1,
            "the indicator at the other screen"
        );
        near.Click(By.Name("Figures[RunoutInner]"));
        near.Until(
            () => near.Driver.FindElements(By.CssSelector("[name='Figures[RunoutInner]'][data-elsewhere]")).Count == 0,
            "the indicator used here"
        );
        await indicator.SendAsync();
        near.Until(() => indicator.Answer == "taken", "the run-out answered");
        (await ReadingsAsync(other)).ShouldHaveSingleItem().Kind.ShouldBe(ReadingKind.RunoutInner);
        (await ReadingsAsync(one)).ShouldBeEmpty();
    }

    [Fact]
    public async Task Bars_ask_for_the_dial_and_opposite_ends_are_a_repeat()
    {
        var (_, drum) = await PartsAsync();
        using var screen = new Screen(shop.Address);
        screen.SignIn("Tom Okoro", "1304");
        screen.Go("/measure/" + drum);
        Pick(screen, "Old bar, eighths");
        screen.UntilText("Highest below the limit");
        screen.IsAccessible();
        foreach (var key in new[] { "−", "3" })
            screen.Click(By.XPath($"//button[contains(@class,'key') and text()='{key}']"));
        screen.UntilText("9in - 3t"); // by the keys on the screen, below zero
        screen.Press(Keys.Control + "a" + Keys.Control, "7");
        screen.UntilText("9 + 7t = 9 + 0.007 = 9.007 in");
        screen.Press(Keys.Enter);
        screen.UntilHeading("Read at axis 1½");
        screen.Press(Keys.Shift + Keys.Tab, Keys.ArrowLeft);
        screen.Send(By.CssSelector("[data-entry]"), "132");
        screen.UntilText("8 7/8 + 132t");
        screen.Send(By.CssSelector("[data-entry]"), Keys.Enter);
        screen.UntilHeading("Read at axis 3");
        screen.Press("251", Keys.Enter); // past the dial, and past what such a drum can be
        screen.UntilText("Is that so?");
        screen.Press(Keys.Control + "a" + Keys.Control, "8", Keys.Enter);
        screen.UntilHeading("Read at axis 4½");
        Pick(screen, "Bar with stations");
        screen.UntilHeading("Read at axis 4½");
        screen.Enter(".009");
        screen.UntilText("All 4 diameters read");
        screen.Go($"/measure/{drum}?at=0");
        screen.Until(() => screen.Driver.SwitchTo().ActiveElement().GetAttribute("data-entry") is not null, "the entry in focus");
        // A letter that is printed on a button acts at once, one that a length may hold is typed where a figure stands, and what leaves the
        // page waits for the figure.
        bool SheetIsOpen(string id) =>
            screen.Driver.ExecuteScript($"return document.getElementById('{id}').matches(':popover-open')") is true;
        screen.Press("9", "g");
        screen.Until(() => SheetIsOpen("gauges"), "the gauges");
        screen.Press(Keys.Escape);
        screen.Until(
            () => !SheetIsOpen("gauges") && screen.Driver.SwitchTo().ActiveElement().GetAttribute("data-entry") is not null,
            "the entry again"
        );
        screen.Press("t", "l");
        screen.UntilText("Enter keeps the figure first");
        Value(screen, "Entry").ShouldBe("9t");
        screen.Press(Keys.Backspace, Keys.Backspace, "t");
        screen.UntilText("Opposite ends of one diameter are one axis");
        screen.IsAccessible();
        screen.Press("e");
        screen.UntilHeading("turned end for end");
        screen.Enter("8");
        screen.UntilText("All 4 diameters read");
        var readings = await ReadingsAsync(drum);
        readings.Select(r => r.Typed).ShouldBe(["9 + 7t", "8 7/8 + 132t", "9 + 8t", "9.00 + .009", "9.00 + 8t"]);
        await using var db = shop.Db();
        var part = (await db.Parts.Where(p => p.Tag == drum).WithFactsAsync(db, Cancel)).Single();
        var record = new SurfaceRecord(part.Surfaces[0], part, await db.ShopAsync(Cancel));
        record.Measuring.DrumFigures.Axes.ShouldBe(4);
        record.Measuring.SizesAt(record.Measuring.Places[0]).Count.ShouldBe(2);
    }

    [Fact]
    public async Task A_zero_check_corrects_what_follows_and_a_failed_one_makes_suspect_what_was_read_since_the_last_good_one()
    {
        var (first, _) = await PartsAsync();
        var (second, _) = await PartsAsync();
        await using (var db = shop.Db())
        {
            var at = DateTimeOffset.UtcNow;
            db.Gauges.Add(
                new()
                {
                    Name = "Micrometer 9",
                    Kind = GaugeKind.Micrometer,
                    Resolution = Mm(0.001m),
                    CertificateUncertainty = Mm(0.003m),
                    StandardSize = Mm(25),
                    StandardUncertainty = Mm(0.001m),
                    ZeroTolerance = Mm(0.004m),
                }
            );
            await db.SaveChangesAsync(Cancel);
        }
        using var screen = new Screen(shop.Address);
        screen.SignIn("Tom Okoro", "1304");
        screen.Go("/measure/" + first);
        Pick(screen, "Micrometer 9");
        screen.UntilHeading("Is it at zero?");
        screen.IsAccessible();
        screen.Enter("1"); // an inch standard, or the wrong one
        screen.UntilText("Is it the right standard");
        screen.Press(Keys.Control + "a" + Keys.Control, "25.003", Keys.Enter);
        screen.UntilHeading("Read at 12 ");
        screen.Enter("24.313");
        screen.UntilHeading("Read at 1½");
        (await ReadingsAsync(first))
            .Single()
            .ShouldSatisfyAllConditions(
                r => r.Value.ShouldBe(Mm(24.310m)),
                r => r.Correction.ShouldBe(Mm(-0.003m)),
                r => r.Uncertainty.Millimetres.ShouldBeInRange(0.008m, 0.010m)
            );
        foreach (var size in new[] { "24.32", "24.33", "24.34", "24.35", "24.36", "24.37", "24.38" })
        {
            var before = screen.Heading;
            screen.Enter(size);
            screen.Until(() => screen.Heading != before, size);
        }
        screen.UntilText("All 8 points read");
        screen.Go("/plan/" + first);
        screen.UntilHeading("Pick a technique");
        screen.Press(Keys.Enter);
        screen.Until(() => screen.Path_.StartsWith("/cut", StringComparison.Ordinal), "the cut");
        screen.UntilText("nobody has said how it is mounted");

        // At the next part it does not show its standard any more: the plan of the first rests on nothing now.
        await using (var db = shop.Db())
        {
            var gauge = await db.Gauges.Include(g => g.ZeroChecks).SingleAsync(g => g.Name == "Micrometer 9", Cancel);
            var tom = (await db.Operators.SingleAsync(u => u.UserName == "tom", Cancel)).Id;
            await GaugeCommands.CheckAsync(
                db,
                gauge,
                LengthParser.Parse("25.012", LengthUnit.Millimetre).Typed!,
                new(tom, Role.Operator, DateTimeOffset.UtcNow),
                Cancel
            );
        }
        (await ReadingsAsync(first)).ShouldAllBe(r => r.Flag != null);
        screen.Go("/measure/" + second);
        screen.UntilHeading("Micrometer 9 failed");
        screen.IsAccessible();
        screen.Go("/cut/" + first);
        screen.Until(() => screen.Path_.StartsWith("/measure", StringComparison.Ordinal), "measured again before it is cut");
        screen.UntilText("suspect");
        screen.Enter("25.001");
        screen.UntilHeading("Read at 12 ");
        screen.Enter("24.31");
        screen.UntilHeading("Read at 1½");
        (await ReadingsAsync(first))[^1].ShouldSatisfyAllConditions(r => r.Flag.ShouldBeNull(), r => r.Value.ShouldBe(Mm(24.309m)));
    }

    [Fact]
    public async Task Readings_typed_while_the_server_is_away_wait_over_a_reload_and_go_in_once_each()
    {
        var (rotor, _) = await PartsAsync();
        using var screen = new Screen(shop.Address);
        screen.SignIn("Ines Varga", "2417");
        screen.Go("/measure/" + rotor);
        screen.UntilHeading("Read at 12 ");
        screen.Until(
            () => screen.Driver.ExecuteScript("return !!navigator.serviceWorker.controller") is true,
            "the page kept for a reload"
        );
        screen.Go("/measure/" + rotor);
        screen.Enter("24.31");
        screen.UntilHeading("Read at 1½");
        screen.Offline(true);
        foreach (var (size, next) in new[] { ("24.32", "3"), ("24.33", "4½"), ("x24", "6") })
        {
            screen.Enter(size);
            screen.UntilHeading($"Read at {next} ");
        }
        screen.Until(
            () => screen.Driver.FindElement(By.CssSelector("[data-outbox]")).Text.Contains("3 readings wait", StringComparison.Ordinal),
            "what waits"
        );
        screen.IsAccessible();
        screen.Driver.Navigate().Refresh();
        screen.UntilHeading("Read at 6 ");
        screen.UntilText("24.33 waits");
        screen.Enter("24.35");
        screen.UntilHeading("Read at 7½");
        (await ReadingsAsync(rotor)).Count.ShouldBe(1);
        screen.Offline(false);
        screen.Until(
            () =>
                screen.Driver.FindElement(By.CssSelector("[data-outbox]")).Text is var box
                && box.Contains("A number is expected", StringComparison.Ordinal)
                && box.Contains("1 reading waits", StringComparison.Ordinal),
            "what is asked of the one that is no size, alone"
        );
        var readings = await ReadingsAsync(rotor);
        readings.Select(r => r.Typed).ShouldBe(["24.31", "24.32mm", "24.33mm", "24.35mm"]);
        readings.Skip(1).ShouldAllBe(r => r.TypedAt != null && r.TypedAt < r.At);
        readings.Select(r => r.Degrees).ShouldBe([0, 45, 90, 180]);
        // The list is drawn anew under whoever stands at one of its buttons: the next key is still that button's.
        screen.Driver.ExecuteScript("document.querySelector('[data-outbox] [name=look]').focus()");
        screen.Driver.ExecuteScript("dispatchEvent(new StorageEvent('storage', { key: 'outbox' }))");
        screen.Press(Keys.Enter);
        screen.UntilHeading("Read at 4½");
        Value(screen, "Entry").ShouldBe("x24");
        screen.Press(Keys.Control + "a" + Keys.Control, "24.34", Keys.Enter);
        screen.UntilHeading("Read at 7½");
        // Sent twice with one name, as when the answer was lost: it stands once.
        var sent = screen.Driver.ExecuteAsyncScript(
            """
            const done = arguments[0];
            const body = () => new FormData(document.querySelector('form[data-waits]'));
            const send = () => fetch('?handler=Keep', { method: 'POST', headers: { 'X-Outbox': '1' }, body: body() }).then(r => r.status);
            document.querySelector('[data-entry]').value = '24.36';
            Promise.all([send(), send()]).then(async () => done(await send()));
            """
        );
        sent.ShouldBe(200L);
        (await ReadingsAsync(rotor)).Count(r => r.Typed == "24.36").ShouldBe(1);
    }

    [Fact]
    public async Task One_key_takes_the_last_reading_back_and_asks_its_place_again()
    {
        var (rotor, _) = await PartsAsync();
        using var screen = new Screen(shop.Address);
        screen.SignIn("Tom Okoro", "1304");
        screen.Go("/measure/" + rotor);
        screen.UntilHeading("Read at 12 ");
        screen.Until(() => screen.Driver.SwitchTo().ActiveElement().GetAttribute("data-entry") is not null, "the entry in focus");
        screen.Press(Keys.Escape, "n");
        screen.Until(() => screen.Driver.SwitchTo().ActiveElement().GetAttribute("name") == "Note", "the remark in focus");
        screen.Press("pit beside it", Keys.Enter, "24.31", Keys.Enter);
        screen.UntilHeading("Read at 1½");
        screen.Press(Keys.Control + "z" + Keys.Control);
        screen.UntilHeading("Read at 12 ");
        screen.Enter("24.32");
        screen.UntilHeading("Read at 1½");
        var readings = await ReadingsAsync(rotor);
        readings[0]
            .ShouldSatisfyAllConditions(r => r.Note.ShouldBe("pit beside it"), r => r.Withdrawal!.Reason.ShouldBe("Taken back at once"));
        readings[1].Withdrawal.ShouldBeNull();
    }

    [Fact]
    public async Task What_is_found_by_eye_stands_on_the_part_and_a_crack_ends_its_workflow()
    {
        var (rotor, _) = await PartsAsync();
        using var screen = new Screen(shop.Address);
        screen.SignIn("Tom Okoro", "1304");
        screen.Go("/measure/" + rotor);
        screen.Until(() => screen.Driver.SwitchTo().ActiveElement().GetAttribute("data-entry") is not null, "the entry in focus");
        screen.Press(Keys.Escape, "l");
        screen.UntilHeading("What is there to see?");
        screen.IsAccessible();
        void Find(string kind)
        {
            for (var i = 0; i < 12 && screen.Driver.FindElements(By.CssSelector($"[name=Kind][value={kind}]:checked")).Count == 0; i++)
                screen.Press(Keys.ArrowDown);
        }
        Find("Groove");
        screen.UntilText("the cut goes below it");
        screen.Fill("Depth or height", "0.25");
        var file = Path.GetTempFileName();
        await File.WriteAllTextAsync(file, "no picture", Cancel);
        screen.Send(By.Name("Photo"), file);
        screen.Send(By.Name("Note"), Keys.Enter);
        screen.UntilText("A JPEG, PNG or WebP picture.");
        Value(screen, "Depth").ShouldBe("0.25");
        var picture = Convert.FromBase64String(
            "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=="
        );
        await File.WriteAllBytesAsync(file, picture, Cancel);
        screen.Send(By.Name("Photo"), file);
        screen.Send(By.Name("Note"), "near the edge" + Keys.Enter);
        screen.UntilText("near the edge");
        File.Delete(file);
        var photo = screen.Driver.FindElement(By.CssSelector("a.photo")).GetAttribute("href")!;
        (
            (string)
                screen.Driver.ExecuteAsyncScript(
                    "const done = arguments[1]; fetch(arguments[0]).then(async r => done(r.headers.get('Content-Type') + ' ' + "
                        + "(await r.arrayBuffer()).byteLength))",
                    photo
                )!
        ).ShouldBe($"image/png {picture.Length}");
        (await ReadingsAsync(rotor))
            .Select(r => (r.Kind, r.Value))
            .ShouldBe([(ReadingKind.GrooveOuter, Mm(0.25m)), (ReadingKind.GrooveInner, Mm(0.25m))]);
        // No plan, no cut, no release past a crack; only a lead takes it back.
        screen.Until(() => screen.Driver.SwitchTo().ActiveElement().GetAttribute("value") == "Crack", "the kinds in focus");
        screen.Press(" ");
        screen.UntilText("scrap, whatever it measures");
        screen.Send(By.Name("Note"), Keys.Enter);
        screen.UntilHeading("Cracked: scrap");
        screen.IsAccessible();
        screen.Click(By.XPath("//summary[contains(.,'none after all')]"));
        screen.IsAccessible();
        screen.Send(By.XPath("//form[contains(@action,'Withdraw')]//input[@name='Reason']"), "a seam");
        screen.Fill("PIN", "1304"); // Tom's own, not a lead's
        screen.Press(Keys.Enter);
        screen.UntilText("That is not the PIN");
        foreach (var page in new[] { "plan", "cut", "confirm", "release" })
        {
            screen.Go($"/{page}/{rotor}");
            screen.UntilHeading("Cracked: scrap");
        }
        screen.Send(By.CssSelector(".button.go"), Keys.Enter);
        screen.Until(() => screen.Path_ == "/tag/" + rotor, "the tag");
        await using var db = shop.Db();
        (
            await db
                .Outcomes.Where(o => o.PartId == db.Parts.First(p => p.Tag == rotor).Id)
                .Select(o => new { o.Kind, o.Reason })
                .SingleAsync(Cancel)
        ).ShouldBe(new { Kind = OutcomeKind.Scrapped, Reason = (string?)"Crack." });
    }

    [Fact]
    public async Task A_quick_operator_is_ahead_of_a_slow_server_and_every_reading_finds_its_place()
    {
        var (rotor, _) = await PartsAsync();
        using var screen = new Screen(shop.Address);
        screen.SignIn("Tom Okoro", "1304");
        screen.Go("/measure/" + rotor);
        screen.Until(() => screen.Driver.SwitchTo().ActiveElement().GetAttribute("data-entry") is not null, "the entry in focus");
        screen.Slow(700);
        screen.Press("24.31", Keys.Enter, "24.32", Keys.Enter, "24.33", Keys.Enter, "24.3");
        screen.UntilHeading("Read at 4½");
        screen.Until(() => Value(screen, "Entry") == "24.3", "what was typed on");
        screen.Press("4", Keys.Enter);
        screen.UntilHeading("Read at 6 ");
        (await ReadingsAsync(rotor))
            .Select(r => (r.Typed, r.Degrees))
            .ShouldBe([("24.31", 0m), ("24.32", 45m), ("24.33", 90m), ("24.34", 135m)]);
        // The server goes away with two readings on their way: they wait, each at its place.
        screen.Slow(5000);
        screen.Press("24.35", Keys.Enter, "24.36", Keys.Enter);
        screen.Offline(true);
        screen.UntilHeading("Read at 9 ");
        screen.Offline(false);
        screen.Until(() => !screen.Driver.FindElement(By.CssSelector("[data-outbox]")).Displayed, "what waited gone in");
        (await ReadingsAsync(rotor)).Skip(4).Select(r => (r.Value, r.Degrees)).ShouldBe([(Mm(24.35m), 180m), (Mm(24.36m), 225m)]);
    }

    [Fact]
    public async Task A_quick_check_answers_while_one_types_and_becomes_a_job_if_wanted()
    {
        using var screen = new Screen(shop.Address);
        screen.SignIn("Tom Okoro", "1304");
        screen.Press("q");
        screen.UntilHeading("Quick check");
        screen.Until(() => screen.Driver.SwitchTo().ActiveElement().GetAttribute("name") == "Limit", "the limit in focus");
        screen.Press("MIN TH 22.4", Keys.Enter, ".8812"); // inches in a millimetre shop: no rotor is 0.88 mm thick
        screen.UntilText("Beyond discard");
        screen.UntilText("0.8812 in ≈ 22.3825 mm");
        screen.IsAccessible();
        screen.Press(Keys.Control + "a" + Keys.Control, "22.9; 22.85");
        screen.UntilText("Within its limits");
        screen.UntilText("0.45");
        screen.Send(By.CssSelector("[value=drum]"), " ");
        screen.UntilText("MIN and TH stand on rotors");
        screen.Fill("Limit, as it stands there", "9 1/16in");
        screen.Fill("Reading, as the gauge shows it", "8 7/8 + 132t");
        screen.UntilText("9.007 in");
        screen.UntilText("Within its limits");
        screen.Send(By.Name("Vehicle"), Keys.Enter);
        screen.UntilText("Say which vehicle it is.");
        Value(screen, "Reading").ShouldBe("8 7/8 + 132t");
        screen.Press("Dunlin trailer", Keys.Enter);
        screen.UntilHeading("Read at axis 1½");
        await using var db = shop.Db();
        var part = (await db.Parts.Where(p => p.Mark == "Quick check").WithFactsAsync(db, Cancel)).Single();
        var record = new SurfaceRecord(part.Surfaces[0], part, await db.ShopAsync(Cancel));
        (record.Receiving.Limits!.Discard, record.Measuring.Worst).ShouldBe((Length.FromInches(9.0625m), Length.FromInches(9.007m)));
    }

    [Fact]
    public async Task The_owner_enters_a_gauge_and_what_is_wrong_is_said_at_its_field()
    {
        using var screen = new Screen(shop.Address);
        screen.SignIn("Marit Sund", "9051");
        screen.Go("/gauges");
        screen.IsAccessible();
        screen.Press("n");
        screen.UntilHeading("A new gauge");
        screen.IsAccessible();
        screen.Fill("Name", "Drum gauge 1");
        screen.Send(By.Name("Typed.Kind"), "Drum gauge, bar with s");
        screen.Fill("Setting standard", "230");
        screen.Fill("Sends at", "somewhere");
        screen.Fill("Bar: stations", "200 to 300 by");
        screen.Send(By.Name("Typed.Reach"), "12" + Keys.Enter);
        foreach (
            var text in new[] { "Another gauge has that name", "An address of the shop’s own network", "The stations with a space between" }
        )
            screen.UntilText(text);
        (Value(screen, "Typed.Standard"), Value(screen, "Typed.Starts")).ShouldBe(("230", "200 to 300 by"));
        screen.Fill("Name", "Metric bar");
        screen.Fill("Least step", "0.01");
        screen.Fill("Setting standard", "");
        screen.Fill("Sends at", "");
        screen.Send(By.Name("Typed.Starts"), " 10" + Keys.Enter + Keys.Enter);
        screen.UntilHeading("Metric bar");
        await using var db = shop.Db();
        var bar = (await db.Gauges.SingleAsync(g => g.Name == "Metric bar", Cancel)).Bar!;
        (
            bar.Starts.Count,
            bar.Reach,
            bar.StartFor(Limits.Create(PartKind.Drum, Mm(228.6m), null, Mm(230.1m), Core.ShopRules.Default).Limits!)
        ).ShouldBe((11, Mm(12), Mm(220)));
        screen.Go("/gauges?edit=true");
        using var tom = new Screen(shop.Address);
        tom.SignIn("Tom Okoro", "1304");
        tom.Go("/gauges?edit=true");
        tom.UntilHeading("Pick a gauge");
    }

    private static Length Mm(decimal mm) => Length.FromMillimetres(mm);

    private static void Pick(Screen screen, string gauge)
    {
        screen.Until(() => screen.Driver.SwitchTo().ActiveElement().GetAttribute("data-entry") is not null, "the entry in focus");
        screen.Press(Keys.Escape);
        screen.Send(By.TagName("body"), "g");
        screen.Until(() => screen.Driver.FindElement(By.Id("gauges")).Displayed, "the gauges");
        screen.TabTo(gauge);
        screen.Press(Keys.Enter);
        screen.Until(() => screen.Driver.FindElement(By.CssSelector(".gauge-pick b")).Text == gauge, gauge + " at hand");
    }
}
