using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Core.Vehicles;

/// <summary>A dimension by which a part fits its hub, its wheel and its caliper or shoes.</summary>
public enum FitDimension
{
    /// <summary>Outside diameter of a rotor; bore when new of a drum.</summary>
    Diameter,

    /// <summary>Overall height.</summary>
    Height,

    /// <summary>Centre hole.</summary>
    Hole,

    /// <summary>Bolt circle.</summary>
    BoltCircle,

    /// <summary>Thickness when new of a rotor; depth of a drum.</summary>
    Width,
}

/// <summary>What is known of how a part fits.</summary>
/// <param name="Kind">Rotor or drum.</param>
/// <param name="BookEntry">Entry of the limit book that it is of; null where it is of none.</param>
/// <param name="HasDrumInHat">A rotor with a parking-brake drum in its hat.</param>
/// <param name="Studs">Holes for studs; null where nobody counted.</param>
/// <param name="Dimensions">The dimensions that are known.</param>
public sealed record FitFacts(
    PartKind Kind,
    long? BookEntry,
    bool HasDrumInHat,
    int? Studs,
    IReadOnlyDictionary<FitDimension, Length> Dimensions
);

/// <summary>A part that cannot be saved.</summary>
/// <param name="Fit">How it fits.</param>
/// <param name="MachineTo">How far a part in its place may be machined; null where its limits are not known.</param>
/// <param name="Discard">The discard limit of its place; null as above.</param>
public sealed record WantedPart(FitFacts Fit, Length? MachineTo, Length? Discard);

/// <summary>A part on the shelf.</summary>
/// <param name="Id">Its key.</param>
/// <param name="Fit">How it fits.</param>
/// <param name="Size">Worst size as it was shelved.</param>
/// <param name="MachineTo">How far it may be machined.</param>
/// <param name="Discard">Its discard limit.</param>
/// <param name="IsConfirmed">Every surface was judged to be inside its limits before it was shelved.</param>
/// <param name="IsStopped">A finding ends its way, or a surface beside this one is past its machine-to limit: it is never offered.</param>
/// <param name="ShelvedWith">Key of the other part of its axle, shelved with it; null for a single one.</param>
public sealed record ShelfPart(
    long Id,
    FitFacts Fit,
    Length Size,
    Length MachineTo,
    Length Discard,
    bool IsConfirmed,
    bool IsStopped = false,
    long? ShelvedWith = null
)
{
    /// <summary>Life left: what wear may take until discard; negative beyond it.</summary>
    public Length Left => Limits.Margin(Fit.Kind, Size, Discard);
}

/// <summary>One part that fits, or two of an axle.</summary>
/// <param name="Parts">One, or a pair.</param>
/// <param name="SameEntry">It is of the entry of the limit book that is looked for.</param>
/// <param name="Unknown">Dimensions that are not known on both sides: look before fitting.</param>
/// <param name="StudsUnknown">The studs are not counted on both sides.</param>
public sealed record ShelfOffer(IReadOnlyList<ShelfPart> Parts, bool SameEntry, IReadOnlyList<FitDimension> Unknown, bool StudsUnknown)
{
    /// <summary>Life left of the one that has least.</summary>
    public Length Left => Parts.Min(p => p.Left);
}

/// <summary>Finds what on the shelf fits in place of a part.</summary>
public static class ShelfMatch
{
    /// <summary>How far two figures of one dimension may lie apart: a reading at a rusty edge, and a round figure of a book.</summary>
    public static Length Tolerance(FitDimension dimension) =>
        Length.FromMillimetres(
            dimension switch
            {
                // A hole or bolt circle that differs by more does not centre.
                FitDimension.Hole => 0.2m,
                FitDimension.BoltCircle => 0.3m,
                FitDimension.Width => 0.5m,
                FitDimension.Height => 0.5m,
                _ => 1m,
            }
        );

