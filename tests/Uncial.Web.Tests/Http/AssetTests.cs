using System.Net;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using System.Text.RegularExpressions;

namespace Uncial.Web.Tests;

/// <summary>Styles and scripts come from our own files only, and once for each version.</summary>
public class AssetTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task The_policy_allows_no_inline_style_and_no_page_has_one()
    {
        using var caller = shop.Caller();
        using var answer = await caller.GetAsync(new Uri("/SignIn", UriKind.Relative), Cancel);
        var policy = answer.Headers.GetValues("Content-Security-Policy").Single();
        policy.ShouldNotContain("unsafe");
        policy.ShouldContain("base-uri 'none'");
        policy.ShouldContain("form-action 'self'");
        using var person = await new HttpPerson(shop.Address).SignInAsync("marit", "9051");
        foreach (
            var page in new[]
            {
                "/",
                "/receive/2417",
                "/measure/TQB4T",
                "/mount/TQB2R",
                "/plan/TQB2R",
                "/cut/TQB2R",
                "/confirm/TQA7P",
                "/part/TQA2P",
                "/certificate/TQA2P",
                "/lathes/1",
                "/shop",
            }
        )
            (await person.GetAsync(page)).Text.ShouldNotContain(" style=", Case.Sensitive, page);
    }

    /// <summary>A module without its fingerprint is asked for again with every page.</summary>
    [Fact]
    public async Task Every_module_is_named_with_its_fingerprint_and_kept_for_good_and_the_policy_allows_that_one_script()
    {
        using var caller = shop.Caller();
        using var page = await caller.GetAsync(new Uri("/SignIn", UriKind.Relative), Cancel);
        var map = Regex
            .Match(await page.Content.ReadAsStringAsync(Cancel), "<script type=\"importmap\">(?<json>.*?)</script>")
            .Groups["json"]
            .Value;
        page.Headers.GetValues("Content-Security-Policy")
            .Single()
            .ShouldContain($"script-src 'self' 'sha256-{Convert.ToBase64String(SHA256.HashData(Encoding.UTF8.GetBytes(map)))}'");
        var named = JsonDocument
            .Parse(map)
            .RootElement.GetProperty("imports")
            .EnumerateObject()
            .ToDictionary(m => m.Name, m => m.Value.GetString()!);
        var web = Path.Combine(Repository.Root(), "src/Uncial.Web");
        var modules = Directory
            .EnumerateFiles(Path.Combine(web, "wwwroot/js"), "*.js", SearchOption.AllDirectories)
            .Select(f => "/" + Path.GetRelativePath(Path.Combine(web, "wwwroot"), f))
            .Concat(
                Directory
                    .EnumerateFiles(Path.Combine(web, "Pages"), "*.js", SearchOption.AllDirectories)
                    .Select(f => "/" + Path.GetRelativePath(web, f))
            )
            .ToList();
        modules.Except(named.Keys).ShouldBeEmpty();
        foreach (var module in modules)
        {
            using var answer = await caller.GetAsync(new Uri(named[module], UriKind.Relative), Cancel);
            answer.StatusCode.ShouldBe(HttpStatusCode.OK, module);
            answer.Headers.CacheControl.ShouldNotBeNull().ToString().ShouldContain("immutable", Case.Sensitive, module);
        }
    }
}
