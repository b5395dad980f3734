using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Uncial.Core.Gauges;
using Uncial.Core.Lengths;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Core.Planning;

namespace Uncial.Data.Demo;

/// <summary>
/// Tarn Quay Workshop, a co-operative garage on a windy island: three operators, ten jobs, parts at every station. All made up.
/// </summary>
public static class DemoShop
{
    /// <summary>The hands with their demo PINs, shown at sign-in while the demo data is loaded.</summary>
    public static IReadOnlyList<(string User, string Name, string Pin, string Role)> Hands { get; } =
    [
        ("ines", "Ines Varga", "2417", Roles.Lead),
        ("tom", "Tom Okoro", "1304", Roles.Operator),
        ("marit", "Marit Sund", "9051", Roles.Owner),
    ];

    /// <summary>
    /// Loads the demo data into an empty shop; does nothing where a job exists. With its past, twelve weeks of work lie behind today's.
    /// Needs
    /// the owner's login: signatures of the past are written, not asked for.
    /// </summary>
    public static async Task LoadAsync(UncialDb db, Shop shop, DateTimeOffset now, bool past)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(shop);
        if (await db.Jobs.AnyAsync())
            return;
        await using var transaction = await db.Database.BeginTransactionAsync();
        var ids = new List<int>();
        foreach (var (user, name, pin, role) in Hands)
        {
            var person = new Operator
            {
                UserName = user,
                DisplayName = name,
                Role = role,
                ExperiencedSince = role == Roles.Operator ? null : now.AddDays(-200),
            };
            db.Operators.Add(person);
            await db.SaveChangesAsync();
            await db.Database.ExecuteSqlAsync($"select write_pin({person.Id}, {pin})");
            ids.Add(person.Id);
        }
        shop.Name = "Tarn Quay Workshop";
        shop.HasDemoData = true;
        // What their own repeats came to.
        shop.Rules = shop.Rules with { Gauges = shop.Rules.Gauges with { DrumGaugeRepeat = Length.FromMillimetres(0.008m) } };
        db.Gauges.RemoveRange(shop.Gauges.ToList());
        db.Adapters.RemoveRange(shop.Board.ToList());
        await db.SaveChangesAsync();
        shop.Gauges.AddRange(DemoGauges.All(now));
        // One by one: their order is the order in which they are offered.
        var lathes = DemoLathes.All().ToList();
        (shop.Lathes[0].Profile, shop.Lathes[0].Address) = (lathes[0].Profile, lathes[0].Address);
        foreach (var lathe in lathes.Skip(1))
        {
            shop.Lathes.Add(lathe);
            await db.SaveChangesAsync();
        }
        foreach (var technique in DemoLathes.Techniques())
            shop.OwnTechniques.Add(technique);
        foreach (var adapter in DemoLathes.Board())
        {
            shop.Board.Add(adapter);
            await db.SaveChangesAsync();
        }
        foreach (var holder in shop.Lathes[0].Holders)
            db.InsertEvents.Add(
                LatheCommands.RecordInsert(
                    shop.Lathes[0],
                    new(holder, holder == ToolHolder.Bar ? 3 : 1, 0, false, false),
                    InsertEventKind.Turned,
                    new(ids[0], Role.Lead, now.AddDays(-9))
                )
            );
        await db.SaveChangesAsync();
        db.Book.AddRange(DemoBook.All(now.AddDays(-60), ids[0]));
        await db.SaveChangesAsync();
        if (past)
            await DemoPast.LoadAsync(db, shop, now, ids[0], ids[1]);
        await new DemoJobs(new DemoBench(db, shop, now), ines: ids[0], tom: ids[1]).LoadAsync();
        DemoHours.Set(db, shop, now, ids[2]);
        // The gauges that have a standard were good on it a moment ago.
        foreach (var gauge in shop.Gauges.Where(g => g.HasStandard))
        {
            var shown = gauge.StandardSize!.Value.Millimetres.ToString(CultureInfo.InvariantCulture);
            GaugeCommands.CheckZero(gauge, LengthParser.Parse(shown, LengthUnit.Millimetre).Typed!, [], new(ids[1], Role.Operator, now));
        }
        await db.SaveChangesAsync();
        await transaction.CommitAsync();
    }

    /// <summary>The demo gauges that send are played on the ports after that of the device simulators' page.</summary>
    public static async Task ListenToSimulatorsAsync(UncialDb db, int page)
    {
        ArgumentNullException.ThrowIfNull(db);
        var sending = await db
            .Gauges.Where(g => g.Address != null && g.Address.StartsWith("127.0.0.1:"))
            .OrderBy(g => g.Id)
            .Take(3)
            .ToListAsync();
        for (var i = 0; i < sending.Count; i++)
            sending[i].Address = string.Create(CultureInfo.InvariantCulture, $"127.0.0.1:{page + 1 + i}");
        foreach (var lathe in await db.Lathes.Where(l => l.Address != null && l.Address.StartsWith("127.0.0.1:")).Take(1).ToListAsync())
            lathe.Address = string.Create(CultureInfo.InvariantCulture, $"127.0.0.1:{page + 4}");
        await db.SaveChangesAsync();
    }
}

