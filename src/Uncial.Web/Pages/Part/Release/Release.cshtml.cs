using Microsoft.AspNetCore.Mvc;
using Uncial.Core.Parts;
using Uncial.Core.Release;
using Uncial.Data;
using Uncial.Web.Accounts;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>Release, shelve or scrap: the end of a part's workflow in this job.</summary>
public class ReleaseModel(UncialDb db, ShopFile shop, Reader reader, TimeProvider time, LeadSignature signature)
    : PartPage(db, shop, reader, time)
{
    private const int LongestReason = 300;
    private const int LongestPlace = 120;

    /// <summary>What is to become of it: shelve, scrap, or nothing for release.</summary>
    [BindProperty(SupportsGet = true)]
    public string? As { get; set; }

    [BindProperty]
    public string? Reason { get; set; }

    [BindProperty]
    public string? Cause { get; set; }

    [BindProperty]
    public string? Place { get; set; }

    [BindProperty]
    public string? Preservative { get; set; }

    /// <summary>Scrap was made unusable.</summary>
    [BindProperty]
    public bool Marked { get; set; }

    protected override Station At => Station.Release;

    public IReadOnlyList<SurfaceRecord> Surfaces { get; private set; } = [];
    public bool IsBeyond => Surfaces.Any(s => s.Measuring.DiscardVerdict == Verdict.Beyond);
    public bool AllConfirmed => Surfaces.All(s => s.Confirming.Holding is { Decision: Decision.Release or Decision.LeadOnly });
    public bool NeedsLead => Surfaces.Any(s => s.Confirming.Holding is { Decision: Decision.LeadOnly });
    public bool ShopAllows => Record.Shop.Rules.LeadMayReleaseBetweenLimits;
    public bool MayRelease => AllConfirmed && !IsBeyond && (!NeedsLead || ShopAllows);

    /// <summary>Readings that came with a file: nothing leaves on them.</summary>
    public bool IsFromFile => Surfaces.Any(s => s.Measuring.Sizes.Any(r => r.FromFile == true));

    public OutcomeKind Kind =>
        As switch
        {
            "shelve" when !IsBeyond => OutcomeKind.Shelved,
            "scrap" => OutcomeKind.Scrapped,
            _ => IsBeyond ? OutcomeKind.Scrapped : OutcomeKind.Released,
        };

    /// <summary>The cause that is picked; beyond discard where it is.</summary>
    public ScrapCause? CausePicked =>
        Enum.TryParse<ScrapCause>(Cause, out var cause) && Enum.IsDefined(cause) ? cause
        : IsBeyond ? ScrapCause.BeyondDiscard
        : null;

    public async Task<IActionResult> OnPostAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        await ShowAsync(cancel);
        if (Record.Part.Outcome is not null)
            return Redirect($"/part/{Tag}");
        if (Reason?.Length > LongestReason)
            ModelState.AddModelError(nameof(Reason), Words.Say("form.atMost", LongestReason));
        if (IsStale())
            return Page();
        LeadSigned? signed = null;
        var aside = Kind switch
        {
            OutcomeKind.Scrapped => AsScrap(),
            OutcomeKind.Shelved => AsShelved(),
            _ => null,
        };
        if (Kind == OutcomeKind.Released && (signed = await AsReleasedAsync(cancel)) is not null)
            aside = new(SignatureId: signed.Id, SignedById: signed.SignedById);
        await using var _ = signed;
        if (!ModelState.IsValid || Trouble is not null)
            return Page();
        // The database has the last word: it refuses what must not leave, whoever asks.
        var outcome = ReleaseCommands.Close(Record.Part, Kind, Reason, NeedsLead && Kind == OutcomeKind.Released, Actor, aside);
        if (!await SaveSignedAsync(signed, cancel))
            return await ShowAgainAsync(cancel);
        await CertificateStore.EnsureAsync(Db, Record.Part, Record.Shop, outcome.At, cancel);
        return Redirect($"/tag/{Tag}");
    }

    private OutcomeAside AsScrap()
    {
        if (CausePicked is null)
            ModelState.AddModelError(nameof(Cause), Words.Say("release.pickWhyItIsScrap"));
        if (string.IsNullOrWhiteSpace(Reason))
            ModelState.AddModelError(nameof(Reason), Words.Say("release.sayInAFewWords"));
        if (!Marked)
            ModelState.AddModelError(nameof(Marked), Words.Say("release.makeItUnusableFirstThen"));
        return new(Cause: CausePicked);
    }

    private OutcomeAside AsShelved()
    {
        foreach (
            var (field, text, what) in new[]
            {
                (nameof(Place), Place, "Say where it lies."),
                (nameof(Preservative), Preservative, "Say what keeps the rust off."),
            }
        )
            if (string.IsNullOrWhiteSpace(text))
                ModelState.AddModelError(field, what);
            else if (text.Length > LongestPlace)
                ModelState.AddModelError(field, Words.Say("form.atMost", LongestPlace));
        return new(Place: Place, Preservative: Preservative);
    }

    private async Task<LeadSigned?> AsReleasedAsync(CancellationToken cancel)
    {
        if (!MayRelease)
        {
            Trouble = Words.Say(
                IsBeyond ? "db.UN004"
                : !AllConfirmed ? "db.UN005"
                : "release.notHere"
            );
            return null;
        }
        if (!NeedsLead)
            return null;
        if (string.IsNullOrWhiteSpace(Reason))
            ModelState.AddModelError(nameof(Reason), Words.Say("release.betweenTheLimitsALead"));
        if (!ModelState.IsValid)
            return null;
        var subject = Signature.OfConfirmations(
            Surfaces.Where(s => s.Confirming.Holding is { Decision: Decision.LeadOnly }).Select(s => s.Confirming.Holding!.Id)
        );
        return await signature.SignAsync(Lead, LeadPin, Part.Id, SignedFor.BetweenLimits, subject, Reason!, ModelState, cancel);
    }

    protected override async Task<IActionResult> ShowAsync(CancellationToken cancel)
    {
        Surfaces = [.. Part.Surfaces.Select(s => new SurfaceRecord(s, Part, Record.Shop))];
        if (NeedsLead)
            Leads = await signature.LeadsAsync(cancel);
        return Part.Outcome is null ? Page() : Redirect($"/part/{Tag}");
    }
}
