using Microsoft.AspNetCore.Mvc;
using Uncial.Core.Parts;
using Uncial.Core.Reasoning;
using Uncial.Data;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>What the pages of a part have in common: finding it, who acts, and noticing that somebody else was faster.</summary>
public abstract class PartPage(UncialDb db, ShopFile shop, Reader reader, TimeProvider time) : FormPage(reader, time)
{
    [BindProperty(SupportsGet = true)]
    public string Tag { get; set; } = "";

    /// <summary>Which work surface of the part, from 1.</summary>
    [BindProperty(SupportsGet = true)]
    public int Number { get; set; } = 1;

    /// <summary>State of the surface when the page was made.</summary>
    [BindProperty]
    public int Turn { get; set; }

    public SurfaceRecord Record { get; private set; } = null!;
    public Part Part => Record.Part;
    public Limits Limits => Record.Receiving.Limits!;
    public bool IsRotor => Record.Kind == PartKind.Rotor;

    protected UncialDb Db => db;
    protected ShopFile ShopFile => shop;

    /// <summary>An action on the surface as the page has shown it.</summary>
    protected PartAction Action => new(db, Record, Turn, Actor, SignatureTyped);

    protected abstract Station At { get; }

    public string Href(Station station) => RailView.Href(Record, Number, station);

    /// <summary>Name of the part and, where it has two, of the surface.</summary>
    public string Title =>
        Words.Of(Part, Part.Surfaces[0]) + (Part.Surfaces.Count > 1 ? Words.Say(Record.Surface.InHat ? "part.hatDrum" : "part.faces") : "");

    public string Subtitle => Words.Say("part.job", Part.Job!.Vehicle, Part.Job.Number);

    /// <summary>How the page's figures were worked out, in parts; none where a page has nothing to show for it.</summary>
    public virtual IReadOnlyList<(string Head, IReadOnlyList<Step> Steps)> Worked => [];

    /// <summary>The steps of the standing readings.</summary>
    protected (string Head, IReadOnlyList<Step> Steps) WorkedReadings =>
        (
            Words.Say("part.theReadings"),
            Record.Receiving.Limits is null ? []
            : IsRotor ? Record.Measuring.RotorFigures.Steps
            : Record.Measuring.DrumFigures.Steps
        );

    /// <summary>Loads the part; null where all is well, otherwise where to go instead.</summary>
    protected async Task<IActionResult?> LoadAsync(CancellationToken cancel)
    {
        var part = await shop.PartAsync(Tag, cancel);
        if (part is null || Number < 1 || Number > part.Surfaces.Count)
            return NotFound();
        Record = new(part.Surfaces[Number - 1], part, await shop.ShopAsync(cancel));
        Loaded();
        ViewData["Title"] = Title;
        ViewData["Rail"] = RailView.Of(Record, Number, At);
        // A crack, or that it must not be turned, stops the part where it was found.
        if (
            Record.Inspection.End is not null
            && part.Outcome is null
            && At is (Station.Mount or Station.Plan or Station.Cut or Station.Confirm or Station.Release)
        )
            return Redirect($"/look/{Tag}/{Number}");
        if (Record.Receiving.Limits is null && this is not InspectModel && At != Station.Receive && At != Station.Release)
            return Redirect(Href(Station.Receive));
        return null;
    }

    /// <summary>Takes what the measured cuts of the head that cuts it say into plans and judgement.</summary>
    /// <returns>Whether a measured cut on record has verified its dial.</returns>
    protected async Task<bool> LoadHeadAsync(CancellationToken cancel)
    {
        var (lathe, kind) = (Record.Lathe, Record.Kind);
        Record.Use(await shop.AnswerAsync($"head {lathe.Id} {kind}", d => LatheQueries.LedgerAsync(d, lathe, kind, cancel), cancel));
        return await shop.AnswerAsync($"dial {lathe.Id} {kind}", d => LatheQueries.DialIsConfirmedAsync(d, lathe, kind, cancel), cancel);
    }

