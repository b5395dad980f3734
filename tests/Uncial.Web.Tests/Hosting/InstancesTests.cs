using System.Collections.Concurrent;
using System.Net;
using System.Net.ServerSentEvents;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;
using Uncial.DeviceSimulators;

namespace Uncial.Web.Tests.Hosting;

/// <summary>Two instances that serve one shop: news, and the gauges that one of them is connected to.</summary>
public sealed class InstancesTests : IAsyncLifetime
{
    private readonly string keys = Path.Combine(Path.GetTempPath(), Guid.NewGuid() + ".pfx");
    private Instance first = null!;
    private Instance second = null!;
    private int gauge;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private sealed class Instance : RunningShop
    {
        private readonly string keys;

        public Instance(string keys) => this.keys = keys;

        public Instance(string keys, RunningShop beside)
            : base(beside) => this.keys = keys;

        protected override string? KeyFile => keys;

        public DeviceOwners Owners => Services.GetRequiredService<DeviceOwners>();

        public long? FenceOf(int gauge) => Owners.FenceOf(new(DeviceKind.Gauge, gauge));
    }

    /// <summary>A page that listens at an instance, and what it is told.</summary>
    private sealed class ListeningPage : IDisposable
    {
        private readonly HttpClient client;
        private readonly CancellationTokenSource closed = CancellationTokenSource.CreateLinkedTokenSource(Cancel);
        private readonly ConcurrentQueue<SseItem<string>> told = new();

        public ListeningPage(Uri address, CookieContainer cookies, string query)
        {
            client = new(new HttpClientHandler { CookieContainer = cookies }) { BaseAddress = address };
            _ = ListenAsync("/news?" + query);
        }

        private async Task ListenAsync(string path)
        {
            try
            {
                await using var stream = await client.GetStreamAsync(new Uri(path, UriKind.Relative), closed.Token);
                await foreach (var item in SseParser.Create(stream).EnumerateAsync(closed.Token))
                    told.Enqueue(item);
            }
            catch (Exception e) when (e is OperationCanceledException or IOException or HttpRequestException)
            {
                // Its instance or the page has ended.
            }
        }

        public async Task<JsonElement> UntilAsync(string kind, Func<JsonElement, bool> holds)
        {
            JsonElement? found = null;
            await InstancesTests.UntilAsync(
                () =>
                    (
                        found = told.Where(t => t.EventType == kind)
                            .Select(t => JsonSerializer.Deserialize<JsonElement>(t.Data))
                            .Cast<JsonElement?>()
                            .FirstOrDefault(d => holds(d!.Value))
                    )
                        is not null,
                $"{kind} among {string.Join(", ", told.Select(t => t.EventType + " " + t.Data))}"
            );
            return found!.Value;
        }

        public void Dispose()
        {
            closed.Cancel();
            closed.Dispose();
            client.Dispose();
        }
    }

    private static Task UntilAsync(Func<bool> holds, string what) => StartCommand.UntilAsync(() => Task.FromResult(holds()), what);

    public async ValueTask InitializeAsync()
    {
        first = new(keys);
        await first.InitializeAsync();
        second = new(keys, first);
        await second.InitializeAsync();
        await using var db = first.Db();
        gauge = await db.Gauges.Where(g => g.Name == "Micrometer 1").Select(g => g.Id).SingleAsync(Cancel);
    }

    public async ValueTask DisposeAsync()
    {
        await second.DisposeAsync();
        await first.DisposeAsync();
        File.Delete(keys);
    }

    private async Task<(string Tag, int Surface)> RotorAsync()
    {
        var rotor = await first.ReadPartAsync(readings: 0);
        await using var db = first.Db();
        return (rotor, await db.Parts.Where(p => p.Tag == rotor).SelectMany(p => p.Surfaces).Select(s => s.Id).SingleAsync(Cancel));
    }

    private async Task ConnectAsync(SimulatedGauge played)
    {
        played.Open();
        await using var db = first.Db();
        await db
            .Gauges.Where(g => g.Id == gauge)
            .ExecuteUpdateAsync(s => s.SetProperty(g => g.Address, $"127.0.0.1:{played.Port}"), Cancel);
    }

