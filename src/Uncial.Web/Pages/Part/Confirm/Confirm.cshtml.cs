using Microsoft.AspNetCore.Mvc;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Reasoning;
using Uncial.Core.Release;
using Uncial.Data;
using Uncial.Web.Charts;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>Confirm: read again at the same places, judge with the arithmetic spelled out, keep the judgement.</summary>
public class ConfirmModel(UncialDb db, ShopFile shop, Reader reader, TimeProvider time) : ReadingPage(db, shop, reader, time)
{
    private const int LongestWhy = 300;

    [BindProperty]
    public bool OffClean { get; set; }

    [BindProperty(Name = nameof(Figures))]
    public Dictionary<ReadingKind, LengthInput?> Figures { get; set; } = [];

    public override IReadOnlyList<(string Head, IReadOnlyList<Step> Steps)> Worked =>
        [
            (Words.Say("confirm.theJudgement"), Judgement.Steps),
            (Words.Say("confirm.itsShape"), Record.Confirming.Shape.Steps),
            (Words.Say("confirm.thePair"), PairCheck?.Steps ?? []),
        ];

    protected override Station At => Station.Confirm;

    public override bool IsOpen => Record.Part.Outcome is null;

    public Judgement Judgement { get; private set; } = null!;
    public IReadOnlyList<SurfaceRecord> Pair { get; private set; } = [];
    public bool AllRead { get; private set; }

    /// <summary>This surface against the same one on the other side of the axle; null where there is no other side.</summary>
    public PairCheck? PairCheck { get; private set; }

    /// <summary>What speaks against it although the size is within the limit; each takes a reason.</summary>
    public IReadOnlyList<Objection> Objections { get; private set; } = [];

    /// <summary>Run-out of the faces after the cut.</summary>
    private static readonly ReadingKind[] Runouts = [ReadingKind.RunoutOuter, ReadingKind.RunoutInner];

    /// <summary>What is asked again although it was said, to put it right.</summary>
    [BindProperty(SupportsGet = true)]
    public bool Looks { get; set; }

    /// <summary>Grooves and low lands of each face; where a face is bright all round it has no low lands.</summary>
    private IEnumerable<ReadingKind> Depths =>
        !IsRotor
            ? [ReadingKind.Groove, ReadingKind.Relief]
            : [ReadingKind.GrooveOuter, ReadingKind.ReliefOuter, ReadingKind.GrooveInner, ReadingKind.ReliefInner];

    /// <summary>The depths that the slate asks for.</summary>
    public IReadOnlyList<ReadingKind> Asked => Looks ? [.. Depths] : Record.Confirming.NotLookedAt;

    public static ReadingKind? ReadingOf(ShapeQuantity quantity) =>
        quantity switch
        {
            ShapeQuantity.RunoutOuter => ReadingKind.RunoutOuter,
            ShapeQuantity.RunoutInner => ReadingKind.RunoutInner,
            _ => null,
        };

    /// <summary>
    /// The depths that are to be measured: three times where that may settle it, once where they were said to be none by eye.
    /// </summary>
    public IReadOnlyList<ReadingKind> Repeats { get; private set; } = [];

    /// <summary>They were said to be none by eye, and so near the limit a gauge is laid on.</summary>
    public bool AsksOnce { get; private set; }

    /// <summary>What was typed for them, as many as are still to be measured of each.</summary>
    [BindProperty(Name = nameof(Thrice))]
    public Dictionary<ReadingKind, List<LengthInput?>> Thrice { get; set; } = [];

    public int MissingOf(ReadingKind kind) =>
        AsksOnce ? 1 : Math.Max(1, RepeatedDepth.Times - Record.Confirming.DepthsMeasured(kind).Count);

    public string? ThriceValue(ReadingKind kind, int i) =>
        Thrice.TryGetValue(kind, out var typed) && i < typed.Count ? typed[i]?.Text : null;

    /// <summary>What was measured of a depth so far, in words.</summary>
    public string SoFar(ReadingKind kind) =>
        Record.Confirming.DepthsMeasured(kind) is { Count: > 0 } depths
            ? Words.Say("look.soFar", string.Join("  ", depths.TakeLast(RepeatedDepth.Times).Select(d => Reader.Figure(d.Value))))
            : "";

