using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Uncial.Core;
using Uncial.Core.Lengths;
using Uncial.Core.Release;
using Uncial.Data;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>A part's whole history: every fact, who stated it and when.</summary>
public class HistoryModel(UncialDb db, ShopFile shop, Reader reader, TimeProvider time) : FormPage(reader, time)
{
    private const int LongestReason = 300;

    /// <summary>One line of the history.</summary>
    public sealed record Line(DateTimeOffset At, string? By, string Mark, string What, string? More, bool IsWithdrawn);

    public Part Part { get; private set; } = null!;
    public IReadOnlyList<SurfaceRecord> Surfaces { get; private set; } = [];
    public IReadOnlyList<Line> Lines { get; private set; } = [];

    /// <summary>All visits of the part, the first one first; the one that is told included.</summary>
    public IReadOnlyList<(Part Part, IReadOnlyList<SurfaceRecord> Surfaces)> Visits { get; private set; } = [];

    /// <summary>It came back after this visit.</summary>
    public bool CameBack { get; private set; }

    /// <summary>Its first surface over all visits up to this one; null where it has no limits or was never read.</summary>
    public WearCurve? Wear { get; private set; }

    [BindProperty(SupportsGet = true)]
    public int? Visit { get; set; }

    /// <summary>back: the part is to be recalled.</summary>
    [BindProperty(SupportsGet = true, Name = "do")]
    public string? Do { get; set; }

    [BindProperty]
    public string? Reason { get; set; }

    [BindProperty]
    public bool HadLeft { get; set; }

    /// <summary>How it left may be recalled: not scrap, and not where it came again since.</summary>
    public bool MayCallBack => Part.Outcome is { Kind: not OutcomeKind.Scrapped } && !CameBack;

    public bool CallsBack => Do == "back" && MayCallBack;

    public async Task<IActionResult> OnGetAsync(string tag, CancellationToken cancel) => await LoadAsync(tag, cancel) ? Page() : NotFound();

    /// <summary>The part is recalled: a lead signs, with a reason.</summary>
    public async Task<IActionResult> OnPostCallBackAsync(string tag, CancellationToken cancel)
    {
        Do = "back";
        if (!await LoadAsync(tag, cancel))
            return NotFound();
        if (Part.Outcome is not { } outcome || !MayCallBack)
            return Redirect($"/part/{tag}");
        if (ReadText(Reason, LongestReason, "history.sayWhyItIsRecalled") is not { } reason)
            return Page();
        var recalled = await ReleaseCommands.RecallAsync(db, Part, reason, HadLeft, Actor, SignatureTyped, cancel);
        if (recalled.Refusal is not { } refusal)
            return Redirect($"/part/{tag}");
        Tell(refusal);
        return await LoadAsync(tag, cancel) ? Page() : NotFound();
    }

    protected override void Tell(Refusal refusal)
    {
        base.Tell(refusal);
        if (refusal is Refusal.DoneAlready)
            Trouble = Words.Say("history.somebodyElseCalledItBack");
    }

    private async Task<bool> LoadAsync(string tag, CancellationToken cancel)
    {
        if (await shop.PartAsync(tag, cancel, Visit) is not { } part)
            return false;
        Part = part;
        var settings = await shop.ShopAsync(cancel);
        Surfaces = [.. part.Surfaces.Select(s => new SurfaceRecord(s, part, settings))];
        CameBack = Visit is not null && await db.Parts.AnyAsync(p => p.Tag == tag && p.Visit > part.Visit, cancel);
        Visits =
        [
            .. (await shop.EarlierAsync(part, cancel)).Select(p =>
                (p, (IReadOnlyList<SurfaceRecord>)[.. p.Surfaces.Select(s => new SurfaceRecord(s, p, settings))])
            ),
            (part, Surfaces),
        ];
        if (Surfaces[0].Receiving.Limits is { } limits)
        {
            var seen = Visits
                .Where(v => v.Surfaces[0].Measuring.WorstBefore is not null)
                .Select(v => new WearVisit(
                    v.Part.KmSinceNew ?? v.Part.Job!.OdometerKm,
                    v.Surfaces[0].Measuring.WorstBefore!.Value,
                    v.Surfaces[0].CutsDone > 0 ? v.Surfaces[0].Measuring.Worst : null
                ))
                .ToList();
            if (seen.Count > 0)
                Wear = WearCurve.Of(limits, seen);
        }
        Lines = [.. Surfaces.SelectMany(Facts).Concat(Ends()).OrderByDescending(l => l.At)];
        if (CallsBack)
            Leads = await db.LeadsAsync(cancel);
        ViewData["Title"] = Words.Of(part);
        ViewData["Sub"] =
            $"{part.Tag}, {part.Job!.Vehicle}, job {part.Job.Number}" + (part.Visit > 1 || CameBack ? $", visit {part.Visit}" : "");
        return true;
    }

