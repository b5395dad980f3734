using Microsoft.AspNetCore.Mvc;
using Uncial.Core;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Reasoning;
using Uncial.Core.Release;
using Uncial.Data;
using Uncial.Web.Drawing;
using Uncial.Web.Wording;

namespace Uncial.Web.Pages;

/// <summary>Plan: the techniques side by side, and the chosen one as passes.</summary>
public class PlanModel(UncialDb db, ShopFile shop, Reader reader, TimeProvider time) : PartPage(db, shop, reader, time)
{
    [BindProperty(SupportsGet = true)] public string? Technique { get; set; }
    [BindProperty] public string? Reason { get; set; }

    public override IReadOnlyList<(string Head, IReadOnlyList<Step> Steps)> Worked =>
    [
        .. Runs ? [("What the metal showed", Record.Plan!.Seen)] : new (string, IReadOnlyList<Step>)[] { WorkedReadings, ("Metal there is, and metal needed", Plan?.Steps ?? []) },
        (Chosen is null ? "" : Words.Technique(Chosen.Key), Chosen?.Steps ?? []),
        .. KnowsMinutes && Chosen is not null
            ? Chosen.Passes.Select(p => p.Kind).Distinct().Select(k => (Words.Say("worked.lathe", Words.Say("pass." + k)), RunOf(k).Steps)) : [],
        ("Scuff only", Plan?.Scuff?.Steps ?? []),
    ];

    protected override Station At => Station.Plan;

    public PassPlan? Plan { get; private set; }
    public PlanRequest? Basis { get; private set; }
    public PlanOption? Chosen { get; private set; }

    /// <summary>The part is on the lathe already: the plan that runs is shown, not chosen.</summary>
    public bool Runs { get; private set; }

    public bool IsBeyond => Record.DiscardVerdict == Verdict.Beyond;
    public bool EnoughRead => IsRotor ? Record.RotorFigures.Places >= 3 : Record.DrumFigures.Axes >= 2;
    /// <summary>A drum with too little left is not started; one that is on the lathe already goes by its limits.</summary>
    public bool BelowFloor => !IsRotor && Record.CutsDone == 0 && Record.DrumFigures.BelowFloor;
    /// <summary>The chosen way is within the metal there is, but its bound is past machine-to before anything can be measured.</summary>
    public bool NeedsSignature => Chosen is { Feasible: true, Start: PlanStart.Blocked };

    public bool MayCut => EnoughRead && !IsBeyond && !BelowFloor && Record.Part.Outcome is null;

    public PassRun RunOf(PassKind kind) => Record.Lathe.Profile.Run(kind, Record.Kind, Record.Surface.Diameter, Record.Surface.Band);

    /// <summary>Speeds need the diameter, minutes the swept band too; what nobody measured is not guessed.</summary>
    public bool KnowsSpeed => Record.Surface.Diameter > Length.Zero;

    public bool KnowsMinutes => KnowsSpeed && Record.Surface.Band > Length.Zero;

    public string Minutes(PlanOption option)
    {
        ArgumentNullException.ThrowIfNull(option);
        return KnowsMinutes ? Math.Ceiling(option.Passes.Sum(p => RunOf(p.Kind).Minutes)).ToString("0", System.Globalization.CultureInfo.InvariantCulture) + " min" : "time unknown";
    }

    /// <summary>What is left to machine-to after the last pass of an option.</summary>
    public Length? SpareAfter(PlanOption option)
    {
        ArgumentNullException.ThrowIfNull(option);
        return option.Passes.Count == 0 ? null : Limits.Margin(Record.Kind, option.Passes[^1].SizeAfter, Limits.MachineTo);
    }

    public static string NameOf(PassKind kind, int index, IReadOnlyList<PlannedPass> passes)
    {
        ArgumentNullException.ThrowIfNull(passes);
        return kind == PassKind.Rough && passes.Count(p => p.Kind == PassKind.Rough) > 1 ? $"Rough {passes.Take(index + 1).Count(p => p.Kind == PassKind.Rough)}" : Words.Say("pass." + kind);
    }