    /// <summary>Keeps depths that were measured again with the depth gauge; as many as were typed.</summary>
    public async Task<IActionResult> OnPostThriceAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        List<FigureSeen> measured = [];
        foreach (var kind in Depths)
        foreach (var input in (Thrice.GetValueOrDefault(kind) ?? []).Take(RepeatedDepth.Times))
            if (!IsBlank(input) && ReadLength(input, LengthRule.Depth) is { } typed)
                measured.Add(new(kind, typed, Record.Shop.GaugeFor(kind)));
        if (!ModelState.IsValid)
            return await ShowAsync(cancel);
        return measured.Count == 0
            ? Redirect(Request.Path)
            : await AnswerAsync(await MeasureCommands.RecordFiguresAsync(Action, measured, [], Reader.Unit, cancel), Request.Path, cancel);
    }

    public string? FigureValue(ReadingKind kind) =>
        Figures.TryGetValue(kind, out var typed) ? typed?.Text : ShownOf(Record.Measuring.FigureNow(kind));

    public Task<IActionResult> OnPostFiguresAsync(CancellationToken cancel) =>
        KeepFiguresAsync(() => [.. IsRotor ? Runouts : [], .. Depths], Figures, kind => Record.Measuring.FigureNow(kind), cancel);

    public async Task<IActionResult> OnPostConfirmAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        // What speaks against it is worked out as it was shown: with what the records of the head say.
        await LoadHeadAsync(cancel);
        await PairAsync(cancel);
        var reason = ReadText(Reason, LongestWhy, Objections.Count > 0 ? "confirm.sayWhyItGoesOn" : null);
        if (!OffClean)
            Reject(nameof(OffClean), Words.Say("confirm.aPartWarmFromCutting"));
        if (!ModelState.IsValid)
            return await ShowAsync(cancel);
        return await AnswerAsync(
            await ConfirmCommands.ConfirmAsync(Action, OffClean, PairCheck, reason, cancel),
            judgement =>
                judgement.Decision == Decision.MeasureAgain
                    ? Request.Path
                    : NextSurface() ?? (OtherToRead is { } other ? HrefOf(other) : Href(Station.Release)),
            cancel
        );
    }

    /// <summary>The other work surface of the part, where it is not confirmed yet.</summary>
    private string? NextSurface()
    {
        for (var i = 0; i < Part.Surfaces.Count; i++)
        {
            var other = new SurfaceRecord(Part.Surfaces[i], Part, Record.Shop);
            if (i + 1 != Number && other.Station < Station.Release)
                return RailView.Href(other, i + 1, other.Station);
        }
        return null;
    }

    protected override async Task<IActionResult> ShowAsync(CancellationToken cancel)
    {
        if (Record.Station < Station.Confirm)
            return Redirect(Href(Record.Station));
        PickPlace();
        await LoadLeadsAsync(cancel);
        AllRead = Record.Measuring.NextPlace is null;
        await LoadHeadAsync(cancel);
        Judgement = Record.Confirming.Judge(readingsAreFit: true);
        Repeats = ConfirmState.LookAgain(Judgement);
        AsksOnce = Repeats.Count > 0;
        if (!AsksOnce)
            Repeats = Record.Confirming.DepthsToRepeat(Judgement);
        if (
            AllRead
            && Judgement.Decision == Decision.MeasureAgain
            && Repeats.Count == 0
            && Record.Confirming.NotLookedAt.Count == 0
            && Judgement.Notes.All(n => n is not Core.Note.ReadTwice)
        )
            Next = Record.Measuring.ReadNext(Judgement, await ShapeQueries.PriorAsync(Db, Record.Kind, cancel));
        await PairAsync(cancel);
        // Both are read and nothing speaks against either: they are looked at side by side and confirmed together.
        if (
            !Alone
            && HttpMethods.IsGet(Request.Method)
            && Place is null
            && Part.Outcome is null
            && Record.Confirming.Holding is null
            && Pair is [{ Part.Outcome: null } across, ..]
            && await IsReadyAsync(Record, across, cancel)
            && await IsReadyAsync(across, Record, cancel)
        )
            return Redirect($"/pair/{Tag}/{Number}");
        return Page();
    }

    /// <summary>The page of this part alone, although both of its axle could be confirmed together.</summary>
    [BindProperty(SupportsGet = true)]
    public bool Alone { get; set; }

    /// <summary>The other part of the axle, where it comes before this one is confirmed; null where it does not.</summary>
    public SurfaceRecord? OtherToRead =>
        Pair is [{ Part.Outcome: null } other, ..]
        && PairOrder.CanGoOn(other.State)
        && (other.Station < Station.Confirm || (other.Station == Station.Confirm && other.Measuring.NextPlace is not null))
            ? other
            : null;

    private async Task PairAsync(CancellationToken cancel)
    {
        // Left and right of the axle are confirmed together: the other side is shown beside this one.
        Pair = await FellowsAsync(cancel);
        if (Pair is [var across, ..])
        {
            PairCheck = PairOrder.Compare(Record.State, across.State, Record.Shop.Rules);
            Across = across.Part.Outcome is null ? across : null;
        }
        Objections = Record.Confirming.Objections(PairCheck);
    }

    /// <summary>Where to read next: the place that a note names, otherwise the first.</summary>
    public ReadingPlace ReadNext
    {
        get
        {
            var usual = Record.Measuring.NextPlace
                ?? (Next is { } next && !next.Next.IsEnough ? next.Place : Record.Measuring.WorstPlace)
                ?? Record.Measuring.Places[0];
            if (Judgement.Notes.Select(Record.Measuring.PlaceOf).FirstOrDefault(p => p is not null) is { } worst)
                return worst;
            // Where the readings themselves are too close, a reading at the fit's worst angle settles nothing.
            var onlyTheFit = Judgement.Notes.All(n => n is Core.Note.ReadHere or Core.Note.NotLookedAt);
            return onlyTheFit && Judgement.Notes.FirstOrDefault(n => n is Core.Note.ReadHere) is { Degrees: { } fitted }
                ? new(fitted, usual.Station)
                : usual;
        }
    }

    /// <summary>Where a reading more tells most; null where all is said, or something else is asked for.</summary>
    public (ReadingPlace Place, Core.Measuring.NextReading Next)? Next { get; private set; }

    /// <summary>What a further reading would tell, in words.</summary>
    public string? NextSays =>
        Next is not { } next ? null
        : next.Next.IsEnough ? Words.Say("confirm.enoughPlaces")
        : Words.Say("confirm.readNext", NameOf(next.Place));

    /// <summary>How sure it is, in words.</summary>
    public string Chance => Judgement.ProbabilityWithinDiscard is { } p ? Words.Say("confirm.chance", Conformity.Percent(p)) : "";

    public (string Mark, string Word, string Css) DecisionWords =>
        Judgement.Decision switch
        {
            Decision.Release => ("within", Words.Say("confirm.withinLimit"), ""),
            Decision.LeadOnly => ("close", Words.Say("confirm.betweenLimits"), "is-brass"),
            Decision.Never => ("over", Words.Say("confirm.beyondDiscard"), "is-over"),
            _ => (
                "close",
                !AllRead ? Words.Say("confirm.notAllIsRead")
                : Record.Confirming.NotLookedAt.Count > 0 ? Words.Say("confirm.notLookedAtYet")
                : Judgement.Notes.Any(n => n is Core.Note.ReadTwice) ? Words.Say("confirm.readTheWorstTwice")
                : Words.Say("confirm.tooCloseToCall"),
                "is-brass"
            ),
        };

    internal StockRuleView Rule()
    {
        var view = Readings.Rule(Record, Reader);
        if (Record.Measuring.SizesBefore.Count == 0 || Record.CutsDone == 0)
            return view;
        var before = Record.Measuring.WorstBefore!.Value;
        if (Record.Measuring.Worst is not { } worst)
            return view with
            {
                Now = before,
                NowWord = Words.Say("draw.before"),
                Uncertainty = Record.Measuring.UsualUncertainty,
                Head = "–",
                HeadWord = Words.Say("confirm.toBeReadAfterThe"),
                Slices = [new(Words.Say("confirm.byTheDial2"), Record.Cutting.Expected ?? before, "planned")],
                ForecastWord = Words.Say("draw.forecast"),
            };
        return view with
        {
            Now = before,
            NowWord = Words.Say("draw.before"),
            Whisker = worst,
            Slices = [new("taken", worst, "cut")],
            ForecastWord = Words.Say("draw.finished"),
            HeadWord =
                view.HeadIsOver ? Words.Say("confirm.overDiscard")
                : Judgement.MachineTo == Verdict.Beyond ? Words.Say("confirm.leftToDiscard")
                : Words.Say("confirm.leftToMachineTo2"),
        };
    }
}