/// <summary>Works the demo parts through the same workflow as the pages do.</summary>
internal sealed class DemoBench(UncialDb db, Shop shop, DateTimeOffset now, string series = "TQ", int first = 0)
{
    private int tags = first;

    public int By { get; set; }

    /// <summary>Minutes before now at which the next fact is stated; each fact takes one.</summary>
    public int MinutesAgo { get; set; }

    private Actor Actor => new(By, Role.Operator, now.AddMinutes(-MinutesAgo--));

    public async Task<Job> JobAsync(int number, string vehicle, string customer, int odometer, double? promisedInHours)
    {
        var actor = Actor;
        var job = new Job
        {
            Number = number,
            Vehicle = vehicle,
            Customer = customer,
            OdometerKm = odometer,
            ReceivedAt = actor.At,
            ReceivedById = actor.Id,
            PromisedAt = promisedInHours is { } h ? QuarterHour(now.AddHours(h)) : null,
        };
        db.Jobs.Add(job);
        await db.SaveChangesAsync();
        return job;
    }

    public async Task<Part> RotorAsync(
        Job job,
        Corner corner,
        string? mark,
        decimal diameter,
        decimal band,
        LengthUnit unit,
        string? nominal,
        string? machineTo,
        string? discard
    )
    {
        var surface = new WorkSurface
        {
            Kind = PartKind.Rotor,
            Diameter = Mm(diameter),
            Band = Mm(band),
            Places = 8,
        };
        return await PartAsync(job, corner, mark, surface, unit, nominal, machineTo, discard);
    }

    /// <summary>A part that was here before comes again.</summary>
    public async Task<Part> AgainAsync(Job job, Part last)
    {
        var part = ReceiveCommands.TakeInAgain(last, shop, Actor);
        job.Parts.Add(part);
        await db.SaveChangesAsync();
        return part;
    }

    /// <summary>Plans by a technique, or by the first that can start; false where none can.</summary>
    public async Task<bool> PlanAnyAsync(Part part, string technique)
    {
        var record = Record(part);
        var request = record.Planning.Request(dialConfirmed: true);
        var options = PassPlanner.Plan(request).Options.Where(o => o.CanStart).ToList();
        if ((options.Find(o => o.Key == technique) ?? options.FirstOrDefault()) is not { } option)
            return false;
        PlanCommands.TakePlan(record, request, option, [], Actor);
        await db.SaveChangesAsync();
        return true;
    }

    /// <summary>A pass of the plan is to be made, and may be.</summary>
    public bool HasPassDue(Part part) =>
        Record(part) is { Planning.Document: { } plan } record
        && record.Planning.Passes.Count < plan.Option.Passes.Count
        && record.Cutting.StartRefusal is null;

