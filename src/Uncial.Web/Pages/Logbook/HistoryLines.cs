using Uncial.Core;
using Uncial.Core.Lengths;
using Uncial.Core.Release;
using Uncial.Data;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>The facts of a surface as lines of its history.</summary>
public partial class HistoryModel
{
    private IEnumerable<Line> Facts(SurfaceRecord record)
    {
        var where = Surfaces.Count > 1 ? (record.Surface.InHat ? Words.Say("history.hatDrum") : "Faces: ") : "";
        return
        [
            .. Stated(record, where),
            .. Read(record, where),
            .. Mounted(record, where),
            .. Planned(record, where),
            .. Cut(record, where),
            .. Confirmed(record, where),
        ];
    }

    /// <summary>Limits and findings.</summary>
    private IEnumerable<Line> Stated(SurfaceRecord record, string where)
    {
        var surface = record.Surface;
        foreach (var l in surface.LimitEntries)
            yield return new(
                l.At,
                l.By?.DisplayName,
                "read",
                $"{where}{Words.Say("limitKind." + l.Kind)} {Reader.With(l.Value)}",
                Words.Say("history.read", l.Typed, LengthText.Name(l.Unit), Words.Say("source." + l.Source).ToLowerInvariant()),
                false
            );
        foreach (var t in surface.Settlements)
            yield return new(
                t.At,
                t.By?.DisplayName,
                "read",
                where
                    + Words.Say(
                        "history.settledHolds",
                        Words.Say("limitKind." + t.Kind),
                        Reader.With(surface.LimitEntries.First(l => l.Id == t.EntryId).Value)
                    ),
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
                            ? Words.Say("history.lookedAtNothingFound")
                            : "Found: " + Words.Say("finding." + f.Kind).ToLowerInvariant() + (f.Depth is { } d ? " " + Reader.With(d) : "")
                    ),
                f.Withdrawal is { } back ? Words.Say("history.takenBack", back.Reason) : f.Note,
                f.Withdrawal is not null
            );
    }

    /// <summary>Readings.</summary>
    private IEnumerable<Line> Read(SurfaceRecord record, string where)
    {
        var surface = record.Surface;
        foreach (var r in surface.Readings)
            yield return new(
                r.At,
                r.By?.DisplayName,
                "now",
                where + Of(r),
                Words.Say("history.typed", r.Typed, LengthText.Name(r.Unit))
                    + (record.GaugeOf(r) is { } g ? $", {g.Name}" : "")
                    + (
                        r.Correction != Length.Zero
                            ? Words.Say("history.zero", (r.Correction > Length.Zero ? "+" : "−"), Reader.Fine(r.Correction.Abs()))
                            : ""
                    )
                    + (r.TypedAt is { } typed ? Words.Say("history.typedWaitedForTheServer", Dates.Clock(typed)) : "")
                    + (r.Insisted ? Words.Say("history.questionedAndKept") : "")
                    + (r.FromFile == true ? Words.Say("history.notReadHere") : "")
                    + (r.Note is { } note ? $"; “{note}”" : "")
                    + (r.Flag is null ? "" : Words.Say("history.suspectItsGaugeFailedAfterwards"))
                    + (r.Withdrawal is { } w ? Words.Say("history.takenBack2", w.Reason) : ""),
                r.Withdrawal is not null || r.Flag is not null
            );
    }

    /// <summary>What was put on a lathe, and how true it ran.</summary>
    private IEnumerable<Line> Mounted(SurfaceRecord record, string where)
    {
        var surface = record.Surface;
        foreach (var m in surface.Mounts)
            yield return new(
                m.At,
                m.By?.DisplayName,
                "on",
                where
                    + Words.Say(
                        m.Found is null ? "history.mountedOn" : "history.mountedAnewOn",
                        record.Shop.Lathes.Find(l => l.Id == m.LatheId)?.Profile.Name
                    ),
                $"{Words.Say("mountWay." + m.Way)}, {m.Centring}"
                    + (m.Found is { } found ? $"; {Words.Say("cause." + found).ToLowerInvariant()}" : ""),
                false
            );
        foreach (var c in surface.SetUps)
            yield return new(
                c.At,
                c.By?.DisplayName,
                MountModel.WordsOf(c.Verdict).Mark,
                where + Words.Say("history.setUp", MountModel.WordsOf(c.Verdict).Word.ToLowerInvariant()),
                Words.Say("manner." + c.Manner).ToLowerInvariant()
                    + (
                        c.SetUpRunout is { } s
                            ? Words.Say(
                                "history.inTheSetUpIn",
                                Reader.Fine(s, Toward.Greater),
                                Reader.UnitName,
                                Reader.Fine(c.PartRunout!.Value)
                            )
                            : ""
                    ),
                false
            );
        foreach (var d in surface.SetUpDecisions.Where(d => d.Reason is not null))
            yield return new(
                d.At,
                d.By?.DisplayName,
                "close",
                where + (d.CheckId is null ? Words.Say("history.goneOnWithoutASet") : Words.Say("history.goneOnAgainstTheSet")),
                d.Reason,
                false
            );
    }

    /// <summary>Plans.</summary>
    private IEnumerable<Line> Planned(SurfaceRecord record, string where)
    {
        var surface = record.Surface;
        foreach (var p in surface.Plans)
        {
            var document = p.Contents;
            yield return new(
                p.At,
                p.By?.DisplayName,
                "planned",
                Words.Say("history.plan", where, p.Version, Words.Technique(p.Technique))
                    + (
                        document.Option.Passes.Count > 0
                            ? $", {document.Option.Passes.Count} "
                                + $"{Words.Say(document.Option.Passes.Count == 1 ? "count.pass" : "count.passes")}, "
                                + $"{Reader.With(document.Option.Metal!.Value)}"
                            : ""
                    ),
                Say(document.Why),
                false
            );
        }
    }

    /// <summary>Passes, chatter and finishing.</summary>
    private IEnumerable<Line> Cut(SurfaceRecord record, string where)
    {
        var surface = record.Surface;
        foreach (var p in surface.Passes)
        {
            var made = record.Planning.PassOf(p);
            var dark =
                System.Numerics.BitOperations.PopCount((uint)p.DarkOuter) + System.Numerics.BitOperations.PopCount((uint)p.DarkInner);
            yield return new(
                p.At,
                p.By?.DisplayName,
                "cut",
                where
                    + Words.Say(
                        "history.pass",
                        p.Cut,
                        Words.Say("pass." + made.Kind).ToLowerInvariant(),
                        string.Join(" / ", made.Depth.Select(d => Reader.Figure(d))),
                        Reader.UnitName
                    ),
                (dark == 0 ? Words.Say("history.nothingDark") : Words.Say("history.twelfthsDark", dark))
                    + (p.Noise is { } noise ? Words.Say("history.with", Words.Say("chatter." + noise).ToLowerInvariant()) : "")
                    + (p.Size is { } size ? Words.Say("history.measured", Reader.With(size)) : "")
                    + (p.Notes.Length > 2 ? ". " + Say(StoredJson.Read<List<Note>>(p.Notes)) : ""),
                false
            );
        }
        foreach (var c in surface.CutStarts.Where(c => c.Stop is { Kind: CutStopKind.BrokenOff }))
            yield return new(
                c.Stop!.At,
                c.Stop.By?.DisplayName,
                "close",
                where + Words.Say("history.aPassWasBrokenOff"),
                c.Stop.Reason,
                false
            );
        foreach (var c in surface.Chatters)
            yield return new(
                c.At,
                c.By?.DisplayName,
                "look",
                Words.Say("history.chatter", where, Words.Say("chatter." + c.Sign).ToLowerInvariant()),
                $"{Words.Say("chatter.remedy." + c.Remedy)}: {(c.Helped ? "helped" : Words.Say("history.noHelp"))}",
                false
            );
        foreach (var f in surface.Finishes)
            yield return new(
                f.At,
                f.By?.DisplayName,
                f.Reason is null ? "hand" : "close",
                where + Words.Say(f.Cuts == 0 ? "history.scuffed" : "history.finished"),
                string.Join(", ", f.Steps.Select(s => Words.Say("finish." + s).ToLowerInvariant()))
                    + (f.Reason is { } why ? Words.Say("history.leftOutAStep", why) : ""),
                false
            );
    }

    /// <summary>Judgements.</summary>
    private IEnumerable<Line> Confirmed(SurfaceRecord record, string where)
    {
        var surface = record.Surface;
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
                        Decision.Release => Words.Say("history.confirmedWithinLimit"),
                        Decision.LeadOnly => Words.Say("history.confirmedBetweenLimits"),
                        Decision.Never => Words.Say("history.beyondDiscard"),
                        _ => Words.Say("history.tooCloseToCall"),
                    },
                Words.Say("history.worstDiscard", Reader.With(c.Worst), Reader.Fine(c.Uncertainty), Reader.With(c.Discard))
                    + (c.Reason is { } why ? Words.Say("history.goneOnBecause", why) : ""),
                false
            );
    }

    private string Of(ReadingFact r) =>
        r.Kind switch
        {
            ReadingKind.Size =>
                $"{(r.Cuts == 0 ? "Read" : Words.Say("history.readAfterTheCut"))} {Reader.With(r.Value)} at {Words.Clock(r.Degrees ?? 0)}"
                    + (r.Station is { } s ? Words.Say("history.in", Reader.With(s)) : ""),
            ReadingKind.RunoutOuter => Words.Say("history.runOutOuterFace") + Reader.With(r.Value),
            ReadingKind.RunoutInner => Words.Say("history.runOutInnerFace") + Reader.With(r.Value),
            _ when LookedFor.Is(r.Kind) =>
                $"{Words.Say("look." + r.Kind)}: {(r.Value == Length.Zero ? LookedFor.None : Reader.With(r.Value))}",
            ReadingKind.Eccentricity => Words.Say("history.offCentreOnTheSpindle") + Reader.With(r.Value),
            _ => Reader.With(r.Value),
        };
}
