using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Release;
using Uncial.Core.Scheduling;
using Uncial.Data;
using Uncial.Web.Board;
using Uncial.Web.Forms;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>The bench: the day's board, the vehicles in the shop, and what is next for who looks.</summary>
public class BenchModel(UncialDb db, BenchStates states, BoardKeeper keeper, Reader reader, TimeProvider time) : FormPage(reader, time)
{
    /// <summary>Metal that is left of a part, as the vehicle and the next step show it.</summary>
    /// <param name="Figure">In the unit of the screen.</param>
    /// <param name="Mark">Name of its mark.</param>
    /// <param name="Word">What it is, on the vehicle.</param>
    /// <param name="Css">Its colour.</param>
    /// <param name="Label">What it is, as a heading.</param>
    public sealed record StockShown(string Figure, string Mark, string Word, string Css, string Label);

    /// <summary>What is tried on the board and not kept.</summary>
    /// <param name="Surface">The surface that is moved.</param>
    /// <param name="Pin">Where it would stand.</param>
    /// <param name="Seen">The newest decision about it that was seen.</param>
    /// <param name="Price">What that costs.</param>
    public sealed record Trial(int Surface, Core.Scheduling.Pin Pin, int Seen, BoardPrice Price);

    /// <summary>How long what was drawn of a job or a lane is kept after it was last shown.</summary>
    public static TimeSpan KeepDrawn { get; } = TimeSpan.FromMinutes(10);

    /// <summary>The surface that a form is about.</summary>
    [BindProperty]
    public int Surface { get; set; }

    /// <summary>The lathe that it is about.</summary>
    [BindProperty]
    public int? Lathe { get; set; }

    /// <summary>A place on that lathe, 0 for the first that is to come.</summary>
    [BindProperty]
    public int? Place { get; set; }

    /// <summary>Not mounted before, as typed.</summary>
    [BindProperty]
    public string? NotBefore { get; set; }

    /// <summary>The newest decision that the page has shown.</summary>
    [BindProperty]
    public int Seen { get; set; }

    /// <summary>The job that it is about.</summary>
    [BindProperty]
    public int JobId { get; set; }

    /// <summary>What is wrong with a lathe.</summary>
    [BindProperty]
    public string? Reason { get; set; }

    /// <summary>When it is expected back, as typed.</summary>
    [BindProperty]
    public string? BackAt { get; set; }

    /// <summary>The day that is shown; today where none is named.</summary>
    [BindProperty(SupportsGet = true, Name = "day")]
    public DateOnly? Chosen { get; set; }

    public BoardView Board { get; private set; } = null!;
    public BoardNow Planned { get; private set; } = null!;
    public Trial? Tried { get; private set; }
    public IReadOnlyList<Job> Jobs { get; private set; } = [];
    public BenchPart? Next { get; private set; }

    /// <summary>The step of the plan that is next; null where the plan has none for it.</summary>
    public PlacedStep? NextStep { get; private set; }
    private ILookup<int, BenchPart> byJob = Enumerable.Empty<BenchPart>().ToLookup(p => p.Part.JobId);

    /// <param name="all">The whole bench, also on a screen that is pinned to a lathe.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<IActionResult> OnGetAsync(bool all, CancellationToken cancel)
    {
        if (
            !all
            && Chosen is null
            && await db.Screens.Where(s => s.Id == Reader.ScreenId).Select(s => s.LatheId).SingleOrDefaultAsync(cancel) is { } lathe
        )
            return Redirect(FormattableString.Invariant($"/lathes/{lathe}/view"));
        Planned = await keeper.NowAsync(cancel);
        await ShowAsync(Planned.Plan, cancel);
        return Page();
    }

