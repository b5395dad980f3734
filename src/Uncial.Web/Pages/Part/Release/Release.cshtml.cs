using Microsoft.AspNetCore.Mvc;
using Uncial.Core.Parts;
using Uncial.Core.Release;
using Uncial.Core.Vehicles;
using Uncial.Data;
using Uncial.Data.Queries;
using Uncial.Web.Accounts;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>Release, shelve or scrap: the end of a part's workflow in this job.</summary>
public class ReleaseModel(UncialDb db, ShopFile shop, Reader reader, TimeProvider time, Practising practising)
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

    /// <summary>What on the shelf fits in place of scrap; null where nobody has looked: practice has no shelf.</summary>
    public IReadOnlyList<(ShelfOffer Offer, IReadOnlyList<OnShelf> Parts)>? OnShelf { get; private set; }

    /// <summary>Whether the whole part may leave.</summary>
    public ReleaseState State { get; private set; } = null!;

    public bool IsBeyond => State.IsBeyond;
    public bool NeedsLead => State.NeedsLead;
    public bool MayRelease => State.Refuses is null;

    public OutcomeKind Kind =>
        As switch
        {
            "shelve" when !IsBeyond => OutcomeKind.Shelved,
            "scrap" => OutcomeKind.Scrapped,
            _ => IsBeyond ? OutcomeKind.Scrapped : OutcomeKind.Released,
        };

    /// <summary>What is done by hand with a part that leaves so, in words.</summary>
    public IEnumerable<string> Steps =>
        (
            Kind switch
            {
                OutcomeKind.Scrapped => (string[])
                    ["stepNotch", "stepOtherSide", OnShelf is { Count: 0 } ? "stepNothingOnShelf" : "stepOrder", "stepScrapIron"],
                OutcomeKind.Shelved => ["stepWashForShelf", "stepLayFlat", "stepTagStays"],
                _ when Part.Surfaces[0].Kind == PartKind.Rotor => ["stepCrossHatch", "stepWashFaces", "stepIndexMark", "stepSwarf"],
                _ => ["stepWashBore", "stepHubbed", "stepIndexMark", "stepSwarf"],
            }
        ).Select(step => Words.Say("release." + step));

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
        var reason = ReadText(
            Reason,
            LongestReason,
            Kind == OutcomeKind.Scrapped ? "release.sayInAFewWords"
                : Kind == OutcomeKind.Released && NeedsLead && MayRelease ? "release.betweenTheLimitsALead"
                : null
        );
        var aside = Kind switch
        {
            OutcomeKind.Scrapped => AsScrap(),
            OutcomeKind.Shelved => AsShelved(),
            _ => null,
        };
        return ModelState.IsValid
            ? await AnswerAsync(await ReleaseCommands.ReleaseAsync(Action, Kind, reason, aside, cancel), $"/tag/{Tag}", cancel)
            : Page();
    }

    private OutcomeAside AsScrap()
    {
        if (CausePicked is null)
            Reject(nameof(Cause), Words.Say("release.pickWhyItIsScrap"));
        if (!Marked)
            Reject(nameof(Marked), Words.Say("release.makeItUnusableFirstThen"));
        return new(Cause: CausePicked);
    }

    private OutcomeAside AsShelved() =>
        new(
            Place: ReadText(Place, LongestPlace, "release.sayWhereItLies"),
            Preservative: ReadText(Preservative, LongestPlace, "release.whatKeepsRustOff")
        );

    protected override async Task<IActionResult> ShowAsync(CancellationToken cancel)
    {
        Surfaces = [.. Part.Surfaces.Select(s => new SurfaceRecord(s, Part, Record.Shop))];
        State = ReleaseState.Of([.. Surfaces.Select(s => s.State)], Record.Shop.Rules);
        if (Kind == OutcomeKind.Scrapped && !practising.Is)
            OnShelf = await Db.OffersAsync(Surfaces[0], cancel);
        if (NeedsLead)
            Leads = await Db.LeadsAsync(cancel);
        return Part.Outcome is null ? Page() : Redirect($"/part/{Tag}");
    }
}
