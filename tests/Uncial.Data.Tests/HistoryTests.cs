using Microsoft.EntityFrameworkCore;
using Npgsql;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Release;
using Uncial.Data;

namespace Uncial.Data.Tests;

/// <summary>The history cannot be bent: not by the application, and not behind its back without being found out.</summary>
public class HistoryTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static async Task<string?> Try(string connection, string sql)
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

    /// <summary>What somebody with the owner's login and bad intent can do: all triggers rest.</summary>
    private async Task Attack(string sql) =>
        (await Try(shop.Connection, "set session_replication_role = replica; " + sql)).ShouldBeNull(sql);

    private async Task<IReadOnlyList<ChainFault>> Faults(int part)
    {
        await using var db = shop.Db();
        return await ChainCheck.OfPartAsync(db, part, Cancel);
    }

    private static async Task<Part> Open(UncialDb db, string tag) => (await db.PartAsync(tag, Cancel))!;

    /// <summary>A rotor that was read, left uncut, judged and released.</summary>
    private async Task<Part> Released(UncialDb db)
    {
        var tag = await shop.ReadPartAsync();
        var (part, settings, hand) = (
            await Open(db, tag),
            await db.ShopAsync(Cancel),
            new Actor(await db.PersonAsync("ines"), Role.Operator, DateTimeOffset.UtcNow)
        );
        SurfaceRecord Now() => new(part.Surfaces[0], part, settings);
        foreach (var place in Now().Measuring.Places)
            MeasureCommands.RecordReading(
                Now(),
                ReadingKind.Size,
                place,
                TestParts.Typed("24.31"),
                LengthUnit.Millimetre,
                settings.GaugeFor(PartKind.Rotor),
                hand
            );
        foreach (var old in part.Surfaces[0].Readings.Where(r => r.GaugeId is null).ToList())
            MeasureCommands.Withdraw(Now(), old, "read anew", hand);
        PlanCommands.LeaveUncut(Now(), Now().Planning.Request(true), false, hand);
        await db.SaveChangesAsync(Cancel);
        ConfirmCommands
            .Confirm(await db.LookAtAsync(Now(), hand), true, hand with { At = DateTimeOffset.UtcNow })
            .Decision.ShouldBe(Decision.Release);
        await db.SaveChangesAsync(Cancel);
        ReleaseCommands.Close(part, OutcomeKind.Released, null, false, hand with { At = DateTimeOffset.UtcNow });
        await db.SaveChangesAsync(Cancel);
        return part;
    }

    [Fact]
    public async Task The_application_may_add_facts_and_not_bend_them()
    {
        await using var db = shop.Db();
        var part = await Open(db, await shop.ReadPartAsync());
        var app = shop.AppConnection;
        foreach (
            var sql in new[]
            {
                "update readings set value_mm = 30",
                "delete from readings",
                "truncate readings cascade",
                "update outcomes set kind = 'Released'",
                "delete from chain",
                "insert into chain values (1, 99, 'readings', 1, '\\x00')",
                "update log_lines set search = ''",
                "alter table readings disable trigger all",
                "set session_replication_role = replica",
                "drop function chain_add",
                "delete from parts",
                "delete from surfaces",
                "update zero_checks set passed = true",
                "create table mine (id int)",
                "update \"__EFMigrationsHistory\" set product_version = '0'",
            }
        )
            (await Try(app, sql)).ShouldBe("42501", sql);
        // A part keeps its name and its surfaces their kind, whoever asks.
        (await Try(app, $"update parts set tag = 'OTHER' where id = {part.Id}")).ShouldBe("UN001");
        (await Try(shop.Connection, $"update surfaces set kind = 'Drum' where part_id = {part.Id}")).ShouldBe("UN001");
        (await Try(app, $"update parts set new_price = 84.5 where id = {part.Id}")).ShouldBeNull();
        foreach (var table in new[] { "chain", "certificates", "prints", "outcome_withdrawals" })
            (await Try(shop.Connection, $"truncate {table} cascade")).ShouldBe("UN001", table);
        (await Faults(part.Id)).ShouldBeEmpty();
    }

    [Fact]
    public async Task Whatever_is_changed_taken_away_or_slipped_in_behind_its_back_is_named()
    {
        await using var db = shop.Db();
        var reading = "(select min(id) from readings where surface_id = {0})";
        foreach (
            var (attack, says) in new[]
            {
                ($"update readings set value_mm = value_mm + 0.001 where id = {reading}", "is not what was stated"),
                ($"update readings set at = at + interval '1 second' where id = {reading}", "is not what was stated"),
                ($"update readings set note = 'fine' where id = {reading}", "is not what was stated"),
                ($"update limit_entries set value_mm = 20 where surface_id = {{0}}", "is not what was stated"),
                ($"delete from readings where id = {reading}", "is gone"),
                (
                    "insert into readings (surface_id, kind, degrees, value_mm, typed, unit, resolution_mm, uncertainty_mm, "
                        + "insisted, cuts, at, by_id) values ({0}, 'Size', 0, 30, '30', 'Millimetre', 0.01, 0.01, false, 0, now(), 1)",
                    "was slipped in"
                ),
                ("delete from chain where part_id = {1} and number = 4", "the link is missing"),
                ("update surfaces set in_hat = true where id = {0}", "is not what was stated"),
                // The link made to fit what was changed no longer fits the one after it.
                (
                    $"update readings set value_mm = 24.9 where id = {reading}; update chain c set hash = sha256(coalesce((select "
                        + "hash from chain b where b.part_id = c.part_id and b.number = c.number - 1), ''::bytea) || convert_to('readings "
                        + "' || fact_text('readings', (select to_jsonb(r) from readings r where r.id = c.fact_id)), 'UTF8')) where "
                        + $"part_id = {{1}} and fact_table = 'readings' and fact_id = {reading}",
                    "is not what was stated"
                ),
            }
        )
        {
            var part = await Open(db, await shop.ReadPartAsync());
            (await Faults(part.Id)).ShouldBeEmpty();
            await Attack(
                "set timezone = 'UTC'; "
                    + attack
                        .Replace(
                            "{0}",
                            part.Surfaces[0].Id.ToString(System.Globalization.CultureInfo.InvariantCulture),
                            StringComparison.Ordinal
                        )
                        .Replace("{1}", part.Id.ToString(System.Globalization.CultureInfo.InvariantCulture), StringComparison.Ordinal)
            );
            var faults = await Faults(part.Id);
            faults.ShouldContain(f => f.What.Contains(says, StringComparison.Ordinal) && f.Tag == part.Tag, attack);
        }
        // The command says the same of the whole shop, and a part that was taken away with everything leaves its chain.
        var gone = await Open(db, await shop.ReadPartAsync());
        await Attack(
            $"delete from readings where surface_id = {gone.Surfaces[0].Id}; delete from limit_entries where surface_id = "
                + $"{gone.Surfaces[0].Id}; delete from surfaces where part_id = {gone.Id}; delete from log_lines where part_id = "
                + $"{gone.Id}; delete from parts where id = {gone.Id}"
        );
        using var says2 = new StringWriter();
        (await ShopCommand.RunAsync(["verify"], shop.Connection, says2, Cancel)).ShouldBe(1);
        says2.ToString().ShouldContain("the part is gone, its chain is still there");
        says2.ToString().ShouldContain("faults");
    }

    [Fact]
    public async Task A_proof_holds_to_the_letter_or_says_that_it_does_not()
    {
        await using var db = shop.Db();
        var part = await Released(db);
        var settings = await db.ShopAsync(Cancel);
        await using var other = shop.Db();
        // Two screens that ask at once get one and the same proof.
        var (mine, theirs) = (
            await CertificateStore.EnsureAsync(db, part, settings, DateTimeOffset.UtcNow, Cancel),
            await CertificateStore.EnsureAsync(other, await Open(other, part.Tag), settings, DateTimeOffset.UtcNow, Cancel)
        );
        theirs.Hash.ShouldBe(mine.Hash);
        var proof = CertificateStore.Read(mine);
        (proof.Tag, proof.Outcome, proof.Surfaces[0].Now, proof.Surfaces[0].Sizes.Count, proof.By).ShouldBe(
            (part.Tag, OutcomeKind.Released, Length.FromMillimetres(24.31m), 8, "Ines Varga")
        );
        (await CertificateStore.CheckAsync(db, mine, Cancel)).Holds.ShouldBeTrue();
        (await CertificateStore.FindAsync(db, CertificateStore.Spelled(mine.Hash[..16]).ToUpperInvariant(), Cancel))!.Id.ShouldBe(mine.Id);
        foreach (var code in new[] { mine.Hash[..15], "zz", new string('g', 64), mine.Hash + "0", "" })
            (await CertificateStore.FindAsync(db, code, Cancel)).ShouldBeNull(code);
        // The certificate forged; a reading behind it changed; the end of its chain cut off with the outcome.
        await Attack($"update certificates set document = replace(document, '24.31', '25.31') where id = {mine.Id}");
        await using (var look = shop.Db())
            (
                await CertificateStore.CheckAsync(look, await look.Certificates.SingleAsync(c => c.Id == mine.Id, Cancel), Cancel)
            ).ShouldSatisfyAllConditions(s => s.HashHolds.ShouldBeFalse(), s => s.Holds.ShouldBeFalse());
        var second = await Released(db);
        var held = await CertificateStore.EnsureAsync(db, second, settings, DateTimeOffset.UtcNow, Cancel);
        await Attack(
            $"update readings set value_mm = 25 where id = (select max(id) from readings where surface_id = {second.Surfaces[0].Id})"
        );
        (await CertificateStore.CheckAsync(db, held, Cancel)).ShouldSatisfyAllConditions(
            s => s.HashHolds.ShouldBeTrue(),
            s => s.ChainHolds.ShouldBeFalse()
        );
    }

    [Fact]
    public async Task A_part_is_recalled_by_a_lead_only_and_is_read_and_judged_anew()
    {
        await using var db = shop.Db();
        var part = await Released(db);
        var (tom, ines) = (await db.PersonAsync("tom"), await db.PersonAsync("ines"));
        string CallBack(string reason, int by, string signed = "null") =>
            $"insert into outcome_withdrawals (outcome_id, reason, had_left, at, by_id, signed_by_id) values ({part.Outcome!.Id}, "
            + $"'{reason}', true, now(), {by}, {signed})";
        (await Try(shop.Connection, CallBack("pulls left", tom))).ShouldBe("UN013");
        (await Try(shop.Connection, CallBack(" ", ines))).ShouldBe("UN013");
        var again = ReceiveCommands.TakeInAgain(part, await db.ShopAsync(Cancel), new(ines, Role.Operator, DateTimeOffset.UtcNow));
        (again.Tag, again.Visit, again.Surfaces[0].LimitEntries.Count, again.Surfaces[0].Readings.Count).ShouldBe((part.Tag, 2, 3, 0));
        await using (var signing = await db.Database.BeginTransactionAsync(Cancel))
        {
            ReleaseCommands.Recall(
                part.Outcome!,
                "pulls left",
                hadLeft: true,
                await db.SignAsync(part.Id, SignedFor.Recall, Signature.OfOutcome(part.Outcome!.Id), tom),
                new(tom, Role.Operator, DateTimeOffset.UtcNow)
            );
            await db.SaveChangesAsync(Cancel);
            await signing.CommitAsync(Cancel);
        }
        part.Outcome.ShouldBeNull();
        await using (var log = shop.Db())
            (await log.LogLines.SingleAsync(l => l.PartId == part.Id, Cancel)).Outcome.ShouldBeNull();
        // What was read before counts for nothing, what was judged neither; the database thinks so too.
        var record = new SurfaceRecord(part.Surfaces[0], part, await db.ShopAsync(Cancel));
        (record.Measuring.Sizes.Count, record.Confirming.Holding, record.Station).ShouldBe((0, null, Station.Confirm));
        ReleaseCommands.Close(part, OutcomeKind.Released, null, false, new(ines, Role.Operator, DateTimeOffset.UtcNow));
        (await Should.ThrowAsync<DbUpdateException>(() => db.SaveChangesAsync(Cancel)))
            .InnerException.ShouldBeOfType<PostgresException>()
            .SqlState.ShouldBe("UN005");
        db.Refused(part);
        Should.Throw<InvalidOperationException>(() =>
            ReceiveCommands.TakeInAgain(part, record.Shop, new(ines, Role.Operator, DateTimeOffset.UtcNow))
        ); // it is here
        (await Faults(part.Id)).ShouldBeEmpty();
        // Scrap stays scrap, and what came again is that visit's.
        ReleaseCommands.Close(
            part,
            OutcomeKind.Scrapped,
            "thin",
            false,
            new(ines, Role.Operator, DateTimeOffset.UtcNow),
            new(ScrapCause.Other)
        );
        await db.SaveChangesAsync(Cancel);
        (await Try(shop.Connection, CallBack("please", ines))).ShouldBe("UN012");
        ReceiveCommands.RefusesAgain(part).ShouldBe(AgainRefusal.IsScrap);
        var other = await Released(db);
        var next = ReceiveCommands.TakeInAgain(other, record.Shop, new(ines, Role.Operator, DateTimeOffset.UtcNow));
        next.JobId = other.JobId;
        db.Parts.Add(next);
        await db.SaveChangesAsync(Cancel);
        (
            await Try(
                shop.Connection,
                $"insert into outcome_withdrawals (outcome_id, reason, had_left, at, by_id) values ({other.Outcome!.Id}, 'x', true, "
                    + $"now(), {ines})"
            )
        ).ShouldBe("UN015");
    }

    [Fact]
    public async Task A_release_rests_on_the_readings_that_were_judged_and_on_nothing_that_came_with_a_file()
    {
        await using var db = shop.Db();
        var ines = await db.PersonAsync("ines");
        var tag = await shop.ReadPartAsync();
        var part = await Open(db, tag);
        string Release() =>
            $"insert into outcomes (part_id, kind, do_not_machine_again, at, by_id) values ({part.Id}, 'Released', false, now(), {ines})";
        string Judged(string worst, string groove = "0.02", string relief = "0", string depth = "0.06", string allowance = "0.01") =>
            "insert into confirmations (surface_id, cuts, kind, worst_mm, discard_mm, machine_to_mm, uncertainty_mm, allowance_mm, "
            + "groove_left_mm, relief_left_mm, depth_uncertainty_mm, decision, dial_borne_out, at, by_id) values "
            + $"({part.Surfaces[0].Id}, 0, 'Rotor', {worst}, 23, 23.4, 0.01, {allowance}, {groove}, {relief}, {depth}, 'Release', "
            + $"false, now(), {ines})";
        // A judgement forged over a better size than was read lets nothing out, although its own figures fit.
        (await Try(shop.Connection, Judged("25.9"))).ShouldBeNull();
        (await Try(shop.Connection, Release())).ShouldBe("UN006");
        (await Try(shop.Connection, Judged("24.30"))).ShouldBeNull();
        await Attack($"update readings set from_file = true where surface_id = {part.Surfaces[0].Id}");
        (await Try(shop.Connection, Release())).ShouldBe("UN014");
        await Attack($"update readings set from_file = null where surface_id = {part.Surfaces[0].Id}");
        // It says that there are no grooves and no low lands, and nobody has looked.
        (await Try(shop.Connection, Release())).ShouldBe("UN027");
        var (record, hand) = (
            new SurfaceRecord(part.Surfaces[0], part, await db.ShopAsync(Cancel)),
            new Actor(ines, Role.Operator, DateTimeOffset.UtcNow)
        );
        MeasureCommands.RecordReading(record, ReadingKind.GrooveOuter, null, TestParts.Typed("0.02"), LengthUnit.Millimetre, null, hand);
        await db.LookAtAsync(record, hand);
        // Nothing said, less than was seen, no room for it, and figures that allow for less than the rules do.
        foreach (
            var (judged, refused) in new[]
            {
                (Judged("24.30", groove: "null"), "UN027"),
                (Judged("24.30", relief: "null"), "UN027"),
                (Judged("24.30", groove: "0"), "UN006"),
                (Judged("24.30", "0.9", "0.4"), "UN005"),
                (Judged("24.30", "0.9", "0.2"), "UN007"),
                (Judged("24.30", depth: "0"), "UN005"),
                (Judged("24.30", allowance: "0"), "UN005"),
            }
        )
        {
            (await Try(shop.Connection, judged)).ShouldBeNull();
            (await Try(shop.Connection, Release())).ShouldBe(refused, judged);
        }
        (await Try(shop.Connection, Judged("24.30"))).ShouldBeNull();
        (await Try(shop.Connection, Release())).ShouldBeNull();
        (await Try(shop.Connection, Release())).ShouldBe("UN002");
    }
}
