using Npgsql;
using Uncial.Core.Lengths;
using Uncial.Data.Practice;
using Uncial.Practice.Drills;
using Uncial.Testing;

namespace Uncial.Data.Tests;

/// <summary>Practice reaches nothing of the shop, and keeps what was answered as it was answered.</summary>
public sealed class PracticeTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private PracticeDb Db() => new(PracticeDb.For(shop.PracticeConnection));

    private PracticeDesk Desk() => new(Db(), TimeProvider.System);

    private async Task<string?> TriedAsync(string sql)
    {
        await using var connection = new NpgsqlConnection(shop.PracticeConnection);
        await connection.OpenAsync(Cancel);
        await using var command = new NpgsqlCommand(sql, connection);
        try
        {
            await command.ExecuteNonQueryAsync(Cancel);
            return null;
        }
        catch (PostgresException e)
        {
            return e.SqlState;
        }
    }

    [Fact]
    public async Task Its_login_reaches_no_table_and_no_function_of_the_shop()
    {
        await using var connection = new NpgsqlConnection(shop.PracticeConnection);
        await connection.OpenAsync(Cancel);
        await using var command = new NpgsqlCommand(
            """
            select c.relname from pg_class c join pg_namespace n on n.oid = c.relnamespace
            where n.nspname = 'public' and c.relkind in ('r', 'S', 'v') and not exists (select 1 from pg_depend d where d.objid = c.oid
                and d.deptype = 'e')
                and (case c.relkind when 'S' then has_sequence_privilege(c.oid, 'usage, select, update')
                    else has_table_privilege(c.oid, 'select, insert, update, delete, truncate')
                        or has_any_column_privilege(c.oid, 'select') end)
            union all
            select p.proname from pg_proc p join pg_namespace n on n.oid = p.pronamespace
            where n.nspname = 'public' and has_function_privilege(p.oid, 'execute')
                and not exists (select 1 from pg_depend d where d.objid = p.oid and d.deptype = 'e')
            """,
            connection
        );
        List<string> reached = [];
        await using var reader = await command.ExecuteReaderAsync(Cancel);
        while (await reader.ReadAsync(Cancel))
            reached.Add(reader.GetString(0));
        reached.ShouldBeEmpty();
    }

    [Theory]
    [InlineData("select * from public.operators")]
    [InlineData("insert into public.jobs (vehicle) values ('x')")]
    [InlineData("select public.begin_try(1, null, '', 'x', 'sign-in')")]
    [InlineData("create table public.mine (id int)")]
    [InlineData("create table practice.mine (id int)")]
    [InlineData("update practice.drill_answers set is_right = true")]
    [InlineData("delete from practice.drill_answers")]
    [InlineData("update practice.drill_runs set seed = 1")]
    [InlineData("update practice.learners set expires_at = null")]
    [InlineData("set role uncial_app")]
    [InlineData("set role uncial_owner")]
    public async Task What_it_may_not_do_is_refused_by_the_database(string sql)
    {
        // There is something to change: else nothing would be refused.
        var run = await BegunAsync();
        await Desk().AnswerAsync(run, 1, "1", Cancel);
        (await TriedAsync(sql)).ShouldBeOneOf(
            PostgresErrorCodes.InsufficientPrivilege,
            PostgresErrorCodes.UndefinedFunction,
            PostgresErrorCodes.UndefinedColumn
        );
    }

    [Fact]
    public async Task The_login_of_the_shop_reaches_nothing_of_practice()
    {
        await using var connection = new NpgsqlConnection(shop.AppConnection);
        await connection.OpenAsync(Cancel);
        await using var command = new NpgsqlCommand("select * from practice.learners", connection);
        (await Should.ThrowAsync<PostgresException>(() => command.ExecuteNonQueryAsync(Cancel))).SqlState.ShouldBe(
            PostgresErrorCodes.InsufficientPrivilege
        );
    }

    [Fact]
    public async Task Items_are_answered_once_and_in_their_order()
    {
        var run = await BegunAsync();
        (await TriedAsync(Answer(run.Id, 2))).ShouldBe("UP012");
        (await TriedAsync(Answer(run.Id, 1))).ShouldBeNull();
        (await TriedAsync(Answer(run.Id, 1))).ShouldBe("UP012");

        static string Answer(long run, int number) =>
            "insert into practice.drill_answers (run_id, number, text, is_right, cause, at) "
            + $"values ({run}, {number}, '1', true, 'None', now())";
    }

    [Fact]
    public async Task An_answer_is_marked_and_kept_and_a_second_one_changes_nothing()
    {
        var (guest, _, _) = await Desk().NewGuestAsync("192.0.2.1", Cancel);
        var (begun, _) = await Desk().BeginAsync(guest!, DrillKind.Micrometer, Cancel);
        var run = (await Desk().RunAsync(guest, begun!.Id, Cancel))!;
        var item = (SizeItem)run.Item(1);
        (await Desk().AnswerAsync(run, 1, "twelve", Cancel)).Fault.ShouldNotBeNull();
        (await Desk().RunAsync(guest, run.Id, Cancel))!.Answers.ShouldBeEmpty();
        // Half a millimetre too much, in the gauge's unit.
        var typed = LengthText.Figure(item.Right + Length.FromMillimetres(0.5m), item.Unit, item.Decimals);
        (await Desk().AnswerAsync(run, 1, typed, Cancel)).Marked!.IsRight.ShouldBeFalse();
        // The same page sent again with the right answer.
        var right = LengthText.Figure(item.Right, item.Unit, item.Decimals);
        await Desk().AnswerAsync(run, 1, right, Cancel);
        var kept = (await Desk().RunAsync(guest, run.Id, Cancel))!.Answers.Single();
        (kept.Text, kept.IsRight, kept.Cause).ShouldBe((typed, false, Uncial.Practice.Causes.MistakeCause.TurnOfThimble));
        kept.OffMm.ShouldBe(0.5m);
    }

    [Fact]
    public async Task Nobody_sees_the_drill_of_another()
    {
        var run = await BegunAsync();
        var (other, _, _) = await Desk().NewGuestAsync("192.0.2.3", Cancel);
        (await Desk().RunAsync(other, run.Id, Cancel)).ShouldBeNull();
    }

    [Fact]
    public async Task A_guest_is_known_by_the_token_until_the_time_is_over()
    {
        var (guest, token, _) = await Desk().NewGuestAsync("192.0.2.4", Cancel);
        (await Desk().GuestAsync(token, Cancel))!.Id.ShouldBe(guest!.Id);
        (await Desk().GuestAsync("0123", Cancel)).ShouldBeNull();
        await using (var owner = new NpgsqlConnection(Logins.OwnerOf(shop.Connection)))
        {
            await owner.OpenAsync(Cancel);
            await using var over = new NpgsqlCommand(
                $"update practice.learners set expires_at = now() - interval '1 second' where id = {guest.Id}",
                owner
            );
            await over.ExecuteNonQueryAsync(Cancel);
        }
        (await Desk().GuestAsync(token, Cancel)).ShouldBeNull();
        await Desk().RemoveExpiredAsync(Cancel);
        await using var db = Db();
        (await db.Learners.FindAsync([guest.Id], Cancel)).ShouldBeNull();
    }

    [Fact]
    public async Task No_address_and_no_person_begins_without_end()
    {
        await using (var connection = new NpgsqlConnection(shop.PracticeConnection))
        {
            await connection.OpenAsync(Cancel);
            await using var guests = new NpgsqlCommand(
                "insert into practice.learners (address, created_at, expires_at) select '192.0.2.9', now(), now() + interval '1 hour' "
                    + "from generate_series(1, 500)",
                connection
            );
            await guests.ExecuteNonQueryAsync(Cancel);
        }
        (await Desk().NewGuestAsync("192.0.2.9", Cancel)).Refusal.ShouldBe(PracticeRefusal.TooMany);
        (await TriedAsync("insert into practice.learners (address, created_at) values ('192.0.2.10', now())")).ShouldBe("UP010");
    }

    [Fact]
    public async Task What_somebody_of_the_shop_practised_is_removed_when_they_want()
    {
        var member = await Desk().MemberAsync(1, "Ines Varga", Cancel);
        (await Desk().MemberAsync(1, "Ines Varga", Cancel)).Id.ShouldBe(member.Id);
        await Desk().BeginAsync(member, DrillKind.Locks, Cancel);
        (await Desk().RunsAsync(member, Cancel)).Count.ShouldBe(1);
        await Desk().RemoveAsync(member, Cancel);
        (await Desk().RunsAsync(member, Cancel)).ShouldBeEmpty();
    }

    [Fact]
    public async Task After_the_database_was_away_the_first_try_succeeds()
    {
        // As the application holds them: connections stay open between requests.
        var held = new NpgsqlConnectionStringBuilder(shop.PracticeConnection) { Pooling = true }.ConnectionString;
        PracticeDesk Pooled() => new(new(PracticeDb.For(held)), TimeProvider.System);
        var (guest, _, _) = await Pooled().NewGuestAsync("192.0.2.20", Cancel);
        var (run, _) = await Pooled().BeginAsync(guest!, DrillKind.Locks, Cancel);
        await using (var administrator = new NpgsqlConnection(shop.Connection))
        {
            await administrator.OpenAsync(Cancel);
            await using var end = new NpgsqlCommand(
                "select count(pg_terminate_backend(pid)) from pg_stat_activity where usename = 'uncial_practice' "
                    + "and datname = current_database()",
                administrator
            );
            ((long)(await end.ExecuteScalarAsync(Cancel))!).ShouldBeGreaterThan(0);
        }
        (await Pooled().AnswerAsync(run!, 1, "1", Cancel)).Marked.ShouldNotBeNull();
    }

    private async Task<DrillRun> BegunAsync()
    {
        var (guest, _, _) = await Desk().NewGuestAsync("192.0.2.2", Cancel);
        var (run, _) = await Desk().BeginAsync(guest!, DrillKind.Locks, Cancel);
        return run!;
    }
}
