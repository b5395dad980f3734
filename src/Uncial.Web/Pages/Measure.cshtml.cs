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

    public override bool IsOpen => Record.CutsDone == 0 && Record.Part.Outcome is null;

    public RotorFigures? Rotor { get; private set; }
    public DrumFigures? Drum { get; private set; }
    public IReadOnlyList<Note> Notes { get; private set; } = [];
    public Verdict Verdict { get; private set; }
    public bool MayPlan { get; private set; }

    public IReadOnlyList<(ReadingKind Kind, string Label)> FigureFields => IsRotor ? FaceFigures : BoreFigures;

    /// <summary>The gauge that may send a figure, or null where it is read by eye.</summary>
    public int? LiveGaugeFor(ReadingKind kind) => Record.Shop.GaugeFor(kind) is { Address: not null } gauge ? gauge.Id : null;

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
        foreach (var (kind, typed) in changed) Journey.Read(Record, kind, null, typed, Reader.Unit, Record.Shop.GaugeFor(kind), Hand);
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
