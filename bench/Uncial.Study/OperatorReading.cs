using System.Globalization;

namespace Uncial.Study;

/// <summary>The operator with gauges: zero checks, readings with whatever goes wrong, grooves and low lands.</summary>
internal sealed partial class Operator
{
    /// <summary>On its standard. One that fails is set right, and checked again.</summary>
    private void CheckZero()
    {
        for (var attempt = 0; attempt < 3; attempt++)
        {
            var check = GaugeCommands.CheckZero(gauge, Typed(job.ReadStandard()), SinceLastGoodCheck(), Actor);
            check.Id = ++numbered;
            if (check.Passed)
                return;
            job.TakeFreshGauge();
        }
    }

    private List<ReadingEntry> SinceLastGoodCheck()
    {
        var good = gauge.ZeroChecks.LastOrDefault(c => c.Passed)?.Id ?? 0;
        return [.. surface.Readings.Where(r => r.GaugeId == gauge.Id && r.Id > good)];
    }

    /// <summary>Reads every place that the page asks for.</summary>
    private void ReadAll(double warm)
    {
        for (var guard = 0; guard < 60 && Now().Measuring.NextPlace is { } place; guard++)
            ReadAt(place, warm);
    }

    private void ReadAt(ReadingPlace place, double warm, double? tell = null)
    {
        var record = Now();
        var size = tell ?? Shown(place, warm);
        var insisted = false;
        if (record.Measuring.QuestionOf(Len(size), place, null) is not null)
        {
            // The page asks: it is read once more, with care, and kept.
            (size, insisted) = (Exactly(place, warm), true);
        }
        MeasureCommands.RecordReading(record, ReadingKind.Size, place, Typed(size), Mm, gauge, Actor, new(Insisted: insisted));
    }

    /// <summary>What is typed for a reading, with whatever goes wrong.</summary>
    private double Shown(ReadingPlace place, double warm)
    {
        if (job.Slip(Slips.WrongPoint))
        {
            var elsewhere = job.Chance.Between(0, 360);
            return Exactly(new((decimal)elsewhere, null), warm);
        }
        var size = Exactly(place, warm);
        if (job.Slip(Slips.AcrossTheRidge))
            size += (rotor ? 1 : -1) * job.Chance.Between(0.05, 1.0);
        if (job.Slip(Slips.WrongUnit))
            size = Math.Round(size / 25.4, 4);
        if (job.Slip(Slips.TransposedDigits))
            size = Transposed(size);
        return size;
    }

    private double Transposed(double size)
    {
        var text = size.ToString(rotor ? "0.000" : "0.00", CultureInfo.InvariantCulture).ToCharArray();
        var digits = Enumerable.Range(0, text.Length - 1).Where(i => char.IsDigit(text[i]) && char.IsDigit(text[i + 1])).ToArray();
        var at = digits[(int)(job.Chance.Share() * digits.Length)];
        (text[at], text[at + 1]) = (text[at + 1], text[at]);
        return double.Parse(text, CultureInfo.InvariantCulture);
    }

    private double Exactly(ReadingPlace place, double warm)
    {
        readings++;
        // A rotor's place is said from its edge inwards, a drum's from the open edge.
        var station = place.Station is not { } at
            ? metal.ReadingStation
            : metal.StationAt(rotor ? metal.StationsMm[^1] - (double)at.Millimetres : (double)at.Millimetres);
        return job.Read((int)Math.Round((double)place.Degrees / 5) % WorkFace.Angles, station, warm);
    }

    /// <summary>Types a figure, measured with its gauge; 0 said with a key is of no gauge.</summary>
    private void Say(ReadingKind kind, double value, bool measured = true) =>
        MeasureCommands.RecordReading(Now(), kind, null, Typed(value), Mm, measured ? shop.GaugeFor(kind) : null, Actor);

    /// <summary>What is there is measured; "none" is said where there is nothing, or nobody looks.</summary>
    private void SayDepth(ReadingKind kind, bool looks)
    {
        var depth = looks ? Depth(kind) : 0;
        Say(kind, depth, depth > 0);
    }

    /// <summary>States groove and relief of each face, as the page asks: a depth, or "none" with one key.</summary>
    private void LookAtDepths()
    {
        for (var face = 0; face < metal.Faces.Count; face++)
        {
            var looks = !variant.SaysNone && !job.Slip(Slips.NoneWithoutLooking);
            SayDepth(GrooveOf(face), looks);
            SayDepth(ReliefOf(face), looks);
        }
    }

    private ReadingKind GrooveOf(int face) =>
        !rotor ? ReadingKind.Groove
        : face == 0 ? ReadingKind.GrooveOuter
        : ReadingKind.GrooveInner;

    private ReadingKind ReliefOf(int face) =>
        !rotor ? ReadingKind.Relief
        : face == 0 ? ReadingKind.ReliefOuter
        : ReadingKind.ReliefInner;

    private double Depth(ReadingKind kind) =>
        kind switch
        {
            ReadingKind.Groove or ReadingKind.GrooveOuter => Groove(0),
            ReadingKind.GrooveInner => Groove(1),
            ReadingKind.ReliefInner => Relief(1),
            _ => Relief(0),
        };

    private double Groove(int face)
    {
        var groove = metal.Faces[face].GrooveLeft();
        if (groove > 0 && job.Slip(Slips.GrooveAtHalfDepth))
            groove /= 2;
        return groove > 0 ? job.Indicate(groove, 0.01) : 0;
    }

    private double Relief(int face)
    {
        var relief = metal.Faces[face].ReliefLeft(metal.ReadingStation);
        return relief > 0 ? job.Indicate(relief, 0.008) : 0;
    }
}
