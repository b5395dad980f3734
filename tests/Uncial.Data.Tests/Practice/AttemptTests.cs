using Microsoft.EntityFrameworkCore;
using Npgsql;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Data.Practice;
using Uncial.Practice.Debriefs;
using Uncial.Practice.Drills;
using Uncial.Practice.Jobs;
using Uncial.Practice.Lessons;
using Uncial.Simulation.Held;
using Uncial.Simulation.Scales;
using Uncial.Testing;

namespace Uncial.Data.Tests;

/// <summary>An attempt at a lesson: what is done at the bench and entered at the stations comes to its debrief, in order.</summary>
public sealed class AttemptTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private const string Ridge = "clear-of-the-ridge";

    private static readonly AttemptNames Names = new(
        "Practice",
        "Trainee",
        "Lathe",
        "Vehicle",
        g => g.Form + " " + g.From,
        n => "Cone " + n,
        n => "Cups " + n,
        n => "Spacer " + n
    );

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private PracticeDb Db() => new(PracticeDb.For(shop.PracticeConnection));

    private async Task<(Learner Learner, Attempt Attempt)> BegunAsync(string lesson = Ridge)
    {
        await using var db = Db();
        var (guest, _, _) = await new PracticeDesk(db, TimeProvider.System).NewGuestAsync("192.0.2.30", Cancel);
        var text = ShippedLessons.FileOf(lesson)!;
        var attempt = await new AttemptDesk(db, TimeProvider.System).BeginAsync(
            guest!,
            LessonFile.Read(text).Lesson!,
            text,
            Names,
            null,
            null,
            Cancel
        );
        return (guest!, attempt.ShouldNotBeNull());
    }

    private async Task<Attempt> NowAsync(Learner learner, long id)
    {
        await using var db = Db();
        return (await new AttemptDesk(db, TimeProvider.System).AttemptAsync(learner, id, Cancel)).ShouldNotBeNull();
    }

    private static async Task<string?> StateAsync(string connection, string sql)
    {
        await using var held = new NpgsqlConnection(connection);
        await held.OpenAsync(Cancel);
        await using var command = new NpgsqlCommand(sql, held);
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
    public async Task What_is_entered_at_the_stations_becomes_steps_between_what_was_done()
    {
        var (learner, attempt) = await BegunAsync();
        await using var practice = Db();
        var desk = new AttemptDesk(practice, TimeProvider.System);
        await using var db = PracticeShop.Open(shop.PracticeConnection, attempt.Id);
        var settings = await db.ShopAsync(Cancel);
        settings.Gauges.Count.ShouldBe(attempt.Lesson.Gauges.Count);
        settings.LatheFor(PartKind.Rotor, TestParts.Mm(280)).Profile.Division.ShouldBe(TestParts.Mm(0.01m));
        var part = (await db.PartAsync(attempt.Tag, Cancel)).ShouldNotBeNull();
        var surface = part.Surfaces.ShouldHaveSingleItem();
        SurfaceRecord Now() => new(surface, part, settings);
        var actor = new Actor(await db.Operators.Select(o => o.Id).SingleAsync(Cancel), Role.Operator, DateTimeOffset.UtcNow);

        // The limit as it is cast; then a lamp; then a micrometer on the ridge, at its reading; then the same clear of it.
        foreach (var (limit, text) in new[] { (LimitKind.Nominal, "22"), (LimitKind.MachineTo, "20.6"), (LimitKind.Discard, "20") })
            ReceiveCommands.StateLimit(surface, limit, TestParts.Typed(text), LengthUnit.Millimetre, LimitSource.CastMarking, actor);
        await db.SaveChangesAsync(Cancel);
        attempt = await NowAsync(learner, attempt.Id);
        var hand = attempt.On(1).Hand() with { Face = 1 };
        (await desk.DoAsync(attempt, new Deed.LookAt(1, 60), hand, Cancel)).ShouldBeNull();
        hand = hand with { Rocked = 0, Closing = Closing.Ratchet };
        foreach (var inMm in new[] { 3.0, 25.0 })
        {
            hand = hand with { InMm = inMm };
            var held = hand.Holds(attempt.Lesson).ShouldNotBeNull();
            // A hand may move as often as it likes.
            for (var i = 0; i < 3; i++)
                await desk.TakeUpAsync(attempt, hand, held, Cancel);
            var shown = attempt.On(1).Bench().Peek(held).ShouldBeOfType<Seen.Gauge>().Picture;
            MeasureCommands.RecordReading(
                Now(),
                ReadingKind.Size,
                Now().Measuring.NextPlace!.Value,
                TestParts.Typed(Eye.Read(shown).ToString("0.00", System.Globalization.CultureInfo.InvariantCulture)),
                LengthUnit.Millimetre,
                settings.GaugeFor(PartKind.Rotor),
                actor
            );
            await db.SaveChangesAsync(Cancel);
            attempt = await NowAsync(learner, attempt.Id);
        }
        (await desk.DecideAsync(attempt, Decision.Release, Cancel)).ShouldBeNull();

        attempt = await NowAsync(learner, attempt.Id);
        attempt.IsEnded.ShouldBeTrue();
        attempt
            .JobSteps.Select(s => s.GetType().Name)
            .ShouldBe(["Limit", "Limit", "Limit", "Did", "Did", "Reading", "Did", "Reading", "Verdict"]);
        var debrief = attempt.Debrief();
        debrief.Lines.Where(l => l.Of == DebriefOf.Reading).Select(l => l.Cause).ShouldBe([JobCause.OnTheRidge, JobCause.None]);
        debrief.Score(Skill.Reading).ShouldBe(50);
        // What shows while it is looked at is what is found once it is done.
        attempt.On(1).Bench().Minutes.ShouldBe(3 * 0.5);
    }

    [Fact]
    public async Task Every_deed_comes_back_as_it_was_done()
    {
        var (learner, attempt) = await BegunAsync();
        attempt = await NowAsync(learner, attempt.Id);
        await using var practice = Db();
        var desk = new AttemptDesk(practice, TimeProvider.System);
        Deed[] deeds =
        [
            new Deed.CleanPart(),
            new Deed.CleanAdapters(),
            new Deed.Mount(1, 2, true),
            new Deed.TurnOnArbor(-90),
            new Deed.HoldMicrometer(0, new(22.5, 115.25, 0.4, Closing.Forced)),
            new Deed.HoldBar(1, 228.6, new(45, 12, -1.5, 2)),
            new Deed.HoldIndicator(1, new(1, 115)),
            new Deed.HoldDepthGauge(2, new(0, 30, 110)),
            new Deed.ReadStandard(0),
            new Deed.SetDatum(0),
            new Deed.LookAt(1, 105),
            new Deed.Scratch(0, 0.02),
            new Deed.ZeroAtTouch(1),
            new Deed.SetDial(1, 12, true),
            new Deed.Band(true),
            new Deed.SetReach(70),
            new Deed.FreshEdges(),
            new Deed.Pass(0.12, 85, 1, true, false, 0.5),
            new Deed.Wait(15),
            new Deed.Dismount(),
        ];
        deeds.Select(d => d.GetType()).ShouldBe(typeof(Deed).GetNestedTypes(), ignoreOrder: true);
        foreach (var deed in deeds)
            (await desk.DoAsync(attempt, deed, attempt.On(1).Hand() with { Light = 15, Closing = Closing.Ratchet }, Cancel)).ShouldBeNull();
        attempt = await NowAsync(learner, attempt.Id);
        attempt.JobSteps.ShouldBe(deeds.Select(d => new JobStep.Did(d)));
        (attempt.On(1).Hand().Light, attempt.On(1).Hand().Closing).ShouldBe((15, Closing.Ratchet));
    }

    [Fact]
    public async Task A_reading_that_was_taken_back_is_not_marked()
    {
        var (learner, attempt) = await BegunAsync();
        await using var db = PracticeShop.Open(shop.PracticeConnection, attempt.Id);
        var reading = await db
            .Database.SqlQueryRaw<long>(
                """
                insert into readings (surface_id, kind, value_mm, typed, unit, resolution_mm, uncertainty_mm, insisted, cuts, correction_mm,
                    degrees, at, by_id)
                select s.id, 'Size', 21, '21', 'Millimetre', 0.01, 0.01, false, 0, 0, 0, now(), (select id from operators)
                from surfaces s returning id as "Value"
                """
            )
            .ToListAsync(Cancel);
        (await NowAsync(learner, attempt.Id)).JobSteps.ShouldHaveSingleItem();
        await db.Database.ExecuteSqlAsync(
            $"insert into withdrawals (reading_id, reason, at, by_id) select {reading[0]}, 'slipped', now(), id from operators",
            Cancel
        );
        (await NowAsync(learner, attempt.Id)).JobSteps.ShouldBeEmpty();
    }

    [Fact]
    public async Task What_is_scrapped_at_its_station_is_decided()
    {
        var (learner, attempt) = await BegunAsync("turn-it-to-the-light");
        await using var db = PracticeShop.Open(shop.PracticeConnection, attempt.Id);
        var part = (await db.PartAsync(attempt.Tag, Cancel)).ShouldNotBeNull();
        var trainee = await db.Operators.Select(o => o.Id).SingleAsync(Cancel);
        await db.Database.ExecuteSqlAsync(
            $"""
            insert into findings (surface_id, kind, side, sectors, at, by_id)
            values ({part.Surfaces[0].Id}, 'Crack', 'Outer', 0, now(), {trainee});
            insert into outcomes (part_id, kind, reason, do_not_machine_again, at, by_id)
            values ({part.Id}, 'Scrapped', 'cracked', false, now(), {trainee})
            """,
            Cancel
        );
        attempt = await NowAsync(learner, attempt.Id);
        attempt.IsEnded.ShouldBeTrue();
        attempt.JobSteps.ShouldBe([new JobStep.Found(true), new JobStep.Verdict(Decision.Scrap)]);
        attempt.Debrief().Outcome.ShouldBe(Uncial.Practice.Debriefs.Outcome.Right);
    }

    [Fact]
    public async Task Two_tablets_do_one_thing_after_the_other_and_nothing_once_it_is_over()
    {
        var (learner, attempt) = await BegunAsync();
        await using var practice = Db();
        var desk = new AttemptDesk(practice, TimeProvider.System);
        var (one, two) = (await NowAsync(learner, attempt.Id), await NowAsync(learner, attempt.Id));
        (await desk.DoAsync(one, new Deed.CleanPart(), one.On(1).Hand(), Cancel)).ShouldBeNull();
        (await desk.DoAsync(two, new Deed.CleanAdapters(), two.On(1).Hand(), Cancel)).ShouldBe(BenchRefusal.Overtaken);
        (await NowAsync(learner, attempt.Id)).JobSteps.ShouldBe([new JobStep.Did(new Deed.CleanPart())]);
        (await desk.DecideAsync(one, Decision.Scrap, Cancel)).ShouldBeNull();
        (await desk.DoAsync(one, new Deed.CleanAdapters(), one.On(1).Hand(), Cancel)).ShouldBe(BenchRefusal.IsOver);
        (await desk.DecideAsync(one, Decision.Release, Cancel)).ShouldBe(BenchRefusal.IsOver);
        // Nor at a station, nor by SQL.
        await using var db = PracticeShop.Open(shop.PracticeConnection, attempt.Id);
        (
            await Should.ThrowAsync<PostgresException>(() =>
                db.Database.ExecuteSqlRawAsync(
                    "insert into findings (surface_id, kind, side, sectors, at, by_id) "
                        + "select s.id, 'Crack', 'Outer', 0, now(), (select id from operators) from surfaces s",
                    Cancel
                )
            )
        ).SqlState.ShouldBe("UP013");
        foreach (
            var sql in new[]
            {
                "insert into practice.attempt_steps (attempt_id, number, kind, is_taken_back, at) "
                    + $"values ({attempt.Id}, 9, 'Did', false, now())",
                $"update practice.attempts set ended_at = null where id = {attempt.Id}",
                $"delete from practice.attempts where id = {attempt.Id}",
                "select practice.add_step(1, 1, 'Did', null, null, null, null)",
                $"select practice_shop.remove_rows({attempt.Id})",
            }
        )
            (await StateAsync(shop.PracticeConnection, sql)).ShouldBe(PostgresErrorCodes.InsufficientPrivilege, sql);
    }

    [Fact]
    public async Task Another_learner_does_not_find_it_and_with_its_learner_it_is_gone_altogether()
    {
        var (learner, attempt) = await BegunAsync("eighths-and-thousandths");
        var (other, kept) = await BegunAsync();
        await using var practice = Db();
        var desk = new AttemptDesk(practice, TimeProvider.System);
        (await desk.AttemptAsync(other, attempt.Id, Cancel)).ShouldBeNull();
        (await desk.AttemptAsync(null, attempt.Id, Cancel)).ShouldBeNull();
        await using var db = PracticeShop.Open(shop.PracticeConnection, attempt.Id);
        var part = (await db.PartAsync(attempt.Tag, Cancel)).ShouldNotBeNull();
        ReceiveCommands.StateLimit(
            part.Surfaces[0],
            LimitKind.Discard,
            TestParts.Typed("230.7"),
            LengthUnit.Millimetre,
            LimitSource.CastMarking,
            new(await db.Operators.Select(o => o.Id).SingleAsync(Cancel), Role.Operator, DateTimeOffset.UtcNow)
        );
        await db.SaveChangesAsync(Cancel);
        await new PracticeDesk(practice, TimeProvider.System).RemoveAsync(learner, Cancel);
        (await desk.AttemptsAsync(learner, Cancel)).ShouldBeEmpty();
        await using var owner = new NpgsqlConnection(shop.Connection);
        await owner.OpenAsync(Cancel);
        await using var tables = new NpgsqlCommand(
            "select table_name::text from information_schema.columns where table_schema = 'practice_shop' and column_name = 'attempt_id'",
            owner
        );
        List<string> names = [];
        await using (var reader = await tables.ExecuteReaderAsync(Cancel))
            while (await reader.ReadAsync(Cancel))
                names.Add(reader.GetString(0));
        names.Count.ShouldBeGreaterThan(30);
        // Looked at past the row security, as the cluster's administrator.
        foreach (var name in names)
        {
            await using var count = new NpgsqlCommand(
                $"select count(*) from practice_shop.\"{name}\" where attempt_id = {attempt.Id}",
                owner
            );
            (await count.ExecuteScalarAsync(Cancel)).ShouldBe(0L, name);
        }
        await using var others = PracticeShop.Open(shop.PracticeConnection, kept.Id);
        (await others.PartAsync(kept.Tag, Cancel)).ShouldNotBeNull();
    }

    [Fact]
    public async Task A_part_of_the_workshop_never_has_a_tag_of_practice()
    {
        await using var db = shop.Db();
        var part = await db.Parts.FirstAsync(Cancel);
        (
            await Should.ThrowAsync<PostgresException>(() =>
                db.Database.ExecuteSqlAsync(
                    $"insert into parts (job_id, tag, corner, visit) select job_id, 'p-77', 'Other', 1 from parts where id = {part.Id}",
                    Cancel
                )
            )
        ).ConstraintName.ShouldBe("no_practice_tag");
    }

    [Fact]
    public async Task Guests_of_one_address_begin_four_hundred_lessons_a_day_together_and_no_more()
    {
        await using var db = Db();
        var desk = new PracticeDesk(db, TimeProvider.System);
        async Task<string?> BeginManyAsync(int many)
        {
            var (guest, _, _) = await desk.NewGuestAsync("192.0.2.77", Cancel);
            // That it was begun last week is told by whoever begins it, and not believed.
            return await StateAsync(
                shop.PracticeConnection,
                "insert into practice.attempts (learner_id, lesson_id, lesson_text, seed, started_at)"
                    + $" select {guest!.Id}, 'x', 'x', 1, now() - interval '7 days' from generate_series(1, {many})"
            );
        }
        (await BeginManyAsync(41)).ShouldBe("UP011");
        for (var i = 0; i < 10; i++)
            (await BeginManyAsync(40)).ShouldBeNull();
        (await BeginManyAsync(1)).ShouldBe("UP011");
        // Another address is not held up by it.
        (await BegunAsync()).Attempt.Id.ShouldBeGreaterThan(0);
    }
}
