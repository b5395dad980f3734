using Microsoft.EntityFrameworkCore;
using Npgsql;
using Uncial.Data.Practice;
using Uncial.Practice.Lessons;
using Uncial.Testing;

namespace Uncial.Data.Tests;

/// <summary>Classes of practice: who instructs them, who is in them, and what the database refuses to everybody else.</summary>
public sealed class ClassTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private const string Ridge = "clear-of-the-ridge",
        Dial = "the-dial-counts-diameter",
        NoRight = "42501";

    private static readonly AttemptNames Names = new(
        "Practice",
        "Trainee",
        "Lathe",
        "Vehicle",
        g => $"{g.Form}",
        n => $"{n}",
        n => $"{n}",
        n => $"{n}"
    );

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private PracticeDb Db() => new(PracticeDb.For(shop.PracticeConnection));

    /// <summary>Somebody who is signed in; who instructs, if asked for.</summary>
    private async Task<string> SessionAsync(bool instructs, string role = Roles.Operator)
    {
        var name = "p" + Guid.NewGuid().ToString("N")[..12];
        var id = await shop.AddPersonAsync(name, name, "2863", role);
        await using var db = shop.Db();
        if (instructs)
            await db.Database.ExecuteSqlAsync($"update operators set instructs_since = now() where id = {id}", Cancel);
        EnrolledScreen screen = new()
        {
            Name = name,
            TokenHash = System.Text.Encoding.UTF8.GetBytes(name),
            EnrolledAt = DateTimeOffset.UtcNow,
        };
        db.Screens.Add(screen);
        await db.SaveChangesAsync(Cancel);
        return await db.Database.SqlQuery<string>($"select open_session({id}, {screen.Id}) as \"Value\"").SingleAsync(Cancel);
    }

    private async Task<int> BegunAsync(string session, bool isSamePart, params string[] lessons)
    {
        await using var db = Db();
        var (id, refusal) = await new ClassDesk(db).BeginAsync(
            session,
            "Autumn",
            isSamePart,
            [.. lessons.Select(l => (l, ShippedLessons.FileOf(l)!))],
            Cancel
        );
        refusal.ShouldBeNull();
        return id.ShouldNotBeNull();
    }

    private async Task<Learner> TraineeAsync(string session, int classId, string name)
    {
        await using var db = Db();
        (await new ClassDesk(db).AddAsync(session, classId, name, Cancel)).ShouldBeNull();
        var code = await db.Learners.Where(l => l.ClassId == classId && l.Name == name).Select(l => l.Code).SingleAsync(Cancel);
        // The code is all that a trainee needs to come in.
        return (await new PracticeDesk(db, TimeProvider.System).GuestAsync(code, Cancel)).ShouldNotBeNull();
    }

    private async Task<Attempt?> WorkAsync(Learner learner, int? classId, string lesson, long? seed = null)
    {
        await using var db = Db();
        var text = ShippedLessons.FileOf(lesson)!;
        return await new AttemptDesk(db, TimeProvider.System).BeginAsync(
            learner,
            LessonFile.Read(text).Lesson!,
            text,
            Names,
            seed,
            classId,
            Cancel
        );
    }

    private async Task<string?> StateAsync(string sql, string? connection = null)
    {
        await using var held = new NpgsqlConnection(connection ?? shop.PracticeConnection);
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

    /// <summary>Waits until a statement waits for what another holds.</summary>
    private async Task UntilOneWaitsAsync()
    {
        await using var admin = new NpgsqlConnection(shop.Connection);
        await admin.OpenAsync(Cancel);
        await using var waiting = new NpgsqlCommand(
            "select exists (select from pg_stat_activity where datname = current_database() and wait_event_type = 'Lock')",
            admin
        );
        await StartCommand.UntilAsync(async () => await waiting.ExecuteScalarAsync(Cancel) is true, "the second try waiting for the first");
    }

    [Fact]
    public async Task A_class_of_one_part_has_it_for_everybody_once_and_is_debriefed_when_it_is_closed()
    {
        var session = await SessionAsync(instructs: true);
        var id = await BegunAsync(session, isSamePart: true, Ridge, Dial);
        var (ann, bo) = (await TraineeAsync(session, id, "Ann Lee"), await TraineeAsync(session, id, "Bo Falk"));
        // Neither a seed of the own nor a second try: the part of the class.
        var (first, second) = ((await WorkAsync(ann, id, Ridge, seed: 1))!, (await WorkAsync(bo, id, Ridge, seed: 2))!);
        first.Seed.ShouldBe(second.Seed);
        first.Seed.ShouldNotBe(1);
        (await WorkAsync(ann, id, Ridge)).ShouldBeNull();
        // Two tablets at once are one try; and a trainee does not take the own results away.
        var cy = await TraineeAsync(session, id, "Cy Dorn");
        var sql =
            "insert into practice.attempts (learner_id, class_id, lesson_id, lesson_text, seed, started_at)"
            + $" values ({cy.Id}, {id}, '{Ridge}', '', 0, now())";
        await using (var held = new NpgsqlConnection(shop.PracticeConnection))
        {
            await held.OpenAsync(Cancel);
            await using var one = await held.BeginTransactionAsync(Cancel);
            await using (var command = new NpgsqlCommand(sql, held, one))
                await command.ExecuteNonQueryAsync(Cancel);
            var another = StateAsync(sql);
            await UntilOneWaitsAsync();
            await one.CommitAsync(Cancel);
            (await another).ShouldBe("UP024");
        }
        await using (var own = Db())
        {
            await new PracticeDesk(own, TimeProvider.System).RemoveAsync(cy, Cancel);
            (await own.Learners.AnyAsync(l => l.Id == cy.Id, Cancel)).ShouldBeTrue();
        }
        var other = (await WorkAsync(ann, id, Dial))!;
        other.Seed.ShouldNotBe(first.Seed);
        // What somebody practises besides has a part of its own.
        (await WorkAsync(ann, null, Ridge))!.Seed.ShouldNotBe(first.Seed);

        await using var db = Db();
        var desk = new AttemptDesk(db, TimeProvider.System);
        async Task<Attempt> NowAsync() => (await desk.AttemptAsync(ann, first.Id, Cancel))!;
        (await desk.DecideAsync(first, Decision.Release, Cancel)).ShouldBeNull();
        (await NowAsync()).ShouldSatisfyAllConditions(a => a.IsEnded.ShouldBeTrue(), a => a.IsDebriefed.ShouldBeFalse());
        (await desk.EndedAsync(ann, 10, Cancel)).ShouldBeEmpty();
        var classes = new ClassDesk(db);
        (await classes.WorkAsync(id, Cancel)).Count.ShouldBe(4);
        (await classes.CloseAsync(session, id, Cancel)).ShouldBeNull();
        (await NowAsync()).IsDebriefed.ShouldBeTrue();
        (await desk.EndedAsync(ann, 10, Cancel)).ShouldHaveSingleItem();
        (await WorkAsync(bo, id, Dial)).ShouldBeNull();
        (await classes.AddAsync(session, id, "Dee Ost", Cancel)).ShouldBe(ClassRefusal.IsClosed);
        (await classes.CloseAsync(session, id, Cancel)).ShouldBe(ClassRefusal.IsClosed);

        // It goes with its trainees and everything that they did.
        (await classes.RemoveAsync(session, id, Cancel)).ShouldBeNull();
        (await db.Learners.AnyAsync(l => l.ClassId == id, Cancel)).ShouldBeFalse();
        (await db.Attempts.AnyAsync(a => a.Id == first.Id, Cancel)).ShouldBeFalse();
    }

    [Fact]
    public async Task Parts_of_their_own_differ_and_are_debriefed_at_once()
    {
        var session = await SessionAsync(instructs: true);
        var id = await BegunAsync(session, isSamePart: false, Ridge);
        var ann = await TraineeAsync(session, id, "Ann Lee");
        var (first, again) = ((await WorkAsync(ann, id, Ridge))!, (await WorkAsync(ann, id, Ridge))!);
        first.Seed.ShouldNotBe(again.Seed);
        await using var db = Db();
        var desk = new AttemptDesk(db, TimeProvider.System);
        await desk.DecideAsync(first, Decision.Scrap, Cancel);
        (await desk.AttemptAsync(ann, first.Id, Cancel))!.IsDebriefed.ShouldBeTrue();
        // The newest of a lesson is what its instructor sees.
        (await new ClassDesk(db).WorkAsync(id, Cancel)).ShouldHaveSingleItem().Attempt.Id.ShouldBe(again.Id);
    }

    [Fact]
    public async Task Who_does_not_instruct_or_instructs_ananotherclass_changes_nothing()
    {
        var (session, other, member) = (await SessionAsync(true), await SessionAsync(true), await SessionAsync(false));
        var id = await BegunAsync(session, isSamePart: true, Ridge);
        var ann = await TraineeAsync(session, id, "Ann Lee");
        await using var db = Db();
        var desk = new ClassDesk(db);
        foreach (var stranger in new[] { other, member, "none", "" })
        {
            (await desk.AddAsync(stranger, id, "Bo Falk", Cancel)).ShouldBe(ClassRefusal.NotYours);
            (await desk.CloseAsync(stranger, id, Cancel)).ShouldBe(ClassRefusal.NotYours);
            (await desk.RemoveAsync(stranger, id, ann.Id, Cancel)).ShouldBe(ClassRefusal.NotYours);
            (await desk.RemoveAsync(stranger, id, Cancel)).ShouldBe(ClassRefusal.NotYours);
        }
        (await desk.BeginAsync(member, "Mine", true, [(Ridge, ShippedLessons.FileOf(Ridge)!)], Cancel)).Refusal.ShouldBe(
            ClassRefusal.NotYours
        );
        (await desk.InstructorAsync(member, Cancel)).ShouldBeNull();
        (await desk.AddAsync(session, id, "ann lee", Cancel)).ShouldBe(ClassRefusal.NameTaken);
        // An instructor has no right over anybody of the shop, a trainee of another class, or a guest.
        await using var people = shop.Db();
        var before = await people.Operators.CountAsync(Cancel);
        (await new PracticeDesk(db, TimeProvider.System).NewGuestAsync("192.0.2.70", Cancel)).Guest.ShouldNotBeNull();
        var guest = await db.Learners.Where(l => l.OperatorId == null && l.ClassId == null).Select(l => l.Id).FirstAsync(Cancel);
        (await desk.RemoveAsync(session, id, guest, Cancel)).ShouldBeNull();
        (await db.Learners.AnyAsync(l => l.Id == guest, Cancel)).ShouldBeTrue();
        (await people.Operators.CountAsync(Cancel)).ShouldBe(before);
        // Who is in no class has no lesson of one, and nobody one that it has not.
        var outsider = await db.Learners.AsNoTracking().SingleAsync(l => l.Id == guest, Cancel);
        (await Should.ThrowAsync<DbUpdateException>(() => WorkAsync(outsider, id, Ridge))).InnerException!.Message.ShouldContain(
            "not in the class"
        );
        (await Should.ThrowAsync<DbUpdateException>(() => WorkAsync(ann, id, Dial))).InnerException!.Message.ShouldContain(
            "no lesson of the class"
        );
    }

    [Fact]
    public async Task A_lead_keeps_lessons_and_nobody_else_does()
    {
        var (lead, member) = (await SessionAsync(false, Roles.Lead), await SessionAsync(true));
        await using var db = Db();
        var book = new LessonBook(db);
        var shipped = ShippedLessons.FileOf(Ridge)!;
        var own = shipped.Replace(Ridge, "our-ridge", StringComparison.Ordinal);
        (await book.KeepAsync(member, own, Cancel)).Refusal.ShouldBe(LessonRefusal.NotAllowed);
        (await book.KeepAsync("", own, Cancel)).Refusal.ShouldBe(LessonRefusal.NotAllowed);
        (await book.KeepAsync(lead, shipped, Cancel)).Refusal.ShouldBe(LessonRefusal.Ships);
        var (broken, why, faults) = await book.KeepAsync(lead, own.Replace("\"rotor\"", "\"plate\"", StringComparison.Ordinal), Cancel);
        (broken, why).ShouldBe((null, LessonRefusal.Broken));
        faults.ShouldContain(new FaultAt("part.kind", LessonFault.NotAWord));
        (await book.OwnAsync(Cancel)).ShouldBeEmpty();

        (await book.KeepAsync(lead, own, Cancel)).Lesson!.Id.ShouldBe("our-ridge");
        var newer = own.Replace("\"grade\": 1", "\"grade\": 2", StringComparison.Ordinal);
        (await book.KeepAsync(lead, newer, Cancel)).Refusal.ShouldBeNull();
        (await book.FindAsync("our-ridge", Cancel))!.Value.Lesson.Grade.ShouldBe(2);
        (await book.AllAsync(Cancel)).Count(l => l.IsOwn).ShouldBe(1);
        (await book.RemoveAsync(member, "our-ridge", Cancel)).ShouldBe(LessonRefusal.NotAllowed);
        (await book.RemoveAsync(lead, "our-ridge", Cancel)).ShouldBeNull();
        (await book.FindAsync("our-ridge", Cancel)).ShouldBeNull();
    }

    [Fact]
    public async Task The_login_of_practice_puts_nobody_into_a_class_and_that_of_the_shop_begins_none()
    {
        foreach (
            var sql in new[]
            {
                "insert into practice.classes (name, instructor_id, is_same_part, begun_at) values ('x', 1, true, now())",
                "update practice.classes set closed_at = now()",
                "delete from practice.classes",
                "insert into practice.class_lessons (class_id, number, lesson_id, lesson_text, seed) values (1, 1, 'x', 'x', 1)",
                "insert into practice.learners (name, class_id, code, created_at) values ('x', 1, 'AAAAAAAA', now())",
                "update practice.learners set class_id = 1",
                "insert into practice.lessons (id, text, kept_by_id, kept_at) values ('x', 'x', 1, now())",
                "delete from practice.lessons",
                "select practice.lesson_keeper('x')",
                "select practice.own_class('x', 1, true)",
                "select * from public.operators",
                "select public.session_of('x')",
            }
        )
            (await StateAsync(sql)).ShouldBe(NoRight, sql);
        foreach (var sql in new[] { "select practice.begin_class('x', 'x', true, '[]')", "select practice.instructor('x')" })
            (await StateAsync(sql, shop.AppConnection)).ShouldBe(NoRight, sql);
    }
}