    private IEnumerable<Line> Ends()
    {
        yield return new(
            Part.Job!.ReceivedAt,
            null,
            "read",
            $"Received with job {Part.Job.Number}"
                + (Part.Visit > 1 ? $", for the {Part.Visit}{(Part.Visit == 2 ? "nd" : Part.Visit == 3 ? "rd" : "th")} time" : ""),
            Part.Job.Customer,
            false
        );
        foreach (var o in Part.Outcomes)
        {
            var more = string.Join(
                ". ",
                new[]
                {
                    o.Cause is { } cause ? Words.Say("scrapCause." + cause) : null,
                    o.Place is { } place ? $"{place}, kept by {o.Preservative}" : null,
                    o.Reason,
                    o.SignedBy is { } lead ? $"signed with a PIN by {lead.DisplayName}" : null,
                }.OfType<string>()
            );
            yield return new(
                o.At,
                o.By?.DisplayName,
                o.Kind == OutcomeKind.Scrapped ? "over" : "cut",
                Words.Say("outcome." + o.Kind) + (o.DoNotMachineAgain ? ", do not machine again" : ""),
                more.Length > 0 ? more : null,
                o.Withdrawal is not null
            );
            if (o.Withdrawal is { } back)
                yield return new(
                    back.At,
                    back.By?.DisplayName,
                    "over",
                    "Recalled" + (back.HadLeft ? ", it had left the shop" : ""),
                    back.Reason + (back.SignedBy is { } signed ? $", signed with a PIN by {signed.DisplayName}" : ""),
                    false
                );
            foreach (var (kind, prints) in (o.Certificate?.Prints ?? []).GroupBy(p => p.Kind).Select(g => (g.Key, g.ToList())))
                yield return new(
                    prints.Max(p => p.At),
                    null,
                    "read",
                    (kind == PrintKind.Tag ? "Tag" : "Certificate") + (prints.Count == 1 ? " printed" : $" printed {prints.Count} times"),
                    null,
                    false
                );
        }
    }

