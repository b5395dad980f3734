using System.Net;
using System.Text;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Uncial.Core.Lengths;
using Uncial.Data;
using Uncial.Web.Devices;
using Uncial.Web.Events;
using Uncial.Web.Hosting;

namespace Uncial.Data.Tests;

/// <summary>Sessions, screens, addresses, clocks, gauges that send, and people who do the same at the same moment.</summary>
public class GuardTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_session_is_over_at_sign_out_with_a_new_PIN_or_role_and_when_disabled()
    {
        var pia = await shop.AddPersonAsync("pia", "Pia Holm", "7708", Roles.Operator);
        async Task<HttpStatusCode> Bench(HttpPerson person) => (await person.GetAsync("/logbook")).Code;
        using var person = await new HttpPerson(shop.Address).SignInAsync("pia", "7708");
        // The cookie of before is kept: it works no more after sign-out.
        var stolen = new CookieContainer();
        stolen.Add(person.Cookies.GetAllCookies());
        using var thief = new HttpPerson(shop.Address, stolen);
        (await Bench(thief)).ShouldBe(HttpStatusCode.OK);
        await person.PostAsync("/preferences?handler=SignOut", [], "/check");
        (await Bench(thief)).ShouldBe(HttpStatusCode.Found);

        using var lead = await new HttpPerson(shop.Address).SignInAsync("ines", "2417");
        async Task Manage(string act, params (string, string)[] fields) =>
            (
                await lead.PostAsync(
                    $"/people/{pia}?handler={act}",
                    [("NewName", "Pia Holm"), ("NewRole", "operator"), ("OwnPin", "2417"), .. fields.Where(f => f.Item1.Length > 0)]
                )
            ).Code.ShouldBe(HttpStatusCode.Found, act);
        foreach (
            var (act, field, pin) in new[]
            {
                ("Role", ("NewRole", "lead"), "7708"),
                ("Role", ("NewRole", "operator"), "7708"),
                ("Pin", ("NewPin", "6614"), "6614"),
                ("Disable", ("", ""), ""),
                ("Enable", ("", ""), "6614"),
            }
        )
        {
            using var again = new HttpPerson(shop.Address);
            if (act != "Enable")
            {
                await again.SignInAsync(
                    "pia",
                    act == "Pin" ? "7708"
                        : act == "Disable" ? "6614"
                        : "7708"
                );
                (await Bench(again)).ShouldBe(HttpStatusCode.OK, act);
            }
            if (act == "Role")
                await lead.PostAsync($"/people/{pia}?handler=Role", [("NewRole", field.Item2), ("OwnPin", "2417")]);
            else
                await Manage(act, field);
            if (act != "Enable")
                (await Bench(again)).ShouldBe(HttpStatusCode.Found, act);
            if (pin.Length == 0)
                continue;
            using var after = new HttpPerson(shop.Address);
            await after.SignInAsync("pia", pin);
            (await Bench(after)).ShouldBe(HttpStatusCode.OK, act);
        }
        // Only an owner makes an owner, the last one stays, an operator manages nobody, a wrong own PIN does nothing.
        (await lead.PostAsync($"/people/{pia}?handler=Role", [("NewRole", "owner"), ("OwnPin", "2417")])).Text.ShouldContain(
            "Pick a role that you may give"
        );
        (await lead.PostAsync($"/people/{pia}?handler=Disable", [("OwnPin", "1304")])).Text.ShouldContain("That is not your PIN");
        using var owner = await new HttpPerson(shop.Address).SignInAsync("marit", "9051");
        await using var db = shop.Db();
        (await owner.PostAsync($"/people/{await db.PersonAsync("marit")}?handler=Disable", [("OwnPin", "9051")])).Text.ShouldContain(
            "The last owner keeps the role"
        );
        using var tom = await new HttpPerson(shop.Address).SignInAsync("tom", "1304");
        (await tom.GetAsync("/people")).Code.ShouldBe(HttpStatusCode.Found);
        var desk = new PinDesk(new(UncialDbOptions.For(shop.AppConnection)));
        (await desk.ManageAsync("none", null, PeopleAct.Unlocked, pia, null, null, null, Cancel)).ShouldBe(PeopleResult.SignedOut);
        (await db.PeopleEvents.CountAsync(e => e.OperatorId == pia, Cancel)).ShouldBe(5);
        // Everyone changes the own PIN, and not to the commonest.
        (await tom.PostAsync("/own-pin", [("OldPin", "1304"), ("NewPin", "2345"), ("Again", "2345")])).Text.ShouldContain(
            "Too easy to guess"
        );
        (await tom.PostAsync("/own-pin", [("OldPin", "1111"), ("NewPin", "8264"), ("Again", "8264")])).Text.ShouldContain(
            "That is not your PIN"
        );
    }

    [Fact]
    public async Task Only_an_enrolled_screen_signs_people_in_and_from_others_nobody_is_locked_out()
    {
        await using var own = new EmptyShop();
        await own.InitializeAsync();
        using var first = new HttpPerson(own.Address);
        (
            await first.PostAsync("/SignIn?handler=FirstOwner", [("ShopTitle", "Quay"), ("OwnerName", "Ada"), ("Pin", "1234")], "/SignIn")
        ).Text.ShouldContain("Too easy to guess");
        (
            await first.PostAsync("/SignIn?handler=FirstOwner", [("ShopTitle", "Quay"), ("OwnerName", "Ada"), ("Pin", "8264")], "/SignIn")
        ).Code.ShouldBe(HttpStatusCode.Found);
        (await first.GetAsync("/logbook")).Code.ShouldBe(HttpStatusCode.OK);
        // Another screen offers no operator and no PIN of a demo; fifteen posts from it lock nobody.
        using var stranger = new HttpPerson(own.Address);
        (await stranger.GetAsync("/SignIn")).Text.ShouldSatisfyAllConditions(
            t => t.ShouldContain("Enrol this screen"),
            t => t.ShouldNotContain("PIN 2417")
        );
        // Picking the lead keeps what is typed.
        (
            await stranger.PostAsync("/SignIn?handler=Pick", [("ScreenName", "Quay lathe"), ("pick", "owner")], "/SignIn")
        ).Text.ShouldSatisfyAllConditions(t => t.ShouldContain("value=\"Quay lathe\""), t => t.ShouldContain("PIN of Ada"));
        for (var i = 0; i < 15; i++)
            await stranger.PostAsync("/SignIn?handler=Enrol", [("Who", "owner"), ("ScreenName", "x"), ("Pin", "0000")], "/SignIn");
        (
            await stranger.PostAsync("/SignIn?handler=Enrol", [("Who", "owner"), ("ScreenName", "x"), ("Pin", "8264")], "/SignIn")
        ).Text.ShouldContain("Too many misses");
        (await stranger.PostAsync("/SignIn?handler=Pin", [("Who", "owner"), ("Pin", "8264")], "/SignIn")).Text.ShouldContain(
            "Enrol this screen"
        );
        await first.PostAsync("/preferences?handler=SignOut", [], "/check");
        await first.SignInAsync("owner", "8264");
        await using (var db = own.Db())
            await db.Database.ExecuteSqlRawAsync("delete from pin_delays", Cancel);
        (
            await stranger.PostAsync("/SignIn?handler=Enrol", [("Who", "owner"), ("ScreenName", "Quay lathe"), ("Pin", "8264")], "/SignIn")
        ).Code.ShouldBe(HttpStatusCode.Found);
        await stranger.SignInAsync("owner", "8264");
        // A screen that is retired signs nobody in, and whoever was signed in there is out.
        await using var look = own.Db();
        var screen = await look.Screens.Where(s => s.Name == "Quay lathe").Select(s => s.Id).SingleAsync(Cancel);
        await first.PostAsync($"/people?handler=RetireScreen&screen={screen}", []);
        (await stranger.GetAsync("/logbook")).Code.ShouldBe(HttpStatusCode.Found);
        (await stranger.GetAsync("/SignIn")).Text.ShouldContain("Enrol this screen");
    }

    [Fact]
    public async Task No_address_leads_elsewhere_and_no_picture_says_where_it_was_taken()
    {
        using var person = await new HttpPerson(shop.Address).SignInAsync("tom", "1304");
        (await person.GetAsync(shop.Address.GetLeftPart(UriPartial.Authority) + "//evil.example/?handler=x"))
            .To.ShouldNotBeNull()
            .ShouldStartWith("/evil.example");
        (await person.GetAsync("/check?handler=x&a=1")).To.ShouldBe("/check?a=1");
        using var caller = shop.Caller();
        var policy = (await caller.GetAsync(new Uri("/SignIn", UriKind.Relative), Cancel))
            .Headers.GetValues("Content-Security-Policy")
            .Single();
        policy.ShouldSatisfyAllConditions(p => p.ShouldContain("form-action 'self'"), p => p.ShouldContain("base-uri 'none'"));
        foreach (
            var (host, allowed) in new[]
            {
                ("127.0.0.1", true),
                ("10.0.0.7", true),
                ("192.168.1.20", true),
                ("172.16.0.1", true),
                ("172.32.0.1", false),
                ("169.254.169.254", false),
                ("8.8.8.8", false),
                ("gauge.example", false),
                ("0x7f.1", false),
                ("2130706433", false),
                ("[::1]", false),
                ("192.168.001.20", false),
            }
        )
            DeviceAddress.Allows(host).ShouldBe(allowed, host);

        byte[] Segment(byte marker, byte[] body) => [0xFF, marker, (byte)((body.Length + 2) >> 8), (byte)(body.Length + 2), .. body];
        byte[] exif =
        [
            .. "Exif\0\0II*\0"u8,
            8,
            0,
            0,
            0,
            2,
            0,
            0x12,
            1,
            3,
            0,
            1,
            0,
            0,
            0,
            6,
            0,
            0,
            0,
            0x25,
            0x88,
            4,
            0,
            1,
            0,
            0,
            0,
            38,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            .. "GPS 59.3 N"u8,
        ];
        byte[] scan = [.. Segment(0xDA, [1, 2]), 1, 2, 3, 0xFF, 0, 4, 0xFF, 0xD9];
        byte[] jpeg =
        [
            0xFF,
            0xD8,
            .. Segment(0xE0, [.. "JFIF\0"u8]),
            .. Segment(0xE1, exif),
            .. Segment(0xE1, [.. "http://ns.adobe.com/xap/1.0/ GPS"u8]),
            .. Segment(0xFE, [.. "GPS note"u8]),
            .. Segment(0xDB, [1, 2, 3]),
            .. scan,
        ];
        var cleaned = PhotoCleaning.Clean(jpeg).ShouldNotBeNull();
        Encoding
            .Latin1.GetString(cleaned)
            .ShouldSatisfyAllConditions(
                t => t.ShouldNotContain("GPS"),
                t => t.ShouldContain("JFIF"),
                t => t.ShouldEndWith(Encoding.Latin1.GetString(scan)),
                t => t.ShouldContain("Exif\0\0MM\0*")
            ); // the way it is turned stays
        byte[] Chunk(string name, byte[] body) => [0, 0, 0, (byte)body.Length, .. Encoding.ASCII.GetBytes(name), .. body, 0, 0, 0, 0];
        byte[] png =
        [
            0x89,
            .. "PNG\r\n\u001a\n"u8,
            .. Chunk("IHDR", [1]),
            .. Chunk("eXIf", [.. "GPS"u8]),
            .. Chunk("tEXt", [.. "GPS"u8]),
            .. Chunk("IDAT", [7]),
            .. Chunk("IEND", []),
        ];
        Encoding
            .Latin1.GetString(PhotoCleaning.Clean(png)!)
            .ShouldSatisfyAllConditions(t => t.ShouldNotContain("GPS"), t => t.ShouldContain("IDAT"), t => t.ShouldEndWith("IEND\0\0\0\0"));
        byte[] webp =
        [
            .. "RIFF"u8,
            0,
            0,
            0,
            0,
            .. "WEBPVP8X"u8,
            10,
            0,
            0,
            0,
            0b1100,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            .. "VP8 "u8,
            2,
            0,
            0,
            0,
            1,
            2,
            .. "EXIF"u8,
            3,
            0,
            0,
            0,
            .. "GPS"u8,
            0,
        ];
        var plain = PhotoCleaning.Clean(webp).ShouldNotBeNull();
        (Encoding.Latin1.GetString(plain).Contains("GPS", StringComparison.Ordinal), plain[20], plain[4]).ShouldBe(
            (false, (byte)0, (byte)(plain.Length - 8))
        );
        foreach (var broken in new byte[][] { [0xFF, 0xD8, 0xFF, 0xE1, 0xFF, 0xFF], [.. png[..20]], [0xFF, 0xD8, 0xFF, 0xE0, 0, 4, 1, 2] })
            PhotoCleaning.Clean(broken).ShouldBeNull();
    }

    [Fact]
    public async Task A_clock_that_went_back_is_said_on_every_page()
    {
        await using var own = new DemoShopOfItsOwn();
        await own.InitializeAsync();
        using var person = await new HttpPerson(own.Address).SignInAsync("tom", "1304");
        var watch = own.Services.GetRequiredService<ClockWatch>();
        await watch.LookAsync(Cancel);
        (await person.GetAsync("/check")).Text.ShouldNotContain("behind the newest record");
        await using var db = own.Db();
        await db.Database.ExecuteSqlRawAsync(
            "create or replace function uncial_now() returns timestamptz language sql volatile set search_path = pg_catalog, "
                + "public, pg_temp as 'select clock_timestamp() - interval ''1 hour'''",
            Cancel
        );
        await watch.LookAsync(Cancel);
        (await person.GetAsync("/check")).Text.ShouldContain("behind the newest record");
        (await person.GetAsync("/measure/TQB5P")).Text.ShouldContain("behind the newest record");
    }

    private sealed class DemoShopOfItsOwn : RunningShop;

    [Fact]
    public void A_gauge_hears_that_its_reading_was_taken_when_it_is_stored_and_its_screen_has_it_alone()
    {
        var news = new News(TimeProvider.System);
        List<string> heard = [];
        using var here = new CancellationTokenSource();
        using var there = new CancellationTokenSource();
        void Listen(ListeningScreen screen, CancellationToken until)
        {
            var items = news.ListenAsync(screen, 1, [7], null, [], default, board: false, cancel: until).GetAsyncEnumerator(until);
            _ = Task.Run(
                async () =>
                {
                    try
                    {
                        while (await items.MoveNextAsync())
                            lock (heard)
                                heard.Add($"{screen.Id} {items.Current.EventType} {items.Current.Data}");
                    }
                    catch (OperationCanceledException) { }
                },
                Cancel
            );
        }
        bool Heard(string what)
        {
            for (var until = DateTime.UtcNow.AddSeconds(20); DateTime.UtcNow < until; Thread.Yield())
                lock (heard)
                    if (heard.Exists(h => h.Contains(what, StringComparison.Ordinal)))
                        return true;
            return false;
        }
        news.Sends(7, "a:1", "24.31mm", true).ShouldBe(SentReading.Refused); // no page stands open
        Listen(new(1, "Quay lathe"), here.Token);
        Heard("1 open").ShouldBeTrue();
        news.Sends(7, "a:2", "24.31mm", true).ShouldBe(SentReading.Waits); // shown, and not stored yet
        news.Sends(7, "a:2", "24.31mm", true).ShouldBe(SentReading.Waits);
        news.Took(7, "a:2");
        news.Sends(7, "a:2", "24.31mm", true).ShouldBe(SentReading.Taken);
        news.Sends(7, "a:3", "24.31mm", false).ShouldBe(SentReading.Refused); // it moves
        news.Sends(7, "a:4", "24.31mm", true).ShouldBe(SentReading.Waits);
        news.Refuses(7, "a:4"); // a sheet lies over the entry
        news.Sends(7, "a:4", "24.31mm", true).ShouldBe(SentReading.Refused);
        // Another screen does not get it by listening; it takes the gauge up first, and the first is told.
        Listen(new(2, "Office"), there.Token);
        Heard("2 holder {\"gauge\":7,\"at\":\"Quay lathe\"}").ShouldBeTrue();
        news.Sends(7, "a:5", "24.32mm", true).ShouldBe(SentReading.Waits);
        Heard("1 reading {\"gauge\":7,\"line\":\"a:5\"").ShouldBeTrue();
        news.TakeUp(7, 2, "Office");
        Heard("1 holder {\"gauge\":7,\"at\":\"Office\"}").ShouldBeTrue();
        news.Sends(7, "a:6", "24.33mm", true).ShouldBe(SentReading.Waits);
        Heard("2 reading {\"gauge\":7,\"line\":\"a:6\"").ShouldBeTrue();
        lock (heard)
            heard.ShouldNotContain(h => h.StartsWith("2 reading", StringComparison.Ordinal) && h.Contains("a:5", StringComparison.Ordinal));
        here.Cancel();
        there.Cancel();
    }

    [Fact]
    public async Task A_line_without_an_end_is_passed_over_and_not_kept()
    {
        using var stream = new MemoryStream([.. "NOW a\r\n"u8, .. Enumerable.Repeat((byte)'x', 3_000_000), .. "\nSEND b\nhalf"u8]);
        using var lines = new BoundedLines(stream, 512);
        (await lines.ReadAsync(Cancel), await lines.ReadAsync(Cancel), await lines.ReadAsync(Cancel)).ShouldBe(("NOW a", "SEND b", null));
    }

    [Fact]
    public async Task Who_does_the_same_at_the_same_moment_gets_a_number_of_the_own_and_a_check_and_readings_never_miss_one_another()
    {
        using var person = await new HttpPerson(shop.Address).SignInAsync("tom", "1304");
        var jobs = await Task.WhenAll(
            Enumerable
                .Range(0, 20)
                .Select(async i => (await person.PostAsync("/receive?handler=Job", [("Vehicle", $"Brindle L3 van {i}")])).To)
        );
        jobs.Distinct().Count().ShouldBe(20);
        jobs.ShouldAllBe(j => j != null && j.StartsWith("/receive/", StringComparison.Ordinal));
        // A file does not push the numbers past their range.
        await using var db = shop.Db();
        (
            await Should.ThrowAsync<DbUpdateException>(async () =>
            {
                await using var far = shop.Db();
                far.Add<Job>(
                    new()
                    {
                        Number = int.MaxValue,
                        Vehicle = "x",
                        ReceivedAt = DateTimeOffset.UtcNow,
                        ReceivedById = 1,
                    }
                );
                await far.SaveChangesAsync(Cancel);
            })
        ).InnerException.ShouldBeOfType<Npgsql.PostgresException>().SqlState.ShouldBe("UN025");
        // Readings and failing checks of one gauge, at once: whatever was stored by then is flagged, and what comes after is too.
        var tom = await db.PersonAsync("tom");
        for (var round = 0; round < 8; round++)
        {
            var gauge = new Gauge
            {
                Name = $"Race {round}",
                Kind = Core.Gauges.GaugeKind.Micrometer,
                Resolution = TestParts.Mm(0.001m),
                StandardSize = TestParts.Mm(25),
                ZeroTolerance = TestParts.Mm(0.004m),
            };
            (await db.ShopAsync(Cancel)).Gauges.Add(gauge);
            await db.SaveChangesAsync(Cancel);
            var tags = new[] { await shop.ReadPartAsync(), await shop.ReadPartAsync() };
            await Task.WhenAll([
                .. tags.Select(tag =>
                    Task.Run(
                        async () =>
                        {
                            await using var mine = shop.Db();
                            var record = await mine.RecordAsync(tag);
                            MeasureCommands.RecordReading(
                                record,
                                ReadingKind.Size,
                                record.Measuring.Places[0],
                                TestParts.Typed("24.31"),
                                LengthUnit.Millimetre,
                                record.Shop.Gauges.Single(g => g.Id == gauge.Id),
                                new(tom, Role.Operator, DateTimeOffset.UtcNow)
                            );
                            await mine.SaveChangesAsync(Cancel);
                        },
                        Cancel
                    )
                ),
                Task.Run(
                    async () =>
                    {
                        await using var mine = shop.Db();
                        await GaugeCommands.CheckAsync(
                            mine,
                            (await mine.ShopAsync(Cancel)).Gauges.Single(g => g.Id == gauge.Id),
                            TestParts.Typed("25.020"),
                            new(tom, Role.Operator, DateTimeOffset.UtcNow),
                            Cancel
                        );
                    },
                    Cancel
                ),
            ]);
            (await db.Readings.CountAsync(r => r.GaugeId == gauge.Id && r.Flag == null, Cancel)).ShouldBe(0, $"round {round}");
        }
    }

    [Fact]
    public async Task A_statement_that_fails_spoils_no_other_request()
    {
        using var person = await new HttpPerson(shop.Address).SignInAsync("tom", "1304");
        var answers = await Task.WhenAll(
            Enumerable
                .Range(0, 60)
                .Select(async i =>
                    i % 2 == 0
                        ? (await person.PostAsync("/receive?handler=Job", [("Vehicle", "Van"), ("Customer", new string('c', 4000))])).Code
                        : (await person.GetAsync("/measure/TQB5P")).Code
                )
        );
        answers.Where((_, i) => i % 2 == 1).ShouldAllBe(c => c == HttpStatusCode.OK);
        answers.Where((_, i) => i % 2 == 0).ShouldAllBe(c => (int)c < 500);
    }
}
