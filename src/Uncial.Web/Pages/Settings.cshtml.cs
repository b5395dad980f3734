using System.Globalization;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using Uncial.Core;
using Uncial.Core.Lengths;
using Uncial.Core.Planning;
using Uncial.Data;
using Uncial.Web.Wording;

namespace Uncial.Web.Pages;

/// <summary>The shop's own settings: rules and hands. Only the owner changes them.</summary>
[Authorize(Roles = Roles.Owner)]
public class SettingsModel(UncialDb db, ShopFile file, Reader reader, UserManager<Operator> operators) : PageModel
{
    /// <summary>A length among the settings: its name on the form, its label, how it is read from the shop and whether it may be nothing.</summary>
    public sealed record Setting(string Name, string Label, Func<Shop, Length> Of, bool AllowZero = false);

    public static IReadOnlyList<Setting> RuleSettings { get; } =
    [
        new("RotorMachineTo", "Rotor: machine-to above discard", s => s.Rules.RotorMachineToAboveDiscard, true),
        new("DrumMachineTo", "Drum: machine-to below discard", s => s.Rules.DrumMachineToBelowDiscard, true),
        new("DrumFloor", "Drum: not started under", s => s.Rules.DrumFloor, true),
        new("AssumedRunout", "Run-out assumed, if not measured", s => s.Rules.AssumedRunout, true),
        new("SetUpTolerance", "Set-up is true up to", s => s.Rules.SetUpTolerance),
        new("SecondChucking", "Turned round: second face runs out", s => s.Rules.SecondChuckingRunout, true),
        new("DepthUncertainty", "Depth of a groove: give or take", s => s.Rules.DepthUncertainty, true),
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

    [BindProperty] public Dictionary<string, string?> Lengths { get; set; } = [];
    [BindProperty] public bool AcceptHalfRound { get; set; }
    [BindProperty] public string? DefaultTechnique { get; set; }
    [BindProperty] public bool LeadMayRelease { get; set; }
    [BindProperty] public string? UnreadShare { get; set; }
    [BindProperty] public string? ZeroCheckHolds { get; set; }
    [BindProperty] public string? SwarfBin { get; set; }
    [BindProperty] public int Turn { get; set; }
    [BindProperty] public string? NewName { get; set; }
    [BindProperty] public string? NewPin { get; set; }
    [BindProperty] public string? NewRole { get; set; }

    public Shop Shop { get; private set; } = null!;
    public IReadOnlyList<(string Name, string Role)> Hands { get; private set; } = [];
    public bool Kept { get; private set; }

    public string? Wrong(string field) => ModelState.TryGetValue(field, out var state) ? state.Errors.FirstOrDefault()?.ErrorMessage : null;

    /// <summary>What stands in a field: as typed, or as on record with every digit that it has.</summary>
    public string Value(Setting setting)
    {
        ArgumentNullException.ThrowIfNull(setting);
        return Lengths.GetValueOrDefault(setting.Name) ?? setting.Of(Shop).In(reader.Unit).ToString("0.######", CultureInfo.InvariantCulture);
    }

    public async Task OnGetAsync(bool kept, CancellationToken cancel)
    {
        await LoadAsync(cancel);
        Kept = kept;
        (DefaultTechnique, LeadMayRelease, AcceptHalfRound) = (Shop.DefaultTechnique, Shop.Rules.LeadMayReleaseBetweenLimits, Shop.Rules.AcceptHalfRoundScratch);
        ZeroCheckHolds = Shop.Rules.ZeroCheckHoldsMinutes.ToString(CultureInfo.InvariantCulture);
        SwarfBin = Shop.Rules.SwarfBinKilograms.ToString("0.##", CultureInfo.InvariantCulture);
        UnreadShare = Shop.Rules.UnreadShareOfVariation.ToString("0.##", CultureInfo.InvariantCulture);
    }

    public async Task<IActionResult> OnPostAsync(CancellationToken cancel)
    {
        await LoadAsync(cancel);
        var l = RuleSettings.ToDictionary(s => s.Name, ReadSetting);
        if (Shop.Techniques.All(t => t.Key != DefaultTechnique)) ModelState.AddModelError(nameof(DefaultTechnique), "One of the ways to work.");
        if (!decimal.TryParse(UnreadShare, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var unread) || unread is < 1 or > 12)
            ModelState.AddModelError(nameof(UnreadShare), "A number from 1 to 12; 6 is usual, less is stricter.");
        if (!int.TryParse(ZeroCheckHolds, NumberStyles.None, CultureInfo.InvariantCulture, out var holds) || holds > 720)
            ModelState.AddModelError(nameof(ZeroCheckHolds), "Whole minutes, 0 to 720; 0 asks at every part.");
        if (!decimal.TryParse(SwarfBin, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var bin) || bin is < 1 or > 5000)
            ModelState.AddModelError(nameof(SwarfBin), "Kilograms, 1 to 5000.");
        if (Turn != Shop.Turn) ModelState.AddModelError(nameof(DefaultTechnique), "Somebody changed the settings since; look again.");
        if (!ModelState.IsValid) return Page();

        Shop.Rules = Shop.Rules with
        {
            RotorMachineToAboveDiscard = l["RotorMachineTo"],
            DrumMachineToBelowDiscard = l["DrumMachineTo"],
            DrumFloor = l["DrumFloor"],
            AssumedRunout = l["AssumedRunout"],
            DepthUncertainty = l["DepthUncertainty"],
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
        Shop.DefaultTechnique = DefaultTechnique!;
        Shop.Turn++;
        await db.SaveChangesAsync(cancel);
        return Redirect("/shop?kept=true");
    }

    public async Task<IActionResult> OnPostHandAsync(CancellationToken cancel)
    {
        await OnGetAsync(false, cancel);
        if (string.IsNullOrWhiteSpace(NewName) || NewName.Trim().Length > 80) ModelState.AddModelError(nameof(NewName), "Give the name.");
        if (NewPin is null || NewPin.Length is < 4 or > 8 || !NewPin.All(char.IsAsciiDigit)) ModelState.AddModelError(nameof(NewPin), "Four to eight digits.");
        if (NewRole is not (Roles.Operator or Roles.Lead or Roles.Owner)) ModelState.AddModelError(nameof(NewRole), "Operator, lead or owner.");
        if (!ModelState.IsValid) return Page();
        var hand = new Operator { UserName = "hand" + Guid.NewGuid().ToString("N")[..10], DisplayName = NewName!.Trim() };
        var made = await operators.CreateAsync(hand, NewPin!);
        if (made.Succeeded) made = await operators.AddToRoleAsync(hand, NewRole!);
        if (made.Succeeded) return Redirect("/shop");
        ModelState.AddModelError(nameof(NewPin), string.Join(" ", made.Errors.Select(e => e.Description)));
        return Page();
    }

    private async Task LoadAsync(CancellationToken cancel)
    {
        Shop = await file.ShopAsync(cancel);
        var rows = await (from o in db.Users join ur in db.UserRoles on o.Id equals ur.UserId join r in db.Roles on ur.RoleId equals r.Id orderby o.Id select new { o.DisplayName, r.Name }).ToListAsync(cancel);
        Hands = [.. rows.Select(r => (r.DisplayName, r.Name!))];
        (ViewData["Title"], ViewData["Sub"], ViewData["At"]) = ("Shop", Shop.Name, "shop");
    }

    private Length ReadSetting(Setting setting)
    {
        var result = LengthParser.Parse(Lengths.GetValueOrDefault(setting.Name), reader.Unit, setting.AllowZero);
        if (result.Fault is { } fault) ModelState.AddModelError($"Lengths[{setting.Name}]", Words.Of(fault, reader.Unit));
        else if (result.Typed!.Value.Millimetres > 5) ModelState.AddModelError($"Lengths[{setting.Name}]", "That is over 5 mm.");
        return result.Typed?.Value ?? Length.Zero;
    }
}