    private static async Task<HttpStatusCode> KeepAsync(
        HttpPerson person,
        string tag,
        JsonElement sent,
        string token,
        int at,
        bool waited = false
    ) =>
        (
            await person.PostWithAsync(
                $"/measure/{tag}?handler=Keep",
                [
                    ("at", $"{at}"),
                    ("Entry", sent.GetProperty("text").GetString()!),
                    ("Key", Guid.NewGuid().ToString()),
                    ("Cuts", "0"),
                    ("Line", sent.GetProperty("line").GetString()!),
                    ("Fence", sent.GetProperty("fence").ToString()),
                ],
                token,
                waited ? "X-Outbox" : null
            )
        ).Code;

    [Fact]
    public async Task What_is_saved_at_one_instance_is_told_to_the_pages_of_the_other()
    {
        var (tag, surface) = await RotorAsync();
        using var person = await new HttpPerson(first.Address).SignInAsync("tom", "1304");
        using var page = new ListeningPage(second.Address, person.Cookies, $"surface={surface}");
        // What stands now is told at once: the page may be older than its connection.
        var turn = (await page.UntilAsync("part", _ => true)).GetProperty("turn").GetInt64();
        (await person.PostAsync($"/measure/{tag}?handler=Keep", [("at", "0"), ("Entry", "24.31"), ("Cuts", "0")])).Code.ShouldBe(
            HttpStatusCode.Found
        );
        await page.UntilAsync("part", told => told.GetProperty("turn").GetInt64() > turn);
        // The session of one is a session of the other.
        using var there = new HttpPerson(second.Address, person.Cookies);
        (await there.GetAsync("/measure/" + tag)).Text.ShouldContain("24.31");
    }

    [Fact]
    public async Task One_instance_has_the_gauge_and_its_readings_reach_the_page_at_the_other_which_takes_it_over_when_that_one_ends()
    {
        var (tag, surface) = await RotorAsync();
        await using var played = new SimulatedGauge("Micrometer 1", 0, 24.31m, 0.001m) { GivesUp = TimeSpan.FromMinutes(5) };
        await ConnectAsync(played);
        await UntilAsync(() => (first.FenceOf(gauge) ?? second.FenceOf(gauge)) is not null && played.Hosts == 1, "an owner");
        await UntilAsync(() => !first.Owners.IsAlone && !second.Owners.IsAlone, "that they know of one another");
        var (owner, other) = first.FenceOf(gauge) is not null ? (first, second) : (second, first);
        other.FenceOf(gauge).ShouldBeNull();

        using var person = await new HttpPerson(other.Address).SignInAsync("tom", "1304");
        var token = await person.TokenAsync("/measure/" + tag);
        using var page = new ListeningPage(other.Address, person.Cookies, $"surface={surface}&gauge={gauge}");
        await page.UntilAsync("gauge", now => now.GetProperty("shows").GetString() == "24.310mm");
        await UntilAsync(() => owner.Services.GetRequiredService<News>().HolderOf(gauge) is { IsElsewhere: true }, "who holds it");
        await played.SendAsync();
        var sent = await page.UntilAsync("reading", _ => true);
        (await KeepAsync(person, tag, sent, token, at: 0)).ShouldBe(HttpStatusCode.Found);
        await UntilAsync(() => played.Answer == "taken", "that the gauge is answered by the one that has it");

        // A reading is on its way when the owner ends.
        await played.TurnAsync(to: 24.29m);
        await played.SendAsync();
        var onItsWay = await page.UntilAsync("reading", r => r.GetProperty("text").GetString() == "24.290mm");
        await owner.DisposeAsync();
        await UntilAsync(() => other.FenceOf(gauge) is not null, "that the other one takes the gauge over");
        (await KeepAsync(person, tag, onItsWay, token, at: 45)).ShouldBe(HttpStatusCode.OK); // refused: the page says that it is sent again
        var again = await page.UntilAsync("reading", r =>
            r.GetProperty("line").GetString() == onItsWay.GetProperty("line").GetString()
            && r.GetProperty("fence").GetInt64() > onItsWay.GetProperty("fence").GetInt64()
        );
        played.Answer.ShouldBe("sent");
        (await KeepAsync(person, tag, again, token, at: 45)).ShouldBe(HttpStatusCode.Found);
        await UntilAsync(() => played.Answer == "taken", "the answer of the new owner");
        // The page that waited with the old number stores it no second time, and is told that it is there.
        (await KeepAsync(person, tag, onItsWay, token, at: 45, waited: true)).ShouldBe(HttpStatusCode.OK);
        await using var db = other.Db();
        // One that an earlier owner's page stored, and of which nobody was told: the gauge is answered all the same.
        var stored = await db.Readings.OrderByDescending(r => r.Id).FirstAsync(Cancel);
        db.Readings.Add(
            new()
            {
                SurfaceId = surface,
                Kind = stored.Kind,
                Value = stored.Value,
                Typed = "24.290mm",
                Degrees = 90,
                At = DateTimeOffset.UtcNow,
                ById = stored.ById,
                GaugeId = gauge,
                Line = stored.Line!.Replace(":2", ":3", StringComparison.Ordinal),
                Fence = stored.Fence,
            }
        );
        await db.SaveChangesAsync(Cancel);
        await played.SendAsync();
        await UntilAsync(() => played.Answer == "taken", "the answer for what is stored");
        (await db.Readings.Where(r => r.SurfaceId == surface).Select(r => r.Typed).ToListAsync(Cancel)).ShouldBe([
            "24.310mm",
            "24.290mm",
            "24.290mm",
        ]);
    }

