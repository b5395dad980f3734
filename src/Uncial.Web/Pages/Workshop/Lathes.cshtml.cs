using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Mounting;
using Uncial.Core.Planning;
using Uncial.Data;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>What is typed about a lathe.</summary>
public sealed class LatheTyped
{
    public string? Name { get; set; }
    public LatheKind Kind { get; set; }
    public string? DialUnit { get; set; }
    public string? Division { get; set; }
    public string? DialAllowance { get; set; }
    public string? DivisionsPerTurn { get; set; }
    public bool CountsDiameter { get; set; }
    public bool Realigned { get; set; }
    public bool BarHasDial { get; set; }
    public string? BarDialUnit { get; set; }
    public string? BarDivision { get; set; }
    public string? BarAllowance { get; set; }
    public string? BarPerTurn { get; set; }
    public bool BarCountsDiameter { get; set; }
    public bool BarRealigned { get; set; }
    public string? NoseRadius { get; set; }
    public string? Feeds { get; set; }
    public bool FeedsByTime { get; set; }
    public string? RoughFeed { get; set; }
    public string? FinishFeed { get; set; }
    public string? Speeds { get; set; }
    public bool Stepless { get; set; }
    public string? Gears { get; set; }
    public string? Drive { get; set; }
    public string? Address { get; set; }
    public string? FastestSurface { get; set; }
    public string? Approach { get; set; }
    public bool CutsRotors { get; set; }
    public bool CutsDrums { get; set; }
    public string? Rotors { get; set; }
    public string? Drums { get; set; }
    public bool TwinCutter { get; set; }
    public bool OneChucking { get; set; }
    public string? RotorHead { get; set; }
    public string? DrumHead { get; set; }
    public string? ChangeOver { get; set; }
    public bool NutClockwise { get; set; }
    public string? Locks { get; set; }
    public string? RotorLever { get; set; }
    public string? DrumLever { get; set; }
    public string? RunInTurns { get; set; }
    public string? Overhang { get; set; }
    public string? CutterRoom { get; set; }
    public string? ArborDiameter { get; set; }
    public string? ArborRoom { get; set; }
    public string? ArborThread { get; set; }
    public string? ArborNut { get; set; }
    public string? Edges { get; set; }
    public string? EdgeMetres { get; set; }
    public bool Retired { get; set; }
}

/// <summary>A head of a lathe as the page shows it.</summary>
/// <param name="Part">What it cuts.</param>
/// <param name="Ledger">Its measured cuts.</param>
/// <param name="Confirmed">A measured cut has borne its dial out.</param>
public sealed record HeadShown(Core.Parts.PartKind Part, HeadLedger Ledger, bool Confirmed);

/// <summary>
/// The lathes of the shop: how true their set-ups have been, what their inserts have cut, and their profiles. The owner enters and
/// changes them.
/// </summary>
public class LathesModel(UncialDb db, ShopFile file, Reader reader, TimeProvider time) : PageModel
{
    [BindProperty(SupportsGet = true)]
    public int? Id { get; set; }

    [BindProperty(SupportsGet = true)]
    public bool Edit { get; set; }

    [BindProperty]
    public LatheTyped Typed { get; set; } = new();

    [BindProperty]
    public ToolHolder Holder { get; set; }

    [BindProperty]
    public InsertEventKind Did { get; set; }

    [BindProperty]
    public int Turn { get; set; }

    public Shop Shop { get; private set; } = null!;
    public IReadOnlyList<ShopLathe> Lathes => [.. Shop.Lathes.OrderBy(l => l.RetiredAt is not null).ThenBy(l => l.Id)];
    public ShopLathe? Chosen { get; private set; }
    public IReadOnlyList<InsertNow> Inserts { get; private set; } = [];
    public IReadOnlyList<SetUpPast> Past { get; private set; } = [];
    public IReadOnlyDictionary<ChatterRemedy, int> Helped { get; private set; } = new Dictionary<ChatterRemedy, int>();
    public decimal Overrun { get; private set; } = 1;
    public SwarfBin Bin { get; private set; }
    public DateTimeOffset? EmptiedAt { get; private set; }
    public IReadOnlyList<(RemountCause Cause, int Times)> Causes { get; private set; } = [];