    /// <summary>Whether a surface can be confirmed beside another one without a word more.</summary>
    protected async Task<bool> IsReadyAsync(SurfaceRecord record, SurfaceRecord beside, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(record);
        ArgumentNullException.ThrowIfNull(beside);
        if (record.Station < Station.Confirm)
            return false;
        var (lathe, kind) = (record.Lathe, record.Kind);
        record.Use(await shop.AnswerAsync($"head {lathe.Id} {kind}", d => LatheQueries.LedgerAsync(d, lathe, kind, cancel), cancel));
        return PairOrder.IsReady(record.State, PairOrder.Compare(record.State, beside.State, record.Shop.Rules));
    }

    /// <summary>On the one lathe of practice nobody is told step by step what is done at the bench beside it.</summary>
    protected Familiarity AtBench(Familiarity known)
    {
        ArgumentNullException.ThrowIfNull(known);
        return Uncial.Data.Practice.Attempt.IdOf(Tag) is null
            ? known
            : known with
            {
                MountsOnLathe = Familiarity.KnowsLatheFrom,
                MountsWithAdapter = 1,
            };
    }

    /// <summary>What a page does as soon as the part is there.</summary>
    protected virtual void Loaded() { }

    /// <summary>Goes on where an action was done; otherwise shows the page as it is now, with why it was refused.</summary>
    protected async Task<IActionResult> AnswerAsync<T>(Result<T> result, Func<T, string> next, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(next);
        if (result.Refusal is not { } refusal)
            return Redirect(next(result.Value));
        Tell(refusal);
        return await ShowAgainAsync(cancel);
    }

    protected Task<IActionResult> AnswerAsync<T>(Result<T> result, string next, CancellationToken cancel) =>
        AnswerAsync(result, _ => next, cancel);

    /// <summary>Forgets what could not be saved and shows what is on record now.</summary>
    protected async Task<IActionResult> ShowAgainAsync(CancellationToken cancel)
    {
        db.ChangeTracker.Clear();
        return await LoadAsync(cancel) ?? await ShowAsync(cancel);
    }

    /// <summary>Fills the page for showing.</summary>
    protected abstract Task<IActionResult> ShowAsync(CancellationToken cancel);

    public virtual async Task<IActionResult> OnGetAsync(CancellationToken cancel) => await LoadAsync(cancel) ?? await ShowAsync(cancel);

    /// <summary>
    /// The same surface of the other part of the axle, where its stock rule stands beside this one on a wide screen; null where there is
    /// none, or it was not looked up.
    /// </summary>
    public SurfaceRecord? Across { get; protected set; }

    /// <summary>The first of them that is still here; null where there is none.</summary>
    protected async Task<SurfaceRecord?> FellowAsync(CancellationToken cancel) =>
        (await FellowsAsync(cancel)).FirstOrDefault(f => f.Part.Outcome is null);

    /// <summary>Address of a surface of the other part at the station where it waits.</summary>
    public string HrefOf(SurfaceRecord other)
    {
        ArgumentNullException.ThrowIfNull(other);
        return RailView.Href(other, Number, other.Station);
    }

    /// <summary>The same surface of the part on the other side of the axle; none where there is no other side here.</summary>
    protected async Task<IReadOnlyList<SurfaceRecord>> FellowsAsync(CancellationToken cancel)
    {
        return Part.Corner.Opposite() is not { } other
            ? []
            :
            [
                .. (await ShopFile.SiblingsAsync(Part, cancel))
                    .Where(p => p.Corner == other)
                    .SelectMany(p =>
                        p.Surfaces.Where(s => s.Kind == Record.Kind && s.InHat == Record.Surface.InHat)
                            .Select(s => new SurfaceRecord(s, p, Record.Shop))
                    ),
            ];
    }
}
