using Uncial.Core.Inspection;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Data.Commands;

/// <summary>What is found on a part by eye and hand.</summary>
public static class InspectCommands
{
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
