using Uncial.Core.Lengths;

namespace Uncial.Data.Commands;

/// <summary>What goes with a reading beside its figure.</summary>
/// <param name="Insisted">It was questioned, and the operator stood by it.</param>
/// <param name="Note">What the operator remarked.</param>
/// <param name="TypedAt">When it was typed, where it had to wait for the server.</param>
/// <param name="Key">Name that the page gave it, so that it goes in once.</param>
/// <param name="Line">Session and number of the line with which a gauge sent it.</param>
public sealed record ReadingAside(
    bool Insisted = false,
    string? Note = null,
    DateTimeOffset? TypedAt = null,
    Guid? Key = null,
    string? Line = null
);

/// <summary>Readings are kept and withdrawn.</summary>
public static class MeasureCommands
{
    /// <summary>
    /// Keeps a reading: corrected by the gauge's zero check, with the uncertainty that gauge and repeats give it. The database flags it
    /// where the gauge has failed since.
    /// </summary>
    public static ReadingEntry RecordReading(
        SurfaceRecord record,
        ReadingKind kind,
        ReadingPlace? place,
        TypedLength typed,
        LengthUnit unit,
        Gauge? gauge,
        Actor actor,
        ReadingAside? aside = null
    )
    {
        ArgumentNullException.ThrowIfNull(record);
        ArgumentNullException.ThrowIfNull(typed);
        var rules = record.Shop.Rules;
        var (takenAt, isSize) = (aside?.TypedAt ?? actor.At, kind == ReadingKind.Size);
        var check = isSize ? gauge?.Correction(record, takenAt) : null;
        var value = typed.Value + (check?.Correction ?? Length.Zero);
        var repeats = isSize && place is { } p ? record.Measuring.SizesAt(p).Count(r => r.GaugeId == gauge?.Id) + 1 : 1;
        var entry = new ReadingEntry
        {
            Kind = kind,
            Degrees = place?.Degrees,
            Station = place?.Station,
            Value = value,
            Typed = typed.Text,
            Unit = unit,
            Insisted = aside?.Insisted ?? false,
            GaugeId = gauge?.Id,
            ZeroCheckId = check?.Id,
            Correction = check?.Correction ?? Length.Zero,
            Note = Text.Trimmed(aside?.Note),
            TypedAt = aside?.TypedAt,
            Key = aside?.Key,
            Line = aside?.Line,
            Resolution = gauge?.Resolution ?? Length.Zero,
            Uncertainty = gauge?.UncertaintyAt(value, repeats, check is not null, rules) ?? Length.Zero,
            Cuts = record.CutsDone,
            At = actor.At,
            ById = actor.Id,
        };
        record.Surface.Turn++;
        record.Surface.Readings.Add(entry);
        return entry;
    }

    public static void Withdraw(SurfaceRecord record, ReadingFact reading, string reason, Actor actor, long? signature = null)
    {
        ArgumentNullException.ThrowIfNull(record);
        ArgumentNullException.ThrowIfNull(reading);
        record.Surface.Turn++;
        reading.Row<ReadingEntry>().Withdrawal = new()
        {
            Reason = reason,
            SignatureId = signature,
            At = actor.At,
            ById = actor.Id,
        };
    }
}
