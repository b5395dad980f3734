using System.Net;
using Microsoft.EntityFrameworkCore;
using Uncial.Core.Times;

namespace Uncial.Web.Tests;

/// <summary>The shop's own time, and what a change of its rules would have changed, on the pages.</summary>
public class ShopSettingsPageTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private async Task<string> TurnAsync()
    {
        await using var db = shop.Db();
        return (await db.Shops.Select(s => s.Turn).SingleAsync(Cancel)).ToString(System.Globalization.CultureInfo.InvariantCulture);
    }

    [Fact]
    public async Task Pages_show_and_read_times_as_the_shop_says_and_the_rules_stay()
    {
        await using var db = shop.Db();
        using var marit = await new HttpPerson(shop.Address).SignInAsync("marit", "9051");
        var received = await db.Jobs.Where(j => j.Number == 2410).Select(j => j.ReceivedAt).SingleAsync(Cancel);
        var rules = await db.Shops.Select(s => s.RulesId).SingleAsync(Cancel);

        var wrong = await marit.PostAsync("/shop", [("Turn", await TurnAsync()), ("TimeZone", "Middle/Earth")], "/shop");
        wrong.Text.ShouldContain("There is no such zone in the list");
        wrong.Text.ShouldContain("Middle/Earth"); // what was typed stays
        var kept = await marit.PostAsync(
            "/shop",
            [("Turn", await TurnAsync()), ("TimeZone", "Pacific/Auckland"), ("DateStyle", nameof(DateStyle.MonthDay))],
            "/shop"
        );
        kept.Code.ShouldBe(HttpStatusCode.Found, kept.Text);
        var there = ShopTime.Of("Pacific/Auckland", DateStyle.MonthDay, TimeZoneInfo.Utc);
        there.DayOf(received).ShouldNotBe(DateOnly.MinValue);
        (await marit.GetAsync("/logbook?find=2410")).Text.ShouldContain(there.Day(received));
        (await marit.GetAsync("/part/TQA2P")).Text.ShouldContain(there.Clock(received));
        // A typed 9/12 is September here; a day of the logbook begins at midnight there.
        (await marit.GetAsync("/days/echo?text=9/12/26&lean=Ahead")).Text.ShouldContain("Sep 12, 2026");
        (await marit.GetAsync("/times/echo?text=12/9/2199")).Text.ShouldContain("more than a year ahead");
        var day = Uri.EscapeDataString(there.Day(received));
        (await marit.GetAsync($"/logbook?find=2410&from={day}&to={day}")).Text.ShouldContain("TQA2P");
        var before = Uri.EscapeDataString(there.Day(there.DayOf(received).AddDays(-1)));
        (await marit.GetAsync($"/logbook?find=2410&to={before}")).Text.ShouldNotContain("TQA2P");
        (await marit.GetAsync("/logbook?from=31.2.")).Text.ShouldContain("There is no such day.");
        // Neither is a rule: no judgement ended by it.
        (await db.Shops.Select(s => s.RulesId).SingleAsync(Cancel)).ShouldBe(rules);
        await marit.PostAsync("/shop", [("Turn", await TurnAsync()), ("TimeZone", ""), ("DateStyle", nameof(DateStyle.DayMonth))], "/shop");
        (await db.Shops.AsNoTracking().SingleAsync(Cancel)).TimeZone.ShouldBeNull();
        using var ines = await new HttpPerson(shop.Address).SignInAsync("ines", "2417");
        (await ines.PostAsync("/shop", [("Turn", await TurnAsync()), ("TimeZone", "Asia/Tokyo")], "/")).Code.ShouldBe(HttpStatusCode.Found);
        (await db.Shops.AsNoTracking().SingleAsync(Cancel)).TimeZone.ShouldBeNull(); // the owner's alone
    }

    [Fact]
    public async Task What_is_printed_bears_the_address_of_the_shop_whatever_the_page_was_opened_under()
    {
        using var marit = await new HttpPerson(shop.Address).SignInAsync("marit", "9051");
        var wrong = await marit.PostAsync("/shop", [("Turn", await TurnAsync()), ("Address", "https://brakes.local/part")], "/shop");
        wrong.Text.ShouldContain("An address is https://");
        wrong.Text.ShouldContain("https://brakes.local/part"); // what was typed stays
        var kept = await marit.PostAsync("/shop", [("Turn", await TurnAsync()), ("Address", "brakes.local:5443/")], "/shop");
        kept.Code.ShouldBe(HttpStatusCode.Found, kept.Text);
        (await marit.GetAsync("/tag/TQA7P")).Text.ShouldContain("https://brakes.local:5443/");
        (await marit.GetAsync("/board.ics")).Text.ShouldContain("brakes.local");
        await marit.PostAsync("/shop", [("Turn", await TurnAsync()), ("Address", " ")], "/shop");
        (await marit.GetAsync("/tag/TQA7P")).Text.ShouldNotContain("brakes.local");

        // This shop serves this machine alone: there is nothing to trust, and nobody else's host.
        (await marit.GetAsync("/tablets")).Text.ShouldContain("serves this machine only");
        using var anybody = new HttpClient();
        using var request = new HttpRequestMessage(HttpMethod.Get, new Uri(shop.Address, "/SignIn"));
        request.Headers.Host = "brakes.example";
        (await anybody.SendAsync(request, Cancel)).StatusCode.ShouldBe(HttpStatusCode.BadRequest);
        foreach (var path in new[] { "/trust", "/authority.crt" })
            (await anybody.GetAsync(new Uri(shop.Address, path), Cancel)).StatusCode.ShouldBe(HttpStatusCode.NotFound, path);
    }

    [Fact]
    public async Task What_a_change_would_have_changed_is_shown_and_nothing_is_kept()
    {
        await using var db = shop.Db();
        using var marit = await new HttpPerson(shop.Address).SignInAsync("marit", "9051");
        var before = (await db.Shops.AsNoTracking().SingleAsync(Cancel)).Rules;
        async Task<string> SeeAsync(params (string Key, string Value)[] typed) =>
            (
                await marit.PostAsync(
                    "/shop?handler=Preview",
                    [("Turn", await TurnAsync()), .. typed.Select(t => ($"Values[{t.Key}]", t.Value))],
                    "/shop"
                )
            ).Text;

        (await SeeAsync()).ShouldContain("None would have been judged otherwise.");
        var strict = await SeeAsync(("SetUpTolerance", "0.005"));
        strict.ShouldContain("more would have been remounted");
        strict.ShouldContain("value=\"0.005\""); // what was typed stays, to be kept or not
        (await SeeAsync(("RotorMachineToAboveDiscard", "far"))).ShouldNotContain("of the last");
        (await db.Shops.AsNoTracking().SingleAsync(Cancel)).Rules.ShouldBe(before);
    }

    [Fact]
    public async Task A_second_screen_at_a_lathe_shows_the_dials_of_what_is_on_it()
    {
        using var tom = await new HttpPerson(shop.Address).SignInAsync("tom", "1304");
        await using var db = shop.Db();
        var lathe = await db
            .Mounts.Where(m => db.Parts.Any(p => p.Tag == "TQB2R" && p.Surfaces.Any(s => s.Id == m.SurfaceId)))
            .Select(m => m.LatheId)
            .FirstAsync(Cancel);
        var view = (await tom.GetAsync($"/lathes/{lathe}/view")).Text;
        view.ShouldContain("lathe-view");
        view.ShouldContain("Finish: set the dials"); // the pass of TQB2R that is due
        view.ShouldContain("data-again=\"5\"");
        view.ShouldNotContain("name=\"Ticked\""); // nothing to press
        (await tom.GetAsync("/lathes/99/view")).Code.ShouldBe(HttpStatusCode.NotFound);
    }
}
