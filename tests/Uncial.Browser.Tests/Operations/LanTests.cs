using System.Diagnostics;
using System.Net;
using System.Net.Security;
using System.Net.Sockets;
using System.Security.Cryptography.X509Certificates;
using OpenQA.Selenium;
using Uncial.Web.Network;

namespace Uncial.Browser.Tests;

/// <summary>The shop on its network: how a tablet comes to trust it, and what is kept from others.</summary>
public sealed class LanTests : IDisposable
{
    private const string Name = "brakes.test";
    private readonly StartCommand command = new();

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private int Plain => command.Port + 1;

    public void Dispose() => command.Dispose();

    /// <summary>Asks over TLS as a program that trusts the authority and nothing else.</summary>
    private async Task<HttpResponseMessage> AskAsync(X509Certificate2 authority, string path, string host = Name)
    {
        // The stream under HTTP is encrypted already, so that the request may name any host.
        using var handler = new SocketsHttpHandler
        {
            AllowAutoRedirect = false,
            UseCookies = false,
            ConnectCallback = async (_, cancel) =>
            {
                var socket = new Socket(SocketType.Stream, ProtocolType.Tcp);
                await socket.ConnectAsync(IPAddress.Loopback, command.Port, cancel);
                var encrypted = new SslStream(new NetworkStream(socket, ownsSocket: true));
                await encrypted.AuthenticateAsClientAsync(
                    new SslClientAuthenticationOptions
                    {
                        TargetHost = Name,
                        CertificateChainPolicy = new()
                        {
                            TrustMode = X509ChainTrustMode.CustomRootTrust,
                            CustomTrustStore = { authority },
                            RevocationMode = X509RevocationMode.NoCheck,
                        },
                    },
                    cancel
                );
                return encrypted;
            },
        };
        using var caller = new HttpClient(handler);
        return await caller.GetAsync(new Uri($"http://{host}:{command.Port}{path}"), Cancel);
    }

