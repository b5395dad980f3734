using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Release;
using Uncial.Data;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>The bench: every part that is in the shop, at the station where it waits, and what is next.</summary>
public class BenchModel(UncialDb db, BenchStates states, Reader reader, TimeProvider time) : PageModel
{
    /// <summary>A lane of the board.</summary>
    public sealed record Lane(Station Station, string Word, IReadOnlyList<BenchPart> Parts);

    /// <summary>Metal that is left of a part, as its card and the next step show it.</summary>
    /// <param name="Figure">In the unit of the screen.</param>
    /// <param name="Mark">Name of its mark.</param>
    /// <param name="Word">What it is, on a card.</param>
    /// <param name="Css">Its colour.</param>
    /// <param name="Label">What it is, as a heading.</param>
    public sealed record StockShown(string Figure, string Mark, string Word, string Css, string Label);

    /// <summary>How long what was drawn of a job or a lane is kept after it was last shown.</summary>
    public static TimeSpan KeepDrawn { get; } = TimeSpan.FromMinutes(10);

    public IReadOnlyList<Lane> Lanes { get; private set; } = [];
    public IReadOnlyList<Job> Jobs { get; private set; } = [];
    public BenchPart? Next { get; private set; }
    public DateTimeOffset Now { get; private set; }
    private ILookup<int, BenchPart> byJob = Enumerable.Empty<BenchPart>().ToLookup(p => p.Part.JobId);

    public async Task OnGetAsync(CancellationToken cancel)
    {
        Now = time.GetUtcNow();
        var today = Dates.Shop.DayOf(Now);
        var since = Dates.Shop.BeginOf(today);
        // In the shop now, or out of it today.
        var bench = await states.OnBenchAsync(db, since, cancel);
        var all = bench.Parts;
        var empty = await db.Jobs.AsNoTracking().Where(j => j.Parts.Count == 0).ToListAsync(cancel);
        byJob = all.ToLookup(p => p.Part.JobId);
        IReadOnlyList<BenchPart> At(params Station[] stations) => [.. all.Where(p => stations.Contains(p.Station))];
        Lanes =
        [
            new(Station.Measure, Words.Say("station.Measure"), At(Station.Receive, Station.Measure)),
            new(Station.Plan, Words.Say("bench.mountPlan"), At(Station.Mount, Station.Plan)),
            new(Station.Cut, Words.Say("station.Cut"), At(Station.Cut)),
            new(Station.Confirm, Words.Say("station.Confirm"), At(Station.Confirm)),
            new(Station.Release, Words.Say("station.Release"), At(Station.Release)),
            new(Station.Done, Words.Say("bench.outToday"), At(Station.Done)),
        ];
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
            $"{bench.Stamp} {reader.Unit} {today:yyyyMMdd} {Dates.Shop.Zone.Id} {Dates.Shop.Style} {Jobs.Count(j => j.PromisedAt < Now)} "
            + $"{string.Join('|', empty.Select(j => $"{j.Id} {j.Vehicle}"))}";
        // What is on the lathe comes first, then by promise; within a job what is furthest along.
        Next = all.Where(p => p.Station != Station.Done)
            .OrderByDescending(p => p.Station == Station.Cut && p.Record.Planning.Passes.Count > 0)
            .ThenBy(p => p.Part.Job!.PromisedAt ?? DateTimeOffset.MaxValue)
            .ThenByDescending(p => p.Station)
            .ThenBy(p => p.Part.Corner)
            .FirstOrDefault();

        ViewData["Title"] = Words.Say("bench.title", Dates.Shop.Weekday(Now, isLong: true));
        ViewData["At"] = "bench";
        ViewData["Sub"] =
            $"{At(Station.Done).Count} out, {At(Station.Cut).Count} on, "
            + $"{all.Count(p => p.Station is not (Station.Done or Station.Cut))} to go";
    }

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
                reader.Figure(-toDiscard, Toward.Greater),
                "over",
                Words.Say("bench.over"),
                "is-over",
                Words.Say("bench.overDiscard")
            );
        var spare = Limits.Margin(record.Kind, worst, limits.MachineTo);
        if (spare < Length.Zero)
            return new(reader.Margin(toDiscard), "close", Words.Say("draw.toWear"), "is-brass", Words.Say("bench.leftToWear"));
        return new(
            reader.Margin(spare),
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
    public string KeyOf(IEnumerable<BenchPart> parts) => $"{reader.Unit} {string.Join(' ', parts.Select(p => p.Stamp))}";

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
