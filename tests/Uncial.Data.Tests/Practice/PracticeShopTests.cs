using Microsoft.EntityFrameworkCore;
using Npgsql;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Data.Practice;
using Uncial.Testing;

namespace Uncial.Data.Tests;

/// <summary>Each attempt at a lesson has a shop of its own, worked by the same commands and held by the same guards.</summary>
public sealed class PracticeShopTests(RunningShop shop) : IClassFixture<RunningShop>, IAsyncLifetime
{
    public async ValueTask InitializeAsync()
    {
        // Twice changes nothing.
        await PracticeShop.ApplyAsync(Logins.OwnerOf(shop.Connection), Cancel);
        await using var administrator = new NpgsqlConnection(shop.Connection);
        await administrator.OpenAsync(Cancel);
        await using var begin = new NpgsqlCommand(
            "insert into practice.learners (id, operator_id, created_at) values (900, 900, now()) on conflict do nothing; "
                + "insert into practice.attempts (id, learner_id, lesson_id, lesson_text, seed, started_at) "
                + "select id, 900, 'none', '', 1, now() from unnest(array[101, 102, 201, 301]) id on conflict do nothing",
            administrator
        );
        await begin.ExecuteNonQueryAsync(Cancel);
    }

    public ValueTask DisposeAsync() => default;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private UncialDb Open(long attempt) => PracticeShop.Open(shop.PracticeConnection, attempt);

    /// <summary>A shop with a trainee, a micrometer and a rotor, read all round and left uncut.</summary>
    private static async Task<(SurfaceRecord Record, int Trainee)> WorkedAsync(UncialDb db, int attempt, string size)
    {
        var founded = Shop.New("Practice");
        founded.Id = attempt;
        db.Shops.Add(founded);
        var trainee = new Operator { UserName = "trainee", DisplayName = "Trainee" };
        db.Operators.Add(trainee);
        founded.Gauges.Add(
            new()
            {
                Name = "Micrometer",
                Kind = Core.Gauges.GaugeKind.Micrometer,
                Resolution = TestParts.Mm(0.001m),
                CertificateUncertainty = TestParts.Mm(0.003m),
            }
        );
        await db.SaveChangesAsync(Cancel);
        var actor = new Actor(trainee.Id, Role.Operator, DateTimeOffset.UtcNow);
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
            Tag = "P-0001",
            Corner = Corner.FrontLeft,
            Surfaces = { surface },
        };
        db.Jobs.Add(
            new()
            {
                Vehicle = "Practice",
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
        return (Now(), trainee.Id);
    }

    private static async Task<string?> TriedAsync(UncialDb db, string sql)
    {
        try
        {
            await db.Database.ExecuteSqlRawAsync(sql, Cancel);
            return null;
        }
        catch (PostgresException e)
        {
            return e.SqlState;
        }
    }

    [Fact]
    public async Task Two_attempts_work_side_by_side_under_the_same_names_and_see_nothing_of_one_another()
    {
        await using var one = Open(101);
        await using var two = Open(102);
        var (first, _) = await WorkedAsync(one, 101, "23.4");
        var (second, _) = await WorkedAsync(two, 102, "21.4");
        // The same tag, the same user name, each once.
        (await one.Parts.AsNoTracking().ToListAsync(Cancel)).ShouldHaveSingleItem().Tag.ShouldBe("P-0001");
        (await two.Parts.AsNoTracking().ToListAsync(Cancel)).ShouldHaveSingleItem().Id.ShouldNotBe(first.Part.Id);
        (await one.Readings.CountAsync(Cancel)).ShouldBe(8);
        (await two.Readings.Select(r => r.Value).Distinct().ToListAsync(Cancel)).ShouldBe([TestParts.Mm(21.4m)]);
        // By SQL neither: not read, not written, not put into another's.
        (
            await two.Database.SqlQuery<int>($"select count(*)::int as \"Value\" from parts where id = {first.Part.Id}").SingleAsync(Cancel)
        ).ShouldBe(0);
        (await two.Database.ExecuteSqlAsync($"update parts set mark = 'x' where id = {first.Part.Id}", Cancel)).ShouldBe(0);
        (
            await TriedAsync(
                two,
                "insert into parts (tag, visit, job_id, corner, attempt_id) select 'P-0009', 1, job_id, corner, 101 from parts "
                    + $"where id = {second.Part.Id}"
            )
        ).ShouldBe(PostgresErrorCodes.InsufficientPrivilege);
        // A connection that belongs to no attempt sees none.
        await using var none = new NpgsqlConnection(shop.PracticeConnection);
        await none.OpenAsync(Cancel);
        await using var count = new NpgsqlCommand("select count(*) from practice_shop.parts", none);
        (await count.ExecuteScalarAsync(Cancel)).ShouldBe(0L);
    }

    [Fact]
    public async Task A_part_beyond_discard_is_released_by_nobody_here_either()
    {
        await using var db = Open(201);
        var (record, trainee) = await WorkedAsync(db, 201, "21.4");
        (
            await TriedAsync(
                db,
                "insert into outcomes (part_id, kind, do_not_machine_again, at, by_id) "
                    + $"values ({record.Part.Id}, 'Released', false, now(), {trainee})"
            )
        )
            .ShouldNotBeNull()
            .ShouldStartWith("UN");
        // Facts stay as they are, and nobody makes a lead of the trainee.
        (await TriedAsync(db, "update readings set value_mm = 25")).ShouldBe(PostgresErrorCodes.InsufficientPrivilege);
        (await TriedAsync(db, "delete from readings")).ShouldBe(PostgresErrorCodes.InsufficientPrivilege);
        (await TriedAsync(db, $"select write_pin({trainee}, '4826')")).ShouldBe(PostgresErrorCodes.InsufficientPrivilege);
        (await TriedAsync(db, "select hash from pins")).ShouldBe(PostgresErrorCodes.InsufficientPrivilege);
        (await TriedAsync(db, "update operators set role = 'owner'")).ShouldBe(PostgresErrorCodes.InsufficientPrivilege);
    }

    [Fact]
    public async Task Nothing_of_it_is_in_the_workshop()
    {
        await using var practice = Open(301);
        await WorkedAsync(practice, 301, "23.4");
        await using var db = shop.Db();
        (await db.Parts.AnyAsync(p => p.Tag == "P-0001", Cancel)).ShouldBeFalse();
        (await db.Jobs.AnyAsync(j => j.Vehicle == "Practice", Cancel)).ShouldBeFalse();
        (await db.Operators.AnyAsync(o => o.UserName == "trainee", Cancel)).ShouldBeFalse();
    }
}
