using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Uncial.Core;
using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Reasoning;
using Uncial.Core.Release;
using Uncial.Data;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>Measure: the readings before the cut, with least, greatest, variation, stock and verdict live beside the entry.</summary>
public class MeasureModel(UncialDb db, ShopFile shop, Reader reader, TimeProvider time) : ReadingPage(db, shop, reader, time)
{
    /// <summary>Whether it is worth cutting; null until all places are read.</summary>
    public WorthCutting? Worth { get; private set; }

    /// <summary>What scuffing alone would leave, where it is allowed.</summary>
    public ScuffOnly? Scuff { get; private set; }

    /// <summary>What scuffing alone would leave, in words; empty where it is not allowed.</summary>
    public string ScuffSentence =>
        Scuff is not { Allowed: true } scuff ? ""
        : !Record.Measuring.GroovesLookedAt ? Words.Say("measure.scuffLeavesWhatNobodyLookedAt")
        : scuff.GrooveStays > Length.Zero ? Words.Say("measure.scuffLeaves", Reader.Figure(scuff.GrooveStays, Toward.Greater))
        : Words.Say("measure.scuffLeavesNoGroove");

    /// <summary>The figures of whole faces or of the bore, in the order of the form.</summary>
    public static IReadOnlyList<(ReadingKind Kind, string Label)> FaceFigures =>
        [
            (ReadingKind.RunoutOuter, Words.Say("measure.runOutOuter")),
            (ReadingKind.GrooveOuter, Words.Say("measure.grooveOuter")),
            (ReadingKind.ReliefOuter, Words.Say("measure.lowLandOuter")),
            (ReadingKind.RunoutInner, Words.Say("measure.runOutInner")),
            (ReadingKind.GrooveInner, Words.Say("measure.grooveInner")),
            (ReadingKind.ReliefInner, Words.Say("measure.lowLandInner")),
        ];

    public static IReadOnlyList<(ReadingKind Kind, string Label)> BoreFigures =>
        [
            (ReadingKind.Eccentricity, Words.Say("measure.offCentre")),
            (ReadingKind.Groove, Words.Say("measure.groove")),
            (ReadingKind.Relief, Words.Say("measure.lowLand")),
        ];

    [BindProperty]
    public string? NewPrice { get; set; }

    [BindProperty]
    public string? KmSinceNew { get; set; }

    [BindProperty(Name = nameof(Figures))]
    public Dictionary<ReadingKind, LengthInput?> Figures { get; set; } = [];

    public override IReadOnlyList<(string Head, IReadOnlyList<Step> Steps)> Worked =>
        Worth is null ? [WorkedReadings] : [WorkedReadings, (Words.Say("measure.worthCutting"), Worth.Steps)];

    protected override Station At => Station.Measure;

    public override bool IsOpen =>
        (Record.CutsDone == 0 || Record is { Planning.Change: not null, Planning.CanPlanAnew: false }) && Record.Part.Outcome is null;

    public RotorFigures? Rotor { get; private set; }
    public DrumFigures? Drum { get; private set; }
    public IReadOnlyList<Note> Notes { get; private set; } = [];
    public Verdict Verdict { get; private set; }
    public bool MayPlan { get; private set; }

    public IReadOnlyList<(ReadingKind Kind, string Label)> FigureFields => IsRotor ? FaceFigures : BoreFigures;

    /// <summary>The gauge that may send a figure, or null where it is read by eye.</summary>
    public int? LiveGaugeFor(ReadingKind kind) => Record.Shop.GaugeFor(kind) is { Address: not null } gauge ? gauge.Id : null;

    public string? FigureValue(ReadingKind kind) =>
        Figures.TryGetValue(kind, out var typed) ? typed?.Text : ShownOf(Record.Measuring.Figure(kind));

    public Task<IActionResult> OnPostFiguresAsync(CancellationToken cancel) =>
        KeepFiguresAsync(() => FigureFields.Select(f => f.Kind), Figures, kind => Record.Measuring.Figure(kind), cancel);

