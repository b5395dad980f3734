using Microsoft.EntityFrameworkCore;
using Uncial.Data;
using Uncial.Data.Migrations.Earlier;
using Uncial.Web.Hosting;

namespace Uncial.Data.Tests;

/// <summary>Databases of versions before the baseline get the same tables, guards and rights as a new one.</summary>
public class EarlierVersionTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Theory]
    [InlineData("20261124045608_Proofs")]
    [InlineData("20261128212103_Signatures")]
    [InlineData("20261129012529_LookedAt")]
    [InlineData("20261129050922_HeadLedger")]
    public async Task A_database_of_an_earlier_version_becomes_like_a_new_one(string version)
    {
        await using var db = await EmptyAsync();
        (await EarlierVersions.MakeTablesAsync(db, version, Cancel)).ShouldBeTrue();
        (await db.Database.GetAppliedMigrationsAsync(Cancel)).Last().ShouldBe(version);

        await Opening.MigrateAsync(db, Cancel);

        (await db.Database.GetAppliedMigrationsAsync(Cancel)).ShouldBe(db.Database.GetMigrations());
        (await GuardDigest.CheckAsync(db, Cancel)).ShouldBeEmpty();
        await using var other = await EmptyAsync();
        await Opening.MigrateAsync(other, Cancel);
        (await ColumnsOf(db)).ShouldBe(await ColumnsOf(other));
    }

    [Fact]
    public async Task The_tables_are_those_of_the_model_and_a_version_that_is_not_known_is_left_alone()
    {
        await using var db = await EmptyAsync();
        db.Database.HasPendingModelChanges().ShouldBeFalse();
        (await EarlierVersions.MakeTablesAsync(db, "20991231000000_Later", Cancel)).ShouldBeFalse();
        (await db.Database.GetAppliedMigrationsAsync(Cancel)).ShouldBeEmpty();
        await Opening.MigrateAsync(db, Cancel);
        await db.Database.ExecuteSqlRawAsync(
            "delete from \"__EFMigrationsHistory\"; "
                + "insert into \"__EFMigrationsHistory\" (migration_id, product_version) values ('20261123193647_Gauges', '10.0.0')",
            Cancel
        );
        (await Should.ThrowAsync<NotSupportedException>(() => Opening.MigrateAsync(db, Cancel))).Message.ShouldContain(
            "20261123193647_Gauges"
        );
    }

    /// <summary>A database without tables, under its owner's login.</summary>
    private static async Task<UncialDb> EmptyAsync()
    {
        var administrator = RunningShop.ConnectionTo("test_" + Guid.NewGuid().ToString("N"));
        await Logins.PrepareAsync(administrator, Cancel);
        return new(UncialDbOptions.For(Logins.OwnerOf(administrator)));
    }

    private static async Task<List<string>> ColumnsOf(UncialDb db) =>
        await db
            .Database.SqlQueryRaw<string>(
                """
                select concat_ws(' ', table_name, column_name, data_type, character_maximum_length, is_nullable, is_identity,
                    column_default) as "Value"
                from information_schema.columns where table_schema = 'public' order by 1
                """
            )
            .ToListAsync(Cancel);
}
