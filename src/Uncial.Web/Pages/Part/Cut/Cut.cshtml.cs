using System.Globalization;
using System.Text.Json;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Uncial.Core;
using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Reasoning;
using Uncial.Data;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>What the page at the lathe shows.</summary>
public enum CutView
{
    Ready,
    Cutting,
    Look,
    Noise,
    Finish,
}

/// <summary>
/// Cut: the pass that is due, for eyes 1.5 m away; then what the metal shows after it; at the end what finishing asks for.
/// </summary>
public class CutModel(UncialDb db, ShopFile shop, Reader reader, TimeProvider time) : PartPage(db, shop, reader, time)
{
    private const int LongestDraft = 4000;
    private const int LongestReason = 300;

    [BindProperty]
    public string[] Ticked { get; set; } = [];

    [BindProperty]
    public int DarkOuter { get; set; }

    [BindProperty]
    public int DarkInner { get; set; }

    [BindProperty]
    public LengthInput? GrooveOuter { get; set; }

    [BindProperty]
    public LengthInput? GrooveInner { get; set; }

    [BindProperty]
    public LengthInput? Size { get; set; }

    [BindProperty]
    public decimal SizeAt { get; set; }

    /// <summary>What the face that was cut runs out by, after the part was turned round for the other one.</summary>
    [BindProperty]
    public LengthInput? TurnedRunout { get; set; }

    [BindProperty]
    public ChatterSign? Noise { get; set; }

    [BindProperty]
    public string? Reason { get; set; }

    [BindProperty(SupportsGet = true)]
    public ChatterSign? Sign { get; set; }

    [BindProperty(SupportsGet = true)]
    public bool Noisy { get; set; }

    public override IReadOnlyList<(string Head, IReadOnlyList<Step> Steps)> Worked =>
        [
            (Words.Say("cut.whatTheMetalShowed"), Plan.Seen),
            (Words.Technique(Plan.Option.Key), Plan.Option.Steps),
            .. KnowsMinutes && View != CutView.Finish
                ? [(Words.Say("worked.lathe", Words.Say("pass." + Pass.Kind)), Run.Steps)]
                : Array.Empty<(string, IReadOnlyList<Step>)>(),
        ];

    protected override Station At => Station.Cut;

    public CutView View =>
        Record.Cutting.FinishIsDue ? CutView.Finish
        : Noisy ? CutView.Noise
        : Record.Cutting.IsCutting ? CutView.Cutting
        : Record.Cutting.IsCut ? CutView.Look
        : CutView.Ready;

    public PlanDocument Plan => Record.Planning.Document!;
    public int Index => Record.Planning.Passes.Count;
    public PlannedPass Pass => Plan.Option.Passes[Index];
    public PlannedPass? Following => Record.Cutting.Following;
    public string PassName => PlanModel.NameOf(Pass.Kind, Index, Plan.Option.Passes);
    public PassRun Run => Record.Lathe.Profile.Run(Pass.Kind, Record.Kind, Record.Surface.Diameter, Record.Surface.Band);
    public bool KnowsSpeed => Record.Surface.Diameter > Length.Zero;
    public bool KnowsMinutes => KnowsSpeed && Record.Surface.Band > Length.Zero;

    /// <summary>Sides that this pass cuts.</summary>
    public IReadOnlyList<int> Sides => Record.Cutting.SidesOf(Index);

    /// <summary>Name of the tool on a side of this lathe.</summary>
    public string ToolOf(int side) =>
        !IsRotor
            ? char.ToUpperInvariant(Record.Lathe.Profile.DrumHead[0]) + Record.Lathe.Profile.DrumHead[1..]
            : Words.Say((Record.Lathe.Profile.TwinCutter ? "tool." : "faceOf.") + (side == 0 ? "outer" : "inner"));

    public string DialsAt(PlannedPass pass, int index) =>
        string.Join(
            ", ",
            Record
                .Cutting.SidesOf(index)
                .Select(i =>
                    Charts.DialText.Of(Record.Lathe.Profile.DialOf(Record.Kind), Record.Cutting.DialAt(pass)[i])
                    + (
                        IsRotor
                            ? i == 0
                                ? " outer"
                                : " inner"
                            : ""
                    )
                )
        );

    /// <summary>How well who looks knows the lathe.</summary>
    public Familiarity Known { get; private set; } = Familiarity.None;

