using Microsoft.EntityFrameworkCore;
using Npgsql;
using Uncial.Core;
using Uncial.Core.Inspection;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Release;
using Uncial.Data;

namespace Uncial.Data.Tests;

/// <summary>What the database keeps by itself, whoever asks.</summary>
public class DatabaseTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private async Task<string> Refused(string sql)
    {
        await using var connection = new NpgsqlConnection(shop.Connection);
        await connection.OpenAsync(Cancel);
        await using var command = new NpgsqlCommand(sql, connection);
        return (await Should.ThrowAsync<PostgresException>(async () => await command.ExecuteNonQueryAsync(Cancel))).SqlState;
    }

    private static async Task<SurfaceRecord> Open(UncialDb db, string tag)
    {
        var part = (await db.Parts.Where(p => p.Tag == tag).WithFactsAsync(db, Cancel)).Single();
        return new(part.Surfaces[0], part, await db.ShopAsync(Cancel));
    }

    private static async Task<string> TagOf(UncialDb db, int job, Corner corner) =>
        (await db.Parts.SingleAsync(p => p.Job!.Number == job && p.Corner == corner, Cancel)).Tag;

    /// <summary>A rotor of one thickness all round, uncut, with its newest reading judged.</summary>
    private static async Task<SurfaceRecord> Rotor(UncialDb db, string size, int by)
    {
        var job = new Job
        {
            Number = 9000 + await db.Jobs.CountAsync(Cancel),
            Vehicle = "Test",
            ReceivedAt = DateTimeOffset.UtcNow,
            ReceivedById = by,
        };
        var surface = new WorkSurface { Kind = PartKind.Rotor, Places = 8 };
        job.Parts.Add(new() { Tag = Guid.NewGuid().ToString("N")[..8], Surfaces = { surface } });
        db.Jobs.Add(job);
        await db.SaveChangesAsync(Cancel);
        var (part, settings, actor) = (job.Parts[0], await db.ShopAsync(Cancel), new Actor(by, Role.Operator, DateTimeOffset.UtcNow));
        foreach (var (kind, text) in new[] { (LimitKind.MachineTo, "23.4"), (LimitKind.Discard, "23.0") })
            ReceiveCommands.StateLimit(surface, kind, Typed(text), LengthUnit.Millimetre, LimitSource.MakersSheet, actor);
        await db.SaveChangesAsync(Cancel);
        foreach (var place in new SurfaceRecord(surface, part, settings).Measuring.Places)
            MeasureCommands.RecordReading(
                new(surface, part, settings),
                ReadingKind.Size,
                place,
                Typed(size),
                LengthUnit.Millimetre,
                settings.GaugeFor(surface.Kind),
                actor
            );
        await db.SaveChangesAsync(Cancel);
        var record = new SurfaceRecord(surface, part, settings);
        PlanCommands.LeaveUncut(record, record.Planning.Request(true), scuffed: false, actor);
        await db.SaveChangesAsync(Cancel);
        return new(surface, part, settings);
    }

    private static TypedLength Typed(string text) => LengthParser.Parse(text, LengthUnit.Millimetre).Typed!;

    private static async Task<string?> Close(
        UncialDb db,
        SurfaceRecord record,
        OutcomeKind kind,
        string? reason,
        bool between,
        int by,
        string? lead = null
    )
    {
        await using var transaction = await db.Database.BeginTransactionAsync(Cancel);
        var signature = lead is null
            ? (long?)null
            : await db.SignAsync(
                record.Part.Id,
                SignedFor.BetweenLimits,
                Signature.OfConfirmations([record.Surface.Confirmations.Newest()!.Id]),
                by,
                lead
            );
        ReleaseCommands.Close(
            record.Part,
            kind,
            reason,
            between,
            new(by, Role.Operator, DateTimeOffset.UtcNow),
            new(SignatureId: signature)
        );
        try
        {
            await db.SaveChangesAsync(Cancel);
            await transaction.CommitAsync(Cancel);
            return null;
        }
        catch (DbUpdateException e)
        {
            return ((PostgresException)e.InnerException!).SqlState;
        }
    }

    private static async Task<int> Id(UncialDb db, string user) => (await db.Operators.SingleAsync(u => u.UserName == user, Cancel)).Id;

    [Fact]
    public async Task Facts_are_neither_changed_nor_removed()
    {
        await using (var db = shop.Db())
        {
            var looked = await Open(db, await TagOf(db, 2418, Corner.RearRight));
            InspectCommands.RecordFinding(
                looked,
                FindingKind.Glaze,
                Side.Whole,
                0,
                null,
                default,
                null,
                null,
                new(await Id(db, "tom"), Role.Operator, DateTimeOffset.UtcNow)
            );
            CutCommands.RecordChatter(
                looked,
                Core.Cutting.ChatterSign.Torn,
                Core.Cutting.ChatterRemedy.FreshEdge,
                true,
                new(await Id(db, "tom"), Role.Operator, DateTimeOffset.UtcNow)
            );
            db.BinsEmptied.Add(
                new()
                {
                    Grams = 1,
                    At = DateTimeOffset.UtcNow,
                    ById = await Id(db, "tom"),
                }
            );
            await db.SaveChangesAsync(Cancel);
        }
        foreach (
            var table in new[]
            {
                "limit_entries",
                "readings",
                "plans",
                "passes",
                "confirmations",
                "outcomes",
                "zero_checks",
                "findings",
                "cut_starts",
                "cut_stops",
                "finishes",
                "chatters",
                "bins_emptied",
            }
        )
        {
            (await Refused($"update {table} set at = at")).ShouldBe("UN001", table);
            (await Refused($"delete from {table}")).ShouldBe("UN001", table);
            (await Refused($"truncate {table} cascade")).ShouldBe("UN001", table);
        }
    }

    [Fact]
    public async Task A_pass_is_started_once_and_not_on_a_part_that_has_left()
    {
        await using var db = shop.Db();
        var released = await Open(db, await TagOf(db, 2410, Corner.FrontLeft));
        var start = released.Surface.CutStarts.ShouldHaveSingleItem();
        start.Stop!.Kind.ShouldBe(CutStopKind.Done);
        string Again(int attempt) =>
            "insert into cut_starts (surface_id, plan_id, index, attempt, lathe_id, planned_minutes, seconds, at, by_id) values "
            + $"({released.Surface.Id}, {start.PlanId}, 0, {attempt}, 1, 1, 60, now(), {start.ById})";
        (await Refused(Again(2))).ShouldBe("UN002");
        var onTheLathe = await Open(db, await TagOf(db, 2417, Corner.FrontLeft));
        var first = onTheLathe.Surface.CutStarts[0];
        await db.SeeToEyesAsync(new(first.ById, Role.Operator, DateTimeOffset.UtcNow), first.LatheId);
        (
            await Refused(
                "insert into cut_starts (surface_id, plan_id, index, attempt, lathe_id, planned_minutes, seconds, at, by_id, looked_at) "
                    + $"values ({onTheLathe.Surface.Id}, {first.PlanId}, {first.Index}, {first.Attempt}, 1, 1, 60, now(), {first.ById}, "
                    + "array['Locks','Lever','Damping'])"
            )
        ).ShouldBe(PostgresErrorCodes.UniqueViolation);
        (await Refused($"insert into cut_stops (start_id, kind, at, by_id) values ({first.Id}, 'NotCut', now(), {first.ById})")).ShouldBe(
            PostgresErrorCodes.UniqueViolation
        );
        // Nor by the workflow: what is being cut is not started again.
        var actor = new Actor(await Id(db, "tom"), Role.Operator, DateTimeOffset.UtcNow);
        await using var undone = await db.Database.BeginTransactionAsync(Cancel);
        await db.SeeToEyesAsync(actor);
        CutCommands
            .StartPass(onTheLathe, 1.2m, actor, onTheLathe.Cutting.NeededChecks)
            .Seconds.ShouldBe(
                Core.Cutting.PassTime.Seconds(
                    onTheLathe
                        .Lathe.Profile.Run(PassKind.Finish, PartKind.Rotor, onTheLathe.Surface.Diameter, onTheLathe.Surface.Band)
                        .Minutes,
                    1.2m
                )
            );
        Should.Throw<InvalidOperationException>(() => CutCommands.StartPass(onTheLathe, 1, actor, onTheLathe.Cutting.NeededChecks));
        Should.Throw<ArgumentException>(() => CutCommands.StopPass(onTheLathe, CutStopKind.BrokenOff, " ", actor));
        CutCommands.StopPass(onTheLathe, CutStopKind.BrokenOff, "belt", actor);
        CutCommands.StartPass(onTheLathe, 1, actor, onTheLathe.Cutting.NeededChecks).Attempt.ShouldBe(2);
        await db.SaveChangesAsync(Cancel);
        Should.Throw<ArgumentException>(() => CutCommands.Finish(onTheLathe, [], null, actor));
    }

    [Fact]
    public async Task A_part_beyond_discard_cannot_be_released_whoever_asks()
    {
        await using var db = shop.Db();
        var owner = await Id(db, "marit");
        var record = await Rotor(db, "22.999", owner);
        ConfirmCommands.Confirm(record, true, new(owner, Role.Operator, DateTimeOffset.UtcNow)).Decision.ShouldBe(Decision.Never);
        await db.SaveChangesAsync(Cancel);
        (await Close(db, record, OutcomeKind.Released, "please", true, owner)).ShouldBe("UN004");
        // Nor with a judgement forged by hand: the constraint looks at the figures, the guard at the readings.
        var forged =
            "insert into confirmations (surface_id, cuts, kind, worst_mm, discard_mm, machine_to_mm, uncertainty_mm, allowance_mm, "
            + $"groove_left_mm, dial_borne_out, decision, at, by_id) values ({record.Surface.Id}, 0, 'Rotor', {{0}}, 23.0, 23.4, 0.006,"
            + $" 0, 0, false, 'Release', now(), {owner})";
        (await Refused(forged.Replace("{0}", "22.999", StringComparison.Ordinal))).ShouldBe(PostgresErrorCodes.CheckViolation);
        await db.Database.ExecuteSqlRawAsync(forged.Replace("{0}", "24.0", StringComparison.Ordinal), Cancel);
        (
            await Refused(
                $"insert into outcomes (part_id, kind, do_not_machine_again, at, by_id) values ({record.Part.Id}, 'Released', "
                    + $"false, now(), {owner})"
            )
        ).ShouldBe("UN004");
        (
            await Refused(
                "insert into outcomes (part_id, kind, place, preservative, do_not_machine_again, at, by_id) values "
                    + $"({record.Part.Id}, 'Shelved', 'x', 'oil', false, now(), {owner})"
            )
        ).ShouldBe("UN004");
    }

    [Fact]
    public async Task A_dial_is_verified_only_by_a_cut_that_was_measured_and_deep_enough_to_tell()
    {
        await using var db = shop.Db();
        var ines = await Id(db, "ines");
        async Task<Confirmation> Cut(string technique, decimal metalShare)
        {
            var record = await Rotor(db, "24.300", ines);
            var actor = new Actor(ines, Role.Operator, DateTimeOffset.UtcNow);
            SurfaceRecord Now() => new(record.Surface, record.Part, record.Shop);
            var request = record.Planning.Request(false) with
            {
                Sides = [new(Length.FromMillimetres(0.03m)), new(Length.FromMillimetres(0.03m))],
            };
            var option = PassPlanner.Plan(request).Options.Single(o => o.Key == technique);
            PlanCommands.TakePlan(Now(), request, option, [], actor);
            await db.SaveChangesAsync(Cancel);
            foreach (var _ in option.Passes)
            {
                CutCommands.RecordPass(Now(), new(0, 0, null, null, null, null), actor);
                await db.SaveChangesAsync(Cancel);
            }
            var size = (request.Touch - metalShare * option.Metal!.Value).Millimetres.ToString(
                "0.000",
                System.Globalization.CultureInfo.InvariantCulture
            );
            foreach (var place in Now().Measuring.Places)
                MeasureCommands.RecordReading(
                    Now(),
                    ReadingKind.Size,
                    place,
                    Typed(size),
                    LengthUnit.Millimetre,
                    record.Shop.GaugeFor(record.Kind),
                    actor
                );
            await db.SaveChangesAsync(Cancel);
            ConfirmCommands.Confirm(await db.LookAtAsync(Now(), actor), true, actor);
            await db.SaveChangesAsync(Cancel);
            return record.Surface.Confirmations[^1];
        }
        (await Cut("working", 1m)).DialVerified.ShouldBeTrue();
        (await Cut("working", 0.9m)).DialVerified.ShouldBeTrue(); // a drift is no factor of two
        (await Cut("working", 2m)).DialVerified.ShouldBeFalse();
        (await Cut("working", 0.5m)).DialVerified.ShouldBeFalse();
        var here = await db.ShopAsync(Cancel);
        var lathe = here.Lathes[0];
        (await LatheQueries.DialIsConfirmedAsync(db, lathe, PartKind.Rotor, Cancel)).ShouldBeTrue();
        (await LatheQueries.DialIsConfirmedAsync(db, lathe, PartKind.Drum, Cancel)).ShouldBe(
            await db.Confirmations.AnyAsync(c => c.Kind == PartKind.Drum && c.DialVerified && c.LatheId == lathe.Id, Cancel)
        ); // each head by itself
        (await LatheQueries.DialIsConfirmedAsync(db, here.Lathes[1], PartKind.Rotor, Cancel)).ShouldBeFalse(); // each lathe by itself
        // The account of the head has every one of them, and begins anew when the head is realigned.
        var ledger = await LatheQueries.LedgerAsync(db, lathe, PartKind.Rotor, Cancel);
        var cuts = ledger.Cuts.TakeLast(4).ToList();
        cuts.Select(c => Math.Round(c.BySize / c.ByDial, 1)).ShouldBe([1m, 0.9m, 2m, 0.5m]);
        cuts[^1].Metres.ShouldBeGreaterThanOrEqualTo(cuts[0].Metres);
        lathe.Profile = lathe.Profile with { DialSince = DateTimeOffset.UtcNow };
        (await LatheQueries.DialIsConfirmedAsync(db, lathe, PartKind.Rotor, Cancel)).ShouldBeFalse();
        (await LatheQueries.LedgerAsync(db, lathe, PartKind.Rotor, Cancel)).Cuts.ShouldBeEmpty();
        await using var fresh = new EmptyShop();
        await fresh.InitializeAsync();
        await using var empty = fresh.Db();
        var there = await empty.ShopAsync(Cancel);
        (await LatheQueries.DialIsConfirmedAsync(empty, there.Lathes[0], PartKind.Rotor, Cancel)).ShouldBeFalse();
    }

    [Fact]
    public async Task An_uncut_bore_is_read_near_both_ends_and_its_worst_place_twice_at_its_own_depth()
    {
        await using var db = shop.Db();
        var actor = new Actor(await Id(db, "ines"), Role.Operator, DateTimeOffset.UtcNow);
        var record = await db.RecordAsync(await shop.ReadPartAsync(PartKind.Drum));
        SurfaceRecord Now() => new(record.Surface, record.Part, record.Shop);
        async Task ReadAsync(ReadingPlace place, string size)
        {
            MeasureCommands.RecordReading(
                Now(),
                ReadingKind.Size,
                place,
                Typed(size),
                LengthUnit.Millimetre,
                record.Shop.GaugeFor(PartKind.Drum),
                actor
            );
            await db.SaveChangesAsync(Cancel);
        }
        foreach (var old in record.Surface.Readings.ToList())
            MeasureCommands.Withdraw(Now(), old, "read anew", actor);
        foreach (var place in Now().Measuring.Places)
            await ReadAsync(place, "255.00");
        Now().Measuring.NextPlace.ShouldBeNull(); // four axes are enough to plan
        PlanCommands.LeaveUncut(Now(), Now().Planning.Request(true), false, actor);
        await db.SaveChangesAsync(Cancel);
        var ends = Now().Measuring.Places.Where(p => p.Station is not null).ToList();
        ends.Select(p => (p.Degrees, p.Station!.Value.Millimetres)).ShouldBe([(0m, 8m), (0m, 42m)]); // of a band of 50
        Now().Confirming.Judge(true).Notes.ShouldContain(n => n is Core.Note.ReadMoreDepths);
        await ReadAsync(ends[0], "255.03");
        await ReadAsync(ends[1], "255.20");
        Now().Measuring.PlaceOf(Now().Confirming.Judge(true).Notes.Single(n => n is Core.Note.ReadTwice)).ShouldBe(ends[1]);
        await ReadAsync(ends[1], "255.20");
        Now().Confirming.Judge(true).Notes.ShouldNotContain(n => n is Core.Note.ReadTwice);
        // A depth that has another shape is read all round.
        Now().Confirming.Judge(true).Notes.ShouldContain(n => n is Core.Note.ReadAround);
        Now().Measuring.Places.Count(p => p.Station == ends[1].Station).ShouldBe(4);
        while (Now().Measuring.NextPlace is { } next)
            await ReadAsync(next, "255.2" + (int)next.Degrees % 4);
        Now().Confirming.Judge(true).Notes.ShouldNotContain(n => n is Core.Note.ReadAround);
        Now().Measuring.Places.Count(p => p.Station == ends[1].Station).ShouldBe(4); // and stays so
    }

    [Fact]
    public async Task What_was_not_turned_bright_is_in_the_judgement_and_what_was_is_not()
    {
        await using var db = shop.Db();
        var ines = await Id(db, "ines");
        var record = await Rotor(db, "23.050", ines);
        var actor = new Actor(ines, Role.Operator, DateTimeOffset.UtcNow);
        SurfaceRecord Now() => new(record.Surface, record.Part, record.Shop);
        // What nobody looked at is asked for, face by face; a figure of none is an answer.
        Now()
            .Confirming.NotLookedAt.ShouldBe([
                ReadingKind.GrooveOuter,
                ReadingKind.ReliefOuter,
                ReadingKind.GrooveInner,
                ReadingKind.ReliefInner,
            ]);
        foreach (var kind in new[] { ReadingKind.GrooveOuter, ReadingKind.GrooveInner, ReadingKind.ReliefInner })
            MeasureCommands.RecordReading(Now(), kind, null, TestParts.None, LengthUnit.Millimetre, null, actor);
        MeasureCommands.RecordReading(Now(), ReadingKind.ReliefOuter, null, Typed("0.02"), LengthUnit.Millimetre, null, actor);
        await db.SaveChangesAsync(Cancel);
        Now().Confirming.NotLookedAt.ShouldBeEmpty();
        (Now().Confirming.DepthsLeft.Groove, Now().Confirming.DepthsLeft.Relief, Now().Confirming.DepthsLeft.Uncertainty).ShouldBe(
            (Length.Zero, Length.FromMillimetres(0.02m), Length.FromMillimetres(0.06m))
        );
        // Uncut: 0.05 to discard is less than what low lands and four depths may hide.
        Now()
            .Confirming.Judge(true)
            .ShouldSatisfyAllConditions(
                j => j.Decision.ShouldBe(Decision.MeasureAgain),
                j => j.Notes.ShouldContain(n => n is Core.Note.Groove)
            );
        // Turned bright on both faces with no groove left there is nothing lower.
        var request = Now().Planning.Request(true);
        var passes = new PlannedPass(
            PassKind.Finish,
            [1, 1],
            [Length.Zero, Length.Zero],
            [Length.Zero, Length.Zero],
            request.Touch,
            request.TouchBound,
            false,
            [1, 1]
        );
        PlanCommands.TakePlan(Now(), request, new("light", null, PlanStart.Free, Length.Zero, Length.Zero, [passes], []), [], actor);
        await db.SaveChangesAsync(Cancel);
        CutCommands.RecordPass(Now(), new(0, 0, Length.Zero, Length.Zero, null, null), actor);
        await db.SaveChangesAsync(Cancel);
        (
            Now().Confirming.DepthsLeft.Groove,
            Now().Confirming.DepthsLeft.Relief,
            Now().Confirming.DepthsLeft.Uncertainty,
            Now().Cutting.TurnedBright
        ).ShouldBe((Length.Zero, Length.Zero, Length.Zero, true));
        // After a cut the grooves are looked at anew, on bright metal too.
        PlanCommands.TakePlan(Now(), request, new("light", null, PlanStart.Free, Length.Zero, Length.Zero, [passes], []), [], actor);
        await db.SaveChangesAsync(Cancel);
        CutCommands.RecordPass(Now(), new(0, 0, null, null, null, null), actor);
        await db.SaveChangesAsync(Cancel);
        Now().Confirming.NotLookedAt.ShouldBe([ReadingKind.GrooveOuter, ReadingKind.GrooveInner]);
    }

    [Fact]
    public async Task Near_discard_the_database_wants_depths_by_gauge_and_three_alike_before_they_count_surer()
    {
        await using var db = shop.Db();
        var ines = await Id(db, "ines");
        var record = await Rotor(db, "23.200", ines);
        var actor = new Actor(ines, Role.Operator, DateTimeOffset.UtcNow);
        SurfaceRecord Now() => new(record.Surface, record.Part, record.Shop);
        async Task SayAsync(IEnumerable<ReadingKind> kinds, string mm, bool byGauge)
        {
            foreach (var kind in kinds)
                MeasureCommands.RecordReading(
                    Now(),
                    kind,
                    null,
                    LengthParser.Parse(mm, LengthUnit.Millimetre, allowZero: true).Typed!,
                    LengthUnit.Millimetre,
                    byGauge ? Now().Shop.GaugeFor(kind) : null,
                    actor
                );
            await db.SaveChangesAsync(Cancel);
        }
        // A judgement forged past what the application would say: sure of discard, with depths taken as so sure.
        async Task<string?> ForgedAsync(decimal depths)
        {
            ConfirmCommands.Confirm(Now(), true, actor);
            var forged = db.Entry(record.Surface.Confirmations[^1]);
            forged.Property(c => c.Decision).CurrentValue = Decision.LeadOnly;
            forged.Property(c => c.DepthUncertainty).CurrentValue = Length.FromMillimetres(depths);
            await db.SaveChangesAsync(Cancel);
            var refused = await Close(db, record, OutcomeKind.Released, "good enough", true, ines, "ines");
            db.Refused(record.Part);
            return refused;
        }

        ReadingKind[] all = [ReadingKind.GrooveOuter, ReadingKind.ReliefOuter, ReadingKind.GrooveInner, ReadingKind.ReliefInner];
        await SayAsync(all, "0", byGauge: false);
        Now().Confirming.Judge(true).Notes.Count(n => n is Core.Note.LookAgain).ShouldBe(4);
        (await ForgedAsync(0.06m)).ShouldBe("UN027");
        await SayAsync(all, "0.03", byGauge: true);
        await SayAsync(all[..3], "0.04", byGauge: true);
        Now().Confirming.Judge(true).Decision.ShouldBe(Decision.MeasureAgain);
        (await ForgedAsync(0.02m)).ShouldBe("UN005"); // twice is not three times
        await SayAsync(all[..3], "0.03", byGauge: true);
        await SayAsync(all[3..], "0.09", byGauge: true);
        await SayAsync(all[3..], "0.03", byGauge: true);
        (await ForgedAsync(0.02m)).ShouldBe("UN005"); // three, not alike
        await SayAsync(all[3..], "0.03", byGauge: true);
        await SayAsync(all[3..], "0.03", byGauge: true);
        Now().Confirming.DepthsLeft.Uncertainty.ShouldBe(Length.FromMillimetres(0.02m));
        Now().Confirming.Judge(true).Decision.ShouldBe(Decision.LeadOnly);
        (await ForgedAsync(0.02m)).ShouldBeNull();
    }

    [Fact]
    public async Task Between_the_limits_only_a_lead_releases_and_only_with_a_reason()
    {
        await using var db = shop.Db();
        var (tom, ines) = (await Id(db, "tom"), await Id(db, "ines"));
        var record = await Rotor(db, "23.2", tom);
        (await Close(db, record, OutcomeKind.Released, null, false, ines)).ShouldBe("UN005"); // nobody confirmed it yet
        db.Refused(record.Part);
        ConfirmCommands
            .Confirm(
                await db.LookAtAsync(record, new(tom, Role.Operator, DateTimeOffset.UtcNow)),
                true,
                new(tom, Role.Operator, DateTimeOffset.UtcNow)
            )
            .Decision.ShouldBe(Decision.LeadOnly);
        await db.SaveChangesAsync(Cancel);
        // Without a signature nobody does, a lead neither; and an operator's signature is none.
        foreach (
            var (reason, mark, by, lead) in new[]
            {
                ("good enough", true, tom, null),
                (null, true, ines, "ines"),
                ("good enough", false, ines, "ines"),
                ("good enough", true, ines, null),
                ("good enough", true, tom, "tom"),
            }
        )
        {
            (await Close(db, record, OutcomeKind.Released, reason, mark, by, lead)).ShouldBe("UN007");
            db.Refused(record.Part);
        }
        (await Close(db, record, OutcomeKind.Released, "no other to be had", true, tom, "ines")).ShouldBeNull();
        (await db.Outcomes.AsNoTracking().SingleAsync(o => o.PartId == record.Part.Id, Cancel)).SignedById.ShouldBe(ines);
        (
            await Refused(
                "insert into readings (surface_id, kind, value_mm, typed, unit, resolution_mm, uncertainty_mm, insisted, cuts, at, "
                    + $"by_id) values ({record.Surface.Id}, 'Size', 24, '24', 'Millimetre', 0.01, 0.01, false, 0, now(), {tom})"
            )
        ).ShouldBe("UN002");
    }

    [Fact]
    public async Task A_cracked_part_leaves_only_as_scrap_and_one_that_must_not_be_turned_goes_back_as_it_came()
    {
        await using var db = shop.Db();
        var ines = await Id(db, "ines");
        var actor = new Actor(ines, Role.Operator, DateTimeOffset.UtcNow);
        foreach (var (kind, allowed) in new[] { (FindingKind.Crack, OutcomeKind.Scrapped), (FindingKind.NoTurn, OutcomeKind.Refused) })
        {
            var record = await Rotor(db, "24.2", ines);
            ConfirmCommands.Confirm(await db.LookAtAsync(record, actor), true, actor).Decision.ShouldBe(Decision.Release);
            InspectCommands.RecordFinding(record, kind, Side.Outer, 1, null, default, null, null, actor);
            await db.SaveChangesAsync(Cancel);
            foreach (var outcome in Enum.GetValues<OutcomeKind>().Where(o => o != allowed && o != OutcomeKind.Scrapped))
            {
                (await Close(db, record, outcome, "please", true, ines)).ShouldBe("UN009", outcome.ToString());
                db.Refused(record.Part);
            }
            if (allowed == OutcomeKind.Refused)
            {
                (await Close(db, record, allowed, " ", false, ines)).ShouldBe("UN008");
                db.Refused(record.Part);
            }
            (await Close(db, record, allowed, kind.ToString(), false, ines)).ShouldBeNull();
        }
        // Taken back by a lead it is none, and the part may go.
        var sound = await Rotor(db, "24.2", ines);
        actor = new(ines, Role.Operator, DateTimeOffset.UtcNow.AddSeconds(1));
        ConfirmCommands.Confirm(await db.LookAtAsync(sound, actor), true, actor);
        var shadow = InspectCommands.RecordFinding(sound, FindingKind.Crack, Side.Outer, 1, null, default, null, null, actor);
        await db.SaveChangesAsync(Cancel);
        await using (var signing = await db.Database.BeginTransactionAsync(Cancel))
        {
            InspectCommands.Withdraw(
                sound,
                shadow,
                "a casting seam",
                actor,
                await db.SignAsync(sound.Part.Id, SignedFor.FindingTakenBack, Signature.OfFinding(shadow.Id), ines)
            );
            await db.SaveChangesAsync(Cancel);
            await signing.CommitAsync(Cancel);
        }
        (await Close(db, sound, OutcomeKind.Released, null, false, ines)).ShouldBeNull();
    }

    [Fact]
    public async Task Measured_after_it_was_confirmed_it_is_confirmed_anew()
    {
        await using var db = shop.Db();
        var ines = await Id(db, "ines");
        var record = await Rotor(db, "24.2", ines);
        ConfirmCommands
            .Confirm(
                await db.LookAtAsync(record, new(ines, Role.Operator, DateTimeOffset.UtcNow)),
                true,
                new(ines, Role.Operator, DateTimeOffset.UtcNow)
            )
            .Decision.ShouldBe(Decision.Release);
        await db.SaveChangesAsync(Cancel);
        MeasureCommands.RecordReading(
            record,
            ReadingKind.Size,
            record.Measuring.Places[0],
            Typed("24.19"),
            LengthUnit.Millimetre,
            record.Gauge,
            new(ines, Role.Operator, DateTimeOffset.UtcNow.AddSeconds(1))
        );
        await db.SaveChangesAsync(Cancel);
        (await Close(db, record, OutcomeKind.Released, null, false, ines)).ShouldBe("UN006");
    }

    [Fact]
    public async Task Two_hands_cannot_take_a_plan_at_the_same_time()
    {
        await using var one = shop.Db();
        await using var other = shop.Db();
        var tag = await TagOf(one, 2418, Corner.FrontLeft);
        var (a, b) = (await Open(one, tag), await Open(other, tag));
        foreach (var record in new[] { a, b })
        {
            var request = record.Planning.Request(true);
            PlanCommands.TakePlan(
                record,
                request,
                PassPlanner.Plan(request).Options.First(o => o.CanStart),
                [],
                new(1, Role.Operator, DateTimeOffset.UtcNow)
            );
        }
        await one.SaveChangesAsync(Cancel);
        await Should.ThrowAsync<DbUpdateException>(() => other.SaveChangesAsync(Cancel));
    }

    [Fact]
    public async Task A_length_comes_back_to_the_last_digit_and_a_plan_as_it_was_taken()
    {
        await using var db = shop.Db();
        var record = await Open(db, await TagOf(db, 2419, Corner.FrontLeft));
        record.Measuring.SizesBefore[0].Value.ShouldBe(Length.FromInches(9.025m));
        record.Measuring.SizesBefore[0].Typed.ShouldBe("8 7/8 + 150t");
        var cut = await Open(db, await TagOf(db, 2417, Corner.FrontLeft));
        var again = PassPlanner.Plan(cut.Planning.Document!.Request).Options.Single(o => o.Key == cut.Planning.Document.Option.Key);
        StoredJson.Write(cut.Planning.Document.Option).ShouldBe(StoredJson.Write(again));
    }

    [Fact]
    public async Task The_demo_shows_what_it_promises()
    {
        await using var db = shop.Db();
        (await db.Operators.CountAsync(Cancel), await db.Jobs.CountAsync(j => j.Number < 3000, Cancel)).ShouldBe((3, 12));
        var thin = await Open(db, await TagOf(db, 2423, Corner.FrontLeft));
        thin.Measuring.DiscardVerdict.ShouldBe(Verdict.Beyond);
        var oval = await Open(db, await TagOf(db, 2412, Corner.RearLeft));
        oval.Measuring.DrumFigures.Roundness!.OutOfRound.Millimetres.ShouldBe(0.48m);
        var twoAxes = oval.Measuring.DrumMeasurement with
        {
            Readings = [.. oval.Measuring.DrumMeasurement.Readings.Where(r => r.At.Degrees % 90 == 0)],
        };
        Core.Measuring.DrumAssessment.Assess(twoAxes, ShopRules.Default)
            .Roundness!.ShouldSatisfyAllConditions(r => r.Proven.ShouldBeFalse(), r => r.OutOfRound.ShouldBe(Length.Zero));
        var parts = (await db.Parts.Where(p => p.Job!.Number < 3000).WithFactsAsync(db, Cancel));
        var settings = await db.ShopAsync(Cancel);
        var stations = parts.SelectMany(p => p.Surfaces.Select(s => new SurfaceRecord(s, p, settings).Station)).Distinct().Order();
        stations.ShouldBe([
            Station.Receive,
            Station.Measure,
            Station.Mount,
            Station.Plan,
            Station.Cut,
            Station.Confirm,
            Station.Release,
            Station.Done,
        ]);
    }
}
