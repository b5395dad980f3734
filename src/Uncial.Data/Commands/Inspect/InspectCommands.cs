using Uncial.Core.Inspection;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Data.Commands;

/// <summary>A finding as it was stated.</summary>
/// <param name="Kind">What it is.</param>
/// <param name="Side">Where it is.</param>
/// <param name="Sectors">Twelfths of the face, bit 0 at 12 o'clock.</param>
/// <param name="Depth">Depth, or null.</param>
/// <param name="Unit">Unit that the depth was typed in.</param>
/// <param name="Note">Remark.</param>
/// <param name="Photo">A photo that goes with it.</param>
public sealed record FindingSeen(FindingKind Kind, Side Side, int Sectors, TypedLength? Depth, LengthUnit Unit, string? Note, Photo? Photo);

/// <summary>What is found on a part by eye and by feel.</summary>
public static class InspectCommands
{
    /// <summary>Keeps a finding and its photo, both or neither.</summary>
    public static Task<Result<Finding>> RecordFindingAsync(PartAction action, FindingSeen seen, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(action);
        ArgumentNullException.ThrowIfNull(seen);
        return action.RunAsync<Finding>(
            () => Findings.CanBeOn(seen.Kind, action.Record.Kind) ? null : new Refusal.NotNow(),
            async _ =>
            {
                if (seen.Photo is { } photo)
                {
                    (photo.At, photo.ById) = (action.Actor.At, action.Actor.Id);
                    action.Db.Photos.Add(photo);
                    await action.Db.SaveChangesAsync(cancel);
                }
                return RecordFinding(
                    action.Record,
                    seen.Kind,
                    seen.Side,
                    seen.Sectors,
                    seen.Depth,
                    seen.Unit,
                    seen.Note,
                    seen.Photo?.Id,
                    action.Actor
                );
            },
            cancel,
            inSteps: seen.Photo is not null
        );
    }

    /// <summary>The part is marked to its wheel stud, or the word is taken back.</summary>
    public static Task<Result<Part>> MarkAsync(PartAction action, bool marked, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(action);
        var (part, actor) = (action.Record.Part, action.Actor);
        return action.RunAsync(
            () => null,
            _ =>
            {
                (part.MarkedAt, part.MarkedById) = (marked ? actor.At : null, marked ? actor.Id : null);
                return part;
            },
            cancel
        );
    }

    /// <summary>A finding of any surface of the part turned out to be none. One that stops the part takes a lead's signature.</summary>
    /// <param name="action">The action.</param>
    /// <param name="finding">Key of the finding.</param>
    /// <param name="reason">Why it is none.</param>
    /// <param name="cancel">Cancels.</param>
    public static Task<Result<FindingFact>> WithdrawAsync(PartAction action, long finding, string reason, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(action);
        var record = action.Record;
        var found = record.Part.Surfaces.SelectMany(s => s.Findings).FirstOrDefault(f => f.Id == finding && f.Withdrawal is null);
        return action.RunAsync(
            () =>
                found is null ? new Refusal.NotNow()
                : Text.Trimmed(reason) is null ? new Refusal.Missing(Answer.Reason)
                : null,
            signed =>
            {
                Withdraw(record, found!, reason.Trim(), action.Actor, signed?.Id);
                return (FindingFact)found!;
            },
            cancel,
            found is not null && Findings.StopsThePart(found.Kind)
                ? new(record.Part.Id, SignedFor.FindingTakenBack, [Signature.OfFinding(found.Id)], reason)
                : null
        );
    }

    /// <summary>The part is scrapped for its crack, or refused since it must not be turned.</summary>
    public static Task<Result<Outcome>> EndAsync(PartAction action, string? reason, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(action);
        var end = action.Record.Inspection.End;
        return action.RunAsync(
            () =>
                end is null ? new Refusal.NotNow()
                : Text.Trimmed(reason) is null ? new Refusal.Missing(Answer.Reason)
                : null,
            _ =>
                ReleaseCommands.Close(
                    action.Record.Part,
                    Findings.Means(end!.Kind) == Consequence.Scrap ? OutcomeKind.Scrapped : OutcomeKind.Refused,
                    reason,
                    false,
                    action.Actor,
                    new(Cause: end.Kind == FindingKind.Crack ? ScrapCause.Crack : ScrapCause.Other)
                ),
            cancel
        );
    }

    /// <summary>Keeps what was found by eye; the depth of a groove enters the figures as a reading as well.</summary>
    public static Finding RecordFinding(
        SurfaceRecord record,
        FindingKind kind,
        Side side,
        int sectors,
        TypedLength? depth,
        LengthUnit unit,
        string? note,
        int? photo,
        Actor actor
    )
    {
        ArgumentNullException.ThrowIfNull(record);
        record.Surface.Turn++;
        var finding = new Finding
        {
            Kind = kind,
            Side = side,
            Sectors = sectors & (1 << Core.Cutting.Coverage.Sectors) - 1,
            Depth = depth?.Value,
            Note = Text.Trimmed(note),
            PhotoId = photo,
            At = actor.At,
            ById = actor.Id,
        };
        record.Surface.Findings.Add(finding);
        if (kind == FindingKind.Groove && depth is not null)
        {
            var rotor = record.Kind == PartKind.Rotor;
            ReadingKind[] figures = !rotor
                ? [ReadingKind.Groove]
                : side switch
                {
                    Side.Outer => [ReadingKind.GrooveOuter],
                    Side.Inner => [ReadingKind.GrooveInner],
                    _ => [ReadingKind.GrooveOuter, ReadingKind.GrooveInner],
                };
            // A second, shallower groove does not hide the first.
            foreach (var figure in figures.Where(f => record.Measuring.Figure(f) is not { } known || known.Value < depth.Value))
                MeasureCommands.RecordReading(record, figure, null, depth, unit, record.Shop.GaugeFor(figure), actor);
        }
        return finding;
    }

    /// <summary>A finding turned out to be none.</summary>
    public static void Withdraw(SurfaceRecord record, FindingFact finding, string reason, Actor actor, long? signature = null)
    {
        ArgumentNullException.ThrowIfNull(record);
        ArgumentNullException.ThrowIfNull(finding);
        record.Surface.Turn++;
        finding.Row<Finding>().Withdrawal = new()
        {
            Reason = reason,
            SignatureId = signature,
            At = actor.At,
            ById = actor.Id,
        };
    }
}
