using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Data;

namespace Uncial.Web.Pages;

/// <summary>The logbook: all parts that were ever here.</summary>
public class LogbookModel(UncialDb db) : PageModel
{
    private const int PageSize = 40;

    /// <summary>A line of the logbook.</summary>
    public sealed record Line(string Tag, int Job, string Vehicle, Corner Corner, string? Mark, PartKind Kind, DateTimeOffset ReceivedAt, OutcomeKind? Outcome, DateTimeOffset? OutAt, string? By, Length? Before, Length? After);

    [BindProperty(SupportsGet = true)] public string? Find { get; set; }
    [BindProperty(SupportsGet = true)] public string? State { get; set; }
    [BindProperty(SupportsGet = true)] public DateOnly? From { get; set; }
    [BindProperty(SupportsGet = true)] public DateOnly? To { get; set; }
    [BindProperty(SupportsGet = true)] public int Number { get; set; } = 1;

    public IReadOnlyList<Line> Lines { get; private set; } = [];
    public bool HasMore { get; private set; }
    public int Total { get; private set; }

    public async Task OnGetAsync(CancellationToken cancel)
    {
        ViewData["Title"] = "Logbook";
        ViewData["At"] = "logbook";
        var parts = db.Parts.AsNoTracking();
        foreach (var word in (Find ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries).Take(6))
        {
            var like = "%" + word.Replace("\\", "\\\\", StringComparison.Ordinal).Replace("%", "\\%", StringComparison.Ordinal).Replace("_", "\\_", StringComparison.Ordinal) + "%";
            var number = int.TryParse(word, NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n : -1;
            parts = parts.Where(p => EF.Functions.ILike(p.Tag, like) || EF.Functions.ILike(p.Job!.Vehicle, like) || (p.Job!.Customer != null && EF.Functions.ILike(p.Job.Customer, like)) || p.Job!.Number == number);
        }
        parts = State switch
        {
            "here" => parts.Where(p => p.Outcome == null),
            _ when Enum.TryParse<OutcomeKind>(State, out var kind) && Enum.IsDefined(kind) => parts.Where(p => p.Outcome!.Kind == kind),
            _ => parts,
        };
        // Days of the shop's own calendar.
        static DateTimeOffset Midnight(DateOnly day) => new DateTimeOffset(day.ToDateTime(TimeOnly.MinValue), TimeZoneInfo.Local.GetUtcOffset(day.ToDateTime(TimeOnly.MinValue))).ToUniversalTime();
        if (From is { } from) { var at = Midnight(from); parts = parts.Where(p => p.Job!.ReceivedAt >= at); }
        if (To is { } to && to < DateOnly.MaxValue) { var at = Midnight(to.AddDays(1)); parts = parts.Where(p => p.Job!.ReceivedAt < at); }

        Total = await parts.CountAsync(cancel);
        Number = Math.Clamp(Number, 1, Math.Max(1, (Total + PageSize - 1) / PageSize));
        var rows = await parts.OrderByDescending(p => p.Job!.Number).ThenBy(p => p.Id).Skip((Number - 1) * PageSize).Take(PageSize)
            .Select(p => new
            {
                p.Tag, p.Job!.Number, p.Job.Vehicle, p.Corner, p.Mark, p.Job.ReceivedAt, p.Outcome, By = p.Outcome == null ? null : p.Outcome.By!.DisplayName,
                Surface = p.Surfaces.OrderBy(s => s.Id).Select(s => new
                {
                    s.Kind, Cuts = s.Passes.Count,
                    Sizes = s.Readings.Where(r => r.Kind == ReadingKind.Size && r.Withdrawal == null).Select(r => new { r.Cuts, r.Value }).ToList(),
                }).First(),
            }).AsSplitQuery().ToListAsync(cancel);
        Lines = [.. rows.Select(r =>
        {
            Length? Worst(int cuts) => r.Surface.Sizes.Where(s => s.Cuts == cuts).Select(s => s.Value).ToList() is { Count: > 0 } sizes ? r.Surface.Kind == PartKind.Rotor ? sizes.Min() : sizes.Max() : null;
            return new Line(r.Tag, r.Number, r.Vehicle, r.Corner, r.Mark, r.Surface.Kind, r.ReceivedAt, r.Outcome?.Kind, r.Outcome?.At, r.By, Worst(0), r.Surface.Cuts > 0 ? Worst(r.Surface.Cuts) : null);
        })];
        HasMore = Number * PageSize < Total;
        ViewData["Sub"] = Total == 1 ? "1 part" : $"{Total} parts";
    }

    public string Address(int number) =>
        $"/logbook?find={Uri.EscapeDataString(Find ?? "")}&state={Uri.EscapeDataString(State ?? "")}&from={From:yyyy-MM-dd}&to={To:yyyy-MM-dd}&number={number}";
}
