using System.Globalization;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using Uncial.Core.Lengths;
using Uncial.Data;
using Uncial.Web.Accounts;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>The shop's own settings. Only the owner changes them; rules that derive a laxer limit take a signature.</summary>
[Authorize(Roles = Roles.Owner)]
public class SettingsModel(UncialDb db, ShopFile file, Reader reader, LeadSignature signature, TimeProvider time) : PageModel
{
    /// <summary>Version of the program.</summary>
    public static string Version { get; } = typeof(SettingsModel).Assembly.GetName().Version!.ToString(3);

    /// <summary>
    /// A length among the settings: its name on the form, its label, how it is read from the shop and whether it may be nothing.
    /// </summary>
    public sealed record Setting(string Name, string Label, Func<Shop, Length> Of, bool AllowZero = false);

    public static IReadOnlyList<Setting> RuleSettings { get; } =
    [
        new("RotorMachineTo", "Rotor: machine-to above discard", s => s.Rules.RotorMachineToAboveDiscard, true),
        new("DrumMachineTo", "Drum: machine-to below discard", s => s.Rules.DrumMachineToBelowDiscard, true),
        new("DrumFloor", "Drum: not started under", s => s.Rules.DrumFloor, true),
        new("UnlikeNeighbours", "Ask about a reading off its neighbours by", s => s.Rules.UnlikeNeighbours, true),
        new("AssumedRunout", "Run-out assumed, if not measured", s => s.Rules.AssumedRunout, true),
        new("SetUpTolerance", "Set-up is true up to", s => s.Rules.SetUpTolerance),
        new("SecondChucking", "Turned round: second face runs out", s => s.Rules.SecondChuckingRunout, true),
        new("DepthUncertainty", "Depth of a groove: give or take", s => s.Rules.DepthUncertainty, true),
        new("RepeatedDepth", "The same, measured three times", s => s.Rules.RepeatedDepthUncertainty, true),
        new("LookAgain", "None by eye: measure it within", s => s.Rules.LookAgainWithin, true),
        new("UnseenLobesFull", "Between 8 places: allow at least", s => s.Rules.UnseenLobesFullRound, true),
        new("UnseenLobes", "Between 3 to 7: allow at least", s => s.Rules.UnseenLobes, true),
        new("Parallelism", "Turned bright: not parallel by", s => s.Rules.UnknownParallelism, true),
        new("SecondReading", "Worst place read twice within", s => s.Rules.SecondReadingWithin, true),
        new("UnknownRelief", "Low land assumed, a face", s => s.Rules.UnknownRelief, true),
        new("MicrometerRepeat", "Micrometer repeats within, one sigma", s => s.Rules.MicrometerRepeat, true),
        new("CaliperRepeat", "Caliper repeats within, one sigma", s => s.Rules.CaliperRepeat, true),
        new("DrumGaugeRepeat", "Drum gauge repeats within, one sigma", s => s.Rules.DrumGaugeRepeat, true),
        new("HeaviestPass", "Heaviest pass, a side", s => s.Rules.HeaviestPass),
        new("RubbingDepth", "A bit rubs under", s => s.Rules.RubbingDepth, true),
        new("AxleDifference", "Left and right may differ by", s => s.Rules.GreatestAxleDifference, true),
        new("Variation", "Finished rotor may vary by", s => s.Rules.GreatestVariation),
        new("Runout", "Finished face may run out by", s => s.Rules.GreatestRunout),
        new("OutOfRound", "Finished drum: out of round up to", s => s.Rules.GreatestOutOfRound),
        new("Taper", "Finished: taper up to", s => s.Rules.GreatestTaper),
    ];

    [BindProperty]
    public Dictionary<string, string?> Lengths { get; set; } = [];

    [BindProperty]
    public bool AcceptHalfRound { get; set; }

    [BindProperty]
    public string? DefaultTechnique { get; set; }

    [BindProperty]
    public bool LeadMayRelease { get; set; }

    [BindProperty]
    public string? UnreadShare { get; set; }

