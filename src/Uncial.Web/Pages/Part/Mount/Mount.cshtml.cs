using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Reasoning;
using Uncial.Core.Release;
using Uncial.Data;
using Uncial.Web.Charts;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>What is typed or dragged about a set-up.</summary>
public sealed class MarksTyped
{
    public SetUpManner Manner { get; set; }
    public string? Turned { get; set; }
    public string? FirstAt { get; set; }
    public string? FirstArc { get; set; }
    public LengthInput? FirstLength { get; set; }
    public string? SecondAt { get; set; }
    public string? SecondArc { get; set; }
    public LengthInput? SecondLength { get; set; }

    public bool IsEmpty =>
        new[] { FirstAt, FirstArc, FirstLength?.Text, SecondAt, SecondArc, SecondLength?.Text }.All(string.IsNullOrWhiteSpace);
}

/// <summary>The sizes of a part that decide how it is mounted, as typed.</summary>
public sealed class ShapeTyped
{
    public bool Hubbed { get; set; }
    public bool Vented { get; set; }
    public LengthInput? Hole { get; set; }
    public LengthInput? Register { get; set; }
    public LengthInput? Depth { get; set; }
    public LengthInput? Web { get; set; }
    public LengthInput? NearRace { get; set; }
    public LengthInput? FarRace { get; set; }
    public LengthInput? RacesApart { get; set; }
}

/// <summary>Mount: pick the stack, put the part on, see whether it runs true, come to first touch.</summary>
public class MountModel(UncialDb db, ShopFile shop, Reader reader, TimeProvider time) : PartPage(db, shop, reader, time)
{
    private const int LongestCentring = 60;
    private const int LongestReason = 300;

    /// <summary>A size of the part that may be left open.</summary>
    private static readonly LengthRule Size = new(Most: MountShape.LargestSize);

    /// <summary>Which view: <c>pick</c>, <c>on</c>, <c>check</c>, <c>touch</c>; empty for the one that is due.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Step { get; set; }

    [BindProperty(SupportsGet = true)]
    public int? Lathe { get; set; }

    [BindProperty(SupportsGet = true)]
    public MountWay? Way { get; set; }

    [BindProperty(SupportsGet = true)]
    public bool Sizes { get; set; }

    [BindProperty]
    public MarksTyped Marks { get; set; } = new();

    [BindProperty]
    public ShapeTyped Shape { get; set; } = new();

    [BindProperty]
    public string? ByHand { get; set; }

    [BindProperty]
    public bool Damped { get; set; }

    /// <summary>Eyes, guard and sleeves were seen to.</summary>
    [BindProperty]
    public bool Eyes { get; set; }

    [BindProperty]
    public RemountCause? Found { get; set; }

    [BindProperty]
    public string? Reason { get; set; }

    protected override Station At => Station.Mount;

    public ShopLathe On { get; private set; } = null!;
    public IReadOnlyList<ShopLathe> Lathes { get; private set; } = [];
    public MountShape Known { get; private set; } = new();

    /// <summary>The sizes are those of an earlier part of the same vehicle; nobody has measured this one.</summary>
    public bool IsFromLike { get; private set; }

    public MountingPlan Ways { get; private set; } = null!;
    public MountOption? Chosen { get; private set; }
    public IReadOnlyList<InsertNow> Inserts { get; private set; } = [];
    public IReadOnlyList<(RemountCause Cause, int Times)> LookFirst { get; private set; } = [];
    public SetUpHealth Health { get; private set; }

    /// <summary>How the other part of the axle was mounted last; null where it was not.</summary>
    private MountEntry? OfFellow { get; set; }

    /// <summary>What is picked are the adapters that the other part of the axle was held by.</summary>
    public bool HasSameAdapters { get; private set; }

    /// <summary>How well who looks knows lathe and adapter.</summary>
    public Familiarity Familiar { get; private set; } = Familiarity.None;