    /// <summary>Why the steps are taken one by one here; null where the experienced pace holds.</summary>
    public GuidedBecause? Guided => Known.WhyGuided(Record.Cutting.FinishIsDue ? PacedStep.Finish : PacedStep.Start, Record.State);

    /// <summary>Finishing is taken step by step, since one of them is left out.</summary>
    [BindProperty(SupportsGet = true)]
    public bool OneByOne { get; set; }

    /// <summary>What is looked at before the pass that is due.</summary>
    public StartList StartList => new(Record, Pass, Zeroes, Index == 0, Guided is not null, Known.EyesToday);

    /// <summary>The dials are set to zero anew for this plan: it was made from new readings, or is the first.</summary>
    private bool Zeroes => Index == 0 && !GoesOn;

    private bool GoesOn => Plan.Continues || Plan.Seen.Count > 0;

    /// <summary>What is to be known of the set-up before the first cut; null where it was found true.</summary>
    public string? SetUpSays =>
        Record.CutsDone > 0 || Index > 0 ? null
        : Record.Mounting.Mount is null ? Words.Say("setUpSays.notMounted")
        : Record.Mounting.Decision is { Reason: { } reason }
            ? Words.Say(Record.Mounting.SetUp is null ? "setUpSays.unchecked" : "setUpSays.against", reason)
        : Record.Mounting.Decision is null ? Words.Say("setUpSays.notDecided")
        : null;

    /// <summary>What changed the plan that runs now, while none of its passes is done.</summary>
    public IReadOnlyList<Note> Changed => Index == 0 && Record.CutsDone > 0 ? Plan.Why : [];

    /// <summary>A pass of this plan that was broken off and is made again.</summary>
    public CutStartFact? BrokenOff => Record.Cutting.Start is { Stopped.Kind: CutStopKind.BrokenOff } start ? start : null;

    public Chatter Chatter { get; private set; } = new([], []);
    public IReadOnlyDictionary<ChatterRemedy, int> Helped { get; private set; } = new Dictionary<ChatterRemedy, int>();

    /// <summary>What was tried on this part against this sign.</summary>
    public IReadOnlyList<ChatterEntry> Tried =>
        [.. Record.Surface.Chatters.Where(c => c.Sign == Sign && c.Cuts == Record.CutsDone).OrderBy(c => c.Id)];

    /// <summary>Inserts in use that are chipped or have cut their metres.</summary>
    public IReadOnlyList<InsertNow> Edges { get; private set; } = [];

    public SwarfBin Bin { get; private set; }

    /// <summary>Divisions to set deeper than planned because the edge has receded; 0 for none.</summary>
    public int EdgeCorrection { get; private set; }

    /// <summary>A finishing pass that may still be taken where all is clean.</summary>
    public PlanOption? Offered { get; private set; }

    /// <summary>What was ticked, tapped and typed here before and not kept, JSON; null where there is none.</summary>
    public CutDraft? Draft { get; private set; }

