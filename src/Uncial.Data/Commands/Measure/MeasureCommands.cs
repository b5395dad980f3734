using Uncial.Core.Lengths;

namespace Uncial.Data.Commands;

/// <summary>What goes with a reading beside its figure.</summary>
/// <param name="Insisted">It was questioned, and the operator stood by it.</param>
/// <param name="Note">What the operator remarked.</param>
/// <param name="TypedAt">When it was typed, where it had to wait for the server.</param>
/// <param name="Key">Name that the page gave it, so that it goes in once.</param>
/// <param name="Line">Session and number of the line with which a gauge sent it.</param>
/// <param name="Fence">The owner of the gauge that showed it.</param>
public sealed record ReadingAside(
    bool Insisted = false,
    string? Note = null,
    DateTimeOffset? TypedAt = null,
    Guid? Key = null,
    string? Line = null,
    long? Fence = null
);

/// <summary>A figure of a whole face or bore.</summary>
/// <param name="Kind">Which.</param>
/// <param name="Typed">As typed.</param>
/// <param name="Gauge">The gauge; null for one by eye.</param>
/// <param name="Line">The line with which the gauge sent it.</param>
/// <param name="Note">Remark.</param>
/// <param name="Fence">The owner of the gauge that showed it.</param>
public sealed record FigureSeen(
    ReadingKind Kind,
    TypedLength Typed,
    Gauge? Gauge,
    string? Line = null,
    string? Note = null,
    long? Fence = null
);

/// <summary>Readings are kept and withdrawn.</summary>
public static class MeasureCommands
{
    /// <summary>Keeps what a new part costs and how far this one has run, which weigh whether cutting is worth it.</summary>
    public static Task<Result<Part>> KeepWorthAsync(PartAction action, decimal? newPrice, int? kmSinceNew, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(action);
        var part = action.Record.Part;
        return action
            .WhateverWasAdded()
            .RunAsync(
                () => null,
                _ =>
                {
                    (part.NewPrice, part.KmSinceNew) = (newPrice, kmSinceNew);
                    return part;
                },
                cancel
            );
    }

    /// <summary>
    /// Keeps a size that was read at a measuring point. Whatever was added to the surface meanwhile does not stand against it.
    /// </summary>
    /// <param name="action">The action.</param>
    /// <param name="place">The measuring point.</param>
    /// <param name="typed">The size as typed.</param>
    /// <param name="unit">Unit of a bare number.</param>
    /// <param name="gauge">The gauge; null where the shop has none.</param>
    /// <param name="cuts">Cuts that the surface had when it was read; null where that is not known.</param>
    /// <param name="aside">What goes with it.</param>
    /// <param name="cancel">Cancels.</param>
    public static Task<Result<ReadingEntry>> RecordSizeAsync(
        PartAction action,
        ReadingPlace place,
        TypedLength typed,
        LengthUnit unit,
        Gauge? gauge,
        int? cuts,
        ReadingAside aside,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(action);
        return action
            .WhateverWasAdded()
            .RunAsync<ReadingEntry>(
                () => RefusesSize(action.Record, gauge, cuts),
                async _ =>
                {
                    if (gauge is not null)
                        await GaugeQueries.LoadRepeatsAsync(action.Db, gauge, action.Actor.Id, cancel);
                    return RecordReading(action.Record, ReadingKind.Size, place, typed, unit, gauge, action.Actor, aside);
                },
                cancel
            );
    }

    /// <summary>Why no size is taken with a gauge, or null.</summary>
    public static Refusal? RefusesSize(SurfaceRecord record, Gauge? gauge, int? cuts)
    {
        ArgumentNullException.ThrowIfNull(record);
        return record.Part.Outcome is not null ? new Refusal.AgainstRule(StoredRule.PartHasLeft)
            : cuts is { } then && then != record.CutsDone ? new Refusal.CutSince()
            : gauge is { Failed: true } ? new Refusal.GaugeFailed(gauge.Name)
            : null;
    }

    /// <summary>Keeps figures of a whole face or bore, and takes back what was said of others.</summary>
    public static Task<Result<SurfaceRecord>> RecordFiguresAsync(
        PartAction action,
        IReadOnlyList<FigureSeen> figures,
        IReadOnlyList<ReadingFact> unsaid,
        LengthUnit unit,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(action);
        ArgumentNullException.ThrowIfNull(figures);
        ArgumentNullException.ThrowIfNull(unsaid);
        return action.RunAsync(
            () => null,
            _ =>
            {
                foreach (var figure in figures)
                    RecordReading(
                        action.Record,
                        figure.Kind,
                        null,
                        figure.Typed,
                        unit,
                        figure.Gauge,
                        action.Actor,
                        figure.Gauge is null ? new(Note: figure.Note) : new(Note: figure.Note, Line: figure.Line, Fence: figure.Fence)
                    );
                foreach (var said in unsaid)
                    Withdraw(action.Record, said, "Not looked at", action.Actor);
                return action.Record;
            },
            cancel
        );
    }

    /// <summary>
    /// Withdraws a reading. One that decides is read again first, and one beyond discard takes a lead's signature.
    /// </summary>
    /// <param name="action">The action.</param>
    /// <param name="reading">Key of the reading.</param>
    /// <param name="reason">Why.</param>
    /// <param name="cancel">Cancels.</param>
    public static Task<Result<ReadingFact>> WithdrawAsync(PartAction action, long reading, string reason, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(action);
        var record = action.Record;
        var entry = record.Surface.Readings.Find(r => r.Id == reading && r.Withdrawal is null);
        var takes = entry is null ? default : record.Measuring.WithdrawalOf(entry);
        return action.RunAsync(
            () =>
                entry is null ? new Refusal.NotNow()
                : Text.Trimmed(reason) is null ? new Refusal.Missing(Answer.Reason)
                : takes.SecondReading ? new Refusal.ReadAgainFirst()
                : null,
            signed =>
            {
                Withdraw(record, entry!, reason.Trim(), action.Actor, signed?.Id);
                return (ReadingFact)entry!;
            },
            cancel,
            takes is { Signature: true, SecondReading: false }
                ? new(record.Part.Id, SignedFor.ReadingBeyond, [Signature.OfReading(reading)], reason)
                : null
        );
    }

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
            Fence = aside?.Line is null ? null : aside.Fence,
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
