using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Reasoning;

namespace Uncial.Core.Release;

/// <summary>What is allowed for the places of a finished part that nobody read (h). Source: computation, section 3.</summary>
internal sealed class Unread(FinishedPart part, ShopRules rules, Steps steps, List<Note> notes)
{
    private const decimal SquareSlack = 10;

    /// <summary>The allowance for a rotor; null where too little was read for a release.</summary>
    public Length? OfRotor(StationReadings[] stations)
    {
        Length? most = null;
        StationReadings? fullest = null;
        var span = stations is [{ Station: { } first }, .., { Station: { } last }] ? last - first : Length.Zero;
        foreach (var station in stations.Where(HasItsOwn))
        {
            var h = OwnOf(station, span);
            if (most is null || h > most)
                most = h;
            if (fullest is null || station.Spots.Length > fullest.Spots.Length)
                fullest = station;
        }
        if (fullest is null)
        {
            notes.Add(stations.Max(s => s.Spots.Length) < 3 ? new Note.TooFewPlaces() : new Note.PlacesTooFarApart());
            return null;
        }
        foreach (var station in stations)
        {
            if (HasItsOwn(station) || HasTheShapeOf(station, fullest))
                continue;
            notes.Add(new Note.ReadAround(station.Station));
            return null;
        }
        return most;
    }

    /// <summary>The allowance for a drum; null where too little was read for a release.</summary>
    public Length? OfDrum(Bore bore)
    {
        var bright = part.TurnedBright;
        if (bore.IsProven)
        {
            if (!bright && !DrumDepths.SpeakForTheBand(bore.Span, part.Band))
            {
                notes.Add(new Note.ReadMoreDepths());
                return null;
            }
            var hidden = bright ? HiddenByParallelism(bore.Span) : Length.Zero;
            steps.Add("allowance", bright ? "0 + {0}" : "", hidden, null, bright ? [hidden] : []);
            return hidden;
        }
        if (bore.Shape is not null)
            notes.Add(new Note.ReadAround(bore.Unlike[0].Station));
        else if (bright && bore.Depths.Max(s => s.Spots.Length) >= 2)
        {
            var (least, greatest, hidden) = (
                bore.Depths.Min(d => d.Least),
                bore.Depths.Max(d => d.Greatest),
                HiddenByParallelism(bore.Span)
            );
            steps.Add("allowance", "{0} − {1} + {2}", greatest - least + hidden, null, greatest, least, hidden);
            return greatest - least + hidden;
        }
        else
            notes.Add(new Note.RoundnessNotProven(null));
        return null;
    }

    /// <summary>Turned in one chucking, a surface may still run out of parallel over the part of the band that was not read.</summary>
    private Length HiddenByParallelism(Length span) =>
        part.Band is not { } band || band <= Length.Zero ? Parallelism
        : span >= band ? Length.Zero
        : Parallelism * ((band - span) / band);

    private Length Parallelism => part.Parallelism ?? rules.Shape.UnknownParallelism;

    private static bool HasItsOwn(StationReadings station) => IsFullRound(station) || IsSpread(station);

    private Length OwnOf(StationReadings station, Length span)
    {
        var full = IsFullRound(station);
        var spread = full ? station.Spread / rules.Shape.UnreadShareOfVariation : station.Spread;
        if (part.TurnedBright)
        {
            var hidden = HiddenByParallelism(span);
            steps.Add(
                "allowance",
                full ? "{0} / {1} + {2}" : "{0} + {2}",
                spread + hidden,
                null,
                station.Spread,
                rules.Shape.UnreadShareOfVariation,
                hidden
            );
            return spread + hidden;
        }
        var floor = full ? rules.Shape.UnseenLobesFullRound : rules.Shape.UnseenLobes;
        var h = Length.Max(spread, floor);
        steps.Add(
            "allowance",
            full ? "max({0} / {1}, {2})" : "max({0}, {2})",
            h,
            null,
            station.Spread,
            rules.Shape.UnreadShareOfVariation,
            floor
        );
        return h;
    }

    /// <summary>A full round of eight leaves little unseen.</summary>
    private static bool IsFullRound(StationReadings station) =>
        station.Spots.Length >= RotorAssessment.FullRound && station.WidestGap(360) <= 60;

    /// <summary>Three to seven places leave as much as they found, unless they lie where two lobes hide.</summary>
    private static bool IsSpread(StationReadings station) =>
        station.Spots.Length >= 3 && station.WidestGap(360) <= 150 && !AllNearSquare(station);

    /// <summary>
    /// A place read twice a hair apart is one place; four places a few degrees off the square still see nothing of two lobes.
    /// </summary>
    private static bool AllNearSquare(StationReadings station)
    {
        var spots = station.Spots;
        for (var i = 0; i < spots.Length; i++)
        {
            var step = i == 0 ? spots[0].Degrees + 360 - spots[^1].Degrees : spots[i].Degrees - spots[i - 1].Degrees;
            if (step > SquareSlack && (step < 90 - SquareSlack || step > 90 + SquareSlack))
                return false;
        }
        return true;
    }

    /// <summary>
    /// A radius with few places may be taken as the fullest one, moved: none of its readings is off that shape by more than the
    /// uncertainty.
    /// </summary>
    private bool HasTheShapeOf(StationReadings few, StationReadings fullest)
    {
        var (u, fit) = ((double)part.Uncertainty.Millimetres + 1e-9, RotorAssessment.FitOf(fullest));
        var off = Array.ConvertAll(few.Spots, s =>
            (double)s.Size.Millimetres - (fit?.At(s.Degrees) ?? (double)fullest.SpotMean.Millimetres)
        );
        var shift = off.Average();
        if (fit is not null)
            return Array.TrueForAll(off, o => Math.Abs(o - shift) <= u);
        // No fit: what the fullest one spans is its shape.
        var (below, above) = (
            (double)(fullest.SpotMean - fullest.Least).Millimetres,
            (double)(fullest.Greatest - fullest.SpotMean).Millimetres
        );
        return Array.TrueForAll(off, o => o - shift <= above + u && shift - o <= below + u);
    }
}