    [BindProperty]
    public string? ZeroCheckHolds { get; set; }

    [BindProperty]
    public string? SwarfBin { get; set; }

    [BindProperty]
    public int Turn { get; set; }

    [BindProperty]
    public string? Reason { get; set; }

    [BindProperty]
    public int? Lead { get; set; }

    [BindProperty]
    public string? LeadPin { get; set; }

    public Shop Shop { get; private set; } = null!;

    /// <summary>Those who may sign, where the rules that were typed derive a laxer limit; null where nobody has to.</summary>
    public IReadOnlyList<Operator>? Leads { get; private set; }

    public LeadFields LeadFields => new(Leads ?? [], Lead, Wrong(LeadSignature.WhoField), Wrong(LeadSignature.PinField));

    /// <summary>The newest changes of the rules.</summary>
    public IReadOnlyList<RuleChange> Changes { get; private set; } = [];

    public bool Kept { get; private set; }

    public string? Wrong(string field) => ModelState.TryGetValue(field, out var state) ? state.Errors.FirstOrDefault()?.ErrorMessage : null;

    /// <summary>What stands in a field: as typed, or as on record with every digit that it has.</summary>
    public string Value(Setting setting)
    {
        ArgumentNullException.ThrowIfNull(setting);
        return Lengths.GetValueOrDefault(setting.Name)
            ?? setting.Of(Shop).In(reader.Unit).ToString("0.######", CultureInfo.InvariantCulture);
    }

    public async Task OnGetAsync(bool kept, CancellationToken cancel)
    {
        await LoadAsync(cancel);
        Kept = kept;
        (DefaultTechnique, LeadMayRelease, AcceptHalfRound) = (
            Shop.DefaultTechnique,
            Shop.Rules.LeadMayReleaseBetweenLimits,
            Shop.Rules.AcceptHalfRoundScratch
        );
        ZeroCheckHolds = Shop.Rules.ZeroCheckHoldsMinutes.ToString(CultureInfo.InvariantCulture);
        SwarfBin = Shop.Rules.SwarfBinKilograms.ToString("0.##", CultureInfo.InvariantCulture);
        UnreadShare = Shop.Rules.UnreadShareOfVariation.ToString("0.##", CultureInfo.InvariantCulture);
    }

