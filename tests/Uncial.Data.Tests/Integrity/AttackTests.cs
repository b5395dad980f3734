using System.Globalization;
using System.Net;
using System.Security.Cryptography;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Uncial.Core.Inspection;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Release;
using Uncial.Data;

namespace Uncial.Data.Tests;

/// <summary>
/// Ways past the promise that no part beyond its limit leaves, each as it was tried: by somebody at the pages, and by SQL under the
/// application's own login.
/// </summary>
public class AttackTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private async Task<string?> AsApplication(string sql) => await Run(shop.AppConnection, sql);

    private static async Task<string?> Run(string connection, string sql)
    {
        await using var db = new NpgsqlConnection(connection + ";Pooling=false");
        await db.OpenAsync(Cancel);
        await using var command = new NpgsqlCommand(sql, db);
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

    private static string Sql(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);

    /// <summary>A rotor against discard 22 and machine-to 22.3, read all round and left uncut; judged where asked for.</summary>
    private static async Task<SurfaceRecord> Rotor(UncialDb db, string size, bool confirm = true)
    {
        var actor = new Actor(await db.PersonAsync("tom"), Role.Operator, DateTimeOffset.UtcNow);
        var surface = new WorkSurface
        {
            Kind = PartKind.Rotor,
            Places = 8,
            Diameter = TestParts.Mm(300),
            Band = TestParts.Mm(50),
        };
        foreach (var (limit, text) in new[] { (LimitKind.Nominal, "26"), (LimitKind.MachineTo, "22.3"), (LimitKind.Discard, "22") })
            ReceiveCommands.StateLimit(surface, limit, TestParts.Typed(text), LengthUnit.Millimetre, LimitSource.CastMarking, actor);
        var part = new Part
        {
            Tag = Guid.NewGuid().ToString("N")[..8],
            Corner = Corner.FrontLeft,
            Surfaces = { surface },
        };
        db.Jobs.Add(
            new()
            {
                Vehicle = "Test " + part.Tag,
                ReceivedAt = actor.At,
                ReceivedById = actor.Id,
                Parts = { part },
            }
        );
        await db.SaveChangesAsync(Cancel);
        var settings = await db.ShopAsync(Cancel);
        SurfaceRecord Now() => new(surface, part, settings);
        foreach (var place in Now().Measuring.Places)
            MeasureCommands.RecordReading(
                Now(),
                ReadingKind.Size,
                place,
                TestParts.Typed(size),
                LengthUnit.Millimetre,
                settings.GaugeFor(PartKind.Rotor),
                actor
            );
        await db.SaveChangesAsync(Cancel);
        PlanCommands.LeaveUncut(Now(), Now().Planning.Request(true), false, actor);
        await db.SaveChangesAsync(Cancel);
        if (!confirm)
            return Now();
        ConfirmCommands.Confirm(await db.LookAtAsync(Now(), actor), true, actor);
        await db.SaveChangesAsync(Cancel);
        return Now();
    }

    private static string Release(SurfaceRecord record, int by) =>
        Sql(
            $"""
            insert into outcomes (part_id, kind, do_not_machine_again, at, by_id) values ({record.Part.Id}, 'Released', false, now(), {by})
            """
        );

    private static string State(
        SurfaceRecord record,
        LimitKind kind,
        decimal mm,
        int by,
        string source = "CastMarking",
        string more = "null, null"
    ) =>
        Sql(
            $"""
            insert into limit_entries (surface_id, kind, value_mm, typed, unit, source, book_entry_id, signature_id, at, by_id)
                values ({record.Surface.Id}, '{kind}', {mm}, 'x', 'Millimetre', '{source}', {more}, now(), {by})
            """
        );

    [Fact]
    public async Task A_limit_is_not_made_laxer_without_a_lead_and_shows_where_it_was()
    {
        await using var db = shop.Db();
        var (record, tom) = (await Rotor(db, "21.50"), await db.PersonAsync("tom"));
        var (job, tag) = (record.Part.Job!.Number, record.Part.Tag);
        // By SQL: the same source anew, the book with a figure of one's own, another part's or no signature, a signature written by
        // oneself.
        (await AsApplication(State(record, LimitKind.Discard, 20m, tom))).ShouldBe("UN017");
        (await AsApplication(State(record, LimitKind.MachineTo, 22.2m, tom))).ShouldBe("UN017");
        (await AsApplication(State(record, LimitKind.Discard, 20m, tom, "LimitBook"))).ShouldBe("UN016");
        (await AsApplication(State(record, LimitKind.Discard, 20m, tom, "LimitBook", "(select min(id) from book), null"))).ShouldBe(
            "UN016"
        );
        (await AsApplication(State(record, LimitKind.Discard, 20m, tom, more: "null, (select max(id) from signatures)"))).ShouldBe("UN017");
        (
            await AsApplication(
                Sql(
                    $"""
                    insert into signatures (part_id, signed_for, subject, reason, signed_by_id, role, pin_checked, at, by_id)
                        values ({record.Part.Id}, 'LaxerLimit', 'x', 'x', 1, 'lead', true, now(), {tom})
                    """
                )
            )
        ).ShouldBe("42501");
        (await AsApplication(Sql($"update shops set rules = rules || '{{\"rotorMachineToAboveDiscard\": 0.1}}'"))).ShouldBe("42501");
        // Contradicting limits are no way around it, and stricter is free.
        (await AsApplication(State(record, LimitKind.MachineTo, 10m, tom))).ShouldBe("UN017");
        (await AsApplication(State(record, LimitKind.Discard, 22.05m, tom))).ShouldBeNull();

        // At the pages: the operator is asked for a lead, nothing is kept meanwhile, and what was typed stays.
        using var person = await new HttpPerson(shop.Address).SignInAsync("tom", "1304");
        var fields = new (string, string)[] { ("surface", "1"), ("UnitMarked", "mm"), ("Source", "CastMarking"), ("Main.Discard", "20") };
        var asked = await person.PostAsync($"/receive/{job}/{tag}?handler=Limits", fields);
        asked.Text.ShouldSatisfyAllConditions(
            t => t.ShouldContain("Laxer than what holds"),
            t => t.ShouldContain("Discard was 22.05 mm, would be 20.00 mm"),
            t => t.ShouldContain("value=\"20\"")
        );
        (
            await person.PostAsync(
                $"/receive/{job}/{tag}?handler=Limits",
                [.. fields, ("Reason", "sheet of the maker"), ("Lead", "1"), ("LeadPin", "1304")]
            )
        ).Text.ShouldContain("That is not the PIN");
        (
            await person.PostAsync(
                $"/receive/{job}/{tag}?handler=Limits",
                [.. fields.Where(f => f.Item1 != "Source"), ("Source", "LimitBook")]
            )
        ).Text.ShouldContain("What the book says comes by its entry");
        (await shop.RecordAsync(tag)).Receiving.Limits!.Discard.Millimetres.ShouldBe(22.05m);
        (
            await person.PostAsync(
                $"/receive/{job}/{tag}?handler=Limits",
                [.. fields, ("Reason", "sheet of the maker"), ("Lead", "1"), ("LeadPin", "2417")]
            )
        ).Code.ShouldBe(HttpStatusCode.Found);
        var now = await shop.RecordAsync(tag);
        (now.Receiving.Limits!.Discard.Millimetres, now.Confirming.Holding).ShouldBe((20m, null)); // judged anew
        now.Receiving.LaxerSteps.Select(l => (l.Kind, l.Was.Millimetres, l.Is.Millimetres, l.Why, l.SignedBy))
            .ShouldContain((LimitKind.Discard, 22.05m, 20m, "sheet of the maker", "Ines Varga"));
        var confirm = await person.GetAsync("/confirm/" + tag);
        confirm.Text.ShouldSatisfyAllConditions(
            t => t.ShouldContain("Discard was made laxer: was 22.05 mm, is 20.00 mm, signed by Ines Varga. sheet of the maker"),
            t => t.ShouldContain("Discard: one source, cast in the part.")
        );
    }

    [Fact]
    public async Task What_the_certificate_says_of_limits_and_withdrawn_readings()
    {
        await using var db = shop.Db();
        var (record, tom) = (await Rotor(db, "24.00", confirm: false), await db.PersonAsync("tom"));
        var (tag, actor) = (record.Part.Tag, new Actor(tom, Role.Operator, DateTimeOffset.UtcNow));
        SurfaceRecord Now() => new(record.Surface, record.Part, record.Shop);
        async Task<string?> Withdraw(ReadingEntry reading, string? lead)
        {
            await using var transaction = await db.Database.BeginTransactionAsync(Cancel);
            var signature = lead is null
                ? (long?)null
                : await db.SignAsync(record.Part.Id, SignedFor.ReadingBeyond, Signature.OfReading(reading.Id), tom, lead);
            MeasureCommands.Withdraw(Now(), reading, "slipped", actor, signature);
            try
            {
                await db.SaveChangesAsync(Cancel);
                await transaction.CommitAsync(Cancel);
                return null;
            }
            catch (DbUpdateException e)
            {
                db.Entry(reading.Withdrawal!).State = EntityState.Detached;
                reading.Withdrawal = null;
                return ((PostgresException)e.InnerException!).SqlState;
            }
        }
        // A place that was read before: the reading that is withdrawn counts as a repeat there no more.
        var spot = new ReadingPlace(90, null);
        var beyond = MeasureCommands.RecordReading(
            Now(),
            ReadingKind.Size,
            spot,
            TestParts.Typed("21.90"),
            LengthUnit.Millimetre,
            record.Shop.GaugeFor(PartKind.Rotor),
            actor
        );
        await db.SaveChangesAsync(Cancel);
        // Nor is it put out of the way as if its gauge had failed.
        (
            await AsApplication(
                Sql(
                    $"""
                    insert into reading_flags (reading_id, zero_check_id, at, by_id) select {beyond.Id}, min(id), now(), {tom}
                        from zero_checks where passed
                    """
                )
            )
        ).ShouldBe("UN026");
        Now().Measuring.WithdrawalOf(beyond).ShouldBe(new ReadingWithdrawal(true, true, true));
        (
            await AsApplication(
                Sql($"insert into withdrawals (reading_id, reason, at, by_id) values ({beyond.Id}, 'slipped', now(), {tom})")
            )
        ).ShouldBe("UN021");
        (await Withdraw(beyond, "ines")).ShouldBe("UN021"); // nobody read it again
        // A coarser gauge does not do, neither does another place.
        var caliper = record.Shop.Gauges.Find(g => g.Kind == Core.Gauges.GaugeKind.Caliper);
        if (caliper is not null)
            MeasureCommands.RecordReading(Now(), ReadingKind.Size, spot, TestParts.Typed("24.00"), LengthUnit.Millimetre, caliper, actor);
        MeasureCommands.RecordReading(
            Now(),
            ReadingKind.Size,
            Now().Measuring.Places[3],
            TestParts.Typed("24.00"),
            LengthUnit.Millimetre,
            record.Shop.GaugeFor(PartKind.Rotor),
            actor
        );
        await db.SaveChangesAsync(Cancel);
        (await Withdraw(beyond, "ines")).ShouldBe("UN021");
        MeasureCommands.RecordReading(
            Now(),
            ReadingKind.Size,
            spot,
            TestParts.Typed("24.00"),
            LengthUnit.Millimetre,
            record.Shop.GaugeFor(PartKind.Rotor),
            actor
        );
        await db.SaveChangesAsync(Cancel);
        (await Withdraw(beyond, null)).ShouldBe("UN022");
        (await Withdraw(beyond, "tom")).ShouldBe("UN022"); // no lead
        (
            await AsApplication(Sql($"insert into withdrawals (reading_id, reason, at, by_id) values ({beyond.Id}, ' ', now(), {tom})"))
        ).ShouldBe("UN020");
        using var person = await new HttpPerson(shop.Address).SignInAsync("tom", "1304");
        var turn = (await db.Surfaces.AsNoTracking().SingleAsync(s => s.Id == record.Surface.Id, Cancel)).Turn.ToString(
            CultureInfo.InvariantCulture
        );
        var at = Sql($"/confirm/{tag}?at={beyond.Degrees}");
        (string, string)[] Fields(string pin) =>
            [
                ("reading", beyond.Id.ToString(CultureInfo.InvariantCulture)),
                ("Turn", turn),
                ("at", "90"),
                ("Reason", "slipped"),
                ("Lead", "1"),
                ("LeadPin", pin),
            ];
        (await person.PostAsync($"/confirm/{tag}?handler=Withdraw", Fields("0000"), at)).Text.ShouldContain("That is not the PIN");
        (await person.PostAsync($"/confirm/{tag}?handler=Withdraw", Fields("2417"), at)).Code.ShouldBe(HttpStatusCode.Found);
        db.ChangeTracker.Clear();
        var again = await db.RecordAsync(tag);
        again.Measuring.Sizes.ShouldNotContain(r => r.Id == beyond.Id);
        ConfirmCommands
            .Confirm(await db.LookAtAsync(again, actor), true, actor, "coarser gauge beside it")
            .ShouldSatisfyAllConditions(j => j.Worst!.Value.Millimetres.ShouldBe(24m), j => j.Decision.ShouldBe(Decision.Release));
        await db.SaveChangesAsync(Cancel);
        ReleaseCommands.Close(again.Part, OutcomeKind.Released, null, false, actor);
        await db.SaveChangesAsync(Cancel);
        var paper = (await person.GetAsync("/certificate/" + tag)).Text;
        paper.ShouldSatisfyAllConditions(
            t => t.ShouldContain("1 reading was withdrawn: 21.90 at 3, slipped, signed by Ines Varga"),
            t => t.ShouldContain("Discard: one source, cast in the part.")
        );
    }

    [Fact]
    public async Task The_applications_login_can_put_nothing_in_the_way_of_the_guards_and_nothing_that_guards_is_a_superuser()
    {
        foreach (
            var sql in new[]
            {
                "create temporary table outcomes (id int)",
                "create table public.mine (id int)",
                "create schema mine",
                "create function pg_temp.f() returns int language sql as 'select 1'",
                "set role uncial_owner",
                "set session_replication_role = replica",
                "alter table outcomes disable trigger all",
                "create or replace function public.guard_outcome() returns trigger language plpgsql as 'begin return new; end'",
                "select hash from pins",
                "select token_hash from sessions",
                "select token_hash from screens",
                "select commitment from pin_tries",
                "update operators set role = 'owner'",
                "insert into operators (user_name, display_name, role) values ('x', 'x', 'owner')",
                "select write_pin(1, '8080')",
                "select open_session(1, 1)",
                "update pin_delays set misses = 0",
                "update sessions set ended_at = null",
                "select shop_add('x', 'x', 'I', '\\x00')",
                "select chain_add(1, 99, 'x', 1, '{}')",
                "update fact_counters set last = 0",
                "update shops set has_demo_data = true",
                "delete from rule_changes",
                "copy readings to program 'id'",
                "delete from sessions",
                "update screens set name = 'x'",
            }
        )
            (await AsApplication(sql)).ShouldBeOneOf("42501", "42P01");
        await using var db = shop.Db();
        // Every function names its search path with pg_temp last; what runs under its owner's rights is no superuser's.
        var loose = await db
            .Database.SqlQuery<string>(
                $"""
                select p.proname::text as "Value" from pg_proc p join pg_namespace n on n.oid = p.pronamespace where n.nspname = 'public'
                    and not exists (select 1 from pg_depend d where d.objid = p.oid and d.deptype = 'e')
                    and (coalesce(array_to_string(p.proconfig, ';'), '') not like '%search_path=pg_catalog, public, pg_temp%'
                    or pg_get_userbyid(p.proowner) <> 'uncial_owner')
                """
            )
            .ToListAsync(Cancel);
        loose.ShouldBeEmpty();
        (
            await db
                .Database.SqlQuery<string>(
                    $"""
                    select rolname::text as "Value" from pg_roles where rolname in ('uncial_owner', 'uncial_app')
                        and (rolsuper or rolcreaterole or rolcreatedb or rolreplication or rolbypassrls)
                    """
                )
                .ToListAsync(Cancel)
        ).ShouldBeEmpty();
        (
            await db
                .Database.SqlQuery<string>(
                    $"""
                    select c.relname::text as "Value" from pg_class c join pg_namespace n on n.oid = c.relnamespace
                        where n.nspname = 'public' and c.relkind in ('r', 'S') and pg_get_userbyid(c.relowner) <> 'uncial_owner'
                    """
                )
                .ToListAsync(Cancel)
        ).ShouldBeEmpty();
        shop
            .Services.GetService(typeof(Microsoft.Extensions.Configuration.IConfiguration))
            .ShouldBeAssignableTo<Microsoft.Extensions.Configuration.IConfiguration>()!["ConnectionStrings:Uncial"]!.ShouldContain(
            "uncial_app"
        );
    }

    [Fact]
    public async Task A_judgement_ends_with_the_limits_and_rules_that_it_was_made_by()
    {
        await using var db = shop.Db();
        var tom = await db.PersonAsync("tom");
        var record = await Rotor(db, "22.60");
        record.Confirming.Holding!.Decision.ShouldBe(Decision.Release);
        (await AsApplication(State(record, LimitKind.MachineTo, 22.9m, tom))).ShouldBeNull(); // stricter, free
        (await AsApplication(Release(record, tom))).ShouldBe("UN019");
        (await shop.RecordAsync(record.Part.Tag)).ShouldSatisfyAllConditions(
            r => r.Confirming.Holding.ShouldBeNull(),
            r => r.Confirming.Outdated.ShouldNotBeNull(),
            r => r.Confirming.Judge(true).Decision.ShouldBe(Decision.LeadOnly)
        );
        // A judgement that says more than its figures do is refused, and one by rules that were changed since.
        var forged = Sql(
            $"""
            insert into confirmations (surface_id, cuts, kind, worst_mm, discard_mm, machine_to_mm, uncertainty_mm, allowance_mm,
                groove_left_mm, decision, dial_borne_out, at, by_id)
                values ({record.Surface.Id}, 0, 'Rotor', 22.6, 22, 22.9, 0.006, 0.01, 0, 'Release', false, now(), {tom})
            """
        );
        (await AsApplication(forged)).ShouldBe(PostgresErrorCodes.CheckViolation);
        var other = await Rotor(db, "24.00");
        await using var fresh = new EmptyShop();
        await fresh.InitializeAsync();
        await using var there = fresh.Db();
        there.Operators.Add(
            new()
            {
                UserName = "tom",
                DisplayName = "T",
                Role = Roles.Owner,
            }
        );
        await there.SaveChangesAsync(Cancel);
        var here = await Rotor(there, "24.00");
        there.RuleChanges.Add(
            new()
            {
                After = here.Shop.Rules with { Shape = here.Shop.Rules.Shape with { UnreadShareOfVariation = 4 } },
                At = DateTimeOffset.UtcNow,
                ById = await there.PersonAsync("tom"),
            }
        );
        await there.SaveChangesAsync(Cancel);
        (await Run(fresh.AppConnection, Release(here, await there.PersonAsync("tom")))).ShouldBe("UN019");
        // An allowance below nothing would make room past the limits: no rule is negative, under any name and whoever writes it.
        foreach (var rule in new[] { "unseenLobesFullRound", "depthUncertainty", "lookAgainWithin" })
            (
                await Run(
                    fresh.AppConnection,
                    FormattableString.Invariant(
                        $"""
                        insert into rule_changes (after, laxer, at, by_id) select jsonb_set(rules, array['{rule}'], '-0.5'), false, now(),
                            {await there.PersonAsync("tom")} from shops
                        """
                    )
                )
            ).ShouldBe("UN029", rule);
        (await AsApplication(Release(other, tom))).ShouldBeNull();
    }

    [Fact]
    public async Task Order_is_by_number_and_a_clock_that_goes_back_changes_nothing()
    {
        await using var db = shop.Db();
        var (tom, ines) = (await db.PersonAsync("tom"), await db.PersonAsync("ines"));
        var record = await Rotor(db, "24.00");
        var past = DateTimeOffset.UtcNow.AddHours(-1);
        // A lead settles for the laxer source; then, by a clock that went back, a stricter figure is read on the part: it holds.
        ReceiveCommands.StateLimit(
            record.Surface,
            LimitKind.Discard,
            TestParts.Typed("23.5"),
            LengthUnit.Millimetre,
            LimitSource.MakersSheet,
            new(tom, Role.Operator, DateTimeOffset.UtcNow)
        );
        await db.SaveChangesAsync(Cancel);
        await using (var signing = await db.Database.BeginTransactionAsync(Cancel))
        {
            var held = record.Surface.LimitEntries.Single(l => l.Kind == LimitKind.Discard && l.Source == LimitSource.CastMarking);
            ReceiveCommands.Settle(
                record.Surface,
                held,
                "plate",
                new(ines, Role.Operator, DateTimeOffset.UtcNow),
                await db.SignAsync(record.Part.Id, SignedFor.Settlement, Signature.OfSettlement(held.Id), ines)
            );
            await db.SaveChangesAsync(Cancel);
            await signing.CommitAsync(Cancel);
        }
        SurfaceRecord Now() => new(record.Surface, record.Part, record.Shop);
        Now().Receiving.Limits!.Discard.Millimetres.ShouldBe(22m);
        ReceiveCommands.StateLimit(
            record.Surface,
            LimitKind.Discard,
            TestParts.Typed("22.2"),
            LengthUnit.Millimetre,
            LimitSource.CastMarking,
            new(tom, Role.Operator, past)
        );
        await db.SaveChangesAsync(Cancel);
        Now().Receiving.Held(LimitKind.Discard)!.Value.Millimetres.ShouldBe(23.5m);
        (
            await db
                .Database.SqlQuery<decimal>($"select effective_machine_to({record.Surface.Id}, {int.MaxValue}) as \"Value\"")
                .SingleAsync(Cancel)
        ).ShouldBe(23.5m);
        // Readings after the judgement count whatever the clock says.
        var next = await Rotor(db, "24.00");
        MeasureCommands.RecordReading(
            next,
            ReadingKind.Size,
            next.Measuring.Places[0],
            TestParts.Typed("21.00"),
            LengthUnit.Millimetre,
            next.Shop.GaugeFor(PartKind.Rotor),
            new(tom, Role.Operator, past)
        );
        await db.SaveChangesAsync(Cancel);
        (await AsApplication(Release(next, tom))).ShouldBe("UN004");
        var mild = await Rotor(db, "24.00");
        MeasureCommands.RecordReading(
            mild,
            ReadingKind.Size,
            mild.Measuring.Places[0],
            TestParts.Typed("23.99"),
            LengthUnit.Millimetre,
            mild.Shop.GaugeFor(PartKind.Rotor),
            new(tom, Role.Operator, past)
        );
        await db.SaveChangesAsync(Cancel);
        (await AsApplication(Release(mild, tom))).ShouldBe("UN006");
        // A failed check that the clock puts before a good one is the newest all the same.
        var gauge = new Gauge
        {
            Name = "G" + record.Part.Tag,
            Kind = Core.Gauges.GaugeKind.Micrometer,
            Resolution = TestParts.Mm(0.001m),
            StandardSize = TestParts.Mm(25),
            ZeroTolerance = TestParts.Mm(0.004m),
        };
        (await db.ShopAsync(Cancel)).Gauges.Add(gauge);
        await db.SaveChangesAsync(Cancel);
        await GaugeCommands.CheckAsync(db, gauge, TestParts.Typed("25.000"), new(tom, Role.Operator, DateTimeOffset.UtcNow), Cancel);
        await GaugeCommands.CheckAsync(db, gauge, TestParts.Typed("25.020"), new(tom, Role.Operator, past), Cancel);
        (await db.ShopAsync(Cancel)).Gauges.Single(g => g.Id == gauge.Id).Failed.ShouldBeTrue();
        // The numbers are those of the chain, without a gap, and the database's clock has no say either.
        await db.Database.ExecuteSqlRawAsync(
            """
            create or replace function uncial_now() returns timestamptz
                language sql volatile set search_path = pg_catalog, public, pg_temp as 'select clock_timestamp() - interval ''1 hour'''
            """,
            Cancel
        );
        try
        {
            await using var look = new NpgsqlConnection(shop.AppConnection + ";Pooling=false");
            await look.OpenAsync(Cancel);
            for (var i = 0; i < 5; i++)
                (await Begin(look, ines, null)).Wait.ShouldBe(0);
            (await Begin(look, ines, null)).Wait.ShouldBeInRange(1, 30);
        }
        finally
        {
            await db.Database.ExecuteSqlRawAsync(
                """
                create or replace function uncial_now() returns timestamptz
                    language sql volatile set search_path = pg_catalog, public, pg_temp as 'select clock_timestamp()'
                """,
                Cancel
            );
        }
        var numbers = await db
            .Chain.Where(l => l.PartId == record.Part.Id)
            .OrderBy(l => l.Number)
            .Select(l => l.Number)
            .ToListAsync(Cancel);
        numbers.ShouldBe(Enumerable.Range(1, numbers.Count));
        await db.Database.ExecuteSqlRawAsync("delete from pin_delays", Cancel);
    }

    [Fact]
    public async Task A_part_that_has_left_takes_nothing_but_a_recall()
    {
        await using var db = shop.Db();
        var tom = await db.PersonAsync("tom");
        var record = await Rotor(db, "24.00");
        InspectCommands.RecordFinding(
            record,
            FindingKind.Glaze,
            Side.Outer,
            0,
            null,
            default,
            null,
            null,
            new(tom, Role.Operator, DateTimeOffset.UtcNow)
        );
        await db.SaveChangesAsync(Cancel);
        (await AsApplication(Release(record, tom))).ShouldBeNull();
        var (part, surface, reading, finding) = (
            record.Part.Id,
            record.Surface.Id,
            record.Measuring.Sizes[0].Id,
            record.Surface.Findings[0].Id
        );
        foreach (
            var sql in new[]
            {
                Sql($"insert into withdrawals (reading_id, reason, at, by_id) values ({reading}, 'x', now(), {tom})"),
                Sql($"insert into finding_withdrawals (finding_id, reason, at, by_id) values ({finding}, 'x', now(), {tom})"),
                Sql($"update parts set marked_at = now() where id = {part}"),
                Sql($"update parts set new_price = 10 where id = {part}"),
                Sql($"update parts set km_since_new = 10 where id = {part}"),
                Sql($"update surfaces set max_variation_mm = 9 where id = {surface}"),
                Sql($"update jobs set odometer_km = 1 where id = {record.Part.JobId}"),
                Sql(
                    $$"""
                    insert into surfaces (part_id, kind, in_hat, diameter_mm, band_mm, places, depths_mm, turn)
                        values ({{part}}, 'Drum', true, 0, 0, 4, '{}', 0)
                    """
                ),
                State(record, LimitKind.Discard, 23m, tom),
                Release(record, tom),
            }
        )
            (await AsApplication(sql)).ShouldBe("UN002", sql);
        // At the pages: the stud mark, the price and the distance, an undo.
        using var person = await new HttpPerson(shop.Address).SignInAsync("tom", "1304");
        await person.PostAsync($"/look/{record.Part.Tag}/1?handler=Mark", [("marked", "true")], "/check");
        (await db.Parts.AsNoTracking().SingleAsync(p => p.Id == part, Cancel)).MarkedAt.ShouldBeNull();
        (
            await AsApplication(
                Sql(
                    $"""
                    insert into outcome_withdrawals (outcome_id, reason, had_left, at, by_id)
                        values ((select id from outcomes where part_id = {part}), 'x', true, now(), {tom})
                    """
                )
            )
        ).ShouldBe("UN013");
    }

    private static async Task<(long? Try, int Wait, byte[] Nonce)> Begin(
        NpgsqlConnection connection,
        int person,
        string? screen,
        string pin = "0000"
    )
    {
        var nonce = RandomNumberGenerator.GetBytes(16);
        await using var command = new NpgsqlCommand("select try, wait from begin_try($1, $2, '10.0.0.9', $3, 'test')", connection);
        command.Parameters.Add(new() { Value = person });
        command.Parameters.Add(new() { Value = screen ?? "" });
        command.Parameters.Add(new() { Value = SHA256.HashData([.. nonce, .. System.Text.Encoding.UTF8.GetBytes(pin)]) });
        await using var reader = await command.ExecuteReaderAsync(Cancel);
        await reader.ReadAsync(Cancel);
        return (reader.IsDBNull(0) ? null : reader.GetInt64(0), reader.GetInt32(1), nonce);
    }

    [Fact]
    public async Task A_pin_is_counted_before_it_is_judged_and_a_signature_is_of_its_session_part_and_transaction()
    {
        var ilse = await shop.AddPersonAsync("ilse", "Ilse Brandt", "7316", Roles.Lead);
        await using var db = shop.Db();
        var (tom, record) = (await db.PersonAsync("tom"), await Rotor(db, "22.20"));
        var desk = new PinDesk(new(UncialDbOptions.For(shop.AppConnection)));
        var screen = (await desk.EnrolForDemoAsync("here", Cancel))!;
        async Task<string?> SignIn(int who, string pin) =>
            await desk.BeginAsync(who, pin, screen, "here", "sign-in", Cancel) is { Try: not null } attempt
                ? await desk.SignInAsync(attempt, screen, Cancel)
                : null;
        var session = (await SignIn(tom, "1304"))!;
        await using var app = new NpgsqlConnection(shop.AppConnection + ";Pooling=false");
        await app.OpenAsync(Cancel);
        async Task<long?> Sign(
            string token,
            (long? Try, int Wait, byte[] Nonce) t,
            string pin,
            NpgsqlTransaction? transaction,
            string subject = "x"
        )
        {
            await using var command = new NpgsqlCommand(
                "select give_signature($1, $2, $3, $4, $5, 'BetweenLimits', $6, 'because')",
                app,
                transaction
            );
            foreach (var value in new object?[] { token, t.Try, pin, t.Nonce, record.Part.Id, subject })
                command.Parameters.Add(new() { Value = value ?? DBNull.Value });
            return await command.ExecuteScalarAsync(Cancel) as long?;
        }
        // Rolling back does not uncount a try, one try is good for the one PIN that it named, and in the transaction that counted it for
        // none.
        await using (var transaction = await app.BeginTransactionAsync(Cancel))
        {
            (await Sign(session, await Begin(app, ilse, screen, "7316"), "7316", transaction)).ShouldBeNull();
            await transaction.RollbackAsync(Cancel);
        }
        var named = await Begin(app, ilse, screen, "1111");
        for (var i = 0; i < 3; i++)
        {
            await using var transaction = await app.BeginTransactionAsync(Cancel);
            (await Sign(session, named, "7316", transaction)).ShouldBeNull();
            await transaction.RollbackAsync(Cancel);
        }
        (await db.PinDelays.AsNoTracking().Where(d => d.OperatorId == ilse).SumAsync(d => d.Misses, Cancel)).ShouldBe(1);
        // A hundred, forty at once: five are judged, and on a machine so busy that they take longer than the wait, one more for each wait.
        var started = System.Diagnostics.Stopwatch.GetTimestamp();
        var judged = await Task.WhenAll(
            Enumerable
                .Range(0, 100)
                .Select(async _ =>
                {
                    await using var each = new NpgsqlConnection(shop.AppConnection + ";Maximum Pool Size=40;Timeout=120");
                    await each.OpenAsync(Cancel);
                    return (await Begin(each, ilse, screen)).Try is not null;
                })
        );
        var waits = (int)(System.Diagnostics.Stopwatch.GetElapsedTime(started).TotalSeconds / 30);
        judged.Count(j => j).ShouldBeInRange(4, 4 + waits); // one was counted before
        await db.Database.ExecuteSqlRawAsync("update pin_delays set last_at = now()", Cancel);
        (await SignIn(ilse, "7316")).ShouldBeNull();
        // A lead unlocks at the screen; then the right PIN signs, for this part and in its own transaction only.
        await db.Database.ExecuteSqlRawAsync("delete from pin_delays", Cancel);
        var subject = Signature.OfConfirmations([record.Surface.Confirmations.Newest()!.Id]);
        string Between(object signature) =>
            Sql(
                $"""
                insert into outcomes (part_id, kind, reason, do_not_machine_again, signature_id, at, by_id)
                    values ({record.Part.Id}, 'Released', 'because', true, {signature}, now(), {tom})
                """
            );
        var loose = (await Sign(session, await Begin(app, ilse, screen, "7316"), "7316", null, subject))!.Value;
        (await AsApplication(Between(loose))).ShouldBe("UN007"); // of another transaction
        (await AsApplication(Release(record, tom))).ShouldBe("UN007");
        var wrong = await Begin(app, tom, screen, "1304");
        (await Sign(session, wrong, "1304", null, subject)).ShouldBeNull(); // an operator does not sign
        (await Sign("none", await Begin(app, ilse, screen, "7316"), "7316", null, subject)).ShouldBeNull(); // nobody is signed in
        // Signed out, disabled or with a new PIN, a session is over.
        await desk.SignOutAsync(session, Cancel);
        (await desk.SessionAsync(session, Cancel)).ShouldBeNull();
        (await Sign(session, await Begin(app, ilse, screen, "7316"), "7316", null, subject)).ShouldBeNull();
        session = (await SignIn(tom, "1304"))!;
        var due = await Begin(app, ilse, screen, "7316");
        await using (var transaction = await app.BeginTransactionAsync(Cancel))
        {
            var signature = (await Sign(session, due, "7316", transaction, subject))!.Value;
            await using var release = new NpgsqlCommand(Between(signature), app, transaction);
            await release.ExecuteNonQueryAsync(Cancel);
            await transaction.CommitAsync(Cancel);
        }
        var kept = await db.Outcomes.AsNoTracking().Include(o => o.Signature).SingleAsync(o => o.PartId == record.Part.Id, Cancel);
        (kept.SignedById, kept.Signature!.Role, kept.Signature.PinChecked, kept.Signature.ById).ShouldBe((ilse, Roles.Lead, true, tom));
        (await ChainCheck.OfPartAsync(db, record.Part.Id, Cancel)).ShouldBeEmpty();
    }
}
