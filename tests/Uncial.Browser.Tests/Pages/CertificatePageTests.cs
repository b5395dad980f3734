using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;
using OpenQA.Selenium;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Release;
using Uncial.Data;

namespace Uncial.Browser.Tests;

/// <summary>Confirm, release and remember as they are used: decisions by role, paper, calling back, coming again, files.</summary>
public partial class CertificatePageTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static TypedLength Mm(string text) => TestParts.Typed(text);

    /// <summary>A rotor left uncut and read all round with the shop's micrometer, so that it waits at Confirm.</summary>
    private async Task<string> ToConfirm(params string[] sizes)
    {
        var tag = await ToConfirmUnseen(sizes);
        await using var db = shop.Db();
        await db.LookAtAsync(await db.RecordAsync(tag), new(await db.PersonAsync("tom"), Role.Operator, DateTimeOffset.UtcNow));
        return tag;
    }

    /// <summary>A part left uncut whose faces nobody has looked at.</summary>
    private async Task<string> ToConfirmUnseen(params string[] sizes)
    {
        await using var db = shop.Db();
        var (tag, settings, hand) = (
            await shop.ReadPartAsync(),
            await db.ShopAsync(Cancel),
            new Actor(await db.PersonAsync("tom"), Role.Operator, DateTimeOffset.UtcNow)
        );
        var part = (await db.Parts.Where(p => p.Tag == tag).WithFactsAsync(db, Cancel)).Single();
        SurfaceRecord Now() => new(part.Surfaces[0], part, settings);
        foreach (var old in part.Surfaces[0].Readings.ToList())
            MeasureCommands.Withdraw(Now(), old, "read anew", hand);
        var places = Now().Measuring.Places;
        for (var i = 0; i < places.Count; i++)
            MeasureCommands.RecordReading(
                Now(),
                ReadingKind.Size,
                places[i],
                Mm(sizes[i % sizes.Length]),
                LengthUnit.Millimetre,
                settings.GaugeFor(PartKind.Rotor),
                hand
            );
        PlanCommands.LeaveUncut(Now(), Now().Planning.Request(true), false, hand);
        await db.SaveChangesAsync(Cancel);
        return tag;
    }

    [Fact]
    public async Task What_nobody_looked_at_is_asked_for_face_by_face_and_none_is_one_key()
    {
        var tag = await ToConfirmUnseen("24.21");
        using var screen = new Screen(shop.Address);
        screen.SignIn("Tom Okoro", "1304");
        screen.Go("/confirm/" + tag);
        screen.UntilHeading("Not looked at yet");
        screen.UntilText("Nobody has looked yet: groove, outer face; low land, outer face; groove, inner face; low land, inner face.");
        screen.Driver.FindElements(By.Name("OffClean")).ShouldBeEmpty(); // no button past it
        screen.IsAccessible();
        string Focused() => screen.Driver.SwitchTo().ActiveElement().GetAttribute("name") ?? "";
        screen.Until(() => Focused() == "Figures[GrooveOuter]", "the first of them in focus");
        screen.Press("n", Keys.Enter, "0.03", Keys.Enter, "0.0x", Keys.Enter);
        screen.Value("Figures[GrooveInner]").ShouldBe("not looked"); // x says so, whatever was typed
        Focused().ShouldBe("Figures[ReliefInner]");
        screen.Press("n", Keys.Enter);
        // Three are answered; the one that was not looked at is asked for alone.
        screen.Until(() => screen.Driver.FindElements(By.CssSelector(".looked [data-looks-in]")).Count == 1, "the one that is left");
        screen.UntilText("Nobody has looked yet: groove, inner face.");
        screen.Until(() => Focused() == "Figures[GrooveInner]", "its field in focus");
        screen.Click(By.CssSelector(".looked [data-looks=none]"));
        screen.Press(Keys.Enter);
        screen.UntilHeading("Within limit");
        screen.UntilText("for grooves and low lands");
        screen.IsAccessible();
        // What was said can be put right, and unsaid.
        screen.Go("/confirm/" + tag + "?looks=true");
        screen.Value("Figures[ReliefOuter]").ShouldBe("0.03");
        screen.Value("Figures[GrooveOuter]").ShouldBe("none");
        screen.Send(By.Name("Figures[ReliefOuter]"), "x");
        screen.Press(Keys.Enter, Keys.Enter, Keys.Enter);
        screen.UntilHeading("Not looked at yet");
        await using var db = shop.Db();
        (await db.RecordAsync(tag)).Confirming.NotLookedAt.ShouldBe([ReadingKind.ReliefOuter]);
    }

    [Fact]
    public async Task Near_discard_none_takes_a_gauge_and_depths_measured_three_times_are_surer()
    {
        var tag = await ToConfirmUnseen("23.20");
        using var screen = new Screen(shop.Address);
        screen.SignIn("Tom Okoro", "1304");
        screen.Go("/confirm/" + tag);
        string Focused() => screen.Driver.SwitchTo().ActiveElement().GetAttribute("name") ?? "";
        screen.Until(() => Focused() == "Figures[GrooveOuter]", "the first depth in focus");
        screen.Press("n", Keys.Enter, "n", Keys.Enter, "n", Keys.Enter, "n", Keys.Enter);
        // Said by eye, 0.20 from discard: not enough.
        screen.UntilText("lay the depth gauge on each");
        screen.Driver.FindElements(By.Name("OffClean")).ShouldBeEmpty();
        screen.Until(() => Focused() == "Thrice[GrooveOuter][0]", "the first to be measured in focus");
        screen.IsAccessible();
        screen.Press("0.04", Keys.Enter, "0.03", Keys.Enter, "x", Keys.Enter, "0.03", Keys.Enter);
        screen.Until(
            () => Focused() == "Thrice[GrooveInner][0]" && screen.Value("Thrice[GrooveOuter][0]") == "0.04",
            "the bad one in focus, the others kept"
        );
        screen.Send(By.Name("Thrice[GrooveInner][0]"), "0.04");
        screen.Press(Keys.Enter, Keys.Enter);
        // They are there: once is not sure enough, three times is.
        screen.UntilText("Measure each depth three times");
        screen.UntilText("so far 0.04");
        screen.IsAccessible();
        screen.Until(() => Focused() == "Thrice[GrooveOuter][0]", "the second time in focus");
        screen.Press(
            "0.04",
            Keys.Enter,
            "0.05",
            Keys.Enter,
            "0.03",
            Keys.Enter,
            "0.03",
            Keys.Enter,
            "0.04",
            Keys.Enter,
            "0.04",
            Keys.Enter,
            "0.03",
            Keys.Enter,
            "0.03",
            Keys.Enter
        );
        screen.UntilHeading("Between limits");
        await using var db = shop.Db();
        var left = (await db.RecordAsync(tag)).Confirming.DepthsLeft;
        (left.Uncertainty, decimal.Round(left.Groove!.Value.Millimetres, 4)).ShouldBe((Length.FromMillimetres(0.02m), 0.0833m));
    }

    private static void Confirm(Screen screen, string tag)
    {
        screen.Go("/confirm/" + tag);
        screen.Until(() => screen.Driver.SwitchTo().ActiveElement().GetAttribute("name") == "OffClean", "the tick in focus");
        screen.Press(" ", Keys.Enter);
    }

    private static void Sign(Screen screen, string lead, string pin)
    {
        screen.Send(By.Name("Lead"), lead); // typed, a list goes to the name
        screen.Fill("PIN", pin);
        screen.Press(Keys.Enter);
    }

    [Fact]
    public async Task Between_the_limits_a_lead_signs_at_the_operators_screen_and_the_paper_says_so()
    {
        var tag = await ToConfirm("23.21");
        using var screen = new Screen(shop.Address);
        screen.SignIn("Tom Okoro", "1304");
        Confirm(screen, tag);
        screen.UntilHeading("Lead decides");
        screen.IsAccessible();
        screen.Until(() => screen.Driver.SwitchTo().ActiveElement().GetAttribute("name") == "Reason", "the reason in focus");
        Sign(screen, "Ines Varga", "2417");
        screen.UntilText("a lead gives the reason");
        screen.Fill("Reason", "No other to be had");
        Sign(screen, "Ines Varga", "1304");
        screen.UntilText("That is not the PIN");
        screen.Value("Reason").ShouldBe("No other to be had"); // nothing typed is lost
        Sign(screen, "Ines Varga", "2417");
        screen.Until(() => screen.Path_ == "/tag/" + tag, "the tag");
        screen
            .Driver.FindElement(By.CssSelector(".paper-tag"))
            .Text.ShouldSatisfyAllConditions(
                t => t.ShouldContain("RELEASED, DO NOT MACHINE AGAIN"),
                t => t.ShouldContain("signed by Ines Varga"),
                t => t.ShouldNotContain("COPY")
            );
        screen.IsAccessible();
        // Whichever way it is printed, what is printed again says copy.
        screen.Press("p");
        screen.Until(
            () => screen.Driver.FindElement(By.CssSelector(".paper-tag")).Text.Contains("COPY 1", StringComparison.Ordinal),
            "the copy"
        );
        screen.Press("c");
        screen.Until(() => screen.Path_ == "/certificate/" + tag, "the certificate");
        screen
            .Driver.FindElement(By.CssSelector(".paper-sheet"))
            .Text.ShouldSatisfyAllConditions(
                t => t.ShouldContain("signed with a PIN by Ines Varga"),
                t => t.ShouldNotContain("COPY"),
                t => t.ShouldContain("No other to be had")
            );
        screen.IsAccessible();
        screen.Driver.ExecuteScript("dispatchEvent(new Event('beforeprint'))");
        screen.Until(
            () =>
            {
                using var db = shop.Db();
                return db.Prints.Count(p => p.Kind == PrintKind.Certificate) == 1;
            },
            "the print that the browser's own key asked for, counted"
        );
        await using var after = shop.Db();
        var outcome = await after
            .Outcomes.Include(o => o.Certificate)
            .SingleAsync(o => after.Parts.Any(p => p.Id == o.PartId && p.Tag == tag), Cancel);
        (outcome.ById, outcome.SignedById).ShouldBe((await after.PersonAsync("tom"), await after.PersonAsync("ines")));
        var code = CertificateStore.CodeOf(outcome.Certificate!);
        screen.Go("/proof/" + code);
        screen.UntilHeading("It holds");
        screen.UntilText("Tom Okoro");
        screen.IsAccessible();

        // Anybody else sees sizes, limits, dates and whether it holds, and nothing more.
        using var passer = new Screen(shop.Address);
        passer.Go("/proof/" + code);
        passer.UntilHeading("It holds");
        var seen = passer.Driver.FindElement(By.TagName("body")).Text;
        seen.ShouldSatisfyAllConditions(
            t => t.ShouldContain("23.21"),
            t => t.ShouldContain("23.00"),
            t => t.ShouldContain("0.9138"),
            t => t.ShouldNotContain("Tom"),
            t => t.ShouldNotContain("Ines"),
            t => t.ShouldNotContain("Test " + tag),
            t => t.ShouldNotContain(tag),
            t => t.ShouldNotContain("No other")
        );
        passer.IsAccessible();
        passer.Go("/proof/0123456789abcdef");
        passer.UntilHeading("No such certificate");
        passer.Fill("Code", CertificateStore.Spelled(code));
        passer.Press(Keys.Enter);
        passer.UntilHeading("It holds");
        passer.Go("/certificate/" + tag);
        passer.Until(() => passer.Path_ == "/SignIn", "the sign-in");
    }

    [Fact]
    public async Task What_speaks_against_a_part_takes_a_reason_and_too_close_to_call_leads_to_the_gauge()
    {
        var wavy = await ToConfirm("24.21", "24.28");
        using var screen = new Screen(shop.Address);
        screen.SignIn("Tom Okoro", "1304");
        screen.Go("/confirm/" + wavy);
        screen.UntilText("over, may 0.025");
        screen.UntilText("over 99.9 %");
        screen.IsAccessible();
        // Run-out is read after the cut too, and stands beside its limit.
        screen.Fill("Run-out, outer", "0.04");
        screen.Press(Keys.Enter, "0.09", Keys.Enter);
        screen.Until(() => screen.Driver.FindElements(By.CssSelector(".shape-state.is-over")).Count == 2, "run-out of the inner face over");
        Confirm(screen, wavy);
        screen.UntilText("Say why it goes on");
        screen.Fill("Its shape is over", "goes on a trailer");
        screen.Press(Keys.Enter);
        screen.Until(
            () => screen.Driver.FindElement(By.Name("OffClean")).Selected || screen.Path_.StartsWith("/release", StringComparison.Ordinal),
            "the tick kept"
        );
        screen.UntilHeading("Ready to go");
        screen.Go("/part/" + wavy);
        screen.UntilText("gone on because: goes on a trailer");

        var close = await ToConfirm("23.003");
        screen.Go("/confirm/" + close);
        screen.UntilHeading("Too close to call");
        screen.Driver.FindElements(By.Name("OffClean")).ShouldBeEmpty(); // no button past it
        // All eight read alike: between two of them a reading tells most; between which, the parts that this shop has read decide.
        screen.UntilText("o’clock would tell most.");
        var most = MostTelling().Match(screen.Driver.FindElement(By.TagName("main")).Text).Groups[1].Value;
        new[] { "12", "1½", "3", "4½", "6", "7½", "9", "10½" }.ShouldNotContain(most);
        screen.Send(By.TagName("body"), Keys.Enter);
        screen.UntilHeading("Read at " + most);
        screen.Go("/release/" + close);
        screen.Driver.FindElement(By.CssSelector(".button.go")).Enabled.ShouldBeFalse();
    }

    [Fact]
    public async Task Shelved_or_scrapped_it_says_where_and_why_and_recalled_it_is_read_anew()
    {
        var (kept, bad) = (await ToConfirm("24.30"), await ToConfirm("24.31"));
        using var screen = new Screen(shop.Address);
        screen.SignIn("Tom Okoro", "1304");
        screen.Go("/release/" + kept);
        screen.UntilHeading("Not confirmed");
        screen.Send(By.TagName("body"), "s");
        screen.UntilHeading("Shelve it");
        screen.IsAccessible();
        foreach (var text in new[] { "", "" })
            screen.Enter(text);
        screen.UntilText("Say what keeps the rust off");
        screen.Fill("Where it lies", "Rack 3");
        screen.Fill("Kept from rust by", "Light oil");
        screen.Click(By.CssSelector(".button.go"));
        screen.Until(() => screen.Path_ == "/tag/" + kept, "the tag");
        screen.UntilText("kept by Light oil");
        screen.Go("/release/" + bad + "?as=scrap");
        screen.UntilHeading("Scrap it");
        screen.IsAccessible();
        // Before a new one is ordered: what was shelved a minute ago fits, as it is of the same line of the book or of the same sizes.
        var offer = screen.Driver.FindElements(By.CssSelector(".on-shelf li")).Single(o => o.Text.Contains(kept, StringComparison.Ordinal));
        offer.Text.ShouldContain("Rack 3");
        offer.Text.ShouldContain("left");
        offer.Text.ShouldContain("Not confirmed: read it anew.");
        offer.Text.ShouldContain("measure what is not on record for both: ");
        screen.Fill("What is wrong", "Blue all round");
        screen.Click(By.CssSelector(".button.go"));
        screen.UntilText("Pick why it is scrap");
        screen.UntilText("Make it unusable first");
        screen.Click(By.CssSelector("[name=Cause][value=HardSpots]"));
        screen.Click(By.Name("Marked"));
        screen.Click(By.CssSelector(".button.go"));
        screen.Until(() => screen.Path_ == "/tag/" + bad, "the tag");
        screen.UntilText("Hard spots. Blue all round");
        screen.Go("/part/" + bad);
        screen.UntilHeading("Scrapped");
        screen.Driver.FindElements(By.CssSelector("[data-key=w]")).ShouldBeEmpty(); // scrap is not recalled

        screen.Go("/shelf");
        screen.IsAccessible();
        var row = screen.Driver.FindElements(By.CssSelector(".log tbody tr")).First();
        row.Text.ShouldContain(kept); // shelved last, so it stands first
        row.Text.ShouldContain("Light oil");
        screen.Go("/part/" + kept);
        screen.UntilHeading("Shelved");
        screen.Send(By.TagName("body"), "w");
        screen.Until(() => screen.Driver.SwitchTo().ActiveElement().GetAttribute("name") == "Reason", "the reason in focus");
        screen.IsAccessible();
        screen.Fill("Why it is recalled", "wanted now");
        screen.Click(By.Name("HadLeft"));
        Sign(screen, "Marit Sund", "9051");
        screen.UntilHeading("In the shop");
        screen.UntilText("Read it anew");
        screen.UntilText("signed with a PIN by Marit Sund");
        screen.Send(By.TagName("body"), Keys.Enter);
        screen.UntilHeading("Read again at 12");
        // Its proof says so from now on.
        await using var db = shop.Db();
        var certificate = await db.Certificates.SingleAsync(
            c => db.Outcomes.Any(o => o.Id == c.OutcomeId && db.Parts.Any(p => p.Id == o.PartId && p.Tag == kept)),
            Cancel
        );
        screen.Go("/proof/" + CertificateStore.CodeOf(certificate));
        screen.UntilHeading("Recalled");
        screen.Go("/logbook?find=" + kept + "&state=here");
        screen.UntilText(kept);
        screen.IsAccessible();
        screen.Go("/shelf");
        screen.Driver.FindElement(By.TagName("main")).Text.ShouldNotContain(kept);
    }

    [Fact]
    public async Task A_part_that_comes_back_is_known_by_its_tag_and_its_history_goes_on()
    {
        using var screen = new Screen(shop.Address);
        screen.SignIn("Ines Varga", "2417");
        screen.Go("/receive");
        foreach (var text in new[] { "Brindle L3 van", "Harbour bakery", "171500", "" })
            screen.Enter(text);
        screen.UntilHeading("Add a part");
        foreach (
            var (typed, says) in new[]
            {
                ("NOSUCH", "No part with that tag"),
                ("TQC6S", "was scrapped in job 2423"),
                ("TQB2R", "has not left yet"),
            }
        )
        {
            screen.Fill("Was here before", typed);
            screen.Press(Keys.Enter);
            screen.UntilText(says);
        }
        // A scanner sends the address that stands on the tag.
        await using var db = shop.Db();
        var part = (await db.Parts.Where(p => p.Tag == "TQA3Q" && p.Visit == 3).WithFactsAsync(db, Cancel)).Single();
        var proof = await CertificateStore.EnsureAsync(db, part, await db.ShopAsync(Cancel), DateTimeOffset.UtcNow, Cancel);
        screen.Fill("Was here before", "http://uncial.example/proof/" + CertificateStore.CodeOf(proof));
        screen.Press(Keys.Enter);
        screen.UntilText("It was here before: visit 4");
        screen.UntilText("23.40"); // the limits that stood
        screen.IsAccessible();
        screen.Go("/part/TQA3Q");
        screen.UntilText("Visit 4");
        screen.IsAccessible();
        screen.Go("/part/TQA3Q?visit=2");
        screen.UntilText("Confirmed within limit");
        screen.Until(
            () =>
                screen
                    .Driver.FindElement(By.CssSelector("svg.wear"))
                    .GetAttribute("aria-label")!
                    .Contains("24.842 mm after the cut", StringComparison.Ordinal),
            "the wear curve"
        );
    }

    [Fact]
    public void A_job_file_is_looked_at_before_it_goes_in_and_the_figures_are_there()
    {
        using var screen = new Screen(shop.Address);
        screen.SignIn("Tom Okoro", "1304");
        screen.Go("/files");
        screen.UntilHeading("A job comes in");
        screen.IsAccessible();
        string Job() =>
            (string)screen.Driver.ExecuteAsyncScript("const done = arguments[0]; fetch('/files/job/2410').then(a => a.text()).then(done)")!;
        var (good, folder) = (Job(), Directory.CreateTempSubdirectory("uncial-files"));
        string Write(string name, string text)
        {
            var path = Path.Combine(folder.FullName, name);
            File.WriteAllText(path, text);
            return path;
        }
        screen
            .Driver.FindElement(By.Name("Upload"))
            .SendKeys(Write("bad.json", good.Replace("\"mm\": 24.31", "\"mm\": 34.31", StringComparison.Ordinal)));
        screen.Click(By.CssSelector(".button.go"));
        screen.UntilHeading("Not taken in");
        screen.UntilText("parts[0].surfaces[0].readings[0].mm");
        screen.UntilText("“24.31” mm is 24.31 mm, not 34.31.");
        screen.Driver.FindElement(By.Name("Upload")).SendKeys(Write("good.json", good));
        screen.Click(By.CssSelector(".button.go"));
        screen.UntilHeading("Take it in?");
        screen.UntilText(", was TQA2P");
        screen.IsAccessible();
        screen.Press(Keys.Enter);
        screen.UntilHeading("Add a part");
        folder.Delete(recursive: true);
        screen.Go("/figures");
        screen.UntilText("Do we take more metal than the parts need?");
        // How many did in the last thirty days is a matter of the hour: the shop's past is counted back from now.
        screen.UntilText("beyond discard.");
        screen.IsAccessible();
        screen.Go("/files/shop");
        screen.Driver.FindElement(By.TagName("body")).Text.ShouldNotContain("uncial-shop"); // the owner's alone
    }

    [GeneratedRegex("A reading at (\\S+) o’clock would tell most")]
    private static partial Regex MostTelling();
}
