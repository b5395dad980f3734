using Microsoft.EntityFrameworkCore;
using Uncial.Core.Lengths;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Data;

namespace Uncial.Testing;

/// <summary>Parts of the tests' own, so that no test stands in another's way.</summary>
public static class TestParts
{
    private static int jobs = 900_000;

    /// <summary>
    /// A job number that no other test of this run has, far from those of the demo and with room behind it for jobs that pages number by
    /// themselves.
    /// </summary>
    public static int NextJob() => Interlocked.Add(ref jobs, 100);

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    public static readonly MountShape Shape = new()
    {
        Hole = Mm(72),
        Register = Mm(146),
        Depth = Mm(52),
        Web = Mm(8),
        Vented = true,
    };

    public static Length Mm(decimal mm) => Length.FromMillimetres(mm);

    public static async Task<int> PersonAsync(this UncialDb db, string user) =>
        (await db.Operators.SingleAsync(u => u.UserName == user, Cancel)).Id;

    /// <summary>Somebody has seen to eyes, guard and sleeves at a lathe today.</summary>
    public static async Task SeeToEyesAsync(this UncialDb db, Actor actor, int lathe = 1)
    {
        CutCommands.SeeToEyes(db, lathe, actor, DateOnly.FromDateTime(actor.At.UtcDateTime));
        await db.SaveChangesAsync(Cancel);
    }

    /// <summary>Forgets an end that the database refused.</summary>
    public static void Refused(this UncialDb db, Part part)
    {
        var refused = part.Outcome!;
        db.Entry(refused).State = EntityState.Detached;
        part.Outcomes.Remove(refused);
    }

    /// <summary>A lead's signature in the transaction of its decision, as the database writes it when a PIN was checked.</summary>
    public static async Task<long> SignAsync(
        this UncialDb db,
        int? part,
        SignedFor purpose,
        string subject,
        int by,
        string lead = "ines",
        string reason = "test"
    )
    {
        var who = await db.Operators.SingleAsync(o => o.UserName == lead, Cancel);
        var signature = new Signature
        {
            PartId = part,
            SignedFor = purpose,
            Subject = subject,
            Reason = reason,
            SignedById = who.Id,
            Role = who.Role,
            PinChecked = true,
            At = DateTimeOffset.UtcNow,
            ById = by,
        };
        db.Signatures.Add(signature);
        await db.SaveChangesAsync(Cancel);
        return signature.Id;
    }

    /// <summary>
    /// A part that is read, at so many places where a number is given, and waits to be mounted; on the other side of the axle of another
    /// one where that is named.
    /// </summary>
    public static async Task<string> ReadPartAsync(
        this RunningShop shop,
        PartKind kind = PartKind.Rotor,
        MountShape? shape = null,
        string? machineTo = null,
        bool withGauge = false,
        string? beside = null,
        int? readings = null
    )
    {
        await using var db = shop.Db();
        var actor = new Actor((await db.Operators.FirstAsync(Cancel)).Id, Role.Operator, DateTimeOffset.UtcNow);
        var rotor = kind == PartKind.Rotor;
        var surface = new WorkSurface
        {
            Kind = kind,
            Places = rotor ? 8 : 4,
            Diameter = rotor ? Mm(300) : Mm(254),
            Band = Mm(50),
        };
        foreach (
            var (limit, text) in new[] { LimitKind.Nominal, LimitKind.MachineTo, LimitKind.Discard }.Zip(
                rotor ? new[] { "26", machineTo ?? "23.4", "23" } : ["254", machineTo ?? "255.1", "255.5"]
            )
        )
            ReceiveCommands.StateLimit(surface, limit, Typed(text), LengthUnit.Millimetre, LimitSource.MakersSheet, actor);
        var part = new Part
        {
            Tag = Guid.NewGuid().ToString("N")[..8],
            Corner = beside is null ? Corner.FrontLeft : Corner.FrontRight,
            Shape = shape ?? Shape,
            Surfaces = { surface },
        };
        if (beside is not null)
            (await db.Jobs.SingleAsync(j => j.Parts.Any(p => p.Tag == beside), Cancel)).Parts.Add(part);
        else
            db.Jobs.Add(
                new()
                {
                    Number = NextJob(),
                    Vehicle = "Test " + part.Tag,
                    ReceivedAt = actor.At,
                    ReceivedById = actor.Id,
                    Parts = { part },
                }
            );
        await db.SaveChangesAsync(Cancel);
        var settings = await db.ShopAsync(Cancel);
        for (var i = 0; i < (readings ?? surface.Places); i++)
        {
            var record = new SurfaceRecord(surface, part, settings);
            MeasureCommands.RecordReading(
                record,
                ReadingKind.Size,
                record.Measuring.Places[i],
                Typed(rotor ? "24.3" + i % 3 : "254.3" + i),
                LengthUnit.Millimetre,
                withGauge ? settings.GaugeFor(kind) : null,
                actor
            );
        }
        await db.SaveChangesAsync(Cancel);
        return part.Tag;
    }

