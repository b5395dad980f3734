using System.Diagnostics;
using System.Globalization;
using System.Net;
using System.Text.RegularExpressions;
using Uncial.PageBench;

// live: how soon a fact is on ten screens. practice: thirty trainees at once.
// pages [PARTS] [TIMES]: times every page beside an empty Razor page in one run; see bench/pages.
CultureInfo.CurrentCulture = CultureInfo.InvariantCulture;
var isLive = args is ["live"];
var arePractising = args is ["practice"];
if (isLive || arePractising)
    args = [];
var many = args.Length > 0 ? int.Parse(args[0], CultureInfo.InvariantCulture) : 400;
var times = args.Length > 1 ? int.Parse(args[1], CultureInfo.InvariantCulture) : 200;
const int Callers = 20;
string[] pages =
[
    "/bench/empty",
    "/receive/2417",
    "/look/TQB2R",
    "/measure/TQB4T",
    "/measure/TQB2R",
    "/mount/TQB2R",
    "/plan/TQB2R",
    "/cut/TQB2R",
    "/confirm/TQA8Q",
    "/release/TQA7P",
    "/part/TQA2P",
    "/certificate/TQA2P",
    "/logbook",
    "/figures",
    "/book",
    "/gauges",
    "/lathes",
    "/shop",
    "/people",
    "/techniques",
    "/adapters",
    "/files",
    "/",
];

using var shop = new BenchedShop(
    Environment.GetEnvironmentVariable("UNCIAL_BENCH_DATABASE") ?? throw new InvalidOperationException("Run bench/pages.")
);
using var handler = new HttpClientHandler { AllowAutoRedirect = false, MaxConnectionsPerServer = Callers };
using var client = new HttpClient(handler) { BaseAddress = await shop.StartAsync() };
if (arePractising)
{
    await new Trainees(client.BaseAddress!).ShowAsync();
    return 0;
}
await SignInAsync();
if (isLive)
{
    await new LiveBoard(client).ShowAsync(await shop.FillAsync(40));
    return 0;
}
using var trips = new RoundTrips();
Console.WriteLine($"{"page", -22}{"ms", 8}{"times", 8}{"95 %", 8}{"trips", 7}{"kB", 8}");

// The code of every page is compiled and optimised before one is timed.
foreach (var page in pages)
    for (var i = 0; i < times; i++)
        await GetAsync(page);
var empty = await ShowAsync(pages[0], null);
foreach (var page in pages[1..])
    await ShowAsync(page, empty);
Console.WriteLine($"{await shop.FillAsync(many)} parts in the shop:");
await ShowAsync("/", empty);
Console.WriteLine(
    $"{Callers} at once: / {await RateAsync("/"):0}/s, /measure {await RateAsync("/measure/TQB2R"):0}/s, empty "
        + $"{await RateAsync(pages[0]):0}/s"
);
return 0;

async Task SignInAsync()
{
    var page = await client.GetStringAsync(new Uri("/SignIn", UriKind.Relative));
    var token = Regex
        .Match(
            page,
            "name=\"__RequestVerificationToken\" type=\"hidden\" value=\"(?<token>[^\"]+)",
            RegexOptions.ExplicitCapture,
            TimeSpan.FromSeconds(5)
        )
        .Groups[1]
        .Value;
    using var form = new FormUrlEncodedContent([new("Who", "marit"), new("Pin", "9051"), new("__RequestVerificationToken", token)]);
    using var answer = await client.PostAsync(new Uri("/SignIn?handler=Pin", UriKind.Relative), form);
    if (answer.StatusCode != HttpStatusCode.Found)
        throw new InvalidOperationException("Signing in failed.");
}

async Task<double> ShowAsync(string page, double? beside)
{
    for (var i = 0; i < times / 4; i++)
        await GetAsync(page);
    await Task.Delay(200);
    var before = trips.Count;
    var took = new double[times];
    var length = 0;
    var redirect = false;
    for (var i = 0; i < times; i++)
    {
        var start = Stopwatch.GetTimestamp();
        (length, redirect) = await GetAsync(page);
        took[i] = Stopwatch.GetElapsedTime(start).TotalMilliseconds;
    }
    Array.Sort(took);
    var median = took[times / 2];
    Console.WriteLine(
        $"{page, -22}{median, 8:0.00}{(beside is { } one ? median / one : 1), 8:0.0}{took[times * 19 / 20], 8:0.00}"
            + $"{(trips.Count - before) / (double)times, 7:0.#}{length / 1024.0, 8:0.0}{(redirect ? "  (goes elsewhere)" : "")}"
    );
    return median;
}

async Task<(int Length, bool Redirect)> GetAsync(string page)
{
    using var answer = await client.GetAsync(new Uri(page, UriKind.Relative), HttpCompletionOption.ResponseHeadersRead);
    if (answer.StatusCode is not (HttpStatusCode.OK or HttpStatusCode.Found))
        throw new InvalidOperationException($"{page} answers {answer.StatusCode}.");
    await using var body = await answer.Content.ReadAsStreamAsync();
    var buffer = System.Buffers.ArrayPool<byte>.Shared.Rent(65536);
    var length = 0;
    for (int read; (read = await body.ReadAsync(buffer)) > 0; )
        length += read;
    System.Buffers.ArrayPool<byte>.Shared.Return(buffer);
    return (length, answer.StatusCode == HttpStatusCode.Found);
}

// Requests a second over ten seconds, with so many callers that each ask again as soon as they are answered.
async Task<double> RateAsync(string page)
{
    var done = 0;
    var clock = Stopwatch.StartNew();
    await Task.WhenAll(
        Enumerable
            .Range(0, Callers)
            .Select(async _ =>
            {
                while (clock.Elapsed < TimeSpan.FromSeconds(10))
                {
                    await GetAsync(page);
                    Interlocked.Increment(ref done);
                }
            })
    );
    return done / clock.Elapsed.TotalSeconds;
}
