using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Uncial.Core;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Reasoning;
using Uncial.Core.Release;
using Uncial.Data;
using Uncial.Web.Charts;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>Plan: the techniques side by side, and the chosen one as passes.</summary>
public class PlanModel(UncialDb db, ShopFile shop, Reader reader, TimeProvider time) : PartPage(db, shop, reader, time)
{
    private const int LongestReason = 300;

    [BindProperty(SupportsGet = true)]
    public string? Technique { get; set; }

    [BindProperty]
    public string? Reason { get; set; }

    /// <summary>Passes set by hand, in short; null where the technique sets them.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Passes { get; set; }

    /// <summary>A line that is moved: pass, side, divisions.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Move { get; set; }

    /// <summary>A pass that is lifted out.</summary>
    [BindProperty(SupportsGet = true)]
    public int? Lift { get; set; }

    /// <summary>A pass that another is put before.</summary>
    [BindProperty(SupportsGet = true)]
    public int? Add { get; set; }

    /// <summary>What the sheet shows: the section, the swept surface unrolled, or the ways compared.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Sheet { get; set; }

    public override IReadOnlyList<(string Head, IReadOnlyList<Step> Steps)> Worked =>
        [
            .. Runs
                ? [(Words.Say("plan.whatTheMetalShowed"), Record.Planning.Document!.Seen)]
                : new (string, IReadOnlyList<Step>)[] { WorkedReadings, (Words.Say("plan.metalThereIsAndMetal"), Plan?.Steps ?? []) },
            (Chosen is null ? "" : Words.Technique(Chosen.Key), Chosen?.Steps ?? []),
            .. KnowsMinutes && Chosen is not null
                ? Chosen
                    .Passes.Select(p => p.Kind)
                    .Distinct()
                    .Select(k => (Words.Say("worked.lathe", Words.Say("pass." + k)), RunOf(k).Steps))
                : [],
            (Words.Say("plan.theAxle"), Pair?.Steps ?? []),
            (Words.Say("plan.scuffOnly"), Plan?.Scuff?.Steps ?? []),
        ];

    protected override Station At => Station.Plan;

    /// <summary>Take what it takes to end like the other side of the axle.</summary>
    [BindProperty(SupportsGet = true)]
    public bool Alike { get; set; }

    /// <summary>This side against the other of its axle; null where there is none to be held against.</summary>
    public PairPlan? Pair { get; private set; }

    public PassPlan? Plan { get; private set; }
    public PlanRequest? Basis { get; private set; }
    public PlanOption? Chosen { get; private set; }

    /// <summary>The part is on the lathe already: the plan that runs is shown, not chosen.</summary>
    public bool Runs { get; private set; }

    public bool IsBeyond => Record.Measuring.DiscardVerdict == Verdict.Beyond;
    public bool EnoughRead => Record.Measuring.IsEnoughForPlan;

    /// <summary>A drum with too little left is not started; one that is on the lathe already goes by its limits.</summary>
    public bool BelowFloor => Record.Measuring.IsBelowFloor;

    /// <summary>The chosen way is within the metal there is, but its bound is past machine-to before anything can be measured.</summary>
    public bool NeedsSignature => Chosen is { Feasible: true, Start: PlanStart.Blocked };

    public bool MayCut => Record.Measuring.MayBePlanned;

    public PassRun RunOf(PassKind kind) => Record.Lathe.Profile.Run(kind, Record.Kind, Record.Surface.Diameter, Record.Surface.Band);

    /// <summary>Speeds need the diameter, minutes the swept band too; what nobody measured is not guessed.</summary>
    public bool KnowsSpeed => Record.Surface.Diameter > Length.Zero;

    public bool KnowsMinutes => KnowsSpeed && Record.Surface.Band > Length.Zero;

    public string Minutes(PlanOption option)
    {
        ArgumentNullException.ThrowIfNull(option);
        return KnowsMinutes
            ? Math.Ceiling(option.Passes.Sum(p => RunOf(p.Kind).Minutes)).ToString("0", System.Globalization.CultureInfo.InvariantCulture)
                + " min"
            : Words.Say("plan.timeUnknown");
    }

