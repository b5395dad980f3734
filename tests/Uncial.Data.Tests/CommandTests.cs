using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;
using Uncial.Core.Cutting;
using Uncial.Core.Inspection;
using Uncial.Core.Lengths;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Release;
using Uncial.Data;

namespace Uncial.Data.Tests;

/// <summary>An action is done whole or refused whole, whoever calls it and whatever page it comes from.</summary>
public partial class CommandTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private static readonly SignatureTyped Nobody = new(null, null, "", null, null);

    private static readonly IReadOnlyList<StartCheck> Looked = StartChecks.Needed(LatheKind.Bench, turnFirst: false);

    private static readonly DateOnly Today = DateOnly.FromDateTime(DateTime.UtcNow);

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static TypedLength Typed(string text) => LengthParser.Parse(text, LengthUnit.Millimetre, allowZero: true).Typed!;

    private static async Task<PartAction> ActionAsync(UncialDb db, string tag, int? seen = null, SignatureTyped? typed = null)
    {
        var part = (await db.PartAsync(tag, Cancel)).ShouldNotBeNull();
        SurfaceRecord record = new(part.Surfaces[0], part, await db.ShopAsync(Cancel));
        Actor actor = new(await db.PersonAsync("tom"), Role.Operator, DateTimeOffset.UtcNow);
        return new(db, record, seen ?? record.Surface.Turn, actor, typed);
    }

    [Fact]
    public async Task Every_error_of_the_database_has_its_rule_and_every_rule_its_error()
    {
        await using var db = shop.Db();
        var sql = await db
            .Database.SqlQuery<string>($"select string_agg(prosrc, ' ') as \"Value\" from pg_proc where prosrc like '%UN0%'")
            .SingleAsync(Cancel);
        var raised = Code().Matches(sql).Select(m => m.Value).Distinct().Order().ToList();
        raised.ShouldBe(Enum.GetValues<StoredRule>().Select(StoredRules.CodeOf));
        raised.Select(StoredRules.Of).ShouldBe(Enum.GetValues<StoredRule>().Cast<StoredRule?>());
        foreach (var other in new[] { null, "", "UN", "UN000", "UN999", "23505" })
            StoredRules.Of(other).ShouldBeNull();
    }

    [Fact]
    public async Task What_was_seen_before_somebody_else_added_to_it_is_not_acted_on_and_names_who_added()
    {
        var tag = await shop.ReadPartAsync();
        await using var db = shop.Db();
        var action = await ActionAsync(db, tag, seen: 0);
        var refused = await MeasureCommands.WithdrawAsync(action, action.Record.Surface.Readings[0].Id, "slipped", Cancel);
        refused.Refusal.ShouldBeOfType<Refusal.Outdated>().By.ShouldNotBeNullOrEmpty();
        Should.Throw<InvalidOperationException>(() => refused.Value);
        (await ActionAsync(db, tag)).Record.Surface.Readings.ShouldAllBe(r => r.Withdrawal == null);
    }

    [Fact]
    public async Task Of_two_who_act_on_the_same_state_one_is_overtaken_and_nothing_of_it_is_kept()
    {
        var tag = await shop.ReadPartAsync();
        await using UncialDb here = shop.Db(),
            there = shop.Db();
        var (mine, yours) = (await ActionAsync(here, tag), await ActionAsync(there, tag));
        FigureSeen groove = new(ReadingKind.GrooveOuter, Typed("0.2"), null);
        (await MeasureCommands.RecordFiguresAsync(mine, [groove], [], LengthUnit.Millimetre, Cancel)).Refusal.ShouldBeNull();
        (
            await MeasureCommands.RecordFiguresAsync(yours, [groove], [], LengthUnit.Millimetre, Cancel)
        ).Refusal.ShouldBeOfType<Refusal.Overtaken>();
        there.ChangeTracker.Entries().ShouldBeEmpty();
        await using var db = shop.Db();
        (await db.PartAsync(tag, Cancel))!.Surfaces[0].Readings.Count(r => r.Kind == ReadingKind.GrooveOuter).ShouldBe(1);
    }

    [Fact]
    public async Task A_crack_is_not_taken_back_without_a_lead_and_a_finding_not_kept_without_its_photo()
    {
        var tag = await shop.ReadPartAsync();
        await using var db = shop.Db();
        FindingSeen crack = new(FindingKind.Crack, Side.Outer, 1, null, LengthUnit.Millimetre, null, null);
        var found = (await InspectCommands.RecordFindingAsync(await ActionAsync(db, tag), crack, Cancel)).Value;
        db.ChangeTracker.Clear();
        (
            await InspectCommands.WithdrawAsync(await ActionAsync(db, tag, typed: Nobody), found.Id, "only a scratch", Cancel)
        ).Refusal.ShouldBe(new Refusal.NotSigned(SignatureFault.NoSigner));
        var lead = await db.PersonAsync("ines");
        (await InspectCommands.WithdrawAsync(await ActionAsync(db, tag, typed: Nobody with { SignerId = lead }), found.Id, "none", Cancel))
            .Refusal.ShouldBeOfType<Refusal.NotSigned>()
            .Why.ShouldBe(SignatureFault.NoPin);
        (await InspectCommands.WithdrawAsync(await ActionAsync(db, tag), found.Id, " ", Cancel)).Refusal.ShouldBe(
            new Refusal.Missing(Answer.Reason)
        );
        db.ChangeTracker.Clear();
        (await ActionAsync(db, tag)).Record.Inspection.End.ShouldNotBeNull();

        // A photo that the database refuses takes its finding along.
        var photos = await db.Photos.CountAsync(Cancel);
        var action = await ActionAsync(db, tag);
        Photo broken = new() { ContentType = new('x', 200), Bytes = [1] };
        await Should.ThrowAsync<Exception>(() => InspectCommands.RecordFindingAsync(action, crack with { Photo = broken }, Cancel));
        db.ChangeTracker.Clear();
        (await db.Photos.CountAsync(Cancel)).ShouldBe(photos);
        (await ActionAsync(db, tag)).Record.Surface.Findings.Count.ShouldBe(1);
    }

    [Fact]
    public async Task What_left_takes_no_action_any_more()
    {
        var tag = await shop.ReadPartAsync();
        await using var db = shop.Db();
        FindingSeen crack = new(FindingKind.Crack, Side.Outer, 1, null, LengthUnit.Millimetre, null, null);
        (await InspectCommands.RecordFindingAsync(await ActionAsync(db, tag), crack, Cancel)).Refusal.ShouldBeNull();
        db.ChangeTracker.Clear();
        (await InspectCommands.EndAsync(await ActionAsync(db, tag), "cracked through", Cancel)).Value.Kind.ShouldBe(OutcomeKind.Scrapped);
        db.ChangeTracker.Clear();
        var action = await ActionAsync(db, tag);
        Refusal left = new Refusal.AgainstRule(StoredRule.PartHasLeft);
        (await InspectCommands.MarkAsync(action, true, Cancel)).Refusal.ShouldBe(left);
        (await MountCommands.KeepSizesAsync(action, TestParts.Shape, Cancel)).Refusal.ShouldBe(left);
        (await CutCommands.StartPassAsync(action, Looked, Today, Cancel)).Refusal.ShouldBe(left);
        (await ReleaseCommands.ReleaseAsync(action, OutcomeKind.Released, null, null, Cancel)).Refusal.ShouldBe(left);
        (
            await ReleaseCommands.RecallAsync(db, action.Record.Part, "wanted back", false, action.Actor, Nobody, Cancel)
        ).Refusal.ShouldBeOfType<Refusal.NotNow>();
    }

    [Fact]
    public async Task Nothing_leaves_unconfirmed_and_no_plan_is_followed_that_was_not_taken()
    {
        var tag = await shop.ReadPartAsync();
        await using var db = shop.Db();
        var action = await ActionAsync(db, tag);
        (await ReleaseCommands.ReleaseAsync(action, OutcomeKind.Released, null, null, Cancel)).Refusal.ShouldBe(
            new Refusal.AgainstRule(StoredRule.AllConfirmed)
        );
        (await ReleaseCommands.ReleaseAsync(action, OutcomeKind.Scrapped, null, null, Cancel)).Refusal.ShouldBe(
            new Refusal.Missing(Answer.Reason)
        );
        (await CutCommands.StartPassAsync(action, Looked, Today, Cancel)).Refusal.ShouldBeOfType<Refusal.NotNow>();
        (await PlanCommands.TakePlanAsync(action, null, null, null, Cancel)).Refusal.ShouldBeOfType<Refusal.NotNow>();
        (await MountCommands.KeepCheckAsync(action, null, goOn: true, "trust me", Cancel)).Refusal.ShouldBeOfType<Refusal.NotNow>();
    }

    [Fact]
    public async Task A_size_that_is_not_of_now_or_of_a_failed_gauge_is_not_kept_and_one_that_decides_is_read_again_first()
    {
        var tag = await shop.ReadPartAsync();
        await using var db = shop.Db();
        var action = await ActionAsync(db, tag);
        var (usual, place) = (action.Record.Shop.GaugeFor(PartKind.Rotor)!, action.Record.Measuring.Places[0]);
        Gauge dropped = new() { Name = "Dropped" };
        dropped.ZeroChecks.Add(new() { Typed = "25.4", Passed = false });
        Task<Result<ReadingEntry>> Size(string text, int cuts, Gauge gauge) =>
            MeasureCommands.RecordSizeAsync(action, place, Typed(text), LengthUnit.Millimetre, gauge, cuts, new(), Cancel);
        (await Size("24.30", cuts: 1, usual)).Refusal.ShouldBe(new Refusal.CutSince());
        (await Size("24.30", cuts: 0, dropped)).Refusal.ShouldBe(new Refusal.GaugeFailed("Dropped"));
        // Beyond discard of 23: it decides, and one key does not take it back.
        var beyond = (await Size("22.50", cuts: 0, usual)).Value;
        db.ChangeTracker.Clear();
        (await MeasureCommands.WithdrawAsync(await ActionAsync(db, tag), beyond.Id, "slipped", Cancel)).Refusal.ShouldBe(
            new Refusal.ReadAgainFirst()
        );
    }

    [Fact]
    public async Task While_somebody_cuts_a_part_it_says_who_and_it_is_not_mounted_anew()
    {
        var tag = await shop.PlannedPartAsync("light", runout: "0.10");
        await using var db = shop.Db();
        var action = await ActionAsync(db, tag);
        var ines = action.Actor with { Id = await db.PersonAsync("ines") };
        await db.SeeToEyesAsync(ines);
        CutCommands.StartPass(action.Record, 1, ines, Looked);
        await db.SaveChangesAsync(Cancel);
        db.ChangeTracker.Clear();
        (await CutCommands.StopPassAsync(await ActionAsync(db, tag, seen: 0), CutStopKind.Done, null, Cancel))
            .Refusal.ShouldBeOfType<Refusal.BeingCut>()
            .By.ShouldBe("Ines Varga");
        var now = await ActionAsync(db, tag);
        (await CutCommands.StopPassAsync(now, CutStopKind.BrokenOff, " ", Cancel)).Refusal.ShouldBe(new Refusal.Missing(Answer.Reason));
        CutCommands.StopPass(now.Record, CutStopKind.Done, null, now.Actor);
        await db.SaveChangesAsync(Cancel);
        CutCommands.RecordPass(now.Record, new(0xFFF, 0xFFF, null, null, null, null), now.Actor);
        await db.SaveChangesAsync(Cancel);
        db.ChangeTracker.Clear();
        var cut = await ActionAsync(db, tag);
        var lathe = cut.Record.Lathe;
        var stack = MountingPlan
            .For(PartKind.Rotor, Length.FromMillimetres(300), TestParts.Shape, lathe.Profile, cut.Record.Shop.AdaptersInUse)
            .Ways[0];
        (await MountCommands.MountAsync(cut, lathe, stack, true, null, null, Cancel)).Refusal.ShouldBe(new Refusal.PlanRuns());
    }

    [Fact]
    public async Task A_pass_is_started_when_locks_lever_and_damping_were_looked_at_and_once_a_day_eyes_guard_and_sleeves()
    {
        var tag = await shop.PlannedPartAsync("light", runout: "0.10");
        await using var db = shop.Db();
        var today = Today.AddDays(-700); // a day on which nobody has been here
        foreach (var check in Looked)
            (
                await CutCommands.StartPassAsync(await ActionAsync(db, tag), [.. Looked.Where(c => c != check)], today, Cancel)
            ).Refusal.ShouldBe(new Refusal.NotLookedAt(check));
        (await CutCommands.StartPassAsync(await ActionAsync(db, tag), Looked, today, Cancel)).Refusal.ShouldBe(
            new Refusal.NotLookedAt(StartCheck.Eyes)
        );
        (await db.CutStarts.CountAsync(s => s.Plan!.SurfaceId == db.Surfaces.First(u => u.Part!.Tag == tag).Id, Cancel)).ShouldBe(0);
        var start = (await CutCommands.StartPassAsync(await ActionAsync(db, tag), [.. Looked, StartCheck.Eyes], today, Cancel)).Value;
        start.Checks.ShouldBe([.. Looked, StartCheck.Eyes]);
        db.ChangeTracker.Clear();
        var eyes = await db.EyeChecks.SingleAsync(e => e.Day == today, Cancel);
        (eyes.ById, eyes.LatheId).ShouldBe((start.ById, start.LatheId));
        // Once a day is enough for this person at this lathe; for nobody else, and not tomorrow.
        (await PaceQueries.EyesAsync(db, start.ById, start.LatheId, today, Cancel)).ShouldBeTrue();
        (await PaceQueries.EyesAsync(db, start.ById, start.LatheId + 1, today, Cancel)).ShouldBeFalse();
        (await PaceQueries.EyesAsync(db, await db.PersonAsync("ines"), start.LatheId, today, Cancel)).ShouldBeFalse();
        (await PaceQueries.EyesAsync(db, start.ById, start.LatheId, today.AddDays(1), Cancel)).ShouldBeFalse();
    }

    [Fact]
    public async Task Both_parts_of_an_axle_are_confirmed_and_released_together_or_neither_is()
    {
        await using var db = shop.Db();
        var first = await shop.ReadPartAsync(withGauge: true);
        string[] tags = [first, await shop.ReadPartAsync(withGauge: true, beside: first)];
        var stranger = await shop.ReadPartAsync(withGauge: true);
        Actor tom = new(await db.PersonAsync("tom"), Role.Operator, DateTimeOffset.UtcNow);
        foreach (var tag in tags)
        {
            var record = await db.RecordAsync(tag);
            PlanCommands.LeaveUncut(record, record.Planning.Request(dialConfirmed: true), scuffed: false, tom);
            await db.SaveChangesAsync(Cancel);
            await db.LookAtAsync(new(record.Surface, record.Part, record.Shop), tom);
        }
        async Task<(PartAction Left, PartAction Right)> BothAsync(int rightSeen = -1)
        {
            db.ChangeTracker.Clear();
            return (await ActionAsync(db, tags[0]), await ActionAsync(db, tags[1], rightSeen < 0 ? null : rightSeen));
        }
        Task<int> Confirmed() =>
            db.Confirmations.CountAsync(c => db.Surfaces.Any(s => s.Id == c.SurfaceId && tags.Contains(s.Part!.Tag)), Cancel);
        Task<int> Out() => db.Outcomes.CountAsync(o => db.Parts.Any(p => p.Id == o.PartId && tags.Contains(p.Tag)), Cancel);

        // The page of the second is old: nothing of the first stays.
        var (left, right) = await BothAsync(rightSeen: 0);
        (await PairCommands.ConfirmAsync(left, right, readingsAreFit: true, Cancel)).ShouldBeOfType<Refusal.Outdated>();
        (await Confirmed()).ShouldBe(0);
        (left, right) = await BothAsync();
        (await PairCommands.ReleaseAsync(left, right, Cancel)).ShouldBe(new Refusal.AgainstRule(StoredRule.AllConfirmed));
        // Two of different axles are no pair, whoever asks.
        (await PairCommands.ConfirmAsync(left, await ActionAsync(db, stranger), readingsAreFit: true, Cancel)).ShouldBe(
            new Refusal.NotNow()
        );
        (await PairCommands.ReleaseAsync(left, await ActionAsync(db, stranger), Cancel)).ShouldBe(new Refusal.NotNow());
        // What speaks against one takes a reason, whatever page it comes from.
        (left, _) = await BothAsync();
        PairCheck differ = new(PairState.Differ, TestParts.Mm(1.6m), []);
        (await ConfirmCommands.ConfirmAsync(left, readingsAreFit: true, differ, "  ", Cancel)).Refusal.ShouldBe(
            new Refusal.Missing(Answer.Reason)
        );
        (await Confirmed()).ShouldBe(0);
        // One that somebody confirmed alone stays theirs.
        (left, _) = await BothAsync();
        (await ConfirmCommands.ConfirmAsync(left, readingsAreFit: true, null, null, Cancel)).Refusal.ShouldBeNull();
        (await Confirmed()).ShouldBe(1);
        (left, right) = await BothAsync();
        (await PairCommands.ConfirmAsync(left, right, readingsAreFit: true, Cancel)).ShouldBeNull();
        (await Confirmed()).ShouldBe(2);
        (left, right) = await BothAsync(rightSeen: 0);
        (await PairCommands.ReleaseAsync(left, right, Cancel)).ShouldBeOfType<Refusal.Outdated>();
        (await Out()).ShouldBe(0);
        (left, right) = await BothAsync();
        (await PairCommands.ReleaseAsync(left, right, Cancel)).ShouldBeNull();
        (await Out()).ShouldBe(2);
    }

    [Fact]
    public async Task Who_is_no_owner_changes_nothing_that_the_shop_keeps()
    {
        await using var db = shop.Db();
        var settings = await db.ShopAsync(Cancel);
        Actor lead = new(await db.PersonAsync("ines"), Role.Lead, DateTimeOffset.UtcNow),
            tom = lead with { Role = Role.Operator };
        var lathe = settings.Lathes[0];
        Refusal needsOwner = new Refusal.NeedsRole(Role.Owner),
            needsLead = new Refusal.NeedsRole(Role.Lead);
        (await LatheCommands.KeepAsync(new(db, lead, lathe.Turn), settings, lathe, lathe.Profile, null, false, Cancel)).Refusal.ShouldBe(
            needsOwner
        );
        (
            await RuleCommands.KeepAsync(
                new(db, lead, settings.Turn),
                settings,
                settings.Rules,
                new("", null, default, null, null),
                null,
                Nobody,
                Cancel
            )
        ).ShouldBe(needsOwner);
        (await GaugeCommands.KeepAsync(new(db, lead), settings, null, "My own", _ => { }, false, Cancel)).Refusal.ShouldBe(needsOwner);
        (await BookCommands.EndAsync(new(db, tom), 1, Cancel)).ShouldBe(needsLead);
        (await BookCommands.LoadAsync(new(db, tom), [], Cancel)).Refusal.ShouldBe(needsLead);
        var owner = lead with { Role = Role.Owner };
        (
            await LatheCommands.KeepAsync(new(db, owner, lathe.Turn + 1), settings, lathe, lathe.Profile, null, false, Cancel)
        ).Refusal.ShouldBeOfType<Refusal.Outdated>();
        (
            await GaugeCommands.KeepAsync(new(db, owner), settings, null, settings.Gauges[0].Name, _ => { }, false, Cancel)
        ).Refusal.ShouldBeOfType<Refusal.Taken>();
        foreach (var other in settings.Lathes.Skip(1))
            other.RetiredAt ??= DateTimeOffset.UtcNow;
        (
            await LatheCommands.KeepAsync(new(db, owner, lathe.Turn), settings, lathe, lathe.Profile, null, retired: true, Cancel)
        ).Refusal.ShouldBeOfType<Refusal.LastInUse>();
        db.ChangeTracker.Entries().ShouldBeEmpty();
    }

    [GeneratedRegex(@"UN\d{3}")]
    private static partial Regex Code();
}