    [Fact]
    public async Task A_gauge_is_taken_from_an_instance_that_hangs_and_what_that_one_heard_is_not_stored()
    {
        var (_, surface) = await RotorAsync();
        await using (var db = first.Db())
            await db.Gauges.Where(g => g.Id == gauge).ExecuteUpdateAsync(s => s.SetProperty(g => g.Address, (string?)null), Cancel);
        await UntilAsync(() => (first.FenceOf(gauge) ?? second.FenceOf(gauge)) is null, "that nobody has it");
        await using var hung = new NpgsqlConnection(first.AppConnection + ";Pooling=false");
        await hung.OpenAsync(Cancel);
        async Task<object?> RunAsync(string sql)
        {
            await using var command = new NpgsqlCommand(sql, hung);
            return await command.ExecuteScalarAsync(Cancel);
        }
        var take = $"select take_device('Gauge', {gauge}, '{Guid.NewGuid()}')";
        (await Should.ThrowAsync<PostgresException>(() => RunAsync(take))).MessageText.ShouldBe("the lock of the device is not held");
        (await RunAsync($"select pg_try_advisory_lock(device_lock('Gauge'), {gauge})")).ShouldBe(true);
        var fence = (long)(await RunAsync(take))!;
        await using var played = new SimulatedGauge("Micrometer 1", 0, 24.31m, 0.001m);
        await ConnectAsync(played);
        await UntilAsync(() => (first.FenceOf(gauge) ?? second.FenceOf(gauge)) == fence + 1, "who takes it over");
        (await Should.ThrowAsync<Exception>(() => RunAsync("select 1"))).ShouldBeAssignableTo<NpgsqlException>();

        async Task<string?> StoreAsync(long? with)
        {
            await using var db = new Uncial.Data.UncialDb(UncialDbOptions.For(first.AppConnection));
            db.Readings.Add(
                new()
                {
                    SurfaceId = surface,
                    Kind = Core.Workflow.ReadingKind.Size,
                    Value = Core.Lengths.Length.FromMillimetres(24.31m),
                    Typed = "24.31",
                    At = DateTimeOffset.UtcNow,
                    ById = 1,
                    GaugeId = gauge,
                    Line = "a:1",
                    Fence = with,
                }
            );
            try
            {
                await db.SaveChangesAsync(Cancel);
                return null;
            }
            catch (DbUpdateException e) when (e.InnerException is PostgresException refused)
            {
                return refused.SqlState;
            }
        }
        foreach (long? old in new long?[] { fence, null, fence + 2 })
            (await StoreAsync(old)).ShouldBe(StoredRules.CodeOf(StoredRule.GaugeTakenOver), $"{old}");
        (await StoreAsync(fence + 1)).ShouldBeNull();
    }
}
