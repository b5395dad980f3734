using Microsoft.AspNetCore.Mvc;
using Uncial.Core.Parts;
using Uncial.Core.Release;
using Uncial.Data;
using Uncial.Web.Wording;

namespace Uncial.Web.Pages;

/// <summary>Release, shelve or scrap: the end of a part's journey in this job.</summary>
public class ReleaseModel(UncialDb db, ShopFile shop, Reader reader, TimeProvider time) : PartPage(db, shop, reader, time)
{
    [BindProperty] public string? Reason { get; set; }

    protected override Station At => Station.Release;

    public IReadOnlyList<SurfaceRecord> Surfaces { get; private set; } = [];
    public bool IsBeyond => Surfaces.Any(s => s.DiscardVerdict == Verdict.Beyond);
    public bool AllConfirmed => Surfaces.All(s => s.Confirmation is { Decision: Decision.Release or Decision.LeadOnly });
    public bool NeedsLead => Surfaces.Any(s => s.Confirmation is { Decision: Decision.LeadOnly });
    public bool LeadMay => Reader.IsLead && Record.Shop.Rules.LeadMayReleaseBetweenLimits;
    public bool MayRelease => AllConfirmed && !IsBeyond && (!NeedsLead || LeadMay);

    public Task<IActionResult> OnPostReleaseAsync(CancellationToken cancel) => CloseAsync(OutcomeKind.Released, NeedsReason, cancel);

    public Task<IActionResult> OnPostShelveAsync(CancellationToken cancel) => CloseAsync(OutcomeKind.Shelved, () => true, cancel);

    public Task<IActionResult> OnPostScrapAsync(CancellationToken cancel) => CloseAsync(OutcomeKind.Scrapped, () => true, cancel);

    private bool NeedsReason() => NeedsLead;

    private async Task<IActionResult> CloseAsync(OutcomeKind kind, Func<bool> needsReason, CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere) return elsewhere;
        await ShowAsync(cancel);
        if (Record.Part.Outcome is not null) return Redirect($"/part/{Tag}");
        if (needsReason() && string.IsNullOrWhiteSpace(Reason))
            ModelState.AddModelError(nameof(Reason), kind switch { OutcomeKind.Scrapped => "Say why it is scrap.", OutcomeKind.Shelved => "Say where it lies and how it is kept.", _ => "Between the limits a lead hand gives the reason." });
        if (Reason?.Length > 300) ModelState.AddModelError(nameof(Reason), "At most 300 letters.");
        if (kind == OutcomeKind.Released && !MayRelease)
            Trouble = IsBeyond ? Words.Say("db.UN004") : !AllConfirmed ? Words.Say("db.UN005") : Words.Say("db.UN007");
        if (!ModelState.IsValid || Trouble is not null || IsStale()) return Page();
        // The database has the last word: it refuses what must not leave, whoever asks.
        Journey.Close(Record.Part, kind, Reason, NeedsLead && kind == OutcomeKind.Released, Hand);
        if (!await SaveAsync(cancel)) return await ShowAgainAsync(cancel);
        return Redirect($"/tag/{Tag}");
    }

    protected override Task<IActionResult> ShowAsync(CancellationToken cancel)
    {
        Surfaces = [.. Part.Surfaces.Select(s => new SurfaceRecord(s, Part, Record.Shop))];
        return Task.FromResult<IActionResult>(Part.Outcome is null ? Page() : Redirect($"/part/{Tag}"));
    }
}