    /// <summary>The adapters of the chosen lathe by how their set-ups came out, those that are up first.</summary>
    public IReadOnlyList<(string Centring, IReadOnlyList<SetUpPast> Past, SetUpHealth Health)> ByAdapter =>
        [
            .. Past.Where(p => p.LatheId == Chosen?.Id)
                .GroupBy(p => p.Centring)
                .Select(g => (g.Key, (IReadOnlyList<SetUpPast>)[.. g], HealthOf(g)))
                .OrderByDescending(a => a.Item3.IsUp)
                .ThenBy(a => a.Key, StringComparer.Ordinal),
        ];

    /// <summary>What the measured cuts say of each head of the chosen lathe.</summary>
    public List<HeadShown> Heads { get; } = [];

    public SetUpHealth HealthOf(IEnumerable<SetUpPast> past) =>
        SetUpHealth.Of([.. past.Select(p => p.SetUpRunout)], Shop.Rules.SetUpTolerance);

    public IReadOnlyList<SetUpPast> PastOf(ShopLathe lathe) => [.. Past.Where(p => p.LatheId == lathe.Id)];

    /// <summary>The adapters of a lathe that are up, in words.</summary>
    public IEnumerable<(string Centring, SetUpHealth Health)> UpOn(ShopLathe lathe) =>
        PastOf(lathe).GroupBy(p => p.Centring).Select(g => (g.Key, HealthOf(g))).Where(a => a.Item2.IsUp);

    public string? Wrong(string field) => ModelState.TryGetValue(field, out var state) ? state.Errors.FirstOrDefault()?.ErrorMessage : null;

