using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Uncial.Core;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Release;
using Uncial.Data;
using Uncial.Web.Wording;

namespace Uncial.Web.Pages;

/// <summary>A part's whole story: every fact, who stated it and when.</summary>
public class StoryModel(ShopFile shop, Reader reader) : PageModel
{
    /// <summary>One line of the story.</summary>
    public sealed record Line(DateTimeOffset At, string? By, string Mark, string What, string? More, bool IsWithdrawn);

    public Part Part { get; private set; } = null!;
    public IReadOnlyList<SurfaceRecord> Surfaces { get; private set; } = [];
    public IReadOnlyList<Line> Lines { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(string tag, CancellationToken cancel)
    {
        if (await shop.PartAsync(tag, cancel) is not { } part) return NotFound();
        Part = part;
        var settings = await shop.ShopAsync(cancel);
        Surfaces = [.. part.Surfaces.Select(s => new SurfaceRecord(s, part, settings))];
        Lines = [.. Surfaces.SelectMany(Facts).Concat(Ends()).OrderByDescending(l => l.At)];
        ViewData["Title"] = Words.Of(part);
        ViewData["Sub"] = $"{part.Tag}, {part.Job!.Vehicle}, job {part.Job.Number}";
        return Page();
    }

    private IEnumerable<Line> Ends()
    {
        yield return new(Part.Job!.ReceivedAt, null, "read", $"Received with job {Part.Job.Number}", Part.Job.Customer, false);
        if (Part.Outcome is { } o)
            yield return new(o.At, o.By?.DisplayName, o.Kind == OutcomeKind.Scrapped ? "over" : "cut", Words.Say("outcome." + o.Kind) + (o.DoNotMachineAgain ? ", do not machine again" : ""), o.Reason, false);
    }

    private IEnumerable<Line> Facts(SurfaceRecord record)
    {
        var (surface, where) = (record.Surface, Surfaces.Count > 1 ? (record.Surface.InHat ? "Hat drum: " : "Faces: ") : "");
        foreach (var l in surface.LimitEntries)
            yield return new(l.At, l.By?.DisplayName, "read", $"{where}{Words.Say("limitKind." + l.Kind)} {reader.With(l.Value)}", $"read “{l.Typed}” {LengthText.Name(l.Unit)}, {Words.Say("source." + l.Source).ToLowerInvariant()}", false);
        foreach (var t in surface.Settlements)
            yield return new(t.At, t.By?.DisplayName, "read", $"{where}{Words.Say("limitKind." + t.Kind)} settled: {reader.With(surface.LimitEntries.First(l => l.Id == t.EntryId).Value)} holds", t.Reason, false);
        foreach (var f in surface.Findings)
            yield return new(f.At, f.By?.DisplayName, Core.Looking.Findings.EndsTheJourney(f.Kind) ? "over" : "read", where + (f.Kind == Core.Looking.FindingKind.Nothing ? "Looked at, nothing found" : "Found: " + Words.Say("finding." + f.Kind).ToLowerInvariant() + (f.Depth is { } d ? " " + reader.With(d) : "")),
                f.Withdrawal is { } back ? $"taken back: {back.Reason}" : f.Note, f.Withdrawal is not null);
        foreach (var r in surface.Readings)
            yield return new(r.At, r.By?.DisplayName, "now", where + Of(r), $"typed “{r.Typed}” {LengthText.Name(r.Unit)}" + (record.GaugeOf(r) is { } g ? $", {g.Name}" : "") + (r.Correction != Length.Zero ? $", zero {(r.Correction > Length.Zero ? "+" : "−")}{reader.Fine(r.Correction.Abs())}" : "") + (r.TypedAt is { } typed ? $", typed {typed.ToLocalTime():HH:mm}, waited for the server" : "") + (r.Insisted ? ", questioned and kept" : "") + (r.Note is { } note ? $"; “{note}”" : "") + (r.Flag is null ? "" : "; in doubt, its gauge failed afterwards") + (r.Withdrawal is { } w ? $"; taken back: {w.Reason}" : ""), r.Withdrawal is not null || r.Flag is not null);
        foreach (var m in surface.Mounts)
            yield return new(m.At, m.By?.DisplayName, "on", $"{where}{(m.Found is null ? "Mounted" : "Mounted anew")} on {record.Shop.Lathes.Find(l => l.Id == m.LatheId)?.Profile.Name}", $"{Words.Say("mountWay." + m.Way)}, {m.Centring}" + (m.Found is { } found ? $"; {Words.Say("cause." + found).ToLowerInvariant()}" : ""), false);
        foreach (var c in surface.SetUps)
            yield return new(c.At, c.By?.DisplayName, MountModel.WordsOf(c.Verdict).Mark, $"{where}Set-up: {MountModel.WordsOf(c.Verdict).Word.ToLowerInvariant()}", Words.Say("manner." + c.Manner).ToLowerInvariant() + (c.SetUpRunout is { } s ? $", {reader.Fine(s, Toward.Greater)} {reader.UnitName} in the set-up, {reader.Fine(c.PartRunout!.Value)} in the part" : ""), false);
        foreach (var d in surface.SetUpDecisions.Where(d => d.Reason is not null))
            yield return new(d.At, d.By?.DisplayName, "close", where + (d.CheckId is null ? "Gone on without a set-up check" : "Gone on against the set-up check"), d.Reason, false);
        foreach (var p in surface.Plans)
        {
            var document = StoredJson.Read<PlanDocument>(p.Document);
            yield return new(p.At, p.By?.DisplayName, "planned", $"{where}Plan {p.Version}: {Words.Technique(p.Technique)}" + (document.Option.Passes.Count > 0 ? $", {document.Option.Passes.Count} {(document.Option.Passes.Count == 1 ? "pass" : "passes")}, {reader.With(document.Option.Metal!.Value)}" : ""), Say(document.Why), false);
        }
        foreach (var p in surface.Passes)
        {
            var made = StoredJson.Read<PlanDocument>(p.Plan!.Document).Option.Passes[p.Index];
            var dark = System.Numerics.BitOperations.PopCount((uint)p.DarkOuter) + System.Numerics.BitOperations.PopCount((uint)p.DarkInner);
            yield return new(p.At, p.By?.DisplayName, "cut", $"{where}Pass {p.Cut}: {Words.Say("pass." + made.Kind).ToLowerInvariant()}, {string.Join(" / ", made.Depth.Select(d => reader.Figure(d)))} {reader.UnitName}",
                (dark == 0 ? "nothing dark" : $"{dark} twelfths dark") + (p.Noise is { } noise ? $", with {Words.Say("chatter." + noise).ToLowerInvariant()}" : "") + (p.Size is { } size ? $", measured {reader.With(size)}" : "") + (p.Notes.Length > 2 ? ". " + Say(StoredJson.Read<List<Note>>(p.Notes)) : ""), false);
        }
        foreach (var c in surface.CutStarts.Where(c => c.Stop is { Kind: CutStopKind.BrokenOff }))
            yield return new(c.Stop!.At, c.Stop.By?.DisplayName, "close", where + "A pass was broken off", c.Stop.Reason, false);
        foreach (var c in surface.Chatters)
            yield return new(c.At, c.By?.DisplayName, "look", $"{where}Chatter: {Words.Say("chatter." + c.Sign).ToLowerInvariant()}", $"{Words.Say("chatter.remedy." + c.Remedy)}: {(c.Helped ? "helped" : "no help")}", false);
        foreach (var f in surface.Finishes)
            yield return new(f.At, f.By?.DisplayName, f.Reason is null ? "hand" : "close", where + (f.Cuts == 0 ? "Scuffed" : "Finished"), string.Join(", ", f.Steps.Select(s => Words.Say("finish." + s).ToLowerInvariant())) + (f.Reason is { } why ? $"; left out a step: {why}" : ""), false);
        foreach (var c in surface.Confirmations)
            yield return new(c.At, c.By?.DisplayName, c.Decision switch { Decision.Release => "within", Decision.Never => "over", _ => "close" },
                where + c.Decision switch { Decision.Release => "Confirmed within limit", Decision.LeadOnly => "Confirmed between limits", Decision.Never => "Beyond discard", _ => "Too close to call" },
                $"worst {reader.With(c.Worst)}, give or take {reader.Fine(c.Uncertainty)}, discard {reader.With(c.Discard)}", false);
    }

    private string Of(ReadingEntry r) => r.Kind switch
    {
        ReadingKind.Size => $"{(r.Cuts == 0 ? "Read" : "Read after the cut")} {reader.With(r.Value)} at {Words.Clock(r.Degrees ?? 0)}" + (r.Station is { } s ? $", {reader.With(s)} in" : ""),
        ReadingKind.RunoutOuter => "Run-out, outer face " + reader.With(r.Value),
        ReadingKind.RunoutInner => "Run-out, inner face " + reader.With(r.Value),
        ReadingKind.GrooveOuter => "Groove, outer face " + reader.With(r.Value),
        ReadingKind.GrooveInner => "Groove, inner face " + reader.With(r.Value),
        ReadingKind.ReliefOuter => "Relief, outer face " + reader.With(r.Value),
        ReadingKind.ReliefInner => "Relief, inner face " + reader.With(r.Value),
        ReadingKind.Eccentricity => "Off centre on the spindle " + reader.With(r.Value),
        _ => "Groove " + reader.With(r.Value),
    };

    private string? Say(IReadOnlyList<Note> notes) => notes.Count == 0 ? null : string.Join(" ", notes.Select(n => Words.Of(n, reader.Unit)));
}