    [Fact]
    public async Task A_tablet_comes_to_trust_the_shop_and_reads_a_rotor_through_a_lost_network()
    {
        var (process, said) = await command.StartAsync(
            "Ctrl-C stops it",
            "--lan",
            "--name",
            Name,
            "--plain-port",
            $"{Plain}",
            "--proxy",
            "127.0.0.1"
        );
        using var authority = X509CertificateLoader.LoadCertificateFromFile(Path.Combine(command.Data, "tls", "authority.crt"));
        var fingerprint = ShopAuthority.Fingerprint(authority).Replace(':', ' ');
        string.Join(' ', said.Select(l => l.Trim())).ShouldContain(fingerprint);
        said.ShouldContain(l => l.Contains($"open on https://{Name}:{command.Port}", StringComparison.Ordinal));

        // Without TLS there is one page, and the file that it is about.
        using (var caller = new HttpClient(new HttpClientHandler { AllowAutoRedirect = false }))
        {
            Uri At(string path) => new($"http://127.0.0.1:{Plain}{path}");
            var page = await caller.GetStringAsync(At("/"), Cancel);
            foreach (var pairs in fingerprint.Split(' ').Chunk(8))
                page.ShouldContain(string.Join(' ', pairs));
            page.ShouldContain($"https://{Name}:{command.Port}");
            using (var file = X509CertificateLoader.LoadCertificate(await caller.GetByteArrayAsync(At("/authority.crt"), Cancel)))
                file.ShouldBe(authority);
            foreach (var path in new[] { "/SignIn", "/health", "/api/v1/judge", "/practice", "/tls/server.pem" })
                (await caller.GetAsync(At(path), Cancel)).Headers.Location?.OriginalString.ShouldBe("/", path);
            using var typed = new FormUrlEncodedContent([new("Pin", "2417")]);
            (await caller.PostAsync(At("/SignIn?handler=Pin"), typed, Cancel)).Headers.Location?.OriginalString.ShouldBe("/");
        }

        // Over TLS: for a week nothing else, no cookie that would go out without it, and for no host but those of the certificate.
        using (var answer = await AskAsync(authority, "/SignIn"))
        {
            answer.StatusCode.ShouldBe(HttpStatusCode.OK);
            answer.Headers.GetValues("Strict-Transport-Security").ShouldBe(["max-age=604800"]);
            answer.Headers.GetValues("Set-Cookie").ShouldAllBe(c => c.Contains("; secure", StringComparison.OrdinalIgnoreCase));
        }
        using (var answer = await AskAsync(authority, "/SignIn", "brakes.example"))
            answer.StatusCode.ShouldBe(HttpStatusCode.BadRequest);

        // What serves has the certificate, and not the key of the authority.
        using (var application = command.Application())
        {
            var seen = $"/proc/{application.Id}/root{command.Data}/tls";
            File.Exists(Path.Combine(command.Data, "tls", "authority", "authority.key")).ShouldBeTrue();
            // Where the system lets no program run apart, the start says so.
            var isApart = !said.Exists(l => l.Contains("lies open to what serves", StringComparison.Ordinal));
            if (isApart && Environment.IsPrivilegedProcess)
            {
                File.Exists($"{seen}/server.pem").ShouldBeTrue();
                Directory.GetFileSystemEntries($"{seen}/authority").ShouldBeEmpty();
            }
        }

        // The browser finds what it trusts in the home of its user.
        var home = Path.Combine(command.Data, "tablet");
        var trusted = Directory.CreateDirectory(Path.Combine(home, ".pki", "nssdb")).FullName;
        await Certutil("-d", $"sql:{trusted}", "-N", "--empty-password");
        await Certutil("-d", $"sql:{trusted}", "-A", "-n", "shop", "-t", "C,,", "-i", Path.Combine(command.Data, "tls", "authority.crt"));
        using var tablet = new Screen(new($"https://{Name}:{command.Port}"), home);
        // As the proxy says, it stands elsewhere in the shop: a lead has to enrol it.
        tablet.Driver.ExecuteCdpCommand("Network.enable", []);
        tablet.Driver.ExecuteCdpCommand(
            "Network.setExtraHTTPHeaders",
            new Dictionary<string, object?>
            {
                ["headers"] = new Dictionary<string, object?> { ["X-Forwarded-For"] = "192.168.7.20", ["X-Forwarded-Proto"] = "https" },
            }
        );
        tablet.Go("/SignIn");
        tablet.UntilHeading("Enrol this screen");
        tablet.Fill("Where this screen stands", "Bench tablet");
        tablet.TabTo("Ines Varga");
        tablet.Press(Keys.Enter);
        tablet.UntilText("PIN of Ines Varga");
        tablet.Value("ScreenName").ShouldBe("Bench tablet");
        tablet.Fill("PIN of Ines Varga", "2417");
        tablet.Send(By.Name("Pin"), Keys.Enter);
        tablet.UntilHeading("Pick your name");
        tablet.SignInByKeyboard("Ines Varga", "2417");

        tablet.Go("/measure/TQB5P");
        tablet.UntilHeading("Read at 4½");
        tablet.Until(
            () => tablet.Driver.ExecuteScript("return Boolean(navigator.serviceWorker?.controller)") is true,
            "the service worker"
        );
        tablet.Until(
            () => tablet.Driver.FindElement(By.CssSelector("[data-live-word]")).Text.EndsWith("mm", StringComparison.Ordinal),
            "what the gauge shows, sent by the server"
        );
        tablet.Offline(true);
        foreach (var (size, next) in new[] { ("27.55", "6 "), ("27.56", "7½") })
        {
            tablet.Enter(size);
            tablet.UntilHeading("Read at " + next);
        }
        tablet.UntilText("27.56 waits");
        tablet.Offline(false);
        tablet.Until(() => !tablet.Driver.FindElement(By.CssSelector("[data-outbox]")).Displayed, "what waited gone in by itself");
        tablet.Go("/measure/TQB5P");
        tablet.UntilHeading("Read at 7½");

        // The printed sheet, and what a code leads to: the address of the shop, whatever the page was opened under.
        tablet.Go("/tablets");
        tablet.UntilText(fingerprint.Split(' ')[0]);
        tablet.IsAccessible();
        tablet.Go("/tag/TQA7P");
        tablet.Driver.FindElement(By.CssSelector($".qr[aria-label*='https://{Name}:{command.Port}/']")).Displayed.ShouldBeTrue();
        tablet.Go("/trust");
        tablet.Until(() => tablet.Driver.FindElement(By.CssSelector(".fingerprint")).Displayed, "the fingerprint");
        tablet.IsAccessible();

        await Process.Start("kill", ["-TERM", $"{process.Id}"]).WaitForExitAsync(Cancel);
        await process.WaitForExitAsync(Cancel);
        process.ExitCode.ShouldBe(0);
        // Somebody gave the machine another name: nothing is made anew behind the tablets' back.
        var (code, refused) = await command.RunAsync("--lan", "--port", $"{command.Port}", "--name", "lathe.test");
        code.ShouldBe(1);
        refused.ShouldContain("does not vouch for lathe.test");
    }

    private static async Task Certutil(params string[] arguments)
    {
        using var process = Process.Start("certutil", arguments);
        await process.WaitForExitAsync(Cancel);
        process.ExitCode.ShouldBe(0);
    }
}
