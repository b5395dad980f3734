using System.Globalization;
using System.Net;
using System.Text;
using System.Text.RegularExpressions;

namespace Uncial.Web.Tests;

/// <summary>
/// Asks the pages for what no browser would: forms that it finds on the pages, with fields that hold what nobody types, handlers that there
/// are not, queries of every kind. From a seed, so that what is found is found again. Used by ./test (a short one) and by bench/attack.
/// </summary>
internal sealed partial class PageFuzz(Uri address, int seed)
{
    /// <summary>Where it begins to look.</summary>
    private static readonly string[] Roots =
    [
        "/",
        "/logbook",
        "/book",
        "/gauges",
        "/lathes",
        "/adapters",
        "/techniques",
        "/check",
        "/files",
        "/figures",
        "/receive",
        "/own-pin",
        "/people",
        "/shop",
        "/measure/TQB5P",
        "/measure/TQA4R",
        "/mount/TQB4T",
        "/plan/TQB4T",
        "/plan/TQB2R",
        "/cut/TQB2R",
        "/cut/TQB3S",
        "/confirm/TQA7P",
        "/confirm/TQA8Q",
        "/release/TQA7P",
        "/look/TQB7R/1",
        "/receive/2418",
        "/receive/2418/TQB6Q",
        "/part/TQA2P",
        "/part/TQA2P?do=back",
        "/tag/TQA2P",
        "/certificate/TQA2P",
        "/proof",
        "/logbook.csv",
        "/shelf",
        "/shelf.csv",
        "/book.csv",
        "/lengths/echo?text=24.31&unit=mm",
        "/times/echo?text=Tue%209",
        "/scan?code=TQA5S",
        "/gauges/1/echo?start=203.2&text=1",
        "/markings/echo?text=MIN%20TH%2022",
        "/files/job/2410",
        "/photos/1",
        "/gauges?edit=true",
        "/lathes?edit=true",
        "/part/TQC7T?do=back",
        "/proof/0123456789abcdef",
        "/news?x=1",
    ];

    private static readonly string[] Nasty =
    [
        "",
        " ",
        "0",
        "-1",
        "1",
        "24.31",
        "24,31",
        "8 7/8",
        "1e400",
        "79228162514264337593543950335",
        "-79228162514264337593543950335",
        "0.0000000000000000000000000001",
        "9999999999",
        "2147483648",
        "-2147483649",
        "NaN",
        "Infinity",
        "٢٤",
        "２４.３１",
        "MIN TH ٢٢",
        "MAX DIA 1e9",
        "\0",
        "a\0b",
        "\uD800",
        "x\uDC00y",
        "<script>",
        "'; drop table parts; --",
        "../../etc/passwd",
        "//evil.example",
        "true",
        "on",
        "Crack",
        "Release",
        "2026-13-45",
        "2026-11-28T25:00",
        "0001-01-01T00:00",
        "9999-12-31T23:59",
        "{}",
        "[]",
        "[1,2",
        "null",
        "R,1,1",
        "1,1,1;2,2,2",
        "999999999999,0,1",
        "TQB5P",
        "TQA2P",
        "mm",
        "in",
        "Rotor",
        "Drum",
        "00000000-0000-0000-0000-000000000000",
        "not-a-guid",
        "%00",
        "💥💥💥",
        "\u202Ereversed",
    ];

    private readonly Random chance = new(seed);
    private readonly Dictionary<(string Page, string Action), List<string>> forms = [];
    private readonly HashSet<string> links = [.. Roots];
    private readonly SortedDictionary<int, int> codes = [];
    private string? token;

    /// <summary>Requests made so far.</summary>
    public int Tries { get; private set; }

    /// <summary>Times that somebody had to sign in again.</summary>
    public int SignIns { get; private set; }

    /// <summary>Requests that were answered with a fault of the server.</summary>
    public List<string> Faults { get; } = [];

    [GeneratedRegex(
        """<form(?<tag>[^>]*method="post"[^>]*)>(?<inside>.*?)</form>""",
        RegexOptions.Singleline | RegexOptions.ExplicitCapture
    )]
    private static partial Regex Form();

    /// <summary>Where a form goes, and where each of its buttons sends it instead.</summary>
    [GeneratedRegex("""\s(?:form)?action="([^"]*)""")]
    private static partial Regex Action();

    [GeneratedRegex("""\sname="([^"]+)""")]
    private static partial Regex Field();

    [GeneratedRegex("""href="(/[^"#]*)""")]
    private static partial Regex Link();

    /// <summary>Makes so many requests as somebody who is signed in.</summary>
    public async Task RunAsync(HttpPerson person, int requests)
    {
        foreach (var root in Roots.Where(r => !r.StartsWith("/news", StringComparison.Ordinal)))
            await LookAsync(person, root);
        while (Tries < requests)
        {
            switch (chance.Next(10))
            {
                case < 6 when forms.Count > 0:
                    await PostAsync(person);
                    break;
                case < 9:
                    await QueryAsync(person);
                    break;
                default:
                    await LookAsync(person, Pick([.. links]));
                    break;
            }
        }
    }