    /// <summary>Shows what a move would cost; nothing is kept.</summary>
    public async Task OnPostTryAsync(CancellationToken cancel)
    {
        Planned = await keeper.NowAsync(cancel);
        var pin = Pin;
        if (Request.Form.ContainsKey("NotBefore") && Lathe is null && string.IsNullOrWhiteSpace(NotBefore))
            Reject("NotBefore", Words.Say("board.whichTime"));
        var work = Planned.Plan.Day.Plan.Works.FirstOrDefault(w => w.Id == Surface);
        if (work is not null && Lathe is { } lathe && !work.IsFor(lathe))
            Trouble = Words.Say("board.notOnThatLathe");
        else if (pin is not null && ModelState.IsValid && work is not null)
        {
            var tried = BoardKeeper.Try(Planned, floor => With(floor, Surface, pin));
            Tried = new(Surface, pin, Seen, BoardPrice.Of(Planned.Plan, tried));
            await ShowAsync(tried, cancel);
            return;
        }
        await ShowAsync(Planned.Plan, cancel);
    }

    /// <summary>Pins a surface; with neither lathe, place nor time, takes its pin off.</summary>
    public async Task<IActionResult> OnPostPinAsync(CancellationToken cancel)
    {
        var pin = Pin;
        if (!ModelState.IsValid)
            return await AgainAsync(cancel);
        var result = await DayCommands.PinAsync(new(db, Actor, Seen), Surface, pin, cancel);
        return await DoneAsync(result.Refusal, cancel);
    }

    /// <summary>Takes a pin off.</summary>
    public async Task<IActionResult> OnPostUnpinAsync(CancellationToken cancel) =>
        await DoneAsync((await DayCommands.PinAsync(new(db, Actor, Seen), Surface, null, cancel)).Refusal, cancel);

    /// <summary>Marks a job urgent, or not urgent any more.</summary>
    public async Task<IActionResult> OnPostUrgentAsync(bool urgent, CancellationToken cancel)
    {
        Planned = await keeper.NowAsync(cancel);
        var result = await DayCommands.MarkUrgentAsync(new(db, Actor, Planned.At.Urgent.GetValueOrDefault(JobId)), JobId, urgent, cancel);
        return await DoneAsync(result.Refusal, cancel);
    }

    /// <summary>Marks a lathe out of order, or in order again.</summary>
    public async Task<IActionResult> OnPostLatheAsync(bool isOut, CancellationToken cancel)
    {
        var back = ReadTime(BackAt);
        var reason = isOut ? ReadText(Reason, 300, "board.whatIsWrong") : null;
        if (!ModelState.IsValid || Lathe is not { } lathe)
            return await AgainAsync(cancel);
        return await DoneAsync(
            (await DayCommands.MarkLatheAsync(new(db, Actor, Seen), lathe, isOut, reason, back, cancel)).Refusal,
            cancel
        );
    }

    private Core.Scheduling.Pin? Pin =>
        ReadTime(NotBefore) is var at && Lathe is null && Place is null && at is null
            ? null
            : new(Lathe, Place is { } place ? Math.Max(0, place) : null, at);

    private static ShopFloor With(ShopFloor floor, int surface, Core.Scheduling.Pin pin) =>
        floor with
        {
            Pins = new Dictionary<int, Core.Scheduling.Pin>(floor.Pins) { [surface] = pin },
        };

    private async Task<IActionResult> DoneAsync(Refusal? refusal, CancellationToken cancel)
    {
        if (refusal is not null)
            Tell(refusal);
        Planned = await keeper.PlanNowAsync(cancel);
        if (refusal is null)
            return RedirectToPage();
        await ShowAsync(Planned.Plan, cancel);
        return Page();
    }

    private async Task<IActionResult> AgainAsync(CancellationToken cancel)
    {
        Planned = await keeper.NowAsync(cancel);
        await ShowAsync(Planned.Plan, cancel);
        return Page();
    }

    protected override void Tell(Refusal refusal)
    {
        if (refusal is Refusal.Outdated or Refusal.Overtaken or Refusal.DoneAlready)
            Trouble = Words.Say("board.movedMeanwhile", refusal is Refusal.Outdated { By: { } by } ? by : Words.Say("refused.somebody"));
        else
            base.Tell(refusal);
    }

