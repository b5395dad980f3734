using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Uncial.Core.Gauges;
using Uncial.Core.Lengths;
using Uncial.Core.Times;
using Uncial.Data;
using Uncial.Web.Charts;
using Uncial.Web.Devices;
using Uncial.Web.Events;
using Uncial.Web.Hosting;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>What is typed about a gauge.</summary>
public sealed class GaugeTyped
{
    public string? Name { get; set; }
    public GaugeKind Kind { get; set; }
    public string? Unit { get; set; }
    public LengthInput? Resolution { get; set; }
    public LengthInput? Certificate { get; set; }
    public LengthInput? Permissible { get; set; }
    public string? NextCheck { get; set; }
    public LengthInput? Standard { get; set; }
    public LengthInput? StandardU { get; set; }
    public LengthInput? Tolerance { get; set; }
    public string? Starts { get; set; }
    public LengthInput? Reach { get; set; }
    public string? Address { get; set; }
    public bool Retired { get; set; }
}

/// <summary>How a gauge repeats in one hand, or in all.</summary>
/// <param name="Who">Whose hand; null for all together.</param>
/// <param name="Repeats">What the repeats on record say.</param>
/// <param name="Counts">It is what the reader's next reading goes by.</param>
/// <param name="Uncertainty">Uncertainty of one reading at a usual size.</param>
/// <param name="OfTwo">Doubt of the mean of two.</param>
/// <param name="Factor">Coverage factor, where few repeats are known.</param>
public sealed record GaugeStudy(string? Who, Repeatability Repeats, bool Counts, Length Uncertainty, Length OfTwo, decimal Factor);

/// <summary>
/// The gauges of the shop: what each is, how its zero stands, what it has put suspect. The owner enters and changes them.
/// </summary>
public class GaugesModel(UncialDb db, ShopFile file, Reader reader, News news, TimeProvider time) : FormPage(reader, time)
{
    private const int SuspectShown = 40;

    [BindProperty(SupportsGet = true)]
    public int? Id { get; set; }

    [BindProperty(SupportsGet = true)]
    public bool Edit { get; set; }

    [BindProperty]
    public GaugeTyped Typed { get; set; } = new();

    [BindProperty]
    public LengthInput? Shown { get; set; }

    [BindProperty]
    public string? Insisted { get; set; }

    [BindProperty]
    public int Turn { get; set; }

    public Shop Shop { get; private set; } = null!;
    public IReadOnlyList<Gauge> Gauges => [.. Shop.Gauges.OrderBy(g => g.RetiredAt is not null).ThenBy(g => g.Kind).ThenBy(g => g.Id)];
    public Gauge? Chosen { get; private set; }

    /// <summary>Parts with readings of the chosen gauge that are suspect.</summary>
    public IReadOnlyList<(string Tag, string Vehicle, int Readings, OutcomeKind? Outcome)> SuspectParts { get; private set; } = [];

    /// <summary>How the chosen gauge repeats in each hand, and in all: the one that counts for the reader is marked.</summary>
    public IReadOnlyList<GaugeStudy> Studies { get; private set; } = [];

    public IReadOnlyDictionary<int, int> SuspectCounts { get; private set; } = new Dictionary<int, int>();
    public string? Question { get; private set; }

    public LengthUnit UnitOf(Gauge? gauge) => gauge?.Unit ?? Reader.Unit;

    /// <summary>Host and port, as a device is listened to.</summary>
    /// <summary>An address that a device of the shop may have: an IPv4 address of this machine or of a private range, and a port.</summary>
    internal static bool IsAddress(string text) =>
        text.Split(':') is [var host, var port]
        && Uncial.Web.Devices.DeviceAddress.Allows(host)
        && ushort.TryParse(port, NumberStyles.None, CultureInfo.InvariantCulture, out var number)
        && number > 0;

