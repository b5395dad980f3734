using Microsoft.EntityFrameworkCore;
using Npgsql;
using Uncial.Core.Gauges;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Release;
using Uncial.Data;

namespace Uncial.Data.Tests;

/// <summary>What a gauge does to the readings that it took: correction, doubt, repeats, and flags when it fails.</summary>
public class GaugeBookTests(EmptyShop shop) : IClassFixture<EmptyShop>
{
    private static readonly DateTimeOffset Morning = DateTimeOffset.UtcNow.AddHours(-6);

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static Length Mm(decimal mm) => Length.FromMillimetres(mm);

    private static TypedLength Typed(string text) => LengthParser.Parse(text, LengthUnit.Millimetre).Typed!;

    /// <summary>A shop of its own with a hand, a micrometer on a standard, and a part; read and looked at by the clock.</summary>
    private sealed class Desk(UncialDb db, Gauge gauge, Part part, int by)
    {
        public Gauge Gauge => gauge;
        public Part Part => part;

        public static async Task<Desk> OpenAsync(UncialDb db, PartKind kind)
        {
            var by = new Operator { UserName = "hand" + Guid.NewGuid().ToString("N")[..8], DisplayName = "A. Hand" };
            db.Operators.Add(by);
            await db.SaveChangesAsync(Cancel);
            var gauge = new Gauge
            {
                Name = "Gauge " + by.Id,
                Kind = kind == PartKind.Rotor ? GaugeKind.Micrometer : GaugeKind.DrumGauge,
                Resolution = Mm(0.001m),
                CertificateUncertainty = Mm(0.003m),
                StandardSize = kind == PartKind.Rotor ? Mm(25) : Mm(230),
                StandardUncertainty = Mm(0.001m),
                ZeroTolerance = Mm(0.004m),
            };
            (await db.ShopAsync(Cancel)).Gauges.Add(gauge);
            var surface = new WorkSurface { Kind = kind, Places = kind == PartKind.Rotor ? 8 : 4 };
            var part = new Part { Tag = Guid.NewGuid().ToString("N")[..8], Surfaces = { surface } };
            db.Jobs.Add(
                new()
                {
                    Number = 1000 + by.Id,
                    Vehicle = "Test",
                    ReceivedAt = Morning,
                    ReceivedById = by.Id,
                    Parts = { part },
                }
            );
            foreach (
                var (limit, text) in kind == PartKind.Rotor
                    ? new[] { (LimitKind.MachineTo, "23.4"), (LimitKind.Discard, "23") }
                    : [(LimitKind.MachineTo, "229.6"), (LimitKind.Discard, "230.1")]
            )
                ReceiveCommands.StateLimit(
                    surface,
                    limit,
                    Typed(text),
                    LengthUnit.Millimetre,
                    LimitSource.MakersSheet,
                    new(by.Id, Role.Operator, Morning)
                );
            await db.SaveChangesAsync(Cancel);
            return new(db, gauge, part, by.Id);
        }

        public async Task<SurfaceRecord> RecordAsync() => new(part.Surfaces[0], part, await db.ShopAsync(Cancel));

        public Actor At(double minutes) => new(by, Role.Operator, Morning.AddMinutes(minutes));

        public async Task<ReadingEntry> ReadAsync(double minutes, decimal degrees, string size, ReadingAside? aside = null)
        {
            var entry = MeasureCommands.RecordReading(
                await RecordAsync(),
                ReadingKind.Size,
                new(degrees, null),
                Typed(size),
                LengthUnit.Millimetre,
                gauge,
                At(minutes),
                aside
            );
            await db.SaveChangesAsync(Cancel);
            return entry;
        }

        public Task<ZeroCheckEntry> CheckAsync(double minutes, string shown) =>
            GaugeCommands.CheckAsync(db, gauge, Typed(shown), At(minutes), Cancel);

        public async Task ReadAllAsync(double minutes, string size)
        {
            foreach (var place in (await RecordAsync()).Measuring.Places)
                await ReadAsync(minutes, place.Degrees, size);
        }
    }

