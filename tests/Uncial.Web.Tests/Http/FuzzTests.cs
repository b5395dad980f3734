using System.Globalization;

namespace Uncial.Web.Tests;

/// <summary>No request, however strange, is answered with a fault of the server.</summary>
public class FuzzTests(RunningShop shop) : IClassFixture<RunningShop>
{
    /// <summary>
    /// UNCIAL_FUZZ: how many requests; UNCIAL_FUZZ_SEED: from which seed. Above a thousand, four people send them at once.
    /// </summary>
    [Fact]
    public async Task Strange_requests_are_refused_and_break_nothing()
    {
        var requests = Number("UNCIAL_FUZZ", 300);
        var seed = Number("UNCIAL_FUZZ_SEED", 1313);
        var people = requests > 1000 ? 4 : 1;
        PageFuzz[] fuzzers = [.. Enumerable.Range(0, people).Select(n => new PageFuzz(shop.Address, seed + n))];
        await Task.WhenAll(
            fuzzers.Select(async fuzz =>
            {
                using var person = await new HttpPerson(shop.Address).SignInAsync("marit", "9051");
                await fuzz.RunAsync(person, requests / people);
            })
        );
        var said = string.Join('\n', fuzzers.AsEnumerable());
        TestContext.Current.TestOutputHelper?.WriteLine(said);
        fuzzers.SelectMany(f => f.Faults).ShouldBeEmpty(said);
    }

    private static int Number(string variable, int otherwise) =>
        int.TryParse(Environment.GetEnvironmentVariable(variable), CultureInfo.InvariantCulture, out var number) ? number : otherwise;
}
