using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Uncial.Core;
using Uncial.Core.Lengths;
using Uncial.Core.Release;
using Uncial.Data;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>A part's whole history: every fact, who stated it and when.</summary>
public partial class HistoryModel(UncialDb db, ShopFile shop, Reader reader, TimeProvider time) : FormPage(reader, time)
{
    private const int LongestReason = 300;

    /// <summary>One line of the history.</summary>
    public sealed record Line(DateTimeOffset At, string? By, string Mark, string What, string? More, bool IsWithdrawn);

    public Part Part { get; private set; } = null!;
    public IReadOnlyList<SurfaceRecord> Surfaces { get; private set; } = [];
    public IReadOnlyList<Line> Lines { get; private set; } = [];

    /// <summary>All visits of the part, the first one first; the one that is told included.</summary>
    public IReadOnlyList<(Part Part, IReadOnlyList<SurfaceRecord> Surfaces)> Visits { get; private set; } = [];

    /// <summary>It came back after this visit.</summary>
    public bool CameBack { get; private set; }

    /// <summary>Its first surface over all visits up to this one; null where it has no limits or was never read.</summary>
    public WearCurve? Wear { get; private set; }

    [BindProperty(SupportsGet = true)]
    public int? Visit { get; set; }

    /// <summary>back: the part is to be recalled.</summary>
    [BindProperty(SupportsGet = true, Name = "do")]
    public string? Do { get; set; }

    [BindProperty]
    public string? Reason { get; set; }

    [BindProperty]
    public bool HadLeft { get; set; }

    /// <summary>How it left may be recalled: not scrap, and not where it came again since.</summary>
    public bool MayCallBack => Part.Outcome is { Kind: not OutcomeKind.Scrapped } && !CameBack;

    public bool CallsBack => Do == "back" && MayCallBack;

    public async Task<IActionResult> OnGetAsync(string tag, CancellationToken cancel) => await LoadAsync(tag, cancel) ? Page() : NotFound();

    /// <summary>The part is recalled: a lead signs, with a reason.</summary>
    public async Task<IActionResult> OnPostCallBackAsync(string tag, CancellationToken cancel)
    {
        Do = "back";
        if (!await LoadAsync(tag, cancel))
            return NotFound();
        if (Part.Outcome is not { } outcome || !MayCallBack)
            return Redirect($"/part/{tag}");
        if (ReadText(Reason, LongestReason, "history.sayWhyItIsRecalled") is not { } reason)
            return Page();
        var recalled = await ReleaseCommands.RecallAsync(db, Part, reason, HadLeft, Actor, SignatureTyped, cancel);
        if (recalled.Refusal is not { } refusal)
            return Redirect($"/part/{tag}");
        Tell(refusal);
        return await LoadAsync(tag, cancel) ? Page() : NotFound();
    }

    protected override void Tell(Refusal refusal)
    {
        base.Tell(refusal);
        if (refusal is Refusal.DoneAlready)
            Trouble = Words.Say("history.somebodyElseCalledItBack");
    }

    private async Task<bool> LoadAsync(string tag, CancellationToken cancel)
    {
        if (await shop.PartAsync(tag, cancel, Visit) is not { } part)
            return false;
        Part = part;
        var settings = await shop.ShopAsync(cancel);
        Surfaces = [.. part.Surfaces.Select(s => new SurfaceRecord(s, part, settings))];
        CameBack = Visit is not null && await db.Parts.AnyAsync(p => p.Tag == tag && p.Visit > part.Visit, cancel);
        Visits =
        [
            .. (await shop.EarlierAsync(part, cancel)).Select(p =>
                (p, (IReadOnlyList<SurfaceRecord>)[.. p.Surfaces.Select(s => new SurfaceRecord(s, p, settings))])
            ),
            (part, Surfaces),
        ];
        if (Surfaces[0].Receiving.Limits is { } limits)
        {
            var seen = Visits
                .Where(v => v.Surfaces[0].Measuring.WorstBefore is not null)
                .Select(v => new WearVisit(
                    v.Part.KmSinceNew ?? v.Part.Job!.OdometerKm,
                    v.Surfaces[0].Measuring.WorstBefore!.Value,
                    v.Surfaces[0].CutsDone > 0 ? v.Surfaces[0].Measuring.Worst : null
                ))
                .ToList();
            if (seen.Count > 0)
                Wear = WearCurve.Of(limits, seen);
        }
        Lines = [.. Surfaces.SelectMany(Facts).Concat(Ends()).OrderByDescending(l => l.At)];
        if (CallsBack)
            Leads = await db.LeadsAsync(cancel);
        ViewData["Title"] = Words.Of(part);
        ViewData["Sub"] =
            Words.Say("history.job", part.Tag, part.Job!.Vehicle, part.Job.Number)
            + (part.Visit > 1 || CameBack ? Words.Say("history.visit", part.Visit) : "");
        return true;
    }

    private IEnumerable<Line> Ends()
    {
        yield return new(
            Part.Job!.ReceivedAt,
            null,
            "read",
            Words.Say("history.receivedWithJob", Part.Job.Number)
                + (
                    Part.Visit > 1
                        ? Words.Say(
                            "history.forTheTime",
                            Part.Visit,
                            (
                                Part.Visit == 2 ? "nd"
                                : Part.Visit == 3 ? "rd"
                                : "th"
                            )
                        )
                        : ""
                ),
            Part.Job.Customer,
            false
        );
        foreach (var o in Part.Outcomes)
        {
            var more = string.Join(
                ". ",
                new[]
                {
                    o.Cause is { } cause ? Words.Say("scrapCause." + cause) : null,
                    o.Place is { } place ? Words.Say("history.keptBy", place, o.Preservative) : null,
                    o.Reason,
                    o.SignedBy is { } lead ? Words.Say("history.signedWithAPinBy", lead.DisplayName) : null,
                }.OfType<string>()
            );
            yield return new(
                o.At,
                o.By?.DisplayName,
                o.Kind == OutcomeKind.Scrapped ? "over" : "cut",
                Words.Say("outcome." + o.Kind) + (o.DoNotMachineAgain ? Words.Say("history.doNotMachineAgain") : ""),
                more.Length > 0 ? more : null,
                o.Withdrawal is not null
            );
            if (o.Withdrawal is { } back)
                yield return new(
                    back.At,
                    back.By?.DisplayName,
                    "over",
                    Words.Say("word.Recalled") + (back.HadLeft ? Words.Say("history.itHadLeftTheShop2") : ""),
                    back.Reason + (back.SignedBy is { } signed ? Words.Say("history.signedWithAPinBy2", signed.DisplayName) : ""),
                    false
                );
            foreach (var (kind, prints) in (o.Certificate?.Prints ?? []).GroupBy(p => p.Kind).Select(g => (g.Key, g.ToList())))
                yield return new(
                    prints.Max(p => p.At),
                    null,
                    "read",
                    Words.Say(kind == PrintKind.Tag ? "word.Tag" : "word.Certificate")
                        + (prints.Count == 1 ? Words.Say("history.printed") : Words.Say("history.printedTimes", prints.Count)),
                    null,
                    false
                );
        }
    }

    private string? Say(IReadOnlyList<Note> notes) =>
        notes.Count == 0 ? null : string.Join(" ", notes.Select(n => Words.Of(n, Reader.Unit)));
}