    /// <summary>Size that the last cut should have left; null where nothing was cut.</summary>
    public Length? Expected(Part part) => Record(part) is { CutsDone: > 0 } record ? record.Cutting.Expected : null;

    public async Task<Part> DrumAsync(
        Job job,
        Corner corner,
        string? mark,
        decimal diameter,
        decimal band,
        LengthUnit unit,
        string? nominal,
        string? machineTo,
        string? discard,
        params decimal[] depths
    )
    {
        var surface = new WorkSurface
        {
            Kind = PartKind.Drum,
            Diameter = Mm(diameter),
            Band = Mm(band),
            Places = 4,
            DepthsMm = depths,
        };
        return await PartAsync(job, corner, mark, surface, unit, nominal, machineTo, discard);
    }

    public async Task HatDrumAsync(Part part, decimal diameter, decimal band, string nominal, string discard)
    {
        var surface = new WorkSurface
        {
            Kind = PartKind.Drum,
            InHat = true,
            Diameter = Mm(diameter),
            Band = Mm(band),
            Places = 4,
        };
        part.Surfaces.Add(surface);
        Limits(surface, part.Job!.Vehicle, part.Corner, LengthUnit.Millimetre, nominal, null, discard);
        await db.SaveChangesAsync();
    }

    public async Task ReadAsync(Part part, LengthUnit unit, params string[] sizes)
    {
        for (var i = 0; i < sizes.Length; i++)
        {
            var record = Record(part);
            var gauge =
                record.Kind == PartKind.Drum && unit == LengthUnit.Inch
                    ? shop.Gauges.Single(g => g.Kind == GaugeKind.DrumGaugeEighths)
                    : shop.GaugeFor(record.Kind);
            MeasureCommands.RecordReading(record, ReadingKind.Size, record.Measuring.Places[i], Typed(sizes[i], unit), unit, gauge, Actor);
        }
        await db.SaveChangesAsync();
    }

    public async Task FigureAsync(Part part, ReadingKind kind, string value)
    {
        MeasureCommands.RecordReading(
            Record(part),
            kind,
            null,
            Typed(value, LengthUnit.Millimetre),
            LengthUnit.Millimetre,
            shop.GaugeFor(kind),
            Actor
        );
        await db.SaveChangesAsync();
    }

    /// <summary>
    /// Puts the part on the lathe and checks the set-up with an indicator, half a turn apart; goes on where a reason is given or it is
    /// true.
    /// </summary>
    public async Task MountAsync(
        Part part,
        (string Runout, int At) first,
        (string Runout, int At) second,
        string? reason = null,
        RemountCause? found = null,
        bool goesOn = true
    )
    {
        var record = Record(part);
        var plan = MountingPlan.For(record.Kind, record.Surface.Diameter, part.Shape!, record.Lathe.Profile, shop.AdaptersInUse);
        if (plan.Ways.Count == 0)
            throw new InvalidOperationException(
                $"The demo part {part.Tag} cannot be mounted: {plan.Misfits.Select(m => m.Code).Concat(plan.Missing).First()}."
            );
        MountCommands.Mount(record, record.Lathe, plan.Ways[0], damped: true, found, Actor);
        await db.SaveChangesAsync();
        RunoutMark Mark((string Runout, int At) seen) =>
            RunoutMark.Indicated(ClockAngle.FromDegrees(seen.At), Typed(seen.Runout, LengthUnit.Millimetre).Value);
        MountCommands.CheckSetUp(Record(part), new(SetUpManner.Indicator, 180, Mark(first), Mark(second)), Actor);
        await db.SaveChangesAsync();
        if (!goesOn)
            return;
        MountCommands.GoOn(Record(part), reason, Actor);
        await db.SaveChangesAsync();
    }