    /// <summary>What is left to machine-to after the last pass of an option.</summary>
    public Length? SpareAfter(PlanOption option)
    {
        ArgumentNullException.ThrowIfNull(option);
        return option.Passes.Count == 0 ? null : Limits.Margin(Record.Kind, option.Passes[^1].SizeAfter, Limits.MachineTo);
    }

    /// <summary>Name of a pass among those of its side: “Rough 2”, on a machine that cuts one side at a time “Finish, inner”.</summary>
    public static string NameOf(PassKind kind, int index, IReadOnlyList<PlannedPass> passes)
    {
        ArgumentNullException.ThrowIfNull(passes);
        var side = SideOf(passes, index);
        var alike = Enumerable.Range(0, passes.Count).Where(i => passes[i].Kind == kind && SideOf(passes, i) == side).ToList();
        var name =
            kind == PassKind.Rough && alike.Count > 1 ? Words.Say("plan.rough", alike.IndexOf(index) + 1) : Words.Say("pass." + kind);
        return side is null ? name : $"{name}, {(side == 0 ? "outer" : "inner")}";
    }

    /// <summary>What finishing will ask for, in one line.</summary>
    public static string FinishOf(SurfaceRecord record)
    {
        ArgumentNullException.ThrowIfNull(record);
        var steps = Core.Cutting.FinishStep.For(
            record.Kind,
            record.Lathe.Profile.Kind == LatheKind.Grinder,
            record.Part.Shape is { Hubbed: true }
        );
        var words = string.Join(", ", steps.Select(s => Words.Say("finish.short." + s.Kind)).Where(w => w.Length > 1).Distinct());
        return char.ToUpperInvariant(words[0]) + words[1..];
    }

    /// <summary>The only side of two that a pass cuts; null where it cuts all there are.</summary>
    private static int? SideOf(IReadOnlyList<PlannedPass> passes, int index)
    {
        while (index > 0 && passes[index].Divisions.All(d => d == 0))
            index--;
        var divisions = passes[index].Divisions;
        return divisions.Count == 2 && divisions.Count(d => d > 0) == 1
            ? divisions[0] > 0
                ? 0
                : 1
            : null;
    }