    public async Task<IActionResult> OnPostAsync(CancellationToken cancel)
    {
        await LoadAsync(cancel);
        var l = RuleSettings.ToDictionary(s => s.Name, ReadSetting);
        if (Shop.Techniques.All(t => t.Key != DefaultTechnique))
            ModelState.AddModelError(nameof(DefaultTechnique), "One of the ways to work.");
        if (
            !decimal.TryParse(UnreadShare, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var unread)
            || unread is < 1 or > 12
        )
            ModelState.AddModelError(nameof(UnreadShare), "A number from 1 to 12; 6 is usual, less is stricter.");
        if (!int.TryParse(ZeroCheckHolds, NumberStyles.None, CultureInfo.InvariantCulture, out var holds) || holds > 720)
            ModelState.AddModelError(nameof(ZeroCheckHolds), "Whole minutes, 0 to 720; 0 asks at every part.");
        if (!decimal.TryParse(SwarfBin, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var bin) || bin is < 1 or > 5000)
            ModelState.AddModelError(nameof(SwarfBin), "Kilograms, 1 to 5000.");
        if (Turn != Shop.Turn)
            ModelState.AddModelError(nameof(DefaultTechnique), "Somebody changed the settings since; look again.");
        if (!ModelState.IsValid)
            return Page();

        var rules = Shop.Rules with
        {
            RotorMachineToAboveDiscard = l["RotorMachineTo"],
            DrumMachineToBelowDiscard = l["DrumMachineTo"],
            DrumFloor = l["DrumFloor"],
            UnlikeNeighbours = l["UnlikeNeighbours"],
            AssumedRunout = l["AssumedRunout"],
            DepthUncertainty = l["DepthUncertainty"],
            RepeatedDepthUncertainty = l["RepeatedDepth"],
            LookAgainWithin = l["LookAgain"],
            UnseenLobesFullRound = l["UnseenLobesFull"],
            UnseenLobes = l["UnseenLobes"],
            UnknownParallelism = l["Parallelism"],
            SecondReadingWithin = l["SecondReading"],
            UnknownRelief = l["UnknownRelief"],
            MicrometerRepeat = l["MicrometerRepeat"],
            CaliperRepeat = l["CaliperRepeat"],
            DrumGaugeRepeat = l["DrumGaugeRepeat"],
            ZeroCheckHoldsMinutes = holds,
            HeaviestPass = l["HeaviestPass"],
            RubbingDepth = l["RubbingDepth"],
            SwarfBinKilograms = bin,
            GreatestAxleDifference = l["AxleDifference"],
            GreatestVariation = l["Variation"],
            GreatestRunout = l["Runout"],
            GreatestOutOfRound = l["OutOfRound"],
            GreatestTaper = l["Taper"],
            UnreadShareOfVariation = unread,
            LeadMayReleaseBetweenLimits = LeadMayRelease,
            SetUpTolerance = l["SetUpTolerance"],
            SecondChuckingRunout = l["SecondChucking"],
            AcceptHalfRoundScratch = AcceptHalfRound,
        };
        LeadSigned? signed = null;
        if (rules.DerivesLaxerThan(Shop.Rules))
        {
            Leads = await signature.LeadsAsync(cancel);
            if (string.IsNullOrWhiteSpace(Reason))
                ModelState.AddModelError(nameof(Reason), "Say why machine-to may be laxer from now on.");
            else if (Reason.Length > 300)
                ModelState.AddModelError(nameof(Reason), "At most 300 letters.");
            if (
                !ModelState.IsValid
                || (
                    signed = await signature.SignAsync(
                        Lead,
                        LeadPin,
                        null,
                        SignedFor.LaxerRules,
                        Signature.OfRules(Shop.RulesId),
                        Reason!,
                        ModelState,
                        cancel
                    )
                )
                    is null
            )
                return Page();
        }
        await using var transaction = signed?.Transaction ?? await db.Database.BeginTransactionAsync(cancel);
        // The database puts the rules in force by this row.
        if (rules != Shop.Rules)
            db.RuleChanges.Add(
                new()
                {
                    After = rules,
                    Reason = signed is null ? null : Reason!.Trim(),
                    SignatureId = signed?.Id,
                    At = time.GetUtcNow(),
                    ById = reader.OperatorId,
                }
            );
        Shop.DefaultTechnique = DefaultTechnique!;
        Shop.Turn++;
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateConcurrencyException)
        {
            ModelState.AddModelError(nameof(DefaultTechnique), "Somebody changed the settings since; look again.");
            return Page();
        }
        await transaction.CommitAsync(cancel);
        return Redirect("/shop?kept=true");
    }

    private async Task LoadAsync(CancellationToken cancel)
    {
        Shop = await file.ShopAsync(Request, cancel);
        Changes = await db
            .RuleChanges.AsNoTracking()
            .Include(c => c.By)
            .Include(c => c.Signature!.SignedBy)
            .OrderByDescending(c => c.Id)
            .Take(6)
            .ToListAsync(cancel);
        (ViewData["Title"], ViewData["Sub"], ViewData["At"]) = ("Shop", Shop.Name, "shop");
    }

    private Length ReadSetting(Setting setting)
    {
        var result = LengthParser.Parse(Lengths.GetValueOrDefault(setting.Name), reader.Unit, setting.AllowZero);
        if (result.Fault is { } fault)
            ModelState.AddModelError($"Lengths[{setting.Name}]", Words.Of(fault, reader.Unit));
        else if (result.Typed!.Value.Millimetres > 5)
            ModelState.AddModelError($"Lengths[{setting.Name}]", "That is over 5 mm.");
        return result.Typed?.Value ?? Length.Zero;
    }
}
