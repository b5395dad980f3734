using System.Net;

namespace Uncial.Web.Tests;

/// <summary>A page that is not there says so in the shop's words; what is no page keeps its bare answer.</summary>
public class MissingPageTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_tag_or_address_that_is_not_here_leads_back_to_the_bench()
    {
        using var person = await new HttpPerson(shop.Address, accept: "text/html").SignInAsync("tom", "1304");
        foreach (var page in new[] { "/part/NOTHERE", "/measure/NOTHERE", "/gauges/99999", "/nonsense" })
            (await person.GetAsync(page)).ShouldSatisfyAllConditions(
                a => a.Code.ShouldBe(HttpStatusCode.NotFound, page),
                a => a.Text.ShouldContain("There is no such page"),
                a => a.Text.ShouldContain("To the bench"),
                // What went wrong is the address: there is no number to give to anybody.
                a => a.Text.ShouldNotContain("give the owner this number")
            );
    }

    [Fact]
    public async Task What_a_program_asks_for_and_does_not_find_is_no_page()
    {
        using var person = await new HttpPerson(shop.Address).SignInAsync("tom", "1304");
        var missing = await person.GetAsync("/photos/99999");
        (missing.Code, missing.Text.Contains("<main", StringComparison.Ordinal)).ShouldBe((HttpStatusCode.NotFound, false));
    }

    /// <summary>Nobody takes a gauge away from a screen that reads with it, without showing a page that the gauge can send to.</summary>
    [Fact]
    public async Task A_gauge_is_taken_up_only_where_a_page_with_it_is_open()
    {
        using var person = await new HttpPerson(shop.Address).SignInAsync("tom", "1304");
        (await person.PostAsync("/gauges/1/takes", [], "/check")).Code.ShouldBe(HttpStatusCode.NotFound);
        (await person.PostWithAsync("/gauges/1/takes", [], "forged")).Code.ShouldBe(HttpStatusCode.BadRequest);
    }
}
