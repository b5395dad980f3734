using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Reasoning;

namespace Uncial.Core.Release;

/// <summary>One time that a part was here.</summary>
/// <param name="Kilometres">How far it had gone, 0 or more; null where nobody knew.</param>
/// <param name="Came">Worst size as it came.</param>
/// <param name="Left">Worst size as it left or is now, where it was read after a cut; otherwise null.</param>
public readonly record struct WearVisit(decimal? Kilometres, Length Came, Length? Left);

/// <summary>A size at a distance.</summary>
/// <param name="Kilometres">How far it had gone.</param>
/// <param name="Size">Worst size there.</param>
/// <param name="AfterCut">What a cut left; otherwise what wear left.</param>
public readonly record struct WearPoint(decimal Kilometres, Length Size, bool AfterCut);

/// <summary>A part's life as far as the shop has seen it: worn between visits, cut at them, and where that leads.</summary>
/// <param name="Points">Sizes over distance, from new where that is known; visits without a distance have none.</param>
/// <param name="Cuts">Visits at which it was cut.</param>
/// <param name="Worn">Metal that wear took, all visits together.</param>
/// <param name="Cut">Metal that cutting took, all visits together.</param>
/// <param name="Forecast">How fast it wears now and how far it goes yet; null where the distances do not tell.</param>
/// <param name="DiscardAt">Kilometres at which it reaches discard, rounded down; null where that is not known.</param>
public sealed record WearCurve(IReadOnlyList<WearPoint> Points, int Cuts, Length Worn, Length Cut, LifeLeft? Forecast, decimal? DiscardAt)
{
    /// <summary>
    /// Reads a life from its visits, the first one first. The forecast goes by the last stretch: wear is seldom the same over a whole life.
    /// </summary>
    /// <param name="limits">The part's limits.</param>
    /// <param name="visits">The visits in their order, at least one.</param>
    /// <exception cref="ArgumentException">There is no visit.</exception>
    public static WearCurve Of(Limits limits, IReadOnlyList<WearVisit> visits)
    {
        ArgumentNullException.ThrowIfNull(limits);
        ArgumentNullException.ThrowIfNull(visits);
        if (visits.Count == 0)
            throw new ArgumentException("At least one visit.", nameof(visits));
        List<WearPoint> points = [];
        if (limits.Nominal is { } nominal && visits[0].Kilometres is > 0)
            points.Add(new(0, nominal, false));
        var (worn, cut, before) = (Length.Zero, Length.Zero, limits.Nominal);
        foreach (var visit in visits)
        {
            if (before is { } last)
                worn += Length.Max(Length.Zero, Limits.Margin(limits.Kind, last, visit.Came));
            if (visit.Left is { } left)
                cut += Length.Max(Length.Zero, Limits.Margin(limits.Kind, visit.Came, left));
            before = visit.Left ?? visit.Came;
            if (visit.Kilometres is not { } km)
                continue;
            points.Add(new(km, visit.Came, false));
            if (visit.Left is { } after)
                points.Add(new(km, after, true));
        }
        var now = visits[^1];
        LifeLeft? forecast = null;
        if (now.Kilometres is { } here)
        {
            // From the visit before; without one from new. A visit whose distance nobody knew in between hides what was cut there.
            SizeAt? earlier =
                visits.Count == 1 ? null
                : visits[^2] is { Kilometres: { } there } previous ? new(there, previous.Left ?? previous.Came)
                : null;
            if (visits.Count == 1 || earlier is not null)
                forecast = LifeLeft.Of(limits, earlier, new(here, now.Came), now.Left ?? now.Came);
        }
        return new(points, visits.Count(v => v.Left is not null), worn, cut, forecast, now.Kilometres + forecast?.DistanceLeft);
    }

    /// <summary>How it was worked out, in order.</summary>
    public IReadOnlyList<Step> Steps => Forecast?.Steps ?? [];
}
