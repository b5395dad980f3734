using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Data;

namespace Uncial.Data.Tests;

/// <summary>
/// What is kept between requests never hides a change, whoever made it; and a part comes as EF Core itself would load it.
/// </summary>
public class LoadingTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Every_row_of_every_part_comes_with_the_values_that_EF_Core_reads()
    {
        await using var db = shop.Db();
        await using var other = shop.Db();
        var parts = await db.Parts.WithFactsAsync(db, Cancel);
        parts.Count.ShouldBe(await other.Parts.CountAsync(Cancel));
        var compared = 0;
        foreach (var entry in db.ChangeTracker.Entries())
        {
            var key = entry.Metadata.FindPrimaryKey()!.Properties.Select(p => entry.Property(p).CurrentValue).ToArray();
            var same = (await other.FindAsync(entry.Metadata.ClrType, key, Cancel)).ShouldNotBeNull();
            foreach (var property in entry.Metadata.GetProperties())
            {
                var (ours, theirs) = (entry.Property(property).CurrentValue, other.Entry(same).Property(property).CurrentValue);
                property
                    .GetValueComparer()
                    .Equals(ours, theirs)
                    .ShouldBeTrue($"{entry.Metadata.ClrType.Name}.{property.Name}: {ours} and {theirs}");
                compared++;
            }
        }
        compared.ShouldBeGreaterThan(5000);
        // All of them, joined by their keys.
        parts.Sum(p => p.Surfaces.Sum(s => s.Readings.Count)).ShouldBe(await other.Readings.CountAsync(Cancel));
        parts
            .Sum(p => p.Surfaces.Sum(s => s.Passes.Count(x => x.Plan is not null && x.By is not null)))
            .ShouldBe(await other.Passes.CountAsync(Cancel));
        parts.Sum(p => p.Outcomes.Count(o => o.Withdrawal is not null)).ShouldBe(await other.OutcomeWithdrawals.CountAsync(Cancel));
    }

    /// <summary>The demo shop holds no row of these; the others are compared above.</summary>
    [Fact]
    public async Task A_page_is_answered_in_few_round_trips_whatever_the_part_holds()
    {
        using var person = await new HttpPerson(shop.Address).SignInAsync("ines", "2417");
        foreach (
            var page in new[]
            {
                "/measure/TQB4T",
                "/mount/TQB2R",
                "/plan/TQB2R",
                "/cut/TQB2R",
                "/part/TQA2P",
                "/look/TQB2R",
                "/receive/2417",
                "/",
            }
        )
        {
            await person.GetAsync(page);
            // The services beside the pages ask the database now and then: the least of a few times is the page's own.
            var least = long.MaxValue;
            for (var i = 0; i < 5; i++)
            {
                using var trips = new RoundTrips(new NpgsqlConnectionStringBuilder(shop.Connection).Database!);
                (await person.GetAsync(page)).Code.ShouldBe(System.Net.HttpStatusCode.OK, page);
                least = Math.Min(least, trips.Count);
            }
            least.ShouldBeInRange(2, 6, page);
        }
    }

    [Fact]
    public async Task The_bench_and_the_settings_show_what_somebody_else_changed_a_moment_ago()
    {
        using var person = await new HttpPerson(shop.Address).SignInAsync("marit", "9051");
        await using var db = shop.Db();
        async Task ChangedAsync(FormattableString sql, string page, string now)
        {
            (await person.GetAsync(page)).Text.ShouldNotContain(now);
            (await person.GetAsync(page)).Text.ShouldNotContain(now);
            await db.Database.ExecuteSqlAsync(sql, Cancel);
            (await person.GetAsync(page)).Text.ShouldContain(now);
        }
        await ChangedAsync($"update jobs set vehicle = 'Whelk tractor' where number = 2417", "/", "Whelk tractor");
        await ChangedAsync($"update parts set corner = 'Other', mark = 'Odd one' where tag = 'TQB2R'", "/", "Odd one");
        await ChangedAsync($"update shops set name = 'Cockle Works'", "/shop", "Cockle Works");
        await ChangedAsync($"update gauges set name = 'Long caliper' where id = (select min(id) from gauges)", "/gauges", "Long caliper");
        await ChangedAsync(
            $"update lathes set profile = jsonb_set(profile, array['name'], '\"Corner lathe\"') where id = (select min(id) from lathes)",
            "/lathes",
            "Corner lathe"
        );
        await ChangedAsync(
            $"update adapters set spec = jsonb_set(spec, array['name'], '\"Cone 99\"') where id = (select min(id) from adapters)",
            "/adapters",
            "Cone 99"
        );
        // A reading more, then one withdrawn: the count on the bench follows.
        var settings = await db.ShopAsync(Cancel);
        var record = (await db.Parts.WithFactsAsync(db, Cancel))
            .SelectMany(p => p.Surfaces.Select(s => new SurfaceRecord(s, p, settings)))
            .First(r => r.Station == Station.Measure && r.Measuring.Sizes.Count is var n && n > 0 && n + 1 < r.Measuring.Places.Count);
        var read = record.Measuring.Sizes.Count;
        var mm = LengthParser.Parse("22.1", LengthUnit.Millimetre).Typed!;
        string Says(int count) => $"{count} of {record.Measuring.Places.Count} read";
        (await person.GetAsync("/")).Text.ShouldNotContain(Says(read + 1));
        var entry = MeasureCommands.RecordReading(
            record,
            ReadingKind.Size,
            record.Measuring.Places[read],
            mm,
            mm.Unit,
            null,
            new(1, Role.Operator, DateTimeOffset.UtcNow)
        );
        await db.SaveChangesAsync(Cancel);
        (await person.GetAsync("/")).Text.ShouldContain(Says(read + 1));
        MeasureCommands.Withdraw(record, entry, "slipped", new(1, Role.Operator, DateTimeOffset.UtcNow));
        await db.SaveChangesAsync(Cancel);
        (await person.GetAsync("/")).Text.ShouldNotContain(Says(read + 1));
    }

    [Fact]
    public async Task What_one_request_writes_into_its_shop_is_not_seen_by_another()
    {
        await using var db = shop.Db();
        var cache = new ShopCache();
        var one = (await cache.ShopAsync(db, Cancel)).Shop;
        var gauge = one.Gauges[0];
        (gauge.Pooled, gauge.Name) = (new(1m, 30), "Mine");
        gauge.ZeroChecks.Clear();
        one.Lathes.Clear();
        var two = (await cache.ShopAsync(db, Cancel)).Shop;
        (two.Gauges[0].Pooled, two.Gauges[0].Name == "Mine", two.Lathes.Count > 0).ShouldBe((default, false, true));
        db.ChangeTracker.Entries().ShouldBeEmpty();

        // Inside a transaction its own changes are seen, and are not kept for others where it is taken back.
        await using (var transaction = await db.Database.BeginTransactionAsync(Cancel))
        {
            await db.Database.ExecuteSqlAsync($"update shops set name = 'Never'", Cancel);
            (await cache.ShopAsync(db, Cancel)).Shop.Name.ShouldBe("Never");
            await transaction.RollbackAsync(Cancel);
        }
        db.ChangeTracker.Clear();
        (await cache.ShopAsync(db, Cancel)).Shop.Name.ShouldBe(one.Name);
    }

    [Fact]
    public async Task What_is_known_of_lathes_is_asked_again_once_something_was_recorded_there()
    {
        await using var db = shop.Db();
        var cache = new ShopCache();
        var asked = 0;
        async Task<int> AskAsync() =>
            await cache.AnswerAsync(await cache.ShopAsync(db, Cancel), "how often", () => Task.FromResult(++asked));
        (await AskAsync(), await AskAsync()).ShouldBe((1, 1));
        await db.Database.ExecuteSqlAsync($"insert into bins_emptied (at, by_id, grams) values (now(), 1, 5)", Cancel);
        (await AskAsync(), await AskAsync()).ShouldBe((2, 2));
    }
}