    private async Task ShowAsync(PlannedDay plan, CancellationToken cancel)
    {
        var now = Now;
        var today = Dates.Shop.DayOf(now);
        // In the shop now, or out of it today.
        var bench = await states.OnBenchAsync(db, Dates.Shop.BeginOf(today), cancel);
        var all = bench.Parts;
        var empty = await db.Jobs.AsNoTracking().Where(j => j.Parts.Count == 0).ToListAsync(cancel);
        byJob = all.ToLookup(p => p.Part.JobId);
        Board = new(Planned, plan, Chosen is { } day && day >= today && day <= today.AddDays(ShopDay.Days) ? day : today);
        Jobs =
        [
            .. all.Where(p => p.Station != Station.Done)
                .Select(p => p.Part.Job!)
                .DistinctBy(j => j.Id)
                .Concat(empty)
                .OrderBy(j => j.PromisedAt ?? DateTimeOffset.MaxValue)
                .ThenBy(j => j.Number),
        ];
        Key =
            $"{bench.Stamp} {Reader.Unit} {today:yyyyMMdd} {Dates.Shop.Zone.Id} {Dates.Shop.Style} {Jobs.Count(j => j.PromisedAt < now)} "
            + $"{string.Join('|', empty.Select(j => $"{j.Id} {j.Vehicle}"))}";
        (Next, NextStep) = NextOf(all);

        ViewData["Title"] = Words.Say("bench.title", Dates.Shop.Weekday(now, isLong: true));
        ViewData["At"] = "bench";
        ViewData["Sub"] = Words.Say(
            "board.sub",
            all.Count(p => p.Station == Station.Done),
            all.Count(p => p.Station == Station.Cut),
            all.Count(p => p.Station is not (Station.Done or Station.Cut))
        );
    }

    /// <summary>
    /// The first step that the plan has for who looks; where it has none, what was promised first. The plan is a moment old: what went on
    /// since is not next any more.
    /// </summary>
    private (BenchPart?, PlacedStep?) NextOf(IReadOnlyList<BenchPart> all)
    {
        var open = all.Where(p => p.Station != Station.Done)
            .SelectMany(p => p.Surfaces.Select(s => (s.Surface.Id, Part: p)))
            .ToDictionary(x => x.Id, x => x.Part);
        foreach (var step in Planned.Plan.StepsFor(Reader.OperatorId))
            if (open.GetValueOrDefault(step.WorkId) is { } part && step.Step.IsDueAt(part.Station))
                return (part, step);
        return (
            all.Where(p => p.Station != Station.Done)
                .OrderBy(p => p.Part.Job!.PromisedAt ?? DateTimeOffset.MaxValue)
                .ThenByDescending(p => p.Station)
                .ThenBy(p => p.Part.Corner)
                .FirstOrDefault(),
            null
        );
    }

    /// <summary>Why the next step is next, in words; null where the plan does not say.</summary>
    public string? WhyNext
    {
        get
        {
            if (NextStep is not { } step || Planned.Plan.IsUnderWay(step))
                return null;
            if (step.Step != WorkStep.Machine)
                return Words.Say(step.Step == WorkStep.Measure ? "board.whyMeasure" : "board.whyConfirm");
            return Planned.Plan.Reasons.GetValueOrDefault(step.WorkId) switch
            {
                { Why: NextWhy.Promise, JobId: { } job } why => Words.Say("board.whyPromise", Board.JobOf(job)?.Number, why.Minutes),
                { Why: NextWhy.Idle } why => Words.Say("board.whyIdle", why.Minutes),
                { Why: NextWhy.Finish } why => Words.Say("board.whyFinish", why.Minutes),
                { Why: NextWhy.NothingElse } => Words.Say("board.whyNothingElse"),
                { Why: NextWhy.AsGood } => Words.Say("board.whyAsGood"),
                _ => null,
            };
        }
    }