    public async Task<IActionResult> OnPostTakeAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere) return elsewhere;
        await PlanAsync(cancel);
        if (Runs || !MayCut || Chosen is not { Feasible: true } || IsStale()) return Page();
        // A first pass that could end past machine-to is a lead hand's to sign for; one that could end past discard is never given.
        if (NeedsSignature && !Reader.IsLead) { Trouble = "Its first pass could end past machine-to: a lead hand signs for that."; return Page(); }
        if (NeedsSignature && string.IsNullOrWhiteSpace(Reason)) { ModelState.AddModelError(nameof(Reason), "Say why it is cut all the same."); return Page(); }
        IReadOnlyList<Note> why = NeedsSignature ? [new("signedByLead", Subject: Reason!.Trim()[..Math.Min(Reason.Trim().Length, 300)])] : [];
        Journey.TakePlan(Record, Basis!, Chosen, why, Hand);
        return await SaveAsync(cancel) ? Redirect(Href(Station.Cut)) : await ShowAgainAsync(cancel);
    }

    public Task<IActionResult> OnPostLeaveAsync(CancellationToken cancel) => LeaveAsync(scuffed: false, cancel);

    public Task<IActionResult> OnPostScuffAsync(CancellationToken cancel) => LeaveAsync(scuffed: true, cancel);

    private async Task<IActionResult> LeaveAsync(bool scuffed, CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere) return elsewhere;
        await PlanAsync(cancel);
        if (Runs || !EnoughRead || IsStale() || (scuffed && Plan?.Scuff is not { Allowed: true })) return Page();
        Journey.LeaveUncut(Record, Basis!, scuffed, Hand);
        return await SaveAsync(cancel) ? Redirect(Href(Station.Confirm)) : await ShowAgainAsync(cancel);
    }

    protected override async Task<IActionResult> ShowAsync(CancellationToken cancel)
    {
        if (!EnoughRead && Record.Plan is null) return Redirect(Href(Station.Measure));
        await PlanAsync(cancel);
        return Page();
    }

    private async Task PlanAsync(CancellationToken cancel)
    {
        // After a cut a plan is made anew only from new readings; until then the one that runs is shown.
        Runs = Record.Plan is { } running && (Record.PassesOfPlan.Count < running.Option.Passes.Count || (Record.CutsDone > 0 && Record.Sizes.Count == 0) || Record.Part.Outcome is not null);
        if (Runs)
        {
            (Basis, Chosen) = (Record.Plan!.Request, Record.Plan.Option);
            return;
        }
        if (!EnoughRead) return;
        Basis = Record.RequestForPlan(await Record.DialIsConfirmedAsync(Db, cancel)) with { DefaultTechnique = Record.Shop.DefaultTechnique };
        Plan = PassPlanner.Plan(Basis);
        if (IsBeyond || BelowFloor) return;
        Chosen = Plan.Options.FirstOrDefault(o => o.Key == Technique) ?? Plan.Options.FirstOrDefault(o => o.Key == Plan.Recommended);
    }

    /// <summary>What scuffing alone would leave, or null where that is nothing or not allowed.</summary>
    public string? ScuffLeaves
    {
        get
        {
            if (Plan?.Scuff is not { Allowed: true } scuff) return null;
            string[] stays = [.. new[] { (scuff.GrooveStays, "groove"), (scuff.RunoutStays, IsRotor ? "run-out" : "out of round") }
                .Where(s => s.Item1 > Length.Zero).Select(s => $"{Reader.Figure(s.Item1, Toward.Greater)} {s.Item2}")];
            return stays.Length == 0 ? null : $"Scuff only leaves {string.Join(", ", stays)}.";
        }
    }

    /// <summary>A remedy in words, with what it may win.</summary>
    public string Of(Remedy remedy)
    {
        ArgumentNullException.ThrowIfNull(remedy);
        var words = Words.Say("remedy." + remedy.Code + (remedy is { Code: "finerDial", Wins: null } ? ".none" : ""), remedy.Wins is { } wins ? Reader.With(wins) : "");
        return remedy.Wins is null ? words : $"{words} {char.ToUpperInvariant(Words.Say(remedy.IsEnough ? "remedy.enough" : "remedy.notEnough")[0])}{Words.Say(remedy.IsEnough ? "remedy.enough" : "remedy.notEnough")[1..]}.";
    }

    /// <summary>The sides in section with the chosen passes.</summary>
    internal IReadOnlyList<SectionSide> Sections()
    {
        if (Basis is null) return [];
        var passes = Chosen?.Passes ?? [];
        return [.. Basis.Sides.Select((side, i) =>
        {
            var depth = Length.Zero;
            var drawn = passes.Select((p, n) => { depth += p.Depth[i]; return (NameOf(p.Kind, n, passes).ToLowerInvariant(), (double)depth.Millimetres, Dial(p.DialFromTouch[i])); }).ToList();
            var runout = side.Runout ?? Length.Max(Length.Zero, side.Need - side.Groove - side.Relief);
            return new SectionSide(IsRotor ? (i == 0 ? "Outer face" : "Inner face") : "Bore, once round", (double)side.Need.Millimetres, (double)side.Groove.Millimetres, (double)side.Relief.Millimetres, (double)runout.Millimetres, drawn);
        })];
    }

    /// <summary>A dial setting as it will stand on this lathe's scale.</summary>
    public string Dial(Length setting) => DialText.Of(Record.Lathe.Profile, setting);

    internal StockRuleView Rule()
    {
        var view = Readings.Rule(Record, Reader);
        if (Chosen is not { Passes.Count: > 0 } chosen) return view;
        var after = SpareAfter(chosen)!.Value;
        var now = Record.Worst ?? Basis!.Worst ?? Basis.Touch;
        return view with
        {
            Now = now,
            Slices = Readings.Slices(Record.Kind, now, chosen.Passes.Where(p => p.Kind != PassKind.SparkOut).Select((p, i) => (NameOf(p.Kind, i, chosen.Passes).ToLowerInvariant(), p.SizeAfter, "planned"))),
            ForecastWord = "Forecast",
            Head = Reader.Margin(after),
            HeadWord = "spare after " + Words.Technique(chosen.Key).ToLowerInvariant(),
        };
    }
}
