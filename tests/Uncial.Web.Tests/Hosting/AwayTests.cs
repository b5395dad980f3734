using System.Net;
using Npgsql;

namespace Uncial.Web.Tests.Hosting;

/// <summary>The database is away while the application answers: each page says so in words, and all goes on by itself.</summary>
public sealed class AwayTests : IAsyncLifetime
{
    private readonly AwayShop shop = new();

    private sealed class AwayShop : RunningShop;

    public ValueTask InitializeAsync() => shop.InitializeAsync();

    public async ValueTask DisposeAsync() => await shop.DisposeAsync();

    /// <summary>Nobody but the administrator gets in, or all do again.</summary>
    private async Task LetInAsync(bool all)
    {
        await using var source = NpgsqlDataSource.Create(RunningShop.ConnectionTo("postgres"));
        var name = new NpgsqlConnectionStringBuilder(shop.Connection).Database;
        await using var change = source.CreateCommand(
            $"alter database {name} allow_connections {all}; "
                + $"select pg_terminate_backend(pid) from pg_stat_activity where datname = '{name}' and not {all}"
        );
        await change.ExecuteNonQueryAsync(TestContext.Current.CancellationToken);
    }

    [Fact]
    public async Task Pages_say_that_the_database_is_away_and_come_back_with_it()
    {
        using var tom = await new HttpPerson(shop.Address, accept: "text/html").SignInAsync("tom", "1304");
        using var stranger = new HttpPerson(shop.Address, accept: "text/html");
        await LetInAsync(all: false);
        foreach (var (person, path) in new[] { (tom, "/measure/TQB5P"), (tom, "/"), (stranger, "/SignIn") })
        {
            var answer = await person.GetAsync(path);
            answer.Code.ShouldBe(HttpStatusCode.ServiceUnavailable, path);
            answer.Text.ShouldContain("The database is away", customMessage: path);
        }
        await LetInAsync(all: true);
        // A connection that was broken meanwhile is found out when it is used.
        await StartCommand.UntilAsync(
            async () => (await tom.GetAsync("/measure/TQB5P")).Code == HttpStatusCode.OK,
            "the page, without anybody doing anything"
        );
    }
}
