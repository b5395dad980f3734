using Microsoft.EntityFrameworkCore;
using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Data;

namespace Uncial.Data.Tests;

/// <summary>A plan does not outlive what it rests on: not on the pages, and not in the database.</summary>
public class PlanChangeTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static Length Mm(decimal mm) => TestParts.Mm(mm);

    private static TypedLength Typed(string text) => TestParts.Typed(text);

    /// <summary>A rotor that was read at eight places, with run-outs, and a plan of two light passes and more.</summary>
    private async Task<(UncialDb Db, Func<SurfaceRecord> Now, Actor Actor)> PlannedAsync(string? mistyped = null)
    {
        var db = shop.Db();
        var record = await db.RecordAsync(await shop.ReadPartAsync(machineTo: "23.40"));
        var actor = new Actor(await db.PersonAsync("ines"), Role.Operator, DateTimeOffset.UtcNow);
        SurfaceRecord Now() => new(record.Surface, record.Part, record.Shop);
        if (mistyped is not null)
            MeasureCommands.RecordReading(
                Now(),
                ReadingKind.Size,
                Now().Measuring.Places[2],
                Typed(mistyped),
                LengthUnit.Millimetre,
                null,
                actor,
                new(Insisted: true)
            );
        foreach (var kind in new[] { ReadingKind.RunoutOuter, ReadingKind.RunoutInner })
            MeasureCommands.RecordReading(Now(), kind, null, Typed("0.10"), LengthUnit.Millimetre, null, actor);
        await db.SaveChangesAsync(Cancel);
        await db.SeeToEyesAsync(actor, Now().Lathe.Id);
        await TakeAsync(db, Now, actor);
        return (db, Now, actor);
    }

    private static async Task TakeAsync(UncialDb db, Func<SurfaceRecord> now, Actor actor)
    {
        var request = now().Planning.Request(true);
        PlanCommands.TakePlan(now(), request, PassPlanner.Plan(request).Options.Single(o => o.Key == "light"), [], actor);
        await db.SaveChangesAsync(Cancel);
    }

    private static async Task CutAsync(UncialDb db, Func<SurfaceRecord> now, Actor actor, PassSeen seen)
    {
        CutCommands.StartPass(now(), 1, actor, now().Cutting.NeededChecks);
        await db.SaveChangesAsync(Cancel);
        CutCommands.StopPass(now(), CutStopKind.Done, null, actor);
        await db.SaveChangesAsync(Cancel);
        CutCommands.RecordPass(now(), seen, actor);
        await db.SaveChangesAsync(Cancel);
    }

    /// <summary>What the database says to a start of the newest plan's next pass, behind the application's back.</summary>
    private static async Task<string?> StartedBehindAsync(
        UncialDb db,
        SurfaceRecord record,
        string looked = "array['Locks','Lever','Damping']",
        int? by = null
    )
    {
        var plan = record.Surface.Plans.MaxBy(p => p.Version)!;
        var sql =
            "insert into cut_starts (surface_id, plan_id, index, attempt, lathe_id, planned_minutes, seconds, at, by_id, looked_at) "
            + $"values ({record.Surface.Id}, {plan.Id}, 7, 1, {record.Lathe.Id}, 0, 0, now(), {by ?? plan.ById}, {looked})";
        await using var undone = await db.Database.BeginTransactionAsync(Cancel);
        try
        {
            await db.Database.ExecuteSqlRawAsync(sql, Cancel);
        }
        catch (Npgsql.PostgresException refused)
        {
            return refused.SqlState;
        }
        return null;
    }

    [Fact]
    public async Task No_pass_is_started_behind_the_application_that_was_not_looked_at()
    {
        var (db, now, _) = await PlannedAsync();
        await using var _db = db;
        (await StartedBehindAsync(db, now())).ShouldBeNull();
        foreach (
            var looked in new[]
            {
                "null",
                "array[]::text[]",
                "array['Locks','Lever','Eyes']",
                "array['Locks','Damping']",
                "array['Lever','Damping']",
            }
        )
            (await StartedBehindAsync(db, now(), looked)).ShouldBe(StoredRules.CodeOf(StoredRule.LookedAtBeforeStart));
        // Eyes were seen to by somebody else, and by this person yesterday and, by a wrong clock, tomorrow.
        Actor marit = new(await db.PersonAsync("marit"), Role.Owner, DateTimeOffset.UtcNow);
        foreach (var hours in new[] { -25, 25 })
            await db.SeeToEyesAsync(marit with { At = marit.At.AddHours(hours) }, now().Lathe.Id);
        await db.SeeToEyesAsync(marit, now().Lathe.Id + 1);
        (await StartedBehindAsync(db, now(), by: marit.Id)).ShouldBe(StoredRules.CodeOf(StoredRule.EyesToday));
        await db.SeeToEyesAsync(marit, now().Lathe.Id);
        (await StartedBehindAsync(db, now(), by: marit.Id)).ShouldBeNull();
    }

    [Fact]
    public async Task A_mistyped_reading_that_was_taken_back_takes_the_plan_with_it()
    {
        var (db, now, actor) = await PlannedAsync(mistyped: "25.36");
        await using var _ = db;
        now().Planning.Document!.Request.TouchBound.ShouldBeGreaterThan(Mm(25.3m)); // the greatest reading, and it was none
        now().Station.ShouldBe(Station.Cut);
        (await StartedBehindAsync(db, now())).ShouldBeNull();
        MeasureCommands.Withdraw(now(), now().Measuring.Sizes.Single(r => r.Value > Mm(25m)), "25.36 typed for 23.56", actor);
        await db.SaveChangesAsync(Cancel);
        (now().Planning.Latest, now().Station).ShouldBe((null, now().Mounting.Mount is null ? Station.Mount : Station.Plan));
        Should.Throw<InvalidOperationException>(() => CutCommands.StartPass(now(), 1, actor, now().Cutting.NeededChecks));
        (await StartedBehindAsync(db, now())).ShouldBe("UN028");
        await TakeAsync(db, now, actor);
        now().Planning.Document!.Request.TouchBound.ShouldBeLessThan(Mm(24.4m));
        (await StartedBehindAsync(db, now())).ShouldBeNull();
    }

    [Fact]
    public async Task Taken_back_after_the_first_pass_the_rest_is_planned_from_what_stands()
    {
        var (db, now, actor) = await PlannedAsync(mistyped: "25.36");
        await using var _ = db;
        await CutAsync(db, now, actor, new(0xF, 0xF, null, null, null, null));
        var carried = now().Planning.Request(true);
        carried.TouchBound.ShouldBeGreaterThan(Mm(25m));
        now().Planning.Change.ShouldBeNull();
        // Going through the passes again says what the passes left.
        carried.Sides.ShouldAllBe(s => s.Need == Mm(0.10m) - s.Done && s.Done > Length.Zero);
        MeasureCommands.Withdraw(now(), now().Measuring.SizesBefore.Single(r => r.Value > Mm(25m)), "25.36 typed for 23.56", actor);
        await db.SaveChangesAsync(Cancel);
        now().Planning.Change.ShouldBe(PlanChange.Reading);
        Should.Throw<InvalidOperationException>(() => CutCommands.StartPass(now(), 1, actor, now().Cutting.NeededChecks));
        (await StartedBehindAsync(db, now())).ShouldBe("UN028");
        PlanCommands.PlanForFacts(now(), actor);
        await db.SaveChangesAsync(Cancel);
        var done = now().Surface.Passes[0];
        var (request, first) = (
            now().Planning.Document!.Request,
            StoredJson.Read<PlanDocument>(now().Surface.Plans.Single(p => p.Id == done.PlanId).Document).Option.Passes[0]
        );
        now().Planning.Change.ShouldBeNull();
        now().Planning.Document!.Continues.ShouldBeTrue();
        // Greatest standing reading less U, less what the first pass took from both faces.
        request.TouchBound.ShouldBe(now().Measuring.SizesBefore.Max(r => r.Value) - request.Uncertainty - first.Depth[0] - first.Depth[1]);
        request.Sides[0].Done.ShouldBe(first.Depth[0]);
        (await StartedBehindAsync(db, now())).ShouldBeNull();
    }

    [Fact]
    public async Task A_reading_that_was_taken_back_leaves_nothing_behind_through_another_mounting_either()
    {
        var (db, now, actor) = await PlannedAsync(mistyped: "25.36");
        await using var _ = db;
        await CutAsync(db, now, actor, new(0xF, 0xF, null, null, null, null));
        var first = now().Planning.PassOf(now().Surface.Passes[0]);
        MountCommands.Mount(
            now(),
            now().Lathe,
            new(MountWay.ConeAndCups, "Cone", Length.Zero, [], []),
            damped: true,
            RemountCause.Nick,
            actor
        );
        await db.SaveChangesAsync(Cancel);
        foreach (var kind in new[] { ReadingKind.RunoutOuter, ReadingKind.RunoutInner })
            MeasureCommands.RecordReading(now(), kind, null, Typed("0.06"), LengthUnit.Millimetre, null, actor);
        await db.SaveChangesAsync(Cancel);
        PlanCommands.PlanForFacts(now(), actor);
        await db.SaveChangesAsync(Cancel);
        now().Planning.Document!.Request.TouchBound.ShouldBeGreaterThan(Mm(25m));
        await CutAsync(db, now, actor, new(0x7, 0x7, null, null, null, null));
        var second = now().Planning.PassOf(now().Surface.Passes.MaxBy(p => p.Cut)!);
        MeasureCommands.Withdraw(now(), now().Measuring.SizesBefore.Single(r => r.Value > Mm(25m)), "25.36 typed for 23.56", actor);
        await db.SaveChangesAsync(Cancel);
        now().Planning.Change.ShouldBe(PlanChange.Reading);
        PlanCommands.PlanForFacts(now(), actor);
        await db.SaveChangesAsync(Cancel);
        var taken = first.Depth[0] + first.Depth[1] + second.Depth[0] + second.Depth[1];
        now().Planning.Request(true).TouchBound.ShouldBe(now().Measuring.SizesBefore.Max(r => r.Value) - taken);
        // With not one reading left there is nothing to plan from, and nothing is cut before it is measured.
        foreach (var size in now().Measuring.SizesBefore)
            MeasureCommands.Withdraw(now(), size, "wrong part", actor);
        await db.SaveChangesAsync(Cancel);
        (now().Planning.CanPlanAnew, now().Planning.Change).ShouldBe((false, PlanChange.Reading));
        Should.Throw<InvalidOperationException>(() => PlanCommands.PlanForFacts(now(), actor));
        MeasureCommands.RecordReading(
            now(),
            ReadingKind.Size,
            now().Measuring.Places[0],
            Typed("24.10"),
            LengthUnit.Millimetre,
            null,
            actor
        );
        await db.SaveChangesAsync(Cancel);
        PlanCommands.PlanForFacts(now(), actor);
        await db.SaveChangesAsync(Cancel);
        now().Planning.Document!.Request.TouchBound.ShouldBe(Mm(24.10m));
    }

    [Fact]
    public async Task A_stricter_limit_or_a_set_up_check_ends_a_plan_and_another_mounting_takes_its_zero()
    {
        var (db, now, actor) = await PlannedAsync();
        await using var _ = db;
        await CutAsync(db, now, actor, new(0xF, 0xF, null, null, null, null));
        ReceiveCommands.StateLimit(
            now().Surface,
            LimitKind.MachineTo,
            Typed("23.60"),
            LengthUnit.Millimetre,
            LimitSource.CastMarking,
            actor
        );
        await db.SaveChangesAsync(Cancel);
        now().Planning.Change.ShouldBe(PlanChange.Limit);
        (await StartedBehindAsync(db, now())).ShouldBe("UN028");
        PlanCommands.PlanForFacts(now(), actor);
        await db.SaveChangesAsync(Cancel);
        (now().Planning.Change, now().Planning.Document!.Request.MachineTo).ShouldBe((null, Mm(23.60m)));

        // Put on anew: the dials have no zero, and what was clean runs out as the new set-up makes it.
        var lathe = now().Lathe;
        var left = now().Planning.Document!.Request.Sides[0].Need;
        MountCommands.Mount(now(), lathe, new(MountWay.ConeAndCups, "Cone", Length.Zero, [], []), damped: true, null, actor);
        await db.SaveChangesAsync(Cancel);
        now().Planning.Change.ShouldBe(PlanChange.Mount);
        MountCommands.CheckSetUp(
            now(),
            new(
                SetUpManner.Indicator,
                180,
                RunoutMark.Indicated(ClockAngle.FromDegrees(0), Mm(0.20m)),
                RunoutMark.Indicated(ClockAngle.FromDegrees(0), Mm(0.20m))
            ),
            actor
        );
        await db.SaveChangesAsync(Cancel);
        MountCommands.GoOn(now(), "no better adapter", actor);
        await db.SaveChangesAsync(Cancel);
        PlanCommands.PlanForFacts(now(), actor);
        await db.SaveChangesAsync(Cancel);
        var anew = now().Planning.Document!;
        (anew.Continues, now().Planning.Change).ShouldBe((false, null));
        anew.Request.Sides[0].Need.ShouldBe(left + Mm(0.20m));
        // The next mounting is checked to 0.03: the 0.20 of this one stays with it.
        MountCommands.Mount(now(), lathe, new(MountWay.ConeAndCups, "Cone", Length.Zero, [], []), damped: true, RemountCause.Dirt, actor);
        await db.SaveChangesAsync(Cancel);
        MountCommands.CheckSetUp(
            now(),
            new(
                SetUpManner.Indicator,
                180,
                RunoutMark.Indicated(ClockAngle.FromDegrees(0), Mm(0.03m)),
                RunoutMark.Indicated(ClockAngle.FromDegrees(0), Mm(0.03m))
            ),
            actor
        );
        await db.SaveChangesAsync(Cancel);
        MountCommands.GoOn(now(), "good enough", actor);
        await db.SaveChangesAsync(Cancel);
        PlanCommands.PlanForFacts(now(), actor);
        await db.SaveChangesAsync(Cancel);
        now().Planning.Document!.Request.Sides.Select(s => s.Need).ShouldBe([left + Mm(0.03m), left + Mm(0.03m)]);
    }
}
