using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Reasoning;
using Uncial.Data;
using Uncial.Web.Accounts;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>What the pages of a part have in common: finding it, who acts, and noticing that somebody else was faster.</summary>
public abstract class PartPage(UncialDb db, ShopFile shop, Reader reader, TimeProvider time) : PageModel
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

    /// <summary>Something that went wrong with the action as a whole.</summary>
    public string? Trouble { get; protected set; }

    /// <summary>The lead who signs, where somebody has to.</summary>
    [BindProperty]
    public int? Lead { get; set; }

    [BindProperty]
    public string? LeadPin { get; set; }

    /// <summary>Those who may sign; loaded where a signature is asked for.</summary>
    public IReadOnlyList<Operator> Leads { get; protected set; } = [];

    public LeadFields LeadFields => new(Leads, Lead, WrongWith(LeadSignature.WhoField), WrongWith(LeadSignature.PinField));

    protected UncialDb Db => db;
    protected ShopFile ShopFile => shop;
    protected Reader Reader => reader;
    protected Actor Actor => new(reader.OperatorId, time.GetUtcNow());

    protected abstract Station At { get; }

    public string Href(Station station) => RailView.Href(Record, Number, station);

    /// <summary>Name of the part and, where it has two, of the surface.</summary>
    public string Title =>
        Words.Of(Part, Part.Surfaces[0]) + (Part.Surfaces.Count > 1 ? (Record.Surface.InHat ? ", hat drum" : ", faces") : "");

    public string Subtitle => $"{Part.Job!.Vehicle}, job {Part.Job.Number}";

    /// <summary>How the page's figures were worked out, in parts; none where a page has nothing to show for it.</summary>
    public virtual IReadOnlyList<(string Head, IReadOnlyList<Step> Steps)> Worked => [];

    /// <summary>The steps of the standing readings.</summary>
    protected (string Head, IReadOnlyList<Step> Steps) WorkedReadings =>
        (
            "The readings",
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

    /// <summary>What a page does as soon as the part is there.</summary>
    protected virtual void Loaded() { }

    /// <summary>Reads the surface anew after a fact was added in the same action.</summary>
    protected void Reread() => Record = new(Record.Surface, Record.Part, Record.Shop);

    /// <summary>Notices an action on a page that was made before somebody else's fact.</summary>
    protected bool IsStale()
    {
        if (Turn == Record.Surface.Turn)
            return false;
        var last = Record
            .Surface.Readings.Cast<PartFact>()
            .Concat(Record.Surface.Plans)
            .Concat(Record.Surface.Passes)
            .Concat(Record.Surface.Confirmations)
            .Concat(Record.Surface.LimitEntries)
            .Concat(Record.Surface.SetUpDecisions)
            .Newest();
        Trouble =
            $"{last?.ByName ?? "Somebody"} has added to this part since you looked. It is shown now; nothing of yours is lost. Press again if it still holds.";
        return true;
    }

    /// <summary>Saves, or says in the shop's words why the database refused.</summary>
    protected async Task<bool> SaveAsync(CancellationToken cancel)
    {
        try
        {
            await db.SaveChangesAsync(cancel);
            return true;
        }
        catch (DbUpdateConcurrencyException)
        {
            Trouble = Words.Say("part.somebodyElseAddedToThis");
        }
        catch (DbUpdateException e)
            when (e.InnerException is PostgresException { SqlState: var state } && state.StartsWith("UN", StringComparison.Ordinal))
        {
            Trouble = Words.Say("db." + state);
        }
        catch (DbUpdateException e) when (e.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
        {
            Trouble = Words.Say("part.somebodyElseDidTheSame");
        }
        return false;
    }

    /// <summary>
    /// Saves a decision together with its signature, or says why the database refused; then the signature is taken back too.
    /// </summary>
    protected async Task<bool> SaveSignedAsync(LeadSigned? by, CancellationToken cancel)
    {
        if (!await SaveAsync(cancel))
        {
            if (by is not null)
                await by.Transaction.RollbackAsync(cancel);
            return false;
        }
        if (by is not null)
            await by.Transaction.CommitAsync(cancel);
        return true;
    }

    /// <summary>Forgets what could not be saved and shows what is on record now.</summary>
    protected async Task<IActionResult> ShowAgainAsync(CancellationToken cancel)
    {
        db.ChangeTracker.Clear();
        return await LoadAsync(cancel) ?? await ShowAsync(cancel);
    }

    /// <summary>Fills the page for showing.</summary>
    protected abstract Task<IActionResult> ShowAsync(CancellationToken cancel);

    public virtual async Task<IActionResult> OnGetAsync(CancellationToken cancel) => await LoadAsync(cancel) ?? await ShowAsync(cancel);

    /// <summary>Reads a typed length of a field, or puts what is wrong at the field.</summary>
    protected TypedLength? ReadLength(string field, string? text, LengthUnit unit, bool allowZero = false)
    {
        var result = LengthParser.Parse(text, unit, allowZero);
        if (result.Typed is { } typed && allowZero && typed.Value.Millimetres > 50)
        {
            ModelState.AddModelError(field, Words.Say("fault.tooDeep"));
            return null;
        }
        if (result.Fault is { } fault)
            ModelState.AddModelError(field, Words.Of(fault, unit));
        return result.Typed;
    }

    /// <summary>What is wrong with a field, or null.</summary>
    public string? WrongWith(string field) =>
        ModelState.TryGetValue(field, out var state) ? state.Errors.FirstOrDefault()?.ErrorMessage : null;

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
