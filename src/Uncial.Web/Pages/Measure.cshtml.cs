using Microsoft.AspNetCore.Mvc;
using Uncial.Core;
using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Parts;
using Uncial.Core.Reasoning;
using Uncial.Core.Release;
using Uncial.Data;
using Uncial.Web.Wording;

namespace Uncial.Web.Pages;

/// <summary>A page on which a size is read place by place: before the cut and after it.</summary>
public abstract class ReadingPage(UncialDb db, ShopFile shop, Reader reader, TimeProvider time) : PartPage(db, shop, reader, time)
{
    [BindProperty(SupportsGet = true, Name = "at")] public decimal? AtDegrees { get; set; }
    [BindProperty(SupportsGet = true, Name = "depth")] public decimal? AtDepth { get; set; }
    [BindProperty] public string? Entry { get; set; }
    [BindProperty] public string? Insisted { get; set; }
    [BindProperty] public string? Reason { get; set; }

    /// <summary>The place to be read now; null where all are read and none is picked.</summary>
    public ReadingPlace? Place { get; private set; }

    /// <summary>Readings that stand at this place.</summary>
    public IReadOnlyList<ReadingEntry> Here { get; private set; } = [];

    /// <summary>The question that the operator may answer by pressing again.</summary>
    public string? Question { get; private set; }

    public string PlaceName => Place is not { } place ? "" : IsRotor ? $"{Words.Clock(place.Degrees)} o’clock" : $"axis {Words.Clock(place.Degrees)}";

    public string DepthName => Place?.Station is not { } depth ? ""
        : Record.Surface.DepthsMm is [_, ..] depths && depths.Length > 1
            ? (Array.IndexOf(depths, depth.Millimetres) switch { 0 => "Open edge", var i when i == depths.Length - 1 => "Deep", _ => "Middle" }) + $", {Reader.With(depth)} in"
            : $"{Reader.With(depth)} in";

    public override async Task<IActionResult> OnGetAsync(CancellationToken cancel) => await LoadAsync(cancel) ?? await ShowAsync(cancel);

    public async Task<IActionResult> OnPostKeepAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere) return elsewhere;
        if (Record.Part.Outcome is not null) { Trouble = Words.Say("db.UN002"); return await ShowAsync(cancel); }
        PickPlace();
        var typed = ReadLength(nameof(Entry), Entry, Reader.Unit);
        if (typed is null || Place is not { } place || IsStale()) return await ShowAsync(cancel);
        // Insisting holds for the figure that was questioned, not for another typed over it.
        if (Plausibility.Question(typed.Value, Limits) is { } doubt && Insisted != Entry)
        {
            Question = Words.Of(doubt, typed.Value, Limits, Reader.Unit);
            return await ShowAsync(cancel);
        }
        Journey.Read(Record, ReadingKind.Size, place, typed, Reader.Unit, Insisted == Entry, Hand);
        if (!await SaveAsync(cancel)) return await ShowAgainAsync(cancel);
        return Redirect(Request.Path);
    }

    public async Task<IActionResult> OnPostWithdrawAsync(long reading, CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere) return elsewhere;
        PickPlace();
        var entry = Record.Surface.Readings.Find(r => r.Id == reading && r.Withdrawal is null);
        if (string.IsNullOrWhiteSpace(Reason)) ModelState.AddModelError(nameof(Reason), "Say why it is taken back.");
        if (entry is null || !ModelState.IsValid || IsStale()) return await ShowAsync(cancel);
        Journey.Withdraw(Record, entry, Reason!.Trim(), Hand);
        if (!await SaveAsync(cancel)) return await ShowAgainAsync(cancel);
        return Redirect(Request.Path + (Place is { } place ? Readings.Query(place) : ""));
    }

    protected void PickPlace()
    {
        Place = AtDegrees is { } degrees
            ? new(ClockAngle.FromDegrees(degrees).Degrees, AtDepth is { } depth ? Length.FromMillimetres(depth) : Record.Places[0].Station)
            : Record.NextPlace;
        Here = Place is { } place ? [.. Record.Sizes.Where(r => r.Degrees == place.Degrees && r.Station == place.Station)] : [];
    }
}