    public async Task PlanAsync(Part part, string technique)
    {
        var record = Record(part);
        var request = record.Planning.Request(dialConfirmed: true);
        var option = PassPlanner.Plan(request).Options.First(o => o.Key == technique);
        if (!option.CanStart)
            throw new InvalidOperationException($"The demo part {part.Tag} cannot be cut by {technique}.");
        PlanCommands.TakePlan(record, request, option, [], Actor);
        await db.SaveChangesAsync();
    }

    public async Task LeaveUncutAsync(Part part)
    {
        var record = Record(part);
        PlanCommands.LeaveUncut(record, record.Planning.Request(dialConfirmed: true), scuffed: false, Actor);
        await db.SaveChangesAsync();
    }

    public async Task CutAsync(Part part, int darkOuter = 0, int darkInner = 0)
    {
        var clean = darkOuter == 0 && darkInner == 0;
        var record = Record(part);
        var (lathe, by, at) = (record.Lathe.Id, Actor.Id, Actor.At);
        if (!await db.EyeChecks.AnyAsync(c => c.LatheId == lathe && c.ById == by && c.At <= at && c.At > at.AddHours(-24)))
        {
            CutCommands.SeeToEyes(db, lathe, Actor, DateOnly.FromDateTime(at.UtcDateTime));
            await db.SaveChangesAsync();
        }
        CutCommands.StartPass(record, 1, Actor, record.Cutting.NeededChecks);
        await db.SaveChangesAsync();
        // It takes a tenth more than planned, as passes there do.
        var start = Record(part).Cutting.Start!;
        MinutesAgo -= (int)Math.Ceiling(start.PlannedMinutes * 1.1m);
        CutCommands.StopPass(
            Record(part),
            CutStopKind.Done,
            null,
            new(By, Role.Operator, start.At.AddMinutes((double)start.PlannedMinutes * 1.1))
        );
        await db.SaveChangesAsync();
        CutCommands.RecordPass(
            Record(part),
            new(darkOuter, darkInner, clean ? Length.Zero : null, clean ? Length.Zero : null, null, null),
            Actor
        );
        await db.SaveChangesAsync();
        if (!Record(part).Cutting.FinishIsDue)
            return;
        CutCommands.Finish(Record(part), [.. Record(part).Cutting.FinishSteps.Select(s => s.Kind)], null, Actor);
        await db.SaveChangesAsync();
    }

    public async Task<Core.Release.Decision> ConfirmAsync(Part part, string? reason = null)
    {
        foreach (var kind in Record(part).Confirming.NotLookedAt)
            await FigureAsync(part, kind, "0");
        // Near a limit the worst place is read twice.
        if (Record(part).Confirming.Judge(readingsAreFit: true).Notes.FirstOrDefault(n => n is Core.Note.ReadTwice) is { } twice)
        {
            var record = Record(part);
            var first = record.Measuring.Sizes.First(r =>
                (r.Degrees ?? 0) % (record.Kind == PartKind.Drum ? 180 : 360) == twice.Degrees
                && r.Station == (record.Kind == PartKind.Rotor ? r.Station : twice.Second)
                && r.Value == twice.Length
            );
            MeasureCommands.RecordReading(
                record,
                ReadingKind.Size,
                new(first.Degrees ?? 0, first.Station),
                Typed(first.Typed, first.Unit),
                first.Unit,
                record.GaugeOf(first),
                Actor
            );
            await db.SaveChangesAsync();
        }
        var judgement = ConfirmCommands.Confirm(Record(part), readingsAreFit: true, Actor, reason);
        await db.SaveChangesAsync();
        return judgement.Decision;
    }

    public async Task CloseAsync(Part part, OutcomeKind kind, string? reason = null, bool betweenLimits = false, OutcomeAside? aside = null)
    {
        var actor = Actor;
        var signature = betweenLimits ? await SignAsync(part, reason!, actor) : (long?)null;
        ReleaseCommands.Close(part, kind, reason, betweenLimits, actor, (aside ?? new()) with { SignatureId = signature });
        await db.SaveChangesAsync();
    }

