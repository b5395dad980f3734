using Microsoft.AspNetCore.Mvc;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Reasoning;
using Uncial.Core.Release;
using Uncial.Data;
using Uncial.Web.Charts;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>One part of an axle beside the other.</summary>
/// <param name="Record">The surface.</param>
/// <param name="Judgement">Its judgement as it stands; null before it is measured again.</param>
/// <param name="IsReady">It can be confirmed without a word more.</param>
public sealed record PairPart(SurfaceRecord Record, Judgement? Judgement, bool IsReady)
{
    /// <summary>As in “Front left”.</summary>
    public string Name => Words.Say("corner." + Record.Part.Corner);
}

/// <summary>
/// Both parts of an axle: before and after side by side, confirmed and released together. The left one is shown on the left.
/// </summary>
public class PairModel(UncialDb db, ShopFile shop, Reader reader, TimeProvider time) : PartPage(db, shop, reader, time)
{
    /// <summary>Both are off the lathe, washed and dry.</summary>
    [BindProperty]
    public bool OffClean { get; set; }

    /// <summary>State of the other surface when the page was made.</summary>
    [BindProperty]
    public int OtherTurn { get; set; }

    protected override Station At => Station.Confirm;

    public PairPart Left { get; private set; } = null!;
    public PairPart Right { get; private set; } = null!;
    public IReadOnlyList<PairPart> Both => [Left, Right];
    public PairCheck Check { get; private set; } = null!;

    /// <summary>The surface that the page was asked for by its address, and the other one.</summary>
    public SurfaceRecord Other { get; private set; } = null!;

    public bool MayConfirm => Left.IsReady && Right.IsReady && Both.Any(p => p.Record.Confirming.Holding is null);

    public bool MayRelease => Both.All(p => ReleaseOf(p.Record) is { Refuses: null, NeedsLead: false });

    public override IReadOnlyList<(string Head, IReadOnlyList<Step> Steps)> Worked =>
        [
            (Words.Say("confirm.thePair"), Check.Steps),
            .. Both.Where(p => p.Judgement is not null).Select(p => (p.Name, p.Judgement!.Steps)),
        ];

    public async Task<IActionResult> OnPostConfirmAsync(CancellationToken cancel)
    {
        if (await LoadBothAsync(cancel) is { } elsewhere)
            return elsewhere;
        if (!OffClean)
            Reject(nameof(OffClean), Words.Say("confirm.aPartWarmFromCutting"));
        if (!ModelState.IsValid)
            return Page();
        return await EndAsync(await PairCommands.ConfirmAsync(Action, OtherAction, OffClean, cancel), Request.Path, cancel);
    }

    public async Task<IActionResult> OnPostReleaseAsync(CancellationToken cancel)
    {
        if (await LoadBothAsync(cancel) is { } elsewhere)
            return elsewhere;
        return await EndAsync(
            await PairCommands.ReleaseAsync(Action, OtherAction, cancel),
            $"/tag/{Left.Record.Part.Tag}?with={Right.Record.Part.Tag}",
            cancel
        );
    }

    private PartAction OtherAction => new(Db, Other, OtherTurn, Actor);

    private async Task<IActionResult> EndAsync(Refusal? refusal, string then, CancellationToken cancel)
    {
        if (refusal is null)
            return Redirect(then);
        Tell(refusal);
        return await ShowAgainAsync(cancel);
    }

    /// <summary>Loads both, to be added to; null where all is well.</summary>
    private async Task<IActionResult?> LoadBothAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        return await PutTogetherAsync(track: true, cancel) ? null : Redirect(Href(Record.Station));
    }

    protected override async Task<IActionResult> ShowAsync(CancellationToken cancel)
    {
        if (Part.Outcome is not null)
            return Redirect($"/part/{Tag}");
        return await PutTogetherAsync(track: false, cancel) ? Page() : Redirect(Href(Record.Station));
    }

    private async Task<bool> PutTogetherAsync(bool track, CancellationToken cancel)
    {
        if (Part.Corner.Opposite() is not { } corner)
            return false;
        var parts = track ? await Db.PartsOfJobAsync(Part.Job!.Number, track: true, cancel) : await ShopFile.SiblingsAsync(Part, cancel);
        if (parts.FirstOrDefault(p => p.Corner == corner && p.Outcome is null && p.Surfaces.Count == Part.Surfaces.Count) is not { } part)
            return false;
        Other = new(part.Surfaces[Number - 1], part, Record.Shop);
        if (Other.Kind != Record.Kind || Other.Receiving.Limits is null)
            return false;
        var (mine, other) = (await OfAsync(Record, Other, cancel), await OfAsync(Other, Record, cancel));
        (Left, Right) = Part.Corner is Corner.FrontLeft or Corner.RearLeft ? (mine, other) : (other, mine);
        Check = PairOrder.Compare(Record.State, Other.State, Record.Shop.Rules);
        return true;
    }

    private async Task<PairPart> OfAsync(SurfaceRecord record, SurfaceRecord beside, CancellationToken cancel)
    {
        var ready = await IsReadyAsync(record, beside, cancel);
        return new(record, record.Station < Station.Confirm ? null : record.Confirming.Judge(readingsAreFit: true), ready);
    }

    private static ReleaseState ReleaseOf(SurfaceRecord record) =>
        ReleaseState.Of([.. record.Part.Surfaces.Select(s => new SurfaceRecord(s, record.Part, record.Shop).State)], record.Shop.Rules);

    /// <summary>The stock rule of one part, at the scale of both.</summary>
    internal StockRuleView RuleOf(PairPart part)
    {
        ArgumentNullException.ThrowIfNull(part);
        var (mine, other) = (
            Readings.BeforeAndAfter(part.Record, Reader),
            Readings.BeforeAndAfter((part == Left ? Right : Left).Record, Reader)
        );
        return mine with { Beside = other, Key = part == Left ? "-l" : "-r" };
    }

    /// <summary>Verdict of a part in a mark, a word and a colour.</summary>
    public static (string Mark, string Word, string Css) WordsOf(PairPart part)
    {
        ArgumentNullException.ThrowIfNull(part);
        return part switch
        {
            { Record.Confirming.Holding: not null } => ("within", Words.Say("pair.confirmed"), "is-blue"),
            { Judgement: null } => ("toread", Words.Say("pair.at", Words.Say("station." + part.Record.Station).ToLowerInvariant()), ""),
            { IsReady: true } => ("within", Words.Say("confirm.withinLimit"), "is-blue"),
            { Judgement.Decision: Decision.Never } => ("over", Words.Say("confirm.beyondDiscard"), "is-over"),
            _ => ("close", Words.Say("pair.notReady"), "is-brass"),
        };
    }

    /// <summary>What is left of a part at worst to a limit; null where it cannot be said yet.</summary>
    public static Length? LeftTo(PairPart part, Length limit)
    {
        ArgumentNullException.ThrowIfNull(part);
        return part.Judgement?.AtWorst(part.Record.Kind, part.Record.Measuring.Uncertainty) is { } worst
            ? Limits.Margin(part.Record.Kind, worst, limit)
            : null;
    }
}
