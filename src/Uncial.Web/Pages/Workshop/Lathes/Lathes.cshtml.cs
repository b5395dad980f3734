using System.Globalization;
using Microsoft.AspNetCore.Mvc;
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
    public LengthInput? Division { get; set; }
    public LengthInput? DialAllowance { get; set; }
    public string? DivisionsPerTurn { get; set; }
    public bool CountsDiameter { get; set; }
    public bool Realigned { get; set; }
    public bool BarHasDial { get; set; }
    public string? BarDialUnit { get; set; }
    public LengthInput? BarDivision { get; set; }
    public LengthInput? BarAllowance { get; set; }
    public string? BarPerTurn { get; set; }
    public bool BarCountsDiameter { get; set; }
    public bool BarRealigned { get; set; }
    public LengthInput? NoseRadius { get; set; }
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
    public LengthInput? Overhang { get; set; }
    public LengthInput? CutterRoom { get; set; }
    public LengthInput? ArborDiameter { get; set; }
    public LengthInput? ArborRoom { get; set; }
    public LengthInput? ArborThread { get; set; }
    public LengthInput? ArborNut { get; set; }
    public string? Edges { get; set; }
    public string? EdgeMetres { get; set; }
    public bool Retired { get; set; }
}

/// <summary>A head of a lathe as the page shows it.</summary>
/// <param name="Part">What it cuts.</param>
/// <param name="Ledger">Its measured cuts.</param>
/// <param name="Confirmed">A measured cut has verified its dial.</param>
public sealed record HeadShown(Core.Parts.PartKind Part, HeadLedger Ledger, bool Confirmed);

/// <summary>
/// The lathes of the shop: how true their set-ups have been, what their inserts have cut, and their profiles. The owner enters and
/// changes them.
/// </summary>
public partial class LathesModel(UncialDb db, ShopFile file, Reader reader, TimeProvider time) : FormPage(reader, time)
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
        SetUpHealth.Of([.. past.Select(p => p.SetUpRunout)], Shop.Rules.SetUp.SetUpTolerance);

    public IReadOnlyList<SetUpPast> PastOf(ShopLathe lathe) => [.. Past.Where(p => p.LatheId == lathe.Id)];

    /// <summary>The adapters of a lathe that are up, in words.</summary>
    public IEnumerable<(string Centring, SetUpHealth Health)> UpOn(ShopLathe lathe) =>
        PastOf(lathe).GroupBy(p => p.Centring).Select(g => (g.Key, HealthOf(g))).Where(a => a.Item2.IsUp);

    public async Task<IActionResult> OnGetAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        if (Edit && !Reader.IsOwner)
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
        await LatheCommands.EmptyBinAsync(new(db, Actor), Bin, cancel);
        return Redirect("/lathes");
    }

    public async Task<IActionResult> OnPostInsertAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        if (Chosen is not { } lathe || Inserts.FirstOrDefault(i => i.Holder == Holder) is not { } now)
            return NotFound();
        await LatheCommands.RecordInsertAsync(new(db, Actor), lathe, now, Did, cancel);
        return Redirect("/lathes/" + lathe.Id);
    }

    public async Task<IActionResult> OnPostKeepAsync(CancellationToken cancel)
    {
        if (!Reader.IsOwner)
            return Forbid();
        Edit = true;
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        var profile = ReadProfile();
        if (!ModelState.IsValid || profile is null)
            return Page();
        var kept = await LatheCommands.KeepAsync(new(db, Actor, Turn), Shop, Chosen, profile, Typed.Address, Typed.Retired, cancel);
        if (kept.Refusal is not { } refusal)
            return Redirect("/lathes/" + kept.Value.Id);
        // What was refused is not what the list shows.
        file.Forget();
        if (await LoadAsync(cancel) is { } gone)
            return gone;
        Reject("Typed.Name", Words.OfChange(refusal));
        return Page();
    }

    private async Task<IActionResult?> LoadAsync(CancellationToken cancel)
    {
        Shop = await file.ShopAsync(Request, cancel);
        (ViewData["Title"], ViewData["Sub"], ViewData["At"]) = (Words.Say("title.lathes"), "", "lathes");
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
        string L(Length length) => N(length.In(Reader.Unit));
        string R(DiameterRange range) => Words.Say("lathes.to2", L(range.Least), L(range.Greatest));
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
            Speeds = l.Stepless ? Words.Say("lathes.to2", N(l.Speeds.Min()), N(l.Speeds.Max())) : string.Join(" ", l.Speeds.Select(N)),
            Stepless = l.Stepless,
            Gears = l.Gears.Count == 0 ? null : string.Join(" ", l.Gears.Select(N)),
            Drive = l.Gears.Count == 0 ? null : Words.Say("lathes.to2", N(l.Drive.Least), N(l.Drive.Greatest)),
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
}