    public async Task<IActionResult> OnGetAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        if (Edit && !reader.IsOwner)
            return Redirect("/lathes");
        if (Edit)
            Typed = TypedOf(
                Chosen?.Profile ?? Shop.New("").Lathes[0].Profile with { Name = "" },
                Chosen?.RetiredAt is not null,
                Chosen?.Address
            );
        return Page();
    }

    public async Task<IActionResult> OnPostEmptiedAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        db.BinsEmptied.Add(
            new()
            {
                Grams = Bin.Grams,
                At = time.GetUtcNow(),
                ById = reader.OperatorId,
            }
        );
        await db.SaveChangesAsync(cancel);
        return Redirect("/lathes");
    }

    public async Task<IActionResult> OnPostInsertAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        if (Chosen is not { } lathe || Inserts.FirstOrDefault(i => i.Holder == Holder) is not { } now)
            return NotFound();
        db.InsertEvents.Add(LatheCommands.RecordInsert(lathe, now, Did, new(reader.OperatorId, time.GetUtcNow())));
        await db.SaveChangesAsync(cancel);
        return Redirect("/lathes/" + lathe.Id);
    }

    public async Task<IActionResult> OnPostKeepAsync(CancellationToken cancel)
    {
        if (!reader.IsOwner)
            return Forbid();
        Edit = true;
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        var profile = ReadProfile();
        if (Turn != (Chosen?.Turn ?? 0))
            ModelState.AddModelError("Typed.Name", Words.Say("lathes.somebodyChangedItSinceLook"));
        if (Typed.Retired && Shop.Lathes.All(l => l.Id == Chosen?.Id || l.RetiredAt is not null))
            ModelState.AddModelError("Typed.Name", Words.Say("lathes.theShopKeepsOneLathe"));
        if (!ModelState.IsValid || profile is null)
            return Page();
        var lathe = Chosen;
        if (lathe is null)
            Shop.Lathes.Add(lathe = new() { ShopId = Shop.Id, Profile = profile });
        (lathe.Profile, lathe.Address) = (profile, string.IsNullOrWhiteSpace(Typed.Address) ? null : Typed.Address.Trim());
        lathe.RetiredAt = Typed.Retired ? lathe.RetiredAt ?? time.GetUtcNow() : null;
        lathe.Turn++;
        await db.SaveChangesAsync(cancel);
        return Redirect("/lathes/" + lathe.Id);
    }

    private async Task<IActionResult?> LoadAsync(CancellationToken cancel)
    {
        Shop = await file.ShopAsync(Request, cancel);
        (ViewData["Title"], ViewData["Sub"], ViewData["At"]) = ("Lathes", "", "lathes");
        Past = await LatheQueries.SetUpsAsync(db, null, cancel);
        if (Id is null)
        {
            (Bin, EmptiedAt) = await LatheQueries.BinAsync(db, Shop, cancel);
            return null;
        }
        Chosen = Shop.Lathes.Find(l => l.Id == Id);
        if (Chosen is null)
            return NotFound();
        Inserts = await LatheQueries.InsertsAsync(db, Chosen, cancel);
        Helped = await LatheQueries.HelpedAsync(db, Chosen.Id, cancel);
        Overrun = await LatheQueries.OverrunAsync(db, Chosen.Id, cancel);
        if (!Edit)
            foreach (var part in new[] { Core.Parts.PartKind.Rotor, Core.Parts.PartKind.Drum })
                if (Chosen.Profile.RangeOf(part) is not null)
                    Heads.Add(
                        new(
                            part,
                            await LatheQueries.LedgerAsync(db, Chosen, part, cancel),
                            await LatheQueries.DialIsConfirmedAsync(db, Chosen, part, cancel)
                        )
                    );
        Causes =
        [
            .. (await LatheQueries.CausesAsync(db, Chosen.Id, cancel))
                .CountBy(c => c)
                .OrderByDescending(c => c.Value)
                .Select(c => (c.Key, c.Value)),
        ];
        return null;
    }

    private static string N(decimal number) => number.ToString("0.######", CultureInfo.InvariantCulture);

    private LatheTyped TypedOf(Lathe l, bool retired, string? address)
    {
        string L(Length length) => N(length.In(reader.Unit));
        string R(DiameterRange range) => $"{L(range.Least)} to {L(range.Greatest)}";
        return new()
        {
            Name = l.Name,
            Kind = l.Kind,
            DialUnit = LengthText.Name(l.DialUnit),
            Division = L(l.Division),
            DialAllowance = L(l.DialAllowance),
            DivisionsPerTurn = N(l.DivisionsPerTurn),
            CountsDiameter = l.CountsDiameter,
            NoseRadius = L(l.NoseRadius),
            FeedsByTime = l.Feeds.Any(f => f.PerMinute is not null),
            Feeds = string.Join("  ", l.Feeds.Select(f => f.Number + ":" + L(f.PerMinute ?? f.PerTurn))),
            RoughFeed = l.RoughFeed,
            FinishFeed = l.FinishFeed,
            Speeds = l.Stepless ? $"{N(l.Speeds.Min())} to {N(l.Speeds.Max())}" : string.Join(" ", l.Speeds.Select(N)),
            Stepless = l.Stepless,
            Gears = l.Gears.Count == 0 ? null : string.Join(" ", l.Gears.Select(N)),
            Drive = l.Gears.Count == 0 ? null : $"{N(l.Drive.Least)} to {N(l.Drive.Greatest)}",
            Address = address,
            FastestSurface = N((decimal)l.FastestSurface),
            Approach = N(l.ApproachMinutes),
            CutsRotors = l.CutsRotors,
            CutsDrums = l.CutsDrums,
            Rotors = R(l.Rotors),
            Drums = R(l.Drums),
            TwinCutter = l.TwinCutter,
            OneChucking = l.BothFacesInOneChucking,
            RotorHead = l.RotorHead,
            DrumHead = l.DrumHead,
            ChangeOver = N(l.ChangeOverMinutes),
            NutClockwise = l.NutTightensClockwise,
            RotorLever = l.RotorLever,
            DrumLever = l.DrumLever,
            RunInTurns = N(l.RunInTurns),
            Overhang = L(l.OverhangMark),
            CutterRoom = L(l.CutterRoom),
            Locks = string.Join(
                ", ",
                l.Locks.Select(k =>
                    k.Name
                    + (k.TightForRotor, k.TightForDrum) switch
                    {
                        (true, true) => ": both",
                        (true, false) => ": rotor",
                        (false, true) => ": drum",
                        _ => ": free",
                    }
                )
            ),
            ArborDiameter = l.Arbor is { } a ? L(a.Diameter) : null,
            ArborRoom = l.Arbor is { } b ? L(b.Room) : null,
            ArborThread = l.Arbor is { } c ? L(c.Thread) : null,
            ArborNut = l.Arbor is { } d ? L(d.Nut) : null,
            Edges = N(l.EdgesPerInsert),
            EdgeMetres = N(l.EdgeMetres),
            Retired = retired,
            BarHasDial = l.BarDial is not null,
            BarDialUnit = LengthText.Name((l.BarDial ?? l.DialOf(Core.Parts.PartKind.Drum)).Unit),
            BarDivision = L(l.DialOf(Core.Parts.PartKind.Drum).Division),
            BarAllowance = L(l.DialOf(Core.Parts.PartKind.Drum).Allowance),
            BarPerTurn = N(l.DialOf(Core.Parts.PartKind.Drum).DivisionsPerTurn),
            BarCountsDiameter = l.DialOf(Core.Parts.PartKind.Drum).CountsDiameter,
        };
    }

    private Lathe? ReadProfile()
    {
        var (division, allowance, nose) = (
            Size("Division", Typed.Division, 5),
            Size("DialAllowance", Typed.DialAllowance, 5),
            Size("NoseRadius", Typed.NoseRadius, 5)
        );
        var (rotors, drums) = (Range("Rotors", Typed.Rotors), Range("Drums", Typed.Drums));
        var (feeds, speeds, locks) = (ReadFeeds(), ReadSpeeds(), ReadLocks());
        var (gears, drive) = ReadGears();
        if (!string.IsNullOrWhiteSpace(Typed.Address) && !GaugesModel.IsAddress(Typed.Address.Trim()))
            Bad("Address", "Host, colon, port; such as 192.168.1.20:5094.");
        foreach (var (field, feed) in new[] { ("RoughFeed", Typed.RoughFeed), ("FinishFeed", Typed.FinishFeed) })
            if (!feeds.Any(f => f.Number == feed?.Trim()))
                Bad(field, Words.Say("lathes.oneOfTheFeedNumbers"));
        var surface = Number("FastestSurface", Typed.FastestSurface, 1, 500);
        var (approach, change, turns) = (
            Number("Approach", Typed.Approach, 0, 60),
            Number("ChangeOver", Typed.ChangeOver, 0, 240),
            Number("RunInTurns", Typed.RunInTurns, 0, 50)
        );
        var (perTurn, edges, metres) = (
            Number("DivisionsPerTurn", Typed.DivisionsPerTurn, 10, 500),
            Number("Edges", Typed.Edges, 1, 16),
            Number("EdgeMetres", Typed.EdgeMetres, 1, 100_000)
        );
        var (overhang, room) = (Size("Overhang", Typed.Overhang, 1000), Size("CutterRoom", Typed.CutterRoom, 500));
        foreach (
            var (field, text) in new[]
            {
                ("Name", Typed.Name),
                ("RotorHead", Typed.RotorHead),
                ("DrumHead", Typed.DrumHead),
                ("RotorLever", Typed.RotorLever),
                ("DrumLever", Typed.DrumLever),
            }
        )
            if (string.IsNullOrWhiteSpace(text) || text.Trim().Length > 60)
                Bad(field, Words.Say("form.atMost", 60));
        if (Shop.Lathes.Any(l => l.Id != Chosen?.Id && l.Profile.Name == Typed.Name?.Trim()))
            Bad("Name", "Another lathe has that name.");
        if (!Typed.CutsRotors && !Typed.CutsDrums)
            Bad("Rotors", "It cuts rotors, drums, or both.");
        var now = time.GetUtcNow();
        var dial = new HeadDial(
            division,
            Typed.DialUnit == "in" ? LengthUnit.Inch : LengthUnit.Millimetre,
            Typed.CountsDiameter,
            allowance,
            (int)perTurn
        );
        var bar = Typed is { BarHasDial: true, CutsDrums: true }
            ? new HeadDial(
                Size("BarDivision", Typed.BarDivision, 5),
                Typed.BarDialUnit == "in" ? LengthUnit.Inch : LengthUnit.Millimetre,
                Typed.BarCountsDiameter,
                Size("BarAllowance", Typed.BarAllowance, 5),
                (int)Number("BarPerTurn", Typed.BarPerTurn, 10, 500)
            )
            : null;
        // Cuts that were measured with another dial, or before the head was realigned, say nothing of this one.
        DateTimeOffset? Since(HeadDial head, Core.Parts.PartKind part, bool realigned) =>
            Chosen?.Profile.DialOf(part) is not { } was ? null
            : realigned || !head.MovesAs(was.Division, was.CountsDiameter) ? now
            : was.Since;
        var (dialSince, barSince) = (
            Since(dial, Core.Parts.PartKind.Rotor, Typed.Realigned),
            Since(bar ?? dial, Core.Parts.PartKind.Drum, Typed.BarRealigned || (bar is null && Typed.Realigned))
        );
        // One dial for both, of which the drum's head alone was changed, is kept as two from here on.
        if (bar is null && barSince != dialSince)
            bar = dial;
        Arbor? arbor = null;
        if (Typed.Kind == LatheKind.Bench)
        {
            var a = new Arbor(
                Size("ArborDiameter", Typed.ArborDiameter, 200),
                Size("ArborRoom", Typed.ArborRoom, 1000),
                Size("ArborThread", Typed.ArborThread, 1000),
                Size("ArborNut", Typed.ArborNut, 200)
            );
            if (ModelState.IsValid && (a.Thread > a.Room || a.Nut > a.Thread))
                Bad("ArborThread", "The nut is on the thread, the thread on the arbor.");
            arbor = a;
        }
        return !ModelState.IsValid
            ? null
            : new()
            {
                Name = Typed.Name!.Trim(),
                Kind = Typed.Kind,
                DialUnit = Typed.DialUnit == "in" ? LengthUnit.Inch : LengthUnit.Millimetre,
                Division = division,
                DialAllowance = allowance,
                DivisionsPerTurn = (int)perTurn,
                CountsDiameter = Typed.CountsDiameter,
                NoseRadius = nose,
                Feeds = feeds,
                RoughFeed = Typed.RoughFeed!.Trim(),
                FinishFeed = Typed.FinishFeed!.Trim(),
                Speeds = speeds,
                Stepless = Typed.Stepless,
                Gears = gears,
                Drive = drive,
                FastestSurface = (double)surface,
                ApproachMinutes = approach,
                CutsRotors = Typed.CutsRotors,
                CutsDrums = Typed.CutsDrums,
                Rotors = rotors,
                Drums = drums,
                TwinCutter = Typed.TwinCutter && Typed.Kind != LatheKind.Grinder,
                BothFacesInOneChucking = Typed.OneChucking,
                RotorHead = Typed.RotorHead!.Trim(),
                DrumHead = Typed.DrumHead!.Trim(),
                ChangeOverMinutes = change,
                NutTightensClockwise = Typed.NutClockwise,
                Locks = locks,
                RotorLever = Typed.RotorLever!.Trim(),
                DrumLever = Typed.DrumLever!.Trim(),
                RunInTurns = turns,
                OverhangMark = overhang,
                CutterRoom = room,
                Arbor = arbor,
                EdgesPerInsert = (int)edges,
                EdgeMetres = metres,
                DialSince = dialSince,
                BarDial = bar is null ? null : bar with { Since = barSince },
            };
    }

    private void Bad(string field, string what) => ModelState.AddModelError("Typed." + field, what);

    private Length Size(string field, string? text, decimal most)
    {
        var result = LengthParser.Parse(text, reader.Unit);
        if (result.Fault is { } fault)
            Bad(field, Words.Of(fault, reader.Unit));
        else if (result.Typed!.Value.Millimetres > most)
            Bad(field, Words.Say("lathes.thatIsOver", reader.SizeWith(Length.FromMillimetres(most))));
        return result.Typed?.Value ?? Length.Zero;
    }

    private DiameterRange Range(string field, string? text)
    {
        if (
            (text ?? "").Split(" to ", StringSplitOptions.TrimEntries) is [var from, var to]
            && LengthParser.Parse(from, reader.Unit).Typed is { } least
            && LengthParser.Parse(to, reader.Unit).Typed is { } greatest
            && least.Value <= greatest.Value
        )
            return new(least.Value, greatest.Value);
        Bad(field, Words.Say("lathes.fromLeastToGreatestSuch"));
        return new(Length.Zero, Length.Zero);
    }

    private decimal Number(string field, string? text, decimal least, decimal most)
    {
        if (decimal.TryParse(text, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var n) && n >= least && n <= most)
            return n;
        Bad(field, Words.Say("lathes.aNumberFromTo", N(least), N(most)));
        return 0;
    }

    private List<Feed> ReadFeeds()
    {
        List<Feed> feeds = [];
        var most = Typed.FeedsByTime ? 500 : 5;
        foreach (var text in (Typed.Feeds ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries))
        {
            if (
                text.Split(':') is [{ Length: > 0 and <= 8 } number, var size]
                && LengthParser.Parse(size, reader.Unit).Typed is { } typed
                && typed.Value.Millimetres <= most
            )
                feeds.Add(Typed.FeedsByTime ? new(number, Length.Zero, typed.Value) : new(number, typed.Value));
            else
                Bad("Feeds", "Number, colon, feed; such as 1:0.06 3:0.25.");
        }
        if (feeds.Count == 0)
            Bad("Feeds", "At least one feed, such as 1:0.06.");
        return feeds;
    }

    private List<decimal> ReadSpeeds()
    {
        var speeds = (Typed.Speeds ?? "")
            .Split([' ', ','], StringSplitOptions.RemoveEmptyEntries)
            .Where(t => t != "to")
            .Select(t =>
                decimal.TryParse(t, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var n) && n is > 0 and <= 5000 ? n : 0
            )
            .ToList();
        if (speeds.Count == 0 || speeds.Contains(0) || (Typed.Stepless && speeds.Count != 2))
            Bad(
                "Speeds",
                Typed.Stepless ? "Slowest to fastest, such as 28 to 400." : "Turns a minute with a space between, such as 60 85 110."
            );
        return speeds;
    }

    private (List<decimal> Gears, DriveRange Drive) ReadGears()
    {
        if (string.IsNullOrWhiteSpace(Typed.Gears))
            return ([], new(0.4m, 1.2m));
        static decimal? Read(string text) =>
            decimal.TryParse(text, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var n) && n is > 0 and <= 5000
                ? n
                : null;
        var gears = Typed.Gears.Split([' ', ','], StringSplitOptions.RemoveEmptyEntries).Select(Read).ToList();
        if (gears.Contains(null))
            Bad("Gears", "Turns a minute of each gear, a space between, such as 70 140 330.");
        if (
            (Typed.Drive ?? "").Split(" to ", StringSplitOptions.TrimEntries) is [var from, var to]
            && Read(from) is { } least and <= 1
            && Read(to) is { } greatest and >= 1 and <= 3
        )
            return ([.. gears.OfType<decimal>()], new(least, greatest));
        Bad("Drive", "Slowest to fastest of the drive, such as 0.4 to 1.2.");
        return ([], new(0.4m, 1.2m));
    }

    private List<LatheLock> ReadLocks()
    {
        List<LatheLock> locks = [];
        foreach (var text in (Typed.Locks ?? "").Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries))
        {
            if (
                text.Split(':', StringSplitOptions.TrimEntries)
                is [{ Length: > 0 and <= 40 } name, "rotor" or "drum" or "both" or "free"] parts
            )
                locks.Add(new(name, parts[1] is "rotor" or "both", parts[1] is "drum" or "both"));
            else
                Bad("Locks", "Name, colon, when it is tight (rotor, drum, both or free), a comma between.");
        }
        return locks;
    }
}