    private async Task LookAsync(HttpPerson person, string path)
    {
        if (path.StartsWith("/news", StringComparison.Ordinal))
            return;
        var (code, text, _) = await CountAsync(path, () => person.GetAsync(path));
        if (code != HttpStatusCode.OK || links.Count > 400)
            return;
        foreach (Match form in Form().Matches(text))
        {
            List<string> fields =
            [
                .. Field()
                    .Matches(form.Groups["inside"].Value)
                    .Select(f => f.Groups[1].Value)
                    .Where(f => f != "__RequestVerificationToken")
                    .Distinct(),
            ];
            foreach (var action in Action().Matches(form.Value).Select(a => a.Groups[1].Value).DefaultIfEmpty(path))
            {
                var to = action.StartsWith('?') ? path.Split('?')[0] + action : action;
                // What ends the session or the screen leaves nothing to ask for: the tests of people do that.
                if (!to.Contains("SignOut", StringComparison.Ordinal) && !to.Contains("RetireScreen", StringComparison.Ordinal))
                    forms[(path, to)] = fields;
            }
        }
        foreach (Match link in Link().Matches(text))
            links.Add(WebUtility.HtmlDecode(link.Groups[1].Value));
    }

    private async Task PostAsync(HttpPerson person)
    {
        var ((page, action), fields) = Pick([.. forms]);
        var to =
            chance.Next(12) == 0
                ? action.Split('?')[0]
                    + "?handler="
                    + Uri.EscapeDataString(Pick(["Nothing", "keep", "", "Withdraw", "Draft", "Try", "Undo", "Gauge"]))
                : action;
        List<(string, string)> sent = [.. fields.Where(_ => chance.Next(8) > 0).Select(f => (f, Value()))];
        if (chance.Next(6) == 0)
            sent.Add(
                (
                    Pick([
                        "Turn",
                        "at",
                        "depth",
                        "surface",
                        "reading",
                        "finding",
                        "Key",
                        "Figures[Nothing]",
                        "Values[",
                        "Typed[x]",
                        "Passes",
                        "technique",
                        "values",
                        "of",
                    ]),
                    Value()
                )
            );
        if (token is null && await TokenAsync(person) is var fresh && fresh is not null)
            token = fresh;
        var answer = await CountAsync($"POST {to} {string.Join('&', sent)}", () => person.PostWithAsync(to, sent, token ?? ""));
        if (answer.Code == HttpStatusCode.BadRequest)
            token = null;
    }

    /// <summary>What was sent may have ended the session: then somebody signs in again.</summary>
    private async Task<string?> TokenAsync(HttpPerson person)
    {
        if ((await person.GetAsync("/own-pin")).Code != HttpStatusCode.OK)
        {
            await person.PostAsync("/SignIn?handler=Pin", [("Who", "marit"), ("Pin", "9051")], "/SignIn");
            SignIns++;
        }
        try
        {
            return await person.TokenAsync("/own-pin");
        }
        catch (HttpRequestException)
        {
            return null;
        }
    }

    private async Task QueryAsync(HttpPerson person)
    {
        var path = Pick([.. links]).Split('?')[0];
        if (path.StartsWith("/news", StringComparison.Ordinal))
            return;
        var names = new[]
        {
            "at",
            "depth",
            "technique",
            "passes",
            "sheet",
            "move",
            "lift",
            "add",
            "visit",
            "do",
            "as",
            "find",
            "state",
            "by",
            "day",
            "from",
            "to",
            "page",
            "id",
            "edit",
            "handler",
            "start",
            "text",
            "part",
            "who",
            "returnUrl",
            "step",
            "lathe",
            "loaded",
            "kept",
        };
        var query = string.Join('&', Enumerable.Range(0, chance.Next(1, 4)).Select(_ => Pick(names) + "=" + Escape(Value())));
        await CountAsync($"GET {path}?{query}", () => person.GetAsync($"{path}?{query}"));
    }

    private async Task<(HttpStatusCode Code, string Text, string? To)> CountAsync(
        string what,
        Func<Task<(HttpStatusCode Code, string Text, string? To)>> ask
    )
    {
        Tries++;
        try
        {
            var started = System.Diagnostics.Stopwatch.GetTimestamp();
            var answer = await ask();
            codes[(int)answer.Code] = codes.GetValueOrDefault((int)answer.Code) + 1;
            if (answer.To?.Contains("/SignIn", StringComparison.Ordinal) == true)
                token = null;
            if ((int)answer.Code >= 500)
                Faults.Add(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"{(int)answer.Code} after {System.Diagnostics.Stopwatch.GetElapsedTime(started).TotalSeconds:0.0} s, "
                            + $"request {Tries}: {what}"
                    )
                );
            return answer;
        }
        catch (HttpRequestException e)
        {
            // No answer at all: another kind of fault.
            Faults.Add($"{e.Message} at {what}");
        }
        catch (InvalidOperationException) { } // no address
        return (HttpStatusCode.BadRequest, "", null);
    }

    private string Value() =>
        chance.Next(12) switch
        {
            0 => new string((char)chance.Next('a', 'z'), chance.Next(100, 5000)),
            1 => chance.Next(-3, 70).ToString(CultureInfo.InvariantCulture),
            2 => new string([.. Enumerable.Range(0, chance.Next(1, 30)).Select(_ => (char)chance.Next(1, 0x300))]),
            _ => Pick(Nasty),
        };

    /// <summary>Escaped as it is, halves of letters and all.</summary>
    private static string Escape(string text) =>
        string.Concat(
            Encoding
                .UTF8.GetBytes(text)
                .Select(b => b is >= (byte)'0' and <= (byte)'9' or >= (byte)'a' and <= (byte)'z' ? ((char)b).ToString() : $"%{b:X2}")
        );

    private T Pick<T>(T[] from) => from[chance.Next(from.Length)];

    public override string ToString() =>
        $"{address} seed {seed}: {Tries} requests, {Faults.Count} faults, {SignIns} times signed in again, by code "
        + string.Join(", ", codes.Select(c => $"{c.Key}: {c.Value}"))
        + string.Concat(Faults.Select(f => "\nfault: " + f));
}
