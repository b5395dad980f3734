using System.Diagnostics;
using System.Text.RegularExpressions;

namespace Uncial.PageBench;

/// <summary>How soon a fact that is saved on one screen moves the board on ten others.</summary>
internal sealed partial class LiveBoard(HttpClient client)
{
    private const int Screens = 10,
        Facts = 30;

    [GeneratedRegex("name=\"__RequestVerificationToken\" type=\"hidden\" value=\"(?<token>[^\"]+)", RegexOptions.ExplicitCapture, 5000)]
    private static partial Regex Token { get; }

    [GeneratedRegex("data-job='(?<job>[0-9]+)'", RegexOptions.ExplicitCapture, 5000)]
    private static partial Regex Job { get; }

    /// <summary>Marks jobs urgent and not urgent, one after the other, and times each until ten screens have the page with it.</summary>
    public async Task ShowAsync(int parts)
    {
        using var stop = new CancellationTokenSource();
        var told = new TaskCompletionSource[Screens];
        var screens = Enumerable.Range(0, Screens).Select(s => ListenAsync(s, told, stop.Token)).ToList();
        await Task.Delay(3000, stop.Token);
        var page = await GetAsync();
        var (token, job) = (Token.Match(page).Groups[1].Value, Job.Match(page).Groups[1].Value);
        List<double> answered = [],
            heard = [],
            shown = [];
        for (var n = 0; n < Facts; n++)
        {
            for (var s = 0; s < Screens; s++)
                told[s] = new(TaskCreationOptions.RunContinuationsAsynchronously);
            var from = Stopwatch.GetTimestamp();
            using var form = new FormUrlEncodedContent([
                new("JobId", job),
                new("urgent", n % 2 == 0 ? "true" : "false"),
                new("__RequestVerificationToken", token),
            ]);
            using (var answer = await client.PostAsync(new Uri("/?handler=Urgent", UriKind.Relative), form, stop.Token))
                if ((int)answer.StatusCode != 302)
                    throw new InvalidOperationException($"The job is not marked: {answer.StatusCode}.");
            answered.Add(Stopwatch.GetElapsedTime(from).TotalMilliseconds);
            await Task.WhenAll(
                told.Select(async t =>
                {
                    await t.Task;
                    lock (heard)
                        heard.Add(Stopwatch.GetElapsedTime(from).TotalMilliseconds);
                    await GetAsync();
                    lock (shown)
                        shown.Add(Stopwatch.GetElapsedTime(from).TotalMilliseconds);
                })
            );
            await Task.Delay(400, stop.Token);
        }
        await stop.CancelAsync();
        await Task.WhenAll(screens);
        Console.WriteLine($"{parts} parts in the shop, {Screens} screens, {Facts} facts; ms from the key until:");
        Say("the one who marks it has an answer", answered);
        Say("a screen hears of the new board", heard);
        Say("a screen has the page with it", shown);
    }

    private static void Say(string what, List<double> times)
    {
        times.Sort();
        Console.WriteLine(
            $"{what, -36}median {times[times.Count / 2], 6:0}, 90 % {times[times.Count * 9 / 10], 6:0}, longest {times[^1], 6:0}"
        );
    }

    private Task<string> GetAsync() => client.GetStringAsync(new Uri("/", UriKind.Relative));

    private async Task ListenAsync(int screen, TaskCompletionSource[] told, CancellationToken stop)
    {
        try
        {
            await using var news = await client.GetStreamAsync(new Uri("/news?board=true", UriKind.Relative), stop);
            using var lines = new StreamReader(news);
            while (await lines.ReadLineAsync(stop) is { } line)
                if (line == "event: board")
                    told[screen]?.TrySetResult();
        }
        catch (OperationCanceledException) { }
    }
}