    public override async Task<IActionResult> OnGetAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        if (Move is null && Lift is null && Add is null)
            return await ShowAsync(cancel);
        // A move is made and told as an address of its own, so that back is undo and a reload finds it.
        await PlanAsync(cancel);
        if (Chosen is not { Passes.Count: > 0 } || Runs)
            return Redirect(Request.Path);
        var hand = new HandPasses(
            [.. Chosen.Passes.Select(p => new HandPass(p.Kind, p.Divisions))],
            Record.Shop.Rules.Cutting.HeaviestPass,
            Basis!.Dial
        );
        if (
            Move?.Split(',') is [var at, var side, var by]
            && int.TryParse(at, NumberStyles.None, CultureInfo.InvariantCulture, out var pass)
            && int.TryParse(side, NumberStyles.None, CultureInfo.InvariantCulture, out var face)
            && int.TryParse(by, NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var divisions)
        )
            hand.Move(pass, face, divisions);
        if (Lift is { } lifted)
            hand.Lift(lifted);
        if (Add is { } before)
            hand.Add(
                before,
                (long)
                    Math.Ceiling(
                        (
                            TechniqueOf(Chosen.Key).RoughMin > Length.Zero
                                ? TechniqueOf(Chosen.Key).RoughMin
                                : TechniqueOf(Chosen.Key).FinishMin
                        ) / Basis.Dial.DepthPerDivision
                    )
            );
        return Redirect(
            $"{Request.Path}?technique={Uri.EscapeDataString(Chosen.Key)}&passes="
                + $"{hand.Write()}{(Alike ? "&alike=true" : "")}{(Sheet is null ? "" : "&sheet=" + Uri.EscapeDataString(Sheet))}"
        );
    }

    /// <summary>What a lead has typed and not kept, for a reload or another screen.</summary>
    public CutDraft? Draft { get; private set; }

    public string DraftOf => string.Create(CultureInfo.InvariantCulture, $"plan.{Record.Surface.Turn}");

    private Technique TechniqueOf(string key) => Basis!.Techniques.FirstOrDefault(t => t.Key == key) ?? ProbePass.Lightest(Basis!)!;

    /// <summary>The address of this page with another sheet, or other passes.</summary>
    public string Address(string? sheet, bool asMoved = true) =>
        $"{Request.Path}?technique={Uri.EscapeDataString(Chosen?.Key ?? "")}{(Alike ? "&alike=true" : "")}"
        + $"{(asMoved && Chosen is { ByHand: true } ? "&passes=" + Passes : "")}{(sheet is null ? "" : "&sheet=" + sheet)}";

    public IReadOnlyList<ComparedWay> Compared { get; private set; } = [];

    public ComparedWay? WayOf(string key) => Compared.FirstOrDefault(w => w.Key == key);

    public static string RisksOf(ComparedWay? way) => way is null ? "" : string.Join(", ", way.Risks.Select(r => Words.Say("risk." + r)));

    /// <summary>What the rule and the map are told of the shape of a side.</summary>
    private SurfaceProfile ProfileOf(int side) =>
        SurfaceProfile.Of(
            Record.Kind,
            Basis!.Sides[side],
            Record.CutsDone == 0
                ? IsRotor
                    ? Record.Measuring.RotorMeasurement.Readings
                    : Record.Measuring.DrumMeasurement.Readings
                : []
        );

    /// <summary>The sides unrolled: which pass cleans which place.</summary>
    internal IReadOnlyList<UnrolledSide> Unrolled()
    {
        if (Basis is null || Chosen is not { Passes.Count: > 0 } chosen)
            return [];
        return
        [
            .. Basis.Sides.Select(
                (side, i) =>
                {
                    var profile = ProfileOf(i);
                    List<(string Name, Length End)> cuts = [];
                    var depth = Length.Zero;
                    for (var n = 0; n < chosen.Passes.Count; n++)
                    {
                        depth += chosen.Passes[n].Depth[i];
                        if (chosen.Passes[n].Divisions[i] > 0)
                            cuts.Add((NameOf(chosen.Passes[n].Kind, n, chosen.Passes), depth));
                    }
                    IReadOnlyList<Length> ends = [.. cuts.Select(c => c.End)];
                    var rows = Enumerable
                        .Range(0, profile.Stations.Count)
                        .Select(s => (StationWord(profile.Stations[s]), SurfaceProfile.CleanedBy(profile.Lands(s), ends)))
                        .ToList();
                    if (side.Groove > Length.Zero)
                        rows.Add((Words.Say("plan.deepestGroove"), SurfaceProfile.CleanedBy(profile.GrooveFloor, ends)));
                    return new UnrolledSide(
                        IsRotor ? (i == 0 ? Words.Say("plan.outerFace") : Words.Say("plan.innerFace")) : Words.Say("word.Bore"),
                        [.. cuts.Select(c => c.Name)],
                        rows,
                        profile.ShapeIsRead
                    );
                }
            ),
        ];
    }

    private string StationWord(Length? station) =>
        station is not { } at ? Words.Say("plan.lands")
        : IsRotor ? Words.Say("plan.in", Reader.Size(Record.Surface.Diameter / 2 - at))
        : Words.Say("plan.deep", Reader.Size(at));

    public async Task<IActionResult> OnPostTakeAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        await PlanAsync(cancel);
        // A first pass that could end past machine-to is a lead's to sign for; one that could end past discard is never given.
        var reason = NeedsSignature ? ReadText(Reason, LongestReason, "plan.sayWhyItIsCut") : null;
        return ModelState.IsValid
            ? await AnswerAsync(await PlanCommands.TakePlanAsync(Action, Basis, Chosen, reason, cancel), Href(Station.Cut), cancel)
            : await ShowAsync(cancel);
    }

    /// <summary>What may be done where no technique can be taken, the best first.</summary>
    public MovesView Moves =>
        new(
            [
                .. MeasuredMoves
                    .Of(
                        WorthWord.CannotBeCut,
                        new(
                            false,
                            false,
                            Record.Confirming.Shape.IsOver,
                            Plan?.Scuff is { Allowed: true },
                            Record.Measuring.GroovesLookedAt
                        )
                    )
                    .Where(m => m != MeasuredMove.Mount)
                    .Select(m => MoveLink.Of(m, this, null, speaksForCut: false)),
            ],
            Record.Surface.Turn
        );

    public Task<IActionResult> OnPostLeaveAsync(CancellationToken cancel) => LeaveAsync(scuffed: false, cancel);

    public Task<IActionResult> OnPostScuffAsync(CancellationToken cancel) => LeaveAsync(scuffed: true, cancel);

    private async Task<IActionResult> LeaveAsync(bool scuffed, CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        await PlanAsync(cancel);
        return await AnswerAsync(await PlanCommands.LeaveUncutAsync(Action, Basis, scuffed, cancel), Href(Station.Confirm), cancel);
    }

    protected override async Task<IActionResult> ShowAsync(CancellationToken cancel)
    {
        await PlanAsync(cancel);
        // Nothing to plan from: readings were withdrawn, or the part was recalled, after a plan was left.
        if (Basis is null)
            return Redirect(Href(Record.CutsDone == 0 ? Station.Measure : Station.Confirm));
        if (NeedsSignature)
            Leads = await Db.LeadsAsync(cancel);
        if (NeedsSignature)
            Draft = await Db.CutDrafts.AsNoTracking().FirstOrDefaultAsync(d => d.SurfaceId == Record.Surface.Id, cancel);
        if (Draft?.Of != DraftOf)
            Draft = null;
        return Page();
    }

    private async Task PlanAsync(CancellationToken cancel)
    {
        // After a cut a plan is made anew only from new readings; until then the one that runs is shown.
        Runs = Record.Planning.IsRunning || (Record.Planning.Document is not null && Part.Outcome is not null);
        if (Runs)
        {
            (Basis, Chosen) = (Record.Planning.Document!.Request, Record.Planning.Document.Option);
            return;
        }
        if (!EnoughRead)
            return;
        Basis = Record.Planning.Request(await LoadHeadAsync(cancel));
        var fellows = await FellowsAsync(cancel);
        Across = fellows.FirstOrDefault(f => f.Part.Outcome is null);
        if (!IsBeyond && !BelowFloor && fellows is [var fellow, ..] && fellow.Planning.ExpectedFinish is { } otherFinish)
            Pair = PairPlan.Of(Basis, otherFinish, Record.Shop.Rules);
        if (Alike && Pair?.Alike is { } alike)
            Basis = alike;
        Plan = PassPlanner.Plan(Basis);
        if (IsBeyond || BelowFloor)
            return;
        Chosen = Plan.Options.FirstOrDefault(o => o.Key == Technique) ?? Plan.Options.FirstOrDefault(o => o.Key == Plan.Recommended);
        if (
            Chosen is not null
            && HandPasses.Read(Passes, Basis.Sides.Count) is { } byHand
            && HandPasses.CanBeMade(byHand, Basis, TechniqueOf(Chosen.Key))
        )
            Chosen = PassPlanner.ByHand(Basis, TechniqueOf(Chosen.Key), byHand, Record.Shop.Rules);
        ComparedPart part = new()
        {
            Limits = Limits,
            Worst = Record.Measuring.Worst ?? Basis.Worst ?? Basis.Touch,
            Diameter = Record.Surface.Diameter,
            Band = Record.Surface.Band,
            Kilometres = Part.KmSinceNew ?? Part.Job!.OdometerKm,
            NewPartPrice = Part.NewPrice,
            WithinItsPapers = Record.Measuring.IsWithinItsPapers,
        };
        Compared = PlanComparison.Of(Plan, Basis, Record.Lathe.Profile, part, Record.Shop.Rules);
        if (Chosen is { ByHand: true })
            Compared = [PlanComparison.Of(Chosen, Basis, Record.Lathe.Profile, part, Record.Shop.Rules) with { Key = "hand" }, .. Compared];
    }

    /// <summary>What scuffing alone would leave, or null where that is nothing or not allowed.</summary>
    public string? ScuffLeaves
    {
        get
        {
            if (Plan?.Scuff is not { Allowed: true } scuff)
                return null;
            string[] stays =
            [
                .. new[]
                {
                    (scuff.GrooveStays, Words.Say("plan.deepestGroove")),
                    (scuff.RunoutStays, Words.Say(IsRotor ? "plan.runOut" : "plan.outOfRound")),
                }
                    .Where(s => s.Item1 > Length.Zero)
                    .Select(s => $"{Reader.Figure(s.Item1, Toward.Greater)} {s.Item2}"),
                .. Record.Measuring.GroovesLookedAt ? (string[])[] : [Words.Say("plan.groovesNotLookedAt")],
            ];
            return stays.Length == 0 ? null : Words.Say("plan.leaves", string.Join(", ", stays));
        }
    }

    /// <summary>A remedy in words, with what it may win.</summary>
    public string Of(Remedy remedy)
    {
        ArgumentNullException.ThrowIfNull(remedy);
        var words = Words.Say(
            "remedy." + remedy.Code + (remedy is { Code: "finerDial", Wins: null } ? ".none" : ""),
            remedy.Wins is { } wins ? Reader.With(wins) : ""
        );
        var verdict = Words.Say(remedy.IsEnough ? "remedy.enough" : "remedy.notEnough");
        return remedy.Wins is null ? words : $"{words} {char.ToUpperInvariant(verdict[0])}{verdict[1..]}.";
    }

    /// <summary>The sides in section with the chosen passes.</summary>
    internal IReadOnlyList<SectionSide> Sections()
    {
        if (Basis is null)
            return [];
        var passes = Chosen?.Passes ?? [];
        return
        [
            .. Basis.Sides.Select(
                (side, i) =>
                {
                    var depth = Length.Zero;
                    List<SectionPass> drawn = [];
                    for (var n = 0; n < passes.Count; n++)
                    {
                        depth += passes[n].Depth[i];
                        if (passes[n].Divisions[i] > 0)
                            drawn.Add(
                                new(
                                    n,
                                    NameOf(passes[n].Kind, n, passes),
                                    (double)depth.Millimetres,
                                    Dial(Runs ? Record.Cutting.DialAt(passes[n])[i] : passes[n].DialFromTouch[i]),
                                    (int)passes[n].Divisions[i]
                                )
                            );
                    }
                    var profile = ProfileOf(i);
                    var lowest =
                        side.Relief > Length.Zero && profile.Stations.Count > 1
                            ? profile.Lands(Enumerable.Range(0, profile.Stations.Count).First(s => s != profile.Touched))
                            : null;
                    return new SectionSide(
                        i,
                        IsRotor ? (i == 0 ? Words.Say("plan.outerFace") : Words.Say("plan.innerFace")) : Words.Say("plan.boreOnceRound"),
                        (double)side.Need.Millimetres,
                        (double)side.Groove.Millimetres,
                        profile.Lands(profile.Touched),
                        lowest,
                        profile.ShapeIsRead,
                        drawn
                    );
                }
            ),
        ];
    }

    /// <summary>A dial setting as it will stand on this lathe's scale.</summary>
    public string Dial(Length setting) => DialText.Of(Record.Lathe.Profile.DialOf(Record.Kind), setting);

    internal StockRuleView Rule()
    {
        var view = Readings.Rule(Record, Reader);
        if (Chosen is not { Passes.Count: > 0 } chosen)
            return view;
        var after = SpareAfter(chosen)!.Value;
        var now = Record.Measuring.Worst ?? Basis!.Worst ?? Basis.Touch;
        return view with
        {
            Now = now,
            Slices = Readings.Slices(
                Record.Kind,
                now,
                chosen
                    .Passes.Select((p, i) => (Pass: p, Name: NameOf(p.Kind, i, chosen.Passes).ToLowerInvariant()))
                    .Where(p => p.Pass.Kind != PassKind.SparkOut)
                    .Select(p => (p.Name, p.Pass.SizeAfter, "planned"))
            ),
            ForecastWord = Words.Say("plan.forecast"),
            Head = Reader.Margin(after),
            HeadWord =
                Words.Say("plan.spareAfter")
                + (chosen.ByHand ? Words.Say("plan.yourPasses") : Words.Technique(chosen.Key).ToLowerInvariant()),
        };
    }
}
