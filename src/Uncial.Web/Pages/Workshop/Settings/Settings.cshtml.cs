using System.Globalization;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Uncial.Core;
using Uncial.Core.Lengths;
using Uncial.Core.Settings;
using Uncial.Core.Times;
using Uncial.Data;
using Uncial.Web.Accounts;
using Uncial.Web.Network;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>The shop's own settings. Only the owner changes them; rules that derive a laxer limit take a signature.</summary>
[Authorize(Roles = Roles.Owner)]
public class SettingsModel(UncialDb db, ShopFile file, ShopAddress address, Reader reader, TimeProvider time) : FormPage(reader, time)
{
    private const int LongestReason = 300;

    /// <summary>Version of the program.</summary>
    public static string Version { get; } = typeof(SettingsModel).Assembly.GetName().Version!.ToString(3);

    /// <summary>What was typed, by the key of the setting; a setting that is not among them stays as it is.</summary>
    [BindProperty]
    public Dictionary<string, string?> Values { get; set; } = [];

    /// <summary>The group that is shown first.</summary>
    [BindProperty(SupportsGet = true)]
    public SettingGroup Group { get; set; }

    [BindProperty]
    public string? DefaultTechnique { get; set; }

    /// <summary>Name of the time zone as typed; empty for that of the server.</summary>
    [BindProperty]
    public string? TimeZone { get; set; }

    [BindProperty]
    public DateStyle? DateStyle { get; set; }

    /// <summary>Address of the shop as typed; empty for the one that it was started with.</summary>
    [BindProperty]
    public string? Address { get; set; }

    /// <summary>Minutes after which a screen is locked, as typed; empty for never.</summary>
    [BindProperty]
    public string? LockAfter { get; set; }

    private const int LongestIdle = 240;

    /// <summary>The address where the settings say none.</summary>
    public string UsualAddress => address.Usual(Request);

    [BindProperty]
    public int Turn { get; set; }

    [BindProperty]
    public string? Reason { get; set; }

    public Shop Shop { get; private set; } = null!;

    /// <summary>The rules that were typed derive a laxer limit: somebody signs for them.</summary>
    public bool Signs { get; private set; }

    /// <summary>The newest changes of the rules.</summary>
    public IReadOnlyList<RuleChange> Changes { get; private set; } = [];

    public bool Kept { get; private set; }

    /// <summary>Name of a setting's field.</summary>
    public static string FieldOf(Setting setting) => $"{nameof(Values)}[{setting?.Key}]";

    /// <summary>How many fields of a group hold something that is wrong.</summary>
    public int WrongIn(SettingGroup group) => ShopSettings.Of(group).Count(s => Wrong(FieldOf(s)) is not null);

    /// <summary>What stands in a field: as typed, or as on record with every digit that it has.</summary>
    public string Value(Setting setting)
    {
        ArgumentNullException.ThrowIfNull(setting);
        return Values.GetValueOrDefault(setting.Key) ?? Written(setting, Shop.Rules);
    }

    /// <summary>Whether a yes-or-no is ticked.</summary>
    public bool IsTicked(ChoiceSetting setting)
    {
        ArgumentNullException.ThrowIfNull(setting);
        return Values.GetValueOrDefault(setting.Key) is { } typed
            ? typed.Contains("true", StringComparison.Ordinal)
            : setting.Of(Shop.Rules);
    }

    /// <summary>What a new shop starts with, and the range.</summary>
    public string Usual(Setting setting) =>
        setting switch
        {
            LengthSetting length => Words.Say(
                "setting.usual",
                Reader.SizeWith(length.Of(ShopRules.Default)),
                Reader.Size(length.Least),
                Reader.SizeWith(length.Most)
            ),
            NumberSetting number => Words.Say(
                "setting.usual",
                WithUnit(number, number.Of(ShopRules.Default)),
                Plain(number.Least),
                WithUnit(number, number.Most)
            ),
            ChoiceSetting choice => Words.Say(
                "setting.usualChoice",
                Words.Say(choice.Of(ShopRules.Default) ? "setting.yes" : "setting.no")
            ),
            _ => "",
        };

    /// <summary>The value that a new shop starts with, as it is typed; null where it stands already.</summary>
    public string? DefaultOf(Setting setting)
    {
        ArgumentNullException.ThrowIfNull(setting);
        var usual = Written(setting, ShopRules.Default);
        return usual == Written(setting, Shop.Rules) ? null : usual;
    }

    private string Written(Setting setting, ShopRules rules) =>
        setting switch
        {
            LengthSetting length => length.Of(rules).In(Reader.Unit).ToString("0.######", CultureInfo.InvariantCulture),
            NumberSetting number => Plain(number.Of(rules)),
            ChoiceSetting choice => choice.Of(rules) ? "true" : "false",
            _ => "",
        };

    private static string Plain(decimal number) => number.ToString("0.######", CultureInfo.InvariantCulture);

    private static string WithUnit(NumberSetting setting, decimal number) =>
        Plain(number) + (Words.Say("setting.unit." + setting.Unit) is { Length: > 0 } unit ? " " + unit : "");

    public async Task OnGetAsync(bool kept, CancellationToken cancel)
    {
        await LoadAsync(cancel);
        Kept = kept;
        (DefaultTechnique, TimeZone, DateStyle) = (Shop.DefaultTechnique, Shop.TimeZone, Shop.DateStyle ?? default);
        Address = Shop.Address;
        LockAfter = Shop.LockAfterMinutes?.ToString(CultureInfo.InvariantCulture);
    }

    /// <summary>What the rules as typed would have changed in the last parts; null where it was not asked for.</summary>
    public RulePreview? Preview { get; private set; }

