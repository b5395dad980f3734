using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Uncial.Data;

namespace Uncial.Data.Tests;

/// <summary>What is changed behind the application's back is found out, by somebody who knows nothing of how it is looked for.</summary>
public class VerifyTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>
    /// Changes made as the cluster's administrator with every trigger at rest, in a transaction that is looked at from inside and taken
    /// back.
    /// </summary>
    private async Task<IReadOnlyList<ChainFault>> Tampered(string sql, IReadOnlyList<ChainHead>? kept = null)
    {
        await using var db = new UncialDb(UncialDbOptions.For(shop.Connection));
        await using var transaction = await db.Database.BeginTransactionAsync(Cancel);
        await using (
            var command = new NpgsqlCommand(
                "set local session_replication_role = replica; " + sql + "; set local session_replication_role = origin",
                (NpgsqlConnection)db.Database.GetDbConnection()
            )
        )
            await command.ExecuteNonQueryAsync(Cancel);
        var (_, _, faults) = await ChainCheck.OfAllAsync(db, Cancel);
        return [.. faults, .. await ShopChain.CheckAsync(db, kept ?? [], Cancel)];
    }

    /// <summary>The end of a part's chain is cut off with the facts, and the counter put back.</summary>
    private const string CutOff = """
        do $$ declare p int; l record; begin
            select part_id into p from chain where fact_table = 'readings' order by part_id desc limit 1;
            for l in select * from chain where part_id = p order by number desc limit 2 loop
                execute format('delete from %I where id = %s', l.fact_table, l.fact_id); delete from chain where part_id = p
                    and number = l.number;
            end loop;
            update fact_counters set last = (select max(number) from chain where part_id = p) where part_id = p;
        end $$
        """;

    /// <summary>A part's chain is made anew over changed facts, from end to end.</summary>
    private const string HashedAnew = """
        update readings set value_mm = value_mm + 0.5 where id = (select min(id) from readings);
        do $$ declare l record; before bytea := ''; fact jsonb; begin set local timezone = 'UTC';
            for l in select * from chain where part_id = (select part_id from surfaces
                where id = (select surface_id from readings where id = (select min(id) from readings))) order by number loop
                execute format('select to_jsonb(f) from %I f where id = %s', l.fact_table, l.fact_id) into fact;
                before := sha256(before || convert_to(l.fact_table || ' ' || fact_text(l.fact_table, fact), 'UTF8'));
                update chain set hash = before where part_id = l.part_id and number = l.number;
            end loop;
        end $$
        """;

    private const string PartGone = """
        create temporary table gone on commit drop as select id from parts order by id desc limit 1;
        create temporary table faces on commit drop as select id from surfaces where part_id in (select id from gone);
        delete from readings where surface_id in (select id from faces); delete from limit_entries
            where surface_id in (select id from faces); delete from plans where surface_id in (select id from faces);
        delete from confirmations where surface_id in (select id from faces); delete from outcomes
            where part_id in (select id from gone); delete from chain where part_id in (select id from gone);
        delete from surfaces where id in (select id from faces); delete from log_lines where part_id in (select id from gone); delete
            from fact_counters where part_id in (select id from gone); delete from parts where id in (select id from gone)
        """;

    public static TheoryData<string, string> Tamperings =>
        new()
        {
            { "facts cut off at the end", CutOff },
            { "a part removed whole", PartGone },
            {
                "an outcome removed with its link",
                "delete from chain where fact_table = 'outcomes' and fact_id = (select max(id) from outcomes); delete from outcomes "
                    + "where id = (select max(id) from outcomes)"
            },
            { "a chain hashed anew", HashedAnew },
            { "a job's vehicle", "update jobs set vehicle = 'Another van' where id = (select min(id) from jobs)" },
            { "a job's odometer", "update jobs set odometer_km = 1 where id = (select min(id) from jobs)" },
            { "the shop's rules", "update shops set rules = rules || '{\"rotorMachineToAboveDiscard\": 0.1}'" },
            { "the shop's name", "update shops set name = 'Elsewhere'" },
            { "a gauge's certificate", "update gauges set certificate_uncertainty_mm = 0.0001 where id = (select min(id) from gauges)" },
            {
                "a gauge added",
                "insert into gauges (shop_id, name, kind, resolution_mm, starts_mm, turn) values (1, 'x', 'Micrometer', 0.001, '{}', 0)"
            },
            { "a role", "update operators set role = 'owner' where user_name = 'tom'" },
            { "a PIN", "update pins set hash = crypt('8080', gen_salt('bf', 4)) where operator_id = 1" },
            { "an entry of the book", "update book set discard_mm = discard_mm - 1 where id = (select min(id) from book)" },
            { "an entry of the book removed", "delete from book where id = (select max(id) from book)" },
            { "a zero check", "update zero_checks set passed = not passed where id = (select min(id) from zero_checks)" },
            { "a lathe's profile", "update lathes set profile = profile || '{\"division\": 0.5}' where id = (select min(id) from lathes)" },
            { "the number of a job", "update jobs set number = 990001 where id = (select min(id) from jobs)" },
            { "a price on a part", "update parts set new_price = 1 where id = (select min(id) from parts)" },
            { "a limit of a surface", "update surfaces set max_variation_mm = 9 where id = (select min(id) from surfaces)" },
            {
                "a guard replaced",
                "create or replace function guard_outcome() returns trigger language plpgsql as 'begin return new; end'"
            },
            { "a trigger switched off", "alter table outcomes disable trigger outcomes_guard_outcome" },
            { "a trigger dropped", "drop trigger readings_stay on readings" },
            {
                "a trigger slipped in",
                "create function public.sly() returns trigger language plpgsql as 'begin return null; end'; create trigger zz "
                    + "before insert on readings for each row execute function sly()"
            },
            { "a grant", "grant update on readings to uncial_app" },
            { "a grant of one column", "grant update (value_mm) on readings to uncial_app" },
            { "a constraint", "alter table confirmations drop constraint ck_confirmations_release_is_inside_discard" },
            { "a screen slipped in", "insert into screens (name, token_hash, enrolled_at) values ('x', '\\x00', now())" },
            { "a number", "update readings set number = number + 1 where id = (select max(id) from readings)" },
            { "the application a superuser", "alter role uncial_app superuser" },
        };

    [Theory]
    [MemberData(nameof(Tamperings))]
    public async Task Tampering_is_found(string what, string sql) => (await Tampered(sql)).ShouldNotBeEmpty(what);

    [Fact]
    public async Task A_whole_shop_is_whole_and_any_single_row_that_is_changed_is_found()
    {
        (await Tampered("select 1")).ShouldBeEmpty();
        var (missed, tries) = (new List<string>(), 0);
        var count = int.TryParse(Environment.GetEnvironmentVariable("UNCIAL_TAMPER"), CultureInfo.InvariantCulture, out var more)
            ? more
            : 40;
        foreach (var sql in await Random(seed: 1113, 3 * count))
        {
            if (tries == count)
                break;
            try
            {
                if ((await Tampered(sql)).Count == 0)
                    missed.Add(sql);
                tries++;
            }
            // a constraint refuses it: not counted
            catch (PostgresException e) when (e.SqlState.StartsWith("23", StringComparison.Ordinal)) { }
        }
        missed.ShouldBeEmpty();
        tries.ShouldBe(count);
    }

    [Fact]
    public async Task A_job_that_was_linked_without_its_number_is_linked_again_once()
    {
        await using var db = shop.Db();
        await using var undone = await db.Database.BeginTransactionAsync(Cancel);
        // As an earlier version left it: the last link is of the row without its number.
        await db.Database.ExecuteSqlRawAsync(
            "set timezone = 'UTC'; select shop_add('jobs', j.id::text, 'U', "
                + "sha256(convert_to('jobs ' || row_text(to_jsonb(j) - 'number'), 'UTF8'))) from jobs j limit 1",
            Cancel
        );
        (await ShopChain.CheckAsync(db, [], Cancel)).ShouldNotBeEmpty();
        var links = await db.ShopChain.CountAsync(Cancel);
        await ShopChain.BeginAsync(db, Cancel);
        (await ShopChain.CheckAsync(db, [], Cancel)).ShouldBeEmpty();
        await ShopChain.BeginAsync(db, Cancel);
        (await db.ShopChain.CountAsync(Cancel)).ShouldBe(links + 1);
    }

    [Fact]
    public async Task Whoever_rewrites_all_of_it_is_found_by_any_head_that_was_kept_outside()
    {
        await using var db = shop.Db();
        var head = (await ShopChain.HeadAsync(db, Cancel))!;
        ChainHead.Read(head.ToString()).ShouldBe(head);
        const string all = """
            update jobs set vehicle = 'Another van' where id = (select min(id) from jobs); truncate shop_chain;
            select begin_shop_chain(array['zero_checks','eye_checks','insert_events','bins_emptied','photos','people_events',
                'rule_changes','shops','jobs','gauges','lathes','adapters','techniques','book','operators','pins','screens','parts',
                'surfaces','board_pins','job_urgencies','lathe_outages','day_hours','day_settings','days_planned','days_happened'])
            """;
        (await Tampered(all)).ShouldBeEmpty(); // by itself it cannot be told
        (await Tampered(all, [head])).ShouldNotBeEmpty();
        var file = Path.GetTempFileName();
        var keeper = new HeadKeeper(
            (Microsoft.Extensions.DependencyInjection.IServiceScopeFactory)
                shop.Services.GetService(typeof(Microsoft.Extensions.DependencyInjection.IServiceScopeFactory))!,
            (Microsoft.Extensions.Configuration.IConfiguration)
                shop.Services.GetService(typeof(Microsoft.Extensions.Configuration.IConfiguration))!,
            TimeProvider.System,
            Microsoft.Extensions.Logging.Abstractions.NullLogger<HeadKeeper>.Instance
        );
        File.Delete(file);
        await keeper.KeepAsync(file, Cancel);
        await keeper.KeepAsync(file, Cancel); // once a day
        (await File.ReadAllLinesAsync(file, Cancel))
            .ShouldHaveSingleItem()
            .ShouldStartWith(head.Number.ToString(CultureInfo.InvariantCulture));
        File.Delete(file);
    }

    [Fact]
    public async Task What_ships_as_the_description_of_the_guards_is_that_of_a_new_database()
    {
        await using var fresh = new EmptyShop();
        await fresh.InitializeAsync();
        await using var db = fresh.Db();
        var shipped = await File.ReadAllTextAsync(Path.Combine(Repository.Root(), "src/Uncial.Data/Integrity/Checks/guards.tsv"), Cancel);
        (await GuardDigest.DescribeAsync(db, Cancel)).ShouldBe(shipped, "make it anew: see docs/security.md");
    }

    /// <summary>Changes of one row of any table that is a record: a value made another, a row taken away or put in twice.</summary>
    private async Task<IReadOnlyList<string>> Random(int seed, int count)
    {
        var chance = new Random(seed);
        await using var db = shop.Db();
        await using var connection = new NpgsqlConnection(shop.Connection);
        await connection.OpenAsync(Cancel);
        List<(string Table, string Column, string Type)> columns = [];
        await using (
            var command = new NpgsqlCommand(
                "select table_name::text, column_name::text, data_type::text from information_schema.columns where table_schema = "
                    + "'public' and table_name <> all(array['sessions','pin_tries','pin_delays','cut_drafts','live_devices','gauge_sends',"
                    + "'data_protection_keys',"
                    + "'log_lines','__EFMigrationsHistory']) and column_name not in ('turn', 'id', 'operator_id') order by 1, 2",
                connection
            )
        )
        await using (var reader = await command.ExecuteReaderAsync(Cancel))
            while (await reader.ReadAsync(Cancel))
                columns.Add((reader.GetString(0), reader.GetString(1), reader.GetString(2)));
        List<string> all = [];
        while (all.Count < count)
        {
            var (table, column, type) = columns[chance.Next(columns.Count)];
            await using var rows = new NpgsqlCommand($"select ctid::text from \"{table}\" order by ctid", connection);
            List<string> ids = [];
            await using (var reader = await rows.ExecuteReaderAsync(Cancel))
                while (await reader.ReadAsync(Cancel))
                    ids.Add(reader.GetString(0));
            if (ids.Count == 0)
                continue;
            var row = $"ctid = '{ids[chance.Next(ids.Count)]}'";
            if (chance.Next(5) == 0)
            {
                all.Add($"delete from \"{table}\" where {row}");
                continue;
            }
            var value = type switch
            {
                "integer" or "bigint" or "numeric" or "double precision" => $"coalesce(\"{column}\", 0) + 1",
                "boolean" => $"not coalesce(\"{column}\", false)",
                "timestamp with time zone" => $"coalesce(\"{column}\", now()) + interval '1 second'",
                "text" or "character varying" =>
                    $"case when \"{column}\" like 'x%' then 'y' else 'x' end || coalesce(substr(\"{column}\", 2), '')",
                "jsonb" => $"coalesce(\"{column}\", '{{}}') || '{{\"x\": 1}}'",
                "bytea" => "'\\x0102'",
                "date" => $"coalesce(\"{column}\", current_date) + 1",
                "time without time zone" => $"coalesce(\"{column}\", time '07:00') + interval '1 minute'",
                "uuid" => "gen_random_uuid()",
                "ARRAY" => $"array_append(\"{column}\", null)",
                _ => throw new InvalidOperationException($"No change is known for {type} ({table}.{column})."),
            };
            all.Add($"update \"{table}\" set \"{column}\" = {value} where {row}");
        }
        return all;
    }
}
