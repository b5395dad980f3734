using System.Globalization;
using Uncial.Core;
using Uncial.Core.Cutting;
using Uncial.Core.Gauges;
using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Release;
using Uncial.Data;
using Uncial.Simulation;
using Gauge = Uncial.Data.Gauge;
using Part = Uncial.Data.Part;

namespace Uncial.Study;

/// <summary>What the study changes about the product or its use, to learn what a rule is worth.</summary>
/// <param name="Rules">The shop's rules.</param>
/// <param name="NoSecondTerm">The bound does not look at places where one side is still dark.</param>
/// <param name="DialAllowance">Error of a setting, mm; null: one division, at least 0.01.</param>
/// <param name="FixedPlaces">Where a judgement is not sure, places half-way between are read, not those that tell most.</param>
/// <param name="Radii">A rotor is read at three radii, so that the slope of the head is seen.</param>
/// <param name="NeverIndicates">Run-outs are never measured on the lathe, so they are assumed.</param>
/// <param name="ProbesFirst">The plan whose first pass tells the run-out is taken where there is one.</param>
/// <param name="SaysNone">Grooves and low lands are never measured: "none" is said of each.</param>
internal sealed record Variant(ShopRules? Rules = null, bool NoSecondTerm = false, decimal? DialAllowance = null, bool SaysNone = false, bool NeverIndicates = false, bool ProbesFirst = false, bool Radii = false, bool FixedPlaces = false)
{
    public static Variant AsBuilt { get; } = new();
}

/// <summary>
/// An operator at the product's pages: states limits, reads where the page asks, answers its questions, mounts and checks the set-up, takes the
/// plan, cuts what it says, and confirms. Every step goes through the same code as the pages; all that the operator knows was read with a gauge
/// or seen on the metal.
/// </summary>
internal sealed class Operator
{
    private const LengthUnit Mm = LengthUnit.Millimetre;
    private static readonly Hand Hand = new(1, DateTimeOffset.UnixEpoch);

    /// <summary>Readings that are added where they tell most, at most.</summary>
    private const int MostMore = 8;

    private readonly VirtualJob job;
    private readonly VirtualPart metal;
    private readonly VirtualLathe lathe;
    private readonly Technique technique;
    private readonly Variant variant;
    private readonly Shop shop;
    private readonly Part part;
    private readonly WorkSurface surface;
    private readonly Gauge gauge;
    private readonly HeadLedger? head;
    private readonly bool rotor;
    private readonly bool scratches;
    private int numbered;
    private double needed;
    private double warmth;
    private int passes;
    private double minutes;
    private int readings;
    private int bounds;
    private int failed;
    private double worstFailure;

    private Operator(VirtualJob job, Technique technique, Variant variant, HeadLedger? head, Repeatability pooled)
    {
        (this.job, this.technique, this.variant, this.head, metal) = (job, technique, variant, head, job.Part);
        lathe = new(metal, job.Work, job.Chance);
        (rotor, scratches) = (metal.Kind == PartKind.Rotor, job.Chance.Happens(0.5));
        gauge = GaugeOf(metal.Kind, pooled);
        shop = ShopOf(job, technique, variant, gauge);
        surface = new()
        {
            Kind = metal.Kind,
            Diameter = Len(metal.DiameterMm),
            Band = Len(metal.BandMm),
            Places = rotor ? RotorAssessment.FullRound : 4,
            DepthsMm = rotor ? variant.Radii ? [4, 25, 45] : [] : [.. DrumDepths.Usual(Len(metal.BandMm)).Select(d => d.Millimetres)],
        };
        part = new() { Tag = "STUDY", Surfaces = { surface } };
    }

