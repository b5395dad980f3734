using Microsoft.EntityFrameworkCore;
using Npgsql;
using Uncial.Data;
using Uncial.Data.Integrity;
using Uncial.Web.Hosting;

namespace Uncial.Web.Tests;

public sealed class OpeningTests : IAsyncDisposable
{
    private readonly string connection = RunningShop.ConnectionTo("opening_" + Guid.NewGuid().ToString("N"));

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Instances_that_are_started_together_open_the_shop_once()
    {
        await Task.WhenAll(
            Enumerable
                .Range(0, 3)
                .Select(_ => Task.Run(() => Opening.OpenAsync(connection, demo: true, 0, TimeProvider.System, Cancel), Cancel))
        );
        await using var db = new UncialDb(UncialDbOptions.For(Logins.OwnerOf(connection)));
        (await db.Shops.CountAsync(Cancel)).ShouldBe(1);
        (await db.Operators.CountAsync(Cancel)).ShouldBe(3);
        (await db.Database.GetPendingMigrationsAsync(Cancel)).ShouldBeEmpty();
        (await ShopChain.CheckAsync(db, [], Cancel)).ShouldBeEmpty();

        // A newer program has been here: this one leaves its tables and guards alone.
        await db.Database.ExecuteSqlRawAsync("insert into \"__EFMigrationsHistory\" values ('20990101000000_Later', '10.0.0')", Cancel);
        (
            await Should.ThrowAsync<NotSupportedException>(() => Opening.OpenAsync(connection, true, 0, TimeProvider.System, Cancel))
        ).Message.ShouldContain("newer version (20990101000000_Later)");
    }

    public async ValueTask DisposeAsync()
    {
        await using var admin = new NpgsqlConnection(RunningShop.ConnectionTo("postgres"));
        await admin.OpenAsync();
        await using var drop = new NpgsqlCommand(
            $"drop database if exists {new NpgsqlConnectionStringBuilder(connection).Database} with (force)",
            admin
        );
        await drop.ExecuteNonQueryAsync();
    }
}
