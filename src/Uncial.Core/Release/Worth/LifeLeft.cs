using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Reasoning;

namespace Uncial.Core.Release;

/// <summary>A size at a distance: how worn a part was when.</summary>
/// <param name="Kilometres">Odometer, 0 or more.</param>
/// <param name="Size">Thickness or diameter.</param>
public readonly record struct SizeAt(decimal Kilometres, Length Size);

/// <summary>How fast a part wears, and how far it goes until discard.</summary>
/// <param name="RatePer1000Km">Wear in a thousand kilometres; 0 where none shows.</param>
/// <param name="DistanceLeft">Kilometres from a size to discard, rounded down; null where no wear shows.</param>
/// <param name="Steps">How it was worked out, in order.</param>
public sealed record LifeLeft(Length RatePer1000Km, decimal? DistanceLeft, IReadOnlyList<Step> Steps)
{
    private const decimal MostKilometres = 9_999_999m;

    /// <summary>
    /// Works out from two visits, or from new at 0 km to the only one. Metal that was cut between the visits is no wear: give the size
    /// after the cut as the earlier one.
    /// </summary>
    /// <param name="limits">The part's limits.</param>
    /// <param name="earlier">Earlier visit; null: new, where nominal is known.</param>
    /// <param name="now">This visit, before cutting.</param>
    /// <param name="from">Size from which it goes on: as it is, or as it will be after the cut.</param>
    /// <returns>Null where nothing can be said: no earlier size, or no distance between.</returns>
    public static LifeLeft? Of(Limits limits, SizeAt? earlier, SizeAt now, Length from)
    {
        ArgumentNullException.ThrowIfNull(limits);
        var start = earlier ?? (limits.Nominal is { } nominal ? new SizeAt(0, nominal) : (SizeAt?)null);
        if (start is not { } before || now.Kilometres <= before.Kilometres)
            return null;
        var steps = new Steps();
        var worn = Length.Max(Length.Zero, Limits.Margin(limits.Kind, before.Size, now.Size));
        steps.Add("worn", limits.Kind == PartKind.Rotor ? "max(0, {0} − {1})" : "max(0, {1} − {0})", worn, null, before.Size, now.Size);
        var distance = now.Kilometres - before.Kilometres;
        var rate = worn * 1000 / distance;
        steps.Add("wearRate", "1000 · {0} / ({1} − {2})", rate, null, worn, now.Kilometres, before.Kilometres);
        var stock = Limits.Margin(limits.Kind, from, limits.Discard);
        steps.Add(
            "stockToDiscard",
            "{0} − {1}",
            stock,
            null,
            limits.Kind == PartKind.Rotor ? [from, limits.Discard] : [limits.Discard, from]
        );
        if (rate <= Length.Zero)
            return new(Length.Zero, null, steps.All);
        // Wear of next to nothing would give a distance beyond any vehicle.
        var left =
            stock <= Length.Zero ? 0
            : stock.Millimetres / rate.Millimetres >= MostKilometres / 1000 ? MostKilometres
            : Math.Floor(stock.Millimetres * distance / worn.Millimetres);
        steps.Add("distanceLeft", "⌊1000 · {0} / {1}⌋", left, null, stock, rate);
        return new(rate, left, steps.All);
    }
}