    /// <summary>Works a part from the first reading to the decision.</summary>
    /// <param name="job">The part and its circumstances; it is used up.</param>
    /// <param name="technique">How it is cut.</param>
    /// <param name="variant">What is changed about the product; null: nothing.</param>
    /// <param name="head">What the records of the head say; null: none yet.</param>
    /// <param name="pooled">What the records of the gauge say of its repeats.</param>
    public static WorkResult Work(VirtualJob job, Technique technique, Variant? variant = null, HeadLedger? head = null, Repeatability pooled = default) =>
        new Operator(job, technique, variant ?? Variant.AsBuilt, head, pooled).Work();

    /// <summary>The same, with what the confirmation puts on record of the head; null where it was no measured cut.</summary>
    public static (WorkResult Result, HeadCut? Cut, Length? Allowance) WorkOnRecord(VirtualJob job, Technique technique, HeadLedger? head)
    {
        var person = new Operator(job, technique, Variant.AsBuilt with { Radii = true }, head, default);
        var result = person.Work();
        HeadCut? cut = person.surface.Confirmations is [.., { DialTook: { } dial, MetalGone: { } gone } last] ? new(dial, gone, 0, last.Slope) : null;
        return (result, cut, person.surface.Plans is [var first, ..] ? first.Read().Request.Dial.Allowance : null);
    }

    /// <summary>
    /// What a page of a part reckons with, measured: its record made anew as after loading, with its plan, what a new plan would start from, and the
    /// judgement.
    /// </summary>
    /// <returns>Passes on record and the median, milliseconds; null where the job came to fewer passes.</returns>
    public static (int Passes, double Milliseconds)? PageOf(VirtualJob job, Technique technique, int fewest)
    {
        var person = new Operator(job, technique, Variant.AsBuilt, null, default);
        if (person.Work().Passes < fewest)
            return null;
        var surface = person.surface;
        List<double> times = [];
        for (var i = 0; i < 50; i++)
        {
            // As loaded: nothing of a plan's document has been read.
            PlanEntry[] loaded =
            [
                .. surface.Plans.Select(p => new PlanEntry { Id = p.Id, Number = p.Number, Version = p.Version, Technique = p.Technique, LatheId = p.LatheId, Document = p.Document }),
            ];
            surface.Plans.Clear();
            surface.Plans.AddRange(loaded);
            foreach (var pass in surface.Passes)
                pass.Plan = null;
            var from = System.Diagnostics.Stopwatch.GetTimestamp();
            var record = new SurfaceRecord(surface, person.part, person.shop);
            _ = (record.Station, record.PlanDoubt, record.RequestForPlan(true), record.Judge(true), record.DialNote);
            times.Add(System.Diagnostics.Stopwatch.GetElapsedTime(from).TotalMilliseconds);
        }
        return (surface.Passes.Count, times.Order().ElementAt(times.Count / 2));
    }

    private WorkResult Work()
    {
        var so = new WorkResult { InsideBefore = metal.Inside(metal.Limits.Discard, grooves: true) };
        StateLimits();
        if (!job.Slip(Slips.ZeroCheckSkipped))
            CheckZero();
        ReadAll(0);
        LookAtDepths();
        if (Now().DiscardVerdict != Verdict.Beyond && !IsBelowFloor())
        {
            Mount();
            for (var i = 0; i < (job.Chucking == Chucking.TurnedRound ? 1 : metal.Faces.Count); i++)
                Touch(i);
            job.LeaveGaugeLying();
            so = Cut(so);
        }
        return Confirm(so) with { Readings = readings };
    }

    private bool IsBelowFloor() => !rotor && Now().DrumFigures.BelowFloor;

    // ---- the pages' facts -------------------------------------------------------------------------------------------------------------

    /// <summary>The surface as a page loads it after everything so far was saved.</summary>
    private SurfaceRecord Now()
    {
        Number(surface.LimitEntries);
        Number(surface.Readings);
        Number(surface.Readings.Where(r => r.Flag is not null).Select(r => r.Flag!));
        Number(surface.Mounts);
        Number(surface.SetUps);
        Number(surface.SetUpDecisions);
        Number(surface.Plans);
        Number(surface.CutStarts);
        Number(surface.Passes);
        Number(surface.Finishes);
        Number(surface.Confirmations);
        var record = new SurfaceRecord(surface, part, shop);
        record.Use(head);
        return record;
    }