    /// <summary>Why the steps are taken one by one here; null where the experienced pace holds.</summary>
    public GuidedBecause? Guided =>
        Familiar.WhyGuided(
            Step switch
            {
                "check" => PacedStep.SetUp,
                "touch" => PacedStep.FirstTouch,
                _ => PacedStep.PutOn,
            },
            Record.State
        );

    /// <summary>How deep this person made the newest scratches on the lathe; null where none is on record.</summary>
    public Length? ScratchDepth { get; private set; }

    /// <summary>What was last put on the picked lathe, and so which head is on; null where nothing was.</summary>
    public PartKind? LastKind { get; private set; }

    /// <summary>Set-ups of the picked adapter on the picked lathe, the oldest first.</summary>
    public IReadOnlyList<SetUpPast> Past { get; private set; } = [];

    /// <summary>The check that the page shows: what is typed, otherwise the last one kept.</summary>
    public SetUpCheck? Check { get; private set; }
    public SetUpSeen? Seen { get; private set; }
    public bool IsTyped { get; private set; }

    public override IReadOnlyList<(string Head, IReadOnlyList<Step> Steps)> Worked =>
        Check is null ? [] : [(Words.Say("mount.theSetUp"), Check.Steps)];

    /// <summary>The mounting that stands, as it was picked.</summary>
    public MountOption? Mounted => Record.Mounting.Mount?.Stack;

