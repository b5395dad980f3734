using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Uncial.Core;
using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Reasoning;
using Uncial.Data;
using Uncial.Web.Wording;

namespace Uncial.Web.Pages;

/// <summary>Cut: the pass that is due, for eyes 1.5 m away; then what the metal shows after it.</summary>
public class CutModel(UncialDb db, ShopFile shop, Reader reader, TimeProvider time) : PartPage(db, shop, reader, time)
{
    private static readonly string[] RotorChecks =
    [
        "Eyes covered, shield down, no rings, sleeves up", "Band on the vents, insert sharp and snug", "Ridges off by hand: outer, then inner",
        "Each bit zeroed at first touch, on a land where it was read",
    ];

    private static readonly string[] DrumChecks =
    [
        "Eyes covered, shield down, no rings, sleeves up", "Band near the open edge, insert sharp and snug", "Lip and ridge off by hand",
        "Bit zeroed at first touch, at a depth where it was read",
    ];

    private static readonly string[] LaterChecks = ["Dial set moving inwards only, locks as before", "Shield down, hands clear"];

    /// <summary>The pass was made; now what is dark is asked.</summary>
    [BindProperty(SupportsGet = true)] public bool Seen { get; set; }

    [BindProperty] public int DarkOuter { get; set; }
    [BindProperty] public int DarkInner { get; set; }
    [BindProperty] public string? GrooveOuter { get; set; }
    [BindProperty] public string? GrooveInner { get; set; }
    [BindProperty] public string? Size { get; set; }
    [BindProperty] public decimal SizeAt { get; set; }

    public override IReadOnlyList<(string Head, IReadOnlyList<Step> Steps)> Worked =>
        [("What the metal showed", Plan.Seen), (Words.Technique(Plan.Option.Key), Plan.Option.Steps)];

    protected override Station At => Station.Cut;

    public PlanDocument Plan => Record.Plan!;
    public int Index => Record.PassesOfPlan.Count;
    public PlannedPass Pass => Plan.Option.Passes[Index];
    public PlannedPass? Following => Plan.Option.Passes.ElementAtOrDefault(Index + 1);
    public bool IsFirst => Record.CutsDone == 0;
    public IReadOnlyList<string> Checks => Index > 0 ? LaterChecks : [.. IsRotor ? RotorChecks : DrumChecks, .. LatheChecks];

    /// <summary>Locks and lever of this lathe, as they stand for this kind of part.</summary>
    private IEnumerable<string> LatheChecks
    {
        get
        {
            var lathe = Record.Lathe.Profile;
            string Locked(bool tight) => string.Join(", ", lathe.Locks.Where(l => (IsRotor ? l.TightForRotor : l.TightForDrum) == tight).Select(l => l.Name));
            var locks = new[] { (Locked(true), "tight"), (Locked(false), "free") }.Where(l => l.Item1.Length > 0).Select(l => $"{l.Item1} {l.Item2}");
            yield return string.Join("; ", locks);
            yield return $"Lever to feed {(IsRotor ? lathe.RotorLever : lathe.DrumLever)}";
        }
    }

    /// <summary>What is to be known of the set-up before the first cut; null where it was found true.</summary>
    public string? SetUpSays => Record.CutsDone > 0 || Index > 0 ? null
        : Record.Mount is null ? Words.Say("setUpSays.notMounted")
        : Record.SetUpDecision is { Reason: { } reason } ? Words.Say(Record.SetUp is null ? "setUpSays.unchecked" : "setUpSays.against", reason)
        : Record.SetUpDecision is null ? Words.Say("setUpSays.notDecided") : null;
    public string PassName => PlanModel.NameOf(Pass.Kind, Index, Plan.Option.Passes);
    public PassRun Run => Record.Lathe.Profile.Run(Pass.Kind, Record.Kind, Record.Surface.Diameter, Record.Surface.Band);
    public bool KnowsSpeed => Record.Surface.Diameter > Length.Zero;
    public bool KnowsMinutes => KnowsSpeed && Record.Surface.Band > Length.Zero;
    public string DialsAt(PlannedPass pass) => string.Join(IsRotor ? " outer, " : "", pass?.DialFromTouch.Select(d => Drawing.DialText.Of(Record.Lathe.Profile, d)) ?? []) + (IsRotor ? " inner" : "");