/// <summary>Measure: the readings before the cut, with least, greatest, variation, stock and verdict live beside the entry.</summary>
public class MeasureModel(UncialDb db, ShopFile shop, Reader reader, TimeProvider time) : ReadingPage(db, shop, reader, time)
{
    /// <summary>The figures of whole faces or of the bore, in the order of the form.</summary>
    public static IReadOnlyList<(ReadingKind Kind, string Label)> FaceFigures { get; } =
    [
        (ReadingKind.RunoutOuter, "Run-out, outer"), (ReadingKind.GrooveOuter, "Groove, outer"), (ReadingKind.ReliefOuter, "Relief, outer"),
        (ReadingKind.RunoutInner, "Run-out, inner"), (ReadingKind.GrooveInner, "Groove, inner"), (ReadingKind.ReliefInner, "Relief, inner"),
    ];

    public static IReadOnlyList<(ReadingKind Kind, string Label)> BoreFigures { get; } =
        [(ReadingKind.Eccentricity, "Off centre on the spindle"), (ReadingKind.Groove, "Groove, deepest")];

    [BindProperty] public Dictionary<ReadingKind, string?> Figures { get; set; } = [];

    public override IReadOnlyList<(string Head, IReadOnlyList<Step> Steps)> Worked => [WorkedReadings];

    protected override Station At => Station.Measure;

    public RotorFigures? Rotor { get; private set; }
    public DrumFigures? Drum { get; private set; }
    public IReadOnlyList<Note> Notes { get; private set; } = [];
    public Verdict Verdict { get; private set; }
    public bool MayPlan { get; private set; }

    public IReadOnlyList<(ReadingKind Kind, string Label)> FigureFields => IsRotor ? FaceFigures : BoreFigures;

    public string? FigureValue(ReadingKind kind) => Figures.TryGetValue(kind, out var typed) ? typed
        : Record.Figure(kind) is { } entry ? entry.Value == Length.Zero ? "0" : Reader.Reading(entry.Value) : null;

    public async Task<IActionResult> OnPostFiguresAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere) return elsewhere;
        List<(ReadingKind Kind, TypedLength Typed)> changed = [];
        foreach (var (kind, _) in FigureFields)
        {
            if (!Figures.TryGetValue(kind, out var text) || string.IsNullOrWhiteSpace(text)) continue;
            var typed = ReadLength($"Figures[{kind}]", text, Reader.Unit, allowZero: true);
            // What the field showed is what is on record, rounded for the reader; only what was typed anew is a fact.
            var shown = Record.Figure(kind) is { } entry ? entry.Value == Length.Zero ? "0" : Reader.Reading(entry.Value) : null;
            if (typed is not null && text.Trim() != shown) changed.Add((kind, typed));
        }
        if (!ModelState.IsValid || IsStale()) return await ShowAsync(cancel);
        foreach (var (kind, typed) in changed) Journey.Read(Record, kind, null, typed, Reader.Unit, false, Hand);
        if (changed.Count > 0 && !await SaveAsync(cancel)) return await ShowAgainAsync(cancel);
        return Redirect(Request.Path + Request.QueryString.Value?.Replace("?handler=Figures", "", StringComparison.Ordinal));
    }

    protected override Task<IActionResult> ShowAsync(CancellationToken cancel)
    {
        PickPlace();
        if (IsRotor) (Rotor, Notes, Verdict) = Record.RotorFigures is var r ? (r, r.Notes, r.MachineToVerdict) : default;
        else (Drum, Notes, Verdict) = Record.DrumFigures is var d ? (d, d.Notes, d.MachineToVerdict) : default;
        MayPlan = Record.CutsDone == 0 && (IsRotor ? Rotor!.Places >= 3 : Drum!.Axes >= 2) && Record.Part.Outcome is null;
        return Task.FromResult<IActionResult>(Page());
    }

    /// <summary>The verdict in a mark, a word and a colour.</summary>
    public (string Mark, string Word, string Css) VerdictWords => (IsRotor ? Rotor!.DiscardVerdict : Drum!.DiscardVerdict, Verdict) switch
    {
        (Verdict.NotEnough, _) => ("toread", IsRotor ? "Read three places for a verdict" : "Read two axes for a verdict", ""),
        (Verdict.Beyond, _) => ("over", "Beyond discard: scrap", "is-over"),
        (Verdict.TooClose, _) => ("close", "Too close to discard to call", "is-brass"),
        (_, Verdict.Beyond) => ("close", "Inside discard, nothing left to cut", "is-brass"),
        (_, Verdict.TooClose) => ("close", "Close to machine-to", "is-brass"),
        _ => ("within", "Within machine-to", "is-blue"),
    };
}
