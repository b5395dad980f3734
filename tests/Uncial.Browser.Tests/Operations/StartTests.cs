using System.Diagnostics;
using System.Net;
using OpenQA.Selenium;

namespace Uncial.Browser.Tests;

/// <summary>The start command as a person uses it, and what it makes of programs that are killed under it.</summary>
public sealed class StartTests : IDisposable
{
    private readonly StartCommand command = new();

    private string Data => command.Data;

    private async Task<HttpStatusCode> Health()
    {
        using var caller = new HttpClient();
        return (
            await caller.GetAsync(new Uri($"http://127.0.0.1:{command.Port}/health"), TestContext.Current.CancellationToken)
        ).StatusCode;
    }

    [Fact]
    public async Task It_opens_once_comes_again_after_any_kill_and_stops_clean()
    {
        var (first, said) = await command.StartAsync("Ctrl-C stops it");
        said.ShouldContain(l => l.Contains("Ines Varga 2417"));
        (await Health()).ShouldBe(HttpStatusCode.OK);
        var (second, _) = await command.StartAsync("is running already");
        await second.WaitForExitAsync(TestContext.Current.CancellationToken);
        second.ExitCode.ShouldBe(0);
        (await Health()).ShouldBe(HttpStatusCode.OK);

        // The database is killed under it: it is started again, and the application goes on by itself.
        using (var person = await new HttpPerson(new($"http://127.0.0.1:{command.Port}")).SignInAsync("ines", "2417"))
        {
            await command.KillDatabaseAsync();
            async Task<bool> Answers() => (await person.GetAsync("/part/TQA2P")).Code == HttpStatusCode.OK;
            await StartCommand.UntilAsync(
                () =>
                {
                    lock (said)
                        return Task.FromResult(said.Exists(l => l.Contains("starting it again", StringComparison.Ordinal)));
                },
                "the database being started again"
            );
            await StartCommand.UntilAsync(Answers, "a page of the application again");
            (await Health()).ShouldBe(HttpStatusCode.OK);
        }
        await Process.Start("kill", ["-TERM", $"{first.Id}"]).WaitForExitAsync(TestContext.Current.CancellationToken);
        await first.WaitForExitAsync(TestContext.Current.CancellationToken);
        first.ExitCode.ShouldBe(0);

        var (third, saidAgain) = await command.StartAsync("Ctrl-C stops it");
        saidAgain.ShouldContain(l => l.Contains("Ines Varga 2417"));
        // Somebody reads a rotor with a played gauge when the application is killed: start ends, stops the database, and says how to go on.
        using var screen = new Screen(new($"http://127.0.0.1:{command.Port}"));
        screen.SignIn("Tom Okoro", "1304");
        screen.Go("/measure/TQB5P");
        screen.UntilHeading("Read at 4½");
        using (
            var player = new HttpClient
            {
                BaseAddress = new($"http://127.0.0.1:{command.Port + 10}"),
                DefaultRequestHeaders = { { "X-Simulator", "1" } },
            }
        )
        {
            screen.Until(
                () => screen.Driver.FindElement(By.CssSelector("[data-live-word]")).Text.EndsWith("mm", StringComparison.Ordinal),
                "the played gauge connected"
            );
            foreach (var what in new[] { "turn?to=27.534", "send" })
                (
                    await player.PostAsync(new Uri($"/gauges/0/{what}", UriKind.Relative), null, TestContext.Current.CancellationToken)
                ).EnsureSuccessStatusCode();
        }
        screen.UntilHeading("Read at 6 ");
        command.KillApplication();
        await third.WaitForExitAsync(TestContext.Current.CancellationToken);
        third.ExitCode.ShouldNotBe(0);
        foreach (var (size, next) in new[] { ("27.55", "7½"), ("27.56", "9 ") })
        {
            screen.Enter(size);
            screen.UntilHeading("Read at " + next);
        }
        screen.UntilText("27.56 waits");

        var (last, _) = await command.StartAsync("Ctrl-C stops it");
        (await Health()).ShouldBe(HttpStatusCode.OK);
        screen.Until(() => !screen.Driver.FindElement(By.CssSelector("[data-outbox]")).Displayed, "what waited gone in by itself");
        screen.UntilHeading("Read at 9 ");
        screen.UntilText("27.56");
        // Backed up while it works, and what must not be done meanwhile is refused.
        var backup = Path.Combine(Data, "shop.backup");
        (await command.RunAsync("--backup", backup)).ShouldSatisfyAllConditions(
            r => r.Said.ShouldContain("Backed up into"),
            r => r.Code.ShouldBe(0)
        );
        (await command.RunAsync("--restore", backup)).ShouldSatisfyAllConditions(
            r => r.Said.ShouldContain("stop it first"),
            r => r.Code.ShouldBe(1)
        );
        screen.Enter("27.5713");
        screen.UntilHeading("Read at 10½");
        await Process.Start("kill", ["-TERM", $"{last.Id}"]).WaitForExitAsync(TestContext.Current.CancellationToken);
        await last.WaitForExitAsync(TestContext.Current.CancellationToken);
        last.ExitCode.ShouldBe(0);
        await Should.ThrowAsync<HttpRequestException>(Health);

        // Brought back, it is as it was then: what came in before is there, what came after is not, and every chain holds.
        var export = Path.Combine(Data, "shop.jsonl");
        (await command.RunAsync("--restore", export + "x")).Code.ShouldBe(1);
        (await command.RunAsync("--export", export)).Code.ShouldBe(0);
        (await File.ReadAllTextAsync(export, TestContext.Current.CancellationToken)).ShouldContain("\"typed\": \"27.5713\"");
        (await command.RunAsync("--restore", export)).ShouldSatisfyAllConditions(
            r => r.Said.ShouldContain("is no backup"),
            r => r.Code.ShouldBe(1)
        );
        (await command.RunAsync("--restore", backup)).ShouldSatisfyAllConditions(
            r => r.Said.ShouldContain("Restored from"),
            r => r.Code.ShouldBe(0)
        );
        (await command.RunAsync("--verify")).ShouldSatisfyAllConditions(
            r => r.Said.ShouldContain("every chain holds"),
            r => r.Code.ShouldBe(0)
        );
        (await command.RunAsync("--export", export)).Code.ShouldBe(0);
        (await File.ReadAllTextAsync(export, TestContext.Current.CancellationToken)).ShouldSatisfyAllConditions(
            t => t.ShouldContain("\"typed\": \"27.56\""),
            t => t.ShouldNotContain("\"typed\": \"27.5713\"")
        );
    }

    public void Dispose() => command.Dispose();
}
