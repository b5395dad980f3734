using System.Diagnostics;
using System.Globalization;
using System.Net;
using System.Text.RegularExpressions;
using Uncial.Core.Parts;
using Uncial.Practice.Lessons;

namespace Uncial.PageBench;

/// <summary>
/// Thirty trainees at once: how long pages and pictures of a lesson take while each of them touches something every third of a second.
/// </summary>
internal sealed partial class Trainees(Uri address)
{
    private const int Count = 30;
    private static readonly TimeSpan Lasts = TimeSpan.FromSeconds(60);
    private static readonly TimeSpan Between = TimeSpan.FromMilliseconds(330);

    private static readonly string[] Touches =
    [
        "rock:1",
        "rock:1",
        "rock:-1",
        "rock:-1",
        "in:2",
        "close:Ratchet",
        "tool:Lamp",
        "light:15",
        "light:15",
        "face:1",
        "tool:Bit",
        "clean:part",
        "mount",
        "scratch",
        "turn:180",
        "scratch",
        "zero:0",
        "zero:1",
        "tool:Lathe",
        "dial:0:5",
        "dial:1:5",
        "lock:2",
        "lock:3",
        "lever",
        "run",
        "lever",
        "tool:Gauge",
        "gauge:0",
    ];

    /// <summary>Works for a minute and says what it took.</summary>
    public async Task ShowAsync()
    {
        var lessons = ShippedLessons.All;
        var began = Stopwatch.StartNew();
        var all = await Task.WhenAll(Enumerable.Range(0, Count).Select(i => WorkAsync(lessons[i % lessons.Count], i)));
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"{Count} trainees, {all.Sum(a => a.Count)} answers in {began.Elapsed.TotalSeconds:0} s"
            )
        );
        Console.WriteLine($"{"answer", -12}{"count", 8}{"ms", 8}{"95 %", 8}{"99 %", 8}{"most", 8}");
        foreach (var kind in all.SelectMany(a => a).GroupBy(a => a.Kind))
        {
            var sorted = kind.Select(a => a.Ms).Order().ToList();
            double At(double share) => sorted[(int)Math.Min(sorted.Count - 1, share * sorted.Count)];
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"{kind.Key, -12}{sorted.Count, 8}{At(0.5), 8:0}{At(0.95), 8:0}{At(0.99), 8:0}{sorted[^1], 8:0}"
                )
            );
        }
    }

    private async Task<List<(string Kind, double Ms)>> WorkAsync(Lesson lesson, int number)
    {
        // A drum has one face.
        var touches = Touches.Where(t => lesson.Part.Kind == PartKind.Rotor || t is not ("face:1" or "zero:1" or "dial:1:5")).ToList();
        using var handler = new HttpClientHandler { AllowAutoRedirect = false, CookieContainer = new() };
        using var client = new HttpClient(handler) { BaseAddress = address };
        var home = await client.GetStringAsync(new Uri("/practice", UriKind.Relative));
        using var begin = Form(home, ("lesson", lesson.Id));
        using var begun = await client.PostAsync(new Uri("/practice?handler=Lesson", UriKind.Relative), begin);
        var tag = begun.Headers.Location!.ToString().Split('/')[^1];
        List<(string, double)> took = [];
        var page = await client.GetStringAsync(new Uri($"/look/{tag}", UriKind.Relative));
        // They do not begin in one moment.
        await Task.Delay(Between * number / Count + TimeSpan.FromSeconds(3));
        var from = Stopwatch.StartNew();
        for (var i = 0; from.Elapsed < Lasts; i++)
        {
            var one = Stopwatch.StartNew();
            if (i % 12 == 11)
            {
                page = await client.GetStringAsync(new Uri($"/look/{tag}", UriKind.Relative));
                took.Add(("page", one.Elapsed.TotalMilliseconds));
            }
            else
            {
                using var touch = Form(page, ("Act", touches[i % touches.Count]));
                using var answer = await client.PostAsync(new Uri($"/practice/bench/{tag}", UriKind.Relative), touch);
                if (answer.StatusCode != HttpStatusCode.OK)
                    throw new InvalidOperationException($"{touches[i % touches.Count]}: {answer.StatusCode}");
                await answer.Content.ReadAsStringAsync();
                took.Add(("picture", one.Elapsed.TotalMilliseconds));
            }
            if (Between - one.Elapsed is { Ticks: > 0 } rest)
                await Task.Delay(rest);
        }
        return took;
    }

    private static FormUrlEncodedContent Form(string page, (string Name, string Value) field) =>
        new([
            KeyValuePair.Create(field.Name, field.Value),
            KeyValuePair.Create("__RequestVerificationToken", Token().Match(page).Groups["token"].Value),
        ]);

    [GeneratedRegex(
        "name=\"__RequestVerificationToken\" type=\"hidden\" value=\"(?<token>[^\"]+)",
        RegexOptions.ExplicitCapture,
        matchTimeoutMilliseconds: 5000
    )]
    private static partial Regex Token();
}