    /// <summary>When the next step is planned: the time, with the day where that is not today; null where it is under way.</summary>
    public string? NextAt =>
        NextStep is { } step && !Planned.Plan.IsUnderWay(step) ? WithDay(step.From.AddMinutes(-step.ChangeOver)) : null;

    /// <summary>A time, with its day where that is not today.</summary>
    public string WithDay(DateTimeOffset at) =>
        Dates.Shop.DayOf(at) == Dates.Shop.DayOf(Now) ? Dates.Clock(at) : $"{Dates.Shop.Weekday(at)} {Dates.Clock(at)}";

    /// <summary>Promises that are in danger, the worst first. Of a job that waits for a decision nothing is said.</summary>
    public IEnumerable<(Job Job, JobReadiness Range)> InDanger =>
        Planned
            .Plan.Ready.Values.Where(r => Planned.Plan.PromiseOf(r.JobId) is PromiseState.Tight or PromiseState.Late)
            .Where(r => Board.JobOf(r.JobId) is not null)
            .Select(r => (Job: Board.JobOf(r.JobId)!, Range: r))
            .OrderByDescending(r => r.Range.Promise)
            .ThenBy(r => r.Job.PromisedAt);

    /// <summary>The page that a part is worked on next.</summary>
    public static string HrefOf(BenchPart part)
    {
        ArgumentNullException.ThrowIfNull(part);
        return RailView.Href(
            part.Record,
            part.Number,
            part.Station == Station.Mount && part.Record.Measuring.DiscardVerdict == Verdict.Beyond ? Station.Plan : part.Station
        );
    }

    /// <summary>State of a part: its mark, its word, and whether it is beyond.</summary>
    public (string Mark, string Word, string Css) StateOf(BenchPart part)
    {
        ArgumentNullException.ThrowIfNull(part);
        if (part.Part.Outcome is { } outcome)
            return outcome.Kind switch
            {
                OutcomeKind.Released => ("cut", Words.Say("outcome.Released"), "is-done"),
                OutcomeKind.Shelved => ("waiting", Words.Say("outcome.Shelved"), "is-done"),
                OutcomeKind.Refused => ("waiting", Words.Say("outcome.Refused"), "is-done"),
                _ => ("over", Words.Say("outcome.Scrapped"), "is-done is-over"),
            };
        if (part.Record.Inspection.End is { } end)
            return ("over", Words.Say("finding." + end.Kind), "is-over");
        if (part.Record.Measuring.Sizes.Count == 0 && part.Record.Measuring.Suspect.Count > 0)
            return ("close", Words.Say("bench.readingsSuspect"), "is-waiting");
        if (part.Record.Measuring.DiscardVerdict == Verdict.Beyond)
            return ("over", Words.Say("bench.beyondLimit"), "is-over");
        return part.Station switch
        {
            Station.Receive => ("waiting", Words.Say("bench.limitsMissing"), "is-waiting"),
            Station.Measure => part.Record.Measuring.Sizes.Count == 0
                ? ("toread", Words.Say("bench.toRead"), "is-waiting")
                : ("now", Words.Say("bench.ofRead", part.Record.Measuring.Sizes.Count, part.Record.Measuring.Places.Count), ""),
            Station.Mount => part.Record.Mounting.Mount is null
                ? ("read", Words.Say("bench.read"), "")
                : ("on", Words.Say("bench.onTheLathe"), ""),
            Station.Plan => ("on", Words.Say("bench.mounted"), ""),
            Station.Cut => part.Record.Planning.Passes.Count == 0
                ? ("planned", Words.Say("bench.planned"), "")
                : (
                    "cutting",
                    Words.Say("bench.passOf", part.Record.Planning.Passes.Count + 1, part.Record.Planning.Document!.Option.Passes.Count),
                    "is-cutting"
                ),
            Station.Confirm => ("toread", Words.Say("bench.toConfirm"), ""),
            _ => ("within", Words.Say("bench.confirmed"), ""),
        };
    }