    /// <summary>
    /// What fits, pairs first, then by life left. A part is offered where it is of the same entry of the limit book, or at least
    /// <see cref="FewestKnown"/> dimensions are known on both sides; and only where every dimension that is known on both sides fits, both
    /// or none have a drum in the hat, and it is inside machine-to. Of its own limits and those of the place the stricter ones hold; what
    /// is offered carries them.
    /// </summary>
    /// <param name="wanted">The part that cannot be saved.</param>
    /// <param name="shelf">What is on the shelf.</param>
    /// <param name="leastLeft">Life that one must have left at least to be worth fitting; above 0.</param>
    /// <param name="greatestDifference">Two of an axle that differ by more in size are no pair.</param>
    /// <exception cref="ArgumentOutOfRangeException">The least life is 0 or less.</exception>
    public static IReadOnlyList<ShelfOffer> Find(
        WantedPart wanted,
        IEnumerable<ShelfPart> shelf,
        Length leastLeft,
        Length greatestDifference
    )
    {
        ArgumentNullException.ThrowIfNull(wanted);
        ArgumentNullException.ThrowIfNull(shelf);
        ArgumentOutOfRangeException.ThrowIfLessThanOrEqual(leastLeft, Length.Zero);
        var singles = shelf
            .Where(p => !p.IsStopped && p.Fit.Kind == wanted.Fit.Kind)
            .Select(p => InPlaceOf(wanted, p))
            .Where(p => p.Left >= leastLeft && Limits.Margin(p.Fit.Kind, p.Size, p.MachineTo) >= Length.Zero)
            .Select(p => Offer(wanted.Fit, p))
            .OfType<ShelfOffer>()
            .ToDictionary(o => o.Parts[0].Id);
        var pairs = singles
            .Values.Where(o =>
                o.Parts[0] is { ShelvedWith: { } other } one
                && one.Id < other
                && singles.TryGetValue(other, out var two)
                && two.Parts[0].ShelvedWith == one.Id
                && Apart(one.Size, two.Parts[0].Size) <= greatestDifference
            )
            .Select(o => Pair(o, singles[o.Parts[0].ShelvedWith!.Value]));
        return
        [
            .. pairs
                .Concat(singles.Values)
                .OrderByDescending(o => o.Parts.Count)
                .ThenByDescending(o => o.SameEntry)
                .ThenByDescending(o => o.Left)
                .ThenBy(o => o.Parts[0].Id),
        ];
    }

    /// <summary>Fewer dimensions known on both sides tell nothing of a part of another entry.</summary>
    public const int FewestKnown = 2;

    private static ShelfPart InPlaceOf(WantedPart wanted, ShelfPart part) =>
        part with
        {
            MachineTo = HeldLimit.Strictest(part.Fit.Kind, [part.MachineTo, wanted.MachineTo ?? part.MachineTo]),
            Discard = HeldLimit.Strictest(part.Fit.Kind, [part.Discard, wanted.Discard ?? part.Discard]),
        };

    private static ShelfOffer? Offer(FitFacts wanted, ShelfPart part)
    {
        var fit = part.Fit;
        if (fit.HasDrumInHat != wanted.HasDrumInHat || fit.Studs is { } holes && wanted.Studs is { } studs && holes != studs)
            return null;
        var (known, unknown) = (0, new List<FitDimension>());
        foreach (var dimension in Enum.GetValues<FitDimension>())
        {
            if (!fit.Dimensions.TryGetValue(dimension, out var here) || !wanted.Dimensions.TryGetValue(dimension, out var there))
            {
                unknown.Add(dimension);
                continue;
            }
            if (Apart(here, there) > Tolerance(dimension))
                return null;
            known++;
        }
        var same = wanted.BookEntry is { } entry && fit.BookEntry == entry;
        return same || known >= FewestKnown ? new([part], same, unknown, fit.Studs is null || wanted.Studs is null) : null;
    }

    private static Length Apart(Length one, Length other) => one > other ? one - other : other - one;

    private static ShelfOffer Pair(ShelfOffer one, ShelfOffer two) =>
        new(
            [.. one.Parts, .. two.Parts],
            one.SameEntry && two.SameEntry,
            [.. one.Unknown.Union(two.Unknown).Order()],
            one.StudsUnknown || two.StudsUnknown
        );
}