    /// <summary>The price of a new part and how far this one has gone, for the question whether it is worth cutting.</summary>
    public async Task<IActionResult> OnPostWorthAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        decimal? price = null;
        if (!string.IsNullOrWhiteSpace(NewPrice))
        {
            if (
                decimal.TryParse(NewPrice, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var money)
                && money is >= 0 and <= 100_000
            )
                price = money;
            else
                Reject(nameof(NewPrice), Words.Say("measure.aPriceSuchAs"));
        }
        var km = ReadKilometres(KmSinceNew);
        if (!ModelState.IsValid)
            return await ShowAsync(cancel);
        var run = km == Part.Job!.OdometerKm ? null : km;
        return await AnswerAsync(await MeasureCommands.KeepWorthAsync(Action, price, run, cancel), Request.Path, cancel);
    }

    private async Task WeighAsync(CancellationToken cancel)
    {
        if (Place is not null || !IsOpen || !MayPlan || Record.Measuring.Worst is not { } worst)
            return;
        var request = Record.Planning.Request(await LoadHeadAsync(cancel));
        var plan = PassPlanner.Plan(request);
        var passes = plan.Options.FirstOrDefault(o => o.Key == plan.Recommended)?.Passes ?? [];
        var lathe = Record.Lathe.Profile;
        var minutes =
            Record.Surface.Diameter > Length.Zero && Record.Surface.Band > Length.Zero
                ? passes.Sum(p => lathe.Run(p.Kind, Record.Kind, Record.Surface.Diameter, Record.Surface.Band).Minutes)
                : 0;
        Worth = WorthCutting.Of(
            Limits,
            worst,
            IsRotor ? Rotor!.DiscardVerdict : Drum!.DiscardVerdict,
            !IsRotor && Drum!.BelowFloor,
            plan,
            new(Part.KmSinceNew ?? Part.Job!.OdometerKm, Part.NewPrice, minutes, Record.Measuring.IsWithinItsPapers),
            Record.Shop.Rules
        );
        Scuff = plan.Scuff;
        if (Record.Measuring.IsTooClose)
            ReadToDecide = Record.Measuring.ReadToDecide(await ShapeQueries.PriorAsync(Db, Record.Kind, cancel));
        Moves = MeasuredMoves.Of(
            Worth.Word,
            new(
                Record.Measuring.IsTooClose,
                ReadToDecide is not null,
                Record.Confirming.Shape.IsOver,
                Scuff is { Allowed: true },
                Record.Measuring.GroovesLookedAt,
                (Across = await FellowAsync(cancel)) is { } other && PairOrder.OtherIsNext(Record.State, other.State)
            )
        );
    }

    /// <summary>Mark and colour of whether it is worth cutting.</summary>
    public (string Mark, string Css) WorthLook =>
        Worth!.Word switch
        {
            WorthWord.Beyond => ("over", "is-over"),
            WorthWord.Cut or WorthWord.Leave => ("within", "is-blue"),
            _ => ("close", "is-brass"),
        };

    /// <summary>The price or the distance cannot be read as typed.</summary>
    public bool WeighsWrong => Wrong(nameof(NewPrice)) is not null || Wrong(nameof(KmSinceNew)) is not null;

    /// <summary>Notes that ask for another look while it is being read: they stand beside the entry.</summary>
    public IReadOnlyList<string> SlateNotes =>
        [.. Words.List(Notes.Where(n => n.Code is "figuresDisagree" or "lookHere" or "notAnOval" or "belowFloor"), Reader.Unit)];

    /// <summary>Once all is read: everything that is to be known of the readings, under the drawing.</summary>
    public IReadOnlyList<string> SheetNotes =>
        Place is not null
            ? []
            :
            [
                .. Words.List(Notes, Reader.Unit),
                .. IsOpen && IsRotor && Rotor!.RunoutAssumed is { Outer: true } or { Inner: true }
                    ? [Words.Say("measure.runOutNotMeasuredThe")]
                    : Array.Empty<string>(),
            ];

    /// <summary>What may be done with it, the best first; none before all places are read.</summary>
    public IReadOnlyList<MeasuredMove> Moves { get; private set; } = [];

    /// <summary>Where a reading more may decide what is too close to call.</summary>
    public ReadingPlace? ReadToDecide { get; private set; }

    /// <summary>The same with where each leads.</summary>
    public MovesView MovesView =>
        new(
            [
                .. Moves.Select(m =>
                    MoveLink.Of(
                        m,
                        this,
                        ReadToDecide is { } place ? (Readings.Query(place), NameOf(place)) : null,
                        Worth!.Word == WorthWord.Cut,
                        Across
                    )
                ),
            ],
            Record.Surface.Turn
        );

    /// <summary>The verdict in one sentence.</summary>
    public string WorthSentence
    {
        get
        {
            if (Worth is not { } w)
                return "";
            var (rules, cost) = (Record.Shop.Rules, Money(Worth.Money.CostOfCutting));
            return Words.Say(
                "worth." + w.Word,
                w.Option is { Metal: { } metal } o
                    ? Words.Say("measure.takes", Words.Technique(o.Key), Reader.Figure(metal, Toward.Greater), Reader.UnitName)
                    : "",
                w.LeftAfter is { } left ? Reader.Margin(left) + " " + Reader.UnitName : "",
                w.DistanceAfter is { } km ? Words.Say("measure.about", Kilometres(km)) : "",
                w.Money.Saved is { } saved && w.Word == WorthWord.Cut ? Words.Say("measure.itSaves", Money(saved)) : "",
                cost,
                Part.NewPrice is { } price ? Money(price) : "",
                Kilometres(rules.Cost.LeastDistanceAfterCut),
                Reader.With(rules.Limits.DrumFloor)
            );
        }
    }

    public static string Money(decimal money) => money.ToString("0.00", CultureInfo.InvariantCulture);

    /// <summary>A forecast in whole thousands, rounded down: more digits than that it has not.</summary>
    public static string Kilometres(decimal km) => Thousands(km) + " km";

    /// <summary>The same without its unit.</summary>
    public static string Thousands(decimal km) =>
        (km < 1000 ? Math.Floor(km) : Math.Floor(km / 1000) * 1000).ToString("#,0", CultureInfo.InvariantCulture).Replace(',', ' ');

    protected override async Task<IActionResult> ShowAsync(CancellationToken cancel)
    {
        PickPlace();
        await LoadLeadsAsync(cancel);
        if (IsRotor)
            (Rotor, Notes, Verdict) = Record.Measuring.RotorFigures is var r ? (r, r.Notes, r.MachineToVerdict) : default;
        else
            (Drum, Notes, Verdict) = Record.Measuring.DrumFigures is var d ? (d, d.Notes, d.MachineToVerdict) : default;
        MayPlan = Record.CutsDone == 0 && (IsRotor ? Rotor!.Places >= 3 : Drum!.Axes >= 2) && Record.Part.Outcome is null;
        await WeighAsync(cancel);
        return Page();
    }

    /// <summary>The verdict in a mark, a word and a colour.</summary>
    public (string Mark, string Word, string Css) VerdictWords =>
        (IsRotor ? Rotor!.DiscardVerdict : Drum!.DiscardVerdict, Verdict) switch
        {
            (Verdict.NotEnough, _) => (
                "toread",
                IsRotor ? Words.Say("measure.readThreePointsForA") : Words.Say("measure.readTwoAxesForA"),
                ""
            ),
            (Verdict.Beyond, _) => ("over", Words.Say("measure.beyondDiscardScrap"), "is-over"),
            (Verdict.TooClose, _) => ("close", Words.Say("measure.tooCloseToDiscardTo"), "is-brass"),
            (_, Verdict.Beyond) => ("close", Words.Say("measure.insideDiscardNothingLeftTo"), "is-brass"),
            (_, Verdict.TooClose) => ("close", Words.Say("measure.closeToMachineTo"), "is-brass"),
            _ => ("within", Words.Say("measure.withinMachineTo"), "is-blue"),
        };
}