    /// <summary>Which view of which pass a draft belongs to.</summary>
    public string DraftOf =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"{Record.Planning.Latest!.Id}.{Index}.{Record.Cutting.Start?.Attempt ?? 0}.{Record.CutsDone}."
                + $"{(Record.Cutting.FinishIsDue ? CutView.Finish : Record.Cutting.IsCut ? CutView.Look : CutView.Ready)}"
        );

    /// <summary>How far this pass has got, for the read-out to be held against.</summary>
    public CutStage Stage =>
        Record.Cutting.IsCutting ? CutStage.Cutting
        : Record.Cutting.IsCut ? CutStage.Stopped
        : CutStage.Ready;

    /// <summary>Where the dials of the lathe shall stand. A single tool has one dial: that of the side which it cuts.</summary>
    public string Targets =>
        View is CutView.Finish or CutView.Look
            ? ""
            : string.Join(
                ' ',
                Record
                    .Cutting.DialAt(Pass)
                    .Where((_, side) => !IsRotor || Record.Lathe.Profile.TwinCutter || Sides.Contains(side))
                    .Select(d => d.Millimetres.ToString("0.######", CultureInfo.InvariantCulture))
            );

    public static string Percent(double share) => ((int)Math.Floor(share * 100)).ToString(CultureInfo.InvariantCulture);

    /// <summary>Minutes and seconds, as a clock shows them.</summary>
    public static string Clock(int seconds) => string.Create(CultureInfo.InvariantCulture, $"{seconds / 60}:{seconds % 60:00}");

    protected override async Task<IActionResult> ShowAsync(CancellationToken cancel)
    {
        ViewData["PrefersDark"] = true;
        if (Record.Planning.Document is null)
            return Redirect(Href(Station.Plan));
        if (Record.Station != Station.Cut)
            return Redirect(Href(Record.Station));
        Draft = await Db.CutDrafts.AsNoTracking().FirstOrDefaultAsync(d => d.SurfaceId == Record.Surface.Id, cancel);
        if (Draft?.Of != DraftOf)
            Draft = null;
        if (View is CutView.Ready or CutView.Finish)
            await LoadPaceAsync(cancel);
        if (View is CutView.Noise or CutView.Ready)
            Edges =
            [
                .. (
                    await ShopFile.AnswerAsync(
                        $"inserts {Record.Lathe.Id}",
                        d => LatheQueries.InsertsAsync(d, Record.Lathe, cancel),
                        cancel
                    )
                ).Where(e => (e.Holder == ToolHolder.Bar) == !IsRotor && (e.Chipped || e.Worn)),
            ];
        if (View == CutView.Ready && Record.Planning.Change is null)
        {
            await LoadHeadAsync(cancel);
            EdgeCorrection = Record.State.Head!.Correction(Record.Lathe.Profile.Dial(Record.Kind, true).DepthPerDivision);
        }
        if (View == CutView.Noise)
        {
            Helped = await ShopFile.AnswerAsync(
                $"helped {Record.Lathe.Id}",
                d => LatheQueries.HelpedAsync(d, Record.Lathe.Id, cancel),
                cancel
            );
            Chatter = Core.Cutting.Chatter.Of(
                new()
                {
                    Kind = Record.Kind,
                    Pass = Pass.Kind,
                    Depth = Sides.Select(i => Pass.Depth[i]).DefaultIfEmpty(Length.Zero).Min(),
                    Diameter = Record.Surface.Diameter,
                    Thickness = IsRotor ? Pass.SizeAfter : null,
                    HasBand = Record.Mounting.Mount?.Damped ?? true,
                    Sign = Sign,
                    EdgeIsWorn = Edges.Count > 0,
                },
                Record.Shop.Rules,
                Helped
            );
        }
        if (View == CutView.Finish)
            await LoadFellowAsync(cancel);
        if (View == CutView.Finish)
            (Bin, Offered) = ((await LatheQueries.BinAsync(Db, Record.Shop, cancel)).Bin, CutCommands.FinishOffered(Record));
        return Page();
    }

    /// <summary>The other part of the axle, where it is worked on before this one is measured again; null otherwise.</summary>
    public SurfaceRecord? Fellow { get; private set; }

    /// <summary>
    /// Where the other part of the axle goes on: with the adapters of this one where it is not mounted yet and they fit; null where it does
    /// not come next.
    /// </summary>
    public string? NextPart
    {
        get
        {
            if (Fellow is not { } other)
                return null;
            if (other.Station != Station.Mount || other.Mounting.Mount is not null || Record.Mounting.Mount is not { } mount)
                return HrefOf(other);
            return string.Create(
                CultureInfo.InvariantCulture,
                $"{RailView.Href(other, Number, Station.Mount)}?step=on&lathe={mount.LatheId}&way={mount.Way}"
            );
        }
    }

    private async Task LoadFellowAsync(CancellationToken cancel)
    {
        // As if this one were finished: it waits to be measured again.
        if (await FellowAsync(cancel) is { } other && PairOrder.Of(other.Station) == PairStretch.Lathe && PairOrder.CanGoOn(other.State))
            Fellow = other;
    }

    private async Task LoadPaceAsync(CancellationToken cancel) =>
        Known = AtBench(
            await PaceQueries.FamiliarityAsync(
                Db,
                Reader.OperatorId,
                Record.Lathe.Id,
                Record.Mounting.Mount?.Centring,
                Record.Surface.Id,
                Today,
                cancel
            )
        );

    /// <summary>Where to go instead where there is nothing to cut here; null where an action may be looked at.</summary>
    private async Task<IActionResult?> ReadyAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        return Record.Planning.Document is null || Record.Station != Station.Cut ? Redirect(Href(Record.Station)) : null;
    }

    private Task<IActionResult> AnswerAsync<T>(Result<T> result, CancellationToken cancel) =>
        AnswerAsync(result, _ => Href(Station.Cut), cancel);

    protected override void Tell(Refusal refusal)
    {
        switch (refusal)
        {
            case Refusal.Missing { What: Answer.Size }:
                Reject(nameof(Size), Words.Say(Record.Cutting.Following is { TurnFirst: true } ? "cut.measureTurn" : "cut.measureFirst"));
                break;
            case Refusal.NotLookedAt:
                Reject(nameof(Ticked), Words.Of(refusal));
                break;
            // What stands on record by now is shown, and tells it better.
            case Refusal.NotNow:
                break;
            default:
                base.Tell(refusal);
                break;
        }
    }

    public async Task<IActionResult> OnPostStartAsync(CancellationToken cancel)
    {
        if (await ReadyAsync(cancel) is { } elsewhere)
            return elsewhere;
        if (Record.Cutting is { IsCutting: false, IsCut: false, FinishIsDue: false } && Record.Planning.Change is null)
        {
            if (Pass.TurnFirst && !IsBlank(TurnedRunout))
            {
                // The bound of the second face stands on it: the rest is planned anew from what was read.
                var gauge = Record.Shop.GaugeFor(ReadingKind.RunoutOuter);
                return ReadLength(TurnedRunout, LengthRule.Depth) is { } runout
                    ? await AnswerAsync(
                        await MeasureCommands.RecordFiguresAsync(
                            Action,
                            [new(ReadingKind.RunoutOuter, runout, gauge, Note: "after turning round")],
                            [],
                            Reader.Unit,
                            cancel
                        ),
                        cancel
                    )
                    : await ShowAsync(cancel);
            }
            await LoadPaceAsync(cancel);
            if (Record.Cutting.StartRefusal is null && StartList.Open(Ticked) is { } open)
            {
                Reject(nameof(Ticked), Words.Say("cut.notTicked", open.Text));
                return await ShowAsync(cancel);
            }
            return await AnswerAsync(await CutCommands.StartPassAsync(Action, StartList.Done(Ticked), Today, cancel), cancel);
        }
        return await AnswerAsync(await CutCommands.StartPassAsync(Action, [], Today, cancel), cancel);
    }

    public Task<IActionResult> OnPostDoneAsync(CancellationToken cancel) => StopAsync(CutStopKind.Done, cancel);

    public Task<IActionResult> OnPostNotCutAsync(CancellationToken cancel) => StopAsync(CutStopKind.NotCut, cancel);

    public Task<IActionResult> OnPostBrokenOffAsync(CancellationToken cancel) => StopAsync(CutStopKind.BrokenOff, cancel);

    private async Task<IActionResult> StopAsync(CutStopKind kind, CancellationToken cancel)
    {
        if (await ReadyAsync(cancel) is { } elsewhere)
            return elsewhere;
        var reason = ReadText(Reason, LongestReason, kind == CutStopKind.BrokenOff ? "cut.whyBroken" : null);
        return ModelState.IsValid
            ? await AnswerAsync(await CutCommands.StopPassAsync(Action, kind, reason, cancel), cancel)
            : await ShowAsync(cancel);
    }

    public async Task<IActionResult> OnPostKeepAsync(CancellationToken cancel)
    {
        if (await ReadyAsync(cancel) is { } elsewhere)
            return elsewhere;
        if (!Record.Cutting.IsCut)
            return await ShowAsync(cancel);
        var sides = Sides;
        Length? grooveOuter = sides.Contains(0) ? GrooveOf(GrooveOuter) : null,
            grooveInner = sides.Contains(1) ? GrooveOf(GrooveInner) : null;
        var size = ReadLength(Size);
        if (size is not null && Core.Measuring.Plausibility.Question(size.Value, Limits) is { } odd)
            Reject(nameof(Size), Words.Of(odd, size.Value, Limits, Reader.Unit));
        if (DarkOuter is < 0 or > 0xFFF || DarkInner is < 0 or > 0xFFF || !ModelState.IsValid)
            return await ShowAsync(cancel);
        var seen = new PassSeen(DarkOuter, DarkInner, grooveOuter, grooveInner, size?.Value, size is null ? null : SizeAt, Noise);
        return await AnswerAsync(await CutCommands.RecordPassAsync(Action, seen, cancel), cancel);
    }

    public async Task<IActionResult> OnPostTriedAsync(ChatterRemedy remedy, bool helped, CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        if (Record.Planning.Document is null || Sign is not { } sign)
            return Redirect(Href(Record.Station));
        return await AnswerAsync(
            await CutCommands.RecordChatterAsync(Action, sign, remedy, helped, cancel),
            helped ? Request.Path : $"{Request.Path}?noisy=true&sign={sign}",
            cancel
        );
    }

    public async Task<IActionResult> OnPostFinishedAsync(CancellationToken cancel)
    {
        if (await ReadyAsync(cancel) is { } elsewhere)
            return elsewhere;
        var done = Record.Cutting.FinishSteps.Select(s => s.Kind).Where(k => Ticked.Contains(k.ToString())).ToList();
        await LoadFellowAsync(cancel);
        var left = Record.Cutting.FinishIsDue ? Record.Cutting.FinishSteps.Select(s => s.Kind).Except(done).ToList() : [];
        if (left.Count > 0 && string.IsNullOrWhiteSpace(Reason))
            Reject(nameof(Reason), Words.Say("cut.whyLeftOut", Words.Say("finish." + left[0]).ToLowerInvariant()));
        var reason = ReadText(Reason, LongestReason);
        return ModelState.IsValid
            ? await AnswerAsync(await CutCommands.FinishAsync(Action, done, reason, cancel), _ => NextPart ?? Href(Station.Cut), cancel)
            : await ShowAsync(cancel);
    }

    public async Task<IActionResult> OnPostOfferedAsync(CancellationToken cancel) =>
        await ReadyAsync(cancel) ?? await AnswerAsync(await CutCommands.TakeFinishAsync(Action, cancel), cancel);

    public async Task<IActionResult> OnPostAnewAsync(CancellationToken cancel)
    {
        if (await ReadyAsync(cancel) is { } elsewhere)
            return elsewhere;
        await LoadHeadAsync(cancel);
        return await AnswerAsync(await PlanCommands.PlanForFactsAsync(Action, cancel), cancel);
    }

    /// <summary>Keeps what is being ticked, tapped and typed, for a reload or another screen.</summary>
    public async Task<IActionResult> OnPostDraftAsync(string of, string values, CancellationToken cancel)
    {
        if (string.IsNullOrEmpty(of) || of.Length > 60 || string.IsNullOrEmpty(values) || values.Length > LongestDraft)
            return BadRequest();
        try
        {
            using var _ = JsonDocument.Parse(values);
        }
        catch (JsonException)
        {
            return BadRequest();
        }
        await CutCommands.KeepDraftAsync(Db, Tag, Number, of, values, Actor.At, cancel);
        return new NoContentResult();
    }

    private Length? GrooveOf(LengthInput? input) =>
        IsBlank(input) || LookedFor.IsNotLooked(input.Text) ? null
        : LookedFor.IsNone(input.Text) ? Length.Zero
        : ReadLength(input, LengthRule.Depth)?.Value;

    internal Charts.StockRuleView Rule()
    {
        var limits = Limits;
        var before = Record.Measuring.WorstBefore ?? Plan.Request.Touch;
        var touch = Plan.Request.Touch;
        var earlier = Record.CutsDone > Index ? [(Words.Say("cut.cutBefore"), touch, "cut")] : Array.Empty<(string, Length, string)>();
        var slices = Readings.Slices(
            Record.Kind,
            before,
            earlier.Concat(
                Plan.Option.Passes.Select((p, i) => (p, i))
                    .Where(p => p.p.Kind != PassKind.SparkOut)
                    .Select(n => (Pass: n.p, Place: n.i))
                    .Select(n =>
                        (
                            PlanModel.NameOf(n.Pass.Kind, n.Place, Plan.Option.Passes).ToLowerInvariant(),
                            n.Pass.SizeAfter,
                            n.Place < Index || (n.Place == Index && Record.Cutting.IsCut) ? "cut"
                            : n.Place == Index && Record.Cutting.IsCutting ? "cutting"
                            : "planned"
                        )
                    )
            )
        );
        var end = slices.Count > 0 ? slices[^1].To : touch;
        return new()
        {
            Limits = limits,
            Now = before,
            NowWord = Words.Say("draw.before"),
            Uncertainty = Record.Measuring.UsualUncertainty,
            Slices = slices,
            ForecastWord = Words.Say("draw.forecast"),
            Head = Reader.Margin(Limits.Margin(Record.Kind, end, limits.MachineTo)),
            HeadWord = Words.Say("cut.spareAfterThePlan"),
            Unit = Reader.Unit,
        };
    }
}
