using System.Globalization;
using System.Net;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;
using Uncial.Core.Mounting;
using Uncial.Core.Scheduling;
using Uncial.Core.Times;
using Uncial.Data;
using Uncial.Web.Board;

namespace Uncial.Data.Tests;

/// <summary>The day's board: what people decide about it, who may, and that it follows what is on record.</summary>
public class DayTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static async Task<ShopAction> ActionAsync(UncialDb db, string user, Role role, int seen = 0) =>
        new(db, new(await db.PersonAsync(user), role, DateTimeOffset.UtcNow), seen);

    private async Task<string?> AsApplication(FormattableString sql)
    {
        await using var db = new NpgsqlConnection(shop.AppConnection);
        await db.OpenAsync(Cancel);
        await using var command = new NpgsqlCommand(sql.ToString(CultureInfo.InvariantCulture), db);
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

    private BoardKeeper Keeper => shop.Services.GetRequiredService<BoardKeeper>();

    private static async Task<int> SurfaceAsync(UncialDb db, string tag) =>
        await db.Parts.Where(p => p.Tag == tag).SelectMany(p => p.Surfaces).Select(s => s.Id).FirstAsync(Cancel);

    [Fact]
    public async Task A_pin_holds_on_the_board_and_the_second_who_moves_sees_the_first_and_is_asked()
    {
        var surface = await SurfaceAsync(shop.Db(), await shop.ReadPartAsync());
        await using var db = shop.Db();
        var before = await Keeper.PlanAsync(Cancel);
        var lathe = before.Plan.Board.Steps.First(s => s.WorkId == surface && s.LatheId is not null).LatheId!.Value;
        var other = before.Plan.Day.Plan.Works.First(w => w.Id == surface).Machinings.First(m => m.LatheId != lathe).LatheId;
        Core.Scheduling.Pin pin = new(other, 0, null);

        (await DayCommands.PinAsync(await ActionAsync(db, "tom", Role.Operator), surface, pin, Cancel)).Refusal.ShouldBeNull();
        var pinned = await Keeper.PlanAsync(Cancel);
        pinned.Plan.Board.Steps.First(s => s.WorkId == surface && s.LatheId is not null).LatheId.ShouldBe(other);
        pinned.At.Pins[surface].By.ShouldBe("Tom Okoro");

        var late = await DayCommands.PinAsync(await ActionAsync(db, "ines", Role.Lead), surface, new(lathe, 0, null), Cancel);
        late.Refusal.ShouldBe(new Refusal.Outdated("Tom Okoro"));
        (await DayCommands.PinAsync(await ActionAsync(db, "ines", Role.Lead, seen: 1), surface, null, Cancel)).Refusal.ShouldBeNull();
        (await Keeper.PlanAsync(Cancel)).At.Floor.Pins.ShouldNotContainKey(surface);
        // At the very same moment the database lets one of them.
        (await AsApplication($"insert into board_pins (surface_id, turn, at, by_id) values ({surface}, 2, now(), 1)")).ShouldBe("23505");
    }

    [Fact]
    public async Task A_lathe_out_of_order_gets_nothing_until_it_is_back_and_takes_a_reason()
    {
        await using var db = shop.Db();
        await shop.ReadPartAsync();
        var lathe = (await Keeper.PlanAsync(Cancel)).Plan.Board.Steps.First(s => s.LatheId is not null).LatheId!.Value;
        (await DayCommands.MarkLatheAsync(await ActionAsync(db, "tom", Role.Operator), lathe, true, " ", null, Cancel)).Refusal.ShouldBe(
            new Refusal.Missing(Answer.Reason)
        );
        (
            await DayCommands.MarkLatheAsync(await ActionAsync(db, "tom", Role.Operator), lathe, true, "Belt torn", null, Cancel)
        ).Refusal.ShouldBeNull();
        var planned = (await Keeper.PlanAsync(Cancel)).Plan;
        planned.Board.Steps.Where(s => s.LatheId == lathe && !planned.IsUnderWay(s)).ShouldBeEmpty();
        (
            await DayCommands.MarkLatheAsync(await ActionAsync(db, "tom", Role.Operator, seen: 1), lathe, false, null, null, Cancel)
        ).Refusal.ShouldBeNull();
        (
            await AsApplication($"insert into lathe_outages (lathe_id, is_out, turn, at, by_id) values ({lathe}, true, 9, now(), 1)")
        ).ShouldBe("23514");
    }

    [Fact]
    public async Task Hours_of_a_day_are_a_leads_and_those_of_the_week_the_owners_in_the_database_too()
    {
        await using var db = shop.Db();
        var (tom, ines) = (await db.PersonAsync("tom"), await db.PersonAsync("ines"));
        DayHours off = new(new(2031, 6, 4), tom, null);
        (await DayCommands.SetHoursAsync(await ActionAsync(db, "tom", Role.Operator), off, false, Cancel)).Refusal.ShouldBe(
            new Refusal.NeedsRole(Role.Lead)
        );
        (await DayCommands.SetHoursAsync(await ActionAsync(db, "ines", Role.Lead), off, false, Cancel)).Refusal.ShouldBeNull();
        (await DayQueries.SingleDaysAsync(db, off.Day, off.Day, Cancel)).ShouldBe([off]);
        (await DayCommands.SetHoursAsync(await ActionAsync(db, "ines", Role.Lead), off, true, Cancel)).Refusal.ShouldBeNull();
        (await DayQueries.SingleDaysAsync(db, off.Day, off.Day, Cancel)).ShouldBeEmpty();

        var (settings, turn) = await db.DaySettingsAsync(Cancel);
        settings = settings with
        {
            AdapterMinutes = 4,
            Shifts = new Dictionary<int, WorkWeek> { [tom] = WorkWeek.Usual },
        };
        (await DayCommands.SettleAsync(await ActionAsync(db, "ines", Role.Lead, turn), settings, Cancel)).Refusal.ShouldBe(
            new Refusal.NeedsRole(Role.Owner)
        );
        (await DayCommands.SettleAsync(await ActionAsync(db, "marit", Role.Owner, turn), settings, Cancel)).Refusal.ShouldBeNull();
        (
            await DayCommands.SettleAsync(await ActionAsync(db, "marit", Role.Owner, turn), settings, Cancel)
        ).Refusal.ShouldBeOfType<Refusal.Outdated>();
        var (kept, now) = await db.DaySettingsAsync(Cancel);
        (kept.AdapterMinutes, kept.Shifts[tom], kept.Week, now).ShouldBe((4, WorkWeek.Usual, settings.Week, turn + 1));

        (
            await AsApplication($"insert into day_hours (day, is_usual, turn, at, by_id) values ('2031-06-05', false, 1, now(), {tom})")
        ).ShouldBe(StoredRules.CodeOf(StoredRule.LeadSetsHours));
        (await AsApplication($"insert into day_settings (settings, turn, at, by_id) values ('{{}}', 99, now(), {ines})")).ShouldBe(
            StoredRules.CodeOf(StoredRule.OwnerSetsDays)
        );
        // What the board cannot be planned with does not come in, whoever writes it.
        var marit = await db.PersonAsync("marit");
        foreach (var (from, to) in new[] { ("'{week,days}'", "'[]'"), ("'{measureMinutes}'", "'-5'"), ("'{shifts}'", "'{\"1\": {}}'") })
            (
                await AsApplication(
                    $"""
                    insert into day_settings (settings, turn, at, by_id)
                        select jsonb_set(settings, {from}, {to}), 99, now(), {marit} from day_settings limit 1
                    """
                )
            ).ShouldBe(StoredRules.CodeOf(StoredRule.UsableHours), from);
        (await AsApplication($"update day_hours set turn = 7")).ShouldNotBeNull();
        (await AsApplication($"delete from board_pins")).ShouldNotBeNull();
    }

    [Fact]
    public async Task A_part_that_has_left_is_not_pinned()
    {
        await using var db = shop.Db();
        var surface = await db
            .Outcomes.Where(o => o.Withdrawal == null)
            .Join(db.Surfaces, o => o.PartId, s => s.PartId, (o, s) => s.Id)
            .FirstAsync(Cancel);
        var refused = await DayCommands.PinAsync(await ActionAsync(db, "tom", Role.Operator), surface, new(null, 0, null), Cancel);
        refused.Refusal.ShouldBe(new Refusal.AgainstRule(StoredRule.PinOfPartHere));
    }

    [Fact]
    public async Task A_pinned_place_goes_down_as_others_are_put_on_and_how_long_work_takes_is_read_from_the_records()
    {
        var tag = await shop.ReadPartAsync();
        await using var db = shop.Db();
        var surface = await SurfaceAsync(db, tag);
        var lathe = (await db.Lathes.OrderBy(l => l.Id).FirstAsync(Cancel)).Id;
        (
            await DayCommands.PinAsync(await ActionAsync(db, "tom", Role.Operator), surface, new(lathe, 2, null), Cancel)
        ).Refusal.ShouldBeNull();
        (await Keeper.PlanAsync(Cancel)).At.Pins[surface].Pin!.Place.ShouldBe(2);
        var other = await db.RecordAsync(await shop.ReadPartAsync());
        var on = other.Shop.Lathes.First(l => l.Id == lathe);
        var stack = MountingPlan.For(other.Kind, other.Surface.Diameter, TestParts.Shape, on.Profile, other.Shop.AdaptersInUse).Ways[0];
        MountCommands.Mount(other, on, stack, true, null, (await ActionAsync(db, "tom", Role.Operator)).Actor);
        await db.SaveChangesAsync(Cancel);
        var now = await Keeper.PlanAsync(Cancel);
        now.At.Pins[surface].Pin!.Place.ShouldBe(1);
        // What is on the lathe is under way there.
        now.Plan.Board.Steps.ShouldContain(s => s.LatheId == lathe && now.Plan.IsUnderWay(s));
        now.At.Floor.Times.Measure(Core.Parts.PartKind.Rotor).Own.ShouldNotBeNull();
    }

    [Fact]
    public async Task What_was_planned_is_kept_once_and_beside_it_what_happened_when_the_day_is_over()
    {
        await using var db = shop.Db();
        var settings = await db.ShopAsync(Cancel);
        ShopTime time = new(TimeZoneInfo.Utc, DateStyle.DayMonth);
        var now = DateTimeOffset.UtcNow;
        var day = time.DayOf(now).AddDays(-1);
        DayForecast forecast = new(3, 1, 8, 24, 30);
        (await DayRecords.KeepForecastAsync(db, day, forecast, now, Cancel)).ShouldBeTrue();
        (await DayRecords.KeepForecastAsync(db, day, forecast with { Surfaces = 99 }, now, Cancel)).ShouldBeFalse();
        (await DayRecords.KeepResultsAsync(db, settings, new(), time, now, Cancel)).ShouldBe(1);
        (await DayRecords.KeepResultsAsync(db, settings, new(), time, now, Cancel)).ShouldBe(0);
        var kept = (await DayRecords.SinceAsync(db, day, Cancel)).Single(d => d.Day == day);
        kept.Planned.ShouldBe(forecast);
        // The demo's van was cut on that day or the one before it: what the records say, counted by hand in another way.
        var (from, to) = (time.BeginOf(day), time.BeginOf(day.AddDays(1)));
        var machined = await db
            .Passes.Where(p => p.At >= from && p.At < to && db.Mounts.Any(m => m.SurfaceId == p.SurfaceId && m.At >= from && m.At < to))
            .Select(p => p.SurfaceId)
            .Distinct()
            .CountAsync(Cancel);
        kept.Happened.Surfaces.ShouldBe(machined);
        (await AsApplication($"update days_planned set at = now()")).ShouldNotBeNull();
    }

    [Fact]
    public async Task The_board_is_a_calendar_and_a_list_and_is_shown_on_a_wall_to_enrolled_screens_only()
    {
        await shop.ReadPartAsync();
        var board = await Keeper.PlanAsync(Cancel);
        var calendar = Ical.Net.Calendar.Load(BoardFiles.CalendarOf(board, "shop"))!;
        var promised = board.At.Bench.Parts.Select(p => p.Part.Job!).DistinctBy(j => j.Id).Where(j => j.PromisedAt is not null).ToList();
        calendar.Events.Count(e => e.Uid!.Contains("-promised@", StringComparison.Ordinal)).ShouldBe(promised.Count);
        var job = promised[0];
        calendar
            .Events.Single(e => e.Uid == $"{job.Number}-promised@shop")
            .Start!.AsUtc.ShouldBe(job.PromisedAt!.Value.UtcDateTime, TimeSpan.FromSeconds(1));
        using var tom = await new HttpPerson(shop.Address).SignInAsync("tom", "1304");
        var csv = (await tom.GetAsync("/board.csv")).Text.Split('\n', StringSplitOptions.RemoveEmptyEntries);
        csv.Length.ShouldBe(1 + (await Keeper.NowAsync(Cancel)).Plan.Board.Steps.Count);
        foreach (var path in new[] { "/board/week", "/board/print", "/?day=2031-01-01" })
            (await tom.GetAsync(path)).Code.ShouldBe(HttpStatusCode.OK, path);

        using var stranger = new HttpPerson(shop.Address);
        (await stranger.GetAsync("/board?wall")).To.ShouldNotBeNull().ShouldContain("SignIn");
        (await stranger.GetAsync("/news/board")).Code.ShouldBe(HttpStatusCode.NotFound);
        await tom.PostAsync("/preferences?handler=SignOut", [], "/check");
        var (code, wall, _) = await tom.GetAsync("/board?wall");
        code.ShouldBe(HttpStatusCode.OK);
        foreach (var (customer, vehicle) in board.At.Bench.Parts.Select(p => (p.Part.Job!.Customer, p.Part.Job.Vehicle)))
        {
            wall.ShouldNotContain(vehicle);
            if (customer is not null)
                wall.ShouldNotContain(customer);
        }
    }

    [Fact]
    public async Task The_counter_is_answered_by_the_plan_and_its_offer_is_taken_over()
    {
        using var tom = await new HttpPerson(shop.Address).SignInAsync("tom", "1304");
        (string, string)[] asked = [("Vehicle", "Gannet 16"), ("Comes[FrontLeft]", "rotor"), ("Comes[FrontRight]", "rotor")];
        var (code, page, _) = await tom.PostAsync("/receive?handler=Promise", [.. asked, ("Promised", "2h")], "/receive");
        code.ShouldBe(HttpStatusCode.OK);
        page.ShouldContain("Promise this");
        page.ShouldContain("Gannet 16");
        (await tom.PostAsync("/receive?handler=Promise", [("Vehicle", "x")], "/receive")).Text.ShouldContain("Say what comes off");
        var board = await Keeper.NowAsync(Cancel);
        var offer = PromiseAsked.Of(board, [(Core.Parts.Corner.FrontLeft, Core.Parts.PartKind.Rotor)], null).Offer;
        (await tom.PostAsync("/receive?handler=Promise", [.. asked, ("Take", "16:05")], "/receive")).Text.ShouldContain("value=\"16:05\"");
        offer.Earliest.ShouldNotBeNull().ShouldBeGreaterThan(board.Plan.Day.Plan.Now);
    }

    [Fact]
    public async Task The_bench_shows_the_board_and_what_is_next_and_a_move_is_priced_before_it_is_kept()
    {
        var tag = await shop.ReadPartAsync();
        await using var db = shop.Db();
        var surface = await SurfaceAsync(db, tag);
        var board = await Keeper.PlanAsync(Cancel);
        var step = board.Plan.Board.Steps.First(s => s.WorkId == surface && s.LatheId is not null);
        using var tom = await new HttpPerson(shop.Address).SignInAsync("tom", "1304");
        var (code, page, _) = await tom.GetAsync("/");
        code.ShouldBe(HttpStatusCode.OK);
        page.ShouldContain($"data-surface='{surface}'");
        (string, string)[] move = [("Surface", $"{surface}"), ("Lathe", $"{step.LatheId}"), ("Place", "0"), ("Seen", "0")];
        var tried = await tom.PostAsync("/?handler=Try", move);
        tried.Code.ShouldBe(HttpStatusCode.OK);
        tried.Text.ShouldContain("is-trial");
        (await db.BoardPins.CountAsync(p => p.SurfaceId == surface, Cancel)).ShouldBe(0);
        (await tom.PostAsync("/?handler=Pin", move)).Code.ShouldBe(HttpStatusCode.Found);
        (await db.BoardPins.CountAsync(p => p.SurfaceId == surface, Cancel)).ShouldBe(1);
        var second = await tom.PostAsync("/?handler=Pin", move);
        second.Text.ShouldContain("Tom Okoro has decided about this since you looked");
    }
}
