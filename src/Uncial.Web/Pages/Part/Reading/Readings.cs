using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Data;
using Uncial.Web.Charts;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>Lays the readings of a surface onto its drawing.</summary>
internal static class Readings
{
    /// <summary>The places that are asked for and any others that were read, each with its newest reading.</summary>
    /// <param name="record">The surface.</param>
    /// <param name="reader">Who looks.</param>
    /// <param name="at">The place that is being read now.</param>
    /// <param name="path">Address that a tap on a place leads to, or null.</param>
    public static IReadOnlyList<DrawnPlace> Places(SurfaceRecord record, Reader reader, ReadingPlace? at, string? path)
    {
        var rotor = record.Kind == PartKind.Rotor;
        var worst =
            record.Measuring.Sizes.Count == 0 ? null
            : rotor ? record.Measuring.Sizes.MinBy(r => r.Value)
            : record.Measuring.Sizes.MaxBy(r => r.Value);
        var look = path is null ? null : LookHere(record);
        var all = record
            .Measuring.Places.Concat(
                record.Measuring.Sizes.Select(r => new ReadingPlace(rotor ? r.Degrees ?? 0 : (r.Degrees ?? 0) % 180, r.Station))
            )
            .Concat(look is { } l ? [l] : [])
            .Distinct();
        return
        [
            .. all.Select(place =>
            {
                var reading = record.Measuring.ReadingAt(place);
                var state =
                    at is { } now && (place == now || !rotor && place == new ReadingPlace(now.Degrees % 180, now.Station)) ? "now"
                    : reading is null
                        ? place == look ? "look"
                            : "toread"
                    : reading.Id == worst?.Id ? "worst"
                    : "read";
                return new DrawnPlace(
                    place.Degrees,
                    IndexOf(record, place),
                    reading is null ? null : reader.Reading(reading.Value),
                    state,
                    path is null ? null : path + Query(place),
                    reading is null ? null : (double)reading.Value.Millimetres
                )
                {
                    Name = NameOf(record, place),
                    Station = DepthOf(record, place, reader),
                    Value = FormattableString.Invariant($"{place.Degrees}|{place.Station?.Millimetres}"),
                };
            }),
        ];
    }

    /// <summary>
    /// Where the fit lies beyond every reading: a place that is worth a reading as well, to the nearest half hour; null where there is
    /// none.
    /// </summary>
    public static ReadingPlace? LookHere(SurfaceRecord record)
    {
        if (record.Receiving.Limits is null || record.Measuring.Sizes.Count == 0)
            return null;
        var rotor = record.Kind == PartKind.Rotor;
        var degrees =
            rotor ? record.Measuring.RotorFigures.Notes.FirstOrDefault(n => n is Core.Note.LookHere)?.Degrees
            : record.Measuring.DrumFigures
                is { Roundness: { Proven: true, LargestAxis: { } axis }, Largest: { } largest, Greatest: { } greatest }
            && largest > greatest + record.Measuring.Uncertainty
                ? axis
            : null;
        if (degrees is not { } at)
            return null;
        var circle = rotor ? 360 : 180;
        var near = Math.Round(at / 15) * 15 % circle;
        return record.Measuring.Sizes.Any(s => Math.Abs(((s.Degrees ?? 0) - near + circle * 1.5m) % circle - circle / 2m) < 10)
            ? null
            : new(near, record.Measuring.Sizes[^1].Station);
    }

    /// <summary>A place in words: <c>1½ o’clock</c> or <c>axis 1½</c>.</summary>
    public static string NameOf(SurfaceRecord record, ReadingPlace place) =>
        record.Kind == PartKind.Rotor ? Words.Say("measure.oClock", Words.Clock(place.Degrees))
        : place.Degrees >= 180 ? Words.Say("measure.axisTurnedEndForEnd", Words.Clock(place.Degrees - 180))
        : Words.Say("measure.axis", Words.Clock(place.Degrees));

    /// <summary>The station of a place in words; empty where only one is read.</summary>
    public static string DepthOf(SurfaceRecord record, ReadingPlace place, Reader reader)
    {
        if (place.Station is not { } station)
            return "";
        var name = NameOfStation(record, place);
        return (name.Length == 0 ? "" : char.ToUpperInvariant(name[0]) + name[1..] + ", ") + reader.With(station) + " in";
    }

    /// <summary>Which end of a bore a place lies at, behind its axis; empty where only one depth is read.</summary>
    public static string EndOf(SurfaceRecord record, ReadingPlace place) =>
        record.Kind == PartKind.Drum && NameOfStation(record, place) is { Length: > 0 } name ? ", " + name : "";

