using System.Globalization;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Uncial.Core.Scheduling;
using Uncial.Core.Times;
using Uncial.Data;
using Uncial.Web.Forms;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>Hours, breaks and times that the day's board is planned with: of the week by the owner, of single days by a lead.</summary>
[Authorize(Roles = Roles.LeadOrOwner)]
public class HoursModel(UncialDb db, Reader reader, TimeProvider time) : FormPage(reader, time)
{
    /// <summary>So many single days to come are listed.</summary>
    private const int ListsDays = 60;

    /// <summary>Days of the week in the order in which they stand, Monday first.</summary>
    public static IReadOnlyList<DayOfWeek> Week { get; } = [.. Enumerable.Range(1, 7).Select(d => (DayOfWeek)(d % 7))];

    /// <summary>Hours of the shop by the number of the day, as typed.</summary>
    [BindProperty]
    public Dictionary<string, string?> Shop { get; set; } = [];

    /// <summary>Own hours of people, by person and day as in <c>3-1</c>, as typed.</summary>
    [BindProperty]
    public Dictionary<string, string?> Own { get; set; } = [];

    /// <summary>People with own hours.</summary>
    [BindProperty]
    public List<int> HasOwn { get; set; } = [];

    [BindProperty]
    public string? Breaks { get; set; }

    [BindProperty]
    public string? AdapterMinutes { get; set; }

    [BindProperty]
    public string? MeasureMinutes { get; set; }

    [BindProperty]
    public string? ConfirmMinutes { get; set; }

    [BindProperty]
    public string? RestMinutes { get; set; }

    [BindProperty]
    public bool MeasuresWhileFeeding { get; set; }

    [BindProperty]
    public int Turn { get; set; }

    /// <summary>A single day, as typed.</summary>
    [BindProperty]
    public string? Day { get; set; }

    /// <summary>Whose; 0 for the whole shop.</summary>
    [BindProperty]
    public int Who { get; set; }

    /// <summary>Its hours, as typed; empty for no work.</summary>
    [BindProperty]
    public string? Hours { get; set; }

    public IReadOnlyList<Operator> People { get; private set; } = [];
    public IReadOnlyList<DayHours> SingleDays { get; private set; } = [];
    public bool Kept { get; private set; }

    public async Task OnGetAsync(bool kept, CancellationToken cancel)
    {
        await LoadAsync(cancel);
        Fill(await db.DaySettingsAsync(cancel));
        Kept = kept;
    }

    /// <summary>Keeps the week, the breaks and the times.</summary>
    public async Task<IActionResult> OnPostAsync(CancellationToken cancel)
    {
        await LoadAsync(cancel);
        if (!Reader.IsOwner)
            return Forbid();
        var settings = Read();
        if (!ModelState.IsValid)
            return Page();
        if ((await DayCommands.SettleAsync(new(db, Actor, Turn), settings, cancel)).Refusal is not { } refusal)
            return RedirectToPage(new { kept = true });
        Trouble = Words.OfChange(refusal);
        return Page();
    }

    /// <summary>Sets the hours of a single day.</summary>
    public async Task<IActionResult> OnPostDayAsync(CancellationToken cancel)
    {
        await LoadAsync(cancel);
        var day = ReadDay(Day, DayLean.Ahead);
        if (string.IsNullOrWhiteSpace(Day))
            Reject(nameof(Day), Words.Say("hours.whichDay"));
        if (!HoursText.TryRead(Hours, out var hours))
            Reject(nameof(Hours), Words.Say("hours.wrong"));
        if (!ModelState.IsValid || day is not { } on)
        {
            Fill(await db.DaySettingsAsync(cancel));
            return Page();
        }
        return await SetAsync(new(on, Who == 0 ? null : Who, hours), isUsual: false, cancel);
    }

    /// <summary>The hours of the week hold again on a day.</summary>
    public async Task<IActionResult> OnPostUsualAsync(DateOnly on, CancellationToken cancel)
    {
        await LoadAsync(cancel);
        return await SetAsync(new(on, Who == 0 ? null : Who, null), isUsual: true, cancel);
    }