    private void Number(IEnumerable<PartFact> facts)
    {
        foreach (var fact in facts)
            if (fact.Number == 0)
                (fact.Number, fact.Id) = (++numbered, numbered);
    }

    private static Length Len(double mm) => Length.FromMillimetres(Math.Round((decimal)mm, 6));

    private static TypedLength Typed(double mm)
    {
        var length = Len(mm);
        return new(length.Millimetres.ToString(CultureInfo.InvariantCulture), Mm, length, "");
    }

    private void StateLimits()
    {
        void State(LimitKind kind, double? mm)
        {
            if (mm is { } size)
                Journey.Limit(surface, kind, Typed(size), Mm, LimitSource.CastMarking, Hand);
        }
        State(LimitKind.Nominal, metal.Limits.Nominal);
        State(LimitKind.MachineTo, metal.Limits.MachineTo);
        State(LimitKind.Discard, metal.Limits.Discard);
    }

    // ---- gauges -----------------------------------------------------------------------------------------------------------------------

    /// <summary>On its standard. One that fails is set right, and checked again.</summary>
    private void CheckZero()
    {
        for (var attempt = 0; attempt < 3; attempt++)
        {
            var check = Journey.CheckZero(gauge, Typed(job.ReadStandard()), SinceLastGoodCheck(), Hand);
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
        for (var guard = 0; guard < 60 && Now().NextPlace is { } place; guard++)
            ReadAt(place, warm);
    }

    private void ReadAt(ReadingPlace place, double warm, double? tell = null)
    {
        var record = Now();
        var size = tell ?? Shown(place, warm);
        var insisted = false;
        if (record.QuestionOf(Len(size), place, null) is not null)
        {
            // The page asks: it is read once more, with care, and kept.
            (size, insisted) = (Exactly(place, warm), true);
        }
        Journey.Read(record, ReadingKind.Size, place, Typed(size), Mm, gauge, Hand, new(Insisted: insisted));
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
        var station = place.Station is not { } at ? metal.ReadingStation
            : metal.StationAt(rotor ? metal.StationsMm[^1] - (double)at.Millimetres : (double)at.Millimetres);
        return job.Read((int)Math.Round((double)place.Degrees / 5) % WorkFace.Angles, station, warm);
    }

    /// <summary>Types a figure, measured with its gauge; 0 said with a key is of no gauge.</summary>
    private void Say(ReadingKind kind, double value, bool measured = true) =>
        Journey.Read(Now(), kind, null, Typed(value), Mm, measured ? shop.GaugeFor(kind) : null, Hand);

    /// <summary>What is there is measured; "none" is said where there is nothing, or nobody looks.</summary>
    private void SayDepth(ReadingKind kind, bool looks)
    {
        var depth = looks ? Depth(kind) : 0;
        Say(kind, depth, depth > 0);
    }

    // ---- grooves and low lands --------------------------------------------------------------------------------------------------------

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

    private ReadingKind GrooveOf(int face) => !rotor ? ReadingKind.Groove : face == 0 ? ReadingKind.GrooveOuter : ReadingKind.GrooveInner;

    private ReadingKind ReliefOf(int face) => !rotor ? ReadingKind.Relief : face == 0 ? ReadingKind.ReliefOuter : ReadingKind.ReliefInner;

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

    // ---- at the lathe -----------------------------------------------------------------------------------------------------------------

    /// <summary>Mounts, scratches or indicates before and after half a turn, and mounts anew where the check says so, three times at most.</summary>
    private void Mount()
    {
        for (var attempt = 0; ; attempt++)
        {
            Journey.Mount(Now(), shop.Lathes[0], new(MountWay.ConeAndCups, "", default, [], []), true, null, Hand);
            var (amplitude, at) = (job.Chance.Rayleigh(rotor ? 0.010 : 0.008), job.Chance.Direction());
            lathe.Mount(amplitude, at);
            var first = Mark();
            lathe.Mount(amplitude, at - Math.PI);
            var manner = rotor && scratches ? SetUpManner.TwoScratches : SetUpManner.Indicator;
            var check = Journey.CheckSetUp(Now(), new(manner, 180, first, Mark()), Hand);
            if (check.Verdict == SetUpVerdict.Remount && attempt < 2)
                continue;
            ReadRunouts();
            if (!variant.NeverIndicates)
                Journey.GoOn(Now(), check.Verdict == SetUpVerdict.True ? null : "as it is", Hand);
            return;
        }
    }

    /// <summary>Run-outs as the part turns now: both faces by three in four, otherwise one by two in five; a drum by four in five.</summary>
    private void ReadRunouts()
    {
        if (!rotor)
        {
            if (job.Chance.Happens(0.8) && !variant.NeverIndicates)
                Say(ReadingKind.Eccentricity, job.Indicate(Eccentricity(), 0.003));
            return;
        }
        var (both, one) = (job.Chance.Happens(0.75) && !variant.NeverIndicates, job.Chance.Happens(0.4) && !variant.NeverIndicates);
        for (var face = 0; face < 2; face++)
            if (both || (one && face == 0))
            {
                var (high, low) = metal.Faces[face].Extremes(metal.ReadingStation);
                Say(face == 0 ? ReadingKind.RunoutOuter : ReadingKind.RunoutInner, job.Indicate(high - low, 0.003));
            }
    }

    /// <summary>Rotors by scratch or indicator, as the operator prefers; drums by the swing of opposite spots, since a scratch shows their oval too.</summary>
    private RunoutMark Mark() => rotor && scratches ? Scratch() : Indicate();

    /// <summary>A scratch of two hundredths, its ends seen to a few degrees.</summary>
    private RunoutMark Scratch()
    {
        var (middle, extent) = lathe.Scratch(0, metal.ReadingStation, 0.02);
        var arc = extent >= 355 ? 360 : Math.Clamp(extent + job.Chance.Normal(5), 5, 355);
        return RunoutMark.Scratch(AngleOf(middle + job.Chance.Normal(4)), (decimal)Math.Round(arc, 1), Len(0.02));
    }

    private RunoutMark Indicate()
    {
        Span<double> spots = stackalloc double[WorkFace.Angles];
        metal.Faces[0].Turning(metal.ReadingStation, spots);
        var (best, at, lowest) = (double.MinValue, 0, double.MaxValue);
        for (var i = 0; i < WorkFace.Angles; i++)
        {
            var here = rotor ? spots[i] : spots[i] - spots[(i + WorkFace.Angles / 2) % WorkFace.Angles];
            if (here > best)
                (best, at) = (here, i);
            lowest = Math.Min(lowest, spots[i]);
        }
        return RunoutMark.Indicated(AngleOf(at * 5 + job.Chance.Normal(6)), Len(job.Indicate(rotor ? best - lowest : best, 0.003)));
    }

    private static ClockAngle AngleOf(double degrees) => ClockAngle.FromDegrees((decimal)Math.Round(degrees, 1));

    /// <summary>Half of the swing of opposite spots of the bore.</summary>
    private double Eccentricity()
    {
        Span<double> spots = stackalloc double[WorkFace.Angles];
        metal.Faces[0].Turning(metal.ReadingStation, spots);
        var most = 0.0;
        for (var i = 0; i < WorkFace.Angles / 2; i++)
            most = Math.Max(most, Math.Abs(spots[i] - spots[i + WorkFace.Angles / 2]));
        return most / 2;
    }

    /// <summary>Touches where it was read.</summary>
    private void Touch(int face)
    {
        lathe.Touch(face, job.Slip(Slips.TouchOnAnotherLand) ? metal.ReadingStation - 2 : metal.ReadingStation);
        needed += lathe.TrueNeed(face);
    }

    private WorkResult Cut(WorkResult so)
    {
        var request = Now().RequestForPlan(job.DialVerified);
        request = request with
        {
            Techniques = variant.ProbesFirst ? [technique, .. Technique.BuiltIn.Where(t => !t.SparksOut && t.Key != technique.Key)] : [technique],
            DefaultTechnique = technique.Key,
            Worst = variant.NoSecondTerm ? null : request.Worst,
        };
        var options = PassPlanner.Plan(request).Options;
        var option = variant.ProbesFirst && options[^1] is { Key: ProbePass.Key } probe ? probe : options[0];
        if (!option.CanStart || option.Passes.Count == 0 || option.Notes.Any(n => n.Code == PassPlanner.ShortAtCheckpoint))
        {
            Journey.LeaveUncut(Now(), request, scuffed: false, Hand);
            return so;
        }
        Journey.TakePlan(Now(), request, option, [], Hand);
        var budget = (rotor ? 1 : -1) * (double)(request.Touch - request.MachineTo).Millimetres / (rotor ? 1 : 2);
        long[] first = [.. request.Sides.Select((_, side) => option.Passes.Sum(p => p.Divisions[side]))];
        var measuredAt = -1;
        for (var guard = 0; guard < 300; guard++)
        {
            var record = Now();
            if (record.Plan is not { } plan || record.PassesOfPlan.Count >= plan.Option.Passes.Count)
                break;
            if (record.PlanDoubt is not null)
            {
                if (!record.CanPlanAnew)
                    break;
                Journey.PlanForFacts(record, Hand);
                continue;
            }
            if (record.StartRefusal is not null)
            {
                // Measured on a bright spot, once for each cut; where that is not enough it is not cut on.
                if (measuredAt == record.CutsDone || BrightSpot() is not { } spot)
                    break;
                measuredAt = record.CutsDone;
                ReadAt(PlaceOf(spot), warmth);
                continue;
            }
            Make(record);
        }
        var taken = Enumerable.Range(0, metal.Faces.Count).Sum(lathe.Depth);
        var clean = metal.Faces.All(f => f.IsClean());
        var beyondFirst = first.Where((most, side) => lathe.Divisions(side) > most).Any();
        return so with
        {
            Started = passes > 0,
            CleanedByFirstPlan = !beyondFirst && clean,
            LeftDarkBy = clean || passes == 0 ? "" : FormattableString.Invariant($"{Math.Floor((budget - needed) * 20) / 20:0.00} left: ") + WhyNoMore(),
            Excess = taken - needed,
            Passes = passes,
            Minutes = minutes,
            Bounds = bounds,
            BoundFailed = (failed, worstFailure),
        };
    }

    /// <summary>What the product said last: a refusal, or the notes on the plan that ended.</summary>
    private string WhyNoMore()
    {
        var record = Now();
        if (record.StartRefusal is { } refusal)
            return refusal.ToString();
        var says = record.Plan is { Why: { Count: > 0 } why } ? string.Join(" ", why.Select(n => n.Code).Distinct()) : "";
        var last = surface.Passes[^1];
        var dark = last.DarkOuter != 0 || last.DarkInner != 0 ? "dark" : "groove";
        return $"{last.Next} {record.Plan?.Option.Key} {says} ({dark})";
    }

    private void Make(SurfaceRecord record)
    {
        var todo = record.Plan!.Option.Passes;
        var pass = todo[record.PassesOfPlan.Count];
        var next = todo.ElementAtOrDefault(record.PassesOfPlan.Count + 1);
        var start = Journey.StartPass(record, 1, Hand);
        if (pass.TurnFirst)
        {
            lathe.TurnRound(job.Chance.Rayleigh(0.008), job.Chance.Direction());
            Touch(1);
        }
        for (var side = 0; side < pass.Divisions.Count; side++)
        {
            if (pass.Kind == PassKind.SparkOut)
                lathe.SparkOut(side);
            else if (pass.Divisions[side] > 0)
                lathe.Cut(side, pass.Divisions[side]);
        }
        (passes, minutes, warmth) = (passes + 1, minutes + (double)start.PlannedMinutes, job.Chance.Between(2, 15));
        CompareWithBound(pass);
        Journey.StopPass(Now(), CutStopKind.Done, null, Hand);
        Journey.RecordPass(Now(), See(measure: next is { MeasureFirst: true } or { TurnFirst: true }), Hand);
    }

    private void CompareWithBound(PlannedPass pass)
    {
        bounds++;
        var past = (rotor ? 1 : -1) * ((double)pass.BoundAfter.Millimetres - metal.WorstSize(grooves: false));
        if (past <= 1e-9)
            return;
        failed++;
        worstFailure = Math.Max(worstFailure, past);
    }

    /// <summary>What is dark, what is left of grooves where all else is bright, and a size where the next pass asks for one.</summary>
    private PassSeen See(bool measure)
    {
        int[] dark = [.. metal.Faces.Select(f => f.DarkSectors())];
        Length? Left(int face) => face < dark.Length && dark[face] == 0 ? Len(Groove(face)) : null;
        double? at = measure ? (BrightSpot() ?? 0) * 5 : null;
        Length? size = at is { } degrees ? Len(Exactly(new((decimal)degrees, null), warmth)) + (gauge.LastCheck is { Passed: true } c ? c.Correction : Length.Zero) : null;
        return new(dark[0], rotor ? dark[1] : 0, Left(0), rotor ? Left(1) : null, size, (decimal?)at);
    }

    private ReadingPlace PlaceOf(int spot) => new(spot * 5m, rotor ? null : Len(metal.StationsMm[metal.ReadingStation]));

    /// <summary>A spot that is bright on every side, or null.</summary>
    private int? BrightSpot()
    {
        var station = metal.ReadingStation;
        bool Bright(int spot) =>
            rotor
                ? metal.Faces.All(f => f.IsBright(spot, station))
                : metal.Faces[0].IsBright(spot, station) && metal.Faces[0].IsBright((spot + WorkFace.Angles / 2) % WorkFace.Angles, station);
        var found = Enumerable.Range(0, WorkFace.Angles).FirstOrDefault(Bright, -1);
        return found < 0 ? null : found;
    }

    // ---- confirm ----------------------------------------------------------------------------------------------------------------------

    /// <summary>Off the lathe, cool and clean: gauge checked, read where the page asks, judged; where that is not enough, read between them too.</summary>
    private WorkResult Confirm(WorkResult so)
    {
        if (!job.Slip(Slips.ZeroCheckSkipped))
            CheckZero();
        if (Now().FinishIsDue)
            Journey.Finish(Now(), [.. Now().FinishSteps.Select(s => s.Kind)], null, Hand);
        ReadAll(0);
        foreach (var kind in Now().NotLookedAt)
        {
            var looks = !variant.SaysNone && !job.Slip(Slips.NoneWithoutLooking);
            SayDepth(kind, looks);
        }
        var (between, thrice, more) = (false, false, 0);
        var judgement = Judge();
        for (var guard = 0; guard < 20 && judgement.Decision == Decision.MeasureAgain; guard++)
        {
            var record = Now();
            if (record.NextPlace is { } missing)
                ReadAt(missing, 0);
            else if (judgement.Notes.Select(record.PlaceOf).FirstOrDefault(p => p is not null) is { } twice)
                ReadAt(twice, 0);
            else if (SurfaceRecord.LookAgain(judgement) is { Count: > 0 } again)
                foreach (var kind in again)
                    Say(kind, variant.SaysNone || job.Slip(Slips.NoneWithoutLooking) ? 0 : Depth(kind));
            else if (!thrice && !variant.SaysNone && record.DepthsToRepeat(judgement) is { Count: > 0 } depths)
            {
                thrice = true;
                foreach (var kind in depths)
                    for (var i = 0; i < RepeatedDepth.Times; i++)
                        Say(kind, Depth(kind));
            }
            else if (!variant.FixedPlaces)
            {
                if (more++ >= MostMore || record.ReadNext(judgement, ShapePrior.Usual(metal.Kind)) is not { Next.IsEnough: false } next)
                    break;
                ReadAt(next.Place, 0);
            }
            else if (!between)
            {
                between = true;
                foreach (var place in Between(record))
                    ReadAt(place, 0);
            }
            else
                break;
            judgement = Judge();
        }
        Journey.Confirm(Now(), readingsAreFit: true, Hand);
        var released = judgement.Decision is Decision.Release or Decision.LeadOnly;
        return job.Close(so, released, judgement.Decision == Decision.Release, (double)Now().Limits!.MachineTo.Millimetres) with
        {
            HeldBackBy = released ? "" : string.Join(" ", judgement.Notes.Select(n => n.Code).Distinct().Order()),
        };
    }

    private Judgement Judge() => Now().Judge(readingsAreFit: true);

    /// <summary>Places half-way between those that were read.</summary>
    private List<ReadingPlace> Between(SurfaceRecord record) =>
        [.. record.Places.Where(p => rotor || p.Station == record.Stations[record.Stations.Count / 2])
            .Select(p => new ReadingPlace((p.Degrees + (rotor ? 20 : 25)) % (rotor ? 360 : 180), p.Station))];

    // ---- the shop ---------------------------------------------------------------------------------------------------------------------

    private static Gauge GaugeOf(PartKind kind, Repeatability pooled)
    {
        var rotor = kind == PartKind.Rotor;
        return new()
        {
            Id = 1,
            Name = "Gauge",
            Kind = rotor ? GaugeKind.Micrometer : GaugeKind.DrumGauge,
            Resolution = Len(rotor ? 0.001 : 0.01),
            CertificateUncertainty = Len(rotor ? 0.003 : 0.01),
            StandardSize = Len(rotor ? VirtualJob.Standards.Rotor : VirtualJob.Standards.Drum),
            StandardUncertainty = Len(0.001),
            ZeroTolerance = Len(rotor ? 0.01 : 0.05),
            Pooled = pooled,
        };
    }

    private static Shop ShopOf(VirtualJob job, Technique technique, Variant variant, Gauge gauge)
    {
        var allowance = variant.DialAllowance is { } z ? Length.FromMillimetres(z) : Len(Math.Max(0.01, job.Division));
        return new()
        {
            Name = "Study",
            Rules = variant.Rules ?? ShopRules.Default,
            DefaultTechnique = technique.Key,
            Gauges = { gauge, new() { Id = 2, Name = "Depth gauge", Kind = GaugeKind.DepthGauge, Resolution = Len(0.005), PermissibleError = Len(0.01) } },
            Lathes =
            {
                new()
                {
                    Id = 1,
                    Profile = new()
                    {
                        Name = "Study",
                        Kind = technique.SparksOut ? LatheKind.Grinder : LatheKind.Bench,
                        Division = Len(job.Division),
                        DialAllowance = allowance,
                        TwinCutter = job.Chucking == Chucking.Twin,
                        BothFacesInOneChucking = job.Chucking == Chucking.OneAfterTheOther,
                        Feeds = [new("1", Len(0.10)), new("2", Len(0.25))],
                        RoughFeed = "2",
                        FinishFeed = "1",
                        Speeds = [60m, 85m, 110m, 150m, 200m],
                        NoseRadius = Len(0.8),
                    },
                },
            },
        };
    }
}