    /// <summary>The same with a plan taken.</summary>
    public static async Task<string> PlannedPartAsync(
        this RunningShop shop,
        string technique,
        PartKind kind = PartKind.Rotor,
        string? machineTo = null,
        string? runout = null
    )
    {
        var tag = await shop.ReadPartAsync(kind, machineTo: machineTo);
        await using var db = shop.Db();
        var record = await db.RecordAsync(tag);
        foreach (var face in runout is null ? Array.Empty<ReadingKind>() : [ReadingKind.RunoutOuter, ReadingKind.RunoutInner])
            MeasureCommands.RecordReading(
                record,
                face,
                null,
                Typed(runout!),
                LengthUnit.Millimetre,
                null,
                new(await db.PersonAsync("ines"), Role.Operator, DateTimeOffset.UtcNow)
            );
        await db.SaveChangesAsync(Cancel);
        record = new(record.Surface, record.Part, record.Shop);
        var request = record.Planning.Request(dialConfirmed: true);
        PlanCommands.TakePlan(
            record,
            request,
            PassPlanner.Plan(request).Options.Single(o => o.Key == technique),
            [],
            new(await db.PersonAsync("ines"), Role.Operator, DateTimeOffset.UtcNow)
        );
        await db.SaveChangesAsync(Cancel);
        return tag;
    }

    /// <summary>
    /// Says of every groove and low land that nobody has looked at yet that there is none, and reads the worst place again where that is
    /// asked.
    /// </summary>
    public static async Task<SurfaceRecord> LookAtAsync(this UncialDb db, SurfaceRecord record, Actor actor)
    {
        SurfaceRecord Now() => new(record.Surface, record.Part, record.Shop);
        foreach (var kind in Now().Confirming.NotLookedAt)
            MeasureCommands.RecordReading(Now(), kind, null, None, LengthUnit.Millimetre, Now().Shop.GaugeFor(kind), actor);
        await db.SaveChangesAsync(Cancel);
        if (Now().Confirming.Judge(readingsAreFit: true).Notes.Any(n => n is Core.Note.ReadTwice))
        {
            var worst = Now().Measuring.Sizes.MinBy(r => Core.Parts.Limits.Margin(Now().Kind, r.Value, Now().Receiving.Limits!.Discard))!;
            MeasureCommands.RecordReading(
                Now(),
                ReadingKind.Size,
                new(worst.Degrees ?? 0, worst.Station),
                Typed(worst.Typed),
                LengthUnit.Millimetre,
                Now().GaugeOf(worst),
                actor
            );
            await db.SaveChangesAsync(Cancel);
        }
        return Now();
    }

    public static TypedLength None => LengthParser.Parse("0", LengthUnit.Millimetre, allowZero: true).Typed!;

    public static async Task<SurfaceRecord> RecordAsync(this UncialDb db, string tag)
    {
        var part = (await db.Parts.Where(p => p.Tag == tag).WithFactsAsync(db, Cancel)).Single();
        return new(part.Surfaces[0], part, await db.ShopAsync(Cancel));
    }

    public static async Task<SurfaceRecord> RecordAsync(this RunningShop shop, string tag)
    {
        await using var db = shop.Db();
        return await db.RecordAsync(tag);
    }

    public static TypedLength Typed(string text) => LengthParser.Parse(text, LengthUnit.Millimetre).Typed!;
}