    /// <summary>Which part of the band a place lies in; empty where only one station is read.</summary>
    private static string NameOfStation(SurfaceRecord record, ReadingPlace place)
    {
        var (rotor, count, at) = (record.Kind == PartKind.Rotor, record.Measuring.Stations.Count, IndexOf(record, place));
        return count < 2 ? ""
            : at == 0
                ? rotor ? Words.Say("measure.outerBand")
                    : Words.Say("measure.openEdge")
            : at == count - 1
                ? rotor ? Words.Say("measure.innerBand")
                    : "deep"
            : "middle";
    }

    /// <summary>Readings before the first cut, for drawing under those after it.</summary>
    public static IReadOnlyList<DrawnPlace> Before(SurfaceRecord record) =>
        [
            .. record.Measuring.SizesBefore.Select(r => new DrawnPlace(
                r.Degrees ?? 0,
                IndexOf(record, new(r.Degrees ?? 0, r.Station)),
                null,
                "read",
                null,
                (double)r.Value.Millimetres
            )),
        ];

    public static string Query(ReadingPlace place) =>
        FormattableString.Invariant($"?at={place.Degrees}")
        + (place.Station is { } s ? FormattableString.Invariant($"&depth={s.Millimetres}") : "");

    /// <summary>
    /// Passes as slices of the rule. The worst place only moves once a cut has reached it, so no slice goes back past the one before.
    /// </summary>
    public static IReadOnlyList<RuleSlice> Slices(PartKind kind, Length from, IEnumerable<(string Name, Length To, string State)> passes)
    {
        List<RuleSlice> slices = [];
        foreach (var (name, to, state) in passes)
        {
            from = kind == PartKind.Rotor ? Length.Min(from, to) : Length.Max(from, to);
            slices.Add(new(name, from, state));
        }
        return slices;
    }

    private static int IndexOf(SurfaceRecord record, ReadingPlace place) =>
        Math.Max(0, record.Measuring.Stations.ToList().IndexOf(place.Station));

    /// <summary>What still may come off, or what is left or over, as the head of the stock rule.</summary>
    public static StockRuleView Rule(SurfaceRecord record, Reader reader)
    {
        var limits = record.Receiving.Limits!;
        var rotor = record.Kind == PartKind.Rotor;
        if (record.Measuring.Worst is not { } worst)
        {
            var between = Limits.Margin(record.Kind, limits.Nominal ?? limits.MachineTo, limits.Discard);
            return new()
            {
                Limits = limits,
                Head = reader.Margin(between),
                HeadWord = limits.Nominal is null ? Words.Say("measure.fromMachineToToDiscard") : Words.Say("measure.fromNewToDiscard"),
                Unit = reader.Unit,
            };
        }
        var toDiscard = Limits.Margin(record.Kind, worst, limits.Discard);
        var spare = Limits.Margin(record.Kind, worst, limits.MachineTo);
        if (record.Part.Outcome is not null && toDiscard >= Length.Zero)
            return new()
            {
                Limits = limits,
                Now = worst,
                Uncertainty = record.Measuring.Uncertainty,
                Head = reader.Margin(toDiscard),
                HeadWord = Words.Say("measure.leftToDiscard2"),
                Unit = reader.Unit,
                NowWord = Words.Say("measure.leftWith"),
            };
        var (head, word, over) =
            toDiscard < Length.Zero ? (reader.Figure(-toDiscard, Toward.Greater), Words.Say("measure.overDiscard"), true)
            : spare < Length.Zero ? (reader.Margin(toDiscard), Words.Say("measure.leftToWearNoneTo"), false)
            : (reader.Margin(spare), Words.Say("measure.mayStillComeOff"), false);
        return new()
        {
            Limits = limits,
            Now = worst,
            Uncertainty = record.Measuring.Uncertainty,
            Head = head,
            HeadWord = word,
            HeadIsOver = over,
            Unit = reader.Unit,
            NowWord = rotor || worst == record.Measuring.DrumFigures.Greatest ? Words.Say("draw.today") : Words.Say("measure.todayFit"),
        };
    }

    /// <summary>The same with what the cut took off, where it was cut.</summary>
    public static StockRuleView BeforeAndAfter(SurfaceRecord record, Reader reader)
    {
        var view = Rule(record, reader);
        return record.CutsDone > 0 && record.Measuring is { Worst: { } worst, WorstBefore: { } before }
            ? view with
            {
                Now = before,
                NowWord = Words.Say("pair.before"),
                Whisker = worst,
                Slices = [new(Words.Say("pair.taken"), worst, "cut")],
                ForecastWord = Words.Say("pair.after"),
                HeadWord = view.HeadIsOver ? Words.Say("confirm.overDiscard") : Words.Say("confirm.leftToMachineTo2"),
            }
            : view;
    }
}