    /// <summary>A lead's signature for a release between the limits.</summary>
    private async Task<long> SignAsync(Part part, string reason, Actor actor)
    {
        var lead = await db.Operators.FirstAsync(o => o.Role == Roles.Lead);
        var signature = new Signature
        {
            PartId = part.Id,
            SignedFor = SignedFor.BetweenLimits,
            Subject = Signature.OfConfirmations(part.Surfaces.Select(s => s.Confirmations.Newest()!.Id)),
            Reason = reason,
            SignedById = lead.Id,
            Role = lead.Role,
            PinChecked = true,
            At = actor.At,
            ById = actor.Id,
        };
        db.Signatures.Add(signature);
        await db.SaveChangesAsync();
        return signature.Id;
    }

    private async Task<Part> PartAsync(
        Job job,
        Corner corner,
        string? mark,
        WorkSurface surface,
        LengthUnit unit,
        string? nominal,
        string? machineTo,
        string? discard
    )
    {
        // Short and legible through grease: no 0, O, 1, I or L.
        var part = new Part
        {
            Tag = series + (char)('A' + tags / 7) + (char)('2' + tags % 7) + (char)('P' + tags % 5),
            Corner = corner,
            Mark = mark,
            Shape = DemoLathes.ShapeOf(job.Vehicle, surface.Kind),
            Surfaces = { surface },
        };
        tags++;
        job.Parts.Add(part);
        Limits(surface, job.Vehicle, corner, unit, nominal, machineTo, discard);
        await db.SaveChangesAsync();
        return part;
    }

    /// <summary>
    /// What the book says of the vehicle is of the book, anything else of the maker's sheet; discard is cast in the part.
    /// </summary>
    private void Limits(
        WorkSurface surface,
        string vehicle,
        Corner corner,
        LengthUnit unit,
        string? nominal,
        string? machineTo,
        string? discard
    )
    {
        var axle = corner is Corner.FrontLeft or Corner.FrontRight ? Axle.Front : Axle.Rear;
        var entry = db.Book.Local.FirstOrDefault(b =>
            b.Kind == surface.Kind
            && b.InHat == surface.InHat
            && b.Axle is var a
            && (a == axle || a == Axle.Any)
            && (
                vehicle == b.Vehicle
                || vehicle.StartsWith(b.Vehicle + " ", StringComparison.Ordinal)
                || vehicle.StartsWith(b.Vehicle + ",", StringComparison.Ordinal)
            )
        );
        void Add(LimitKind kind, string? text, LimitSource source, Length? inBook)
        {
            if (text is null)
                return;
            var (typed, ofBook) = (Typed(text, unit), source == LimitSource.LimitBook);
            if (ofBook && inBook == typed.Value)
                ReceiveCommands.StateLimit(surface, kind, typed, unit, source, Actor, entry!.Id);
            else
                ReceiveCommands.StateLimit(surface, kind, typed, unit, ofBook ? LimitSource.MakersSheet : source, Actor);
        }
        Add(LimitKind.Nominal, nominal, LimitSource.LimitBook, entry?.Nominal);
        Add(LimitKind.MachineTo, machineTo, LimitSource.LimitBook, entry?.MachineTo);
        Add(LimitKind.Discard, discard, LimitSource.CastMarking, null);
    }

    private SurfaceRecord Record(Part part) => new(part.Surfaces[0], part, shop);

    private static TypedLength Typed(string text, LengthUnit unit) =>
        LengthParser.Parse(text, unit, allowZero: true).Typed
        ?? throw new InvalidOperationException($"The demo data holds a bad length: {text}");

    private static Length Mm(decimal millimetres) => Length.FromMillimetres(millimetres);

    private static DateTimeOffset QuarterHour(DateTimeOffset at) => new(at.Ticks - at.Ticks % TimeSpan.FromMinutes(15).Ticks, at.Offset);
}
