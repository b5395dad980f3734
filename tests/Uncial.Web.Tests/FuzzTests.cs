namespace Uncial.Web.Tests;

/// <summary>No request, however strange, is answered with a fault of the server.</summary>
public class FuzzTests(RunningShop shop) : IClassFixture<RunningShop>
{
    [Fact]
    public async Task Strange_requests_are_refused_and_break_nothing()
    {
        using var person = await new HttpPerson(shop.Address).SignInAsync("marit", "9051");
        var fuzz = new PageFuzz(shop.Address, seed: 1313);
        await fuzz.RunAsync(person, int.TryParse(Environment.GetEnvironmentVariable("UNCIAL_FUZZ"), out var more) ? more : 300);
        fuzz.Faults.ShouldBeEmpty(fuzz.ToString());
    }
}