    private async Task<IActionResult> SetAsync(DayHours hours, bool isUsual, CancellationToken cancel)
    {
        if ((await DayCommands.SetHoursAsync(new(db, Actor), hours, isUsual, cancel)).Refusal is not { } refusal)
            return RedirectToPage(new { kept = true });
        Trouble = Words.OfChange(refusal);
        Fill(await db.DaySettingsAsync(cancel));
        return Page();
    }

    private async Task LoadAsync(CancellationToken cancel)
    {
        People = await db.Operators.AsNoTracking().Where(o => o.DisabledAt == null).OrderBy(o => o.Id).ToListAsync(cancel);
        SingleDays = await DayQueries.SingleDaysAsync(db, Today, Today.AddDays(ListsDays), cancel);
        ViewData["Title"] = Words.Say("hours.title");
        ViewData["At"] = "shop";
    }

    private void Fill((DaySettings Settings, int Turn) now)
    {
        var settings = now.Settings;
        Turn = now.Turn;
        foreach (var day in Week)
            Shop[Key(day)] = HoursText.Of(settings.Week.Days[(int)day]);
        HasOwn = [.. settings.Shifts.Keys];
        foreach (var person in People)
        foreach (var day in Week)
            Own[$"{person.Id}-{Key(day)}"] = HoursText.Of(settings.Shifts.GetValueOrDefault(person.Id, settings.Week).Days[(int)day]);
        Breaks = string.Join(", ", settings.Breaks.Select(b => HoursText.Of(b)));
        AdapterMinutes = Plain(settings.AdapterMinutes);
        MeasureMinutes = Plain(settings.MeasureMinutes);
        ConfirmMinutes = Plain(settings.ConfirmMinutes);
        RestMinutes = Plain(settings.ReadingRestsAfter);
        MeasuresWhileFeeding = settings.MeasuresWhileFeeding;
    }

    private DaySettings Read()
    {
        if (!HoursText.TryReadAll(Breaks, out var breaks))
            Reject(nameof(Breaks), Words.Say("hours.wrong"));
        return new()
        {
            Week = new(DaysOf(day => ($"Shop[{Key(day)}]", Shop.GetValueOrDefault(Key(day))))),
            Shifts = HasOwn
                .Distinct()
                .Where(id => People.Any(p => p.Id == id))
                .ToDictionary(
                    id => id,
                    id => new WorkWeek(DaysOf(day => ($"Own[{id}-{Key(day)}]", Own.GetValueOrDefault($"{id}-{Key(day)}"))))
                ),
            Breaks = breaks,
            AdapterMinutes = ReadMinutes(AdapterMinutes, 0, nameof(AdapterMinutes)),
            MeasureMinutes = ReadMinutes(MeasureMinutes, 1, nameof(MeasureMinutes)),
            ConfirmMinutes = ReadMinutes(ConfirmMinutes, 1, nameof(ConfirmMinutes)),
            ReadingRestsAfter = ReadMinutes(RestMinutes, 1, nameof(RestMinutes)),
            MeasuresWhileFeeding = MeasuresWhileFeeding,
        };
    }

    private HoursOfDay?[] DaysOf(Func<DayOfWeek, (string Field, string? Text)> fieldOf)
    {
        var days = new HoursOfDay?[7];
        foreach (var day in Week)
        {
            var (field, text) = fieldOf(day);
            if (!HoursText.TryRead(text, out days[(int)day]))
                Reject(field, Words.Say("hours.wrong"));
        }
        return days;
    }

    private int ReadMinutes(string? text, int least, string field)
    {
        if (
            int.TryParse(text?.Trim(), NumberStyles.None, CultureInfo.InvariantCulture, out var minutes)
            && minutes >= least
            && minutes <= DaySettings.MostMinutes
        )
            return minutes;
        Reject(field, Words.Say("hours.minutes", least, DaySettings.MostMinutes));
        return least;
    }

    private static string Key(DayOfWeek day) => Plain((int)day);

    private static string Plain(int number) => number.ToString(CultureInfo.InvariantCulture);
}