    [Fact]
    public async Task Repeats_at_a_place_are_averaged_and_all_on_record_tell_how_well_the_gauge_repeats()
    {
        await using var db = shop.Db();
        var desk = await Desk.OpenAsync(db, PartKind.Drum);
        foreach (var degrees in new[] { 0m, 45, 90, 135 })
            await desk.ReadAsync(1, degrees, "228.62");
        var usual = (await desk.RecordAsync()).Measuring.Uncertainty;
        (await GaugeQueries.RepeatsAsync(db, desk.Gauge.Id, Cancel)).ShouldBeEmpty();
        await desk.ReadAsync(2, 180, "228.63"); // turned end for end: the same spot
        var third = await desk.ReadAsync(3, 0, "228.625");
        var record = await desk.RecordAsync();
        // The mean of three is known better; the others, read once, are not, and the worst of them may be the one that counts.
        third.Uncertainty.ShouldBe(ReadingUncertainty.Of(desk.Gauge.Facts, Mm(228.625m), 3, record.Shop.Rules).Expanded);
        (record.Measuring.Uncertainty, third.Uncertainty < usual, record.Measuring.SizesAt(record.Measuring.Places[0]).Count).ShouldBe(
            (usual, true, 3)
        );
        record.Measuring.DrumFigures.Axes.ShouldBe(4);
        // s of 228.62, 228.63, 228.625 is 0.005, of two degrees of freedom.
        var told = (await GaugeQueries.RepeatsAsync(db, desk.Gauge.Id, Cancel)).ShouldHaveSingleItem().Value;
        (told.Own, told.Degrees).ShouldBe((Mm(0.005m), 2));
        await GaugeQueries.LoadRepeatsAsync(db, desk.Gauge, 1, Cancel);
        var fourth = await desk.ReadAsync(4, 45, "228.62");
        fourth.Uncertainty.ShouldBe(ReadingUncertainty.Of(desk.Gauge.Facts, Mm(228.62m), 2, record.Shop.Rules, pooled: told).Expanded);
        // One that was taken back is no repeat.
        MeasureCommands.Withdraw(await desk.RecordAsync(), third, "slipped", desk.At(5));
        await db.SaveChangesAsync(Cancel);
        (await GaugeQueries.RepeatsAsync(db, desk.Gauge.Id, Cancel)).Values.Single().Degrees.ShouldBe(2); // two pairs
        // Twenty of one's own count instead of everybody's.
        GaugeQueries
            .PooledOf(new Dictionary<int, Repeatability> { [1] = new(0.001m, 19), [2] = new(0.1m, 30) }, 1)
            .ShouldBe(new(0.101m, 49));
        GaugeQueries
            .PooledOf(new Dictionary<int, Repeatability> { [1] = new(0.001m, 20), [2] = new(0.1m, 30) }, 1)
            .ShouldBe(new(0.001m, 20));
    }

    [Fact]
    public async Task A_good_check_corrects_for_its_time_and_for_the_part_that_was_begun_with_it()
    {
        await using var db = shop.Db();
        var desk = await Desk.OpenAsync(db, PartKind.Rotor);
        desk.Gauge.ZeroIsDue(await desk.RecordAsync(), desk.At(0).At).ShouldBeTrue();
        (await desk.ReadAsync(0, 0, "24.313")).ShouldSatisfyAllConditions(
            r => r.Value.ShouldBe(Mm(24.313m)),
            r => r.ZeroCheckId.ShouldBeNull()
        );
        await desk.CheckAsync(1, "25.003");
        var corrected = await desk.ReadAsync(2, 45, "24.313");
        corrected.ShouldSatisfyAllConditions(r => r.Value.ShouldBe(Mm(24.310m)), r => r.Typed.ShouldBe("24.313"));
        (await desk.ReadAsync(50, 90, "24.313")).Correction.ShouldBe(Mm(-0.003m)); // begun with the check, gone on with it
        var other = await Desk.OpenAsync(db, PartKind.Rotor);
        var stranger = MeasureCommands.RecordReading(
            await other.RecordAsync(),
            ReadingKind.Size,
            new(0, null),
            Typed("24.313"),
            LengthUnit.Millimetre,
            desk.Gauge,
            desk.At(50)
        );
        stranger.Correction.ShouldBe(Length.Zero); // another part, long after
    }