    private IEnumerable<Line> Facts(SurfaceRecord record)
    {
        var (surface, where) = (record.Surface, Surfaces.Count > 1 ? (record.Surface.InHat ? "Hat drum: " : "Faces: ") : "");
        foreach (var l in surface.LimitEntries)
            yield return new(
                l.At,
                l.By?.DisplayName,
                "read",
                $"{where}{Words.Say("limitKind." + l.Kind)} {Reader.With(l.Value)}",
                $"read “{l.Typed}” {LengthText.Name(l.Unit)}, {Words.Say("source." + l.Source).ToLowerInvariant()}",
                false
            );
        foreach (var t in surface.Settlements)
            yield return new(
                t.At,
                t.By?.DisplayName,
                "read",
                $"{where}{Words.Say("limitKind." + t.Kind)} settled: {Reader.With(surface.LimitEntries.First(l => l.Id == t.EntryId).Value)} holds",
                t.Reason,
                false
            );
        foreach (var f in surface.Findings)
            yield return new(
                f.At,
                f.By?.DisplayName,
                Core.Inspection.Findings.StopsThePart(f.Kind) ? "over" : "read",
                where
                    + (
                        f.Kind == Core.Inspection.FindingKind.Nothing
                            ? "Looked at, nothing found"
                            : "Found: " + Words.Say("finding." + f.Kind).ToLowerInvariant() + (f.Depth is { } d ? " " + Reader.With(d) : "")
                    ),
                f.Withdrawal is { } back ? $"taken back: {back.Reason}" : f.Note,
                f.Withdrawal is not null
            );
        foreach (var r in surface.Readings)
            yield return new(
                r.At,
                r.By?.DisplayName,
                "now",
                where + Of(r),
                $"typed “{r.Typed}” {LengthText.Name(r.Unit)}"
                    + (record.GaugeOf(r) is { } g ? $", {g.Name}" : "")
                    + (
                        r.Correction != Length.Zero
                            ? $", zero {(r.Correction > Length.Zero ? "+" : "−")}{Reader.Fine(r.Correction.Abs())}"
                            : ""
                    )
                    + (r.TypedAt is { } typed ? $", typed {typed.ToLocalTime():HH:mm}, waited for the server" : "")
                    + (r.Insisted ? ", questioned and kept" : "")
                    + (r.FromFile == true ? ", not read here" : "")
                    + (r.Note is { } note ? $"; “{note}”" : "")
                    + (r.Flag is null ? "" : "; suspect, its gauge failed afterwards")
                    + (r.Withdrawal is { } w ? $"; taken back: {w.Reason}" : ""),
                r.Withdrawal is not null || r.Flag is not null
            );
        foreach (var m in surface.Mounts)
            yield return new(
                m.At,
                m.By?.DisplayName,
                "on",
                $"{where}{(m.Found is null ? "Mounted" : "Mounted anew")} on {record.Shop.Lathes.Find(l => l.Id == m.LatheId)?.Profile.Name}",
                $"{Words.Say("mountWay." + m.Way)}, {m.Centring}"
                    + (m.Found is { } found ? $"; {Words.Say("cause." + found).ToLowerInvariant()}" : ""),
                false
            );
        foreach (var c in surface.SetUps)
            yield return new(
                c.At,
                c.By?.DisplayName,
                MountModel.WordsOf(c.Verdict).Mark,
                $"{where}Set-up: {MountModel.WordsOf(c.Verdict).Word.ToLowerInvariant()}",
                Words.Say("manner." + c.Manner).ToLowerInvariant()
                    + (
                        c.SetUpRunout is { } s
                            ? $", {Reader.Fine(s, Toward.Greater)} {Reader.UnitName} in the set-up, {Reader.Fine(c.PartRunout!.Value)} in the part"
                            : ""
                    ),
                false
            );
        foreach (var d in surface.SetUpDecisions.Where(d => d.Reason is not null))
            yield return new(
                d.At,
                d.By?.DisplayName,
                "close",
                where + (d.CheckId is null ? "Gone on without a set-up check" : "Gone on against the set-up check"),
                d.Reason,
                false
            );
        foreach (var p in surface.Plans)
        {
            var document = p.Contents;
            yield return new(
                p.At,
                p.By?.DisplayName,
                "planned",
                $"{where}Plan {p.Version}: {Words.Technique(p.Technique)}"
                    + (
                        document.Option.Passes.Count > 0
                            ? $", {document.Option.Passes.Count} {(document.Option.Passes.Count == 1 ? "pass" : "passes")}, {Reader.With(document.Option.Metal!.Value)}"
                            : ""
                    ),
                Say(document.Why),
                false
            );
        }
        foreach (var p in surface.Passes)
        {
            var made = record.Planning.PassOf(p);
            var dark =
                System.Numerics.BitOperations.PopCount((uint)p.DarkOuter) + System.Numerics.BitOperations.PopCount((uint)p.DarkInner);
            yield return new(
                p.At,
                p.By?.DisplayName,
                "cut",
                $"{where}Pass {p.Cut}: {Words.Say("pass." + made.Kind).ToLowerInvariant()}, {string.Join(" / ", made.Depth.Select(d => Reader.Figure(d)))} {Reader.UnitName}",
                (dark == 0 ? "nothing dark" : $"{dark} twelfths dark")
                    + (p.Noise is { } noise ? $", with {Words.Say("chatter." + noise).ToLowerInvariant()}" : "")
                    + (p.Size is { } size ? $", measured {Reader.With(size)}" : "")
                    + (p.Notes.Length > 2 ? ". " + Say(StoredJson.Read<List<Note>>(p.Notes)) : ""),
                false
            );
        }
        foreach (var c in surface.CutStarts.Where(c => c.Stop is { Kind: CutStopKind.BrokenOff }))
            yield return new(c.Stop!.At, c.Stop.By?.DisplayName, "close", where + "A pass was broken off", c.Stop.Reason, false);
        foreach (var c in surface.Chatters)
            yield return new(
                c.At,
                c.By?.DisplayName,
                "look",
                $"{where}Chatter: {Words.Say("chatter." + c.Sign).ToLowerInvariant()}",
                $"{Words.Say("chatter.remedy." + c.Remedy)}: {(c.Helped ? "helped" : "no help")}",
                false
            );
        foreach (var f in surface.Finishes)
            yield return new(
                f.At,
                f.By?.DisplayName,
                f.Reason is null ? "hand" : "close",
                where + (f.Cuts == 0 ? "Scuffed" : "Finished"),
                string.Join(", ", f.Steps.Select(s => Words.Say("finish." + s).ToLowerInvariant()))
                    + (f.Reason is { } why ? $"; left out a step: {why}" : ""),
                false
            );
        foreach (var c in surface.Confirmations)
            yield return new(
                c.At,
                c.By?.DisplayName,
                c.Decision switch
                {
                    Decision.Release => "within",
                    Decision.Never => "over",
                    _ => "close",
                },
                where
                    + c.Decision switch
                    {
                        Decision.Release => "Confirmed within limit",
                        Decision.LeadOnly => "Confirmed between limits",
                        Decision.Never => "Beyond discard",
                        _ => "Too close to call",
                    },
                $"worst {Reader.With(c.Worst)}, ± {Reader.Fine(c.Uncertainty)}, discard {Reader.With(c.Discard)}"
                    + (c.Reason is { } why ? $"; gone on because: {why}" : ""),
                false
            );
    }

    private string Of(ReadingFact r) =>
        r.Kind switch
        {
            ReadingKind.Size => $"{(r.Cuts == 0 ? "Read" : "Read after the cut")} {Reader.With(r.Value)} at {Words.Clock(r.Degrees ?? 0)}"
                + (r.Station is { } s ? $", {Reader.With(s)} in" : ""),
            ReadingKind.RunoutOuter => "Run-out, outer face " + Reader.With(r.Value),
            ReadingKind.RunoutInner => "Run-out, inner face " + Reader.With(r.Value),
            _ when LookedFor.Is(r.Kind) =>
                $"{Words.Say("look." + r.Kind)}: {(r.Value == Length.Zero ? LookedFor.None : Reader.With(r.Value))}",
            ReadingKind.Eccentricity => "Off centre on the spindle " + Reader.With(r.Value),
            _ => Reader.With(r.Value),
        };

    private string? Say(IReadOnlyList<Note> notes) =>
        notes.Count == 0 ? null : string.Join(" ", notes.Select(n => Words.Of(n, Reader.Unit)));
}