    /// <summary>Stock to machine-to as a figure and its mark, or null without readings.</summary>
    public StockShown? StockOf(SurfaceRecord record)
    {
        ArgumentNullException.ThrowIfNull(record);
        if (record.Receiving.Limits is not { } limits || record.Cutting.Expected is not { } worst)
            return null;
        var toDiscard = Limits.Margin(record.Kind, worst, limits.Discard);
        if (toDiscard < Length.Zero)
            return new(
                Reader.Figure(-toDiscard, Toward.Greater),
                "over",
                Words.Say("bench.over"),
                "is-over",
                Words.Say("bench.overDiscard")
            );
        var spare = Limits.Margin(record.Kind, worst, limits.MachineTo);
        if (spare < Length.Zero)
            return new(Reader.Margin(toDiscard), "close", Words.Say("draw.toWear"), "is-brass", Words.Say("bench.leftToWear"));
        return new(
            Reader.Margin(spare),
            record.Measuring.Worst is null ? "planned"
                : spare < record.Measuring.Uncertainty ? "close"
                : "within",
            record.Measuring.Worst is null ? Words.Say("bench.byPlan")
                : spare < record.Measuring.Uncertainty ? Words.Say("bench.close")
                : Words.Say("draw.spare"),
            spare < record.Measuring.Uncertainty ? "is-brass" : "is-blue",
            Words.Say("bench.mayComeOff")
        );
    }

    /// <summary>The parts of a job that are on the bench, in the order in which they were received.</summary>
    public IReadOnlyList<BenchPart> PartsOf(Job job)
    {
        ArgumentNullException.ThrowIfNull(job);
        return [.. byJob[job.Id].OrderBy(p => p.Part.Id)];
    }

    /// <summary>Changes whenever anything of lanes and vehicles does.</summary>
    public string Key { get; private set; } = "";

    /// <summary>Changes whenever anything that is drawn of these parts does.</summary>
    public string KeyOf(IEnumerable<BenchPart> parts) => $"{Reader.Unit} {string.Join(' ', parts.Select(p => p.Stamp))}";

    public string Promise(Job job)
    {
        ArgumentNullException.ThrowIfNull(job);
        return job.PromisedAt is null ? Words.Say("bench.noTimePromised") : Words.Say("bench.by", Promised(job));
    }

    /// <summary>The time alone, with its day where that is not today.</summary>
    public string Promised(Job job)
    {
        ArgumentNullException.ThrowIfNull(job);
        return job.PromisedAt is not { } at ? Words.Say("bench.noTimePromised")
            : Dates.Shop.DayOf(at) == Dates.Shop.DayOf(Now) ? Dates.Clock(at)
            : $"{Dates.Shop.Weekday(at)} {Dates.Clock(at)}";
    }

    public static string VerbOf(BenchPart part)
    {
        ArgumentNullException.ThrowIfNull(part);
        var name = Words.Of(part.Part, part.Record.Surface).ToLowerInvariant();
        return part.Station switch
        {
            Station.Receive => Words.Say("bench.findLimitsOf") + name,
            Station.Measure => Words.Say("bench.measure", name),
            Station.Mount when part.Record.Measuring.DiscardVerdict != Verdict.Beyond => part.Record.Mounting.Mount is null
                ? Words.Say("bench.mount", name)
                : Words.Say("bench.checkTheSetUpOf") + name,
            Station.Mount or Station.Plan => part.Record.Measuring.DiscardVerdict == Verdict.Beyond
                ? Words.Say("bench.decideOn") + name
                : Words.Say("bench.plan", name),
            Station.Cut => part.Record.Planning.Passes.Count == 0 ? Words.Say("bench.cut", name) : Words.Say("bench.goOnCutting") + name,
            Station.Confirm => Words.Say("bench.confirm", name),
            _ => Words.Say("bench.release", name),
        };
    }
}