    [Fact]
    public async Task A_failed_check_flags_what_was_read_since_the_last_good_one_and_what_still_comes_in_from_before()
    {
        await using var db = shop.Db();
        var desk = await Desk.OpenAsync(db, PartKind.Rotor);
        var early = await desk.ReadAsync(0, 0, "24.30");
        await desk.CheckAsync(5, "25.001");
        await desk.ReadAllAsync(10, "24.31");
        var record = await desk.RecordAsync();
        var request = record.Planning.Request(dialConfirmed: true);
        PlanCommands.TakePlan(record, request, PassPlanner.Plan(request).Options.First(o => o.CanStart), [], desk.At(15));
        await db.SaveChangesAsync(Cancel);
        (await desk.RecordAsync()).Station.ShouldBe(Station.Cut);
        var turn = await db.Surfaces.AsNoTracking().Where(s => s.Id == desk.Part.Surfaces[0].Id).Select(s => s.Turn).SingleAsync(Cancel);

        (await desk.CheckAsync(20, "24.990")).Passed.ShouldBeFalse();
        early.Flag.ShouldBeNull(); // before the good check
        desk.Part.Surfaces[0].Readings.Where(r => r != early).ShouldAllBe(r => r.Flag != null);
        (await db.Surfaces.AsNoTracking().Where(s => s.Id == desk.Part.Surfaces[0].Id).Select(s => s.Turn).SingleAsync(Cancel)).ShouldBe(
            turn + 1
        );
        // The plan rests on nothing: the part is measured again.
        (await desk.RecordAsync()).ShouldSatisfyAllConditions(
            r => r.Station.ShouldBe(Station.Measure),
            r => r.Planning.Latest.ShouldBeNull(),
            r => r.Measuring.Suspect.Count.ShouldBe(8),
            r => r.Measuring.Sizes.ShouldBe([early])
        );
        // Confirm and the certificate name what does not count.
        CertificateStore
            .Of(await desk.RecordAsync())
            .Suspect.Select(s => (s.Size, s.Gauge))
            .ShouldBe(Enumerable.Repeat((Mm(24.309m), (string?)desk.Gauge.Name), 8));

        // Typed before the failed check, come in after it was set right: as much suspect as the others.
        await desk.CheckAsync(30, "25.000");
        await db.Entry(desk.Part.Surfaces[0]).ReloadAsync(Cancel);
        async Task<bool> IsFlagged(ReadingEntry reading) => await db.ReadingFlags.AnyAsync(f => f.ReadingId == reading.Id, Cancel);
        (await IsFlagged(await desk.ReadAsync(31, 45, "24.31", new(TypedAt: desk.At(18).At)))).ShouldBeTrue();
        (await IsFlagged(await desk.ReadAsync(32, 45, "24.31"))).ShouldBeFalse();
    }

    [Fact]
    public async Task What_was_confirmed_on_suspect_readings_is_not_released_and_what_left_is_flagged_all_the_same()
    {
        await using var db = shop.Db();
        var desk = await Desk.OpenAsync(db, PartKind.Rotor);
        async Task<string?> Release(double minutes)
        {
            ReleaseCommands.Close(desk.Part, OutcomeKind.Released, null, false, desk.At(minutes));
            try
            {
                await db.SaveChangesAsync(Cancel);
                return null;
            }
            catch (DbUpdateException e)
            {
                db.Refused(desk.Part);
                return ((PostgresException)e.InnerException!).SqlState;
            }
        }
        async Task Confirm(double minutes)
        {
            ConfirmCommands
                .Confirm(await db.LookAtAsync(await desk.RecordAsync(), desk.At(minutes)), true, desk.At(minutes))
                .Decision.ShouldBe(Decision.Release);
            await db.SaveChangesAsync(Cancel);
        }
        await desk.CheckAsync(0, "25.000");
        await desk.ReadAllAsync(1, "24.30");
        var record = await desk.RecordAsync();
        PlanCommands.LeaveUncut(record, record.Planning.Request(true), scuffed: false, desk.At(2));
        await db.SaveChangesAsync(Cancel);
        await Confirm(3);
        await desk.CheckAsync(4, "25.010");
        await db.Entry(desk.Part.Surfaces[0]).ReloadAsync(Cancel);
        (await Release(5)).ShouldBe("UN005"); // no standing reading is left
        await desk.CheckAsync(6, "25.000");
        await desk.ReadAllAsync(7, "24.30");
        (await Release(8)).ShouldBe("UN006"); // read again, to be confirmed again
        record = await desk.RecordAsync();
        PlanCommands.LeaveUncut(record, record.Planning.Request(true), scuffed: false, desk.At(8));
        await db.SaveChangesAsync(Cancel);
        await Confirm(9);
        (await Release(10)).ShouldBeNull();
        // The gauge fails after the part has left: its history says so.
        await desk.CheckAsync(20, "25.010");
        desk.Part.Surfaces[0].Readings.Where(r => r.Kind == ReadingKind.Size).ShouldAllBe(r => r.Flag != null);
    }

    [Fact]
    public void Only_pictures_are_taken_for_pictures()
    {
        Photo.TypeOf([0xFF, 0xD8, 0xFF, 0xE0, 0]).ShouldBe("image/jpeg");
        Photo.TypeOf([0x89, (byte)'P', (byte)'N', (byte)'G', 13, 10, 26, 10, 0]).ShouldBe("image/png");
        Photo.TypeOf("RIFF0000WEBPVP8 "u8).ShouldBe("image/webp");
        foreach (var other in new[] { "", "<svg onload='x'/>", "GIF89a", "RIFF0000WAVEfmt ", "%PDF-1.7", "\u00FF\u00D8" })
            Photo.TypeOf(System.Text.Encoding.UTF8.GetBytes(other)).ShouldBeNull(other);
    }
}