    public async Task<IActionResult> OnPostSizesAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        (Step, Sizes) = ("pick", true);
        var shape = new MountShape
        {
            Hubbed = Shape.Hubbed,
            Vented = Shape.Vented,
            Hole = ReadLength(Shape.Hole, Size)?.Value,
            Register = ReadLength(Shape.Register, Size)?.Value,
            Depth = ReadLength(Shape.Depth, Size with { AllowZero = true })?.Value,
            Web = ReadLength(Shape.Web, Size)?.Value,
            NearRace = ReadLength(Shape.NearRace, Size)?.Value,
            FarRace = ReadLength(Shape.FarRace, Size)?.Value,
            RacesApart = ReadLength(Shape.RacesApart, Size)?.Value,
        };
        if (Part.Outcome is not null)
            return Redirect(Request.Path);
        if (shape.Register <= shape.Hole)
            Reject("Shape.Register", Words.Say("mount.theFaceLiesRoundThe"));
        return ModelState.IsValid
            ? await AnswerAsync(
                await MountCommands.KeepSizesAsync(Action, shape, cancel),
                $"{Request.Path}?step=pick&lathe={Lathe}",
                cancel
            )
            : await ShowAsync(cancel);
    }

    /// <summary>It is on the lathe.</summary>
    public async Task<IActionResult> OnPostOnAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        Step = "on";
        await PickAsync(cancel);
        var byHand = ReadText(ByHand, LongestCentring, Chosen is null ? "mount.sayWhatItIsCentred" : null);
        if (Record.Mounting.Mount is not null && Found is null)
            Reject(nameof(Found), Words.Say("mount.sayWhatWasFoundSo"));
        await LoadPaceAsync(cancel);
        if (!Familiar.EyesToday && !Eyes)
            Reject(nameof(Eyes), Words.Say("mount.eyesFirst"));
        if (!ModelState.IsValid)
            return await ShowAsync(cancel);
        var mounting = Chosen ?? new(Known.Hubbed ? MountWay.RaceCones : MountWay.ConeAndCups, byHand!, Length.Zero, [], []);
        return await AnswerAsync(
            await MountCommands.MountAsync(Action, On, mounting, Damped, Found, Familiar.EyesToday ? null : Today, cancel),
            Request.Path,
            cancel
        );
    }

    /// <summary>Shows what the marks come to; keeps nothing.</summary>
    public async Task<IActionResult> OnPostTryAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        Step = "check";
        return await ShowAsync(cancel);
    }

    public Task<IActionResult> OnPostKeepAsync(CancellationToken cancel) => KeepAsync(Request.Path, goOn: false, cancel);

    /// <summary>The arcs lay side by side: the set-up is true by eye, and it goes on to first touch.</summary>
    public async Task<IActionResult> OnPostSideBySideAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        Step = "check";
        await LoadPaceAsync(cancel);
        if (Record.Mounting.Mount is null || Record.Part.Outcome is not null || Guided is not null)
            return Redirect(Request.Path);
        return await AnswerAsync(
            await MountCommands.KeepCheckAsync(Action, SetUpSeen.SideBySide(ScratchDepth), goOn: true, null, cancel),
            Request.Path,
            cancel
        );
    }

    private async Task LoadPaceAsync(CancellationToken cancel)
    {
        var lathe = Step is "check" or "touch" ? Record.Lathe : On;
        Familiar = AtBench(
            await PaceQueries.FamiliarityAsync(
                Db,
                Reader.OperatorId,
                lathe.Id,
                Step is "check" or "touch" ? Record.Mounting.Mount?.Centring : Chosen?.Centring,
                Record.Surface.Id,
                Today,
                cancel
            )
        );
        if (Step == "check" && Guided is null)
            ScratchDepth = await LatheQueries.ScratchDepthAsync(Db, lathe.Id, Reader.OperatorId, cancel);
    }

    public Task<IActionResult> OnPostRemountAsync(CancellationToken cancel) => KeepAsync($"{Request.Path}?step=on", goOn: false, cancel);

    public Task<IActionResult> OnPostGoOnAsync(CancellationToken cancel) => KeepAsync(Request.Path, goOn: true, cancel);

    private async Task<IActionResult> KeepAsync(string then, bool goOn, CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        Step = "check";
        if (Record.Mounting.Mount is null || Record.Part.Outcome is not null)
            return Redirect(Request.Path);
        var seen = Marks.IsEmpty ? null : ReadMarks();
        if (!ModelState.IsValid || (Marks.IsEmpty ? !goOn && Record.Mounting.SetUp is null : seen is null))
            return await ShowAsync(cancel);
        var verdict = MountCommands.VerdictOf(Record, seen);
        if (goOn && verdict != SetUpVerdict.True && string.IsNullOrWhiteSpace(Reason))
        {
            Reject(nameof(Reason), Words.Say(verdict is null ? "mount.whyWithoutCheck" : "mount.whyAllTheSame"));
            return await ShowAsync(cancel);
        }
        if (ReadText(Reason, LongestReason) is var reason && !ModelState.IsValid)
            return await ShowAsync(cancel);
        return await AnswerAsync(await MountCommands.KeepCheckAsync(Action, seen, goOn, reason, cancel), then, cancel);
    }

    protected override async Task<IActionResult> ShowAsync(CancellationToken cancel)
    {
        if (Record.Measuring.DiscardVerdict == Verdict.Beyond || Record.Measuring.IsBelowFloor)
            return Redirect(Href(Station.Plan));
        await PickAsync(cancel);
        var due =
            Record.Mounting.Mount is null ? "pick"
            : Record.Mounting.Decision is null ? "check"
            : "touch";
        Step = Step is "pick" or "on" || (Record.Mounting.Mount is not null && Step is "check" or "touch") ? Step : due;
        if (Step == "pick" && Chosen is { } chosen)
        {
            LastKind = await ShopFile.AnswerAsync($"kind {On.Id}", d => LatheQueries.LastKindAsync(d, On.Id, cancel), cancel);
            Past = [.. (await SetUpsAsync(On.Id, cancel)).Where(s => s.Centring == chosen.Centring)];
            Health = SetUpHealth.Of([.. Past.Select(s => s.SetUpRunout)], Record.Shop.Rules.SetUp.SetUpTolerance);
        }
        else if (Record.Mounting.Mount is { } mount)
        {
            LookFirst = RemountAdvice.For(
                Known.Hubbed,
                await ShopFile.AnswerAsync($"causes {mount.LatheId}", d => LatheQueries.CausesAsync(d, mount.LatheId, cancel), cancel)
            );
            Health = SetUpHealth.Of(
                [.. (await SetUpsAsync(mount.LatheId, cancel)).Where(s => s.Centring == mount.Centring).Select(s => s.SetUpRunout)],
                Record.Shop.Rules.SetUp.SetUpTolerance
            );
        }
        if (Step is not "pick")
            await LoadPaceAsync(cancel);
        if (Step == "check")
            ShowCheck();
        if (Step is "on" or "touch")
            Inserts = await ShopFile.AnswerAsync($"inserts {On.Id}", d => LatheQueries.InsertsAsync(d, On, cancel), cancel);
        return Page();
    }

    private Task<IReadOnlyList<SetUpPast>> SetUpsAsync(int lathe, CancellationToken cancel) =>
        ShopFile.AnswerAsync($"set-ups {lathe}", d => LatheQueries.SetUpsAsync(d, lathe, cancel), cancel);

    private void ShowCheck()
    {
        if (!Marks.IsEmpty)
        {
            Seen = ReadMarks();
            (Check, IsTyped) = (Seen?.Check(Record), true);
        }
        else if (Record.Mounting.SetUp is { } kept)
        {
            Seen = SeenOf(kept);
            Check = Seen.Check(Record);
            if (!Request.HasFormContentType && kept.Manner != SetUpManner.SideBySide)
                Marks.Manner = kept.Manner;
        }
    }

    private async Task PickAsync(CancellationToken cancel)
    {
        Lathes = [.. Record.Shop.Lathes.Where(l => l.RetiredAt is null).OrderBy(l => l.Id)];
        var picks = Step is "pick" or "on" || Record.Mounting.Mount is null;
        // What the other part of the axle is held by goes on with this one, unless another lathe or way is picked.
        if (picks && Record.Mounting.Mount is null)
        {
            OfFellow = (await FellowsAsync(cancel)).Select(f => f.Surface.Mounts.Newest()).FirstOrDefault(m => m is not null);
            if (Lathe is null && Way is null && OfFellow is { } same)
                (Lathe, Way) = (same.LatheId, same.Way);
        }
        On = picks && Lathes.FirstOrDefault(l => l.Id == Lathe) is { } picked ? picked : Record.Lathe;
        if (Part.Shape is { } known)
            Known = known;
        else if (await LatheQueries.ShapeLikeAsync(Db, Part, cancel) is { } like)
            (Known, IsFromLike) = (like, true);
        Ways = PlanOn(On.Profile);
        Chosen = Ways.Ways.FirstOrDefault(w => w.Way == Way) ?? (Ways.Ways.Count > 0 ? Ways.Ways[0] : null);
        HasSameAdapters = OfFellow is { } theirs && theirs.LatheId == On.Id && Chosen?.IsHeldLike(theirs.Stack) == true;
    }

    /// <summary>How it would go on a lathe.</summary>
    public MountingPlan PlanOn(Lathe lathe) =>
        MountingPlan.For(Record.Kind, Record.Surface.Diameter, Known, lathe, Record.Shop.AdaptersInUse);

    /// <summary>What a lathe says of the part in one short word: fits, or what fails.</summary>
    public (string Mark, string Word) FitOn(Lathe lathe) =>
        PlanOn(lathe) switch
        {
            { Missing.Count: > 0 } => ("toread", Words.Say("mount.sizesToMeasure")),
            { Ways: [var first, ..] } => ("within", Words.Say("mountWay." + first.Way).ToLowerInvariant()),
            _ => ("close", Words.Say("mount.nothingFits")),
        };

    /// <summary>The marks as typed, or null with what is wrong at its field.</summary>
    private SetUpSeen? ReadMarks()
    {
        var needsSecond = Marks.Manner != SetUpManner.OneScratch;
        var first = ReadMark("First", Marks.FirstAt, Marks.FirstArc, Marks.FirstLength);
        var second = needsSecond ? ReadMark("Second", Marks.SecondAt, Marks.SecondArc, Marks.SecondLength) : null;
        var turned = 180m;
        if (needsSecond && Marks.Manner != SetUpManner.TwoArcs && !string.IsNullOrWhiteSpace(Marks.Turned))
        {
            if (ClockText.Turn(Marks.Turned) is not { } turn)
                Reject("Marks.Turned", Words.Say("mount.degreesSuchAsOrHalf"));
            else if (!SetUpCheck.TurnTells(turn))
                Reject("Marks.Turned", Words.Say("api.turn"));
            else
                turned = turn;
        }
        return first is null || (needsSecond && second is null) || !ModelState.IsValid ? null : new(Marks.Manner, turned, first, second);
    }

    private RunoutMark? ReadMark(string which, string? at, string? arc, LengthInput? length)
    {
        var (place, extent, depth) = (ClockText.Place(at), (decimal?)null, (Length?)null);
        var (hasArc, hasLength) = (Marks.Manner != SetUpManner.Indicator, Marks.Manner is not (SetUpManner.Angles or SetUpManner.TwoArcs));
        if (place is null && !string.IsNullOrWhiteSpace(at))
            Reject($"Marks.{which}At", Words.Say("mount.byTheClockSuchAs"));
        if (hasArc && (extent = ClockText.Arc(arc)) is null && !string.IsNullOrWhiteSpace(arc))
            Reject($"Marks.{which}Arc", Words.Say("mount.hoursSuchAsOrAll"));
        if (hasLength && !IsBlank(length))
        {
            var allowZero = Marks.Manner == SetUpManner.Indicator;
            depth = ReadLength(length, allowZero ? LengthRule.Depth : LengthRule.Needed)?.Value;
            if (depth?.Millimetres > 3)
            {
                Reject($"Marks.{which}Length", Words.Say("mount.thatIsOverMmNo"));
                depth = null;
            }
        }
        if (place is not { } clock || (hasArc && extent is null) || (hasLength && depth is null))
            return null;
        return Marks.Manner switch
        {
            SetUpManner.Indicator => RunoutMark.Indicated(clock, depth!.Value),
            SetUpManner.Angles or SetUpManner.TwoArcs => RunoutMark.Direction(clock, extent!.Value),
            _ => RunoutMark.Scratch(clock, extent!.Value, depth!.Value),
        };
    }

    /// <summary>What was seen at a check that was kept.</summary>
    private static SetUpSeen SeenOf(SetUpFact kept)
    {
        RunoutMark Mark(decimal degrees, decimal? arc, Length? length) =>
            kept.Manner switch
            {
                SetUpManner.Indicator => RunoutMark.Indicated(ClockAngle.FromDegrees(degrees), length!.Value),
                SetUpManner.Angles or SetUpManner.TwoArcs => RunoutMark.Direction(ClockAngle.FromDegrees(degrees), arc!.Value),
                _ => RunoutMark.Scratch(ClockAngle.FromDegrees(degrees), arc!.Value, length!.Value),
            };
        if (kept.Manner == SetUpManner.SideBySide)
            return SetUpSeen.SideBySide(kept.FirstLength);
        return new(
            kept.Manner,
            kept.Turned,
            Mark(kept.FirstDegrees, kept.FirstArc, kept.FirstLength),
            kept.SecondDegrees is { } at ? Mark(at, kept.SecondArc, kept.SecondLength) : null
        );
    }

    /// <summary>The scratches as drawn: as typed, as kept, or where to take hold of them.</summary>
    internal IReadOnlyList<DrawnScratch> Scratches
    {
        get
        {
            List<DrawnScratch> all = [];
            var hasArc = Marks.Manner != SetUpManner.Indicator;
            void Add(int number, string? at, string? arc, RunoutMark? mark, decimal usually)
            {
                var (place, extent) = (ClockText.Place(at)?.Degrees ?? mark?.At.Degrees, ClockText.Arc(arc) ?? mark?.Arc);
                all.Add(new(number, place ?? usually, hasArc ? extent ?? 90 : null, place is not null && (!hasArc || extent is not null)));
            }
            var kept = IsTyped || Seen?.Manner == SetUpManner.SideBySide ? null : Seen;
            Add(1, Marks.FirstAt, Marks.FirstArc, kept?.First, 0);
            if (Marks.Manner != SetUpManner.OneScratch)
                Add(2, Marks.SecondAt, Marks.SecondArc, kept?.Second, 180);
            return all;
        }
    }

    /// <summary>A verdict in a mark, a word and a colour.</summary>
    public static (string Mark, string Word, string Css) WordsOf(SetUpVerdict verdict) =>
        verdict switch
        {
            SetUpVerdict.True => ("within", Words.Say("mount.itRunsTrue"), ""),
            SetUpVerdict.Close => ("close", Words.Say("mount.closeBetterRemount"), "is-brass"),
            SetUpVerdict.Remount => ("over", Words.Say("mount.cleanAndRemount"), "is-over"),
            SetUpVerdict.Mixed => ("close", Words.Say("mount.bothHaveTheirShare"), "is-brass"),
            SetUpVerdict.SetUpAtFault => ("over", Words.Say("mount.cleanAndRemount"), "is-over"),
            _ => ("toread", Words.Say("mount.cannotTell"), "is-brass"),
        };

    /// <summary>A share as a whole number of hundredths.</summary>
    public static string Percent(double share) => Math.Round(share * 100).ToString("0", CultureInfo.InvariantCulture);

    /// <summary>Metal that may still come off, to machine-to; null without readings.</summary>
    public Length? MayComeOff => Record.Measuring.Worst is { } worst ? Limits.Margin(Record.Kind, worst, Limits.MachineTo) : null;

    internal StockRuleView Rule()
    {
        var view = Readings.Rule(Record, Reader);
        if (
            Step != "check"
            || Check?.CostNow is not { } cost
            || cost <= Length.Zero
            || Record.Measuring.Worst is not { } worst
            || MayComeOff is not { } spare
            || spare <= Length.Zero
        )
            return view;
        var left = spare - cost;
        var trued = IsRotor ? worst - cost : worst + cost;
        return view with
        {
            Slices = [new("set-up", trued, "waste")],
            ForecastWord = Words.Say("mount.truedUp"),
            Head = Reader.Margin(left.Abs()),
            HeadWord = left < Length.Zero ? Words.Say("mount.tooLittleForThisSet") : Words.Say("mount.leftAfterThisSetUp"),
            HeadIsOver = false,
        };
    }

    /// <summary>Reasons for chatter that are known before the first cut.</summary>
    public Chatter Chatter =>
        Core.Cutting.Chatter.Of(
            new()
            {
                Kind = Record.Kind,
                Pass = PassKind.Finish,
                Depth = Length.Zero,
                Diameter = Record.Surface.Diameter,
                Thickness = IsRotor ? Record.Measuring.Worst : null,
                Overhangs = MountSteps.Overhangs(Record.Kind, Known, On.Profile),
                HasBand = Record.Mounting.Mount?.Damped ?? true,
                EdgeIsWorn = EdgesInUse.Any(i => i.Chipped || i.Worn),
            },
            Record.Shop.Rules
        );

    /// <summary>The inserts that will cut this part.</summary>
    public IEnumerable<InsertNow> EdgesInUse => Inserts.Where(i => (i.Holder == ToolHolder.Bar) != IsRotor);

    internal MountedPart Drawn =>
        new(
            Record.Kind,
            Record.Surface.Diameter,
            Record.Surface.Band,
            IsRotor ? Record.Measuring.Worst ?? Limits.MachineTo : Length.Zero,
            Known
        );

    /// <summary>A size as it stands in its field.</summary>
    public string? Text(LengthInput? typed, Length? known) =>
        typed?.Text ?? known?.In(Reader.Unit).ToString("0.######", CultureInfo.InvariantCulture);
}
