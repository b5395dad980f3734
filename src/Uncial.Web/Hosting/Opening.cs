using Microsoft.EntityFrameworkCore;
using Npgsql;
using Uncial.Data;
using Uncial.Data.Demo;
using Uncial.Data.Migrations.Earlier;
using Uncial.Data.Practice;

namespace Uncial.Web.Hosting;

/// <summary>
/// Opens the shop, in a process of its own before anything is served: logins, migrations, functions, triggers and rights, the shop's row,
/// and
/// the demo data once. It alone holds the administrator's and the owner's logins.
/// </summary>
internal static class Opening
{
    /// <param name="administrator">Connection of the cluster's administrator to the shop's database, which may be missing.</param>
    /// <param name="demo">Load the demo data into an empty shop.</param>
    /// <param name="simulators">Port of the device simulators' page; 0 where there are none.</param>
    /// <param name="time">The clock.</param>
    /// <param name="cancel">Cancels.</param>
    public static async Task OpenAsync(
        string administrator,
        bool demo,
        int simulators,
        TimeProvider time,
        CancellationToken cancel = default
    )
    {
        await using var only = await AloneAsync(administrator, cancel);
        await Logins.PrepareAsync(administrator, cancel);
        await Logins.RenewAsync(administrator, cancel);
        await using var db = new UncialDb(UncialDbOptions.For(Logins.OwnerOf(administrator) + ";Pooling=false"));
        await MigrateAsync(db, cancel);
        await PracticeSchema.ApplyAsync(Logins.OwnerOf(administrator) + ";Pooling=false", cancel);
        await PracticeShop.ApplyAsync(Logins.OwnerOf(administrator) + ";Pooling=false", cancel);

        var shop = await db.Shops.Include(s => s.Gauges).Include(s => s.Lathes).Include(s => s.Board).SingleOrDefaultAsync(cancel);
        if (shop is null)
        {
            shop = Shop.New("The workshop");
            db.Shops.Add(shop);
            await db.SaveChangesAsync(cancel);
        }
        if (demo && !await db.Operators.AnyAsync(cancel))
            await DemoShop.LoadAsync(db, shop, time.GetUtcNow(), past: simulators > 0);
        if (demo && shop.HasDemoData && simulators > 0)
            await DemoShop.ListenToSimulatorsAsync(db, simulators);
    }

    /// <summary>
    /// Waits for whoever opens the same shop just now: instances that are started together do it one after the other. The lock goes with
    /// the connection, so that an opening that is killed holds nobody up.
    /// </summary>
    private static async Task<NpgsqlConnection> AloneAsync(string administrator, CancellationToken cancel)
    {
        var shop = new NpgsqlConnectionStringBuilder(administrator);
        var connection = new NpgsqlConnection(
            new NpgsqlConnectionStringBuilder(administrator) { Database = "postgres", Pooling = false }.ConnectionString
        );
        await connection.OpenAsync(cancel);
        await using var wait = new NpgsqlCommand("select pg_advisory_lock(hashtextextended($1, 8214906354))", connection)
        {
            Parameters = { new() { Value = "opening " + shop.Database } },
            CommandTimeout = 0,
        };
        await wait.ExecuteNonQueryAsync(cancel);
        return connection;
    }

    /// <summary>Brings the tables up to date, then functions, triggers and rights.</summary>
    public static async Task MigrateAsync(UncialDb db, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        db.Database.SetCommandTimeout(TimeSpan.FromHours(1));
        await EarlierVersions.UpgradeAsync(db, cancel);
        await db.Database.MigrateAsync(cancel);
        await IntegritySql.ApplyAsync(db, cancel);
        await ShopChain.BeginAsync(db, cancel);
    }
}
