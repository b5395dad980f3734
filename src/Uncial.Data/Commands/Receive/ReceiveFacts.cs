using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Data.Commands;

/// <summary>Adds what is stated of a part that is received; nothing is saved.</summary>
public static partial class ReceiveCommands
{
    /// <summary>States a limit. One that makes the limit that holds laxer takes a lead's signature; the database asks for it.</summary>
    public static LimitEntry StateLimit(
        WorkSurface surface,
        LimitKind kind,
        TypedLength typed,
        LengthUnit unit,
        LimitSource source,
        Actor actor,
        int? book = null,
        long? signature = null
    )
    {
        ArgumentNullException.ThrowIfNull(surface);
        ArgumentNullException.ThrowIfNull(typed);
        surface.Turn++;
        var entry = new LimitEntry
        {
            Kind = kind,
            Value = typed.Value,
            Typed = typed.Text,
            Unit = unit,
            Source = source,
            BookEntryId = book,
            SignatureId = signature,
            At = actor.At,
            ById = actor.Id,
        };
        surface.LimitEntries.Add(entry);
        return entry;
    }

    /// <summary>A lead says which source of a limit holds.</summary>
    public static void Settle(WorkSurface surface, LimitEntry entry, string reason, Actor actor, long? signature)
    {
        ArgumentNullException.ThrowIfNull(surface);
        ArgumentNullException.ThrowIfNull(entry);
        surface.Turn++;
        surface.Settlements.Add(
            new()
            {
                Kind = entry.Kind,
                EntryId = entry.Id,
                Reason = reason,
                SignatureId = signature,
                At = actor.At,
                ById = actor.Id,
            }
        );
    }

    /// <summary>What the limit book says of a surface goes in as statements of the book.</summary>
    public static void TakeFromBook(WorkSurface surface, BookEntry entry, Actor actor)
    {
        ArgumentNullException.ThrowIfNull(surface);
        ArgumentNullException.ThrowIfNull(entry);
        foreach (
            var (kind, value) in new[]
            {
                (LimitKind.Nominal, entry.Nominal),
                (LimitKind.MachineTo, entry.MachineTo),
                (LimitKind.Discard, entry.Discard),
            }
        )
            if (value is { } length)
                StateLimit(
                    surface,
                    kind,
                    new(LengthText.Limit(length, entry.Unit, surface.Kind == PartKind.Rotor), entry.Unit, length, ""),
                    entry.Unit,
                    LimitSource.LimitBook,
                    actor,
                    entry.Id
                );
        (surface.MaxRunout, surface.MaxVariation) = (
            entry.MaxRunout,
            surface.Kind == PartKind.Rotor ? entry.MaxVariation : entry.MaxOutOfRound
        );
    }

    /// <summary>Why the part may not be taken in again, or null.</summary>
    public static AgainRefusal? RefusesAgain(Part last)
    {
        ArgumentNullException.ThrowIfNull(last);
        return last.Outcome switch
        {
            null => AgainRefusal.StillHere,
            { Kind: OutcomeKind.Scrapped } => AgainRefusal.IsScrap,
            _ => null,
        };
    }

    /// <summary>
    /// Takes it in again: same tag, next visit, the same surfaces with the limits that stood when it left. What it was read as then is
    /// history; it is
    /// looked at, measured and judged anew.
    /// </summary>
    /// <param name="last">Its last visit, with its facts.</param>
    /// <param name="shop">The shop.</param>
    /// <param name="actor">Who takes it in.</param>
    /// <exception cref="InvalidOperationException">It may not be taken in: see <see cref="RefusesAgain"/>.</exception>
    public static Part TakeInAgain(Part last, Shop shop, Actor actor)
    {
        ArgumentNullException.ThrowIfNull(last);
        if (RefusesAgain(last) is not null)
            throw new InvalidOperationException("The part may not be taken in again.");
        var part = new Part
        {
            Tag = last.Tag,
            Visit = last.Visit + 1,
            Corner = last.Corner,
            Mark = last.Mark,
            Shape = last.Shape,
            NewPrice = last.NewPrice,
        };
        foreach (var before in last.Surfaces)
        {
            var surface = new WorkSurface
            {
                Kind = before.Kind,
                InHat = before.InHat,
                Diameter = before.Diameter,
                Band = before.Band,
                Places = before.Places,
                DepthsMm = [.. before.DepthsMm],
                MaxRunout = before.MaxRunout,
                MaxVariation = before.MaxVariation,
            };
            var record = new SurfaceRecord(before, last, shop);
            foreach (var stated in Enum.GetValues<Core.Parts.LimitKind>().SelectMany(record.Receiving.Stated).OrderBy(l => l.Id))
                surface.LimitEntries.Add(
                    new()
                    {
                        Kind = stated.Kind,
                        Value = stated.Value,
                        Typed = stated.Typed,
                        Unit = stated.Unit,
                        Source = stated.Source,
                        CopiedFromId = stated.Id,
                        At = actor.At,
                        ById = actor.Id,
                    }
                );
            part.Surfaces.Add(surface);
        }
        return part;
    }
}