    /// <summary>Shows what the rules as typed would have changed; keeps nothing.</summary>
    public async Task<IActionResult> OnPostPreviewAsync(CancellationToken cancel)
    {
        await LoadAsync(cancel);
        var rules = ShopSettings.All.Aggregate(Shop.Rules, Read);
        DefaultTechnique ??= Shop.DefaultTechnique;
        if (!ModelState.IsValid)
            return ShowWrong();
        var (now, then) = (Shop.Workshop, Shop.Workshop with { Rules = rules });
        Preview = RulePreview.Of(
            (await db.LastFinishedAsync(RulePreview.LooksAt, cancel)).Select(p =>
                (IReadOnlyList<(SurfaceState, SurfaceState)>)
                    [.. p.Surfaces.Select(s => (new SurfaceState(s.Facts, p.Facts, now), new SurfaceState(s.Facts, p.Facts, then)))]
            )
        );
        return Page();
    }

    /// <summary>The page with the group in front that has something wrong.</summary>
    private Microsoft.AspNetCore.Mvc.RazorPages.PageResult ShowWrong()
    {
        if (ShopSettings.All.FirstOrDefault(s => Wrong(FieldOf(s)) is not null) is { } first)
            Group = first.Group;
        else if (Wrong(nameof(TimeZone)) is not null || Wrong(nameof(Address)) is not null || Wrong(nameof(LockAfter)) is not null)
            Group = SettingGroup.Time;
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(CancellationToken cancel)
    {
        await LoadAsync(cancel);
        var rules = ShopSettings.All.Aggregate(Shop.Rules, Read);
        DefaultTechnique ??= Shop.DefaultTechnique;
        if (Shop.Techniques.All(t => t.Key != DefaultTechnique))
            Reject(nameof(DefaultTechnique), Words.Say("setting.noTechnique"));
        var zone = string.IsNullOrWhiteSpace(TimeZone) ? null : TimeZone.Trim();
        if (zone is not null && zone != Shop.TimeZone && !ShopTime.IsZone(zone))
            Reject(nameof(TimeZone), Words.Say("setting.noZone"));
        var place = string.IsNullOrWhiteSpace(Address) ? null : ShopAddressText.Read(Address);
        if (place is null && !string.IsNullOrWhiteSpace(Address))
            Reject(nameof(Address), Words.Say("setting.noAddress"));
        int? idle = null;
        if (!string.IsNullOrWhiteSpace(LockAfter))
        {
            if (
                int.TryParse(LockAfter.Trim(), NumberStyles.None, CultureInfo.InvariantCulture, out var minutes)
                && minutes is > 0 and <= LongestIdle
            )
                idle = minutes;
            else
                Reject(nameof(LockAfter), Words.Say("setting.noLockAfter", LongestIdle));
        }
        if (Turn != Shop.Turn)
            Tell(new Refusal.Outdated(null));
        if (!ModelState.IsValid)
            return ShowWrong();
        if (rules.Limits.DeriveLaxerThan(Shop.Rules.Limits))
        {
            (Signs, Leads) = (true, await db.LeadsAsync(cancel));
            if (ReadText(Reason, LongestReason, "setting.sayWhy") is null)
                return Page();
        }
        var refusal = await RuleCommands.KeepAsync(
            new(db, Actor, Turn),
            Shop,
            rules,
            new(DefaultTechnique!, zone, DateStyle ?? Shop.DateStyle ?? default, place, idle),
            Reason,
            SignatureTyped,
            cancel
        );
        if (refusal is null)
            return Redirect($"/shop?kept=true&group={Group}");
        file.Forget();
        await LoadAsync(cancel);
        Tell(refusal);
        return Page();
    }

    protected override void Tell(Refusal refusal)
    {
        if (refusal is Refusal.Outdated or Refusal.Overtaken)
            Reject(nameof(Turn), Words.Say("setting.changed"));
        else
            base.Tell(refusal);
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
        (ViewData["Title"], ViewData["Sub"], ViewData["At"]) = (Words.Say("title.shop"), Shop.Name, "shop");
    }

    /// <summary>The rules with what was typed for a setting; what is wrong with it goes to its field.</summary>
    private ShopRules Read(ShopRules rules, Setting setting)
    {
        if (Values.GetValueOrDefault(setting.Key) is not { } text || text == Written(setting, Shop.Rules))
            return rules;
        switch (setting)
        {
            case LengthSetting length:
                var result = LengthParser.Parse(text, Reader.Unit, allowZero: length.Least == Length.Zero);
                if (result.Typed is { } typed && length.Allows(typed.Value))
                    return length.With(rules, typed.Value);
                Reject(
                    FieldOf(setting),
                    result.Fault is { } fault ? Words.Of(fault, Reader.Unit)
                        : result.Typed!.Value > length.Most ? Words.Say("setting.tooMany", Reader.SizeWith(length.Most))
                        : Words.Say("setting.tooFew", Reader.SizeWith(length.Least))
                );
                return rules;
            case NumberSetting number:
                if (
                    decimal.TryParse(
                        text.Trim().Replace(',', '.'),
                        NumberStyles.AllowDecimalPoint,
                        CultureInfo.InvariantCulture,
                        out var value
                    ) && number.Allows(value)
                )
                    return number.With(rules, value);
                Reject(
                    FieldOf(setting),
                    value >= number.Least && value <= number.Most && value != decimal.Round(value, number.Decimals)
                        ? Words.Say(number.Decimals == 0 ? "setting.whole" : "setting.decimals", number.Decimals)
                        : Words.Say("setting.notNumber", Plain(number.Least), WithUnit(number, number.Most))
                );
                return rules;
            case ChoiceSetting choice:
                return choice.With(rules, IsTicked(choice));
            default:
                return rules;
        }
    }
}