    public async Task<IActionResult> OnGetAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        if (Edit && !Reader.IsOwner)
            return Redirect("/gauges");
        if (Edit && Chosen is { } gauge)
            Typed = TypedOf(gauge);
        return Page();
    }

    public async Task<IActionResult> OnPostZeroAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        if (Chosen is not { HasStandard: true } gauge)
            return NotFound();
        if (ReadLength(Shown, new(UnitOf(gauge), Required: true)) is not { } typed)
            return Page();
        ZeroCheck check = new(gauge.StandardSize!.Value, typed.Value, gauge.ZeroTolerance!.Value);
        if (check.IsOfAnotherStandard && Insisted != Shown?.Text)
        {
            (Question, Insisted) = (Words.Say("gauges.offItsStandard", Reader.With(check.Correction.Abs())), Shown?.Text);
            return Page();
        }
        await GaugeCommands.CheckAsync(db, gauge, typed, Actor, cancel);
        return Redirect("/gauges/" + gauge.Id);
    }

    public async Task<IActionResult> OnPostKeepAsync(CancellationToken cancel)
    {
        if (!Reader.IsOwner)
            return Forbid();
        Edit = true;
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        LengthUnit? unit = Typed.Unit switch
        {
            "mm" => LengthUnit.Millimetre,
            "in" => LengthUnit.Inch,
            _ => null,
        };
        var field = unit ?? Reader.Unit;
        if (string.IsNullOrWhiteSpace(Typed.Name) || Typed.Name.Trim().Length > 60)
            Reject("Typed.Name", Words.Say("gauges.giveItANameOf"));
        else if (Shop.Gauges.Any(g => g.Id != Chosen?.Id && g.Name == Typed.Name.Trim()))
            Reject("Typed.Name", Words.Say("gauges.anotherGaugeHasThatName"));
        LengthRule small = new(field, Most: Length.FromMillimetres(5)),
            large = new(field, Most: Length.FromMillimetres(2000));
        var resolution = ReadLength(Typed.Resolution, small with { Required = true })?.Value;
        var certificate = ReadLength(Typed.Certificate, small)?.Value;
        var permissible = ReadLength(Typed.Permissible, small)?.Value;
        var standard = ReadLength(Typed.Standard, large)?.Value;
        var standardU = ReadLength(Typed.StandardU, small)?.Value;
        var tolerance = ReadLength(Typed.Tolerance, small with { Required = standard is not null })?.Value;
        var next = ReadDay(Typed.NextCheck, DayLean.Ahead);
        var (starts, reach) = ReadBar(field);
        var address = string.IsNullOrWhiteSpace(Typed.Address) ? null : Typed.Address.Trim();
        if (address is not null && !IsAddress(address))
            Reject("Typed.Address", Words.Say("gauges.anAddressOfTheShops"));
        if (!ModelState.IsValid)
            return Page();
        void Set(Gauge gauge)
        {
            (gauge.Kind, gauge.Unit) = (Typed.Kind, Typed.Kind == GaugeKind.DrumGaugeEighths ? LengthUnit.Inch : unit);
            (gauge.Resolution, gauge.CertificateUncertainty, gauge.PermissibleError, gauge.NextCheck) = (
                resolution!.Value,
                certificate,
                permissible,
                next
            );
            (gauge.StandardSize, gauge.StandardUncertainty, gauge.ZeroTolerance) = (standard, standardU, tolerance);
            (gauge.StartsMm, gauge.Reach, gauge.Address) = ([.. starts.Select(s => s.Millimetres)], reach, address);
        }
        var version = Chosen is null ? 0 : Turn;
        var kept = await GaugeCommands.KeepAsync(new(db, Actor, version), Shop, Chosen, Typed.Name!.Trim(), Set, Typed.Retired, cancel);
        if (kept.Refusal is not { } refusal)
            return Redirect("/gauges/" + kept.Value.Id);
        // What was refused is not what the list shows.
        file.Forget();
        if (await LoadAsync(cancel) is { } gone)
            return gone;
        Reject("Typed.Name", refusal is Refusal.Taken ? Words.Say("gauges.anotherGaugeHasThatName") : Words.OfChange(refusal));
        return Page();
    }

    private async Task<IActionResult?> LoadAsync(CancellationToken cancel)
    {
        Shop = await file.ShopAsync(Request, cancel);
        (ViewData["Title"], ViewData["Sub"], ViewData["At"]) = (Words.Say("title.gauges"), "", "gauges");
        SuspectCounts = await db
            .ReadingFlags.Join(db.Readings, f => f.ReadingId, r => r.Id, (f, r) => r.GaugeId)
            .Where(g => g != null)
            .GroupBy(g => g!.Value)
            .ToDictionaryAsync(g => g.Key, g => g.Count(), cancel);
        if (Id is null)
            return null;
        Chosen = Shop.Gauges.Find(g => g.Id == Id);
        if (Chosen is null)
            return NotFound();
        var doubts = await (
            from f in db.ReadingFlags
            join r in db.Readings on f.ReadingId equals r.Id
            join s in db.Surfaces on r.SurfaceId equals s.Id
            join p in db.Parts on s.PartId equals p.Id
            join l in db.LogLines on p.Id equals l.PartId
            where r.GaugeId == Id
            group f by new
            {
                p.Tag,
                p.Job!.Vehicle,
                l.Outcome,
            } into part
            orderby part.Max(f => f.Id) descending
            select new
            {
                part.Key.Tag,
                part.Key.Vehicle,
                Count = part.Count(),
                part.Key.Outcome,
            }
        )
            .Take(SuspectShown)
            .ToListAsync(cancel);
        SuspectParts = [.. doubts.Select(d => (d.Tag, d.Vehicle, d.Count, d.Outcome))];
        if (!Edit && (Chosen.Kind.Reads(Core.Parts.PartKind.Rotor) || Chosen.Kind.Reads(Core.Parts.PartKind.Drum)))
            await StudyAsync(Chosen, cancel);
        return null;
    }

    private async Task StudyAsync(Gauge gauge, CancellationToken cancel)
    {
        var repeats = await GaugeQueries.RepeatsAsync(db, gauge.Id, cancel);
        if (repeats.Count == 0)
            return;
        var names = await db.Operators.Where(o => repeats.Keys.Contains(o.Id)).ToDictionaryAsync(o => o.Id, o => o.DisplayName, cancel);
        var (all, mine) = (GaugeQueries.PooledOf(repeats, 0), GaugeQueries.PooledOf(repeats, Reader.OperatorId));
        GaugeStudy Study(string? who, Repeatability r, bool counts)
        {
            var size = GaugeSizes.Usual(gauge.Kind);
            ReadingUncertainty Of(int n) => ReadingUncertainty.Of(gauge.Facts, size, n, Shop.Rules, gauge.HasStandard ? 1 : 0, r);
            var one = Of(1);
            var k = r.CoverageFactor(one.Expanded / 2, r.Deviation(Shop.Rules.Gauges.RepeatOf(gauge.Kind)));
            return new(who, r, counts, one.Expanded, Of(2).Expanded, k);
        }
        var own = mine != all || repeats.Count == 1 ? mine : default;
        Studies =
        [
            Study(null, all, own == default),
            .. repeats
                .OrderByDescending(r => r.Value.Degrees)
                .Select(r =>
                    Study(
                        names.GetValueOrDefault(r.Key, ""),
                        r.Value,
                        own != default && r.Key == Reader.OperatorId && r.Value.Degrees >= Repeatability.OwnDegrees
                    )
                ),
        ];
    }

    /// <summary>How a gauge that sends stands now, or null where nothing was heard of it yet.</summary>
    public GaugeNow? Live(Gauge gauge)
    {
        ArgumentNullException.ThrowIfNull(gauge);
        return gauge.Address is null ? null : news.Now(gauge.Id);
    }

    private GaugeTyped TypedOf(Gauge g)
    {
        var unit = UnitOf(g);
        string? Text(Length? length) => length?.In(unit).ToString("0.######", CultureInfo.InvariantCulture);
        return new()
        {
            Name = g.Name,
            Kind = g.Kind,
            Unit = g.Unit is { } u ? LengthText.Name(u) : "",
            Resolution = Text(g.Resolution),
            Certificate = Text(g.CertificateUncertainty),
            Permissible = Text(g.PermissibleError),
            NextCheck = g.NextCheck is { } next ? Dates.Day(next) : null,
            Standard = Text(g.StandardSize),
            StandardU = Text(g.StandardUncertainty),
            Tolerance = Text(g.ZeroTolerance),
            Starts =
                g.StartsMm.Length == 0 ? null
                : g.Kind == GaugeKind.DrumGaugeEighths ? string.Join(" to ", g.StartsMm.Select(s => Text(Length.FromMillimetres(s))))
                : BarText.Write([.. g.StartsMm.Select(Length.FromMillimetres)], unit),
            Reach = Text(g.Reach),
            Address = g.Address,
            Retired = g.RetiredAt is not null,
        };
    }

    private (IReadOnlyList<Length> Starts, Length? Reach) ReadBar(LengthUnit unit)
    {
        if (!Typed.Kind.HasBar())
            return ([], null);
        if (Typed.Kind == GaugeKind.DrumGaugeEighths)
            unit = LengthUnit.Inch;
        var reach = ReadLength(Typed.Reach, LengthRule.UpTo(100) with { Unit = unit })?.Value;
        var starts = BarText.Read(Typed.Starts, unit);
        if (Typed.Kind == GaugeKind.DrumGaugeEighths)
        {
            if (
                starts is [var least, .., var most]
                && least.Inches % 1 == 0
                && most.Inches % 1 == 0
                && least.Inches >= 1
                && most.Inches <= 78
            )
                return ([least, most], reach);
            Reject("Typed.Starts", Words.Say("gauges.leastAndGreatestWholeInch"));
        }
        else if (starts is null)
            Reject("Typed.Starts", Words.Say("gauges.theStationsWithASpace"));
        return (starts ?? [], reach);
    }
}
