using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Release;
using Uncial.Data;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>The bench: every part that is in the shop, at the station where it waits, and what is next.</summary>
public class BenchModel(UncialDb db, ShopFile file, Reader reader, TimeProvider time) : PageModel
{
    /// <summary>A part on the bench, at the surface that is furthest behind.</summary>
    public sealed record OnBench(Part Part, SurfaceRecord Record, int Number, Station Station)
    {
        public string Href =>
            RailView.Href(
                Record,
                Number,
                Station == Station.Mount && Record.Measuring.DiscardVerdict == Verdict.Beyond ? Station.Plan : Station
            );
    }

    /// <summary>A lane of the board.</summary>
    public sealed record Lane(Station Station, string Word, IReadOnlyList<OnBench> Parts);

    public IReadOnlyList<Lane> Lanes { get; private set; } = [];
    public IReadOnlyList<Job> Jobs { get; private set; } = [];
    public OnBench? Next { get; private set; }
    public DateTimeOffset Now { get; private set; }
    public IReadOnlyDictionary<int, OnBench> ByPart { get; private set; } = new Dictionary<int, OnBench>();

    public async Task OnGetAsync(CancellationToken cancel)
    {
        Now = time.GetLocalNow();
        var shop = await file.ShopAsync(cancel);
        var since = new DateTimeOffset(Now.Date, Now.Offset).ToUniversalTime();
        // In the shop now, or out of it today.
        var parts = await SurfaceRecord
            .WithFacts(db.Parts.Where(p => db.LogLines.Any(l => l.PartId == p.Id && (l.Outcome == null || l.OutAt >= since))))
            .AsNoTrackingWithIdentityResolution()
            .ToListAsync(cancel);
        var empty = await db.Jobs.AsNoTracking().Where(j => j.Parts.Count == 0).ToListAsync(cancel);

        var all = parts
            .Select(p => Place(p, shop))
            .OrderBy(p => p.Part.Job!.PromisedAt ?? DateTimeOffset.MaxValue)
            .ThenBy(p => p.Part.Job!.Number)
            .ThenBy(p => p.Part.Corner)
            .ToList();
        ByPart = all.ToDictionary(p => p.Part.Id);
        IReadOnlyList<OnBench> At(params Station[] stations) => [.. all.Where(p => stations.Contains(p.Station))];
        Lanes =
        [
            new(Station.Measure, "Measure", At(Station.Receive, Station.Measure)),
            new(Station.Plan, "Mount, plan", At(Station.Mount, Station.Plan)),
            new(Station.Cut, "Cut", At(Station.Cut)),
            new(Station.Confirm, "Confirm", At(Station.Confirm)),
            new(Station.Release, "Release", At(Station.Release)),
            new(Station.Done, "Out today", At(Station.Done)),
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
        // What is on the lathe comes first, then by promise; within a job what is furthest along.
        Next = all.Where(p => p.Station != Station.Done)
            .OrderByDescending(p => p.Station == Station.Cut && p.Record.Planning.Passes.Count > 0)
            .ThenBy(p => p.Part.Job!.PromisedAt ?? DateTimeOffset.MaxValue)
            .ThenByDescending(p => p.Station)
            .ThenBy(p => p.Part.Corner)
            .FirstOrDefault();

        ViewData["Title"] = "Bench, " + Now.ToString("dddd", System.Globalization.CultureInfo.InvariantCulture);
        ViewData["At"] = "bench";
        ViewData["Sub"] =
            $"{At(Station.Done).Count} out, {At(Station.Cut).Count} on, {all.Count(p => p.Station is not (Station.Done or Station.Cut))} to go";
    }

    /// <summary>The surface that is furthest behind decides where the part waits.</summary>
    private static OnBench Place(Part part, Shop shop)
    {
        var records = part.Surfaces.Select((s, i) => new SurfaceRecord(s, part, shop)).ToList();
        var behind = records.Select((r, i) => (Record: r, Number: i + 1, r.Station)).OrderBy(r => r.Station).First();
        return new(part, behind.Record, behind.Number, behind.Station);
    }

    /// <summary>State of a part: its mark, its word, and whether it is beyond.</summary>
    public (string Mark, string Word, string Css) StateOf(OnBench part)
    {
        ArgumentNullException.ThrowIfNull(part);
        if (part.Part.Outcome is { } outcome)
            return outcome.Kind switch
            {
                OutcomeKind.Released => ("cut", "Released", "is-done"),
                OutcomeKind.Shelved => ("waiting", "Shelved", "is-done"),
                OutcomeKind.Refused => ("waiting", "Refused", "is-done"),
                _ => ("over", "Scrapped", "is-done is-over"),
            };
        if (part.Record.Inspection.End is { } end)
            return ("over", Words.Say("finding." + end.Kind), "is-over");
        if (part.Record.Measuring.Sizes.Count == 0 && part.Record.Measuring.Suspect.Count > 0)
            return ("close", "Readings in doubt", "is-waiting");
        if (part.Record.Measuring.DiscardVerdict == Verdict.Beyond)
            return ("over", "Beyond limit", "is-over");
        return part.Station switch
        {
            Station.Receive => ("waiting", "Limits missing", "is-waiting"),
            Station.Measure => part.Record.Measuring.Sizes.Count == 0
                ? ("toread", "To read", "is-waiting")
                : ("now", $"{part.Record.Measuring.Sizes.Count} of {part.Record.Measuring.Places.Count} read", ""),
            Station.Mount => part.Record.Mounting.Mount is null ? ("read", "Read", "") : ("on", "On the lathe", ""),
            Station.Plan => ("on", "Mounted", ""),
            Station.Cut => part.Record.Planning.Passes.Count == 0
                ? ("planned", "Planned", "")
                : (
                    "cutting",
                    $"Pass {part.Record.Planning.Passes.Count + 1} of {part.Record.Planning.Document!.Option.Passes.Count}",
                    "is-cutting"
                ),
            Station.Confirm => ("toread", "To confirm", ""),
            _ => ("within", "Confirmed", ""),
        };
    }

    /// <summary>Stock to machine-to as a figure and its mark, or null without readings.</summary>
    public (string Figure, string Mark, string Word, string Css)? StockOf(SurfaceRecord record)
    {
        ArgumentNullException.ThrowIfNull(record);
        if (record.Receiving.Limits is not { } limits || record.Cutting.Expected is not { } worst)
            return null;
        var toDiscard = Limits.Margin(record.Kind, worst, limits.Discard);
        if (toDiscard < Length.Zero)
            return (reader.Figure(-toDiscard, Toward.Greater), "over", "over", "is-over");
        var spare = Limits.Margin(record.Kind, worst, limits.MachineTo);
        if (spare < Length.Zero)
            return (reader.Margin(toDiscard), "close", "to wear", "is-brass");
        return (
            reader.Margin(spare),
            record.Measuring.Worst is null ? "planned"
            : spare < record.Measuring.Uncertainty ? "close"
            : "within",
            record.Measuring.Worst is null ? "by plan"
            : spare < record.Measuring.Uncertainty ? "close"
            : "spare",
            spare < record.Measuring.Uncertainty ? "is-brass" : "is-blue"
        );
    }

    public string Promise(Job job)
    {
        ArgumentNullException.ThrowIfNull(job);
        if (job.PromisedAt is not { } at)
            return "No time promised";
        var local = TimeZoneInfo.ConvertTime(at, time.LocalTimeZone);
        return local.Date == Now.Date
            ? $"By {local:HH:mm}"
            : "By " + local.ToString("ddd HH:mm", System.Globalization.CultureInfo.InvariantCulture);
    }

    public static string VerbOf(OnBench part)
    {
        ArgumentNullException.ThrowIfNull(part);
        var name = Words.Of(part.Part, part.Record.Surface).ToLowerInvariant();
        return part.Station switch
        {
            Station.Receive => "Find limits of " + name,
            Station.Measure => "Measure " + name,
            Station.Mount when part.Record.Measuring.DiscardVerdict != Verdict.Beyond => (
                part.Record.Mounting.Mount is null ? "Mount " : "Check the set-up of "
            ) + name,
            Station.Mount or Station.Plan => part.Record.Measuring.DiscardVerdict == Verdict.Beyond ? "Decide on " + name : "Plan " + name,
            Station.Cut => part.Record.Planning.Passes.Count == 0 ? "Cut " + name : "Go on cutting " + name,
            Station.Confirm => "Confirm " + name,
            _ => "Release " + name,
        };
    }
}