    /// <summary>What changed the plan that runs now, while none of its passes is done.</summary>
    public IReadOnlyList<Note> Changed => Index == 0 && Record.CutsDone > 0 ? Plan.Why : [];

    public override async Task<IActionResult> OnGetAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere) return elsewhere;
        ViewData["PrefersDark"] = true;
        if (Record.Plan is null) return Redirect(Href(Station.Plan));
        if (Record.Station != Station.Cut) return Redirect(Href(Record.Station));
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere) return elsewhere;
        ViewData["PrefersDark"] = true;
        Seen = true;
        if (Record.Plan is null || Record.Station != Station.Cut) return Redirect(Href(Record.Station));
        Length? grooveOuter = GrooveOf(nameof(GrooveOuter), GrooveOuter), grooveInner = IsRotor ? GrooveOf(nameof(GrooveInner), GrooveInner) : null;
        var size = string.IsNullOrWhiteSpace(Size) ? null : ReadLength(nameof(Size), Size, Reader.Unit);
        if (size is not null && Core.Measuring.Plausibility.Question(size.Value, Limits) is { } doubt)
            ModelState.AddModelError(nameof(Size), Words.Of(doubt, size.Value, Limits, Reader.Unit));
        if (DarkOuter is < 0 or > 0xFFF || DarkInner is < 0 or > 0xFFF || !ModelState.IsValid || IsStale()) return Page();

        var after = Journey.RecordPass(Record, new(DarkOuter, IsRotor ? DarkInner : 0, grooveOuter, grooveInner, size?.Value, size is null ? null : SizeAt), Hand);
        if (size is null && MustMeasure(after))
        {
            ModelState.AddModelError(nameof(Size), "Measure here first: the next pass could reach past machine-to.");
            return await ShowAgainAsync(cancel);
        }
        if (!await SaveAsync(cancel)) return await ShowAgainAsync(cancel);
        return Redirect(Href(Station.Cut));
    }

    /// <summary>Whether the next pass may not be given on what is known without a size.</summary>
    private bool MustMeasure(AfterPass after)
    {
        if (after.Next == NextStep.GoOn) return Following is { MeasureFirst: true };
        // The newest plan is still without an id: it was only just made.
        var made = after.Next == NextStep.PlanAnew ? StoredJson.Read<PlanDocument>(Record.Surface.Plans.MaxBy(p => p.Version)!.Document) : null;
        return made is not null && (made.Option.Passes.Count == 0 || made.Option.Start != PlanStart.Free);
    }

    private Length? GrooveOf(string field, string? text) => string.IsNullOrWhiteSpace(text) ? null : ReadLength(field, text, Reader.Unit, allowZero: true)?.Value;

    protected override Task<IActionResult> ShowAsync(CancellationToken cancel) => Task.FromResult<IActionResult>(Page());

    internal Drawing.StockRuleView Rule()
    {
        var limits = Limits;
        var before = Record.WorstBefore ?? Plan.Request.Touch;
        var touch = Plan.Request.Touch;
        var earlier = Record.CutsDone > Index ? [("cut before", touch, "cut")] : Array.Empty<(string, Length, string)>();
        var slices = Readings.Slices(Record.Kind, before, earlier.Concat(Plan.Option.Passes.Where(p => p.Kind != PassKind.SparkOut)
            .Select((p, i) => (PlanModel.NameOf(p.Kind, i, Plan.Option.Passes).ToLowerInvariant(), p.SizeAfter, i < Index ? "cut" : "planned"))));
        var end = slices.Count > 0 ? slices[^1].To : touch;
        return new()
        {
            Limits = limits, Now = before, NowWord = "Before", Uncertainty = Record.UsualUncertainty, Slices = slices, ForecastWord = "Forecast",
            Head = Reader.Margin(Limits.Margin(Record.Kind, end, limits.MachineTo)), HeadWord = "spare after the plan", Unit = Reader.Unit,
        };
    }

    public static string Percent(double share) => ((int)Math.Floor(share * 100)).ToString(CultureInfo.InvariantCulture);
}
