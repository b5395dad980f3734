using System.Globalization;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using Uncial.Core;
using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Planning;
using Uncial.Data;
using Uncial.Web.Wording;

namespace Uncial.Web.Pages;

/// <summary>The shop's own settings: rules, gauges, lathe and hands. Only the owner changes them.</summary>
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
        new("DepthUncertainty", "Depth of a groove: give or take", s => s.Rules.DepthUncertainty, true),
        new("MicrometerRepeat", "Micrometer repeats within, one sigma", s => s.Rules.MicrometerRepeat, true),
        new("CaliperRepeat", "Caliper repeats within, one sigma", s => s.Rules.CaliperRepeat, true),
        new("DrumGaugeRepeat", "Drum gauge repeats within, one sigma", s => s.Rules.DrumGaugeRepeat, true),
        new("AxleDifference", "Left and right may differ by", s => s.Rules.GreatestAxleDifference, true),
    ];

    public static IReadOnlyList<Setting> LatheSettings { get; } =
    [
        new("Division", "One division of the dial", s => s.Lathe.Division), new("DialAllowance", "Error of a setting", s => s.Lathe.DialAllowance), new("NoseRadius", "Nose radius", s => s.Lathe.NoseRadius),
    ];

    [BindProperty] public Dictionary<string, string?> Lengths { get; set; } = [];
    [BindProperty] public string? LatheName { get; set; }
    [BindProperty] public bool CountsDiameter { get; set; }
    [BindProperty] public string? Feeds { get; set; }
    [BindProperty] public string? RoughFeed { get; set; }
    [BindProperty] public string? FinishFeed { get; set; }
    [BindProperty] public string? Speeds { get; set; }
    [BindProperty] public string? DefaultTechnique { get; set; }
    [BindProperty] public bool LeadMayRelease { get; set; }
    [BindProperty] public string? UnreadShare { get; set; }
    [BindProperty] public string? ZeroCheckHolds { get; set; }
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
        (LatheName, CountsDiameter, RoughFeed, FinishFeed) = (Shop.Lathe.Name, Shop.Lathe.CountsDiameter, Shop.Lathe.RoughFeed, Shop.Lathe.FinishFeed);
        Feeds = string.Join("  ", Shop.Lathe.Feeds.Select(f => f.Number + ":" + f.PerTurn.In(reader.Unit).ToString("0.######", CultureInfo.InvariantCulture)));
        Speeds = string.Join(" ", Shop.Lathe.Speeds.Select(s => s.ToString("0.##", CultureInfo.InvariantCulture)));
        (DefaultTechnique, LeadMayRelease) = (Shop.DefaultTechnique, Shop.Rules.LeadMayReleaseBetweenLimits);
        ZeroCheckHolds = Shop.Rules.ZeroCheckHoldsMinutes.ToString(CultureInfo.InvariantCulture);
        UnreadShare = Shop.Rules.UnreadShareOfVariation.ToString("0.##", CultureInfo.InvariantCulture);
    }

    public async Task<IActionResult> OnPostAsync(CancellationToken cancel)
    {
        await LoadAsync(cancel);
        var l = RuleSettings.Concat(LatheSettings).ToDictionary(s => s.Name, ReadSetting);
        var feeds = ReadFeeds();
        var speeds = (Speeds ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(t => decimal.TryParse(t, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var n) && n is > 0 and <= 5000 ? n : 0).ToList();
        if (speeds.Count == 0 || speeds.Contains(0)) ModelState.AddModelError(nameof(Speeds), "Turns a minute with a space between, such as 60 85 110.");
        foreach (var (field, feed) in new[] { (nameof(RoughFeed), RoughFeed), (nameof(FinishFeed), FinishFeed) })
            if (!feeds.Any(f => f.Number == feed?.Trim())) ModelState.AddModelError(field, "One of the feed numbers.");
        if (string.IsNullOrWhiteSpace(LatheName)) ModelState.AddModelError(nameof(LatheName), "Give the lathe a name.");
        if (Technique.BuiltIn.All(t => t.Key != DefaultTechnique)) ModelState.AddModelError(nameof(DefaultTechnique), "One of the ways to work.");
        if (!decimal.TryParse(UnreadShare, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var unread) || unread is < 1 or > 12)
            ModelState.AddModelError(nameof(UnreadShare), "A number from 1 to 12; 6 is usual, less is stricter.");
        if (!int.TryParse(ZeroCheckHolds, NumberStyles.None, CultureInfo.InvariantCulture, out var holds) || holds > 720)
            ModelState.AddModelError(nameof(ZeroCheckHolds), "Whole minutes, 0 to 720; 0 asks at every part.");
        if (Turn != Shop.Turn) ModelState.AddModelError(nameof(LatheName), "Somebody changed the settings since; look again.");
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
            GreatestAxleDifference = l["AxleDifference"],
            UnreadShareOfVariation = unread,
            LeadMayReleaseBetweenLimits = LeadMayRelease,
        };
        Shop.Lathe = Shop.Lathe with
        {
            Name = LatheName!.Trim(),
            Division = l["Division"],
            DialAllowance = l["DialAllowance"],
            NoseRadius = l["NoseRadius"],
            CountsDiameter = CountsDiameter,
            Feeds = feeds,
            RoughFeed = RoughFeed!.Trim(),
            FinishFeed = FinishFeed!.Trim(),
            Speeds = speeds,
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

    private List<Feed> ReadFeeds()
    {
        List<Feed> feeds = [];
        foreach (var text in (Feeds ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries))
        {
            var parts = text.Split(':');
            if (parts is [{ Length: > 0 and <= 8 }, var size] && LengthParser.Parse(size, reader.Unit).Typed is { } typed && typed.Value.Millimetres <= 5) feeds.Add(new(parts[0], typed.Value));
            else ModelState.AddModelError(nameof(Feeds), "Number, colon, feed in a turn; such as 1:0.06 3:0.25.");
        }
        if (feeds.Count == 0) ModelState.AddModelError(nameof(Feeds), "At least one feed, such as 1:0.06.");
        return feeds;
    }
}
