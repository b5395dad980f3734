using System.Net;
using System.Text.RegularExpressions;

namespace Uncial.Testing;

/// <summary>Somebody who uses the pages without a browser: cookies, the form's token, and what stands at the fields.</summary>
public sealed partial class HttpPerson : IDisposable
{
    private readonly HttpClientHandler handler;
    private readonly HttpClient client;

    public HttpPerson(Uri address, CookieContainer? cookies = null, string? accept = null)
    {
        handler = new() { AllowAutoRedirect = false, CookieContainer = cookies ?? new() };
        client = new(handler) { BaseAddress = address };
        if (accept is not null)
            client.DefaultRequestHeaders.Accept.ParseAdd(accept);
    }

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    public CookieContainer Cookies => handler.CookieContainer;

    [GeneratedRegex("""name="__RequestVerificationToken" type="hidden" value="([^"]+)""")]
    private static partial Regex Token();

    public async Task<(HttpStatusCode Code, string Text, string? To)> GetAsync(string path)
    {
        using var answer = await client.GetAsync(new Uri(path, UriKind.RelativeOrAbsolute), Cancel);
        return (
            answer.StatusCode,
            WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync(Cancel)),
            answer.Headers.Location?.ToString()
        );
    }

    /// <summary>Posts a form of a page; the token comes from that page, or from another that has one.</summary>
    public async Task<(HttpStatusCode Code, string Text, string? To)> PostAsync(
        string path,
        IEnumerable<(string Name, string Value)> fields,
        string? tokenFrom = null
    )
    {
        return await PostWithAsync(path, fields, await TokenAsync(tokenFrom ?? path.Split('?')[0]));
    }

    /// <summary>The form's token that a page hands out.</summary>
    public async Task<string> TokenAsync(string page) =>
        Token().Match(await client.GetStringAsync(new Uri(page, UriKind.Relative), Cancel)).Groups[1].Value;

    /// <summary>Posts with a token that was fetched before.</summary>
    public async Task<(HttpStatusCode Code, string Text, string? To)> PostWithAsync(
        string path,
        IEnumerable<(string Name, string Value)> fields,
        string token,
        string? header = null
    )
    {
        using var form = new FormUrlEncodedContent([
            .. fields.Select(f => KeyValuePair.Create(f.Name, f.Value)),
            KeyValuePair.Create("__RequestVerificationToken", token),
        ]);
        using var request = new HttpRequestMessage(HttpMethod.Post, new Uri(path, UriKind.Relative)) { Content = form };
        if (header is not null)
            request.Headers.Add(header, "1");
        using var answer = await client.SendAsync(request, Cancel);
        return (
            answer.StatusCode,
            WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync(Cancel)),
            answer.Headers.Location?.ToString()
        );
    }

    /// <summary>Posts a file, as a form with one field.</summary>
    public async Task<(HttpStatusCode Code, string Text, string? To)> PostFileAsync(
        string path,
        string field,
        string content,
        string tokenFrom
    )
    {
        using var form = new MultipartFormDataContent
        {
            { new StringContent(await TokenAsync(tokenFrom)), "__RequestVerificationToken" },
            { new StringContent(content), field, "file.json" },
        };
        using var answer = await client.PostAsync(new Uri(path, UriKind.Relative), form, Cancel);
        return (
            answer.StatusCode,
            WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync(Cancel)),
            answer.Headers.Location?.ToString()
        );
    }

    public async Task<HttpPerson> SignInAsync(string user, string pin)
    {
        (await PostAsync("/SignIn?handler=Pin", [("Who", user), ("Pin", pin)])).Code.ShouldBe(HttpStatusCode.Found, user);
        return this;
    }

    /// <summary>Signs in who has this name on the page.</summary>
    public async Task SignInByNameAsync(string name, string pin)
    {
        var page = (await GetAsync("/SignIn")).Text;
        var tile = page[..page.IndexOf(name, StringComparison.Ordinal)];
        await SignInAsync(Tile().Matches(tile)[^1].Groups["user"].Value, pin);
    }

    [GeneratedRegex("""value="(?<user>[^"]+)""")]
    private static partial Regex Tile();

    public void Dispose()
    {
        client.Dispose();
        handler.Dispose();
    }
}
