namespace Uncial.Data;

/// <summary>A part that was here before comes back: its story goes on under the same tag.</summary>
public static partial class Journey
{
    /// <summary>Why a part is not taken in again.</summary>
    public enum AgainRefusal
    {
        /// <summary>It has not left yet.</summary>
        StillHere,

        /// <summary>It was scrapped: it must not come back.</summary>
        IsScrap,
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
    /// Takes it in again: same tag, next visit, the same surfaces with the limits that stood when it left. What it was read as then is history; it is
    /// looked at, measured and judged anew.
    /// </summary>
    /// <param name="last">Its last visit, with its facts.</param>
    /// <param name="shop">The shop.</param>
    /// <param name="hand">Who takes it in.</param>
    /// <exception cref="InvalidOperationException">It may not be taken in: see <see cref="RefusesAgain"/>.</exception>
    public static Part Again(Part last, Shop shop, Hand hand)
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
                        At = hand.At,
                        ById = hand.OperatorId,
                    }
                );
            part.Surfaces.Add(surface);
        }
        return part;
    }
}
