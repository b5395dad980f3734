using System.Collections.Concurrent;
using System.Net;
using System.Text;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Http;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Logging;

namespace Uncial.Web.Tests;

/// <summary>A shop that is looked after: it logs into files, and sends traces and metrics to a collector that this stands in for.</summary>
public sealed class WatchedShop : RunningShop
{
    private readonly WebApplication collector;

    public WatchedShop()
    {
        var builder = WebApplication.CreateSlimBuilder();
        builder.WebHost.UseUrls("http://127.0.0.1:0");
        builder.Logging.ClearProviders();
        collector = builder.Build();
        collector.MapPost("/v1/{kind}", async (string kind, HttpRequest request) =>
        {
            using var sent = new MemoryStream();
            await request.Body.CopyToAsync(sent);
            Sent.AddOrUpdate(kind, _ => Encoding.Latin1.GetString(sent.ToArray()), (_, b) => b + Encoding.Latin1.GetString(sent.ToArray()));
        });
        collector.StartAsync().GetAwaiter().GetResult();
    }

    /// <summary>What was sent, by traces and metrics.</summary>
    public ConcurrentDictionary<string, string> Sent { get; } = [];

    public string Logs { get; } = Directory.CreateTempSubdirectory("uncial-logs").FullName;

    protected override void ConfigureWebHost(IWebHostBuilder builder)
    {
        base.ConfigureWebHost(builder);
        builder.UseSetting("Logs:Folder", Logs);
        builder.UseSetting("OTEL_EXPORTER_OTLP_ENDPOINT", collector.Urls.Single());
        builder.UseSetting("OTEL_EXPORTER_OTLP_PROTOCOL", "http/protobuf");
        builder.UseSetting("OTEL_METRIC_EXPORT_INTERVAL", "200");
        builder.UseSetting("OTEL_BSP_SCHEDULE_DELAY", "200");
    }

    public override async ValueTask DisposeAsync()
    {
        await base.DisposeAsync();
        await collector.DisposeAsync();
        Directory.Delete(Logs, recursive: true);
    }
}

public partial class TelemetryTests(WatchedShop shop) : IClassFixture<WatchedShop>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task The_number_on_the_page_of_a_fault_is_in_the_log_with_who_and_where()
    {
        using var ines = await new HttpPerson(shop.Address).SignInAsync("ines", "2417");
        await using var db = shop.Db();
        await db.Database.ExecuteSqlRawAsync("alter table book rename to book_away", Cancel);
        var (code, text, _) = await ines.GetAsync("/book");
        await db.Database.ExecuteSqlRawAsync("alter table book_away rename to book", Cancel);
        code.ShouldBe(HttpStatusCode.InternalServerError);
        var number = Number().Match(text).Value;
        number.ShouldNotBeEmpty();
        var id = await db.Operators.Where(o => o.UserName == "ines").Select(o => o.Id).SingleAsync(Cancel);
        // The file is written at once; it is read beside the one who writes.
        var path = Directory.GetFiles(shop.Logs).ShouldHaveSingleItem();
        await using var file = new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.ReadWrite);
        using var reader = new StreamReader(file);
        var line = (await reader.ReadToEndAsync(Cancel)).Split('\n').First(l => l.Contains(number, StringComparison.Ordinal));
        line.ShouldContain($"person {id} /book ");
        line.ShouldMatch("^[0-9]{4}-[0-9]{2}-[0-9]{2} [0-9:.]{12} [+-][0-9:]{5} ERR ");
        line.ShouldNotContain("Ines");
    }

    [Fact]
    public async Task Alive_is_what_answers_and_ready_is_what_reaches_its_database()
    {
        using var caller = shop.Caller();
        foreach (var path in new[] { "/health/live", "/health/ready", "/health" })
            (await caller.GetAsync(new Uri(path, UriKind.Relative), Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK, path);
    }

    [Fact]
    public async Task A_collector_gets_requests_and_the_figures_of_the_shop()
    {
        using var ines = await new HttpPerson(shop.Address).SignInAsync("ines", "2417");
        await ines.GetAsync("/logbook");
        bool IsThere(string kind, string what) => shop.Sent.GetValueOrDefault(kind)?.Contains(what, StringComparison.Ordinal) == true;
        foreach (
            var (kind, what) in new[]
            {
                ("traces", "/logbook"),
                ("metrics", "http.server.request.duration"),
                ("metrics", "uncial.event_streams"),
                ("metrics", "uncial.gauges.connected"),
                ("metrics", "uncial.backup.age"),
                ("metrics", "uncial.board.planned"),
            }
        )
            await StartCommand.UntilAsync(() => Task.FromResult(IsThere(kind, what)), $"{what} among the {kind}");
    }

    [GeneratedRegex("[0-9a-f]{32}", RegexOptions.NonBacktracking)]
    private static partial Regex Number();
}
