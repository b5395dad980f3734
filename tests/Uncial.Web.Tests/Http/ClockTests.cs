using System.Net;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.TestHost;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Time.Testing;

namespace Uncial.Web.Tests;

/// <summary>A shop whose clock a test sets.</summary>
public sealed class ShopWithAClock : RunningShop
{
    private readonly FakeTimeProvider clock = new(DateTimeOffset.UtcNow);

    /// <summary>Sets the clocks of the server and of its database on.</summary>
    public async Task AdvanceAsync(TimeSpan by)
    {
        clock.Advance(by);
        await using var db = Db();
        var ahead = (int)(clock.GetUtcNow() - DateTimeOffset.UtcNow).TotalSeconds;
        var sql = $"""
            create or replace function uncial_now() returns timestamptz
                language sql volatile set search_path = pg_catalog, public, pg_temp
                as 'select clock_timestamp() + interval ''{ahead} seconds'''
            """;
        await db.Database.ExecuteSqlRawAsync(sql, TestContext.Current.CancellationToken);
    }

    protected override void ConfigureWebHost(IWebHostBuilder builder)
    {
        base.ConfigureWebHost(builder);
        builder.ConfigureTestServices(services => services.AddSingleton<TimeProvider>(clock));
    }
}

/// <summary>What runs out, runs out by the one clock of the server, on every page that tells of it.</summary>
public class ClockTests(ShopWithAClock shop) : IClassFixture<ShopWithAClock>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_zero_check_holds_as_long_as_the_shop_says_and_a_certificate_until_its_day()
    {
        await using var db = shop.Db();
        var gauge = await db.Gauges.FirstAsync(g => g.Name == "Drum gauge 1", Cancel);
        using var tom = await new HttpPerson(shop.Address).SignInAsync("tom", "1304");
        // The checks of the morning are over; the bench leads to a drum that nobody has read yet.
        await shop.AdvanceAsync(TimeSpan.FromHours(3));
        var path = "";
        var drums = await db
            .Parts.Where(p => p.Surfaces.All(s => s.Kind == Core.Parts.PartKind.Drum))
            .Select(p => p.Tag)
            .ToListAsync(Cancel);
        foreach (var link in Regex.Matches((await tom.GetAsync("/")).Text, "/measure/[A-Z0-9]+").Select(m => m.Value).Distinct())
            if (
                drums.Contains(link.Split('/')[^1])
                && (await tom.GetAsync($"{link}?with={gauge.Id}")).Text.Contains("Is it at zero?", StringComparison.Ordinal)
            )
                path = link;
        path.ShouldNotBeEmpty();
        var done = await tom.PostAsync($"{path}?handler=Zero", [("With", $"{gauge.Id}"), ("Shown", "230.00 mm")], path);
        (done.Code, done.To).ShouldBe((HttpStatusCode.Found, path), done.Text);
        (await tom.GetAsync(path)).Text.ShouldContain("zero checked");
        await shop.AdvanceAsync(TimeSpan.FromMinutes(29));
        (await tom.GetAsync(path)).Text.ShouldContain("zero checked");
        await shop.AdvanceAsync(TimeSpan.FromMinutes(2));
        var late = (await tom.GetAsync(path)).Text;
        late.ShouldContain("Is it at zero?");
        late.ShouldContain("zero not checked");
        Overdue(late).ShouldNotContain(gauge.Name);

        await shop.AdvanceAsync(TimeSpan.FromDays(97));
        (await tom.GetAsync(path)).To.ShouldNotBeNull().ShouldContain("SignIn"); // nobody stays signed in for months
        using var later = await new HttpPerson(shop.Address).SignInAsync("tom", "1304");
        Overdue((await later.GetAsync(path)).Text).ShouldContain(gauge.Name);

        static IEnumerable<string> Overdue(string page) =>
            Regex
                .Matches(page, "<b>(?<name>[^<]+)</b>(?:(?!</button>).)*certificate ran out", RegexOptions.Singleline)
                .Select(m => m.Groups["name"].Value);
    }

    /// <summary>A page that read the machine's clock itself would not follow.</summary>
    [Fact]
    public void Only_the_time_provider_tells_the_time()
    {
        string[] own = ["DateTimeOffset.UtcNow", "DateTimeOffset.Now", "DateTime.UtcNow", "DateTime.Now", "DateTime.Today"];
        Directory
            .EnumerateFiles(Path.Combine(Repository.Root(), "src"), "*.cs*", SearchOption.AllDirectories)
            .Where(f => Path.GetExtension(f) is ".cs" or ".cshtml" && !f.Split(Path.DirectorySeparatorChar).Any(d => d is "obj" or "bin"))
            .Where(f => File.ReadAllText(f) is var text && own.Any(c => text.Contains(c, StringComparison.Ordinal)))
            .ShouldBeEmpty();
    }
}
